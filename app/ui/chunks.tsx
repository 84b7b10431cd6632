import { memo, type ReactNode } from 'react';
import { useInView } from 'react-intersection-observer';
import { usePrinting } from './use-printing';

/** Lists up to this long are drawn whole. */
const WHOLE = 120;
const CHUNK = 30;
/** How far ahead of the glass a chunk is drawn. */
const AHEAD = '900px';

/**
 * The rows of a long list, drawn when they come near the glass and kept from then on; in print all of them. Give rows that are
 * memoised: an edit then draws those it changed. `as` is what holds a chunk: table rows by `tbody`, any other by `div`.
 */
export function Chunks<T>({
  items,
  rowPixels,
  columns = 1,
  as,
  shows,
  children,
}: {
  items: readonly T[];
  /** The row in hand: drawn wherever it is. */
  shows?: T;
  /** Of a row that is not drawn yet. */
  rowPixels: number;
  columns?: number;
  as: 'tbody' | 'div';
  children: (item: T, index: number) => ReactNode;
}) {
  const printing = usePrinting();
  const Whole = as;
  if (printing || items.length <= WHOLE) return <Whole role={roleOf(as)}>{items.map(children)}</Whole>;
  const at = shows === undefined ? -1 : items.indexOf(shows);
  const starts = Array.from({ length: Math.ceil(items.length / CHUNK) }, (_, i) => i * CHUNK);
  return starts.map((start) => (
    <Chunk
      key={start}
      as={as}
      columns={columns}
      pixels={rowPixels * Math.min(CHUNK, items.length - start)}
      isNeeded={start === 0 || (at >= start && at < start + CHUNK)}
    >
      {() => items.slice(start, start + CHUNK).map((item, i) => children(item, start + i))}
    </Chunk>
  ));
}

const roleOf = (as: 'tbody' | 'div') => (as === 'tbody' ? 'rowgroup' : 'presentation');

function Chunk({
  as: Holder,
  columns,
  pixels,
  isNeeded,
  children,
}: {
  as: 'tbody' | 'div';
  columns: number;
  pixels: number;
  isNeeded: boolean;
  children: () => ReactNode;
}) {
  const { ref, inView } = useInView({
    triggerOnce: true,
    rootMargin: `${AHEAD} 0px`,
    scrollMargin: `${AHEAD} 0px`,
  });
  return (
    <Holder ref={ref} role={roleOf(Holder)}>
      {inView || isNeeded ? children() : <Blank as={Holder} columns={columns} pixels={pixels} />}
    </Holder>
  );
}

/** Room for rows that are not drawn yet. */
const Blank = memo(function Blank({ as, columns, pixels }: { as: 'tbody' | 'div'; columns: number; pixels: number }) {
  if (as === 'div') return <div aria-hidden style={{ height: pixels }} />;
  return (
    <tr aria-hidden>
      <td colSpan={columns} style={{ height: pixels, border: 0 }} />
    </tr>
  );
});

import { useRef, type CSSProperties, type KeyboardEvent } from 'react';
import { styled } from 'styled-components';
import type { Connector } from '~/core/ecu/ecu';
import { cavityAt, cavityPlace, faceOf } from '~/core/ecu/face';
import { at, color, shape, type } from '../ui/theme';
import { useStable } from '../ui/use-stable';
import type { NeedMoves } from './cavity-slot';
import { Cavity, heights, type FaceCavity, type FaceSize } from './face-cavity';

export type FaceSide = 'wire' | 'mating';

interface Props {
  readonly connector: Connector;
  readonly cavities: readonly FaceCavity[];
  readonly side: FaceSide;
  readonly selected: ReadonlySet<string>;
  /** Cavities of the moving probe, marked apart from the one held. */
  readonly touched?: ReadonlySet<string>;
  /** Pins that could take what is in hand; null when nothing is. */
  readonly able: ReadonlySet<string> | null;
  readonly onPress: (pinId: string) => void;
  /** Needs may be carried between the list and the cavities. */
  readonly moves?: NeedMoves;
  readonly size?: FaceSize;
  /** What the plug is called; absent: the connector's own letter. */
  readonly name?: string;
  /** A cavity without a pin behind it was pressed; absent: nothing can be put there. */
  readonly onPlug?: (cavity: number) => void;
}

/** Moves focus over the grid by arrow keys: one tab stop for a whole face. */
function useGridKeys(connector: Connector, mirrored: boolean) {
  const root = useRef<HTMLDivElement>(null);
  const onKeyDown = (event: KeyboardEvent) => {
    const now = (document.activeElement as HTMLElement | null)?.closest<HTMLElement>('[data-cavity]')?.dataset.cavity;
    if (now === undefined || !event.key.startsWith('Arrow')) return;
    const { row, place } = cavityPlace(connector, Number(now));
    const step = mirrored ? -1 : 1;
    const target = {
      ArrowLeft: { row, place: place - step },
      ArrowRight: { row, place: place + step },
      ArrowUp: { row: row - 1, place },
      ArrowDown: { row: row + 1, place },
    }[event.key];
    if (!target || target.row < 1 || target.row > connector.rows.length) return;
    const bounded = Math.min(Math.max(1, target.place), connector.rows[target.row - 1]);
    const cavity = cavityAt(connector, target.row, bounded);
    const found = root.current?.querySelector<HTMLElement>(`[data-cavity="${cavity}"] button[data-face]`);
    if (!found) return;
    event.preventDefault();
    event.stopPropagation();
    found.focus();
  };
  return { root, onKeyDown };
}

/** A connector drawn to its geometry, from the wire side or mirrored from the mating side. */
export function ConnectorFace({
  connector,
  cavities,
  side,
  selected,
  touched,
  able,
  onPress,
  moves,
  size = 'usual',
  name,
  onPlug,
}: Props) {
  const press = useStable(onPress);
  const mirrored = side === 'mating';
  const small = size === 'small';
  const columns = Math.max(...connector.rows);
  const { root, onKeyDown } = useGridKeys(connector, mirrored);
  const byNumber = new Map(cavities.map((cavity) => [cavity.cavity, cavity]));
  const large = new Set(connector.large?.cavities);
  const rows = connector.rows.map((_, row) =>
    faceOf(connector)
      .filter((place) => place.row === row + 1)
      .sort((one, other) => one.place - other.place),
  );
  return (
    <Housing
      ref={root}
      onKeyDownCapture={onKeyDown}
      role="group"
      aria-label={`${name ?? `Connector ${connector.id}`}, ${side} side`}
      $small={small}
      style={{ '--columns': columns } as CSSProperties}
    >
      {rows.map((row, rowIndex) => (
        <FaceRow
          key={rowIndex}
          style={{
            gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
            direction: mirrored ? 'rtl' : 'ltr',
            paddingInlineStart: connector.staggered && rowIndex % 2 === 1 ? `${50 / columns}%` : undefined,
            paddingInlineEnd: connector.staggered && rowIndex % 2 === 0 ? `${50 / columns}%` : undefined,
          }}
        >
          {row.map(({ cavity: number }) => {
            const cavity = byNumber.get(number);
            if (!cavity)
              return (
                <Plug
                  key={number}
                  as={onPlug ? 'button' : 'div'}
                  type={onPlug ? 'button' : undefined}
                  onClick={onPlug ? () => onPlug(number) : undefined}
                  $size={size}
                  title={`Cavity ${number}: no pin behind it${onPlug ? '. Press to put one there' : ''}`}
                  aria-label={onPlug ? `Put a pin into cavity ${number}` : undefined}
                >
                  <span aria-hidden>{number}</span>
                </Plug>
              );
            return (
              <Cavity
                key={number}
                cavity={cavity}
                isSelected={selected.has(cavity.pinId)}
                isTouched={touched?.has(cavity.pinId)}
                isAble={able?.has(cavity.pinId)}
                isLarge={large.has(number)}
                size={size}
                moves={moves ?? null}
                onPress={press}
              />
            );
          })}
        </FaceRow>
      ))}
      {connector.keys?.map((key, index) => (
        <Rib
          key={index}
          aria-hidden
          $edge={key.edge}
          $at={mirrored && (key.edge === 'top' || key.edge === 'bottom') ? 1 - key.at : key.at}
          $mirrored={mirrored}
        />
      ))}
    </Housing>
  );
}

const Housing = styled.div<{ $small: boolean }>`
  position: relative;
  display: grid;
  gap: ${({ $small }) => ($small ? '4px' : '3px')};
  padding: ${({ $small }) => ($small ? '8px' : '10px')};
  margin-block: 8px 10px;
  background: var(--housing);
  border: ${shape.line} solid ${color.ink};
  border-radius: 3px;
  min-width: 0;
  ${at.narrow} {
    padding: 6px;
  }
  ${at.print} {
    break-inside: avoid;
    /* Letters as large as a cavity of this many to a row leaves room for. */
    --letters: min(11px, calc(150px / var(--columns)));
    padding: 6px;
  }
`;
/** A rib or notch of the housing, where it keeps the plug from going in the wrong way round. */
const Rib = styled.span<{ $edge: 'top' | 'bottom' | 'left' | 'right'; $at: number; $mirrored: boolean }>`
  position: absolute;
  background: var(--housing);
  border: ${shape.line} solid ${color.ink};
  ${({ $edge, $at, $mirrored }) => {
    const edge = $mirrored && $edge === 'left' ? 'right' : $mirrored && $edge === 'right' ? 'left' : $edge;
    const along = `calc(${Math.round($at * 100)}% - 30px)`;
    if (edge === 'top')
      return `left: ${along}; top: -10px; width: 60px; height: 10px; border-bottom: 0; border-radius: 5px 5px 0 0;`;
    if (edge === 'bottom')
      return `left: ${along}; bottom: -10px; width: 60px; height: 10px; border-top: 0; border-radius: 0 0 5px 5px;`;
    const across = `top: calc(${Math.round($at * 100)}% - 14px); width: 8px; height: 28px;`;
    return edge === 'left'
      ? `${across} left: -8px; border-right: 0; border-radius: 5px 0 0 5px;`
      : `${across} right: -8px; border-left: 0; border-radius: 0 5px 5px 0;`;
  }}
`;
const FaceRow = styled.div`
  display: grid;
  gap: 3px;
`;
const Plug = styled.div<{ $size: FaceSize; type?: 'button' }>`
  display: grid;
  place-items: center;
  height: ${({ $size }) => heights[$size]};
  min-width: 0;
  border: 1.2px solid ${color.rule};
  border-radius: 8px;
  color: ${color.soft};
  font-size: ${type.small};
  opacity: 0.7;
  background: none;
  &:is(button) {
    cursor: pointer;
    width: 100%;
    border-style: dashed;
  }
  &:is(button):hover {
    color: ${color.ink};
    border-color: ${color.pencil};
    opacity: 1;
  }
`;

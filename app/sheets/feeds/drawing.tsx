import {
  memo,
  useCallback,
  useContext,
  useDeferredValue,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import { styled } from 'styled-components';
import type { Build } from '~/core/build/schema';
import type { CarReading } from '~/core/circuit/car';
import { drawFeeds, type DrawnNode } from '~/core/drawing/feeds';
import { endOf, partId, type EndKey } from '~/core/ends/ends';
import type { Netlist } from '~/core/netlist/netlist';
import type { Selection } from '~/core/netlist/run';
import { formatAmps, formatVolts, plural } from '~/core/units/format';
import { hangCalls } from '~/core/ways/hang';
import { useBuild, useLater } from '../../build/context';
import { SlotsContext } from '../../parts/shell/slots';
import { SheetFrame } from '../../parts/sheet-frame';
import { Button } from '../../ui/button';
import { Row, Small, Soft, Stack } from '../../ui/text';
import { at, color, space } from '../../ui/theme';
import { AddToFeeds } from './add-part';
import { useCarState } from './car-state';
import { Diagram, Scroll } from './diagram';
import { hungWords } from './hang';
import { PartDetail } from './part-detail';
import { StatePanel, carStateWords } from './state-panel';

/** What of the drawing is meant by what is selected, anywhere. */
function nodeOfSelection(nodes: readonly DrawnNode[], selection: Selection | null): DrawnNode | null {
  if (!selection) return null;
  if (selection.type === 'device')
    return nodes.find(({ members }) => members.some((end) => isOf(end, selection.deviceId))) ?? null;
  if (selection.type !== 'end') return null;
  const ref = endOf(selection.end);
  const id = ref.of === 'part' ? partId(ref.kind, ref.part) : null;
  return (
    nodes.find((node) => node.id === id || node.end === selection.end || node.members.includes(selection.end)) ?? null
  );
}
const isOf = (end: EndKey, deviceId: string): boolean => {
  const ref = endOf(end);
  return ref.of === 'device' && ref.device === deviceId;
};

/** The pin that pulls each relay in. */
function pinsOfRelays(net: Netlist, assignments: Readonly<Record<string, string>>): Map<string, string> {
  return new Map(
    net.needs.flatMap(({ id, winding }) => {
      const pin = assignments[id];
      return winding !== null && pin !== undefined ? [[winding, pin] as const] : [];
    }),
  );
}

/** More than so many different volts are not asked each how far they may be off. */
const MOST_ASKED = 60;
interface Shown {
  readonly nodes: readonly DrawnNode[];
  readonly reading: CarReading;
}
/** How far the volts that stand in the drawing may be off, worked out once they are drawn. */
const Within = memo(function Within({ nodes, reading }: Shown) {
  const [shown, later] = [useDeferredValue(nodes), useDeferredValue(reading)];
  return useMemo(() => {
    const asked = shown.filter(({ kind }) => kind === 'source' || kind === 'load').slice(0, MOST_ASKED);
    const strays = asked.flatMap(({ end }) => later.reading(end)?.strays ?? []);
    return strays.length === 0 ? '' : `, each right within ${formatVolts(Math.max(...strays))}`;
  }, [shown, later]);
});

/** Tells the run which state its volts are read in, once it is of the same build: it follows an edit a moment later. */
function RunReadIn({ of, reading, words }: { of: Build; reading: CarReading; words: string }) {
  const { readIn } = useContext(SlotsContext);
  const isThere = useLater().build === of;
  const { solution } = reading;
  useLayoutEffect(() => {
    if (isThere) readIn.set({ solution, words });
  }, [readIn, isThere, solution, words]);
  useEffect(() => () => readIn.set(null), [readIn]);
  return null;
}

/** Needs nothing of the build. */
const Additions = memo(AddToFeeds);

/** The feeds as a drawing, read from the source to the load and back. */
export function Drawing() {
  const { build, derived, selection, select, edit } = useBuild();
  const { net } = derived;
  const car = useCarState();
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const drawing = useMemo(() => drawFeeds(net, open, folded), [net, open, folded]);
  const fuses = useMemo(() => new Map(net.circuits.map(({ id, fuseAmps }) => [id, fuseAmps])), [net]);
  const pins = useMemo(() => pinsOfRelays(net, build.assignments), [net, build.assignments]);
  const poor = useMemo(
    () =>
      new Set(net.power.sizes.drops.flatMap(({ draw, volts, limitVolts }) => (volts > limitVolts ? [draw.end] : []))),
    [net],
  );
  const chosen = nodeOfSelection(drawing.nodes, selection);
  const onSelect = useCallback(
    (node: DrawnNode) => select({ type: 'end', end: node.members[0] ?? node.end }),
    [select],
  );
  const onHang = useCallback((ends: readonly EndKey[], on: DrawnNode) => edit(...hangCalls(ends, on.end)), [edit]);
  // Asked while a load is held: by then it is the newest build, and no edit draws the things again for it.
  const newest = useRef(build);
  useEffect(() => {
    newest.current = build;
  });
  const whatIf = useCallback(
    (ends: readonly EndKey[], on: DrawnNode) => hungWords(newest.current, ends, on.end),
    [newest],
  );
  const groups = drawing.nodes.filter(({ kind, members, isLane }) => kind === 'load' && !isLane && members.length > 1);
  const { state, reading } = car;
  return (
    <SheetFrame
      summary={
        <>
          {formatAmps(reading.total)} {carStateWords[state]}, battery{' '}
          {reading.battery === null ? 'off' : formatVolts(reading.battery)}.
          <br />
          <Soft>
            {plural(net.circuits.length, 'feed')},{' '}
            {plural(net.power.flows.draws.filter(({ load }) => load).length, 'load')}.
          </Soft>
        </>
      }
      actions={<Additions />}
    >
      <Two>
        <Board>
          {net.power.flows.draws.length === 0 && (
            <p>
              Nothing to feed yet. <Soft>Devices on sheet 1 bring their feeds with them.</Soft>
            </p>
          )}
          <Scroll>
            <Diagram
              drawing={drawing}
              reading={reading}
              units={build.units}
              fuses={fuses}
              pins={pins}
              poor={poor}
              selected={chosen?.id ?? null}
              onSelect={onSelect}
              onHang={onHang}
              whatIf={whatIf}
            />
          </Scroll>
          <Alike>
            {groups.map(({ id, name }) => (
              <Button key={id} weight="quiet" onPress={() => setOpen(new Set([...open, id]))}>
                Draw {name} one by one
              </Button>
            ))}
            {open.size > 0 && (
              <Button weight="quiet" onPress={() => setOpen(new Set())}>
                Draw what is alike as one
              </Button>
            )}
          </Alike>
          <Small>
            Volts against battery negative, as a meter shows them
            <Within nodes={drawing.nodes} reading={reading} />. Drag a load onto a fuse, a relay or a joint to hang it
            there. Disconnect the battery before you touch any of it.
          </Small>
          <RunReadIn of={derived.build} reading={reading} words={reading.tested ? 'driven' : carStateWords[state]} />
        </Board>
        <Aside aria-label="State and part">
          <State>
            <StatePanel car={car} />
          </State>
          {chosen && (
            <PartDetail
              key={chosen.id}
              node={chosen}
              reading={reading}
              isFolded={folded.has(chosen.id)}
              onFold={(isFolded) => {
                const rest = [...folded].filter((id) => id !== chosen.id);
                setFolded(new Set(isFolded ? [...rest, chosen.id] : rest));
              }}
            />
          )}
        </Aside>
      </Two>
    </SheetFrame>
  );
}

const Two = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 204px;
  gap: ${space[3]};
  align-items: start;
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr);
  }
  ${at.print} {
    display: block;
  }
`;
const Board = styled(Stack)`
  min-width: 0;
`;
const Alike = styled(Row).attrs({ $gap: 3 })`
  ${at.print} {
    display: none;
  }
`;
const Aside = styled.aside`
  position: sticky;
  top: 0;
  display: grid;
  gap: ${space[4]};
  min-width: 0;
  /* The state above the drawing, and what is selected below it: a press moves nothing away from the hand. */
  ${at.tablet} {
    display: contents;
  }
`;
const State = styled.div`
  min-width: 0;
  ${at.tablet} {
    order: -1;
    border-bottom: 1px solid ${color.rule};
    padding-bottom: ${space[3]};
  }
`;

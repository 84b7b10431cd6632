import type { Build } from '../build/schema';
import { withId } from '../data/with-id';
import { endOf, type EndKey } from '../ends/ends';
import { labelOf } from '../netlist/label';
import type { Netlist, Wire } from '../netlist/netlist';
import { readSize } from '../wire/size';
import { placeName } from './names';
import { reusedWires, type Reused } from './reuse';
import { loomOfWire, subLooms } from './sub-looms';

export interface CutLine {
  readonly wireId: string;
  readonly from: string;
  readonly to: string;
  readonly squareMm: number;
  readonly colour: string;
  readonly lengthMetres: number;
  readonly cable: string | null;
  /** The loom it is of, where plugs part it into several. */
  readonly loom: string | null;
  /** The places it passes, in words; '' where the tree does not have it. */
  readonly way: string;
  /** What is crimped on at either end. */
  readonly ends: readonly [string, string];
  /** The wire of the donor loom that is used for it; null where it is new. */
  readonly reused: Reused | null;
}

const rank: Record<Wire['signal'], number> = {
  ground: 0,
  supply: 1,
  output: 2,
  injector: 3,
  ignition: 4,
  trigger: 5,
  analog: 6,
  bus: 7,
};

/** The order people work in: powers and grounds first, engine-side groups first, or shortest branch first. */
function compare(order: Build['loom']['orderOfWork']): (a: Wire, b: Wire) => number {
  const tie = (a: Wire, b: Wire) => (a.id < b.id ? -1 : 1);
  switch (order) {
    case 'powers-first':
      return (a, b) => rank[a.signal] - rank[b.signal] || b.squareMm - a.squareMm || tie(a, b);
    case 'engine-side-first':
      return (a, b) =>
        (rank[b.signal] >= 3 ? 1 : 0) - (rank[a.signal] >= 3 ? 1 : 0) ||
        (a.deviceId ?? '~').localeCompare(b.deviceId ?? '~') ||
        tie(a, b);
    case 'shortest-first':
      return (a, b) => a.lengthMetres - b.lengthMetres || tie(a, b);
  }
}

/** `ECU > cabin branch > Wall plug`: the places a wire passes. */
function wayWords(build: Build, { route }: Wire): string {
  const { segments } = build.tree;
  const [first, second] = route.map((id) => segments[id]!);
  if (!first) return '';
  let at = second && (first.a === second.a || first.a === second.b) ? first.b : first.a;
  const places = [at];
  for (const id of route) {
    const { a, b } = segments[id]!;
    at = a === at ? b : a;
    places.push(at);
  }
  return places.map((node) => placeName(build, node)).join(' > ');
}

/** What a wire's end is crimped to. */
function endWords(build: Build, net: Netlist, { squareMm }: Wire, end: EndKey): string {
  const ref = endOf(end);
  const size = readSize(squareMm, build);
  const sealed = (is: boolean) => (is ? ', seal' : '');
  if (ref.of === 'ecu') {
    const pin = withId(build.ecu.pins, ref.pin);
    const connector = withId(build.ecu.connectors, pin?.connector);
    return `terminal ${connector?.id ?? ''} ${size}${sealed(connector?.sealed ?? false)}`;
  }
  if (ref.of === 'device') {
    const kind = net.deviceOf.get(ref.device)?.kind;
    return `terminal ${kind?.name ?? ''} ${size}${sealed(kind?.face?.sealed ?? false)}`;
  }
  switch (ref.kind) {
    case 'plug':
      return `terminal ${placeName(build, ref.part)} ${size}${sealed(build.tree.nodes[ref.part]?.plug?.sealed ?? false)}`;
    case 'splice':
      return 'splice';
    case 'ground':
    case 'battery':
    case 'busbar':
    case 'switch':
      return `ring ${size}`;
    case 'fuse':
    case 'relay':
      return `holder terminal ${size}`;
    default:
      return size;
  }
}

/** Every wire to cut, in the build's order of work. */
export function cutList(build: Build, net: Netlist): CutLine[] {
  const looms = subLooms(build);
  const reused = reusedWires(build, net);
  return [...net.wires].sort(compare(build.loom.orderOfWork)).map((wire) => ({
    wireId: wire.id,
    from: labelOf(net, wire.from),
    to: labelOf(net, wire.to),
    squareMm: wire.squareMm,
    colour: wire.colour,
    lengthMetres: wire.lengthMetres,
    cable: wire.cable,
    way: wayWords(build, wire),
    ends: [endWords(build, net, wire, wire.from), endWords(build, net, wire, wire.to)],
    reused: reused.get(wire.id) ?? null,
    loom: looms.length > 1 ? (loomOfWire(looms, wire, net)?.name ?? null) : null,
  }));
}

export interface CutTotal {
  readonly squareMm: number;
  readonly colour: string;
  readonly count: number;
  readonly metres: number;
}

/** Metres to buy, by size and colour, thickest first. */
export function cutTotals(lines: readonly CutLine[]): CutTotal[] {
  const totals = new Map<string, CutTotal>();
  for (const line of lines) {
    const key = `${line.squareMm} ${line.colour}`;
    const before = totals.get(key) ?? { squareMm: line.squareMm, colour: line.colour, count: 0, metres: 0 };
    totals.set(key, {
      ...before,
      count: before.count + 1,
      metres: Math.round((before.metres + line.lengthMetres) * 100) / 100,
    });
  }
  return [...totals.values()].sort((a, b) => b.squareMm - a.squareMm || (a.colour < b.colour ? -1 : 1));
}

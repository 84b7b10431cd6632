import type { Build } from '../build/schema';
import { labelOf } from '../netlist/label';
import type { Netlist, Wire } from '../netlist/netlist';

export interface CutLine {
  readonly wireId: string;
  readonly from: string;
  readonly to: string;
  readonly squareMm: number;
  readonly colour: string;
  readonly lengthMetres: number;
  readonly cable: string | null;
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

/** Every wire to cut, in the build's order of work. */
export function cutList(build: Build, net: Netlist): CutLine[] {
  return [...net.wires].sort(compare(build.loom.orderOfWork)).map((wire) => ({
    wireId: wire.id,
    from: labelOf(net, wire.from),
    to: labelOf(net, wire.to),
    squareMm: wire.squareMm,
    colour: wire.colour,
    lengthMetres: wire.lengthMetres,
    cable: wire.cable,
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

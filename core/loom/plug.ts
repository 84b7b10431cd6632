import type { Build } from '../build/schema';
import type { Netlist } from '../netlist/netlist';
import { wholeWires } from '../netlist/whole';
import type { SignalClass } from '../wire/colours';
import type { Plug } from '../tree/tree';

/** Counts of cavities that plugs are made with (common practice). */
const usualCounts = [2, 3, 4, 6, 8, 10, 12, 16, 20, 24, 28, 34, 38, 47, 55, 66, 85, 104, 128, 160, 200] as const;
/** Cavities left free in a plug that is chosen: what comes later wants a way through (common practice). */
const SPARE_CAVITIES = 2;
/** Rows of a plug, by its cavities (common practice). */
const ROWS: readonly (readonly [upTo: number, rows: number])[] = [
  [6, 1],
  [16, 2],
  [47, 3],
  [200, 5],
];

/** A wire that passes a plug: the wire as it would be whole, and what decides where it goes. */
export interface Passing {
  readonly id: string;
  readonly signal: SignalClass;
  readonly squareMm: number;
  readonly amps: number;
  /** Twisted or shielded with others. */
  readonly cable: string | null;
}

/** Wires that pass a place, parted there or not, each once: two pieces of their route meet in it. */
export function passingWires({ tree }: Build, net: Netlist, node: string): Passing[] {
  const meets = new Set(
    Object.entries(tree.segments).flatMap(([id, { a, b }]) => (a === node || b === node ? [id] : [])),
  );
  return [...wholeWires(net).values()].flatMap(({ id, pieces: [wire], route }) =>
    route.filter((segment) => meets.has(segment)).length > 1
      ? [{ id, signal: wire!.signal, squareMm: wire!.squareMm, amps: wire!.amps, cable: wire!.cable }]
      : [],
  );
}

/** The least plug that takes so many wires with two to spare. */
export function plugFor(wires: readonly Passing[], shell: Plug['shell']): Plug {
  const cavities =
    usualCounts.find((count) => count >= wires.length + SPARE_CAVITIES) ?? usualCounts[usualCounts.length - 1]!;
  const rows = ROWS.find(([upTo]) => cavities <= upTo)![1];
  return {
    shell,
    cavities,
    columns: Math.ceil(cavities / rows),
    squareMm: Math.max(USUAL_TERMINAL_SQUARE_MM, ...wires.map(({ squareMm }) => squareMm)),
    sealed: shell === 'bulkhead',
    shellMillimetres: null,
    bareMillimetres: null,
    wires: {},
  };
}
const USUAL_TERMINAL_SQUARE_MM = 2.5;

/** Powers stand at one end of a plug, signals at the other. */
const strong: ReadonlySet<SignalClass> = new Set(['supply', 'ground', 'output', 'injector', 'ignition']);
const isPower = ({ signal, amps }: Passing): boolean => strong.has(signal) && amps >= POWER_AMPS;
/** From so many amperes on a wire is kept apart from signals (common practice). */
const POWER_AMPS = 0.5;

/**
 * Gives each wire that has none a cavity: those of one cable beside each other in one row, what carries power from the first
 * cavity up with the strongest first, signals from the last down, so that what is left free lies between them. What has a cavity
 * keeps it. Wires that find none are left out.
 */
export function allotCavities(plug: Plug, wires: readonly Passing[]): Plug['wires'] {
  const allotted: Record<string, number> = {};
  const taken = new Set<number>();
  const passing = new Set(wires.map(({ id }) => id));
  for (const [id, cavity] of Object.entries(plug.wires))
    if (passing.has(id) && cavity <= plug.cavities && !taken.has(cavity)) {
      allotted[id] = cavity;
      taken.add(cavity);
    }
  const groups = new Map<string, Passing[]>();
  for (const wire of wires) {
    if (allotted[wire.id] !== undefined) continue;
    const key = wire.cable ?? wire.id;
    const group = groups.get(key);
    if (group) group.push(wire);
    else groups.set(key, [wire]);
  }
  const amps = (group: readonly Passing[]) => Math.max(...group.map((wire) => wire.amps));
  const all = [...groups.values()];
  const powers = all.filter((group) => group.some(isPower)).sort((one, other) => amps(other) - amps(one));
  const signals = all.filter((group) => !group.some(isPower)).sort((one, other) => other.length - one.length);
  const rowOf = (cavity: number) => Math.floor((cavity - 1) / plug.columns);
  const rising = Array.from({ length: plug.cavities }, (_, at) => at + 1);
  const place = (group: readonly Passing[], order: readonly number[]): void => {
    // Together in one row if there is such a place; else wherever each finds one.
    const start = order.find((first) => {
      const span = group.map((_, i) => first + i);
      return span.every((cavity) => cavity <= plug.cavities && !taken.has(cavity) && rowOf(cavity) === rowOf(first));
    });
    group.forEach((wire, i) => {
      const cavity = start === undefined ? order.find((one) => !taken.has(one)) : start + i;
      if (cavity === undefined) return;
      allotted[wire.id] = cavity;
      taken.add(cavity);
    });
  };
  for (const group of powers) place(group, rising);
  const falling = [...rising].reverse();
  for (const group of signals) place(group, falling);
  return allotted;
}

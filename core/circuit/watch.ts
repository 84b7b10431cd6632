import { CLOSE, FILAMENT_POWER, FIVE_LEAST, WARM_SHARE, isSameDrive, type Drive, type Stuck } from './drive';
import { parts } from './figures';
import type { CircuitIR } from './ir';
import { isThere, type Scenario } from './scenario';

/*
 * What stands how as long as the volts between two nodes stay within bounds: so that thousands of small changes of one solution are
 * looked at by comparing numbers. A bound may be narrower than need be, never wider: what passes one is solved anew.
 */
export interface Watches {
  /** Both nodes of each, one after the other. */
  readonly ends: Int32Array;
  /** Volts from which on, and up to which, all stands as it did. */
  readonly least: Float64Array;
  readonly under: Float64Array;
  /** Volts between them now, and how far the nearest bound is from them. */
  readonly now: Watched;
  readonly margin: number;
  /** Where fuses begin, and drivers, after the relays. */
  readonly fuses: number;
  readonly drivers: number;
}

type Bounds = readonly [i: number, j: number, least: number, under: number];

/** On from so many volts on, either way round; as it is now. */
function eitherWay(i: number, j: number, from: number, on: boolean, now: number): Bounds {
  if (!on) return [i, j, -from, from];
  return now < 0 ? [j, i, from, Infinity] : [i, j, from, Infinity];
}
const oneWay = (i: number, j: number, from: number, on: boolean): Bounds =>
  on ? [i, j, from, Infinity] : [i, j, -Infinity, from];
const ANY: Bounds = [-1, -1, -Infinity, Infinity];
/** What no bound can tell: it is solved anew. */
const NEVER: Bounds = [-1, -1, Infinity, -Infinity];

/** What must hold for one round to lead from one drive to the next. */
export function watchesOf(
  ir: CircuitIR,
  scenario: Scenario,
  before: Drive,
  after: Drive,
  voltages: Float64Array,
): Watches {
  const at = (node: number) => (node < 0 ? 0 : voltages[node]!);
  const { ground, five, feeds, minVolts } = ir.ecu;
  const drives = scenario.plugged && before.powered;
  const bounds: Bounds[] = ir.relays.map(({ i, j }, one) => {
    const from = (before.relays[one] === 1 ? parts.dropOut : parts.pullIn).value;
    return eitherWay(i, j, from, after.relays[one] === 1, at(i) - at(j));
  });
  const fuses = bounds.length;
  // Fuses open in rounds in which nothing else moves, the one most above its rating first.
  const rests = isSameDrive({ ...after, fuses: before.fuses }, before);
  const opens = after.fuses.some((open, one) => open !== before.fuses[one]);
  ir.fuses.forEach(({ i, j, opensVolts }, one) => {
    if (before.fuses[one] === 1 || !rests) bounds.push(ANY);
    else if (opens && after.fuses[one] === 0 && Math.abs(at(i) - at(j)) >= opensVolts) bounds.push(NEVER);
    else bounds.push(eitherWay(i, j, opensVolts, after.fuses[one] === 1, at(i) - at(j)));
  });
  const drivers = bounds.length;
  for (const { pin, node, holdsVolts } of ir.drivers)
    bounds.push(
      drives && scenario.driven.has(ir.pins[pin]!.id)
        ? oneWay(node, ground, holdsVolts + CLOSE, after.limits[pin] === 1)
        : ANY,
    );
  ir.diodes.forEach((diode, one) => {
    const { i, j, volts } = diode;
    if (isThere(diode, scenario)) bounds.push(oneWay(i, j, volts - CLOSE, after.diodes[one] === 1));
  });
  if (drives) bounds.push(oneWay(ground, five, -FIVE_LEAST, after.fiveLimits));
  if (scenario.plugged) {
    // One feed that holds it up is enough to watch; without any all are.
    const holding = feeds.filter((feed) => after.powered && at(feed) - at(ground) >= minVolts).slice(0, 1);
    for (const feed of after.powered ? holding : feeds) bounds.push(oneWay(feed, ground, minVolts, after.powered));
  }
  ir.filaments.forEach(({ i, j, coldOhms, litOhms, litVolts }, one) => {
    if (litOhms === null) return;
    const voltsAt = (ohms: number) => litVolts * (ohms / litOhms) ** (1 / FILAMENT_POWER);
    const most = voltsAt(after.filaments[one]! * (1 + WARM_SHARE / 2));
    const cold = after.filaments[one]! <= coldOhms;
    const least = cold ? -most : voltsAt(after.filaments[one]! * (1 - WARM_SHARE / 2));
    bounds.push(at(i) >= at(j) ? [i, j, least, most] : [j, i, least, most]);
  });
  ir.batteries.forEach(({ i, j }, one) => {
    const cell = scenario.batteries[one];
    if (scenario.source && cell) bounds.push(oneWay(i, j, cell.volts + CLOSE, after.charging[one] === 1));
  });
  ir.coils.forEach(({ i, j }, one) => {
    if (after.coils[one] === 0) return;
    const volts = Math.abs(at(i) - at(j));
    const ends = at(i) >= at(j) ? ([i, j] as const) : ([j, i] as const);
    bounds.push([...ends, volts * (1 - WARM_SHARE / 2), volts * (1 + WARM_SHARE / 2)]);
  });
  const ends = Int32Array.from(bounds.flatMap(([i, j]) => [i, j]));
  const now = watched({ ends }, voltages);
  return {
    ends,
    now,
    margin: bounds.reduce(
      (nearest, [, , least, under], one) => Math.min(nearest, now.volts[one]! - least, under - now.volts[one]!),
      Infinity,
    ),
    least: Float64Array.from(bounds, ([, , least]) => least),
    under: Float64Array.from(bounds, ([, , , under]) => under),
    fuses,
    drivers,
  };
}

/** Volts between the nodes of each watch, and the most of them, either way. */
export interface Watched {
  readonly volts: Float64Array;
  readonly most: number;
}
export function watched({ ends }: Pick<Watches, 'ends'>, volts: Float64Array): Watched {
  const found = new Float64Array(ends.length / 2);
  for (let one = 0; one < found.length; one += 1) {
    const i = ends[2 * one]!;
    const j = ends[2 * one + 1]!;
    found[one] = (i < 0 ? 0 : volts[i]!) - (j < 0 ? 0 : volts[j]!);
  }
  return { volts: found, most: found.reduce((most, one) => Math.max(most, Math.abs(one)), 0) };
}

/** The watch of what a fault keeps from switching; -1 for none. */
export function stuckWatch(ir: CircuitIR, watches: Watches, { relay, fuse, pin }: Stuck): number {
  if (relay >= 0) return relay;
  if (fuse >= 0) return watches.fuses + fuse;
  const driver = pin < 0 ? -1 : ir.drivers.findIndex((one) => one.pin === pin);
  return driver < 0 ? -1 : watches.drivers + driver;
}

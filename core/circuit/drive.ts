import { inside, parts } from './figures';
import { atVolts } from '../devices/volts-table';
import { dwellOhms } from '../power/coil';
import type { CircuitIR, CoilIR, FilamentIR } from './ir';
import { isThere, type Scenario } from './scenario';

/** What is in one of two states, and filaments, as the last solution found them; by their numbers in the circuit. */
export interface Drive {
  /** Relays that have pulled in. */
  readonly relays: Uint8Array;
  /** Fuses that have opened: one that has stays so. */
  readonly fuses: Uint8Array;
  /** Diodes that conduct. */
  readonly diodes: Uint8Array;
  /** Pins that hold their current at their limit, and whether the 5 V supply does. */
  readonly limits: Uint8Array;
  readonly fiveLimits: boolean;
  /** Batteries that are charged. */
  readonly charging: Uint8Array;
  /** What each primary is over a dwell, ohms; 0 where none is tested. */
  readonly coils: Float64Array;
  /** Ohms of each filament as warm as it is; 0 before it was ever lit. */
  readonly filaments: Float64Array;
  readonly powered: boolean;
}

export const restingDrive = (ir: CircuitIR): Drive => ({
  relays: new Uint8Array(ir.relays.length),
  fuses: new Uint8Array(ir.fuses.length),
  diodes: new Uint8Array(ir.diodes.length),
  limits: new Uint8Array(ir.pins.length),
  fiveLimits: false,
  charging: new Uint8Array(ir.batteries.length),
  coils: new Float64Array(ir.coils.length),
  filaments: new Float64Array(ir.filaments.length),
  powered: false,
});

/** What a fault keeps from switching: a relay whose winding is open, a fuse that is gone, a pin that is not driven; -1 for none. */
export interface Stuck {
  readonly relay: number;
  readonly fuse: number;
  readonly pin: number;
}
export const nothingStuck: Stuck = { relay: -1, fuse: -1, pin: -1 };

/** A volt less than this beside a threshold is no other side of it. */
export const CLOSE = 1e-6;
/** A filament is lit at what it is told to draw; its ohms rise with its volts by this power (common practice: 0.4 to 0.5). */
export const FILAMENT_POWER = 0.45;
/** Two rounds that find a filament as warm as this share found it about as warm. */
export const WARM_SHARE = 1e-4;

type At = (node: number) => number;

function warmed({ coldOhms, litOhms, litVolts, i, j }: FilamentIR, at: At): number {
  if (litOhms === null) return coldOhms;
  return Math.max(coldOhms, litOhms * (Math.abs(at(i) - at(j)) / litVolts) ** FILAMENT_POWER);
}

/** Volts at and under which the 5 V supply holds its current. */
export const FIVE_LEAST = inside.supplyOpen.value - inside.supplyLimit.value * inside.supplySource.value - CLOSE;

/**
 * What stands how with these volts.
 *
 * @param at Volts of a node by its number; of -1 nothing.
 */
export function driveAt(ir: CircuitIR, scenario: Scenario, before: Drive, stuck: Stuck, at: At): Drive {
  const { ground, five, feeds, minVolts } = ir.ecu;
  const { plugged, driven } = scenario;
  const drives = plugged && before.powered;
  const relays = Uint8Array.from(ir.relays, ({ i, j }, one) => {
    // An open winding has the volts but draws no current: it pulls nothing in.
    if (one === stuck.relay) return 0;
    return Math.abs(at(i) - at(j)) >= (before.relays[one] === 1 ? parts.dropOut : parts.pullIn).value ? 1 : 0;
  });
  const diodes = Uint8Array.from(ir.diodes, (one) =>
    isThere(one, scenario) && at(one.i) - at(one.j) >= one.volts - CLOSE ? 1 : 0,
  );
  const limits = new Uint8Array(ir.pins.length);
  for (const { pin, node, holdsVolts } of ir.drivers)
    if (drives && pin !== stuck.pin && driven.has(ir.pins[pin]!.id) && at(node) - at(ground) >= holdsVolts + CLOSE)
      limits[pin] = 1;
  const now: Drive = {
    relays,
    fuses: before.fuses,
    diodes,
    limits,
    fiveLimits: drives && at(five) - at(ground) <= FIVE_LEAST,
    filaments: Float64Array.from(ir.filaments, (one) => warmed(one, at)),
    charging: Uint8Array.from(ir.batteries, ({ i, j }, one) => {
      const cell = scenario.batteries[one];
      return cell && at(i) - at(j) > cell.volts + CLOSE ? 1 : 0;
    }),
    coils: Float64Array.from(ir.coils, (one) =>
      isTested(ir, scenario, before, stuck.pin, one) ? dwelt(one, scenario, at) : 0,
    ),
    powered: plugged && feeds.some((feed) => at(feed) - at(ground) >= minVolts),
  };
  // A driver that holds its current and a relay that falls are faster than any fuse: fuses open once all else has come to rest.
  return isSameDrive(now, before) ? { ...now, fuses: opened(ir, before, stuck, at) } : now;
}

/** The fuse that is most above what it carries opens first: what it feeds spares the others. */
function opened(ir: CircuitIR, before: Drive, stuck: Stuck, at: At): Uint8Array {
  const over = ir.fuses.map(({ i, j, opensVolts }, one) =>
    one === stuck.fuse || before.fuses[one] === 1 ? 0 : Math.abs(at(i) - at(j)) / opensVolts,
  );
  const most = over.reduce((all, one) => Math.max(all, one), 0);
  return most < 1 ? before.fuses : before.fuses.map((open, one) => (over[one]! >= most ? 1 : open));
}

/** Whether the output that works a coil is driven by its test: within a pulse its current rises over one dwell. */
export const isTested = (
  { pins }: Pick<CircuitIR, 'pins'>,
  { engine, plugged, driven }: Scenario,
  { powered }: Pick<Drive, 'powered'>,
  dead: number,
  { pin }: Pick<CoilIR, 'pin'>,
): boolean => plugged && powered && engine === 'still' && pin >= 0 && pin !== dead && driven.has(pins[pin]!.id);

/** How long a coil is charged at the volts of a scenario, ms. */
const dwellIn = ({ coil }: CoilIR, volts: number): number => atVolts(coil.dwell, volts) ?? USUAL_DWELL;
/** Where a coil's data says nothing (common practice: 2 to 4 ms). */
const USUAL_DWELL = 3;

/** What a primary is over its dwell with all the volts there are, ohms. */
export const undroppedOhms = (one: CoilIR, volts: number): number => dwellOhms(one.coil, volts, dwellIn(one, volts), 1);
function dwelt(one: CoilIR, { source }: Scenario, at: At): number {
  const volts = source?.volts ?? 0;
  return volts > 0 ? dwellOhms(one.coil, volts, dwellIn(one, volts), Math.abs(at(one.i) - at(one.j)) / volts) : 0;
}

const isAsWarm = (one: number, other: number): boolean => Math.abs(other - one) <= WARM_SHARE * one;
const same = (one: Uint8Array, other: Uint8Array): boolean => one.every((on, at) => on === other[at]);

/** Whether two rounds found the same, filaments about as warm. */
export const isSameDrive = (one: Drive, other: Drive): boolean =>
  one.powered === other.powered &&
  one.fiveLimits === other.fiveLimits &&
  same(one.relays, other.relays) &&
  same(one.diodes, other.diodes) &&
  same(one.fuses, other.fuses) &&
  same(one.limits, other.limits) &&
  same(one.charging, other.charging) &&
  one.coils.every((ohms, at) => isAsWarm(ohms, other.coils[at]!)) &&
  one.filaments.every((ohms, at) => isAsWarm(ohms, other.filaments[at]!));

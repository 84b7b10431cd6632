import type { Build } from '../build/schema';
import { ecuEnd } from '../ends/ends';
import { pinsOfKind } from '../ecu/ecu';
import { voltsBetween } from './reading';
import type { Solution } from './solve';
import { ECU_GROUND } from './nodes';

/** Share of a battery that may be gone before it no longer starts an engine (common practice). */
const STARTING_SHARE = 0.5;
const HOURS_A_DAY = 24;

/** Days until a standing car no longer starts, by what it draws with the key off; infinite where it draws nothing. */
export const standingDays = (build: Pick<Build, 'power'>, amps: number): number =>
  amps > 0 ? (build.power.batteryAh * STARTING_SHARE) / amps / HOURS_A_DAY : Infinity;

/** Volts the ECU itself has between its feed and its own ground; the best of its feed pins. Null where none is wired. */
export function ecuVolts(build: Build, solution: Solution): number | null {
  const volts = pinsOfKind(build.ecu, 'switched').flatMap(
    ({ id }) => voltsBetween(solution, ecuEnd(id), ECU_GROUND) ?? [],
  );
  return volts.length > 0 ? Math.max(...volts) : null;
}

import type { Build } from '../build/schema';
import { groundPins } from './ground-pins';
import type { Need } from './needs';
import { POWER_GROUND_AMPS } from './wires';

/** Outputs are on about half the time over a drive (common practice), for the return current of the ECU. */
const OUTPUT_DUTY = 0.5;
const switching: ReadonlySet<string> = new Set(['injector', 'low-side', 'ignition-driver', 'half-bridge']);

/** What the ECU sends to ground over a drive: its own supply current, and what its outputs pull down. */
export const ecuReturnAmps = (build: Build, needs: readonly Need[]): number =>
  needs
    .filter((need) => build.assignments[need.id] !== undefined && switching.has(need.ask.kind))
    .reduce((sum, need) => sum + (need.ask.amps ?? 0) * OUTPUT_DUTY, build.ecu.ownAmps);

/** The share of one of its power grounds, and no less than each is counted with. */
export const groundShareAmps = (build: Build, needs: readonly Need[]): number =>
  Math.max(POWER_GROUND_AMPS, ecuReturnAmps(build, needs) / Math.max(1, groundPins(build).power.length));

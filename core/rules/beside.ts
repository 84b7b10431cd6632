import { whyOpen, type WhyOpen } from '../allot/allot';
import { conflictsOf, type Conflict } from '../allot/conflict';
import { allotSupplies, type SupplyPlan } from '../allot/supplies';
import { destinationOf } from '../build/destination';
import type { Build, Device } from '../build/schema';
import { groundShifts, type GroundShift } from '../circuit/ground-shift';
import { solveCircuit } from '../circuit/solve';
import type { CircuitState } from '../circuit/states';
import type { Terminal } from '../devices/kind';
import { deviceAt } from '../ends/ends';
import { netlist } from '../netlist/netlist';
import { needsOf, type Need } from '../netlist/needs';

/** Open needs up to which each has a finding of its own, with its reason. */
export const MOST_TOLD = 4;

/**
 * What the rules say more exactly once a solver has worked it out. No rule solves: it says what is plain from the build at
 * once, and the rest when this has come.
 */
export interface Beside {
  /** Why each open need has no pin, where there are few of them. */
  readonly open: Readonly<Record<string, WhyOpen>>;
  /** How the 5 V terminals could be spread over the supplies. */
  readonly supplies: SupplyPlan;
  /** What the engine running does to each sensor that is grounded elsewhere than with the sensors, by device. */
  readonly shifts: Readonly<Record<string, GroundShift>>;
  /** Relays that do not come to rest, each with the state in which it was found so. */
  readonly buzzing: readonly { readonly name: string; readonly state: CircuitState }[];
}

/** Terminals that belong on the sensors' ground and were sent to a bolt instead. */
export const groundedApart = (build: Build, device: Device): readonly Terminal[] =>
  (build.kinds[device.kindId]?.terminals ?? []).filter(
    (terminal) => terminal.destination.to === 'sensor-ground' && destinationOf(device, terminal).to === 'ground',
  );

function shiftsApart(build: Build, needs: readonly Need[]): Record<string, GroundShift> {
  const apart = new Set(
    build.devices.flatMap((device) => (groundedApart(build, device).length > 0 ? [device.id] : [])),
  );
  if (apart.size === 0) return {};
  const net = netlist(build, needs);
  const shifts = groundShifts(build, net, solveCircuit(build, net, 'running'));
  return Object.fromEntries(
    shifts.flatMap((shift) => {
      const id = deviceAt(shift.ground);
      return id !== null && apart.has(id) ? [[id, shift]] : [];
    }),
  );
}

/** Relays that stand otherwise from one round of the solution to the next, in any state in which the car stays. */
function buzzingIn(build: Build, needs: readonly Need[]): Beside['buzzing'] {
  const net = netlist(build, needs);
  const found = new Map<string, CircuitState>();
  for (const state of ['key-on', 'cranking', 'running'] as const) {
    const solution = solveCircuit(build, net, state);
    if (solution.settled) continue;
    const last = solution.rounds[solution.rounds.length - 1]!.before.relays;
    solution.ir.relays.forEach(({ name }, at) => {
      if (last[at] !== solution.drive.relays[at] && !found.has(name)) found.set(name, state);
    });
  }
  return [...found].map(([name, state]) => ({ name, state }));
}

export function besideOf(build: Build, needs: readonly Need[] = needsOf(build)): Beside {
  let known: readonly Conflict[] | null = null;
  const conflicts = () => (known ??= conflictsOf(build, needs));
  const open = needs.filter((need) => build.assignments[need.id] === undefined);
  const told = open.length > MOST_TOLD ? [] : open;
  return {
    open: Object.fromEntries(told.map((need) => [need.id, whyOpen(build, need.id, needs, conflicts)!])),
    supplies: allotSupplies(build),
    shifts: shiftsApart(build, needs),
    buzzing: buzzingIn(build, needs),
  };
}

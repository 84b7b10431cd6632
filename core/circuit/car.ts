import type { Build } from '../build/schema';
import { BATTERY, groundEnd, type EndKey } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import type { Joint } from './faults';
import { compile } from './compile';
import { solveAsShown } from './pulses';
import { pulsedKinds } from './pulsed';
import { meterVolts, readVolts, wireAmps, type Reading } from './reading';
import { scenarioOf } from './scenario';
import type { Solution } from './solve';
import type { CircuitState } from './states';

/** What the car is doing, as a person would say it. */
export const carStates = [
  'key-off',
  'accessory',
  'key-on',
  'prime',
  'cranking',
  'running',
] as const satisfies readonly CircuitState[];
export type CarState = (typeof carStates)[number];

/** What is read at the plan of feeds in one state. */
export interface CarReading {
  readonly solution: Solution;
  /** The key is on and outputs are driven by their test. */
  readonly tested: boolean;
  /** Against battery negative, as a meter shows it; null at an end that no wire lands on. */
  readonly volts: (end: EndKey) => number | null;
  /** The same with how far it may honestly be off. */
  readonly reading: (end: EndKey) => Reading | null;
  /** In every wire, from its first end to its second, amperes; of what comes in pulses the mean. */
  readonly amps: ReadonlyMap<string, number>;
  /** What the loom draws, over the key too, whatever it comes from; without the starter, amperes. */
  readonly total: number;
  /** The same within a pulse of outputs that their test pulses; null where none is. */
  readonly pulse: number | null;
  /** Volts at its clamp. */
  readonly battery: number | null;
}

/** An output that can be driven by its test: a relay's winding, or a part of its own. */
export interface Drivable {
  readonly pinId: string;
  readonly name: string;
  /** An injector or a coil: its test drives it in pulses, with the engine still. */
  readonly pulsed: boolean;
}
export const drivable = (build: Build, net: Netlist): Drivable[] =>
  net.needs.flatMap((need) => {
    const pinId = build.assignments[need.id];
    const pulsed = pulsedKinds.has(need.ask.kind);
    const works = pulsed || need.winding !== null || need.ask.kind === 'low-side' || need.ask.kind === 'high-side';
    return pinId !== undefined && works ? [{ pinId, name: need.label.replace(/ relay$/, ''), pulsed }] : [];
  });

/** What a joint of the car carries, from its first node to its second, amperes. */
function throughJoint(solution: Solution, joint: Joint): number {
  const branch = solution.ir.joints.get(joint);
  if (branch === undefined || branch < 0) return 0;
  const { ends } = solution.ir;
  return (solution.at(ends[2 * branch]!) - solution.at(ends[2 * branch + 1]!)) * solution.branches.siemens[branch]!;
}
/** What the loom draws, over the key too: from the battery and from what charges it, but for what goes to the starter. */
const drawn = (solution: Solution): number =>
  throughJoint(solution, 'battery-plus') -
  throughJoint(solution, 'alternator-cable') -
  throughJoint(solution, 'starter-cable');

/**
 * Reads the car in a state, with these outputs driven and the battery so full, 0 to 1. With the key on and one driven by hand it is
 * a test of that output.
 */
export function readCar(
  build: Build,
  net: Netlist,
  state: CarState,
  driven: ReadonlySet<string>,
  charge = 1,
  thrown: ReadonlySet<string> = new Set(),
): CarReading {
  const tested = state === 'key-on' && driven.size > 0;
  const scenario = scenarioOf(build, net, tested ? 'outputs-on' : state, { driven, charge, thrown });
  const { shown: solution, within } = solveAsShown(net, compile(build, net), scenario);
  const minus = groundEnd('battery');
  return {
    solution,
    tested,
    amps: wireAmps(solution, net),
    total: drawn(solution),
    pulse: within && drawn(within),
    battery: meterVolts(solution, BATTERY, minus),
    reading: (end) => (net.nodeOf.has(end) ? readVolts(solution, end, minus) : null),
    volts: (end) => (net.nodeOf.has(end) ? meterVolts(solution, end, minus) : null),
  };
}

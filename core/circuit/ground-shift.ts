import type { Build } from '../build/schema';
import { curveOf } from '../devices/curve';
import type { SensorTrait } from '../devices/kind';
import { ecuEnd, groundEnd, type EndKey } from '../ends/ends';
import { groundPins } from '../netlist/ground-pins';
import { netlist, type Netlist } from '../netlist/netlist';
import { REFERENCE_VOLTS, sensorsOf, valueAtPin, type SensorAt } from '../sensing/sensor';
import { groundedBy } from './pulses-return';
import { straysBetween, voltsBetween, wireAmps } from './reading';
import type { CircuitState } from './states';
import type { Solution } from './solve';
import { solveCircuit } from './solve';
import { strayOfCoils } from '../power/coil-feed';
import { ECU_GROUND, numberOf } from './nodes';

/** What the ground of one sensor does to its reading. */
export interface GroundShift {
  readonly id: string;
  readonly label: string;
  readonly quantity: SensorTrait['quantity'];
  /** Where it returns. */
  readonly ground: EndKey;
  /** Volts of its ground above the ground inside the ECU. */
  readonly shiftVolts: number;
  /** The furthest it goes from nothing while coils and injectors pulse; as the mean where none does. */
  readonly peakVolts: number;
  /** By so many volts either way that may be off, by what the parts of a circuit usually measure. */
  readonly strays: number;
  /** What the ECU reads too much, in Gonyx' own unit of the quantity; null where its curve cannot tell. */
  readonly error: number | null;
}

function errorOf(at: SensorAt, read: number, shiftVolts: number): number | null {
  const { sensor } = at;
  if (sensor.signal !== 'volts' && sensor.signal !== 'ohms') return null;
  // Of a shift below a divider the pin sees the part that the pull-up leaves.
  const seen = sensor.signal === 'ohms' ? shiftVolts * (1 - read / REFERENCE_VOLTS) : shiftVolts;
  const curve = curveOf(sensor.curve);
  const [shifted, right] = [valueAtPin(at, read, curve), valueAtPin(at, read - seen, curve)];
  return shifted === null || right === null ? null : shifted - right;
}

/** Under so little an ampere of a pulse makes at a sensor it is not looked at, ohms. */
const LEAST_OHMS = 1e-6;

/**
 * In a solved state a pulsed load stands with what it is in the mean, which gives way as its volts fall; a pulse does not. What of an
 * ampere between its ends is left by that: 1 less its siemens times the ohms there (Sherman and Morrison, one branch taken out).
 */
function aloneShare(solution: Solution, branch: number): number {
  const { ends, siemens } = solution.branches;
  return 1 + siemens[branch]! * solution.transfer(ends[2 * branch]!, ends[2 * branch + 1]!, branch);
}

/**
 * The furthest a ground goes from nothing over a cycle: the mean, and what the pulses of coils, added up where they overlap, and of
 * injectors, which at full duty are open together, add to it through the wires they share.
 */
function peakOf(build: Build, solution: Solution, ground: EndKey, mean: number): number {
  const { ir, scenario } = solution;
  if (scenario.engine !== 'running') return mean;
  const [i, j] = [numberOf(ir.nodes, ground), numberOf(ir.nodes, ECU_GROUND)];
  const shares = ir.pulsed
    .map((one) => ({ ...one, weight: solution.transfer(i, j, one.branch) }))
    .filter(({ weight }) => Math.abs(weight) > LEAST_OHMS)
    .map((one) => ({ ...one, weight: one.weight / aloneShare(solution, one.branch) }));
  const coils = strayOfCoils(
    build,
    shares.flatMap(({ coil, weight }) => (coil ? [{ fitted: coil, weight }] : [])),
  );
  let [above, below] = [coils.above, coils.below];
  for (const { coil, weight, peak, mean: own } of shares) {
    if (coil) continue;
    above += Math.max(weight * (peak - own), -weight * own);
    below += Math.max(-weight * (peak - own), weight * own);
  }
  return Math.abs(mean + above) >= Math.abs(mean - below) ? mean + above : mean - below;
}

/** The shift of every sensor that is wired, in a solved state, largest first. */
export function groundShifts(build: Build, net: Netlist, solution: Solution): GroundShift[] {
  return sensorsOf(build, net)
    .flatMap((at): GroundShift[] => {
      const ground = groundedBy(at);
      const shiftVolts = ground && voltsBetween(solution, ground, ECU_GROUND);
      const read = at.pin && voltsBetween(solution, ecuEnd(at.pin.id), ECU_GROUND);
      if (ground === null || shiftVolts === null || read === null) return [];
      return [
        {
          id: at.id,
          label: at.label,
          quantity: at.sensor.quantity,
          ground,
          shiftVolts,
          peakVolts: peakOf(build, solution, ground, shiftVolts),
          strays: straysBetween(solution, ground, ECU_GROUND),
          error: errorOf(at, read, shiftVolts),
        },
      ];
    })
    .sort((one, other) => Math.abs(other.shiftVolts) - Math.abs(one.shiftVolts));
}

/** Where the ECU's own power grounds end. */
export type School = Build['power']['ecuGround'];

/** What one school of grounding the ECU makes of a build, solved in a state. */
export interface GroundSchool {
  readonly place: School;
  /** What comes back along the ECU's power grounds, amperes. */
  readonly amps: number;
  /** The ground inside the ECU above battery negative. */
  readonly ecuVolts: number;
  /** The engine block above the ground inside the ECU: what a sensor that is grounded there reads as signal. */
  readonly blockVolts: number;
  /** That as a manifold sensor of 3 bar would have it. */
  readonly blockKpa: number;
  readonly shifts: readonly GroundShift[];
}

/** A manifold sensor of 300 kPa runs over 4 V, from 0.5 to 4.5 (common practice). */
const MANIFOLD_KPA = 300;
const MANIFOLD_VOLTS = 4;
/** Volts of a ground as kilopascals of a manifold sensor of 3 bar. */
export const asManifoldKpa = (volts: number): number => (volts / MANIFOLD_VOLTS) * MANIFOLD_KPA;

/** One school, of a build that follows it. */
export function groundSchool(build: Build, net: Netlist, solution: Solution): GroundSchool {
  const pins = new Set(groundPins(build).power.map(({ id }) => ecuEnd(id)));
  const amps = wireAmps(solution, net);
  const blockVolts = voltsBetween(solution, groundEnd('head'), ECU_GROUND) ?? 0;
  return {
    place: build.power.ecuGround,
    amps: net.wires.reduce((sum, { id, from, to }) => {
      if (pins.has(from) === pins.has(to)) return sum;
      return sum + (pins.has(from) ? 1 : -1) * amps.get(id)!;
    }, 0),
    ecuVolts: voltsBetween(solution, ECU_GROUND, groundEnd('battery')) ?? 0,
    blockVolts,
    blockKpa: asManifoldKpa(blockVolts),
    shifts: groundShifts(build, net, solution),
  };
}

/** The school a build does not follow, solved in the same state. */
export function otherSchool(build: Build, state: CircuitState): GroundSchool {
  const ecuGround = build.power.ecuGround === 'head' ? 'battery' : 'head';
  const other: Build = { ...build, power: { ...build.power, ecuGround } };
  const net = netlist(other);
  return groundSchool(other, net, solveCircuit(other, net, state));
}

import type { Build } from '../build/schema';
import { curveOf } from '../devices/curve';
import type { SensorTrait } from '../devices/kind';
import { ecuEnd, type EndKey } from '../ends/ends';
import { netlist, type Netlist } from '../netlist/netlist';
import { REFERENCE_VOLTS, sensorsOf, valueAtPin, type SensorAt } from '../sensing/sensor';
import { groundedBy } from './pulses-return';
import { voltsBetween } from './reading';
import type { CircuitState } from './states';
import type { Solution } from './solve';
import { solveCircuit } from './solve';
import { ECU_GROUND } from './nodes';

/** What the ground of one sensor does to its reading. */
export interface GroundShift {
  readonly id: string;
  readonly label: string;
  readonly quantity: SensorTrait['quantity'];
  /** Where it returns. */
  readonly ground: EndKey;
  /** Volts of its ground above the ground inside the ECU. */
  readonly shiftVolts: number;
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
          error: errorOf(at, read, shiftVolts),
        },
      ];
    })
    .sort((one, other) => Math.abs(other.shiftVolts) - Math.abs(one.shiftVolts));
}

/** The same with the ECU grounded at the battery and at the engine block: both schools, solved. */
export function shiftsOfSchools(
  build: Build,
  state: CircuitState,
): Readonly<Record<Build['power']['ecuGround'], readonly GroundShift[]>> {
  const of = (ecuGround: Build['power']['ecuGround']) => {
    const school: Build = { ...build, power: { ...build.power, ecuGround } };
    const net = netlist(school);
    return groundShifts(school, net, solveCircuit(school, net, state));
  };
  return { battery: of('battery'), head: of('head') };
}

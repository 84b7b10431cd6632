import type { Build } from '../build/schema';
import { withId } from '../data/with-id';
import { pinsOfKind, type Pin } from '../ecu/ecu';

/** What the ground pins of an ECU are wired as. A pin in both lists carries the ECU's own current and the sensors' returns. */
export interface GroundPins {
  /** Wired to the ground bolt. */
  readonly power: readonly Pin[];
  /** Where sensors return, by bank. Never empty: an ECU without such a pin shares one of its power grounds. */
  readonly sensor: readonly Pin[];
  /** Pins that can be either, in the order of the definition. */
  readonly either: readonly Pin[];
}

/** Sensor grounds kept where pins can be either: twin tracks spread over two (common practice). */
const SENSOR_GROUNDS = 2;

const can = (pin: Pin, kind: 'power-ground' | 'sensor-ground') => pin.abilities.some((one) => one.kind === kind);

/**
 * Ground pins as they are wired. Where pins can be either ("five equal grounds, at least two for the ECU"), the ECU has as
 * many as it asks for first, the last ones serve the sensors, and what is left is the ECU's. What a person decided stands.
 */
export function groundPins(build: Pick<Build, 'ecu' | 'groundUse'>): GroundPins {
  const { ecu, groundUse } = build;
  const grounds = ecu.pins.filter((pin) => can(pin, 'power-ground') || can(pin, 'sensor-ground'));
  const either = grounds.filter((pin) => can(pin, 'power-ground') && can(pin, 'sensor-ground'));
  const uses = new Map<string, 'ecu' | 'sensors' | 'both'>();
  for (const pin of grounds) {
    const chosen = groundUse[pin.id];
    if (!can(pin, 'power-ground')) uses.set(pin.id, 'sensors');
    else if (!either.includes(pin)) uses.set(pin.id, chosen === 'both' ? 'both' : 'ecu');
    else if (chosen) uses.set(pin.id, chosen);
  }
  const count = (use: 'ecu' | 'sensors') => [...uses.values()].filter((one) => one === use || one === 'both').length;
  const open = either.filter((pin) => !uses.has(pin.id));
  const forEcu = Math.min(open.length, Math.max(0, ecu.groundsAsked - count('ecu')));
  const forSensors = Math.min(open.length - forEcu, Math.max(0, SENSOR_GROUNDS - count('sensors')));
  open.forEach((pin, i) => uses.set(pin.id, i < open.length - forSensors ? 'ecu' : 'sensors'));
  if (count('sensors') === 0) {
    // No pin is left for the sensors: they share one, of those that can be either before any other.
    const shared = either.findLast((pin) => groundUse[pin.id] === undefined) ?? pinsOfKind(ecu, 'power-ground')[0];
    if (shared) uses.set(shared.id, 'both');
  }
  const used = (use: 'ecu' | 'sensors') =>
    grounds.filter((pin) => uses.get(pin.id) === use || uses.get(pin.id) === 'both');
  return { power: used('ecu'), sensor: used('sensors'), either };
}

/** The pins shields are earthed at: the ECU's own for it, else the first the sensors return to. */
export const shieldPins = (build: Pick<Build, 'ecu' | 'groundUse'>): readonly Pin[] => {
  const own = pinsOfKind(build.ecu, 'shield');
  return own.length > 0 ? own : groundPins(build).sensor.slice(0, 1);
};

/** Whether a ground pin carries the ECU's own current and the sensors' returns at once. */
export const isSharedGround = ({ power, sensor }: GroundPins, pinId: string): boolean =>
  withId(power, pinId) !== undefined && withId(sensor, pinId) !== undefined;

import type { Build, Device } from '../build/schema';
import { destinationOf } from '../build/destination';
import { hasRole, trait, type Destination, type DeviceKind, type Internal } from '../devices/kind';
import type { Ability } from '../ecu/ecu';
import { eventSpan } from '../engine/outputs';
import { pulsesOfCoils } from './coil-feed';
import { runningVolts } from './volts';

/**
 * What a part draws: one model of each kind for fuses, wires, rules, meter readings and faults alike. What a feed is told to
 * draw is the mean it draws for good; what stands inside it, cold, tells the rest.
 */
export interface Drawn {
  /** Mean amperes with everything on. */
  readonly amps: number;
  /** What of it warms wires and fuses, and the most at a time. */
  readonly rms: number;
  readonly peak: number;
  readonly inrush: Inrush | null;
}

/** A motor that stands, a filament or a heater that is cold, a plunger that is still out. */
export const inrushCauses = ['motor', 'filament', 'heater', 'plunger'] as const;
export interface Inrush {
  readonly cause: (typeof inrushCauses)[number];
  /** Amperes as it is switched on, all told, and about how long they last as a pulse of that height. */
  readonly amps: number;
  readonly seconds: number;
}

export const steady = (amps: number): Drawn => ({ amps, rms: amps, peak: amps, inrush: null });

/** Times what it draws for good, and the seconds a pulse of that height lasts (each common practice, from memory). */
const FAN_TIMES = 4;
const FAN_SECONDS = 0.15;
const MOTOR_TIMES = 2.5;
const MOTOR_SECONDS = 0.1;
const LAMP_TIMES = 6;
const LAMP_SECONDS = 0.05;
const STARTER_TIMES = 3.5;
const STARTER_SECONDS = 0.1;
const rushes = {
  fan: { cause: 'motor', times: FAN_TIMES, seconds: FAN_SECONDS },
  motor: { cause: 'motor', times: MOTOR_TIMES, seconds: MOTOR_SECONDS },
  lamp: { cause: 'filament', times: LAMP_TIMES, seconds: LAMP_SECONDS },
  starter: { cause: 'plunger', times: STARTER_TIMES, seconds: STARTER_SECONDS },
} as const satisfies Record<string, { cause: Inrush['cause']; times: number; seconds: number }>;
/** A heater takes some seconds to be warm (common practice: 5 to 20). */
const HEATER_SECONDS = 10;
/** A load of its own feed that draws as much is a motor, where nothing else is said (common practice). */
const MOTOR_AMPS = 4;
/** What is drawn cold differs from what is drawn warm where it is so many times as much. */
const COLD_TIMES = 1.15;

function rushOf(
  kind: DeviceKind,
  feed: Extract<Destination, { to: 'feed' }>,
): (typeof rushes)[keyof typeof rushes] | null {
  if (hasRole(kind, 'fan')) return rushes.fan;
  if (hasRole(kind, 'starter')) return rushes.starter;
  if (isLamp(kind)) return rushes.lamp;
  if (hasRole(kind, 'pump')) return rushes.motor;
  return (feed.feed === 'own' || feed.feed === 'pump') && feed.amps >= MOTOR_AMPS ? rushes.motor : null;
}

/** A filament behind the terminal: a lamp, or the switch that lights some. */
export const isLamp = (kind: DeviceKind): boolean => hasRole(kind, 'lamp') || hasRole(kind, 'reverse-switch');

/** The resistor inside that what is fed at a terminal runs through: the smallest, where there are several. */
export function fedThrough(kind: DeviceKind, terminalId: string): Extract<Internal, { type: 'resistor' }> | null {
  let least: Extract<Internal, { type: 'resistor' }> | null = null;
  for (const one of kind.internals)
    if (one.type === 'resistor' && (one.from === terminalId || one.to === terminalId))
      if (least === null || one.ohms < least.ohms) least = one;
  return least;
}

/** Whether an output of the ECU works what is fed at a terminal: it then draws at its full, in pulses. */
export function isWorked(
  device: Device,
  kind: DeviceKind,
  inside: { readonly from: string; readonly to: string },
): boolean {
  return kind.terminals.some(
    (terminal) =>
      (terminal.id === inside.from || terminal.id === inside.to) && destinationOf(device, terminal).to === 'pin',
  );
}

/** What a device draws at one of its feeds. */
export function drawnBy(
  build: Build,
  device: Device,
  kind: DeviceKind,
  terminalId: string,
  feed: Extract<Destination, { to: 'feed' }>,
): Drawn {
  const volts = runningVolts(build);
  const coil = trait(kind, 'coil');
  if (coil) {
    const { mean, rms, peak } = pulsesOfCoils(build)([{ coil, serves: device.serves, row: device.row }]);
    return { amps: mean, rms, peak, inrush: null };
  }
  const injector = trait(kind, 'injector');
  if (injector) return injectorDraw(build, injector.ohms, volts);
  const inside = fedThrough(kind, terminalId);
  const cold = inside ? volts / inside.ohms : 0;
  const rush = rushOf(kind, feed);
  if (rush) {
    const { cause, seconds } = rush;
    return { ...steady(feed.amps), inrush: { cause, seconds, amps: rush.times * feed.amps } };
  }
  if (feed.amps <= 0 || cold < COLD_TIMES * feed.amps) return steady(feed.amps);
  const inrush: Inrush | null = isHeater(kind) ? { cause: 'heater', amps: cold, seconds: HEATER_SECONDS } : null;
  // Worked by the ECU it draws all it can, a part of the time; by itself it draws less as it warms.
  if (inside && isWorked(device, kind, inside))
    return { amps: feed.amps, rms: Math.sqrt(feed.amps * cold), peak: cold, inrush };
  return { ...steady(feed.amps), inrush };
}

/** The heater of a lambda sensor. */
const isHeater = (kind: DeviceKind): boolean =>
  trait(kind, 'wideband') !== null || kind.traits.some((one) => one.type === 'sensor' && one.quantity === 'mixture');

/** Injector duty taken for the feed's load: 85 % (common practice). */
const RATED_DUTY = 0.85;
/** Peak and hold: what opens an injector and for how long, and what holds it, where the ECU does not say (common practice). */
const PEAK_AMPS = 4;
const HOLD_SHARE = 0.25;
const OPENING_MILLISECONDS = 1.2;
/** Mean and mean square of the rise to the peak, shares of it and of its square: between a ramp's and a step's. */
const RISE_MEAN = 0.55;
const RISE_SQUARE = 0.38;
/** How fast the current falls from the peak while it runs free: inductance over resistance (common practice: 0.6 to 1.2 ms). */
const DECAY_MILLISECONDS = 0.9;
/** Crank degrees a millisecond at one rpm: 360 / 60 000. */
const DEGREES_A_MILLISECOND = 0.006;

/** How an injector is worked: by a driver that stands its ohms, or through as many more as a ballast resistor makes up. */
interface Worked {
  readonly driver: Ability | null;
  readonly ohms: number;
}
/** By its ohms, of each ECU: an engine's injectors are alike. */
const workedOf = new WeakMap<Build['ecu'], Map<number, Worked>>();

function workedBy(ecu: Build['ecu'], ohms: number): Worked {
  const known = workedOf.get(ecu) ?? new Map<number, Worked>();
  workedOf.set(ecu, known);
  const found = known.get(ohms) ?? findDriver(ecu, ohms);
  known.set(ohms, found);
  return found;
}

function findDriver(ecu: Build['ecu'], ohms: number): Worked {
  const drivers = ecu.pins.flatMap(({ abilities }) => abilities.filter(({ kind }) => kind === 'injector'));
  const standing = drivers.filter((one) => ohms >= (one.minOhms ?? 0));
  const driver =
    standing.find(({ drive }) => drive !== 'peak-hold') ??
    standing[0] ??
    drivers.find(({ drive }) => drive === 'peak-hold') ??
    null;
  if (driver !== null || drivers.length === 0) return { driver, ohms };
  // With drivers that stand no such injector a ballast resistor makes up what they ask (OE-7 tells).
  return { driver, ohms: Math.max(ohms, Math.min(...drivers.map(({ minOhms = 0 }) => minOhms))) };
}

function injectorDraw(build: Build, ohms: number, volts: number): Drawn {
  const { driver, ohms: inAll } = workedBy(build.ecu, ohms);
  if (driver?.drive !== 'peak-hold') {
    const full = volts / inAll;
    return { amps: full * RATED_DUTY, rms: full * Math.sqrt(RATED_DUTY), peak: full, inrush: null };
  }
  const peak = Math.min(driver.maxAmps ?? PEAK_AMPS, volts / ohms);
  const hold = Math.min(peak, driver.holdAmps ?? HOLD_SHARE * peak);
  const period = eventSpan(build.engine, 'injector') / (build.engine.maxRpm * DEGREES_A_MILLISECOND);
  const opening = Math.min(RATED_DUTY, OPENING_MILLISECONDS / period);
  const held = RATED_DUTY - opening;
  // From the peak it falls to what holds as the driver lets it: shares of the period in which it is that much above.
  const above = peak - hold;
  const falls = DECAY_MILLISECONDS / period;
  const still = (times: number) => (falls / times) * (1 - Math.exp((-times * held) / falls));
  return {
    amps: opening * RISE_MEAN * peak + held * hold + above * still(1),
    rms: Math.sqrt(
      opening * RISE_SQUARE * peak * peak + held * hold * hold + 2 * hold * above * still(1) + above * above * still(2),
    ),
    peak,
    inrush: null,
  };
}

import { cycleDegrees, firingAngleByCylinder, type Engine } from '../engine/engine';
import type { Swing } from './swing';

// Hot loops look these up once.
const { PI, abs, cos, exp, floor, log, max, min, sign, sin, sqrt } = Math;

/**
 * How a starter turns an engine: the torque of each cylinder's compression and expansion on a crank with inertia, against
 * friction, driven by a motor whose torque falls with its speed.
 *
 * Sources: slider-crank geometry and torque p dV/dtheta (any engine textbook; Heywood 1988, from memory);
 * polytropic compression with an exponent near 1.3 (Heywood 1988, from memory); a series motor's line of torque over speed and
 * the shares of friction are from memory. Everything is in units of the barometer times one cylinder's displacement, so
 * that no bore need be known: what is left open, inertia and the motor's torque, is set to give the speed and the swing wanted.
 */
export interface Cranking {
  /** Torque of the gas at each whole degree of a cycle of 720, on the crank in its direction. */
  readonly gas: readonly number[];
  /** Friction, always against the turning; and the motor's torque standing still. */
  readonly friction: number;
  readonly stall: number;
  /** Degrees a second at which the motor gives no torque. */
  readonly free: number;
  /** Torque over this is the change of speed, degrees a second each second. */
  readonly inertia: number;
}

/** Crank radius over rod length, compression ratio, polytropic exponent, share of the pressure that stays through the top (common practice). */
const [ROD, RATIO, EXPONENT, STAYS] = [0.28, 9.5, 1.3, 0.92];
/** Degrees from the top at which the intake shuts before it and the exhaust opens behind it (common practice). */
const FOUR_STROKE = { shuts: 140, opens: 135 } as const;
const TWO_STROKE = { shuts: 90, opens: 90 } as const;
const ROTARY = { shuts: 230, opens: 220 } as const;
/** Share of the highest gas torque of one cylinder that friction takes for each (common practice). */
const FRICTION = 0.08;
/** The motor runs free at so many times the speed at which it cranks. */
const FREE = 2.2;

const RADIAN = PI / 180;

/** Volume over the displacement of a chamber at degrees from its top. */
function volumeAt(degrees: number, kind: Engine['kind']): number {
  const clearance = 1 / (RATIO - 1);
  // A rotor's chamber has its next least volume three half turns on.
  if (kind === 'rotary') return clearance + 0.5 * (1 - cos((2 / 3) * degrees * RADIAN));
  const angle = degrees * RADIAN;
  return clearance + 0.5 * (1 - cos(angle) + (1 - sqrt(1 - (ROD * sin(angle)) ** 2)) / ROD);
}

/** Pressure above the barometer, in barometers. */
function pressureAt(degrees: number, kind: Engine['kind']): number {
  const { shuts, opens } = kind === 'rotary' ? ROTARY : kind === 'two-stroke' ? TWO_STROKE : FOUR_STROKE;
  if (degrees < -shuts || degrees > opens) return 0;
  const closed = (volumeAt(-shuts, kind) / volumeAt(degrees, kind)) ** EXPONENT;
  return (degrees <= 0 ? closed : 1 + (closed - 1) * STAYS - (1 - STAYS)) - 1;
}

/** Torque of one chamber, its top at 0, at each degree from -360 to 359. */
function chamberTorque(kind: Engine['kind']): Float64Array {
  return Float64Array.from({ length: 720 }, (_, i) => {
    const degrees = i - 360;
    const slope = (volumeAt(degrees + 0.5, kind) - volumeAt(degrees - 0.5, kind)) / RADIAN;
    return pressureAt(degrees, kind) * slope;
  });
}

/** Torque of all chambers over two turns; the first of the firing order has its top at 0. */
export function gasTorque(engine: Engine): number[] {
  const one = chamberTorque(engine.kind);
  const cycle = cycleDegrees(engine);
  const out = new Array<number>(720).fill(0);
  for (const top of firingAngleByCylinder(engine).values())
    for (let turn = top; turn < 720; turn += cycle)
      for (let i = 0; i < 720; i += 1) {
        const from = (((i - turn + 360) % 720) + 720) % 720;
        // A chamber that fires each turn has its own torque on both sides of the top within that turn only.
        if (cycle === 360 && engine.kind !== 'rotary' && abs(from - 360) > 180) continue;
        out[i]! += one[floor(from)]!;
      }
  return out;
}

/** Acceleration, degrees a second squared, at a speed and an angle. */
export function accelerationOf(
  { gas, friction, stall, free, inertia }: Cranking,
  speed: number,
  degrees: number,
  driven: boolean,
): number {
  const at = ((degrees % 720) + 720) % 720;
  const low = floor(at);
  const torque = gas[low]! + (at - low) * (gas[(low + 1) % 720]! - gas[low]!);
  const motor = driven ? stall * max(0, 1 - max(0, speed) / free) : 0;
  const turning = torque + motor;
  // Standing, friction only holds.
  if (abs(speed) < 1) {
    if (abs(turning) <= friction) return speed === 0 ? 0 : (-sign(speed) * friction) / inertia;
    return (turning - sign(turning) * friction) / inertia;
  }
  return (turning - sign(speed) * friction) / inertia;
}

/** Turns until the speed repeats itself. */
const SETTLES = 8;
const STEP = 1;

/** Speed over a settled cycle, degrees a second at each degree; null where the motor does not carry it over the tops. */
function settled(cranking: Cranking, start: number): Float64Array | null {
  const out = new Float64Array(720);
  let speed = start;
  for (let turn = 0; turn < SETTLES; turn += 1)
    for (let i = 0; i < 720; i += STEP) {
      // Work over an angle changes the square of the speed.
      const square = speed * speed + 2 * STEP * accelerationOf(cranking, speed, i + 0.5 * STEP, true);
      if (square < 100) return null;
      speed = sqrt(square);
      out[i] = speed;
    }
  return out;
}

const spread = (speeds: Float64Array) => {
  let [least, most, time] = [Number.POSITIVE_INFINITY, 0, 0];
  for (const speed of speeds) {
    least = min(least, speed);
    most = max(most, speed);
    time += 1 / speed;
  }
  const mean = speeds.length / time;
  return { mean, ripple: (most - least) / mean };
};

/**
 * An engine as a starter turns it at a mean speed with a swing: inertia and the motor's torque are what is sought, by halving.
 *
 * @param rpm Mean, @param ripple fastest less slowest over the mean; the nearest that the engine can do is taken.
 */
export function crankingOf(engine: Engine, rpm: number, ripple: number): Cranking {
  const gas = gasTorque(engine);
  const top = chamberTorque(engine.kind).reduce((most, one) => max(most, one), 0);
  const friction = FRICTION * top * engine.cylinders;
  const lost = -gas.reduce((sum, one) => sum + one, 0) / gas.length;
  const free = FREE * 6 * rpm;
  const made = (inertia: number, stall: number): Cranking => ({ gas, friction, stall, free, inertia });
  const stallFor = (more: number) => ((friction + lost) / (1 - 1 / FREE)) * more;
  const withSpeed = (inertia: number): { cranking: Cranking; speeds: Float64Array } | null => {
    let [low, high] = [0.5, 4];
    let found: { cranking: Cranking; speeds: Float64Array } | null = null;
    for (let round = 0; round < 14; round += 1) {
      const middle = (low + high) / 2;
      const cranking = made(inertia, stallFor(middle));
      const speeds = settled(cranking, 6 * rpm);
      if (speeds) found = { cranking, speeds };
      if (!speeds || spread(speeds).mean < 6 * rpm) low = middle;
      else high = middle;
    }
    return found;
  };
  // Torque over inertia is an acceleration: a quarter turn of one compression against the square of the speed.
  const scale = top / (6 * rpm) ** 2;
  let [light, heavy] = [log(scale), log(scale * 3e4)];
  let best = withSpeed(exp(heavy));
  for (let round = 0; round < 14; round += 1) {
    const middle = (light + heavy) / 2;
    const found = withSpeed(exp(middle));
    if (!found || spread(found.speeds).ripple > ripple) light = middle;
    else [heavy, best] = [middle, found];
  }
  return best?.cranking ?? made(exp(heavy), stallFor(1));
}

/** Orders of the crank a swing is told by, in halves. */
const ORDERS = 24;

/** The logarithmic slowness of an engine over its cycle, by orders; the first of the firing order has its top at 0. */
export function swingOfEngine(engine: Engine, rpm: number, ripple: number): Swing {
  const speeds = settled(crankingOf(engine, rpm, ripple), 6 * rpm);
  const swing = new Array<number>(2 * ORDERS).fill(0);
  if (!speeds) return swing;
  for (let k = 0; k < ORDERS; k += 1)
    for (let i = 0; i < 720; i += 1) {
      const angle = ((k + 1) / 2) * i * RADIAN;
      swing[2 * k]! -= (log(speeds[i]!) * cos(angle)) / 360;
      swing[2 * k + 1]! -= (log(speeds[i]!) * sin(angle)) / 360;
    }
  return swing;
}

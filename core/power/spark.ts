import type { Build } from '../build/schema';
import type { TraitOf } from '../devices/kind';
import { cycleDegrees, shortestFiringInterval, type Engine } from '../engine/engine';
import { eventSpan } from '../engine/outputs';
import { camWheelOf, tellsPhase } from '../wheels/wheel';
import { averageCoilAmps, primaryAmps, storedMillijoules } from './coil';
import { atVolts } from '../devices/volts-table';

/** Time a spark burns before the coil may charge again, ms (common practice: about 1 ms and more). */
export const BURN_MILLISECONDS = 1;

export interface CoilRow {
  readonly volts: number;
  readonly dwellMilliseconds: number;
  readonly amps: number;
  readonly millijoules: number;
}

export interface CoilFigures {
  readonly rows: readonly CoilRow[];
  /** Milliseconds between two events of one coil at top speed. */
  readonly intervalMilliseconds: number;
  /** Longest dwell that leaves the burn time at top speed; 0 when none does. */
  readonly roomMilliseconds: number;
  /** Speed up to which the table's dwell fits, rpm. */
  readonly fitsToRpm: number;
  /** Average amperes of one coil at top speed, with the dwell cut to fit. */
  readonly averageAmps: number;
}

/**
 * The engine as it is sparked: where a coil each is asked and the wheels that were chosen do not tell the stroke, every coil
 * sparks every turn, as a single's does without a cam. While no wheel is chosen it is taken as it was answered.
 */
export function sparkedEngine({ engine, trigger }: Pick<Build, 'engine' | 'trigger'>): Engine {
  if (engine.ignition !== 'direct' || trigger.crankWheel === null) return engine;
  return tellsPhase(engine, trigger.crankWheel, camWheelOf(trigger)) ? engine : { ...engine, ignition: 'wasted' };
}

/**
 * Crank degrees between events of one coil: the whole cycle, every turn where the stroke is not told apart or the coil
 * sparks in two cylinders, or every firing of a distributor.
 *
 * @param serves Towers of the coil.
 */
export function eventDegrees(engine: Engine, serves: number): number {
  if (engine.ignition === 'distributor') return shortestFiringInterval(engine);
  return eventSpan(serves > 1 ? { ...engine, ignition: 'wasted' } : engine, 'ignition');
}

/** Events of one coil a second at a speed: as many firings of a distributor as there are, evenly spaced or not. */
export function eventsPerSecond(engine: Engine, serves: number, rpm: number): number {
  const degrees =
    engine.ignition === 'distributor' ? cycleDegrees(engine) / engine.cylinders : eventDegrees(engine, serves);
  return (rpm * DEGREES_A_SECOND) / degrees;
}

/** Crank degrees a second at one rpm: 360 / 60. */
const DEGREES_A_SECOND = 6;

/** Crank degrees a millisecond at one rpm: 360 / 60 000. */
const DEGREES_A_MILLISECOND = 0.006;
/** Battery volts a coil is read at (common practice): a cold crank, a warm one, at rest, charging, the most a regulator lets by. */
const COLD_CRANK = 8;
const CRANK = 10;
const REST = 12;
const CHARGING = 13.5;
const MOST = 15;
const BATTERY_VOLTS = [COLD_CRANK, CRANK, REST, CHARGING, MOST];

export function coilFigures(engine: Engine, coil: TraitOf<'coil'>, volts: number = CHARGING): CoilFigures {
  const degrees = eventDegrees(engine, coil.serves);
  const interval = degrees / (engine.maxRpm * DEGREES_A_MILLISECOND);
  const room = Math.max(0, interval - BURN_MILLISECONDS);
  const dwell = atVolts(coil.dwell, volts)!;
  const row = (at: number): CoilRow => {
    const milliseconds = atVolts(coil.dwell, at)!;
    return {
      volts: at,
      dwellMilliseconds: milliseconds,
      amps: primaryAmps(coil, at, milliseconds),
      millijoules: storedMillijoules(coil, at, milliseconds),
    };
  };
  return {
    rows: BATTERY_VOLTS.map(row),
    intervalMilliseconds: interval,
    roomMilliseconds: room,
    fitsToRpm: degrees / ((dwell + BURN_MILLISECONDS) * DEGREES_A_MILLISECOND),
    averageAmps: averageCoilAmps(
      coil,
      volts,
      Math.min(dwell, room),
      eventsPerSecond(engine, coil.serves, engine.maxRpm),
    ),
  };
}

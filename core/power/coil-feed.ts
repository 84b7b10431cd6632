import type { Build } from '../build/schema';
import type { TraitOf } from '../devices/kind';
import { atVolts } from '../devices/volts-table';
import { cycleDegrees, firingAngleByCylinder, type Engine } from '../engine/engine';
import { eventSpan } from '../engine/outputs';
import { wrapDegrees } from '../units/convert';
import { primaryAmps } from './coil';
import { BURN_MILLISECONDS, eventDegrees, sparkedEngine } from './spark';
import { runningVolts } from './volts';

/** What a feed carries that is drawn in pulses: amperes. */
export interface PulsedAmps {
  readonly mean: number;
  /** What warms wire and fuse. */
  readonly rms: number;
  readonly peak: number;
}

/** A coil as it is fitted. */
export interface FittedCoil {
  readonly coil: TraitOf<'coil'>;
  /** Cylinders it serves; none where it was not told: it then fires once. */
  readonly serves: readonly number[];
  readonly row: number;
}

/** Samples of a cycle: half a degree of a turn is a tenth of a dwell at any speed (checked against the closed form of the mean). */
const STEPS_PER_TURN = 720;
/** Crank degrees a millisecond at one rpm: 360 / 60 000. */
const DEGREES_A_MILLISECOND = 0.006;
const TURN = 360;
const HALF = 1 / 2;

/**
 * The current of a feed that charges coils, over a whole cycle: each coil's ramp i(t) = (V/R)(1 - exp(-tR/L)) before each of
 * its sparks, added up where they overlap. The dwell is cut to what the speed leaves beside the burn.
 */
export function coilFeedAmps(engine: Engine, coils: readonly FittedCoil[], volts: number, rpm: number): PulsedAmps {
  const amps = waveOf(
    engine,
    coils.map((fitted) => ({ fitted, weight: 1 })),
    volts,
    rpm,
  );
  let [sum, squares, peak] = [0, 0, 0];
  for (const one of amps) {
    sum += one;
    squares += one * one;
    if (one > peak) peak = one;
  }
  return { mean: sum / amps.length, rms: Math.sqrt(squares / amps.length), peak };
}

/** Amperes over a cycle of coils that count each with a weight of its own, step by step. */
function waveOf(engine: Engine, coils: readonly Weighted[], volts: number, rpm: number): Float64Array {
  const cycle = cycleDegrees(engine);
  const steps = (STEPS_PER_TURN * cycle) / TURN;
  const amps = new Float64Array(steps);
  const degreesAStep = cycle / steps;
  const rate = rpm * DEGREES_A_MILLISECOND;
  const angles = firingAngleByCylinder(engine);
  for (const { fitted, weight } of coils) {
    const { coil, serves, row } = fitted;
    const span = eventSpan(
      coil.serves > 1 && engine.ignition === 'direct' ? { ...engine, ignition: 'wasted' } : engine,
      'ignition',
    );
    const sparked = engine.ignition === 'distributor' ? [...angles.keys()] : serves.slice(0, 1);
    const first = sparked.length > 0 ? sparked.map((cylinder) => angles.get(cylinder) ?? 0) : [0];
    const repeats = engine.ignition === 'distributor' ? 1 : cycle / span;
    const room = Math.max(0, eventDegrees(engine, coil.serves) / rate - BURN_MILLISECONDS);
    const dwell = Math.min(atVolts(coil.dwell, volts) ?? 0, room);
    for (const angle of first)
      for (let turn = 0; turn < repeats; turn += 1) {
        const spark = angle + turn * span + (row - 1) * engine.trailingDegrees;
        const start = spark - dwell * rate;
        // Each step stands for its middle.
        const middle = (step: number) => (step + HALF) * degreesAStep;
        for (let step = Math.ceil(start / degreesAStep - HALF); middle(step) < spark; step += 1) {
          const charged = (middle(step) - start) / rate;
          const at = Math.floor(wrapDegrees(middle(step), cycle) / degreesAStep) % steps;
          amps[at]! += weight * primaryAmps(coil, volts, charged);
        }
      }
  }
  return amps;
}

/** A coil with what an ampere of it does somewhere, ohms. */
export interface Weighted {
  readonly fitted: FittedCoil;
  readonly weight: number;
}

/**
 * How far coils together stray from their mean somewhere, over a cycle at the build's top speed: the most above it and the most
 * below, each coil by what an ampere of it does there.
 */
export function strayOfCoils(
  build: Build,
  coils: readonly Weighted[],
): { readonly above: number; readonly below: number } {
  if (coils.length === 0) return { above: 0, below: 0 };
  const wave = waveOf(sparkedEngine(build), coils, runningVolts(build), build.engine.maxRpm);
  let [sum, most, least] = [0, -Infinity, Infinity];
  for (const one of wave) {
    sum += one;
    if (one > most) most = one;
    if (one < least) least = one;
  }
  const mean = sum / wave.length;
  return { above: most - mean, below: mean - least };
}

/** What sets of coils draw, by the engine they spark: an edit elsewhere leaves both as they were. */
const pulsesOf = new WeakMap<Build['engine'], Map<string, PulsedAmps>>();
const coilNames = new WeakMap<FittedCoil['coil'], number>();
let coilsNamed = 0;
function nameOf({ coil, serves, row }: FittedCoil, alone: boolean): string {
  const number = coilNames.get(coil) ?? (coilsNamed += 1);
  coilNames.set(coil, number);
  // Alone, one cylinder is as another.
  return alone ? `${number} ${serves.length} ${row}` : `${number} ${serves.join(',')} ${row}`;
}

/** What sets of coils of a build draw at its top speed, each set worked out once. */
export function pulsesOfCoils(build: Build): (coils: readonly FittedCoil[]) => PulsedAmps {
  const engine = sparkedEngine(build);
  const volts = runningVolts(build);
  const known = pulsesOf.get(build.engine) ?? new Map<string, PulsedAmps>();
  pulsesOf.set(build.engine, known);
  return (coils) => {
    const names = coils.map((coil) => nameOf(coil, coils.length === 1)).sort();
    const key = `${engine.ignition} ${volts} ${names.join('; ')}`;
    const pulses = known.get(key) ?? coilFeedAmps(engine, coils, volts, build.engine.maxRpm);
    known.set(key, pulses);
    return pulses;
  };
}

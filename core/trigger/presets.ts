import type { Engine } from '../engine/engine';
import { crankingOf } from './cranking';
import type { Faults, Speed } from './synth';

/** What a simulation may have wrong with it, by a person's words for it. */
export const faultPresets = [
  { id: 'none', name: 'nothing' },
  { id: 'noise', name: 'noise on the line' },
  { id: 'coils', name: 'spikes of the coils' },
  { id: 'lost', name: 'a pulse in fifty lost' },
  { id: 'added', name: 'a pulse in fifty too many' },
  { id: 'missing', name: 'a tooth broken off' },
  { id: 'bent', name: 'a bent tooth' },
  { id: 'swapped', name: 'VR leads swapped' },
  { id: 'crossed', name: 'crank and cam crossed' },
  { id: 'low', name: 'low amplitude' },
  { id: 'pull-up', name: 'no pull-up' },
] as const;
export type FaultPreset = (typeof faultPresets)[number]['id'];

/** Tooth that is broken off or bent, from 0, and degrees it stands off. */
const TOOTH = 7;
const BENT_DEGREES = 2;
/** Degrees after the wheel's zero at which the first coil fires. */
const FIRST_SPARK = 10;

/** @param cycle Crank degrees of a cycle, 720 or 360; `cylinders` fire in it at even distances. */
export function faultsOf(preset: FaultPreset, cylinders: number, cycle: 360 | 720): Faults {
  switch (preset) {
    case 'none':
      return {};
    case 'noise':
      return { noiseVolts: 0.15 };
    case 'coils': {
      const count = (cylinders * 720) / cycle;
      const atDegrees = Array.from({ length: count }, (_, i) => FIRST_SPARK + (i * 720) / count);
      return { coilSpikes: { volts: 7, atDegrees, share: 0.5 } };
    }
    case 'lost':
      return { lost: 0.02 };
    case 'added':
      return { added: 0.02 };
    case 'missing':
      return { missingTooth: TOOTH };
    case 'bent':
      return { bentTooth: { tooth: TOOTH, degrees: BENT_DEGREES } };
    case 'swapped':
      return { swappedLeads: true };
    case 'crossed':
      return { crossed: true };
    case 'low':
      return { amplitude: 0.05, noiseVolts: 0.02 };
    case 'pull-up':
      return { droppedPullUp: true };
  }
}

/** A rising speed ends at so many times the first: from cranking to a fast idle. */
export const RISES_TO = 8;
/** Samples a second of a simulation: a hundred a slot of the finest disc while cranking. */
export const SIMULATED_RATE = 100_000;

/** How a simulated engine turns. */
export interface Pace {
  readonly kind: 'constant' | 'rising' | 'cranking';
  readonly rpm: number;
  /** Fastest less slowest within a turn, over the mean. */
  readonly ripple: number;
  /** Seconds to come to speed, and to rest. */
  readonly startSeconds: number;
  readonly stopSeconds: number;
}

/** A speed as the engine gives it: a starter turns it against its own compressions. */
export function speedAs({ kind, rpm, ripple, startSeconds, stopSeconds }: Pace, engine: Engine): Speed {
  if (kind === 'constant') return { type: kind, rpm };
  if (kind === 'rising') return { type: kind, fromRpm: rpm, toRpm: rpm * RISES_TO };
  return { type: 'engine', cranking: crankingOf(engine, rpm, ripple), rpm, startSeconds, stopSeconds };
}

import type { RippleFit } from './ripple';
import type { Alignment } from './align';
import type { Pace } from './pace';
import { patternOf, samePattern } from './pattern';
import { missingToothWheel, mirrored, repeats, type Wheel } from '../wheels/wheel';

/** One wheel, one way round, held against the pulses. */
export interface Trial {
  readonly wheel: Wheel;
  /** Crank degrees between the pulses as they are read, one repeat. */
  readonly pattern: readonly number[];
  /** Square signals: low while a tooth passes. */
  readonly inverted: boolean;
  /** Null where the wheel looks the same both ways. */
  readonly direction: 'forward' | 'reverse' | null;
  readonly fromLibrary: boolean;
  /** Vanes and coded widths are made for a sensor that tells iron from none: a coil hardly ever reads them. */
  readonly misread: boolean;
}

/** A trial with what came of it. */
export interface Judged extends Trial {
  readonly cost: number;
  /** What it costs in the row of pulses it was read from alone. */
  readonly rowCost: number;
  /** The edge it was read at: what a square signal goes to. */
  readonly level: 0 | 1;
  /** What the cam adds to the cost. */
  readonly stray: number;
  readonly misfit: number;
  /** Repeats of the pattern after which the cam comes round. */
  readonly round: number | null;
  readonly alignment: Alignment;
  readonly degrees: Float64Array;
  readonly ripple: RippleFit | null;
  readonly pace: Pace;
  readonly fit: number;
  readonly trail: Float64Array;
}

/**
 * Wheels as patterns of pulses, both ways round. Square signals are read by one level's edges, which are the leading ones
 * of the teeth or, inverted, their trailing ones.
 */
export function trialsFor(wheels: readonly Wheel[], square: boolean, level: 0 | 1, fromLibrary: boolean): Trial[] {
  return wheels.flatMap((wheel) => {
    const made: Trial[] = [];
    const add = (own: Wheel, direction: Trial['direction'], inverted: boolean) => {
      const pattern = patternOf(own, !square ? 'centre' : inverted === (level === 1) ? 'fall' : 'rise');
      // Ends of a width-coded wheel's teeth are even: that edge does not tell it.
      const tells = pattern.length === 1 || pattern.some((step) => Math.abs(step - pattern[0]!) > 0.01);
      if (tells && !made.some((one) => samePattern(one.pattern, pattern)))
        made.push({ wheel, pattern, inverted, direction, fromLibrary, misread: !square && needsLevels(wheel) });
    };
    const other = mirrored(wheel);
    const oneWay = samePattern(patternOf(wheel, 'rise'), patternOf(other, 'rise')) ? null : 'forward';
    add(wheel, oneWay, false);
    if (square) add(wheel, oneWay, true);
    if (oneWay) {
      add(other, 'reverse', false);
      if (square) add(other, 'reverse', true);
    }
    return made;
  });
}

/** Wheels that give the crank's angle: on the crank, and those that turn with the cam but serve as its wheel. */
export const primary = (wheel: Wheel): boolean =>
  wheel.shaft === 'crank' || wheel.family === 'distributor' || wheel.family === 'slot-disc';

export const isEven = ({ pattern }: Trial): boolean => pattern.length === 1;
export const spanOf = ({ pattern }: Trial): number => pattern.reduce((sum, one) => sum + one, 0);

const needsLevels = ({ family }: Wheel): boolean => family === 'distributor' || family === 'width-coded';
/** What it costs a wheel to be read by a sensor it is not made for. */
const MISREAD = 10;

/** Library before spelled out, crank before cam shaft, forward before reverse: only between equals. */
export const prior = (trial: Trial): number =>
  (trial.fromLibrary ? 0 : 0.4) +
  (trial.wheel.shaft === 'cam' ? 0.2 : 0) +
  (trial.direction === 'reverse' ? 1.5 : 0) +
  (trial.inverted ? 0.2 : 0) +
  (trial.misread ? MISREAD : 0) +
  // Plain wheels are by far the commonest.
  (trial.wheel.family === 'missing-tooth' || trial.wheel.family === 'even' ? 0 : 0.8) +
  (repeats(trial.wheel) > 1 && trial.pattern.length > 1 ? 0.5 : 0);

/** Intervals that are clearly longer than both neighbours, as multiples of them. */
function gapsSeen(seconds: Float64Array, from: number, to: number): { at: number; ratio: number }[] {
  const found: { at: number; ratio: number }[] = [];
  for (let i = from + 2; i + 1 < to; i += 1) {
    const [before, own, after] = [
      seconds[i - 1]! - seconds[i - 2]!,
      seconds[i]! - seconds[i - 1]!,
      seconds[i + 1]! - seconds[i]!,
    ];
    const ratio = own / Math.sqrt(before * after);
    if (ratio > 1.55) found.push({ at: i, ratio });
  }
  return found;
}

/** The commonest of some whole numbers, the smaller of equals. */
export const commonest = (values: readonly number[]): number | null => {
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  const [best] = [...counts].sort((one, other) => other[1] - one[1] || one[0] - other[0]);
  return best?.[0] ?? null;
};

/** Plain missing-tooth wheel that the gaps themselves spell, whether the library has it or not. */
export function spelled(seconds: Float64Array, from: number, to: number): Wheel | null {
  const gaps = gapsSeen(seconds, from, to);
  const between = commonest(gaps.slice(1).map(({ at }, i) => at - gaps[i]!.at));
  if (between === null || between < 2) return null;
  const ratios = gaps.map(({ ratio }) => ratio).sort((one, other) => one - other);
  const missing = Math.round(ratios[ratios.length >> 1]!) - 1;
  const places = between + missing;
  return missing >= 1 && missing <= 6 && places >= 3 && places <= 240 ? missingToothWheel(places, missing) : null;
}

import { patternOf } from './pattern';
import { showsSides, type Track } from './tracks';
import type { Wheel } from '../wheels/wheel';

// Hot loops look these up once.
const { floor, max, min } = Math;

/** Pulses looked at. */
const LOOKED = 2000;
/** Teeth of two kinds: the wide ones so many times as wide as the narrow ones, each kind at least this share of all. */
const APART = 1.35;
const SHARE = 0.06;
/** Longest row of wide and narrow teeth looked for, and share of it that must come back. */
const PERIOD_MOST = 100;
const COMES_BACK = 0.93;
/** Steps of a wheel up to which they are even. */
const OWN = 1.05;

const median = (values: readonly number[]): number =>
  [...values].sort((one, other) => one - other)[values.length >> 1]!;

/** Both edges of a wheel's teeth stand at even distances: nothing but their number tells it. */
const isEven = (wheel: Wheel): boolean =>
  (['rise', 'fall'] as const).every((spot) => {
    const steps = patternOf(wheel, spot);
    return max(...steps) < OWN * min(...steps);
  });

/**
 * A square signal whose pulses are of two widths, in an order that comes back, shows a width-coded wheel, whatever even wheel
 * its edges would fit.
 *
 * @returns The row in words, and whether it speaks against the wheel; null where the widths tell nothing.
 */
export function codedWidths(track: Track, wheel: Wheel): { readonly row: string; readonly against: boolean } | null {
  if (!showsSides(track) || track.reads !== 'levels') return null;
  const against = isEven(wheel);
  if (!against && wheel.family !== 'width-coded') return null;
  const { seconds, level } = track.edges;
  for (const high of [1, 0]) {
    const shares: number[] = [];
    for (let i = 0; i + 2 < seconds.length && shares.length < LOOKED; i += 1)
      if (level[i] === high) shares.push((seconds[i + 1]! - seconds[i]!) / (seconds[i + 2]! - seconds[i]!));
    if (shares.length < 12) continue;
    const sorted = [...shares].sort((one, other) => one - other);
    // The widest step between neighbours, away from the ends, parts the narrow from the wide.
    const ends = max(1, floor(SHARE * sorted.length));
    let [cut, step] = [0, 0];
    for (let i = ends; i < sorted.length - ends; i += 1) {
      const ratio = sorted[i]! / sorted[i - 1]!;
      if (ratio > step) [cut, step] = [(sorted[i]! + sorted[i - 1]!) / 2, ratio];
    }
    const [narrow, wide] = [shares.filter((one) => one < cut), shares.filter((one) => one >= cut)];
    if (narrow.length === 0 || wide.length === 0 || median(wide) < APART * median(narrow)) continue;
    const kinds = shares.map((one) => one >= cut);
    for (let period = 2; period <= min(PERIOD_MOST, kinds.length / 2); period += 1) {
      let same = 0;
      for (let i = period; i < kinds.length; i += 1) if (kinds[i] === kinds[i - period]) same += 1;
      if (same < COMES_BACK * (kinds.length - period)) continue;
      const row = kinds.slice(0, period).map((one) => (one ? 'w' : 'n'));
      return {
        row: `The pulses are wide and narrow in a row of ${period} that comes back (${row.slice(0, 40).join('')}): a width-coded wheel.`,
        against,
      };
    }
  }
  return null;
}

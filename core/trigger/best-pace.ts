import type { Alignment } from './align';
import { figuresOf, type Pace } from './pace';
import { weighPath } from './path';

/**
 * How even a crank turns and how much play teeth have, from the best to the worst, and what each costs: a wheel that needs much
 * of either explains little (common practice: hundredths of a place; the slope of a starter's swing of 20 to 40 %).
 */
const SLOPES = [0.00001, 0.0001, 0.0004, 0.0015, 0.004, 0.008, 0.016];
const PLAYS = [0.0002, 0.001, 0.003, 0.008, 0.016, 0.03, 0.05];
const SLOPE_PRICES = [1.5, 1, 0.5, 0, 0, 0.3, 1];
const PLAY_PRICES = [0.5, 0.3, 0, 0, 0.3, 1, 3];

/** The pace under which a path costs least, sought downhill. @param near A pace that is near it; without one it is sought from both ends. */
export function bestPace(
  alignment: Alignment,
  shown: readonly number[],
  seconds: Float64Array,
  from: number,
  clock: number,
  near?: Pace,
): { cost: number; pace: Pace; squares: Float64Array } {
  const known = new Map<number, { cost: number; pace: Pace; squares: Float64Array }>();
  const figures = figuresOf(shown);
  const weigh = (slope: number, play: number) => {
    const key = slope * PLAYS.length + play;
    let own = known.get(key);
    if (!own) {
      const pace = { slope: SLOPES[slope]!, play: PLAYS[play]!, clock };
      const { cost, squares } = weighPath(alignment, shown, seconds, from, pace, figures);
      own = { cost: cost + SLOPE_PRICES[slope]! + PLAY_PRICES[play]!, pace, squares };
      known.set(key, own);
    }
    return own;
  };
  // From loose teeth on an even crank, and from exact ones on one that swings: what the one explains the other may too.
  const begun = near && [[SLOPES.indexOf(near.slope), PLAYS.indexOf(near.play)] as const];
  const ends = (begun ?? STARTS_AT).map((at) => {
    let [slope, play]: [number, number] = [at[0], at[1]];
    for (;;) {
      let next: readonly [number, number] = [slope, play];
      for (const [s, p] of [
        [slope - 1, play],
        [slope + 1, play],
        [slope, play - 1],
        [slope, play + 1],
      ] as const) {
        if (s < 0 || p < 0 || s >= SLOPES.length || p >= PLAYS.length) continue;
        if (weigh(s, p).cost < weigh(next[0], next[1]).cost) next = [s, p];
      }
      if (next[0] === slope && next[1] === play) return weigh(slope, play);
      [slope, play] = next;
    }
  });
  return ends.reduce((best, one) => (one.cost < best.cost ? one : best));
}
/** A pace of the lists above with which a crank hardly swings any more. */
export const EVEN_PACE: Pace = { slope: SLOPES[1]!, play: PLAYS[3]!, clock: 0 };
/** Places in the lists above from which the pace is sought downhill. */
const STARTS_AT = [
  [1, 5],
  [4, 3],
] as const;

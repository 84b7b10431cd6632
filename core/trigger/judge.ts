import { align, anglesOf, folded, weighPath, type Alignment } from './align';
import type { Pace } from './pace';
import { fitRipple, swingOf, swingOver, type RippleFit, type Swing } from './ripple';

// Hot loops look these up once.
const { PI, abs, ceil, cos, exp, max, min, round, sin } = Math;

/**
 * A wheel judged over whole turns: the path of its teeth, how evenly the crank turns, how much play its teeth have, and
 * compression's swing, found together.
 *
 * With few teeth a turn the swing between two of them is as large as a lost pulse, so neither can be found first. The
 * pattern is bent by a swing that is taken for known, aligned, the swing fitted anew, and so on; coarse wheels are begun
 * from each of a set of swings (a grid over order and phase, as in harmonic regression with unknown period). The cheapest
 * of all that was seen is the answer, so more starts can only mend it.
 */
export interface Judgement {
  /** Negative logarithm of the likelihood of the pulses' times, with what the choices made cost. */
  readonly cost: number;
  readonly misfit: number;
  readonly alignment: Alignment;
  readonly degrees: Float64Array;
  readonly ripple: RippleFit | null;
  readonly pace: Pace;
  /** Mean of the squared deviations over their variance: 1 where the model holds. */
  readonly fit: number;
  /** Cost up to each pulse of the path that was sought loosely: what is compared while wheels are followed. */
  readonly trail: Float64Array;
}

const CYCLE = 720;
/** Teeth in two turns up to which the swing is sought by the grid, and up to which it is refined. */
const COARSE = 30;
const REFINED = 80;
/** Pulses the grid looks at. */
const GRID_PULSES = 120;
/** The swings begun from: orders, phases, and their half-height. */
const GRID_ORDERS = [1, 1.5, 2, 2.5, 3, 4];
const GRID_PHASES = 6;
const GRID_SWING = 0.18;
const GRID_PACE: Pace = { slope: 0.002, play: 0.03, clock: 0 };
/** By how much one may fall behind the best of the grid. */
const GRID_BEHIND = 40;
/** What a swing of the grid costs. */
const GRID_PRICE = 6;
/** Starts that are followed up, and rounds of each: finer teeth show the swing at the first look. */
const STARTS = 2;
const [ROUNDS, ROUNDS_FINE] = [3, 1];

/**
 * How even a crank turns and how much play teeth have, from the best to the worst, and what each costs: a wheel that needs much
 * of either explains little (common practice: hundredths of a place; the slope of a starter's swing of 20 to 40 %).
 */
const SLOPES = [0.00001, 0.0001, 0.0004, 0.0015, 0.004, 0.008, 0.016];
const PLAYS = [0.0002, 0.001, 0.003, 0.008, 0.016, 0.03, 0.05];
const SLOPE_PRICES = [1.5, 1, 0.5, 0, 0, 0.3, 1];
const PLAY_PRICES = [0.5, 0.3, 0, 0, 0.3, 1, 3];
/** What it costs that anything at all goes wrong on the line: on most nothing does. */
const BAD_LINE = 4;
/** A squared deviation above this speaks against the wheel. */
const CLEARLY_OFF = 6;

/** The pattern over two turns, so that a swing of half orders has its place; null where it does not divide them. */
function overCycle(pattern: readonly number[]): number[] | null {
  const span = pattern.reduce((sum, one) => sum + one, 0);
  const times = round(CYCLE / span);
  if (times < 1 || abs(times * span - CYCLE) > 1e-6) return null;
  return Array.from({ length: times }, () => pattern).flat();
}

/** Steps over which a swing is taken for even, degrees: over a gap it is not. */
const BEND_STEP = 6;

/** The pattern as a shaft with this swing shows it: slow stretches are longer. */
function bent(pattern: readonly number[], swing: Swing): number[] {
  let at = 0;
  return pattern.map((interval) => {
    const parts = max(1, ceil(interval / BEND_STEP));
    let shown = 0;
    for (let part = 0; part < parts; part += 1) {
      const from = at + (interval * part) / parts;
      shown += (interval / parts) * exp(swingOver(swing, from, from + interval / parts));
    }
    at += interval;
    return shown;
  });
}

/** The path through all pulses of a capture, the swing that was found taken for known where the wheel is coarse. */
export function alignWhole(
  pattern: readonly number[],
  seconds: Float64Array,
  { ripple, pace }: Pick<Judgement, 'ripple' | 'pace'>,
): { alignment: Alignment; degrees: Float64Array } {
  const cycle = overCycle(pattern);
  const clock = pace.clock;
  if (ripple && cycle !== null) {
    // A swing that was found over a part of the capture need not hold for all of it.
    const slope = max(pace.slope, EXACT.slope / 2);
    const alignment = align(bent(cycle, ripple.swing), seconds, 0, seconds.length, { ...pace, slope });
    const plain = align(pattern, seconds, 0, seconds.length, { ...LOOSE, clock });
    if (alignment.cost < plain.cost)
      return { alignment: folded(alignment, pattern.length), degrees: anglesOf(alignment, cycle, seconds) };
    return { alignment: plain, degrees: anglesOf(plain, pattern, seconds) };
  }
  const alignment = align(pattern, seconds, 0, seconds.length, pace);
  return { alignment, degrees: anglesOf(alignment, pattern, seconds) };
}

/** What a pattern costs at a first look: the path sought loosely, weighed as it deserves. */
export function look(
  pattern: readonly number[],
  seconds: Float64Array,
  from: number,
  to: number,
  clock: number,
  limit: Float64Array,
): { cost: number; trail: Float64Array } {
  const found = align(pattern, seconds, from, to, { ...LOOSE, clock }, { limit });
  if (!Number.isFinite(found.cost)) return found;
  return { cost: bestPace(found, pattern, seconds, from, clock).cost, trail: found.trail };
}

/** The pace under which a path costs least: first the slope, then the play, then the slope again. */
function bestPace(
  alignment: Alignment,
  shown: readonly number[],
  seconds: Float64Array,
  from: number,
  clock: number,
): { cost: number; pace: Pace; squares: Float64Array } {
  const known = new Map<number, { cost: number; pace: Pace; squares: Float64Array }>();
  const weigh = (slope: number, play: number) => {
    const key = slope * PLAYS.length + play;
    let own = known.get(key);
    if (!own) {
      const pace = { slope: SLOPES[slope], play: PLAYS[play], clock };
      const { cost, squares } = weighPath(alignment, shown, seconds, from, pace);
      own = { cost: cost + SLOPE_PRICES[slope] + PLAY_PRICES[play], pace, squares };
      known.set(key, own);
    }
    return own;
  };
  // From loose teeth on an even crank, and from exact ones on one that swings: what the one explains the other may too.
  const ends = STARTS_AT.map((at) => {
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
/** Places in the lists above from which the pace is sought downhill. */
const STARTS_AT = [
  [1, 5],
  [4, 3],
] as const;

/** @param shown The pattern as it is held against the pulses, over `pattern` as it stands on the wheel. */
function weigh(
  alignment: Alignment,
  shown: readonly number[],
  pattern: readonly number[],
  seconds: Float64Array,
  from: number,
  clock: number,
  price: number,
): Omit<Judgement, 'trail'> {
  const degrees = anglesOf(alignment, pattern, seconds, from);
  const nothing = { alignment, degrees, ripple: null, pace: { ...EXACT, clock }, fit: INFINITE };
  if (!Number.isFinite(alignment.cost)) return { cost: INFINITE, misfit: INFINITE, ...nothing };
  const { cost, pace, squares } = bestPace(alignment, shown, seconds, from, clock);
  let [sum, count, excess] = [0, 0, 0];
  for (const square of squares) {
    if (Number.isNaN(square)) continue;
    sum += square;
    count += 1;
    excess += max(0, 0.5 * (square - CLEARLY_OFF));
  }
  return {
    cost: cost + price + (alignment.events.length > 0 ? BAD_LINE : 0),
    misfit: alignment.misfit + excess,
    alignment,
    degrees,
    ripple: null,
    pace,
    fit: count > 0 ? sum / count : INFINITE,
  };
}

const INFINITE = Number.POSITIVE_INFINITY;

/** What a path is sought with: loosely first, which loses its place least; then as for exact teeth on a crank that hardly swings. */
const LOOSE = { slope: 0.01, play: 0.035 } as const;
const EXACT = { slope: 0.003, play: 0.012 } as const;

/** Path, pace, and the path anew with the pace that was found. */
function settle(
  shown: readonly number[],
  pattern: readonly number[],
  seconds: Float64Array,
  from: number,
  to: number,
  clock: number,
  price = 0,
  how: { readonly start?: number; readonly limit?: Float64Array } = {},
): Judgement {
  const weighed = (found: Alignment) => weigh(found, shown, pattern, seconds, from, clock, price);
  const loose = align(shown, seconds, from, to, { ...LOOSE, clock }, how);
  let best = weighed(loose);
  if (loose.events.length === 0 || !Number.isFinite(best.cost)) return { ...best, trail: loose.trail };
  for (const pace of price > 0 ? [best.pace] : [{ ...EXACT, clock }, best.pace]) {
    const other = weighed(align(shown, seconds, from, to, pace, { start: how.start }));
    if (other.cost < best.cost) best = other;
    if (other.alignment.events.length === 0) break;
  }
  return { ...best, trail: loose.trail };
}

/**
 * The first judgement: the path without a swing.
 *
 * @param clock Seconds by which a pulse's time is off, root mean square.
 * @param limit Cost at each pulse from which on the wheel is given up.
 */
export const judge = (
  pattern: readonly number[],
  seconds: Float64Array,
  from: number,
  to: number,
  clock: number,
  limit?: Float64Array,
): Judgement => settle(pattern, pattern, seconds, from, to, clock, 0, { limit });

/** Compression's swing along a path; null with too few pulses, or where it explains nothing. */
function swingAlong(
  { alignment: { events }, degrees }: Judgement,
  seconds: Float64Array,
  from: number,
  to: number,
  engines: readonly Swing[],
): RippleFit | null {
  const breaks = new Set(events.flatMap(({ pulse, kind }) => (kind === 'break' ? [pulse - from] : [])));
  // A pulse off its place says nothing of the speed: the one interval over it does.
  const placed = degrees.slice();
  for (const { pulse, kind } of events) if (kind === 'bent') placed[pulse - from] = Number.NaN;
  const ripple = fitRipple(seconds.subarray(from, to), placed, (pulse) => breaks.has(pulse), engines);
  return ripple && ripple.order > 0 ? ripple : null;
}

/** The second: path and swing together. Never worse than the first. @param engines Swings the build's engine may have. */
export function refine(
  first: Judgement,
  pattern: readonly number[],
  seconds: Float64Array,
  from: number,
  to: number,
  clock: number,
  engines: readonly Swing[] = [],
): Judgement {
  const cycle = overCycle(pattern);
  if (cycle === null || !Number.isFinite(first.cost)) return first;
  let best = first;
  const attempt = (swing: Pick<RippleFit, 'swing' | 'price'>, start?: number) => {
    const found = settle(bent(cycle, swing.swing), cycle, seconds, from, to, clock, swing.price, { start });
    const ripple = swingAlong(found, seconds, from, to, engines);
    if (found.cost < best.cost) best = { ...found, ripple, alignment: folded(found.alignment, pattern.length) };
    return { ripple, cost: found.cost };
  };
  const own = swingAlong(first, seconds, from, to, engines);
  const [tooth] = first.alignment.teeth;
  const starts: { swing: Pick<RippleFit, 'swing' | 'price'>; start?: number }[] = own
    ? [{ swing: own, start: tooth >= 0 ? tooth : undefined }]
    : [];
  if (cycle.length <= COARSE) {
    const end = min(to, from + GRID_PULSES);
    const limit = new Float64Array(end - from).fill(INFINITE);
    const grid = GRID_ORDERS.flatMap((order) =>
      Array.from({ length: GRID_PHASES }, (_, k) => {
        const phase = (2 * PI * k) / GRID_PHASES;
        const swing = swingOf(order, GRID_SWING * cos(phase), GRID_SWING * sin(phase));
        const { cost, trail } = align(bent(cycle, swing), seconds, from, end, { ...GRID_PACE, clock }, { limit });
        for (let i = 0; i < trail.length; i += 1) limit[i] = min(limit[i], trail[i] + GRID_BEHIND);
        return { swing: { swing, price: GRID_PRICE }, cost };
      }),
    );
    grid.sort((one, other) => one.cost - other.cost);
    starts.push(...grid.slice(0, STARTS).map(({ swing }) => ({ swing })));
  }
  const rounds = cycle.length <= REFINED ? ROUNDS : ROUNDS_FINE;
  for (const { swing: begun, start } of starts) {
    let swing = begun;
    let before = INFINITE;
    for (let round = 0; round < rounds; round += 1) {
      const { ripple, cost } = attempt(swing, start);
      if (!ripple || cost >= before - 0.5) break;
      [swing, before] = [ripple, cost];
    }
  }
  return best;
}

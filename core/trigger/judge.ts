import { align, folded, type Alignment } from './align';
import { bestPace, EVEN_PACE } from './best-pace';
import type { Pace } from './pace';
import { anglesOf } from './path';
import { fitRipples, type RippleFit } from './ripple';
import { swingOf, swingsOver, type Swing } from './swing';

// Hot loops look these up once.
const { PI, abs, ceil, cos, exp, floor, max, min, round, sin } = Math;

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
/** The swings begun from: orders, phases, and their half-height. */
const GRID_ORDERS = [1, 1.5, 2, 2.5, 3, 4];
const GRID_PHASES = 6;
const GRID_SWING = 0.18;
const GRID = GRID_ORDERS.flatMap((order) =>
  Array.from({ length: GRID_PHASES }, (_, k) => {
    const phase = (2 * PI * k) / GRID_PHASES;
    return swingOf(order, GRID_SWING * cos(phase), GRID_SWING * sin(phase));
  }),
);
/** Pulses over which all of them are tried. */
const GRID_FIRST = 32;
const GRID_PACE: Pace = { slope: 0.002, play: 0.03, clock: 0 };
/** Of them go on, and by how much one may fall behind the best. */
const GRID_LEFT = 10;
const GRID_BEHIND = 40;
/** And one wheel behind another, each with its best of the grid. */
const SWUNG_BEHIND = 100;
/** What a swing of the grid costs. */
const GRID_PRICE = 6;
/** Starts that are followed up, and rounds of each: finer teeth show the swing at the first look. */
const STARTS = 2;
const [ROUNDS, ROUNDS_FINE] = [3, 1];
/** One that is dearer than the best by this is not followed up. */
const HOPELESS = 60;

/** What it costs that anything at all goes wrong on the line: on most nothing does. */
const BAD_LINE = 4;
/** A squared deviation above this speaks against the wheel. */
const CLEARLY_OFF = 6;

/** The pattern over two turns, so that a swing of half orders has its place; null where it does not divide them. */
export function overCycle(pattern: readonly number[]): number[] | null {
  const span = pattern.reduce((sum, one) => sum + one, 0);
  const times = round(CYCLE / span);
  if (times < 1 || abs(times * span - CYCLE) > 1e-6) return null;
  return Array.from({ length: times }, () => pattern).flat();
}

/** Steps over which a swing is taken for even, degrees: over a gap it is not. */
const BEND_STEP = 6;

/** The pattern as a shaft with this swing shows it: slow stretches are longer. */
export function bent(pattern: readonly number[], swing: Swing): number[] {
  let at = 0;
  const over = swingsOver(swing);
  return pattern.map((interval) => {
    const parts = max(1, ceil(interval / BEND_STEP));
    let shown = 0;
    for (let part = 0; part < parts; part += 1) {
      const from = at + (interval * part) / parts;
      shown += (interval / parts) * exp(over(from, from + interval / parts));
    }
    at += interval;
    return shown;
  });
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
  const loose = bestPace(found, pattern, seconds, from, clock);
  if (excessOf(loose.squares) <= CLEAN) return { cost: loose.cost, trail: found.trail };
  const keen = align(pattern, seconds, from, to, { ...KEEN, clock });
  return { cost: min(loose.cost, bestPace(keen, pattern, seconds, from, clock).cost), trail: found.trail };
}

/** What the squared deviations of a path are too large by. */
function excessOf(squares: Float64Array): number {
  let excess = 0;
  for (const square of squares) if (square > CLEARLY_OFF) excess += 0.5 * (square - CLEARLY_OFF);
  return excess;
}
/** Excess up to which nothing stands off its place. */
const CLEAN = 4;

/** @param shown The pattern as it is held against the pulses, over `pattern` as it stands on the wheel. */
function weigh(
  alignment: Alignment,
  shown: readonly number[],
  pattern: readonly number[],
  seconds: Float64Array,
  from: number,
  clock: number,
  price: number,
  near?: Pace,
): Omit<Judgement, 'trail'> {
  const degrees = anglesOf(alignment, pattern, seconds, from);
  const nothing = { alignment, degrees, ripple: null, pace: { ...EXACT, clock }, fit: INFINITE };
  if (!Number.isFinite(alignment.cost)) return { cost: INFINITE, misfit: INFINITE, ...nothing };
  const { cost, pace, squares } = bestPace(alignment, shown, seconds, from, clock, near);
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
export const LOOSE = { slope: 0.01, play: 0.035 } as const;
const EXACT = { slope: 0.003, play: 0.012 } as const;
/** And for exact teeth on a crank that swings hard: a tooth off its place is told from play. */
export const KEEN = { slope: 0.01, play: 0.006 } as const;

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
  const weighed = (found: Alignment, near?: Pace) => weigh(found, shown, pattern, seconds, from, clock, price, near);
  const loose = align(shown, seconds, from, to, { ...LOOSE, clock }, how);
  let best = weighed(loose);
  if (!Number.isFinite(best.cost) || (loose.events.length === 0 && best.misfit <= CLEAN))
    return { ...best, trail: loose.trail };
  for (const pace of price > 0
    ? [best.pace, { ...KEEN, clock }]
    : [{ ...EXACT, clock }, { ...KEEN, clock }, best.pace]) {
    const other = weighed(align(shown, seconds, from, to, pace, { start: how.start }), best.pace);
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

/** Compression's swing along a path, as it may be; none with too few pulses, or where none explains anything. */
function swingsAlong(
  { alignment: { events }, degrees }: Judgement,
  seconds: Float64Array,
  from: number,
  to: number,
  engines: readonly Swing[],
): RippleFit[] {
  const breaks = new Set(events.flatMap(({ pulse, kind }) => (kind === 'break' ? [pulse - from] : [])));
  // A pulse off its place says nothing of the speed: the one interval over it does.
  const placed = degrees.slice();
  for (const { pulse, kind } of events) if (kind === 'bent') placed[pulse - from] = Number.NaN;
  const fits = fitRipples(seconds.subarray(from, to), placed, (pulse) => breaks.has(pulse), engines);
  const none = fits.findIndex(({ order }) => order === 0);
  return none < 0 ? fits : fits.slice(0, none);
}

/** A path through one repeat's teeth as one through all of a cycle's. */
function overTurns({ alignment, degrees }: Judgement, pattern: readonly number[], cycle: readonly number[]): Alignment {
  const span = pattern.reduce((sum, one) => sum + one, 0);
  const times = cycle.length / pattern.length;
  const lift = (tooth: number, turn: number) => tooth + pattern.length * (((turn % times) + times) % times);
  let turn = 0;
  const teeth = alignment.teeth.map((tooth, i) => {
    if (tooth < 0 || Number.isNaN(degrees[i])) return -1;
    turn = floor(degrees[i]! / span + 1e-9);
    return lift(tooth, turn);
  });
  return { ...alignment, teeth };
}

/** Whether a cycle has so few teeth that a swing between two of them is as large as a lost one. */
export const isCoarse = (cycle: readonly number[]): boolean => cycle.length <= COARSE;

/** What a cycle of few teeth costs with each swing of the grid, the cheapest first; the price of a swing is not in it. */
function swungLook(
  cycle: readonly number[],
  seconds: Float64Array,
  from: number,
  to: number,
  clock: number,
  limit: Float64Array,
) {
  const through = (swings: readonly (readonly number[])[], end: number) =>
    swings
      .map((swing) => {
        const { cost, trail } = align(bent(cycle, swing), seconds, from, end, { ...GRID_PACE, clock }, { limit });
        for (let i = 0; i < trail.length; i += 1) limit[i] = min(limit[i]!, trail[i]! + GRID_BEHIND);
        return { swing, cost, trail };
      })
      .sort((one, other) => one.cost - other.cost);
  if (to - from <= GRID_FIRST) return through(GRID, to);
  // The likeliest over a few pulses goes first: it sets how far the others may fall behind.
  const [best, ...others] = through(GRID, from + GRID_FIRST);
  const near = others.slice(0, GRID_LEFT).filter(({ cost }) => cost <= best!.cost + GRID_BEHIND);
  return through(
    [best!, ...near].map(({ swing }) => swing),
    to,
  );
}

/** Pulses over which a swing is sought for a pattern of few teeth. */
export const SWUNG_PULSES = 100;

/** What few teeth come to with a swing. */
export interface Swung {
  /** Over the pulses from the first to `end`, the price of a swing with it. */
  readonly cost: number;
  readonly end: number;
  /** Swings to begin with, the likeliest first. */
  readonly swings: readonly Swing[];
}

/**
 * What a pattern of few teeth may come to at a first look once a swing is granted it; null for one with more.
 *
 * @param limit Cost at each pulse from which on a swing is given up; lowered to what is found.
 */
export function swungFirst(
  pattern: readonly number[],
  seconds: Float64Array,
  from: number,
  to: number,
  clock: number,
  limit: Float64Array,
): Swung | null {
  const cycle = overCycle(pattern);
  if (cycle === null || !isCoarse(cycle)) return null;
  const end = min(to, from + SWUNG_PULSES);
  const found = swungLook(cycle, seconds, from, end, clock, limit.slice(0, end - from));
  const { cost, trail } = found[0]!;
  for (let i = 0; i < trail.length; i += 1) limit[i] = min(limit[i]!, trail[i]! + SWUNG_BEHIND);
  return { cost: cost + GRID_PRICE, end, swings: found.slice(0, STARTS).map(({ swing }) => swing) };
}

/**
 * The second: path and swing together. Never worse than the first.
 *
 * @param engines Swings the build's engine may have.
 * @param begun Swings to begin with, where they were sought before.
 */
export function refine(
  first: Judgement,
  pattern: readonly number[],
  seconds: Float64Array,
  from: number,
  to: number,
  clock: number,
  engines: readonly Swing[] = [],
  begun: readonly Swing[] | null = null,
): Judgement {
  const cycle = overCycle(pattern);
  if (cycle === null || !Number.isFinite(first.cost)) return first;
  let best = first;
  // Which orders a swing has is told by the times themselves: the path stays, the likeliest goes first.
  const likeliest = (path: Judgement): readonly RippleFit[] => {
    const fits = swingsAlong(path, seconds, from, to, engines);
    if (fits.length < 2) return fits;
    const alignment = path === first ? overTurns(first, pattern, cycle) : path.alignment;
    return fits
      .map((fit) => ({
        fit,
        cost: fit.price + bestPace(alignment, bent(cycle, fit.swing), seconds, from, clock, EVEN_PACE).cost,
      }))
      .sort((one, other) => one.cost - other.cost)
      .map(({ fit }) => fit);
  };
  const attempt = (swing: Pick<RippleFit, 'swing' | 'price'>, start?: number) => {
    const found = settle(bent(cycle, swing.swing), cycle, seconds, from, to, clock, swing.price, { start });
    const [ripple = null] = likeliest(found);
    if (found.cost < best.cost) best = { ...found, ripple, alignment: folded(found.alignment, pattern.length) };
    return { ripple, cost: found.cost };
  };
  // A path that had to be begun anew was begun at the wrong tooth; even teeth have but one.
  const wrong = pattern.length > 1 && first.alignment.events.some(({ kind }) => kind === 'break');
  const tooth = wrong ? -1 : first.alignment.teeth[0]!;
  // A path may be wrong where the likeliest swing is only a part of what it does: the next is tried too.
  const starts: { swing: Pick<RippleFit, 'swing' | 'price'>; start?: number }[] = likeliest(first)
    .slice(0, STARTS)
    .map((swing) => ({ swing, start: tooth >= 0 ? tooth : undefined }));
  if (isCoarse(cycle)) {
    const limit = new Float64Array(to - from).fill(INFINITE);
    const swings = begun ?? swungFirst(pattern, seconds, from, to, clock, limit)!.swings;
    starts.push(...swings.map((swing) => ({ swing: { swing, price: GRID_PRICE } })));
  }
  const rounds = cycle.length <= REFINED ? ROUNDS : ROUNDS_FINE;
  for (const { swing: begun, start } of starts) {
    let swing = begun;
    let before = INFINITE;
    for (let round = 0; round < rounds; round += 1) {
      const { ripple, cost } = attempt(swing, start);
      if (!ripple || cost >= before - 0.5 || cost > best.cost + HOPELESS) break;
      [swing, before] = [ripple, cost];
    }
  }
  return best;
}

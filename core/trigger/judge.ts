import { align, anglesOf, folded, priceOf, weighPath, type Alignment, type PulseEvent } from './align';
import { figuresOf, type Pace } from './pace';
import { fitRipples, swingOf, swingOver, type RippleFit, type Swing } from './ripple';
import type { Standstill } from './standstill';

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

/** Teeth a repeat from which a step tells how many were lost. */
const TELLS_STEPS = 6;

/** What goes wrong along a path, told by its teeth: a pulse between two teeth that one lies between is that one, off its place. */
function told(path: Int32Array, count: number, off: ReadonlySet<number>): { teeth: Int32Array; events: PulseEvent[] } {
  const teeth = path.slice();
  const events: PulseEvent[] = [];
  let before = -1;
  for (let i = 0; i < teeth.length; i += 1) {
    if (teeth[i] < 0) continue;
    if (before >= 0) {
      const step = (((teeth[i] - teeth[before]) % count) + count) % count;
      const strays = i - before - 1;
      if (step === 2 && strays === 1) {
        teeth[i - 1] = (teeth[before] + 1) % count;
        events.push({ pulse: i - 1, kind: 'bent', tooth: teeth[i - 1] });
      } else {
        for (let stray = before + 1; stray < i; stray += 1)
          events.push({ pulse: stray + 1, kind: 'added', tooth: teeth[i] });
        if (step === 2 || step === 3)
          for (let gone = 0; gone < step - 1; gone += 1)
            events.push({ pulse: i, kind: 'lost', tooth: (teeth[i] - gone + count) % count });
        else if (step !== 1) events.push({ pulse: i, kind: 'break', tooth: teeth[i] });
      }
    }
    if (off.has(i)) events.push({ pulse: i, kind: 'bent', tooth: teeth[i] });
    before = i;
  }
  return { teeth, events };
}

/** Backwards from a tooth that is known to the first pulse: spinning up is followed from where the crank is at speed. */
function backwards(
  pattern: readonly number[],
  seconds: Float64Array,
  from: number,
  tooth: number,
  pace: Pace,
): { teeth: Int32Array; off: number[] } {
  const count = pattern.length;
  const turned = pattern.map((_, j) => pattern[(2 * count - j - 1) % count]);
  const times = Float64Array.from({ length: from + 1 }, (_, i) => -seconds[from - i]);
  const found = align(turned, times, 0, times.length, pace, { start: (count - tooth) % count });
  const teeth = new Int32Array(from).fill(-1);
  for (let i = 1; i <= from; i += 1) if (found.teeth[i] >= 0) teeth[from - i] = (count - found.teeth[i]) % count;
  const off = found.events.filter(({ kind }) => kind === 'bent').map(({ pulse }) => from - pulse);
  return { teeth, off };
}

/**
 * The path through all pulses of a capture: from the stretch it was judged on, forwards and backwards; where the crank all but
 * stands it is interrupted and taken up anew behind.
 *
 * @param from Number of the first pulse of that stretch.
 */
export function alignWhole(
  pattern: readonly number[],
  seconds: Float64Array,
  judged: Pick<Judgement, 'ripple' | 'pace' | 'alignment'>,
  from: number,
  stops: readonly Standstill[] = [],
): { alignment: Alignment; degrees: Float64Array } {
  if (stops.length === 0) return alignTurning(pattern, seconds, judged, from);
  const teeth = new Int32Array(seconds.length).fill(-1);
  const events: PulseEvent[] = [];
  const { clock, play } = judged.pace;
  let cost = 0;
  [...stops, { from: seconds.length, to: seconds.length }].forEach(({ from: end }, i) => {
    const start = stops[i - 1]?.to ?? 0;
    const own = seconds.subarray(start, end);
    const shift = ({ pulse, ...rest }: PulseEvent): PulseEvent => ({ ...rest, pulse: pulse + start });
    const found =
      from >= start && from < end
        ? alignTurning(
            pattern,
            own,
            {
              ...judged,
              alignment: {
                ...judged.alignment,
                events: judged.alignment.events.map((one) => ({ ...one, pulse: one.pulse - start })),
              },
            },
            from - start,
          ).alignment
        : align(pattern, own, 0, own.length, { ...KEEN, play: max(KEEN.play, play), clock });
    teeth.set(found.teeth, start);
    cost += Number.isFinite(found.cost) ? found.cost : 0;
    const first = found.teeth.findIndex((tooth) => tooth >= 0);
    if (i > 0 && first >= 0) events.push({ pulse: start + first, kind: 'break', tooth: found.teeth[first] });
    events.push(...found.events.map(shift));
  });
  const alignment = { cost, misfit: priceOf(events), teeth, events, trail: new Float64Array(0) };
  return { alignment, degrees: anglesOf(alignment, pattern, seconds) };
}

/** The same for pulses of a crank that turns one way. */
function alignTurning(
  pattern: readonly number[],
  seconds: Float64Array,
  { ripple, pace, alignment: judged }: Pick<Judgement, 'ripple' | 'pace' | 'alignment'>,
  from: number,
): { alignment: Alignment; degrees: Float64Array } {
  const cycle = overCycle(pattern);
  const { clock, play } = pace;
  const keen = { ...KEEN, play: max(KEEN.play, play), clock };
  // Behind a break the place is found again: from there the rest is followed both ways.
  const breaks = judged.events.filter(({ kind }) => kind === 'break').map(({ pulse }) => pulse - from);
  const settled = max(0, ...breaks);
  const at = pattern.length >= TELLS_STEPS ? judged.teeth.findIndex((tooth, i) => i >= settled && tooth >= 0) : -1;
  if (at >= 0 && breaks.length <= 1) {
    const start = from + at;
    const tooth = judged.teeth[at];
    const shape = ripple && cycle ? bent(cycle, ripple.swing) : pattern;
    const ahead = [keen, { ...LOOSE, clock }].map((one) => {
      const found = align(shape, seconds, start, seconds.length, one, { start: tooth });
      return { found, cost: bestPace(found, shape, seconds, start, clock).cost };
    });
    const { found } = ahead.reduce((best, one) => (one.cost < best.cost ? one : best));
    const path = new Int32Array(seconds.length).fill(-1);
    found.teeth.forEach((one, i) => (path[start + i] = one < 0 ? one : one % pattern.length));
    const off = new Set(found.events.filter(({ kind }) => kind === 'bent').map(({ pulse }) => pulse));
    if (start > 1) {
      const back = backwards(pattern, seconds, start, tooth, { ...keen, slope: SPINNING });
      path.set(back.teeth);
      back.off.forEach((pulse) => off.add(pulse));
    }
    const { teeth, events } = told(path, pattern.length, off);
    const alignment = { cost: found.cost, misfit: priceOf(events), teeth, events, trail: found.trail };
    return { alignment, degrees: anglesOf(alignment, pattern, seconds) };
  }
  const paces: Pace[] = [{ ...LOOSE, clock }, keen, { slope: SPINNING, play: LOOSE.play, clock }];
  const ways = paces.map((one) => {
    const alignment = align(pattern, seconds, 0, seconds.length, one);
    const { cost } = bestPace(alignment, pattern, seconds, 0, clock);
    return { cost, alignment, degrees: () => anglesOf(alignment, pattern, seconds) };
  });
  if (ripple && cycle !== null) {
    const shown = bent(cycle, ripple.swing);
    const alignment = align(shown, seconds, 0, seconds.length, keen);
    const { cost } = bestPace(alignment, shown, seconds, 0, clock);
    ways.push({
      cost,
      alignment: folded(alignment, pattern.length),
      degrees: () => anglesOf(alignment, cycle, seconds),
    });
  }
  const best = ways.reduce((one, other) => (other.cost < one.cost ? other : one));
  return { alignment: best.alignment, degrees: best.degrees() };
}
/** Slope of the speed while a starter engages, per degree. */
const SPINNING = 0.03;

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

/** The pace under which a path costs least, sought downhill. @param near A pace that is near it; without one it is sought from both ends. */
function bestPace(
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
      const pace = { slope: SLOPES[slope], play: PLAYS[play], clock };
      const { cost, squares } = weighPath(alignment, shown, seconds, from, pace, figures);
      own = { cost: cost + SLOPE_PRICES[slope] + PLAY_PRICES[play], pace, squares };
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
const EVEN_PACE: Pace = { slope: SLOPES[1], play: PLAYS[3], clock: 0 };
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
const LOOSE = { slope: 0.01, play: 0.035 } as const;
const EXACT = { slope: 0.003, play: 0.012 } as const;
/** And for exact teeth on a crank that swings hard: a tooth off its place is told from play. */
const KEEN = { slope: 0.01, play: 0.006 } as const;

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
    turn = floor(degrees[i] / span + 1e-9);
    return lift(tooth, turn);
  });
  return { ...alignment, teeth };
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
  // Which orders a swing has is told by the times themselves: the path stays, the likeliest is taken.
  const likeliest = (path: Judgement): RippleFit | null => {
    const fits = swingsAlong(path, seconds, from, to, engines);
    if (fits.length < 2) return fits[0] ?? null;
    const alignment = path === first ? overTurns(first, pattern, cycle) : path.alignment;
    const costs = fits.map(
      ({ swing, price }) => price + bestPace(alignment, bent(cycle, swing), seconds, from, clock, EVEN_PACE).cost,
    );
    return fits[costs.indexOf(min(...costs))];
  };
  const attempt = (swing: Pick<RippleFit, 'swing' | 'price'>, start?: number) => {
    const found = settle(bent(cycle, swing.swing), cycle, seconds, from, to, clock, swing.price, { start });
    const ripple = likeliest(found);
    if (found.cost < best.cost) best = { ...found, ripple, alignment: folded(found.alignment, pattern.length) };
    return { ripple, cost: found.cost };
  };
  // A path that had to be begun anew was begun at the wrong tooth; even teeth have but one.
  const wrong = pattern.length > 1 && first.alignment.events.some(({ kind }) => kind === 'break');
  const tooth = wrong ? -1 : first.alignment.teeth[0];
  const own = likeliest(first);
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

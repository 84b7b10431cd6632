import { align, anglesOf, folded, priceOf, type Alignment } from './align';
import { fitRipple, LEAST_REST, swingOver, type RippleFit } from './ripple';

/**
 * A wheel judged over whole turns: the path of its teeth and compression's swing, found together.
 *
 * With few teeth a turn the swing between two of them is as large as a lost pulse, so neither can be found first. The
 * pattern is bent by a swing that is taken for known, aligned, the swing fitted anew, and so on; coarse wheels are begun
 * from each of a set of swings (a grid over order and phase, as in harmonic regression with unknown period). The cheapest
 * of all that was seen is the answer, so more starts can only mend it.
 */
export interface Judgement {
  readonly cost: number;
  readonly misfit: number;
  readonly alignment: Alignment;
  readonly degrees: Float64Array;
  readonly ripple: RippleFit | null;
}

const CYCLE = 720;
/** Teeth in two turns up to which the swing is sought by the grid, and up to which it is refined. */
const COARSE = 30;
const REFINED = 80;
/** Pulses the grid looks at. */
const GRID_PULSES = 200;
/** The swings begun from: orders, phases, and their half-height. */
const GRID_ORDERS = [1, 1.5, 2, 2.5, 3, 4];
const GRID_PHASES = 6;
const GRID_SWING = 0.18;
/** Unrest the grid reckons with, logarithmic: jitter of some hundredths, twice. */
const GRID_UNREST = 0.07;
/** Starts that are followed up, and rounds of each. */
const STARTS = 3;
const ROUNDS = 3;

/** The pattern over two turns, so that a swing of half orders has its place; null where it does not divide them. */
function overCycle(pattern: readonly number[]): number[] | null {
  const span = pattern.reduce((sum, one) => sum + one, 0);
  const times = Math.round(CYCLE / span);
  if (times < 1 || Math.abs(times * span - CYCLE) > 1e-6) return null;
  return Array.from({ length: times }, () => pattern).flat();
}

/** The pattern as a shaft with this swing shows it: slow stretches are longer. */
function bent(pattern: readonly number[], swing: Pick<RippleFit, 'order' | 'swing'>): number[] {
  let at = 0;
  return pattern.map((interval) => {
    const shown = interval * Math.exp(swingOver(swing, at, at + interval));
    at += interval;
    return shown;
  });
}

/** The path through all pulses of a capture, the swing that was found taken for known where the wheel is coarse. */
export function alignWhole(
  pattern: readonly number[],
  seconds: Float64Array,
  { ripple, alignment: judged }: Pick<Judgement, 'ripple' | 'alignment'>,
): { alignment: Alignment; degrees: Float64Array } {
  const cycle = overCycle(pattern);
  const coarse = cycle !== null && cycle.length <= REFINED;
  // With fine teeth the unrest of the window holds for the whole: one pass is enough.
  const plain = align(pattern, seconds, 0, seconds.length, coarse ? undefined : judged.unrest);
  if (ripple && ripple.order > 0 && coarse) {
    const alignment = align(bent(cycle, ripple), seconds);
    if (alignment.cost < plain.cost)
      return { alignment: folded(alignment, pattern.length), degrees: anglesOf(alignment, cycle, seconds) };
  }
  return { alignment: plain, degrees: anglesOf(plain, pattern, seconds) };
}

/** What a wheel costs that explains every one of so many pulses. */
export const leastCost = (pulses: number): number => (pulses - 1) * Math.log(LEAST_REST);

function weigh(
  alignment: Alignment,
  pattern: readonly number[],
  seconds: Float64Array,
  from: number,
  to: number,
): Judgement {
  const degrees = anglesOf(alignment, pattern, seconds, from);
  const { events } = alignment;
  const breaks = new Set(events.flatMap(({ pulse, kind }) => (kind === 'break' ? [pulse - from] : [])));
  // A pulse off its place says nothing of the speed: the one interval over it does.
  const placed = degrees.slice();
  for (const { pulse, kind } of events) if (kind === 'bent') placed[pulse - from] = Number.NaN;
  const ripple = Number.isFinite(alignment.cost)
    ? fitRipple(seconds.subarray(from, to), placed, (pulse) => breaks.has(pulse))
    : null;
  const cost = ripple ? ripple.cost + priceOf(events) : Number.POSITIVE_INFINITY;
  return { cost, misfit: alignment.misfit, alignment, degrees, ripple };
}

/** The first judgement: the path without a swing, then the swing along it. */
export const judge = (pattern: readonly number[], seconds: Float64Array, from: number, to: number): Judgement =>
  weigh(align(pattern, seconds, from, to), pattern, seconds, from, to);

/** The second: path and swing together. Never worse than the first. */
export function refine(
  first: Judgement,
  pattern: readonly number[],
  seconds: Float64Array,
  from: number,
  to: number,
): Judgement {
  const cycle = overCycle(pattern);
  if (cycle === null || cycle.length > REFINED) return first;
  let best = first;
  const attempt = (swing: Pick<RippleFit, 'order' | 'swing'>) => {
    const found = weigh(align(bent(cycle, swing), seconds, from, to), cycle, seconds, from, to);
    if (found.cost < best.cost) best = { ...found, alignment: folded(found.alignment, pattern.length) };
    return found;
  };
  const starts: Pick<RippleFit, 'order' | 'swing'>[] = first.ripple && first.ripple.order > 0 ? [first.ripple] : [];
  if (cycle.length <= COARSE) {
    const end = Math.min(to, from + GRID_PULSES);
    const grid = GRID_ORDERS.flatMap((order) =>
      Array.from({ length: GRID_PHASES }, (_, k) => {
        const phase = (2 * Math.PI * k) / GRID_PHASES;
        const swing = { order, swing: [GRID_SWING * Math.cos(phase), GRID_SWING * Math.sin(phase)] };
        return { swing, cost: align(bent(cycle, swing), seconds, from, end, GRID_UNREST).cost };
      }),
    );
    grid.sort((one, other) => one.cost - other.cost);
    starts.push(...grid.slice(0, STARTS).map(({ swing }) => swing));
  }
  for (const start of starts) {
    let swing = start;
    let before = Number.POSITIVE_INFINITY;
    for (let round = 0; round < ROUNDS; round += 1) {
      const { ripple, cost } = attempt(swing);
      if (!ripple || ripple.order === 0 || cost >= before - 0.5) break;
      [swing, before] = [ripple, cost];
    }
  }
  return best;
}

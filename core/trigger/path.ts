import { ADDED, BENT, BREAK, BREAK_SPEED, LOST, type Alignment, type PulseEvent } from './align';
import { advance, begin, HALF, paceTable, priceOfPulse, SLOW, STATE, STRIDE, TAU, type Pace } from './pace';

// Hot loops look these up once.
const { log, max, min, round } = Math;

/** What happened at each pulse. */
interface Happening {
  readonly lost: number;
  readonly broken: boolean;
  readonly bent: boolean;
}
const PLAIN: Happening = { lost: 0, broken: false, bent: false };
/** By the pulse's number from the first. */
function happenings(events: readonly PulseEvent[], from: number): Map<number, Happening> {
  const found = new Map<number, Happening>();
  for (const { pulse, kind } of events) {
    const before = found.get(pulse - from) ?? PLAIN;
    found.set(pulse - from, {
      lost: before.lost + (kind === 'lost' ? 1 : 0),
      broken: before.broken || kind === 'break',
      bent: before.bent || kind === 'bent',
    });
  }
  return found;
}

/** A path weighed with another pace, without being sought again. */
export interface Weighed {
  readonly cost: number;
  /** Squared deviation of each pulse over its variance; NaN for those that tell nothing. */
  readonly squares: Float64Array;
}

/** Cost: one filter over the pulses. @param figures Of the intervals (pace.ts), where they are known. */
export function weighPath(
  { teeth: path, events }: Pick<Alignment, 'teeth' | 'events'>,
  intervals: readonly number[],
  seconds: Float64Array,
  from: number,
  pace: Pace,
  figures?: Float64Array,
): Weighed {
  const table = paceTable(intervals, pace, figures);
  const [logUsual, logTeeth] = [log(table.usual), log(intervals.length)];
  const squares = new Float64Array(path.length).fill(Number.NaN);
  const state = new Float64Array(STATE);
  const kinds = happenings(events, from);
  let cost = 0;
  let before = -1;
  for (let i = 0; i < path.length; i += 1) {
    const tooth = path[i]!;
    const step = i === 0 ? 0 : max(1e-12, seconds[from + i]! - seconds[from + i - 1]!);
    if (before < 0) {
      if (i === 0) continue;
      begin(state, 0, table, tooth < 0 ? 0 : tooth, step);
      cost += log(step);
      before = i;
      continue;
    }
    if (tooth < 0) {
      cost += ADDED + logUsual + state[SLOW]!;
      state[TAU]! -= step;
      continue;
    }
    const { lost, broken, bent } = kinds.get(i) ?? PLAIN;
    if (broken) {
      const change =
        (log(step / intervals[(tooth + intervals.length - 1) % intervals.length]!) - state[SLOW]!) / BREAK_SPEED;
      cost += BREAK + logTeeth + log(2.5 * step * BREAK_SPEED) + 0.5 * change * change;
      begin(state, 0, table, tooth, step);
    } else if (bent) {
      cost += BENT + logUsual + state[SLOW]!;
      advance(state, 0, state, 0, table, tooth * 3 * STRIDE, step, false);
    } else {
      const f = (tooth * 3 + min(2, lost)) * STRIDE;
      cost += lost * LOST + priceOfPulse(state, 0, table, f, step);
      advance(state, 0, state, 0, table, f, step, true);
      squares[i] = 2 * state[HALF]!;
    }
    before = i;
  }
  return { cost, squares };
}

/** Speeds of the last intervals that tell how far the wheel went over a break. */
const SPEED_OVER = 6;

/**
 * Crank degrees of each pulse along the path, 0 at the pattern's first tooth; NaN for a pulse that is one too many. Over a
 * break the path is taken up at the place of the new tooth that lies nearest to where the speed before would have led.
 *
 * @param seconds Times of all pulses; the path's first is number `from`.
 */
export function anglesOf(
  alignment: Pick<Alignment, 'teeth' | 'events'>,
  intervals: readonly number[],
  seconds: Float64Array,
  from = 0,
): Float64Array {
  const teeth = intervals.length;
  const place = intervals.map((_, k) => intervals.slice(0, k).reduce((sum, one) => sum + one, 0));
  const whole = intervals.reduce((sum, one) => sum + one, 0);
  const out = new Float64Array(alignment.teeth.length).fill(Number.NaN);
  const kinds = happenings(alignment.events, from);
  const placed: number[] = [];
  const overBreak = (tooth: number, i: number): number => {
    const [last, first] = [placed[placed.length - 1]!, placed[max(0, placed.length - 1 - SPEED_OVER)]!];
    const turned = (((place[tooth]! - out[last]!) % whole) + whole) % whole;
    if (first === last) return turned > 0 ? turned : whole;
    const speed = (out[last]! - out[first]!) / (seconds[from + last]! - seconds[from + first]!);
    const expected = speed * (seconds[from + i]! - seconds[from + last]!);
    return turned + whole * round((expected - turned) / whole);
  };
  alignment.teeth.forEach((tooth, i) => {
    if (tooth < 0) return;
    const { broken, lost } = kinds.get(i) ?? PLAIN;
    const last = placed[placed.length - 1];
    if (last === undefined) out[i] = place[tooth]!;
    else if (broken) {
      out[i] = out[last]! + overBreak(tooth, i);
      // Pulses before it that would stand behind it were not the teeth they were taken for.
      while (placed.length > 0 && out[placed[placed.length - 1]!]! >= out[i]) out[placed.pop()!] = Number.NaN;
    } else {
      let turned = 0;
      for (let back = 1; back <= 1 + lost; back += 1) turned += intervals[(tooth - back + teeth * back) % teeth]!;
      out[i] = out[last]! + turned;
    }
    placed.push(i);
  });
  return out;
}

import {
  advance,
  begin,
  DEGREES,
  END,
  HALF,
  leastPriceOfPulse,
  paceTable,
  priceOfPulse,
  SLOPE,
  SLOW,
  STATE,
  STRIDE,
  TAU,
  UNIT,
  type Pace,
} from './pace';

// Hot loops look these up once.
const { ceil, log, max, min, sqrt } = Math;

/**
 * Which tooth gave which pulse: the cheapest path through a wheel's teeth for a row of pulse times.
 *
 * Viterbi's algorithm (1967) over the teeth of one repeat of the pattern, each path with a filter of its own (pace.ts) that
 * knows how the crank turned so far and how exactly the next pulse can be told. One pulse or two may be missing, some may be
 * too many or off their place, and after a worse break the path starts anew anywhere, each at a price. Since a path carries
 * its speed with it, the cheapest so far need not stay so: two survive at each tooth (Seshadri and Sundberg's list Viterbi
 * algorithm, 1994). Cost: pulses x teeth x 10 at most; where the pulses fit, few paths are worth following.
 */

export interface PulseEvent {
  /** Number of the pulse at which it was noticed. */
  readonly pulse: number;
  readonly kind: 'lost' | 'added' | 'bent' | 'break';
  /** Tooth after it. */
  readonly tooth: number;
}

export interface Alignment {
  /** Negative logarithm of the likelihood of the pulses' times, in seconds: what ranks wheels. */
  readonly cost: number;
  /** What noise does not explain: prices of lost and added pulses, and pulses that are clearly off. */
  readonly misfit: number;
  /** Tooth of each pulse, -1 for one that belongs to none. */
  readonly teeth: Int32Array;
  readonly events: readonly PulseEvent[];
  /** Cost of the cheapest path up to each pulse. */
  readonly trail: Float64Array;
}

const INFINITE = Number.POSITIVE_INFINITY;
/**
 * Prices: the negative logarithm of how rare each is (common practice: one pulse in a hundred on a bad line). A pulse that
 * is not told by its tooth may stand anywhere within a place, so the place's seconds are paid besides.
 */
export const LOST = 4.6;
export const ADDED = 4.6;
export const BENT = 5.5;
export const BREAK = 9;
/** A pulse sooner or later than these shares of the step expected is not that tooth's. */
const [SOONEST, LATEST] = [0.52, 1.9];
/** By how much the speed may have changed over a break, logarithmic. */
export const BREAK_SPEED = 0.5;

/** Ways to a tooth: the pulse is none of its own; the next tooth; after one lost, after two; the next one off its place; begun anew. */
const [TOO_MANY, NORMAL, AFTER_LOST, AFTER_TWO_LOST, OFF_PLACE, ANEW] = [0, 1, 2, 3, 4, 5];
const WAY_BITS = 3;
/** Marks a move that came from the second survivor. */
const SECOND = 8;
/** A path this much dearer than the cheapest is not followed: two things went wrong on it that did not on the other. */
const BEAM = 12;
/** Half of a squared deviation above which the cheapest path is in trouble. */
const TROUBLE = 3;
const TROUBLES = 2.4;

/** A path through several repeats told by the teeth of one. */
export const folded = (alignment: Alignment, teeth: number): Alignment => ({
  ...alignment,
  teeth: alignment.teeth.map((tooth) => (tooth < 0 ? tooth : tooth % teeth)),
  events: alignment.events.map((event) => ({ ...event, tooth: event.tooth % teeth })),
});

/**
 * One path survives for each tooth: with few teeth, or even ones, a path that looks good for two pulses would end all
 * others. So a short pattern is laid out several times and begun in the first: paths that count differently stay apart.
 */
const STATES_LEAST = 12;
/** What is reckoned with where nothing is known: a starter's swing, teeth of a common wheel. */
export const USUAL_PACE: Pace = { slope: 0.01, play: 0.035, clock: 0 };

/**
 * @param intervals Crank degrees from each tooth to the next, one repeat of the pattern.
 * @param seconds Times of the pulses, rising; `from` to `to` (past the end) are used.
 * @param how `limit`: cost at each pulse from which on the pattern is not followed any further, infinite then; `start`: the tooth
 *   of the first pulse, where it is known.
 */
export function align(
  intervals: readonly number[],
  seconds: Float64Array,
  from = 0,
  to = seconds.length,
  pace: Pace = USUAL_PACE,
  how: { readonly limit?: Float64Array; readonly start?: number } = {},
): Alignment {
  const times = max(1, ceil(STATES_LEAST / intervals.length));
  const many = times === 1 ? intervals : Array.from({ length: times }, () => intervals).flat();
  const found = pass(many, seconds, from, to, intervals.length, pace, how);
  return times === 1 ? found : folded(found, intervals.length);
}

const noPath = (count: number): Alignment => ({
  cost: INFINITE,
  misfit: INFINITE,
  teeth: new Int32Array(max(0, count)).fill(-1),
  events: [],
  trail: new Float64Array(0),
});

/** @param starts Teeth, from the first, at which a path may start. */
function pass(
  intervals: readonly number[],
  seconds: Float64Array,
  from: number,
  to: number,
  starts: number,
  pace: Pace,
  { limit, start }: { readonly limit?: Float64Array; readonly start?: number },
): Alignment {
  const teeth = intervals.length;
  const count = to - from;
  // A pattern that was not seen once and a half round proves nothing.
  if (count < (start === undefined ? max(3, 1.5 * starts) : 3)) return noPath(count);
  const table = paceTable(intervals, pace);
  const { figures } = table;
  const [logUsual, logTeeth] = [log(table.usual), log(teeth)];
  // Dearer than this a path is worth nothing: one that starts anew at the same tooth is cheaper.
  const anewAbove = BREAK + logTeeth + max(0, log((2.5 * BREAK_SPEED * table.usual) / sqrt(table.playSquare)));
  const worthless = min(BEAM, anewAbove);
  const leastPrice = leastPriceOfPulse(table);
  const size = 2 * teeth;
  let [last, now] = [new Float64Array(size * STATE), new Float64Array(size * STATE)];
  // Paths that are followed, by their tooth and survivor; teeth reached by a pulse, and the two best ways to each.
  let [alive, alivePast] = [new Int32Array(size), new Int32Array(size)];
  let followed = 0;
  const reached = new Int32Array(teeth);
  const [price1, price2] = [new Float64Array(teeth).fill(INFINITE), new Float64Array(teeth).fill(INFINITE)];
  const [way1, way2] = [new Int32Array(teeth), new Int32Array(teeth)];
  const moves = new Uint8Array(count * size);
  const anew = new Int32Array(count);
  const trail = new Float64Array(count);
  let [cheapest, cheapestAt] = [INFINITE, 0];
  // Troubles within about a repeat of the pattern: one is a lost pulse, several are a place that was lost.
  const easing = 1 - 1 / max(STATES_LEAST, teeth);
  let trouble = 0;
  for (let i = 1; i < count; i += 1) {
    const step = max(1e-12, seconds[from + i]! - seconds[from + i - 1]!);
    const row = i * size;
    anew[i] = cheapestAt;
    if (i === 1) {
      for (let k = 0; k < teeth; k += 1) {
        const first = (k + teeth - 1) % teeth;
        if (start === undefined ? first >= starts : first !== start) continue;
        begin(last, 2 * k * STATE, table, k, step);
        last[2 * k * STATE] = log(step);
        alive[followed++] = 2 * k;
      }
      [cheapest, cheapestAt] = [log(step), alive[0]!];
      continue;
    }
    const bound = cheapest + worthless;
    let touched = 0;
    let [cheapestNow, cheapestTooth] = [INFINITE, -1];
    for (let n = -1; n < followed; n += 1) {
      // The cheapest goes first: what it comes to tells early which others are worth nothing.
      const source = n < 0 ? cheapestAt : alive[n]!;
      if (n >= 0 && source === cheapestAt) continue;
      const own = source * STATE;
      const cost = last[own]!;
      if (cost >= bound) continue;
      const slow = last[own + SLOW]!;
      const passed = (step - last[own + TAU]!) / last[own + UNIT]!;
      let tooth = source >> 1;
      for (let way = TOO_MANY; way <= OFF_PLACE; way += 1) {
        // One tooth on, two, three; the last way leads to the first again.
        if (way === OFF_PLACE) tooth = (source >> 1) + 1;
        else if (way !== TOO_MANY) tooth += 1;
        if (tooth >= teeth) tooth -= teeth;
        let price = cost;
        if (way === TOO_MANY) {
          price += ADDED + logUsual + slow;
          if (price >= cheapestNow + worthless) continue;
        } else if (way === OFF_PLACE && cost + BENT + logUsual + slow >= cheapestNow + worthless) {
          continue;
        } else {
          const lost = way === OFF_PLACE ? 0 : way - NORMAL;
          const f = (tooth * 3 + lost) * STRIDE;
          const degrees = figures[f + DEGREES]!;
          if (passed < SOONEST * degrees || passed > LATEST * degrees) continue;
          if (way === OFF_PLACE) price += BENT + logUsual + slow;
          else {
            price += lost * LOST + leastPrice + slow + last[own + SLOPE]! * figures[f + END]!;
            if (price >= cheapestNow + worthless || price >= price2[tooth]!) continue;
            price = cost + lost * LOST + priceOfPulse(last, own, table, f, step);
          }
        }
        if (price >= price2[tooth]! || price >= cheapestNow + worthless) continue;
        if (price1[tooth] === INFINITE) reached[touched++] = tooth;
        const code = (source << WAY_BITS) | way;
        // Two pasts are kept, not one past twice.
        const same = price1[tooth] !== INFINITE && way1[tooth]! >> WAY_BITS === source;
        if (price < price1[tooth]!) {
          if (!same) {
            price2[tooth] = price1[tooth]!;
            way2[tooth] = way1[tooth]!;
          }
          price1[tooth] = price;
          way1[tooth] = code;
          if (price < cheapestNow) {
            cheapestNow = price;
            cheapestTooth = tooth;
          }
        } else if (!same) {
          price2[tooth] = price;
          way2[tooth] = code;
        }
      }
    }
    const worth = cheapestNow + worthless;
    let next = 0;
    for (let n = 0; n < touched; n += 1) {
      const tooth = reached[n]!;
      if (price1[tooth]! < worth) {
        reach(2 * tooth, way1[tooth]!, price1[tooth]!, step, row);
        alivePast[next++] = 2 * tooth;
        if (price2[tooth]! < worth) {
          reach(2 * tooth + 1, way2[tooth]!, price2[tooth]!, step, row);
          alivePast[next++] = 2 * tooth + 1;
        }
      }
    }
    let cheapestNowAt = 2 * max(0, cheapestTooth);
    // While the cheapest path keeps its place, none is begun anew; so few are followed through a long capture.
    const troubled =
      cheapestTooth < 0 ||
      (moves[row + cheapestNowAt]! & ~SECOND) !== NORMAL ||
      now[cheapestNowAt * STATE + HALF]! > TROUBLE;
    trouble = trouble * easing + (troubled ? 1 : 0);
    if (cheapestTooth < 0 || (troubled && trouble > TROUBLES)) {
      trouble = 0;
      const slow = last[cheapestAt * STATE + SLOW]!;
      for (let k = 0; k < teeth; k += 1) {
        const change = (log(step / figures[k * 3 * STRIDE + DEGREES]!) - slow) / BREAK_SPEED;
        const price = cheapest + BREAK + logTeeth + log(2.5 * step * BREAK_SPEED) + 0.5 * change * change;
        const at = 2 * k;
        if (price1[k]! <= price || price >= worth) continue;
        if (!(price1[k]! < worth)) alivePast[next++] = at;
        begin(now, at * STATE, table, k, step);
        now[at * STATE] = price;
        moves[row + at] = ANEW;
        if (price < cheapestNow) [cheapestNow, cheapestNowAt] = [price, at];
      }
    }
    for (let n = 0; n < touched; n += 1) price1[reached[n]!] = price2[reached[n]!] = INFINITE;
    [cheapest, cheapestAt] = [cheapestNow, cheapestNowAt];
    [last, now] = [now, last];
    [alive, alivePast, followed] = [alivePast, alive, next];
    trail[i] = cheapest;
    if (followed === 0 || (limit && cheapest > limit[i]!)) return noPath(count);
  }
  return follow();

  /** A path comes to a tooth. */
  function reach(at: number, code: number, price: number, step: number, row: number): void {
    const target = at * STATE;
    const source = code >> WAY_BITS;
    const way = code & ((1 << WAY_BITS) - 1);
    const own = source * STATE;
    if (way === TOO_MANY) {
      for (let n = 0; n < STATE; n += 1) now[target + n] = last[own + n]!;
      now[target + TAU]! -= step;
    } else {
      const lost = way === OFF_PLACE ? 0 : way - NORMAL;
      advance(last, own, now, target, table, ((at >> 1) * 3 + lost) * STRIDE, step, way !== OFF_PLACE);
    }
    now[target] = price;
    moves[row + at] = way | (source & 1 ? SECOND : 0);
  }

  /** The cheapest path back from its end. */
  function follow(): Alignment {
    let state = alive[0]!;
    for (let n = 1; n < followed; n += 1) if (last[alive[n]! * STATE]! < last[state * STATE]!) state = alive[n]!;
    const cost = last[state * STATE]!;
    const path = new Int32Array(count).fill(-1);
    const events: PulseEvent[] = [];
    const before = (tooth: number, back: number) => (tooth - back + teeth * back) % teeth;
    let next = -1;
    for (let i = count - 1; i >= 0; i -= 1) {
      const at = state >> 1;
      if (i === 0) {
        path[0] = at;
        break;
      }
      const coded = i === 1 ? NORMAL : moves[i * size + state]!;
      const [move, survivor] = [coded & ~SECOND, coded & SECOND ? 1 : 0];
      if (move === TOO_MANY) {
        events.push({ pulse: from + min(i + 1, count - 1), kind: 'added', tooth: next < 0 ? at : next });
        state = 2 * at + survivor;
        continue;
      }
      path[i] = at;
      next = at;
      const lost = move === AFTER_LOST ? 1 : move === AFTER_TWO_LOST ? 2 : 0;
      for (let gone = 0; gone < lost; gone += 1)
        events.push({ pulse: from + i, kind: 'lost', tooth: before(at, gone) });
      if (move === ANEW) events.push({ pulse: from + i, kind: 'break', tooth: at });
      if (move === OFF_PLACE) events.push({ pulse: from + i, kind: 'bent', tooth: at });
      state = move === ANEW ? anew[i]! : 2 * before(at, 1 + lost) + survivor;
    }
    events.reverse();
    // A path that starts anew leaves the pulse before it to the old one.
    return { cost, misfit: priceOf(events), teeth: path, events, trail };
  }
}

/** What the breaks of a path cost: lost and added pulses, and starts anew. */
export const priceOf = (events: readonly PulseEvent[]): number =>
  events.reduce((sum, { kind }) => sum + (kind === 'break' ? BREAK : kind === 'bent' ? BENT : LOST), 0);

/**
 * Which tooth gave which pulse: the cheapest path through a wheel's teeth for a row of pulse times.
 *
 * Viterbi's algorithm (1967) over the teeth of one repeat of the pattern. The speed is not known; what is punished is its
 * change from one interval to the next, measured on a logarithmic scale against what compression can do within that angle.
 * One pulse or two may be missing, one may be too many, and after a worse break the path starts anew anywhere, each at a price.
 * Since a path carries its speed with it, the cheapest so far need not stay so: two survive at each tooth (Seshadri and
 * Sundberg's list Viterbi algorithm, 1994). Cost: pulses x teeth x 8 at most;
 * where the pulses fit, few paths are worth following.
 */

export interface PulseEvent {
  /** Number of the pulse at which it was noticed. */
  readonly pulse: number;
  readonly kind: 'lost' | 'added' | 'bent' | 'break';
  /** Tooth after it. */
  readonly tooth: number;
}

export interface Alignment {
  /** Negative logarithm of the likelihood, up to a constant that is the same for every wheel: what ranks wheels. */
  readonly cost: number;
  /** What jitter does not explain: prices of lost and added pulses, and intervals that are clearly off. */
  readonly misfit: number;
  /** The unrest it was found with, logarithmic. */
  readonly unrest: number;
  /** Tooth of each pulse, -1 for one that belongs to none. */
  readonly teeth: Int32Array;
  readonly events: readonly PulseEvent[];
}

const INFINITE = Number.POSITIVE_INFINITY;
const CAP = 8;
/**
 * Prices: the negative logarithm of how rare each is (common practice: one pulse in a hundred on a bad line). Where an
 * interval is not explained at all, its density is lost too: the unrest's logarithm, which every other interval is
 * credited with.
 */
const LOST = 4.6;
const ADDED = 4.6;
const BENT = 5.5;
const BREAK = 9;

const [NORMAL, AFTER_LOST, AFTER_TWO_LOST, AFTER_ADDED, AFTER_BENT, ANEW] = [0, 1, 2, 3, 4, 5];
/** Marks a move that came from the second survivor. */
const SECOND = 8;

/** Cost of one step above which the cheapest path is in trouble: an interval off by more than 2.4 deviations. */
const TROUBLE = 3;

/** Bounds of the unrest of neighbouring intervals, logarithmic: a recorder's step, and compression at its worst. */
const [UNREST_LEAST, UNREST_MOST] = [0.015, 0.4];
/** Logarithm of the ratio up to which two unrests are one. */
const SETTLED = 0.25;
/** Of the median of absolute differences, for a bell curve (Rousseeuw and Croux 1993). */
const TO_DEVIATION = 1.4826;

/** Unrest of a row of pulses as it stands, before any wheel is held against it. */
export function unrestSeen(seconds: Float64Array, from: number, to: number): number {
  const changes: number[] = [];
  for (let i = from + 2; i < to; i += 1)
    changes.push(
      Math.log(Math.max(1e-9, seconds[i] - seconds[i - 1]) / Math.max(1e-9, seconds[i - 1] - seconds[i - 2])),
    );
  return unrestOf(changes);
}

const unrestOf = (changes: number[]): number => {
  if (changes.length === 0) return UNREST_LEAST;
  const sorted = changes.map(Math.abs).sort((one, other) => one - other);
  return Math.min(UNREST_MOST, Math.max(UNREST_LEAST, TO_DEVIATION * sorted[sorted.length >> 1]));
};

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

/**
 * Aligns a pattern with pulses. How much the speed jumps from tooth to tooth is not assumed: a first pass takes it from the
 * pulses, a second from what the first left unexplained, so that every wheel is judged by its own best reading.
 *
 * @param unrest Logarithmic; given, it is taken as it is, in one pass.
 */
export function align(
  intervals: readonly number[],
  seconds: Float64Array,
  from = 0,
  to = seconds.length,
  unrest?: number,
): Alignment {
  if (intervals.length < STATES_LEAST) {
    const times = Math.ceil(STATES_LEAST / intervals.length);
    const many = Array.from({ length: times }, () => intervals).flat();
    return folded(passes(many, seconds, from, to, intervals.length, unrest), intervals.length);
  }
  return passes(intervals, seconds, from, to, intervals.length, unrest);
}

function passes(
  intervals: readonly number[],
  seconds: Float64Array,
  from: number,
  to: number,
  starts: number,
  unrest?: number,
): Alignment {
  if (unrest !== undefined) return pass(intervals, seconds, from, to, starts, unrest);
  const seen = unrestSeen(seconds, from, to);
  const first = pass(intervals, seconds, from, to, starts, seen);
  const left = unrestOf(first.left);
  // Nearly the unrest it was read with: a second pass would find the same.
  const settled = Math.abs(Math.log(left / seen)) < SETTLED;
  return first.left.length < 3 || settled ? first : pass(intervals, seconds, from, to, starts, left);
}

/**
 * @param intervals Crank degrees from each tooth to the next, one repeat of the pattern.
 * @param seconds Times of the pulses, rising; `from` to `to` (past the end) are used.
 * @param starts Teeth, from the first, at which a path may start.
 */
function pass(
  intervals: readonly number[],
  seconds: Float64Array,
  from: number,
  to: number,
  starts: number,
  unrest: number,
): Alignment & { left: number[] } {
  const teeth = intervals.length;
  const count = to - from;
  const none = {
    cost: INFINITE,
    misfit: INFINITE,
    unrest,
    teeth: new Int32Array(Math.max(0, count)).fill(-1),
    events: [],
    left: [] as number[],
  };
  // A pattern that was not seen once and a half round proves nothing.
  if (count < Math.max(3, 1.5 * starts)) return none;
  const unexplained = -Math.log(unrest);
  // A path that starts anew may do so at any tooth: what it costs to say which.
  const [added, bent, anewAt] = [ADDED + unexplained, BENT + unexplained, BREAK + unexplained + Math.log(teeth)];
  const before = (tooth: number, back: number) => (tooth - back + teeth * back) % teeth;
  const one = Float64Array.from({ length: teeth }, (_, k) => intervals[before(k, 1)]);
  const two = Float64Array.from({ length: teeth }, (_, k) => intervals[before(k, 1)] + intervals[before(k, 2)]);
  const three = Float64Array.from({ length: teeth }, (_, k) => two[k] + intervals[before(k, 3)]);
  const [logOne, logTwo, logThree] = [one.map(Math.log), two.map(Math.log), three.map(Math.log)];
  // A longer interval has room for more change.
  const usual = [...intervals].sort((x, y) => x - y)[teeth >> 1];
  const relative = (degrees: number) => Math.sqrt(Math.max(1, degrees / usual));
  const [weightOne, weightTwo, weightThree] = [one, two, three].map((all) =>
    all.map((degrees) => 0.5 / (unrest * relative(degrees)) ** 2),
  );
  const [widthOne, widthTwo, widthThree] = [one, two, three].map((all) =>
    all.map((degrees) => Math.log(relative(degrees))),
  );
  // Two survivors a tooth, by what brought them there: their speeds differ, and which is right shows at the next pulse.
  const size = 2 * teeth;
  let [costs, last, lastButOne] = [0, 1, 2].map(() => new Float64Array(size).fill(INFINITE));
  let [slow, lastSlow, lastButOneSlow] = [0, 1, 2].map(() => new Float64Array(size));
  const moves = new Uint8Array(count * size);
  const anew = new Int32Array(count);
  let [cheapest, cheapestAt] = [INFINITE, 0];
  // What each move adds, by its number.
  const extra = Float64Array.of(0, LOST, 2 * LOST, added, bent);
  for (let i = 1; i < count; i += 1) {
    const step = seconds[from + i] - seconds[from + i - 1];
    const logStep = Math.log(Math.max(step, 1e-12));
    const logPair = i > 1 ? Math.log(Math.max(seconds[from + i] - seconds[from + i - 2], 1e-12)) : 0;
    const row = i * size;
    anew[i] = cheapestAt;
    // Dearer than this a path is worth nothing: one that starts anew at the same tooth is cheaper.
    const bound = cheapest + anewAt;
    let cheapestNow = INFINITE;
    let cheapestNowAt = 0;
    for (let k = 0; k < teeth; k += 1) {
      const at = 2 * k;
      const plain = logStep - logOne[k];
      if (i === 1) {
        // The tooth before it is where the path starts.
        costs[at] = (k + teeth - 1) % teeth < starts ? 0 : INFINITE;
        slow[at] = plain;
        [cheapestNow, cheapestNowAt] = [0, 2];
        continue;
      }
      const k1 = k === 0 ? teeth - 1 : k - 1;
      const k2 = k1 === 0 ? teeth - 1 : k1 - 1;
      const k3 = k2 === 0 ? teeth - 1 : k2 - 1;
      if (
        last[2 * k1] >= bound &&
        last[2 * k2] >= bound - LOST &&
        last[2 * k3] >= bound - 2 * LOST &&
        lastButOne[2 * k1] >= bound - added &&
        lastButOne[2 * k2] >= bound - bent
      ) {
        // No path worth its price leads here.
        costs[at] = INFINITE;
        costs[at + 1] = INFINITE;
        continue;
      }
      // The best and the next best way to be here. One body for all moves, without closures: this is the innermost loop.
      let bestPrice = INFINITE;
      let bestSpeed = plain;
      let bestMove = NORMAL;
      let nextPrice = INFINITE;
      let nextSpeed = plain;
      let nextMove = NORMAL;
      for (let move = NORMAL; move <= (i > 2 ? AFTER_BENT : AFTER_TWO_LOST); move += 1) {
        const overOneTooth = move === NORMAL || move === AFTER_ADDED;
        const overThree = move === AFTER_TWO_LOST;
        const overOneStep = move <= AFTER_TWO_LOST;
        const source = overOneStep ? last : lastButOne;
        const before = 2 * (overOneTooth ? k1 : overThree ? k3 : k2);
        const paid = source[before] + extra[move];
        if (paid >= nextPrice || paid >= bound) continue;
        const speeds = overOneStep ? lastSlow : lastButOneSlow;
        const speed =
          (overOneStep ? logStep : logPair) - (overOneTooth ? logOne[k] : overThree ? logThree[k] : logTwo[k]);
        const weight = overOneTooth ? weightOne[k] : overThree ? weightThree[k] : weightTwo[k];
        const change = speed - speeds[before];
        const misfit = change * change * weight;
        let price = paid + (misfit < CAP ? misfit : CAP);
        let survivor = 0;
        if (source[before + 1] + extra[move] < price) {
          const other = speed - speeds[before + 1];
          const otherMisfit = other * other * weight;
          const otherPrice = source[before + 1] + extra[move] + (otherMisfit < CAP ? otherMisfit : CAP);
          if (otherPrice < price) {
            price = otherPrice;
            survivor = SECOND;
          }
        }
        price += overOneTooth ? widthOne[k] : overThree ? widthThree[k] : widthTwo[k];
        if (price < bestPrice) {
          nextPrice = bestPrice;
          nextSpeed = bestSpeed;
          nextMove = bestMove;
          bestPrice = price;
          bestSpeed = speed;
          bestMove = move | survivor;
        } else if (price < nextPrice) {
          nextPrice = price;
          nextSpeed = speed;
          nextMove = move | survivor;
        }
      }
      if (bestPrice < cheapestNow) {
        cheapestNow = bestPrice;
        cheapestNowAt = at;
      }
      costs[at] = bestPrice;
      slow[at] = bestSpeed;
      moves[row + at] = bestMove;
      costs[at + 1] = nextPrice;
      slow[at + 1] = nextSpeed;
      moves[row + at + 1] = nextMove;
    }
    // While all goes well on the cheapest path, none is begun anew; so few are followed through a long capture.
    if (i > 1 && cheapestNow > cheapest + TROUBLE)
      for (let k = 0; k < teeth; k += 1) {
        if (costs[2 * k] <= bound) continue;
        costs[2 * k] = bound;
        slow[2 * k] = logStep - logOne[k];
        moves[row + 2 * k] = ANEW;
      }
    [cheapest, cheapestAt] = [cheapestNow, cheapestNowAt];
    [lastButOne, last, costs] = [last, costs, lastButOne];
    [lastButOneSlow, lastSlow, slow] = [lastSlow, slow, lastButOneSlow];
  }
  let state = 0;
  for (let k = 1; k < size; k += 1) if (last[k] < last[state]) state = k;
  const path = none.teeth;
  const events: PulseEvent[] = [];
  const left: number[] = [];
  const cost = last[state] + (count - 2) * Math.log(unrest);
  let [misfit, speed] = [0, Number.NaN];
  for (let i = count - 1; i >= 0;) {
    const at = state >> 1;
    path[i] = at;
    if (i === 0) break;
    const coded = i === 1 ? NORMAL : moves[i * size + state];
    const [move, survivor] = [coded & ~SECOND, coded & SECOND ? 1 : 0];
    if (move === AFTER_BENT) {
      const tooth = before(at, 1);
      path[i - 1] = tooth;
      events.push({ pulse: from + i - 1, kind: 'bent', tooth });
      state = 2 * before(at, 2) + survivor;
      i -= 2;
      continue;
    }
    const lost = move === AFTER_LOST ? 1 : move === AFTER_TWO_LOST ? 2 : 0;
    for (let gone = 0; gone < lost; gone += 1) events.push({ pulse: from + i, kind: 'lost', tooth: before(at, gone) });
    if (move === AFTER_ADDED || move === ANEW)
      events.push({ pulse: from + i, kind: move === AFTER_ADDED ? 'added' : 'break', tooth: at });
    state = move === ANEW ? anew[i] : 2 * before(at, 1 + lost) + survivor;
    i -= move === AFTER_ADDED ? 2 : 1;
  }
  events.reverse();
  // What is left over along the path: the changes of speed between intervals of plain teeth, and the prices paid.
  let before1 = 0;
  const kinds = kindsAt(events, from);
  for (let i = 1; i < count; i += 1) {
    if (path[i] < 0) continue;
    const { kind, lost } = kinds.get(i) ?? PLAIN;
    const degrees = [one, two, three][lost][path[i]];
    const now = Math.log(Math.max(1e-12, seconds[from + i] - seconds[from + before1])) - Math.log(degrees);
    before1 = i;
    if (!Number.isNaN(speed) && kind !== 'break' && kind !== 'bent' && kinds.get(i - 1)?.kind !== 'bent') {
      const change = (now - speed) / relative(degrees);
      if (kind === undefined) left.push(change);
      misfit += Math.max(0, Math.min(CAP, 0.5 * (change / unrest) ** 2) - 3);
    }
    misfit += kind === 'break' ? BREAK : kind === 'bent' ? BENT : kind === 'added' ? ADDED : lost * LOST;
    speed = now;
  }
  return { cost, misfit, unrest, teeth: path, events, left };
}

const PLAIN: { kind?: PulseEvent['kind']; lost: number } = { lost: 0 };
/** What happened at each pulse, by its number from the first, and how many teeth were lost before it. */
function kindsAt(events: readonly PulseEvent[], from: number): Map<number, typeof PLAIN> {
  const found = new Map<number, typeof PLAIN>();
  for (const { pulse, kind } of events) {
    const lost = kind === 'lost' ? (found.get(pulse - from)?.lost ?? 0) + 1 : 0;
    found.set(pulse - from, { kind, lost });
  }
  return found;
}

/** What the breaks of a path cost: lost and added pulses, and starts anew. */
export const priceOf = (events: readonly PulseEvent[]): number =>
  events.reduce((sum, { kind }) => sum + (kind === 'break' ? BREAK : kind === 'bent' ? BENT : LOST), 0);

/** Speeds of the last intervals that tell how far the wheel went over a break. */
const SPEED_OVER = 6;

/**
 * Crank degrees of each pulse along the path, 0 at the pattern's first tooth; NaN for a pulse that is one too many. Over a
 * break the path is taken up at the place of the new tooth that lies nearest to where the speed before would have led.
 *
 * @param seconds Times of all pulses; the path's first is number `from`.
 */
export function anglesOf(
  alignment: Alignment,
  intervals: readonly number[],
  seconds: Float64Array,
  from = 0,
): Float64Array {
  const teeth = intervals.length;
  const place = intervals.map((_, k) => intervals.slice(0, k).reduce((sum, one) => sum + one, 0));
  const whole = intervals.reduce((sum, one) => sum + one, 0);
  const out = new Float64Array(alignment.teeth.length).fill(Number.NaN);
  const kinds = kindsAt(alignment.events, from);
  const placed: number[] = [];
  const overBreak = (tooth: number, i: number): number => {
    const [last, first] = [placed[placed.length - 1], placed[Math.max(0, placed.length - 1 - SPEED_OVER)]];
    const turned = (((place[tooth] - out[last]) % whole) + whole) % whole;
    if (first === last) return turned > 0 ? turned : whole;
    const speed = (out[last] - out[first]) / (seconds[from + last] - seconds[from + first]);
    const expected = speed * (seconds[from + i] - seconds[from + last]);
    return turned + whole * Math.round((expected - turned) / whole);
  };
  alignment.teeth.forEach((tooth, i) => {
    if (tooth < 0) return;
    const { kind, lost } = kinds.get(i) ?? PLAIN;
    const last = placed[placed.length - 1];
    if (last === undefined) out[i] = place[tooth];
    else if (kind === 'break') {
      out[i] = out[last] + overBreak(tooth, i);
      // Pulses before it that would stand behind it were not the teeth they were taken for.
      while (placed.length > 0 && out[placed[placed.length - 1]] >= out[i]) out[placed.pop()!] = Number.NaN;
    } else {
      let turned = 0;
      for (let back = 1; back <= 1 + lost; back += 1) turned += intervals[(tooth - back + teeth * back) % teeth];
      out[i] = out[last] + turned;
    }
    placed.push(i);
  });
  return out;
}

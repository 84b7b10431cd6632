/**
 * Which tooth gave which pulse: the cheapest path through a wheel's teeth for a row of pulse times.
 *
 * Viterbi's algorithm (1967) over the teeth of one repeat of the pattern. The speed is not known; what is punished is its
 * change from one interval to the next, measured on a logarithmic scale against what compression can do within that angle.
 * A pulse may be missing, one may be too many, and after a worse break the path starts anew anywhere, each at a price.
 * Cost: pulses x teeth x 4.
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
  /** Tooth of each pulse, -1 for one that belongs to none. */
  readonly teeth: Int32Array;
  readonly events: readonly PulseEvent[];
}

const CAP = 8;
const LOST = 5;
const ADDED = 5;
const BENT = 8;
const BREAK = 14;

const [NORMAL, AFTER_LOST, AFTER_ADDED, AFTER_BENT, ANEW] = [0, 1, 2, 3, 4];

/** Bounds of the unrest of neighbouring intervals, logarithmic: a recorder's step, and compression at its worst. */
const [UNREST_LEAST, UNREST_MOST] = [0.015, 0.4];
/** Of the median of absolute differences, for a bell curve (Rousseeuw and Croux 1993). */
const TO_DEVIATION = 1.4826;

const unrestOf = (changes: number[]): number => {
  if (changes.length === 0) return UNREST_LEAST;
  const sorted = changes.map(Math.abs).sort((one, other) => one - other);
  return Math.min(UNREST_MOST, Math.max(UNREST_LEAST, TO_DEVIATION * sorted[sorted.length >> 1]));
};

/**
 * Aligns a pattern with pulses. How much the speed jumps from tooth to tooth is not assumed: a first pass takes it from the
 * pulses, a second from what the first left unexplained, so that every wheel is judged by its own best reading.
 */
export function align(intervals: readonly number[], seconds: Float64Array, from = 0, to = seconds.length): Alignment {
  const changes: number[] = [];
  for (let i = from + 2; i < to; i += 1)
    changes.push(
      Math.log(Math.max(1e-9, seconds[i] - seconds[i - 1]) / Math.max(1e-9, seconds[i - 1] - seconds[i - 2])),
    );
  const first = pass(intervals, seconds, from, to, unrestOf(changes));
  return first.left.length < 3 ? first : pass(intervals, seconds, from, to, unrestOf(first.left));
}

/**
 * @param intervals Crank degrees from each tooth to the next, one repeat of the pattern.
 * @param seconds Times of the pulses, rising; `from` to `to` (past the end) are used.
 */
function pass(
  intervals: readonly number[],
  seconds: Float64Array,
  from: number,
  to: number,
  unrest: number,
): Alignment & { left: number[] } {
  const teeth = intervals.length;
  const count = to - from;
  const none = {
    cost: Number.POSITIVE_INFINITY,
    misfit: Number.POSITIVE_INFINITY,
    teeth: new Int32Array(Math.max(0, count)).fill(-1),
    events: [],
    left: [] as number[],
  };
  // A pattern that was not seen once and a half round proves nothing.
  if (count < Math.max(3, 1.5 * teeth)) return none;
  const before = (tooth: number, back: number) => (tooth - back + teeth * back) % teeth;
  const one = Float64Array.from({ length: teeth }, (_, k) => intervals[before(k, 1)]);
  const two = Float64Array.from({ length: teeth }, (_, k) => intervals[before(k, 1)] + intervals[before(k, 2)]);
  const [logOne, logTwo] = [one.map(Math.log), two.map(Math.log)];
  // A longer interval has room for more change.
  const usual = [...intervals].sort((x, y) => x - y)[teeth >> 1];
  const relative = (degrees: number) => Math.sqrt(Math.max(1, degrees / usual));
  const [weightOne, weightTwo] = [one, two].map((all) => all.map((degrees) => 0.5 / (unrest * relative(degrees)) ** 2));
  const [widthOne, widthTwo] = [one, two].map((all) => all.map((degrees) => Math.log(relative(degrees))));
  let [costs, last, lastButOne] = [0, 1, 2].map(() => new Float64Array(teeth).fill(Number.POSITIVE_INFINITY));
  let [slow, lastSlow, lastButOneSlow] = [0, 1, 2].map(() => new Float64Array(teeth));
  const moves = new Uint8Array(count * teeth);
  const anew = new Int32Array(count);
  for (let i = 1; i < count; i += 1) {
    const step = seconds[from + i] - seconds[from + i - 1];
    const logStep = Math.log(Math.max(step, 1e-12));
    const logPair = i > 1 ? Math.log(Math.max(seconds[from + i] - seconds[from + i - 2], 1e-12)) : 0;
    const row = i * teeth;
    let cheapestAt = 0;
    for (let k = 1; k < teeth; k += 1) if (last[k] < last[cheapestAt]) cheapestAt = k;
    const cheapest = last[cheapestAt];
    anew[i] = cheapestAt;
    for (let k = 0; k < teeth; k += 1) {
      const plain = logStep - logOne[k];
      if (i === 1) {
        costs[k] = 0;
        slow[k] = plain;
        continue;
      }
      const k1 = k === 0 ? teeth - 1 : k - 1;
      let change = plain - lastSlow[k1];
      let misfit = change * change * weightOne[k];
      let price = last[k1] + (misfit < CAP ? misfit : CAP) + widthOne[k];
      let move = NORMAL;
      let speed = plain;
      const k2 = k1 === 0 ? teeth - 1 : k1 - 1;
      if (last[k2] + LOST < price) {
        const wide = logStep - logTwo[k];
        change = wide - lastSlow[k2];
        misfit = change * change * weightTwo[k];
        const other = last[k2] + LOST + (misfit < CAP ? misfit : CAP) + widthTwo[k];
        if (other < price) {
          price = other;
          move = AFTER_LOST;
          speed = wide;
        }
      }
      if (i > 2 && lastButOne[k1] + ADDED < price) {
        const both = logPair - logOne[k];
        change = both - lastButOneSlow[k1];
        misfit = change * change * weightOne[k];
        const other = lastButOne[k1] + ADDED + (misfit < CAP ? misfit : CAP) + widthOne[k];
        if (other < price) {
          price = other;
          move = AFTER_ADDED;
          speed = both;
        }
      }
      if (i > 2 && lastButOne[k2] + BENT < price) {
        // The pulse between is there, but off its place.
        const both = logPair - logTwo[k];
        change = both - lastButOneSlow[k2];
        misfit = change * change * weightTwo[k];
        const other = lastButOne[k2] + BENT + (misfit < CAP ? misfit : CAP) + widthTwo[k];
        if (other < price) {
          price = other;
          move = AFTER_BENT;
          speed = both;
        }
      }
      if (cheapest + BREAK < price) {
        price = cheapest + BREAK;
        move = ANEW;
        speed = plain;
      }
      costs[k] = price;
      slow[k] = speed;
      moves[row + k] = move;
    }
    [lastButOne, last, costs] = [last, costs, lastButOne];
    [lastButOneSlow, lastSlow, slow] = [lastSlow, slow, lastButOneSlow];
  }
  let at = 0;
  for (let k = 1; k < teeth; k += 1) if (last[k] < last[at]) at = k;
  const path = none.teeth;
  const events: PulseEvent[] = [];
  const left: number[] = [];
  const cost = last[at] + (count - 2) * Math.log(unrest);
  let [misfit, speed] = [0, Number.NaN];
  for (let i = count - 1; i >= 0;) {
    path[i] = at;
    if (i === 0) break;
    const move = i === 1 ? NORMAL : moves[i * teeth + at];
    if (move === AFTER_BENT) {
      const [bent, kind] = [before(at, 1), 'bent' as const];
      path[i - 1] = bent;
      events.push({ pulse: from + i - 1, kind, tooth: bent });
      at = before(at, 2);
      i -= 2;
      continue;
    }
    if (move !== NORMAL)
      events.push({
        pulse: from + i,
        kind: move === AFTER_LOST ? 'lost' : move === AFTER_ADDED ? 'added' : 'break',
        tooth: at,
      });
    if (move === ANEW) at = anew[i];
    else at = before(at, move === AFTER_LOST ? 2 : 1);
    i -= move === AFTER_ADDED ? 2 : 1;
  }
  events.reverse();
  // What is left over along the path: the changes of speed between intervals of plain teeth, and the prices paid.
  let before1 = 0;
  const kinds = new Map(events.map(({ pulse, kind }) => [pulse - from, kind]));
  for (let i = 1; i < count; i += 1) {
    if (path[i] < 0) continue;
    const kind = kinds.get(i);
    const degrees = kind === 'lost' ? two[path[i]] : one[path[i]];
    const now = Math.log(Math.max(1e-12, seconds[from + i] - seconds[from + before1])) - Math.log(degrees);
    before1 = i;
    if (!Number.isNaN(speed) && kind !== 'break' && kind !== 'bent' && kinds.get(i - 1) !== 'bent') {
      const change = (now - speed) / relative(degrees);
      if (kind === undefined) left.push(change);
      misfit += Math.max(0, Math.min(CAP, 0.5 * (change / unrest) ** 2) - 3);
    }
    if (kind !== undefined) misfit += kind === 'break' ? BREAK : kind === 'bent' ? BENT : LOST;
    speed = now;
  }
  return { cost, misfit, teeth: path, events, left };
}

/** What the breaks of a path cost: lost and added pulses, and starts anew. */
export const priceOf = (events: readonly PulseEvent[]): number =>
  events.reduce((sum, { kind }) => sum + (kind === 'break' ? BREAK : kind === 'bent' ? BENT : LOST), 0);

/** Crank degrees of each pulse along the path, 0 at the pattern's first tooth; NaN for a pulse that is one too many. */
export function anglesOf(alignment: Alignment, intervals: readonly number[], from = 0): Float64Array {
  const teeth = intervals.length;
  const place = intervals.map((_, k) => intervals.slice(0, k).reduce((sum, one) => sum + one, 0));
  const whole = intervals.reduce((sum, one) => sum + one, 0);
  const out = new Float64Array(alignment.teeth.length).fill(Number.NaN);
  const kinds = new Map(alignment.events.map(({ pulse, kind }) => [pulse - from, kind]));
  let [angle, before] = [Number.NaN, -1];
  alignment.teeth.forEach((tooth, i) => {
    if (tooth < 0) return;
    const kind = kinds.get(i);
    if (before < 0) angle = place[tooth];
    else if (kind === 'break') {
      // How far it went meanwhile is not known: on to the next place of that tooth.
      const turned = (((place[tooth] - angle) % whole) + whole) % whole;
      angle += turned > 0 ? turned : whole;
    } else {
      const k1 = (tooth + teeth - 1) % teeth;
      angle += intervals[k1] + (kind === 'lost' ? intervals[(k1 + teeth - 1) % teeth] : 0);
    }
    out[i] = angle;
    before = tooth;
  });
  return out;
}

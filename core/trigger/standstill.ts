/** A stretch in which the crank all but stands, by its pulses: the first and the last of its slow intervals end at these. */
export interface Standstill {
  readonly from: number;
  readonly to: number;
}

/** By how much longer than usual three intervals are where a crank all but stands: compression alone never does that. */
const STANDS = 3;
/** Two intervals together that are longer than usual ones, and than those at the wheel's own gaps. */
const [PAIR, PAIR_BEYOND] = [2.2, 1.4];
/** Longest pairs that may be a standstill's own: of those behind them the wheel's gaps are. */
const LONGEST = 16;
/** Where it is still slow, and for how much of that time before and behind its speed changes. */
const [SLOW, BESIDE] = [1.5, 0.5];
/** More of them are the wheel's own pattern; fewer pulses, and shorter stretches between, tell nothing. */
const [MOST, LEAST_PULSES, LEAST_SHARE] = [4, 24, 0.4];

/** Where a crank that turned all but stands within a capture, and turns again behind it: thrown back, or about to stall. */
export function standstills(pulses: Float64Array): Standstill[] {
  if (pulses.length < LEAST_PULSES) return [];
  const steps = pulses.subarray(1).map((time, i) => time - pulses[i]!);
  const sorted = steps.slice().sort();
  const usual = sorted[sorted.length >> 1]!;
  const pairs = steps.subarray(1).map((step, i) => step + steps[i]!);
  const gap = pairs.slice().sort()[Math.max(0, pairs.length - 1 - LONGEST)]!;
  // The middle one of three.
  const speedAt = (i: number): number => {
    const at = Math.min(Math.max(1, i), steps.length - 2);
    const [a, b, c] = [steps[at - 1]!, steps[at]!, steps[at + 1]!];
    return Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));
  };
  const long = Math.max(2 * PAIR * usual, PAIR_BEYOND * gap);
  const stands = (i: number): boolean =>
    speedAt(i) >= STANDS * usual || (pairs[i - 1] ?? 0) >= long || (pairs[i] ?? 0) >= long;
  const found: Standstill[] = [];
  for (let i = 0; i < steps.length; i += 1) {
    if (!stands(i)) continue;
    let [from, to] = [i, i];
    while (from > 0 && (steps[from - 1]! > SLOW * usual || steps[from - 2]! > SLOW * usual)) from -= 1;
    while (to + 1 < steps.length && (steps[to + 1]! > SLOW * usual || steps[to + 2]! > SLOW * usual || stands(to + 3)))
      to += 1;
    // On its way down and up again the crank is neither at speed nor does it stand.
    const beside = BESIDE * (pulses[to + 1]! - pulses[from]!);
    let [before, after] = [from, to + 1];
    while (before > 0 && pulses[from]! - pulses[before]! < beside) before -= 1;
    while (after + 1 < pulses.length && pulses[after]! - pulses[to + 1]! < beside) after += 1;
    // At either end it is starting or stopping.
    // Backwards and forwards again it turns at both ends of one standstill.
    const last = found[found.length - 1];
    if (last && before - last.to < LEAST_PULSES) found[found.length - 1] = { from: last.from, to: after };
    else if (before > 0 && after + 1 < pulses.length) found.push({ from: before, to: after });
    i = Math.max(to, after - 1);
  }
  return found.length > MOST ? [] : found;
}

/** The longest stretch without a standstill within, as numbers of its first pulse and past its last: there the crank turns one way. */
export function turning(pulses: Float64Array): [number, number] {
  const stops = standstills(pulses);
  const stretches = [...stops, { from: pulses.length, to: 0 }].map(({ from }, i): [number, number] => [
    stops[i - 1]?.to ?? 0,
    from,
  ]);
  const [from, to] = stretches.reduce((best, one) => (one[1] - one[0] > best[1] - best[0] ? one : best));
  return to - from >= Math.max(LEAST_PULSES, LEAST_SHARE * pulses.length) ? [from, to] : [0, pulses.length];
}

/** By how much longer two intervals are than the wheel's own longest where a crank stands, and how often one may in a capture. */
const [OWN_BEYOND, KICKS_MOST] = [1.6, 2];

/**
 * Standstills that are none of the wheel's own gaps, slowed by compression.
 *
 * @param pattern Crank degrees from each tooth to the next.
 */
export function ownStandstills(pulses: Float64Array, pattern: readonly number[]): Standstill[] {
  const found = standstills(pulses);
  if (found.length === 0) return found;
  const pairsOf = (steps: ArrayLike<number>) =>
    Array.from(steps, (step, i) => step + steps[(i + 1) % steps.length]!).sort((one, other) => one - other);
  const own = pairsOf(pattern);
  const seen = pairsOf(pulses.subarray(1).map((time, i) => time - pulses[i]!));
  const longest = (OWN_BEYOND * seen[seen.length >> 1]! * own[own.length - 1]!) / own[own.length >> 1]!;
  const real = found.filter(({ from, to }) => {
    for (let i = from + 2; i <= to; i += 1) if (pulses[i]! - pulses[i - 2]! >= longest) return true;
    return false;
  });
  return real.length > KICKS_MOST ? [] : real;
}

/** A standstill on the path through the wheel's teeth. */
export interface Stop {
  /** When the crank slows down and when it is at speed again, seconds. */
  readonly seconds: readonly [number, number];
  /** Crank degrees it turned back, by the teeth that were seen too many; 0 where none were, null where the wheel does not tell. */
  readonly backDegrees: number | null;
}

/** Teeth seen too many from which the crank went back: each is seen once more backwards and once more forwards again. */
const BACK_LEAST = 2;

/**
 * What happened at each standstill: a crank that is thrown back comes by some teeth three times, so the count of pulses runs
 * ahead of the wheel.
 *
 * @param teeth Tooth of each pulse by the wheel's path, -1 where none; `pattern` the crank degrees from each to the next.
 */
export function stopsOf(
  pulses: Float64Array,
  teeth: Int32Array,
  pattern: readonly number[],
  stops: readonly Standstill[],
): Stop[] {
  const count = pattern.length;
  const span = pattern.reduce((sum, one) => sum + one, 0);
  return stops.map(({ from, to }): Stop => {
    let [before, after] = [from, to];
    while (before > 0 && teeth[before]! < 0) before -= 1;
    while (after + 1 < teeth.length && teeth[after]! < 0) after += 1;
    const seconds = [pulses[from]!, pulses[to]!] as const;
    if (count < 2 || teeth[before]! < 0 || teeth[after]! < 0) return { seconds, backDegrees: null };
    const ahead = (((after - before - teeth[after]! + teeth[before]!) % count) + count) % count;
    // One or two too few were lost in a weak signal.
    const back = ahead >= BACK_LEAST && ahead <= count - BACK_LEAST - 1;
    return { seconds, backDegrees: back ? ((ahead / 2) * span) / count : 0 };
  });
}

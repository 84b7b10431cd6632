import { noiseAtLevels, noiseOf } from './hiss';

/** What a channel looks like, measured over all of its samples. */
export interface SignalShape {
  readonly kind: 'constant' | 'square' | 'vr';
  readonly least: number;
  readonly most: number;
  /** The two levels of a square signal; for a VR signal its middle twice. */
  readonly low: number;
  readonly high: number;
  /** Root mean square of the hiss between neighbouring samples. */
  readonly noise: number;
  /** Share of samples at the very ends of the range: a clipped VR signal rests there. */
  readonly clipped: number;
  readonly missing: number;
  /** Levels a square signal rests at, from below; more than two where another signal lies upon it. */
  readonly levels?: readonly number[];
}

const BINS = 512;
/** Samples looked at for the shape: enough for the levels of ten million. */
const LOOKED = 1_000_000;
/** A signal this small against its own offset does not move, volts and share (common practice: below a scope's last digit). */
const STILL = 1e-6;

/**
 * Least, most, levels and kind of a channel. Square signals rest at two levels; a VR signal swings about one.
 * A histogram over at most a million samples, spread in runs so that every part is seen; cost one pass.
 */
export function shapeOf(values: Float32Array): SignalShape {
  let least = Number.POSITIVE_INFINITY;
  let most = Number.NEGATIVE_INFINITY;
  let missing = 0;
  const count = values.length;
  for (let i = 0; i < count; i += 1) {
    // Between the bounds so far there is nothing to do.
    while (i < count && values[i]! >= least && values[i]! <= most) i += 1;
    if (i === count) break;
    const value = values[i]!;
    if (value !== value) missing += 1;
    if (value < least) least = value;
    if (value > most) most = value;
  }
  const none = { low: least, high: most, noise: 0, clipped: 0, missing } as const;
  if (!(most - least > STILL * Math.max(1, Math.abs(most), Math.abs(least))))
    return { kind: 'constant', least, most, ...none };
  const whole = shapeWithin(values, least, most);
  const clipped = whole.ends / Math.max(1, whole.seen);
  const base = { least, most, clipped, missing };
  const made = ({ kind, low, high, noise, levels }: Levels): SignalShape => ({
    ...{ kind, low, high, noise, ...base },
    ...(levels ? { levels } : {}),
  });
  if (!whole.trimmed) return made(whole);
  // Ignition that rings on a line stretches its range many times over: the levels are those of all other samples.
  const inner = shapeWithin(values, ...whole.trimmed);
  return made(inner.kind === 'square' && inner.high - inner.low > INNER_LEAST * (most - least) ? inner : whole);
}

type Levels = Pick<SignalShape, 'kind' | 'low' | 'high' | 'noise' | 'levels'>;
/** Samples left out at either end, share of all, and the part of the range they must take up. */
const [RARE, RARE_RANGE] = [0.02, 0.35];
/** Distance of levels within what is left, share of the whole range: less is the recorder's last digit. */
const INNER_LEAST = 0.08;

interface Within extends Levels {
  readonly seen: number;
  readonly ends: number;
  /** What is left of the range where a few samples take up much of it. */
  readonly trimmed: readonly [number, number] | null;
}

/** The same within a range. */
function shapeWithin(values: Float32Array, least: number, most: number): Within {
  const histogram = new Uint32Array(BINS);
  const scale = (BINS - 1) / (most - least);
  const run = 1000;
  const runs = Math.max(1, Math.floor(LOOKED / run));
  const stride = Math.max(run, Math.floor(values.length / runs));
  let [seen, ends] = [0, 0];
  for (let from = 0; from < values.length; from += stride) {
    const to = Math.min(values.length, from + run);
    for (let i = from; i < to; i += 1) {
      const value = values[i]!;
      if (value !== value) continue;
      if (value < least || value > most) continue;
      histogram[((value - least) * scale) | 0]! += 1;
      seen += 1;
      if (value === least || value === most) ends += 1;
    }
  }
  const share = (from: number, to: number) => {
    let sum = 0;
    for (let bin = Math.max(0, Math.floor(from)); bin < Math.min(BINS, to); bin += 1) sum += histogram[bin]!;
    return sum / Math.max(1, seen);
  };
  const peak = (from: number, to: number) => {
    let [best, at] = [0, from];
    for (let bin = from; bin < to; bin += 1) if (histogram[bin]! > best) [best, at] = [histogram[bin]!, bin];
    return at;
  };
  // The middle is where the signal is half of the time; a square signal has it at one of its two levels.
  let [below, middle] = [0, 0];
  while (middle < BINS - 1 && below + histogram[middle]! < seen / 2) below += histogram[middle++]!;
  const [lowBin, highBin] = [peak(0, BINS >> 1), peak(BINS >> 1, BINS)];
  const near = BINS * 0.08;
  const atLevels = share(lowBin - near, lowBin + near + 1) + share(highBin - near, highBin + near + 1);
  const apart = highBin - lowBin > BINS * 0.3;
  const symmetric = Math.abs(middle - BINS / 2) < BINS * 0.2;
  const both = share(highBin - near, highBin + near + 1) > 0.02 && share(lowBin - near, lowBin + near + 1) > 0.02;
  // A sine rests near its ends for a third of the time; a square signal for nearly all of it. Hum moves both of its levels
  // about, and leaves the middle between them empty all the same.
  const level = (bin: number) => least + (bin + 0.5) / scale;
  const rests = apart && atLevels > 0.72 && (!symmetric || both);
  const [lower, upper] = [meanOf(histogram, 0, BINS >> 1), meanOf(histogram, BINS >> 1, BINS)];
  const half = (lower + upper) / 2;
  const within = share(lower + 0.3 * (upper - lower), lower + 0.7 * (upper - lower));
  const jumps =
    within < MIDDLE_MOST &&
    share(0, half) > 0.02 &&
    share(half, BINS) > 0.02 &&
    edgeSamples(values, level(lower), level(upper)) < EDGE_MOST;
  let [from, to, rare] = [0, BINS - 1, 0];
  while (from < to && rare + histogram[from]! <= RARE * seen) rare += histogram[from++]!;
  rare = 0;
  while (to > from && rare + histogram[to]! <= RARE * seen) rare += histogram[to--]!;
  // A little more than what is left, so that its levels are not at its very ends.
  const spare = 0.15 * (to - from + 1);
  const trimmed: [number, number] | null =
    to - from < (1 - RARE_RANGE) * BINS ? [level(from - spare), level(to + spare)] : null;
  const found = { seen, ends, trimmed };
  // Two signals on one trace rest at three levels or four: the one that moves it more is told by the widest step.
  const resting = restingAt(histogram, seen)
    .map(level)
    .filter((one) => dwellsAt(values, one, (LEVEL_WIDE + 0.5) / scale));
  if (resting.length > 2) {
    const steps = resting.slice(1).map((one, i) => one - resting[i]!);
    const widest = steps.indexOf(Math.max(...steps));
    const [low, high] = [resting[widest]!, resting[widest + 1]!];
    return { kind: 'square', low, high, noise: noiseAtLevels(values, low, high), levels: resting, ...found };
  }
  if (rests || jumps) {
    const [low, high] = rests ? [level(lowBin), level(highBin)] : [level(lower), level(upper)];
    return { kind: 'square', low, high, noise: noiseAtLevels(values, low, high), ...found };
  }
  return { kind: 'vr', low: level(middle), high: level(middle), noise: noiseOf(values), ...found };
}

/** Share of the samples between the levels up to which a signal may be square, and samples an edge of it may take there. */
const MIDDLE_MOST = 0.16;
const EDGE_MOST = 1.6;

/** Bins on each side that are one level's, and between two levels at least. */
const [LEVEL_WIDE, LEVELS_APART] = [6, 50];
/** Share of the samples a level holds, all of them together, and how empty it must be between two, share of the lesser. */
const [LEVEL_LEAST, LEVELS_ALL, VALLEY] = [0.02, 0.9, 0.1];

/** Bins at which a signal rests: narrow peaks of the histogram with next to nothing between; none where it does not rest. */
function restingAt(histogram: Uint32Array, seen: number): number[] {
  const around = (bin: number) => {
    let sum = 0;
    for (let at = Math.max(0, bin - LEVEL_WIDE); at <= Math.min(BINS - 1, bin + LEVEL_WIDE); at += 1)
      sum += histogram[at]!;
    return sum / Math.max(1, seen);
  };
  const shares = Float64Array.from({ length: BINS }, (_, bin) => around(bin));
  const left = new Set(shares.keys());
  const peaks: number[] = [];
  for (;;) {
    let best = -1;
    for (const bin of left) if (shares[bin]! >= LEVEL_LEAST && (best < 0 || shares[bin]! > shares[best]!)) best = bin;
    if (best < 0) break;
    peaks.push(best);
    for (let bin = best - LEVELS_APART; bin <= best + LEVELS_APART; bin += 1) left.delete(bin);
  }
  peaks.sort((one, other) => one - other);
  const all = peaks.reduce((sum, bin) => sum + shares[bin]!, 0);
  const empty = peaks.slice(1).every((bin, i) => {
    const before = peaks[i]!;
    const valley = Math.min(...shares.subarray(before, bin + 1));
    return valley <= VALLEY * Math.min(shares[before]!, shares[bin]!);
  });
  return all >= LEVELS_ALL && empty ? peaks : [];
}

/** Share of the samples at a level whose neighbours are there too: where a signal only comes by they are not. */
const DWELLS = 0.5;
function dwellsAt(values: Float32Array, level: number, wide: number): boolean {
  const end = Math.min(values.length, LOOKED);
  let [there, stays] = [0, 0];
  for (let i = 1; i + 1 < end; i += 1) {
    if (Math.abs(values[i]! - level) > wide) continue;
    there += 1;
    if (Math.abs(values[i - 1]! - level) <= wide && Math.abs(values[i + 1]! - level) <= wide) stays += 1;
  }
  return stays >= DWELLS * there;
}

/** Mean bin of a part of the histogram. */
function meanOf(histogram: Uint32Array, from: number, to: number): number {
  let [sum, count] = [0, 0];
  for (let bin = from; bin < to; bin += 1) {
    sum += bin * histogram[bin]!;
    count += histogram[bin]!;
  }
  return count > 0 ? sum / count : from;
}

/** Samples in the middle between two levels for each time the signal changes from the one to the other, in the mean. */
function edgeSamples(values: Float32Array, low: number, high: number): number {
  const [down, up] = [low + 0.3 * (high - low), low + 0.7 * (high - low)];
  const end = Math.min(values.length, LOOKED);
  let [middle, changes, side] = [0, 0, 0];
  for (let i = 0; i < end; i += 1) {
    const value = values[i]!;
    if (value > up) {
      if (side < 0) changes += 1;
      side = 1;
    } else if (value < down) {
      if (side > 0) changes += 1;
      side = -1;
    } else middle += 1;
  }
  return middle / Math.max(1, changes);
}

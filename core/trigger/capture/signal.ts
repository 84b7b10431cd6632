import { noiseAtLevels, noiseOf } from './hiss';
import { secondsOf, type Channel, type TimeBase } from './capture';

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

/** Crossings of one channel in rising order of time. */
export interface Edges {
  /** Sample number of the crossing, as a fraction. */
  readonly at: Float64Array;
  readonly seconds: Float64Array;
  /** 1 a rise, 0 a fall. */
  readonly level: Uint8Array;
  /** VR: height of the lobe before the crossing, volts. Square: the swing of the signal. */
  readonly height: Float32Array;
  /** VR: seconds of that lobe's top. Square: as `seconds`. */
  readonly lobe: Float64Array;
}

class EdgeList {
  private at: number[] = [];
  private level: number[] = [];
  private height: number[] = [];
  private lobe: number[] = [];
  add(at: number, level: 0 | 1, height: number, lobe = at): void {
    this.at.push(at);
    this.level.push(level);
    this.height.push(height);
    this.lobe.push(lobe);
  }
  finish(time: TimeBase): Edges {
    const at = Float64Array.from(this.at);
    return {
      at,
      seconds: secondsOf(time, at),
      level: Uint8Array.from(this.level),
      height: Float32Array.from(this.height),
      lobe: secondsOf(time, this.lobe),
    };
  }
}

/** Where a square signal's input switches, as a share of the way from its low level to its high one. */
export const SQUARE_ARM = 0.62;
export const SQUARE_RELEASE = 0.38;

/** Edges of a square signal: hysteresis at the signal's own levels, the time taken at half height. */
export function squareEdges(values: Float32Array, shape: SignalShape, time: TimeBase): Edges {
  const list = new EdgeList();
  const swing = shape.high - shape.low;
  const [up, down, half] = [shape.low + SQUARE_ARM * swing, shape.low + SQUARE_RELEASE * swing, shape.low + swing / 2];
  const count = values.length;
  let high = values[0]! > half;
  // Last sample on the other side of half height: the crossing lies after it.
  let before = 0;
  for (let i = 0; i < count; i += 1) {
    // Between edges there is nothing to do: straight to the next sample past half height.
    const from = i;
    if (high) while (i < count && values[i]! > half) i += 1;
    else while (i < count && values[i]! < half) i += 1;
    if (i > from) before = i - 1;
    if (i === count) break;
    const value = values[i]!;
    if (high ? value < down : value > up) {
      list.add(crossing(values, before, half), high ? 0 : 1, swing);
      high = !high;
      before = i;
    }
  }
  return list.finish(time);
}

/** Sample number at which the straight line from this sample to the next passes a level. */
function crossing(values: Float32Array, at: number, level: number): number {
  const [one, other] = [values[at]!, values[at + 1]!];
  const span = other - one;
  return span === 0 || span !== span ? at + 0.5 : at + Math.min(1, Math.max(0, (level - one) / span));
}

export interface VrArming {
  /** A lobe counts when it is this share of the one before it. */
  readonly share: number;
  /** And never below this, volts. */
  readonly leastVolts: number;
}
export const VR_SHARE = 0.32;
/** A lobe below this share of the strongest is taken for noise, whatever came before it (common practice). */
export const VR_LEAST_SHARE = 0.015;

/** Noise must not arm; but what few samples make look like noise must not hide the lobes. */
function leastVoltsOf(shape: SignalShape): number {
  const top = Math.max(shape.most - shape.low, shape.low - shape.least);
  return Math.max(VR_LEAST_SHARE * top, Math.min(5 * shape.noise, NOISE_MOST * top));
}
const NOISE_MOST = 0.2;

/**
 * Zero crossings of a VR signal, each behind a lobe that was high enough: the level a lobe must reach follows the lobe
 * before it on its own side, and sinks while none comes, as a conditioner's adaptive arming does. A fall is the crossing
 * after a lobe above, a rise the one after a lobe below. Zero is the middle of the signal.
 */
export function vrEdges(
  values: Float32Array,
  shape: SignalShape,
  time: TimeBase,
  arming: VrArming = {
    share: VR_SHARE,
    leastVolts: leastVoltsOf(shape),
  },
): Edges {
  const list = new EdgeList();
  const zero = shape.low;
  const { share, leastVolts } = arming;
  let armHigh = leastVolts;
  let armLow = leastVolts;
  let [peak, trough, peakAt, troughAt] = [0, 0, 0, 0];
  // Which side is armed: a lobe has been high enough and its crossing is awaited.
  let [above, below] = [false, false];
  let lastFall = 0;
  let lastRise = 0;
  let [spanFall, spanRise] = [values.length, values.length];
  let [beforeHigh, beforeLow] = [0, 0];
  const count = values.length;
  for (let i = 0; i < count; i += 1) {
    if (!above && !below) {
      // Nothing is armed: straight to the next sample that arms, or to where a level sinks.
      const [top, bottom] = [zero + armHigh, zero - armLow];
      const sinks = Math.min(lastFall + 3 * spanFall, lastRise + 3 * spanRise, count - 1);
      while (i < sinks && values[i]! <= top && values[i]! >= bottom) i += 1;
    } else if (above) {
      // A lobe is awaited to end: its top is all that matters; the other side's level may sink meanwhile.
      const sinks = Math.min(lastRise + 3 * spanRise, count - 1);
      while (i < sinks && values[i]! > zero) {
        const value = values[i]! - zero;
        if (value > peak) {
          peak = value;
          peakAt = i;
        }
        i += 1;
      }
    } else {
      const sinks = Math.min(lastFall + 3 * spanFall, count - 1);
      while (i < sinks && values[i]! < zero) {
        const value = zero - values[i]!;
        if (value > trough) {
          trough = value;
          troughAt = i;
        }
        i += 1;
      }
    }
    const value = values[i]! - zero;
    if (value > 0) {
      if (below) {
        below = false;
        list.add(crossing(values, i - 1, zero), 1, trough, troughAt);
        armLow = Math.max(leastVolts, share * Math.min(trough, beforeLow > 0 ? 3 * beforeLow : trough));
        beforeLow = trough;
        spanRise = i - lastRise;
        lastRise = i;
        trough = 0;
      }
      if (value > armHigh) {
        above = true;
        if (value > peak) {
          peak = value;
          peakAt = i;
        }
      }
    } else if (value < 0) {
      if (above) {
        above = false;
        list.add(crossing(values, i - 1, zero), 0, peak, peakAt);
        armHigh = Math.max(leastVolts, share * Math.min(peak, beforeHigh > 0 ? 3 * beforeHigh : peak));
        beforeHigh = peak;
        spanFall = i - lastFall;
        lastFall = i;
        peak = 0;
      }
      if (-value > armLow) {
        below = true;
        if (-value > trough) {
          trough = -value;
          troughAt = i;
        }
      }
    }
    // No lobe for long: the level sinks, so that a slower turn is not lost.
    if (!above && i - lastFall > 3 * spanFall) {
      armHigh = Math.max(leastVolts, armHigh * 0.5);
      lastFall += spanFall;
    }
    if (!below && i - lastRise > 3 * spanRise) {
      armLow = Math.max(leastVolts, armLow * 0.5);
      lastRise += spanRise;
    }
  }
  return list.finish(time);
}

export const edgesOf = (channel: Channel, shape: SignalShape, time: TimeBase): Edges =>
  shape.kind === 'square' ? squareEdges(channel.values, shape, time) : vrEdges(channel.values, shape, time);

/** How good a signal is to work with. */
export interface SignalQuality {
  readonly kind: SignalShape['kind'];
  /** VR: volts of the lobes at the slowest and the fastest tenth; square: low and high level. */
  readonly volts: readonly [number, number];
  /** VR: volts per 100 hertz of tooth frequency; null for square signals. */
  readonly voltsPer100Hertz: number | null;
  /** Lowest lobe, or the levels' distance, over the level it must pass: above 1 it is seen. */
  readonly margin: number;
  /** Noise against the signal, decibels. */
  readonly noiseDecibels: number;
  /** Square: share of the time it is high. */
  readonly duty: number | null;
  readonly clipped: boolean;
  readonly edges: number;
}

const quantile = (sorted: ArrayLike<number>, share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.max(0, Math.round(share * (sorted.length - 1))))]!;

/** Amplitude against speed, margin, noise and duty of one channel. */
export function qualityOf(shape: SignalShape, edges: Edges): SignalQuality {
  const count = edges.seconds.length;
  const swing =
    shape.kind === 'square' ? shape.high - shape.low : Math.max(shape.most - shape.low, shape.low - shape.least);
  const noiseDecibels = swing > 0 && shape.noise > 0 ? 20 * Math.log10(shape.noise / swing) : Number.NEGATIVE_INFINITY;
  const base = { kind: shape.kind, noiseDecibels, clipped: shape.kind === 'vr' && shape.clipped > 0.01, edges: count };
  if (shape.kind === 'square') {
    let high = 0;
    for (let i = 0; i + 1 < count; i += 1) if (edges.level[i] === 1) high += edges.seconds[i + 1]! - edges.seconds[i]!;
    const span = count > 1 ? edges.seconds[count - 1]! - edges.seconds[0]! : 0;
    return {
      ...base,
      volts: [shape.low, shape.high],
      voltsPer100Hertz: null,
      // The usual input asks for less than 1 V and more than 3.5 V of 5 (common practice).
      margin: Math.min((shape.high - shape.low) / 2.5, 10),
      duty: span > 0 ? high / span : null,
    };
  }
  const falls: number[] = [];
  for (let i = 0; i < count; i += 1) if (edges.level[i] === 0) falls.push(i);
  const points = falls.slice(1).map((edge, at) => ({
    hertz: 1 / Math.max(1e-9, edges.seconds[edge]! - edges.seconds[falls[at]!]!),
    volts: edges.height[edge]!,
  }));
  const heights = points.map(({ volts }) => volts).sort((one, other) => one - other);
  // Median of volts over hertz: a gap's long interval does not bend it.
  const slopes = points.map(({ hertz, volts }) => volts / hertz).sort((one, other) => one - other);
  const floor = Math.max(VR_LEAST_SHARE * swing, 5 * shape.noise, 1e-6);
  return {
    ...base,
    volts: heights.length > 0 ? [quantile(heights, 0.1), quantile(heights, 0.9)] : [0, swing],
    voltsPer100Hertz: slopes.length > 0 ? 100 * quantile(slopes, 0.5) : null,
    margin: heights.length > 0 ? quantile(heights, 0.05) / floor : 0,
    duty: null,
  };
}

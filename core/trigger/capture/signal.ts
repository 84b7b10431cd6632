import { secondsOf, type Channel, type TimeBase } from './capture';
import type { SignalShape } from './shape';

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

import type { Result } from '../../problem';

/**
 * A capture as Gonyx holds it: every channel sampled at the same instants. Times are kept as anchors with straight lines
 * between them, so ten million evenly sampled rows need a handful of figures, and an uneven log is exact all the same.
 */
export interface TimeBase {
  /** Sample numbers of the anchors, rising; the first is 0, the last is count - 1. */
  readonly index: Float64Array;
  /** Seconds at the anchors. */
  readonly seconds: Float64Array;
}

export interface Channel {
  readonly name: string;
  /** As the file says it, `''` when it does not. Values of a voltage are in volts whatever the file had. */
  readonly unit: string;
  /** Ones and zeros, whatever they are drawn at: what the line measured is not in the file. */
  readonly levelsOnly?: true;
  /** Times of one edge of each tooth and nothing else: where its pulses end is drawn, not recorded. */
  readonly oneEdge?: true;
  /** NaN where the file has no value. */
  readonly values: Float32Array;
}

/** A stretch of time nobody recorded, seconds. */
export type Hole = readonly [from: number, to: number];

export interface Capture {
  readonly format: 'csv' | 'vcd' | 'wav' | 'made';
  readonly channels: readonly Channel[];
  readonly time: TimeBase;
  readonly count: number;
  /** Seconds to which the time of a change is known, where the file holds changes and not samples. */
  readonly resolution?: number;
  /** Stretches the recorder left out, seconds from and to; none where nothing is missing. */
  readonly holes?: readonly Hole[];
  /** What was understood of the file, in sentences: columns, units, time base, gaps. */
  readonly notes: readonly string[];
}

/** Gathers anchors while samples arrive: one is kept only where the straight line of the last two does not hold. */
export class TimeLine {
  private indexes: number[] = [];
  private times: number[] = [];
  private lastIndex = -1;
  private lastSeconds = 0;
  /** Jumps ahead of more than a sample and a half. */
  readonly holes: Hole[] = [];

  /** @param step Expected seconds of one sample; @param slack how far a printed time may be off, seconds. */
  constructor(
    private readonly step: number,
    private readonly slack: number,
  ) {}

  /** Whether a sample at this place and time needs no anchor of its own. */
  fits(index: number, seconds: number): boolean {
    const from = this.indexes.length - 1;
    return from >= 0 && Math.abs(this.times[from]! + (index - this.indexes[from]!) * this.step - seconds) <= this.slack;
  }

  /** Whether it lies where the sample before it says, to within less than half a sample: nothing is missing between. */
  follows(index: number, seconds: number): boolean {
    return (
      this.lastIndex >= 0 &&
      Math.abs(this.lastSeconds + (index - this.lastIndex) * this.step - seconds) <=
        Math.max(0.4 * this.step, 2 * this.slack)
    );
  }

  add(index: number, seconds: number): void {
    if (!this.fits(index, seconds)) {
      const from = this.indexes.length - 1;
      if (from >= 0) {
        // The line up to the sample before ends there, not here.
        if (this.lastIndex > this.indexes[from]!) this.push(this.lastIndex, this.lastSeconds);
        if (seconds - this.lastSeconds > (index - this.lastIndex) * this.step * 1.5 + 2 * this.slack)
          this.holes.push([this.lastSeconds, seconds]);
      }
      this.push(index, seconds);
    }
    this.lastIndex = index;
    this.lastSeconds = seconds;
  }

  private push(index: number, seconds: number): void {
    this.indexes.push(index);
    this.times.push(seconds);
  }

  finish(): TimeBase {
    if (this.lastIndex > (this.indexes[this.indexes.length - 1] ?? -1)) this.push(this.lastIndex, this.lastSeconds);
    return { index: Float64Array.from(this.indexes), seconds: Float64Array.from(this.times) };
  }
}

/** An even time base: `count` samples `step` seconds apart. */
export const evenTime = (count: number, step: number, start = 0): TimeBase =>
  count <= 1
    ? { index: Float64Array.of(0), seconds: Float64Array.of(start) }
    : { index: Float64Array.of(0, count - 1), seconds: Float64Array.of(start, start + (count - 1) * step) };

/** Last anchor at or before, by halving. */
function anchorBefore(anchors: Float64Array, value: number): number {
  let [low, high] = [0, anchors.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (anchors[middle]! <= value) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Seconds at a sample number, which may be a fraction. */
export function secondsAt(time: TimeBase, index: number): number {
  const last = time.index.length - 1;
  if (last < 1) return time.seconds[0] ?? 0;
  const at = Math.min(anchorBefore(time.index, index), last - 1);
  const slope = (time.seconds[at + 1]! - time.seconds[at]!) / (time.index[at + 1]! - time.index[at]!);
  return time.seconds[at]! + (index - time.index[at]!) * slope;
}

/** Sample number at a time, as a fraction; within the capture's own span. */
export function indexAt(time: TimeBase, seconds: number): number {
  const last = time.seconds.length - 1;
  if (last < 1) return 0;
  const at = Math.min(anchorBefore(time.seconds, seconds), last - 1);
  const span = time.seconds[at + 1]! - time.seconds[at]!;
  const part = span > 0 ? (seconds - time.seconds[at]!) / span : 0;
  const index = time.index[at]! + part * (time.index[at + 1]! - time.index[at]!);
  return Math.min(Math.max(0, index), time.index[last]!);
}

/** Seconds for many sample numbers in rising order: one walk over the anchors. */
export function secondsOf(time: TimeBase, indexes: ArrayLike<number>): Float64Array {
  const out = new Float64Array(indexes.length);
  const last = time.index.length - 1;
  if (last < 1) return out.fill(time.seconds[0] ?? 0);
  let at = 0;
  for (let i = 0; i < out.length; i += 1) {
    const index = indexes[i]!;
    while (at < last - 1 && time.index[at + 1]! <= index) at += 1;
    const slope = (time.seconds[at + 1]! - time.seconds[at]!) / (time.index[at + 1]! - time.index[at]!);
    out[i] = time.seconds[at]! + (index - time.index[at]!) * slope;
  }
  return out;
}

export const startOf = (capture: Capture): number => capture.time.seconds[0] ?? 0;
export const endOf = (capture: Capture): number => capture.time.seconds[capture.time.seconds.length - 1] ?? 0;

/** Mean samples a second over the capture; 0 for one sample. */
export const sampleRate = (capture: Capture): number => {
  const span = endOf(capture) - startOf(capture);
  return span > 0 ? (capture.count - 1) / span : 0;
};

/** Values that come one after another without their number being known: grows by blocks, never copies what it has. */
export class Column {
  private static readonly BLOCK = 1 << 18;
  private blocks: Float32Array[] = [];
  /** The block being filled, and where. */
  block = new Float32Array(Column.BLOCK);
  at = 0;
  length = 0;

  push(value: number): void {
    if (this.at === Column.BLOCK) {
      this.blocks.push(this.block);
      this.block = new Float32Array(Column.BLOCK);
      this.at = 0;
    }
    this.block[this.at] = value;
    this.at += 1;
    this.length += 1;
  }

  /** One array of all of it; each block is let go as it is copied. */
  finish(): Float32Array {
    const out = new Float32Array(this.length);
    let at = 0;
    for (let i = 0; i < this.blocks.length; i += 1) {
      out.set(this.blocks[i]!, at);
      at += Column.BLOCK;
      this.blocks[i] = new Float32Array(0);
    }
    out.set(this.block.subarray(0, this.at), at);
    this.blocks = [];
    return out;
  }
}

/** Takes a file in pieces and gives the capture at its end; a piece may end anywhere. */
export interface CaptureReader {
  push(bytes: Uint8Array): Result<null>;
  finish(): Result<Capture>;
}

/** One array of a channel out of its blocks; each block is let go as it is copied, so the file is never held twice. */
export function joined(blocks: Float32Array[][], channel: number, count: number, size: number): Float32Array {
  const out = new Float32Array(count);
  blocks.forEach((block, at) => {
    out.set(block[channel]!.subarray(0, Math.min(size, count - at * size)), at * size);
    block[channel] = new Float32Array(0);
  });
  return out;
}

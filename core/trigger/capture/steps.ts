import { secondsOf, type Capture, type Channel, type TimeBase } from './capture';

/*
 * Records of changes: a row, or a stamp of a dump, stands where something changed, and all holds until the next. As samples with straight
 * lines between them an edge would be drawn over the whole wait before it.
 */

/** Of the rows of a record of changes so many change something; a last one may only say how long it lasted. */
const CHANGING = 0.98;
/** Rows from which the record is believed to be one. */
const ROWS_LEAST = 12;
/** Values a channel of a record of changes takes. */
const LEVELS = 2;
/** Times evenly so far apart are samples: share of the waits that are as long as the usual one. */
const EVENLY = 0.9;
const AS_LONG = 0.02;

/** Two samples a stamp, seconds: one at the old value right before it, `tick` earlier at the most, and one at the new. */
export function stampsAsTime(stamps: ArrayLike<number>, tick: number): TimeBase {
  const count = stamps.length;
  const [index, seconds] = [new Float64Array(2 * count), new Float64Array(2 * count)];
  for (let at = 0; at < count; at += 1) {
    const stamp = stamps[at]!;
    const wait = at === 0 ? 0 : stamp - stamps[at - 1]!;
    index.set([2 * at, 2 * at + 1], 2 * at);
    seconds.set([at === 0 ? stamp : stamp - Math.min(tick, wait / 2), stamp], 2 * at);
  }
  return { index, seconds };
}

/** Differences looked at for the grid of a recorder's clock. */
const GRID_LOOKED = 2000;
/** Ticks by which a time that was rounded to them may be off the recorder's own grid. */
const ROUNDED = 1.5;

/**
 * Step of the clock that drew the changes, seconds: the largest of which all waits are multiples (Euclid, as far as rounding to the
 * ticks of the file allows); a tick where there is none.
 */
export function gridOf(stamps: ArrayLike<number>, tick: number): number {
  let grid = 0;
  const end = Math.min(stamps.length, GRID_LOOKED);
  for (let at = 1; at < end; at += 1) {
    let [one, other] = [grid, stamps[at]! - stamps[at - 1]!];
    while (other > ROUNDED * tick) {
      const left = one % other;
      // A remainder just under the whole is one that rounding took below it.
      [one, other] = [other, Math.min(left, other - left)];
    }
    grid = one;
    if (grid <= 4 * tick) return tick;
  }
  return Math.max(grid, tick);
}

/** Whether the rows of a text stand at changes only: two levels a channel, something changes in each, and they are not evenly apart. */
function holdsChanges({ channels, count }: Capture, seconds: Float64Array): boolean {
  if (count < ROWS_LEAST) return false;
  for (const { values } of channels) {
    const seen = new Set<number>();
    for (let i = 0; i < count && seen.size <= LEVELS; i += 1) seen.add(values[i]!);
    if (seen.size > LEVELS || [...seen].some(Number.isNaN)) return false;
  }
  let still = 0;
  for (let i = 1; i < count; i += 1) if (channels.every(({ values }) => values[i] === values[i - 1])) still += 1;
  if (still > 1 + (1 - CHANGING) * count) return false;
  const waits = seconds.subarray(1).map((time, i) => time - seconds[i]!);
  const usual = [...waits.subarray(0, GRID_LOOKED)].sort((one, other) => one - other)[
    Math.min(waits.length, GRID_LOOKED) >> 1
  ]!;
  let alike = 0;
  for (const wait of waits) if (Math.abs(wait - usual) <= AS_LONG * usual) alike += 1;
  return alike < EVENLY * waits.length;
}

/** A text that holds changes as the steps it means; another as it is. @param tick Seconds of the last decimal of its times. */
export function asSteps(capture: Capture, tick: number): Capture {
  const seconds = secondsOf(
    capture.time,
    Float64Array.from({ length: capture.count }, (_, i) => i),
  );
  if (!holdsChanges(capture, seconds)) return capture;
  const channels = capture.channels.map((channel): Channel => {
    const values = new Float32Array(2 * capture.count);
    for (let i = 0; i < capture.count; i += 1) {
      values[2 * i] = channel.values[Math.max(0, i - 1)]!;
      values[2 * i + 1] = channel.values[i]!;
    }
    return { ...channel, values };
  });
  return {
    ...capture,
    channels,
    count: 2 * capture.count,
    time: stampsAsTime(seconds, tick),
    resolution: gridOf(seconds, tick),
    notes: [...capture.notes, 'Its rows stand at changes only: each level is taken to hold until the next row.'],
  };
}

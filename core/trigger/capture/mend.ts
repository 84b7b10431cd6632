import type { TimeBase } from './capture';
import { shapeOf, type SignalShape } from './shape';

// Hot loops look these up once.
const { PI, abs, atan2, cos, floor, hypot, max, min, round, sin } = Math;

/** What a recorder or the mains put onto a channel, and was taken off again before it is read. */
export type Mend =
  | { readonly kind: 'coupled'; readonly hertz: number }
  /** Its height is that of the channel's own unit, half of peak to peak. */
  | { readonly kind: 'hum'; readonly hertz: number; readonly height: number };

export interface Mended {
  readonly values: Float32Array;
  readonly shape: SignalShape;
  readonly mends: readonly Mend[];
}

/** Step between two samples, share of the range, that is an edge and no curve; how many there must be, and the most of all samples. */
const [JUMP, JUMPS_LEAST, JUMPS_SHARE] = [0.2, 8, 0.15];
/** Corners of inputs that a capacitor couples, hertz (common practice: scopes 1 to 10, sound cards 2 to 40). */
const [CORNER_LEAST, CORNER_MOST] = [0.2, 120];

/** Seconds from sample to sample where they are even, but for what a text rounds; null where they are not. */
function evenStep({ index, seconds }: TimeBase): number | null {
  const last = index.length - 1;
  const step = (seconds[last]! - seconds[0]!) / (index[last]! - index[0]!);
  const even = index.every((at, i) => abs(seconds[i]! - seconds[0]! - (at - index[0]!) * step) <= step);
  return last > 0 && even ? step : null;
}

/**
 * A square signal behind a capacitor, put back: between two edges it decays towards its middle, and what a sample falls by over its
 * height says how fast. Of a wave without jumps the two have nothing to do with each other, so that nothing is put back.
 * Null where it is no such signal, or where what comes out has not two levels.
 */
function putBack(values: Float32Array, { least, most }: SignalShape, step: number): Mended | null {
  const jump = JUMP * (most - least);
  // dy = -w (y - y0) dt by least squares over all that is no jump.
  let [count, jumps, sumY, sumYY, sumD, sumYD] = [0, 0, 0, 0, 0, 0];
  for (let i = 1; i < values.length; i += 1) {
    const change = values[i]! - values[i - 1]!;
    if (abs(change) > jump) {
      jumps += 1;
      continue;
    }
    const value = 0.5 * (values[i]! + values[i - 1]!);
    if (change !== change) return null;
    count += 1;
    sumY += value;
    sumYY += value * value;
    sumD += change;
    sumYD += value * change;
  }
  if (jumps < JUMPS_LEAST || jumps > JUMPS_SHARE * values.length) return null;
  const spread = sumYY - (sumY * sumY) / count;
  const fall = -(sumYD - (sumY * sumD) / count) / spread;
  const hertz = fall / step / (2 * PI);
  if (!(hertz > CORNER_LEAST && hertz < CORNER_MOST)) return null;
  const middle = sumY / count + sumD / count / fall;
  const out = new Float32Array(values.length);
  let held = 0;
  for (let i = 0; i < values.length; i += 1) {
    const value = values[i]! - middle;
    if (i > 0) held += fall * 0.5 * (value + values[i - 1]! - middle);
    out[i] = value + held;
  }
  const shape = shapeOf(out);
  return shape.kind === 'square' ? { values: out, shape, mends: [{ kind: 'coupled', hertz }] } : null;
}

/** Frequencies of mains, hertz, and how far they may be off (IEC 60038 and EN 50160: 1 % nearly always). */
const MAINS = [50, 60];
const MAINS_OFF = 0.6;
/** Parts of a recording whose hum must be one wave, seconds of each at least, and how well they must agree. */
const [PARTS, PART_LEAST, AGREE, ALIKE] = [8, 0.1, 0.9, 0.5];
/** Height below which it is left, share of the channel's range; and of a multiple. */
const [HUM_LEAST, MULTIPLE_LEAST] = [0.06, 0.01];
/** How far the signal's steep places may keep to one phase of a hum: those of teeth that come as often as the mains do. */
const KEEPS_STEP = 0.35;
/** A place is steep from this share of the steepest. */
const STEEP = 0.3;
const MULTIPLES = [1, 2, 3];
/** Seconds over which samples are put together before a hum is sought: a fortieth of its period. */
const TOGETHER = 0.0005;

/** A wave's part in some values: cosine and sine of its height. */
function waveOf(values: Float64Array, from: number, to: number, turn: number, mean: number): readonly [number, number] {
  let [x, y] = [0, 0];
  for (let i = from; i < to; i += 1) {
    const value = values[i]! - mean;
    x += value * cos(turn * i);
    y += value * sin(turn * i);
  }
  return [(2 * x) / (to - from), (2 * y) / (to - from)];
}

/** How far the steep rises of a signal, or its steep falls, keep step with a wave: 0 not at all, 1 all at one phase (Mardia 1972). */
function keepsStep(values: Float32Array, turn: number): number {
  const arrows = [-1, 1].map((way) => {
    let most = 0;
    for (let i = 1; i < values.length; i += 1) most = max(most, way * (values[i]! - values[i - 1]!));
    let [x, y, count] = [0, 0, 0];
    for (let i = 1; i < values.length; i += 1) {
      if (way * (values[i]! - values[i - 1]!) < STEEP * most) continue;
      x += cos(turn * i);
      y += sin(turn * i);
      count += 1;
    }
    return hypot(x, y) / max(1, count);
  });
  return max(...arrows);
}

/** Hum of the mains, told from what the crank gives by being one wave from end to end; null where there is none. */
function withoutHum(values: Float32Array, { least, most }: SignalShape, step: number): Mended | null {
  const block = max(1, round(TOGETHER / step));
  const each = block * step;
  const count = floor(values.length / block);
  const part = floor(count / PARTS);
  if (part * each < PART_LEAST || each > 5 * TOGETHER) return null;
  const blocks = new Float64Array(count);
  let mean = 0;
  for (let i = 0; i < count; i += 1) {
    let sum = 0;
    for (let k = i * block; k < (i + 1) * block; k += 1) sum += values[k]!;
    if (sum !== sum) return null;
    blocks[i] = sum / block;
    mean += blocks[i]! / count;
  }
  for (const mains of MAINS) {
    const turn = 2 * PI * mains * each;
    const waves = Array.from({ length: PARTS }, (_, k) => waveOf(blocks, k * part, (k + 1) * part, turn, mean));
    const heights = waves.map(([x, y]) => hypot(x, y));
    if (min(...heights) < max(ALIKE * max(...heights), HUM_LEAST * 0.5 * (most - least))) continue;
    // By how much it runs ahead from part to part is how far it is from 50.
    const [ahead, behind] = waves.slice(1).reduce(
      ([x, y], [c, s], k) => {
        const [a, b] = waves[k]!;
        return [x + a * c + b * s, y + a * s - b * c];
      },
      [0, 0],
    );
    const drift = atan2(behind, ahead) / (part * each);
    const hertz = mains - drift / (2 * PI);
    const length = waves.slice(1).reduce((sum, [c, s], k) => sum + hypot(c, s) * hypot(waves[k]![0], waves[k]![1]), 0);
    if (abs(hertz - mains) > MAINS_OFF || hypot(ahead, behind) < AGREE * length) continue;
    if (keepsStep(values, 2 * PI * hertz * step) > KEEPS_STEP) continue;
    let out = values;
    let height = 0;
    for (const multiple of MULTIPLES) {
      const own = 2 * PI * multiple * hertz * each;
      const [x, y] = waveOf(blocks, 0, part * PARTS, own, mean);
      // What putting samples together took off.
      const flat = block > 1 ? own / 2 / sin(own / 2) : 1;
      const tall = hypot(x, y) * flat;
      if (multiple > 1 && tall < MULTIPLE_LEAST * (most - least)) continue;
      if (multiple === 1) height = tall;
      const phase = atan2(y, x);
      const [fine, off] = [own / block, (0.5 * (block - 1) * own) / block];
      out = out.map((value, i) => value - tall * cos(fine * i - off - phase));
    }
    return { values: out, shape: shapeOf(out), mends: [{ kind: 'hum', hertz, height }] };
  }
  return null;
}

/**
 * A channel that is no clean square, with what recorder and mains put onto it taken off; null where that is nothing. Only samples that
 * come evenly are mended.
 */
export function mended(values: Float32Array, shape: SignalShape, time: TimeBase): Mended | null {
  const step = evenStep(time);
  if (step === null || shape.kind !== 'vr') return null;
  return putBack(values, shape, step) ?? withoutHum(values, shape, step);
}

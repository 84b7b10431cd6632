/**
 * Level of detail for drawing: least and most of every 64 samples, of every 256 and so on, so that a screenful of ten
 * million samples costs as much as a screenful of a thousand.
 */
export interface Pyramid {
  readonly levels: readonly { readonly size: number; readonly least: Float32Array; readonly most: Float32Array }[];
}

const FIRST = 64;
const STEP = 4;

export function pyramidOf(values: Float32Array): Pyramid {
  const levels: { size: number; least: Float32Array; most: Float32Array }[] = [];
  let size = FIRST;
  let [least, most, each] = [values, values, FIRST];
  while (least.length > each) {
    const count = Math.ceil(least.length / each);
    const [low, high] = [new Float32Array(count), new Float32Array(count)];
    for (let i = 0; i < count; i += 1) {
      let [down, up] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
      const end = Math.min(least.length, (i + 1) * each);
      for (let k = i * each; k < end; k += 1) {
        if (least[k]! < down) down = least[k]!;
        if (most[k]! > up) up = most[k]!;
      }
      low[i] = down;
      high[i] = up;
    }
    levels.push({ size, least: low, most: high });
    [least, most, each] = [low, high, STEP];
    size *= STEP;
  }
  return { levels };
}

/** Least and most of a span of samples, from the coarsest blocks that fit into it and single samples at its ends. */
export function rangeOf(values: Float32Array, pyramid: Pyramid, from: number, to: number): readonly [number, number] {
  let [least, most] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  let at = Math.max(0, from);
  const end = Math.min(values.length, to);
  while (at < end) {
    let took = 0;
    for (let depth = pyramid.levels.length - 1; depth >= 0 && took === 0; depth -= 1) {
      const level = pyramid.levels[depth]!;
      if (at % level.size !== 0 || at + level.size > end) continue;
      const block = at / level.size;
      if (level.least[block]! < least) least = level.least[block]!;
      if (level.most[block]! > most) most = level.most[block]!;
      took = level.size;
    }
    if (took === 0) {
      const value = values[at]!;
      if (value < least) least = value;
      if (value > most) most = value;
      took = 1;
    }
    at += took;
  }
  return [least, most];
}

/** Value at a place of a rising row, by straight lines: seconds of a crank angle, or the angle of a time. */
export function between(from: ArrayLike<number>, to: ArrayLike<number>, value: number): number {
  const last = from.length - 1;
  if (last < 1) return Number.NaN;
  let [low, high] = [0, last];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (from[middle]! <= value) low = middle;
    else high = middle;
  }
  const span = from[high]! - from[low]!;
  return span === 0 ? to[low]! : to[low]! + ((value - from[low]!) / span) * (to[high]! - to[low]!);
}

import type { SignalShape } from './capture/shape';
import type { Edges } from './capture/signal';

// Hot loops look these up once.
const { ceil, max, min } = Math;

/** Beyond a square signal's levels, share of their distance (common practice: ringing, no level of a sensor's). */
const BEYOND_LEVELS = 0.35;
/** Lobe over the usual one of its kind nearby: a gap makes one half as high again, not so. */
const BEYOND_LOBES = 2.5;
/** Lobes nearby on each side. */
const NEARBY = 12;

/** Edges beside which a signal goes beyond its own height: of a square one its levels, of a VR one its lobes. Cost: one pass where any does. */
export function loudEdges(values: Float32Array, shape: SignalShape, edges: Edges): Uint8Array {
  return shape.kind === 'square' ? beyondLevels(values, shape, edges) : beyondLobes(edges);
}

function beyondLevels(values: Float32Array, { least, most, low, high }: SignalShape, { at }: Edges): Uint8Array {
  const loud = new Uint8Array(at.length);
  const more = BEYOND_LEVELS * (high - low);
  const [bottom, top] = [low - more, high + more];
  if (least >= bottom && most <= top) return loud;
  for (let i = 0; i < at.length; i += 1) {
    const [from, to] = [ceil(at[i]!), min(values.length, ceil(at[i + 1] ?? values.length))];
    let beyond = false;
    for (let k = from; k < to && !beyond; k += 1) beyond = values[k]! > top || values[k]! < bottom;
    if (!beyond) continue;
    loud[i] = 1;
    if (i + 1 < at.length) loud[i + 1] = 1;
  }
  return loud;
}

function beyondLobes({ height, level }: Edges): Uint8Array {
  const loud = new Uint8Array(height.length);
  for (const kind of [0, 1]) {
    const own: number[] = [];
    for (let i = 0; i < level.length; i += 1) if (level[i] === kind) own.push(i);
    own.forEach((edge, i) => {
      const near = own.slice(max(0, i - NEARBY), i + NEARBY + 1).map((one) => height[one]!);
      near.sort((one, other) => one - other);
      if (height[edge]! > BEYOND_LOBES * near[near.length >> 1]!) loud[edge] = 1;
    });
  }
  return loud;
}

import type { Edges } from './capture/signal';

/**
 * Wide teeth before a VR sensor: each side of a tooth is a lobe of its own, and between the two the signal rests, so that
 * no crossing is steep and its place is left to noise. What is sharp then is the top of each lobe: it stands where the
 * side of the tooth passes the pole.
 */

/** A signal this far down, a quarter of the way from one lobe to the next, rests between the two; a sine has 70 % left. */
const RESTS = 0.15;
/** Share of the crossings of either kind that must rest: a wheel's gaps alone make one kind rest. */
const SHARE = 0.15;
const LEAST = 4;

/** Whether the lobes stand apart on both sides, as those of wide teeth do. */
export function lobesApart(edges: Edges, values: Float32Array, zero: number): boolean {
  const rest = [0, 0];
  const all = [0, 0];
  for (let i = 1; i + 1 < edges.at.length; i += 1) {
    // Samples a second hereabouts: lobes are told in seconds.
    const rate = (edges.at[i + 1]! - edges.at[i - 1]!) / (edges.seconds[i + 1]! - edges.seconds[i - 1]!);
    const [top, next] = [edges.lobe[i]!, edges.lobe[i + 1]!];
    const quarter = edges.at[i]! + (top + 0.25 * (next - top) - edges.seconds[i]!) * rate;
    const value = values[Math.round(quarter)];
    if (value === undefined || Number.isNaN(value) || !(edges.height[i]! > 0)) continue;
    all[edges.level[i]!]! += 1;
    if (Math.abs(value - zero) < RESTS * edges.height[i]!) rest[edges.level[i]!]! += 1;
  }
  return [0, 1].every((level) => rest[level]! >= LEAST && rest[level]! > SHARE * all[level]!);
}

/** The sides of the teeth as edges of a square signal: a lobe above is a rise, one below a fall. */
export function lobesAsEdges(edges: Edges): Edges {
  const count = edges.at.length;
  const at = new Float64Array(count);
  for (let i = 0; i < count; i += 1) {
    const other = i > 0 ? i - 1 : Math.min(1, count - 1);
    const rate = other === i ? 0 : (edges.at[i]! - edges.at[other]!) / (edges.seconds[i]! - edges.seconds[other]!);
    at[i] = edges.at[i]! + (edges.lobe[i]! - edges.seconds[i]!) * rate;
  }
  return { ...edges, at, seconds: edges.lobe, level: edges.level.map((level) => 1 - level) };
}

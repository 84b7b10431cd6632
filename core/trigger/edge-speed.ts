import type { Track } from './tracks';

/** Edges looked at: more change a median by nothing. */
const LOOKED = 400;

const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((one, other) => one - other);
  return sorted[sorted.length >> 1]!;
};

const spread = (count: number): number[] => {
  const stride = Math.max(1, Math.floor(count / LOOKED));
  return Array.from({ length: Math.ceil(count / stride) }, (_, i) => i * stride);
};

/**
 * Time a square signal takes from 10 % to 90 % of its swing at its slower edge, seconds: median over the edges, never told
 * shorter than the recorder can show (one sample). Null for VR signals.
 */
export function edgeSeconds(track: Track): number | null {
  const { shape, edges, channel } = track;
  const { step } = track;
  if (shape.kind !== 'square' || step === 0) return null;
  const swing = shape.high - shape.low;
  const [low, high] = [shape.low + 0.1 * swing, shape.low + 0.9 * swing];
  const times: Record<0 | 1, number[]> = { 0: [], 1: [] };
  for (const i of spread(edges.at.length)) {
    const level = edges.level[i] as 0 | 1;
    const from = Math.floor(edges.at[i]!);
    let [one, other] = [from, from + 1];
    const before = (value: number) => (level === 1 ? value > low : value < high);
    const after = (value: number) => (level === 1 ? value < high : value > low);
    while (one > 0 && before(channel.values[one]!)) one -= 1;
    while (other < channel.values.length - 1 && after(channel.values[other]!)) other += 1;
    times[level].push(other - one);
  }
  const slower = Math.max(...[times[0], times[1]].filter((all) => all.length > 0).map(median));
  return slower * step;
}

/** Degrees of the crank by which noise moves a VR signal's steep crossing: noise over slope, root mean square. Null where no crossing is read. */
export function crossingNoiseDegrees(track: Track, rpm: number): number | null {
  const { shape, edges, channel, step } = track;
  if (track.reads !== 'crossings' || step === 0) return null;
  const slopes = spread(edges.at.length).flatMap((i) => {
    const at = Math.round(edges.at[i]!);
    // Over half the way between the lobes' tops: a single step would measure the noise itself.
    const near = Math.max(1, Math.round((0.25 * (edges.seconds[i]! - edges.lobe[i]!)) / step));
    const slope = Math.abs(channel.values[at + near]! - channel.values[at - near]!) / (2 * near * step);
    return edges.level[i] === 0 && slope > 0 ? [slope] : [];
  });
  if (slopes.length === 0) return null;
  return (shape.noise / median(slopes)) * 6 * rpm;
}

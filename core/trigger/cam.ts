import { showsSides, type Track } from './tracks';
import { mirrored, teethPerTurn, type Wheel } from '../wheels/wheel';

/** What the cam's signal is, told by the crank's angle. */
export interface CamFit {
  /** The library's wheel that fits, null when none does: the geometry stands all the same. */
  readonly wheel: Wheel | null;
  readonly pulsesPerCycle: number;
  /** Crank degrees 0 to 720 of each edge, from the crank pattern's first tooth. */
  readonly edges: readonly { readonly degrees: number; readonly level: 0 | 1 }[];
  /** Crank degrees from the crank pattern's first tooth to the wheel's own zero. */
  readonly degrees: number | null;
  /** Root mean square of what the wheel's edges are off, crank degrees. */
  readonly offBy: number | null;
  /** Share of the cam's edges that fall on the pattern. */
  readonly share: number;
  readonly inverted: boolean;
  /** Whether it tells the two turns of a cycle apart. */
  readonly tellsPhase: boolean;
  readonly reason: string;
}

const CYCLE = 720;
const wrap = (degrees: number) => ((degrees % CYCLE) + CYCLE) % CYCLE;
const apart = (one: number, other: number) => {
  const distance = Math.abs(wrap(one - other));
  return Math.min(distance, CYCLE - distance);
};

/** Crank angle of every edge of a track, between the two crank pulses about it; NaN outside. */
export function anglesAt(seconds: ArrayLike<number>, pulses: Float64Array, degrees: Float64Array): Float64Array {
  const out = new Float64Array(seconds.length).fill(Number.NaN);
  let at = 0;
  for (let i = 0; i < out.length; i += 1) {
    const time = seconds[i]!;
    while (at + 2 < pulses.length && pulses[at + 1]! <= time) at += 1;
    let [low, high] = [at, at + 1];
    while (low > 0 && Number.isNaN(degrees[low])) low -= 1;
    while (high < pulses.length - 1 && Number.isNaN(degrees[high])) high += 1;
    if (time < pulses[low]! || !(time <= pulses[high]!)) continue;
    const part = (time - pulses[low]!) / (pulses[high]! - pulses[low]!);
    out[i] = degrees[low]! + part * (degrees[high]! - degrees[low]!);
  }
  return out;
}

/** Angles that come back every cycle, each as its mean; edges seen in fewer than four of ten cycles are strays. */
function clusters(angles: readonly number[], cycles: number, wide: number): { degrees: number; count: number }[] {
  const sorted = angles.map(wrap).sort((one, other) => one - other);
  if (sorted.length === 0) return [];
  const groups: number[][] = [[sorted[0]!]];
  for (const angle of sorted.slice(1)) {
    const group = groups[groups.length - 1]!;
    if (angle - group[group.length - 1]! <= wide) group.push(angle);
    else groups.push([angle]);
  }
  // The first and the last may be one, cut by the end of the cycle.
  const last = groups[groups.length - 1]!;
  if (groups.length > 1 && groups[0]![0]! + CYCLE - last[last.length - 1]! <= wide) {
    groups[0] = [...last.map((angle) => angle - CYCLE), ...groups[0]!];
    groups.pop();
  }
  return groups
    .filter((group) => group.length >= Math.max(1, 0.4 * cycles))
    .map((group) => ({ degrees: wrap(group.reduce((sum, one) => sum + one, 0) / group.length), count: group.length }))
    .sort((one, other) => one.degrees - other.degrees);
}

/** Degrees a cam wheel's edges may be off in the mean and still be that wheel. */
const NEAR = 14;

export function matchCam(
  cam: Track,
  pulses: Float64Array,
  degrees: Float64Array,
  wheels: readonly Wheel[],
): CamFit | null {
  const angles = anglesAt(cam.edges.seconds, pulses, degrees);
  const square = showsSides(cam);
  const of = (level: 0 | 1) => [...angles].filter((angle, i) => cam.edges.level[i] === level && !Number.isNaN(angle));
  const seen = [...angles].filter((angle) => !Number.isNaN(angle));
  if (seen.length < 2) return null;
  const cycles = Math.max(1, (Math.max(...seen) - Math.min(...seen)) / CYCLE);
  // Between coarse teeth the angle is only as good as the speed is even.
  const pitch = (degrees[degrees.length - 1]! - degrees[0]!) / Math.max(1, degrees.length);
  const wide = Math.min(24, Math.max(12, Number.isNaN(pitch) ? 12 : pitch * 0.3));
  const [rises, falls] = [clusters(of(1), cycles, wide), clusters(of(0), cycles, wide)];
  const main = square ? rises : falls;
  if (main.length === 0) return null;
  const edges = [
    ...(square ? rises.map(({ degrees: at }) => ({ degrees: at, level: 1 as const })) : []),
    ...falls.map(({ degrees: at }) => ({ degrees: at, level: 0 as const })),
  ].sort((one, other) => one.degrees - other.degrees);
  const inAll = main.reduce((sum, { count }) => sum + count, 0);
  const share = inAll / Math.max(1, of(square ? 1 : 0).length);
  const tellsPhase = !edges.every(({ degrees: at, level }) =>
    edges.some((other) => other.level === level && apart(other.degrees, at + 360) < wide),
  );
  let best: { wheel: Wheel; degrees: number; off: number; inverted: boolean } | null = null;
  for (const wheel of wheels) {
    if (teethPerTurn(wheel) !== main.length) continue;
    for (const inverted of square ? [false, true] : [false])
      for (const own of [wheel, mirrored(wheel)]) {
        const fit = shiftFit(own, edges, square, inverted);
        if (fit && (!best || fit.off < best.off - (own === wheel && !inverted ? 0 : 1)))
          best = { wheel, degrees: fit.degrees, off: fit.off, inverted };
      }
  }
  const near = best !== null && best.off <= NEAR;
  return {
    wheel: near ? best!.wheel : null,
    pulsesPerCycle: main.length,
    edges,
    degrees: near ? best!.degrees : null,
    offBy: best?.off ?? null,
    share,
    inverted: near && best!.inverted,
    tellsPhase,
    reason: near
      ? `${main.length === 1 ? 'one pulse' : `${main.length} pulses`} a cycle, ${best!.off.toFixed(1)}° off in the mean`
      : `${main.length === 1 ? 'one pulse' : `${main.length} pulses`} a cycle, at angles no wheel of the library has`,
  };
}

/** The turn of a wheel that brings its edges nearest to those seen. */
function shiftFit(
  wheel: Wheel,
  edges: CamFit['edges'],
  square: boolean,
  inverted: boolean,
): { degrees: number; off: number } | null {
  const spots = square
    ? wheel.edges.map(({ degrees, level }) => ({ degrees: degrees * 2, level: inverted ? 1 - level : level }))
    : wheel.edges.flatMap((edge, i) => {
        if (edge.level !== 1) return [];
        const off = (wheel.edges[(i + 1) % wheel.edges.length]!.degrees - edge.degrees + 360) % 360;
        return [{ degrees: (edge.degrees + off / 2) * 2, level: 0 }];
      });
  if (spots.length !== edges.length) return null;
  let best: { degrees: number; off: number } | null = null;
  for (const start of edges) {
    if (start.level !== spots[0]!.level) continue;
    const shift = start.degrees - spots[0]!.degrees;
    const offs = spots.map((spot) => {
      let [least, signed] = [Number.POSITIVE_INFINITY, 0];
      for (const edge of edges) {
        if (edge.level !== spot.level) continue;
        let distance = wrap(edge.degrees - spot.degrees - shift);
        if (distance > CYCLE / 2) distance -= CYCLE;
        if (Math.abs(distance) < least) [least, signed] = [Math.abs(distance), distance];
      }
      return signed;
    });
    const mean = offs.reduce((sum, one) => sum + one, 0) / offs.length;
    const off = Math.sqrt(offs.reduce((sum, one) => sum + (one - mean) ** 2, 0) / offs.length);
    if (!best || off < best.off) best = { degrees: wrap(shift + mean), off };
  }
  return best;
}

import { repeats, toothIntervals, type Wheel } from '../wheels/wheel';

// Hot loops look these up once.
const { abs, round } = Math;

/** Which spot of a tooth a signal is read at: its leading edge, its trailing edge, or its middle. */
export type Spot = 'rise' | 'fall' | 'centre';

/** Intervals of one repeat of the pattern in crank degrees: from rise to rise, from fall to fall, or between centres. */
export function patternOf(wheel: Wheel, use: Spot): number[] {
  const ratio = wheel.shaft === 'cam' ? 2 : 1;
  const { edges } = wheel;
  const spots = edges.flatMap((edge, i) => {
    if (edge.level !== 1) return [];
    const off = (edges[(i + 1) % edges.length]!.degrees - edge.degrees + 360) % 360;
    return [edge.degrees + (use === 'rise' ? 0 : use === 'fall' ? off : off / 2)];
  });
  const count = spots.length / repeats(wheel);
  return spots.slice(0, count).map((spot, i) => {
    const next = i + 1 < spots.length ? spots[i + 1]! : spots[0]! + 360;
    return (next - spot) * ratio;
  });
}

/** Gaps of one turn in tooth places; empty for even and uneven wheels. */
export function gapsOf(wheel: Wheel): number[] {
  if (wheel.places === null) return [];
  const pitch = 360 / wheel.places;
  return toothIntervals(wheel)
    .map((interval) => round(interval / pitch))
    .filter((count) => count > 1);
}

/** Whether two patterns are one, begun at different teeth. */
export const samePattern = (one: readonly number[], other: readonly number[]): boolean =>
  one.length === other.length &&
  one.some((_, shift) => one.every((value, i) => abs(value - other[(i + shift) % other.length]!) < 0.01));

/** Whether two patterns are one but for their scale: only the speed tells them apart. */
export const sameShape = (one: readonly number[], other: readonly number[]): boolean => {
  const ofTurn = (pattern: readonly number[]) => {
    const span = pattern.reduce((sum, step) => sum + step, 0);
    return pattern.map((step) => (360 * step) / span);
  };
  return samePattern(ofTurn(one), ofTurn(other));
};

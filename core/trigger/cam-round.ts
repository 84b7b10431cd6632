import { showsSides, type Track } from './tracks';
import { commonest } from './trials';

/** Cam edges after which its signal may come round. */
const SHIFTS_MOST = 24;
/** Share of the distances that must agree. */
const AGREE = 0.7;
/** Share at which the first shift is taken; else the first that is as good as the best to within some. */
const AGREE_WELL = 0.92;
const AS_GOOD = 0.05;
/** By how much they may differ: part of a tooth, and at least some degrees. */
const OFF_TEETH = 0.35;
const OFF_DEGREES = 8;
/** Pulses miscounted in a row of even teeth: the count they are nearest to is still the commonest. */
const OFF_SHARE = 0.04;
const EXACT = 0.4;

/**
 * After how many repeats of the crank's pattern the cam's signal comes round: counted on the crank's own teeth, so speed does
 * not matter. Null when it never does.
 *
 * @param degrees Crank angle of each pulse, on any scale; `span` one repeat of the pattern on it, `teeth` the teeth in it.
 */
export function camRound(
  cam: Track,
  pulses: Float64Array,
  degrees: Float64Array,
  span: number,
  teeth: number,
): number | null {
  const square = showsSides(cam);
  const places: number[] = [];
  let at = 0;
  for (let i = 0; i < cam.edges.seconds.length; i += 1) {
    if (!square && cam.edges.level[i] !== 0) continue;
    const seconds = cam.edges.seconds[i];
    while (at + 2 < pulses.length && pulses[at + 1] <= seconds) at += 1;
    if (seconds < pulses[0] || seconds > pulses[pulses.length - 1]) continue;
    // Pulses that are no teeth have no angle: on to the next that have.
    let [low, high] = [at, at + 1];
    while (low > 0 && Number.isNaN(degrees[low])) low -= 1;
    while (high < pulses.length - 1 && Number.isNaN(degrees[high])) high += 1;
    if (Number.isNaN(degrees[low]) || Number.isNaN(degrees[high])) continue;
    const part = (seconds - pulses[low]) / (pulses[high] - pulses[low]);
    places.push((degrees[low] + part * (degrees[high] - degrees[low])) / span);
  }
  const steps = square ? 2 : 1;
  // Between two teeth the angle is only as good as the speed is even.
  const near = Math.min(OFF_TEETH, Math.max(OFF_TEETH / teeth, OFF_DEGREES / span));
  const agreeing: { rounds: number; share: number }[] = [];
  for (let shift = steps; shift <= SHIFTS_MOST && shift < places.length; shift += steps) {
    const distances = places.slice(shift).map((place, i) => place - places[i]);
    const rounds = commonest(distances.map((distance) => Math.round(distance)));
    if (rounds === null || rounds < 1) continue;
    const shareWithin = (off: number) =>
      distances.filter((distance) => Math.abs(distance - rounds) < off).length / distances.length;
    const wide = teeth === 1 ? Math.max(near, OFF_SHARE * rounds) : near;
    const share = shareWithin(near);
    if (share < EXACT || shareWithin(wide) < AGREE) continue;
    if (share >= AGREE_WELL) return rounds;
    agreeing.push({ rounds, share });
  }
  // Windows that are nearly alike agree with each other for the most part; the whole cycle agrees better.
  const most = Math.max(0, ...agreeing.map(({ share }) => share));
  return agreeing.find(({ share }) => share >= most - AS_GOOD)?.rounds ?? null;
}

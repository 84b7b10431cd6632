import type { PulseEvent } from './align';

// Hot loops look these up once.
const { abs, floor, max } = Math;

/**
 * Pulses that no tooth can have given: a coil's ringing crosses several times within a fraction of a tooth, or far beyond the signal's
 * own height. They are set aside before wheels are aligned, and put back as pulses too many.
 */
export interface Thinned {
  readonly pulses: Float64Array;
  /** Numbers, among all pulses, of those kept. */
  readonly kept: Int32Array;
}

/** Share of the usual interval nearby below which two pulses are one tooth and its ringing (common practice: a decoder's filter). */
const TOO_CLOSE = 0.15;
/** Intervals nearby on each side. */
const NEARBY = 10;
/** Of a wait over a burst, in usual intervals, from which a tooth lies within it; below, both its neighbours stand where they should. */
const TOOTH_WITHIN = 1.5;

/**
 * A burst is several pulses too close for teeth, or any that is beyond the signal's height. One of it is kept where a tooth is due in it:
 * the nearest to its place. Cost: pulses x 20 x log 20.
 *
 * @param loud Pulses beyond the signal's own height.
 */
export function thin(pulses: Float64Array, loud: readonly boolean[] = []): Thinned {
  const count = pulses.length;
  const steps = pulses.subarray(1).map((time, i) => time - pulses[i]!);
  // Of a burst the upper quarter is still a tooth.
  const usualAt = (i: number): number => {
    const near = steps.slice(max(0, i - NEARBY), i + NEARBY).sort();
    return near[floor(0.6 * near.length)] ?? 0;
  };
  const kept: number[] = [];
  for (let i = 0; i < count;) {
    const usual = usualAt(i);
    let end = i + 1;
    while (end < count && pulses[end]! - pulses[end - 1]! < TOO_CLOSE * usual) end += 1;
    const burst = end - i > 1 || loud[i];
    const before = kept.length > 0 ? pulses[kept[kept.length - 1]!]! : null;
    if (!burst) kept.push(i);
    else if (before === null || end === count || pulses[end]! - before > TOOTH_WITHIN * usual) {
      // Where the tooth is due, by the one before.
      const due = (before ?? pulses[i]!) + (before === null ? 0 : usual);
      let best = i;
      for (let one = i; one < end; one += 1) if (abs(pulses[one]! - due) < abs(pulses[best]! - due)) best = one;
      kept.push(best);
    }
    i = end;
  }
  if (kept.length === count) return { pulses, kept: Int32Array.from(kept) };
  return { pulses: Float64Array.from(kept, (i) => pulses[i]!), kept: Int32Array.from(kept) };
}

/** A path through the pulses kept, told by all of them. */
export function putBack(
  all: Float64Array,
  { kept }: Thinned,
  path: { readonly teeth: Int32Array; readonly degrees: Float64Array; readonly events: readonly PulseEvent[] },
): { teeth: Int32Array; degrees: Float64Array; events: PulseEvent[] } {
  const teeth = new Int32Array(all.length).fill(-1);
  const degrees = new Float64Array(all.length).fill(Number.NaN);
  kept.forEach((at, i) => {
    teeth[at] = path.teeth[i]!;
    degrees[at] = path.degrees[i]!;
  });
  const events: PulseEvent[] = path.events.map((event) => ({ ...event, pulse: kept[event.pulse]! }));
  for (let i = 1; i < kept.length; i += 1)
    // Each is noticed at the pulse after it.
    for (let at = kept[i - 1]! + 1; at < kept[i]!; at += 1)
      events.push({ pulse: at + 1, kind: 'added', tooth: path.teeth[i]! });
  return { teeth, degrees, events: events.sort((one, other) => one.pulse - other.pulse) };
}

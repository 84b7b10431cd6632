import type { PulseEvent } from './align';

// Hot loops look these up once.
const { floor, max } = Math;

/**
 * Pulses that no tooth can have given: a coil's ringing crosses zero several times within a fraction of a tooth. They are
 * set aside before wheels are aligned, and put back as pulses too many.
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

/** Cost: pulses x 20 x log 20. */
export function thin(pulses: Float64Array): Thinned {
  const steps = pulses.subarray(1).map((time, i) => time - pulses[i]!);
  const kept: number[] = [];
  for (let i = 0; i < pulses.length; i += 1) {
    const last = kept[kept.length - 1];
    if (last !== undefined) {
      const near = steps.slice(max(0, i - NEARBY), i + NEARBY).sort();
      // Of a burst the upper quarter is still a tooth.
      if (pulses[i]! - pulses[last]! < TOO_CLOSE * near[floor(0.6 * near.length)]!) continue;
    }
    kept.push(i);
  }
  if (kept.length === pulses.length) return { pulses, kept: Int32Array.from(kept) };
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

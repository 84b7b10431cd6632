import type { PulseEvent } from './align';
import { anglesAt } from './cam';
import type { Loss } from './decoder';
import type { Match } from './match';

/** The pulse faults, where the alignment is clear: with many breaks their teeth are guesses. */
export const clearFaults = (found: Match): Loss[] => {
  const breaks = found.events.filter(({ kind }) => kind === 'break').length;
  return breaks * 10 > found.events.length ? [] : pulseFaults(found);
};

/** Whether a hole of the recording lies within a stretch of time, seconds. */
export const overHole = ({ holes }: Pick<Match, 'holes'>, from: number, to: number): boolean =>
  holes.some(([start, end]) => start < to && end > from);

/** Losses seen by alignment, whatever a decoder forgives: each pulse that is one too many, missing or off its place. */
export function pulseFaults(found: Match): Loss[] {
  const times = found.events.map(({ pulse }) => found.pulses[pulse]!);
  const angles = anglesAt(times, found.pulses, found.degrees);
  return found.events.flatMap(({ pulse, kind, tooth }, i): Loss[] => {
    const step = found.pulses[pulse]! - found.pulses[Math.max(0, pulse - 1)]!;
    const cause = kind === 'added' ? 'extra-pulse' : 'missing-pulse';
    // Where the crank stood the path is taken up anew: nothing was lost there.
    const stood = found.stops.some(({ seconds: [from, to] }) => times[i]! >= from && times[i]! <= to);
    if (kind === 'break' && (pulse < 3 || stood)) return [];
    // What nobody recorded was not lost on the line.
    if (overHole(found, times[i]! - step, times[i]!)) return [];
    // Several pulses too many between two teeth are one disturbance.
    const before = found.events[i - 1];
    if (
      kind === 'added' &&
      before?.kind === 'added' &&
      found.teeth.subarray(before.pulse - 1, pulse).every((one) => one < 0)
    )
      return [];
    // Of two teeth lost in a row the first lies a third of the way, the second two.
    const alike = (other: PulseEvent | undefined) => other?.kind === 'lost' && other.pulse === pulse;
    const missed = step * (alike(found.events[i + 1]) ? 2 / 3 : alike(before) ? 1 / 3 : 1 / 2);
    const seconds = kind === 'added' ? found.pulses[pulse - 1]! : kind === 'lost' ? times[i]! - missed : times[i]!;
    return [
      {
        seconds,
        angle: Number.isNaN(angles[i]) ? 0 : ((angles[i]! % 720) + 720) % 720,
        rpm: rpmNear(found, pulse),
        cause,
        tooth,
      },
    ];
  });
}

function rpmNear({ pulses, degrees }: Match, pulse: number): number {
  let [from, to] = [Math.max(0, pulse - 6), Math.min(pulses.length - 1, pulse + 6)];
  while (from < pulse && Number.isNaN(degrees[from])) from += 1;
  while (to > pulse && Number.isNaN(degrees[to])) to -= 1;
  const span = pulses[to]! - pulses[from]!;
  return span > 0 ? (degrees[to]! - degrees[from]!) / span / 6 : 0;
}

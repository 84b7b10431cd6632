import { anglesAt } from './cam';
import type { Match } from './match';
import { overHole } from './pulse-faults';
import { showsSides } from './tracks';
import { between } from './view';

// Hot loops look these up once.
const { abs, ceil, max } = Math;

const CYCLE = 720;
/** How far off its place a cam's edge still is that edge, crank degrees; and what is left out at either end, where the crank spins up or rests. */
const [NEAR, END] = [40, 360];
/** Cycles from which one that is missing is told from a cam that gives none there, and the share that may be. */
const [CYCLES_LEAST, MISSING_MOST] = [3, 0.5];

/** Moments, seconds, at which a pulse of the cam was due and did not come; none where the crank's path is not known well enough to say. */
export function lostCamPulses(found: Match): number[] {
  const { cam, camFit, pulses, degrees, events } = found;
  if (!cam || !camFit) return [];
  const level = showsSides(cam) ? 1 : 0;
  const known = [...degrees.keys()].filter((i) => !Number.isNaN(degrees[i]));
  const [times, angles] = [known.map((i) => pulses[i]!), known.map((i) => degrees[i]!)];
  const [from, to] = [angles[0]! + END, angles[angles.length - 1]! - END];
  if (!(to - from >= CYCLES_LEAST * CYCLE) || events.some(({ kind }) => kind === 'break')) return [];
  const seen = [...anglesAt(cam.edges.seconds, pulses, degrees)].filter(
    (angle, i) => cam.edges.level[i] === level && !Number.isNaN(angle),
  );
  let due = 0;
  const lost: number[] = [];
  for (const edge of camFit.edges.filter((one) => one.level === level))
    for (let at = edge.degrees + CYCLE * ceil((from - edge.degrees) / CYCLE); at <= to; at += CYCLE) {
      due += 1;
      const seconds = between(angles, times, at);
      if (seen.some((angle) => abs(angle - at) <= NEAR) || overHole(found, seconds - 0.01, seconds + 0.01)) continue;
      lost.push(seconds);
    }
  return lost.length <= MISSING_MOST * max(1, due) ? lost.sort((one, other) => one - other) : [];
}

import { gapsOf, patternOf } from './pattern';
import type { Judged } from './trials';
import { teethPerTurn, toothIntervals, type Wheel } from '../wheels/wheel';

/** Why a wheel is the answer, or loses against it, in terms of what the capture shows. */

/** Both give a row of even pulses. */
export const alike = (one: Wheel, other: Wheel): boolean => {
  const [a, b] = [patternOf(one, 'rise'), patternOf(other, 'rise')];
  return a.length === 1 && b.length === 1;
};

const counted = (wheel: Wheel): string => `${teethPerTurn(wheel)} ${wheel.shaft === 'cam' ? 'a cycle' : 'a turn'}`;

export function whyBest(wheel: Wheel, turns: number): string {
  return wheel.missing > 0
    ? `its gap comes back every ${counted(wheel)}, ${Math.round(turns)} turns looked at`
    : `its teeth, ${counted(wheel)}, fit over ${Math.round(turns)} turns`;
}

/** Why another wheel loses against the best, in terms of what the capture shows. */
export function whyNot(trial: Judged, best: Judged): string {
  const { wheel } = trial;
  const [gaps, seen] = [gapsOf(wheel), gapsOf(best.wheel)];
  if (trial.cost <= best.cost + 3)
    return trial.direction === 'reverse'
      ? 'fits as well turning the other way'
      : 'gives the same pulses; the cam or the library decides';
  if (trial.pattern.length === 1)
    return seen.length > 0
      ? `has no gap; the capture has one ${Math.max(...seen)} teeth long`
      : 'has even teeth; those of the capture are not';
  if (gaps.length > 0 && seen.length === 0) return `has a gap ${Math.max(...gaps)} teeth long; the capture shows none`;
  if (gaps.length !== seen.length)
    return `has ${gaps.length === 1 ? 'one gap' : `${gaps.length || 'no'} gaps`} a turn; the capture has ${seen.length}`;
  const [teeth, counted] = [toothIntervals(wheel).length, toothIntervals(best.wheel).length];
  if (gaps.length === 1 && teeth !== counted) return `has ${teeth} teeth from gap to gap; the capture has ${counted}`;
  if (gaps.length === 1 && gaps[0] !== seen[0]) return `has a gap ${gaps[0]} teeth long; the capture's is ${seen[0]}`;
  return 'its teeth stand at other angles than those of the capture';
}

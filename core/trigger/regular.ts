import { commonest } from './trials';

/** Waits, counted in pulses, that must be alike, and the share of all of them, for something to come back and be no chance. */
const [LEAST, SHARE] = [3, 0.75];

/** Whether something comes back after as many pulses time and again: a gap, or a place that is off in every turn or every other one. */
export function comesBack(pulses: readonly number[]): boolean {
  const waits = pulses.slice(1).map((pulse, i) => pulse - pulses[i]!);
  const usual = commonest(waits);
  const same = waits.filter((one) => one === usual).length;
  return usual !== null && usual > 1 && same >= LEAST && same >= SHARE * waits.length;
}

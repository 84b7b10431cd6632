import type { PulseEvent } from './align';
import { sameShape } from './pattern';
import { comesBack } from './regular';
import type { Judged } from './trials';

/** Share of the repeats in which something must come back to be the wheel's own. */
const MOSTLY = 0.5;

/** Repeats of the pattern within the pulses looked at. */
export const repeatsOf = (trial: Pick<Judged, 'pattern'>, count: number): number => count / trial.pattern.length;

/** What comes back at one tooth. */
export interface Recurring {
  readonly tooth: number;
  readonly kind: PulseEvent['kind'];
  readonly times: number;
}

/** Events that come back at one tooth in most repeats: not chance, but the wheel. */
export function recurring({ alignment, pattern }: Judged, repeats: number): Recurring[] {
  const teeth = pattern.length;
  if (teeth < 2 || repeats < 2) return [];
  const counts = new Map<string, Recurring & { readonly pulses: readonly number[] }>();
  for (const { kind, tooth, pulse } of alignment.events) {
    if (kind === 'break') continue;
    const key = `${kind} ${tooth}`;
    const before = counts.get(key);
    counts.set(key, { tooth, kind, times: (before?.times ?? 0) + 1, pulses: [...(before?.pulses ?? []), pulse] });
  }
  return [...counts.values()].filter(
    ({ times, pulses }) => times >= 2 && (times >= MOSTLY * Math.floor(repeats) || comesBack(pulses)),
  );
}

/** Turns of a wheel that another's one may stand for. */
const TURNS = [1, 2, 3];

/** A pattern with one tooth gone. */
const without = (pattern: readonly number[], tooth: number): number[] => {
  const from = pattern.slice(tooth).concat(pattern.slice(0, tooth));
  const last = from[from.length - 1]!;
  return [...from.slice(1, -1), last + from[0]!];
};

/**
 * A wheel with a tooth broken off that gives what a whole one gives, at another speed, is not reckoned with beside it: no fault is
 * likelier than one in every turn. (A wheel of 48 less one with the tooth over against its gap gone is one of 24 less one.)
 *
 * @param countOf Pulses a wheel was read from.
 */
export function withoutTwins(judged: readonly Judged[], countOf: (trial: Judged) => number): readonly Judged[] {
  const whole = judged.filter(({ cost, fromLibrary }) => fromLibrary && Number.isFinite(cost));
  return judged.filter((trial) => {
    const [only, ...others] = recurring(trial, repeatsOf(trial, countOf(trial)));
    if (!only || others.length > 0 || only.kind !== 'lost') return true;
    const { length } = trial.pattern;
    const left = without(trial.pattern, (only.tooth + length - 1) % length);
    return !whole.some(
      (one) =>
        one.wheel !== trial.wheel &&
        TURNS.some(
          (turns) =>
            turns * one.pattern.length === left.length &&
            sameShape(left, Array.from({ length: turns }, () => one.pattern).flat()),
        ) &&
        recurring(one, repeatsOf(one, countOf(one))).length === 0,
    );
  });
}

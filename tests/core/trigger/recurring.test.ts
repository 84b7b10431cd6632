import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { match } from '~/core/trigger/match';
import { patternOf } from '~/core/trigger/pattern';
import { recurring, withoutTwins } from '~/core/trigger/recurring';
import type { Judged } from '~/core/trigger/trials';
import { wheel } from '../../helpers';
import { crankedCapture } from '../../crank-engine';
import { crankedFour } from '../../cranked-captures';

const PULSES = 460;
/** A wheel as it is judged, with one tooth lost in every turn from the first. */
const judged = (id: string, lost: number | null): Judged => {
  const pattern = patternOf(wheel(id), 'rise');
  const left = pattern.length - 1;
  const events =
    lost === null
      ? []
      : Array.from({ length: Math.floor(PULSES / left) }, (_, turn) => ({
          kind: 'lost' as const,
          pulse: turn * left + lost,
          tooth: (lost + 1) % pattern.length,
        }));
  return { wheel: wheel(id), pattern, fromLibrary: true, cost: 0, alignment: { events } } as unknown as Judged;
};
const left = (...trials: Judged[]) => withoutTwins(trials, () => PULSES).map((trial) => trial.wheel.id);

describe('a wheel with a tooth gone that is a whole one at another speed', () => {
  // Worked by hand: 47 teeth on 48 places, the gap behind the last; the tooth over against it, number 23 from 0, leaves 23 and 23.
  test('48 less one without its tooth over against the gap is 24 less one', () => {
    expect(left(judged('48-1', 23), judged('24-1', null))).toEqual(['24-1']);
  });
  test('without any other tooth it is not', () => {
    for (const lost of [1, 22, 24, 40])
      expect(left(judged('48-1', lost), judged('24-1', null))).toEqual(['48-1', '24-1']);
  });
  test('nor where the whole one is not in the library, or has the fault itself', () => {
    expect(left(judged('48-1', 23))).toEqual(['48-1']);
    expect(left(judged('48-1', 23), { ...judged('24-1', null), fromLibrary: false })).toEqual(['48-1', '24-1']);
    expect(left(judged('48-1', 23), judged('24-1', 5))).toEqual(['48-1', '24-1']);
  });
});

test('what comes back is told by its tooth, what comes once is not', () => {
  expect(recurring(judged('24-1', 5), PULSES / 23)).toMatchObject([{ tooth: 6, kind: 'lost', times: 20 }]);
  expect(recurring(judged('24-1', null), PULSES / 23)).toEqual([]);
});

test.each([3, 4, 5])('24-1 by a sound card on a five, seed %d, is no 48-1', (seed) => {
  const spec = { ...crankedFour(wheel('24-1'), null), tops: [0, 144, 288, 432, 576], free: 360, seed };
  const { capture } = crankedCapture({ ...spec, sensor: 'vr', recorder: 'sound', samples: 22, noise: 0.02 });
  const result = match(capture, { wheels: catalog.wheels });
  expect(result.ok && result.value.verdict.odds.map((one) => one.wheel.id)).toContain('24-1');
  expect(result.ok && result.value.best.wheel.id).toBe('24-1');
});

import { expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { match } from '~/core/trigger/match';
import { fieldCapture } from '../../other-engine';
import { fieldCases } from '../../field-captures';

/**
 * Cranking drawn by other formulas than core's (tests/other-engine.ts), over engines of one to eight cylinders, ten wheels, both kinds
 * of sensor, 5 to 60 samples a place, swings of 10 to 45 %, noise and quantisation. The short form; the whole is in `npm run bench`.
 */
const COUNT = 30;
let [right, honest, all] = [0, 0, 0];
test.each(fieldCases(COUNT, catalog.wheels, 2001).map((one) => [one.name, one] as const))('%s', (_, { spec }) => {
  const found = match(fieldCapture(spec), { wheels: catalog.wheels });
  if (!found.ok) throw new Error(found.problem.sentence);
  const { best, verdict } = found.value;
  all += 1;
  if (verdict.kind === 'this') {
    expect(best.wheel.id).toBe(spec.wheel.id);
    right += 1;
  } else if (verdict.kind === 'none' || verdict.odds.some(({ wheel }) => wheel.id === spec.wheel.id)) honest += 1;
});
test('right or honest all of them, right nearly all', () => {
  expect(all).toBe(COUNT);
  expect(right + honest).toBe(COUNT);
  expect(right).toBeGreaterThanOrEqual(COUNT - 2);
});

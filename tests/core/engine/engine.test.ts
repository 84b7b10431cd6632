import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import {
  cycleDegrees,
  cycleEvents,
  cylinderOfOutput,
  engineSchema,
  firingAngleByCylinder,
  outputOfCylinder,
  shortestFiringInterval,
  wastedPairs,
} from '~/core/engine/engine';
import { engine } from '../../helpers';

const five = engine(5);

describe('firing', () => {
  test('a five-cylinder fires every 144 degrees in its order', () => {
    expect([...firingAngleByCylinder(five)]).toEqual([
      [1, 0],
      [2, 144],
      [4, 288],
      [5, 432],
      [3, 576],
    ]);
    expect(shortestFiringInterval(five)).toBe(144);
  });
  test('an uneven engine uses its own angles', () => {
    const twin = engine(2);
    expect(firingAngleByCylinder(twin).get(2)).toBe(270);
    expect(shortestFiringInterval(twin)).toBe(270);
    expect(wastedPairs(twin)).toBeNull();
  });
  test('wasted pairs are 360 degrees apart', () => {
    expect(wastedPairs(engine(4))).toEqual([
      [1, 4],
      [3, 2],
    ]);
    expect(wastedPairs(five)).toBeNull();
  });
  test.each(catalog.engines.map((one) => [one.name, one] as const))('%s: both schools are inverse maps', (_, one) => {
    for (const order of ['in-turn', 'by-cylinder'] as const)
      for (let cylinder = 1; cylinder <= one.cylinders; cylinder += 1)
        expect(cylinderOfOutput(one, order, outputOfCylinder(one, order, cylinder)!)).toBe(cylinder);
    expect(cylinderOfOutput(one, 'in-turn', one.cylinders + 1)).toBeNull();
    expect(outputOfCylinder(one, 'in-turn', 0)).toBeNull();
  });
  test('in turn, output 3 of order 1-2-4-5-3 is cylinder 4', () => {
    expect(cylinderOfOutput(five, 'in-turn', 3)).toBe(4);
    expect(cylinderOfOutput(five, 'by-cylinder', 3)).toBe(3);
  });
});

describe('events', () => {
  const settings = { rpm: 3000, dwellMilliseconds: 3, injectionMilliseconds: 6, advanceDegrees: 20 };
  test('dwell in degrees is rpm x 6 x seconds', () => {
    const [first] = cycleEvents(five, settings);
    expect(first.spark.to - first.spark.from).toBeCloseTo(54, 9);
    expect(first.spark.to).toBeCloseTo(-20, 9);
    expect(first.injection!.to - first.injection!.from).toBeCloseTo(108, 9);
  });
  test('a carburettor engine has no injection', () => {
    expect(cycleEvents({ ...five, injection: 'none' }, settings).every((row) => row.injection === null)).toBe(true);
  });
  test('a rotary and a two-stroke turn once a cycle', () => {
    expect(cycleDegrees({ ...five, kind: 'rotary' })).toBe(360);
    expect(cycleDegrees({ ...five, kind: 'two-stroke' })).toBe(360);
  });
});

describe('schema', () => {
  test.each([
    ['a cylinder missing', { firingOrder: [1, 2, 4, 5] }, 'firingOrder'],
    ['a cylinder twice', { firingOrder: [1, 2, 4, 5, 5] }, 'firingOrder'],
    ['too few angles', { firingAngles: [0, 144] }, 'firingAngles'],
    ['no revolutions', { maxRpm: 0 }, 'maxRpm'],
  ])('%s is refused by place', (_, part, place) => {
    const result = engineSchema.safeParse({ ...five, ...part });
    expect(result.success).toBe(false);
    expect(result.error!.issues[0].path[0]).toBe(place);
  });
});

import { describe, expect, test } from '@jest/globals';
import {
  cycleDegrees,
  cycleEvents,
  engineSchema,
  firingAngleByCylinder,
  shortestFiringInterval,
} from '~/core/engine/engine';
import { setsOfTurn } from '~/core/engine/outputs';
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
    expect(setsOfTurn(twin)).toEqual([[1], [2]]);
  });
  test('wasted pairs are 360 degrees apart', () => {
    expect(setsOfTurn(engine(4))).toEqual([
      [1, 4],
      [3, 2],
    ]);
    expect(setsOfTurn(five)).toEqual([[1], [2], [4], [5], [3]]);
  });
});

describe('events', () => {
  const settings = { rpm: 3000, dwellMilliseconds: 3, injectionMilliseconds: 6, advanceDegrees: 20 };
  test('dwell in degrees is rpm x 6 x seconds', () => {
    const [first] = cycleEvents(five, settings);
    expect(first.sparks[0].to - first.sparks[0].from).toBeCloseTo(54, 9);
    expect(first.sparks[0].to).toBeCloseTo(-20, 9);
    expect(first.injection!.to - first.injection!.from).toBeCloseTo(108, 9);
  });
  test('a wasted spark comes every turn, the trailing plug by its split', () => {
    const [first] = cycleEvents({ ...engine(4), ignition: 'wasted' }, settings);
    expect(first.sparks.map(({ to, row }) => [to, row])).toEqual([
      [-20, 1],
      [340, 1],
    ]);
    const rotor = engineSchema.parse({
      ...engine(2),
      kind: 'rotary',
      firingAngles: null,
      plugs: 2,
      trailingDegrees: 12,
    });
    expect(cycleEvents(rotor, settings).map(({ sparks }) => sparks.map(({ to }) => to))).toEqual([
      [-20, -8],
      [160, 172],
    ]);
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

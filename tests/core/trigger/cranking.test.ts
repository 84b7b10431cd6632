import { describe, expect, test } from '@jest/globals';
import { crankingOf, gasTorque, swingOfEngine } from '~/core/trigger/cranking';
import { swingsOver } from '~/core/trigger/swing';
import { seeded, synth } from '~/core/trigger/synth';
import type { Engine } from '~/core/engine/engine';
import { wheel } from '../../helpers';

const engine = (
  cylinders: number,
  firingAngles: number[] | null = null,
  kind: Engine['kind'] = 'four-stroke',
): Engine => ({
  name: 'made up',
  kind,
  cylinders,
  firingOrder: Array.from({ length: cylinders }, (_, i) => i + 1),
  firingAngles,
  aspiration: 'atmospheric',
  boostKpa: 0,
  maxRpm: 7000,
  displacementCc: 500 * cylinders,
  ignition: 'direct',
  injection: 'none',
  plugs: 1,
  trailingDegrees: 0,
  injectors: 1,
  banks: [],
  bankDegrees: 0,
});
/** Speed over the mean at degrees of the cycle. */
const pace = (own: Engine, ripple: number) => {
  const over = swingsOver(swingOfEngine(own, 220, ripple));
  return Array.from({ length: 720 }, (_, i) => Math.exp(-over(i, i + 1)));
};

describe('torque of the gas', () => {
  test('against the crank before the top, with it behind: a single at 0', () => {
    const gas = gasTorque(engine(1));
    expect(gas[690]).toBeLessThan(-1);
    expect(gas[30]).toBeGreaterThan(1);
    // Gas exchange, one turn on, turns nothing.
    expect(gas[360]).toBe(0);
  });
  test('a turn of compression and expansion costs a little: what is lost through the top', () => {
    const gas = gasTorque(engine(1));
    const work = gas.reduce((sum, one) => sum + one, 0);
    const driven = gas.reduce((sum, one) => sum + Math.max(0, one), 0);
    expect(work).toBeLessThan(0);
    expect(-work / driven).toBeLessThan(0.4);
  });
  test('the highest torque of one cylinder, worked by hand', () => {
    // 25 degrees from the top, ratio 9.5, polytropic 1.3, intake shut 140 degrees before it, rod ratio 0.28 (common practice):
    // volumes over the displacement by the slider crank 0.1176 + 0.5 (1 - cos + (1 - sqrt(1 - 0.0784 sin^2)) / 0.28).
    const volume = (degrees: number) => {
      const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
      return 1 / 8.5 + 0.5 * (1 - c + (1 - Math.sqrt(1 - 0.0784 * s * s)) / 0.28);
    };
    expect(volume(140)).toBeCloseTo(1.0298, 3);
    expect(volume(25)).toBeCloseTo(0.177, 3);
    const pressure = (1.0298 / 0.177) ** 1.3 - 1;
    // dV/dtheta = 0.5 (sin + 0.28 sin cos / sqrt(1 - 0.0784 sin^2)) = 0.2653 a radian.
    expect(gasTorque(engine(1))[695]).toBeCloseTo(-pressure * 0.2653, 1);
  });
  test.each([
    [4, 180],
    [3, 240],
    [8, 90],
    [16, 45],
  ])('%i even cylinders repeat every %i degrees', (cylinders, every) => {
    const gas = gasTorque(engine(cylinders));
    for (let i = 0; i < 720; i += 7) expect(gas[i]).toBeCloseTo(gas[(i + every) % 720], 9);
  });
});

describe('a starter turns it', () => {
  test.each([
    ['a single', engine(1)],
    ['an odd-fire twin', engine(2, [0, 270])],
    ['a five', engine(5)],
    ['an odd-fire six', engine(6, [0, 90, 240, 330, 480, 570])],
    ['an eight', engine(8)],
    ['two rotors', engine(2, null, 'rotary')],
    ['a two-stroke twin', engine(2, null, 'two-stroke')],
  ] as const)('%s swings as much as was asked, slowest about a top', (_, own) => {
    for (const ripple of [0.15, 0.35]) {
      const speeds = pace(own, ripple);
      const spread = Math.max(...speeds) - Math.min(...speeds);
      expect(spread / ripple).toBeGreaterThan(0.85);
      expect(spread / ripple).toBeLessThan(1.15);
    }
    const speeds = pace(own, 0.3);
    const slowest = speeds.indexOf(Math.min(...speeds));
    const tops =
      own.firingAngles ??
      own.firingOrder.map((__, i) => (i * (own.kind === 'four-stroke' ? 720 : 360)) / own.cylinders);
    const cycle = own.kind === 'four-stroke' ? 720 : 360;
    const away = Math.min(...tops.map((top) => Math.abs(((slowest - top + 1.5 * cycle) % cycle) - cycle / 2)));
    expect(away).toBeLessThan(12);
  });
});

describe('start, run-down and kick-back', () => {
  const made = synth({
    crank: wheel('60-2'),
    cam: null,
    speed: { type: 'engine', cranking: crankingOf(engine(1), 200, 0.3), rpm: 200, startSeconds: 0.3, stopSeconds: 2.5 },
    seconds: 4.5,
    sampleRate: 20_000,
    crankSensor: { type: 'hall' },
    random: seeded(3),
  });
  const speedAt = (second: number) => (made.degrees[second * 20_000 + 200] - made.degrees[second * 20_000]) / 0.01 / 6;
  test('from rest to its speed', () => {
    expect(made.degrees[500]).toBe(made.degrees[0]);
    const [from, to] = [made.degrees[20_000], made.degrees[36_000]];
    expect((to - from) / 0.8 / 6).toBeGreaterThan(150);
  });
  test('let go, the last compression turns it back, and it comes to rest', () => {
    const { degrees } = made;
    const most = degrees.reduce((high, one) => Math.max(high, one), 0);
    expect(degrees[degrees.length - 1]).toBeLessThan(most - 5);
    expect(Math.abs(speedAt(4.45))).toBeLessThan(20);
  });
});

import { describe, expect, test } from '@jest/globals';
import { armingAt, type Decoding, type Loss } from '~/core/trigger/decoder';
import { chanceOf, concentration, diagnose, type Story } from '~/core/trigger/diagnose';
import { bell, seeded } from '~/core/trigger/synth';

/** A run of 36-1 from one speed to another, with losses put in. */
function run(losses: readonly Partial<Loss>[], [from, to] = [800, 800]): Decoding {
  const seconds: number[] = [];
  let [time, angle] = [0, 0];
  while (angle < 360 * 60) {
    const rpm = from + ((to - from) * angle) / (360 * 60);
    seconds.push(time);
    time += 10 / (6 * rpm);
    angle += 10;
  }
  return {
    states: [{ seconds: 0, state: 'full' }],
    losses: losses.map((loss) => ({ seconds: time / 2, angle: 0, rpm: 800, cause: 'extra-pulse', tooth: 0, ...loss })),
    toAngle: 0.1,
    toFull: 0.2,
    pulses: seconds.length,
    filtered: 0,
    seconds: Float64Array.from(seconds),
    teeth: new Int32Array(seconds.length),
  };
}
const wrapped = (degrees: number) => ((degrees % 720) + 720) % 720;
const first = (decoding: Decoding, events = 180): Story => diagnose(decoding, events)[0].story;

describe('losses and their story', () => {
  test('none, none', () => expect(diagnose(run([]), 180)).toEqual([]));

  test.each([1, 2, 3, 4, 5])('in step with the coils of four cylinders, seed %i', (seed) => {
    const random = seeded(seed);
    const losses = Array.from({ length: 14 }, () => ({
      angle: wrapped(20 + 180 * Math.floor(4 * random()) + 5 * bell(random)),
    }));
    expect(first(run(losses))).toBe('coil');
  });

  test.each([1, 2, 3, 4, 5])('always at one tooth, seed %i', (seed) => {
    const random = seeded(seed);
    const losses = Array.from({ length: 14 }, () => ({ angle: wrapped(130 + 360 * Math.floor(2 * random())) }));
    expect(first(run(losses))).toBe('tooth');
  });

  test('all above a speed, at angles without rule', () => {
    const random = seeded(4);
    const base = run([], [500, 6000]);
    const end = base.seconds[base.seconds.length - 1];
    // The last fifth of the turns.
    const from = base.seconds[Math.floor(base.seconds.length * 0.85)];
    const losses = Array.from({ length: 12 }, () => ({
      angle: 720 * random(),
      rpm: 5500,
      seconds: from + (end - from) * random(),
    }));
    const found = diagnose({ ...base, losses: run(losses).losses }, 180);
    expect(found[0].story).toBe('speed');
    expect(found[0].remedy).toContain('air gap');
  });

  test('start and stop only', () => {
    const found = diagnose(run([{ cause: 'start' }, { cause: 'stop' }]), 180);
    expect(found[0].story).toBe('start-stop');
    expect(found[0].concerns).toEqual([]);
  });

  test('without rule: nine of ten such logs are called random, chance makes some look like more', () => {
    const base = run([]);
    let called = 0;
    for (let seed = 1; seed <= 100; seed += 1) {
      const random = seeded(100 + seed);
      const losses = Array.from({ length: 9 }, () => ({
        angle: 720 * random(),
        seconds: base.seconds[Math.floor(random() * base.seconds.length)],
      }));
      if (first(run(losses)) === 'random') called += 1;
    }
    expect(called).toBeGreaterThanOrEqual(90);
  });

  test('likelihoods are shares of one, in falling order', () => {
    const random = seeded(9);
    const found = diagnose(run(Array.from({ length: 6 }, () => ({ angle: 720 * random() }))), 180);
    expect(found.reduce((sum, { likelihood }) => sum + likelihood, 0)).toBeLessThanOrEqual(1.000001);
    found.slice(1).forEach((one, i) => expect(one.likelihood).toBeLessThanOrEqual(found[i].likelihood));
  });
});

test("Rayleigh's test: six angles with a mean arrow of 0.7 have a chance near five in a hundred (Mardia 1972, first order)", () => {
  expect(chanceOf(0.7, 6)).toBeCloseTo(Math.exp(-6 * 0.49), 12);
  expect(chanceOf(0.7, 6)).toBeCloseTo(0.053, 3);
  expect(concentration([0, 90, 180, 270], 360)).toBeCloseTo(0, 12);
});

test('arming between the rows of its table goes straight, outside it stays', () => {
  const table = [
    { rpm: 200, volts: 0.5 },
    { rpm: 400, volts: 1.5 },
  ];
  expect(armingAt(table, 300)).toBeCloseTo(1, 9);
  expect(armingAt(table, 100)).toBeLessThanOrEqual(0.5);
  expect(armingAt(table, 900)).toBeGreaterThanOrEqual(1.5);
  expect(armingAt([], 300)).toBe(0);
});

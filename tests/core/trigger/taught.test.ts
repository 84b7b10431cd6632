import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { match, type Match } from '~/core/trigger/match';
import { seeded, synth, type SynthSpec } from '~/core/trigger/synth';
import { periodOf, teachCam, teachCrank } from '~/core/trigger/taught';
import { teethOf } from '~/core/trigger/teeth';
import { listedWheel, missingToothWheel, multiGapWheel, widthCodedWheel, type Wheel } from '~/core/wheels/wheel';
import { wheel } from '../../helpers';

function seen(crank: Wheel, more: Partial<SynthSpec> = {}): Match {
  const { capture } = synth({
    crank,
    cam: wheel('cam-1'),
    camDegrees: 77,
    startDegrees: 200,
    speed: { type: 'cranking', rpm: 250, ripple: 0.2, events: 2 },
    seconds: 3,
    sampleRate: 60_000,
    crankSensor: { type: 'vr' },
    camSensor: { type: 'hall' },
    faults: { noiseVolts: 0.005 },
    random: seeded(5),
    ...more,
  });
  const found = match(capture, { wheels: catalog.wheels });
  if (!found.ok) throw new Error(found.problem.sentence);
  return found.value;
}
const taught = (found: Match, teeth: number | null = null, ripple = 0) => {
  const result = teachCrank(found, 'Learned', { teeth, ripple });
  if (!result.ok) throw new Error(result.problem.sentence);
  return result.value;
};
/** Angles from tooth to tooth, the longest last. */
const steps = (one: Wheel) => {
  const at = teethOf(one).map((tooth) => tooth.at);
  const all = at.map((angle, i) => (i + 1 < at.length ? at[i + 1] : at[0] + 360) - angle);
  const longest = all.lastIndexOf(Math.max(...all));
  return [...all.slice(longest + 1), ...all.slice(0, longest + 1)];
};

describe('a wheel learned from a capture', () => {
  test.each([
    ['28 places, 2 missing, not in the library', missingToothWheel(28, 2)],
    ['50 places, 3 missing', missingToothWheel(50, 3)],
    ['60-2', missingToothWheel(60, 2)],
    [
      '30 places with gaps of one and two',
      multiGapWheel('own', 'Own', 30, [
        [9, 1],
        [28, 2],
      ]),
    ],
  ])('%s: places and gaps come back exactly, by VR and by Hall', (_, own) => {
    for (const type of ['vr', 'hall'] as const) {
      const { wheel: learned, turns, swing } = taught(seen(own, { crankSensor: { type } }));
      expect([learned.places, learned.missing, learned.family]).toEqual([own.places, own.missing, own.family]);
      expect(steps(learned).map((step) => step.toFixed(3))).toEqual(steps(own).map((step) => step.toFixed(3)));
      expect(turns).toBeGreaterThan(5);
      expect(swing).toBe(0);
    }
  });

  test('five cylinders swing over two turns: the turn is still one', () => {
    for (const cam of [wheel('cam-1'), null]) {
      const found = seen(missingToothWheel(28, 2), {
        cam,
        speed: { type: 'cranking', rpm: 230, ripple: 0.3, events: 2.5 },
        seconds: 2,
      });
      const { wheel: learned } = taught(found);
      expect([learned.places, learned.missing]).toEqual([28, 2]);
      expect(periodOf(found.pulses)).toBe(26);
    }
  });

  test('two gaps opposite are a turn of two, told by the cam', () => {
    const own = multiGapWheel('own', 'Own', 60, [
      [28, 2],
      [58, 2],
    ]);
    const { wheel: learned } = taught(seen(own));
    expect([learned.places, learned.missing]).toEqual([60, 4]);
  });

  test('lost and added pulses do not count', () => {
    const { wheel: learned } = taught(seen(missingToothWheel(28, 2), { faults: { lost: 0.01, added: 0.01 } }));
    expect([learned.places, learned.missing]).toEqual([28, 2]);
  });

  test('uneven teeth at even speed: angles to half a degree', () => {
    const own = listedWheel('own', 'Own', 'crank', 'uneven', [
      { at: 0, width: 8 },
      { at: 35, width: 8 },
      { at: 140, width: 8 },
      { at: 222, width: 8 },
    ]);
    const found = seen(own, { crankSensor: { type: 'hall' }, speed: { type: 'constant', rpm: 300 } });
    const { wheel: learned, scatter, swing } = taught(found, 4);
    expect(learned.family).toBe('uneven');
    expect(steps(learned).map((step) => Math.round(step * 2) / 2)).toEqual(steps(own));
    teethOf(learned).forEach(({ width }) => expect(Math.abs(width - 8)).toBeLessThanOrEqual(0.5));
    expect(scatter).toBeLessThan(0.5);
    expect(swing).toBe(0);
  });

  test('uneven teeth while cranking: off by no more than the swing it tells', () => {
    const own = listedWheel(
      'own',
      'Own',
      'crank',
      'uneven',
      [0, 35, 140, 222].map((at) => ({ at, width: 8 })),
    );
    const { wheel: learned, swing, notes } = taught(seen(own), 4, 0.2);
    steps(learned).forEach((step, i) => expect(Math.abs(step - steps(own)[i])).toBeLessThanOrEqual(2 * swing + 0.5));
    expect(swing).toBeGreaterThan(1);
    expect(notes.join(' ')).toContain('plugs out');
  });

  test('rising speed is taken out', () => {
    const own = listedWheel(
      'own',
      'Own',
      'crank',
      'uneven',
      [0, 50, 170].map((at) => ({ at, width: 10 })),
    );
    const found = seen(own, {
      crankSensor: { type: 'hall' },
      speed: { type: 'rising', fromRpm: 200, toRpm: 1200 },
    });
    const { wheel: learned } = taught(found, 3);
    expect(steps(learned).map((step) => Math.round(step))).toEqual(steps(own));
  });

  test('wide and narrow slots keep their widths', () => {
    const own = widthCodedWheel('own', 'Own', 'crank', 'width-coded', [10, 10, 25, 10, 25, 25, 10, 10]);
    const { wheel: learned } = taught(
      seen(own, { crankSensor: { type: 'hall' }, speed: { type: 'constant', rpm: 300 } }),
      8,
    );
    const widths = teethOf(learned).map(({ width }) => Math.round(width / 5) * 5);
    expect([...widths].sort()).toEqual([10, 10, 10, 10, 10, 25, 25, 25]);
  });

  test('even teeth have no period; counted, they are learned', () => {
    const found = seen(missingToothWheel(12, 0), { speed: { type: 'constant', rpm: 250 } });
    expect(periodOf(found.pulses)).toBeNull();
    const result = teachCrank(found, 'Learned');
    expect(!result.ok && result.problem.sentence).toContain('count the teeth');
    expect(taught(found, 12).wheel).toMatchObject({ family: 'even', places: 12, missing: 0 });
  });

  test('too short a capture says how much it needs', () => {
    const found = seen(missingToothWheel(36, 1), { seconds: 0.6 });
    const result = teachCrank(found, 'Learned', { teeth: 60 });
    expect(!result.ok && result.problem.sentence).toMatch(/needs at least 181/);
  });

  test('a learned wheel is recognised when the library has it', () => {
    const found = seen(missingToothWheel(50, 3));
    const own = { ...taught(found).wheel, id: 'mine' };
    const again = match({ ...found, ...captureOf(missingToothWheel(50, 3)) }, { wheels: [...catalog.wheels, own] });
    expect(again.ok && again.value.best.wheel.id).toBe('mine');
  });
});

const captureOf = (crank: Wheel) =>
  synth({
    crank,
    cam: null,
    speed: { type: 'cranking', rpm: 220, ripple: 0.3, events: 2 },
    seconds: 2,
    sampleRate: 40_000,
    crankSensor: { type: 'vr' },
    random: seeded(9),
  }).capture;

describe('a cam learned from a capture', () => {
  test('windows by Hall: angles and widths of the cam', () => {
    const own = listedWheel('own', 'Own', 'cam', 'cam-windows', [
      { at: 0, width: 40 },
      { at: 90, width: 15 },
      { at: 230, width: 60 },
    ]);
    const found = seen(wheel('60-2'), { cam: own, speed: { type: 'constant', rpm: 250 } });
    const result = teachCam(found, 'Learned cam');
    if (!result.ok) throw new Error(result.problem.sentence);
    const sorted = (teeth: readonly number[]) => [...teeth].sort((one, other) => one - other);
    expect(sorted(steps(result.value.wheel).map(Math.round))).toEqual(sorted(steps(own)));
    expect(sorted(teethOf(result.value.wheel).map(({ width }) => Math.round(width)))).toEqual([15, 40, 60]);
    expect(result.value.wheel.shaft).toBe('cam');
  });

  test('no cam, one sentence', () => {
    const result = teachCam(seen(wheel('60-2'), { cam: null }), 'Cam');
    expect(!result.ok && result.problem.sentence).toContain('no cam signal');
  });
});

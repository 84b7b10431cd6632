import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { matchAnswer, readBench } from '~/core/trigger/bench';
import { clearFaults, pulseFaults } from '~/core/trigger/pulse-faults';
import { decode, type Decoding } from '~/core/trigger/decoder';
import { concentration, diagnose, placed } from '~/core/trigger/diagnose';
import { match, type Match } from '~/core/trigger/match';
import { gapsOf, patternOf } from '~/core/trigger/pattern';
import { armingFor, decoderFor } from '~/core/trigger/settings';
import { seeded, synth, type Faults, type Sensor, type Speed, type SynthSpec } from '~/core/trigger/synth';
import {
  listedWheel,
  mirrored,
  missingToothWheel,
  repeats,
  teethPerTurn,
  wheelSchema,
  type Wheel,
} from '~/core/wheels/wheel';
import { demoBuild, wheel } from '../../helpers';

const { wheels } = catalog;
const isPrimary = ({ shaft, family }: Wheel) => shaft === 'crank' || family === 'distributor' || family === 'slot-disc';
/** Wide teeth give a VR sensor no steep crossing; such wheels are read by square sensors. */
const hallOnly = ({ family }: Wheel) => family === 'width-coded' || family === 'distributor' || family === 'slot-disc';

function simulate(own: Wheel, seed: number, type: Sensor['type'], more: Partial<SynthSpec> & { faults?: Faults } = {}) {
  const primary = isPrimary(own);
  const random = seeded(seed * 7919);
  const rpm = 150 + 40 * seed;
  const speed: Speed = { type: 'constant', rpm };
  return synth({
    crank: primary ? own : wheel('36-1'),
    cam: primary ? (own.family === 'distributor' || own.tracks ? null : wheel('cam-1')) : own,
    camDegrees: random() * 720,
    startDegrees: random() * 720,
    speed,
    // Two cycles and a bit.
    seconds: (2.6 * 120) / rpm,
    sampleRate: own.family === 'slot-disc' ? 100_000 : 40_000,
    crankSensor: { type },
    camSensor: { type: 'hall' },
    random,
    ...more,
  });
}
function matched(capture: ReturnType<typeof synth>['capture']): Match {
  const result = match(capture, { wheels });
  if (!result.ok) throw new Error(result.problem.sentence);
  return result.value;
}

describe('the library', () => {
  test('has forty wheels and more, each with an id of its own', () => {
    expect(wheels.length).toBeGreaterThanOrEqual(40);
    expect(new Set(wheels.map(({ id }) => id)).size).toBe(wheels.length);
  });
  test.each(wheels.map((one) => [one.id, one] as const))(
    '%s turns round whole, and twice mirrored is itself',
    (_, one) => {
      expect(wheelSchema.safeParse(mirrored(one)).success).toBe(true);
      const [a, b] = [patternOf(one, 'rise'), patternOf(mirrored(mirrored(one)), 'rise')];
      expect(a.length).toBe(b.length);
      const whole = (one.shaft === 'cam' ? 720 : 360) / repeats(one);
      expect(a.reduce((sum, step) => sum + step, 0)).toBeCloseTo(whole, 6);
      if (one.places !== null) expect(gapsOf(one).reduce((sum, gap) => sum + gap - 1, 0)).toBe(one.missing);
    },
  );
});

describe('made and matched: every wheel comes back', () => {
  const few = ({ id }: Wheel) => id === '1-even' || id === '2-even';
  test.each(wheels.map((one, at) => [one.id, 1 + (at % 2), one] as const))('%s, seed %i', (_, seed, one) => {
    const type = hallOnly(one) || seed === 2 ? 'hall' : 'vr';
    const { capture } = simulate(one, seed, type, few(one) ? { seconds: 5 } : {});
    const found = matched(capture);
    expect(found.best.wheel.id).toBe(isPrimary(one) ? one.id : '36-1');
    if (!isPrimary(one)) expect(found.camFit?.wheel?.id).toBe(one.id);
    expect(found.best.score).toBeGreaterThan(0.8);
    expect(found.polarity).toBe(type === 'hall' ? 'square' : 'normal');
    expect(found.rpm.mean / (150 + 40 * seed)).toBeCloseTo(1, 1);
    expect(pulseFaults(found)).toEqual([]);
  });
});

describe('polarity, noise, ripple', () => {
  // Two missing of 120 leave both crossings nearly alike: there the polarity is not told.
  const gapped = wheels.filter(({ id, missing, shaft }) => missing > 0 && shaft === 'crank' && id !== '120-2');
  test.each(gapped.filter((_, at) => at % 4 === 1).map((one) => [one.id, one] as const))(
    '%s: swapped leads are told',
    (_, one) => {
      const { capture } = simulate(one, 3, 'vr', { faults: { swappedLeads: true, noiseVolts: 0.02 } });
      const found = matched(capture);
      expect(found.polarity).toBe('reversed');
      expect(found.best.wheel.id).toBe(one.id);
    },
  );
  const hard: Speed = { type: 'cranking', rpm: 230, ripple: 0.4, events: 2 };
  // Every fourth, for time: all of them run in the bench, made another way (tests/stress-captures.ts).
  const fine = wheels
    .filter(({ places, missing, shaft }) => shaft === 'crank' && missing > 0 && (places ?? 0) >= 18 && places !== 120)
    .filter((_, at) => at % 4 === 0);
  test.each(fine.map((one, at) => [one.id, 1 + (at % 3), one] as const))(
    '%s, seed %i: 40 % ripple, 3 % jitter, one pulse in fifty lost',
    (_, seed, one) => {
      const { capture } = simulate(one, seed, 'vr', {
        speed: hard,
        seconds: 2,
        faults: { jitter: 0.03, lost: 0.02, noiseVolts: 0.01 },
      });
      const found = matched(capture);
      expect(found.best.wheel.id).toBe(one.id);
      expect(found.ripple).toBeGreaterThan(0.25);
    },
  );
  test.each(fine.slice(0, 2).map((one) => [one.id, one] as const))('%s: one pulse in fifty too many', (_, one) => {
    const { capture } = simulate(one, 4, 'hall', { speed: hard, seconds: 2, faults: { jitter: 0.03, added: 0.02 } });
    expect(matched(capture).best.wheel.id).toBe(one.id);
  });
  test('a wheel the library lacks is spelled out by its gap', () => {
    const own = missingToothWheel(52, 2);
    const found = matched(simulate(own, 2, 'vr').capture);
    expect(found.best).toMatchObject({ fromLibrary: false });
    expect(found.best.wheel.id).toBe('52-2');
  });
  test('crossed channels are put right, and told', () => {
    const { capture } = simulate(wheel('60-2'), 2, 'hall', { faults: { crossed: true } });
    const found = matched(capture);
    expect(found.crank.channel.name).toBe('cam');
    expect(found.notes.join(' ')).toMatch(/taken as crossed/);
    expect(found.best.wheel.id).toBe('60-2');
  });
  test('where in the sequence: teeth and angles follow what was made', () => {
    const made = simulate(wheel('60-2'), 2, 'hall');
    const found = matched(made.capture);
    const start = made.degrees;
    for (const pulse of [3, 40, 90]) {
      const real = start[Math.round(found.pulses[pulse] * 40_000)];
      const off = (found.teeth[pulse] * 6 - real) % 360;
      expect(Math.min(Math.abs(off), 360 - Math.abs(off))).toBeLessThan(2);
    }
  });
});

describe('bad captures', () => {
  const flat = (value: number) => ({
    format: 'made' as const,
    channels: [{ name: 'crank', unit: 'V', values: new Float32Array(5000).fill(value) }],
    time: { index: Float64Array.of(0, 4999), seconds: Float64Array.of(0, 0.5) },
    count: 5000,
    notes: [],
  });
  test('a constant signal', () => {
    expect(match(flat(2.5), { wheels })).toMatchObject({
      ok: false,
      problem: { code: 'constant', sentence: expect.stringMatching(/stands still at 2\.50 V/) },
    });
  });
  test('one edge', () => {
    const capture = flat(0);
    capture.channels[0].values.fill(5, 2500);
    expect(match(capture, { wheels })).toMatchObject({ ok: false, problem: { code: 'too-few-edges' } });
  });
  test('a pull-up that is not there', () => {
    const { capture } = simulate(wheel('60-2'), 2, 'hall', { cam: null, faults: { droppedPullUp: true } });
    const result = match(capture, { wheels });
    // 0.05 V of movement: read, but with no margin worth the name.
    if (result.ok) expect(result.value.crank.quality.margin).toBeLessThan(0.1);
    else expect(result.problem.code).toBe('constant');
  });
  test('a channel that is not there is named', () => {
    const { capture } = simulate(wheel('60-2'), 2, 'hall');
    expect(match(capture, { wheels, crank: 'knock' })).toMatchObject({
      ok: false,
      problem: { code: 'no-channel', sentence: "The capture has no channel 'knock'; it has 'crank', 'cam'." },
    });
  });
  test('clipped is told and read all the same', () => {
    const { capture } = simulate(wheel('60-2'), 2, 'vr');
    const [channel] = capture.channels;
    const most = Math.max(...channel.values) * 0.5;
    channel.values.forEach((value, i) => (channel.values[i] = Math.max(-most, Math.min(most, value))));
    const found = matched(capture);
    expect(found.best.wheel.id).toBe('60-2');
    expect(found.notes.join(' ')).toMatch(/'crank' is clipped/);
  });
});

describe('the decoder stand-in', () => {
  const run = (own: Wheel, faults: Faults, speed: Speed, seconds = 4, type: Sensor['type'] = 'vr') => {
    const made = simulate(own, 5, type, { faults, speed, seconds, sampleRate: 60_000 });
    const found = matched(made.capture);
    const raw = decode(found.crank, found.cam, decoderFor(found, null, 7000));
    const decoding: Decoding = { ...raw, losses: placed(raw.losses, found) };
    return { made, found, decoding, stories: diagnose(decoding, 144, clearFaults(found)) };
  };
  const cranking: Speed = { type: 'cranking', rpm: 240, ripple: 0.2, events: 2.5 };
  test.each(['60-2', '36-1', '36-2', '24-2', '60-1', '36-2-2-2'])('%s clean: angle, cycle, no loss', (id) => {
    const { decoding } = run(wheel(id), {}, cranking);
    expect(decoding.losses).toEqual([]);
    expect(decoding.toAngle).toBeLessThan(0.4);
    expect(decoding.toFull).toBeGreaterThan(decoding.toAngle!);
    expect(decoding.states.map(({ state }) => state)).toEqual(['pulses', 'angle', 'full']);
  });
  test('spin-up and run-down are no losses while running', () => {
    const { decoding } = run(wheel('60-2'), {}, { ...cranking, startSeconds: 0.4, stopSeconds: 0.4 });
    expect(decoding.losses.filter(({ cause }) => cause !== 'start' && cause !== 'stop')).toEqual([]);
  });
  test('from cranking to the red line', () => {
    expect(run(wheel('36-1'), {}, { type: 'rising', fromRpm: 200, toRpm: 6000 }).decoding.losses).toEqual([]);
  });
  test('spikes of the coils are named, at the angles they were made', () => {
    const { decoding, stories } = run(
      wheel('60-2'),
      { coilSpikes: { volts: 7, atDegrees: [10, 154, 298, 442, 586], share: 0.2 } },
      cranking,
    );
    expect(decoding.losses.length).toBeGreaterThan(3);
    expect(stories[0].story).toBe('coil');
    expect(decoding.losses.map(({ cause }) => cause)).toContain('extra-pulse');
  });
  test.each([
    ['broken off', { missingTooth: 20 }],
    ['bent', { bentTooth: { tooth: 20, degrees: 2 } }],
  ] as const)('a tooth %s comes back at one place', (_, faults) => {
    const { stories } = run(wheel('60-2'), faults, cranking);
    expect(stories[0].story).toBe('tooth');
  });
  test('no cam pulse after a while is told', () => {
    const made = simulate(wheel('60-2'), 5, 'vr', { speed: cranking, seconds: 4 });
    const cam = made.capture.channels[1].values;
    const found = matched(made.capture);
    const settings = decoderFor(found, null, 7000);
    cam.fill(0.2, Math.floor(cam.length / 2));
    const cut = matched(made.capture);
    const decoding = decode(cut.crank, cut.cam, settings);
    expect(decoding.losses.map(({ cause }) => cause)).toContain('cam-missing');
  });
  test('arming grows with speed and never falls into the noise', () => {
    const { found } = run(wheel('60-2'), { noiseVolts: 0.02 }, cranking);
    const table = armingFor(found);
    expect(table.length).toBeGreaterThan(4);
    table.slice(1).forEach((row, i) => expect(row.volts).toBeGreaterThanOrEqual(table[i].volts));
    expect(table[0].volts).toBeGreaterThan(0.02);
  });
});

describe('the bench', () => {
  test('the lost and the added are found where they were made', () => {
    const made = simulate(wheel('60-2'), 6, 'vr', { seconds: 3, faults: { lost: 0.006 } });
    const faults = pulseFaults(matched(made.capture));
    const inside = made.injected.filter(({ seconds }) => seconds > 0.05 && seconds < 2.9);
    expect(inside.length).toBeGreaterThan(1);
    for (const one of inside) {
      const near = faults.some(
        ({ seconds, cause }) => cause === 'missing-pulse' && Math.abs(seconds - one.seconds) < 0.01,
      );
      expect(near).toBe(true);
    }
    expect(faults.length).toBeLessThanOrEqual(made.injected.length + 1);
  });
  test('the build with another wheel is told, and its ECU set', () => {
    const { capture } = simulate(wheel('36-1'), 2, 'vr');
    const read = readBench(capture, { wheels }, demoBuild());
    if (!read.ok) throw new Error(read.problem.sentence);
    expect(read.value.disagreements).toContainEqual(
      expect.objectContaining({
        what: 'crank wheel',
        sentence: 'The build says 60 places, 2 missing; the capture shows 36 places, 1 missing.',
      }),
    );
    const { ecu } = read.value;
    expect(ecu?.fit.decodes).toBe(true);
    expect(ecu?.settings).toContainEqual(
      expect.objectContaining({ name: 'Teeth, with the missing ones', value: '36' }),
    );
    // 10 degrees of 360 at 7200 rpm are 231 microseconds; a third of it.
    expect(ecu?.settings).toContainEqual(expect.objectContaining({ name: 'Filter, at most', value: '77 µs' }));
  });
  test('a cam the library lacks still tells the cycle', () => {
    const own = listedWheel('own', 'own', 'cam', 'cam-windows', [
      { at: 10, width: 15 },
      { at: 63, width: 15 },
      { at: 201, width: 15 },
    ]);
    const read = readBench(simulate(own, 2, 'vr').capture, { wheels }, demoBuild());
    if (!read.ok) throw new Error(read.problem.sentence);
    expect(read.value.match.camFit).toMatchObject({ wheel: null, pulsesPerCycle: 3, tellsPhase: true });
    expect(read.value.ecu?.fit).toMatchObject({ decodes: true, knows: 'cycle' });
  });
  test('its answer names geometry', () => {
    const { capture } = simulate(wheel('60-2'), 2, 'vr');
    const answer = matchAnswer(matched(capture), 40_000);
    expect(answer.best).toMatchObject({
      patternId: '60-2',
      crank: { channel: 'crank', places: 60, missing: 2, pulsesPerRev: 58, gaps: [3] },
      cam: { channel: 'cam', pulsesPerCycle: 1 },
      polarity: 'normal',
    });
    expect(answer.runnerUp?.reason).toMatch(/teeth from gap to gap; the capture has 58|gap/);
  });
});

test('concentration: all at one angle, spread evenly, two against each other', () => {
  expect(concentration([10, 370, 730], 360)).toBeCloseTo(1, 9);
  expect(concentration([0, 90, 180, 270], 360)).toBeCloseTo(0, 9);
  expect(concentration([0, 144, 288, 432, 576], 144)).toBeCloseTo(1, 9);
});

test('even teeth are counted by the cam', () => {
  for (const places of [8, 12, 24]) {
    const found = matched(simulate(wheel(`${places}-even`), 2, 'hall').capture);
    expect(teethPerTurn(found.best.wheel)).toBe(places);
  }
});

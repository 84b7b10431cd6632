import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { sampleRate } from '~/core/trigger/capture/capture';
import { readCapture } from '~/core/trigger/capture/read';
import { match, type Match } from '~/core/trigger/match';
import { signalFaults } from '~/core/trigger/named';
import { listedWheel, missingToothWheel, multiGapWheel, widthCodedWheel, type Wheel } from '~/core/wheels/wheel';
import { wheel } from '../../helpers';
import { engines, fieldCapture, type FieldSpec } from '../../other-engine';

/** Captures drawn by other formulas than core's (tests/other-engine.ts); every figure here is invented. */
const { wheels } = catalog;
const usual = {
  cam: null,
  sensor: 'hall',
  seed: 5,
  rpm: 220,
  seconds: 2.4,
  samples: 25,
  tops: engines.four,
  swing: 0.25,
  jitter: 0.005,
} as const;
function found(own: Wheel, more: Partial<FieldSpec> = {}): Match {
  const result = match(fieldCapture({ ...usual, wheel: own, ...more }), { wheels });
  if (!result.ok) throw new Error(result.problem.sentence);
  return result.value;
}

describe('one answer, where one explains the pulses', () => {
  test.each([16, 12, 31.6, 6, 40])('60-2 before a Hall sensor, %d samples a place', (samples) => {
    const { best, verdict, rpm, events } = found(wheel('60-2'), { samples, noise: 0, jitter: 0 });
    expect(best.wheel.id).toBe('60-2');
    expect(verdict.kind).toBe('this');
    expect(verdict.odds[0].odds).toBeGreaterThan(0.95);
    expect(rpm.mean / 220).toBeCloseTo(1, 1);
    expect(events).toEqual([]);
  });
  test.each(['single', 'odd twin', 'even twin', 'four'])(
    '60-2 before a VR sensor on a %s that swings 40 %',
    (engine) => {
      const { best, verdict } = found(wheel('60-2'), { sensor: 'vr-flux', swing: 0.4, tops: engines[engine] });
      expect(best.wheel.id).toBe('60-2');
      expect(verdict.kind).toBe('this');
    },
  );
  test('VR at five samples a tooth', () => {
    expect(found(wheel('36-1'), { sensor: 'vr-sine', samples: 5 })).toMatchObject({
      best: { wheel: { id: '36-1' } },
      verdict: { kind: 'this' },
      polarity: 'normal',
    });
  });
  test('a tuned ear is not needed: a swing of half the scale tells 30-2 from two half-turns of 60-2-2', () => {
    expect(found(wheel('30-2'), { swing: 0.3, tops: engines.single }).best.wheel.id).toBe('30-2');
  });
});

describe('captures as they come', () => {
  test('Hall with mains hum is square, not a VR sensor with its leads swapped', () => {
    const { best, polarity, crank } = found(wheel('36-1'), { hum: 0.3, samples: 40 });
    expect(crank.shape.kind).toBe('square');
    expect(polarity).toBe('square');
    expect(best.wheel.id).toBe('36-1');
  });
  test.each([
    ['eight bits', { bits: 8 }],
    ['clipped tops', { clip: 0.6 }],
    ['an AC input', { ac: 2 }],
    ['a drifting zero', { drift: 0.4 }],
    ['a start from rest', { up: 0.5 }],
  ] as const)('VR with %s', (_, more) => {
    expect(found(wheel('60-2'), { sensor: 'vr-flux', noise: 0.005, ...more })).toMatchObject({
      best: { wheel: { id: '60-2' } },
      polarity: 'normal',
    });
  });
});

describe('captures as they come: two units, and spikes of the ignition', () => {
  const spec = { ...usual, wheel: wheel('60-2'), cam: wheel('cam-1'), sensor: 'vr-flux', noise: 0.005 } as const;
  test('the crank in millivolts beside the cam in volts', () => {
    const capture = fieldCapture(spec);
    const [crank, cam] = capture.channels;
    const rate = sampleRate(capture);
    const rows = Array.from(
      crank.values,
      (value, i) => `${(i / rate).toFixed(7)},${(1000 * value).toFixed(1)},${cam.values[i].toFixed(2)}`,
    );
    const file = readCapture(new TextEncoder().encode(`time (s),crank (mV),cam (V)\n${rows.join('\n')}`));
    if (!file.ok) throw new Error(file.problem.sentence);
    const [milli, same] = [file.value, capture].map((one) => {
      const result = match(one, { wheels });
      if (!result.ok) throw new Error(result.problem.sentence);
      return result.value;
    });
    expect(milli).toMatchObject({ best: { wheel: { id: '60-2' } }, polarity: 'normal', crossed: false });
    expect(milli.verdict.kind).toBe('this');
    expect(milli.crank.quality.volts[1]).toBeCloseTo(same.crank.quality.volts[1], 2);
  });
  test('needles on the line every half turn do not make another wheel', () => {
    const capture = fieldCapture(spec);
    const [crank, cam] = capture.channels;
    const values = crank.values.slice();
    const every = Math.round((capture.count / 2.4) * (60 / 220 / 2));
    for (let at = every; at + 1 < values.length; at += every) {
      values[at] += 4;
      values[at + 1] -= 3;
    }
    const result = match({ ...capture, channels: [{ ...crank, values }, cam] }, { wheels });
    if (!result.ok) throw new Error(result.problem.sentence);
    expect(result.value.best.wheel.id).toBe('60-2');
    expect(result.value.verdict.odds.map(({ wheel: one }) => one.id)).toContain('60-2');
    expect(signalFaults(result.value).map(({ id }) => id)).toContain('extra-pulses');
  });
});

describe('what cannot be told is not told', () => {
  test('a width-coded wheel nobody has drawn is no vane wheel: its row is spelled out', () => {
    const widths = [4, 4, 4, 9, 4, 4, 9, 4, 9, 4, 4, 4, 9, 9, 4, 4, 9, 4, 4, 4, 4, 9, 4, 9];
    const own = widthCodedWheel('own', 'own', 'crank', 'width-coded', widths);
    const { verdict } = found(own, { samples: 60 });
    expect(verdict.kind).toBe('none');
    expect(verdict.repeats).toMatch(/row of 24/);
  });
  test('36-1-1 is told as it and as 36-1 with a broken tooth', () => {
    const own = multiGapWheel('own', 'own', 36, [
      [35, 1],
      [16, 1],
    ]);
    const { verdict, best } = found(own);
    expect(verdict.kind).toBe('one-of');
    expect(best.wheel.id).toBe('36-1');
    expect(verdict.reason).toMatch(/broken tooth/);
    expect(verdict.repeats).toMatch(/34 pulses come back every 360°/);
  });
  test('two teeth at 0 and 110 degrees are not said to be 3-1', () => {
    const own = listedWheel('own', 'own', 'crank', 'uneven', [
      { at: 0, width: 20 },
      { at: 110, width: 20 },
    ]);
    const { verdict } = found(own, { seconds: 5, samples: 60, swing: 0.1 });
    expect(verdict.kind === 'this' && verdict.odds[0].odds > 0.9).toBe(false);
  });
  test('a wheel with several gaps of its own is none of the library', () => {
    const own = multiGapWheel('own', 'own', 40, [
      [5, 1],
      [17, 3],
      [30, 1],
    ]);
    const { verdict } = found(own);
    expect(verdict.kind).toBe('none');
    expect(verdict.noneOdds).toBeGreaterThan(0.5);
  });
  test('even teeth without a cam have no number', () => {
    const { verdict } = found(wheel('24-even'));
    expect(verdict.kind).toBe('one-of');
    expect(verdict.reason).toMatch(/cam or a known speed/);
  });
  test('a plain wheel the library lacks is spelled out by its gap', () => {
    const { best } = found(missingToothWheel(52, 2));
    expect(best).toMatchObject({ fromLibrary: false, wheel: { id: '52-2' } });
  });
});

import { describe, expect, test } from '@jest/globals';
import { seeded, synth, type Sensor, type SynthSpec } from '~/core/trigger/synth';
import { polarityOf, trackOf } from '~/core/trigger/tracks';
import { missingToothWheel, pulseHertz } from '~/core/wheels/wheel';
import { wheel } from '../../helpers';

function make(more: Partial<SynthSpec> = {}) {
  return synth({
    crank: wheel('36-1'),
    cam: null,
    speed: { type: 'constant', rpm: 300 },
    seconds: 1,
    sampleRate: 50_000,
    crankSensor: { type: 'vr' },
    random: seeded(1),
    ...more,
  });
}
const most = (values: Float32Array) => values.reduce((sum, value) => Math.max(sum, value), Number.NEGATIVE_INFINITY);
const height = (rpm: number, sensor: Partial<Sensor> = {}) =>
  most(make({ speed: { type: 'constant', rpm }, crankSensor: { type: 'vr', ...sensor } }).capture.channels[0].values);

describe('VR', () => {
  test('the height grows in proportion to the speed (v = d(flux)/dt, domain facts)', () => {
    expect(height(600) / height(300)).toBeCloseTo(2, 1);
    expect(height(3000) / height(300)).toBeCloseTo(10, 0);
  });
  test('twice the gap is a quarter of the signal (common practice)', () => {
    expect(height(300, { gapShare: 2 }) / height(300)).toBeCloseTo(0.25, 3);
  });
  test('a wheel out of true swings the height once a turn', () => {
    const { capture, degrees } = make({ crankSensor: { type: 'vr', runOut: 0.3 } });
    const { values } = capture.channels[0];
    const near = (angle: number) =>
      most(values.filter((_, i) => Math.abs((((degrees[i] % 360) + 360) % 360) - angle) < 15));
    expect(near(90) / near(270)).toBeCloseTo(1.3 / 0.7, 0);
  });
  test('swapped leads turn it upside down, and the polarity is told', () => {
    const [one, other] = [make(), make({ faults: { swappedLeads: true } })];
    one.capture.channels[0].values.forEach((value, i) => {
      if (i % 97 === 0) expect(other.capture.channels[0].values[i]).toBeCloseTo(-value, 5);
    });
    expect(polarityOf(trackOf(one.capture, 0)).polarity).toBe('normal');
    expect(polarityOf(trackOf(other.capture, 0)).polarity).toBe('reversed');
  });
});

describe('Hall and optical', () => {
  test('rests at the transistor and at the pull-up, whichever it is', () => {
    for (const pullUpVolts of [5, 12]) {
      const { values } = make({ crankSensor: { type: 'hall', pullUpVolts } }).capture.channels[0];
      expect(most(values)).toBeCloseTo(pullUpVolts, 1);
      expect(-most(values.map((value) => -value))).toBeCloseTo(0.2, 1);
    }
  });
  test('inverted is low while a tooth passes', () => {
    const straight = make({ crankSensor: { type: 'optical' } }).capture.channels[0].values;
    const inverted = make({ crankSensor: { type: 'optical', inverted: true } }).capture.channels[0].values;
    const high = (values: Float32Array) => values.filter((value) => value > 2.5).length / values.length;
    expect(high(straight) + high(inverted)).toBeCloseTo(1, 1);
  });
});

describe('switching points', () => {
  const timesOf = (sensor: Partial<Sensor>) => {
    const { capture } = make({ crankSensor: { type: 'hall', ...sensor }, sampleRate: 200_000, startDegrees: 7 });
    const { edges } = trackOf(capture, 0);
    return [0, 1].map((level) => [...edges.seconds].filter((_, i) => edges.level[i] === level));
  };
  // 300 rpm are 1800 degrees a second.
  const later = (one: number[], other: number[]) => 1800 * (other[5] - one[5]);
  test('hysteresis makes both edges later, a high threshold makes teeth narrower', () => {
    const plain = timesOf({});
    const lagging = timesOf({ operateDegrees: 1, releaseDegrees: 1 });
    expect(later(plain[1], lagging[1])).toBeCloseTo(1, 1);
    expect(later(plain[0], lagging[0])).toBeCloseTo(1, 1);
    const narrow = timesOf({ operateDegrees: 0.8, releaseDegrees: -0.8 });
    expect(later(plain[1], narrow[1])).toBeCloseTo(0.8, 1);
    expect(later(plain[0], narrow[0])).toBeCloseTo(-0.8, 1);
  });
  test('a weak pull-up rises slowly, and only rises', () => {
    const [plain, weak] = [timesOf({}), timesOf({ riseSeconds: 2e-4 })];
    // To half height in 0.69 of the time constant (V = V0 (1 - exp(-t/RC))).
    expect(weak[1][5] - plain[1][5]).toBeGreaterThan(0.55 * 2e-4);
    expect(Math.abs(weak[0][5] - plain[0][5])).toBeLessThan(2e-5);
  });
});

describe('speed', () => {
  test.each([100, 975, 6000])('%i rpm gives pulses at f = n rpm / 60 (domain facts)', (rpm) => {
    const own = missingToothWheel(12, 0);
    const { capture } = make({
      crank: own,
      speed: { type: 'constant', rpm },
      crankSensor: { type: 'hall' },
      sampleRate: 100_000,
    });
    const { edges } = trackOf(capture, 0);
    const rises = [...edges.seconds].filter((_, i) => edges.level[i] === 1);
    const hertz = (rises.length - 1) / (rises[rises.length - 1] - rises[0]);
    expect(hertz / pulseHertz(own, rpm)).toBeCloseTo(1, 3);
  });
  test('ripple is fastest less slowest over the mean, as many times a turn as there are compressions', () => {
    const { degrees } = make({ speed: { type: 'cranking', rpm: 200, ripple: 0.4, events: 2 }, seconds: 2 });
    const speeds = [...degrees.slice(1)].map((angle, i) => (angle - degrees[i]) * 50_000);
    const [slow, fast] = [Math.min(...speeds.slice(0, 30_000)), Math.max(...speeds.slice(0, 30_000))];
    expect((fast - slow) / 1200).toBeCloseTo(0.4, 2);
  });
  test('it starts from rest and comes to rest', () => {
    const { degrees } = make({
      speed: { type: 'cranking', rpm: 200, ripple: 0, events: 2, startSeconds: 0.4, stopSeconds: 0.3 },
    });
    const moved = (from: number, to: number) =>
      degrees[Math.round(to * 50_000) - 1] - degrees[Math.round(from * 50_000)];
    expect(moved(0, 0.1)).toBeLessThan(moved(0.4, 0.5) * 0.3);
    expect(moved(0.9, 1)).toBeLessThan(moved(0.4, 0.5) * 0.3);
  });
});

describe('what is made to go wrong', () => {
  test('the same seed gives the same file, another one another', () => {
    const noisy = (seed: number) =>
      make({ faults: { noiseVolts: 0.1 }, random: seeded(seed) }).capture.channels[0].values.slice(0, 500);
    expect(noisy(5)).toEqual(noisy(5));
    expect(noisy(5)).not.toEqual(noisy(6));
  });
  test('every fault is put down with its time, and nothing else', () => {
    const { injected } = make({ faults: { missingTooth: 4 }, seconds: 2 });
    expect(injected.every(({ fault, tooth }) => fault === 'missing-tooth' && tooth === 4)).toBe(true);
    // 300 rpm are five turns a second.
    expect(injected.length).toBeGreaterThanOrEqual(9);
    expect(injected.length).toBeLessThanOrEqual(11);
    injected.slice(1).forEach((one, i) => expect(one.seconds - injected[i].seconds).toBeCloseTo(0.2, 3));
  });
  test('coil spikes come at the angles asked for', () => {
    const { injected } = make({ faults: { coilSpikes: { volts: 5, atDegrees: [30, 390] } }, seconds: 1 });
    expect(injected.length).toBeGreaterThan(3);
    for (const { degrees } of injected) expect(((degrees % 360) + 360) % 360).toBeCloseTo(30, 6);
  });
});

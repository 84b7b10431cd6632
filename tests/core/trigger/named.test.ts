import { describe, expect, test } from '@jest/globals';
import { match } from '~/core/trigger/match';
import { signalFaults, type SignalFault } from '~/core/trigger/named';
import { seeded, synth, type Faults, type Sensor, type SynthSpec } from '~/core/trigger/synth';
import { demoCaptures } from '~/demo/captures';
import { wheel } from '../../helpers';

/** A few wheels do: what goes wrong is asked here, not which wheel it is. */
const wheels = ['36-1', '60-2', '36-even', '24-1', '36-2', 'cam-1'].map(wheel);

function faultsOf(faults: Faults, seed: number, type: Sensor['type'], more: Partial<SynthSpec> = {}): SignalFault[] {
  const { capture } = synth({
    crank: wheel('36-1'),
    cam: wheel('cam-1'),
    camDegrees: 200,
    startDegrees: 40 * seed,
    speed: { type: 'cranking', rpm: 200 + 20 * seed, ripple: 0.25, events: 2 },
    seconds: 2,
    sampleRate: 40_000,
    crankSensor: { type },
    camSensor: { type: 'hall' },
    faults,
    random: seeded(seed),
    ...more,
  });
  const found = match(capture, { wheels });
  if (!found.ok) throw new Error(found.problem.sentence);
  return signalFaults(found.value);
}
const ids = (faults: readonly SignalFault[]) => faults.map(({ id }) => id);
const seeds = [1, 2];

describe('clean signals', () => {
  test.each(['vr', 'hall', 'optical'] as const)('%s: nothing is named', (type) => {
    for (const seed of seeds) expect(faultsOf({ noiseVolts: 0.01 }, seed, type)).toEqual([]);
  });
});

test('spinning up and coming to rest is no fault of the line', () => {
  for (const type of ['vr', 'hall'] as const)
    for (const swappedLeads of [false, type === 'vr'])
      for (const seed of seeds) {
        const found = faultsOf({ noiseVolts: 0.01, swappedLeads }, seed, type, {
          crank: wheel('60-2'),
          speed: { type: 'cranking', rpm: 235, ripple: 0.25, events: 2.5, startSeconds: 0.25, stopSeconds: 0.2 },
          seconds: 3,
        });
        expect(ids(found)).toEqual(swappedLeads ? ['swapped-leads'] : []);
      }
});

test.each([
  ['good-start', []],
  ['swapped-leads', ['swapped-leads']],
  ['coil-noise', ['extra-pulses']],
  ['wrong-wheel', []],
])('the made-up capture %s shows %j and nothing else', (id, expected) => {
  const { spec, seed } = demoCaptures.find((one) => one.id === id)!;
  const found = match(synth({ ...spec, random: seeded(seed) }).capture, { wheels });
  if (!found.ok) throw new Error(found.problem.sentence);
  expect(ids(signalFaults(found.value))).toEqual(expected);
});

/** What is done to the signal, by which sensor, and what it must be called. */
const injected: readonly [string, Faults, Sensor['type'], SignalFault['id']][] = [
  ['leads swapped', { swappedLeads: true }, 'vr', 'swapped-leads'],
  ['crank and cam crossed, VR', { crossed: true }, 'vr', 'crossed'],
  ['crank and cam crossed, Hall', { crossed: true }, 'hall', 'crossed'],
  ['no pull-up', { droppedPullUp: true }, 'hall', 'no-pull-up'],
  ['no pull-up, with noise', { droppedPullUp: true, noiseVolts: 0.004 }, 'optical', 'no-pull-up'],
  ['a wide gap', { amplitude: 0.08, noiseVolts: 0.002 }, 'vr', 'weak'],
  ['noise', { noiseVolts: 0.12 }, 'vr', 'noise'],
  ['noise on a square line', { noiseVolts: 0.4 }, 'hall', 'noise'],
  ['a tooth broken off', { missingTooth: 7 }, 'vr', 'missing-tooth'],
  ['a tooth broken off, Hall', { missingTooth: 20 }, 'hall', 'missing-tooth'],
  ['a bent tooth', { bentTooth: { tooth: 7, degrees: 2 } }, 'hall', 'bent-tooth'],
  ['a bent tooth, VR', { bentTooth: { tooth: 20, degrees: 2 } }, 'vr', 'bent-tooth'],
  ['pulses lost', { lost: 0.02 }, 'hall', 'lost-pulses'],
  ['pulses too many', { added: 0.02 }, 'hall', 'extra-pulses'],
  [
    'spikes of the coils',
    { coilSpikes: { volts: 9, atDegrees: [10, 190, 370, 550], share: 0.6 } },
    'vr',
    'extra-pulses',
  ],
];

describe('every injected fault is named', () => {
  test.each(injected)('%s', (_, faults, type, id) => {
    for (const seed of seeds) {
      const found = faultsOf({ noiseVolts: 0.004, ...faults }, seed, type);
      expect(ids(found)).toContain(id);
      for (const one of found) expect(one.evidence + one.remedy).not.toMatch(/NaN|undefined|Infinity/);
    }
  });

  test('the tooth is the one that was broken off, or bent', () => {
    for (const seed of seeds) {
      const missing = faultsOf({ missingTooth: 7 }, seed, 'hall', { crank: wheel('60-2') }).find(
        ({ id }) => id === 'missing-tooth',
      );
      expect(missing!.tooth).toBe(7);
      const bent = faultsOf({ bentTooth: { tooth: 12, degrees: 2 } }, seed, 'hall', { crank: wheel('60-2') }).find(
        ({ id }) => id === 'bent-tooth',
      );
      expect(bent!.tooth).toBe(12);
    }
  });
});

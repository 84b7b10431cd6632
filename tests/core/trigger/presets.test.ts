import { expect, test } from '@jest/globals';
import { readBench } from '~/core/trigger/bench';
import { faultPresets, faultsOf, RISES_TO, speedAs, type FaultPreset } from '~/core/trigger/presets';
import { seeded, synth } from '~/core/trigger/synth';
import { demoBuild, wheel } from '../../helpers';

/** A few wheels do: what goes wrong is asked here, not which wheel it is. */
const wheels = ['36-1', '60-2', '36-even', '24-1', '36-2', 'cam-1'].map(wheel);

/** What the bench must call each thing that can be made to go wrong. */
const names: Readonly<Record<FaultPreset, string | null>> = {
  none: null,
  noise: 'noise',
  coils: 'extra-pulses',
  lost: 'lost-pulses',
  added: 'extra-pulses',
  missing: 'missing-tooth',
  bent: 'bent-tooth',
  swapped: 'swapped-leads',
  crossed: 'crossed',
  low: 'weak',
  'pull-up': 'no-pull-up',
};

test.each(faultPresets.map(({ id, name }) => [name, id] as const))('%s is named on the bench', (_, id) => {
  const { capture } = synth({
    crank: wheel('60-2'),
    cam: wheel('cam-1'),
    camDegrees: 130,
    startDegrees: 77,
    speed: { type: 'cranking', rpm: 250, ripple: 0.28, events: 2.5, startSeconds: 0.2 },
    seconds: 2,
    sampleRate: 40_000,
    crankSensor: { type: id === 'pull-up' || id === 'lost' || id === 'added' ? 'hall' : 'vr' },
    camSensor: { type: 'hall' },
    faults: { noiseVolts: 0.01, ...faultsOf(id, 5, 720) },
    random: seeded(3),
  });
  const read = readBench(capture, { wheels }, demoBuild());
  if (!read.ok) throw new Error(read.problem.sentence);
  const found = read.value.signalFaults.map((one) => one.id);
  const expected = names[id];
  if (expected === null) {
    expect(found).toEqual([]);
    expect(read.value.decoding.losses.filter(({ cause }) => cause !== 'start')).toEqual([]);
  } else expect(found).toContain(expected);
  if (id === 'coils') expect(read.value.suspicions[0]).toMatchObject({ story: 'coil', when: 'in step with the coils' });
});

test('sparks of a two-stroke come every turn, those of a four-stroke every other', () => {
  const angles = (cycle: 360 | 720) => faultsOf('coils', 2, cycle).coilSpikes!.atDegrees;
  expect(angles(720)).toEqual([10, 370]);
  expect(angles(360)).toEqual([10, 190, 370, 550]);
});

test('an engine is turned as its cylinders let it', () => {
  const pace = { kind: 'cranking', rpm: 250, ripple: 0.3, startSeconds: 0.2, stopSeconds: 0 } as const;
  const { engine } = demoBuild();
  expect(engine).toMatchObject({ kind: 'four-stroke', cylinders: 5 });
  const five = speedAs(pace, engine);
  expect(five).toMatchObject({ type: 'engine', rpm: 250, startSeconds: 0.2, stopSeconds: 0 });
  const tops = (speed: typeof five) => {
    if (speed.type !== 'engine') throw new Error('a starter turns it');
    const { gas } = speed.cranking;
    // The gas turns from holding back to driving on at each top.
    return gas.filter((one, i) => gas[(i + 719) % 720] < -0.1 && one >= -0.1).length;
  };
  expect(tops(five)).toBe(5);
  // A two-stroke's cylinders come to their tops every turn.
  expect(tops(speedAs(pace, { ...engine, kind: 'two-stroke' as const }))).toBe(10);
  expect(speedAs({ ...pace, kind: 'rising' }, engine)).toEqual({ type: 'rising', fromRpm: 250, toRpm: 250 * RISES_TO });
  expect(speedAs({ ...pace, kind: 'constant' }, engine)).toEqual({ type: 'constant', rpm: 250 });
});

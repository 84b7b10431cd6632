import { catalog, entry } from '~/catalog';
import type { SynthSpec } from '~/core/trigger/synth';

/** Made-up captures of the demo build's engine, made anew from their seeds: cranking with plugs out, two channels. */
export interface DemoCapture {
  readonly id: string;
  readonly name: string;
  readonly about: string;
  readonly seed: number;
  readonly spec: Omit<SynthSpec, 'random'>;
}

const wheel = (id: string) => entry(catalog.wheels, id);
const cranking = {
  type: 'cranking',
  rpm: 245,
  ripple: 0.28,
  events: 2.5,
  startSeconds: 0.25,
} as const;
const base = {
  crank: wheel('60-2'),
  cam: wheel('cam-1'),
  camDegrees: 130,
  startDegrees: 40,
  speed: cranking,
  seconds: 3,
  sampleRate: 50_000,
  crankSensor: { type: 'vr', voltsAt100: 1.2, runOut: 0.06 },
  camSensor: { type: 'hall' },
} as const;
/** Ignition of a five-cylinder engine, crank degrees. */
const sparks = [74, 218, 362, 506, 650];

export const demoCaptures: readonly DemoCapture[] = [
  {
    id: 'good-start',
    name: 'A good start',
    about: '60-2 on the crank, one tooth on the cam, leads the right way round.',
    seed: 11,
    spec: { ...base, faults: { noiseVolts: 0.015 } },
  },
  {
    id: 'swapped-leads',
    name: 'VR leads swapped',
    about: 'The same wheel with the two leads of the crank sensor the other way round.',
    seed: 12,
    spec: { ...base, faults: { noiseVolts: 0.015, swappedLeads: true } },
  },
  {
    id: 'coil-noise',
    name: 'Noise of the coils',
    about: 'Coils couple into the sensor cable: pulses that no tooth made.',
    seed: 13,
    spec: { ...base, faults: { noiseVolts: 0.015, coilSpikes: { volts: 7, atDegrees: sparks, share: 0.4 } } },
  },
  {
    id: 'wrong-wheel',
    name: 'Another wheel than chosen',
    about: 'The build says 60-2, the engine carries 36-1.',
    seed: 14,
    spec: { ...base, crank: wheel('36-1'), faults: { noiseVolts: 0.015 } },
  },
  {
    id: 'broken-tooth',
    name: 'One of two wheels',
    about: 'A tooth is missing in every turn: broken off, or a wheel with another gap. Only a look at it tells.',
    seed: 15,
    spec: { ...base, faults: { noiseVolts: 0.015, missingTooth: 23 } },
  },
];

import { seeded } from '~/core/trigger/synth';
import type { Wheel } from '~/core/wheels/wheel';
import { engines, type FieldSpec } from './other-engine';

/** The wheels of the classes below. */
export const fieldWheels = ['60-2', '36-1', '36-2', '24-1', '24-2', '12-1', '36-2-2-2', '18-1', '60-1', '30-2'];

export interface FieldCase {
  readonly class: string;
  readonly name: string;
  readonly spec: FieldSpec;
}

/**
 * Captures drawn by a seed over everything that changes: engine, wheel, sensor, samples a place, swing, noise, quantisation. One
 * in two has a cam beside it.
 */
export function fieldCases(count: number, wheels: readonly Wheel[], first = 1): FieldCase[] {
  const wheel = (id: string) => wheels.find((one) => one.id === id)!;
  return Array.from({ length: count }, (_, i): FieldCase => {
    const seed = first + i;
    const random = seeded(seed * 7919 + 3);
    const pick = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)];
    const id = pick(fieldWheels);
    const engine = pick(Object.keys(engines));
    const sensor = pick(['hall', 'hall-low', 'vr-sine', 'vr-flux'] as const);
    const rpm = 130 + 170 * random();
    const swing = 0.1 + 0.35 * random();
    const samples = Math.exp(Math.log(5) + random() * Math.log(60 / 5));
    const spec: FieldSpec = {
      wheel: wheel(id),
      cam: random() < 0.5 ? wheel('cam-1') : null,
      sensor,
      seed,
      rpm,
      // Three to six cycles.
      seconds: ((3 + 3 * random()) * 120) / rpm,
      samples,
      tops: engines[engine],
      swing,
      fall: 90 + 40 * random(),
      recover: 50 + 40 * random(),
      run: 0.01 * random(),
      jitter: 0.015 * random(),
      noise: sensor.startsWith('hall') ? 0.05 * random() : 0.02 * random(),
      bits: pick([0, 8, 8, 12]) || undefined,
      reversed: sensor.startsWith('vr') && random() < 0.3,
    };
    return {
      class: sensor.startsWith('hall') ? 'hall' : 'vr',
      name: `${seed}: ${id}, ${engine}, ${sensor}, ${samples.toFixed(1)} a place, swing ${(100 * swing).toFixed(0)} %, ${spec.cam ? 'cam' : 'no cam'}`,
      spec,
    };
  });
}

import { primary } from '~/core/trigger/trials';
import { trackOf, type Wheel } from '~/core/wheels/wheel';
import type { OtherSpec } from './other-synth';

/** What the trade asks for: a swing of 40 %, 3 % jitter, one pulse in fifty lost or added, at least two cycles. */
const stress = { ripple: 0.4, jitter: 0.03, noise: 0.01 } as const;
const shapes = ['sine', 'flux', 'edges', 'hall', 'hall-low'] as const;
const orders = [2, 1.5, 3, 2.5];
const squareOnly = ({ family }: Wheel) => ['width-coded', 'distributor', 'slot-disc'].includes(family);
const sparse = ({ edges }: Wheel) => edges.length <= 8;

export interface StressCase {
  readonly class: 'clean' | 'lost' | 'added' | 'single' | 'even' | 'two cycles';
  readonly at: number;
  readonly wheel: Wheel;
  readonly spec: OtherSpec;
}

export function stressSpec(wheels: readonly Wheel[], own: Wheel, at: number, more: Partial<OtherSpec>): OtherSpec {
  const shape = squareOnly(own) ? 'hall' : shapes[at % shapes.length];
  return {
    wheel: own,
    cam: own.family === 'distributor' ? null : (trackOf(own, 1) ?? wheels.find(({ id }) => id === 'cam-1')!),
    shape,
    seed: at + 1,
    rpm: 190 + 20 * (at % 5),
    seconds: sparse(own) ? 3 : 2.2,
    sampleRate: own.family === 'slot-disc' ? 150_000 : 40_000,
    order: orders[at % orders.length],
    phase: 77 * at,
    ...more,
  };
}

/** Every wheel clean, with pulses lost and with some added; a swing of 80 % on a single; few even teeth; two cycles begun anywhere. */
export function stressCases(wheels: readonly Wheel[]): StressCase[] {
  const cases: StressCase[] = [];
  const add = (kind: StressCase['class'], wheel: Wheel, at: number, more: Partial<OtherSpec>) =>
    cases.push({ class: kind, at, wheel, spec: stressSpec(wheels, wheel, at, more) });
  wheels.filter(primary).forEach((wheel, at) => {
    add('clean', wheel, at, { ripple: 0.1, noise: 0.005, reversed: at % 2 === 1 });
    add('lost', wheel, at, { ...stress, lost: 0.02 });
    // Pulses too many between even teeth look like lobes of a VR signal's own: only a gap tells them apart there.
    const shape = at % 2 === 0 || squareOnly(wheel) || wheel.missing === 0 ? 'hall' : 'edges';
    add('added', wheel, at, { ...stress, added: 0.02, shape });
  });
  const named = (id: string) => wheels.find((one) => one.id === id)!;
  for (const id of ['60-2', '36-1', '24-1', '12-1']) add('single', named(id), 3, { ripple: 0.8, order: 0.5 });
  for (let seed = 1; seed <= 10; seed += 1)
    add('even', named('12-even'), seed, { ...stress, lost: 0.02, shape: 'hall', seconds: 3 });
  for (const id of ['60-2', '36-1', '36-2-2-2', '12-1', '24-2'])
    for (const seed of [1, 2, 3, 4])
      add('two cycles', named(id), seed, { ripple: 0.3, seconds: (2.1 * 120) / 250, rpm: 250, seed });
  return cases;
}

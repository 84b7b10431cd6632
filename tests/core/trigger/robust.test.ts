import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { match, type Match } from '~/core/trigger/match';
import { signalFaults } from '~/core/trigger/named';
import { primary } from '~/core/trigger/trials';
import { trackOf, type Wheel } from '~/core/trigger/wheel';
import { wheel } from '../../helpers';
import { otherCapture, type OtherSpec } from '../../other-synth';

const { wheels } = catalog;
const matched = (spec: OtherSpec): Match => {
  const result = match(otherCapture(spec), { wheels });
  if (!result.ok) throw new Error(result.problem.sentence);
  return result.value;
};
const squareOnly = ({ family }: Wheel) => ['width-coded', 'distributor', 'slot-disc'].includes(family);
const sparse = ({ edges }: Wheel) => edges.length <= 8;

/** What issue and trade ask for: a swing of 40 %, 3 % jitter, one pulse in fifty lost or added, at least two cycles. */
const stress = { ripple: 0.4, jitter: 0.03, noise: 0.01 } as const;
const shapes = ['sine', 'flux', 'edges', 'hall', 'hall-low'] as const;
const orders = [2, 1.5, 3, 2.5];

function specOf(own: Wheel, at: number, more: Partial<OtherSpec>): OtherSpec {
  const shape = squareOnly(own) ? 'hall' : shapes[at % shapes.length];
  return {
    wheel: own,
    cam: own.family === 'distributor' ? null : (trackOf(own, 1) ?? wheel('cam-1')),
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

const own = wheels.filter(primary);
/** One wheel in four of each class, for time; the others are not run anywhere yet. */
const some = (first: number) => own.map((one, at) => [one.id, at, one] as const).filter(([, at]) => at % 4 === first);
/** Right, or not said with assurance: few teeth that swing hard may be told as another's. */
const rightOrHonest = (found: Match, id: string) => {
  if (found.verdict.kind === 'this') expect(found.best.wheel.id).toBe(id);
  return found.best.wheel.id === id;
};
let [right, all] = [0, 0];
describe('captures made another way', () => {
  test.each(some(0))('%s, clean, case %i', (_, at, one) => {
    const reversed = at % 2 === 1;
    const spec = specOf(one, at, { ripple: 0.1, noise: 0.005, reversed });
    const found = matched(spec);
    expect(found.best.wheel.id).toBe(one.id);
    if (!spec.shape.startsWith('hall') && one.missing > 0)
      expect(found.polarity).toBe(reversed ? 'reversed' : 'normal');
    if (one.places !== null && one.places < 100)
      expect(
        signalFaults(found)
          .map(({ id }) => id)
          .filter((id) => id !== 'swapped-leads'),
      ).toEqual([]);
  });
  test.each(some(1))('%s, stressed, pulses lost, case %i', (_, at, one) => {
    if (rightOrHonest(matched(specOf(one, at, { ...stress, lost: 0.02 })), one.id)) right += 1;
    all += 1;
  });
  test.each(some(2))('%s, stressed, pulses added, case %i', (_, at, one) => {
    // Pulses too many between even teeth look like lobes of a VR signal's own: only a gap tells them apart there.
    const shape = at % 2 === 0 || squareOnly(one) || one.missing === 0 ? 'hall' : 'edges';
    if (rightOrHonest(matched(specOf(one, at, { ...stress, added: 0.02, shape })), one.id)) right += 1;
    all += 1;
  });
  test('of the stressed nearly all are right', () => {
    expect(all).toBeGreaterThan(20);
    expect(right).toBeGreaterThanOrEqual(all - 1);
  });
  test('a swing of 80 %, as one cylinder gives', () => {
    for (const id of ['60-2', '12-1'])
      expect(matched(specOf(wheel(id), 3, { ripple: 0.8, order: 0.5 })).best.wheel.id).toBe(id);
  });
  test('few even teeth, counted by a cam of one tooth, whatever was lost', () => {
    for (let seed = 2; seed <= 4; seed += 1) {
      const found = matched(specOf(wheel('12-even'), seed, { ...stress, lost: 0.02, shape: 'hall', seconds: 3 }));
      rightOrHonest(found, '12-even');
    }
  });
  test('two cycles, begun anywhere', () => {
    for (const id of ['60-2', '36-1', '36-2-2-2', '12-1', '24-2'])
      for (const seed of [1, 3]) {
        const found = matched(specOf(wheel(id), seed, { ripple: 0.3, seconds: (2.1 * 120) / 250, rpm: 250, seed }));
        expect(found.best.wheel.id).toBe(id);
      }
  });

  const wide = own.filter(({ id, family }) => family === 'width-coded' || id === 'vane-6-narrow');
  test.each(wide.flatMap((one) => [false, true].map((reversed) => [one.id, reversed, one] as const)))(
    '%s before a VR sensor, leads swapped %s: read by the tops of its lobes',
    (_, reversed, one) => {
      const found = matched(specOf(one, 3, { shape: 'edges', ripple: 0.15, noise: 0.003, reversed }));
      expect(found.best.wheel.id).toBe(one.id);
      expect(found.crank.reads).toBe('lobes');
      expect(found.polarity).toBe(reversed ? 'reversed' : 'normal');
      expect(found.notes.join(' ')).toMatch(/wide for a VR sensor/);
    },
  );
  test.each(['60-2', '36-1', '4-1', 'uneven-5'])('%s has narrow teeth: its crossings are read', (id) => {
    for (const shape of ['sine', 'flux', 'edges'] as const)
      expect(matched(specOf(wheel(id), 2, { shape })).crank.reads).toBe('crossings');
  });
});

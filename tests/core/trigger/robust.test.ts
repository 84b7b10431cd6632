import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { match, type Match } from '~/core/trigger/match';
import { signalFaults } from '~/core/trigger/named';
import { chooseTracks } from '~/core/trigger/tracks';
import { primary } from '~/core/trigger/trials';
import { wheel } from '../../helpers';
import { otherCapture, type OtherSpec } from '../../other-synth';
import { stressCases, stressSpec, type StressCase } from '../../stress-captures';

const { wheels } = catalog;
const matched = (spec: OtherSpec): Match => {
  const result = match(otherCapture(spec), { wheels });
  if (!result.ok) throw new Error(result.problem.sentence);
  return result.value;
};
const cases = stressCases(wheels);
/** One of several of each class, for time: all of them run in the bench. */
const some = (kind: StressCase['class'], every: number, first: number) =>
  cases
    .filter((one) => one.class === kind)
    .filter((_, at) => at % every === first)
    .map((one) => [one.wheel.id, one.at, one] as const);

describe('captures made another way', () => {
  test.each(some('clean', 6, 0))('%s, clean, case %i', (_, at, { wheel: one, spec }) => {
    const found = matched(spec);
    expect(found.best.wheel.id).toBe(one.id);
    if (!spec.shape.startsWith('hall') && one.missing > 0)
      expect(found.polarity).toBe(at % 2 === 1 ? 'reversed' : 'normal');
    if (one.places !== null && one.places < 100)
      expect(
        signalFaults(found)
          .map(({ id }) => id)
          .filter((id) => id !== 'swapped-leads'),
      ).toEqual([]);
  });
  test.each([...some('lost', 10, 1), ...some('added', 10, 2), ...some('even', 8, 3)])(
    '%s, stressed, case %i',
    (_, __, { wheel: one, spec }) => {
      expect(matched(spec).best.wheel.id).toBe(one.id);
    },
  );
  test.each([...some('single', 5, 0), ...some('two cycles', 6, 2)])('%s, case %i', (_, __, { wheel: one, spec }) => {
    expect(matched(spec).best.wheel.id).toBe(one.id);
  });

  const wide = wheels.filter(primary).filter(({ id, family }) => family === 'width-coded' || id === 'vane-6-narrow');
  test.each(wide.map((one, at) => [one.id, at % 2 === 1, one] as const))(
    '%s before a VR sensor, leads swapped %s: read by the tops of its lobes',
    (_, reversed, one) => {
      const found = matched(stressSpec(wheels, one, 3, { shape: 'edges', ripple: 0.15, noise: 0.003, reversed }));
      expect(found.best.wheel.id).toBe(one.id);
      expect(found.crank.reads).toBe('lobes');
      expect(found.polarity).toBe(reversed ? 'reversed' : 'normal');
      expect(found.notes.join(' ')).toMatch(/wide for a VR sensor/);
    },
  );
  test.each(['60-2', '36-1', '4-1', 'uneven-5'])('%s has narrow teeth: its crossings are read', (id) => {
    for (const shape of ['sine', 'flux', 'edges'] as const) {
      const chosen = chooseTracks(otherCapture(stressSpec(wheels, wheel(id), 2, { shape })));
      expect(chosen.ok && chosen.value.crank.reads).toBe('crossings');
    }
  });
});

import type { Build } from '../build/schema';
import type { Reader } from '../units/units';
import { caseOf, type Hypothesis, type Site } from './hypothesis';
import { resistorCauses } from './resistors';
import type { SensorAt } from './sensor';
import { displayCauses, partCauses, type Other } from './settings';
import { supplyCauses } from './supplies';
import { wireCauses } from './wires';

/** How often a reading is what it is meant to be, against the causes of another. */
const RIGHT_WEIGHT = 8;

/** Everything that could have made a reading of this sensor, right among it. Needs a value to expect. */
export function hypotheses(
  build: Pick<Build, 'site'> & Reader,
  at: SensorAt,
  expected: Site,
  others: readonly Other[],
  inside: number | null,
): Hypothesis[] {
  const one = caseOf(build, at, expected, inside);
  return [
    {
      code: 'right',
      weight: RIGHT_WEIGHT,
      sentence: '',
      check: '',
      pin: one.right === null ? null : { at: one.right, sigma: one.pinSigma },
      shows: one.follows(one.right),
    },
    ...wireCauses(one),
    ...resistorCauses(one),
    ...supplyCauses(one),
    ...partCauses(one, others),
    ...displayCauses(one),
  ];
}

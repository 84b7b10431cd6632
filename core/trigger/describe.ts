import { gapsOf } from './pattern';
import { repeats, teethPerTurn, toothIntervals, type Wheel } from '../wheels/wheel';

const families: Readonly<Record<Wheel['family'], string>> = {
  'missing-tooth': 'equal places with one gap',
  even: 'equal teeth, none missing',
  distributor: 'distributor vanes',
  uneven: 'uneven teeth',
  'multi-gap': 'equal places with several gaps',
  'half-moon': 'half-moon',
  'cam-windows': 'teeth or windows on the cam',
  'width-coded': 'wide and narrow teeth in a code',
  'slot-disc': 'slotted disc on the cam',
};
export const familyWords = (family: Wheel['family']): string => families[family];

const angle = (degrees: number) => `${Number(degrees.toFixed(1))}°`;

/** A wheel in one line: what one would say of it across the bench. */
export function describeWheel(wheel: Wheel): string {
  const teeth = teethPerTurn(wheel);
  const turn = wheel.shaft === 'cam' ? 'of the cam' : 'of the crank';
  const gaps = gapsOf(wheel);
  const parts = [`${teeth} ${teeth === 1 ? 'tooth' : 'teeth'} a turn ${turn}`];
  if (wheel.places !== null && wheel.missing > 0)
    parts.push(
      `on ${wheel.places} places, ${gaps.length === 1 ? 'a gap' : 'gaps'} of ${gaps.map((gap) => gap - 1).join(', ')}`,
    );
  else if (teeth > 1 && wheel.places === null) {
    const steps = toothIntervals(wheel);
    if (steps.length <= 6) parts.push(`${steps.map(angle).join(', ')} apart`);
  }
  const times = repeats(wheel);
  if (times > 1 && teeth > times) parts.push(`the pattern comes ${times} times a turn`);
  wheel.tracks?.forEach(({ name }) => parts.push(`and a further track: ${name}`));
  return parts.join(', ');
}

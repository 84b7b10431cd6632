import { groupBy } from '../data/group';
import { remember } from '../data/remember';

/** Phrases as they are written on a loom tag, longest first. */
const phrases: readonly (readonly [RegExp, string])[] = [
  [/\bsensor ground\b/i, 'Sgnd'],
  [/\bpower ground\b/i, 'Gnd'],
  [/\bbattery permanent\b/i, 'Bat +'],
  [/\bsupply switched\b/i, 'Key +'],
  [/\binject(or|ion)\b/i, 'Inj'],
  [/\bignition\b/i, 'Ign'],
  [/\bmanifold pressure\b/i, 'Manif. press.'],
  [/\bpressure\b/i, 'press.'],
  [/\btemperature\b/i, 'Temp'],
  [/\bthrottle\b/i, 'Throt'],
  [/\bwideband\b/i, 'Wideb.'],
  [/\bsolenoid\b/i, 'sol.'],
  [/ (relay|sensor|signal|motor|track)\b/gi, ''],
];

/** Further words as a tag has them, where a cavity is too narrow for the whole. */
const narrow: readonly (readonly [RegExp, string])[] = [
  [/\bradiator\b/i, 'Rad.'],
  [/\bcoolant\b/i, 'Cool.'],
  [/\bcomposition\b/i, 'comp.'],
  [/\bcontroller\b/i, 'contr.'],
  [/\bthermocouple\b/i, 'Therm.'],
  [/\balternator\b/i, 'Altern.'],
  [/\btachometer\b/i, 'Tacho'],
  [/\bturbocharger\b/i, 'Turbo'],
  [/\bfrequency\b/i, 'Freq.'],
  [/\bposition\b/i, 'pos.'],
  [/\breference\b/i, 'ref.'],
  [/\belectric(al)?\b/i, 'El.'],
  [/\bexhaust\b/i, 'Exh.'],
  [/\bpermanent\b/i, 'perm.'],
  [/\bsteering\b/i, 'Steer.'],
  [/\bnarrow-band\b/i, 'Narrow'],
  [/(\d) (m?A|V|kΩ|Ω|Hz)\b/g, '$1$2'],
];

/** What a kind's own name drags along when nobody has named the part: `Coil with igniter, four terminals 3 · C`. */
const dragged = /(?:\s+with(?:out)?\s[^,·]*)?,[^·]*?(?=\s\d+(?:\s·|$)|\s·|$)/gi;

/** A label in one short line, for rows of a list: `Injector 1 · 2` is `Inj 1 · 2`. The full name stands behind it. */
export const tagOf = remember((label) =>
  phrases
    .reduce((text, [from, to]) => text.replace(from, to), label.includes(' · ') ? label.replace(dragged, '') : label)
    .replace(/\s+/g, ' ')
    .trim(),
);

/** Longest line a cavity of the drawn face holds, in letters. */
const LINE = 7;

/**
 * A label in at most two lines of a few letters, as it would stand on a tag: `Throttle track 1` is `Throt 1`. A word too long for
 * a line goes on in the next behind a hyphen: nothing is cut off where it would fit.
 */
export const shortLabel = remember((label) => {
  const words = [...phrases, ...narrow]
    .reduce((text, [from, to]) => text.replace(from, to), label)
    .split(/\s+/)
    .filter(Boolean)
    .flatMap((word) =>
      word.length <= LINE ? [word] : [`${word.slice(0, LINE - 1)}-`, word.slice(LINE - 1, 2 * LINE - 1)],
    );
  const lines: string[] = [];
  for (const word of words) {
    const last = lines[lines.length - 1];
    if (last !== undefined && !last.endsWith('-') && `${last} ${word}`.length <= LINE)
      lines[lines.length - 1] = `${last} ${word}`;
    else if (last?.endsWith('-') === false || last === undefined || lines.length < 2) lines.push(word);
    else lines[lines.length - 1] = `${last}${word}`;
  }
  if (lines.length <= 2) return lines.join('\n');
  // Of a long name the beginning and the number at its end tell most.
  const tail = lines[lines.length - 1];
  return `${lines[0]!.replace(/-$/, '.')}\n${tail}`;
});

/** `Injector 1 to 5`: what the names share is said once. */
export function namesTogether(labels: readonly string[]): string {
  const parts = labels.map((label) => /^(.*?) (\d+)$/.exec(label));
  const [first] = parts;
  if (!first || !parts.every((part) => part?.[1] === first[1])) return `${labels[0]} and ${labels.length - 1} more`;
  const numbers = parts.map((part) => Number(part![2])).sort((one, other) => one - other);
  const run = numbers[numbers.length - 1]! - numbers[0]! === numbers.length - 1;
  return `${first[1]} ${run ? `${numbers[0]} to ${numbers[numbers.length - 1]}` : numbers.join(', ')}`;
}

/** `Coil 1 to 5`, `Flex fuel +2`: what stands at one place, in the few letters there are for it. */
export function namesOfPlace(labels: readonly string[]): string {
  const stems = [...groupBy(labels, (label) => label.replace(/ \d+$/, '')).values()];
  const [first = [], ...rest] = stems;
  const name = first.length > 1 ? namesTogether(first) : (first[0] ?? '');
  const more = rest.reduce((sum, like) => sum + like.length, 0);
  return more === 0 ? name : `${name} +${more}`;
}

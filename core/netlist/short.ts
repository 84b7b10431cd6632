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

/** What a kind's own name drags along when nobody has named the part: `Coil with igniter, four terminals 3 · C`. */
const dragged = /(?:\s+with(?:out)?\s[^,·]*)?,[^·]*?(?=\s\d+(?:\s·|$)|\s·|$)/gi;

/** A label in one short line, for rows of a list: `Injector 1 · 2` is `Inj 1 · 2`. The full name stands behind it. */
export const tagOf = (label: string): string =>
  phrases
    .reduce((text, [from, to]) => text.replace(from, to), label.includes(' · ') ? label.replace(dragged, '') : label)
    .replace(/\s+/g, ' ')
    .trim();

/** Longest line a cavity of the drawn face holds, in letters. */
const LINE = 7;

/** A label in at most two lines of a few letters, as it would stand on a tag: `Throttle track 1` is `Throt 1`. */
export function shortLabel(label: string): string {
  const words = phrases
    .reduce((text, [from, to]) => text.replace(from, to), label)
    .split(/\s+/)
    .filter(Boolean);
  const fitted = words.map((word) => (word.length > LINE ? `${word.slice(0, LINE - 1)}.` : word));
  const lines: string[] = [];
  for (const word of fitted) {
    const last = lines[lines.length - 1];
    if (last !== undefined && `${last} ${word}`.length <= LINE) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines.length > 2 ? `${lines[0]}\n${lines[lines.length - 1]}` : lines.join('\n');
}

import { dutch } from './languages/dutch';
import { english } from './languages/english';
import { french } from './languages/french';
import { german } from './languages/german';
import { italian } from './languages/italian';
import { japanese } from './languages/japanese';
import type { LanguageWords, Term } from './languages/language';
import { polish } from './languages/polish';
import { portuguese } from './languages/portuguese';
import { spanish } from './languages/spanish';
import { swedish } from './languages/swedish';

/** Languages the reader knows; a new one is a file beside these. */
export const languages: readonly LanguageWords[] = [
  english,
  german,
  french,
  spanish,
  italian,
  portuguese,
  swedish,
  polish,
  dutch,
  japanese,
];

/** High and low of a bus, which stand alone only beside its name. */
const bus: readonly Term[] = [
  [
    '(?<=\\bcan\\b[\\s\\d_-]{0,5}(?:bus[\\s-]*|buss[\\s-]*|magistrala\\s*)?)(?:alto|alta|haut|hoch|h[öo]g|hoog|wysoki)',
    'H',
  ],
  [
    '(?<=\\bcan\\b[\\s\\d_-]{0,5}(?:bus[\\s-]*|buss[\\s-]*)?)(?:bajo|baja|baixo|basso|bassa|bas|tief|niedrig|l[åa]g|laag|niski)',
    'L',
  ],
];

// Letters and the marks upon them, of the alphabets up to U+1FFF and from U+2C00 on, as ranges: two hundred patterns with
// \p{L} and a case to look away from take the engine 0.7 s to make ready, which every worker would wait for.
const letters = 'A-Za-z\\u00aa\\u00b5\\u00ba\\u00c0-\\u00d6\\u00d8-\\u00f6\\u00f8-\\u1fff\\u2c00-\\ud7ff';
/** Writing without blanks between its words: where one ends, no sign tells. */
const unspaced = /[\u3040-\u30ff\u4e00-\u9fff]/;
const ending = `[${letters}]*`;
const source = (pattern: string): string => {
  const bent = pattern.replace(/~/g, ending);
  return unspaced.test(pattern) ? `(?:${bent})` : `(?<![${letters}])(?:${bent})(?![${letters}])`;
};
/** A pattern for text in small letters; what escapes a sign keeps its case. */
const small = (pattern: string): string =>
  pattern.replace(/(\\.)|[A-Z]+/g, (word, escape: string | undefined) => escape ?? word.toLowerCase());
const whole = (pattern: string, flags: string): RegExp => new RegExp(source(pattern), flags);

interface Entry {
  readonly length: number;
  readonly sign: RegExp;
  readonly pattern: RegExp;
  readonly english: string;
}
const entryOf = ([pattern, words]: Term): Entry => ({
  length: pattern.length,
  /** For text in small letters: twice as quick to make ready as one that looks away from the case. */
  sign: whole(small(pattern), ''),
  pattern: whole(pattern, 'gi'),
  english: words,
});

/** A language whose words the text has none of is looked at once: by all its terms as one pattern. */
interface Spoken {
  readonly any: RegExp;
  readonly entries: readonly Entry[];
}
const spoken: readonly Spoken[] = [...languages.map(({ terms }) => terms), bus]
  .filter((terms) => terms.length > 0)
  .map((terms) => ({
    any: new RegExp(terms.map(([pattern]) => source(small(pattern))).join('|'), ''),
    entries: terms.map(entryOf),
  }));
const filler = whole(languages.flatMap(({ fillers }) => (fillers === '' ? [] : [fillers])).join('|'), 'gi');

/** Text with the words of other languages in English. English text comes back as it is. */
export function inEnglish(text: string): string {
  let next = text.normalize('NFKC');
  let lower = next.toLowerCase();
  // A phrase is understood before its words: longer patterns first, whatever the language.
  const entries = spoken
    .flatMap((language) => (language.any.test(lower) ? language.entries : []))
    .sort((one, other) => other.length - one.length);
  let changed = false;
  for (const { sign, pattern, english: words } of entries) {
    if (!sign.test(lower)) continue;
    const after = next.replace(pattern, () => ` ${words} `);
    changed ||= after.trim().toLowerCase() !== next.trim().toLowerCase();
    next = after;
    lower = next.toLowerCase();
  }
  return changed ? next.replace(filler, ' ').replace(/\s+/g, ' ').trim() : text;
}

/** A word of every language, as one pattern: `wordsFor('plug')`. */
export const wordsFor = (what: Exclude<keyof LanguageWords, 'terms' | 'heads'>): string =>
  languages
    .map((language) => language[what])
    .filter((words) => words !== '')
    .join('|');

import { pinIdOf } from '~/core/ecu/ecu';
import { seeded } from '~/core/trigger/synth';
import { functions, languages, lateWords, type FunctionKey, type Language } from './words';

/*
 * Pinouts as people have them, drawn by seed: what is in the ECU, how its cavities are written, how the page is laid out, in which
 * language, and what a copy did to it. Shares nothing with the reader but the names of kinds. Styles of `kept: false` are
 * not looked at while the reader is worked on; they also draw words that no other style draws.
 */
type Random = () => number;

interface Row {
  readonly cavity: number;
  readonly words: string;
  readonly detail: string;
  readonly lead: string;
  readonly want: string;
}
interface Plug {
  readonly name: string;
  readonly rows: readonly Row[];
}
interface Page {
  readonly plugs: readonly Plug[];
  readonly random: Random;
  readonly pick: <T>(all: readonly T[]) => T;
}
export interface Style {
  readonly name: string;
  readonly kept: boolean;
  readonly language: Language;
  /** Names of the plugs that may be drawn; '' is one plug that the text does not name. */
  readonly plugs: readonly (readonly string[])[];
  readonly text: (page: Page) => string;
  /** Grounds and outputs of a kind in a row, for ranges and doubles. */
  readonly runs?: boolean;
  /** Two blocks that a person must join. */
  readonly joins?: boolean;
}

const COLOURS = ['BK', 'RD', 'GN', 'BU', 'YE', 'WH', 'BN', 'OG', 'GY', 'VT'];
const order: readonly (readonly [FunctionKey, number])[] = [
  ['inj', 8],
  ['ign', 8],
  ['low', 6],
  ['high', 3],
  ['analog', 5],
  ['knock', 2],
];
const singles: readonly FunctionKey[] = [
  'pump',
  'fan',
  'tacho',
  'idle',
  'boost',
  'tps',
  'map',
  'clt',
  'iat',
  'oil',
  'cam',
  'speed',
  'five',
  'permanent',
  'switched',
  'mainRelay',
  'clutch',
];

function drawPage(style: Style, seed: number): Page {
  const random = seeded(seed * 7919 + style.name.length * 104_729 + 3);
  const pick = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)]!;
  const words = languages[style.language];
  const say = (key: FunctionKey, n: number): string => {
    const late = style.kept ? lateWords[style.language]?.[key] : undefined;
    return pick(late ?? words[key]).replace('{n}', String(n));
  };
  const list: { key: FunctionKey; n: number }[] = [];
  for (const [key, most] of order) {
    const count = 1 + Math.floor(random() * most);
    for (let n = 1; n <= count; n += 1) list.push({ key, n });
  }
  for (const key of singles) if (random() < 0.75) list.push({ key, n: 0 });
  if (random() < 0.7) for (const key of ['crankPlus', 'crankMinus'] as const) list.push({ key, n: 0 });
  if (random() < 0.7) for (const key of ['canHigh', 'canLow'] as const) list.push({ key, n: 0 });
  for (let i = 0; i < 2 + Math.floor(random() * 2); i += 1) list.push({ key: 'powerGround', n: 0 });
  for (let i = 0; i < 1 + Math.floor(random() * 2); i += 1) list.push({ key: 'sensorGround', n: 0 });
  for (let i = 0; i < Math.floor(random() * 4); i += 1) list.push({ key: 'empty', n: 0 });
  // Half of the ECUs have their functions in a row, half in any order.
  if (!style.runs && random() < 0.5) list.sort(() => random() - 0.5);
  const names = pick(style.plugs);
  const share = Math.ceil(list.length / names.length);
  const plugs = names.map((name, at): Plug => ({
    name,
    rows: list.slice(at * share, (at + 1) * share).map(({ key, n }, i): Row => {
      const output = key === 'inj' || key === 'ign' ? ` ${n}` : '';
      return {
        cavity: i + 1,
        words: say(key, n),
        detail: key === 'inj' || key === 'low' ? pick(['2 A', '1.5 A', '3 A']) : key === 'analog' ? '0-5 V' : '',
        lead: pick(COLOURS),
        want: functions[key] === 'empty' ? 'empty' : `${functions[key]}${output}`,
      };
    }),
  }));
  return { plugs, random, pick };
}

/** A drawn text with what must be found in it. */
export interface DrawnPinout {
  readonly text: string;
  readonly wants: ReadonlyMap<string, string>;
  readonly empty: ReadonlySet<string>;
}
/** The name a plug has where the text only numbers it, or does not name it. */
const plugId = (name: string): string => (name === '' ? 'A' : /^\d/.test(name) ? `X${name}` : name.toUpperCase());

export function drawPinout(style: Style, seed: number): DrawnPinout {
  const page = drawPage(style, seed);
  const all = page.plugs.flatMap(({ name, rows }) =>
    rows.map((row) => [pinIdOf(plugId(name), row.cavity), row.want] as const),
  );
  return {
    text: style.text(page),
    wants: new Map(all.filter(([, want]) => want !== 'empty')),
    empty: new Set(all.flatMap(([id, want]) => (want === 'empty' ? [id] : []))),
  };
}

type At = (plug: string, row: Row) => string;
const each = ({ plugs }: Page, line: At): string[] =>
  plugs.flatMap(({ name, rows }) => rows.map((row) => line(name, row)));
const lines = (all: readonly string[]): string => all.join('\n');
const pad = (text: string, width: number): string => text + ' '.repeat(Math.max(2, width - text.length));
const wide = (rows: readonly (readonly string[])[]): string[] => {
  const widths = rows[0]!.map((_, at) => Math.max(...rows.map((row) => row[at]!.length)) + 3);
  return rows.map((row) =>
    row
      .map((cell, at) => pad(cell, widths[at]!))
      .join('')
      .trimEnd(),
  );
};
const both = ({ words, detail }: Row): string => [words, detail].filter(Boolean).join(', ');
/** Cavities of one plug in order whose words are alike but for a number: what a person writes as a range. */
function ranges(rows: readonly Row[], say: (from: Row, to: Row, words: string) => string): string[] {
  const found: string[] = [];
  for (let at = 0; at < rows.length;) {
    const bare = (row: Row) => row.words.replace(/\d+/, '#');
    let to = at;
    while (
      rows[to + 1] &&
      bare(rows[to + 1]!) === bare(rows[at]!) &&
      rows[to + 1]!.want.split(' ')[0] === rows[at]!.want.split(' ')[0]
    )
      to += 1;
    const [first, last] = [rows[at]!, rows[to]!];
    const number = (row: Row) => /\d+/.exec(row.words)?.[0];
    const words =
      to === at || number(first) === number(last)
        ? first.words
        : first.words.replace(/\d+/, `${number(first)}-${number(last)}`);
    found.push(say(first, last, words));
    at = to + 1;
  }
  return found;
}

const PS = [
  ['P1', 'P2'],
  ['P1', 'P2', 'P3'],
];
const LETTERS = [['A'], ['A', 'B'], ['A', 'B', 'C']];
const NUMBERS = [
  ['1', '2'],
  ['1', '2', '3'],
];

export const styles: readonly Style[] = [
  // Worked on, and looked at.
  {
    name: 'tabs, dash in the cavity',
    kept: false,
    language: 'english',
    plugs: PS,
    text: (page) =>
      lines([
        'Pin\tFunction\tRating',
        ...each(page, (plug, row) => `${plug}-${row.cavity}\t${row.words}\t${row.detail}`),
      ]),
  },
  {
    name: 'stroke with blanks, columns of spaces',
    kept: false,
    language: 'german',
    plugs: PS,
    text: (page) =>
      lines(
        wide(
          each(page, (plug, row) => `${plug} / ${row.cavity}\t${row.words}\t${row.detail || '-'}`).map((line) =>
            line.split('\t'),
          ),
        ),
      ),
  },
  {
    name: 'plug in brackets before the cavity',
    kept: false,
    language: 'english',
    plugs: NUMBERS,
    text: (page) => lines(each(page, (plug, row) => `(${plug}) ${row.cavity} ${both(row)}`)),
  },
  {
    name: 'cavity of plug',
    kept: false,
    language: 'english',
    plugs: PS,
    text: (page) => lines(each(page, (plug, row) => `${row.cavity} of ${plug}: ${both(row)}`)),
  },
  {
    name: 'point in the cavity, equals',
    kept: false,
    language: 'french',
    plugs: PS,
    text: (page) => lines(each(page, (plug, row) => `${plug}.${row.cavity} = ${row.words}`)),
  },
  {
    name: 'a plug in its own row',
    kept: false,
    language: 'swedish',
    plugs: PS,
    text: (page) =>
      lines(page.plugs.flatMap(({ name, rows }) => [name, ...rows.map((row) => `${row.cavity}  ${both(row)}`), ''])),
  },
  {
    name: 'the plug in a merged cell',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) =>
      lines([
        'Connector\tPin\tSignal',
        ...page.plugs.flatMap(({ name, rows }) =>
          rows.map((row, i) => `${i === 0 ? name : ''}\t${row.cavity}\t${row.words}`),
        ),
      ]),
  },
  {
    name: 'ranges with a wave',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    runs: true,
    text: (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) =>
          ranges(rows, (from, to, words) =>
            from === to ? `${name}${from.cavity}: ${words}` : `${name}${from.cavity}~${name}${to.cavity}: ${words}`,
          ),
        ),
      ),
  },
  {
    name: 'ranges with two points',
    kept: false,
    language: 'german',
    plugs: [['']],
    runs: true,
    text: (page) =>
      lines(
        page.plugs.flatMap(({ rows }) =>
          ranges(rows, (from, to, words) =>
            from === to ? `${from.cavity} ${words}` : `${from.cavity}..${to.cavity} ${words}`,
          ),
        ),
      ),
  },
  {
    name: 'doubled cavities',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    runs: true,
    text: (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) =>
          ranges(rows, (from, to, words) =>
            from === to
              ? `${name}${from.cavity}  ${words}`
              : `${rows
                  .filter((row) => row.cavity >= from.cavity && row.cavity <= to.cavity)
                  .map((row) => `${name}${row.cavity}`)
                  .join('=')}  ${words}`,
          ),
        ),
      ),
  },
  {
    name: 'function first, led by points',
    kept: false,
    language: 'spanish',
    plugs: LETTERS,
    text: (page) =>
      lines(
        each(
          page,
          (plug, row) => `${row.words} ${'.'.repeat(Math.max(3, 40 - row.words.length))} ${plug}${row.cavity}`,
        ),
      ),
  },
  {
    name: 'labels in one block, cavities in another',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    joins: true,
    text: (page) =>
      lines([...each(page, (plug, row) => `${plug}${row.cavity}`), '', ...each(page, (_, row) => row.words)]),
  },
  {
    name: 'cavity and function on lines of their own',
    kept: false,
    language: 'italian',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${plug}${row.cavity}\n${row.words}`)),
  },
  {
    name: 'plugs side by side',
    kept: false,
    language: 'english',
    plugs: [['A', 'B']],
    text: ({ plugs }) =>
      lines([
        'Connector A\t\tConnector B\t',
        ...plugs[0]!.rows.map((row, i) => {
          const other = plugs[1]!.rows[i];
          return `${row.cavity}\t${row.words}\t${other ? `${other.cavity}\t${other.words}` : '\t'}`;
        }),
      ]),
  },
  {
    name: 'sentences',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) =>
      lines(
        each(page, (plug, row) =>
          row.want === 'empty'
            ? `Pin ${row.cavity} of plug ${plug} is not used.`
            : `Pin ${row.cavity} of plug ${plug} is ${row.words}.`,
        ),
      ),
  },
  {
    name: 'quoted CSV',
    kept: false,
    language: 'portuguese',
    plugs: PS,
    text: (page) =>
      lines(['"Conector","Pino","Função"', ...each(page, (plug, row) => `"${plug}","${row.cavity}","${row.words}"`)]),
  },
  {
    name: 'bars with a rule',
    kept: false,
    language: 'polish',
    plugs: LETTERS,
    text: (page) =>
      lines([
        '| Pin | Funkcja | Prąd |',
        '|---|---|---|',
        ...each(page, (plug, row) => `| ${plug}${row.cavity} | ${row.words} | ${row.detail} |`),
      ]),
  },
  {
    name: 'pin, plug in brackets',
    kept: false,
    language: 'dutch',
    plugs: PS,
    text: (page) => lines(each(page, (plug, row) => `Pin ${row.cavity} (${plug}) - ${both(row)}`)),
  },
  {
    name: 'fixed columns, one blank between',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) =>
      lines(
        each(page, (plug, row) =>
          `${`${plug}${row.cavity}`.padEnd(4)}${row.words.slice(0, 38).padEnd(39)}${row.detail.padEnd(6)}${row.lead}`.trimEnd(),
        ),
      ),
  },
  {
    name: 'kana beside Latin',
    kept: false,
    language: 'japanese',
    plugs: LETTERS,
    text: (page) => lines(['ピン\t機能', ...each(page, (plug, row) => `${plug}${row.cavity}\t${row.words}`)]),
  },
  {
    name: 'bullets',
    kept: false,
    language: 'romaji',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `* ${plug}${row.cavity} – ${row.words}`)),
  },
  {
    name: 'semicolons, function before the cavity',
    kept: false,
    language: 'german',
    plugs: PS,
    text: (page) =>
      lines([
        'Funktion;Stecker;Pin;Strom',
        ...each(page, (plug, row) => `${row.words};${plug};${row.cavity};${row.detail}`),
      ]),
  },

  {
    name: 'colon in the cavity',
    kept: false,
    language: 'english',
    plugs: PS,
    text: (page) => lines(each(page, (plug, row) => `${plug}:${row.cavity} ${both(row)}`)),
  },
  {
    name: 'cavity before plug, stroke',
    kept: false,
    language: 'german',
    plugs: PS,
    text: (page) => lines(each(page, (plug, row) => `${row.cavity}/${plug}\t${row.words}`)),
  },
  {
    name: 'square brackets',
    kept: false,
    language: 'english',
    plugs: PS,
    text: (page) => lines(each(page, (plug, row) => `${plug}[${row.cavity}] ${both(row)}`)),
  },
  {
    name: 'numbers and a dash',
    kept: false,
    language: 'french',
    plugs: NUMBERS,
    text: (page) => lines(each(page, (plug, row) => `${plug}-${row.cavity}\t${row.words}\t${row.detail}`)),
  },
  {
    name: 'underscore',
    kept: false,
    language: 'english',
    plugs: PS,
    text: (page) => lines(each(page, (plug, row) => `${plug}_${row.cavity}, ${row.words}`)),
  },
  {
    name: 'ruled headings',
    kept: false,
    language: 'swedish',
    plugs: LETTERS,
    text: (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) => [
          `=== Kontaktdon ${name} ===`,
          ...rows.map((row) => `#${row.cavity} ${both(row)}`),
          '',
        ]),
      ),
  },
  {
    name: 'arrows',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${plug}${row.cavity} → ${row.words}`)),
  },
  {
    name: 'function, then the cavity in brackets',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${row.words} (${plug}${row.cavity})`)),
  },
  {
    name: 'colour, function, pin, plug',
    kept: false,
    language: 'italian',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${row.lead}\t${row.words}\t${row.cavity}\t${plug}`)),
  },
  {
    name: 'ranges with three points',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    runs: true,
    text: (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) =>
          ranges(rows, (from, to, words) =>
            from === to ? `${name}${from.cavity}\t${words}` : `${name}${from.cavity}…${name}${to.cavity}\t${words}`,
          ),
        ),
      ),
  },
  {
    name: 'lists of cavities',
    kept: false,
    language: 'spanish',
    plugs: [['']],
    runs: true,
    text: (page) =>
      lines(
        page.plugs.flatMap(({ rows }) =>
          ranges(rows, (from, to, words) =>
            from === to
              ? `${from.cavity}: ${words}`
              : `${rows
                  .filter((row) => row.cavity >= from.cavity && row.cavity <= to.cavity)
                  .map((row) => row.cavity)
                  .join('+')}: ${words}`,
          ),
        ),
      ),
  },
  {
    name: 'two blocks under headings',
    kept: false,
    language: 'german',
    plugs: LETTERS,
    joins: true,
    text: (page) =>
      lines([
        'Belegung',
        ...each(page, (_, row) => row.words),
        'Pin',
        ...each(page, (plug, row) => `${plug}${row.cavity}`),
      ]),
  },
  {
    name: 'three blocks',
    kept: false,
    language: 'english',
    plugs: [['']],
    joins: true,
    text: (page) =>
      lines([
        'Pin',
        ...each(page, (_, row) => String(row.cavity)),
        'Function',
        ...each(page, (_, row) => row.words),
        'Wire',
        ...each(page, (_, row) => row.lead),
      ]),
  },
  {
    name: 'lines of three',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${plug}${row.cavity}\n${row.words}\n${row.lead}`)),
  },
  {
    name: 'the plug in a merged cell, no heading',
    kept: false,
    language: 'polish',
    plugs: PS,
    text: (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) =>
          rows.map((row, i) => `${i === 0 ? name : ''}\t${row.cavity}\t${row.words}`),
        ),
      ),
  },
  {
    name: 'blank lines and page feet',
    kept: false,
    language: 'dutch',
    plugs: LETTERS,
    text: (page) =>
      lines(
        each(page, (plug, row) => `${plug}${row.cavity}\t${row.words}`).flatMap((line, i) =>
          i % 18 === 17 ? [line, '', `Bladzijde ${Math.floor(i / 18) + 2}`, ''] : [line],
        ),
      ),
  },
  {
    name: 'a blank in the cavity',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${plug} ${row.cavity} ${both(row)}`)),
  },
  {
    name: 'plug and pin in words',
    kept: false,
    language: 'english',
    plugs: NUMBERS,
    text: (page) => lines(each(page, (plug, row) => `Plug ${plug} pin ${row.cavity}: ${both(row)}`)),
  },
  {
    name: 'a counted list',
    kept: false,
    language: 'portuguese',
    plugs: LETTERS,
    text: (page) => {
      let count = 0;
      return lines(
        each(page, (plug, row) => {
          count += 1;
          return `${count}. ${plug}${row.cavity} ${row.words}`;
        }),
      );
    },
  },
  {
    name: 'small letters',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) =>
      lines(
        each(
          page,
          (plug, row) =>
            `${plug.toLowerCase()}${row.cavity}: ${both(row)
              .toLowerCase()
              .replace(/(\d) v\b/g, '$1 V')
              .replace(/(\d) a\b/g, '$1 A')}`,
        ),
      ),
  },
  {
    name: 'kana, the cavity last',
    kept: false,
    language: 'japanese',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${row.words}\t${plug}${row.cavity}`)),
  },
  {
    name: 'a plug in its own row, with its size',
    kept: false,
    language: 'romaji',
    plugs: PS,
    text: (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) => [
          `${name} (${rows.length} pin)`,
          ...rows.map((row) => `${row.cavity}. ${both(row)}`),
        ]),
      ),
  },

  // Written when the reader read all of the above; looked at since.
  {
    name: 'counted table with colours',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) => {
      let count = 0;
      return lines([
        'No.\tColour\tPin\tFunction',
        ...each(page, (plug, row) => {
          count += 1;
          return `${count}\t${row.lead}\t${plug}${row.cavity}\t${row.words}`;
        }),
      ]);
    },
  },
  {
    name: 'square brackets about all of it',
    kept: false,
    language: 'english',
    plugs: PS,
    text: (page) => lines(each(page, (plug, row) => `[${plug}:${row.cavity}] ${both(row)}`)),
  },
  {
    name: 'dashes throughout',
    kept: false,
    language: 'german',
    plugs: PS,
    text: (page) => lines(each(page, (plug, row) => `${plug} - ${row.cavity} - ${row.words}`)),
  },
  {
    name: 'plug, pin, colon',
    kept: false,
    language: 'english',
    plugs: [['J1', 'J2']],
    text: (page) => lines(each(page, (plug, row) => `${plug} pin ${row.cavity}: ${both(row)}`)),
  },
  {
    name: 'function, colon, cavity',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${row.words}: ${plug}${row.cavity}`)),
  },
  {
    name: 'function equals pin',
    kept: false,
    language: 'french',
    plugs: [['']],
    text: (page) => lines(each(page, (_, row) => `${row.words} = pin ${row.cavity}`)),
  },
  {
    name: 'function, arrow, cavity',
    kept: false,
    language: 'polish',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${row.words} -> ${plug}${row.cavity}`)),
  },
  {
    name: 'braces and quotes',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) =>
      lines(['[', ...each(page, (plug, row) => `  {"pin": "${plug}${row.cavity}", "function": "${row.words}"},`), ']']),
  },
  {
    name: 'quoted words behind a colon',
    kept: false,
    language: 'swedish',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${plug}${row.cavity}: "${row.words}"`)),
  },
  {
    name: 'numbers with a nought ahead',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${plug}${String(row.cavity).padStart(2, '0')}   ${both(row)}`)),
  },
  {
    name: 'two columns copied as one',
    kept: false,
    language: 'english',
    plugs: [['A', 'B']],
    text: ({ plugs }) =>
      lines(
        plugs[0]!.rows.map((row, i) => {
          const other = plugs[1]!.rows[i];
          return `A${row.cavity} ${row.words}${other ? ` B${other.cavity} ${other.words}` : ''}`;
        }),
      ),
  },
  {
    name: 'pins with a sharp',
    kept: false,
    language: 'dutch',
    plugs: [['']],
    text: (page) => lines(each(page, (_, row) => `Pin #${row.cavity} : ${both(row)}`)),
  },
  {
    name: 'function, plug, pin in columns of spaces',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) =>
      lines(
        wide([
          ['Signal', 'Plug', 'Pin'],
          ...page.plugs.flatMap(({ name, rows }) => rows.map((row) => [row.words, name, String(row.cavity)])),
        ]),
      ),
  },
  {
    name: 'direction in a column',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) =>
      lines([
        'Pin\tDir\tSignal\tRemarks',
        ...each(
          page,
          (plug, row) =>
            `${plug}${row.cavity}\t${/analog|vr|hall|knock|freq|switch$/.test(row.want) ? 'I' : /inj|ign|side|relay/.test(row.want) ? 'O' : '-'}\t${row.words}\t${page.random() < 0.3 ? 'see page 12' : ''}`,
        ),
      ]),
  },
  {
    name: 'ranges in words',
    kept: false,
    language: 'german',
    plugs: LETTERS,
    runs: true,
    text: (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) =>
          ranges(rows, (from, to, words) =>
            from === to ? `${name}${from.cavity} ${words}` : `${name}${from.cavity} bis ${name}${to.cavity} ${words}`,
          ),
        ),
      ),
  },
  {
    name: 'a blank in the cavity, in bars',
    kept: false,
    language: 'french',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `| ${plug} ${row.cavity} | ${row.words} | ${row.lead} |`)),
  },
  {
    name: 'commas as they come',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${plug}${row.cavity}, ${both(row)}`)),
  },
  {
    name: 'headings and pins in words',
    kept: false,
    language: 'polish',
    plugs: LETTERS,
    text: (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) => [
          `Złącze ${name}`,
          ...rows.map((row) => `styk ${row.cavity} – ${row.words}`),
          '',
        ]),
      ),
  },
  {
    name: 'one below the other, the cavity last',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${row.words}\n${plug}${row.cavity}\n`)),
  },
  {
    name: 'where a function is, in sentences',
    kept: false,
    language: 'english',
    plugs: LETTERS,
    text: (page) =>
      lines(
        each(page, (plug, row) =>
          row.want === 'empty'
            ? `Pin ${row.cavity} on plug ${plug}: ${row.words}`
            : `${row.words} is on pin ${row.cavity} of plug ${plug}.`,
        ),
      ),
  },
  {
    name: 'full-width signs',
    kept: false,
    language: 'japanese',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${plug}${row.cavity}：${row.words}`)),
  },
  {
    name: 'a plug for each table, headed again',
    kept: false,
    language: 'german',
    plugs: LETTERS,
    text: (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) => [
          `Stecker ${name} (${rows.length}-polig)`,
          'Pin;Belegung;Farbe',
          ...rows.map((row) => `${row.cavity};${row.words};${row.lead}`),
        ]),
      ),
  },

  // Written when the reader read all of the above too, and kept out of its tuning.
  {
    name: 'the word pin before a lettered cavity',
    kept: true,
    language: 'english',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `Pin ${plug}${row.cavity}\t${both(row)}`)),
  },
  {
    name: 'the colour in brackets',
    kept: true,
    language: 'german',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${plug}${row.cavity} (${row.lead}): ${row.words}`)),
  },
  {
    name: 'dashes on both sides, one plug',
    kept: true,
    language: 'english',
    plugs: [['']],
    text: (page) =>
      lines(each(page, (_, row) => `${row.cavity} - ${row.words}${row.detail ? ` - ${row.detail}` : ''}`)),
  },
  {
    name: 'strokes between function and cavity',
    kept: true,
    language: 'spanish',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${row.words} / ${plug}${row.cavity} / ${row.lead}`)),
  },
  {
    name: 'bars without blanks',
    kept: true,
    language: 'italian',
    plugs: LETTERS,
    text: (page) => lines(each(page, (plug, row) => `${plug}${row.cavity}|${row.words}|${row.detail}`)),
  },
  {
    name: 'lists of cavities with commas in a column',
    kept: true,
    language: 'english',
    plugs: LETTERS,
    runs: true,
    text: (page) =>
      lines([
        'Pins\tFunction',
        ...page.plugs.flatMap(({ name, rows }) =>
          ranges(
            rows,
            (from, to, words) =>
              `${rows
                .filter((row) => row.cavity >= from.cavity && row.cavity <= to.cavity)
                .map((row) => `${name}${row.cavity}`)
                .join(', ')}\t${words}`,
          ),
        ),
      ]),
  },
  {
    name: 'several on a line',
    kept: true,
    language: 'english',
    plugs: LETTERS,
    text: (page) => {
      const all = each(page, (plug, row) => `${plug}${row.cavity} ${row.words}`);
      return lines(Array.from({ length: Math.ceil(all.length / 3) }, (_, i) => all.slice(3 * i, 3 * i + 3).join('; ')));
    },
  },
  {
    name: 'an outline',
    kept: true,
    language: 'dutch',
    plugs: LETTERS,
    text: (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) => [
          `Stekker ${name}`,
          ...rows.map((row) => `  - ${row.cavity} ${row.words}`),
        ]),
      ),
  },
  {
    name: 'function, cavity, colour, size',
    kept: true,
    language: 'portuguese',
    plugs: LETTERS,
    text: (page) =>
      lines(
        wide(
          page.plugs.flatMap(({ name, rows }) =>
            rows.map((row) => [row.words, `${name}${row.cavity}`, row.lead, page.pick(['0.5', '0.75', '1.0'])]),
          ),
        ),
      ),
  },
  {
    name: 'plug and stroke, in small letters',
    kept: true,
    language: 'swedish',
    plugs: PS,
    text: (page) => lines(each(page, (plug, row) => `${plug.toLowerCase()}/${row.cavity} ${row.words}`)),
  },
  {
    name: 'quotes and empty columns',
    kept: true,
    language: 'polish',
    plugs: PS,
    text: (page) =>
      lines([
        '"Złącze"\t"Styk"\t"Sygnał"\t\t',
        ...each(page, (plug, row) => `"${plug}"\t"${row.cavity}"\t"${row.words}"\t\t`),
      ]),
  },
  {
    name: 'kana with a plug in its own row',
    kept: true,
    language: 'japanese',
    plugs: LETTERS,
    text: (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) => [
          `コネクタ ${name}`,
          ...rows.map((row) => `${row.cavity} ${row.words}`),
        ]),
      ),
  },
  {
    name: 'a wire list',
    kept: true,
    language: 'french',
    plugs: PS,
    text: (page) => {
      let count = 100;
      return lines([
        'Fil;Couleur;De;Fonction',
        ...each(page, (plug, row) => {
          count += 1;
          return `W${count};${row.lead};${plug}-${row.cavity};${row.words}`;
        }),
      ]);
    },
  },
  {
    name: 'cavities held by equals signs, plug ahead',
    kept: true,
    language: 'english',
    plugs: NUMBERS,
    text: (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) => [
          `Connector ${name}:`,
          ...rows.map((row) => `${row.cavity}=${row.words}`),
        ]),
      ),
  },
];

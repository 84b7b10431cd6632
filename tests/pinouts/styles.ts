import type { Page, Row, Style } from './draw';
import type { Language } from './words';

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

/** A line for each cavity, by a pattern, under a head. */
const rowed =
  (pattern: string, head = '') =>
  (page: Page): string =>
    lines([
      ...(head === '' ? [] : [head]),
      ...each(page, (plug, row) =>
        pattern.replace(/\{(\w+)\}/g, (_, name: string) =>
          name === 'plug' ? plug : name === 'both' ? both(row) : String(row[name as keyof Row]),
        ),
      ),
    ]);

const PS = [
  ['P1', 'P2'],
  ['P1', 'P2', 'P3'],
];
const LETTERS = [['A'], ['A', 'B'], ['A', 'B', 'C']];
const NUMBERS = [
  ['1', '2'],
  ['1', '2', '3'],
];

const make = (
  name: string,
  language: Language,
  plugs: Style['plugs'],
  text: Style['text'],
  more: Pick<Style, 'late' | 'runs' | 'joins'> = {},
): Style => ({ name, language, plugs, text, ...more });

export const styles: readonly Style[] = [
  make('tabs, dash in the cavity', 'english', PS, rowed('{plug}-{cavity}\t{words}\t{detail}', 'Pin\tFunction\tRating')),
  make('stroke with blanks, columns of spaces', 'german', PS, (page) =>
    lines(
      wide(
        each(page, (plug, row) => `${plug} / ${row.cavity}\t${row.words}\t${row.detail || '-'}`).map((line) =>
          line.split('\t'),
        ),
      ),
    ),
  ),
  make('plug in brackets before the cavity', 'english', NUMBERS, rowed('({plug}) {cavity} {both}')),
  make('cavity of plug', 'english', PS, rowed('{cavity} of {plug}: {both}')),
  make('point in the cavity, equals', 'french', PS, rowed('{plug}.{cavity} = {words}')),
  make('a plug in its own row', 'swedish', PS, (page) =>
    lines(page.plugs.flatMap(({ name, rows }) => [name, ...rows.map((row) => `${row.cavity}  ${both(row)}`), ''])),
  ),
  make('the plug in a merged cell', 'english', LETTERS, (page) =>
    lines([
      'Connector\tPin\tSignal',
      ...page.plugs.flatMap(({ name, rows }) =>
        rows.map((row, i) => `${i === 0 ? name : ''}\t${row.cavity}\t${row.words}`),
      ),
    ]),
  ),
  make(
    'ranges with a wave',
    'english',
    LETTERS,
    (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) =>
          ranges(rows, (from, to, words) =>
            from === to ? `${name}${from.cavity}: ${words}` : `${name}${from.cavity}~${name}${to.cavity}: ${words}`,
          ),
        ),
      ),
    { runs: true },
  ),
  make(
    'ranges with two points',
    'german',
    [['']],
    (page) =>
      lines(
        page.plugs.flatMap(({ rows }) =>
          ranges(rows, (from, to, words) =>
            from === to ? `${from.cavity} ${words}` : `${from.cavity}..${to.cavity} ${words}`,
          ),
        ),
      ),
    { runs: true },
  ),
  make(
    'doubled cavities',
    'english',
    LETTERS,
    (page) =>
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
    { runs: true },
  ),
  make('function first, led by points', 'spanish', LETTERS, (page) =>
    lines(
      each(page, (plug, row) => `${row.words} ${'.'.repeat(Math.max(3, 40 - row.words.length))} ${plug}${row.cavity}`),
    ),
  ),
  make(
    'labels in one block, cavities in another',
    'english',
    LETTERS,
    (page) => lines([...each(page, (plug, row) => `${plug}${row.cavity}`), '', ...each(page, (_, row) => row.words)]),
    { joins: true },
  ),
  make('cavity and function on lines of their own', 'italian', LETTERS, rowed('{plug}{cavity}\n{words}')),
  make('plugs side by side', 'english', [['A', 'B']], ({ plugs }) =>
    lines([
      'Connector A\t\tConnector B\t',
      ...plugs[0]!.rows.map((row, i) => {
        const other = plugs[1]!.rows[i];
        return `${row.cavity}\t${row.words}\t${other ? `${other.cavity}\t${other.words}` : '\t'}`;
      }),
    ]),
  ),
  make('sentences', 'english', LETTERS, (page) =>
    lines(
      each(page, (plug, row) =>
        row.want === 'empty'
          ? `Pin ${row.cavity} of plug ${plug} is not used.`
          : `Pin ${row.cavity} of plug ${plug} is ${row.words}.`,
      ),
    ),
  ),
  make('quoted CSV', 'portuguese', PS, rowed('"{plug}","{cavity}","{words}"', '"Conector","Pino","Função"')),
  make('bars with a rule', 'polish', LETTERS, (page) =>
    lines([
      '| Pin | Funkcja | Prąd |',
      '|---|---|---|',
      ...each(page, (plug, row) => `| ${plug}${row.cavity} | ${row.words} | ${row.detail} |`),
    ]),
  ),
  make('pin, plug in brackets', 'dutch', PS, rowed('Pin {cavity} ({plug}) - {both}')),
  make('fixed columns, one blank between', 'english', LETTERS, (page) =>
    lines(
      each(page, (plug, row) =>
        `${`${plug}${row.cavity}`.padEnd(4)}${row.words.slice(0, 38).padEnd(39)}${row.detail.padEnd(6)}${row.lead}`.trimEnd(),
      ),
    ),
  ),
  make('kana beside Latin', 'japanese', LETTERS, rowed('{plug}{cavity}\t{words}', 'ピン\t機能')),
  make('bullets', 'romaji', LETTERS, rowed('* {plug}{cavity} – {words}')),
  make(
    'semicolons, function before the cavity',
    'german',
    PS,
    rowed('{words};{plug};{cavity};{detail}', 'Funktion;Stecker;Pin;Strom'),
  ),

  make('colon in the cavity', 'english', PS, rowed('{plug}:{cavity} {both}')),
  make('cavity before plug, stroke', 'german', PS, rowed('{cavity}/{plug}\t{words}')),
  make('square brackets', 'english', PS, rowed('{plug}[{cavity}] {both}')),
  make('numbers and a dash', 'french', NUMBERS, rowed('{plug}-{cavity}\t{words}\t{detail}')),
  make('underscore', 'english', PS, rowed('{plug}_{cavity}, {words}')),
  make('ruled headings', 'swedish', LETTERS, (page) =>
    lines(
      page.plugs.flatMap(({ name, rows }) => [
        `=== Kontaktdon ${name} ===`,
        ...rows.map((row) => `#${row.cavity} ${both(row)}`),
        '',
      ]),
    ),
  ),
  make('arrows', 'english', LETTERS, rowed('{plug}{cavity} → {words}')),
  make('function, then the cavity in brackets', 'english', LETTERS, rowed('{words} ({plug}{cavity})')),
  make('colour, function, pin, plug', 'italian', LETTERS, rowed('{lead}\t{words}\t{cavity}\t{plug}')),
  make(
    'ranges with three points',
    'english',
    LETTERS,
    (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) =>
          ranges(rows, (from, to, words) =>
            from === to ? `${name}${from.cavity}\t${words}` : `${name}${from.cavity}…${name}${to.cavity}\t${words}`,
          ),
        ),
      ),
    { runs: true },
  ),
  make(
    'lists of cavities',
    'spanish',
    [['']],
    (page) =>
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
    { runs: true },
  ),
  make(
    'two blocks under headings',
    'german',
    LETTERS,
    (page) =>
      lines([
        'Belegung',
        ...each(page, (_, row) => row.words),
        'Pin',
        ...each(page, (plug, row) => `${plug}${row.cavity}`),
      ]),
    { joins: true },
  ),
  make(
    'three blocks',
    'english',
    [['']],
    (page) =>
      lines([
        'Pin',
        ...each(page, (_, row) => String(row.cavity)),
        'Function',
        ...each(page, (_, row) => row.words),
        'Wire',
        ...each(page, (_, row) => row.lead),
      ]),
    { joins: true },
  ),
  make('lines of three', 'english', LETTERS, rowed('{plug}{cavity}\n{words}\n{lead}')),
  make('the plug in a merged cell, no heading', 'polish', PS, (page) =>
    lines(
      page.plugs.flatMap(({ name, rows }) =>
        rows.map((row, i) => `${i === 0 ? name : ''}\t${row.cavity}\t${row.words}`),
      ),
    ),
  ),
  make('blank lines and page feet', 'dutch', LETTERS, (page) =>
    lines(
      each(page, (plug, row) => `${plug}${row.cavity}\t${row.words}`).flatMap((line, i) =>
        i % 18 === 17 ? [line, '', `Bladzijde ${Math.floor(i / 18) + 2}`, ''] : [line],
      ),
    ),
  ),
  make('a blank in the cavity', 'english', LETTERS, rowed('{plug} {cavity} {both}')),
  make('plug and pin in words', 'english', NUMBERS, rowed('Plug {plug} pin {cavity}: {both}')),
  make('a counted list', 'portuguese', LETTERS, (page) => {
    let count = 0;
    return lines(
      each(page, (plug, row) => {
        count += 1;
        return `${count}. ${plug}${row.cavity} ${row.words}`;
      }),
    );
  }),
  make('small letters', 'english', LETTERS, (page) =>
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
  ),
  make('kana, the cavity last', 'japanese', LETTERS, rowed('{words}\t{plug}{cavity}')),
  make('a plug in its own row, with its size', 'romaji', PS, (page) =>
    lines(
      page.plugs.flatMap(({ name, rows }) => [
        `${name} (${rows.length} pin)`,
        ...rows.map((row) => `${row.cavity}. ${both(row)}`),
      ]),
    ),
  ),

  // Written when the reader could read all of the above.
  make('counted table with colours', 'english', LETTERS, (page) => {
    let count = 0;
    return lines([
      'No.\tColour\tPin\tFunction',
      ...each(page, (plug, row) => {
        count += 1;
        return `${count}\t${row.lead}\t${plug}${row.cavity}\t${row.words}`;
      }),
    ]);
  }),
  make('square brackets about all of it', 'english', PS, rowed('[{plug}:{cavity}] {both}')),
  make('dashes throughout', 'german', PS, rowed('{plug} - {cavity} - {words}')),
  make('plug, pin, colon', 'english', [['J1', 'J2']], rowed('{plug} pin {cavity}: {both}')),
  make('function, colon, cavity', 'english', LETTERS, rowed('{words}: {plug}{cavity}')),
  make('function equals pin', 'french', [['']], rowed('{words} = pin {cavity}')),
  make('function, arrow, cavity', 'polish', LETTERS, rowed('{words} -> {plug}{cavity}')),
  make('braces and quotes', 'english', LETTERS, (page) =>
    lines(['[', ...each(page, (plug, row) => `  {"pin": "${plug}${row.cavity}", "function": "${row.words}"},`), ']']),
  ),
  make('quoted words behind a colon', 'swedish', LETTERS, rowed('{plug}{cavity}: "{words}"')),
  make('numbers with a nought ahead', 'english', LETTERS, (page) =>
    lines(each(page, (plug, row) => `${plug}${String(row.cavity).padStart(2, '0')}   ${both(row)}`)),
  ),
  make('two columns copied as one', 'english', [['A', 'B']], ({ plugs }) =>
    lines(
      plugs[0]!.rows.map((row, i) => {
        const other = plugs[1]!.rows[i];
        return `A${row.cavity} ${row.words}${other ? ` B${other.cavity} ${other.words}` : ''}`;
      }),
    ),
  ),
  make('pins with a sharp', 'dutch', [['']], rowed('Pin #{cavity} : {both}')),
  make('function, plug, pin in columns of spaces', 'english', LETTERS, (page) =>
    lines(
      wide([
        ['Signal', 'Plug', 'Pin'],
        ...page.plugs.flatMap(({ name, rows }) => rows.map((row) => [row.words, name, String(row.cavity)])),
      ]),
    ),
  ),
  make('direction in a column', 'english', LETTERS, (page) =>
    lines([
      'Pin\tDir\tSignal\tRemarks',
      ...each(
        page,
        (plug, row) =>
          `${plug}${row.cavity}\t${/analog|vr|hall|knock|freq|switch$/.test(row.want) ? 'I' : /inj|ign|side|relay/.test(row.want) ? 'O' : '-'}\t${row.words}\t${page.random() < 0.3 ? 'see page 12' : ''}`,
      ),
    ]),
  ),
  make(
    'ranges in words',
    'german',
    LETTERS,
    (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) =>
          ranges(rows, (from, to, words) =>
            from === to ? `${name}${from.cavity} ${words}` : `${name}${from.cavity} bis ${name}${to.cavity} ${words}`,
          ),
        ),
      ),
    { runs: true },
  ),
  make('a blank in the cavity, in bars', 'french', LETTERS, rowed('| {plug} {cavity} | {words} | {lead} |')),
  make('commas as they come', 'english', LETTERS, rowed('{plug}{cavity}, {both}')),
  make('headings and pins in words', 'polish', LETTERS, (page) =>
    lines(
      page.plugs.flatMap(({ name, rows }) => [
        `Złącze ${name}`,
        ...rows.map((row) => `styk ${row.cavity} – ${row.words}`),
        '',
      ]),
    ),
  ),
  make('one below the other, the cavity last', 'english', LETTERS, rowed('{words}\n{plug}{cavity}\n')),
  make('where a function is, in sentences', 'english', LETTERS, (page) =>
    lines(
      each(page, (plug, row) =>
        row.want === 'empty'
          ? `Pin ${row.cavity} on plug ${plug}: ${row.words}`
          : `${row.words} is on pin ${row.cavity} of plug ${plug}.`,
      ),
    ),
  ),
  make('full-width signs', 'japanese', LETTERS, rowed('{plug}{cavity}：{words}')),
  make('a plug for each table, headed again', 'german', LETTERS, (page) =>
    lines(
      page.plugs.flatMap(({ name, rows }) => [
        `Stecker ${name} (${rows.length}-polig)`,
        'Pin;Belegung;Farbe',
        ...rows.map((row) => `${row.cavity};${row.words};${row.lead}`),
      ]),
    ),
  ),

  // Written when the reader could read all of those too.
  make('the word pin before a lettered cavity', 'english', LETTERS, rowed('Pin {plug}{cavity}\t{both}'), {
    late: true,
  }),
  make('the colour in brackets', 'german', LETTERS, rowed('{plug}{cavity} ({lead}): {words}'), { late: true }),
  make(
    'dashes on both sides, one plug',
    'english',
    [['']],
    (page) => lines(each(page, (_, row) => `${row.cavity} - ${row.words}${row.detail ? ` - ${row.detail}` : ''}`)),
    { late: true },
  ),
  make('strokes between function and cavity', 'spanish', LETTERS, rowed('{words} / {plug}{cavity} / {lead}'), {
    late: true,
  }),
  make('bars without blanks', 'italian', LETTERS, rowed('{plug}{cavity}|{words}|{detail}'), { late: true }),
  make(
    'lists of cavities with commas in a column',
    'english',
    LETTERS,
    (page) =>
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
    { late: true, runs: true },
  ),
  make(
    'several on a line',
    'english',
    LETTERS,
    (page) => {
      const all = each(page, (plug, row) => `${plug}${row.cavity} ${row.words}`);
      return lines(Array.from({ length: Math.ceil(all.length / 3) }, (_, i) => all.slice(3 * i, 3 * i + 3).join('; ')));
    },
    { late: true },
  ),
  make(
    'an outline',
    'dutch',
    LETTERS,
    (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) => [
          `Stekker ${name}`,
          ...rows.map((row) => `  - ${row.cavity} ${row.words}`),
        ]),
      ),
    { late: true },
  ),
  make(
    'function, cavity, colour, size',
    'portuguese',
    LETTERS,
    (page) =>
      lines(
        wide(
          page.plugs.flatMap(({ name, rows }) =>
            rows.map((row) => [row.words, `${name}${row.cavity}`, row.lead, page.pick(['0.5', '0.75', '1.0'])]),
          ),
        ),
      ),
    { late: true },
  ),
  make(
    'plug and stroke, in small letters',
    'swedish',
    PS,
    (page) => lines(each(page, (plug, row) => `${plug.toLowerCase()}/${row.cavity} ${row.words}`)),
    { late: true },
  ),
  make(
    'quotes and empty columns',
    'polish',
    PS,
    rowed('"{plug}"\t"{cavity}"\t"{words}"\t\t', '"Złącze"\t"Styk"\t"Sygnał"\t\t'),
    { late: true },
  ),
  make(
    'kana with a plug in its own row',
    'japanese',
    LETTERS,
    (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) => [
          `コネクタ ${name}`,
          ...rows.map((row) => `${row.cavity} ${row.words}`),
        ]),
      ),
    { late: true },
  ),
  make(
    'a wire list',
    'french',
    PS,
    (page) => {
      let count = 100;
      return lines([
        'Fil;Couleur;De;Fonction',
        ...each(page, (plug, row) => {
          count += 1;
          return `W${count};${row.lead};${plug}-${row.cavity};${row.words}`;
        }),
      ]);
    },
    { late: true },
  ),
  make(
    'cavities held by equals signs, plug ahead',
    'english',
    NUMBERS,
    (page) =>
      lines(
        page.plugs.flatMap(({ name, rows }) => [
          `Connector ${name}:`,
          ...rows.map((row) => `${row.cavity}=${row.words}`),
        ]),
      ),
    { late: true },
  ),
];

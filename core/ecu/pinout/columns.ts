import type { Line } from './cells';
import { placesOf, type Manner } from './places';
import { saysEmpty } from './words';

/** What a column of the table holds; 'other' is another use of the same pin. */
export type Column = 'cavity' | 'connector' | 'label' | 'text' | 'other' | 'lead' | 'skip';

const headings: readonly (readonly [Column, RegExp])[] = [
  ['connector', /^(connector|conn|plug|header|socket|stecker|connecteur|conector|connettore)\b/i],
  [
    'cavity',
    /^(pin|pins|cavity|cav|pos(ition)?|terminal|way|contact|no|nr|number|borne|broche|kontakt|klemme|cavidad|contatto|#)\b|^#$|^n°$/i,
  ],
  ['lead', /^(wire|lead|cable|kabel|fil|cavo)?\s*(colou?r|farbe|couleur|colore)\b|^(wire|lead|color)\b/i],
  ['label', /^(label|name|signal|short|designation|id|bezeichnung|nom|nombre|nome|se[ñn]al|segnale)\b/i],
  ['other', /^(alternat|second(ary)?\b|or\b|also\b|shared?\b|zweit|alternativ)/i],
  [
    'text',
    /^(function|description|use|purpose|type|notes?|remarks?|comment|spec|rating|detail|current|load|limit|abilit|main|first|default|max|belegung|funktion|bemerkung|beschreibung|strom|fonction|remarque|description|courant|funci[oó]n|descripci[oó]n|observ|corriente|funzione|descrizione|nota|corrente|direction|signal)/i,
  ],
];
const headingOf = (cell: string): Column | null => headings.find(([, test]) => test.test(cell.trim()))?.[0] ?? null;

/** A line that heads columns: at least two cells are headings, one of them of cavities, and none names a cavity. */
export function headerOf(cells: readonly string[], manner: Manner): Column[] | null {
  const found = cells.map(headingOf);
  const named = found.filter((column) => column !== null);
  if (named.length < 2 || !found.includes('cavity')) return null;
  if (cells.some((cell) => placesOf(cell, manner).length > 0)) return null;
  return found.map((column) => column ?? 'text');
}

const plugWord = '(?:connector|plug|conn\\.?|header|socket|stecker|connecteur|conector|connettore)';
const before = new RegExp(`^${plugWord}\\s*[:#-]?\\s*([A-Z][A-Z0-9]{0,3}|\\d{1,2})(?![A-Za-z0-9])(.*)$`, 'i');
const after = new RegExp(`^([A-Z][A-Z0-9]{0,3})\\s*${plugWord}\\b(.*)$`, 'i');

/** `Connector A (26 way, grey)`: the plug's name, in capitals as it stands, and what else is said of it. */
export function plugOf(text: string): { name: string; rest: string } | null {
  const match = before.exec(text.trim()) ?? after.exec(text.trim());
  // 'Plug is black' names no plug: a name is written in capitals or digits.
  return match && match[1] === match[1]!.toUpperCase() ? { name: match[1], rest: match[2]! } : null;
}

const bare =
  /^([A-Z]{1,2}\d{0,2})\s*(?:[:.]|[-–(,]?\s*((?:\d{1,3}\s*[- ]?(?:way|pin|pol|pos|cav|voies|v[ií]as|vie)|black|grey|white|blue).*))?$/;
const wordsOf = ({ cells }: Line): string =>
  cells
    .map((cell) => cell.text)
    .filter(Boolean)
    .join(' ');

/**
 * Lines that name a plug. `J1` by itself, or with no more than its size and colour, is a plug only where the cavities under it
 * are bare numbers: elsewhere it is a cavity nobody said anything of. O(lines).
 */
export function plugLinesOf(lines: readonly Line[]): Map<Line, ReturnType<typeof plugOf>> {
  return new Map(
    lines.map((line, at) => {
      const words = wordsOf(line);
      const plain = plugOf(words);
      const match = plain ? null : bare.exec(words);
      // The heads of the columns may stand between the plug and its first cavity.
      const under = [lines[at + 1], lines[at + 2]].find(
        (next) => next && !next.cells.some((cell) => headingOf(cell.text)),
      );
      return match && under && /^\d{1,3}(?![A-Za-z\d])/.test(wordsOf(under))
        ? [line, { name: match[1]!, rest: match[2] ?? '' }]
        : [line, plain];
    }),
  );
}

/** Columns of one block of a side-by-side table. */
export interface Block {
  readonly columns: readonly { readonly at: number; readonly use: Column }[];
}

/** Cuts a row of column uses into blocks, one for each cavity column. */
export function blocksOf(uses: readonly Column[]): Block[] {
  const cavities = uses.flatMap((use, at) => (use === 'cavity' ? [at] : []));
  if (cavities.length <= 1) return [{ columns: uses.map((use, at) => ({ at, use })) }];
  // Where the first column is no cavity, each block ends at its cavity column; else it starts there.
  const leading = cavities[0] === 0 || uses.slice(0, cavities[0]).every((use) => use === 'connector');
  const head = leading ? cavities[0]! : 0;
  return cavities.map((at, i) => {
    const from = leading ? at - head : i === 0 ? 0 : cavities[i - 1]! + 1;
    const to = leading ? (cavities[i + 1] ?? uses.length + head) - head : at + 1;
    return { columns: uses.slice(from, to).map((use, k) => ({ at: from + k, use })) };
  });
}

const colourWords = /^(black|brown|red|orange|yellow|green|blue|violet|purple|grey|gray|white|pink|turquoise|clear)\b/i;
const isColourCell = (cell: string): boolean =>
  /^[A-Z]{2}([/-][A-Z]{2})?$/.test(cell) || (colourWords.test(cell) && cell.length < 24);

/** Column uses where no heading tells: by what most cells of a column look like. */
export function guessColumns(lines: readonly Line[], manner: Manner): Column[] {
  const names = (cell: string | undefined) => cell !== undefined && placesOf(cell, manner).length > 0;
  const rows = lines
    .map(({ cells }) => cells.map(({ text }) => text))
    .filter((cells) => cells.length >= 2 && cells.some(names));
  const width = Math.max(0, ...rows.map((cells) => cells.length));
  const filled = (at: number) => rows.map((cells) => cells[at] ?? '').filter((cell) => cell !== '');
  const share = (at: number, test: (cell: string) => boolean) => {
    const own = filled(at);
    return own.length === 0 ? 0 : own.filter(test).length / own.length;
  };
  const distinct = (at: number) => new Set(filled(at)).size / Math.max(1, filled(at).length);
  const uses = Array.from({ length: width }, (_, at): Column => {
    if (share(at, names) >= 0.7 && distinct(at) > 0.8) return 'cavity';
    if (share(at, (cell) => /^[A-Z][A-Z0-9]?$/i.test(cell) && !saysEmpty(cell)) >= 0.9 && distinct(at) < 0.5)
      return 'connector';
    if (share(at, isColourCell) >= 0.7) return 'lead';
    return 'text';
  });
  // Two columns side by side that both look like cavities: labels such as 'IN1' beside the cavity they are on.
  for (let at = 1; at < uses.length; at += 1)
    if (uses[at] === 'cavity' && uses[at - 1] === 'cavity') uses[at] = 'label';
  // A short first text is the label, the rest is what is said of it.
  for (const { columns } of blocksOf(uses)) {
    const texts = columns.filter(({ use }) => use === 'text');
    if (texts.length >= 2 && !columns.some(({ use }) => use === 'label')) uses[texts[0]!.at] = 'label';
  }
  return uses;
}

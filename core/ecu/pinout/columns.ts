import type { Line } from './cells';
import { languages, wordsFor } from './glossary';
import { placesOf, type Manner } from './places';
import { saysEmpty } from './words';

/** What a column of the table holds; 'other' is another use of the same pin. */
export type Column = 'cavity' | 'connector' | 'label' | 'text' | 'other' | 'lead' | 'skip';

/** Which column a head is of, in the order they are asked: `Signal name` is a label before it is a text. */
const columnOrder: readonly Column[] = ['connector', 'cavity', 'lead', 'label', 'other', 'text'];
const headings: readonly (readonly [Column, RegExp])[] = columnOrder.map((column) => [
  column,
  new RegExp(
    `^(?:${languages.flatMap(({ heads }) => heads[column] ?? []).join('|')})(?![A-Za-zÀ-žß])|${column === 'cavity' ? '^#$|^n°$' : '^$a'}`,
    'i',
  ),
]);
export const headingOf = (cell: string): Column | null =>
  headings.find(([, test]) => test.test(cell.trim()))?.[0] ?? null;

/** A line that heads columns: at least two cells are headings, one of them of cavities, and none names a cavity. */
export function headerOf(cells: readonly string[], manner: Manner): Column[] | null {
  const found = cells.map(headingOf);
  const named = found.filter((column) => column !== null);
  if (named.length < 2 || !found.includes('cavity')) return null;
  if (cells.some((cell) => placesOf(cell, manner).length > 0)) return null;
  // `No.` beside `Pin` counts the rows.
  const counts = (at: number) =>
    found[at] === 'cavity' && /^(?:no|nr|lp|n°|num(?:ber|mer)?|item|#)\.?$/i.test(cells[at]!.trim());
  const pins = found.filter((column, at) => column === 'cavity' && !counts(at)).length;
  return found.map((column, at) => (pins === 1 && counts(at) ? 'skip' : (column ?? 'text')));
}

const plugWord = `(?:${wordsFor('plug')})`;
const before = new RegExp(`^${plugWord}\\s*[:#-]?\\s*([A-Z][A-Z0-9]{0,3}|\\d{1,2})(?![A-Za-z0-9])(.*)$`, 'i');
const after = new RegExp(`^([A-Z][A-Z0-9]{0,3})\\s*${plugWord}\\b(.*)$`, 'i');

/** A heading without the rules, brackets or stars it is set off by: `=== B ===`, `[B]`, `## B`. */
const undecorated = (text: string): string =>
  text
    .trim()
    .replace(/^(?:[=*#_~>–—-]+\s*|\[\s*(?=[^\]]*\]\s*$))+/, '')
    .replace(/\s*[=*#_~<–—\]-]+$/, '')
    .trim();

/** `Connector A (26 way, grey)`: the plug's name, in capitals as it stands, and what else is said of it. */
export function plugOf(text: string): { name: string; rest: string } | null {
  const plain = undecorated(text);
  const match = before.exec(plain) ?? after.exec(plain);
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
      const match = plain ? null : bare.exec(undecorated(words));
      // The heads of the columns may stand between the plug and its first cavity.
      const under = [lines[at + 1], lines[at + 2]].find(
        (next) => next && !next.cells.some((cell) => headingOf(cell.text)),
      );
      return match && under && /^#?\d{1,3}(?![A-Za-z\d])/.test(wordsOf(under))
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
/** Letters of a colour, and of two upon each other (IEC 60757, and the usual others). */
const code = '(?:BK|BN|RD|OG|OR|YE|GN|BU|BL|VT|VI|PU|GY|GR|WH|PK|TQ|GD|SR|LG|LB|SW|RT|GE|WS|BR)';
const colourCode = new RegExp(`^${code}(?:[/-]?${code})?$`);
const isColourCell = (cell: string): boolean =>
  /^[A-Z]{2}([/-][A-Z]{2})?$/.test(cell) || (colourWords.test(cell) && cell.length < 24);

const plugCell = new RegExp(`^(?:${plugWord}\\s*)?([A-Z][A-Z0-9]{0,3}|\\d{1,2})$`, 'i');
/** The name in a cell of the column of plugs: `Connector B` is B. */
export const plugIn = (cell: string): string => plugCell.exec(cell.trim())?.[1] ?? cell;

/** A column that names the plug once for many rows, as merged cells are copied: where it speaks, the numbers start anew. */
function isMerged(rows: readonly (readonly string[])[], at: number): boolean {
  const spoken = rows.flatMap((cells, row) => ((cells[at] ?? '') === '' ? [] : [row]));
  if (spoken.length === 0 || spoken.length > rows.length / 3 || rows.length < 4) return false;
  if (!spoken.every((row) => plugCell.test(rows[row]![at]!.trim()))) return false;
  const numbers = (row: number) => (rows[row] ?? []).findIndex((cell, i) => i !== at && /^\d{1,3}$/.test(cell.trim()));
  const column = numbers(spoken[0]!);
  if (column < 0 || rows.some((cells) => !/^\d{1,3}$/.test((cells[column] ?? '').trim()))) return false;
  return spoken.every((row) => row === 0 || Number(rows[row]![column]) <= Number(rows[row - 1]![column]));
}

/** Column uses where no heading tells: by what most cells of a column look like. */
export function guessColumns(lines: readonly Line[], manner: Manner): Column[] {
  // Where plug and cavity are written together, a number by itself is no cavity.
  const written = (cell: string | undefined) => cell !== undefined && (manner.writing?.read(cell) ?? null) !== null;
  const together =
    manner.writing !== undefined &&
    lines.filter(({ cells }) => cells.some((cell) => written(cell.text))).length >= 0.5 * lines.length;
  const names = (cell: string | undefined) =>
    cell !== undefined && (together ? written(cell) : placesOf(cell, manner).length > 0);
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
  // Numbers that start anew on each plug are told apart by the column that names the plug.
  const plugs = (at: number) =>
    share(at, (cell) => plugCell.test(cell) && !saysEmpty(cell)) >= 0.9 && distinct(at) < 0.34;
  const distinctBeside = (at: number): number => {
    const own = filled(at);
    if (own.some((cell) => !/^\d{1,3}$/.test(cell))) return 0;
    const beside = Array.from({ length: width }, (_, other) => other).find(
      (other) => other !== at && (plugs(other) || isMerged(rows, other)),
    );
    if (beside === undefined) return 0;
    let plug = '';
    const pins = rows.map((cells) => {
      plug = plugIn(cells[beside] ?? '') || plug;
      return `${plug}/${cells[at] ?? ''}`;
    });
    return new Set(pins).size / Math.max(1, pins.length);
  };
  const uses = Array.from({ length: width }, (_, at): Column => {
    if (distinct(at) * filled(at).length > 2 && share(at, (cell) => colourCode.test(cell)) >= 0.9) return 'lead';
    if (isMerged(rows, at)) return 'connector';
    if (share(at, names) >= 0.7 && (distinct(at) > 0.8 || distinctBeside(at) > 0.8)) return 'cavity';
    if (
      plugs(at) ||
      (share(at, (cell) => /^[A-Z][A-Z0-9]?$/i.test(cell) && !saysEmpty(cell)) >= 0.9 && distinct(at) < 0.5)
    )
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

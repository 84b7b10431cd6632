import { isRule, rawLines, trimmed } from './cells';
import { headingOf, plugOf } from './columns';
import { anyManner, placesOf } from './places';

/** Columns of a page that were copied one below the other: what each line of one belongs to is for the person to say. */
export interface Blocks {
  /** Cavities, as they stand. */
  readonly places: readonly string[];
  /** The other columns, each as long as that of the cavities where they fit. */
  readonly columns: readonly (readonly string[])[];
  /** The text with the columns side by side; null where they are not of one length. */
  readonly joined: string | null;
}

interface Entry {
  readonly text: string;
  readonly place: boolean;
  /** A head of a column stands before it. */
  readonly opens: boolean;
}

/** Columns of lines that do not fit: parted where a head says so. */
function headed(part: readonly Entry[]): string[][] {
  const columns: string[][] = [];
  for (const entry of part) {
    if (entry.opens || columns.length === 0) columns.push([]);
    columns.at(-1)!.push(entry.text);
  }
  return columns;
}

/** Cavities in a row, as many as fit a whole number of times into the lines of the page. */
function runOf(full: readonly Entry[]): { from: number; count: number } | null {
  let best: { from: number; count: number; fits: boolean } | null = null;
  for (let from = 0; from < full.length; from += 1) {
    if (!full[from]!.place || (from > 0 && full[from - 1]!.place)) continue;
    let length = 1;
    while (full[from + length]?.place) length += 1;
    // A label such as 'AN 1' looks like a cavity: the row ends where the columns become of one length.
    let fitting: number | null = null;
    for (let count = length; count >= Math.max(4, length / 2) && fitting === null; count -= 1)
      if (full.length % count === 0 && from % count === 0 && full.length / count >= 2) fitting = count;
    const own = { from, count: fitting ?? length, fits: fitting !== null };
    if (!best || (own.fits && !best.fits) || (own.fits === best.fits && own.count > best.count)) best = own;
  }
  return best && best.count >= 4 ? best : null;
}

/**
 * Finds a page whose columns lie one below the other: at least four lines in a row that name cavities and nothing else, and as
 * many that name none. Null where the page is no such thing. O(lines).
 */
export function blocksOfPage(text: string): Blocks | null {
  let opens = false;
  const full = rawLines(text).flatMap(({ text: line, from }): Entry[] => {
    const cell = trimmed(line, from).text;
    if (cell === '' || (isRule(line) && cell.length > 2)) return [];
    // A line of several columns is none of one.
    const place = !/\t|\|/.test(cell) && placesOf(cell, anyManner).length > 0;
    const head = !place && (plugOf(cell) !== null || cell.split(/\s+/).every((word) => headingOf(word) !== null));
    const own = { text: cell, place, opens };
    opens = head;
    return head ? [] : [own];
  });
  const run = runOf(full);
  if (!run || run.count < 0.2 * full.length || run.count > 0.6 * full.length) return null;
  const places = full.slice(run.from, run.from + run.count).map((entry) => entry.text);
  const before = full.slice(0, run.from);
  const after = full.slice(run.from + run.count);
  const columns = [before, after].flatMap((part) => {
    const words = part.map((entry) => entry.text);
    if (words.length % run.count !== 0) return headed(part);
    return Array.from({ length: words.length / run.count }, (_, k) => words.slice(k * run.count, (k + 1) * run.count));
  });
  const fits = columns.every((column) => column.length === run.count);
  // Cavities among the words: the page is made of lines that hold both.
  const mixed = [...before, ...after].filter((entry) => entry.place).length;
  if (columns.length === 0 || mixed > 0.3 * (before.length + after.length)) return null;
  return {
    places,
    columns,
    joined: fits ? places.map((name, i) => [name, ...columns.map((column) => column[i]!)].join('\t')).join('\n') : null,
  };
}

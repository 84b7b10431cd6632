import Papa from 'papaparse';
import type { Build, CircuitChoice } from '../build/schema';
import { neutralise } from '../data/csv';
import { call, type EditCall } from '../edits';
import { fuseRatings } from '../power/fuse';
import type { Circuit } from '../power/plan';
import { fail, ok, type Result } from '../problem';
import { METRES_PER_FOOT } from '../units/convert';
import { plural } from '../units/format';
import { shortSize, sizeSquareMm } from '../wire/size';

/** What is written where a figure is Gonyx' own. */
const DERIVED = 'derived';
const MOST_METRES = 30;

type Reader = Pick<Build, 'units'>;
const isInch = ({ units }: Reader) => units.workshop === 'inch';
/** Columns that are read back, and those that only tell. */
const headings = (reader: Reader): string[] => [
  'feed',
  'load A',
  'fuse A',
  isInch(reader) ? 'wire' : 'wire mm²',
  isInch(reader) ? 'trunk ft' : 'trunk m',
  isInch(reader) ? 'to fuse ft' : 'to fuse m',
  'drop V',
  'set by hand',
];

function cellsOf(circuit: Circuit, reader: Reader): string[] {
  const length = (metres: number) => (isInch(reader) ? metres / METRES_PER_FOOT : metres).toFixed(2);
  const byHand = [circuit.fuseByPerson ? 'fuse' : '', circuit.squareByPerson ? 'wire' : ''].filter((one) => one !== '');
  return [
    circuit.name,
    circuit.loadAmps.toFixed(2),
    String(circuit.fuseAmps),
    isInch(reader) ? shortSize(circuit.squareMm, reader) : String(circuit.squareMm),
    length(circuit.lengthMetres),
    length(circuit.fuseDistanceMetres),
    circuit.dropVolts.toFixed(3),
    byHand.join(' and '),
  ];
}

/** The feeds for the clipboard: a spreadsheet takes it into cells, and `readFeedTable` takes it back. */
export const feedTable = (circuits: readonly Circuit[], reader: Reader): string =>
  [headings(reader), ...circuits.map((circuit) => cellsOf(circuit, reader).map((cell) => String(neutralise(cell))))]
    .map((cells) => cells.join('\t'))
    .join('\n');

/** What a pasted table changes. */
export interface FeedChanges {
  readonly calls: readonly EditCall[];
  /** One sentence for each feed that changes. */
  readonly words: readonly string[];
}

interface Column {
  readonly at: number;
  readonly key: 'fuseAmps' | 'squareMm' | 'lengthMetres' | 'fuseDistanceMetres';
  /** Metres of one of its own. */
  readonly scale: number;
  readonly title: string;
}
const columnOf = (title: string, at: number): Column | null => {
  const words = title.trim().toLowerCase();
  const scale = /\bft\b|feet|foot/.test(words) ? METRES_PER_FOOT : 1;
  if (/^fuse\b/.test(words)) return { at, key: 'fuseAmps', scale: 1, title };
  if (/^(wire|size)\b/.test(words)) return { at, key: 'squareMm', scale: 1, title };
  if (/^trunk\b/.test(words)) return { at, key: 'lengthMetres', scale, title };
  return /^to fuse\b/.test(words) ? { at, key: 'fuseDistanceMetres', scale, title } : null;
};

const numberOf = (text: string): number => Number(text.replace(',', '.').replace(/\s*(a|m|ft|mm²|mm2)$/i, ''));

/** One cell of a pasted table; null: it is Gonyx' own again. */
function valueOf({ key, scale }: Column, cell: string): number | null | undefined {
  if (cell.toLowerCase() === DERIVED) return null;
  const value = key === 'squareMm' ? (sizeSquareMm(cell) ?? numberOf(cell)) : numberOf(cell) * scale;
  if (!Number.isFinite(value)) return undefined;
  if (key === 'fuseAmps') return fuseRatings.includes(value) ? value : undefined;
  if (key === 'squareMm') return value > 0 && value <= 95 ? value : undefined;
  return value >= 0 && value <= MOST_METRES ? value : undefined;
}

const wanted: Record<Column['key'], string> = {
  fuseAmps: `a rating of a blade fuse (${fuseRatings.join(', ')})`,
  squareMm: 'a wire size such as 2.5 or 14 AWG',
  lengthMetres: `a length up to ${MOST_METRES} m`,
  fuseDistanceMetres: `a length up to ${MOST_METRES} m`,
};
/** A figure that stands in the table as it was written out is no change. */
const CLOSE: Record<Column['key'], number> = {
  fuseAmps: 0,
  squareMm: 0.006,
  lengthMetres: 0.006,
  fuseDistanceMetres: 0.006,
};

/**
 * Reads a table of feeds as it was copied, and changed in a spreadsheet: by its heading row, feeds by their names, empty cells left
 * as they are, 'derived' for Gonyx' own figure. Columns that only tell are passed over. Nothing is taken unless all of it reads.
 */
export function readFeedTable(text: string, circuits: readonly Circuit[], reader: Reader): Result<FeedChanges> {
  const { data } = Papa.parse<string[]>(text.trim(), { delimiter: text.includes('\t') ? '\t' : '' });
  const [heading, ...rows] = data;
  const nameAt = (heading ?? []).findIndex((title) => title.trim().toLowerCase() === 'feed');
  const columns = (heading ?? []).flatMap((title, at) => columnOf(title, at) ?? []);
  if (nameAt < 0 || columns.length === 0)
    return fail(
      'no-heading',
      'row 1',
      "The first row must name its columns: 'feed', and some of 'fuse A', 'wire mm²', 'trunk m', 'to fuse m'.",
    );
  const calls: EditCall[] = [];
  const words: string[] = [];
  for (const [at, cells] of rows.entries()) {
    const row = `row ${at + 2}`;
    const name = (cells[nameAt] ?? '').trim().replace(/^'/, '');
    if (name === '') continue;
    const circuit = circuits.find((one) => one.name.toLowerCase() === name.toLowerCase());
    if (!circuit)
      return fail(
        'no-feed',
        row,
        `Row ${at + 2}: there is no feed '${name}'; there are ${circuits.map((one) => one.name).join(', ')}.`,
      );
    const choice: CircuitChoice = {};
    const derived: ('fuseAmps' | 'squareMm')[] = [];
    const said: string[] = [];
    for (const column of columns) {
      const cell = (cells[column.at] ?? '').trim();
      // A size in gauge is written as the nearest: one that was not touched stands as it is.
      if (cell === '' || (column.key === 'squareMm' && cell === shortSize(circuit.squareMm, reader))) continue;
      const value = valueOf(column, cell);
      if (value === undefined)
        return fail(
          'cell',
          `${row}, ${column.title}`,
          `Row ${at + 2}, '${column.title}': '${cell}' is not ${wanted[column.key]}.`,
        );
      if (value === null) {
        if (column.key === 'fuseAmps' || column.key === 'squareMm') derived.push(column.key);
        continue;
      }
      if (Math.abs(value - circuit[column.key]) <= CLOSE[column.key]) continue;
      choice[column.key] = value;
      said.push(`${column.title} ${cell}`);
    }
    if (Object.keys(choice).length > 0) calls.push(call('setCircuit', { circuitId: circuit.id, choice }));
    const own = derived.filter((key) => (key === 'fuseAmps' ? circuit.fuseByPerson : circuit.squareByPerson));
    if (own.length > 0) {
      calls.push(call('deriveCircuit', { circuitId: circuit.id, fields: own }));
      said.push(`${own.map((key) => (key === 'fuseAmps' ? 'fuse' : 'wire')).join(' and ')} derived`);
    }
    if (said.length > 0) words.push(`${circuit.name}: ${said.join(', ')}`);
  }
  return ok({ calls, words });
}

/** In one line what a pasted table would do. */
export const changesWords = ({ words }: FeedChanges): string =>
  words.length === 0 ? 'Nothing in it differs from what stands.' : `${plural(words.length, 'feed')} changed.`;

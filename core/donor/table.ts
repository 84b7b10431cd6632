import Papa from 'papaparse';
import { neutralise } from '../data/csv';
import { fail, ok, type Result } from '../problem';
import {
  DONOR_LIMIT,
  cavityKey,
  decisionWords,
  donorWireSchema,
  groupWords,
  isRestraint,
  type Decision,
  type DonorGroup,
  type DonorWire,
} from './wire';
import { sizeSquareMm } from '../wire/size';

/** Fields of a donor wire that a spreadsheet column can be. */
export const tableFields = [
  'connector',
  'cavity',
  'colour',
  'size',
  'function',
  'condition',
  'splice',
  'decision',
  'group',
  'moveTo',
  'note',
] as const;
export type TableField = (typeof tableFields)[number];
/** `keep` keeps a column under its own heading; `skip` leaves it out. */
export type ColumnUse = TableField | 'keep' | 'skip';

/** Headings Gonyx writes, in the order it writes them. */
export const fieldHeadings: Record<TableField, string> = {
  connector: 'connector',
  cavity: 'cavity',
  colour: 'colour',
  size: 'size',
  function: 'function',
  condition: 'condition',
  splice: 'splice',
  decision: 'decision',
  group: 'side',
  moveTo: 'move to',
  note: 'note',
};

/** Words people head such columns with (common practice). */
const synonyms: Record<TableField, RegExp> = {
  connector: /^(connector|conn|plug|housing|harness plug|multiplug)\b/,
  cavity: /^(cavity|cav|pin|position|pos|terminal|way|no|number|#)\b|^#$/,
  colour: /^(colou?r|wire colou?r|insulation|trace)\b/,
  size: /^(size|gauge|awg|mm2|mm²|csa|cross.?section|section|wire size)\b|^mm/,
  function: /^(function|description|circuit|signal|goes to|purpose|what|use|name)\b/,
  condition: /^(condition|state|damage|quality)\b/,
  splice: /^(splice|joint|join|junction|shared)\b/,
  decision: /^(decision|action|do|verdict|fate|keep)\b/,
  group: /^(side|pile|group|set|system|loom)\b/,
  moveTo: /^(move to|new cavity|new pin|to cavity|target|moves to|ecu pin)\b/,
  note: /^(note|notes|remark|remarks|comment|comments)\b/,
};

const decisionByWord: Record<string, Decision> = {
  '': 'open',
  open: 'open',
  '?': 'mystery',
  keep: 'keep',
  stay: 'keep',
  yes: 'keep',
  extend: 'extend',
  lengthen: 'extend',
  move: 'move',
  repin: 'move',
  're-pin': 'move',
  remove: 'remove',
  cut: 'remove',
  delete: 'remove',
  bin: 'remove',
  no: 'remove',
  unknown: 'mystery',
  mystery: 'mystery',
};
const groupByWord: Record<string, DonorGroup> = {
  '': 'none',
  'not sorted': 'none',
  'engine side': 'engine',
  'runs the engine': 'engine',
  engine: 'engine',
  'car side': 'body',
  car: 'body',
  'gauges and body': 'body',
  body: 'body',
  dash: 'body',
  gauges: 'body',
};

/** A cell as a person wrote it: the apostrophe that keeps a spreadsheet from running it as a formula is taken off. */
const plainCell = (cell: string): string => cell.trim().replace(/^'(?=[=+\-@])/, '');

/** The sign that parts the first line most often, quoted cells aside; a spreadsheet's clipboard always uses tabs. */
function delimiterOf(text: string): string {
  const first = (text.split(/\r?\n/).find((line) => line.trim() !== '') ?? '').replace(/"[^"]*"/g, '');
  if (first.includes('\t')) return '\t';
  const counts = [';', '|', ','].map((sign) => ({ sign, count: first.split(sign).length - 1 }));
  return counts.reduce((best, one) => (one.count > best.count ? one : best)).sign;
}

/** A pasted or opened table before it becomes wires. */
export interface RawTable {
  readonly delimiter: string;
  /** Column headings; made up as `column 3` when the first row is data. */
  readonly headings: readonly string[];
  readonly hasHeading: boolean;
  /** Cells of the first line: what the others are held against. */
  readonly headed: number;
  readonly rows: readonly { readonly line: number; readonly cells: readonly string[] }[];
  readonly uses: readonly ColumnUse[];
}

const matchHeading = (heading: string): TableField | null => {
  const clean = heading
    .trim()
    .toLowerCase()
    .replace(/[_\s]+/g, ' ');
  return (
    tableFields.find((field) => fieldHeadings[field] === clean) ??
    tableFields.find((field) => synonyms[field].test(clean)) ??
    null
  );
};

/**
 * Reads a table of any of the usual delimiters (tab, semicolon, comma, bar) and guesses what each column is. Nothing is
 * judged yet; blank lines are left out, line numbers are those of the text.
 */
export function readTable(text: string): Result<RawTable> {
  if (text.length > 5_000_000)
    return fail('too-large', '', 'The table is larger than 5 MB: paste the sheet with the wires only.');
  const clean = text.replace(/^\uFEFF/, '');
  const parsed = Papa.parse<string[]>(clean, { delimiter: delimiterOf(clean), skipEmptyLines: false });
  const lines = parsed.data
    .map((cells, index) => ({ line: index + 1, cells: cells.map(plainCell) }))
    .filter(({ cells }) => cells.some((cell) => cell !== ''));
  if (lines.length === 0) return fail('empty', '', 'There is no table in the clipboard or file.');
  const unclosed = parsed.errors.find((error) => error.type === 'Quotes');
  if (unclosed)
    return fail(
      'quotes',
      `line ${(unclosed.row ?? 0) + 1}`,
      `Line ${(unclosed.row ?? 0) + 1}: a quotation mark is opened and never closed.`,
    );
  const matched = lines[0]!.cells.map(matchHeading);
  const hasHeading = matched.filter((field) => field !== null).length >= 2;
  const width = lines.reduce((most, { cells }) => Math.max(most, cells.length), 0);
  const first = lines[0]!.cells;
  const headings = Array.from({ length: width }, (_, i) => (hasHeading && first[i] ? first[i] : `column ${i + 1}`));
  const taken = new Set<TableField>();
  const uses = Array.from({ length: width }, (_, i): ColumnUse => {
    const field = hasHeading ? (matched[i] ?? null) : (tableFields[i] ?? null);
    if (field === null || taken.has(field)) return 'keep';
    taken.add(field);
    return field;
  });
  return ok({
    delimiter: parsed.meta.delimiter,
    headings,
    hasHeading,
    headed: first.length,
    rows: hasHeading ? lines.slice(1) : lines,
    uses,
  });
}

export const delimiterWord = (delimiter: string): string =>
  ({ '\t': 'tabs', ';': 'semicolons', ',': 'commas', '|': 'bars' })[delimiter] ?? `'${delimiter}'`;

export interface TableIssue {
  readonly line: number;
  readonly severity: 'stop' | 'note';
  readonly sentence: string;
}
export interface ReadWires {
  readonly wires: readonly DonorWire[];
  readonly issues: readonly TableIssue[];
}

const most: Partial<Record<keyof DonorWire, number>> = {
  connector: 40,
  cavity: 12,
  colour: 30,
  size: 20,
  function: 120,
  condition: 60,
  splice: 40,
  moveTo: 40,
  note: 200,
};

/**
 * Turns a table into wires by the uses given. Issues of severity 'stop' mean that a row would lose something; the caller
 * then writes nothing. `firstId` numbers the new wires; `existing` are wires that stay beside them.
 */
export function wiresFrom(
  table: RawTable,
  uses: readonly ColumnUse[],
  existing: readonly DonorWire[] = [],
  makeId: (index: number) => string = (index) => `w${index + 1}`,
): ReadWires {
  const issues: TableIssue[] = [];
  const wires: DonorWire[] = [];
  const known = new Map(existing.map((wire) => [cavityKey(wire), `row ${wire.row + 1} of the list`]));
  const startRow = existing.reduce((top, wire) => Math.max(top, wire.row + 1), 0);
  if (table.rows.length + existing.length > DONOR_LIMIT)
    return {
      wires: [],
      issues: [
        {
          line: 0,
          severity: 'stop',
          sentence: `The list would hold ${table.rows.length + existing.length} wires; ${DONOR_LIMIT} is the most.`,
        },
      ],
    };
  for (const [index, { line, cells }] of table.rows.entries()) {
    const say = (severity: TableIssue['severity'], sentence: string) =>
      issues.push({ line, severity, sentence: `Line ${line}: ${sentence}` });
    const wire: DonorWire = {
      id: makeId(index),
      row: startRow + index,
      connector: '',
      cavity: '',
      colour: '',
      size: '',
      function: '',
      condition: '',
      splice: '',
      decision: 'open',
      group: 'none',
      moveTo: '',
      note: '',
      restraint: false,
      extra: {},
    };
    if (cells.length > table.headed)
      say('note', `it has ${cells.length} cells, the heading has ${table.headed}; the rest is kept as its own column.`);
    else if (cells.length < table.headed)
      say('note', `it has ${cells.length} of ${table.headed} cells; the rest is taken as empty.`);
    uses.forEach((use, column) => {
      const cell = cells[column] ?? '';
      if (use === 'skip') return;
      if (use === 'keep') {
        const heading = table.headings[column] ?? `column ${column + 1}`;
        if (cell !== '') wire.extra[heading.slice(0, 40)] = cell.slice(0, 200);
        if (cell.length > 200) say('stop', `${heading} is longer than 200 characters.`);
        return;
      }
      if (use === 'decision') {
        const decision = decisionByWord[cell.toLowerCase()];
        if (decision === undefined)
          say('stop', `'${cell}' is no decision; use keep, extend, move, remove, unknown or leave it empty.`);
        else wire.decision = decision;
        return;
      }
      if (use === 'group') {
        const group = groupByWord[cell.toLowerCase()];
        if (group === undefined) say('stop', `'${cell}' is no side; use 'engine side' or 'car side'.`);
        else wire.group = group;
        return;
      }
      const limit = most[use] ?? 200;
      if (cell.length > limit) say('stop', `${fieldHeadings[use]} is longer than ${limit} characters.`);
      wire[use] = cell.slice(0, limit);
    });
    if (wire.size !== '' && sizeSquareMm(wire.size) === null)
      say('note', `size '${wire.size}' is not understood; it is kept as it is.`);
    if (wire.cavity !== '') {
      const before = known.get(cavityKey(wire));
      if (before !== undefined)
        say('note', `${wire.connector} cavity ${wire.cavity} is listed already (${before}): two wires in one cavity?`);
      else known.set(cavityKey(wire), `line ${line}`);
    }
    if (isRestraint(wire) && wire.decision !== 'open') {
      say('note', 'a restraint wire carries a decision: it is left out, the wire is locked.');
      wire.decision = 'open';
    }
    const checked = donorWireSchema.safeParse(wire);
    if (!checked.success) say('stop', `${checked.error.issues[0]!.path.join('.')} cannot be kept.`);
    wires.push(wire);
  }
  return { wires, issues };
}

/** Headings of a list: Gonyx' own, then the columns people brought along. */
function headingsOf(wires: readonly DonorWire[]): { fields: TableField[]; extras: string[] } {
  return { fields: [...tableFields], extras: [...new Set(wires.flatMap((wire) => Object.keys(wire.extra)))] };
}

const cellsOf = (wire: DonorWire, fields: readonly TableField[], extras: readonly string[]): string[] => [
  ...fields.map((field) =>
    field === 'decision'
      ? wire.decision === 'open'
        ? ''
        : decisionWords[wire.decision]
      : field === 'group'
        ? wire.group === 'none'
          ? ''
          : groupWords[wire.group]
        : wire[field],
  ),
  ...extras.map((name) => wire.extra[name] ?? ''),
];

/** For the clipboard: tab separated, one heading line, cells as they were written (tabs and line ends within become spaces). */
export function donorTsv(wires: readonly DonorWire[]): string {
  const { fields, extras } = headingsOf(wires);
  const flat = (cell: string) => {
    const plain = String(neutralise(cell.replace(/[\t\r\n]+/g, ' ')));
    return plain.startsWith('"') ? `"${plain.replaceAll('"', '""')}"` : plain;
  };
  return [
    [...fields.map((field) => fieldHeadings[field]), ...extras],
    ...wires.map((wire) => cellsOf(wire, fields, extras)),
  ]
    .map((row) => row.map(flat).join('\t'))
    .join('\n');
}

/** As a CSV file (RFC 4180), with cells a spreadsheet would run as formulas made harmless. */
export function donorCsv(wires: readonly DonorWire[]): string {
  const { fields, extras } = headingsOf(wires);
  return Papa.unparse(
    [
      [...fields.map((field) => fieldHeadings[field]), ...extras],
      ...wires.map((wire) => cellsOf(wire, fields, extras)),
    ].map((row) => row.map(neutralise)),
    { newline: '\r\n' },
  );
}

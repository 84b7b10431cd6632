import { fail, ok, type Result } from '../../problem';
import { plural } from '../../units/format';
import { timeUnits, unitOf, numberOf } from './layout';
import type { Capture, Channel } from './capture';
import { stampsAsTime } from './steps';

/*
 * Tooth logs: lists of what a counter saw of a wheel, one row a tooth, without the line between. Four forms, told by their heads
 * (docs/formats.md): times of one edge; waits from one tooth to the next; pulses as the times of both edges; and any of them with
 * a column that names the input. Common practice: what ECUs and counters save when they are asked for teeth.
 */

/** Rows from which a list of figures is believed to be a log. */
const ROWS_LEAST = 8;
/** Share of the shortest wait for which a tooth is drawn where only one edge is in the file. */
const DRAWN = 0.2;
/** Waits that differ by less, as a share, are those of a clock. */
const EVEN = 0.002;

type Role = 'time' | 'wait' | 'rise' | 'fall' | 'input';
const roles: readonly (readonly [Role, RegExp])[] = [
  [
    'wait',
    /^(?:tooth\s*)?(?:interval|period|gap|wait|delta(?:\s*t(?:ime)?)?|dt|tooth\s*time|time\s*between(?:\s*teeth)?)$/i,
  ],
  ['rise', /^(?:rise|rising(?:\s*edge)?|on|start|leading(?:\s*edge)?|up)$/i],
  ['fall', /^(?:fall|falling(?:\s*edge)?|off|end|trailing(?:\s*edge)?|down)$/i],
  ['time', /^(?:time(?:\s*stamp)?|t|edge(?:\s*time)?|tooth(?:\s*at)?)$/i],
  ['input', /^(?:input|channel|signal|wheel|source|trigger)$/i],
];
const roleOf = (head: string): Role | null => roles.find(([, test]) => test.test(head.trim()))?.[0] ?? null;

interface Form {
  readonly delimiter: string;
  readonly columns: readonly { readonly role: Role | null; readonly scale: number | null }[];
  /** Line the figures start on, from 0. */
  readonly first: number;
}

const cellsIn = (line: string, delimiter: string): string[] => (delimiter === '' ? [line] : line.split(delimiter));

/** The form of a log, from its first lines; null for what is none. */
function formOf(start: string): Form | null {
  const lines = start.replace(/^\uFEFF/, '').split(/\r\n|\r|\n/);
  const first = lines.findIndex((line) => /^\s*"?[+-]?[\d.]/.test(line));
  if (first < 0) return null;
  const head = first > 0 ? lines[first - 1]! : '';
  const row = lines[first]!;
  // One figure with a decimal comma is no two columns.
  const single = /^\s*\d+,\d+\s*$/.test(row) && !head.includes(',');
  const delimiter = single ? '' : (['\t', ';', ','].find((sign) => row.includes(sign)) ?? '');
  const heads = cellsIn(head, delimiter);
  const cells = cellsIn(row, delimiter);
  if (cells.length > 3) return null;
  const columns = cells.map((_, at) => {
    const { name, unit } = unitOf(heads[at] ?? '');
    return { role: first > 0 ? roleOf(name) : null, scale: timeUnits[unit.toLowerCase()] ?? null };
  });
  const has = (role: Role) => columns.some((column) => column.role === role);
  if (has('wait') || (has('rise') && has('fall')) || (has('time') && has('input') && columns.length === 2))
    return { delimiter, columns, first };
  if (columns.length !== 1) return null;
  // One column without a head, or one of times: a log where it only counts up.
  const figures = lines.slice(first, -1).map((line) => numberOf(line, single ? ',' : '.'));
  const rising = figures.every((figure, i) => figure > (figures[i - 1] ?? -Infinity));
  // Times evenly apart are of samples whose signal was left out: no wheel turns so evenly.
  const waits = figures.slice(1).map((figure, i) => figure - figures[i]!);
  if (Math.max(...waits) - Math.min(...waits) < EVEN * Math.max(...waits)) return null;
  if (figures.length < ROWS_LEAST || !rising || !(columns[0]!.role === 'time' || head.trim() === '')) return null;
  return { delimiter, columns: [{ ...columns[0]!, role: 'time' }], first };
}

/** Whether a text begins as a log of teeth does. */
export const isToothLog = (start: string): boolean => formOf(start) !== null;

interface Pulse {
  readonly from: number;
  /** NaN where the file does not say. */
  readonly to: number;
  readonly input: string;
}

/** Where no comma parts the columns it may be the decimal sign. */
const decimalOf = (delimiter: string, rows: readonly { readonly cells: readonly string[] }[]): '.' | ',' =>
  delimiter !== ',' && rows.some(({ cells }) => cells.some((cell) => /^\s*\d+,\d+\s*$/.test(cell))) ? ',' : '.';

/**
 * A log of teeth as the steps it means. Errors: `not-log` where a row cannot be read, `time-runs-back`, `too-short`. O(rows log rows).
 */
export function readToothLog(text: string): Result<Capture> {
  const form = formOf(text.slice(0, 4000));
  if (!form) return fail('not-log', '', 'The file does not begin as a log of teeth does.');
  const at = (role: Role) => form.columns.findIndex((column) => column.role === role);
  const [time, wait, rise, fall, input] = [at('time'), at('wait'), at('rise'), at('fall'), at('input')];
  const lines = text.replace(/^\uFEFF/, '').split(/\r\n|\r|\n/);
  const rows: { line: number; cells: string[] }[] = [];
  for (let line = form.first; line < lines.length; line += 1)
    if (lines[line]!.trim() !== '') rows.push({ line: line + 1, cells: cellsIn(lines[line]!, form.delimiter) });
  const main = rise >= 0 ? rise : wait >= 0 ? wait : time;
  const decimal = decimalOf(form.delimiter, rows);
  const figures = rows.map(({ cells }) => numberOf(cells[main] ?? '', decimal));
  const bad = figures.findIndex((figure) => Number.isNaN(figure));
  if (bad >= 0)
    return fail(
      'not-log',
      `line ${rows[bad]!.line}`,
      `Line ${rows[bad]!.line} of the tooth log holds no figure where the others do.`,
    );
  const told = form.columns[main]!.scale;
  // Waits of teeth are microseconds where nothing is said and no figure is broken; times are seconds where any is.
  const scale = told ?? (figures.every((figure) => Number.isInteger(figure)) ? 1e-6 : 1);
  const pulses: Pulse[] = [];
  let clock = 0;
  for (const [index, { line, cells }] of rows.entries()) {
    const figure = figures[index]! * scale;
    if (wait >= 0) {
      if (figure <= 0)
        return fail('time-runs-back', `line ${line}`, `Line ${line} of the tooth log says a wait of nothing or less.`);
      clock += figure;
    }
    const to = fall >= 0 ? numberOf(cells[fall] ?? '', decimal) * (form.columns[fall]!.scale ?? scale) : Number.NaN;
    pulses.push({ from: wait >= 0 ? clock : figure, to, input: input >= 0 ? (cells[input] ?? '').trim() : '' });
  }
  if (pulses.length < ROWS_LEAST)
    return fail(
      'too-short',
      '',
      `The tooth log holds ${plural(pulses.length, 'tooth', 'teeth')}: a turn of the wheel needs more.`,
    );
  const back = pulses.findIndex((pulse, i) => i > 0 && pulse.from < pulses[i - 1]!.from);
  if (back > 0)
    return fail(
      'time-runs-back',
      `line ${rows[back]!.line}`,
      `The time runs back in line ${rows[back]!.line} of the tooth log.`,
    );
  return ok(captureOf(pulses, scale, told === null, rise >= 0 ? 'pulses' : wait >= 0 ? 'waits' : 'times'));
}

/** Pulses as levels of one channel for each input. */
function captureOf(
  pulses: readonly Pulse[],
  scale: number,
  unsaid: boolean,
  form: 'pulses' | 'waits' | 'times',
): Capture {
  const names = [...new Set(pulses.map(({ input }) => input))];
  const ends = new Map<Pulse, number>();
  for (const name of names) {
    const own = pulses.filter(({ input }) => input === name);
    let shortest = Infinity;
    for (let i = 1; i < own.length; i += 1) shortest = Math.min(shortest, own[i]!.from - own[i - 1]!.from || Infinity);
    own.forEach((pulse, i) => {
      const most = (own[i + 1]?.from ?? Infinity) - pulse.from;
      const drawn = DRAWN * Math.min(shortest, most);
      ends.set(
        pulse,
        pulse.from + (pulse.to > pulse.from && pulse.to - pulse.from < most ? pulse.to - pulse.from : drawn),
      );
    });
  }
  const changes = pulses
    .flatMap((pulse) => {
      const slot = names.indexOf(pulse.input);
      return [
        { seconds: pulse.from, slot, level: 1 },
        { seconds: ends.get(pulse)!, slot, level: 0 },
      ];
    })
    .sort((one, other) => one.seconds - other.seconds);
  const lead = changes[1] ? Math.max(scale, changes[1].seconds - changes[0]!.seconds) : scale;
  const stamps = Float64Array.from([changes[0]!.seconds - lead, ...changes.map(({ seconds }) => seconds)]);
  const channels = names.map((name, slot): Channel => {
    const values = new Float32Array(2 * stamps.length);
    let level = 0;
    changes.forEach((change, i) => {
      values[2 * i + 2] = level;
      if (change.slot === slot) level = change.level;
      values[2 * i + 3] = level;
    });
    return {
      name: name === '' ? 'teeth' : name,
      unit: '',
      levelsOnly: true,
      ...(form === 'pulses' ? {} : { oneEdge: true as const }),
      values,
    };
  });
  const what = {
    pulses: 'both edges of each tooth',
    waits: 'the waits between teeth',
    times: 'the times of its teeth',
  };
  return {
    format: 'csv',
    channels,
    time: stampsAsTime(stamps, scale),
    count: 2 * stamps.length,
    resolution: scale === 1 ? 1e-6 : scale,
    notes: [
      `A log of teeth: ${plural(pulses.length, 'tooth', 'teeth')}, by ${what[form]}.`,
      ...(form === 'pulses'
        ? []
        : ['Only one edge of each tooth is in the file: how wide its pulses are is not known.']),
      ...(unsaid
        ? [`The file says no unit: its figures are taken for ${scale === 1 ? 'seconds' : 'microseconds'}.`]
        : []),
    ],
  };
}

import { fail, ok, type Result } from '../../problem';

/** What a text of samples looks like: found in its first lines, then used for all of it. */
export interface CsvLayout {
  readonly delimiter: ',' | ';' | '\t' | ' ';
  readonly decimal: '.' | ',';
  /** Lines before the first row of figures. */
  readonly headLines: number;
  /** Column of the time; null when the rows only count. */
  readonly timeColumn: number | null;
  /** Seconds of one unit of the time column. */
  readonly timeScale: number;
  /** Seconds from row to row: from the head, or from the first rows. */
  readonly step: number;
  /** How coarsely the times are printed, seconds. */
  readonly resolution: number;
  /** The first rows are no even samples: each time counts as it stands. */
  readonly uneven: boolean;
  readonly columns: readonly {
    readonly name: string;
    readonly unit: string;
    readonly scale: number;
    readonly at: number;
  }[];
  readonly cells: number;
  readonly notes: readonly string[];
}

/** Share of the usual wait by which one is another, and of rows that wait otherwise, from which rows are no even samples. */
const [UNEVEN_STEP, UNEVEN_SHARE] = [0.02, 0.1];

export const timeUnits: Readonly<Record<string, number>> = {
  s: 1,
  sec: 1,
  secs: 1,
  second: 1,
  seconds: 1,
  ms: 1e-3,
  msec: 1e-3,
  millisecond: 1e-3,
  milliseconds: 1e-3,
  us: 1e-6,
  µs: 1e-6,
  μs: 1e-6,
  usec: 1e-6,
  microsecond: 1e-6,
  microseconds: 1e-6,
  ns: 1e-9,
};
const valueUnits: Readonly<Record<string, { unit: string; scale: number }>> = {
  v: { unit: 'V', scale: 1 },
  volt: { unit: 'V', scale: 1 },
  volts: { unit: 'V', scale: 1 },
  mv: { unit: 'V', scale: 1e-3 },
  millivolt: { unit: 'V', scale: 1e-3 },
  millivolts: { unit: 'V', scale: 1e-3 },
  kv: { unit: 'V', scale: 1e3 },
  uv: { unit: 'V', scale: 1e-6 },
  µv: { unit: 'V', scale: 1e-6 },
};
const rateUnits: Readonly<Record<string, number>> = { hz: 1, 's/s': 1, sa: 1, sps: 1, k: 1e3, m: 1e6, g: 1e9 };

const clean = (cell: string): string =>
  cell
    .trim()
    .replace(/^["']|["']$/g, '')
    .trim();

/** The unit a heading carries: `Time (ms)`, `CH1 [mV]`, `crank/V`, `time_us`, or a bare unit. */
export function unitOf(heading: string): { name: string; unit: string } {
  const text = clean(heading);
  const match = /^(.*?)\s*(?:[([{]\s*([^)\]}]*)\s*[)\]}]|[\s_/]+(s|ms|us|µs|μs|ns|V|mV|volts?))$/i.exec(text);
  const unit = (match?.[2] ?? match?.[3] ?? '').trim();
  if (match && (unit.toLowerCase() in timeUnits || unit.toLowerCase() in valueUnits)) return { name: match[1]!, unit };
  return { name: text, unit: '' };
}

export const numberOf = (cell: string, decimal: '.' | ','): number => {
  const text = clean(cell);
  if (text === '') return Number.NaN;
  const plain = decimal === ',' ? text.replace(',', '.') : text;
  return /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(plain) ? Number(plain) : Number.NaN;
};

const splitLine = (line: string, delimiter: CsvLayout['delimiter']): string[] =>
  delimiter === ' ' ? line.trim().split(/ +/) : line.split(delimiter);

const isMissing = (cell: string): boolean => /^(nan|null|none|n\/a|-+|\*+|inf|-inf|overflow|ovl)?$/i.test(clean(cell));

/** How many lines are rows of figures under one reading of the signs. */
function rowsUnder(lines: readonly string[], delimiter: CsvLayout['delimiter'], decimal: '.' | ',') {
  const counts = new Map<number, number>();
  lines.forEach((line) => {
    const cells = splitLine(line, delimiter);
    const figures = cells.filter((cell) => !Number.isNaN(numberOf(cell, decimal))).length;
    if (figures > 0 && cells.every((cell) => isMissing(cell) || !Number.isNaN(numberOf(cell, decimal))))
      counts.set(cells.length, (counts.get(cells.length) ?? 0) + 1);
  });
  const [best] = [...counts].sort((one, other) => other[1] - one[1]);
  return best ? { cells: best[0], rows: best[1] } : { cells: 0, rows: 0 };
}

const signs: readonly (readonly [CsvLayout['delimiter'], '.' | ','])[] = [
  ['\t', '.'],
  ['\t', ','],
  [';', '.'],
  [';', ','],
  [',', '.'],
  [' ', '.'],
  [' ', ','],
];

/** Seconds between samples as a head line may give it: an interval, or a rate. */
function stepInHead(head: readonly string[]): number | null {
  for (const raw of head) {
    const line = raw.replace(/["']/g, '');
    const interval =
      /(?:sampl\w*\s*(?:interval|period|time)|time\s*(?:interval|step|base increment)|increment|delta\s*t|\bdt\b|interval)[^0-9+-]*([\d.,]+(?:e[+-]?\d+)?)\s*(ns|µs|μs|us|usec|ms|msec|s|sec|seconds?)?(?![a-z])/i.exec(
        line,
      );
    if (interval) {
      const unit = interval[2] ?? /[([]\s*(ns|µs|μs|us|ms|s)\s*[)\]]/i.exec(line)?.[1] ?? 's';
      const value =
        Number(interval[1]!.replace(/,$/, '').replace(',', '.')) * (timeUnits[unit.toLowerCase()] ?? Number.NaN);
      if (value > 0 && Number.isFinite(value)) return value;
    }
    const rate =
      /(?:sampl\w*\s*(?:rate|frequency)|\brate\b|\bfs\b)[^0-9+-]*([\d.,]+(?:e[+-]?\d+)?)\s*(k|m|g)?\s*(?:hz|s\/s|sa\/s|sps|samples)?/i.exec(
        line,
      );
    if (rate) {
      const value =
        Number(rate[1]!.replace(/,$/, '').replace(',', '.')) * (rateUnits[(rate[2] ?? '').toLowerCase()] ?? 1);
      if (value > 0 && Number.isFinite(value)) return 1 / value;
    }
  }
  return null;
}

const timeName = /^(time|t|zeit|temps|tiempo|x|x-axis|second|seconds|sec|s|ms|us|timestamp)\b/i;
const countName = /^(sample|samples|index|idx|no|nr|n|#|row|point|line)\b/i;

/** Decimals of a printed figure, its exponent counted: how coarse it is. */
function placesOf(cell: string, decimal: '.' | ','): number {
  const match = /^[+-]?\d*(?:[.,](\d*))?(?:e([+-]?\d+))?$/i.exec(clean(cell).replace(decimal, '.'));
  return match ? (match[1]?.length ?? 0) - Number(match[2] ?? 0) : 0;
}

/** Reads the signs, the head, the columns and the time base off the first lines; `whole` says there are no more. */
export function layoutOf(text: string, whole: boolean): Result<CsvLayout> {
  const lines = text.replace(/^\uFEFF/, '').split(/\r\n|\n|\r/);
  // The last line of a part may be cut.
  if (!whole) lines.pop();
  const full = lines.filter((line) => line.trim() !== '');
  if (text.length === 0) return fail('empty', '', 'The file is empty.');
  if (text.trim() === '') return fail('empty', '', 'The file holds nothing but blanks: it is not a capture.');
  const printable = [...text.slice(0, 2000)].filter((sign) => sign >= ' ' || /\s/.test(sign)).length;
  if (printable < 0.9 * Math.min(2000, text.length))
    return fail('not-capture', '', 'The file is neither text nor a sound file: it is not a capture.');
  if (full.length === 0)
    return fail('not-capture', 'line 1', 'The first line does not come to an end: the file is not a capture.');
  // More cells win only while most rows stay: a decimal comma must not become a column.
  const readings = signs.map(([delimiter, decimal]) => ({
    delimiter,
    decimal,
    ...rowsUnder(full, delimiter, decimal),
  }));
  const best = readings.reduce((one, other) =>
    other.rows > one.rows * 1.02 || (other.rows >= one.rows * 0.98 && other.cells > one.cells) ? other : one,
  );
  if (best.rows < 2 || best.rows < full.length * 0.3)
    return fail(
      'not-capture',
      'line 1',
      `No rows of figures were found; line 1 reads '${full[0]!.slice(0, 40)}': this is not a capture.`,
    );
  const { delimiter, decimal, cells } = best;
  const isRow = (line: string) => {
    const parts = splitLine(line, delimiter);
    return (
      parts.length === cells &&
      parts.every((cell) => isMissing(cell) || !Number.isNaN(numberOf(cell, decimal))) &&
      parts.some((cell) => !Number.isNaN(numberOf(cell, decimal)))
    );
  };
  // The head ends where two rows follow each other.
  const first = lines.findIndex(
    (line, at) => isRow(line) && (at + 1 >= lines.length || isRow(lines[at + 1]!) || lines[at + 1]!.trim() === ''),
  );
  const headLines = Math.max(0, first);
  const head = lines.slice(0, headLines);
  const rows = lines.slice(headLines).filter(isRow).slice(0, 4000);
  const headings = [...head].reverse().filter((line) => splitLine(line, delimiter).length === cells);
  const isUnits = (line: string) =>
    splitLine(line, delimiter).every((cell) => {
      const bare = clean(cell)
        .replace(/[()[\]]/g, '')
        .toLowerCase();
      return bare === '' || bare in timeUnits || bare in valueUnits;
    });
  const unitLine = headings.find((line) => isUnits(line) && line.replace(/[\s,;]/g, '') !== '');
  const nameLine = headings.find(
    (line) => line !== unitLine && /[a-zµ]/i.test(line) && (cells > 1 || !/[,;:=]/.test(line)),
  );
  const units = unitLine ? splitLine(unitLine, delimiter).map((cell) => clean(cell).replace(/[()[\]]/g, '')) : [];
  const names = nameLine ? splitLine(nameLine, delimiter).map(unitOf) : [];
  const values = rows.map((row) => splitLine(row, delimiter).map((cell) => numberOf(cell, decimal)));
  const headed = Array.from({ length: cells }, (_, at) => ({
    name: names[at]?.name ?? '',
    unit: (units[at] || names[at]?.unit) ?? '',
  }));
  const column = (at: number) => values.map((row) => row[at] ?? Number.NaN).filter((value) => !Number.isNaN(value));
  const rising = (at: number) => {
    const all = column(at);
    return all.length > 2 && all[all.length - 1]! > all[0]! && all.every((value, i) => i === 0 || value >= all[i - 1]!);
  };
  const counts = (at: number) => {
    const all = column(at);
    return all.length > 2 && all.every((value, i) => i === 0 || value === all[i - 1]! + 1);
  };
  const isTimeUnit = (at: number) => headed[at]!.unit.toLowerCase() in timeUnits;
  const every = Array.from({ length: cells }, (_, at) => at);
  const countColumn =
    every.find(
      (at) => counts(at) && !isTimeUnit(at) && (countName.test(headed[at]!.name) || headed[at]!.name === ''),
    ) ?? null;
  const timeColumn =
    every.find((at) => at !== countColumn && rising(at) && (timeName.test(headed[at]!.name) || isTimeUnit(at))) ??
    every.find((at) => at !== countColumn && at === 0 && rising(at) && cells > 1) ??
    null;
  const notes: string[] = [];
  const inHead = stepInHead(head);
  const tail = every.filter(
    (at) => at !== timeColumn && at !== countColumn && !(at === cells - 1 && column(at).length === 0),
  );
  const signal = tail.filter((at) => column(at).length > 0);
  if (signal.length === 0)
    return fail(
      'one-column',
      `line ${headLines + 1}`,
      'The file has only one column of figures, and it only counts up: a capture needs a time and a signal.',
    );
  if (timeColumn === null && inHead === null)
    return cells === 1
      ? fail(
          'no-time-base',
          `line ${headLines + 1}`,
          'The file has one column and says no sample interval: save it with a time column, or with the interval in its head.',
        )
      : fail(
          'no-time-base',
          `line ${headLines + 1}`,
          'No column of the file is a time and its head names no sample interval: save it with one of them.',
        );
  let [timeScale, step, resolution, uneven] = [1, inHead ?? 0, 0, false];
  if (timeColumn !== null) {
    const times = column(timeColumn);
    const unit = headed[timeColumn]!.unit.toLowerCase() || clean(headed[timeColumn]!.name).toLowerCase();
    const mean = (times[times.length - 1]! - times[0]!) / Math.max(1, times.length - 1);
    if (!(mean > 0))
      return fail('no-time-base', `line ${headLines + 1}`, 'The time column stands still: the rows have no time base.');
    if (unit in timeUnits) timeScale = timeUnits[unit]!;
    else if (inHead !== null && Math.abs(Math.log(mean / inHead)) > 1)
      timeScale = 10 ** Math.round(Math.log10(inHead / mean));
    else if (mean >= 5) {
      timeScale = 1e-6;
      notes.push('The time column names no unit; its steps fit microseconds.');
    } else if (mean >= 0.004) {
      timeScale = 1e-3;
      notes.push('The time column names no unit; its steps fit milliseconds.');
    } else notes.push('The time column names no unit; its steps fit seconds.');
    // The step that most rows have, not the mean: a log may pause.
    const steps = times
      .slice(1)
      .map((value, i) => value - times[i]!)
      .sort((one, other) => one - other);
    const middle = steps[steps.length >> 1]!;
    const places = Math.max(
      ...rows.slice(0, 200).map((row) => placesOf(splitLine(row, delimiter)[timeColumn]!, decimal)),
    );
    resolution = 10 ** -places * timeScale;
    const evenly = Math.abs(middle - mean) < 0.2 * mean || middle <= 0 || resolution > 0.1 * mean * timeScale;
    step = (evenly ? mean : middle) * timeScale;
    const off = Math.max(UNEVEN_STEP * middle, (2 * resolution) / timeScale);
    uneven = steps.filter((one) => Math.abs(one - middle) > off).length > UNEVEN_SHARE * steps.length;
  }
  const columns = signal.map((at, index) => {
    const known = valueUnits[headed[at]!.unit.toLowerCase()];
    return {
      name: headed[at]!.name || `channel ${index + 1}`,
      unit: known?.unit ?? headed[at]!.unit,
      scale: known?.scale ?? 1,
      at,
    };
  });
  const signWords = { ',': 'commas', ';': 'semicolons', '\t': 'tabs', ' ': 'spaces' }[delimiter];
  notes.unshift(
    `Cells parted by ${signWords}, decimal ${decimal === ',' ? 'comma' : 'point'}, ${headLines === 0 ? 'no head' : headLines === 1 ? '1 line of head' : `${headLines} lines of head`}.`,
  );
  notes.push(
    timeColumn === null
      ? `No time column; the head says ${stepWords(step)} a sample.`
      : `Time in column ${timeColumn + 1}${headed[timeColumn]!.name ? ` ('${headed[timeColumn]!.name}')` : ''}, ${stepWords(step)} a sample.`,
  );
  for (const { name, scale } of columns) if (scale === 1e-3) notes.push(`'${name}' is in millivolts.`);
  return ok({ delimiter, decimal, headLines, timeColumn, timeScale, step, resolution, uneven, columns, cells, notes });
}

export const stepWords = (seconds: number): string =>
  seconds >= 0.999e-3
    ? `${Number((seconds * 1e3).toPrecision(4))} ms`
    : seconds >= 0.999e-6
      ? `${Number((seconds * 1e6).toPrecision(4))} µs`
      : `${Number((seconds * 1e9).toPrecision(4))} ns`;

/** What was not taken as it stands, in sentences. */
export function leftOut({
  gaps,
  missing,
  bad,
  firstBad,
}: Readonly<Record<'gaps' | 'missing' | 'bad' | 'firstBad', number>>): string[] {
  const notes: string[] = [];
  if (gaps > 0)
    notes.push(
      `${gaps === 1 ? 'In 1 place samples are' : `In ${gaps} places samples are`} missing: the time jumps ahead.`,
    );
  if (missing > 0)
    notes.push(`${missing === 1 ? '1 cell has' : `${missing} cells have`} no figure; they count as no signal.`);
  if (bad > 0)
    notes.push(
      `${bad === 1 ? '1 line is' : `${bad} lines are`} no row of figures and left out, the first is line ${firstBad}.`,
    );
  return notes;
}

/** Figures of a row, cell by cell as they are written: seconds not scaled, NaN without a time column; null when it is no row. */
export function cellsOf(layout: CsvLayout, text: string): { seconds: number; values: number[] } | null {
  const cells = layout.delimiter === ' ' ? text.trim().split(/ +/) : text.split(layout.delimiter);
  const seconds = layout.timeColumn === null ? Number.NaN : numberOf(cells[layout.timeColumn] ?? '', layout.decimal);
  const values = layout.columns.map(({ at }) => numberOf(cells[at] ?? '', layout.decimal));
  const badTime = layout.timeColumn !== null && Number.isNaN(seconds);
  const empty = layout.timeColumn === null && values.every(Number.isNaN);
  return badTime || empty || cells.length > layout.cells + 1 ? null : { seconds, values };
}

export function endOfLine(bytes: Uint8Array, from: number): number {
  const end = bytes.indexOf(10, from);
  return end < 0 ? bytes.length : end;
}

import { fail, ok, type Result } from '../problem';
import type { Point } from '../devices/curve';

/** Cells of a line: by tab, semicolon or bar; else by comma when a space follows it or a point is the decimal sign; else by spaces. */
function cellsOf(line: string): string[] {
  if (/[\t;|]/.test(line)) return line.split(/[\t;|]/);
  if (/,\s/.test(line) || (line.includes('.') && line.includes(','))) return line.split(',');
  const spaced = line.trim().split(/\s+/);
  if (spaced.length > 1) return spaced;
  const commas = line.split(',');
  return commas.length === 2 ? commas : spaced;
}

/** A number as people write it: a decimal comma, a unit behind it, a real minus sign. */
function figureOf(cell: string): number | null {
  const match = /^\s*([-+−]?\d+(?:[.,]\d+)?)\s*[a-zA-ZΩ°%/²]*\s*$/.exec(cell);
  return match ? Number(match[1]!.replace('−', '-').replace(',', '.')) : null;
}

/**
 * Two columns of a calibration pasted from a sheet or a page: signal and value, one pair a line. A first line without
 * figures is a heading. Every other line that is not two figures is named.
 */
export function parsePoints(text: string, options: { ohms: boolean; most?: number }): Result<Point[]> {
  const lines = text
    .split(/\r?\n/)
    .map((line, index) => ({ line, number: index + 1 }))
    .filter(({ line }) => line.trim() !== '');
  if (lines.length === 0) return fail('empty', '', 'There are no figures to read.');
  const points: Point[] = [];
  for (const { line, number } of lines) {
    const figures = cellsOf(line)
      .filter((cell) => cell.trim() !== '')
      .map(figureOf);
    if (
      points.length === 0 &&
      figures.every((figure) => figure === null) &&
      lines.length > 1 &&
      number === lines[0]!.number
    )
      continue;
    if (figures.length !== 2 || figures[0] === null || figures[1] === null)
      return fail(
        'ragged',
        `line ${number}`,
        `Line ${number}: two figures are needed, signal and value, in '${line.trim().slice(0, 40)}'.`,
      );
    if (options.ohms && figures[0]! <= 0)
      return fail('ohms', `line ${number}`, `Line ${number}: ${figures[0]} ohms cannot be; a resistance is above 0.`);
    points.push({ signal: figures[0]!, value: figures[1]! });
  }
  if (points.length < 2) return fail('few', '', 'A table needs two lines at least.');
  if (points.length > (options.most ?? 64))
    return fail('many', '', `A table holds at most ${options.most ?? 64} lines; there are ${points.length}.`);
  return ok(points);
}

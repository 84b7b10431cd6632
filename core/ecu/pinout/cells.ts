import Papa from 'papaparse';
import { wordsFor } from './glossary';
import { placeJoint, placesOf } from './places';

/** Where a piece of the pasted text stands: from its first character to the one after its last. */
export interface Place {
  readonly from: number;
  readonly to: number;
}
/** A piece of a line with its place in the text. */
export interface Cell extends Place {
  readonly text: string;
}
/** One line of the text, cut into cells. */
export interface Line extends Place {
  /** From 1, as an editor counts. */
  readonly line: number;
  readonly cells: readonly Cell[];
}

/** How the columns of a text are parted. */
export type Delimiter = '\t' | '|' | ';' | ',' | 'spaces' | 'single' | 'found' | 'stacked';

/** A cell without the blanks and quotes about it; its place is that of what is left. */
export function trimmed(raw: string, from: number): Cell {
  let [start, end] = [0, raw.length];
  const blank = (at: number) => /[\s\u00a0]/.test(raw[at]!);
  while (start < end && blank(start)) start += 1;
  while (end > start && blank(end - 1)) end -= 1;
  if (end - start >= 2 && /["']/.test(raw[start]!) && raw[end - 1] === raw[start]) {
    start += 1;
    end -= 1;
  }
  return { text: raw.slice(start, end).replace(/\u00a0/g, ' '), from: from + start, to: from + end };
}

/** The sign that parts most lines into at least two cells; tabs and bars are believed before commas and spaces. */
export function delimiterOf(lines: readonly string[]): Delimiter {
  const full = lines.filter((line) => line.trim() !== '');
  const share = (test: (line: string) => boolean) => full.filter(test).length / Math.max(1, full.length);
  if (share((line) => line.includes('\t')) >= 0.3) return '\t';
  if (share((line) => line.includes('|')) >= 0.3) return '|';
  if (share((line) => line.split(';').length > 1) >= 0.6) return ';';
  if (share((line) => /\S {2,}\S/.test(line)) >= 0.4) return 'spaces';
  // Commas part cells only where lines agree on how many there are; a list of functions has them within a cell.
  const commas = full.map((line) => Papa.parse<string[]>(line, { delimiter: ',' }).data[0]?.length ?? 1);
  const usual = [...commas].sort((a, b) => a - b)[Math.floor(commas.length / 2)] ?? 1;
  if (usual >= 2 && commas.filter((count) => count === usual).length / Math.max(1, commas.length) >= 0.6) return ',';
  return 'single';
}

/** A line longer than this names no cavity at a place of its own: it is prose, or a file that is none of lines. */
export const LONGEST = 4000;

/** A number that is a figure with a unit stands for no cavity. */
export const noUnit =
  '(?!\\s*(?:V|volts?|m?A|k?Hz|k?Ω|k?ohms?|k\\d|mm|bar|kPa|%|°)(?![A-Za-zÀ-ž]))(?![.,]\\d)(?!(?:-|–|\\.\\.)\\d+(?:[.,]\\d+)?\\s*(?:V|m?A|k?Hz)(?![A-Za-zÀ-ž]))';
const spot = `(?:[A-Z]{1,3}\\d{0,2}[-./]?|[A-Z]{1,2}\\s)?\\d{1,3}${noUnit}`;
/** A cavity further on in the head: with a blank in it, it would be words ('B5 - VR 2'). */
const later = `(?:[A-Z]{1,3}\\d{0,2}[-./]?)?\\d{1,3}${noUnit}`;
const joint = placeJoint;
/** Cavities at the head of a line, the sign after them, and the rest: `A12: Injector 3`, `12) Coil 1`, `A13, A14 and A15: ground`. */
const heading = new RegExp(
  `^[(\\[]?(?<head>(?:(?:${wordsFor('pin')})(?![A-Za-z])\\s*)?(?:#\\s*)?(?:\\d{1,3}(?:,\\d{1,3})+(?=\\s*[:=)])|${spot}(?:${joint}${later})*))(?![a-z0-9])\\s*(?:=>|->|[:=).\\]→]|[-–—](?=\\s)|(?=\\s|$))\\s*(?<rest>.*)$`,
  'i',
);

/** Cells of a line that has a cavity at its head; the whole line as one cell when it has none. */
function headed(text: string, from: number): Cell[] {
  const line = trimmed(text, from);
  const match = text.length > LONGEST ? null : heading.exec(line.text);
  // A bracket that opens is to close behind the cavity.
  if (
    !match ||
    match.groups!.rest!.trim() === '' ||
    (/^[([]/.test(line.text) && !/^.[^()[\]]{1,12}[)\]]/.test(line.text))
  )
    return [line];
  const head = line.text.indexOf(match.groups!.head!);
  const rest = line.text.length - match.groups!.rest!.length;
  return [trimmed(match.groups!.head!, line.from + head), trimmed(match.groups!.rest!, line.from + rest)];
}

/** Cavities of another plug that stand within the words of most lines and count up: `A1 Injector 1 B1 Tacho`. */
function secondPlug(words: readonly string[]): ReadonlySet<string> {
  const byPlug = new Map<string, number[]>();
  for (const text of words)
    for (const [, plug, number] of text.matchAll(/\s([A-Z]{1,2})(\d{1,3})(?=\s+\S)/g))
      byPlug.set(plug!, [...(byPlug.get(plug!) ?? []), Number(number)]);
  const counts = [...byPlug].filter(
    ([, own]) =>
      own.length >= 0.5 * words.length &&
      own.filter((one, i) => i > 0 && one === own[i - 1]! + 1).length >= 0.8 * (own.length - 1),
  );
  return new Set(counts.flatMap(([plug, own]) => own.map((one) => `${plug}${one}`)));
}

/** Second cavities within lines, where most lines have one: two columns of a page that were copied as one. */
function innerHeads(lines: readonly Line[]): Map<Line, { head: number; to: number }> {
  const found = new Map<Line, { head: number; to: number }>();
  const two = lines.filter(({ cells }) => cells.length === 2);
  if (two.length < 4) return found;
  const prefixOf = (text: string) => /^([A-Z]{1,2})\d/i.exec(text)?.[1]!.toUpperCase() ?? null;
  const prefixes = new Set(two.map(({ cells }) => prefixOf(cells[0]!.text)));
  const numberOf = (text: string) => Number(/\d+/.exec(text)?.[0]);
  const second = secondPlug(two.map(({ cells }) => cells[1]!.text));
  const lettered = two.flatMap((line) => {
    const rest = line.cells[1]!;
    for (const match of rest.text.matchAll(/\s([A-Z]{1,2}\d{1,3})(?=\s+\S)/gi))
      if ((prefixes.has(prefixOf(match[1]!)) || second.has(match[1]!)) && /^[A-Z]/.test(match[1]!))
        return [{ line, head: rest.from + match.index + 1, to: rest.from + match.index + 1 + match[1]!.length }];
    return [];
  });
  if (lettered.length >= 0.5 * two.length) {
    for (const { line, ...at } of lettered) found.set(line, at);
    return found;
  }
  // Bare numbers: the second column runs ahead of the first by the same count on most lines.
  const gaps = two.flatMap((line) => {
    const [first, rest] = line.cells as [Cell, Cell];
    if (!/^\d+$/.test(first.text)) return [];
    return [...rest.text.matchAll(new RegExp(`\\s(\\d{1,3})${noUnit}(?=\\s+[A-Za-zÀ-ÿ+])`, 'g'))].map((match) => ({
      line,
      gap: Number(match[1]) - numberOf(first.text),
      head: rest.from + match.index + 1,
      to: rest.from + match.index + 1 + match[1]!.length,
    }));
  });
  const counts = new Map<number, number>();
  for (const { gap } of gaps) if (gap > 1) counts.set(gap, (counts.get(gap) ?? 0) + 1);
  const [most] = [...counts].sort((one, other) => other[1] - one[1]);
  if (most && most[1] >= 0.6 * two.length)
    for (const { line, gap, ...at } of gaps) if (gap === most[0] && !found.has(line)) found.set(line, at);
  return found;
}

/** Cells of one line by a sign, each with its place. */
function parted(text: string, from: number, sign: RegExp): Cell[] {
  const cells: Cell[] = [];
  let start = 0;
  for (const match of text.matchAll(sign)) {
    cells.push(trimmed(text.slice(start, match.index), from + start));
    start = match.index + match[0].length;
  }
  cells.push(trimmed(text.slice(start), from + start));
  return cells;
}

function cutLine(text: string, from: number, delimiter: Delimiter): Cell[] {
  switch (delimiter) {
    case '\t':
      return parted(text, from, /\t/g);
    case '|': {
      const cells = parted(text, from, /\|/g);
      // A table drawn with bars has one at each end.
      if (cells[0]?.text === '') cells.shift();
      if (cells[cells.length - 1]?.text === '') cells.pop();
      return cells;
    }
    case 'spaces': {
      const start = text.length - text.trimStart().length;
      return parted(text.trim(), from + start, /\s{2,}|\t/g);
    }
    case 'single':
      return headed(text, from);
    default:
      return [];
  }
}

export const isRule = (line: string) => /^[\s|+:=_–—-]*$/.test(line);

/** Lines of a text with where they start. */
export function rawLines(text: string): { text: string; from: number }[] {
  const found: { text: string; from: number }[] = [];
  let from = text.startsWith('\uFEFF') ? 1 : 0;
  for (const match of text.matchAll(/\r\n|\r|\n/g)) {
    found.push({ text: text.slice(from, match.index), from });
    from = match.index + match[0].length;
  }
  found.push({ text: text.slice(from), from });
  return found;
}

/** Cells as a reader of CSV (RFC 4180) parts them, found again in the text. */
function quotedLines(text: string, delimiter: ',' | ';' | '\t'): Line[] {
  const start = text.startsWith('\uFEFF') ? 1 : 0;
  const parsed = Papa.parse<string[]>(text.slice(start), { delimiter, skipEmptyLines: false });
  let cursor = start;
  let [line, counted] = [1, 0];
  return parsed.data.flatMap((cells): Line[] => {
    const from = cursor;
    const places = cells.map((cell): Cell => {
      const written = cell.replace(/"/g, '""');
      const quoted = text.indexOf(written, cursor);
      const at = quoted >= 0 ? quoted : text.indexOf(cell, cursor);
      if (cell === '' || at < 0) return { text: '', from: cursor, to: cursor };
      cursor = at + (quoted >= 0 ? written.length : cell.length);
      const own = trimmed(cell, at);
      return { ...own, text: own.text.replace(/\s*\n\s*/g, ' '), to: Math.min(own.to, cursor) };
    });
    if (cells.every((cell) => cell.trim() === '')) return [];
    // Counted on from the last line: the whole text is gone through once.
    const first = places.find(({ text: said }) => said !== '')!.from;
    line += text.slice(counted, first).match(/\r\n|\r|\n/g)?.length ?? 0;
    counted = first;
    return [{ line, cells: places, from, to: cursor }];
  });
}

/** Lines of which some cell names a cavity: what a way to part the columns is good for. */
const withCavity = (lines: readonly Line[]): number =>
  lines.filter(({ cells }) => cells.length > 1 && cells.some((cell) => placesOf(cell.text).length > 0)).length;

/** Lines cut by one sign, or by the cavity at their head; blank lines and drawn rules (`----`, `|:--|`) are left out. */
export function cutBy(text: string, delimiter: Delimiter): Line[] {
  return narrow(text, cutWide(text, delimiter));
}

/** More columns than this are no table: the line stays whole. */
const WIDEST = 60;
const narrow = (text: string, lines: readonly Line[]): Line[] =>
  lines.map((line) =>
    line.cells.length <= WIDEST ? line : { ...line, cells: [trimmed(text.slice(line.from, line.to), line.from)] },
  );

function cutWide(text: string, delimiter: Delimiter): Line[] {
  if (delimiter === ',' || delimiter === ';' || (delimiter === '\t' && text.includes('"')))
    return quotedLines(text, delimiter);
  return rawLines(text).flatMap(({ text: line, from }, index): Line[] =>
    isRule(line) ? [] : [{ line: index + 1, cells: cutLine(line, from, delimiter), from, to: from + line.length }],
  );
}

/** The cut that the signs of a text ask for at first sight. */
export function cutText(text: string): { delimiter: Delimiter; lines: Line[] } {
  const delimiter = delimiterOf(rawLines(text).flatMap((line) => (isRule(line.text) ? [] : [line.text])));
  if (delimiter === 'single') return twoColumns(text, cutBy(text, 'single'));
  const lines = cutBy(text, delimiter);
  // Commas may stand in every description and part no columns: then the head of the line tells the cavity.
  if (delimiter !== ',') return { delimiter, lines };
  const byHead = cutBy(text, 'single');
  return withCavity(lines) * 2 >= withCavity(byHead) ? { delimiter, lines } : twoColumns(text, byHead);
}

/** Lines that hold two cavities, as a page of two columns is copied, become two lines. */
function twoColumns(text: string, lines: readonly Line[]): { delimiter: Delimiter; lines: Line[] } {
  const inner = innerHeads(lines);
  return {
    delimiter: 'single',
    lines: lines.flatMap((line): Line[] => {
      const second = inner.get(line);
      if (!second) return [line];
      const [head, rest] = line.cells as [Cell, Cell];
      const first = trimmed(text.slice(rest.from, second.head), rest.from);
      const own = trimmed(text.slice(second.to, line.to), second.to);
      return [
        { ...line, cells: [head, first], to: second.head },
        {
          ...line,
          from: second.head,
          cells: [{ text: text.slice(second.head, second.to), from: second.head, to: second.to }, own],
        },
      ];
    }),
  };
}

import { isRule, LONGEST, noUnit, rawLines, trimmed, type Cell, type Line } from './cells';
import { wordsFor } from './glossary';
import { placeJoint, placesOf, type Manner } from './places';
import { finderOf } from './writings';

/** Where in its line a place is looked for. */
export type Where = 'head' | 'counted' | 'tail' | 'any';

const bullet = /^[\s*•·‣▪●○◦–—>+-]+(?=\S)/;
const counted = /^\s*\d{1,3}[.)]\s+(?=\S)/;
/** Signs and small words between a place and what is said of it. */
const lead = new RegExp(`^(?:=>|->|[\\s:=)\\].,;→>|–—-]|(?:${wordsFor('is')})(?=\\s))+`, 'i');
const trail = new RegExp(`(?:->|=>|[\\s:=([.…→>|–—]|\\s(?:${wordsFor('is')}|${wordsFor('of')}))+$`, 'i');

const dashed = /\s*(?:->|=>)\s*$|[\s-]*-[\s:=(.…-]*$|[\s:=([.…→>|–—]+$/;

/** Columns within the words beside a place; `led` where a dash leads from the words to it. */
function wordCells(text: string, from: number, led = false): Cell[] {
  const cells: Cell[] = [];
  let start = 0;
  const add = (to: number) => {
    const raw = text.slice(start, to);
    const ahead = lead.exec(raw)?.[0].length ?? 0;
    const rest = raw.slice(ahead);
    const behind = ahead > 0 || start > 0 ? 0 : ((led ? dashed : trail).exec(rest)?.[0].length ?? 0);
    const cell = trimmed(rest.slice(0, rest.length - behind), from + start + ahead);
    if (cell.text !== '') cells.push(cell);
  };
  for (const match of text.matchAll(/\t|\||\s{2,}/g)) {
    add(match.index);
    start = match.index + match[0].length;
  }
  add(text.length);
  return cells;
}

export const bareNumber = `\\d{1,3}(?![\\dA-Za-z])${noUnit}`;
/** A cavity with its plug's letters, or one that is called a pin. */
export const plainPlace = `(?:(?:${wordsFor('pin')})(?![A-Za-z])\\s*#?\\s*(?:[A-Z]{1,2}\\d{0,2}[-. ]?)?|[A-Z]{1,2}\\d{0,2}[-.]?)${bareNumber}`;
/** A bare number stands at the end of a line only behind a sign that leads to it. */
export const endNumber = `(?<=\\t|\\s{2}|\\.{2}\\s?|[:=→(#]\\s?)${bareNumber}(?=\\s*[)\\]]?\\s*$)`;

/** A line, or a part of one that holds a cavity of its own. */
interface Piece {
  readonly text: string;
  readonly from: number;
  readonly line: number;
}
const between = new RegExp(`\\s*[;,|\\t]\\s*(?=${plainPlace}[\\s:=.)–-]+\\S)`, 'gi');

/** Lines parted where another cavity follows a sign: `A1 Injector 1; A2 Injector 2`. */
export function piecesOf(text: string): Piece[] {
  return rawLines(text).flatMap(({ text: line, from }, index) => {
    const found: Piece[] = [];
    let start = 0;
    for (const sign of line.length > LONGEST ? [] : line.matchAll(between)) {
      found.push({ text: line.slice(start, sign.index), from: from + start, line: index + 1 });
      start = sign.index + sign[0].length;
    }
    return [...found, { text: line.slice(start), from: from + start, line: index + 1 }];
  });
}

/**
 * Lines cut where a place is found in them: the place first, then what stands about it. \`source\` is a pattern of one place.
 * O(characters).
 */
export function cutAtPlaces(
  text: string,
  source: string,
  where: Where,
  pieces: readonly Piece[] = rawLines(text).map((line, index) => ({ ...line, line: index + 1 })),
): Line[] {
  const finder = finderOf(`${source}(?:${placeJoint}(?:${source}|${bareNumber}))*`);
  const found = pieces.flatMap(({ text: line, from, line: at }) => {
    if (isRule(line)) return [];
    const skip = (where === 'counted' ? counted : bullet).exec(line)?.[0].length ?? 0;
    const body = line.slice(skip);
    const all = line.length > LONGEST ? [] : [...body.matchAll(finder)];
    const place =
      where === 'any'
        ? all[0]
        : where === 'tail'
          ? all.findLast((match) => /^[\s)\].]*$/.test(body.slice(match.index + match[0].length)))
          : all.find((match) => /^[\s([]*$/.test(body.slice(0, match.index)));
    return [{ line: at, from, to: from + line.length, text: line, skip, body, place }];
  });
  // A dash ahead of the place leads to it where most lines have one; else it is the minus of what is said.
  const behind = found.filter(({ place }) => place && place.index > 0);
  const led =
    behind.filter(({ body, place }) => /-\s*[([]?\s*$/.test(body.slice(0, place!.index))).length > 0.6 * behind.length;
  return found.map(({ line, from, to, text: own, skip, body, place }): Line => {
    if (!place) return { line, from, to, cells: [trimmed(own, from)] };
    const end = place.index + place[0].length;
    return {
      line,
      from,
      to,
      cells: [
        trimmed(place[0], from + skip + place.index),
        ...wordCells(body.slice(0, place.index), from + skip, led),
        ...wordCells(body.slice(end).replace(/\.\s*$/, ''), from + skip + end),
      ],
    };
  });
}

/** Lines that name places and nothing else. */
function placeLines(text: string, manner: Manner): { cell: Cell; line: Line; place: boolean }[] {
  return rawLines(text).flatMap(({ text: line, from }, index) => {
    const cell = trimmed(line, from);
    if (cell.text === '' || (isRule(line) && cell.text.length > 2)) return [];
    const whole = { line: index + 1, cells: [cell], from, to: from + line.length };
    return [{ cell, line: whole, place: placesOf(cell.text, manner).length > 0 }];
  });
}

/** Every second, third or fourth line, where those are places throughout: a label such as 'IN 3' looks like one too. */
function comb(all: readonly { readonly place: boolean }[]): number[] | null {
  const places = all.filter(({ place }) => place).length;
  for (const period of [2, 3, 4])
    for (let start = 0; start < period; start += 1) {
      const teeth = Array.from({ length: Math.ceil((all.length - start) / period) }, (_, i) => start + i * period);
      const own = teeth.filter((at) => all[at]!.place);
      if (own.length >= 3 && own.length >= 0.95 * teeth.length && own.length >= 0.6 * places) return own;
    }
  return null;
}

/** Records of two to four lines, one of them the place: as cells of a table copied one below the other, the
 * place at the foot of each (`ahead`: its words stand ahead of it) or at its head; null for none. */
export function cutStacked(text: string, manner: Manner, ahead: boolean): Line[] | null {
  const all = placeLines(text, manner);
  const places = comb(all) ?? all.flatMap(({ place }, at) => (place ? [at] : []));
  if (places.length < 3 || places.length < 0.2 * all.length) return null;
  const gaps = places.slice(1).map((at, i) => at - places[i]!);
  const counts = new Map<number, number>();
  for (const gap of gaps) counts.set(gap, (counts.get(gap) ?? 0) + 1);
  const [usual] = [...counts].sort((one, other) => other[1] - one[1]);
  if (!usual || usual[0] < 2 || usual[0] > 4 || usual[1] < 0.6 * gaps.length) return null;
  const period = usual[0];
  const taken = new Set<number>();
  const records = places.flatMap((at, i) => {
    const [from, to] = ahead
      ? [Math.max(i === 0 ? 0 : places[i - 1]! + 1, at - period + 1), at + 1]
      : [at, Math.min(places[i + 1] ?? all.length, at + period)];
    for (let k = from; k < to; k += 1) taken.add(k);
    const record = all.slice(from, to);
    const others = record.flatMap(({ cell }, k) => (k === at - from ? [] : [cell]));
    return [{ at: from, line: { ...record[0]!.line, to: record.at(-1)!.line.to, cells: [all[at]!.cell, ...others] } }];
  });
  // Lines beyond the usual number, such as the foot of a page, stand by themselves.
  const alone = all.flatMap(({ line }, at) => (taken.has(at) ? [] : [{ at, line }]));
  return [...records, ...alone].sort((one, other) => one.at - other.at).map(({ line }) => line);
}

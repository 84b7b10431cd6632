import { pinIdOf } from '../ecu';
import { cutBy, cutText, rawLines, type Delimiter, type Line } from './cells';
import { cutAtPlaces, cutStacked, bareNumber, endNumber, piecesOf, plainPlace, type Where } from './finds';
import { anyManner } from './places';
import { Rows, type Propose } from './rows';
import { proposeFrom, saysEmpty, type Proposal } from './words';
import { writingsIn, type Writing } from './writings';

/** One way to see the whole page: how its lines are cut, and how its cavities are written. */
interface Sight {
  readonly delimiter: Delimiter;
  readonly lines: readonly Line[];
  readonly writing: Writing | null;
}
export interface Page {
  readonly delimiter: Delimiter;
  readonly rows: Rows;
  /** What it explains of the page, in cavities: at most one for each. */
  readonly score: number;
  /** Another way to see it that explains as much and names other cavities. */
  readonly other: Rows | null;
}

/** Lines on which the ways to see a page are compared; the one that wins then reads all of it. */
const LOOKED_AT = 240;

/** The beginning of a text, whole lines. */
function beginning(text: string): string {
  const lines = rawLines(text);
  return lines.length <= LOOKED_AT ? text : text.slice(0, lines[LOOKED_AT]!.from);
}

function sightsOf(text: string): ((whole: string) => Sight)[] {
  const first = cutText(text);
  const delimiters: Delimiter[] = ['\t', '|', ';', ',', 'spaces'];
  const raw = rawLines(text).filter((line) => line.text.trim() !== '');
  const parted = (sign: Delimiter): boolean =>
    raw.filter(({ text: line }) => (sign === 'spaces' ? /\S {2,}\S/.test(line) : line.includes(sign))).length >=
    0.3 * raw.length;
  const columns = delimiters.filter((sign) => sign !== first.delimiter && parted(sign));
  const heads = cutBy(text, 'single');
  const writings = writingsIn(heads, text);
  const by =
    (delimiter: Delimiter, writing: Writing | null) =>
    (whole: string): Sight => ({
      ...(delimiter === first.delimiter ? cutText(whole) : { delimiter, lines: cutBy(whole, delimiter) }),
      writing,
    });
  const at =
    (source: string, where: Where, writing: Writing | null) =>
    (whole: string): Sight => ({
      delimiter: 'found',
      lines: cutAtPlaces(whole, source, where),
      writing,
    });
  const several = (whole: string): Sight => ({
    delimiter: 'found',
    lines: cutAtPlaces(whole, plainPlace, 'head', piecesOf(whole)),
    writing: null,
  });
  const stacked =
    (writing: Writing | null, ahead: boolean) =>
    (whole: string): Sight => ({
      delimiter: 'stacked',
      lines: cutStacked(whole, writing ? { ...anyManner, writing } : anyManner, ahead) ?? [],
      writing,
    });
  return [
    by(first.delimiter, null),
    ...columns.map((sign) => by(sign, null)),
    ...(first.delimiter === 'single' ? [] : [by('single', null)]),
    ...(['head', 'counted', 'tail', 'any'] as const).map((where) => at(plainPlace, where, null)),
    at(endNumber, 'tail', null),
    at(`(?:${plainPlace}|${bareNumber})`, 'head', null),
    several,
    stacked(null, false),
    stacked(null, true),
    ...writings.flatMap((writing) => [
      ...[first.delimiter, ...columns].filter((sign) => sign !== 'single').map((sign) => by(sign, writing)),
      ...(['head', 'counted', 'tail', 'any'] as const).map((where) => at(writing.source, where, writing)),
      stacked(writing, false),
      stacked(writing, true),
    ]),
  ];
}

const worth = { sure: 1, likely: 0.95, guess: 0.85, none: -0.2 } as const;

/**
 * What a reading explains of its page, in cavities: each one understood counts, each that is named again, stands alone on its
 * plug, or leaves its words behind counts against it.
 */
export function scoreOf(rows: Rows, propose: Propose): number {
  const byPlug = new Map<string, number[]>();
  const seen = new Set<string>();
  let score = 0;
  let order = 0;
  let headed = 0;
  let before = '';
  for (const pin of rows.read) {
    const id = pinIdOf(pin.connector, pin.cavity);
    if (seen.has(id)) score -= 1.5;
    else score += worth[pin.confidence];
    seen.add(id);
    if (id === before) order += 1;
    before = pinIdOf(pin.connector, pin.cavity + 1);
    byPlug.set(pin.connector, [...(byPlug.get(pin.connector) ?? []), pin.cavity]);
    if (/^[A-Z]{1,2}\d{0,2}[-./:_]?\d{1,3}\s+\S/.test(pin.label)) headed += 1;
    // A number or a sign ahead of the words is a piece of the place that was not taken with it.
    if (/^(?:[\d/.:_()[\]=-]+(?:\s|$)|[A-Z]{1,2}\d{0,2}\s*[/.:_[\](])/.test(pin.label)) score -= 0.3;
  }
  for (const id of rows.empty) {
    if (!seen.has(id)) score += 0.6;
    seen.add(id);
  }
  score -= 0.7 * rows.blank;
  // Most labels begin with a place: the cavity is there, and what was taken for it is a count.
  if (headed > 0.6 * rows.read.length) score -= 0.5 * headed;
  score += 0.1 * order;
  for (const own of byPlug.values()) {
    const span = Math.max(...own) - Math.min(...own) + 1;
    score -= 0.2 + 0.2 * Math.min(Math.max(0, span - own.length), 2 * own.length);
    if (own.length === 1 && rows.read.length > 4) score -= 1;
    // Numbers that begin high are of wires or rows: cavities count from one.
    if (Math.min(...own) > 40) score -= 0.5 * own.length;
  }
  score -= 0.5 * insideOf(rows);
  // Words left behind count where they would have said something of a pin.
  for (const words of rows.left)
    score -= words.length < 80 && !saysEmpty(words) && propose('', words).abilities.length > 0 ? 0.4 : 0.05;
  return score;
}

/** Pins whose words name a further cavity of a plug that the page has: its lines hold more than one. */
export function insideOf(rows: Rows): number {
  const plugs = new Set(rows.read.map((pin) => pin.connector));
  return rows.read.filter((pin) =>
    [...pin.text.matchAll(/[\s;,]([A-Z]{1,2})\d{1,3}\s+[A-Za-zÀ-ž]/g)].some(([, plug]) => plugs.has(plug!)),
  ).length;
}

/** Sees a page in every way its signs allow, and keeps the one that explains most of it with the fewest odd cavities. */
export function seePage(text: string): Page {
  const known = new Map<string, Proposal>();
  const propose: Propose = (label, words) => {
    const key = `${label}\n${words}`;
    const proposal = known.get(key) ?? proposeFrom(label, words);
    known.set(key, proposal);
    return proposal;
  };
  const start = beginning(text);
  const seen = sightsOf(start).map((sight, at) => {
    const { lines, writing } = sight(start);
    const rows = new Rows(start, lines, writing, propose);
    // At first sight is believed where two explain alike.
    return { sight, rows, score: scoreOf(rows, propose) + (at === 0 ? 0.5 : 0) };
  });
  // A way that finds nothing explains nothing, however little it gets wrong.
  const found = ({ rows }: { rows: Rows }) => Number(rows.read.length + rows.empty.length > 0);
  const [best, ...rest] = seen.sort((one, other) => found(other) - found(one) || other.score - one.score);
  const { sight, rows, score } = best!;
  const ids = new Set(idsOf(rows));
  const other = rest.find(
    (one) => one.score > 0.9 * score && idsOf(one.rows).filter((id) => !ids.has(id)).length > 0.3 * ids.size,
  );
  const { delimiter, lines, writing } = sight(text);
  return {
    delimiter,
    rows: start === text ? rows : new Rows(text, lines, writing, propose),
    score,
    other: other?.rows ?? null,
  };
}

const idsOf = (rows: Rows): string[] => rows.read.map((pin) => pinIdOf(pin.connector, pin.cavity));

import { wordsFor } from './glossary';
import type { Writing } from './writings';

/** A cavity as it was named. */
export interface Spot {
  readonly connector: string;
  readonly cavity: number;
}

/**
 * How a text writes its cavities, where one writing could be read two ways: `X1/12` is cavity 12 of plug X1 or the cavities X1
 * and X12; `B1-4` is cavity 4 of plug B1 or the cavities B1 to B4. What the rest of the text does decides.
 */
export interface Manner {
  /** Plugs named before a stroke: `X1/12`. */
  readonly slashed: ReadonlySet<string>;
  /** Plugs named before a dash: `J1-4`. */
  readonly dashed: ReadonlySet<string>;
  /** How plug and cavity stand together, where the whole text writes them so. */
  readonly writing?: Writing;
}
const lettersOf = (plug: string): string => plug.replace(/\d.*$/, '');
/** Plugs of one family are written alike: what holds for X1 holds for X2. */
const likeOne = (plugs: ReadonlySet<string>, plug: string): boolean =>
  plugs.has(plug) || [...plugs].some((one) => lettersOf(one) !== '' && lettersOf(one) === lettersOf(plug));

/** With nothing else to go by, a dash parts plug and cavity and a stroke parts two cavities. */
export const anyManner: Manner = { slashed: new Set(), dashed: new Set(['*']) };

const single = new RegExp(
  `^(?:(?:${wordsFor('pin')})(?![A-Za-z])\\s*)?(?:#\\s*)?([A-Z][A-Z0-9]{0,3}(?=[-. ]\\d)|[A-Z]{1,2})?[-. ]?(\\d{1,3})\\.?$`,
  'i',
);
/** `B1=B2`: one equals another of its plug; `15 = O2` says what is there. */
const equals = '(?<=\\b(?<own>[A-Z]{0,2})\\d{1,3}\\s*)=(?=\\s*\\k<own>\\d)';
/** What stands between cavities that are named together, without the blanks about it. */
export const placeJoint = `(?:\\s*(?:-|–|—|~|〜|～|\\.\\.\\.?|…|[,&+/]|${equals})\\s*|\\s+(?:${wordsFor('to')}|${wordsFor('and')})\\s+)`;

const rangeJoint = new RegExp(`\\s*(?:-|–|—|~|〜|～|\\.\\.\\.?|…|(?<=\\s)(?:${wordsFor('to')})(?=\\s))\\s*`, 'gi');
const listJoint = new RegExp(`\\s*(?:,|;|&|\\+|/|${equals}|(?<=\\s)(?:${wordsFor('and')})(?=\\s))\\s*`, 'gi');

/** Numbers of pages, notes and figures. */
const pageWord = /^(?:page|pag|p[aá]g|rev|fig|tab|note|step|item|row|line|ver|pg)$/i;

/** `A12`, `A-12`, `J1-4`, `12`, `Pin 12`, `#12`; null for anything else. */
function spotOf(cell: string, manner: Manner): Spot | null {
  const written = manner.writing?.read(cell.trim());
  if (written) return written;
  const match = single.exec(cell.trim());
  return match && Number(match[2]) > 0 && !pageWord.test(match[1] ?? '')
    ? { connector: (match[1] ?? '').toUpperCase(), cavity: Number(match[2]) }
    : null;
}

const run = (connector: string, from: number, to: number): Spot[] =>
  to > from && to - from < 80 ? Array.from({ length: to - from + 1 }, (_, i) => ({ connector, cavity: from + i })) : [];

const slashedShape = /^([A-Z][A-Z0-9]{0,3}|\d{1,2})\/(\d{1,3})$/i;
const dashedShape = /^([A-Z]{1,2})(\d{1,2})-(\d{1,3})$/i;

/** Reads the manner off all cells that may name cavities. `named` are plugs that headings name. */
export function mannerOf(cells: readonly string[], named: ReadonlySet<string>): Manner {
  const slashes = new Map<string, Set<string>>();
  const dashes = new Map<string, Set<string>>();
  const add = (map: Map<string, Set<string>>, key: string, value: string) =>
    map.set(key, (map.get(key) ?? new Set()).add(value));
  for (const cell of cells) {
    const slash = slashedShape.exec(cell.trim());
    if (slash) add(slashes, slash[1]!.toUpperCase(), slash[2]!);
    const dash = dashedShape.exec(cell.trim());
    if (dash) add(dashes, `${dash[1]}${dash[2]}`.toUpperCase(), dash[3]!);
  }
  const often = (map: Map<string, Set<string>>) =>
    [...map].flatMap(([plug, cavities]) => (cavities.size > 1 || named.has(plug) ? [plug] : []));
  return { slashed: new Set(often(slashes)), dashed: new Set(often(dashes)) };
}

/** What a list of cavities is made of. */
function pieces(text: string): string[] {
  const found: string[] = [];
  let from = 0;
  for (const joint of text.matchAll(listJoint)) {
    found.push(text.slice(from, joint.index));
    from = joint.index + joint[0].length;
  }
  return [...found, text.slice(from)].filter((part) => part !== '');
}

/** Cavities a cell names: one, a range (`A1-A4`, `1..8`, `A1 to 4`), or a list (`A1, A3 & A5`); empty when it names none. */
export function placesOf(cell: string, manner: Manner = anyManner): Spot[] {
  const text = cell.trim().normalize('NFKC');
  if (text.length > 60 || !/\d/.test(text)) return [];
  const whole = manner.writing?.read(text);
  if (whole) return [whole];
  const slash = slashedShape.exec(text);
  if (slash) {
    const plug = slash[1]!.toUpperCase();
    // A letter alone, or a plug that the text names more than once before a stroke.
    if (/^[A-Z]+$/.test(plug) || likeOne(manner.slashed, plug))
      return [{ connector: /^\d/.test(plug) ? `X${plug}` : plug, cavity: Number(slash[2]) }];
  }
  const dash = dashedShape.exec(text);
  if (dash) {
    const [plug, from, to] = [dash[1]!.toUpperCase(), Number(dash[2]), Number(dash[3])];
    const whole = `${plug}${dash[2]}`;
    if (manner.dashed.has('*') || likeOne(manner.dashed, whole)) return [{ connector: whole, cavity: to }];
    const range = run(plug, from, to);
    return range.length > 0 ? range : [{ connector: whole, cavity: to }];
  }
  for (const joint of text.matchAll(rangeJoint)) {
    const [from, to] = [
      spotOf(text.slice(0, joint.index), manner),
      spotOf(text.slice(joint.index + joint[0].length), manner),
    ];
    if (from && to && (to.connector === '' || to.connector === from.connector)) {
      const list = run(from.connector, from.cavity, to.cavity);
      if (list.length > 0) return list;
    }
  }
  const parts = pieces(text);
  const spots = parts.flatMap((part) => {
    const own = spotOf(part, manner);
    if (own) return [own];
    // A range within a list: `A1-A4, A9`.
    const inner = part !== text ? placesOf(part, manner) : [];
    return inner.length > 0 ? inner : [null];
  });
  if (spots.length === 0 || spots.some((spot) => spot === null)) return [];
  const first = spots[0]!.connector;
  return spots.map((spot) => ({ connector: spot!.connector || first, cavity: spot!.cavity }));
}

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
}
const lettersOf = (plug: string): string => plug.replace(/\d.*$/, '');
/** Plugs of one family are written alike: what holds for X1 holds for X2. */
const likeOne = (plugs: ReadonlySet<string>, plug: string): boolean =>
  plugs.has(plug) || [...plugs].some((one) => lettersOf(one) !== '' && lettersOf(one) === lettersOf(plug));

/** With nothing else to go by, a dash parts plug and cavity and a stroke parts two cavities. */
export const anyManner: Manner = { slashed: new Set(), dashed: new Set(['*']) };

const single =
  /^(?:pins?|cav(?:ity)?|pos(?:ition)?|terminal|borne|no\.?|#)?\s*([A-Z][A-Z0-9]{0,3}(?=[-. ]\d)|[A-Z]{1,2})?[-. ]?(\d{1,3})\.?$/i;

/** `A12`, `A-12`, `J1-4`, `12`, `Pin 12`, `#12`; null for anything else. */
function spotOf(cell: string): Spot | null {
  const match = single.exec(cell.trim());
  return match ? { connector: (match[1] ?? '').toUpperCase(), cavity: Number(match[2]) } : null;
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

/** Cavities a cell names: one, a range (`A1-A4`, `1..8`, `A1 to 4`), or a list (`A1, A3 & A5`); empty when it names none. */
export function placesOf(cell: string, manner: Manner = anyManner): Spot[] {
  const text = cell.trim();
  if (text.length > 60) return [];
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
  const range = /^(.*?\d)\s*(?:-|–|—|\.\.\.?|to|through|bis|\ba\b|à)\s*((?:[A-Z]{1,3}\d?[-. ]?)?\d{1,3})$/i.exec(text);
  if (range) {
    const [from, to] = [spotOf(range[1]!), spotOf(range[2]!)];
    if (from && to && (to.connector === '' || to.connector === from.connector)) {
      const list = run(from.connector, from.cavity, to.cavity);
      if (list.length > 0) return list;
    }
  }
  const parts = text.split(/\s*(?:,|&|\+|\/|\band\b|\bund\b|\bet\b|\by\b|\be\b)\s*/i).filter((part) => part !== '');
  const spots = parts.flatMap((part) => {
    const own = spotOf(part);
    if (own) return [own];
    // A range within a list: `A1-A4, A9`.
    const inner = part !== text ? placesOf(part, manner) : [];
    return inner.length > 0 ? inner : [null];
  });
  if (spots.length === 0 || spots.some((spot) => spot === null)) return [];
  const first = spots[0]!.connector;
  return spots.map((spot) => ({ connector: spot!.connector || first, cavity: spot!.cavity }));
}

import { fail, ok, type Result } from '../../problem';
import { pinIdOf, type Ability } from '../ecu';
import { cutText, type Delimiter, type Line } from './cells';
import { proposeFrom, saysEmpty, type Confidence } from './words';

/** One cavity as it was read, before the person has looked at it. */
export interface ReadPin {
  readonly connector: string;
  readonly cavity: number;
  readonly label: string;
  /** Everything that was said of it. */
  readonly text: string;
  /** Colour of the flying lead, as written; '' for none. */
  readonly lead: string;
  readonly abilities: readonly Ability[];
  readonly confidence: Confidence;
  readonly why: string;
  readonly line: number;
}

export interface ReadPinout {
  readonly delimiter: Delimiter;
  /** Name by connector, in order of appearance: '' when the text gives none. */
  readonly connectors: readonly { readonly id: string; readonly name: string; readonly ways: number | null }[];
  readonly pins: readonly ReadPin[];
  /** Cavities that the text says are empty. */
  readonly empty: readonly string[];
  /** Lines that were no cavity: headings and notes, with what became of them. */
  readonly notes: readonly { readonly line: number; readonly sentence: string }[];
}

const LIMIT = 400_000;

interface Place {
  readonly connector: string;
  readonly cavity: number;
}

const single =
  /^(?:pin|cav(?:ity)?|pos(?:ition)?|terminal|no\.?|#)?\s*([A-Z][A-Z0-9]{0,2}(?=[-. ]\d)|[A-Z]{1,2})?[-. ]?(\d{1,3})\.?$/i;

/** `A12`, `A-12`, `J1-4`, `12`, `Pin 12`, `#12`; null for anything else. */
function placeOf(cell: string): Place | null {
  const match = single.exec(cell.trim());
  return match ? { connector: (match[1] ?? '').toUpperCase(), cavity: Number(match[2]) } : null;
}

/** Cavities a cell names: one, a range (`A1-A4`, `1..8`, `A1 to 4`), or a list (`A1, A3 & A5`); empty when it names none. */
export function placesOf(cell: string): Place[] {
  const text = cell.trim();
  if (text.length > 60) return [];
  const range = /^(.*?\d)\s*(?:-|–|—|\.\.\.?|to|through)\s*((?:[A-Z]{1,3}\d?[-. ]?)?\d{1,3})$/i.exec(text);
  if (range && !/^[A-Z][A-Z0-9]{0,2}-\d{1,3}$/i.test(text)) {
    const [from, to] = [placeOf(range[1]), placeOf(range[2])];
    if (
      from &&
      to &&
      (to.connector === '' || to.connector === from.connector) &&
      to.cavity > from.cavity &&
      to.cavity - from.cavity < 80
    )
      return Array.from({ length: to.cavity - from.cavity + 1 }, (_, i) => ({
        connector: from.connector,
        cavity: from.cavity + i,
      }));
  }
  const parts = text.split(/\s*(?:,|&|\+|\/|\band\b)\s*/i).filter((part) => part !== '');
  const places = parts.map(placeOf);
  if (places.length === 0 || places.some((place) => place === null)) return [];
  const first = places[0]!.connector;
  return places.map((place) => ({ connector: place!.connector || first, cavity: place!.cavity }));
}

type Column = 'cavity' | 'connector' | 'label' | 'text' | 'lead' | 'skip';

const headings: readonly (readonly [Column, RegExp])[] = [
  ['connector', /^(connector|conn|plug|header|socket)\b/i],
  ['cavity', /^(pin|cavity|cav|pos(ition)?|terminal|way|contact|no|nr|number|#)\b|^#$/i],
  ['lead', /^(wire|lead|cable)?\s*colou?r\b|^(wire|lead)\b/i],
  ['label', /^(label|name|signal|short|designation|id)\b/i],
  [
    'text',
    /^(function|description|use|purpose|type|notes?|remarks?|comment|spec|rating|detail|current|load|limit|abilit|alternat|second|default|max)/i,
  ],
];
const headingOf = (cell: string): Column | null => headings.find(([, test]) => test.test(cell.trim()))?.[0] ?? null;

/** A line that heads columns: at least two cells are headings, one of them of cavities, and none names a cavity. */
function headerOf(cells: readonly string[]): Column[] | null {
  const found = cells.map(headingOf);
  const named = found.filter((column) => column !== null);
  if (named.length < 2 || !found.includes('cavity')) return null;
  if (cells.some((cell) => placesOf(cell).length > 0)) return null;
  return found.map((column) => column ?? 'text');
}

const connectorLine =
  /^(?:(?:connector|plug|conn\.?|header|socket)\s*[:#-]?\s*([A-Z][A-Z0-9]{0,2}|\d{1,2})\b|([A-Z][A-Z0-9]{0,2})\s*(?:connector|plug|header)\b)(.*)$/i;

/** Columns of one block of a side-by-side table. */
interface Block {
  readonly columns: readonly { readonly at: number; readonly use: Column }[];
}

/** Cuts a row of column uses into blocks, one for each cavity column. */
function blocksOf(uses: readonly Column[]): Block[] {
  const cavities = uses.flatMap((use, at) => (use === 'cavity' ? [at] : []));
  if (cavities.length <= 1) return [{ columns: uses.map((use, at) => ({ at, use })) }];
  // Where the first column is no cavity, each block ends at its cavity column; else it starts there.
  const leading = cavities[0] === 0 || uses.slice(0, cavities[0]).every((use) => use === 'connector');
  const head = leading ? cavities[0] : 0;
  return cavities.map((at, i) => {
    const from = leading ? at - head : i === 0 ? 0 : cavities[i - 1] + 1;
    const to = leading ? (cavities[i + 1] ?? uses.length + head) - head : at + 1;
    return { columns: uses.slice(from, to).map((use, k) => ({ at: from + k, use })) };
  });
}

const colourWords = /^(black|brown|red|orange|yellow|green|blue|violet|purple|grey|gray|white|pink|turquoise|clear)\b/i;
const isColourCell = (cell: string): boolean =>
  /^[A-Z]{2}([/-][A-Z]{2})?$/.test(cell) || (colourWords.test(cell) && cell.length < 24);

/** Column uses where no heading tells: by what most cells of a column look like. */
function guessColumns(lines: readonly Line[]): Column[] {
  const rows = lines.filter(({ cells }) => cells.length >= 2 && cells.some((cell) => placesOf(cell).length > 0));
  const width = Math.max(0, ...rows.map(({ cells }) => cells.length));
  const share = (at: number, test: (cell: string) => boolean) => {
    const filled = rows.map(({ cells }) => cells[at] ?? '').filter((cell) => cell !== '');
    return filled.length === 0 ? 0 : filled.filter(test).length / filled.length;
  };
  const distinct = (at: number) => {
    const filled = rows.map(({ cells }) => cells[at] ?? '').filter((cell) => cell !== '');
    return new Set(filled).size / Math.max(1, filled.length);
  };
  const uses = Array.from({ length: width }, (_, at): Column => {
    if (share(at, (cell) => placesOf(cell).length > 0) >= 0.7 && distinct(at) > 0.8) return 'cavity';
    if (share(at, (cell) => /^[A-Z][A-Z0-9]?$/i.test(cell)) >= 0.9 && distinct(at) < 0.5) return 'connector';
    if (share(at, isColourCell) >= 0.7) return 'lead';
    return 'text';
  });
  // A short first text is the label, the rest is what is said of it.
  const blocks = blocksOf(uses);
  for (const { columns } of blocks) {
    const texts = columns.filter(({ use }) => use === 'text');
    if (texts.length >= 2) uses[texts[0].at] = 'label';
  }
  return uses;
}

/** Free connector letters for connectors that the text only numbers. */
const letterFor = (name: string, taken: ReadonlyMap<string, string>): string => {
  if (/^[A-Z][A-Z0-9]{0,3}$/.test(name)) return name;
  const used = new Set(taken.values());
  const free = [...'ABCDEFGHJKLMNPQRSTUVWXYZ'].find((letter) => !used.has(letter));
  return free ?? 'Z';
};

/**
 * Reads a pinout out of any pasted table: tabs, bars, commas, semicolons, runs of spaces or plain lines; columns in any order,
 * several connectors, tables side by side, ranges, headings and notes in between. Every line that is no cavity is named in
 * `notes`; nothing is dropped silently. Fails only when no cavity is found.
 */
export function readPinout(text: string): Result<ReadPinout> {
  if (text.length > LIMIT)
    return fail('too-large', '', 'The text is longer than 400,000 characters: paste the pinout only.');
  if (text.trim() === '')
    return fail('empty', '', 'There is no text: copy the pinout from the manual or the spreadsheet first.');
  const { delimiter, lines } = cutText(text);
  const notes: { line: number; sentence: string }[] = [];
  const ids = new Map<string, string>();
  const names = new Map<string, { name: string; ways: number | null }>();
  const pins: ReadPin[] = [];
  const empty: string[] = [];
  let uses = guessColumns(lines);
  let blocks = blocksOf(uses);
  let current = '';
  const connectorId = (name: string): string => {
    const known = ids.get(name);
    if (known !== undefined) return known;
    const id = letterFor(name, ids);
    ids.set(name, id);
    if (!names.has(id)) names.set(id, { name: '', ways: null });
    return id;
  };
  const enter = (name: string, rest: string) => {
    current = name.toUpperCase();
    const ways = /(\d{1,3})\s*[- ]?(?:way|ways|pin|pins|cavities|pos|position|positions)\b/i.exec(rest);
    const said = rest.replace(/^[\s:,()–-]+|[\s:,()–-]+$/g, '');
    names.set(connectorId(current), { name: said.slice(0, 60), ways: ways ? Number(ways[1]) : null });
  };
  for (const { line, cells, text: whole } of lines) {
    const filled = cells.filter((cell) => cell !== '');
    const header = headerOf(cells);
    if (header) {
      uses = header;
      blocks = blocksOf(uses);
      notes.push({ line, sentence: `Line ${line} heads the columns.` });
      continue;
    }
    const named = connectorLine.exec(filled.join(' '));
    if (named && !filled.some((cell, i) => i > 0 && placesOf(cell).length > 0) && filled.length <= 2) {
      enter(named[1] ?? named[2], named[3] ?? '');
      notes.push({ line, sentence: `Line ${line} starts connector ${connectorId(current)}.` });
      continue;
    }
    let used = false;
    for (const { columns } of blocks) {
      const at = (use: Column) =>
        columns.filter((column) => column.use === use).map((column) => cells[column.at] ?? '');
      // A row may be shorter than the table: the first cell that names a cavity is taken.
      const cell =
        at('cavity').find((one) => placesOf(one).length > 0) ??
        (blocks.length === 1 ? cells.find((one) => placesOf(one).length > 0) : undefined);
      if (cell === undefined) continue;
      const places = placesOf(cell);
      const [own] = at('connector').filter((one) => one !== '');
      const label = at('label').join(' ').trim();
      const rest = (
        blocks.length === 1 && !uses.includes('cavity') ? cells.filter((one) => one !== cell) : [...at('text')]
      )
        .filter((one) => one !== '')
        .join(', ');
      const lead = at('lead').join(' ').trim();
      if (saysEmpty(label) && saysEmpty(rest)) {
        for (const place of places)
          empty.push(pinIdOf(connectorId(place.connector || own?.toUpperCase() || current || 'A'), place.cavity));
        used = true;
        continue;
      }
      places.forEach((place, index) => {
        const connector = connectorId((place.connector || own || current || 'A').toUpperCase());
        const [ownLabel, ownText] = numbered(label, rest, index, places.length);
        pins.push({
          connector,
          cavity: place.cavity,
          label: (ownLabel || ownText || pinIdOf(connector, place.cavity)).slice(0, 40),
          text: ownText,
          lead,
          ...proposeFrom(ownLabel, ownText),
          line,
        });
      });
      used = true;
    }
    if (!used && filled.length > 0)
      notes.push({
        line,
        sentence: `Line ${line} is no cavity and was left out: '${whole.replace(/\s+/g, ' ').trim().slice(0, 60)}'.`,
      });
  }
  if (pins.length === 0)
    return fail(
      'no-cavity',
      '',
      "No cavity was found in this text: a line needs a cavity such as 'A12' or '12' and what it does.",
    );
  return ok({
    delimiter,
    connectors: [...new Set(pins.map((pin) => pin.connector))].map((id) => ({
      id,
      ...(names.get(id) ?? { name: '', ways: null }),
    })),
    pins,
    empty,
    notes,
  });
}

/** One line for several cavities: `Injector 1-4` on `A1-A4` gives each its own number; otherwise all share the words. */
function numbered(label: string, text: string, index: number, count: number): [string, string] {
  if (count === 1) return [label, text];
  const own = (words: string): string => {
    const range = /\b(\d{1,2})\s*(?:-|–|\.\.|to)\s*(\d{1,2})\b(?!\s*(?:k?Hz|V|m?A|k?Ω|ohm))/i.exec(words);
    if (range && Number(range[2]) - Number(range[1]) === count - 1)
      return words.replace(range[0], String(Number(range[1]) + index));
    const list = /\b\d{1,2}(?:\s*(?:,|\/|&|and)\s*\d{1,2})+\b/i.exec(words);
    const numbers = list?.[0].match(/\d+/g);
    if (list && numbers?.length === count) return words.replace(list[0], numbers[index]);
    return words;
  };
  return [own(label), own(text)];
}

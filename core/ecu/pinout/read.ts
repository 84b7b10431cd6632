import { groupBy } from '../../data/group';
import { fail, ok, type Result } from '../../problem';
import { pinIdOf, type Ability } from '../ecu';
import { Account, type Span } from './account';
import { cutText, type Cell, type Delimiter } from './cells';
import { blocksOf, guessColumns, headerOf, plugLinesOf, plugOf, type Column } from './columns';
import { mannerOf, placesOf } from './places';
import { proposeFrom, saysEmpty, type Confidence } from './words';

export { placesOf } from './places';
export type { Span } from './account';

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

/** A cavity the text names more than once: which of them holds is for the person to say. */
export interface Double {
  readonly id: string;
  readonly said: readonly { readonly line: number; readonly text: string }[];
}

export interface ReadPinout {
  readonly delimiter: Delimiter;
  /** Name by connector, in order of appearance: '' when the text gives none. */
  readonly connectors: readonly { readonly id: string; readonly name: string; readonly ways: number | null }[];
  /** Each cavity once; one that is named again carries both readings and is a guess until it is looked at. */
  readonly pins: readonly ReadPin[];
  readonly doubles: readonly Double[];
  /** Cavities that the text says are empty. */
  readonly empty: readonly string[];
  /** Lines that were no cavity: headings and notes, with what became of them. */
  readonly notes: readonly { readonly line: number; readonly sentence: string }[];
  /** The whole text, piece by piece: what each was read as, or why it was left out. */
  readonly spans: readonly Span[];
}

const LIMIT = 400_000;

/** Free connector letters for connectors that the text only numbers. */
const letterFor = (name: string, taken: ReadonlyMap<string, string>): string => {
  if (/^[A-Z][A-Z0-9]{0,3}$/.test(name)) return name;
  const used = new Set(taken.values());
  const free = [...'ABCDEFGHJKLMNPQRSTUVWXYZ'].find((letter) => !used.has(letter));
  return free ?? 'Z';
};

const abilityWords = (abilities: readonly Ability[], why: string): string =>
  abilities.length === 0
    ? 'not understood: choose what it can be'
    : `read as ${abilities.map(({ kind, output }) => `${kind}${output === undefined ? '' : ` ${output}`}`).join(' or ')}${why ? `; ${why}` : ''}`;

/** Everything that was said of a pin, once. */
const saidOf = ({ label, text }: Pick<ReadPin, 'label' | 'text'>): string =>
  [label, text === label ? '' : text].filter(Boolean).join(', ');

/** The same cavity named again: both readings are kept, and neither is believed until it is looked at. */
function joined(own: readonly ReadPin[]): ReadPin {
  const first = own[0]!;
  if (own.length === 1) return first;
  const abilities = own
    .flatMap((pin) => pin.abilities)
    .filter((ability, i, all) => all.findIndex((one) => JSON.stringify(one) === JSON.stringify(ability)) === i)
    .slice(0, 8);
  return {
    ...first,
    abilities,
    text: own.map(saidOf).join(' / '),
    lead: own.find(({ lead }) => lead !== '')?.lead ?? '',
    confidence: 'guess',
    why: `Named ${own.length} times: ${own.map((pin) => `line ${pin.line} '${saidOf(pin).slice(0, 50)}'`).join('; ')}. Which is it?`.slice(
      0,
      300,
    ),
  };
}

/**
 * Reads a pinout out of any pasted table: tabs, bars, commas, semicolons, runs of spaces or plain lines; columns in any order,
 * several connectors, tables side by side, ranges, headings and notes in between; English, German, French, Spanish and Italian
 * words. Every character is accounted for in `spans`; a cavity that is named twice is a question in `doubles`, never a loss.
 * Fails only when no cavity is found. O(length of the text).
 */
export function readPinout(text: string): Result<ReadPinout> {
  if (text.length > LIMIT)
    return fail('too-large', '', 'The text is longer than 400,000 characters: paste the pinout only.');
  if (text.trim() === '')
    return fail('empty', '', 'There is no text: copy the pinout from the manual or the spreadsheet first.');
  const { delimiter, lines } = cutText(text);
  const account = new Account();
  const notes: { line: number; sentence: string }[] = [];
  const ids = new Map<string, string>();
  const names = new Map<string, { name: string; ways: number | null }>();
  const read: ReadPin[] = [];
  const empty: string[] = [];
  const plugLines = plugLinesOf(lines);
  const manner = mannerOf(
    lines.flatMap(({ cells }) => cells.map((cell) => cell.text)),
    new Set([...plugLines.values()].flatMap((plug) => (plug ? [plug.name.toUpperCase()] : []))),
  );
  const named = (cell: Cell) => placesOf(cell.text, manner).length > 0;
  let uses: readonly Column[] = guessColumns(lines, manner);
  let blocks = blocksOf(uses);
  let current = '';
  /** Plugs that head blocks standing side by side. */
  let beside: readonly string[] = [];
  const connectorId = (name: string): string => {
    const known = ids.get(name);
    if (known !== undefined) return known;
    const id = letterFor(name, ids);
    ids.set(name, id);
    if (!names.has(id)) names.set(id, { name: '', ways: null });
    return id;
  };
  const enter = (name: string, rest: string): string => {
    const ways =
      /(\d{1,3})\s*[- ]?(?:way|ways|pin|pins|pol(?:ig)?|cavities|pos|position|positions|voies|v[ií]as|vie)\b/i.exec(
        rest,
      );
    const said = rest.replace(/^[\s:,()–-]+|[\s:,()–-]+$/g, '');
    const id = connectorId(name.toUpperCase());
    names.set(id, { name: said.slice(0, 60), ways: ways ? Number(ways[1]) : null });
    return name.toUpperCase();
  };
  for (const entry of lines) {
    const { line, cells } = entry;
    const filled = cells.filter((cell) => cell.text !== '');
    if (filled.length === 0) continue;
    const whole = { from: filled[0]!.from, to: filled[filled.length - 1]!.to };
    const header = headerOf(
      cells.map((cell) => cell.text),
      manner,
    );
    if (header) {
      uses = header;
      blocks = blocksOf(uses);
      notes.push({ line, sentence: `Line ${line} heads the columns.` });
      for (const cell of filled) account.add(cell, 'heading', 'read as the head of a column');
      continue;
    }
    const heads = filled.map((cell) => plugOf(cell.text));
    if (filled.length > 1 && heads.every((head) => head !== null)) {
      beside = heads.map((head) => enter(head!.name, head!.rest));
      notes.push({
        line,
        sentence: `Line ${line} heads connectors ${beside.map((name) => connectorId(name)).join(' and ')}, side by side.`,
      });
      filled.forEach((cell, i) => account.add(cell, 'connector', `read as connector ${connectorId(beside[i]!)}`));
      continue;
    }
    const plug = plugLines.get(entry) ?? null;
    if (plug && filled.length <= 2 && !filled.some((cell, i) => i > 0 && named(cell))) {
      current = enter(plug.name, plug.rest);
      beside = [];
      notes.push({ line, sentence: `Line ${line} starts connector ${connectorId(current)}.` });
      account.add(whole, 'connector', `read as connector ${connectorId(current)}`);
      continue;
    }
    let used = false;
    blocks.forEach(({ columns }, blockIndex) => {
      const at = (use: Column) => columns.flatMap((column) => (column.use === use ? (cells[column.at] ?? []) : []));
      // A row may be shorter than the table: the first cell that names a cavity is taken.
      const cell = at('cavity').find(named) ?? (blocks.length === 1 ? cells.find(named) : undefined);
      if (cell === undefined) return;
      const places = placesOf(cell.text, manner);
      const [own] = at('connector').filter((one) => one.text !== '');
      const labels = at('label').filter((one) => one.text !== '' && one !== cell);
      const texts = (
        blocks.length === 1 && !uses.includes('cavity') ? cells.filter((one) => one !== cell) : at('text')
      ).filter((one) => one.text !== '' && !labels.includes(one) && one !== own);
      const leads = at('lead').filter((one) => one.text !== '');
      const label = labels
        .map((one) => one.text)
        .join(' ')
        .trim();
      const others = texts.length > 0 || labels.length > 0 ? at('other').filter((one) => one.text !== '') : [];
      // Another use is a clause of its own; a dash in a column says nothing beside words.
      const rest = [
        texts
          .map((one) => one.text)
          .filter((one) => !saysEmpty(one))
          .join(', '),
        ...others.map((one) => one.text),
      ]
        .filter((one) => !saysEmpty(one))
        .join('; ');
      const plugName = (place: { connector: string }) =>
        (
          place.connector ||
          own?.text ||
          (blocks.length === beside.length ? beside[blockIndex] : '') ||
          current ||
          'A'
        ).toUpperCase();
      const pinIds = places.map((place) => pinIdOf(connectorId(plugName(place)), place.cavity));
      account.add(
        cell,
        'cavity',
        `read as ${pinIds.length > 3 ? `${pinIds[0]} to ${pinIds.at(-1)}` : pinIds.join(', ')}`,
        pinIds,
      );
      if (own) account.add(own, 'connector', 'read as the connector', pinIds);
      for (const one of leads) account.add(one, 'lead', 'read as the colour of the wire', pinIds);
      used = true;
      if (saysEmpty(label) && saysEmpty(rest)) {
        empty.push(...pinIds);
        for (const one of [...labels, ...texts, ...others])
          account.add(one, 'empty', 'read as an empty cavity', pinIds);
        return;
      }
      const lead = leads
        .map((one) => one.text)
        .join(' ')
        .trim();
      const made = places.map((place, index): ReadPin => {
        const [ownLabel, ownText] = numbered(label, rest, index, places.length);
        const connector = connectorId(plugName(place));
        return {
          connector,
          cavity: place.cavity,
          label: (ownLabel || ownText.split('; ')[0] || pinIdOf(connector, place.cavity)).slice(0, 40),
          text: ownText,
          lead,
          ...proposeFrom(ownLabel, ownText),
          line,
        };
      });
      read.push(...made);
      for (const one of labels) account.add(one, 'label', abilityWords(made[0]!.abilities, made[0]!.why), pinIds);
      for (const one of [...texts, ...others])
        account.add(one, 'text', abilityWords(made[0]!.abilities, made[0]!.why), pinIds);
    });
    // Cells of the line that no block took, and lines that are no cavity at all.
    for (const cell of filled)
      account.add(cell, 'note', used ? 'left out: stands beside the table' : 'left out: names no cavity');
    if (!used)
      notes.push({
        line,
        sentence: `Line ${line} is no cavity and was left out: '${text.slice(whole.from, whole.to).replace(/\s+/g, ' ').trim().slice(0, 60)}'.`,
      });
  }
  if (read.length === 0)
    return fail(
      'no-cavity',
      '',
      "No cavity was found in this text: a line needs a cavity such as 'A12' or '12' and what it does.",
    );
  const byId = groupBy(read, (pin) => pinIdOf(pin.connector, pin.cavity));
  const pins = equalGrounds(loneInputs([...byId.values()].map(joined)));
  return ok({
    delimiter,
    connectors: [...new Set(pins.map((pin) => pin.connector))].map((id) => ({
      id,
      ...(names.get(id) ?? { name: '', ways: null }),
    })),
    pins,
    doubles: [...byId].flatMap(([id, own]) =>
      own.length > 1 ? [{ id, said: own.map((pin) => ({ line: pin.line, text: saidOf(pin) })) }] : [],
    ),
    empty: [...new Set(empty)].filter((id) => !byId.has(id)),
    notes,
    spans: account.of(text),
  });
}

/** A VR input that is alone of its pair and no minus side has one pin: its return goes to the sensor ground. */
function loneInputs(pins: readonly ReadPin[]): ReadPin[] {
  const inputs = pins.flatMap(({ abilities }) => abilities.filter(({ kind }) => kind === 'vr'));
  const members = groupBy(inputs, ({ pair }) => pair ?? '');
  return pins.map((pin) => ({
    ...pin,
    abilities: pin.abilities.map((ability) => {
      if (ability.kind !== 'vr' || ability.side !== undefined || members.get(ability.pair ?? '')!.length > 1)
        return ability;
      const alone = { ...ability };
      delete alone.pair;
      return alone;
    }),
  }));
}

/** Several grounds that are only called ground, and none for the sensors: each can be either. */
function equalGrounds(pins: readonly ReadPin[]): ReadPin[] {
  if (pins.some(({ abilities }) => abilities.some(({ kind }) => kind === 'sensor-ground'))) return [...pins];
  const plain = (pin: ReadPin) =>
    pin.confidence === 'likely' && pin.abilities.length === 1 && pin.abilities[0]!.kind === 'power-ground';
  if (pins.filter(plain).length < 2) return [...pins];
  return pins.map((pin) =>
    plain(pin)
      ? {
          ...pin,
          abilities: [...pin.abilities, { kind: 'sensor-ground' }],
          why: 'One of several equal grounds: for the ECU or for the sensors.',
        }
      : pin,
  );
}

/** Words that tell the two wires of a pair apart, first and second. */
const opposites: readonly RegExp[] = [
  /(high|hi|h)\s*\/\s*(low|lo|l)\b/i,
  /(\+)\s*\/\s*([-–−])/,
  // The name said twice: `VR+/VR-`, `CAN-H / CAN-L`.
  /([A-Z]\w*\s?\+)\s*\/\s*([A-Z]\w*\s?[-–−])/i,
  /([A-Z]\w*[\s_-]?(?:high|hi|h))\s*\/\s*([A-Z]\w*[\s_-]?(?:low|lo|l))\b/i,
  /(pos(?:itive)?)\s*\/\s*(neg(?:ative)?)\b/i,
  /(plus)\s*\/\s*(minus)\b/i,
];

/** One line for several cavities: `Injector 1-4` on `A1-A4` gives each its own number; otherwise all share the words. */
function numbered(label: string, text: string, index: number, count: number): [string, string] {
  if (count === 1) return [label, text];
  const own = (words: string): string => {
    const pair = count === 2 ? opposites.map((shape) => shape.exec(words)).find((match) => match) : undefined;
    if (pair) return words.replace(pair[0], pair[index + 1]!);
    const range = /\b(\d{1,2})\s*(?:-|–|\.\.|to|bis|à|\ba\b)\s*(\d{1,2})\b(?!\s*(?:k?Hz|V|m?A|k?Ω|ohm))/i.exec(words);
    if (range && Number(range[2]) - Number(range[1]) === count - 1)
      return words.replace(range[0], String(Number(range[1]) + index));
    const list = /\b\d{1,2}(?:\s*(?:,|\/|&|\band\b|\bund\b|\bet\b|\by\b|\be\b)\s*\d{1,2})+\b/i.exec(words);
    const numbers = list?.[0].match(/\d+/g);
    if (list && numbers?.length === count) return words.replace(list[0], numbers[index]!);
    return words;
  };
  return [own(label), own(text)];
}

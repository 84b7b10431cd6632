import { groupBy } from '../../data/group';
import { pinIdOf, type Ability } from '../ecu';
import { Account } from './account';
import type { Cell, Line } from './cells';
import { blocksOf, guessColumns, headerOf, plugIn, plugLinesOf, plugOf, type Block, type Column } from './columns';
import { numbered } from './numbered';
import { mannerOf, placesOf, type Manner, type Spot } from './places';
import { saysEmpty, type Confidence, type Proposal } from './words';
import type { Writing } from './writings';

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
  /** Cavities that share its words. */
  readonly shared: number;
}

/** What words make of a pin; a page asks for each wording once. */
export type Propose = (label: string, text: string) => Proposal;

/** Free connector letters for connectors that the text only numbers. */
const letterFor = (name: string, taken: ReadonlyMap<string, string>): string => {
  if (/^[A-Z][A-Z0-9]{0,3}$/.test(name)) return name;
  if (/^\d{1,2}$/.test(name)) return `X${name}`;
  const used = new Set(taken.values());
  const free = [...'ABCDEFGHJKLMNPQRSTUVWXYZ'].find((letter) => !used.has(letter));
  return free ?? 'Z';
};

const abilityWords = (abilities: readonly Ability[], why: string): string =>
  abilities.length === 0
    ? 'not understood: choose what it can be'
    : `read as ${abilities.map(({ kind, output }) => `${kind}${output === undefined ? '' : ` ${output}`}`).join(' or ')}${why ? `; ${why}` : ''}`;

const wordsIn = (cells: readonly Cell[], between: string): string =>
  cells
    .map((cell) => cell.text)
    .filter((one) => !saysEmpty(one))
    .join(between);

/** A range whose cavities are named again one by one speaks of them together, and is no reading of any. */
function withoutSwallowed(read: readonly ReadPin[]): readonly ReadPin[] {
  const single = new Set(read.flatMap((pin) => (pin.shared === 1 ? [pinIdOf(pin.connector, pin.cavity)] : [])));
  const byLine = groupBy(
    read.filter((pin) => pin.shared > 2),
    (pin) => pin.line,
  );
  const swallowed = new Set(
    [...byLine].flatMap(([line, own]) =>
      own.filter((pin) => single.has(pinIdOf(pin.connector, pin.cavity))).length >= own.length / 2 ? [line] : [],
    ),
  );
  return read.filter((pin) => pin.shared <= 2 || !swallowed.has(pin.line));
}

/** Reads lines of cells, cut one way, into cavities. */
export class Rows {
  /** As the lines name them: a cavity that is named twice is here twice. */
  readonly read: readonly ReadPin[];
  private readonly all: ReadPin[] = [];
  readonly names = new Map<string, { readonly name: string; readonly ways: number | null }>();
  readonly empty: string[] = [];
  readonly notes: { readonly line: number; readonly sentence: string }[] = [];
  /** Words that no cavity took, with their lines. */
  readonly left: string[] = [];
  /** Cavities that are empty only because nothing stands beside them. */
  blank = 0;
  readonly account = new Account();
  readonly manner: Manner;
  private readonly ids = new Map<string, string>();
  private readonly plugLines: ReturnType<typeof plugLinesOf>;
  private uses: readonly Column[];
  private blocks: readonly Block[];
  private current = '';
  /** Plugs that head blocks standing side by side. */
  private beside: readonly string[] = [];

  constructor(
    private readonly text: string,
    lines: readonly Line[],
    writing: Writing | null,
    private readonly propose: Propose,
  ) {
    this.plugLines = plugLinesOf(lines);
    const manner = mannerOf(
      lines.flatMap(({ cells }) => cells.map((cell) => cell.text)),
      new Set([...this.plugLines.values()].flatMap((plug) => (plug ? [plug.name.toUpperCase()] : []))),
    );
    this.manner = writing ? { ...manner, writing } : manner;
    this.uses = guessColumns(lines, this.manner);
    this.blocks = blocksOf(this.uses);
    for (const line of lines) this.line(line);
    this.read = withoutSwallowed(this.all);
  }

  private isPlace(cell: Cell): boolean {
    return placesOf(cell.text, this.manner).length > 0;
  }

  private connectorId(name: string): string {
    const known = this.ids.get(name);
    if (known !== undefined) return known;
    const id = letterFor(name, this.ids);
    this.ids.set(name, id);
    if (!this.names.has(id)) this.names.set(id, { name: '', ways: null });
    return id;
  }

  /** A heading of a plug: its name as it is carried down, in capitals. */
  private enter(name: string, rest: string): string {
    const ways =
      /(\d{1,3})\s*[- ]?(?:way|ways|pin|pins|pol(?:ig)?|cavities|pos|position|positions|voies|v[ií]as|vie)\b/i.exec(
        rest,
      );
    const said = rest.replace(/^[\s:,()–-]+|[\s:,()–-]+$/g, '');
    const id = this.connectorId(name.toUpperCase());
    this.names.set(id, { name: said.slice(0, 60), ways: ways ? Number(ways[1]) : null });
    return name.toUpperCase();
  }

  private line(entry: Line): void {
    const { line, cells } = entry;
    const filled = cells.filter((cell) => cell.text !== '');
    if (filled.length === 0 || this.heading(entry, filled)) return;
    let used = false;
    this.blocks.forEach((block, index) => {
      if (this.row(entry, block, index)) used = true;
    });
    // Cells of the line that no block took, and lines that are no cavity at all.
    for (const cell of filled)
      this.account.add(cell, 'note', used ? 'left out: stands beside the table' : 'left out: names no cavity');
    if (used) return;
    const words = this.text
      .slice(filled[0]!.from, filled[filled.length - 1]!.to)
      .replace(/\s+/g, ' ')
      .trim();
    this.left.push(words);
    this.notes.push({ line, sentence: `Line ${line} is no cavity and was left out: '${words.slice(0, 60)}'.` });
  }

  /** Heads of columns and of plugs. */
  private heading(entry: Line, filled: readonly Cell[]): boolean {
    const { line, cells } = entry;
    const header = headerOf(
      cells.map((cell) => cell.text),
      this.manner,
    );
    if (header) {
      this.uses = header;
      this.blocks = blocksOf(header);
      this.notes.push({ line, sentence: `Line ${line} heads the columns.` });
      for (const cell of filled) this.account.add(cell, 'heading', 'read as the head of a column');
      return true;
    }
    if (this.manner.writing && filled.some((cell) => this.manner.writing!.read(cell.text))) return false;
    const heads = filled.map((cell) => plugOf(cell.text));
    if (filled.length > 1 && heads.every((head) => head !== null)) {
      this.beside = heads.map((head) => this.enter(head!.name, head!.rest));
      this.notes.push({
        line,
        sentence: `Line ${line} heads connectors ${this.beside.map((name) => this.connectorId(name)).join(' and ')}, side by side.`,
      });
      filled.forEach((cell, i) =>
        this.account.add(cell, 'connector', `read as connector ${this.connectorId(this.beside[i]!)}`),
      );
      return true;
    }
    const plug = this.plugLines.get(entry) ?? null;
    if (!plug || filled.length > 2 || filled.some((cell, i) => i > 0 && this.isPlace(cell))) return false;
    this.current = this.enter(plug.name, plug.rest);
    this.beside = [];
    this.notes.push({ line, sentence: `Line ${line} starts connector ${this.connectorId(this.current)}.` });
    const whole = { from: filled[0]!.from, to: filled[filled.length - 1]!.to };
    this.account.add(whole, 'connector', `read as connector ${this.connectorId(this.current)}`);
    return true;
  }

  /** One block of one line; false where it names no cavity. */
  private row({ line, cells }: Line, { columns }: Block, blockIndex: number): boolean {
    const alone = this.blocks.length === 1;
    const at = (use: Column) => columns.flatMap((column) => (column.use === use ? (cells[column.at] ?? []) : []));
    // A row may be shorter than the table: the first cell that names a cavity is taken.
    const cell =
      at('cavity').find((one) => this.isPlace(one)) ?? (alone ? cells.find((one) => this.isPlace(one)) : undefined);
    if (cell === undefined) return false;
    const places = placesOf(cell.text, this.manner);
    const own = at('connector').find((one) => one.text !== '' && one !== cell);
    // The plug named once for many rows: it holds until another is named.
    if (own && alone) this.current = plugIn(own.text);
    const labels = at('label').filter((one) => one.text !== '' && one !== cell);
    const texts = (alone && !this.uses.includes('cavity') ? cells.filter((one) => one !== cell) : at('text')).filter(
      (one) => one.text !== '' && !labels.includes(one) && one !== own && one !== cell,
    );
    const leads = at('lead').filter((one) => one.text !== '');
    const others = texts.length > 0 || labels.length > 0 ? at('other').filter((one) => one.text !== '') : [];
    const said = [...labels, ...texts, ...others];
    const label = labels
      .map((one) => one.text)
      .join(' ')
      .trim();
    // Another use is a clause of its own; a dash in a column says nothing beside words.
    const rest = [wordsIn(texts, ', '), ...others.map((one) => one.text)].filter((one) => !saysEmpty(one)).join('; ');
    const beside = this.blocks.length === this.beside.length ? this.beside[blockIndex] : '';
    const plugOfPlace = (place: Spot) =>
      (place.connector || (own && plugIn(own.text)) || beside || this.current || 'A').toUpperCase();
    const pins = places.map((place) => pinIdOf(this.connectorId(plugOfPlace(place)), place.cavity));
    this.account.add(
      cell,
      'cavity',
      `read as ${pins.length > 3 ? `${pins[0]} to ${pins.at(-1)}` : pins.join(', ')}`,
      pins,
    );
    if (own) this.account.add(own, 'connector', 'read as the connector', pins);
    for (const one of leads) this.account.add(one, 'lead', 'read as the colour of the wire', pins);
    // Where the label says that nothing is there, a remark beside it makes no pin of it.
    if (saysEmpty(label) && (saysEmpty(rest) || (label !== '' && this.propose('', rest).abilities.length === 0))) {
      this.empty.push(...pins);
      if (!said.some((one) => one.text !== '')) this.blank += pins.length;
      for (const one of said) this.account.add(one, 'empty', 'read as an empty cavity', pins);
      return true;
    }
    const lead = leads
      .map((one) => one.text)
      .join(' ')
      .trim();
    const made = places.map((place, index): ReadPin => {
      const [ownLabel, ownText] = numbered(label, rest, index, places.length);
      const connector = this.connectorId(plugOfPlace(place));
      return {
        connector,
        cavity: place.cavity,
        label: (ownLabel || ownText.split('; ')[0] || pinIdOf(connector, place.cavity)).slice(0, 40),
        text: ownText,
        lead,
        ...this.propose(ownLabel, ownText),
        line,
        shared: places.length,
      };
    });
    this.all.push(...made);
    const [{ abilities, why }] = made as [ReadPin, ...ReadPin[]];
    for (const one of labels) this.account.add(one, 'label', abilityWords(abilities, why), pins);
    for (const one of [...texts, ...others]) this.account.add(one, 'text', abilityWords(abilities, why), pins);
    return true;
  }
}

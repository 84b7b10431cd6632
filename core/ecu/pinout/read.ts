import { groupBy } from '../../data/group';
import { fail, ok, type Result } from '../../problem';
import { pinIdOf } from '../ecu';
import type { Span } from './account';
import { blocksOfPage, type Blocks } from './blocks';
import type { Delimiter } from './cells';
import { insideOf, seePage, type Page } from './page';
import type { ReadPin } from './rows';

export { placesOf } from './places';
export type { Span } from './account';
export type { Blocks } from './blocks';
export type { ReadPin } from './rows';

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
  /** Why the text as a whole may not be what it was read as; '' for no such doubt. */
  readonly doubt: string;
  /** Columns that were copied one below the other, to be laid side by side. */
  readonly blocks: Blocks | null;
}

const LIMIT = 400_000;

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
 * several connectors, tables side by side, ranges, headings and notes in between; words of ten languages. Every character is
 * accounted for in `spans`; a cavity that is named twice is a question in `doubles`, never a loss; columns that lie one below
 * the other are a question in `blocks`. Fails only when no cavity is found. O(length of the text).
 */
export function readPinout(text: string): Result<ReadPinout> {
  if (text.length > LIMIT)
    return fail('too-large', '', 'The text is longer than 400,000 characters: paste the pinout only.');
  if (text.trim() === '')
    return fail('empty', '', 'There is no text: copy the pinout from the manual or the spreadsheet first.');
  // One sign for each sign: places in the text stay where they are.
  const plain = text.replace(/[\uff01-\uff5e]/g, (sign) => String.fromCharCode(sign.charCodeAt(0) - 0xfee0));
  const blocks = blocksOfPage(plain);
  const page = seePage(plain);
  const { delimiter, rows } = page;
  const { names, empty, notes, account, read } = rows;
  if (read.length === 0 && blocks)
    return ok({
      delimiter,
      connectors: [],
      pins: [],
      doubles: [],
      empty: [],
      notes,
      spans: account.of(text),
      doubt: '',
      blocks,
    });
  if (read.length === 0)
    return fail(
      'no-cavity',
      '',
      "No cavity was found in this text: a line needs a cavity such as 'A12' or '12' and what it does.",
    );
  const byId = groupBy(read, (pin) => pinIdOf(pin.connector, pin.cavity));
  const made = equalGrounds(loneInputs([...byId.values()].map(joined)));
  const doubles = [...byId].flatMap(([id, own]) =>
    own.length > 1 ? [{ id, said: own.map((pin) => ({ line: pin.line, text: saidOf(pin) })) }] : [],
  );
  const doubt = doubtOf(page, made, doubles.length);
  // Where the page as a whole is in doubt, nothing of it is read outright.
  const pins =
    doubt === ''
      ? made
      : made.map((pin) => (pin.confidence === 'none' ? pin : { ...pin, confidence: 'guess' as const }));
  return ok({
    delimiter,
    connectors: [...new Set(pins.map((pin) => pin.connector))].map((id) => ({
      id,
      ...(names.get(id) ?? { name: '', ways: null }),
    })),
    pins,
    doubles,
    empty: [...new Set(empty)].filter((id) => !byId.has(id)),
    notes,
    spans: account.of(text),
    doubt,
    blocks,
  });
}

/** Why a whole text may not be what it was read as. */
function doubtOf({ rows, score, other }: Page, pins: readonly ReadPin[], doubles: number): string {
  const all = pins.length + rows.empty.length;
  const dumb = pins.filter(({ confidence }) => confidence === 'none').length;
  if (doubles >= 3 && doubles > 0.3 * all)
    return `Not understood as a whole: ${doubles} of ${all} places are named more than once. Check how its lines name plug and cavity.`;
  if (pins.length >= 4 && dumb > 0.5 * pins.length)
    return `Not understood as a whole: of ${pins.length} cavities ${dumb} say nothing that is known here. Check that functions and cavities stand on the same line.`;
  if (all >= 4 && rows.blank > 0.5 * all)
    return `Not understood as a whole: nothing stands beside ${rows.blank} of ${all} cavities.`;
  if (all >= 4 && score < 0.3 * all)
    return 'Not understood as a whole: what was left out says as much as what was read. Check how its lines name plug and cavity.';
  const inside = insideOf(rows);
  if (pins.length >= 4 && inside > 0.2 * pins.length)
    return `Not understood as a whole: the words of ${inside} cavities name further cavities. Put each on a line of its own.`;
  const [first] = other?.read ?? [];
  return first && pins[0]
    ? `Two ways to read its cavities fit alike: '${first.label}' may be on ${pinIdOf(first.connector, first.cavity)}. Check the first lines.`
    : '';
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

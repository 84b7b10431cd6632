import Papa from 'papaparse';
import { z } from 'zod';
import { zodProblem } from '../data/zod-problem';
import { neutralise } from '../data/csv';
import type { Result } from '../problem';
import { listWords, plural } from '../units/format';
import { natural } from '../data/natural';
import { groupBy } from '../data/group';
import { kindWord } from './ask';
import {
  abilitySchema,
  connectorSchema,
  ecuSchema,
  ecuShape,
  pairedKinds,
  pinIdOf,
  pinSchema,
  pinsOfGroup,
  type Ability,
  type AbilityKind,
  type Connector,
  type EcuDefinition,
  type PinGroup,
} from './ecu';
import { cavityCount } from './face';
import type { ReadPinout } from './pinout/read';
import { abilitiesText } from './pinout/text';

/** One cavity while its definition is being made: it may still be nothing, or be a guess nobody has looked at. */
export const draftPinSchema = z.object({
  connector: connectorSchema.shape.id,
  cavity: pinSchema.shape.cavity,
  label: z.string().max(40),
  abilities: z.array(abilitySchema).max(8),
  lead: z.string().max(24),
  confidence: z.enum(['sure', 'likely', 'guess', 'none']),
  why: z.string().max(300),
  /** The person has looked at it. */
  checked: z.boolean(),
});
export type DraftPin = z.infer<typeof draftPinSchema>;

/** A definition in the making: everything may still be missing, nothing is lost. */
export const draftSchema = z.object({
  ...ecuShape.shape,
  model: z.string().max(60),
  connectors: z.array(connectorSchema).max(12),
  pins: z.array(draftPinSchema).max(600),
  /** The text it was read from, as it was pasted; '' for none. */
  source: z.string().max(400_000).default(''),
});
export type EcuDraft = z.infer<typeof draftSchema>;

export const draftPinId = (pin: Pick<DraftPin, 'connector' | 'cavity'>): string => pinIdOf(pin.connector, pin.cavity);

export const emptyDraft = (id: string): EcuDraft => ({
  id,
  maker: '',
  model: '',
  outputOrder: 'by-cylinder',
  connectors: [],
  pins: [],
  source: '',
  groups: [],
  decoders: [{ family: 'missing-tooth', minPlaces: 4, maxPlaces: 120, maxMissing: 4, needsCam: false }],
  groundsAsked: 1,
  minVolts: 7,
  ownAmps: 0.8,
  gapThreshold: 1.5,
});

/** Rows of a face nobody has described: as square as connectors are, wider than high (common practice). */
export function guessRows(count: number): number[] {
  const rows = count <= 4 ? 1 : count <= 24 ? 2 : count <= 40 ? 3 : 4;
  const wide = Math.ceil(count / rows);
  return Array.from({ length: rows }, (_, i) => Math.min(wide, count - i * wide)).filter((length) => length > 0);
}

const freshConnector = (id: string, cavities: readonly number[], ways: number | null, name: string): Connector => {
  const first = Math.min(...cavities) > 1 && Math.min(...cavities) > (ways ?? Infinity) ? Math.min(...cavities) : 1;
  const count = Math.max(ways ?? 0, Math.max(...cavities) - first + 1);
  return {
    id,
    ...(name ? { name } : {}),
    ...(first > 1 ? { first } : {}),
    rows: guessRows(count),
    maxSquareMm: 1.5,
    sealed: false,
  };
};

const byCavity = (one: DraftPin, other: DraftPin) =>
  natural(one.connector, other.connector) || one.cavity - other.cavity;

/**
 * Takes a pasted pinout into a draft: new cavities come in, known ones are read anew, and what the person has looked at stays.
 */
export function takePinout(draft: EcuDraft, read: ReadPinout, source = ''): EcuDraft {
  const pins = new Map(draft.pins.map((pin) => [draftPinId(pin), pin]));
  for (const pin of read.pins) {
    if (pins.get(draftPinId(pin))?.checked) continue;
    pins.set(draftPinId(pin), {
      connector: pin.connector,
      cavity: pin.cavity,
      label: pin.label,
      abilities: [...pin.abilities],
      lead: pin.lead.slice(0, 24),
      confidence: pin.confidence,
      why: pin.why.slice(0, 300),
      checked: false,
    });
  }
  const all = [...pins.values()].sort(byCavity);
  const cavities = groupBy(all, (pin) => pin.connector);
  const known = new Map(draft.connectors.map((connector) => [connector.id, connector]));
  const connectors = [...cavities].map(([id, own]) => {
    const read1 = read.connectors.find((connector) => connector.id === id);
    const before = known.get(id);
    const numbers = own.map((pin) => pin.cavity);
    if (before && Math.max(...numbers) < (before.first ?? 1) + cavityCount(before)) return before;
    return freshConnector(id, numbers, read1?.ways ?? null, read1?.name ?? before?.name ?? '');
  });
  // Several pastes stand one below the other, so that each pin still finds its words.
  const kept = [draft.source, source].filter((text) => text.trim() !== '').join('\n\n');
  return {
    ...draft,
    connectors,
    pins: all,
    source: kept.length <= 400_000 ? kept : source,
    groundsAsked: groundsAskedOf(all),
  };
}

/** Where pins can be either, at least two for the ECU (common practice); else as many as there are. */
const EITHER_FOR_ECU = 2;
function groundsAskedOf(pins: readonly Pick<DraftPin, 'abilities'>[]): number {
  const own = pins.filter(({ abilities }) => !abilities.some(({ kind }) => kind === 'sensor-ground'));
  return Math.max(1, countOf(own, 'power-ground'), Math.min(EITHER_FOR_ECU, countOf(pins, 'power-ground')));
}

const countOf = (pins: readonly Pick<DraftPin, 'abilities'>[], kind: AbilityKind): number =>
  Math.min(12, pins.filter((pin) => pin.abilities.some((ability) => ability.kind === kind)).length);

export const draftOf = (ecu: EcuDefinition): EcuDraft => ({
  ...ecu,
  source: '',
  pins: ecu.pins.map((pin) => ({
    connector: pin.connector,
    cavity: pin.cavity,
    label: pin.label,
    abilities: pin.abilities,
    lead: pin.lead?.colour ?? '',
    confidence: 'sure',
    why: '',
    checked: true,
  })),
});

/** Sets abilities of several pins at once and counts them as looked at. Numbers and pairs that a pin had are kept. */
export function setAbilities(
  draft: EcuDraft,
  ids: ReadonlySet<string>,
  make: (before: DraftPin, index: number) => readonly Ability[],
): EcuDraft {
  let index = 0;
  return {
    ...draft,
    pins: draft.pins.map((pin) =>
      ids.has(draftPinId(pin))
        ? { ...pin, abilities: [...make(pin, index++)], confidence: 'sure', why: '', checked: true }
        : pin,
    ),
  };
}

export const setPins = (draft: EcuDraft, ids: ReadonlySet<string>, change: Partial<DraftPin>): EcuDraft => ({
  ...draft,
  pins: draft.pins.map((pin) => (ids.has(draftPinId(pin)) ? { ...pin, ...change } : pin)),
});

/** A new cavity, to be told what it can be. Does nothing where one is already. */
export function addPin(draft: EcuDraft, connector: string, cavity: number): EcuDraft {
  if (draft.pins.some((pin) => pin.connector === connector && pin.cavity === cavity) || draft.pins.length >= 600)
    return draft;
  const fresh: DraftPin = {
    connector,
    cavity,
    label: '',
    abilities: [],
    lead: '',
    confidence: 'none',
    why: 'Put in by hand: choose what it can be.',
    checked: false,
  };
  return { ...draft, pins: [...draft.pins, fresh].sort(byCavity) };
}

/** Leaves cavities out; groups that named them forget them. */
export function removePins(draft: EcuDraft, ids: ReadonlySet<string>): EcuDraft {
  const left = (pins: readonly string[]) => pins.filter((id) => !ids.has(id));
  return {
    ...draft,
    pins: draft.pins.filter((pin) => !ids.has(draftPinId(pin))),
    groups: draft.groups.flatMap((group): PinGroup[] => {
      if (group.type !== 'either') return left(group.pins).length > 0 ? [{ ...group, pins: left(group.pins) }] : [];
      const sides = group.sides.map(left).filter((side) => side.length > 0);
      return sides.length >= 2 ? [{ ...group, sides }] : [];
    }),
  };
}

export interface DraftIssue {
  readonly severity: 'stop' | 'fix' | 'note';
  /** Cavities it is about. */
  readonly pins: readonly string[];
  readonly sentence: string;
}

const some = (ids: readonly string[]): string =>
  ids.length > 6 ? `${ids.slice(0, 5).join(', ')} and ${ids.length - 5} more` : listWords(ids);

/** What stands between a draft and a definition that can be trusted; 'stop' must be mended before it can be saved. */
export function issuesOf(draft: EcuDraft): DraftIssue[] {
  const issues: DraftIssue[] = [];
  const say = (severity: DraftIssue['severity'], pins: readonly string[], sentence: string) =>
    issues.push({ severity, pins, sentence });
  const ids = draft.pins.map(draftPinId);
  const twice = [...new Set(ids.filter((id, index) => ids.indexOf(id) !== index))];
  if (draft.model.trim() === '') say('stop', [], 'Give the ECU a name.');
  if (draft.pins.length < 4) say('stop', [], 'A definition has at least four cavities: paste the pinout first.');
  if (twice.length > 0) say('stop', twice, `${some(twice)} ${twice.length === 1 ? 'is' : 'are'} listed twice.`);
  const faces = new Map(draft.connectors.map((connector) => [connector.id, connector]));
  const off = draft.pins.filter((pin) => {
    const face = faces.get(pin.connector);
    const first = face?.first ?? 1;
    return !face || pin.cavity < first || pin.cavity >= first + cavityCount(face);
  });
  if (off.length > 0)
    say(
      'stop',
      off.map(draftPinId),
      `${some(off.map(draftPinId))} ${off.length === 1 ? 'is' : 'are'} not on the face drawn for the connector: give it more cavities.`,
    );
  const bare = draft.pins.filter((pin) => pin.abilities.length === 0);
  if (bare.length > 0)
    say(
      'stop',
      bare.map(draftPinId),
      `${plural(bare.length, 'cavity', 'cavities')} can be nothing yet (${some(bare.map(draftPinId))}): choose what they can be, or leave them out.`,
    );
  const kindsOf = (kind: AbilityKind) =>
    draft.pins.filter((pin) => pin.abilities.some((ability) => ability.kind === kind));
  if (draft.pins.length > 0) {
    if (kindsOf('power-ground').length === 0) say('stop', [], 'No power ground: every ECU has at least one.');
    if (kindsOf('switched').length + kindsOf('permanent').length === 0)
      say('fix', [], 'No supply: neither a switched nor a permanent one is listed.');
    if (kindsOf('sensor-ground').length === 0)
      say('fix', [], 'No sensor ground: the sensors would share the wire of one power ground.');
    if (kindsOf('supply-5v').length === 0)
      say('note', [], 'No 5 V supply: sensors that want one would need another source.');
  }
  for (const kind of pairedKinds) {
    const members = kindsOf(kind).flatMap((pin) =>
      pin.abilities.flatMap((ability) => (ability.kind === kind ? [{ id: draftPinId(pin), ability }] : [])),
    );
    const whole = kind === 'stepper' ? 4 : kind === 'wideband' ? 3 : 2;
    for (const [pair, own] of groupBy(members, ({ ability }) => ability.pair ?? ''))
      if (pair === '' && kind === 'vr')
        say(
          'note',
          own.map(({ id }) => id),
          `${some(own.map(({ id }) => id))}: a VR input of one pin; the return of its winding goes to the sensor ground.`,
        );
      else if (pair === '')
        say(
          'fix',
          own.map(({ id }) => id),
          `${some(own.map(({ id }) => id))}: a ${kindWord(kind)} belongs to a pair; say which.`,
        );
      else if (own.length !== whole)
        say(
          'fix',
          own.map(({ id }) => id),
          `${kindWord(kind)} ${pair} has ${plural(own.length, 'pin')} (${some(own.map(({ id }) => id))}); ${whole} are usual.`,
        );
      else if (whole === 2 && new Set(own.map(({ ability }) => ability.side)).size < 2)
        say(
          'fix',
          own.map(({ id }) => id),
          `${kindWord(kind)} ${pair}: one pin must be plus and one minus (${some(own.map(({ id }) => id))}).`,
        );
  }
  for (const kind of ['injector', 'ignition-logic', 'ignition-driver'] as const) {
    const numbered = kindsOf(kind).map((pin) => ({
      id: draftPinId(pin),
      output: pin.abilities.find((ability) => ability.kind === kind)?.output,
    }));
    const unnumbered = numbered.filter(({ output }) => output === undefined);
    if (unnumbered.length > 0)
      say(
        'fix',
        unnumbered.map(({ id }) => id),
        `${some(unnumbered.map(({ id }) => id))}: which number of ${kindWord(kind)}? The order of firing hangs on it.`,
      );
    for (const [output, own] of groupBy(numbered, ({ output }) => output))
      if (output !== undefined && own.length > 1)
        say(
          'fix',
          own.map(({ id }) => id),
          `${kindWord(kind)} ${output} is on ${listWords(own.map(({ id }) => id))}.`,
        );
  }
  const unlimited = draft.pins.filter((pin) =>
    pin.abilities.some(
      ({ kind, maxAmps }) =>
        (kind === 'low-side' ||
          kind === 'high-side' ||
          kind === 'half-bridge' ||
          kind === 'injector' ||
          kind === 'supply-5v') &&
        maxAmps === undefined,
    ),
  );
  if (unlimited.length > 0)
    say(
      'note',
      unlimited.map(draftPinId),
      `${plural(unlimited.length, 'output')} without a current (${some(unlimited.map(draftPinId))}): any load will seem to fit.`,
    );
  const guessed = draft.pins.filter((pin) => !pin.checked && pin.confidence === 'guess');
  if (guessed.length > 0)
    say(
      'fix',
      guessed.map(draftPinId),
      `${plural(guessed.length, 'cavity is', 'cavities are')} only guessed (${some(guessed.map(draftPinId))}): look at each.`,
    );
  const likely = draft.pins.filter((pin) => !pin.checked && pin.confidence === 'likely');
  if (likely.length > 0)
    say(
      'note',
      likely.map(draftPinId),
      `${plural(likely.length, 'cavity was', 'cavities were')} read from what hangs on ${likely.length === 1 ? 'it' : 'them'} (${some(likely.map(draftPinId))}).`,
    );
  const known = new Set(ids);
  for (const group of draft.groups) {
    const stray = pinsOfGroup(group).filter((id) => !known.has(id));
    if (stray.length > 0)
      say(
        'stop',
        [],
        `Group ${group.name} names ${some(stray)}, which ${stray.length === 1 ? 'is no cavity' : 'are no cavities'} here.`,
      );
  }
  const rank = { stop: 0, fix: 1, note: 2 };
  return issues.sort((one, other) => rank[one.severity] - rank[other.severity]);
}

/** The finished definition, or the first thing that is in its way. */
export function definitionOf(draft: EcuDraft): Result<EcuDefinition> {
  const stop = issuesOf(draft).find((issue) => issue.severity === 'stop');
  if (stop) return { ok: false, problem: { code: 'draft', path: stop.pins[0] ?? '', sentence: stop.sentence } };
  const parsed = ecuSchema.safeParse({
    ...draft,
    model: draft.model.trim(),
    pins: draft.pins.map((pin) => ({
      id: draftPinId(pin),
      connector: pin.connector,
      cavity: pin.cavity,
      label: pin.label.trim() || draftPinId(pin),
      abilities: pin.abilities,
      ...(pin.lead.length >= 2 ? { lead: { colour: pin.lead.slice(0, 12) } } : {}),
    })),
  });
  return parsed.success
    ? { ok: true, value: parsed.data }
    : { ok: false, problem: zodProblem(parsed.error, 'invalid-ecu') };
}

/** A definition's pins as CSV (RFC 4180), in words the pinout reader reads back. */
export const pinoutCsv = (draft: Pick<EcuDraft, 'pins'>): string =>
  Papa.unparse(
    [
      ['connector', 'cavity', 'label', 'function', 'wire colour'],
      ...draft.pins.map((pin) =>
        [pin.connector, String(pin.cavity), pin.label, abilitiesText(pin.abilities), pin.lead].map(neutralise),
      ),
    ],
    { newline: '\r\n' },
  );

import { z } from 'zod';
import { endKey, endsOfWire, partEnd, readEnd, readPart, type EndKey, type PartKind } from '../ends/ends';

/*
 * The plan of feeds: what stands between the battery and the loads, and between the loads and the battery again. What a person
 * decided of it is part of the document; the rest is proposed from the devices (core/power/propose).
 */

const text = (most: number) => z.string().max(most);
const metres = z.number().min(0).max(30);
/** What parts, feeds and boxes are named by. */
export const partName = z.string().regex(/^[a-z0-9-]{1,60}$/, 'must be lower-case letters, digits and hyphens');

/** Who pulls a relay in: an output of the ECU, its own main relay pin, the key, or whatever is wired to its winding by hand. */
export const relayControls = ['need', 'main-relay-pin', 'key-run', 'key-start', 'wired'] as const;
export type RelayControl = (typeof relayControls)[number];

const common = {
  name: z.string().trim().min(1).max(60),
  /** The box it stands in, by that box's name in the plan. */
  box: partName.optional(),
  /** It was in the car before: used, not bought. */
  existing: z.boolean().optional(),
};

/** What the contact of a usual plug-in relay carries for good, amperes (common practice: 30 to 40). */
export const USUAL_CONTACT_AMPS = 30;

export const partSchema = z.discriminatedUnion('kind', [
  /** `amps`: its rating where a person chose it; else it is derived. */
  z.object({ kind: z.literal('fuse'), ...common, amps: z.number().positive().max(500).optional() }),
  z.object({
    kind: z.literal('relay'),
    ...common,
    contact: z.enum(['make', 'change-over']),
    control: z.enum(relayControls),
    /** What takes the kick of its winding; with a diode inside 86 goes to the supply. */
    suppression: z.enum(['none', 'diode', 'resistor']),
    /** 85 on the supply, 86 to the driver. */
    reversed: z.boolean(),
    /** What its contact carries for good, amperes. */
    contactAmps: z.number().positive().max(500),
  }),
  z.object({
    kind: z.literal('switch'),
    ...common,
    amps: z.number().positive().max(1000),
    resting: z.enum(['closed', 'open']),
    /** A second contact, 3 and 4, that moves with the first: what stops an engine whose alternator would feed it on. */
    poles: z.union([z.literal(1), z.literal(2)]).optional(),
  }),
  z.object({ kind: z.literal('button'), ...common }),
  z.object({ kind: z.literal('resistor'), ...common, ohms: z.number().min(0.0001).max(1e6) }),
  z.object({ kind: z.literal('diode'), ...common }),
  z.object({ kind: z.literal('splice'), ...common }),
  z.object({ kind: z.literal('busbar'), ...common }),
  /** A bolt of the car: on its body, or on the engine. */
  z.object({ kind: z.literal('ground'), ...common, on: z.enum(['body', 'engine']) }),
  /** A battery beside the first: of its own size; how full and how warm it is where that is known, 0 to 1 and °C. */
  z.object({
    kind: z.literal('battery'),
    ...common,
    ampereHours: z.number().min(1).max(500),
    charge: z.number().min(0).max(1).optional(),
    celsius: z.number().min(-40).max(80).optional(),
  }),
  /** A feed the car has: when it is live, what it can still give, and whether it is fused where it comes from. */
  z.object({
    kind: z.literal('tap'),
    ...common,
    /** An accessory is live with the key in its first place and in run, and drops while it starts. */
    live: z.enum(['always', 'accessory', 'run', 'start']),
    amps: z.number().positive().max(500),
    fused: z.boolean(),
  }),
]);
export type Part = z.infer<typeof partSchema>;
export type PartOf<K extends Part['kind']> = Extract<Part, { kind: K }>;

/** What a person says of a part that is proposed: the rest of it follows the proposal still. */
export const partChangesSchema = z.object({
  name: common.name.optional(),
  box: partName.nullable().optional(),
  existing: z.boolean().optional(),
  amps: z.number().positive().max(500).optional(),
  contact: z.enum(['make', 'change-over']).optional(),
  control: z.enum(relayControls).optional(),
  suppression: z.enum(['none', 'diode', 'resistor']).optional(),
  reversed: z.boolean().optional(),
  contactAmps: z.number().positive().max(500).optional(),
});
export type PartChanges = z.infer<typeof partChangesSchema>;

/** A part with what is said of it; what does not belong to its kind is passed over. */
export function changed<P extends Part>(part: P, changes: PartChanges | undefined): P {
  if (changes === undefined) return part;
  const { box, ...rest } = changes;
  const own = box === null ? {} : box === undefined ? {} : { box };
  const parsed = partSchema.safeParse({ ...part, ...rest, ...own });
  return parsed.success ? (parsed.data as P) : part;
}

export const boxSchema = z.object({
  name: z.string().trim().min(1).max(60),
  place: text(80),
  /** Columns of its lid, for the drawing and the label. */
  columns: z.int().min(1).max(12),
});
export type FeedBox = z.infer<typeof boxSchema>;

/** An end as a file may hold it. */
export const feedEnd = z
  .string()
  .max(160)
  .refine((value) => readEnd(value) !== null, 'must name an end')
  .transform((value) => endKey(readEnd(value)!));

export const linkSchema = z.object({ from: feedEnd, to: feedEnd, metres: metres.optional() });
export type Link = z.infer<typeof linkSchema>;

/** The most parts, and links, of one plan that a file may hold. */
const MOST_PARTS = 300;
const MOST_LINKS = 600;
const MOST_BOXES = 20;
const fewer = (most: number) => (record: object) => Object.keys(record).length <= most;

/** What a person decided of the feeds. Null: something that was proposed, and is not wanted. */
export const feedsSchema = z
  .object({
    parts: z.record(z.string().max(80), partSchema.nullable()).refine(fewer(MOST_PARTS), `at most ${MOST_PARTS} parts`),
    changes: z.record(z.string().max(80), partChangesSchema).refine(fewer(MOST_PARTS), `at most ${MOST_PARTS} changes`),
    links: z
      .record(z.string().max(330), linkSchema.nullable())
      .refine(fewer(MOST_LINKS), `at most ${MOST_LINKS} links`),
    boxes: z.record(partName, boxSchema).refine(fewer(MOST_BOXES), `at most ${MOST_BOXES} boxes`),
    /** Where fuses that are proposed draw from; null: the battery's post. */
    source: feedEnd.nullable(),
  })
  .superRefine(({ parts, links }, context) => {
    const wrong = (path: string[], message: string) => context.addIssue({ code: 'custom', path, message });
    for (const [id, part] of Object.entries(parts)) {
      const named = readPart(id);
      if (named === null) wrong(['parts', id], 'is no name of a part');
      else if (part !== null && named.kind !== part.kind)
        wrong(['parts', id], `names a ${named.kind} and holds a ${part.kind}`);
    }
    for (const [id, link] of Object.entries(links)) {
      const ends = endsOfWire(id);
      if (ends === null) wrong(['links', id], 'is no name of a wire');
      else if (link !== null && !(ends.includes(link.from) && ends.includes(link.to)))
        wrong(['links', id], 'is not the name of a wire between these two ends');
    }
  });
export type Feeds = z.infer<typeof feedsSchema>;

export const noFeeds: Feeds = { parts: {}, changes: {}, links: {}, boxes: {}, source: null };

/** Ports of a part, in the order they are drawn; '' where it has but one. */
const portsOf: Readonly<Record<Exclude<PartKind, 'key' | 'shield' | 'plug'>, readonly string[]>> = {
  fuse: ['1', '2'],
  relay: ['30', '87', '87a', '85', '86'],
  switch: ['1', '2'],
  button: ['1', '2'],
  resistor: ['1', '2'],
  diode: ['a', 'k'],
  splice: [''],
  busbar: [''],
  ground: [''],
  battery: [''],
  tap: [''],
};
export const portsOfPart = (part: Part): readonly string[] =>
  part.kind === 'relay' && part.contact === 'make'
    ? portsOf.relay.filter((port) => port !== '87a')
    : part.kind === 'switch' && part.poles === 2
      ? TWO_POLES
      : portsOf[part.kind];
const TWO_POLES: readonly string[] = ['1', '2', '3', '4'];
export const endsOfPart = (part: Part, name: string): EndKey[] =>
  portsOfPart(part).map((port) => partEnd(part.kind, name, port));

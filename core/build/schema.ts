import { z } from 'zod';
import { destinationSchema, groundPlaces, kindSchema } from '../devices/kind';
import { abilityKinds, ecuSchema } from '../ecu/ecu';
import { engineSchema } from '../engine/engine';
import { fuelDataSchema } from '../engine/fuel-data';
import { signalClassNames } from '../wire/colours';
import { checkedCurveSchema } from '../devices/curve';
import { surveySchema } from '../survey/records';
import { wheelSchema } from '../wheels/wheel';
import { feedEnd, feedsSchema } from '../topology/parts';
import { treeSchema } from '../tree/tree';
import { wireSeries } from '../wire/wire';
import { speedSchema } from '../speed/chain';
import { unitsSchema } from '../units/units';

/** Version of the document's shape. Raise it together with a step in migrations.ts. */
export const BUILD_SCHEMA_VERSION = 11;

const id = z.string().min(1).max(120);
/** What stands in an address and in the keys of the stores: letters, digits, hyphen and underscore. */
export const buildIdSchema = z
  .string()
  .regex(/^[A-Za-z0-9][A-Za-z0-9_-]{0,119}$/, 'must be 1 to 120 letters, digits, hyphens or underscores');
const text = (most: number) => z.string().max(most);
const instant = z.iso.datetime();
const metres = z.number().min(0).max(30);
/** What a reading or a confirmation was taken on (core/prove/evidence): it stands while all of it still holds. */
const takenOn = z.array(z.string().max(200)).max(60);

export const deviceSchema = z.object({
  id: z.string().regex(/^[a-z0-9-]{1,60}$/, 'must be lower-case letters, digits and hyphens'),
  kindId: z.string(),
  label: z.string().min(1).max(60),
  /** Cylinders it serves, rising: one, those that share it, or none where it serves the whole engine. */
  serves: z.array(z.int().min(1).max(16)).max(16),
  /** Which plug or injector of a cylinder: 1 leading or primary, 2 trailing or secondary. */
  row: z.union([z.literal(1), z.literal(2)]),
  /** Bank of cylinders it stands on, where it serves none by name: an oxygen sensor, a cam sensor; null for the whole engine. */
  bank: z.int().min(1).max(4).nullable(),
  /** Length of its branch from the ECU, metres. */
  branchMetres: metres,
  /** The terminal order was read off the part in hand. */
  terminalsConfirmed: z.boolean(),
  shield: z.enum(['ecu-end', 'both-ends', 'none']),
  /** Departures from the kind's own destinations, by terminal. */
  overrides: z.record(z.string(), destinationSchema),
  /** Both plugs of a twin carry a label. */
  labelled: z.boolean(),
  /** Ohms of a resistor fitted outside, from the signal to 5 V; null for none. */
  pullUpOhms: z.number().positive().max(1e6).nullable(),
  /** What its wires are made of: a thermocouple wants its own alloys all the way. */
  leadWire: z.enum(['copper', 'type-k']),
  /** Calibrations the ECU is set to where they are not the part's own, by signal terminal. */
  ecuCurves: z.record(z.string(), z.object({ name: z.string().min(1).max(60), curve: checkedCurveSchema })),
});
export type Device = z.infer<typeof deviceSchema>;

/** One CAN bus: its members in their order along the trunk, from the ECU. */
export const busSchema = z.object({
  id: z.string().regex(/^[a-z0-9-]{1,30}$/, 'must be lower-case letters, digits and hyphens'),
  name: z.string().trim().min(1).max(40),
  kilobits: z.int().min(10).max(1000),
  members: z.array(z.string()).max(100),
  /** Metres from the trunk to a member, where they were measured. */
  stubs: z.record(z.string(), z.number().min(0).max(30)).optional(),
});
export type Bus = z.infer<typeof busSchema>;
export const MOST_BUSES = 16;

export const circuitChoiceSchema = z.object({
  lengthMetres: metres.optional(),
  squareMm: z.number().positive().max(95).optional(),
  fuseAmps: z.number().positive().max(200).optional(),
  fuseDistanceMetres: metres.optional(),
  relay: z.enum(['plain', 'diode']).optional(),
  /** DIN 72552: 86 to supply, 85 to the driver; `reversed` swaps them. */
  winding: z.enum(['as-marked', 'reversed']).optional(),
  switchedBy: z.enum(['ecu', 'key']).optional(),
  /** A way of its own from the battery (of the relay windings: a fuse of their own), or behind the main relay. */
  feed: z.enum(['own', 'shared']).optional(),
});
export type CircuitChoice = z.infer<typeof circuitChoiceSchema>;

export const readingSchema = z.object({
  /** Measured value in the test's unit; null is an open line. */
  value: z.number().min(0).max(1e9).nullable(),
  at: instant,
  by: text(40),
  note: text(200),
  /** What the wire was when it was measured, for the sentence when it changes. */
  title: text(120),
});
export type Reading = z.infer<typeof readingSchema>;

export const confirmationSchema = z.object({
  at: instant,
  by: z.string().min(1).max(40),
  value: z.number().nullable(),
  on: takenOn,
});
export type Confirmation = z.infer<typeof confirmationSchema>;

export const offsetReadingSchema = z.object({
  at: instant,
  rpm: z.number().min(0).max(20000),
  commandedDegrees: z.number().min(-60).max(60),
  seenDegrees: z.number().min(-720).max(720),
  oldOffset: z.number(),
  newOffset: z.number(),
  on: takenOn,
});
export type OffsetReading = z.infer<typeof offsetReadingSchema>;

export const caseReadingSchema = z.object({ testId: z.string().max(200), value: z.number().nullable(), at: instant });
export const caseSchema = z.object({
  id,
  symptomId: z.string().max(200),
  openedAt: instant,
  readings: z.array(caseReadingSchema).max(200),
  closed: z.object({ at: instant, faultId: z.string().max(200), title: text(200), note: text(400) }).nullable(),
});
export type TraceCase = z.infer<typeof caseSchema>;

/** What was read of a sensor with the key on: at the pin, and what the ECU made of it. */
export const sensorReadingSchema = z.object({
  /** Volts, hertz or millivolts at the pin; null when not measured. */
  atPin: z.number().min(-1000).max(1e6).nullable(),
  /** What the ECU shows, in Gonyx' own unit of the quantity; null when not read. */
  shown: z.number().min(-1e6).max(1e6).nullable(),
  at: instant,
  by: text(40),
  on: takenOn,
});
export type SensorReading = z.infer<typeof sensorReadingSchema>;

/** A finding somebody has looked at and left: who, why, and the words it had. With other words it stands again. */
export const asideSchema = z.object({
  rule: z.string().max(20),
  by: z.string().trim().min(1).max(40),
  reason: z.string().trim().min(1).max(300),
  at: instant,
  detail: text(2000),
});
export type Aside = z.infer<typeof asideSchema>;

/** A heavy cable of the car: its copper, how long it is, and where its end away from the machine lands. */
export const cableSchema = z.object({
  squareMm: z.number().positive().max(150),
  metres: z.number().min(0.1).max(30),
  at: feedEnd,
});
export type Cable = z.infer<typeof cableSchema>;

const planFields = {
  engine: engineSchema,
  ecu: ecuSchema,
  /** Definitions of every device kind in use, so that the file needs no catalog. */
  kinds: z.record(z.string(), kindSchema),
  devices: z.array(deviceSchema).max(300),
  /** CAN buses, each on one pair of the ECU at one rate. */
  buses: z.array(busSchema).max(MOST_BUSES),
  /** What an output's number means; starts as the ECU's own school. */
  outputOrder: z.enum(['in-turn', 'by-cylinder']),
  /** Need id to pin id. */
  assignments: z.record(z.string(), z.string()),
  /** Needs that hang on the output of another, by that other: injectors opened together, coils fired together. */
  joined: z.record(z.string(), z.string()),
  /** Needs whose pin must not move (crimped, or the person's wish). */
  locked: z.array(z.string()).max(400),
  trigger: z.object({
    crankWheel: wheelSchema.nullable(),
    camWheel: wheelSchema.nullable(),
    /** Edge of the crank signal the ECU is set to; not said while none is. */
    crankEdge: z.enum(['rising', 'falling']).nullable().optional(),
    /** Crank degrees from the first tooth after the gap to TDC 1, 0 to cycle. */
    offsetDegrees: z.number().min(0).lt(720),
    /** How the ECU names it: counted from the tooth on to TDC 1 or from TDC 1 on to the tooth; from 0 up, about 0, or -360 to 360. */
    offsetWay: z.object({
      counts: z.enum(['tooth-to-tdc', 'tdc-to-tooth']),
      range: z.enum(['up', 'signed', 'wide']),
    }),
    offsetConfirmed: z.boolean(),
    readings: z.array(offsetReadingSchema).max(200),
    lockDegrees: z.union([z.literal(0), z.literal(10)]),
    /** Speed variation within a cranking turn, as a share of the mean. */
    ripple: z.number().min(0).max(0.6),
    /** For the event chart. */
    chartRpm: z.int().min(100).max(20000),
    dwellMilliseconds: z.number().positive().max(20),
    injectionMilliseconds: z.number().positive().max(40),
    advanceDegrees: z.number().min(-20).max(60),
  }),
  power: z.object({
    circuits: z.record(z.string(), circuitChoiceSchema),
    ecuGround: z.enum(['battery', 'head']),
    groundMetres: z.record(z.enum(groundPlaces), metres),
    strapSquareMm: z.number().positive().max(95),
    strapMetres: metres.refine((value) => value > 0, 'a strap has a length'),
    /** The heavy cables that are no wire of the loom: the starter's, and the alternator's. */
    starterCable: cableSchema,
    alternatorCable: cableSchema,
    /** How wires that meet at a post or a blade are joined: each at a place of its own, by a bar or a splice, or one upon the other. */
    joints: z.enum(['apart', 'stacked']),
    starting: z.enum(['key', 'button']),
    /** Whether the battery is charged by the engine, or lives on what it holds. */
    charging: z.enum(['alternator', 'none']),
    /** Capacity of the battery, ampere-hours. */
    batteryAh: z.number().min(1).max(500),
    /** What the alternator is marked with, amperes; absent: nobody has told. */
    alternatorAmps: z.number().min(1).max(500).optional(),
  }),
  /** What was decided of the plan of feeds; the rest is proposed. */
  feeds: feedsSchema,
  loom: z.object({
    slackMetres: metres,
    covering: z.enum(['tape', 'conduit', 'braid', 'sealed']),
    origin: z.enum(['new', 'stripped-donor', 'adapter', 'flying-lead']),
    joining: z.enum(['crimp', 'solder-sleeve', 'solder-and-shrink']),
    holeMillimetres: z.number().positive().max(200),
    zoneCelsius: z.number().min(-40).max(250),
    wireCelsius: z.number().min(60).max(250),
    /** What wire is on the shelf: sizes are proposed from it. */
    series: z.enum(wireSeries),
    blanksFitted: z.boolean(),
    orderOfWork: z.enum(['powers-first', 'engine-side-first', 'shortest-first']),
    /** What stands on the labels of wires: words, and fields between braces (core/loom/labels). */
    label: z.string().min(1).max(120),
    /** How long the leads are that came with the ECU; absent: nobody has said. */
    leadMetres: metres.optional(),
    /** Where a phone finds Gonyx, for tags that lead to a run; absent or empty: there are no tags. */
    tags: z.string().trim().max(200).optional(),
    wires: z.record(
      z.string(),
      z.object({ squareMm: z.number().positive().max(95).optional(), colour: z.string().max(12).optional() }),
    ),
  }),
  /** The loom as it lies in the car: places, pieces between them, plugs. */
  tree: treeSchema,
  site: z.object({
    altitudeMetres: z.number().min(-430).max(6000),
    ambientCelsius: z.number().min(-40).max(60),
  }),
  /** Spares to keep, by kind of pin; `any` counts them all. */
  reserve: z.partialRecord(z.enum(['any', ...abilityKinds]), z.int().min(0).max(40)),
  /** Pins that must stay empty (`needId` null) or must not take one need. */
  never: z.array(z.object({ needId: z.string().max(120).nullable(), pinId: z.string().max(8) })).max(400),
  /** Pin of a shared 5 V supply or sensor ground, by `device.terminal`; absent: by the terminal's bank. */
  shared: z.record(z.string(), z.string()),
  /** What a ground pin that can be either is wired as, where the person decided; a power ground may be shared as well. */
  groundUse: z.record(z.string(), z.enum(['ecu', 'sensors', 'both'])),
  fuel: fuelDataSchema,
  /** From the speed sensor to the road; null where it was not told. */
  speed: speedSchema.nullable(),
};

export const spoolSchema = z.object({
  id: z.string().regex(/^[a-z0-9-]{1,40}$/, 'must be lower-case letters, digits and hyphens'),
  colour: z.string().min(2).max(12),
  squareMm: z.number().positive().max(95),
  metres: z.number().min(0).max(5000),
});
export type Spool = z.infer<typeof spoolSchema>;
/** How far one line of the parts to buy is: pieces or metres. */
export const boughtSchema = z.object({
  have: z.number().min(0).max(100_000),
  ordered: z.number().min(0).max(100_000),
  arrived: z.number().min(0).max(100_000),
  /** For one piece or metre, in the person's money. */
  price: z.number().min(0).max(1e6).nullable(),
  supplier: z.string().max(60),
});
export type Bought = z.infer<typeof boughtSchema>;
export const MOST_SPOOLS = 300;
export const storesSchema = z.object({
  spools: z.array(spoolSchema).max(MOST_SPOOLS),
  /** How long a spool is that is bought. */
  spoolMetres: z.number().min(1).max(1000),
  /** By the line's key. */
  parts: z.record(z.string().max(160), boughtSchema),
});

/** How classes of signal are marked on faces and prints: the person's own, by class. */
export const tints = ['sky', 'rose', 'olive', 'mint', 'lilac', 'blush', 'slate', 'teal', 'amber', 'none'] as const;
export const patterns = ['plain', 'lines', 'dots', 'grid', 'slants'] as const;
export const markSchema = z.object({
  letter: z.string().regex(/^[A-Z0-9]{1,2}$/, 'must be one or two capital letters or digits'),
  tint: z.enum(tints),
  pattern: z.enum(patterns),
});
export type Mark = z.infer<typeof markSchema>;

export const pinningOrders = ['connector', 'device', 'branch', 'powers-first'] as const;
export type PinningOrder = (typeof pinningOrders)[number];
/** What is walked: the ECU's connectors, the plugs of devices, or both halves of the plugs in the loom. */
export const pinningEnds = ['ecu', 'devices', 'plugs'] as const;
export type PinningEnds = (typeof pinningEnds)[number];

export const planSchema = z.object(planFields);
/** The decisions a revision keeps: everything but measurements, history and the name. */
export type Plan = z.infer<typeof planSchema>;

export const revisionSchema = z.object({
  letter: z.string().regex(/^[A-Z]{1,2}$/, 'must be one or two capital letters'),
  at: instant,
  note: text(300),
  plan: planSchema,
});
export type Revision = z.infer<typeof revisionSchema>;

export const buildSchema = z.object({
  schemaVersion: z.literal(BUILD_SCHEMA_VERSION),
  id: buildIdSchema,
  name: z.string().trim().min(1).max(80),
  vehicle: text(120),
  notes: text(4000),
  createdAt: instant,
  ...planFields,
  /** What pressures, temperatures and mixtures are read in, everywhere. */
  units: unitsSchema,
  /** What is on the shelf and on order. Not part of a revision. */
  stores: storesSchema,
  /** What was found: donor loom, questions, parts, hours, photographs. Not part of a revision. */
  survey: surveySchema,
  /** Key-on readings by device and signal terminal. */
  sensing: z.object({ readings: z.record(z.string(), sensorReadingSchema) }),
  prove: z.object({
    leadOhms: z.number().min(0).max(5),
    by: text(40),
    readings: z.record(z.string(), readingSchema),
  }),
  /** Cavities done at the bench, by wire: a changed end makes a new wire, and its crimp falls away visibly. */
  pinning: z.object({
    order: z.enum(pinningOrders),
    /** Absent: the ECU's. */
    ends: z.enum(pinningEnds).optional(),
    done: z.record(z.string(), z.object({ at: instant, by: text(40) })),
  }),
  /** Own letters, tints and patterns of signal classes. */
  marks: z.partialRecord(z.enum(signalClassNames), markSchema),
  /** Gate id to check id to who confirmed it and when. */
  fireup: z.record(z.string(), z.record(z.string(), confirmationSchema)),
  /** Findings set aside, by the finding's id. */
  aside: z.record(z.string().max(200), asideSchema),
  cases: z.array(caseSchema).max(100),
  revisions: z.array(revisionSchema).max(52),
});

/** One build: what the person decided and measured. Everything else is derived from it. */
export type Build = z.infer<typeof buildSchema>;

export const planKeys = Object.keys(planFields) as (keyof Plan)[];

/** The decisions of a build, without measurements and history. */
export function planOf(build: Build): Plan {
  return Object.fromEntries(planKeys.map((key) => [key, build[key]])) as Plan;
}

export const kindOf = (build: Pick<Build, 'kinds'>, device: Device) => build.kinds[device.kindId];

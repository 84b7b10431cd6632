import { z } from 'zod';
import { askSchema } from '../ecu/ask';
import { checkedCurveSchema } from './curve';
import { deviceFaceSchema, faceMiss } from './face';
import { quantities } from '../units/units';

/** Systems, in the order people go through an engine bay. */
export const systems = [
  'Trigger',
  'Fuel',
  'Ignition',
  'Air and throttle',
  'Cooling',
  'Oil and knock',
  'Exhaust',
  'Driver',
  'Bus and dash',
  'Start and charge',
  'Body plug',
] as const;
export type System = (typeof systems)[number];

/** Where in a vehicle something sits. */
export const regions = [
  'intake',
  'coils',
  'injectors',
  'block',
  'exhaust',
  'gearbox',
  'front',
  'cabin',
  'rear',
] as const;
export type Region = (typeof regions)[number];

export const groundPlaces = ['battery', 'head', 'chassis'] as const;
export type GroundPlace = (typeof groundPlaces)[number];
export const feedNames = ['main', 'coils', 'injectors', 'pump', 'own', 'key', 'permanent'] as const;
export type FeedName = (typeof feedNames)[number];

/** Where a device terminal goes. `bank` spreads twin tracks over separate supplies. */
export const destinationSchema = z.discriminatedUnion('to', [
  z.object({ to: z.literal('pin'), ask: askSchema, pair: z.string().max(12).optional() }),
  z.object({ to: z.literal('supply-5v'), milliamps: z.number().min(0).max(500), bank: z.int().min(0).max(3) }),
  z.object({ to: z.literal('sensor-ground'), bank: z.int().min(0).max(3) }),
  z.object({ to: z.literal('feed'), feed: z.enum(feedNames), amps: z.number().min(0).max(300) }),
  z.object({ to: z.literal('ground'), place: z.enum(groundPlaces) }),
  /** Through the part's own body to what it is bolted to: there is no wire. */
  z.object({ to: z.literal('mounted'), place: z.enum(groundPlaces) }),
  /** A line of that name: every terminal that names it is joined, such as a lamp and the switch that lights it. */
  z.object({
    to: z.literal('line'),
    line: z.string().regex(/^[a-z0-9-]{2,24}$/, 'must be 2 to 24 lower-case letters, digits and hyphens'),
  }),
  /** The car's own key switch arrives here: circuits of that feed start at this terminal. */
  z.object({ to: z.literal('source'), source: z.enum(['key-run', 'key-start']) }),
  /** Left bare on purpose. */
  z.object({ to: z.literal('nothing') }),
]);
export type Destination = z.infer<typeof destinationSchema>;

export const terminalSchema = z.object({
  id: z.string().regex(/^[A-Za-z0-9+-]{1,6}$/, 'a terminal is up to six letters, digits, + or -'),
  name: z.string().min(1).max(40),
  destination: destinationSchema,
});
export type Terminal = z.infer<typeof terminalSchema>;

/** Points of the car that a body plug's own inside leads to: key feed, battery, body ground (DIN 72552 numbers). */
export const carPoints = ['@15', '@50', '@30', '@31'] as const;

/** What stands between two terminals inside the device, at rest: enough for meter readings. */
export const internalSchema = z.discriminatedUnion('type', [
  z.object({ type: z.literal('resistor'), from: z.string(), to: z.string(), ohms: z.number().positive() }),
  /** A ratiometric output at rest: `ratio` of the supply, through `ohms` source resistance. */
  z.object({
    type: z.literal('divider'),
    supply: z.string(),
    ground: z.string(),
    signal: z.string(),
    ratio: z.number().gt(0).lt(1),
    ohms: z.number().positive(),
  }),
]);
export type Internal = z.infer<typeof internalSchema>;

/** Milliseconds against battery volts, in rising order of volts: dead time or dwell. */
export const voltsTableSchema = z
  .array(z.object({ volts: z.number().min(4).max(20), milliseconds: z.number().positive().max(40) }))
  .max(24)
  .superRefine((rows, context) => {
    rows.forEach((row, index) => {
      if (index > 0 && row.volts <= rows[index - 1]!.volts)
        context.addIssue({ code: 'custom', path: [index, 'volts'], message: 'must be above the row before it' });
    });
  });
export type VoltsTable = z.infer<typeof voltsTableSchema>;

export const tachometerDrives = ['low-side', 'logic', 'coil-negative'] as const;
export const bodySignalIds = [
  'key-feed',
  'start-signal',
  'oil-lamp',
  'charge-lamp',
  'engine-lamp',
  'tachometer',
  'temperature-gauge',
  'oil-gauge',
  'speedometer',
  'speed-from-car',
  'reverse-light',
  'air-conditioning',
  'clutch-switch',
  'neutral-switch',
  'brake-switch',
  'immobiliser',
  'ground',
  'not-used',
  'unknown',
] as const;
export type BodySignalId = (typeof bodySignalIds)[number];

/** One cavity of a body plug as it was found. */
export const bodyCavitySchema = z.object({
  cavity: z.string().regex(/^[A-Za-z0-9]{1,4}$/, 'a cavity is up to four letters or digits'),
  /** Colour of the car's wire, as written. */
  colour: z.string().max(20),
  signal: z.enum(bodySignalIds),
  note: z.string().max(120),
});
export type BodyCavity = z.infer<typeof bodyCavitySchema>;

/** Facts the rules and sheets compute with; each is the part's own electrical truth. */
export const traitSchema = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('coil'),
    igniter: z.boolean(),
    primaryOhms: z.number().positive(),
    inductanceMillihenry: z.number().positive(),
    /** Dwell the coil is meant for, by battery volts. */
    dwell: voltsTableSchema.min(1),
    /** Cylinders one coil serves: 1 direct, 2 wasted. */
    serves: z.int().min(1).max(16),
  }),
  z.object({
    type: z.literal('injector'),
    ohms: z.number().positive(),
    flowCcPerMinute: z.number().positive(),
    /** Pressure across the injector at which that flow was measured, kPa. */
    atKpa: z.number().positive().max(2000),
    /** Opening less closing delay; empty when nobody knows it. */
    dead: voltsTableSchema,
  }),
  z.object({
    type: z.literal('pressure'),
    measures: z.enum(['manifold', 'fuel', 'oil', 'other']),
    reference: z.enum(['absolute', 'gauge']),
  }),
  /** A measured quantity and its calibration. */
  z.object({
    type: z.literal('sensor'),
    /** Terminal that carries the signal. */
    terminal: z.string(),
    quantity: z.enum(quantities),
    /** Unit of the signal: volts, ohms to the return, hertz, or millivolts. */
    signal: z.enum(['volts', 'ohms', 'hertz', 'millivolts']),
    curve: checkedCurveSchema,
    /** Range of the quantity it measures, in Gonyx' own unit (kPa, °C, %, lambda, km/h, rpm). */
    least: z.number(),
    most: z.number(),
    /** Volts follow the 5 V supply. */
    ratiometric: z.boolean(),
    /** A signal below or above these is a fault, in the signal's unit at the pin (volts for a resistor). */
    faultBelow: z.number().nullable(),
    faultAbove: z.number().nullable(),
  }),
  z.object({ type: z.literal('trigger'), shaft: z.enum(['crank', 'cam']), sensor: z.enum(['vr', 'hall']) }),
  z.object({ type: z.literal('wideband'), route: z.enum(['volts', 'can', 'cell']) }),
  z.object({ type: z.literal('can'), kilobits: z.int().min(10).max(1000), terminated: z.boolean() }),
  /** A module on the bus that takes signals for the ECU; each terminal is one channel. */
  z.object({
    type: z.literal('module'),
    channels: z
      .array(
        z.object({
          terminal: z.string(),
          kind: z.enum(['analog', 'switch', 'low-side']),
          maxAmps: z.number().positive().max(40).optional(),
        }),
      )
      .min(1)
      .max(40),
  }),
  z.object({ type: z.literal('relay-load'), suppressed: z.boolean() }),
  /** A module that switches coils: each logic input works the output beside it. */
  z.object({
    type: z.literal('igniter'),
    channels: z
      .array(z.object({ input: z.string(), output: z.string() }))
      .min(1)
      .max(8),
    maxAmps: z.number().positive().max(40),
  }),
  z.object({
    type: z.literal('tachometer'),
    /** Pulses the gauge wants for one crank turn. */
    pulsesPerTurn: z.number().positive().max(12),
    drive: z.enum(tachometerDrives),
  }),
  /** A plug of the car: what each of its cavities is. */
  z.object({ type: z.literal('body'), cavities: z.array(bodyCavitySchema).max(80) }),
  z.object({
    type: z.literal('role'),
    role: z.enum([
      'pump',
      'fan',
      'starter',
      'start-button',
      'clutch-switch',
      'neutral-switch',
      'brake-switch',
      'kill-switch',
      'stand-switch',
      'tilt-switch',
      'oil-switch',
      'reverse-switch',
      'alternator',
      'knock',
      'pedal',
      'throttle',
      'air-mass',
      'manifold-hose',
      'tachometer',
      'speedometer',
      'speed',
      'gauge-sender',
      'thermocouple',
      'lamp',
    ]),
  }),
]);
export type Trait = z.infer<typeof traitSchema>;
export type TraitOf<T extends Trait['type']> = Extract<Trait, { type: T }>;

function namedTerminals(trait: Trait): string[] {
  if (trait.type === 'sensor') return [trait.terminal];
  if (trait.type === 'module') return trait.channels.map(({ terminal }) => terminal);
  return trait.type === 'igniter' ? trait.channels.flatMap(({ input, output }) => [input, output]) : [];
}

export const kindSchema = z
  .object({
    id: z.string().regex(/^[a-z0-9-]{2,40}$/, 'must be 2 to 40 lower-case letters, digits and hyphens'),
    name: z.string().min(1).max(60),
    system: z.enum(systems),
    note: z.string().max(300),
    terminals: z.array(terminalSchema).min(1).max(80),
    internals: z.array(internalSchema).max(80),
    traits: z.array(traitSchema).max(8),
    /** One device per cylinder is offered when it is added. */
    perCylinder: z.boolean(),
    shielded: z.boolean(),
    twisted: z.boolean(),
    /** Two parts of this kind have plugs that fit each other. */
    twinRisk: z.boolean(),
    /** Where it sits; absent: where its role and its system usually do. */
    sits: z.enum(regions).optional(),
    /** How its plug looks; absent: nobody has drawn it. */
    face: deviceFaceSchema.optional(),
  })
  .superRefine((kind, context) => {
    const ids = new Set(kind.terminals.map((terminal) => terminal.id));
    if (ids.size !== kind.terminals.length)
      context.addIssue({ code: 'custom', path: ['terminals'], message: 'two terminals have the same name' });
    kind.internals.forEach((internal, index) => {
      const named =
        internal.type === 'resistor'
          ? [internal.from, internal.to]
          : [internal.supply, internal.ground, internal.signal];
      const missing = named.find((name) => !ids.has(name) && !(carPoints as readonly string[]).includes(name));
      if (missing !== undefined)
        context.addIssue({ code: 'custom', path: ['internals', index], message: `terminal ${missing} does not exist` });
    });
    const miss = kind.face ? faceMiss(kind.face, [...ids]) : null;
    if (miss !== null) context.addIssue({ code: 'custom', path: ['face'], message: miss });
    kind.traits.forEach((trait, index) => {
      const missing = namedTerminals(trait).find((name) => !ids.has(name));
      if (missing !== undefined)
        context.addIssue({ code: 'custom', path: ['traits', index], message: `terminal ${missing} does not exist` });
      if (trait.type === 'sensor' && trait.least >= trait.most)
        context.addIssue({ code: 'custom', path: ['traits', index, 'most'], message: 'must be above the least' });
    });
  });
export type DeviceKind = z.infer<typeof kindSchema>;

export function trait<T extends Trait['type']>(kind: DeviceKind, type: T): TraitOf<T> | null {
  return (kind.traits.find((candidate) => candidate.type === type) as TraitOf<T> | undefined) ?? null;
}
export const hasRole = (kind: DeviceKind, role: TraitOf<'role'>['role']): boolean =>
  kind.traits.some((candidate) => candidate.type === 'role' && candidate.role === role);

export type SensorTrait = TraitOf<'sensor'>;
export const sensorsIn = (kind: DeviceKind): SensorTrait[] => kind.traits.filter((one) => one.type === 'sensor');
/** The kind's own temperature by resistance, such as an NTC. */
export const thermistorIn = (kind: DeviceKind): SensorTrait | null =>
  sensorsIn(kind).find((one) => one.quantity === 'temperature' && one.signal === 'ohms') ?? null;
/** Range of a pressure sensor, kPa. */
export function pressureRange(
  kind: DeviceKind,
): { measures: TraitOf<'pressure'>['measures']; reference: 'absolute' | 'gauge'; least: number; most: number } | null {
  const pressure = trait(kind, 'pressure');
  const sensor = sensorsIn(kind).find((one) => one.quantity === 'pressure');
  return pressure && sensor
    ? { measures: pressure.measures, reference: pressure.reference, least: sensor.least, most: sensor.most }
    : null;
}

/** Why a terminal may never be proposed to be given up. */
export type Protection = 'redundancy' | 'interlock';

const interlockSignals: ReadonlySet<BodySignalId> = new Set(['clutch-switch', 'neutral-switch', 'brake-switch']);
/** Switches that hold the starter back, and those that stop the engine. */
export const holdRoles = ['clutch-switch', 'neutral-switch', 'stand-switch'] as const;
export const haltRoles = ['kill-switch', 'tilt-switch'] as const;
const interlockRoles = [...holdRoles, ...haltRoles, 'brake-switch'] as const;
/** Words of switches that hold the engine or the starter back (common practice), for parts a person has named himself. */
const interlockWords = /\b(clutch|neutral|brake|(?:side ?)?stand|tilt|roll ?over|kill|emergency|seat|dead ?man)\b/i;

/**
 * What a terminal protects: one of two tracks that check each other, or a switch that holds back the starter or the engine.
 * No proposal of Gonyx may give such a terminal up, bridge it or send it another way.
 */
export function protectionOf(kind: DeviceKind, terminal: Terminal): Protection | null {
  const cavity = trait(kind, 'body')?.cavities.find((one) => one.cavity === terminal.id);
  if (cavity) return interlockSignals.has(cavity.signal) ? 'interlock' : null;
  const tracks = sensorsIn(kind).filter((one) => one.quantity === 'position');
  if (hasRole(kind, 'pedal') || tracks.length > 1) return 'redundancy';
  const roles = interlockRoles.some((role) => hasRole(kind, role));
  const input = terminal.destination.to === 'pin' && terminal.destination.ask.kind === 'switch';
  return roles || (input && interlockWords.test(`${kind.name} ${terminal.name}`)) ? 'interlock' : null;
}

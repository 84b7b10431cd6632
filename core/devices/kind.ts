import { z } from 'zod';
import { askSchema } from '../ecu/ask';

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
] as const;
export type System = (typeof systems)[number];

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
  /** A contact to another device's feed, such as a starter's solenoid terminal. Left bare on purpose. */
  z.object({ to: z.literal('nothing') }),
]);
export type Destination = z.infer<typeof destinationSchema>;

export const terminalSchema = z.object({
  id: z.string().regex(/^[A-Za-z0-9+-]{1,6}$/, 'a terminal is up to six letters, digits, + or -'),
  name: z.string().min(1).max(40),
  destination: destinationSchema,
});
export type Terminal = z.infer<typeof terminalSchema>;

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

/** Facts the rules and sheets compute with; each is the part's own electrical truth. */
export const traitSchema = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('coil'),
    igniter: z.boolean(),
    primaryOhms: z.number().positive(),
    inductanceMillihenry: z.number().positive(),
    dwellMilliseconds: z.number().positive().max(20),
    /** Cylinders one coil serves: 1 direct, 2 wasted. */
    serves: z.int().min(1).max(16),
  }),
  z.object({
    type: z.literal('injector'),
    ohms: z.number().positive(),
    flowCcPerMinute: z.number().positive(),
    deadMilliseconds: z.number().positive().nullable(),
  }),
  z.object({
    type: z.literal('pressure'),
    measures: z.enum(['manifold', 'fuel', 'oil']),
    minKpa: z.number(),
    maxKpa: z.number(),
    reference: z.enum(['absolute', 'gauge']),
  }),
  z.object({ type: z.literal('ntc'), ohmsAt20: z.number().positive(), beta: z.number().positive() }),
  z.object({ type: z.literal('trigger'), shaft: z.enum(['crank', 'cam']), sensor: z.enum(['vr', 'hall']) }),
  z.object({ type: z.literal('wideband'), route: z.enum(['volts', 'can', 'cell']) }),
  z.object({ type: z.literal('can'), kilobits: z.int().min(10).max(1000), terminated: z.boolean() }),
  z.object({ type: z.literal('relay-load'), suppressed: z.boolean() }),
  z.object({
    type: z.literal('role'),
    role: z.enum([
      'pump',
      'fan',
      'starter',
      'start-button',
      'clutch-switch',
      'alternator',
      'knock',
      'pedal',
      'throttle',
      'tachometer',
      'speed',
    ]),
  }),
]);
export type Trait = z.infer<typeof traitSchema>;
export type TraitOf<T extends Trait['type']> = Extract<Trait, { type: T }>;

export const kindSchema = z
  .object({
    id: z.string().regex(/^[a-z0-9-]{2,40}$/),
    name: z.string().min(1).max(60),
    system: z.enum(systems),
    note: z.string().max(300),
    terminals: z.array(terminalSchema).min(1).max(24),
    internals: z.array(internalSchema).max(24),
    traits: z.array(traitSchema).max(6),
    /** One device per cylinder is offered when it is added. */
    perCylinder: z.boolean(),
    shielded: z.boolean(),
    twisted: z.boolean(),
    /** Two parts of this kind have plugs that fit each other. */
    twinRisk: z.boolean(),
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
      const missing = named.find((name) => !ids.has(name));
      if (missing !== undefined)
        context.addIssue({ code: 'custom', path: ['internals', index], message: `terminal ${missing} does not exist` });
    });
  });
export type DeviceKind = z.infer<typeof kindSchema>;

export function trait<T extends Trait['type']>(kind: DeviceKind, type: T): TraitOf<T> | null {
  return (kind.traits.find((candidate) => candidate.type === type) as TraitOf<T> | undefined) ?? null;
}
export const hasRole = (kind: DeviceKind, role: TraitOf<'role'>['role']): boolean =>
  kind.traits.some((candidate) => candidate.type === 'role' && candidate.role === role);

import { z } from 'zod';
import { terminalNotesSchema } from './terminal';

/** What one physical pin can be. Numbered outputs carry `output`; pairs carry `pair`, `side` and, for a stepper, `phase`. */
export const abilityKinds = [
  'injector',
  'ignition-logic',
  'ignition-driver',
  'low-side',
  'high-side',
  'half-bridge',
  'stepper',
  'analog',
  'switch',
  'frequency',
  'vr',
  'hall',
  'knock',
  'wideband',
  'thermocouple',
  'can',
  'supply-5v',
  'supply-out',
  'sensor-ground',
  'power-ground',
  'shield',
  'permanent',
  'switched',
  'main-relay',
] as const;
export type AbilityKind = (typeof abilityKinds)[number];

/** Kinds that work only with a partner on the same pair of the ECU. */
export const pairedKinds: ReadonlySet<AbilityKind> = new Set([
  'half-bridge',
  'stepper',
  'vr',
  'wideband',
  'thermocouple',
  'can',
]);

export const abilitySchema = z.object({
  kind: z.enum(abilityKinds),
  /** Number printed on the maker's label for injector and ignition outputs. */
  output: z.int().min(1).max(24).optional(),
  /** Continuous current the pin stands, amperes. */
  maxAmps: z.number().positive().max(60).optional(),
  /** Highest switching or counting frequency, hertz; 0 is on/off only. */
  maxHz: z.number().min(0).max(100000).optional(),
  /** Lowest load resistance an injector driver stands, ohms. */
  minOhms: z.number().positive().max(100).optional(),
  /** How an injector driver works; absent: saturated. */
  drive: z.enum(['saturated', 'peak-hold']).optional(),
  /** Holding current of a peak-and-hold driver, amperes; `maxAmps` is the peak. */
  holdAmps: z.number().positive().max(20).optional(),
  /** A diode within the ECU leads from the pin to its switched supply and catches the load's kick; absent: it clamps by itself. */
  catches: z.boolean().optional(),
  /** Level of a logic output, or of a supply out other than 5 V, volts. */
  volts: z.number().positive().max(60).optional(),
  /** Range of an analog input, volts. */
  fromVolts: z.number().min(-60).max(60).optional(),
  toVolts: z.number().min(-60).max(60).optional(),
  /** Where a frequency or trigger input switches, volts. */
  thresholdVolts: z.number().min(0).max(20).optional(),
  /** Pull-up to 5 V inside the ECU, ohms. */
  pullUpOhms: z.number().positive().max(1e6).optional(),
  /** True when the pull-up can be turned off. */
  pullUpSwitchable: z.boolean().optional(),
  /** Name of the pair or set (VR, CAN, half-bridge, stepper, wideband cell) whose member this is. */
  pair: z.string().min(1).max(20).optional(),
  side: z.enum(['plus', 'minus']).optional(),
  /** Which wire of a wideband cell this is. */
  cell: z.enum(['pump', 'reference', 'ground']).optional(),
  /** Winding of a stepper output. */
  phase: z.enum(['a', 'b']).optional(),
});
export type Ability = z.infer<typeof abilitySchema>;

const pinIdShape = /^[A-Z](?:[A-Z0-9]{0,2}[A-Z]?[0-9]{1,3}|[A-Z0-9]{0,3}-[0-9]{1,3})$/;

export const pinSchema = z.object({
  id: z.string().regex(pinIdShape, 'must be a connector and a cavity number, such as A13 or J1-4'),
  connector: z
    .string()
    .regex(/^[A-Z][A-Z0-9]{0,3}$/, 'must be a capital letter, with up to three more letters or digits'),
  cavity: z.int().min(1).max(400),
  label: z.string().min(1).max(40),
  abilities: z.array(abilitySchema).min(1).max(8),
  /** Wire that comes with the ECU where it has a loom of its own: colour letters, and its size. */
  lead: z.object({ colour: z.string().min(2).max(12), squareMm: z.number().positive().max(16).optional() }).optional(),
});
export type Pin = z.infer<typeof pinSchema>;

/** `A13`; a connector whose own name ends in a digit keeps it apart: `J1-4`. */
export const pinIdOf = (connector: string, cavity: number): string =>
  `${connector}${/[0-9]$/.test(connector) ? '-' : ''}${cavity}`;

export const numberingSchema = z.object({
  /** Corner of the first cavity, seen from the wire side. */
  from: z.enum(['top-left', 'top-right', 'bottom-left', 'bottom-right']),
  along: z.enum(['rows', 'columns']),
  /** Every second row or column runs back. */
  turning: z.boolean(),
});
export type Numbering = z.infer<typeof numberingSchema>;

export const connectorSchema = z.object({
  id: z.string().regex(/^[A-Z][A-Z0-9]{0,3}$/, 'a connector is up to four capital letters and digits, a letter first'),
  /** The person's own words for it: 'grey, toward the firewall'. */
  name: z.string().max(60).optional(),
  /** Cavities per row, from the top, seen from the wire side. */
  rows: z.array(z.int().min(1).max(60)).min(1).max(10),
  /** Absent: rows from the top left. */
  numbering: numberingSchema.optional(),
  /** Number of its first cavity; absent: 1. */
  first: z.int().min(1).max(400).optional(),
  /** Every second row stands half a cavity to the right. */
  staggered: z.boolean().optional(),
  /** Largest bare wire its terminals take, square millimetres. */
  maxSquareMm: z.number().positive().max(16),
  /** Cavities with larger terminals. */
  large: z.object({ cavities: z.array(z.int().min(1)).max(60), maxSquareMm: z.number().positive().max(50) }).optional(),
  /** Ribs and notches of the housing: edge, and place along it from 0 to 1, seen from the wire side. */
  keys: z
    .array(z.object({ edge: z.enum(['top', 'bottom', 'left', 'right']), at: z.number().min(0).max(1) }))
    .max(8)
    .optional(),
  sealed: z.boolean(),
  /** Its terminal, as far as the person has its data. */
  terminal: terminalNotesSchema.optional(),
});
export type Connector = z.infer<typeof connectorSchema>;

const pinList = z.array(z.string().max(8)).min(1).max(100);
export const groupSchema = z.discriminatedUnion('type', [
  /** One timer: all that pulse on these pins pulse at one frequency. */
  z.object({ type: z.literal('timer'), name: z.string().min(1).max(40), pins: pinList }),
  /** Together at most so many amperes. */
  z.object({
    type: z.literal('budget'),
    name: z.string().min(1).max(40),
    pins: pinList,
    amps: z.number().positive().max(200),
  }),
  /** Either this or that: pins of one side only may be used. */
  z.object({ type: z.literal('either'), name: z.string().min(1).max(40), sides: z.array(pinList).min(2).max(6) }),
]);
export type PinGroup = z.infer<typeof groupSchema>;
export const pinsOfGroup = (group: PinGroup): readonly string[] =>
  group.type === 'either' ? group.sides.flat() : group.pins;

export const wheelFamilies = [
  'missing-tooth',
  'even',
  'distributor',
  'uneven',
  'multi-gap',
  'half-moon',
  'cam-windows',
  'width-coded',
  'slot-disc',
] as const;
export type WheelFamily = (typeof wheelFamilies)[number];

export const decoderSchema = z.object({
  family: z.enum(wheelFamilies),
  /** Equal tooth places of a crank turn this decoder accepts. */
  minPlaces: z.int().min(1).max(400),
  maxPlaces: z.int().min(1).max(400),
  maxMissing: z.int().min(0).max(10),
  needsCam: z.boolean(),
});
export type Decoder = z.infer<typeof decoderSchema>;

/** The shape of a definition; `ecuSchema` adds what must hold between its parts. */
export const ecuShape = z.object({
  id: z.string().min(1).max(60),
  maker: z.string().max(60),
  model: z.string().min(1).max(60),
  /** Where the definition comes from, in the person's words. */
  note: z.string().max(400).optional(),
  outputOrder: z.enum(['in-turn', 'by-cylinder']),
  connectors: z.array(connectorSchema).min(1).max(12),
  pins: z.array(pinSchema).min(4).max(600),
  groups: z.array(groupSchema).max(60),
  decoders: z.array(decoderSchema).max(20),
  /** Power ground wires the maker asks for. */
  groundsAsked: z.int().min(1).max(12),
  /** Sensors within its case; absent: none. */
  inside: z
    .object({
      /** Highest absolute pressure its own manifold sensor reads, kPa: a hose leads there. */
      manifoldKpa: z.number().min(80).max(700).optional(),
      /** Reads the barometer by itself. */
      barometer: z.boolean().optional(),
    })
    .optional(),
  /** Lowest supply at which it still runs, volts (domain: often 6 to 8 V while cranking). */
  minVolts: z.number().min(4).max(12),
  /** Own consumption without outputs, amperes. */
  ownAmps: z.number().min(0.05).max(20),
  /** How far the ratio of successive tooth times may be off before the gap is missed: its fixed gap threshold. */
  gapThreshold: z.number().min(1.05).max(10),
});
export const ecuSchema = ecuShape.superRefine((ecu, context) => {
  const say = (path: (string | number)[], message: string) => context.addIssue({ code: 'custom', path, message });
  const seen = new Set<string>();
  const connectors = new Map(ecu.connectors.map((connector) => [connector.id, connector]));
  if (connectors.size < ecu.connectors.length) say(['connectors'], 'two connectors have the same name');
  ecu.pins.forEach((pin, index) => {
    if (seen.has(pin.id)) say(['pins', index, 'id'], `cavity ${pin.id} is listed twice`);
    seen.add(pin.id);
    const connector = connectors.get(pin.connector);
    const first = connector?.first ?? 1;
    const count = connector?.rows.reduce((sum, row) => sum + row, 0) ?? 0;
    if (pin.cavity < first || pin.cavity >= first + count || pin.id !== pinIdOf(pin.connector, pin.cavity))
      say(['pins', index, 'cavity'], `cavity ${pin.id} is not on a connector of this ECU`);
  });
  ecu.groups.forEach((group, index) => {
    const stray = pinsOfGroup(group).find((id) => !seen.has(id));
    if (stray !== undefined)
      say(['groups', index], `group ${group.name} names ${stray}, which is no cavity of this ECU`);
  });
  if (!ecu.pins.some((pin) => pin.abilities.some((ability) => ability.kind === 'power-ground')))
    say(['pins'], 'the ECU needs at least one power ground pin');
});
export type EcuDefinition = z.infer<typeof ecuSchema>;

/** Fixed pins are wired by the feeds, never allotted: supplies and grounds of the ECU itself. */
const fixedKinds: ReadonlySet<AbilityKind> = new Set([
  'supply-5v',
  'sensor-ground',
  'power-ground',
  'shield',
  'permanent',
  'switched',
  'main-relay',
]);

/** Outputs that fire a coil, by an igniter or straight. */
export const isIgnition = (kind: AbilityKind): boolean => kind === 'ignition-logic' || kind === 'ignition-driver';
export const isFixedPin = (pin: Pin): boolean => pin.abilities.every((ability) => fixedKinds.has(ability.kind));
const pinsByKind = new WeakMap<EcuDefinition, Map<AbilityKind, readonly Pin[]>>();
export function pinsOfKind(ecu: EcuDefinition, kind: AbilityKind): readonly Pin[] {
  const kinds = pinsByKind.get(ecu) ?? new Map<AbilityKind, readonly Pin[]>();
  pinsByKind.set(ecu, kinds);
  const pins = kinds.get(kind) ?? ecu.pins.filter((pin) => pin.abilities.some((ability) => ability.kind === kind));
  kinds.set(kind, pins);
  return pins;
}

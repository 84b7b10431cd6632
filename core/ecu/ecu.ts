import { z } from 'zod';

/** What one physical pin can be. Numbered outputs carry `output`; pairs carry `side`. */
export const abilityKinds = [
  'injector',
  'ignition-logic',
  'ignition-driver',
  'low-side',
  'half-bridge',
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
  'sensor-ground',
  'power-ground',
  'permanent',
  'switched',
  'main-relay',
] as const;
export type AbilityKind = (typeof abilityKinds)[number];

export const abilitySchema = z.object({
  kind: z.enum(abilityKinds),
  /** Number printed on the maker's label for injector and ignition outputs. */
  output: z.int().min(1).max(16).optional(),
  /** Continuous current the pin stands, amperes. */
  maxAmps: z.number().positive().max(60).optional(),
  /** Highest switching or counting frequency, hertz; 0 is on/off only. */
  maxHz: z.number().min(0).max(100000).optional(),
  /** Lowest load resistance a saturated injector driver stands, ohms. */
  minOhms: z.number().positive().max(100).optional(),
  /** Pull-up to 5 V inside the ECU, ohms. */
  pullUpOhms: z.number().positive().max(1e6).optional(),
  /** True when the pull-up can be turned off. */
  pullUpSwitchable: z.boolean().optional(),
  side: z.enum(['plus', 'minus']).optional(),
});
export type Ability = z.infer<typeof abilitySchema>;

export const pinSchema = z.object({
  id: z.string().regex(/^[A-Z][0-9]{1,3}$/, 'a pin is a connector letter and a cavity number, such as A13'),
  connector: z.string().regex(/^[A-Z]$/),
  cavity: z.int().min(1).max(200),
  label: z.string().min(1).max(40),
  abilities: z.array(abilitySchema).min(1).max(8),
  /** Name of the pair (VR, CAN, half-bridge) this pin belongs to. */
  pair: z.string().max(20).optional(),
});
export type Pin = z.infer<typeof pinSchema>;

export const connectorSchema = z.object({
  id: z.string().regex(/^[A-Z]$/),
  /** Cavities per row, numbered left to right from the top, seen from the wire side. */
  rows: z.array(z.int().min(1).max(40)).min(1).max(8),
  /** Largest bare wire its terminals take, square millimetres. */
  maxSquareMm: z.number().positive().max(6),
  sealed: z.boolean(),
});
export type Connector = z.infer<typeof connectorSchema>;

export const wheelFamilies = [
  'missing-tooth',
  'even',
  'distributor',
  'uneven',
  'multi-gap',
  'half-moon',
  'cam-windows',
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

export const ecuSchema = z
  .object({
    id: z.string().min(1).max(60),
    maker: z.string().max(60),
    model: z.string().min(1).max(60),
    outputOrder: z.enum(['in-turn', 'by-cylinder']),
    connectors: z.array(connectorSchema).min(1).max(8),
    pins: z.array(pinSchema).min(4).max(400),
    decoders: z.array(decoderSchema).max(20),
    /** Power ground wires the maker asks for. */
    groundsAsked: z.int().min(1).max(12),
    /** Lowest supply at which it still runs, volts (domain: often 6 to 8 V while cranking). */
    minVolts: z.number().min(4).max(12),
    /** Own consumption without outputs, amperes. */
    ownAmps: z.number().min(0.05).max(20),
    /** How far the ratio of successive tooth times may be off before the gap is missed: its fixed gap threshold. */
    gapThreshold: z.number().min(1.05).max(10),
  })
  .superRefine((ecu, context) => {
    const seen = new Set<string>();
    ecu.pins.forEach((pin, index) => {
      if (seen.has(pin.id))
        context.addIssue({ code: 'custom', path: ['pins', index, 'id'], message: `cavity ${pin.id} is listed twice` });
      seen.add(pin.id);
      const connector = ecu.connectors.find((candidate) => candidate.id === pin.connector);
      const count = connector?.rows.reduce((sum, row) => sum + row, 0) ?? 0;
      if (pin.cavity > count || pin.id !== `${pin.connector}${pin.cavity}`)
        context.addIssue({
          code: 'custom',
          path: ['pins', index, 'cavity'],
          message: `cavity ${pin.id} is not on a connector of this ECU`,
        });
    });
    if (!ecu.pins.some((pin) => pin.abilities.some((ability) => ability.kind === 'power-ground')))
      context.addIssue({ code: 'custom', path: ['pins'], message: 'the ECU needs at least one power ground pin' });
  });
export type EcuDefinition = z.infer<typeof ecuSchema>;

/** Fixed pins are wired by the feeds, never allotted: supplies and grounds of the ECU itself. */
const fixedKinds: ReadonlySet<AbilityKind> = new Set([
  'supply-5v',
  'sensor-ground',
  'power-ground',
  'permanent',
  'switched',
  'main-relay',
]);

export const isFixedPin = (pin: Pin): boolean => pin.abilities.every((ability) => fixedKinds.has(ability.kind));
export const pinsOfKind = (ecu: EcuDefinition, kind: AbilityKind): Pin[] =>
  ecu.pins.filter((pin) => pin.abilities.some((ability) => ability.kind === kind));

/** Row and place of a cavity, counted from 1 on the wire side. */
export function cavityPlace(connector: Connector, cavity: number): { row: number; place: number } {
  let left = cavity;
  for (const [index, count] of connector.rows.entries()) {
    if (left <= count) return { row: index + 1, place: left };
    left -= count;
  }
  return { row: connector.rows.length, place: left };
}

/** Cavities that touch this one: left, right, and those above and below on the same grid. */
export function neighbourCavities(connector: Connector, cavity: number): number[] {
  const { row, place } = cavityPlace(connector, cavity);
  const start = connector.rows.slice(0, row - 1).reduce((sum, count) => sum + count, 0);
  const found: number[] = [];
  if (place > 1) found.push(cavity - 1);
  if (place < connector.rows[row - 1]) found.push(cavity + 1);
  if (row > 1 && place <= connector.rows[row - 2]) found.push(start - connector.rows[row - 2] + place);
  if (row < connector.rows.length && place <= connector.rows[row]) found.push(start + connector.rows[row - 1] + place);
  return found;
}

import { z } from 'zod';
import { wrapDegrees } from '../units/convert';

/** Bounds that catch a slip of the keys. */
export const MOST_BOOST_KPA = 500;
export const [LEAST_CC, MOST_CC] = [20, 20000];

/**
 * The engine as geometry: enough to know which cylinder fires when.
 * Four-stroke piston: cycle 720 crank degrees. Two-stroke and each rotor: 360. (Any engine textbook; common practice.)
 */
export const engineSchema = z
  .object({
    name: z.string().min(1).max(80),
    kind: z.enum(['four-stroke', 'two-stroke', 'rotary']),
    cylinders: z.int().min(1).max(16),
    firingOrder: z.array(z.int().min(1).max(16)).min(1).max(16),
    /** Crank degrees of each firing, in firing order, from the first; null for evenly spaced. */
    firingAngles: z.array(z.number().min(0).lt(720)).max(16).nullable(),
    /** Cylinders of each bank, from the front; empty for one row. */
    banks: z
      .array(z.array(z.int().min(1).max(16)).min(1).max(16))
      .max(4)
      .default([]),
    /** Angle between two banks, degrees; 180 where they lie flat. */
    bankDegrees: z.number().min(0).max(180).default(0),
    aspiration: z.enum(['atmospheric', 'boosted']),
    /** Gauge pressure wanted above the barometer, kPa. */
    boostKpa: z.number().min(0).max(MOST_BOOST_KPA),
    maxRpm: z.int().min(500).max(20000),
    displacementCc: z.number().min(LEAST_CC).max(MOST_CC),
    ignition: z.enum(['distributor', 'wasted', 'direct']),
    injection: z.enum(['none', 'batch', 'semi-sequential', 'sequential']),
    /** Plugs of each chamber: two of a rotor (leading and trailing) or of a twin-plug head. */
    plugs: z.union([z.literal(1), z.literal(2)]).default(1),
    /** Crank degrees the second plug fires after the first. */
    trailingDegrees: z.number().min(0).max(40).default(0),
    /** Injectors of each cylinder: two where they are staged. */
    injectors: z.union([z.literal(1), z.literal(2)]).default(1),
  })
  .superRefine((engine, context) => {
    const sorted = [...engine.firingOrder].sort((a, b) => a - b);
    const whole = sorted.length === engine.cylinders && sorted.every((cylinder, index) => cylinder === index + 1);
    if (!whole) {
      context.addIssue({
        code: 'custom',
        path: ['firingOrder'],
        message: `the firing order must name each cylinder from 1 to ${engine.cylinders} once`,
      });
    }
    const laid = engine.banks.flat().sort((a, b) => a - b);
    if (laid.length > 0 && (laid.length !== engine.cylinders || laid.some((cylinder, index) => cylinder !== index + 1)))
      context.addIssue({
        code: 'custom',
        path: ['banks'],
        message: `the banks must hold each cylinder from 1 to ${engine.cylinders} once`,
      });
    if (engine.firingAngles && engine.firingAngles.length !== engine.cylinders) {
      context.addIssue({
        code: 'custom',
        path: ['firingAngles'],
        message: `give ${engine.cylinders} firing angles, one for each cylinder, or none`,
      });
    }
  });

export type Engine = z.infer<typeof engineSchema>;
/** What the output number on the ECU's label means. */
export type OutputOrder = 'in-turn' | 'by-cylinder';

/** Crank degrees of one full cycle. */
export const cycleDegrees = (engine: Engine): number => (engine.kind === 'four-stroke' ? 720 : 360);

/** Whether spark or injection asks where the engine stands in its whole cycle, so that the cam must tell: only a four-stroke's cycle is two turns. */
export const asksPhase = ({ kind, injection, ignition }: Pick<Engine, 'kind' | 'injection' | 'ignition'>): boolean =>
  kind === 'four-stroke' && (injection === 'sequential' || ignition === 'direct');

/** Crank degrees from the first firing to each cylinder's, keyed by cylinder. The first in the order is at 0. */
export function firingAngleByCylinder(engine: Engine): Map<number, number> {
  const interval = cycleDegrees(engine) / engine.cylinders;
  return new Map(
    engine.firingOrder.map((cylinder, place) => [cylinder, engine.firingAngles?.[place] ?? place * interval]),
  );
}

/** Shortest crank angle between two successive firings of the whole engine. */
export function shortestFiringInterval(engine: Engine): number {
  const cycle = cycleDegrees(engine);
  const angles = [...firingAngleByCylinder(engine).values()].sort((a, b) => a - b);
  if (angles.length < 2) return cycle;
  return Math.min(...angles.map((angle, i) => wrapDegrees((angles[i + 1] ?? angles[0]! + cycle) - angle, cycle)));
}

export interface Stroke {
  readonly cylinder: number;
  /** Crank degrees in [0, cycle) of this cylinder's compression TDC; the first cylinder in the order is at 0. */
  readonly tdc: number;
  /** Coil charging to spark: of each plug (`row` 1 first, 2 second), and again into the exhaust where every turn sparks. */
  readonly sparks: readonly { readonly from: number; readonly to: number; readonly row: number }[];
  readonly injection: { readonly from: number; readonly to: number } | null;
}

export interface EventSettings {
  readonly rpm: number;
  readonly dwellMilliseconds: number;
  readonly injectionMilliseconds: number;
  /** Degrees before TDC of the spark. */
  readonly advanceDegrees: number;
}

/**
 * Coil charge and injection of each cylinder over one cycle. Sequential injection is drawn to end 60 degrees before
 * the intake valve would shut (300 degrees before compression TDC for a four-stroke): common practice, for the drawing only.
 */
export function cycleEvents(engine: Engine, settings: EventSettings): Stroke[] {
  const cycle = cycleDegrees(engine);
  const degreesPerMillisecond = settings.rpm * 0.006;
  const rows = engine.plugs === 2 ? [1, 2] : [1];
  // Wasted spark does not tell the strokes apart: it fires every turn.
  const turns = engine.ignition === 'wasted' && engine.kind === 'four-stroke' ? [0, 360] : [0];
  return [...firingAngleByCylinder(engine)]
    .map(([cylinder, tdc]) => {
      const charge = settings.dwellMilliseconds * degreesPerMillisecond;
      const ends = tdc - (engine.kind === 'four-stroke' ? 300 : 120);
      return {
        cylinder,
        tdc: wrapDegrees(tdc, cycle),
        sparks: rows.flatMap((row) =>
          turns.map((turn) => {
            const to = tdc + turn - settings.advanceDegrees + (row - 1) * engine.trailingDegrees;
            return { from: to - charge, to, row };
          }),
        ),
        injection:
          engine.injection === 'none'
            ? null
            : { from: ends - settings.injectionMilliseconds * degreesPerMillisecond, to: ends },
      };
    })
    .sort((a, b) => a.cylinder - b.cylinder);
}

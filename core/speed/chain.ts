import { z } from 'zod';
import { KM_PER_MILE } from '../units/convert';

/*
 * Road speed from a pulse sensor: pulses a kilometre = pulses a turn of the shaft it reads × turns of that shaft for one of the
 * wheel × turns of the wheel a kilometre (geometry). A sensor that moves to another shaft or gearbox changes the second.
 */

export const MOST_GEARS = 6;
export const MOST_GAUGES = 8;

/** Two shafts that turn each other, the wheel's side first: teeth, or a ratio to 1. */
export const gearSchema = z.object({
  name: z.string().trim().min(1).max(40),
  /** Teeth on the shaft nearer the wheel (the crown wheel), or the ratio. */
  wheelSide: z.number().positive().max(200),
  /** Teeth on the shaft nearer the sensor (the pinion), or 1. */
  sensorSide: z.number().positive().max(200),
});
export type Gear = z.infer<typeof gearSchema>;

const sensedSchema = z.object({
  /** Pulses of one turn of the shaft the sensor reads. */
  pulsesPerTurn: z.number().positive().max(500),
  /** From the sensor to the wheel; none where it reads the wheel itself. */
  gears: z.array(gearSchema).max(MOST_GEARS),
});
export type Sensed = z.infer<typeof sensedSchema>;

export const tyreSchema = z.discriminatedUnion('by', [
  z.object({
    by: z.literal('size'),
    widthMm: z.number().min(50).max(500),
    /** Height of the side wall, percent of the width. */
    aspect: z.number().min(15).max(100),
    rimInches: z.number().min(4).max(30),
  }),
  /** Measured: chalk on the tyre and the floor, one turn. */
  z.object({ by: z.literal('rolled'), metres: z.number().min(0.2).max(8) }),
]);
export type Tyre = z.infer<typeof tyreSchema>;

/** What a gauge is fed by: an output of the ECU, which gives the pulses it wants, or the sensor's own wire. */
export const gaugeFeeds = ['ecu', 'sensor'] as const;
export const gaugeSchema = z.object({
  id: z.string().regex(/^[a-z0-9-]{1,40}$/, 'must be lower-case letters, digits and hyphens'),
  name: z.string().trim().min(1).max(40),
  pulsesPerKm: z.number().positive().max(1e6),
  fedBy: z.enum(gaugeFeeds),
});
export type SpeedGauge = z.infer<typeof gaugeSchema>;

export const speedSchema = sensedSchema.extend({
  tyre: tyreSchema,
  /** Where the sensor, or the one before it, stood when the gauges were right; null where nothing has moved. */
  before: sensedSchema.nullable(),
  gauges: z.array(gaugeSchema).max(MOST_GAUGES),
});
export type SpeedChain = z.infer<typeof speedSchema>;

const MM_PER_INCH = 25.4;
/**
 * Metres a tyre rolls in a turn, for each metre of its diameter at rest: 3.05 instead of pi, because the load flattens it
 * (radial tyres; from memory of the European tyre standards).
 */
export const ROLLED_PER_DIAMETER = 3.05;

/** Diameter of a tyre by its size, metres: the rim and two side walls. */
export const tyreDiameter = ({ widthMm, aspect, rimInches }: Extract<Tyre, { by: 'size' }>): number =>
  (rimInches * MM_PER_INCH + (2 * widthMm * aspect) / 100) / 1000;
export const rolledMetres = (tyre: Tyre): number =>
  tyre.by === 'rolled' ? tyre.metres : ROLLED_PER_DIAMETER * tyreDiameter(tyre);

/** Turns of the sensor's shaft for one of the wheel. */
export const shaftTurns = (gears: readonly Gear[]): number =>
  gears.reduce((turns, { wheelSide, sensorSide }) => (turns * wheelSide) / sensorSide, 1);

/** Pulses the sensor gives for one turn of the wheel. */
export const pulsesPerWheelTurn = ({ pulsesPerTurn, gears }: Sensed): number => pulsesPerTurn * shaftTurns(gears);
export const pulsesPerKm = (sensed: Sensed, tyre: Tyre): number =>
  (pulsesPerWheelTurn(sensed) * 1000) / rolledMetres(tyre);
export const pulsesPerMile = (perKm: number): number => perKm * KM_PER_MILE;
/** Hertz of a pulse train at a road speed. */
export const hertzAt = (perKm: number, kmh: number): number => (perKm * kmh) / 3600;

/** How many times too high a gauge reads that gets `given` pulses a kilometre and wants `wanted`. */
export const gaugeFactor = (given: number, wanted: number): number => given / wanted;

/** How much faster the pulses come than before the sensor moved; null where nothing has moved. */
export const movedFactor = (chain: SpeedChain): number | null =>
  chain.before === null ? null : pulsesPerWheelTurn(chain) / pulsesPerWheelTurn(chain.before);

/** Pulses a kilometre a gauge gets, and how many times too high it reads. */
export function gaugeReads(chain: SpeedChain, gauge: SpeedGauge): { given: number; factor: number } {
  const given = gauge.fedBy === 'ecu' ? gauge.pulsesPerKm : pulsesPerKm(chain, chain.tyre);
  return { given, factor: gaugeFactor(given, gauge.pulsesPerKm) };
}

/** Speedometers and what counts for them are told apart from being right at this share (common practice: a worn tyre). */
export const SPEED_TOLERANCE = 0.03;

/** What stands there until it is told: a common final drive, a common tyre, four pulses on the gearbox output (common practice). */
export const usualFinalDrive: Gear = { name: 'Final drive', wheelSide: 4.1, sensorSide: 1 };
export const usualTyre: Extract<Tyre, { by: 'size' }> = { by: 'size', widthMm: 205, aspect: 55, rimInches: 16 };
export const usualChain: SpeedChain = {
  pulsesPerTurn: 4,
  gears: [usualFinalDrive],
  tyre: usualTyre,
  before: null,
  gauges: [],
};
/** An old cable turns a thousand times a mile; many electric gauges want four thousand pulses (common practice). */
export const CABLE_PER_KM = 1000 / KM_PER_MILE;
export const USUAL_GAUGE_PER_KM = Math.round((4000 / KM_PER_MILE) * 100) / 100;

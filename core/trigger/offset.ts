import { wrapDegrees, wrapSigned } from '../units/convert';

/**
 * Offset between the reference tooth and TDC 1, and the light that proves it:
 * new = old + sign x (commanded - seen), wrapped to the cycle (common practice).
 *
 * The sign belongs to the way the ECU counts, and taking the other one is a costly mistake:
 * - `TOOTH_TO_TDC` (-1): degrees from the first tooth after the gap on to TDC 1. The ECU fires at offset - advance after
 *   the tooth, so a larger number fires later. Gonyx keeps its offset this way.
 * - `TDC_TO_TOOTH` (+1): degrees from TDC 1 on to the tooth, cycle minus the above. A larger number fires earlier.
 */
export const TOOTH_TO_TDC = -1;
export const TDC_TO_TOOTH = 1;

export interface LightReading {
  readonly oldDegrees: number;
  /** Timing the ECU is locked at, degrees before TDC. */
  readonly commandedDegrees: number;
  /** Degrees before TDC read with the light; negative is after. */
  readonly seenDegrees: number;
  readonly cycleDegrees: 360 | 720;
  readonly sign: typeof TOOTH_TO_TDC | typeof TDC_TO_TOOTH;
}

export interface OffsetAnswer {
  /** Commanded minus seen: negative when the spark comes too early. */
  readonly errorDegrees: number;
  /** In the convention of the reading's own sign. */
  readonly newDegrees: number;
  /** The light is a full crank turn out: the phase is wrong, not the offset. */
  readonly phaseWrong: boolean;
  readonly conventions: OffsetConventions;
}

export interface OffsetConventions {
  /** Crank degrees from the first tooth after the gap to TDC 1, 0 to cycle. */
  readonly beforeTdc: number;
  /** The same angle counted the other way: from TDC 1 on to the tooth. */
  readonly afterTdc: number;
  readonly signed: number;
  readonly signedOpposite: number;
}

export function offsetConventions(beforeTdc: number, cycleDegrees: 360 | 720): OffsetConventions {
  const angle = wrapDegrees(beforeTdc, cycleDegrees);
  return {
    beforeTdc: angle,
    afterTdc: wrapDegrees(-angle, cycleDegrees),
    signed: wrapSigned(angle, cycleDegrees),
    signedOpposite: wrapSigned(-angle, cycleDegrees),
  };
}

/** Agreement of commanded and seen that counts as confirmed, degrees (common practice: the width of a mark). */
export const CONFIRMED_WITHIN = 1;

export function newOffset(reading: LightReading): OffsetAnswer {
  const raw = reading.commandedDegrees - reading.seenDegrees;
  const errorDegrees = wrapSigned(raw, reading.cycleDegrees);
  const phaseWrong = reading.cycleDegrees === 720 && Math.abs(Math.abs(errorDegrees) - 360) <= 20;
  const newDegrees = wrapDegrees(reading.oldDegrees + reading.sign * raw, reading.cycleDegrees);
  const toothToTdc = reading.sign === TOOTH_TO_TDC ? newDegrees : -newDegrees;
  return { errorDegrees, newDegrees, phaseWrong, conventions: offsetConventions(toothToTdc, reading.cycleDegrees) };
}

/** Sensor delay from readings at two speeds: t = drift / (6 x rpm difference), microseconds; null at equal speeds. */
export function sensorDelayMicroseconds(
  a: { rpm: number; seen: number },
  b: { rpm: number; seen: number },
): number | null {
  if (a.rpm === b.rpm) return null;
  return ((a.seen - b.seen) / (6 * (b.rpm - a.rpm))) * 1e6;
}

/** Whether the last reading of a log was taken with this offset, and agreed. */
export function lastAgrees(
  readings: readonly { oldOffset: number; commandedDegrees: number; seenDegrees: number }[],
  offsetDegrees: number,
  cycleDegrees: 360 | 720,
): boolean {
  const last = readings[readings.length - 1];
  if (!last || Math.abs(wrapSigned(last.oldOffset - offsetDegrees, cycleDegrees)) > 0.05) return false;
  return Math.abs(wrapSigned(last.commandedDegrees - last.seenDegrees, cycleDegrees)) <= CONFIRMED_WITHIN;
}

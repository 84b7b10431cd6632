/**
 * Barometer of the International Standard Atmosphere (ISO 2533:1975, US Standard Atmosphere 1976), kPa, at a
 * geopotential altitude below 11 km.
 */
export const standardBarometerKpa = (altitudeMetres: number): number =>
  101.325 * (1 - 2.25577e-5 * altitudeMetres) ** 5.25588;

/** Pressure at which a display that was zeroed at sea level reads zero, kPa (ISO 2533). */
export const SEA_LEVEL_KPA = 101.325;

/** The altitude at which the standard barometer is this, metres: the formula above turned round. */
export const altitudeOfKpa = (kpa: number): number => (1 - (kpa / SEA_LEVEL_KPA) ** (1 / 5.25588)) / 2.25577e-5;

/**
 * Conversions at the edge. Inside core every quantity is in the unit its name says
 * (ohms, metres, amperes, volts, kilopascals, degrees Celsius, crank degrees, milliseconds).
 * Sources: SI brochure (9th ed.) for exact factors; NIST SP 811 appendix B for psi and inHg.
 */

/** 1 psi in kPa (NIST SP 811). */
export const KPA_PER_PSI = 6.894757293168;
/** 1 bar in kPa, exact. */
export const KPA_PER_BAR = 100;
/** 1 conventional inch of mercury in kPa (NIST SP 811). */
export const KPA_PER_INHG = 3.386389;
/** Kelvin at 0 °C, exact. */
export const KELVIN_OFFSET = 273.15;

export const kpaToPsi = (kpa: number): number => kpa / KPA_PER_PSI;
export const psiToKpa = (psi: number): number => psi * KPA_PER_PSI;
export const kpaToBar = (kpa: number): number => kpa / KPA_PER_BAR;
export const celsiusToFahrenheit = (celsius: number): number => celsius * 1.8 + 32;
export const celsiusToKelvin = (celsius: number): number => celsius + KELVIN_OFFSET;
export const feetToMetres = (feet: number): number => feet * METRES_PER_FOOT;

/** Wraps an angle into [0, span). `span` is degrees and positive. */
export const wrapDegrees = (degrees: number, span: number): number => {
  const wrapped = degrees % span;
  return wrapped < 0 ? wrapped + span : wrapped;
};

/** Wraps an angle into (-span/2, span/2]. */
export const wrapSigned = (degrees: number, span: number): number => {
  const wrapped = wrapDegrees(degrees, span);
  return wrapped > span / 2 ? wrapped - span : wrapped;
};

/** Milliseconds for one crank degree at a speed in revolutions per minute. */
export const millisecondsPerDegree = (rpm: number): number => 1000 / (6 * rpm);

/** 1 foot in metres and 1 inch in millimetres, exact (international yard and pound, 1959). */
export const METRES_PER_FOOT = 0.3048;
export const MM_PER_INCH = 25.4;
export const KM_PER_MILE = 1.609344;

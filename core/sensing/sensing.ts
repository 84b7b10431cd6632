import { celsiusToKelvin } from '../units/convert';

/** Barometer of the International Standard Atmosphere, kPa (ISO 2533 / US 1976), below 11 km. */
export const standardBarometerKpa = (altitudeMetres: number): number =>
  101.325 * (1 - 2.25577e-5 * altitudeMetres) ** 5.25588;

/** NTC resistance by the Beta form from its value at 20 °C, ohms. */
export const ntcOhms = (ohmsAt20: number, beta: number, celsius: number): number =>
  ohmsAt20 * Math.exp(beta * (1 / celsiusToKelvin(celsius) - 1 / celsiusToKelvin(20)));

/** Volts at the pin of an NTC under a pull-up: V = Vref R / (R + Rp). */
export const pulledUpVolts = (ohms: number, pullUpOhms: number, referenceVolts = 5): number =>
  (referenceVolts * ohms) / (ohms + pullUpOhms);

/** Ratiometric 0.5 to 4.5 V across a range (common practice), volts of 5 V. */
export const ratiometricVolts = (kpa: number, minKpa: number, maxKpa: number): number =>
  0.5 + (4 * (kpa - minKpa)) / (maxKpa - minKpa);

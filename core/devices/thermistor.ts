import { fail, ok, type Result } from '../problem';
import { KELVIN_OFFSET, celsiusToKelvin } from '../units/convert';

/** One point of a thermistor: degrees Celsius and ohms. */
export interface ThermistorPoint {
  readonly celsius: number;
  readonly ohms: number;
}

/** 1/T = a + b ln R + c (ln R)³, T in kelvin, R in ohms. */
export interface SteinhartHart {
  readonly a: number;
  readonly b: number;
  readonly c: number;
}

/**
 * Coefficients through three points, exact there (Steinhart and Hart, Deep-Sea Research 15 (1968) 497). Points may come
 * in any order. Refused: ohms that are not positive, two points of one temperature or one resistance, and points whose
 * curve turns back within their own span.
 */
export function steinhartHart(points: readonly ThermistorPoint[]): Result<SteinhartHart> {
  if (points.length !== 3) return fail('points', '', 'Steinhart-Hart takes exactly three points.');
  for (const [row, point] of points.entries())
    if (!(point.ohms > 0)) return fail('ohms', `points[${row}]`, `Point ${row + 1}: ohms must be above 0.`);
  const sorted = [...points].sort((one, other) => one.celsius - other.celsius);
  for (const row of [0, 1])
    if (sorted[row]!.celsius === sorted[row + 1]!.celsius || sorted[row]!.ohms === sorted[row + 1]!.ohms)
      return fail('same', `points[${row}]`, 'The three points need three temperatures and three resistances.');
  type Three = [number, number, number];
  const [l1, l2, l3] = sorted.map((point) => Math.log(point.ohms)) as Three;
  const [y1, y2, y3] = sorted.map((point) => 1 / celsiusToKelvin(point.celsius)) as Three;
  const g2 = (y2 - y1) / (l2 - l1);
  const g3 = (y3 - y1) / (l3 - l1);
  const c = (g3 - g2) / (l3 - l2) / (l1 + l2 + l3);
  const b = g2 - c * (l1 * l1 + l1 * l2 + l2 * l2);
  const a = y1 - (b + l1 * l1 * c) * l1;
  // d(1/T)/d(ln R) = b + 3 c L² must keep its sign, or one resistance would stand for two temperatures.
  const slopes = [l1, l2, l3, (l1 + l2) / 2, (l2 + l3) / 2].map((l) => b + 3 * c * l * l);
  if (!slopes.every((slope) => slope > 0) && !slopes.every((slope) => slope < 0))
    return fail('turns', '', 'No thermistor runs through these three points: check that ohms fall or rise throughout.');
  return ok({ a, b, c });
}

/** Degrees Celsius at a resistance. */
export function steinhartCelsius({ a, b, c }: SteinhartHart, ohms: number): number {
  const l = Math.log(ohms);
  return 1 / (a + b * l + c * l ** 3) - KELVIN_OFFSET;
}

/** Ohms at a temperature: the real root of c L³ + b L + (a − 1/T) = 0 by Cardano; linear when c is nothing. */
export function steinhartOhms({ a, b, c }: SteinhartHart, celsius: number): number {
  const y = 1 / celsiusToKelvin(celsius) - a;
  if (Math.abs(c) < 1e-18) return Math.exp(y / b);
  const p = b / c;
  const q = -y / c;
  const root = (q * q) / 4 + (p * p * p) / 27;
  if (root >= 0) {
    const s = Math.sqrt(root);
    return Math.exp(Math.cbrt(-q / 2 + s) + Math.cbrt(-q / 2 - s));
  }
  // Three real roots (c of the other sign than b). The slope b + 3 c L² keeps the sign of b only between the outer two, so
  // the middle root, the one of least size, lies on the curve through the points.
  const r = 2 * Math.sqrt(-p / 3);
  const angle = Math.acos(((3 * q) / (2 * p)) * Math.sqrt(-3 / p)) / 3;
  const roots = [0, 1, 2].map((k) => r * Math.cos(angle - (2 * Math.PI * k) / 3));
  return Math.exp(roots.reduce((best, one) => (Math.abs(one) < Math.abs(best) ? one : best)));
}

/** Beta form: R = R0 exp(B (1/T − 1/T0)), the fallback from two points (IEC 60539-1 defines B so). */
export const betaOhms = (reference: ThermistorPoint, beta: number, celsius: number): number =>
  reference.ohms * Math.exp(beta * (1 / celsiusToKelvin(celsius) - 1 / celsiusToKelvin(reference.celsius)));

export const betaCelsius = (reference: ThermistorPoint, beta: number, ohms: number): number =>
  1 / (1 / celsiusToKelvin(reference.celsius) + Math.log(ohms / reference.ohms) / beta) - KELVIN_OFFSET;

/** B from two points, kelvin. */
export const betaOf = (one: ThermistorPoint, other: ThermistorPoint): number =>
  Math.log(one.ohms / other.ohms) / (1 / celsiusToKelvin(one.celsius) - 1 / celsiusToKelvin(other.celsius));

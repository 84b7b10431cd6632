/**
 * Type K thermocouple by the reference function of ITS-90 (NIST Monograph 175, table for type K; IEC 60584-1), cold
 * junction at 0 °C. Coefficients in millivolts per power of degrees Celsius, −270 to 1372 °C.
 */
const below = [
  0, 3.9450128025e-2, 2.3622373598e-5, -3.2858906784e-7, -4.9904828777e-9, -6.7509059173e-11, -5.7410327428e-13,
  -3.1088872894e-15, -1.0451609365e-17, -1.9889266878e-20, -1.6322697486e-23,
];
const above = [
  -1.7600413686e-2, 3.8921204975e-2, 1.8558770032e-5, -9.9457592874e-8, 3.1840945719e-10, -5.6072844889e-13,
  5.6075059059e-16, -3.2020720003e-19, 9.7151147152e-23, -1.2104721275e-26,
];
const [E0, E1, E2] = [0.1185976, -0.0001183432, 126.9686];

export const TYPE_K_CELSIUS = { least: -270, most: 1372 } as const;

const polynomial = (coefficients: readonly number[], x: number) =>
  coefficients.reduceRight((sum, coefficient) => sum * x + coefficient, 0);

/** Millivolts at a hot junction temperature, cold junction 0 °C; NaN outside −270 to 1372 °C. */
export function typeKMillivolts(celsius: number): number {
  if (!(celsius >= TYPE_K_CELSIUS.least && celsius <= TYPE_K_CELSIUS.most)) return Number.NaN;
  if (celsius < 0) return polynomial(below, celsius);
  return polynomial(above, celsius) + E0 * Math.exp(E1 * (celsius - E2) ** 2);
}

/** Halvings: 1642 K over 2^40 is under a nanokelvin. */
const HALVINGS = 40;

/** Degrees Celsius at millivolts, cold junction 0 °C, by bisection of the rising function; NaN outside its range. */
export function typeKCelsius(millivolts: number): number {
  let low: number = TYPE_K_CELSIUS.least;
  let high: number = TYPE_K_CELSIUS.most;
  if (!(millivolts >= typeKMillivolts(low) && millivolts <= typeKMillivolts(high))) return Number.NaN;
  for (let step = 0; step < HALVINGS; step += 1) {
    const middle = (low + high) / 2;
    if (typeKMillivolts(middle) < millivolts) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/**
 * What an instrument shows that compensates its own junction but is joined through copper from a warmer plug: the
 * stretch of copper makes no voltage, so the reading is low by the rise of plug over instrument, in kelvin.
 */
export function copperLeadError(celsius: number, plugCelsius: number, instrumentCelsius: number): number {
  const seen = typeKMillivolts(celsius) - typeKMillivolts(plugCelsius) + typeKMillivolts(instrumentCelsius);
  return typeKCelsius(seen) - celsius;
}

/** Coil primary: a resistance and an inductance switched to a supply. Any circuit theory textbook (RL step response). */

export interface Primary {
  readonly primaryOhms: number;
  readonly inductanceMillihenry: number;
}

/** Current after `milliseconds` of dwell: i = (V/R)(1 - exp(-tR/L)), amperes. */
export function primaryAmps(coil: Primary, volts: number, milliseconds: number): number {
  const tau = coil.inductanceMillihenry / coil.primaryOhms;
  return (volts / coil.primaryOhms) * (1 - Math.exp(-milliseconds / tau));
}

/** Energy stored at the end of the dwell: L i² / 2, millijoules. */
export const storedMillijoules = (coil: Primary, volts: number, milliseconds: number): number =>
  (coil.inductanceMillihenry * primaryAmps(coil, volts, milliseconds) ** 2) / 2;

/** Charge drawn in one dwell, ampere milliseconds: the integral of the current. */
export function dwellCharge(coil: Primary, volts: number, milliseconds: number): number {
  const tau = coil.inductanceMillihenry / coil.primaryOhms;
  const full = volts / coil.primaryOhms;
  return full * (milliseconds - tau * (1 - Math.exp(-milliseconds / tau)));
}

/** Average amperes of one coil: charge per event times events per second. */
export const averageCoilAmps = (
  coil: Primary,
  volts: number,
  dwellMilliseconds: number,
  eventsPerSecond: number,
): number => (dwellCharge(coil, volts, dwellMilliseconds) / 1000) * eventsPerSecond;

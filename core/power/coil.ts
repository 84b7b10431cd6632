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

/** Mean amperes over one dwell: the charge over the time it takes. */
export const meanOverDwell = (coil: Primary, volts: number, milliseconds: number): number =>
  dwellCharge(coil, volts, milliseconds) / milliseconds;

/** Halvings until ohms in series are known to a millionth of what they may be. */
const HALVINGS = 40;
/** So many ohms more than the primary has are looked for at the most. */
const MOST_SERIES_OHMS = 1000;
/** And so small a share of the volts is not asked for. */
const LEAST_SHARE = 0.001;

/**
 * What a primary is to a meter over one dwell, ohms: its volts over its mean current, where it is left `share` of the volts
 * there are. What stands in series flattens the rise of its current, so that more of them is not the same share less: the ohms
 * that leave it such a share are sought by halving, since what they lose grows with them.
 */
export function dwellOhms(coil: Primary, volts: number, milliseconds: number, share: number): number {
  const left = Math.min(1, Math.max(LEAST_SHARE, share));
  const mean = (series: number) =>
    meanOverDwell({ ...coil, primaryOhms: coil.primaryOhms + series }, volts, milliseconds);
  let [least, most] = [0, MOST_SERIES_OHMS];
  for (let step = 0; left < 1 && step < HALVINGS; step += 1) {
    const middle = (least + most) / 2;
    if (middle * mean(middle) < volts * (1 - left)) least = middle;
    else most = middle;
  }
  return (left * volts) / mean(left < 1 ? (least + most) / 2 : 0);
}

/** Average amperes of one coil: charge per event times events per second. */
export const averageCoilAmps = (
  coil: Primary,
  volts: number,
  dwellMilliseconds: number,
  eventsPerSecond: number,
): number => (dwellCharge(coil, volts, dwellMilliseconds) / 1000) * eventsPerSecond;

import { trait } from '../devices/kind';
import { readQuantity } from '../units/units';
import type { Case, Hypothesis } from './hypothesis';
import { REFERENCE_VOLTS, pinReading, pinUnit, valueAtPin } from './sensor';

/** Shares of 5 V that a loaded or worn supply gives. */
const SAGS = [0.98, 0.96, 0.94, 0.92, 0.9, 0.88, 0.86, 0.84, 0.82, 0.8, 0.75, 0.7, 0.66, 0.6];
/** Loaded supplies seldom fall far; one of 3.3 V is a supply of its own. */
const sagWeight = (share: number): number => (share >= 0.8 ? 0.1 : share === 0.66 ? 0.06 : 0.02);
/** Shares of the barometer, or of the range, that a blocked or clamped hose keeps. */
const HELD = [0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9];
/** Volts by which a sensor ground stands above battery negative where loads return on it (from memory). */
const LIFTS = [0.05, 0.1, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5];

/** A supply that is low, a ground that is lifted, and a line that holds pressure. */
export function supplyCauses(one: Case): Hypothesis[] {
  const { at, build, expected, follows, pinSigma, right, valueSigma } = one;
  const { quantity, signal } = at.sensor;
  const found: Hypothesis[] = [];
  if (right !== null && signal !== 'hertz' && pinUnit(at.sensor) === 'V') {
    for (const lift of LIFTS)
      found.push({
        code: 'ground-lifted',
        family: 'ground-lifted',
        weight: 0.12,
        sentence: `The sensor ground stands about ${lift.toFixed(2)} V above battery negative: something else returns on it.`,
        check:
          "Measure ground in the sensor's plug against battery negative, all loads on: more than 10 mV is not a sensor ground.",
        pin: { at: lift + (right * (REFERENCE_VOLTS - lift)) / REFERENCE_VOLTS, sigma: Math.min(pinSigma, 0.03) },
        shows: follows(lift + (right * (REFERENCE_VOLTS - lift)) / REFERENCE_VOLTS),
      });
    const pressure = trait(at.kind, 'pressure');
    if (quantity === 'pressure' && pressure)
      for (const share of HELD) {
        const kpa = pressure.reference === 'absolute' ? expected.value * share : share * 0.8 * at.sensor.most;
        const held = pinReading(at, kpa);
        if (held !== null)
          found.push({
            code: 'pressure-held',
            family: 'pressure-held',
            weight: 0.1,
            sentence: `Its line holds pressure: about ${readQuantity('pressure', kpa, build)} are shut in at the sensor.`,
            check: 'Take the hose off the sensor: the reading must go to that of the open air at once.',
            pin: { at: held, sigma: Math.max(pinSigma, 0.05) },
            shows: follows(held),
          });
      }
  }
  if (right !== null && (at.sensor.ratiometric || signal === 'ohms') && pinUnit(at.sensor) === 'V')
    for (const share of SAGS)
      for (const byRatio of [true, false])
        found.push({
          code: 'low-supply',
          family: 'low-supply',
          weight: sagWeight(share) * (byRatio ? 1.4 : 0.6),
          sentence: `The 5 V supply is low, at about ${(REFERENCE_VOLTS * share).toFixed(1)} V: everything that hangs on it reads low by the same share.`,
          check:
            "Measure 5 V against ground in the sensor's plug, then unplug the other sensors of that supply one by one.",
          pin: { at: right * share, sigma: pinSigma },
          // Most ECUs measure against that same supply, and show what is right; others show what the pin says.
          shows: byRatio
            ? (pin) => ({ at: valueAtPin(at, (pin ?? right * share) / share) ?? Number.NaN, sigma: valueSigma })
            : follows(right * share),
        });

  return found;
}

import type { Build } from '../build/schema';
import type { Reader } from '../units/units';
import { clampedValue, pinReading, valueAtPin, type SensorAt } from './sensor';

/*
 * What a key-on reading can come from, as people bring it about: a wire, a part, a resistor, a supply, a setting, or a place
 * that is not the one the build names. Each cause says what the meter and the display would show; how near both are, and how
 * often the mistake is made, gives its odds by Bayes' rule. How often is common practice and from memory: only the order of
 * such figures is known, so odds are told in words and in rounded shares.
 */
export type CauseCode =
  | 'right'
  | 'site'
  | 'open'
  | 'short-low'
  | 'short-high'
  | 'no-pull-up'
  | 'no-supply'
  | 'low-supply'
  | 'ground-open'
  | 'other-part'
  | 'ecu-calibration'
  | 'ecu-pull-up'
  | 'absolute-table'
  | 'gauge-sensor'
  | 'gauge-zeroed'
  | 'other-unit'
  | 'second-pull-up'
  | 'wet-plug'
  | 'ground-lifted'
  | 'pressure-held';

/** A figure with its standard deviation. */
export interface About {
  readonly at: number;
  readonly sigma: number;
}

/** One thing that would make a reading. */
export interface Hypothesis {
  readonly code: CauseCode;
  readonly sentence: string;
  /** What to measure next, and what it must show. */
  readonly check: string;
  /** How often it is met, against the others. */
  readonly weight: number;
  /** What the meter shows at the pin; null when nobody can know it. */
  readonly pin: About | null;
  /** What the display makes of the pin's own reading (`pin`), or of what the cause gives when it was not measured. */
  readonly shows: (pin: number | null) => About | null;
  /** Several values of one cause are told as one: the likeliest speaks for them. */
  readonly family?: string;
  /** A setting of the ECU or its display: a meter at the pin alone knows nothing of it. */
  readonly setting?: true;
}

/** A meter and a supply that is not quite 5 V: never judge closer than this, in the pin's unit (common practice). */
export const LEAST_TOLERANCE = { V: 0.06, Hz: 1, mV: 0.1 } as const;

export interface Site {
  /** Key-on value, and how far it may honestly be off. */
  readonly value: number;
  readonly tolerance: number;
  readonly pinTolerance: number;
}

/** One reading of one sensor, and what every cause of it is worked out from. */
export interface Case {
  readonly build: Pick<Build, 'site'> & Reader;
  readonly at: SensorAt;
  readonly expected: Site;
  /** The pull-up inside the ECU, ohms; null for none. */
  readonly inside: number | null;
  /** What the pin shows of the value that is expected; null when nobody can know it. */
  readonly right: number | null;
  /** A tolerance is what nineteen of twenty readings keep: two standard deviations. */
  readonly valueSigma: number;
  readonly pinSigma: number;
  readonly range: number;
  /** A figure as the display repeats it. */
  readonly measured: (value: number) => About;
  /** The display follows the pin, by the part's own calibration. */
  readonly follows: (gives: number | null, sigma?: number) => Hypothesis['shows'];
}

export function caseOf(build: Pick<Build, 'site'> & Reader, at: SensorAt, expected: Site, inside: number | null): Case {
  const valueSigma = expected.tolerance / 2;
  const range = at.sensor.most - at.sensor.least;
  const measured = (value: number): About => ({ at: value, sigma: Math.max(valueSigma / 2, 0.005 * range) });
  return {
    build,
    at,
    expected,
    inside,
    right: pinReading(at, expected.value),
    valueSigma,
    pinSigma: expected.pinTolerance / 2,
    range,
    measured,
    follows:
      (gives, sigma = valueSigma) =>
      (pin) => {
        const value = pin === null ? (gives === null ? null : clampedValue(at, gives)) : valueAtPin(at, pin);
        return value === null ? null : pin === null ? { at: value, sigma } : measured(value);
      },
  };
}

export const unplugged = 'Unplug the sensor and read the pin again';

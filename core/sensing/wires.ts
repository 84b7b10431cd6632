import { trait } from '../devices/kind';
import { LEAST_TOLERANCE, unplugged, type Case, type CauseCode, type Hypothesis } from './hypothesis';
import { REFERENCE_VOLTS, clampedValue, pinReading, pinUnit } from './sensor';

/**
 * What an ECU puts in the place of a figure it does not believe, by the way the pin has gone: its own stop, which is not the
 * part's, or a figure to run on with (common practice, from memory). Celsius; kilopascals.
 */
const STOPS: Readonly<
  Record<
    'temperature' | 'pressure',
    Readonly<Record<'low' | 'high', readonly (readonly [at: number, share: number])[]>>
  >
> = {
  temperature: {
    high: [
      [-40, 0.4],
      [-30, 0.12],
      [-50, 0.06],
      [-20, 0.03],
      [80, 0.02],
      [90, 0.02],
    ],
    low: [
      [130, 0.15],
      [140, 0.1],
      [150, 0.15],
      [120, 0.08],
      [200, 0.06],
      [215, 0.06],
      [80, 0.02],
      [90, 0.02],
    ],
  },
  pressure: {
    low: [
      [0, 0.2],
      [10, 0.1],
      [20, 0.1],
      [100, 0.1],
    ],
    high: [
      [100, 0.1],
      [250, 0.1],
      [300, 0.1],
      [400, 0.1],
    ],
  },
};
/** A stop is an even figure, and shown as one. */
const STOP_SIGMA = 0.4;

/** Open and shorted wires and supplies that are not there, by the kind of signal. */
export function wireCauses(one: Case): Hypothesis[] {
  const { at, follows, range, valueSigma } = one;
  const { quantity, signal } = at.sensor;
  const found: Hypothesis[] = [];
  /** At the end of its range an ECU shows the end of the table, or a stop of its own. */
  const wire = (code: CauseCode, weight: number, gives: number | null, sentence: string, check: string) => {
    const pin = gives === null ? null : { at: gives, sigma: LEAST_TOLERANCE[pinUnit(at.sensor)] };
    const base = { code, family: code, sentence, check, pin };
    const ended = gives !== null && (gives <= 0 || gives >= REFERENCE_VOLTS) && pinUnit(at.sensor) === 'V';
    const stops =
      ended && (quantity === 'temperature' || quantity === 'pressure')
        ? STOPS[quantity][gives <= 0 ? 'low' : 'high'].filter(
            // The open air is no stop of a sensor that counts from it.
            ([stop]) => stop !== 100 || quantity !== 'pressure' || trait(at.kind, 'pressure')?.reference === 'absolute',
          )
        : [];
    found.push({
      ...base,
      weight: ended ? weight / 2 : weight,
      shows: (measuredPin) => {
        const own = follows(gives)(measuredPin);
        if (own !== null || gives === null) return own;
        const value = clampedValue(at, measuredPin ?? gives);
        return value === null ? null : { at: value, sigma: valueSigma };
      },
    });
    for (const [stop, share] of stops)
      found.push({
        ...base,
        weight: weight * share,
        // A setting of the ECU: with the pin in between its ends there is no stop.
        shows: (measuredPin) =>
          measuredPin !== null && Math.abs(measuredPin - gives!) > 0.35 ? null : { at: stop, sigma: STOP_SIGMA },
      });
    // Or some other figure to run on with: any of the range.
    if (ended)
      found.push({
        ...base,
        weight: weight * 0.1,
        shows: (measuredPin) =>
          measuredPin === null || Math.abs(measuredPin - gives!) > 0.35
            ? null
            : { at: (at.sensor.least + at.sensor.most) / 2, sigma: range / 2 },
      });
  };
  if (signal === 'ohms') {
    wire(
      'open',
      3,
      REFERENCE_VOLTS,
      'Open: the sensor or its wire is not there.',
      'Bridge signal and return at the plug: the pin must fall to about 0 V. If it does, the wires are whole and the sensor is open.',
    );
    wire(
      'no-pull-up',
      1.2,
      0,
      'No pull-up: nothing lifts the pin.',
      `${unplugged}: still 0 V with the wire clear of ground means the pull-up is off or missing.`,
    );
    wire(
      'short-low',
      1,
      0,
      'Shorted: the signal touches its return or the body.',
      `${unplugged}: 5 V means the sensor is shorted, 0 V the wire, or no pull-up.`,
    );
  } else if (signal === 'volts') {
    wire(
      'open',
      3,
      0,
      'Open signal: nothing drives the pin, so it falls to 0 V.',
      "Measure at the sensor's own plug: the right volts there and 0 V at the pin is the wire.",
    );
    wire(
      'no-supply',
      1.5,
      0,
      'No 5 V at the sensor.',
      "Measure supply against ground in the sensor's plug: 5 V must be there.",
    );
    wire(
      'short-low',
      1,
      0,
      'The signal touches ground.',
      `${unplugged} and measure pin to ground with the key off: no connection must show.`,
    );
    wire(
      'short-high',
      0.8,
      REFERENCE_VOLTS,
      'The signal touches the 5 V supply.',
      `${unplugged}: 5 V that stays is the wire.`,
    );
    wire(
      'ground-open',
      0.7,
      REFERENCE_VOLTS,
      'The sensor ground is open, so signal follows supply.',
      "Measure ground in the sensor's plug against battery negative: under 10 mV with the key on.",
    );
    if (trait(at.kind, 'pressure')?.reference === 'absolute')
      wire(
        'gauge-sensor',
        1,
        pinReading(at, Math.max(0, at.sensor.least)),
        'A gauge sensor is fitted where an absolute one is meant: it rests at its lowest volts.',
        'Read the marking on the part: absolute or gauge.',
      );
  } else if (signal === 'hertz') {
    wire(
      'open',
      3,
      0,
      'No pulses: open wire, no supply, or no pull-up.',
      'Measure supply at the plug, then the signal wire for 5 V with the sensor unplugged.',
    );
  }

  return found;
}

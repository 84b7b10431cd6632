import type { Build } from '../build/schema';
import { sensorsIn, trait, type DeviceKind, type SensorTrait } from '../devices/kind';
import { formatOhms, inSentence } from '../units/format';
import { readQuantity, type Reader } from '../units/units';
import { KPA_PER_BAR, KPA_PER_INHG, KPA_PER_PSI, celsiusToFahrenheit } from '../units/convert';
import { SEA_LEVEL_KPA, standardBarometerKpa } from './atmosphere';
import { curveOf } from '../devices/curve';
import {
  REFERENCE_VOLTS,
  pinReading,
  pinUnit,
  pulledUpOhms,
  pulledUpVolts,
  restValue,
  valueAtPin,
  type SensorAt,
} from './sensor';

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
interface About {
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

/** A calibration someone could have fitted or chosen instead: the part's name and its curve. */
export interface Other {
  readonly name: string;
  readonly kind: DeviceKind;
  readonly sensor: SensorTrait;
}

/** Sensors of the library that could stand in this one's place: same quantity, same kind of signal, another curve. */
export function othersOf(at: SensorAt, library: readonly DeviceKind[]): Other[] {
  const own = JSON.stringify(at.sensor.curve);
  const seen = new Set([own]);
  return library.flatMap((kind) =>
    sensorsIn(kind).flatMap((sensor): Other[] => {
      const text = JSON.stringify(sensor.curve);
      if (sensor.quantity !== at.sensor.quantity || sensor.signal !== at.sensor.signal || seen.has(text)) return [];
      seen.add(text);
      return [{ name: inSentence(kind.name), kind, sensor }];
    }),
  );
}

/** A meter and a supply that is not quite 5 V: never judge closer than this, in the pin's unit (common practice). */
export const LEAST_TOLERANCE = { V: 0.06, Hz: 1, mV: 0.1 } as const;

/** What an ECU shows of a pin at its end stop: it holds at the ends of the range. */
export function clampedValue(at: Pick<SensorAt, 'sensor' | 'pullUpOhms'>, reading: number): number | null {
  const value = valueAtPin(at, reading);
  const { least, most, signal } = at.sensor;
  if (value !== null) return Math.min(most, Math.max(least, value));
  if (signal === 'ohms') return reading <= 0 ? most : least;
  const [low, high] = [pinReading(at, least), pinReading(at, most)];
  if (low === null || high === null) return null;
  return Math.abs(reading - low) < Math.abs(reading - high) ? least : most;
}

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

/** Pull-ups that stand in ECUs, and resistors that lie in workshops, ohms (common practice). */
const RESISTORS = [680, 1000, 1500, 2000, 2200, 2490, 2700, 3000, 3300, 3900, 4700, 5600, 6800, 8200, 10000];
const USUAL = new Set([1000, 2200, 2490, 4700, 10000]);
/** Shares of 5 V that a loaded or worn supply gives. */
const SAGS = [0.98, 0.96, 0.94, 0.92, 0.9, 0.88, 0.86, 0.84, 0.82, 0.8, 0.75, 0.7, 0.66, 0.6];
/** Loaded supplies seldom fall far; one of 3.3 V is a supply of its own. */
const sagWeight = (share: number): number => (share >= 0.8 ? 0.1 : share === 0.66 ? 0.06 : 0.02);
/** Shares of the barometer, or of the range, that a blocked or clamped hose keeps. */
const HELD = [0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9];
/** A wet or green plug between two terminals, ohms (from memory). */
const LEAKS = [1000, 2200, 4700, 10000, 22000, 47000];
/** Volts by which a sensor ground stands above battery negative where loads return on it (from memory). */
const LIFTS = [0.05, 0.1, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5];

export interface Site {
  /** Key-on value, and how far it may honestly be off. */
  readonly value: number;
  readonly tolerance: number;
  readonly pinTolerance: number;
}

/** What a leak across the terminals of a resistive sensor makes of the pin. */
function leaking(
  at: SensorAt,
  right: number,
  leak: number,
  sigma: number,
  follows: (gives: number | null) => Hypothesis['shows'],
): Pick<Hypothesis, 'pin' | 'shows'> {
  const ohms = at.pullUpOhms === null ? null : pulledUpOhms(right, at.pullUpOhms);
  if (ohms === null || at.pullUpOhms === null) return { pin: null, shows: () => null };
  const gives = pulledUpVolts((ohms * leak) / (ohms + leak), at.pullUpOhms);
  return { pin: { at: gives, sigma }, shows: follows(gives) };
}

const unplugged = 'Unplug the sensor and read the pin again';

/** Everything that could have made a reading of this sensor, right among it. Needs a value to expect. */
export function hypotheses(
  build: Pick<Build, 'site'> & Reader,
  at: SensorAt,
  expected: Site,
  others: readonly Other[],
  inside: number | null,
): Hypothesis[] {
  const { site } = build;
  const { quantity, signal } = at.sensor;
  // A tolerance is what nineteen of twenty readings keep: two standard deviations.
  const valueSigma = expected.tolerance / 2;
  const pinSigma = expected.pinTolerance / 2;
  const range = at.sensor.most - at.sensor.least;
  const found: Hypothesis[] = [];
  const measured = { at: (value: number): About => ({ at: value, sigma: Math.max(valueSigma / 2, 0.005 * range) }) };
  /** The display follows the pin, by the part's own calibration. */
  const follows =
    (gives: number | null, sigma = valueSigma): Hypothesis['shows'] =>
    (pin) => {
      const value = pin === null ? (gives === null ? null : clampedValue(at, gives)) : valueAtPin(at, pin);
      return value === null ? null : pin === null ? { at: value, sigma } : measured.at(value);
    };
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
  const right = pinReading(at, expected.value);
  found.push({
    code: 'right',
    weight: 8,
    sentence: '',
    check: '',
    pin: right === null ? null : { at: right, sigma: pinSigma },
    shows: follows(right),
  });

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
    const ohms = curveOf(at.sensor.curve).signalOf(expected.value);
    // An outside resistor the build knows of is part of what is expected; the others are mistakes.
    if (ohms !== null && at.pullUpOhms !== null) {
      for (const extra of RESISTORS) {
        const both = (at.pullUpOhms * extra) / (at.pullUpOhms + extra);
        found.push({
          code: 'second-pull-up',
          family: 'second-pull-up',
          weight: USUAL.has(extra) ? 0.6 : 0.1,
          sentence: `Two pull-ups: a resistor of about ${formatOhms(extra)} lifts the pin beside the ${formatOhms(at.pullUpOhms)} that are known.`,
          check: `Unplugged and key off, measure pin to 5 V: about ${formatOhms(both)} instead of ${formatOhms(at.pullUpOhms)} means a second resistor.`,
          pin: { at: pulledUpVolts(ohms, both), sigma: pinSigma },
          shows: follows(pulledUpVolts(ohms, both)),
        });
      }
      for (const own of RESISTORS) {
        if (inside === null || Math.abs(own - inside) < 0.04 * inside) continue;
        const { pullUpOhms: outside } = at.device;
        const total = outside === null ? own : (own * outside) / (own + outside);
        found.push({
          code: 'ecu-pull-up',
          family: 'ecu-pull-up',
          weight: USUAL.has(own) ? 0.2 : 0.04,
          sentence: `The pull-up in the ECU is about ${formatOhms(own)}, not ${formatOhms(inside)}: then the ECU may well show the right figure.`,
          check: `Unplugged and key on, load the pin with a known resistor: ${formatOhms(own)} to ground must halve 5 V.`,
          pin: { at: pulledUpVolts(ohms, total), sigma: pinSigma },
          // The ECU knows its own resistor, or is set to the one the definition names.
          shows: (pin) =>
            pin === null
              ? null
              : { at: valueAtPin({ sensor: at.sensor, pullUpOhms: total }, pin) ?? Number.NaN, sigma: valueSigma },
        });
      }
    }
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

  if (right !== null && signal !== 'hertz' && pinUnit(at.sensor) === 'V') {
    if (signal === 'ohms')
      for (const leak of LEAKS)
        found.push({
          code: 'wet-plug',
          family: 'wet-plug',
          weight: 0.2,
          sentence: `A wet or dirty plug: about ${formatOhms(leak)} lie across its terminals.`,
          check: `${unplugged}: under 5 V with nothing on it is the plug or the wire. Dry it, clean it, look for green.`,
          ...leaking(at, right, leak, pinSigma, follows),
        });
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

  const { measures } = trait(at.kind, 'pressure') ?? { measures: null };
  for (const other of others) {
    // A fuel sensor is not taken for a manifold sensor by hand, only in a list.
    if ((trait(other.kind, 'pressure')?.measures ?? null) === measures) {
      const value = restValue(site, other.kind, other.sensor);
      const gives = value === null ? null : pinReading({ sensor: other.sensor, pullUpOhms: at.pullUpOhms }, value);
      if (gives !== null)
        found.push({
          code: 'other-part',
          // A coolant sensor is replaced by another coolant sensor before it is by one of the gearbox.
          weight: other.kind.system === at.kind.system ? 1 : 0.2,
          sentence: `Another part is fitted: the reading is that of ${other.name}.`,
          check:
            signal === 'ohms'
              ? 'Unplug it and measure its ohms at a known temperature, then compare both tables.'
              : 'Read the marking on the part, or compare at a second pressure.',
          pin: { at: gives, sigma: pinSigma },
          shows: follows(gives),
        });
    }
    const shown = (pin: number | null): About | null => {
      const source = pin ?? right;
      const value = source === null ? null : valueAtPin({ sensor: other.sensor, pullUpOhms: at.pullUpOhms }, source);
      return value === null ? null : measured.at(value);
    };
    found.push({
      code: 'ecu-calibration',
      setting: true,
      weight: 1,
      sentence: `The ECU is set to ${other.name}: that calibration makes this figure of the right signal.`,
      check: 'Choose the calibration of the fitted part in the ECU, and read again.',
      pin: right === null ? null : { at: right, sigma: pinSigma },
      shows: shown,
    });
  }

  const display = (
    code: CauseCode,
    weight: number,
    made: (value: number) => number,
    sentence: string,
    check: string,
    share?: number,
  ) =>
    found.push({
      code,
      weight,
      setting: true,
      sentence,
      check,
      pin: right === null ? null : { at: right, sigma: pinSigma },
      shows: (pin) => {
        const value = pin === null ? expected.value : valueAtPin(at, pin);
        if (value === null) return null;
        const { sigma } = pin === null ? { sigma: valueSigma } : measured.at(value);
        return { at: made(value), sigma: share === undefined ? sigma : Math.max(0.05, Math.abs(made(value)) * share) };
      },
    });
  if (quantity === 'pressure') {
    const here = standardBarometerKpa(site.altitudeMetres);
    const reference = trait(at.kind, 'pressure')?.reference;
    if (reference === 'gauge') {
      for (const [weight, plus] of [
        [1, SEA_LEVEL_KPA],
        [0.7, here],
      ] as const)
        display(
          'absolute-table',
          weight,
          (value) => value + plus,
          `The ECU counts this sensor from vacuum (an absolute table): it adds the barometer, ${readQuantity('pressure', plus, build)}, to a sensor that reads from the barometer.`,
          'Choose a table that shows zero at rest, or take the barometer off its line.',
        );
    } else {
      display(
        'gauge-zeroed',
        1,
        (value) => value - SEA_LEVEL_KPA,
        'The display subtracts sea-level pressure: it shows gauge where absolute is meant.',
        'Set the channel to absolute pressure.',
      );
      display(
        'gauge-zeroed',
        0.7,
        (value) => value - here,
        'The display was zeroed at the local barometer: it shows gauge where absolute is meant.',
        'Set the channel to absolute pressure.',
      );
    }
    for (const [unit, factor] of [
      ['psi', KPA_PER_PSI],
      ['bar', KPA_PER_BAR],
      ['inHg', KPA_PER_INHG],
    ] as const)
      display(
        'other-unit',
        0.8,
        (value) => value / factor,
        `The figure is right in ${unit}, and was read as kPa.`,
        'Look at the unit beside the figure.',
        0.025,
      );
  }
  if (quantity === 'temperature')
    display(
      'other-unit',
      1,
      celsiusToFahrenheit,
      'The figure is right in °F, and was read as °C.',
      'Look at the unit beside the figure.',
    );
  return found;
}

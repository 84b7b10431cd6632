import type { Build, SensorReading } from '../build/schema';
import { sensorsIn, trait, type DeviceKind, type SensorTrait } from '../devices/kind';
import { inSentence } from '../units/format';
import { readQuantity, readStep, readerScale, type Reader } from '../units/units';
import { KPA_PER_BAR, KPA_PER_INHG, KPA_PER_PSI, celsiusToFahrenheit } from '../units/convert';
import { SEA_LEVEL_KPA, standardBarometerKpa } from './atmosphere';
import { curveOf, type Curve } from './curve';
import { REFERENCE_VOLTS, pinReading, pinUnit, restValue, signalToPin, valueAtPin, type SensorAt } from './sensor';

export type CauseCode =
  | 'right'
  | 'open'
  | 'short-low'
  | 'short-high'
  | 'no-pull-up'
  | 'no-supply'
  | 'ground-open'
  | 'other-part'
  | 'ecu-calibration'
  | 'gauge-sensor'
  | 'gauge-zeroed'
  | 'other-unit'
  | 'second-pull-up';

/** One thing that would make this reading, and the reading that would tell it from the others. */
export interface Cause {
  readonly code: CauseCode;
  readonly sentence: string;
  /** What to measure next, and what it must show. */
  readonly check: string;
  /** How far the reading is from what this cause gives, in tolerances; 0 is spot on. */
  readonly distance: number;
}

export interface Judgement {
  readonly verdict: 'right' | 'wrong' | 'unexplained' | 'not-known';
  readonly sentence: string;
  readonly causes: readonly Cause[];
  /** What to do when nothing explains the reading; '' otherwise. */
  readonly advice: string;
}

/** What a sensor must read with the key on and the engine cold and still. */
export interface Expectation {
  readonly value: number;
  /** How far the value may honestly be off: weather, a soaked engine, the part's own tolerance. */
  readonly tolerance: number;
  readonly atPin: number | null;
  readonly pinTolerance: number;
}

/** Barometers stray about 3 kPa with the weather, parts 1.5 % of range; a parked engine bay 5 K (common practice). */
function toleranceOf(sensor: SensorTrait): number {
  if (sensor.quantity === 'pressure') return 3 + 0.015 * (sensor.most - sensor.least);
  return sensor.quantity === 'temperature' ? (sensor.signal === 'ohms' ? 5 : 8) : 0.03 * (sensor.most - sensor.least);
}
/** A meter and a supply that is not quite 5 V: never judge closer than this, in the pin's unit (common practice). */
const LEAST_TOLERANCE = { V: 0.06, Hz: 1, mV: 0.1 } as const;

export function expectation(site: Build['site'], at: SensorAt): Expectation | null {
  const value = restValue(site, at.kind, at.sensor);
  if (value === null) return null;
  const tolerance = toleranceOf(at.sensor);
  const atPin = pinReading(at, value);
  const [low, high] = [pinReading(at, value - tolerance), pinReading(at, value + tolerance)];
  const span = low !== null && high !== null ? Math.abs(high - low) / 2 : 0;
  return { value, tolerance, atPin, pinTolerance: Math.max(LEAST_TOLERANCE[pinUnit(at.sensor)], span) };
}

interface Guess {
  readonly code: CauseCode;
  readonly gives: number | null;
  readonly sentence: string;
  readonly check: string;
  /** Instead of the reading's own: a figure in another unit is off by that unit's factor. */
  readonly tolerance?: number;
}

/** A calibration someone could have fitted or chosen instead: the part's name and its curve. */
interface Other {
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

const pinText = (at: SensorAt, reading: number): string =>
  `${reading.toFixed(pinUnit(at.sensor) === 'Hz' ? 0 : 2)} ${pinUnit(at.sensor)}`;

/** What each fault of wire and part would put on the pin. */
function pinGuesses(site: Build['site'], at: SensorAt, others: readonly Other[]): Guess[] {
  const unplugged = 'Unplug the sensor and read the pin again';
  const guesses: Guess[] = [];
  const add = (code: CauseCode, gives: number | null, sentence: string, check: string) =>
    guesses.push({ code, gives, sentence, check });
  if (at.sensor.signal === 'ohms') {
    add(
      'open',
      REFERENCE_VOLTS,
      'Open: the sensor or its wire is not there.',
      'Bridge signal and return at the plug: the pin must fall to about 0 V. If it does, the wires are whole and the sensor is open.',
    );
    add(
      'short-low',
      0,
      'Shorted: the signal touches its return or the body.',
      `${unplugged}: 5 V means the sensor is shorted, 0 V the wire, or no pull-up.`,
    );
    add(
      'no-pull-up',
      0,
      'No pull-up: nothing lifts the pin.',
      `${unplugged}: still 0 V with the wire clear of ground means the pull-up is off or missing.`,
    );
    const rest = restValue(site, at.kind, at.sensor);
    // Where the value depends on the person, nobody can say what a second resistor would show.
    if (at.pullUpOhms !== null && rest !== null) {
      const signal = curveOf(at.sensor.curve).signalOf(rest);
      if (signal !== null)
        add(
          'second-pull-up',
          signalToPin({ sensor: at.sensor, pullUpOhms: at.pullUpOhms / 2 }, signal),
          'Two pull-ups: the pin is lifted more than the ECU thinks.',
          'Unplugged and key off, measure pin to 5 V: half the ohms expected means a second resistor.',
        );
    }
  } else if (at.sensor.signal === 'volts') {
    add(
      'open',
      0,
      'Open signal: nothing drives the pin, so it falls to 0 V.',
      "Measure at the sensor's own plug: the right volts there and 0 V at the pin is the wire.",
    );
    add(
      'no-supply',
      0,
      'No 5 V at the sensor.',
      "Measure supply against ground in the sensor's plug: 5 V must be there.",
    );
    add(
      'short-low',
      0,
      'The signal touches ground.',
      `${unplugged} and measure pin to ground with the key off: no connection must show.`,
    );
    add(
      'short-high',
      REFERENCE_VOLTS,
      'The signal touches the 5 V supply.',
      `${unplugged}: 5 V that stays is the wire.`,
    );
    add(
      'ground-open',
      REFERENCE_VOLTS,
      'The sensor ground is open, so signal follows supply.',
      "Measure ground in the sensor's plug against battery negative: under 10 mV with the key on.",
    );
    if (trait(at.kind, 'pressure')?.reference === 'absolute')
      add(
        'gauge-sensor',
        pinReading(at, Math.max(0, at.sensor.least)),
        'A gauge sensor is fitted where an absolute one is meant: it rests at its lowest volts.',
        'Read the marking on the part: absolute or gauge.',
      );
  } else if (at.sensor.signal === 'hertz') {
    add(
      'open',
      0,
      'No pulses: open wire, no supply, or no pull-up.',
      'Measure supply at the plug, then the signal wire for 5 V with the sensor unplugged.',
    );
  } else {
    add('open', null, 'Open pair.', 'Measure across the pair, unplugged: a few ohms must show.');
  }
  const { measures } = trait(at.kind, 'pressure') ?? { measures: null };
  for (const other of others) {
    // A fuel sensor is not taken for a manifold sensor by hand, only in a list.
    if ((trait(other.kind, 'pressure')?.measures ?? null) !== measures) continue;
    const value = restValue(site, other.kind, other.sensor);
    add(
      'other-part',
      value === null ? null : pinReading({ sensor: other.sensor, pullUpOhms: at.pullUpOhms }, value),
      `Another part is fitted: the reading is that of ${other.name}.`,
      at.sensor.signal === 'ohms'
        ? 'Unplug it and measure its ohms at a known temperature, then compare both tables.'
        : 'Read the marking on the part, or compare at a second pressure.',
    );
  }
  return guesses;
}

/** What an ECU set otherwise would show of the same signal. */
function shownGuesses(
  site: Build['site'],
  at: SensorAt,
  atPin: number,
  value: number,
  others: readonly Other[],
): Guess[] {
  const guesses: Guess[] = others.map((other) => ({
    code: 'ecu-calibration',
    gives: valueAtPin({ sensor: other.sensor, pullUpOhms: at.pullUpOhms }, atPin),
    sentence: `The ECU is set to ${other.name}: that calibration makes this figure of the right signal.`,
    check: 'Choose the calibration of the fitted part in the ECU, and read again.',
  }));
  if (at.sensor.quantity === 'pressure') {
    guesses.push(
      {
        code: 'gauge-zeroed',
        gives: value - SEA_LEVEL_KPA,
        sentence: 'The display subtracts sea-level pressure: it shows gauge where absolute is meant.',
        check: 'Set the channel to absolute pressure.',
      },
      {
        code: 'gauge-zeroed',
        gives: value - standardBarometerKpa(site.altitudeMetres),
        sentence: 'The display was zeroed at the local barometer: it shows gauge where absolute is meant.',
        check: 'Set the channel to absolute pressure.',
      },
    );
    for (const [unit, factor] of [
      ['psi', KPA_PER_PSI],
      ['bar', KPA_PER_BAR],
      ['inHg', KPA_PER_INHG],
    ] as const)
      guesses.push({
        code: 'other-unit',
        gives: value / factor,
        tolerance: (0.05 * value) / factor,
        sentence: `The figure is right in ${unit}, and was read as kPa.`,
        check: `Look at the unit beside the figure.`,
      });
  }
  if (at.sensor.quantity === 'temperature')
    guesses.push({
      code: 'other-unit',
      gives: celsiusToFahrenheit(value),
      sentence: 'The figure is right in °F, and was read as °C.',
      check: 'Look at the unit beside the figure.',
    });
  return guesses;
}

/** Causes within this many tolerances of the reading are named. */
const NAMED_WITHIN = 1;

function explain(guesses: readonly Guess[], reading: number, tolerance: number): Cause[] {
  return guesses
    .flatMap((guess): Cause[] => {
      if (guess.gives === null) return [];
      const distance = Math.abs(guess.gives - reading) / (guess.tolerance ?? tolerance);
      return distance <= NAMED_WITHIN
        ? [{ code: guess.code, sentence: guess.sentence, check: guess.check, distance }]
        : [];
    })
    .sort((one, other) => one.distance - other.distance);
}

/** Sensors whose value depends on the person: the reading is only checked against fault bands and turned into a value. */
function judgeUnknown(at: SensorAt, reading: SensorReading, reader: Reader): Judgement {
  const { atPin } = reading;
  if (atPin === null)
    return {
      verdict: 'not-known',
      sentence: 'Measure at the pin: what it should show here depends on you.',
      causes: [],
      advice: '',
    };
  const { faultBelow, faultAbove } = at.sensor;
  const low = faultBelow !== null && atPin < faultBelow;
  const high = faultAbove !== null && atPin > faultAbove;
  if (low || high)
    return {
      verdict: 'wrong',
      sentence: `${pinText(at, atPin)} lies in the fault band ${low ? 'below' : 'above'} ${pinText(at, (low ? faultBelow : faultAbove)!)}.`,
      causes: explain(
        pinGuesses({ altitudeMetres: 0, ambientCelsius: 20 }, at, []),
        atPin,
        LEAST_TOLERANCE[pinUnit(at.sensor)] * 4,
      ),
      advice: '',
    };
  const value = valueAtPin(at, atPin);
  return value === null
    ? {
        verdict: 'unexplained',
        sentence: `${pinText(at, atPin)} is outside of what the calibration knows.`,
        causes: [],
        advice: '',
      }
    : {
        verdict: 'not-known',
        sentence: `${pinText(at, atPin)} is ${readQuantity(at.sensor.quantity, value, reader)}: is that what it is set to?`,
        causes: [],
        advice: '',
      };
}

/**
 * Judges a key-on reading: what the pin shows, what the ECU makes of it, or both. With both, the pin proves sensor and
 * wires and the figure proves the ECU's setting. `library` are the kinds whose calibrations may explain it.
 */
export function judgeSensor(
  build: Pick<Build, 'site' | 'units' | 'fuel'>,
  at: SensorAt,
  reading: SensorReading,
  library: readonly DeviceKind[],
): Judgement {
  const expected = expectation(build.site, at);
  if (!expected) return judgeUnknown(at, reading, build);
  const others = othersOf(at, library);
  const { quantity } = at.sensor;
  const parts: { wrong: boolean; sentence: string; causes: Cause[] }[] = [];
  if (reading.atPin !== null) {
    if (expected.atPin === null)
      parts.push({
        wrong: true,
        sentence: 'This pin has no pull-up, so a resistive sensor reads nothing there.',
        causes: [
          {
            code: 'no-pull-up',
            sentence: 'No pull-up: nothing lifts the pin.',
            check: 'Place it on an input with a pull-up, or fit one.',
            distance: 0,
          },
        ],
      });
    else if (Math.abs(reading.atPin - expected.atPin) <= expected.pinTolerance)
      parts.push({
        wrong: false,
        sentence: `${pinText(at, reading.atPin)} at the pin is right: ${pinText(at, expected.atPin)} expected, give or take ${pinText(at, expected.pinTolerance)}.`,
        causes: [],
      });
    else
      parts.push({
        wrong: true,
        sentence: `${pinText(at, reading.atPin)} at the pin, ${pinText(at, expected.atPin)} expected.`,
        causes: explain(pinGuesses(build.site, at, others), reading.atPin, expected.pinTolerance),
      });
  }
  if (reading.shown !== null) {
    const pinRight = parts.every((part) => !part.wrong);
    const signal = reading.atPin ?? expected.atPin;
    const should = signal === null ? expected.value : (valueAtPin(at, signal) ?? expected.value);
    const tolerance =
      reading.atPin === null
        ? expected.tolerance
        : Math.max(expected.tolerance / 2, 0.01 * (at.sensor.most - at.sensor.least));
    const shown = readQuantity(quantity, reading.shown, build);
    if (Math.abs(reading.shown - should) <= tolerance)
      parts.push({
        wrong: false,
        sentence: `${shown} shown is right${reading.atPin === null ? `: ${readQuantity(quantity, should, build)} expected, give or take ${readStep(quantity, tolerance, build)}` : ''}.`,
        causes: [],
      });
    else {
      const causes =
        signal === null ? [] : explain(shownGuesses(build.site, at, signal, should, others), reading.shown, tolerance);
      // Without a reading at the pin the wires may be at fault as well.
      const wiring =
        reading.atPin === null
          ? explain(
              pinGuesses(build.site, at, []).map((guess) => ({
                ...guess,
                gives: guess.gives === null ? null : clampedValue(at, guess.gives),
              })),
              reading.shown,
              tolerance,
            )
          : [];
      parts.push({
        wrong: true,
        sentence: `${shown} shown, ${readQuantity(quantity, should, build)} ${reading.atPin === null ? 'expected' : `belongs to ${pinText(at, reading.atPin)}`}${reading.atPin !== null && pinRight ? ": the sensor and its wires are right, the ECU's setting is not" : ''}.`,
        causes: [...causes, ...wiring].sort((one, other) => one.distance - other.distance),
      });
    }
  }
  const causes = parts.flatMap((part) => part.causes).slice(0, 5);
  const wrong = parts.some((part) => part.wrong);
  const unexplained = wrong && causes.length === 0;
  const settingOnly = reading.atPin !== null && !parts[0].wrong;
  return {
    verdict: !wrong ? 'right' : unexplained ? 'unexplained' : 'wrong',
    sentence: parts.map((part) => part.sentence).join(' '),
    causes,
    advice: !unexplained
      ? ''
      : settingOnly
        ? "No calibration of the library makes that figure of the signal: hold the ECU's own table against this part's, row by row."
        : "Nothing known explains it: measure once more, at the sensor's own plug.",
  };
}

/** What an ECU shows of a pin at its end stop: it holds at the ends of the range. */
function clampedValue(at: SensorAt, reading: number): number | null {
  const value = valueAtPin(at, reading);
  if (value !== null) return Math.min(at.sensor.most, Math.max(at.sensor.least, value));
  if (at.sensor.signal !== 'ohms') return null;
  return reading <= 0 ? at.sensor.most : at.sensor.least;
}

/** The ECU's own calibration of a sensor: what the person says it is set to, else the part's. */
export const ecuCurveOf = (at: SensorAt): { name: string; curve: Curve } | null =>
  at.device.ecuCurves[at.sensor.terminal] ?? null;

/** Unit of a sensor's value as the person reads it. */
export const valueUnit = (at: Pick<SensorAt, 'sensor'>, reader: Reader): string =>
  readerScale(at.sensor.quantity, reader).unit;

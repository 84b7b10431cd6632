import type { Build, SensorReading } from '../build/schema';
import type { DeviceKind, SensorTrait } from '../devices/kind';
import { readQuantity, readStep, readerScale, type Reader } from '../units/units';
import { hypotheses } from './causes';
import { LEAST_TOLERANCE, type CauseCode, type Hypothesis } from './hypothesis';
import { othersOf } from './settings';
import { siteHypothesis } from './place';
import type { Curve } from '../devices/curve';
import { pinReading, pinUnit, restValue, valueAtPin, type SensorAt } from './sensor';

export type { CauseCode } from './hypothesis';
export { othersOf } from './settings';

/** One thing that would make this reading, and the reading that would tell it from the others. */
export interface Cause {
  readonly code: CauseCode;
  readonly sentence: string;
  /** What to measure next, and what it must show. */
  readonly check: string;
  /** How far the reading is from what this cause gives, in tolerances; 0 is spot on. */
  readonly distance: number;
  /** Share of all causes that would make this reading, a right one among them; 0 to 1. */
  readonly odds: number;
  /** Height of the place that this reading speaks of, metres; null for other causes. */
  readonly metres: number | null;
}

export interface Judgement {
  /** `doubtful`: within the tolerance, and yet something else may well have made it. */
  readonly verdict: 'right' | 'doubtful' | 'wrong' | 'unexplained' | 'not-known';
  readonly sentence: string;
  /** Likeliest first. */
  readonly causes: readonly Cause[];
  /** What to do when nothing explains the reading; '' otherwise. */
  readonly advice: string;
  /** Share of what nobody has thought of, against all causes and a right reading; 0 to 1. */
  readonly none?: number;
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

export function expectation(site: Build['site'], at: SensorAt): Expectation | null {
  const value = restValue(site, at.kind, at.sensor);
  if (value === null) return null;
  const tolerance = toleranceOf(at.sensor);
  const atPin = pinReading(at, value);
  const [low, high] = [pinReading(at, value - tolerance), pinReading(at, value + tolerance)];
  const span = low !== null && high !== null ? Math.abs(high - low) / 2 : 0;
  return { value, tolerance, atPin, pinTolerance: Math.max(LEAST_TOLERANCE[pinUnit(at.sensor)], span) };
}

const pinText = (at: SensorAt, reading: number): string =>
  `${reading.toFixed(pinUnit(at.sensor) === 'Hz' ? 0 : 2)} ${pinUnit(at.sensor)}`;

/** A cause is named when each figure lies within this many standard deviations of what it gives. */
const NAMED_WITHIN = 2;
/**
 * Within the tolerance something else than 'right' is told from these odds on, all together, and only where the reading itself speaks for
 * it: a gauge sensor at rest reads the same whatever its range, which is no reason to doubt.
 */
const DOUBT_FROM = 0.2;
const DOUBT_GAIN = 2;
/** Weather and the meter are what a tolerance is for; these are not. */
const DOUBTFUL: ReadonlySet<CauseCode> = new Set(['other-part', 'ecu-calibration', 'second-pull-up', 'ecu-pull-up']);
/** Weight of what nobody has thought of, spread over the whole span of the figure. */
const UNKNOWN_WEIGHT = 0.2;

interface Weighed {
  readonly cause: Hypothesis;
  readonly mass: number;
  /** Mass without how often the cause is met. */
  readonly likelihood: number;
  readonly distance: number;
  readonly named: boolean;
  readonly metres: number | null;
}

const normal = (away: number, sigma: number): number => Math.exp(-0.5 * away * away) / (sigma * Math.sqrt(2 * Math.PI));

/** How likely a cause makes the figures that were read, and how far it is from them. Null when it says nothing of one. */
function weigh(cause: Hypothesis, reading: Pick<SensorReading, 'atPin' | 'shown'>): Weighed | null {
  if (cause.setting && reading.shown === null) return null;
  let [mass, distance] = [cause.weight, 0];
  if (reading.atPin !== null) {
    if (!cause.pin) return null;
    const away = (reading.atPin - cause.pin.at) / cause.pin.sigma;
    mass *= normal(away, cause.pin.sigma);
    distance = Math.abs(away);
  }
  if (reading.shown !== null) {
    const about = cause.shows(reading.atPin);
    if (!about || !Number.isFinite(about.at)) return null;
    const away = (reading.shown - about.at) / about.sigma;
    mass *= normal(away, about.sigma);
    distance = Math.max(distance, Math.abs(away));
  }
  return {
    cause,
    mass,
    likelihood: mass / cause.weight,
    distance: distance / 2,
    named: distance <= NAMED_WITHIN,
    metres: null,
  };
}

/** Causes of one family are told as one: their odds together, in the words of the likeliest. */
function asOne(list: readonly Weighed[]): Weighed[] {
  const groups = new Map<string, Weighed>();
  list.forEach((one, index) => {
    const key = one.cause.family ?? `${index}`;
    const before = groups.get(key);
    if (!before) groups.set(key, one);
    else {
      const best = one.mass > before.mass ? one : before;
      groups.set(key, { ...best, mass: one.mass + before.mass, named: one.named || before.named });
    }
  });
  return [...groups.values()];
}

/** Every cause that would make these figures, with its odds, likeliest first; `right` is the share of a right reading. */
function explain(
  build: Pick<Build, 'site' | 'units' | 'fuel'>,
  at: SensorAt,
  expected: Expectation,
  reading: Pick<SensorReading, 'atPin' | 'shown'>,
  library: readonly DeviceKind[],
  inside: number | null,
): { causes: Cause[]; doubts: Cause[]; none: number } {
  const all = hypotheses(build, at, expected, othersOf(at, library), inside).flatMap(
    (cause) => weigh(cause, reading) ?? [],
  );
  const value = reading.atPin === null ? reading.shown : valueAtPin(at, reading.atPin);
  const { faultBelow, faultAbove } = at.sensor;
  const faulty =
    reading.atPin !== null && (reading.atPin < (faultBelow ?? -Infinity) || reading.atPin > (faultAbove ?? Infinity));
  const site = value === null || faulty ? null : siteHypothesis(build, at, value, expected);
  const range = at.sensor.most - at.sensor.least;
  if (site) {
    // In the unit of the figure that was read: volts of the pin for a value of the place.
    const [low, high] = [pinReading(at, value! - 0.5), pinReading(at, value! + 0.5)];
    const slope = reading.atPin === null || low === null || high === null ? 1 : Math.abs(high - low);
    let mass = (site.weight * site.density) / Math.max(1e-9, slope);
    let named = true;
    if (reading.atPin !== null && reading.shown !== null) {
      const sigma = Math.max(expected.tolerance / 4, 0.005 * range);
      const away = (reading.shown - value!) / sigma;
      mass *= normal(away, sigma);
      named = Math.abs(away) <= NAMED_WITHIN;
    }
    all.push({ cause: site, mass, likelihood: mass / site.weight, distance: 0, named, metres: site.metres });
  }
  const spanOf = (figure: number | null, span: number) => (figure === null ? 1 : 1 / span);
  const unknown = UNKNOWN_WEIGHT * spanOf(reading.atPin, 5) * spanOf(reading.shown, Math.max(1, range));
  const sum = all.reduce((total, one) => total + one.mass, unknown);
  const right = all.find((one) => one.cause.code === 'right');
  const rightly = right ? right.mass / right.cause.weight : 0;
  const causes = asOne(all)
    .filter((one) => one.named && one.cause.code !== 'right')
    .map((one) => ({
      code: one.cause.code,
      sentence: one.cause.sentence,
      check: one.cause.check,
      distance: one.distance,
      odds: one.mass / sum,
      metres: one.metres,
      gain: one.likelihood / rightly,
    }))
    .sort((one, other) => other.odds - one.odds);
  // The same sentence twice says nothing new, and what is a hundred times less likely than the first is no help.
  const told = causes.filter(
    (one, i) =>
      one.odds >= 0.01 * causes[0]!.odds && causes.findIndex(({ sentence }) => sentence === one.sentence) === i,
  );
  const doubtful = told.filter((one) => DOUBTFUL.has(one.code) && one.odds >= DOUBT_FROM / 4 && one.gain >= DOUBT_GAIN);
  const doubts = doubtful.reduce((total, one) => total + one.odds, 0) >= DOUBT_FROM ? doubtful : [];
  const plain = (list: typeof told) => list.map(({ gain: _, ...cause }) => cause);
  return { causes: plain(told), doubts: plain(doubts), none: unknown / sum };
}

/** Causes told at most: more than a person would try. */
const MOST_CAUSES = 5;

/** Causes that a fault band speaks of. */
const WIRES: ReadonlySet<CauseCode> = new Set([
  'open',
  'no-pull-up',
  'short-low',
  'short-high',
  'no-supply',
  'ground-open',
  'gauge-sensor',
]);

/** What a fault band speaks of where no value can be expected: wires and supplies only. */
function faultCauses(at: SensorAt, atPin: number, reader: Reader): Cause[] {
  const anywhere = { site: { altitudeMetres: 0, ambientCelsius: 20 }, units: reader.units, fuel: reader.fuel };
  const tolerance = LEAST_TOLERANCE[pinUnit(at.sensor)] * 4;
  const middle = (at.sensor.least + at.sensor.most) / 2;
  return hypotheses(anywhere, at, { value: middle, tolerance, pinTolerance: tolerance }, [], null)
    .filter(({ code, family }) => code !== 'right' && (family === undefined || family === code))
    .flatMap((cause) => {
      if (!WIRES.has(cause.code)) return [];
      const away = cause.pin === null ? Infinity : Math.abs(atPin - cause.pin.at) / tolerance;
      return away <= 1
        ? [{ code: cause.code, sentence: cause.sentence, check: cause.check, distance: away, weight: cause.weight }]
        : [];
    })
    .map(({ weight, ...cause }, _, list) => ({
      ...cause,
      metres: null,
      odds: weight / list.reduce((sum, one) => sum + one.weight, 0),
    }))
    .sort((one, other) => other.odds - one.odds);
}
/** Sensors whose value depends on the person: the reading is only checked against fault bands and turned into a value. */
function judgeUnknown(at: SensorAt, reading: Pick<SensorReading, 'atPin' | 'shown'>, reader: Reader): Judgement {
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
      causes: faultCauses(at, atPin, reader),
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
  reading: Pick<SensorReading, 'atPin' | 'shown'>,
  library: readonly DeviceKind[],
): Judgement {
  const expected = expectation(build.site, at);
  if (!expected) return judgeUnknown(at, reading, build);
  const { quantity } = at.sensor;
  if (reading.atPin !== null && expected.atPin === null)
    return {
      verdict: 'wrong',
      sentence: 'This pin has no pull-up, so a resistive sensor reads nothing there.',
      causes: [
        {
          code: 'no-pull-up',
          sentence: 'No pull-up: nothing lifts the pin.',
          check: 'Place it on an input with a pull-up, or fit one.',
          distance: 0,
          odds: 1,
          metres: null,
        },
      ],
      advice: '',
    };
  const parts: { wrong: boolean; sentence: string }[] = [];
  if (reading.atPin !== null && expected.atPin !== null)
    parts.push(
      Math.abs(reading.atPin - expected.atPin) <= expected.pinTolerance
        ? {
            wrong: false,
            sentence: `${pinText(at, reading.atPin)} at the pin is right: ${pinText(at, expected.atPin)} expected, give or take ${pinText(at, expected.pinTolerance)}.`,
          }
        : {
            wrong: true,
            sentence: `${pinText(at, reading.atPin)} at the pin, ${pinText(at, expected.atPin)} expected.`,
          },
    );
  const pinRight = parts.every((part) => !part.wrong);
  if (reading.shown !== null) {
    const signal = reading.atPin ?? expected.atPin;
    const should = signal === null ? expected.value : (valueAtPin(at, signal) ?? expected.value);
    const tolerance =
      reading.atPin === null
        ? expected.tolerance
        : Math.max(expected.tolerance / 2, 0.01 * (at.sensor.most - at.sensor.least));
    const shown = readQuantity(quantity, reading.shown, build);
    const shownRight = Math.abs(reading.shown - should) <= tolerance;
    parts.push({
      wrong: !shownRight,
      sentence: shownRight
        ? `${shown} shown is right${reading.atPin === null ? `: ${readQuantity(quantity, should, build)} expected, give or take ${readStep(quantity, tolerance, build)}` : pinRight ? '' : ' for that'}.`
        : `${shown} shown, ${readQuantity(quantity, should, build)} ${reading.atPin === null ? 'expected' : `belongs to ${pinText(at, reading.atPin)}`}${reading.atPin !== null && pinRight ? ": the sensor and its wires are right, the ECU's setting is not" : ''}.`,
    });
  }
  const wrong = parts.some((part) => part.wrong);
  const { causes, doubts, none } = explain(build, at, expected, reading, library, at.insideOhms);
  const sentence = parts.map((part) => part.sentence).join(' ');
  if (!wrong)
    return doubts.length === 0
      ? { verdict: 'right', sentence, causes: [], advice: '' }
      : { verdict: 'doubtful', sentence, causes: doubts, advice: 'Right by its band, but it could as well be this:' };
  const unexplained = causes.length === 0;
  return {
    verdict: unexplained ? 'unexplained' : 'wrong',
    sentence,
    causes: causes.slice(0, MOST_CAUSES),
    none,
    advice: !unexplained
      ? none > 0.5
        ? "None of these is likely: more probably it is something else. Measure once more, at the sensor's own plug."
        : ''
      : reading.atPin !== null && pinRight
        ? "No calibration of the library makes that figure of the signal: hold the ECU's own table against this part's, row by row."
        : "Nothing known explains it: measure once more, at the sensor's own plug.",
  };
}

/** The ECU's own calibration of a sensor: what the person says it is set to, else the part's. */
export const ecuCurveOf = (at: SensorAt): { name: string; curve: Curve } | null =>
  at.device.ecuCurves[at.sensor.terminal] ?? null;

/** Unit of a sensor's value as the person reads it. */
export const valueUnit = (at: Pick<SensorAt, 'sensor'>, reader: Reader): string =>
  readerScale(at.sensor.quantity, reader).unit;

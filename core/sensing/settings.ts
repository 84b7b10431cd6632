import { sensorsIn, trait, type DeviceKind, type SensorTrait } from '../devices/kind';
import { inSentence } from '../units/format';
import { readQuantity } from '../units/units';
import { KPA_PER_BAR, KPA_PER_INHG, KPA_PER_PSI, celsiusToFahrenheit } from '../units/convert';
import { SEA_LEVEL_KPA, standardBarometerKpa } from './atmosphere';
import type { About, Case, CauseCode, Hypothesis } from './hypothesis';
import { pinReading, restValue, valueAtPin, type SensorAt } from './sensor';

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

/** Another part than the build names, or an ECU that is set to another. */
export function partCauses(one: Case, others: readonly Other[]): Hypothesis[] {
  const { at, build, follows, measured, pinSigma, right } = one;
  const { signal } = at.sensor;
  const { site } = build;
  const found: Hypothesis[] = [];
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
      return value === null ? null : measured(value);
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

  return found;
}

/** A right signal that the display makes another figure of: its table, its zero, its unit. */
export function displayCauses(one: Case): Hypothesis[] {
  const { at, build, expected, measured, pinSigma, right, valueSigma } = one;
  const { quantity } = at.sensor;
  const { site } = build;
  const found: Hypothesis[] = [];
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
        const { sigma } = pin === null ? { sigma: valueSigma } : measured(value);
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

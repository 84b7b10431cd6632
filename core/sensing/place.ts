import type { Build } from '../build/schema';
import { trait } from '../devices/kind';
import { readQuantity, type Reader } from '../units/units';
import { altitudeOfKpa } from './atmosphere';
import type { Hypothesis, Site } from './hypothesis';
import type { SensorAt } from './sensor';
import { readMeasure } from '../units/workshop';

/** Barometers and temperatures of places people work at: spread about what the build says (from memory). */
const SITE_SPREAD = { pressure: 12, temperature: 15 } as const;
/** Highest place looked at, metres: above it nobody tunes an engine on the ground. */
const HIGHEST_METRES = 4500;

/**
 * The place is not what the build says: pin and display then agree with each other, at a value a place can have. `value` is
 * what the reading means by the part's own calibration. Null where no place gives it.
 */
export function siteHypothesis(
  build: Pick<Build, 'site'> & Reader,
  at: SensorAt,
  value: number,
  expected: Site,
): (Hypothesis & { readonly density: number; readonly metres: number | null }) | null {
  const { quantity } = at.sensor;
  if (Math.abs(value - expected.value) < expected.tolerance / 2) return null;
  const absolute = quantity === 'pressure' && trait(at.kind, 'pressure')?.reference === 'absolute';
  if (!absolute && quantity !== 'temperature') return null;
  const spread = SITE_SPREAD[absolute ? 'pressure' : 'temperature'];
  const away = (value - expected.value) / spread;
  const near = Math.exp(-0.5 * away * away) / (spread * Math.sqrt(2 * Math.PI));
  const base = { code: 'site', weight: 8, pin: null, shows: () => null } as const;
  if (absolute) {
    const metres = altitudeOfKpa(value);
    if (metres < -430 || metres > HIGHEST_METRES) return null;
    const rounded = Math.round(metres / 10) * 10;
    return {
      ...base,
      metres: rounded,
      density: near,
      sentence: `The place is not at ${readMeasure('altitude', build.site.altitudeMetres, build)}: ${readQuantity('pressure', value, build)} is the barometer at about ${readMeasure('altitude', rounded, build)}.`,
      check: `Look up the height of the place or today's barometer. Set the altitude, and this reading is right.`,
    };
  }
  // An engine that has run is warm for hours, and often has its thermostat's heat (from memory).
  const warm = Math.exp(-0.5 * ((value - 75) / 20) ** 2) / (20 * Math.sqrt(2 * Math.PI));
  if (value < -40 || value > 115) return null;
  return {
    ...base,
    // A person who reads with the key on and the engine cold knows a hot engine from a cold one.
    weight: Math.abs(value - expected.value) > 2 * expected.tolerance ? 4 : base.weight,
    metres: null,
    // Warmer is an engine that has run; far colder is no place people work at, and a stop of the ECU before it is a frost.
    density: value > expected.value ? 0.6 * near + 0.2 / 155 + 0.2 * warm : value < -35 ? 0.02 * near : 0.7 * near,
    sentence: `It is ${readQuantity('temperature', value, build)} there, not ${readQuantity('temperature', build.site.ambientCelsius, build)}: the engine has not cooled down, or the ambient of this build is not today's.`,
    check: 'Hold a thermometer to the part. On a cold engine air and coolant read the same within 2 or 3 °C.',
  };
}

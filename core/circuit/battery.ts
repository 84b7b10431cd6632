import type { Build } from '../build/schema';
import { cycleDegrees } from '../engine/engine';
import { LUG_OHMS } from '../power/sizes';
import { wireOhms } from '../wire/wire';
import { battery, type Figure } from './figures';
import type { CircuitState } from './states';

/** Volts behind a resistance. */
export interface Source {
  readonly volts: number;
  readonly ohms: number;
  /** How far its volts, and its ohms as a share, usually stray. */
  readonly strays: number;
  readonly spread: number;
}

/** The battery whose inside is known: of so many ampere-hours, at so many degrees. */
const KNOWN_AH = 45;
const KNOWN_CELSIUS = 20;
/** By how much its inside rises for each degree colder (common practice: half as much again at -18 °C). */
const COLD_A_DEGREE = 0.013;
/** And by how much while it is emptied (common practice: nearly twice when flat). */
const EMPTY_MORE = 0.8;

/** Its volts at rest by how full it is, 0 to 1 (common practice: in proportion; the cold takes less than a tenth of a volt). */
export const restingVolts = (charge: number): number =>
  battery.empty.value + charge * (battery.off.value - battery.empty.value);

/** Its inside: smaller ones have more, by the root of their size (from memory), cold and empty ones too. */
export function insideOhms(batteryAh: number, celsius: number, charge: number): number {
  const size = Math.sqrt(KNOWN_AH / batteryAh);
  const cold = 1 + COLD_A_DEGREE * Math.max(0, KNOWN_CELSIUS - celsius);
  return battery.inside.value * size * cold * (1 + EMPTY_MORE * (1 - charge));
}

/**
 * Amperes a starter takes while it turns the engine (common practice, from memory: 150 to 200 A for two litres of petrol, near 300
 * for five; half as much again in hard frost, when the oil is stiff).
 */
export function starterAmps({ engine, site }: Pick<Build, 'engine' | 'site'>): number {
  const litres = engine.displacementCc / CC_A_LITRE;
  const stiff = 1 + STIFF_A_DEGREE * Math.max(0, KNOWN_CELSIUS - site.ambientCelsius);
  // A two-stroke and a rotary turn more easily: they press less at a time.
  const press = cycleDegrees(engine) === FOUR_STROKE_DEGREES ? 1 : EASY_SHARE;
  const amps = (STARTER_AMPS + STARTER_AMPS_A_LITRE * litres) * stiff * press;
  return Math.round(amps / STARTER_STEP) * STARTER_STEP;
}
const CC_A_LITRE = 1000;
const STARTER_AMPS = 60;
const STARTER_AMPS_A_LITRE = 50;
/** It is known no better than to some amperes. */
const STARTER_STEP = 5;
const STIFF_A_DEGREE = 0.0125;
const FOUR_STROKE_DEGREES = 720;
const EASY_SHARE = 0.7;
/** Volts a starter's amperes are told at. */
const STARTER_VOLTS = 10;
/** What a turning starter is to the battery, ohms. */
export const starterOhms = (build: Pick<Build, 'engine' | 'site'>): number => STARTER_VOLTS / starterAmps(build);

/** What stands at the battery's posts in a state: itself, or the regulator of what charges it. */
export function sourceIn(build: Build, state: CircuitState, charge: number): Source {
  if (state === 'running' && build.power.charging !== 'none')
    return {
      volts: battery.charging.value,
      ohms: battery.regulated.value,
      strays: battery.charging.spread,
      spread: battery.regulated.spread,
    };
  const sag = sagIn(state);
  return {
    volts: restingVolts(charge) - (sag?.value ?? 0),
    ohms: insideOhms(build.power.batteryAh, build.site.ambientCelsius, charge),
    strays: Math.hypot((charge > HALF ? battery.off : battery.empty).spread, sag?.spread ?? 0),
    spread: battery.inside.spread,
  };
}
const HALF = 0.5;

/** What a rested battery comes down by at once in a state. */
function sagIn(state: CircuitState): Figure | null {
  if (state === 'key-off' || state === 'unplugged') return null;
  return state === 'key-on' || state === 'prime' ? battery.keyOnSag : battery.outputsOnSag;
}

/** What the strap between engine and battery measures with its bolts, ohms. */
export const strapOhms = ({ power }: Pick<Build, 'power'>): number =>
  wireOhms(power.strapSquareMm, power.strapMetres) + 2 * LUG_OHMS;

/** The way of the starter's current: amperes, and what they leave at the posts of a full battery, volts. */
export function crankedBy(build: Build): { readonly amps: number; readonly volts: number } {
  const { volts, ohms } = sourceIn(build, 'cranking', 1);
  const load = starterOhms(build) + strapOhms(build);
  const amps = volts / (ohms + load);
  return { amps, volts: amps * load };
}
export const crankedVolts = (build: Build): number => crankedBy(build).volts;

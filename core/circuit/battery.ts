import type { Build, Cable } from '../build/schema';
import { cycleDegrees } from '../engine/engine';
import { LUG_OHMS } from '../power/contact-ohms';
import { ownCell } from '../power/rings';
import { wireOhms } from '../wire/wire';
import {
  KNOWN_CELSIUS,
  battery,
  insideOhms,
  restingVolts,
  takesOhms,
  type Cell,
  type Figure,
} from '../power/battery-figures';
import type { CircuitState } from './states';

/** Volts behind a resistance. */
export interface Source {
  readonly volts: number;
  readonly ohms: number;
  /** How far its volts, and its ohms as a share, usually stray. */
  readonly strays: number;
  readonly spread: number;
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

/** A battery in a state: volts behind its inside while it gives, and behind what it takes in by how full it is while it is charged. */
export interface BatterySource extends Source {
  readonly takesOhms: number;
}

/** A battery in a state of the car. One that is charged has lost what it came down by. */
export function batteryIn(cell: Cell, state: CircuitState): BatterySource {
  const { ampereHours, celsius, charge } = cell;
  const sag = state === 'running' ? null : sagIn(state);
  return {
    volts: restingVolts(charge) - (sag?.value ?? 0),
    ohms: insideOhms(ampereHours, celsius, charge),
    takesOhms: takesOhms(cell),
    strays: Math.hypot((charge > HALF ? battery.off : battery.empty).spread, sag?.spread ?? 0),
    spread: battery.inside.spread,
  };
}
const HALF = 0.5;

/** What the loom is fed from in a state: the battery, or the regulator of what charges it. */
export const sourceIn = (build: Build, state: CircuitState, charge: number): Source =>
  state === 'running' && build.power.charging !== 'none' ? regulator : batteryIn(ownCell(build, charge), state);

/** The regulator of an alternator, at its studs. */
export const regulator: Source = {
  volts: battery.charging.value,
  ohms: battery.regulated.value,
  strays: battery.charging.spread,
  spread: battery.regulated.spread,
};

/** What a rested battery comes down by at once in a state. */
function sagIn(state: CircuitState): Figure | null {
  if (state === 'key-off' || state === 'unplugged') return null;
  return state === 'key-on' || state === 'prime' ? battery.keyOnSag : battery.outputsOnSag;
}

/** What the strap between engine and battery measures with its bolts, ohms. */
export const strapOhms = ({ power }: Pick<Build, 'power'>): number =>
  wireOhms(power.strapSquareMm, power.strapMetres) + 2 * LUG_OHMS;
/** The same of a heavy cable of the car. */
export const cableOhms = ({ squareMm, metres }: Pick<Cable, 'squareMm' | 'metres'>): number =>
  wireOhms(squareMm, metres) + 2 * LUG_OHMS;

/** The way of the starter's current: amperes, and what they leave at the posts of a full battery, volts. */
export function crankedBy(build: Build): { readonly amps: number; readonly volts: number } {
  const { volts, ohms } = sourceIn(build, 'cranking', 1);
  const load = starterOhms(build) + cableOhms(build.power.starterCable) + strapOhms(build);
  const amps = volts / (ohms + load);
  return { amps, volts: amps * load };
}
export const crankedVolts = (build: Build): number => crankedBy(build).volts;

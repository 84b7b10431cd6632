import type { TraitOf } from '../devices/kind';
import { atVolts } from '../devices/volts-table';
import type { Fuel } from '../units/units';
import { cycleDegrees, type Engine } from './engine';
import { eventSpan } from './outputs';
import type { FuelData } from './fuel-data';

/**
 * Density at 15 °C, kilograms per litre (common practice: petrol 0.745, ethanol 0.789, E85 0.781, methanol 0.791; the
 * limits of EN 228 and of handbook tables of the pure alcohols lie about these).
 */
export const fuelDensity: Record<Fuel, number> = { petrol: 0.745, e85: 0.781, ethanol: 0.789, methanol: 0.791 };
/**
 * Specific consumption grows as the heating value falls: petrol 43, E85 29.2, ethanol 26.8, methanol 19.9 MJ/kg (lower
 * heating values, handbook figures; from memory).
 */
export const heatingValue: Record<Fuel, number> = { petrol: 43, e85: 29.2, ethanol: 26.8, methanol: 19.9 };

/** Flow through a fixed opening follows the square root of the pressure across it (Bernoulli; incompressible flow). */
export const flowAtPressure = (flowCcPerMinute: number, atKpa: number, kpa: number): number =>
  flowCcPerMinute * Math.sqrt(Math.max(0, kpa) / atKpa);

/** Fuel the engine burns at its power, cc/min: power × BSFC / density. */
export const fuelDemand = (data: FuelData): number => (data.powerKw * data.bsfc) / fuelDensity[data.fuel] / 60;

/** Flow each injector must have at the rail's pressure: demand / (count × maximum duty), cc/min. */
export const requiredFlow = (data: FuelData, count: number): number => fuelDemand(data) / (count * data.maxDuty);

/** Shots of one injector in a cycle, by the way of injecting (common practice: batch and pairs fire twice a cycle). */
export const shotsPerCycle = (engine: Engine): number => cycleDegrees(engine) / eventSpan(engine, 'injector');

/** Share of the time an injector is open: pulse × shots per minute. One shot a cycle of 720°: pulse × rpm / 120000. */
export const dutyOf = (engine: Engine, pulseMilliseconds: number, rpm: number): number =>
  (pulseMilliseconds * shotsPerCycle(engine) * rpm) / ((cycleDegrees(engine) / 360) * 60_000);

export interface InjectorFigures {
  readonly count: number;
  /** Pressure across the injector: the rail's over the manifold's, kPa. */
  readonly acrossKpa: number;
  readonly flowCcPerMinute: number;
  readonly demandCcPerMinute: number;
  readonly requiredCcPerMinute: number;
  /** Duty at the power goal, dead time in it. */
  readonly duty: number;
  /** Pulse at the power goal at top speed, dead time in it, milliseconds. */
  readonly pulseMilliseconds: number;
  readonly deadMilliseconds: number | null;
  /** Power these injectors feed at the largest duty, kilowatts. */
  readonly powerKw: number;
  readonly ampsAt13: number;
}

/**
 * One injector that stands for all that are fitted, primaries and secondaries together: their mean flow at the rail's
 * pressure, and the longest dead time of those that have one, as the later ones are not open before it.
 */
export function meanInjector(fitted: readonly TraitOf<'injector'>[], data: FuelData): TraitOf<'injector'> {
  const [first] = fitted as [TraitOf<'injector'>];
  const flow =
    fitted.reduce((sum, one) => sum + flowAtPressure(one.flowCcPerMinute, one.atKpa, data.railKpa), 0) / fitted.length;
  const slowest = fitted.reduce((slow, one) =>
    (atVolts(one.dead, DEAD_VOLTS) ?? 0) > (atVolts(slow.dead, DEAD_VOLTS) ?? 0) ? one : slow,
  );
  return { ...first, flowCcPerMinute: flow, atKpa: data.railKpa, dead: slowest.dead };
}
/** Battery volts dead times are compared at: charging (common practice). */
const DEAD_VOLTS = 13.5;

/** What the fitted injectors can do for the power goal at `volts` of battery. */
export function injectorFigures(
  engine: Engine,
  data: FuelData,
  injector: TraitOf<'injector'>,
  count: number,
  volts = 13.5,
): InjectorFigures {
  const flow = flowAtPressure(injector.flowCcPerMinute, injector.atKpa, data.railKpa);
  const demand = fuelDemand(data);
  const dead = atVolts(injector.dead, volts);
  const cycleMs = ((cycleDegrees(engine) / 360) * 60_000) / engine.maxRpm / shotsPerCycle(engine);
  const flowing = (demand / (count * flow)) * cycleMs;
  const pulse = flowing + (dead ?? 0);
  const open = data.maxDuty * cycleMs - (dead ?? 0);
  const fed = Math.max(0, (open / cycleMs) * count * flow);
  return {
    count,
    acrossKpa: data.railKpa,
    flowCcPerMinute: flow,
    demandCcPerMinute: demand,
    requiredCcPerMinute: requiredFlow(data, count),
    duty: pulse / cycleMs,
    pulseMilliseconds: pulse,
    deadMilliseconds: dead,
    powerKw: (fed * 60 * fuelDensity[data.fuel]) / data.bsfc,
    ampsAt13: volts / injector.ohms,
  };
}

/** BSFC to expect when a fuel replaces petrol in the same engine: in the inverse ratio of heating values, g/kWh. */
export const bsfcOn = (fuel: Fuel, petrolBsfc: number): number =>
  petrolBsfc * (heatingValue.petrol / heatingValue[fuel]);

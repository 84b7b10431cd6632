import { z } from 'zod';
import { KM_PER_MILE, KPA_PER_BAR, KPA_PER_INHG, KPA_PER_PSI, celsiusToFahrenheit } from './convert';

/** Physical quantities a sensor can stand for; each has one unit inside Gonyx. */
export const quantities = [
  'pressure',
  'temperature',
  'position',
  'mixture',
  'ethanol',
  'road-speed',
  'shaft-speed',
  'level',
] as const;
export type Quantity = (typeof quantities)[number];

export const fuels = ['petrol', 'e85', 'ethanol', 'methanol'] as const;
export type Fuel = (typeof fuels)[number];
/** Air to fuel by mass at lambda 1 (common practice; E85 varies with the season's blend). */
export const stoichiometric: Record<Fuel, number> = { petrol: 14.7, e85: 9.8, ethanol: 9.0, methanol: 6.4 };
export const fuelWords: Record<Fuel, string> = {
  petrol: 'petrol',
  e85: 'E85',
  ethanol: 'ethanol',
  methanol: 'methanol',
};

/** What a person reads pressures, temperatures and mixtures in. */
export const unitsSchema = z.object({
  pressure: z.enum(['kPa', 'bar', 'psi', 'inHg']),
  temperature: z.enum(['C', 'F']),
  mixture: z.enum(['lambda', 'AFR']),
  /** Lengths, wires, displacement, power and flow. */
  workshop: z.enum(['metric', 'inch']),
});
export type Units = z.infer<typeof unitsSchema>;
export const defaultUnits: Units = { pressure: 'kPa', temperature: 'C', mixture: 'lambda', workshop: 'metric' };

/** A linear scale: shown = inside × factor + shift. */
export interface UnitScale {
  readonly unit: string;
  readonly factor: number;
  readonly shift: number;
  /** Decimals that make sense in this unit. */
  readonly decimals: number;
}

const pressures: Record<Units['pressure'], UnitScale> = {
  kPa: { unit: 'kPa', factor: 1, shift: 0, decimals: 1 },
  bar: { unit: 'bar', factor: 1 / KPA_PER_BAR, shift: 0, decimals: 3 },
  psi: { unit: 'psi', factor: 1 / KPA_PER_PSI, shift: 0, decimals: 1 },
  inHg: { unit: 'inHg', factor: 1 / KPA_PER_INHG, shift: 0, decimals: 1 },
};
const fixed = (unit: string, decimals: number): UnitScale => ({ unit, factor: 1, shift: 0, decimals });

/** The scale a quantity is shown in. AFR needs the fuel. */
export function scaleOf(quantity: Quantity, units: Units, fuel: Fuel): UnitScale {
  switch (quantity) {
    case 'pressure':
      return pressures[units.pressure];
    case 'temperature':
      return units.temperature === 'C'
        ? fixed('°C', 1)
        : { unit: '°F', factor: 1.8, shift: celsiusToFahrenheit(0), decimals: 1 };
    case 'mixture':
      return units.mixture === 'lambda'
        ? fixed('λ', 2)
        : { unit: 'AFR', factor: stoichiometric[fuel], shift: 0, decimals: 1 };
    case 'position':
    case 'level':
    case 'ethanol':
      return fixed('%', 1);
    case 'road-speed':
      return units.workshop === 'metric'
        ? fixed('km/h', 0)
        : { unit: 'mph', factor: 1 / KM_PER_MILE, shift: 0, decimals: 0 };
    case 'shaft-speed':
      return fixed('rpm', 0);
  }
}

export const toShown = (scale: UnitScale, inside: number): number => inside * scale.factor + scale.shift;
export const fromShown = (scale: UnitScale, shown: number): number => (shown - scale.shift) / scale.factor;
/** The scale of a difference: a step of 1 °C is 1.8 °F, without the 32. */
export const stepScale = (scale: UnitScale): UnitScale => ({ ...scale, shift: 0 });

/** `98.4 kPa`, `14.3 psi`, `0.985 bar`. */
export const inUnit = (scale: UnitScale, inside: number): string => {
  const text = toShown(scale, inside).toFixed(scale.decimals);
  return `${Number(text) === 0 ? (0).toFixed(scale.decimals) : text} ${scale.unit}`;
};

/** Who reads: the units and the fuel of a build, or anything that carries them. */
export interface Reader {
  readonly units: Units;
  readonly fuel: { readonly fuel: Fuel };
}
export const readerScale = (quantity: Quantity, reader: Reader): UnitScale =>
  scaleOf(quantity, reader.units, reader.fuel.fuel);
export const readQuantity = (quantity: Quantity, inside: number, reader: Reader): string =>
  inUnit(readerScale(quantity, reader), inside);
/** A difference in words, without the zero of the scale. */
export const readStep = (quantity: Quantity, inside: number, reader: Reader): string =>
  inUnit(stepScale(readerScale(quantity, reader)), inside);

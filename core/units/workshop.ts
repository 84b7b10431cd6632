import { KM_PER_MILE, METRES_PER_FOOT, MM_PER_INCH } from './convert';
import type { Reader, UnitScale, Units } from './units';

/*
 * What a workshop measures lengths, wires, engines and flow in: one setting, metric or inch. A rail pressure, a temperature and
 * a mixture are read in settings of their own (units.ts).
 */

/** Watts of a mechanical horsepower: 550 foot-pounds a second (NIST SP 811 appendix B). */
const WATTS_PER_HP = 745.6999;
/** Grams of a pound, exact (international yard and pound, 1959). */
const GRAMS_PER_POUND = 453.59237;
/** 1 lb/h of petrol in cc/min (common practice). */
export const CC_PER_POUND_HOUR = 10.5;

export const measures = [
  'displacement',
  'power',
  'flow',
  'consumption',
  'altitude',
  'diameter',
  'thickness',
  'crimp',
  'weight',
  'rolled',
  'distance-pulses',
] as const;
export type Measure = (typeof measures)[number];

const scale = (unit: string, decimals: number, factor = 1): UnitScale => ({ unit, factor, shift: 0, decimals });

/** Each measure as it stands inside Gonyx, and as an inch workshop reads it. */
const scales: Record<Measure, Readonly<Record<Units['workshop'], UnitScale>>> = {
  displacement: { metric: scale('cc', 0), inch: scale('cu in', 1, 1000 / MM_PER_INCH ** 3) },
  power: { metric: scale('kW', 0), inch: scale('hp', 0, 1000 / WATTS_PER_HP) },
  flow: { metric: scale('cc/min', 0), inch: scale('lb/h', 1, 1 / CC_PER_POUND_HOUR) },
  consumption: { metric: scale('g/kWh', 0), inch: scale('lb/hp·h', 3, WATTS_PER_HP / 1000 / GRAMS_PER_POUND) },
  altitude: { metric: scale('m', 0), inch: scale('ft', 0, 1 / METRES_PER_FOOT) },
  diameter: { metric: scale('mm', 0), inch: scale('in', 2, 1 / MM_PER_INCH) },
  thickness: { metric: scale('mm', 1), inch: scale('in', 2, 1 / MM_PER_INCH) },
  /** Crimp heights are given to the hundredth, or to the thousandth of an inch. */
  crimp: { metric: scale('mm', 2), inch: scale('in', 3, 1 / MM_PER_INCH) },
  /** Inside Gonyx in grams. */
  weight: { metric: scale('kg', 2, 0.001), inch: scale('lb', 2, 1 / GRAMS_PER_POUND) },
  rolled: { metric: scale('m', 3), inch: scale('in', 1, 1000 / MM_PER_INCH) },
  'distance-pulses': { metric: scale('a km', 0), inch: scale('a mile', 0, KM_PER_MILE) },
};

export const measureScale = (measure: Measure, units: Pick<Units, 'workshop'>): UnitScale =>
  scales[measure][units.workshop];

/** `3200 cc`, `195.3 cu in`; a figure the person gave keeps what it has behind the point. */
export function readMeasure(measure: Measure, inside: number, { units }: Pick<Reader, 'units'>): string {
  const { unit, factor, decimals } = measureScale(measure, units);
  return `${Number((inside * factor).toFixed(decimals))} ${unit}`;
}

/** Inches are read to the half: a thumb's width on a tape (common practice). */
const STEPS_PER_INCH = 2;
const INCHES_PER_FOOT = 12;

/** A length of wire: `1.52 m`, or `5 ft`, `4 ft 11½ in`, `7½ in`. */
export function readLength(metres: number, { units }: Pick<Reader, 'units'>): string {
  if (units.workshop === 'metric') return `${metres.toFixed(2)} m`;
  const steps = Math.round(((Math.abs(metres) * 1000) / MM_PER_INCH) * STEPS_PER_INCH);
  const feet = Math.floor(steps / (INCHES_PER_FOOT * STEPS_PER_INCH));
  const left = steps - feet * INCHES_PER_FOOT * STEPS_PER_INCH;
  const whole = Math.floor(left / STEPS_PER_INCH);
  const inches = `${whole > 0 || left === 0 ? whole : ''}${left % STEPS_PER_INCH === 0 ? '' : '½'} in`;
  const sign = metres < 0 && steps > 0 ? '-' : '';
  if (feet === 0) return `${sign}${inches}`;
  return left === 0 ? `${sign}${feet} ft` : `${sign}${feet} ft ${inches}`;
}

/** Wire to buy: `12.40 m`, or whole feet, rounded up. */
export const readSpool = (metres: number, { units }: Pick<Reader, 'units'>): string =>
  units.workshop === 'metric' ? `${metres.toFixed(2)} m` : `${Math.ceil(metres / METRES_PER_FOOT)} ft`;

const NUMBER = String.raw`(\d{1,6}(?:[.,]\d{1,4})?|[.,]\d{1,4})`;
const FRACTION = String.raw`(?:\s*(½|¼|¾)|[\s-]+(\d{1,2})\/(\d{1,2}))?`;
const FEET = new RegExp(
  String.raw`^${NUMBER}\s*(?:ft|feet|foot|')\.?\s*(?:${NUMBER}${FRACTION}\s*(?:in|inch|inches|")?\.?)?$`,
);
const INCHES = new RegExp(
  String.raw`^(?:${NUMBER}${FRACTION}|(½|¼|¾)|(\d{1,2})\/(\d{1,2}))\s*(?:in|inch|inches|")\.?$`,
);
const METRIC = new RegExp(String.raw`^${NUMBER}\s*(mm|cm|m|metres?|meters?)\.?$`);
const BARE = new RegExp(String.raw`^${NUMBER}$`);

const figure = (text: string | undefined): number => (text === undefined ? 0 : Number(text.replace(',', '.')));
const vulgar: Record<string, number> = { '½': 0.5, '¼': 0.25, '¾': 0.75 };
const part = (sign: string | undefined, above: string | undefined, below: string | undefined): number => {
  if (sign !== undefined) return vulgar[sign]!;
  return above === undefined || below === undefined || Number(below) === 0 ? 0 : Number(above) / Number(below);
};
const metricUnits: Record<string, number> = { mm: 0.001, cm: 0.01 };

/**
 * Metres of a length as people write it: `1.5 m`, `350 mm`, `4' 11"`, `4 ft 11 1/2 in`, `7½ in`. A bare number is in metres, or
 * in feet where the workshop is in inches. Null when it cannot be told.
 */
export function lengthMetres(text: string, { workshop }: Pick<Units, 'workshop'>): number | null {
  const clean = text
    .trim()
    .toLowerCase()
    .replace(/[′’]/g, "'")
    .replace(/[″“”]|''/g, '"');
  const feet = FEET.exec(clean);
  const metresOf = (inches: number) => (inches * MM_PER_INCH) / 1000;
  if (feet) return figure(feet[1]) * METRES_PER_FOOT + metresOf(figure(feet[2]) + part(feet[3], feet[4], feet[5]));
  const inches = INCHES.exec(clean);
  if (inches)
    return metresOf(figure(inches[1]) + part(inches[2] ?? inches[5], inches[3] ?? inches[6], inches[4] ?? inches[7]));
  const metric = METRIC.exec(clean);
  if (metric) return figure(metric[1]) * (metricUnits[metric[2]!] ?? 1);
  const bare = BARE.exec(clean);
  if (!bare) return null;
  return figure(bare[1]) * (workshop === 'inch' ? METRES_PER_FOOT : 1);
}

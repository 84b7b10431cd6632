/**
 * Copper wire: resistance, current carried and size choice.
 * Sources: IEC 60028 (resistivity), IEC 60228 class 5 (maximum ohm/km at 20 °C), ASTM B258 (AWG), IEC 60364-5-52 table
 * B.52.17 item 1 (bunching). Ampacity in free air is common practice for thin-wall automotive wire at 30 °C ambient.
 */

/** Resistivity of annealed copper at 20 °C, ohm metre (IEC 60028). */
export const COPPER_OHM_METRE = 1.7241e-8;
/** Temperature coefficient of copper, per kelvin (IEC 60028). */
export const COPPER_PER_KELVIN = 0.00393;

/** Series wire is sold in. */
export const wireSeries = ['metric', 'awg'] as const;
export type WireSeries = (typeof wireSeries)[number];

export interface WireSize {
  readonly squareMm: number;
  /** AWG number of a size of that series; 00 is -1. */
  readonly gauge?: number;
  /** Maximum resistance at 20 °C, ohm per km. */
  readonly ohmsPerKm: number;
  /** Continuous current of one wire in free air at 30 °C, conductor at 105 °C, amperes (common practice). */
  readonly amps: number;
  /** Outer diameter over thin-wall insulation, mm (common practice). */
  readonly outerMm: number;
  readonly source: string;
}

const iec = 'IEC 60228 class 5';
const metricSizes: readonly WireSize[] = [
  {
    squareMm: 0.35,
    ohmsPerKm: 54.4,
    amps: 7,
    outerMm: 1.3,
    source: 'from memory (ISO 6722-1 thin wall; IEC 60228 class 5 starts at 0.5)',
  },
  { squareMm: 0.5, ohmsPerKm: 39.0, amps: 11, outerMm: 1.6, source: iec },
  { squareMm: 0.75, ohmsPerKm: 26.0, amps: 14, outerMm: 1.9, source: iec },
  { squareMm: 1, ohmsPerKm: 19.5, amps: 16.5, outerMm: 2.1, source: iec },
  { squareMm: 1.5, ohmsPerKm: 13.3, amps: 21, outerMm: 2.4, source: iec },
  { squareMm: 2.5, ohmsPerKm: 7.98, amps: 29, outerMm: 3.0, source: iec },
  { squareMm: 4, ohmsPerKm: 4.95, amps: 39, outerMm: 3.7, source: iec },
  { squareMm: 6, ohmsPerKm: 3.3, amps: 50, outerMm: 4.3, source: iec },
  { squareMm: 10, ohmsPerKm: 1.91, amps: 70, outerMm: 6.0, source: iec },
  { squareMm: 16, ohmsPerKm: 1.21, amps: 94, outerMm: 7.2, source: iec },
  { squareMm: 25, ohmsPerKm: 0.78, amps: 130, outerMm: 8.7, source: iec },
  { squareMm: 35, ohmsPerKm: 0.554, amps: 160, outerMm: 10.4, source: iec },
  { squareMm: 50, ohmsPerKm: 0.386, amps: 200, outerMm: 12.2, source: iec },
];

/** AWG conductor diameter in mm: d = 0.127 x 92^((36-n)/39) (ASTM B258). `gauge` 0 to 36; 00 is -1. */
export const awgDiameterMm = (gauge: number): number => 0.127 * 92 ** ((36 - gauge) / 39);
export const awgSquareMm = (gauge: number): number => (Math.PI / 4) * awgDiameterMm(gauge) ** 2;

/** Strands lie at a slant, so a stranded wire has this much more copper to pass than its length (common practice: 2 %). */
const LAY = 1.02;
const gauges = [22, 20, 18, 16, 14, 12, 10, 8, 6, 4, 2, 1, 0, -1];

/** Between two sizes of the metric series by area, on a doubly logarithmic rule: current and diameter are powers of the area. */
function between(squareMm: number, of: (size: WireSize) => number): number {
  const at = Math.min(
    metricSizes.length - 2,
    Math.max(0, metricSizes.findIndex((size) => size.squareMm > squareMm) - 1),
  );
  const last = squareMm > metricSizes[metricSizes.length - 1]!.squareMm;
  const [one, other] = last ? metricSizes.slice(-2) : metricSizes.slice(at, at + 2);
  const share = Math.log(squareMm / one!.squareMm) / Math.log(other!.squareMm / one!.squareMm);
  return of(one!) * (of(other!) / of(one!)) ** share;
}

const gaugeSizes: readonly WireSize[] = gauges.map((gauge) => {
  const area = awgSquareMm(gauge);
  return {
    squareMm: Math.round(area * 1000) / 1000,
    gauge,
    ohmsPerKm: (COPPER_OHM_METRE * 1e9 * LAY) / area,
    amps: Math.round(between(area, ({ amps }) => amps) * 10) / 10,
    outerMm: Math.round(between(area, ({ outerMm }) => outerMm) * 10) / 10,
    source: 'ASTM B258 (diameter), IEC 60028 (copper), 2 % for the lay; current as of the metric sizes beside it',
  };
});

/** Sizes of one series, thinnest first. */
export const seriesSizes = (series: WireSeries): readonly WireSize[] => (series === 'awg' ? gaugeSizes : metricSizes);
const byArea = new Map([...metricSizes, ...gaugeSizes].map((size) => [size.squareMm, size]));

/** The listed size, or null. */
export const wireSize = (squareMm: number): WireSize | null => byArea.get(squareMm) ?? null;

/** A size a part is usually wired in, as this series has it: the thinnest with nearly as much copper (common practice). */
const NEARLY = 0.85;
export function inSeries(squareMm: number, series: WireSeries): number {
  const sizes = seriesSizes(series);
  return (sizes.find((size) => size.squareMm >= NEARLY * squareMm) ?? sizes[sizes.length - 1]!).squareMm;
}

/** Ohms of a wire at a conductor temperature. Unlisted sizes use the resistivity of copper (IEC 60028). */
export function wireOhms(squareMm: number, lengthMetres: number, celsius = 20): number {
  const size = wireSize(squareMm);
  const perMetre = size ? size.ohmsPerKm / 1000 : (COPPER_OHM_METRE * 1e6) / squareMm;
  return perMetre * lengthMetres * (1 + COPPER_PER_KELVIN * (celsius - 20));
}

const grouping: readonly (readonly [number, number])[] = [
  [1, 1],
  [2, 0.8],
  [3, 0.7],
  [4, 0.65],
  [5, 0.6],
  [6, 0.57],
  [7, 0.54],
  [8, 0.52],
  [9, 0.5],
  [12, 0.45],
  [16, 0.41],
  [20, 0.38],
];

/** Beyond the table's last row. */
const MOST_GROUPED = 0.38;
/** Grouping factor for loaded circuits bunched together (IEC 60364-5-52 B.52.17 item 1); 0.38 beyond 20. */
export function groupingFactor(loadedCircuits: number): number {
  return grouping.find(([count]) => loadedCircuits <= count)?.[1] ?? MOST_GROUPED;
}

/** What the amperes of the sizes are told for: a conductor at 105 °C in free air of 30 °C. */
const TOLD_CELSIUS = 105;
const TOLD_AIR_CELSIUS = 30;
/** So much a conductor rises by at what it carries alone, kelvin; by the square of what flows (Joule). */
export const FULL_RISE = TOLD_CELSIUS - TOLD_AIR_CELSIUS;

/**
 * Share of its told amperes that warms a wire from the air it lies in to what its insulation stands: the root of
 * (Tmax - Tamb) / (105 - 30). Under 1 for insulation of less than 105 °C in any air; 0 where the air is as hot as it stands.
 */
export function heatFactor(maxCelsius: number, ambientCelsius: number): number {
  return ambientCelsius >= maxCelsius ? 0 : Math.sqrt((maxCelsius - ambientCelsius) / FULL_RISE);
}

export interface Surroundings {
  readonly loadedCircuits: number;
  readonly ambientCelsius: number;
  readonly wireCelsius: number;
  /** What is on the shelf: sizes are chosen from it. */
  readonly series: WireSeries;
}

/** What of its current in free air a wire carries in its bundle and ambient. */
const shareIn = ({ loadedCircuits, wireCelsius, ambientCelsius }: Surroundings): number =>
  groupingFactor(loadedCircuits) * heatFactor(wireCelsius, ambientCelsius);

/** Continuous amperes a size carries in its bundle and ambient; 0 for an unlisted size. */
export function carriedAmps(squareMm: number, around: Surroundings): number {
  const size = wireSize(squareMm);
  if (!size) return 0;
  return size.amps * shareIn(around);
}

/** How warm a size gets at a current there, °C: the air and the rise of what flows in its bundle. Infinite for an unlisted size. */
export function conductorCelsius(
  squareMm: number,
  amps: number,
  { loadedCircuits, ambientCelsius }: Pick<Surroundings, 'loadedCircuits' | 'ambientCelsius'>,
): number {
  const full = (wireSize(squareMm)?.amps ?? 0) * groupingFactor(loadedCircuits);
  if (amps <= 0) return ambientCelsius;
  return full > 0 ? ambientCelsius + FULL_RISE * (amps / full) ** 2 : Infinity;
}

/** Smallest size of the series that carries `amps` there, or the largest when none does. */
export function sizeFor(amps: number, around: Surroundings, atLeast = 0): number {
  const sizes = seriesSizes(around.series);
  const share = shareIn(around);
  const found = sizes.find((size) => size.squareMm >= atLeast && size.amps * share >= amps);
  return (found ?? sizes[sizes.length - 1]!).squareMm;
}

/** Smallest size of the series whose drop over a length stays within the limit, or null when none does. */
export function sizeForDrop(
  amps: number,
  lengthMetres: number,
  limitVolts: number,
  series: WireSeries,
  celsius = 20,
): number | null {
  return (
    seriesSizes(series).find((size) => amps * wireOhms(size.squareMm, lengthMetres, celsius) <= limitVolts)?.squareMm ??
    null
  );
}

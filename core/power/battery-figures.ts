/*
 * What the models of battery and circuit rest on is told as figures: each with how far it usually strays, and where it is from. A
 * figure marked 'common practice' is what parts of that kind usually measure; one marked 'from memory' has not been held against a
 * printed source.
 */
export interface Figure {
  readonly value: number;
  readonly unit: 'V' | 'Ω' | 'A';
  /** How far parts of that kind usually stray from it: so many volts or amperes; of ohms a share. */
  readonly spread: number;
  readonly source: string;
}
export const volts = (value: number, spread: number, source: string): Figure => ({ value, unit: 'V', spread, source });
export const ohms = (value: number, spread: number, source: string): Figure => ({ value, unit: 'Ω', spread, source });
export const amps = (value: number, spread: number, source: string): Figure => ({ value, unit: 'A', spread, source });

/** The battery as volts behind a resistance, and what charges it. */
export const battery = {
  off: volts(12.6, 0.15, 'common practice: a full lead-acid battery at rest, 2.1 V a cell'),
  empty: volts(11.8, 0.2, 'common practice: a flat one at rest, under 2 V a cell; between them about in proportion'),
  keyOnSag: volts(0.2, 0.1, 'common practice: a rested battery comes down so much at once under a few amperes'),
  outputsOnSag: volts(0.4, 0.15, 'common practice: and so much under pump, fans or a starter'),
  charging: volts(13.9, 0.35, 'common practice: 13.8 to 14.4 V at its studs with the alternator charging'),
  regulated: ohms(0.002, 0.8, 'common practice: a regulator holds its volts within a tenth or two at full load'),
  inside: ohms(0.012, 0.4, 'common practice: 45 to 60 Ah, warm and full, 5 to 8 mΩ with its posts and clamps'),
} as const satisfies Record<string, Figure>;

/** The battery whose inside is known: of so many ampere-hours, at so many degrees. */
const KNOWN_AH = 45;
export const KNOWN_CELSIUS = 20;
/** By how much its inside rises for each degree colder (common practice: half as much again at -18 °C). */
const COLD_A_DEGREE = 0.013;
/** And by how much while it is emptied (common practice: nearly twice when flat). */
const EMPTY_MORE = 0.8;
/** One that is full takes in next to nothing: so many times its inside (common practice: two amperes and less). */
const FULL_TAKES_TIMES = 50;

/** A battery as it stands: its size, how full (0 to 1) and how warm. */
export interface Cell {
  readonly ampereHours: number;
  readonly celsius: number;
  readonly charge: number;
}

/** Its volts at rest by how full it is, 0 to 1 (common practice: in proportion; the cold takes less than a tenth of a volt). */
export const restingVolts = (charge: number): number =>
  battery.empty.value + charge * (battery.off.value - battery.empty.value);

/** Its inside while it gives, ohms: smaller ones have more, by the root of their size (from memory), cold and empty ones too. */
export function insideOhms(batteryAh: number, celsius: number, charge: number): number {
  const size = Math.sqrt(KNOWN_AH / batteryAh);
  const cold = 1 + COLD_A_DEGREE * Math.max(0, KNOWN_CELSIUS - celsius);
  return battery.inside.value * size * cold * (1 + EMPTY_MORE * (1 - charge));
}

/** What it is to what charges it, ohms: the fuller it is the less it takes in. */
export const takesOhms = ({ ampereHours, celsius, charge }: Cell): number =>
  insideOhms(ampereHours, celsius, charge) / Math.max(1 / FULL_TAKES_TIMES, 1 - charge);

import type { Units } from '../units/units';
import { awgSquareMm, seriesSizes, wireSize } from './wire';

/** `20`, `2/0`. Gauges above 0 are counted by noughts. */
export const gaugeWords = (gauge: number): string => (gauge < 1 ? `${1 - gauge}/0` : String(gauge));

/** A metric size is read as the thinnest gauge with at least this share of its copper (common practice: 1.5 mm² as 16 AWG). */
const LEAST_SHARE = 0.85;

/** The gauge a size is, or is bought as: the thinnest that has the copper, or nearly. */
export function gaugeOf(squareMm: number): number | null {
  const found = seriesSizes('awg').find((size) => size.squareMm >= LEAST_SHARE * squareMm);
  return found?.gauge ?? null;
}

/** A wire size in words: `0.5 mm²`, `20 AWG`; the other beside it where the wire is of the other series. */
export function readSize(squareMm: number, { units }: { readonly units: Pick<Units, 'workshop'> }): string {
  const listed = wireSize(squareMm);
  if (listed?.gauge !== undefined)
    return units.workshop === 'inch'
      ? `${gaugeWords(listed.gauge)} AWG`
      : `${gaugeWords(listed.gauge)} AWG (${Number(squareMm.toFixed(2))} mm²)`;
  const gauge = units.workshop === 'inch' ? gaugeOf(squareMm) : null;
  return `${squareMm} mm²${gauge === null ? '' : ` (${gaugeWords(gauge)} AWG)`}`;
}

/** The same where there is room for one of the two: `0.5 mm²`, `20 AWG`. */
export function shortSize(squareMm: number, { units }: { readonly units: Pick<Units, 'workshop'> }): string {
  const gauge = units.workshop === 'inch' ? gaugeOf(squareMm) : wireSize(squareMm)?.gauge;
  return gauge === null || gauge === undefined ? `${squareMm} mm²` : `${gaugeWords(gauge)} AWG`;
}

/** Square millimetres of a size as people write it: `0.75`, `0,75 mm²`, `20 AWG`, `2/0 AWG`. Null when it cannot be told. */
export function sizeSquareMm(text: string): number | null {
  const clean = text.trim().toLowerCase().replace(',', '.');
  const gauge = /^(?:awg\s*([1-4]\/0|\d{1,2})|([1-4]\/0|\d{1,2})\s*(?:awg|ga|gauge))$/.exec(clean);
  if (gauge) {
    const said = (gauge[1] ?? gauge[2])!;
    const number = said.endsWith('/0') ? 1 - Number(said[0]) : Number(said);
    return number <= 40 ? Math.round(awgSquareMm(number) * 1000) / 1000 : null;
  }
  const metric = /^(\d{1,3}(?:\.\d{1,3})?)\s*(?:mm(?:2|²|\^2)?|sqmm|qmm)?$/.exec(clean);
  const value = metric ? Number(metric[1]) : Number.NaN;
  return value > 0 && value <= 120 ? value : null;
}

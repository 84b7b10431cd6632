/**
 * Preferred values of resistors, IEC 60063. E24 and the series below are listed by the standard; E48 to E192 are the
 * decade's equal steps rounded to three figures, with the one exception the standard makes (920 in E192).
 */
const E24 = [
  1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.4, 2.7, 3.0, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2,
  9.1,
];
export type Series = 6 | 12 | 24 | 48 | 96 | 192;

/** One decade of a series, from 1 to under 10. */
export function decade(series: Series): number[] {
  if (series <= 24) return E24.filter((_, index) => index % (24 / series) === 0);
  return Array.from({ length: series }, (_, index) => {
    const value = Math.round(100 * 10 ** (index / series)) / 100;
    return series === 192 && value === 9.19 ? 9.2 : value;
  });
}

/** Preferred value next to `ohms` (above 0) by ratio: `at-least` never under it. */
export function preferredOhms(ohms: number, series: Series = 24, rule: 'nearest' | 'at-least' = 'nearest'): number {
  if (!(ohms > 0)) throw new RangeError('preferredOhms: ohms must be above 0');
  const power = 10 ** Math.floor(Math.log10(ohms) + 1e-12);
  const values = [...decade(series), 10].map((value) => value * power);
  const tolerance = 1e-9 * ohms;
  const found =
    rule === 'at-least'
      ? values.find((value) => value >= ohms - tolerance)!
      : values.reduce((best, value) =>
          Math.abs(Math.log(value / ohms)) < Math.abs(Math.log(best / ohms)) ? value : best,
        );
  return Number(found.toPrecision(3));
}

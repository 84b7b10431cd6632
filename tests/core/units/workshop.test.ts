import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { lengthMetres, measureScale, measures, readLength, readMeasure } from '~/core/units/workshop';
import { fromShown, toShown } from '~/core/units/units';
import { gaugeOf, readSize, shortSize, sizeSquareMm } from '~/core/wire/size';
import { carriedAmps, inSeries, seriesSizes, sizeFor, wireOhms, wireSeries, wireSize } from '~/core/wire/wire';

const metric = { units: { pressure: 'kPa', temperature: 'C', mixture: 'lambda', workshop: 'metric' } } as const;
const inch = { units: { ...metric.units, workshop: 'inch' } } as const;

describe('lengths in feet and inches', () => {
  test.each([
    [1.524, '5 ft'],
    [1.5, '4 ft 11 in'],
    [1.51, '4 ft 11½ in'],
    [0.19, '7½ in'],
    [0.0127, '½ in'],
    [0, '0 in'],
    [0.3048, '1 ft'],
    [0.3, '1 ft'],
    [30, '98 ft 5 in'],
  ])('%d m is %s', (metres, words) => expect(readLength(metres, inch)).toBe(words));
  test.each([
    ['5 ft', 1.524],
    [`4' 11"`, 1.4986],
    ['4 ft 11 in', 1.4986],
    ['4 ft 11 1/2 in', 1.5113],
    ['4ft 11½ in', 1.5113],
    ['7½ in', 0.1905],
    ['7 1/2"', 0.1905],
    ['½ in', 0.0127],
    ['1/4 in', 0.00635],
    ['59 inches', 1.4986],
    ['4.5 ft', 1.3716],
    ['1.5 m', 1.5],
    ['1,5 m', 1.5],
    ['350 mm', 0.35],
    ['35 cm', 0.35],
    ['5', 1.524],
    ['4′ 11″', 1.4986],
    [`4' 11`, 1.4986],
  ])('%s is %d m', (text, metres) => expect(lengthMetres(text, inch.units)).toBeCloseTo(metres, 6));
  test('a bare number is metres where the workshop is metric', () => {
    expect(lengthMetres('1.5', metric.units)).toBe(1.5);
    expect(readLength(1.5, metric)).toBe('1.50 m');
  });
  test.each(['', 'five', '4 yd', '-1 m', '1/0 in x', '4 ft 11 m'])('%s is no length', (text) =>
    expect(lengthMetres(text, inch.units)).toBeNull(),
  );
  test('property: what is read is typed again as the same length, to a quarter of an inch', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 30, noNaN: true }), (metres) => {
        const again = lengthMetres(readLength(metres, inch), inch.units)!;
        expect(Math.abs(again - metres)).toBeLessThanOrEqual(0.00636);
        expect(readLength(again, inch)).toBe(readLength(metres, inch));
      }),
    );
  });
});

describe('figures of an engine', () => {
  test('check values of the trade', () => {
    // 19 lb/h at 43 psi are 199.5 cc/min; 350 cubic inches are 5735 cc; 100 kW are 134 hp (common practice).
    expect(readMeasure('flow', 199.5, inch)).toBe('19 lb/h');
    expect(readMeasure('displacement', 5735, inch)).toBe('350 cu in');
    expect(readMeasure('power', 100, inch)).toBe('134 hp');
    expect(readMeasure('consumption', 304, inch)).toBe('0.5 lb/hp·h');
    expect(readMeasure('altitude', 1829, inch)).toBe('6001 ft');
    expect(readMeasure('diameter', 38, inch)).toBe('1.5 in');
    expect(readMeasure('distance-pulses', 2485.5, inch)).toBe('4000 a mile');
    expect(readMeasure('displacement', 1998, metric)).toBe('1998 cc');
  });
  test('property: every measure goes there and back', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...measures),
        fc.constantFrom(metric.units, inch.units),
        fc.double({ min: 0, max: 20000, noNaN: true }),
        (measure, units, value) => {
          const scale = measureScale(measure, units);
          return Math.abs(fromShown(scale, toShown(scale, value)) - value) < 1e-9 * (1 + value);
        },
      ),
    );
  });
});

describe('wire by gauge', () => {
  test('sizes as ASTM B258 has them, mm²', () => {
    const area = (gauge: number) => seriesSizes('awg').find((size) => size.gauge === gauge)!.squareMm;
    expect([22, 20, 18, 16, 14, 12, 10, 8, 6, 4, 2].map(area)).toEqual([
      0.326, 0.518, 0.823, 1.309, 2.081, 3.309, 5.261, 8.366, 13.302, 21.151, 33.631,
    ]);
  });
  test('a gauge has a little more ohms than solid copper, and lies between its metric neighbours in all', () => {
    // 20 AWG solid: 33.3 ohms a kilometre (ASTM B258 and IEC 60028).
    expect(wireOhms(0.518, 1000)).toBeGreaterThan(33.3);
    expect(wireOhms(0.518, 1000)).toBeLessThan(35);
    const all = [...seriesSizes('metric'), ...seriesSizes('awg')].sort((one, other) => one.squareMm - other.squareMm);
    for (let i = 1; i < all.length; i += 1) {
      expect(all[i].amps).toBeGreaterThanOrEqual(all[i - 1].amps);
      expect(all[i].outerMm).toBeGreaterThanOrEqual(all[i - 1].outerMm);
    }
  });
  test('in words: the gauge where it is read in inches, both where it is not', () => {
    expect(readSize(0.518, inch)).toBe('20 AWG');
    expect(readSize(0.518, metric)).toBe('20 AWG (0.52 mm²)');
    expect(readSize(0.5, inch)).toBe('0.5 mm² (20 AWG)');
    expect(readSize(0.5, metric)).toBe('0.5 mm²');
    expect(readSize(67.431, inch)).toBe('2/0 AWG');
    expect([shortSize(1.5, inch), shortSize(1.5, metric), shortSize(1.309, metric)]).toEqual([
      '16 AWG',
      '1.5 mm²',
      '16 AWG',
    ]);
  });
  test('a metric size is bought as the gauge with nearly its copper, never with much less', () => {
    expect([0.35, 0.5, 0.75, 1, 1.5, 2.5, 4, 6].map(gaugeOf)).toEqual([22, 20, 18, 16, 16, 12, 10, 10]);
  });
  test.each([
    ['20 AWG', 0.518],
    ['awg 18', 0.823],
    ['2/0 AWG', 67.431],
    ['1.5 mm²', 1.5],
  ])('%s is %d mm²', (text, squareMm) => expect(sizeSquareMm(text)).toBe(squareMm));
  test('property: a size is chosen from what is on the shelf, and carries what it was chosen for', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 60, noNaN: true }), fc.constantFrom(...wireSeries), (amps, series) => {
        const around = { loadedCircuits: 3, ambientCelsius: 60, wireCelsius: 125, series };
        const squareMm = sizeFor(amps, around);
        expect(seriesSizes(series).some((size) => size.squareMm === squareMm)).toBe(true);
        expect(wireSize(squareMm)).not.toBeNull();
        expect(carriedAmps(squareMm, around)).toBeGreaterThanOrEqual(amps);
        expect(inSeries(squareMm, series)).toBe(squareMm);
      }),
    );
  });
});

import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { cycleDegrees, firingAngleByCylinder } from '~/core/engine/engine';
import { fuseRatings, openingSeconds } from '~/core/power/fuse';
import { COPPER_OHM_METRE, awgDiameterMm, awgSquareMm, groupingFactor, wireOhms, wireSize } from '~/core/wire/wire';
import { standardBarometerKpa } from '~/core/sensing/atmosphere';
import { curveOf } from '~/core/devices/curve';
import { pulledUpVolts } from '~/core/sensing/sensor';
import { betaOhms } from '~/core/devices/thermistor';
import { TDC_TO_TOOTH, TOOTH_TO_TDC, newOffset } from '~/core/trigger/offset';
import { listedWheel, missingToothWheel, pulseHertz, teethPerCycle } from '~/core/wheels/wheel';
import { celsiusToFahrenheit, feetToMetres, kpaToPsi } from '~/core/units/convert';

describe('IEC 60228:2004 table 3, class 5 plain copper, maximum resistance at 20 °C', () => {
  test.each([
    [0.5, 39.0],
    [0.75, 26.0],
    [1, 19.5],
    [1.5, 13.3],
    [2.5, 7.98],
    [4, 4.95],
    [6, 3.3],
    [10, 1.91],
    [16, 1.21],
    [25, 0.78],
    [35, 0.554],
    [50, 0.386],
  ])('%s mm² is %s ohm/km', (squareMm, ohms) => {
    expect(wireOhms(squareMm, 1000)).toBeCloseTo(ohms, 9);
    // The standard's maximum is above the copper alone (IEC 60028), and never by more than a quarter.
    const copper = (COPPER_OHM_METRE * 1e6 * 1000) / squareMm;
    expect(ohms).toBeGreaterThan(copper);
    expect(ohms / copper).toBeLessThan(1.25);
  });
  test('IEC 60028: 0.00393 per kelvin', () => {
    expect(wireOhms(1, 10, 60) / wireOhms(1, 10, 20)).toBeCloseTo(1 + 40 * 0.00393, 9);
    expect(wireOhms(0.6, 1)).toBeCloseTo(1.7241e-8 / 0.6e-6, 9);
  });
  test('0.35 mm² is marked as recalled', () => {
    expect(wireSize(0.35)!.source).toMatch(/from memory/);
  });
});

describe('ASTM B258 table 1, diameters of round wire', () => {
  // Inches in the standard: No. 36 0.0050, 24 0.0201, 20 0.0320, 18 0.0403, 12 0.0808, 10 0.1019, 0 0.3249, 4/0 0.4600.
  test.each([
    [36, 0.005],
    [24, 0.0201],
    [20, 0.032],
    [18, 0.0403],
    [12, 0.0808],
    [10, 0.1019],
    [0, 0.3249],
    [-3, 0.46],
  ])('AWG %s', (gauge, inches) => {
    expect(awgDiameterMm(gauge) / 25.4).toBeCloseTo(inches, 4);
  });
  test('No. 20 is 0.518 mm² (table 1: 1020 circular mil)', () => {
    expect(awgSquareMm(20)).toBeCloseTo(0.518, 3);
  });
});

describe('IEC 60364-5-52:2009 table B.52.17 item 1, bunched', () => {
  test.each([
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
  ])('%s circuits: %s', (count, factor) => {
    expect(groupingFactor(count)).toBe(factor);
  });
  test('between two columns the lower factor holds', () => {
    expect(groupingFactor(10)).toBe(0.45);
  });
});

describe('ISO 8820-3, blade fuses, operating time', () => {
  test.each([
    [1.1, null],
    [1.35, { least: 0.75, most: 600 }],
    [1.6, { least: 0.25, most: 50 }],
    [2, { least: 0.15, most: 5 }],
    [3.5, { least: 0.04, most: 0.5 }],
    [6, { least: 0.02, most: 0.1 }],
  ])('at %s times the rating', (share, limits) => {
    for (const rating of fuseRatings) expect(openingSeconds(rating, rating * share)).toEqual(limits);
  });
});

describe('ISO 2533:1975 standard atmosphere, table of pressures', () => {
  // hPa by geopotential altitude: 0 m 1013.25, 500 m 954.61, 1000 m 898.75, 2000 m 794.95, 3000 m 701.09, 5000 m 540.20.
  test.each([
    [0, 101.325],
    [500, 95.461],
    [1000, 89.875],
    [2000, 79.495],
    [3000, 70.109],
    [5000, 54.02],
  ])('%s m: %s kPa', (metres, kpa) => {
    expect(standardBarometerKpa(metres)).toBeCloseTo(kpa, 2);
  });
  test('about 11.8 psi at 6,000 ft (common practice)', () => {
    expect(kpaToPsi(standardBarometerKpa(feetToMetres(6000)))).toBeCloseTo(11.8, 1);
  });
});

describe('units (NIST SP 811)', () => {
  test('26.8 °C is 80.2 °F', () => {
    expect(celsiusToFahrenheit(26.8)).toBeCloseTo(80.2, 1);
  });
});

describe('firing intervals: cycle / cylinders (any engine textbook)', () => {
  test.each([
    [4, 180],
    [5, 144],
    [6, 120],
    [8, 90],
  ])('%s cylinders every %s degrees', (cylinders, interval) => {
    const engine = catalog.engines.find((one) => one.cylinders === cylinders)!;
    const angles = [...firingAngleByCylinder(engine).values()];
    expect(angles[1] - angles[0]).toBe(interval);
    expect(angles.length * interval).toBe(cycleDegrees(engine));
  });
});

describe('trigger facts (common practice)', () => {
  test('crank at 65 Hz beside cam at 25 Hz: four pulses a turn with three a cycle, 975 rpm', () => {
    const crank = missingToothWheel(4, 0);
    const cam = listedWheel(
      'cam-3',
      'three',
      'cam',
      'cam-windows',
      [0, 120, 240].map((at) => ({ at, width: 20 })),
    );
    expect(pulseHertz(crank, 975)).toBeCloseTo(65, 9);
    expect(pulseHertz(cam, 975)).toBeCloseTo(24.375, 9);
    expect(teethPerCycle(crank) / teethPerCycle(cam)).toBeCloseTo(8 / 3, 9);
  });
});

describe('offset arithmetic: new = old + sign x (commanded - seen), wrapped (common practice)', () => {
  test.each([
    [84, 10, 14, TDC_TO_TOOTH, 80],
    [84, 10, 14, TOOTH_TO_TDC, 88],
    [2, 0, 6, TDC_TO_TOOTH, 716],
    [718, 0, 6, TOOTH_TO_TDC, 4],
  ] as const)(
    'old %s, commanded %s, seen %s, sign %s: %s',
    (oldDegrees, commandedDegrees, seenDegrees, sign, wanted) => {
      expect(newOffset({ oldDegrees, commandedDegrees, seenDegrees, cycleDegrees: 720, sign }).newDegrees).toBe(wanted);
    },
  );
});

describe('sensor formulas', () => {
  test('a divider with equal resistors halves the reference (voltage divider rule)', () => {
    expect(pulledUpVolts(2490, 2490)).toBe(2.5);
  });
  test('Beta form is exact at its own point and falls with heat (thermistor handbook form)', () => {
    const at20 = { celsius: 20, ohms: 2500 };
    expect(betaOhms(at20, 3450, 20)).toBeCloseTo(2500, 9);
    expect(betaOhms(at20, 3450, 80)).toBeCloseTo(2500 * Math.exp(3450 * (1 / 353.15 - 1 / 293.15)), 9);
  });
  test('0.5 to 4.5 V across the range (common practice)', () => {
    const { signalOf } = curveOf({
      method: 'linear',
      points: [
        { signal: 0.5, value: 20 },
        { signal: 4.5, value: 300 },
      ],
    });
    expect([20, 160, 300].map(signalOf)).toEqual([0.5, 2.5, 4.5]);
  });
});

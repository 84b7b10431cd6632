import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { catalog } from '~/catalog';
import { sensorsIn } from '~/core/devices/kind';
import { curveOf, curveSchema, prepareCurve, type Curve } from '~/core/devices/curve';
import { parsePoints } from '~/core/sensing/points';
import { betaOf, betaOhms, steinhartCelsius, steinhartHart, steinhartOhms } from '~/core/devices/thermistor';
import { copperLeadError, typeKCelsius, typeKMillivolts } from '~/core/devices/type-k';

const sentence = (curve: Curve): string => {
  const result = prepareCurve(curve);
  if (result.ok) throw new Error('was taken');
  return result.problem.sentence;
};
const sensors = catalog.kinds.flatMap((kind) => sensorsIn(kind).map((sensor) => [kind.id, sensor] as const));

describe.each(sensors)('curve of %s', (_, sensor) => {
  test('goes there and back over its whole range, and keeps one direction', () => {
    const curve = curveOf(sensor.curve);
    let before: number | null = null;
    let direction = 0;
    for (let i = 0; i <= 40; i += 1) {
      const value = sensor.least + ((sensor.most - sensor.least) * i) / 40;
      const signal = curve.signalOf(value)!;
      expect(curve.valueOf(signal)).toBeCloseTo(value, 4);
      if (before !== null) {
        direction ||= Math.sign(signal - before);
        expect(Math.sign(signal - before)).toBe(direction);
      }
      before = signal;
    }
  });
  test('its fault limits lie outside of what it gives over its range', () => {
    const curve = curveOf(sensor.curve);
    const ends = [curve.signalOf(sensor.least)!, curve.signalOf(sensor.most)!];
    if (sensor.signal !== 'volts') return;
    if (sensor.faultBelow !== null && Math.min(...ends) > 0)
      expect(sensor.faultBelow).toBeLessThanOrEqual(Math.min(...ends));
    if (sensor.faultAbove !== null && Math.max(...ends) < 5)
      expect(sensor.faultAbove).toBeGreaterThanOrEqual(Math.max(...ends));
  });
});

describe('what a person can get wrong', () => {
  test('a table that turns back names its row', () => {
    const points = [
      [0, 0],
      [1, 10],
      [2, 8],
      [3, 30],
    ].map(([signal, value]) => ({ signal, value }));
    expect(sentence({ method: 'table', points })).toMatch(/^Row 3 turns back: from 10 to 8 while the table rises/);
  });
  test('a repeated signal names both rows, in the order they were typed', () => {
    const points = [
      [2, 5],
      [1, 3],
      [2, 9],
    ].map(([signal, value]) => ({ signal, value }));
    expect(sentence({ method: 'table', points })).toMatch(/Row 3 repeats the signal 2 of row 1/);
  });
  test.each([
    [[0, 100, 10], /Point 1: ohms must be above 0/],
    [[-5, 100, 10], /Point 1: ohms must be above 0/],
    [[100, 100, 10], /three temperatures and three resistances/],
    [[1000, 10, 500], /No thermistor runs through/],
  ])('three points %p', (ohms, pattern) => {
    const points = ohms.map((signal, index) => ({ signal, value: index * 40 }));
    expect(sentence({ method: 'steinhart-hart', points })).toMatch(pattern);
  });
  test('a level line is no calibration', () => {
    expect(
      sentence({
        method: 'linear',
        points: [
          { signal: 1, value: 5 },
          { signal: 2, value: 5 },
        ],
      }),
    ).toMatch(/Row 2 repeats the value/);
    expect(
      sentence({
        method: 'linear',
        points: [
          { signal: 1, value: 5 },
          { signal: 1, value: 6 },
        ],
      }),
    ).toMatch(/Row 2 repeats the signal/);
  });
  test('a table knows nothing beyond its rows; a line goes on', () => {
    const points = [
      { signal: 1, value: 10 },
      { signal: 3, value: 30 },
    ];
    const table = curveOf({ method: 'table', points });
    expect([table.valueOf(0.9), table.valueOf(2), table.valueOf(3.1), table.signalOf(31)]).toEqual([
      null,
      20,
      null,
      null,
    ]);
    expect(curveOf({ method: 'linear', points }).valueOf(4)).toBe(40);
  });
  test('zero and negative ohms have no temperature', () => {
    const beta = curveOf({ method: 'beta', ohms: 2500, celsius: 20, beta: 3450 });
    expect([beta.valueOf(0), beta.valueOf(-10)]).toEqual([null, null]);
    expect(curveSchema.safeParse({ method: 'beta', ohms: -1, celsius: 20, beta: 3450 }).success).toBe(false);
  });
  test('a curve not checked before is a bug', () => {
    expect(() =>
      curveOf({
        method: 'linear',
        points: [
          { signal: 1, value: 1 },
          { signal: 1, value: 2 },
        ],
      }),
    ).toThrow(/repeats/);
  });
});

describe('pasted points', () => {
  const read = (text: string, ohms = false) => {
    const result = parsePoints(text, { ohms });
    return result.ok ? result.value.map((point) => [point.signal, point.value]) : result.problem.sentence;
  };
  test.each([
    [
      'tabs',
      '0.5\t0\n4.5\t10',
      [
        [0.5, 0],
        [4.5, 10],
      ],
    ],
    [
      'a heading, semicolons and decimal commas',
      'volts;bar\n0,5;0\n4,5;10',
      [
        [0.5, 0],
        [4.5, 10],
      ],
    ],
    ['spaces and units', '2500 Ω  20 °C\n320 Ω 80 °C', null],
    [
      'bars',
      '2500 | 20\n320 | 80',
      [
        [2500, 20],
        [320, 80],
      ],
    ],
    [
      'commas with points',
      '0.5, 0\n4.5, 10\n',
      [
        [0.5, 0],
        [4.5, 10],
      ],
    ],
    [
      'plain commas',
      '5,10\n6,20',
      [
        [5, 10],
        [6, 20],
      ],
    ],
    [
      'a real minus and blank lines',
      '9000 −10\n\n2500 20',
      [
        [9000, -10],
        [2500, 20],
      ],
    ],
    [
      'several spaces',
      '9000   0\r\n2500   20',
      [
        [9000, 0],
        [2500, 20],
      ],
    ],
  ])('%s', (_, text, expected) => {
    if (expected === null) expect(read(text)).toMatch(/Line 1/);
    else expect(read(text)).toEqual(expected);
  });
  test.each([
    ['1\t2\t3\n4\t5', /^Line 1: two figures are needed/],
    ['1\t2\nx\t5', /^Line 2: two figures are needed/],
    ['', /no figures/],
    ['1\t2', /two lines at least/],
  ])('%j is refused by its line', (text, pattern) => expect(read(text)).toMatch(pattern));
  test('ohms of nothing are named', () => {
    expect(read('2500\t20\n0\t80', true)).toMatch(/^Line 2: 0 ohms cannot be/);
    expect(read('2500\t20\n-3\t80', true)).toMatch(/^Line 2: -3 ohms cannot be/);
  });
});

describe('thermistor laws', () => {
  test('Steinhart-Hart is exact at its points, in whatever order they come', () => {
    const points = [
      { celsius: 80, ohms: 322 },
      { celsius: -10, ohms: 9100 },
      { celsius: 25, ohms: 2060 },
    ];
    const solved = steinhartHart(points);
    if (!solved.ok) throw new Error('refused');
    for (const point of points) {
      expect(steinhartCelsius(solved.value, point.ohms)).toBeCloseTo(point.celsius, 9);
      expect(steinhartOhms(solved.value, point.celsius)).toBeCloseTo(point.ohms, 6);
    }
  });
  test('property: any falling thermistor goes there and back', () => {
    fc.assert(
      fc.property(
        fc.record({
          ohms: fc.double({ min: 50, max: 1e5, noNaN: true }),
          beta: fc.integer({ min: 2500, max: 5000 }),
          celsius: fc.double({ min: -30, max: 140, noNaN: true }),
        }),
        ({ ohms, beta, celsius }) => {
          const at = { celsius: 25, ohms };
          const points = [-20, 25, 110].map((value) => ({ celsius: value, ohms: betaOhms(at, beta, value) }));
          const solved = steinhartHart(points);
          if (!solved.ok) return false;
          const there = steinhartOhms(solved.value, celsius);
          return (
            Math.abs(steinhartCelsius(solved.value, there) - celsius) < 1e-6 &&
            Math.abs(there / betaOhms(at, beta, celsius) - 1) < 1e-6
          );
        },
      ),
    );
  });
  test('a curve with a negative third coefficient still goes there and back', () => {
    // Points that bend the other way than most: c comes out below 0, and the cubic has three real roots.
    const points = [
      { celsius: 0, ohms: 9000 },
      { celsius: 40, ohms: 1500 },
      { celsius: 90, ohms: 340 },
    ];
    const solved = steinhartHart(points);
    if (!solved.ok) throw new Error(solved.problem.sentence);
    expect(solved.value.c).toBeLessThan(0);
    for (const celsius of [0, 15, 40, 65, 90])
      expect(steinhartCelsius(solved.value, steinhartOhms(solved.value, celsius))).toBeCloseTo(celsius, 6);
    for (const point of points) expect(steinhartOhms(solved.value, point.celsius) / point.ohms).toBeCloseTo(1, 6);
  });
  test('beta from two points gives both back', () => {
    const [one, other] = [
      { celsius: 20, ohms: 2500 },
      { celsius: 80, ohms: 340 },
    ];
    expect(betaOhms(one, betaOf(one, other), 80)).toBeCloseTo(340, 9);
  });
});

describe('type K', () => {
  test('outside of its range it says nothing', () => {
    expect([typeKMillivolts(-271), typeKMillivolts(1373), typeKCelsius(60), typeKCelsius(-8)]).toEqual([
      NaN,
      NaN,
      NaN,
      NaN,
    ]);
  });
  test('copper in the lead reads low by about the rise of its plug', () => {
    expect(copperLeadError(800, 80, 20)).toBeLessThan(-50);
    expect(copperLeadError(800, 80, 20)).toBeGreaterThan(-65);
    expect(copperLeadError(800, 20, 20)).toBeCloseTo(0, 6);
  });
});

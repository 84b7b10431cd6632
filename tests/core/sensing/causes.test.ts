import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { call } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import { netlist } from '~/core/netlist/netlist';
import { findingsOf } from '~/core/rules';
import { judgeSensor, type Judgement } from '~/core/sensing/judge';
import { sensorsOf } from '~/core/sensing/sensor';
import { demoBuild, edited, emptyBuild, kind } from '../../helpers';

/*
 * Readings worked out by hand: V = 5 R/(R + Rp) for a thermistor, a straight line for a pressure sensor, the standard
 * atmosphere (ISO 2533) for places. The demo stands at 410 m and 18 °C; its coolant NTC has 2500 Ω at 20 °C, beta 3450.
 */
const demo = demoBuild();
const at = '2026-03-01T10:00:00.000Z';
const CLT = 'clt-ntc-1.1';
const MAP = 'map-3bar-1.3';
const read = (id: string, atPin: number | null, shown: number | null, build: Build = demo): Judgement =>
  judgeSensor(
    build,
    sensorsOf(build, netlist(build)).find((one) => one.id === id)!,
    { atPin, shown },
    catalog.kinds,
  );
/** Ohms of the demo's coolant sensor at its ambient, by the beta formula. */
const COLD = 2500 * Math.exp(3450 * (1 / (demo.site.ambientCelsius + 273.15) - 1 / 293.15));
const under = (pullUp: number, ohms = COLD) => (5 * ohms) / (ohms + pullUp);
const beside = (one: number, other: number) => (one * other) / (one + other);
const codes = (judged: Judgement) => judged.causes.map(({ code }) => code);

describe('resistors as people fit them', () => {
  test.each([1000, 2200, 4700, 10000])('%i Ω outside beside the 2490 Ω inside is told, with its ohms', (outside) => {
    const judged = read(CLT, under(beside(2490, outside)), null);
    const cause = judged.causes.find(({ code }) => code === 'second-pull-up');
    expect(cause?.distance).toBeLessThan(1);
    // A resistor of ten times the one inside moves the pin less than the weather does.
    if (outside < 5000) expect(judged.verdict).not.toBe('right');
    if (outside === 1000) {
      expect(judged.causes[0].code).toBe('second-pull-up');
      expect(cause?.sentence).toMatch(/about 1 kΩ/);
    }
  });
  test('another pull-up in the ECU: the pin is off and the figure right', () => {
    const judged = read(CLT, under(1000), demo.site.ambientCelsius);
    expect(judged.causes[0].code).toBe('ecu-pull-up');
    expect(judged.causes[0].sentence).toMatch(/about 1 kΩ, not 2\.49 kΩ/);
  });
  test('with the figure wrong as well it is a second resistor rather than the ECU', () => {
    const pin = under(beside(2490, 1000));
    const ohms = (2490 * pin) / (5 - pin);
    const shown = 1 / (1 / 293.15 + Math.log(ohms / 2500) / 3450) - 273.15;
    expect(codes(read(CLT, pin, shown))).not.toContain('ecu-pull-up');
    expect(codes(read(CLT, pin, shown))).toContain('second-pull-up');
  });
});

describe('a part of nearly the same ohms', () => {
  test('3 kΩ where 2.5 kΩ is meant does not simply pass', () => {
    const at20 = edited(demo, call('setSite', { altitudeMetres: 410, ambientCelsius: 20 }));
    const judged = read(CLT, under(2490, 2980), null, at20);
    expect(judged.verdict).toBe('doubtful');
    expect(judged.causes[0].sentence).toMatch(/NTC of 3 kΩ/);
    expect(judged.causes[0].check).toMatch(/ohms at a known temperature/);
    const noted = edited(
      at20,
      call('recordSensing', {
        sensorId: CLT,
        reading: { atPin: under(2490, 2980), shown: null, at, by: '' },
      }),
    );
    expect(findingsOf(noted, netlist(noted), catalog.kinds).find(({ rule }) => rule === 'SE-10')).toMatchObject({
      severity: 'note',
    });
  });
  test('a reading that is spot on passes', () => {
    expect(read(CLT, under(2490), null)).toMatchObject({ verdict: 'right', causes: [] });
  });
});

describe('places', () => {
  // ISO 2533: 1,570 m is 83.8 kPa; by the line of the 3 bar sensor, 0.5 V + 4 V (83.8 - 20) / 280.
  const low = edited(demo, call('setSite', { altitudeMetres: 0, ambientCelsius: 18 }));
  const pin = 0.5 + (4 * (83.8 - 20)) / 280;
  test('pin and figure agree on the pressure of a higher place: the altitude is wrong before any part is', () => {
    const judged = read(MAP, pin, 83.8, low);
    expect(judged.causes[0]).toMatchObject({ code: 'site' });
    expect(judged.causes[0].sentence).toMatch(/about 15[5-9]0 m/);
    const noted = edited(
      low,
      call('recordSensing', {
        sensorId: MAP,
        reading: { atPin: pin, shown: 83.8, at, by: '' },
      }),
    );
    const finding = findingsOf(noted, netlist(noted), catalog.kinds).find(({ rule }) => rule === 'SE-10')!;
    expect(finding.remedy?.label).toMatch(/Set the altitude to 15[5-9]0 m/);
    expect(findingsOf(edited(noted, ...finding.remedy!.calls)).some(({ rule }) => rule === 'SE-10')).toBe(false);
  });
  test('an engine that has run is warm', () => {
    const ohms = 2500 * Math.exp(3450 * (1 / 318.15 - 1 / 293.15));
    expect(codes(read(CLT, under(2490, ohms), 45))).toContain('site');
  });
});

describe('supplies and tables', () => {
  test('a supply of 4.4 V takes a share of every reading, and the ECU shows what is right', () => {
    const { value } = { value: 96.5 };
    const right = 0.5 + (4 * (value - 20)) / 280;
    const judged = read(MAP, right * 0.88, value);
    expect(judged.causes[0].code).toBe('low-supply');
    expect(judged.causes[0].sentence).toMatch(/about 4\.4 V/);
  });
  test('an absolute table on a gauge sensor shows the barometer at rest', () => {
    const build = edited(
      emptyBuild(4),
      call('addDevice', { kind: kind('oil-pressure') }),
      call('allotAll', { keep: 'locked' }),
    );
    expect(read('oil-pressure-1.3', 0.5, 101.3, build).causes[0].code).toBe('absolute-table');
    expect(read('oil-pressure-1.3', null, 100.5, build).causes[0].code).toBe('absolute-table');
  });
});

test('odds of all causes and of a right reading make a share, likeliest first', () => {
  for (const pin of [0, 0.5, 1.2, 1.4, 2.2, 5]) {
    const { causes } = read(MAP, pin, null);
    const odds = causes.map((one) => one.odds);
    expect(odds).toEqual([...odds].sort((a, b) => b - a));
    expect(odds.reduce((sum, one) => sum + one, 0)).toBeLessThanOrEqual(1 + 1e-9);
    for (const one of odds) expect(one).toBeGreaterThan(0);
  }
});

test('findings of a build alone know only its own parts; with a library they name the part', () => {
  const reading = { atPin: under(2490, 8660 * Math.exp(0.3)), shown: null, at, by: '' };
  const build = edited(demo, call('recordSensing', { sensorId: CLT, reading }));
  const detail = (library: typeof catalog.kinds) =>
    findingsOf(build, netlist(build), library).find(({ rule }) => rule === 'SE-10')!.detail;
  expect(detail([])).not.toMatch(/NTC of 10 kΩ/);
  expect(detail(catalog.kinds)).toMatch(/NTC of 10 kΩ/);
});

import { endNamed } from '../ends';
import { describe, expect, test } from '@jest/globals';
import { curveWords } from '~/app/parts/curve-words';
import { dayWords, today } from '~/app/parts/dates';
import { kindFacts } from '~/app/parts/kind-facts';
import { landingOf } from '~/app/parts/landing';
import { money } from '~/app/parts/money';
import { catalog } from '~/catalog';
import { sensorsIn } from '~/core/devices/kind';
import { netlist } from '~/core/netlist/netlist';
import { demoBuild, kind } from '../helpers';

const reader = (
  pressure: 'kPa' | 'psi',
  temperature: 'C' | 'F',
  workshop: 'metric' | 'inch' = temperature === 'F' && pressure === 'psi' ? 'inch' : 'metric',
) => ({
  units: { pressure, temperature, mixture: 'lambda', workshop } as const,
  fuel: { fuel: 'petrol' } as const,
});

describe('a kind in figures', () => {
  test('in the units of whoever reads', () => {
    expect(kindFacts(kind('map-3bar'), reader('kPa', 'C'))).toEqual(['20.0 kPa to 300.0 kPa absolute']);
    expect(kindFacts(kind('map-3bar'), reader('psi', 'C'))).toEqual(['2.9 psi to 43.5 psi absolute']);
    expect(kindFacts(kind('clt-ntc'), reader('kPa', 'F'))).toEqual(['2.5 kΩ at 68.0 °F, -22.0 °F to 284.0 °F']);
    expect(kindFacts(kind('injector-high'), reader('psi', 'C'))).toEqual(['12.5 Ω, 640 cc/min at 43.5 psi']);
    expect(kindFacts(kind('injector-high'), reader('psi', 'F'))).toEqual(['12.5 Ω, 61 lb/h at 43.5 psi']);
    expect(kindFacts(kind('coil-bare'), reader('kPa', 'C'))).toEqual(['0.60 Ω, 3.6 mH']);
    expect(kindFacts(kind('clutch-switch'), reader('kPa', 'C'))).toEqual([]);
  });
  test('no kind of the catalog speaks of kilopascals or Celsius to someone who reads psi and Fahrenheit', () => {
    for (const one of catalog.kinds)
      expect([...kindFacts(one, reader('psi', 'F')), one.note].join(' ')).not.toMatch(/kPa|°C|cc\/min/);
  });
});

describe('a calibration in a line', () => {
  test.each(catalog.kinds.flatMap((one) => sensorsIn(one).map((sensor) => [one.id, sensor] as const)))(
    '%s',
    (_, sensor) => {
      const words = curveWords(sensor.curve, sensor.quantity, sensor.signal, reader('psi', 'F'));
      expect(words.length).toBeGreaterThan(8);
      expect(words).not.toMatch(/kPa|°C|NaN|undefined/);
    },
  );
  test('can be typed into an ECU as it stands', () => {
    const [sensor] = sensorsIn(kind('map-3bar'));
    expect(curveWords(sensor.curve, 'pressure', 'volts', reader('kPa', 'C'))).toBe(
      '0.5 V → 20.0 kPa, 4.5 V → 300.0 kPa',
    );
  });
});

test('where copper leads: the cavity first, then feeds and ground, then another device', () => {
  const net = netlist(demoBuild());
  expect(landingOf(net, endNamed('dev:clt-ntc-1.1'))).toBe('B10');
  expect(landingOf(net, endNamed('dev:fan-1.2'))).toBe('chassis ground');
  expect(landingOf(net, endNamed('dev:body-1.2'))).toBe('Oil switch · 1');
  expect(landingOf(net, endNamed('dev:body-1.7'))).toBe('no wire yet');
});

describe('days and money', () => {
  test('a calendar day is a day, whatever the zone', () => {
    expect(dayWords('2026-03-01')).toBe('1 Mar 2026');
    expect(today()).toMatch(/^\d{4}-\d{2}-\d{2}$/);
  });
  test('a currency nobody knows is written out', () => {
    expect(money(12.5, 'EUR')).toBe('€12.50');
    expect(money(12.5, 'XX')).toBe('12.50 XX');
  });
});

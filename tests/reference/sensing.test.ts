import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, test } from '@jest/globals';
import { trait } from '~/core/devices/kind';
import { CC_PER_POUND_HOUR, measureScale, type Measure } from '~/core/units/workshop';
import { awgDiameterMm } from '~/core/wire/wire';
import { flowAtPressure, fuelDensity, requiredFlow } from '~/core/engine/fuel';
import { averageCoilAmps, primaryAmps, storedMillijoules } from '~/core/power/coil';
import { atVolts } from '~/core/devices/volts-table';
import { standardBarometerKpa } from '~/core/sensing/atmosphere';
import { curveOf } from '~/core/devices/curve';
import { pulledUpVolts } from '~/core/sensing/sensor';
import { steinhartCelsius, steinhartHart, steinhartOhms } from '~/core/devices/thermistor';
import { typeKCelsius, typeKMillivolts } from '~/core/devices/type-k';
import { celsiusToFahrenheit, feetToMetres, kpaToBar, kpaToPsi, KPA_PER_INHG } from '~/core/units/convert';
import { decade, preferredOhms } from '~/core/units/eseries';
import { scaleOf, stoichiometric, toShown } from '~/core/units/units';
import { kind } from '../helpers';

/** A program of Debian that set-up installs; its absence is a failure, never a skip. */
function program(command: string, args: string[]): string {
  const result = spawnSync(command, args, { encoding: 'utf8', timeout: 60_000 });
  if (result.error || result.status !== 0)
    throw new Error(`${command} ${args.join(' ')}: ${result.error?.message ?? result.stderr}`);
  return result.stdout;
}
const units = (from: string, to: string): number =>
  Number(program('/usr/bin/units', ['-t', '-o', '%.10g', from, to]).trim());

describe('type K: ITS-90 thermocouple tables (NIST Monograph 175; IEC 60584-1), millivolts, cold junction 0 °C', () => {
  test.each([
    [-200, -5.891],
    [-100, -3.554],
    [-50, -1.889],
    [0, 0],
    [25, 1.0],
    [100, 4.096],
    [200, 8.138],
    [300, 12.209],
    [400, 16.397],
    [500, 20.644],
    [600, 24.905],
    [700, 29.129],
    [800, 33.275],
    [900, 37.326],
    [1000, 41.276],
    [1100, 45.119],
    [1200, 48.838],
    [1300, 52.41],
    [1372, 54.886],
  ])('%d °C is %d mV', (celsius, millivolts) => {
    expect(typeKMillivolts(celsius)).toBeCloseTo(millivolts, 3);
    // The tables give three decimals: half of the last is at most 0.02 K here, more where the curve is flat in the cold.
    expect(Math.abs(typeKCelsius(millivolts) - celsius)).toBeLessThan(celsius < 0 ? 0.04 : 0.015);
  });
});

describe('Steinhart-Hart against the table of the 2252-ohm thermistor (curve of ASTM E879, figures from memory)', () => {
  const solved = steinhartHart([
    { celsius: 0, ohms: 7355 },
    { celsius: 50, ohms: 811.3 },
    { celsius: 100, ohms: 152.8 },
  ]);
  if (!solved.ok) throw new Error(solved.problem.sentence);
  test.each([
    [10, 4482],
    [20, 2814],
    [25, 2252],
    [30, 1815],
    [37, 1355],
    [40, 1200],
    [60, 560.3],
    [70, 394.5],
    [80, 282.7],
    [90, 206.1],
  ])('%d °C is %d ohms, from points at 0, 50 and 100 °C', (celsius, ohms) => {
    expect(Math.abs(steinhartCelsius(solved.value, ohms) - celsius)).toBeLessThan(0.05);
    expect(Math.abs(steinhartOhms(solved.value, celsius) / ohms - 1)).toBeLessThan(0.002);
  });
});

describe('barometer: ISO 2533:1975 table 1 and GNU units, by geopotential altitude', () => {
  test.each([
    [0, 101.325],
    [500, 95.461],
    [1000, 89.875],
    [1500, 84.556],
    [2000, 79.495],
    [3000, 70.109],
    [4000, 61.64],
    [5000, 54.02],
  ])('%d m is %d kPa', (metres, kpa) => expect(standardBarometerKpa(metres)).toBeCloseTo(kpa, 2));
  test.each([-400, 0, 410, 1829, 3000, 4500, 5500])('%d m as GNU units has it (stdatmPH)', (metres) => {
    expect(standardBarometerKpa(metres) / units(`stdatmPH(${metres} m)`, 'kPa')).toBeCloseTo(1, 4);
  });
  test('about 11.8 psi at 6,000 ft (common practice)', () => {
    expect(kpaToPsi(standardBarometerKpa(feetToMetres(6000)))).toBeCloseTo(11.8, 1);
  });
});

describe('units against GNU units', () => {
  test('pressures', () => {
    expect(kpaToPsi(250)).toBeCloseTo(units('250 kPa', 'psi'), 6);
    expect(kpaToBar(250)).toBeCloseTo(units('250 kPa', 'bar'), 9);
    expect(KPA_PER_INHG).toBeCloseTo(units('inHg', 'kPa'), 4);
  });
  test.each([-40, 0, 26.8, 100, 140])('%d °C', (celsius) => {
    expect(celsiusToFahrenheit(celsius)).toBeCloseTo(units(`tempC(${celsius})`, 'tempF'), 6);
  });
  test('what an inch workshop reads: horsepower, cubic inches, feet, pounds a horsepower-hour, miles', () => {
    const inch = { workshop: 'inch' } as const;
    const shown = (measure: Measure, inside: number) => toShown(measureScale(measure, inch), inside);
    expect(shown('power', 100) / units('100 kW', 'hp')).toBeCloseTo(1, 6);
    expect(shown('displacement', 1998) / units('1998 cc', 'in^3')).toBeCloseTo(1, 9);
    expect(shown('altitude', 1829) / units('1829 m', 'ft')).toBeCloseTo(1, 9);
    expect(shown('diameter', 38) / units('38 mm', 'in')).toBeCloseTo(1, 9);
    expect(shown('consumption', 300) / units('300 g/kWh', 'lb/(hp hour)')).toBeCloseTo(1, 6);
    expect(shown('distance-pulses', 1000) / units('1000/km', '1/mile')).toBeCloseTo(1, 9);
  });
  test.each([22, 20, 18, 16, 14, 12, 10, 8, 6, 4, 2, 1])('%d AWG as GNU units has it', (gauge) => {
    expect(awgDiameterMm(gauge) / units(`wiregauge(${gauge})`, 'mm')).toBeCloseTo(1, 4);
  });
  test('26.8 °C is 80.2 °F', () => {
    const scale = scaleOf(
      'temperature',
      { pressure: 'kPa', temperature: 'F', mixture: 'lambda', workshop: 'metric' },
      'petrol',
    );
    expect(toShown(scale, 26.8)).toBeCloseTo(80.2, 1);
  });
  test('stoichiometric ratios by mass: petrol 14.7, ethanol 9.0, methanol 6.4 (common practice), E85 between its parts', () => {
    expect(stoichiometric).toMatchObject({ petrol: 14.7, ethanol: 9, methanol: 6.4 });
    expect(stoichiometric.e85).toBeGreaterThan(9);
    expect(stoichiometric.e85).toBeCloseTo(0.85 * 9 + 0.15 * 14.7, 0);
  });
});

describe('IEC 60063, preferred values', () => {
  test('E6, E12 and E24 as the standard lists them', () => {
    expect(decade(6)).toEqual([1, 1.5, 2.2, 3.3, 4.7, 6.8]);
    expect(decade(12)).toEqual([1, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2]);
    expect(decade(24)).toHaveLength(24);
  });
  test('E96 in part, as the standard lists it', () => {
    const e96 = decade(96);
    expect(e96.slice(0, 12)).toEqual([1, 1.02, 1.05, 1.07, 1.1, 1.13, 1.15, 1.18, 1.21, 1.24, 1.27, 1.3]);
    for (const value of [2.21, 2.49, 4.99, 9.09, 9.31, 9.53, 9.76]) expect(e96).toContain(value);
  });
  test('E192 has 920, not 919', () => {
    expect(decade(192)).toContain(9.2);
    expect(decade(192)).not.toContain(9.19);
  });
  test('470 ohms for a charge line is in E6, 2.49 kilohms for a pull-up in E96', () => {
    expect([preferredOhms(460, 6), preferredOhms(2500, 96)]).toEqual([470, 2490]);
  });
});

describe('injectors', () => {
  test('flow follows the root of the pressure (Bernoulli): four times the pressure, twice the flow', () => {
    expect(flowAtPressure(440, 300, 1200)).toBeCloseTo(880, 9);
    expect(flowAtPressure(440, 300, 400)).toBeCloseTo(440 * Math.sqrt(4 / 3), 9);
  });
  test('1 lb/h of petrol is about 10.5 cc/min (common practice); GNU units at 0.72 kg/l', () => {
    expect(units('lb/hour', '(0.72 g/cc) cc/min')).toBeCloseTo(CC_PER_POUND_HOUR, 1);
  });
  test('required flow = power × BSFC / (count × duty): 200 kW at 310 g/kWh over four at 85 %', () => {
    const flow = requiredFlow({ fuel: 'petrol', railKpa: 300, bsfc: 310, powerKw: 200, maxDuty: 0.85 }, 4);
    expect(flow).toBeCloseTo(
      units(`200 kW * 310 g/(kW hour) / (4 * 0.85) / (${fuelDensity.petrol} g/cc)`, 'cc/min'),
      6,
    );
  });
});

/** Runs an ngspice batch deck and reads its `name = value` lines (measure statements). */
function spice(deck: string): Record<string, number> {
  const folder = mkdtempSync(path.join(tmpdir(), 'gonyx-spice-'));
  try {
    const file = path.join(folder, 'deck.cir');
    writeFileSync(file, deck);
    const out = program('/usr/bin/ngspice', ['-b', file]);
    return Object.fromEntries(
      [...out.matchAll(/^(\w+)\s*=\s*([-+0-9.eE]+)/gm)].map((match) => [match[1].toLowerCase(), Number(match[2])]),
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

describe('coil primary against ngspice 39 (transient analysis), within 1 %', () => {
  test.each([
    ['coil-igniter', 8],
    ['coil-igniter', 13.5],
    ['coil-bare', 10],
    ['coil-wasted-bare', 13.5],
    ['coil-distributor', 15],
  ])('%s at %d V', (id, volts) => {
    const coil = trait(kind(id), 'coil')!;
    const dwell = atVolts(coil.dwell, volts)!;
    const measured = spice(`* coil primary
V1 in 0 PWL(0 0 1n ${volts})
R1 in mid ${coil.primaryOhms}
L1 mid 0 ${coil.inductanceMillihenry}m
.tran ${dwell / 2000}m ${dwell}m uic
.measure tran iend find i(L1) at=${dwell * 0.9999}m
.measure tran charge integ i(L1) from=0 to=${dwell}m
.end
`);
    const amps = primaryAmps(coil, volts, dwell);
    expect(Math.abs(amps / measured.iend - 1)).toBeLessThan(0.01);
    const energy = 0.5 * coil.inductanceMillihenry * measured.iend ** 2;
    expect(Math.abs(storedMillijoules(coil, volts, dwell) / energy - 1)).toBeLessThan(0.01);
    // Average current of a hundred events a second is a hundred charges.
    expect(Math.abs(averageCoilAmps(coil, volts, dwell, 100) / (measured.charge * 100) - 1)).toBeLessThan(0.01);
  });
  test('a sensor under its pull-up, at its operating point', () => {
    const ohms = curveOf({ method: 'beta', ohms: 2500, celsius: 20, beta: 3450 }).signalOf(60)!;
    const measured = spice(`* divider
V1 ref 0 5
R1 ref pin 2490
R2 pin 0 ${ohms}
.tran 1m 2m
.measure tran pin find v(pin) at=1m
.end
`);
    expect(pulledUpVolts(ohms, 2490)).toBeCloseTo(measured.pin, 4);
  });
});

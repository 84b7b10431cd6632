import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { call } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import { netlist } from '~/core/netlist/netlist';
import { expectation, judgeSensor, othersOf } from '~/core/sensing/judge';
import {
  chartPoints,
  pinReading,
  pullUpsAt,
  sensorsOf,
  settingError,
  valueAtPin,
  type SensorAt,
} from '~/core/sensing/sensor';
import { demoBuild, edited, emptyBuild, kind } from '../../helpers';

const demo = demoBuild();
const sensorIn = (build: Build, id: string): SensorAt => {
  const found = sensorsOf(build, netlist(build)).find((one) => one.id === id);
  if (!found) throw new Error(`no sensor ${id}`);
  return found;
};
const judge = (id: string, atPin: number | null, shown: number | null, build: Build = demo) =>
  judgeSensor(build, sensorIn(build, id), { atPin, shown }, catalog.kinds);
const codes = (judged: ReturnType<typeof judge>) => judged.causes.map((cause) => cause.code);
const MAP = 'map-3bar-1.3';
const CLT = 'clt-ntc-1.1';

describe('expected at key-on', () => {
  test('a manifold sensor reads the barometer at the altitude of the place', () => {
    const here = expectation(demo.site, sensorIn(demo, MAP))!;
    expect(here.value).toBeCloseTo(96.5, 1);
    expect(here.atPin).toBeCloseTo(0.5 + (4 * (here.value - 20)) / 280, 6);
    const high = expectation({ ...demo.site, altitudeMetres: 3000 }, sensorIn(demo, MAP))!;
    expect(high.atPin!).toBeLessThan(here.atPin! - 0.3);
  });
  test('a thermistor reads ambient through the pull-up of its pin', () => {
    const at = sensorIn(demo, CLT);
    expect(at.pullUpOhms).toBe(2490);
    expect(valueAtPin(at, expectation(demo.site, at)!.atPin!)).toBeCloseTo(18, 6);
  });
  test('a throttle depends on the person', () => {
    expect(expectation(demo.site, sensorIn(demo, 'pedal-1.3'))).toBeNull();
  });
  test('an unplaced thermistor takes the pull-up of the first input that has one, and says so', () => {
    const build = edited(demo, call('unassign', { needId: CLT }));
    expect(sensorIn(build, CLT)).toMatchObject({ assumed: true, pullUpOhms: 2490 });
  });
  test('a resistor outside stands beside the one inside', () => {
    const build = edited(demo, call('setPullUp', { deviceId: 'clt-ntc-1', ohms: 2490 }));
    expect(sensorIn(build, CLT).pullUpOhms).toBeCloseTo(1245, 9);
    expect(pullUpsAt(sensorIn(build, CLT))).toEqual({ inside: 2490, outside: 2490 });
  });
});

describe('judging a manifold sensor', () => {
  test('right, by the pin, by the display, and by both', () => {
    for (const [pin, shown] of [
      [1.6, null],
      [null, 97],
      [1.6, 97],
    ] as const)
      expect(judge(MAP, pin, shown).verdict).toBe('right');
  });
  test('0 V is an open or shorted signal or no supply; 5 V a short to the supply or an open ground', () => {
    expect(codes(judge(MAP, 0, null))).toEqual(['open', 'no-supply', 'short-low']);
    expect(codes(judge(MAP, 5, null))).toEqual(['short-high', 'ground-open']);
  });
  test('the right volts and a wrong figure are the ECU: the calibration it must be set to is named', () => {
    const other = catalog.kinds.find((one) => one.id === 'map-2bar')!;
    const at = sensorIn(demo, MAP);
    const shown = valueAtPin(
      { sensor: other.traits.find((one) => one.type === 'sensor')!, pullUpOhms: null },
      expectation(demo.site, at)!.atPin!,
    )!;
    const judged = judge(MAP, 1.59, shown);
    expect(judged.sentence).toMatch(/the sensor and its wires are right, the ECU's setting is not/);
    expect(judged.causes[0]).toMatchObject({ code: 'ecu-calibration' });
    expect(judged.causes[0].sentence).toMatch(/2 bar absolute/);
  });
  test('every other manifold calibration of the catalog is told from its own volts', () => {
    const at = sensorIn(demo, MAP);
    const expected = expectation(demo.site, at)!;
    for (const other of othersOf(at, catalog.kinds)) {
      const reading = pinReading({ sensor: other.sensor, pullUpOhms: null }, expected.value);
      if (
        reading === null ||
        other.sensor.most < expected.value ||
        Math.abs(reading - expected.atPin!) < 2 * expected.pinTolerance
      )
        continue;
      const own = other.kind.traits.some((one) => one.type === 'pressure' && one.measures === 'manifold');
      if (own)
        expect(
          judge(MAP, reading, null)
            .causes.map((cause) => cause.sentence)
            .join(),
        ).toContain(other.name);
    }
  });
  test('a gauge sensor rests at its lowest volts; a zeroed display shows minus the height of the place', () => {
    expect(codes(judge(MAP, 0.5, null))).toContain('gauge-sensor');
    expect(codes(judge(MAP, null, -4.8))[0]).toBe('gauge-zeroed');
    // Common practice: at about 6,000 ft a display zeroed at sea level shows -2.9 psi.
    const high = edited(demo, call('setSite', { altitudeMetres: 1829, ambientCelsius: 18 }));
    expect(codes(judge(MAP, null, -2.9 * 6.894757, high))[0]).toBe('gauge-zeroed');
  });
  test('a figure in another unit is recognised', () => {
    expect(codes(judge(MAP, null, 14))).toContain('other-unit');
    expect(
      judge(MAP, null, 28.5)
        .causes.map((cause) => cause.sentence)
        .join(),
    ).toMatch(/inHg/);
    expect(codes(judge(MAP, null, -4.6))).not.toContain('other-unit');
  });
  test('what nothing explains is said to be unexplained, with the next place to measure', () => {
    const judged = judge(MAP, 3, null);
    expect(judged.verdict).toBe('unexplained');
    expect(judged.advice).toMatch(/measure once more/);
    expect(judge(MAP, 1.6, 200).advice).toMatch(/hold the ECU's own table/);
  });
});

describe('judging a thermistor', () => {
  test('open, short and no pull-up, each with the reading that tells them apart', () => {
    expect(codes(judge(CLT, 5, null))[0]).toBe('open');
    const low = judge(CLT, 0, null);
    expect(codes(low)).toEqual(expect.arrayContaining(['short-low', 'no-pull-up']));
    expect(low.causes.find((cause) => cause.code === 'no-pull-up')!.check).toMatch(/still 0 V/);
  });
  test('a second pull-up lifts the pin', () => {
    const at = sensorIn(demo, CLT);
    const signal = 2720;
    expect(codes(judge(CLT, (5 * signal) / (signal + at.pullUpOhms! / 2), null))).toContain('second-pull-up');
  });
  test('on a pin without pull-up nothing can be read', () => {
    const build: Build = { ...demo, assignments: { ...demo.assignments, [CLT]: 'B11' } };
    expect(judge(CLT, 0.2, null, build)).toMatchObject({ verdict: 'wrong', causes: [{ code: 'no-pull-up' }] });
  });
  test('another table in the ECU is named', () => {
    const setting = kind('clt-ntc-10k').traits.find((one) => one.type === 'sensor')!;
    const at = sensorIn(demo, CLT);
    const shown = valueAtPin({ sensor: setting, pullUpOhms: 2490 }, expectation(demo.site, at)!.atPin!)!;
    expect(judge(CLT, 2.61, shown).causes[0].sentence).toMatch(/NTC of 10 kΩ/);
    const wrong = edited(demo, call('setEcuCurve', { sensorId: CLT, setting: { name: '10 k', curve: setting.curve } }));
    expect(settingError(wrong.site, sensorIn(wrong, CLT), setting.curve).atRest).toBeCloseTo(shown - 18, 4);
  });
});

describe('what depends on the person', () => {
  test('is turned into a value, or lies in a fault band', () => {
    expect(judge('flex-fuel-1.3', 92, null)).toMatchObject({ verdict: 'not-known' });
    expect(judge('flex-fuel-1.3', 92, null).sentence).toMatch(/92 Hz is 42\.0 %/);
    expect(judge('flex-fuel-1.3', 0, null)).toMatchObject({ verdict: 'wrong', causes: [{ code: 'open' }] });
    expect(judge('pedal-1.3', 4.9, null).sentence).toMatch(/fault band above 4\.75 V/);
    expect(judge('pedal-1.3', null, 3).verdict).toBe('not-known');
  });
});

test('a pressure nobody has said to be absolute or gauge has nothing to expect', () => {
  const part = kind('fuel-pressure');
  const bare = { ...part, id: 'bare', traits: part.traits.filter((one) => one.type !== 'pressure') };
  const build = edited(emptyBuild(4), call('addDevice', { kind: bare }), call('allotAll', { keep: 'locked' }));
  expect(expectation(build.site, sensorIn(build, 'bare-1.3'))).toBeNull();
  expect(judge('bare-1.3', 2.5, null, build)).toMatchObject({ verdict: 'not-known' });
});

test('a level sender is not said to have a second pull-up: its value depends on the tank', () => {
  const build = edited(
    emptyBuild(4),
    call('addDevice', { kind: kind('fuel-level') }),
    call('allotAll', { keep: 'locked' }),
  );
  expect(codes(judge('fuel-level-1.1', 0.001, null, build))).not.toContain('second-pull-up');
});

test('sentences speak the units of the build', () => {
  const psi = edited(demo, call('setUnits', { pressure: 'psi' }));
  expect(judge(MAP, null, 97, psi).sentence).toMatch(/14\.1 psi shown is right: 14\.0 psi expected/);
});

test('a thermocouple on a large ECU reads its cold junction', () => {
  const build = edited(
    emptyBuild(4, 'orrery-94'),
    call('addDevice', { kind: kind('egt-k') }),
    call('allotAll', { keep: 'locked' }),
  );
  const at = sensorIn(build, 'egt-k-1.+');
  expect(at.pin?.abilities[0].kind).toBe('thermocouple');
  expect(expectation(build.site, at)!.atPin).toBeCloseTo(0.798, 3);
  expect(chartPoints(at, 12)).toHaveLength(12);
});

import { readFileSync } from 'node:fs';
import { expect, test } from '@jest/globals';
import { migrations } from '~/core/build/migrations';
import { parseBuild } from '~/core/build/parse';
import { BUILD_SCHEMA_VERSION } from '~/core/build/schema';
import { sensorsIn, trait } from '~/core/devices/kind';
import { netlist } from '~/core/netlist/netlist';
import { findingsOf } from '~/core/rules';
import { expectation } from '~/core/sensing/judge';
import { sensorsOf } from '~/core/sensing/sensor';

const fixture = (version: number) => readFileSync(`tests/core/build/fixtures/v${version}.json`, 'utf8');

test.each(migrations.map((step) => [step.from, step.name] as const))(
  'a file of version %i (%s) comes up to today',
  (version) => {
    const parsed = parseBuild(fixture(version));
    if (!parsed.ok) throw new Error(parsed.problem.sentence);
    expect(parsed.value.schemaVersion).toBe(BUILD_SCHEMA_VERSION);
    expect(findingsOf(parsed.value).length).toBeGreaterThan(0);
    expect(parseBuild(JSON.stringify(parsed.value))).toEqual(parsed);
  },
);

test('version 1: sensors, injectors and coils keep what they were', () => {
  const parsed = parseBuild(fixture(1));
  if (!parsed.ok) throw new Error(parsed.problem.sentence);
  const build = parsed.value;
  expect(trait(build.kinds['injector-high'], 'injector')).toMatchObject({
    ohms: 12.5,
    atKpa: 300,
    dead: [{ volts: 13.5, milliseconds: 0.95 }],
  });
  expect(trait(build.kinds['coil-igniter'], 'coil')!.dwell).toEqual([{ volts: 13.5, milliseconds: 3 }]);
  expect(sensorsIn(build.kinds['map-1bar'])).toMatchObject([{ terminal: '3', least: 10, most: 110 }]);
  const sensors = sensorsOf(build, netlist(build));
  const volts = (id: string) =>
    expectation(
      build.site,
      sensors.find((one) => one.id === id)!,
    )!.atPin;
  // The old figures: 2500 ohms at 20 °C under 2490, and the barometer on a 10 to 110 kPa sensor.
  expect(volts('clt-ntc-1.1')).toBeCloseTo((5 * 2500) / 4990, 6);
  expect(volts('map-1bar-1.3')).toBeCloseTo(0.5 + (4 * (101.325 - 10)) / 100, 6);
  expect(build.revisions[0].plan.fuel).toEqual(build.fuel);
  expect(build.revisions[0].plan.devices.every((device) => device.pullUpOhms === null)).toBe(true);
});

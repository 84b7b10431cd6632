import { readFileSync } from 'node:fs';
import { expect, test } from '@jest/globals';
import { migrations } from '~/core/build/migrations';
import { parseBuild } from '~/core/build/parse';
import { BUILD_SCHEMA_VERSION } from '~/core/build/schema';
import { sensorsIn, trait } from '~/core/devices/kind';
import { needsOf } from '~/core/netlist/needs';
import { netlist } from '~/core/netlist/netlist';
import { checkFacts, stands } from '~/core/prove/evidence';
import { proveTests } from '~/core/prove/tests';
import { judge } from '~/core/prove/verdict';
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

test('version 5: what is on CAN is on a bus of its own, as it had a pair of its own', () => {
  const parsed = parseBuild(fixture(4));
  if (!parsed.ok) throw new Error(parsed.problem.sentence);
  expect(parsed.value.buses).toEqual([{ id: 'can-1', name: 'CAN 1', kilobits: 500, members: ['can-dash-1'] }]);
  const placed = needsOf(parsed.value).filter(({ ask }) => ask.kind === 'can');
  expect(placed.map(({ id }) => parsed.value.assignments[id])).toEqual(['A25', 'A26']);
});

test('version 5: a coil of two towers gets the cylinder that fires with its own, and what was proved stands', () => {
  const parsed = parseBuild(fixture(5));
  if (!parsed.ok) throw new Error(parsed.problem.sentence);
  const build = parsed.value;
  expect(build.engine).toMatchObject({ plugs: 1, trailingDegrees: 0, injectors: 1 });
  const serves = (id: string) => build.devices.find((device) => device.id === id)!.serves;
  // 1-2-3-4-5-6 every 120 degrees: 1 and 4, 2 and 5, 3 and 6 are 360 apart.
  expect([1, 2, 3].map((n) => serves(`coil-wasted-igniter-${n}`))).toEqual([
    [1, 4],
    [2, 5],
    [3, 6],
  ]);
  expect(serves('injector-high-6')).toEqual([6]);
  expect(serves('crank-vr-1')).toEqual([]);
  expect(build.revisions[0].plan.devices).toEqual(build.devices);
  const net = netlist(build);
  const order = proveTests(build, net).find(({ id }) => id === 'o|ecu:A11|dev:coil-wasted-igniter-1.1')!;
  expect(judge(order, build.prove.readings[order.id].value, 0).right).toBe(true);
  const { on } = build.fireup.outputs['output-A11'];
  expect(stands(on, checkFacts(build, 'outputs', 'output-A11'))).toBe(true);
});

test('version 7: bodies have no wire, nothing is said of banks and grounds, and every proof stands', () => {
  const parsed = parseBuild(fixture(6));
  if (!parsed.ok) throw new Error(parsed.problem.sentence);
  const build = parsed.value;
  expect([build.groundUse, build.engine.banks, build.power.charging, build.trigger.offsetWay.range]).toEqual([
    {},
    [],
    'alternator',
    'up',
  ]);
  expect(build.devices.every(({ bank }) => bank === null)).toBe(true);
  expect(build.revisions[0].plan.groundUse).toEqual({});
  const bodies = Object.values(build.kinds).flatMap(({ terminals }) => terminals.filter(({ name }) => name === 'body'));
  expect(bodies.every(({ destination }) => destination.to === 'mounted')).toBe(true);
  // Every wire that was measured is still there, but those that went to a body.
  const before = JSON.parse(fixture(6)) as { prove: { readings: object } };
  expect(Object.keys(build.prove.readings)).toEqual(Object.keys(before.prove.readings));
  const ids = new Set(proveTests(build, netlist(build)).map(({ id }) => id));
  expect(Object.keys(build.prove.readings).filter((id) => !ids.has(id))).toEqual([]);
});

test('version 8: each part has an output of its own, sizes are metric, and every proof stands', () => {
  const parsed = parseBuild(fixture(7));
  if (!parsed.ok) throw new Error(parsed.problem.sentence);
  const build = parsed.value;
  expect([build.joined, build.speed, build.loom.series, build.units.workshop]).toEqual([{}, null, 'metric', 'metric']);
  expect(build.units).toMatchObject({ pressure: 'psi', temperature: 'F', mixture: 'AFR' });
  expect(build.revisions[0].plan).toMatchObject({ joined: {}, speed: null, loom: { series: 'metric' } });
  expect(build.engine.banks).toEqual([
    [1, 3, 5],
    [2, 4, 6],
  ]);
  const tests = new Map(proveTests(build, netlist(build)).map((one) => [one.id, one]));
  for (const [id, { value }] of Object.entries(build.prove.readings))
    expect(judge(tests.get(id)!, value, 0).right).toBe(true);
});

test('version 9: the plan of feeds is part of the document, and a loom built before it stays as it was wired', () => {
  const parsed = parseBuild(fixture(8));
  if (!parsed.ok) throw new Error(parsed.problem.sentence);
  const build = parsed.value;
  expect(build.feeds).toEqual({ parts: {}, changes: {}, links: {}, boxes: {}, source: null });
  expect(build.revisions[0].plan.feeds).toEqual(build.feeds);
  expect(build.power.circuits).toMatchObject({
    injectors: { fuseAmps: 10, feed: 'shared' },
    pump: { relay: 'diode', lengthMetres: 3 },
    windings: { feed: 'shared' },
  });
  const net = netlist(build);
  const wired = (one: string, other: string) => net.wires.some(({ id }) => id === `${one}~${other}`);
  // The injectors behind the main relay, windings straight on it, the ECU's own relays on the battery, as Gonyx had them.
  expect(wired('fuse:injectors.1', 'splice:main')).toBe(true);
  expect(wired('relay:pump.86', 'splice:main')).toBe(true);
  expect(wired('bat:+', 'relay:main.86')).toBe(true);
  expect(net.parts.some(({ id }) => id === 'relay:injectors' || id === 'fuse:windings')).toBe(false);
  expect(net.circuits.find(({ id }) => id === 'injectors')).toMatchObject({ fuseAmps: 10, upstream: 'main' });
  const tests = new Map(proveTests(build, net).map((one) => [one.id, one]));
  for (const [id, { value }] of Object.entries(build.prove.readings))
    expect(judge(tests.get(id)!, value, 0).right).toBe(true);
});

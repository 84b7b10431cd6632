import { expect, test } from '@jest/globals';
import { leadsBus, membersOf } from '~/core/netlist/bus';
import { groundPins } from '~/core/netlist/ground-pins';
import { needsOf } from '~/core/netlist/needs';
import { netlist } from '~/core/netlist/netlist';
import { proveTests } from '~/core/prove/tests';
import { judge } from '~/core/prove/verdict';
import { findingsOf } from '~/core/rules';
import { gatesOf } from '~/core/fireup/gates';
import { progressOf } from '~/core/prove/verdict';
import { launch } from '~/demo/launch';
import { pellworth } from '~/demo/pellworth';
import { twin } from '~/demo/twin';
import { edited } from '../helpers';
import { call } from '~/core/edits';

const build = launch();
const net = netlist(build);

test('every need has a pin, and nothing says stop', () => {
  expect(needsOf(build).filter(({ id }) => build.assignments[id] === undefined)).toEqual([]);
  expect(findingsOf(build).filter(({ severity }) => severity === 'stop')).toEqual([]);
});
test('nothing comes from the wheels or the pinouts of the other demos', () => {
  for (const other of [pellworth(), twin()]) {
    expect(other.ecu.id).not.toBe(build.ecu.id);
    expect(other.trigger.crankWheel?.id).not.toBe(build.trigger.crankWheel?.id);
    expect(other.ecu.pins.some(({ label }) => build.ecu.pins.some((pin) => pin.label === label))).toBe(false);
  }
});
test('three double coils behind a module, dash and wideband on one pair, three grounds for the ECU and two for the sensors', () => {
  expect(
    needsOf(build)
      .filter(({ ask }) => ask.kind === 'ignition-logic')
      .map(({ serves, outputs }) => [serves, outputs]),
  ).toEqual([
    [[1, 4], [1]],
    [[2, 5], [2]],
    [[3, 6], [3]],
  ]);
  const [bus] = build.buses;
  expect(membersOf(build, bus).map(({ device }) => device.label)).toEqual(['Wideband', 'Helm dash']);
  expect(bus.members.filter((id) => leadsBus(build, id))).toHaveLength(1);
  const { power, sensor } = groundPins(build);
  expect([power.length, sensor.length]).toEqual([3, 2]);
});
test('a module channel on the wrong output is told by the rule and by the order test, and either coil end answers', () => {
  const crossed = edited(
    build,
    call('assign', { needId: 'igniter-3-1.I1', pinId: build.assignments['igniter-3-1.I2'] }),
  );
  const [told, ...more] = findingsOf(crossed).filter(({ rule }) => rule === 'OE-1');
  expect(told.detail).toContain('output 2 is wired to cylinders 1 and 4, meant for cylinders 2 and 5');
  expect(more).toEqual([]);
  const order = proveTests(build, net).find(({ id }) => id.startsWith('o|') && id.endsWith('igniter-3-1.I1'))!;
  expect([1, 4, 2].map((cylinder) => judge(order, cylinder, 0).right)).toEqual([true, true, false]);
});
test('its gates ask for the interlock, the kill cord, and the manifold sensor within the ECU', () => {
  const gates = gatesOf(build, net, progressOf(build, net, proveTests(build, net)), findingsOf(build));
  const ids = gates.flatMap(({ checks }) => checks.map(({ id }) => id));
  expect(ids).toEqual(
    expect.arrayContaining(['halt-neutral-switch-1.1', 'halt-kill-switch-1.1', 'inside-manifold', 'inside-barometer']),
  );
});

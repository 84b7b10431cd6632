import { expect, test } from '@jest/globals';
import { allot } from '~/core/allot/allot';
import type { Build } from '~/core/build/schema';
import { call } from '~/core/edits';
import { pinIdOf, type Ability, type Pin } from '~/core/ecu/ecu';
import { ecuEnd } from '~/core/ends/ends';
import { groundPins } from '~/core/netlist/ground-pins';
import { needsOf } from '~/core/netlist/needs';
import { netlist } from '~/core/netlist/netlist';
import { findingsOf } from '~/core/rules';
import { ecu, edited, emptyBuild, kind } from '../../helpers';
import { generator } from '../../allotment/random-model';

/*
 * Trigger inputs of one pin and of two, buses of two rates, equal grounds, pins that are barred: what is served is counted
 * by hand, for sensors of one kind are alike and take whatever is left.
 */
interface Case {
  readonly build: Build;
  readonly sensors: number;
  readonly inputs: number;
  readonly buses: number;
  readonly pairs: number;
}

function made(seed: number): Case {
  const random = generator(seed);
  const upTo = (most: number) => Math.floor(random() * (most + 1));
  const specs: { abilities: Ability[]; unit: string }[] = [];
  const [vrPairs, singles, canPairs, grounds] = [upTo(2), upTo(2), upTo(2), 1 + upTo(4)];
  for (let n = 1; n <= vrPairs; n += 1)
    for (const side of ['plus', 'minus'] as const)
      specs.push({ abilities: [{ kind: 'vr', pair: `vr-${n}`, side }], unit: `vr-${n}` });
  for (let n = 1; n <= singles; n += 1) specs.push({ abilities: [{ kind: 'vr' }], unit: `single-${n}` });
  for (let n = 1; n <= canPairs; n += 1)
    for (const side of ['plus', 'minus'] as const)
      specs.push({ abilities: [{ kind: 'can', pair: `can-${n}`, side }], unit: `can-${n}` });
  for (let n = 1; n <= grounds; n += 1)
    specs.push({ abilities: [{ kind: 'power-ground' }, { kind: 'sensor-ground' }], unit: 'ground' });
  const pins: Pin[] = specs.map(({ abilities }, at) => ({
    id: pinIdOf('J1', at + 1),
    connector: 'J1',
    cavity: at + 1,
    label: `Cavity ${at + 1}`,
    abilities,
  }));
  const base = ecu('orrery-48');
  const never = pins.flatMap(({ id }, at) =>
    specs[at].unit !== 'ground' && random() < 0.15 ? [{ needId: null, pinId: id }] : [],
  );
  const barred = new Set(never.map(({ pinId }) => specs[pins.findIndex(({ id }) => id === pinId)].unit));
  const units = (name: string) => new Set(specs.flatMap(({ unit }) => (unit.startsWith(name) ? [unit] : [])));
  const free = (name: string) => [...units(name)].filter((unit) => !barred.has(unit)).length;
  const [sensors, slow, fast] = [upTo(4), upTo(3), upTo(2)];
  const add = (id: string, count: number) => Array.from({ length: count }, () => call('addDevice', { kind: kind(id) }));
  const build = edited(
    {
      ...emptyBuild(4),
      ecu: {
        ...base,
        connectors: [{ id: 'J1', rows: [pins.length], maxSquareMm: 2.5, sealed: false }],
        pins,
        groups: [],
        groundsAsked: 1 + upTo(2),
      },
      never,
    },
    ...add('crank-vr', sensors),
    ...add('can-logger', slow),
    ...add('can-dash-fast', fast),
  );
  return {
    build,
    sensors,
    inputs: free('vr') + free('single'),
    buses: Number(slow > 0) + Number(fast > 0),
    pairs: free('can'),
  };
}

test('150 small ECUs: as many sensors and buses served as there is room for, every return on a ground, no cavity twice', () => {
  for (let seed = 1; seed <= 150; seed += 1) {
    const { build, sensors, inputs, buses, pairs } = made(seed * 7919);
    const { assignments } = allot(build, { keep: 'locked', explain: false });
    const placed = {
      ...build,
      assignments: Object.fromEntries(assignments.map(({ needId, pinId }) => [needId, pinId])),
    };
    const needs = needsOf(placed);
    const whole = (id: string) =>
      needs.some(({ deviceId }) => deviceId === id) &&
      needs.every((need) => need.deviceId !== id || placed.assignments[need.id] !== undefined);
    const served = (kindId: string) => placed.devices.filter((one) => one.kindId === kindId && whole(one.id)).length;
    expect([seed, served('crank-vr')]).toEqual([seed, Math.min(sensors, inputs)]);
    expect([seed, served('can-logger') + served('can-dash-fast')]).toEqual([seed, Math.min(buses, pairs)]);
    expect(new Set(Object.values(placed.assignments)).size).toBe(assignments.length);
    const net = netlist(placed);
    const sensorPins = groundPins(placed).sensor.map(({ id }) => ecuEnd(id));
    for (const { device } of net.devices) {
      const signal = placed.assignments[`${device.id}.1`];
      const single = placed.ecu.pins.find(({ id }) => id === signal)?.abilities[0].pair === undefined;
      if (device.kindId !== 'crank-vr' || signal === undefined || !single) continue;
      const returns = net.nodes.find(({ ends }) => ends.some((end) => end.endsWith(`${device.id}.2`)))!;
      expect(returns.ends.some((end) => sensorPins.includes(end))).toBe(true);
    }
    // Each cavity has one wire.
    for (const { pin } of net.cavities) expect((net.wiresAt.get(ecuEnd(pin.id)) ?? []).length).toBeLessThanOrEqual(1);
    expect(findingsOf(placed).filter(({ rule }) => rule === 'PL-2' || rule === 'PL-3' || rule === 'PL-4')).toEqual([]);
  }
});

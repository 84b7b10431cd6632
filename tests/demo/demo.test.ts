import { endNamed } from '../ends';
import { describe, expect, test } from '@jest/globals';
import { parseBuildData } from '~/core/build/parse';
import { hasRole, trait } from '~/core/devices/kind';
import { pinsOfKind } from '~/core/ecu/ecu';
import { netlist } from '~/core/netlist/netlist';
import { countFindings, findingsOf } from '~/core/rules';
import { fitTrigger } from '~/core/trigger/fit';
import { demoBuilds } from '~/demo';
import { pellworth } from '~/demo/pellworth';
import { twinBuild } from '../helpers';

describe('the hill-climb estate', () => {
  const build = pellworth();
  const net = netlist(build);
  test('is a five-cylinder turbo firing 1-2-4-5-3 on the 48-cavity ECU, nearly full', () => {
    expect(build.engine).toMatchObject({ cylinders: 5, firingOrder: [1, 2, 4, 5, 3], aspiration: 'boosted' });
    expect(build.ecu.pins).toHaveLength(48);
    const used = net.cavities.filter(({ pin }) => net.wiresAt.has(endNamed(`ecu:${pin.id}`))).length;
    expect(used).toBe(47);
    // 38 device needs, 5 feeds and grounds of the ECU itself, 4 shared supplies and sensor grounds.
    expect(net.needs.length + pinsOfKind(build.ecu, 'power-ground').length + 2).toBe(43);
  });
  test('has what the list of parts names', () => {
    const has = (found: boolean) => expect(found).toBe(true);
    const kinds = net.devices.map(({ kind }) => kind);
    has(kinds.some((kind) => trait(kind, 'trigger')?.sensor === 'vr' && trait(kind, 'trigger')?.shaft === 'crank'));
    has(kinds.some((kind) => trait(kind, 'trigger')?.sensor === 'hall' && trait(kind, 'trigger')?.shaft === 'cam'));
    expect(kinds.filter((kind) => trait(kind, 'coil')?.igniter)).toHaveLength(5);
    expect(kinds.filter((kind) => (trait(kind, 'injector')?.ohms ?? 0) >= 10)).toHaveLength(5);
    expect(kinds.filter((kind) => hasRole(kind, 'fan'))).toHaveLength(2);
    for (const role of [
      'pedal',
      'throttle',
      'pump',
      'knock',
      'speed',
      'starter',
      'start-button',
      'clutch-switch',
    ] as const)
      has(kinds.some((kind) => hasRole(kind, role)));
    for (const id of [
      'map-3bar',
      'boost-solenoid',
      'flex-fuel',
      'fuel-pressure',
      'oil-pressure',
      'wideband-volts',
      'can-dash',
      'launch-button',
    ])
      has(kinds.some((kind) => kind.id === id));
    expect(build.power.starting).toBe('button');
    expect(fitTrigger(build.ecu, build.engine, build.trigger.crankWheel, build.trigger.camWheel).knows).toBe('cycle');
  });
  test('is made the same each time', () => {
    expect(pellworth()).toEqual(build);
  });
});

describe('the works locomotive', () => {
  const build = twinBuild();
  test('is a 270-degree twin with 24-1 and no cam on the 26-cavity ECU', () => {
    expect(build.engine.firingAngles).toEqual([0, 270]);
    expect(build.trigger.crankWheel!.id).toBe('24-1');
    expect(build.trigger.camWheel).toBeNull();
    expect(build.ecu.pins).toHaveLength(26);
    expect(fitTrigger(build.ecu, build.engine, build.trigger.crankWheel, null).knows).toBe('angle');
  });
});

test.each(demoBuilds().map((build) => [build.name, build] as const))(
  '%s: reads back whole, every need placed, nothing says stop',
  (_, build) => {
    expect(parseBuildData(JSON.parse(JSON.stringify(build))).ok).toBe(true);
    const net = netlist(build);
    expect(net.needs.filter((need) => build.assignments[need.id] === undefined)).toEqual([]);
    expect(countFindings(findingsOf(build, net)).stop).toBe(0);
  },
);

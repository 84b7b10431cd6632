import { describe, expect, test } from '@jest/globals';
import { faultId, type Fault } from '~/core/circuit/faults';
import { call } from '~/core/edits';
import { netlist } from '~/core/netlist/netlist';
import { coneOf, hypothesesFor } from '~/core/trace/hypotheses';
import { symptomsOf } from '~/core/trace/symptoms';
import { testsFor } from '~/core/trace/tests';
import { demoBuild, edited, twinBuild } from '../../helpers';

const build = demoBuild();
const net = netlist(build);
const look = (id: string, one = build) => {
  const list = netlist(one);
  const symptom = symptomsOf(list).find((candidate) => candidate.id === id)!;
  const cone = coneOf(one, list, symptom);
  return { cone, faults: hypothesesFor(one, list, symptom, cone), tests: testsFor(one, list, symptom, cone) };
};
const types = (faults: { fault: Fault }[]) => new Set(faults.map(({ fault }) => fault.type));

describe('what a symptom hangs on', () => {
  test('a fan: battery, fuse, relay with its winding, driver pin, ground, and no other fan’s fuse', () => {
    const { cone } = look('dead:fan-1');
    expect(cone.ends).toEqual(
      expect.arrayContaining([
        'bat:+',
        'fuse:fan-1.1',
        'relay:fan-1.87',
        'relay:fan-1.86',
        'relay:fan-1.85',
        'ecu:A7',
        'dev:fan-1.1',
        'gnd:chassis',
      ]),
    );
    expect(cone.parts).toEqual(expect.arrayContaining(['fuse:fan-1', 'relay:fan-1']));
    expect(cone.parts).not.toContain('fuse:fan-2');
  });
  test('a fan through its relay winding also hangs on the main feed', () => {
    expect(look('dead:fan-1').cone.wires.some((wire) => wire.id === 'relay:fan-1.86~splice:windings')).toBe(true);
  });
  test('a sleeping ECU: its feeds and its grounds', () => {
    const { cone } = look('ecu-dead');
    for (const end of ['ecu:A10', 'ecu:A24', 'ecu:A21', 'fuse:permanent.2', 'relay:main.87'])
      expect(cone.ends).toContain(end);
  });
  test('no sync: both trigger sensors', () => {
    const { cone, faults } = look('no-sync');
    for (const end of ['ecu:B1', 'ecu:B2', 'ecu:B3', 'dev:cam-hall-1.3']) expect(cone.ends).toContain(end);
    expect(
      faults
        .filter(({ fault }) => fault.type === 'setting')
        .map(({ id }) => id)
        .sort(),
    ).toEqual(['setting:leads-swapped', 'setting:wrong-edge', 'setting:wrong-wheel']);
  });
  test('a Hall crank sensor has no leads to swap', () => {
    expect(look('no-sync', twinBuild()).faults.map(({ id }) => id)).not.toContain('setting:leads-swapped');
  });
});

describe('faults considered', () => {
  test('hold every kind the sheet promises', () => {
    expect([...types(look('dead:fan-1').faults)].sort()).toEqual(
      [
        'blown-fuse',
        'crossed',
        'device-open',
        'device-shorted',
        'not-driven',
        'open',
        'poor-joint',
        'relay-stuck-open',
        'relay-winding-open',
        'resistive',
        'short-to-ground',
      ].filter((type) => type !== 'crossed'),
    );
    expect(types(look('dead:coil-igniter-2').faults)).toContain('crossed');
    expect(types(look('wrong:clt-ntc-1').faults)).toContain('no-pull-up');
  });
  test('have an id of their own, a place where there is one, and a weight', () => {
    for (const { id } of symptomsOf(net)) {
      const { faults } = look(id);
      expect(new Set(faults.map((one) => one.id)).size).toBe(faults.length);
      for (const one of faults) {
        expect(one.id).toBe(faultId(one.fault));
        expect(one.prior).toBeGreaterThan(0);
        expect(one.title.length).toBeGreaterThan(8);
        if (one.fault.type !== 'setting') expect(one.where).not.toBeNull();
      }
    }
  });
  test('fuses and grounds come before wires (common practice)', () => {
    const { faults } = look('dead:fan-1');
    const prior = (type: Fault['type']) =>
      Math.max(...faults.filter(({ fault }) => fault.type === type).map((one) => one.prior));
    expect(prior('blown-fuse')).toBeGreaterThan(prior('resistive'));
    const ground = faults.find(({ id }) => id === 'open:dev:fan-1.2~gnd:chassis')!;
    const feed = faults.find(({ id }) => id === 'open:dev:fan-1.1~relay:fan-1.87')!;
    expect(ground.prior).toBeGreaterThan(feed.prior);
  });
  test('labelled twins are crossed less often', () => {
    const bare = edited(
      build,
      ...build.devices
        .filter((device) => device.kindId === 'coil-igniter')
        .map((device) => call('editDevice', { deviceId: device.id, labelled: false })),
    );
    const weight = (one: typeof build) =>
      look('dead:coil-igniter-2', one).faults.find(({ fault }) => fault.type === 'crossed')!.prior;
    expect(weight(bare)).toBeGreaterThan(weight(build));
  });
});

describe('tests offered', () => {
  test('are each known once, say how, and cost time', () => {
    for (const { id } of symptomsOf(net)) {
      const { tests } = look(id);
      expect(new Set(tests.map((one) => one.id)).size).toBe(tests.length);
      for (const one of tests) {
        expect(one.how).toMatch(/\.$/);
        expect(one.minutes).toBeGreaterThan(0);
        expect(one.id.length).toBeLessThanOrEqual(200);
      }
    }
  });
  test('never probe a splice, nor battery negative against itself', () => {
    for (const { id } of symptomsOf(net))
      for (const one of look(id).tests) {
        expect(one.plus).not.toMatch(/^splice/);
        expect(one.plus === one.minus).toBe(false);
      }
  });
  test('volts where power flows, ohms with the battery off', () => {
    const { tests } = look('dead:fan-1');
    expect(tests.filter((one) => one.mode === 'volts').every((one) => one.state === 'outputs-on')).toBe(true);
    expect(
      tests
        .filter((one) => one.mode === 'ohms')
        .every((one) => one.state === 'unplugged' && /Battery off/.test(one.how)),
    ).toBe(true);
  });
});

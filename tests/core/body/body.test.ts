import { endNamed } from '../../ends';
import { labelOf } from '~/core/netlist/label';
import { describe, expect, test } from '@jest/globals';
import { bodyKind, bodySignals, isBodyPlug, unknownCavities } from '~/core/body/signals';
import { call } from '~/core/edits';
import { voltsBetween } from '~/core/circuit/reading';
import { solveCircuit } from '~/core/circuit/solve';
import { bodySignalIds, kindSchema, type BodySignalId } from '~/core/devices/kind';
import { netlist } from '~/core/netlist/netlist';
import { needsOf } from '~/core/netlist/needs';
import { runOf } from '~/core/netlist/run';
import { proveTests } from '~/core/prove/tests';
import { edited, emptyBuild, kind } from '../../helpers';

const plug = (...signals: BodySignalId[]) =>
  call('setBodyPlug', {
    deviceId: null,
    name: 'Bulkhead plug',
    cavities: signals.map((signal, index) => ({ cavity: String(index + 1), colour: '', signal, note: '' })),
    pulsesPerTurn: 2,
    drive: 'low-side',
  });

test('the list of signals is whole: each id once, with words', () => {
  expect(bodySignals.map((signal) => signal.id)).toEqual([...bodySignalIds]);
  for (const signal of bodySignals) expect(signal.note.length).toBeGreaterThan(10);
});

describe.each(bodySignals.map((signal) => [signal.id, signal] as const))('%s', (id, signal) => {
  const build = edited(emptyBuild(4), plug(id, 'ground'), call('allotAll', { keep: 'locked' }));
  test('makes a kind the schema takes, and its need where it has one', () => {
    const made = bodyKind('plug-x', 'Plug', [{ cavity: '1', colour: '', signal: id, note: '' }], {
      pulsesPerTurn: 2,
      drive: 'low-side',
    });
    expect(kindSchema.safeParse(made).error).toBeUndefined();
    expect(needsOf(build).some((need) => need.id === 'body-1.1')).toBe(signal.destination?.to === 'pin');
  });
  test('settles in the circuit in every state', () => {
    for (const state of ['key-off', 'key-on', 'cranking'] as const)
      expect(solveCircuit(build, netlist(build), state).settled).toBe(true);
  });
});

describe('a plug in the netlist', () => {
  const build = edited(
    emptyBuild(4),
    call('addDevice', { kind: kind('fuel-pump') }),
    call('addDevice', { kind: kind('oil-switch') }),
    call('addDevice', { kind: kind('starter') }),
    plug('key-feed', 'start-signal', 'oil-lamp', 'ground', 'unknown'),
    call('allotAll', { keep: 'locked' }),
  );
  const net = netlist(build);
  const key = (state: 'key-off' | 'key-on' | 'cranking', end: string) =>
    voltsBetween(solveCircuit(build, net, state), endNamed(end), endNamed('gnd:battery'))!;
  test('the key feed starts at its cavity, over a splice', () => {
    expect(net.wiresAt.get(endNamed('dev:body-1.1'))!.map((wire) => wire.id)).toEqual(['dev:body-1.1~splice:key-run']);
    expect(net.wiresAt.has(endNamed('key:15'))).toBe(false);
    expect(key('key-on', 'dev:body-1.1')).toBeGreaterThan(12);
    expect(key('key-off', 'dev:body-1.1')).toBeLessThan(0.5);
    expect(key('cranking', 'dev:body-1.2')).toBeGreaterThan(9);
    expect(key('key-on', 'dev:body-1.2')).toBeLessThan(0.5);
  });
  test('the oil lamp lights through the switch: its line lies near ground with the engine still', () => {
    expect(key('key-on', 'dev:oil-switch-1.1')).toBeLessThan(0.5);
    expect(runOf(net, { type: 'end', end: endNamed('dev:body-1.3') })!.hops.map((hop) => hop.end)).toContain(
      'dev:oil-switch-1.1',
    );
  });
  test('every wire of it is under test; the cavity nobody knows has none', () => {
    const covered = new Set(proveTests(build, net).flatMap((one) => one.wireIds));
    expect(net.wires.filter((wire) => wire.id.includes('body-1')).every((wire) => covered.has(wire.id))).toBe(true);
    expect(net.nodeOf.has(endNamed('dev:body-1.5'))).toBe(false);
    expect(unknownCavities(build.kinds['plug-body-1']).map((cavity) => cavity.cavity)).toEqual(['5']);
  });
  test('changing a cavity keeps the plug and its other wires', () => {
    const before = new Set(net.wires.map((wire) => wire.id));
    const cavities = ['key-feed', 'start-signal', 'oil-lamp', 'ground', 'clutch-switch'].map((signal, index) => ({
      cavity: String(index + 1),
      colour: '',
      signal: signal as BodySignalId,
      note: '',
    }));
    const next = edited(
      build,
      call('setBodyPlug', { deviceId: 'body-1', name: 'Dash plug', cavities, pulsesPerTurn: 2, drive: 'low-side' }),
      call('allotAll', { keep: 'placed' }),
    );
    const device = next.devices.find((one) => one.id === 'body-1')!;
    expect([device.label, isBodyPlug(device, next.kinds[device.kindId])]).toEqual(['Dash plug', true]);
    const fresh = netlist(next).wires.filter((wire) => !before.has(wire.id));
    expect(fresh.every((wire) => wire.id.includes('dev:body-1.5') || wire.id.includes('ecu:'))).toBe(true);
    expect(next.assignments['body-1.5']).toBeDefined();
  });
});

describe('lines', () => {
  test('three ends meet in a splice, one end has no wire', () => {
    const lamp = edited(emptyBuild(4), call('addDevice', { kind: kind('oil-switch') }));
    expect(netlist(lamp).nodeOf.has(endNamed('dev:oil-switch-1.1'))).toBe(false);
    const three = edited(lamp, call('addDevice', { kind: kind('oil-switch') }), plug('oil-lamp'));
    expect(netlist(three).nodeOf.get(endNamed('dev:body-1.1'))!.ends).toContain('splice:line-oil-lamp');
    expect(labelOf(netlist(three), endNamed('splice:line-oil-lamp'))).toBe('Splice oil lamp');
  });
  test('an igniter channel works the cylinder of the coil on its line', () => {
    const build = edited(
      emptyBuild(4),
      call('addDevice', { kind: kind('igniter-4') }),
      call('addDevice', { kind: kind('coil-bare'), perCylinder: true }),
      ...[1, 2, 3, 4].map((n) =>
        call('setDestination', {
          deviceId: `coil-bare-${n}`,
          terminalId: '1',
          destination: { to: 'line', line: `spark-${5 - n}` },
        }),
      ),
    );
    expect(
      needsOf(build)
        .filter((need) => need.deviceId === 'igniter-4-1')
        .map((need) => need.serves),
    ).toEqual([[4], [3], [2], [1]]);
    expect(netlist(build).wireById.has('dev:coil-bare-1.1~dev:igniter-4-1.O4')).toBe(true);
  });
});

test('the run of a fed device goes back through fuse and splice to the plug that brings the key', () => {
  const build = edited(emptyBuild(4), call('addDevice', { kind: kind('alternator') }), plug('key-feed', 'ground'));
  const net = netlist(build);
  expect(runOf(net, { type: 'end', end: endNamed('dev:alternator-1.L') })!.hops.map((hop) => hop.end)).toEqual([
    'dev:body-1.1',
    'splice:key-run',
    'fuse:key.1',
    'fuse:key.2',
    'res:alternator-1.1',
    'res:alternator-1.2',
    'dev:alternator-1.L',
  ]);
  expect(runOf(net, { type: 'end', end: endNamed('dev:body-1.1') })!.wires).toHaveLength(2);
});

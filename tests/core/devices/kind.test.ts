import { describe, expect, test } from '@jest/globals';
import { call } from '~/core/edits';
import { hasRole, kindSchema, trait } from '~/core/devices/kind';
import { destinationOf } from '~/core/build/destination';
import { needsOf } from '~/core/netlist/needs';
import { netlist } from '~/core/netlist/netlist';
import { demoBuild, edited, emptyBuild, kind } from '../../helpers';

describe('a kind', () => {
  test.each([
    ['two terminals of one name', { terminals: [kind('fan').terminals[0], kind('fan').terminals[0]] }, /same name/],
    [
      'an inside that hangs on nothing',
      { internals: [{ type: 'resistor', from: '1', to: '9', ohms: 5 }] },
      /terminal 9 does not exist/,
    ],
    [
      'a resistor of zero ohms',
      { internals: [{ type: 'resistor', from: '1', to: '2', ohms: 0 }] },
      />0|positive|small/i,
    ],
  ])('with %s is refused', (_, part, message) => {
    const result = kindSchema.safeParse({ ...kind('fan'), ...part });
    expect(result.success).toBe(false);
    expect(result.error!.issues[0].message).toMatch(message);
  });
  test('tells its traits', () => {
    expect(trait(kind('coil-igniter'), 'coil')!.igniter).toBe(true);
    expect(trait(kind('fan'), 'coil')).toBeNull();
    expect(hasRole(kind('fan'), 'fan')).toBe(true);
    expect(hasRole(kind('fan'), 'pump')).toBe(false);
  });
});

describe('an override', () => {
  const build = edited(
    demoBuild(),
    call('setDestination', { deviceId: 'clt-ntc-1', terminalId: '2', destination: { to: 'ground', place: 'head' } }),
  );
  test('moves the terminal’s wire and nothing else', () => {
    const [before, after] = [demoBuild(), build].map((one) => new Set(netlist(one).wires.map((wire) => wire.id)));
    expect([...after].filter((id) => !before.has(id))).toEqual(['dev:clt-ntc-1.2~gnd:head']);
    expect([...before].filter((id) => !after.has(id))).toEqual(['dev:clt-ntc-1.2~splice:B5']);
  });
  test('is taken back by null', () => {
    const back = edited(build, call('setDestination', { deviceId: 'clt-ntc-1', terminalId: '2', destination: null }));
    expect(back).toEqual(demoBuild());
  });
  test('of a signal to nothing takes the need away with its pin', () => {
    const bare = edited(
      demoBuild(),
      call('setDestination', { deviceId: 'knock-1', terminalId: '1', destination: { to: 'nothing' } }),
    );
    expect(needsOf(bare).some((need) => need.deviceId === 'knock-1')).toBe(false);
    expect(bare.assignments['knock-1.1']).toBeUndefined();
    const device = bare.devices.find((one) => one.id === 'knock-1')!;
    expect(destinationOf(device, bare.kinds.knock.terminals[0])).toEqual({ to: 'nothing' });
  });
});

describe('needs', () => {
  test('carry label, system, pair and the output that belongs to the cylinder', () => {
    const needs = new Map(needsOf(demoBuild()).map((need) => [need.id, need]));
    expect(needs.get('coil-igniter-4.C')).toMatchObject({
      label: 'Coil 4',
      system: 'Ignition',
      serves: [4],
      outputs: [4],
      pair: null,
    });
    expect(needs.get('crank-vr-1.1')).toMatchObject({ label: 'Crank sensor signal +', pair: 'crank-vr-1.vr' });
    expect(needs.get('relay-pump.85')).toMatchObject({ label: 'Fuel pump relay', system: 'Fuel', deviceId: null });
    expect(needs.get('injector-high-1.2')!.ask.ohms).toBe(12.5);
    const other = edited(demoBuild(), call('setOutputOrder', { outputOrder: 'in-turn' }));
    expect(needsOf(other).find((need) => need.id === 'coil-igniter-4.C')!.outputs).toEqual([3]);
  });
  test('a reversed winding puts the driver on 86', () => {
    const build = edited(demoBuild(), call('setCircuit', { circuitId: 'pump', choice: { winding: 'reversed' } }));
    expect(needsOf(build).find((need) => need.id === 'relay-pump.85')!.end).toBe('relay:pump.86');
  });
  test('an engine with fewer cylinders drops what has no cylinder left only when removed', () => {
    const build = edited(emptyBuild(4), call('addDevice', { kind: kind('injector-high'), perCylinder: true }));
    const smaller = edited(
      build,
      call('setEngine', { engine: { ...build.engine, cylinders: 2, firingOrder: [1, 2] } }),
    );
    expect(smaller.devices).toHaveLength(4);
    expect(needsOf(smaller).find((need) => need.serves[0] === 3)!.outputs).toEqual([]);
  });
});

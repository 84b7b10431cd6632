import { describe, expect, test } from '@jest/globals';
import { call } from '~/core/build/edits';
import { ohmsBetween, solveCircuit } from '~/core/circuit/model';
import { colourCodes, isColour, splitColour } from '~/core/netlist/colours';
import { netlist } from '~/core/netlist/netlist';
import { fuseRatings } from '~/core/power/fuse';
import { RELAY_WINDING_OHMS } from '~/core/power/plan';
import { wireOhms } from '~/core/power/wire';
import { demoBuild, edited } from '../helpers';

const build = demoBuild();
const net = netlist(build);

describe('IEC 60757, letter codes of colours', () => {
  test('are used for every wire, base and stripe', () => {
    // IEC 60757:1983: BK BN RD OG YE GN BU VT GY WH PK GD TQ SR.
    const standard = new Set(['BK', 'BN', 'RD', 'OG', 'YE', 'GN', 'BU', 'VT', 'GY', 'WH', 'PK', 'GD', 'TQ', 'SR']);
    for (const code of colourCodes) expect(standard).toContain(code);
    for (const wire of net.wires) {
      const { base, stripe } = splitColour(wire.colour);
      expect(standard).toContain(base);
      if (stripe) expect(standard).toContain(stripe);
    }
    expect([isColour('WH/BU'), isColour('WHITE'), isColour('WH/BU/RD')]).toEqual([true, false, false]);
  });
});

describe('DIN 72552, terminals of relays', () => {
  const far = (end: string, one = net) => {
    const [wire] = one.wiresAt.get(end)!;
    return wire.from === end ? wire.to : wire.from;
  };
  test('30 comes from the fuse, 87 goes to the load, 86 to the supply, 85 to the driver', () => {
    expect(far('relay:fan-1.30')).toBe('fuse:fan-1.2');
    expect(far('relay:fan-1.87')).toBe('dev:fan-1.1');
    expect(far('relay:fan-1.86')).toBe('splice:main');
    expect(far('relay:fan-1.85')).toBe('ecu:A7');
  });
  test('the key’s run terminal is 15, its start terminal 50', () => {
    // The demo's key feed comes over its bulkhead plug; without the plug the switch itself is the source.
    expect(far('relay:main.86')).toBe('splice:key-run');
    const bare = edited(build, call('removeDevice', { deviceId: 'body-1' }));
    expect(far('relay:main.86', netlist(bare))).toBe('key:15');
    const byKey = netlist(edited(build, call('setPower', { starting: 'key' })));
    expect(far('relay:starter-1.86', byKey)).toBe('key:50');
  });
  test('a winding of 60 to 120 ohms draws 110 to 210 mA at 13 V (common practice)', () => {
    const milliamps = (13 / RELAY_WINDING_OHMS) * 1000;
    expect(milliamps).toBeGreaterThanOrEqual(110);
    expect(milliamps).toBeLessThanOrEqual(210);
    const dead = solveCircuit(build, net, 'unplugged');
    expect(ohmsBetween(dead, 'relay:fan-1.85', 'relay:fan-1.86')).toBeCloseTo(RELAY_WINDING_OHMS, 0);
  });
});

describe('ISO 11898-2, 120 ohm terminations', () => {
  test('one end alone shows 120 ohms, both ends 60', () => {
    const dead = solveCircuit(build, net, 'unplugged');
    expect(ohmsBetween(dead, 'ecu:A25', 'ecu:A26')).toBeCloseTo(120, 0);
    // The ECU's own termination stands across its pins: with it in the circuit the dead bus reads 60 ohms.
    const plugged = solveCircuit(build, net, 'key-off');
    expect(ohmsBetween(plugged, 'ecu:A25', 'ecu:A26')!).toBeGreaterThan(59);
    expect(ohmsBetween(plugged, 'ecu:A25', 'ecu:A26')!).toBeLessThan(60.5);
  });
});

describe('Ohm’s law over the drawn loom', () => {
  test('a bare wire reads its own resistance and two contacts', () => {
    const dead = solveCircuit(build, net, 'unplugged');
    for (const wire of net.wires.filter((one) => one.needId !== null))
      expect(ohmsBetween(dead, wire.from, wire.to)!).toBeLessThanOrEqual(wire.ohms + 0.0101);
    const one = net.wireById.get('dev:coil-igniter-3.C~ecu:A13')!;
    expect(one.ohms).toBeCloseTo(wireOhms(one.squareMm, one.lengthMetres), 12);
  });
});

test('ISO 8820-3 blade fuse ratings rise', () => {
  expect([...fuseRatings].sort((a, b) => a - b)).toEqual([...fuseRatings]);
});

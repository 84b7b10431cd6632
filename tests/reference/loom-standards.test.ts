import { endNamed } from '../ends';
import { describe, expect, test } from '@jest/globals';
import { call } from '~/core/edits';
import { ohmsBetween } from '~/core/circuit/reading';
import { solveCircuit } from '~/core/circuit/solve';
import { colourCodes, isColour, splitColour } from '~/core/wire/colours';
import { netlist } from '~/core/netlist/netlist';
import { fuseRatings } from '~/core/power/fuse';
import { RELAY_WINDING_OHMS } from '~/core/power/flow';
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
  const far = (text: string, one = net) => {
    const end = endNamed(text);
    const [wire] = one.wiresAt.get(end)!;
    return wire.from === end ? wire.to : wire.from;
  };
  test('30 comes from the fuse, 87 goes to the load, 86 to the supply, 85 to the driver', () => {
    expect(far('relay:fan-1.30')).toBe('fuse:fan-1.2');
    expect(far('relay:fan-1.87')).toBe('dev:fan-1.1');
    expect(far('relay:fan-1.86')).toBe('splice:windings');
    expect(far('relay:fan-1.85')).toBe('ecu:A7');
  });
  test('the key’s run terminal is 15, its start terminal 50', () => {
    // The demo's key feed comes over its bulkhead plug; without the plug the switch itself is the source.
    expect(far('fuse:wake.1')).toBe('splice:key-run');
    const bare = edited(build, call('removeDevice', { deviceId: 'body-1' }));
    expect(far('fuse:wake.1', netlist(bare))).toBe('key:15');
    const byKey = netlist(edited(build, call('setPower', { starting: 'key' })));
    expect(far('relay:starter-1.86', byKey)).toBe('key:50');
  });
  test('a winding of 60 to 120 ohms draws 110 to 210 mA at 13 V (common practice)', () => {
    const milliamps = (13 / RELAY_WINDING_OHMS) * 1000;
    expect(milliamps).toBeGreaterThanOrEqual(110);
    expect(milliamps).toBeLessThanOrEqual(210);
    const dead = solveCircuit(build, net, 'unplugged');
    expect(ohmsBetween(dead, endNamed('relay:fan-1.85'), endNamed('relay:fan-1.86'))).toBeCloseTo(
      RELAY_WINDING_OHMS,
      0,
    );
  });
});

describe('ISO 11898-2, 120 ohm terminations', () => {
  test('one end alone shows 120 ohms, both ends 60', () => {
    const dead = solveCircuit(build, net, 'unplugged');
    expect(ohmsBetween(dead, endNamed('ecu:A25'), endNamed('ecu:A26'))).toBeCloseTo(120, 0);
    // The ECU's own termination stands across its pins: with it in the circuit the dead bus reads 60 ohms.
    const plugged = solveCircuit(build, net, 'key-off');
    expect(ohmsBetween(plugged, endNamed('ecu:A25'), endNamed('ecu:A26'))!).toBeGreaterThan(59);
    expect(ohmsBetween(plugged, endNamed('ecu:A25'), endNamed('ecu:A26'))!).toBeLessThan(60.5);
  });
});

describe('Ohm’s law over the drawn loom', () => {
  test('a bare wire reads what IEC 60228 class 5 gives its size and length, and its contacts', () => {
    // IEC 60228, table 3 (flexible, class 5, plain copper), ohm/km at 20 °C; 0.35 mm² by ISO 6722-1, from memory.
    const table: Record<number, number> = { 0.35: 54.4, 0.5: 39, 0.75: 26, 1: 19.5, 1.5: 13.3, 2.5: 7.98, 4: 4.95 };
    const dead = solveCircuit(build, net, 'unplugged');
    let read = 0;
    for (const wire of net.wires.filter((one) => one.needId !== null && one.squareMm in table)) {
      const copper = (table[wire.squareMm] / 1000) * wire.lengthMetres;
      const seen = ohmsBetween(dead, wire.from, wire.to)!;
      // A crimped contact has a few milliohms (common practice); another path side by side may only lower it.
      expect(seen).toBeLessThanOrEqual(copper + 0.012);
      if (Math.abs(seen - copper) <= 0.012) read += 1;
    }
    expect(read).toBeGreaterThan(20);
  });
});

test('every fuse offered is a rating of ISO 8820-3, and the table holds those a loom needs', () => {
  // ISO 8820-3:2015, from memory: type C (blade) 1 to 40 A, type E (large blade) 20 to 100 A.
  const typeC = [1, 2, 3, 4, 5, 7.5, 10, 15, 20, 25, 30, 35, 40];
  const typeE = [20, 25, 30, 35, 40, 50, 60, 70, 80, 100];
  for (const rating of fuseRatings) expect([...typeC, ...typeE]).toContain(rating);
  for (const usual of [5, 7.5, 10, 15, 20, 25, 30, 40]) expect(fuseRatings).toContain(usual);
  expect([...fuseRatings].sort((a, b) => a - b)).toEqual([...fuseRatings]);
});

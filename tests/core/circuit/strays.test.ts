import { describe, expect, test } from '@jest/globals';
import { readVolts, readingWords } from '~/core/circuit/reading';
import { scenarioOf } from '~/core/circuit/scenario';
import { compile } from '~/core/circuit/compile';
import type { CircuitIR } from '~/core/circuit/ir';
import { solveCircuit, solveIn } from '~/core/circuit/solve';
import { ecuEnd, groundEnd } from '~/core/ends/ends';
import { netlist } from '~/core/netlist/netlist';
import { endNamed } from '../../ends';
import { demoBuild } from '../../helpers';

const build = demoBuild();
const net = netlist(build);
const minus = groundEnd('battery');

describe('how far a reading may be off', () => {
  test('a divider by hand: 12 V ± 0.3 behind 1 ohm ± 40 %, over 5 ohm ± 10 % and 6 ohm ± 20 %', () => {
    const names = [endNamed('dev:hand.1'), endNamed('dev:hand.2')];
    const ir: CircuitIR = {
      ...compile(build, net),
      nodes: { reference: minus, names, index: new Map(names.map((name, node) => [name, node])) },
      ends: Int32Array.of(0, -1, 0, 1, 1, -1),
      laws: [
        { is: 'battery', battery: 0, clampOhms: 0 },
        { is: 'ohms', ohms: 5, spread: 0.1 },
        { is: 'ohms', ohms: 6, spread: 0.2 },
      ],
      moving: new Int32Array(0),
      relays: [],
      fuses: [],
      diodes: [],
      filaments: [],
      coils: [],
      batteries: [],
      drivers: [],
      ecu: { ...compile(build, net).ecu, ground: -1, five: -1, feeds: [] },
    };
    const cell = { volts: 12, ohms: 1, takesOhms: 1, strays: 0.3, spread: 0.4 };
    const scenario = { ...scenarioOf(build, net, 'key-off'), source: cell, batteries: [cell] };
    const solution = solveIn(ir, scenario);
    // 1 A flows: 6 V. The battery's 0.3 V leave 0.3 x 6/12; of each ohm what the current through it leaves at the divider:
    // 1 x 0.4 x 6/12, 5 x 0.1 x 6/12 and 6 x 0.2 x 6/12.
    expect(solution.at(1)).toBeCloseTo(6, 6);
    expect(solution.strays(1, -1)).toBeCloseTo(Math.hypot(0.15, 0.2, 0.25, 0.6), 6);
  });
  test('a rested battery is known to 0.2 V or so, a rail of 5 V to 0.05', () => {
    const solution = solveCircuit(build, net, 'key-on');
    const rail = ecuEnd(build.ecu.pins.find(({ abilities }) => abilities[0].kind === 'supply-5v')!.id);
    const five = readVolts(solution, rail, minus)!;
    // 0.05 V of the regulator, 0.5 % and two digits of the meter: 0.067.
    expect(five.strays).toBeGreaterThan(0.05);
    expect(five.strays).toBeLessThan(0.09);
    const feed = readVolts(solution, ecuEnd('A10'), minus)!;
    // 0.15 V at rest, 0.1 of what it comes down by, 0.08 of the meter: 0.2.
    expect(feed.strays).toBeGreaterThan(0.15);
    expect(feed.strays).toBeLessThan(0.3);
    // Two ends of one wire: what is lost there is known better than the battery.
    const drop = readVolts(solution, ecuEnd('A10'), ecuEnd('A10'))!;
    expect(drop).toMatchObject({ volts: 0, settled: true });
    expect(drop.strays).toBeCloseTo(0.02, 6);
  });
  test('in words no finer than it is known', () => {
    expect(readingWords({ volts: 12.3456, strays: 0.21, settled: true })).toBe('12.3 ± 0.2 V');
    expect(readingWords({ volts: 4.987, strays: 0.067, settled: true })).toBe('4.99 ± 0.07 V');
    expect(readingWords({ volts: 0.0123, strays: 0.0204, settled: true })).toBe('12 ± 20 mV');
    expect(readingWords({ volts: 11.2, strays: 0.2, settled: false })).toBe('about 11.20 V, never at rest');
  });
  test('what a fault sets is as it is said: it adds no doubt of its own', () => {
    // 2.49 kohm pull the line up; 1000 ohm more in it are known, the sensor's some kohm to a twentieth.
    const clt = net.wires.find(({ needId }) => needId === 'clt-ntc-1.1')!;
    const at = (ohms: number) =>
      readVolts(
        solveCircuit(build, net, 'key-on', { type: 'resistive', wireId: clt.id, ohms }),
        ecuEnd(build.assignments['clt-ntc-1.1']),
        minus,
      )!;
    const [little, much] = [at(0.001), at(100_000)];
    expect(much.volts).toBeGreaterThan(4.8);
    // So far up the divider the sensor counts for nothing, and only the rail and the meter are left: 0.067 V.
    expect(much.strays).toBeLessThan(0.08);
    expect(little.strays).toBeGreaterThan(much.strays);
  });
});

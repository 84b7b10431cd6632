import { endNamed } from '../../ends';
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { Network, LEAK_SIEMENS } from '~/core/circuit/network';
import { meterVolts, ohmsBetween, voltsBetween } from '~/core/circuit/reading';
import { circuitStates } from '~/core/circuit/states';
import { solveCircuit } from '~/core/circuit/solve';
import { crossedEnds, faultId } from '~/core/circuit/faults';
import { internalsAtRest } from '~/core/circuit/rest';
import { netlist, type Wire } from '~/core/netlist/netlist';
import { pulledUpVolts } from '~/core/sensing/sensor';
import { demoBuild, kind, twinBuild } from '../../helpers';

const build = demoBuild();
const net = netlist(build);
const volts = (state: (typeof circuitStates)[number], end: string, fault?: Parameters<typeof solveCircuit>[3]) =>
  voltsBetween(solveCircuit(build, net, state, fault ?? null), endNamed(end), endNamed('gnd:battery'))!;

/** Plain dense Gaussian elimination with partial pivoting: the slow check of the fast solver. */
function dense(
  n: number,
  resistors: readonly (readonly [number, number, number])[],
  currents: readonly number[],
): number[] {
  const g = Array.from({ length: n }, (_, i) =>
    Array.from({ length: n + 1 }, (_unused, j) => (j === n ? currents[i] : i === j ? LEAK_SIEMENS : 0)),
  );
  for (const [a, b, ohms] of resistors) {
    if (a === b) continue;
    if (a > 0) g[a - 1][a - 1] += 1 / ohms;
    if (b > 0) g[b - 1][b - 1] += 1 / ohms;
    if (a > 0 && b > 0) {
      g[a - 1][b - 1] -= 1 / ohms;
      g[b - 1][a - 1] -= 1 / ohms;
    }
  }
  for (let k = 0; k < n; k += 1) {
    const pivot = g.slice(k).reduce((best, row, i) => (Math.abs(row[k]) > Math.abs(g[best][k]) ? k + i : best), k);
    [g[k], g[pivot]] = [g[pivot], g[k]];
    for (let i = k + 1; i < n; i += 1) {
      const factor = g[i][k] / g[k][k];
      for (let j = k; j <= n; j += 1) g[i][j] -= factor * g[k][j];
    }
  }
  const x = new Array<number>(n).fill(0);
  for (let i = n - 1; i >= 0; i -= 1)
    x[i] = (g[i][n] - g[i].slice(i + 1, n).reduce((sum, value, j) => sum + value * x[i + 1 + j], 0)) / g[i][i];
  return x;
}

/** Nodes n0 (the reference) to so many, and what leads between them; with volts a source behind its ohms. */
function networkOf(
  count: number,
  all: readonly (readonly [plus: number, minus: number, ohms: number, volts?: number])[],
): Network {
  const leading = all.filter(([plus, minus]) => plus !== minus);
  const names = Array.from({ length: count }, (_, i) => endNamed(`dev:n.${i + 1}`));
  return new Network(
    { reference: endNamed('gnd:battery'), names, index: new Map(names.map((name, i) => [name, i])) },
    {
      ends: Int32Array.from(leading.flatMap(([plus, minus]) => [plus - 1, minus - 1])),
      siemens: Float64Array.from(leading, ([, , ohms]) => 1 / ohms),
      volts: Float64Array.from(leading, ([, , , volts]) => volts ?? 0),
    },
  );
}

describe('network', () => {
  test('agrees with dense elimination on random networks', () => {
    const element = fc.tuple(
      fc.integer({ min: 0, max: 12 }),
      fc.integer({ min: 0, max: 12 }),
      fc.double({ min: 0.01, max: 1000, noNaN: true }),
    );
    fc.assert(
      fc.property(
        fc.array(element, { minLength: 12, maxLength: 40 }),
        fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 12, maxLength: 12 }),
        (extra, currents) => {
          // A chain to the reference keeps every node defined.
          const resistors = [...Array.from({ length: 12 }, (_, i) => [i, i + 1, 10] as const), ...extra];
          // The same pattern with other values, by the elimination that is known; and one that grows a branch of its own.
          const halved = resistors.map(([a, b, ohms]) => [a, b, ohms / 2] as const);
          for (const all of [resistors, halved, [...halved, [12, 0, 3] as const]]) {
            const network = networkOf(12, all);
            const found = network.factor().solve(Float64Array.from(currents));
            const wanted = dense(12, all, currents);
            for (let i = 0; i < 12; i += 1) expect(found[i]).toBeCloseTo(wanted[i], 6);
            const left = network.unbalanced(found, Float64Array.from(currents));
            for (const amps of left) expect(Math.abs(amps)).toBeLessThan(1e-9);
          }
        },
      ),
      { numRuns: 100 },
    );
  });
  test('a divider, a source behind its resistance, and a floating node', () => {
    const network = networkOf(3, [
      [1, 0, 1, 12],
      [1, 2, 5],
      [2, 0, 6],
    ]);
    const v = network.factor().solve(network.currents());
    expect(v[1]).toBeCloseTo(6, 6);
    expect(v[0]).toBeCloseTo(11, 6);
    expect(v[2]).toBe(0);
    expect(network.factor().conditioning).toBeGreaterThan(0);
  });
});

describe('the demo loom', () => {
  test.each(circuitStates)('settles in state %s', (state) => {
    expect(solveCircuit(build, net, state).settled).toBe(true);
    expect(solveCircuit(twinBuild(), netlist(twinBuild()), state).settled).toBe(true);
  });
  test('key off: permanent feed only; key on: the ECU wakes; outputs: relays close', () => {
    expect(volts('key-off', 'ecu:A24')).toBeGreaterThan(12);
    expect(volts('key-off', 'ecu:A10')).toBeLessThan(0.5);
    expect(solveCircuit(build, net, 'key-on').ecuPowered).toBe(true);
    expect([...solveCircuit(build, net, 'key-on').closedRelays].sort()).toEqual(['coils', 'injectors', 'main']);
    expect(solveCircuit(build, net, 'outputs-on').closedRelays.has('fan-1')).toBe(true);
    expect(volts('cranking', 'ecu:A10')).toBeLessThan(10);
  });
  test('a meter is in the circuit: what hangs on leakage alone reads about nothing', () => {
    const body = endNamed('gnd:battery');
    const opened = (test: (wire: Wire) => boolean) =>
      solveCircuit(build, net, 'key-on', { type: 'open', wireId: net.wires.find(test)!.id });
    const fan = opened(({ deviceId, signal }) => deviceId === 'fan-1' && signal === 'ground');
    const cam = opened(({ needId }) => needId === 'cam-hall-1.3');
    for (const [solution, end] of [
      [fan, endNamed('dev:fan-1.1')],
      [cam, endNamed('dev:cam-hall-1.3')],
    ] as const) {
      expect(voltsBetween(solution, end, body)!).toBeGreaterThan(4);
      expect(Math.abs(meterVolts(solution, end, body)!)).toBeLessThan(0.2);
    }
    const open = net.wires.find((wire) => wire.needId === 'clt-ntc-1.1')!;
    // 2490 ohms of pull-up before 10 Mohm take a quarter of a thousandth.
    const healthy = solveCircuit(build, net, 'key-on', { type: 'open', wireId: open.id });
    const [ideal, shown] = [voltsBetween, meterVolts].map((read) =>
      read(healthy, endNamed('ecu:B10'), endNamed('ecu:B5'))!,
    );
    expect(shown / ideal).toBeCloseTo(1e7 / (1e7 + 2490), 5);
  });
  test('the ECU draws what its definition says', () => {
    const solution = solveCircuit(build, net, 'key-on');
    const wires = net.wiresAt.get(endNamed('ecu:A10'))!;
    const [wire] = wires;
    const amps = Math.abs(voltsBetween(solution, wire.from, wire.to)!) / (wire.ohms + 2 * 0.001);
    // 0.8 A at 12.4 V; the feed's drop takes a little.
    expect(amps).toBeGreaterThan(0.95 * build.ecu.ownAmps);
    expect(amps).toBeLessThan(1.02 * build.ecu.ownAmps);
  });
  test('an NTC under its pull-up reads what the divider says', () => {
    const [ntc] = internalsAtRest(build.site, kind('clt-ntc'));
    const ohms = ntc.type === 'resistor' ? ntc.ohms : NaN;
    expect(volts('key-on', 'ecu:B10') - volts('key-on', 'ecu:B5')).toBeCloseTo(pulledUpVolts(ohms, 2490), 1);
  });
  test('a manifold sensor reads the barometer of the place', () => {
    const rest = (altitudeMetres: number) => {
      const [one] = internalsAtRest({ altitudeMetres, ambientCelsius: 20 }, kind('map-3bar'));
      return one.type === 'divider' ? one.ratio * 5 : NaN;
    };
    expect(rest(0)).toBeCloseTo(0.5 + (4 * (101.325 - 20)) / 280, 6);
    expect(rest(2000)).toBeLessThan(rest(0));
  });
  test('faults show where they are', () => {
    const wire = net.wires.find((one) => one.needId === 'clt-ntc-1.1')!;
    expect(volts('key-on', 'ecu:B10', { type: 'open', wireId: wire.id })).toBeGreaterThan(4.8);
    expect(volts('key-on', 'ecu:B10', { type: 'short-to-ground', wireId: wire.id })).toBeLessThan(0.1);
    expect(volts('key-on', 'ecu:B10', { type: 'no-pull-up', pinId: 'B10' })).toBeLessThan(0.1);
    expect(volts('outputs-on', 'dev:fan-1.1', { type: 'blown-fuse', circuitId: 'fan-1' })).toBeLessThan(0.5);
    expect(volts('outputs-on', 'dev:fan-1.1', { type: 'not-driven', pinId: 'A7' })).toBeLessThan(0.5);
    expect(volts('outputs-on', 'dev:fan-1.1', { type: 'relay-winding-open', circuitId: 'fan-1' })).toBeLessThan(0.5);
    expect(volts('outputs-on', 'dev:fan-1.1', { type: 'relay-stuck-open', circuitId: 'fan-1' })).toBeLessThan(0.5);
    const ground = net.wires.find((one) => one.deviceId === 'fan-1' && one.signal === 'ground')!;
    expect(volts('outputs-on', 'dev:fan-1.2', { type: 'open', wireId: ground.id })).toBeGreaterThan(10);
    const drop =
      volts('outputs-on', 'dev:fan-1.1') -
      volts('outputs-on', 'dev:fan-1.1', { type: 'resistive', wireId: 'dev:fan-1.1~relay:fan-1.87', ohms: 0.2 });
    expect(drop).toBeGreaterThan(1);
  });
  test('ohms through the loom', () => {
    const dead = solveCircuit(build, net, 'unplugged');
    expect(ohmsBetween(dead, endNamed('ecu:B1'), endNamed('ecu:B2'))).toBeCloseTo(860.3, 0);
    expect(ohmsBetween(dead, endNamed('ecu:A25'), endNamed('ecu:A26'))).toBeCloseTo(120, 0);
    expect(ohmsBetween(dead, endNamed('ecu:B10'), endNamed('ecu:A18'))).toBeNull();
    expect(ohmsBetween(dead, endNamed('ecu:A1'), endNamed('ecu:Z99'))).toBeNull();
    const open = solveCircuit(build, net, 'unplugged', { type: 'device-open', deviceId: 'crank-vr-1' });
    expect(ohmsBetween(open, endNamed('ecu:B1'), endNamed('ecu:B2'))).toBeNull();
  });
  test('crossed plugs exchange their far ends', () => {
    const [a, b] = crossedEnds(
      { from: endNamed('ecu:A1'), to: endNamed('dev:x.1') },
      { from: endNamed('dev:y.1'), to: endNamed('ecu:A2') },
    );
    expect([a, b]).toEqual([
      { from: 'ecu:A1', to: 'dev:y.1' },
      { from: 'ecu:A2', to: 'dev:x.1' },
    ]);
    expect(faultId({ type: 'crossed', wireIds: ['a', 'b'] })).toBe('crossed:a&b');
  });
});

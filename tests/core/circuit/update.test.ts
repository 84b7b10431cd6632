import { describe, expect, test } from '@jest/globals';
import { meterVolts, ohmsBetween, solveCircuit, type Solution } from '~/core/circuit/model';
import { joints, type Fault } from '~/core/circuit/faults';
import { updated } from '~/core/circuit/update';
import { groundEnd } from '~/core/ends/ends';
import { netlist } from '~/core/netlist/netlist';
import { demoBuilds } from '~/demo';

/** The most two solutions differ by, node by node: a short makes its nodes in another order. */
const most = (one: Solution, other: Solution) =>
  one.network.names.reduce((far, name, node) => {
    const there = other.network.volts(other.voltages, name);
    return Math.max(far, Math.abs(one.voltages[node] - (there ?? Infinity)));
  }, 0);

describe.each(demoBuilds().map((build) => [build.name, build, netlist(build)] as const))('%s', (_, build, net) => {
  const branches: Fault[] = [
    // A quarter of the wires: each is solved anew beside it.
    ...net.wires
      .filter((_unused, at) => at % 4 === 0)
      .flatMap(({ id }): Fault[] => [
        { type: 'open', wireId: id },
        { type: 'resistive', wireId: id, ohms: 0.7 },
        { type: 'resistive', wireId: id, ohms: 40 },
        { type: 'short-to-ground', wireId: id },
      ]),
    ...net.circuits.map(({ id }): Fault => ({ type: 'blown-fuse', circuitId: id })),
    ...net.parts.flatMap(({ name, part }): Fault[] =>
      part.kind === 'relay'
        ? [
            { type: 'relay-stuck-open', circuitId: name },
            { type: 'relay-winding-open', circuitId: name },
          ]
        : [],
    ),
    ...joints.map((joint): Fault => ({ type: 'poor-joint', joint, ohms: 0.05 })),
  ];
  test.each(['unplugged', 'key-on', 'running'] as const)('an update is a new solution, %s', (state) => {
    const base = solveCircuit(build, net, state);
    let taken = 0;
    for (const fault of branches) {
      const quick = updated(build, net, base, fault);
      if (!quick) continue;
      taken += 1;
      const slow = solveCircuit(build, net, state, fault);
      expect([...quick.closedRelays].sort()).toEqual([...slow.closedRelays].sort());
      expect([...quick.blownFuses].sort()).toEqual([...slow.blownFuses].sort());
      expect(most(quick, slow)).toBeLessThan(1e-6);
    }
    // Most faults switch nothing and are taken; the rest is solved anew.
    expect(taken).toBeGreaterThan(branches.length / 3);
  });
  test('what a meter shows, volts and ohms, is the same', () => {
    const dead = solveCircuit(build, net, 'unplugged');
    const live = solveCircuit(build, net, 'key-on');
    for (const wire of net.wires.slice(0, 40)) {
      const fault: Fault = { type: 'resistive', wireId: wire.id, ohms: 3 };
      const [quick, ohms] = [updated(build, net, live, fault), updated(build, net, dead, fault)];
      const minus = groundEnd('battery');
      if (quick)
        expect(meterVolts(quick, wire.to, minus)).toBeCloseTo(
          meterVolts(solveCircuit(build, net, 'key-on', fault), wire.to, minus)!,
          5,
        );
      if (ohms)
        expect(ohmsBetween(ohms, wire.from, wire.to)).toBeCloseTo(
          ohmsBetween(solveCircuit(build, net, 'unplugged', fault), wire.from, wire.to)!,
          5,
        );
    }
  });
});

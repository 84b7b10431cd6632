import { describe, expect, test } from '@jest/globals';
import { meterVolts, ohmsBetween } from '~/core/circuit/reading';
import { type Solution, solveCircuit } from '~/core/circuit/solve';
import { joints, type Fault } from '~/core/circuit/faults';
import { changesOf } from '~/core/circuit/changes';
import { perturbations, updated } from '~/core/circuit/update';
import { groundEnd } from '~/core/ends/ends';
import { netlist } from '~/core/netlist/netlist';
import { demoBuilds } from '~/demo';

/** The most two solutions differ by, node by node. */
const most = (one: Solution, other: Solution) =>
  one.voltages.reduce((far, volts, node) => Math.max(far, Math.abs(volts - other.voltages[node])), 0);

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
    // Of two branches and more: parts broken within, pins that do nothing, and wires crossed, which is four.
    ...net.devices.flatMap(({ device: { id } }): Fault[] => [
      { type: 'device-open', deviceId: id },
      { type: 'device-shorted', deviceId: id },
    ]),
    ...net.cavities
      .filter((_unused, at) => at % 3 === 0)
      .flatMap(({ pin: { id } }): Fault[] => [
        { type: 'not-driven', pinId: id },
        { type: 'no-pull-up', pinId: id },
      ]),
    ...net.wires
      .filter((_unused, at) => at % 6 === 0)
      .flatMap(({ id }, at, all): Fault[] => (at === 0 ? [] : [{ type: 'crossed', wireIds: [all[at - 1].id, id] }])),
  ];
  test.each(['unplugged', 'key-on', 'running'] as const)('an update is a new solution, %s', (state) => {
    const base = solveCircuit(build, net, state);
    let taken = 0;
    for (const fault of branches) {
      const quick = updated(base, fault);
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
  test('of more than four branches, or of an opened one that alone held a node, nothing is guessed', () => {
    const base = solveCircuit(build, net, 'running');
    const ranks = branches.map((fault) => perturbations(base, base.rounds[0], changesOf(base.ir, fault)).length);
    for (const rank of [1, 2, 4]) expect(ranks).toContain(rank);
    // What changes more is refused, not approximated.
    branches.forEach((fault, at) => {
      if (ranks[at] > 4) expect(updated(base, fault)).toBeNull();
    });
    // Behind an opened ground hangs what is at rest: nothing but leakage holds what is cut off.
    const still = solveCircuit(build, net, 'key-on');
    for (const { id } of net.wires.filter(({ signal }) => signal === 'ground')) {
      const cut = updated(still, { type: 'open', wireId: id });
      const anew = solveCircuit(build, net, 'key-on', { type: 'open', wireId: id });
      // Either it is refused, or it is right: never a number without its digits.
      if (cut) expect(most(cut, anew)).toBeLessThan(1e-6);
      expect(anew.residual).toBeLessThan(1e-6);
    }
  });
  test('what a meter shows, volts and ohms, is the same', () => {
    const dead = solveCircuit(build, net, 'unplugged');
    const live = solveCircuit(build, net, 'key-on');
    for (const wire of net.wires.slice(0, 40)) {
      const fault: Fault = { type: 'resistive', wireId: wire.id, ohms: 3 };
      const [quick, ohms] = [updated(live, fault), updated(dead, fault)];
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

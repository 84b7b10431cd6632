import { describe, expect, test } from '@jest/globals';
import { call } from '~/core/edits';
import { parseBuild } from '~/core/build/parse';
import { MOST_BUSES, type Build } from '~/core/build/schema';
import { voltsBetween } from '~/core/circuit/reading';
import { solveCircuit } from '~/core/circuit/solve';
import { netlist } from '~/core/netlist/netlist';
import { needsOf } from '~/core/netlist/needs';
import { proveTests } from '~/core/prove/tests';
import { findingsOf } from '~/core/rules';
import { endNamed } from '../../ends';
import { edited, emptyBuild, kind } from '../../helpers';

const dash = call('addDevice', { kind: kind('can-dash'), label: 'Dash', branchMetres: 0.9 });
const wideband = call('addDevice', { kind: kind('wideband-can'), label: 'Wideband', branchMetres: 1.6 });
const fast = call('addDevice', { kind: kind('can-dash-fast'), label: 'Fast dash', branchMetres: 1 });
const allot = call('allotAll', { keep: 'locked' });
/** Dash and wideband at 500 kbit/s on an ECU with one pair. */
const shared = (...calls: Parameters<typeof edited>[1][]): Build =>
  edited(emptyBuild(4, 'orrery-48'), wideband, dash, allot, ...calls);
const found = (build: Build, rule: string) => findingsOf(build).filter((finding) => finding.rule === rule);
const canNeeds = (build: Build) => needsOf(build).filter(({ ask }) => ask.kind === 'can');
const busWires = (build: Build) =>
  netlist(build)
    .wires.filter(({ cable }) => cable === 'can-1')
    .map(({ from, to, lengthMetres }) => `${from} ${to} ${lengthMetres.toFixed(2)}`);

describe('a bus', () => {
  test('two devices of one rate share the one pair of an ECU', () => {
    const build = shared();
    expect(build.buses).toEqual([
      { id: 'can-1', name: 'CAN 1', kilobits: 500, members: ['wideband-can-1', 'can-dash-1'] },
    ]);
    expect(canNeeds(build).map(({ id }) => build.assignments[id] !== undefined)).toEqual([true, true]);
    expect(found(build, 'PL-1')).toEqual([]);
    expect(found(build, 'BB-2')).toEqual([]);
  });
  test('its trunk runs from the ECU past each member to the last; both lines alike', () => {
    const build = shared();
    const [high, low] = canNeeds(build).map(({ id }) => build.assignments[id]!);
    // Slack of 0.1 m on each: 1.6 - 0.1, a stub of 0.1, and 1.6 - 0.9 on to the dash.
    expect(busWires(build)).toEqual([
      `ecu:${high} splice:can-1-plus-1 1.60`,
      'splice:can-1-plus-1 dev:wideband-can-1.3 0.20',
      'splice:can-1-plus-1 dev:can-dash-1.3 0.80',
      `ecu:${low} splice:can-1-minus-1 1.60`,
      'splice:can-1-minus-1 dev:wideband-can-1.4 0.20',
      'splice:can-1-minus-1 dev:can-dash-1.4 0.80',
    ]);
    // Each member is proved from the ECU's cavity.
    const tests = proveTests(build, netlist(build)).filter(({ id }) => id.startsWith(`c|ecu:${high}|`));
    expect(tests.map(({ touch }) => touch).sort()).toEqual(['dev:can-dash-1.3', 'dev:wideband-can-1.3']);
  });
  test('key on, every member reads the recessive level: about 2.5 V on both lines (ISO 11898-2)', () => {
    const build = shared();
    const solution = solveCircuit(build, netlist(build), 'key-on');
    for (const end of ['dev:wideband-can-1.3', 'dev:wideband-can-1.4', 'dev:can-dash-1.3', 'dev:can-dash-1.4'])
      expect(voltsBetween(solution, endNamed(end), endNamed('gnd:battery'))!).toBeCloseTo(2.5, 0);
  });
  test('one member alone has its wires straight from the pin', () => {
    const build = edited(emptyBuild(4, 'orrery-48'), dash, allot);
    expect(
      netlist(build)
        .wires.filter(({ to }) => /can-dash-1\.[34]/.test(to))
        .map(({ from }) => from.slice(0, 4)),
    ).toEqual(['ecu:', 'ecu:']);
  });
  test('another rate is another bus: right where the ECU has two pairs, a need without a pin where it has one', () => {
    const two = edited(emptyBuild(4, 'orrery-94'), dash, fast, allot);
    expect(two.buses.map(({ kilobits, members }) => [kilobits, members.length])).toEqual([
      [500, 1],
      [1000, 1],
    ]);
    expect(canNeeds(two).every(({ id }) => two.assignments[id] !== undefined)).toBe(true);
    expect(found(two, 'BB-2')).toEqual([]);
    const one = edited(emptyBuild(4, 'orrery-48'), dash, fast, allot);
    expect(canNeeds(one).filter(({ id }) => one.assignments[id] === undefined)).toHaveLength(2);
    expect(found(one, 'PL-1')).not.toEqual([]);
  });
  test('the pins stay with the bus when its first member goes, and come back with another order', () => {
    const build = shared();
    const pins = (of: Build) => canNeeds(of).map(({ id }) => of.assignments[id]);
    const gone = edited(build, call('removeDevice', { deviceId: 'wideband-can-1' }));
    expect(gone.buses[0].members).toEqual(['can-dash-1']);
    expect(pins(gone)).toEqual(pins(build));
    const turned = edited(
      build,
      call('setBus', { bus: { ...build.buses[0], members: ['can-dash-1', 'wideband-can-1'] } }),
    );
    expect(pins(turned)).toEqual(pins(build));
    const empty = edited(gone, call('removeDevice', { deviceId: 'can-dash-1' }));
    expect(empty.buses).toEqual([]);
    expect(Object.keys(empty.assignments)).toEqual([]);
  });
  test('a terminated member belongs at the end', () => {
    const build = edited(emptyBuild(4, 'orrery-48'), dash, wideband, allot);
    const finding = found(build, 'BB-5')[0];
    expect(finding.detail).toMatch(/Dash ends CAN 1 by its own 120 Ω, and Wideband stands beyond it/);
    expect(found(edited(build, ...finding.remedy!.calls), 'BB-5')).toEqual([]);
  });
  test('there are never more buses than a file holds', () => {
    const rate = (kilobits: number) => ({
      ...kind('can-logger'),
      id: `logger-${kilobits}`,
      traits: [{ type: 'can' as const, kilobits, terminated: false }],
    });
    const build = edited(
      emptyBuild(4),
      ...Array.from({ length: MOST_BUSES + 2 }, (_, at) => call('addDevice', { kind: rate(100 + at) })),
    );
    expect(build.buses).toHaveLength(MOST_BUSES);
    expect(build.buses.flatMap(({ members }) => members)).toHaveLength(MOST_BUSES + 2);
    expect(parseBuild(JSON.stringify(build)).ok).toBe(true);
    expect(found(build, 'BB-2')).toHaveLength(1);
  });
});

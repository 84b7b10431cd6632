import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { call } from '~/core/edits';
import { planOf, type Build } from '~/core/build/schema';
import type { Engine } from '~/core/engine/engine';
import { netlist } from '~/core/netlist/netlist';
import { needsOf } from '~/core/netlist/needs';
import { proveTests } from '~/core/prove/tests';
import { judge } from '~/core/prove/verdict';
import { findingsOf } from '~/core/rules';
import { sparkLine } from '~/core/devices/spark-line';
import { differenceInWords } from '~/core/netlist/revisions';
import { fitTrigger } from '~/core/trigger/fit';
import { outputUses } from '~/core/trigger/outputs';
import { edited, emptyBuild, kind, wheel } from '../../helpers';

// Common practice throughout: engines people fit, each from an empty list.
const engineNamed = (name: RegExp, more: Partial<Engine> = {}): Engine => ({
  ...catalog.engines.find((one) => name.test(one.name))!,
  ...more,
});
const on = (engine: Engine, ecuId: string, ...calls: Parameters<typeof edited>[1][]): Build =>
  edited(emptyBuild(4, ecuId), call('setEngine', { engine }), ...calls);
const allot = call('allotAll', { keep: 'locked' });
const codes = (build: Build) => [...new Set(findingsOf(build).map(({ rule }) => rule))];
/** Rules of this file's matter that stop. */
const stops = (build: Build) =>
  findingsOf(build)
    .filter(({ rule, severity }) => severity === 'stop' && /^OE-/.test(rule))
    .map(({ rule, detail }) => `${rule} ${detail}`);
/** Exchanges the pins of two needs, as crossed wires do. */
const crossed = (build: Build, one: string, other: string): Build => ({
  ...build,
  assignments: { ...build.assignments, [one]: build.assignments[other]!, [other]: build.assignments[one]! },
});
/** Order tests that would read wrong: what each output works in truth against what it is meant to. */
const told = (build: Build) => outputUses(build, needsOf(build)).filter(({ right }) => !right).length;

describe('a V6 with three double coils on an igniter module', () => {
  const module = (school: 'in-turn' | 'by-cylinder') =>
    on(
      engineNamed(/^V6 of 60/, { ignition: 'wasted' }),
      'orrery-48',
      call('setOutputOrder', { outputOrder: school }),
      call('addDevice', { kind: kind('igniter-4') }),
      call('addDevice', { kind: kind('coil-wasted-bare'), perCylinder: true }),
      ...[1, 2, 3].map((n) =>
        call('setDestination', {
          deviceId: `coil-wasted-bare-${n}`,
          terminalId: '1',
          destination: { to: 'line', line: sparkLine(n) },
        }),
      ),
      call('setDestination', { deviceId: 'igniter-4-1', terminalId: 'I4', destination: { to: 'nothing' } }),
      call('addDevice', { kind: kind('injector-high'), perCylinder: true }),
      allot,
    );
  test.each(['in-turn', 'by-cylinder'] as const)(
    '%s: pairs are proposed, placed, and none is called wrong',
    (school) => {
      const build = module(school);
      expect(
        build.devices.filter(({ kindId }) => kindId === 'coil-wasted-bare').map(({ label, serves }) => [label, serves]),
      ).toEqual([
        ['Wasted-spark coil 1+4', [1, 4]],
        ['Wasted-spark coil 2+5', [2, 5]],
        ['Wasted-spark coil 3+6', [3, 6]],
      ]);
      expect(stops(build)).toEqual([]);
      const tests = proveTests(build, netlist(build)).filter((one) => one.kind === 'order');
      const coils = tests.filter(({ title }) => /^Ignition/.test(title));
      expect(coils.map((one) => one.works!.words)).toEqual([
        'cylinders 1 and 4',
        'cylinders 2 and 5',
        'cylinders 3 and 6',
      ]);
      // Either plug of a shared coil is the right answer, any other is not.
      expect(judge(coils[0]!, 1, 0).right).toBe(true);
      expect(judge(coils[0]!, 4, 0).right).toBe(true);
      expect(judge(coils[0]!, 2, 0)).toMatchObject({
        right: false,
        sentence: expect.stringMatching(/cylinders 1 and 4 were meant/),
      });
    },
  );
  test('two inputs of the module exchanged are found', () => {
    const build = module('in-turn');
    const wrong = crossed(build, 'igniter-4-1.I1', 'igniter-4-1.I2');
    expect(told(wrong)).toBe(2);
    expect(stops(wrong).join()).toMatch(/OE-1 .*wired to cylinders 2 and 5, meant for cylinders 1 and 4/);
  });
  test('a pair that does not fire together is told, with the one that does', () => {
    const build = edited(module('in-turn'), call('editDevice', { deviceId: 'coil-wasted-bare-1', serves: [1, 2] }));
    const finding = findingsOf(build).find(({ rule }) => rule === 'OE-3')!;
    expect(finding.detail).toMatch(/1 at 0° and 2 at 120°/);
    expect(stops(edited(build, ...finding.remedy!.calls))).toEqual([]);
  });
  test('kept under a coil each, it is told', () => {
    const build = module('in-turn');
    const own = edited(build, call('setEngine', { engine: { ...build.engine, ignition: 'direct' } }));
    const finding = findingsOf(own).find(({ rule }) => rule === 'OE-13')!;
    expect(stops(edited(own, ...finding.remedy!.calls))).toEqual([]);
  });
});

describe('two rotors with four coils and staged injectors', () => {
  const rotors = (school: 'in-turn' | 'by-cylinder') =>
    on(
      engineNamed(/^Two-rotor/),
      'orrery-94',
      call('setOutputOrder', { outputOrder: school }),
      call('addDevice', { kind: kind('coil-igniter'), perCylinder: true }),
      call('addDevice', { kind: kind('injector-high'), perCylinder: true }),
      call('addDevice', { kind: kind('crank-vr') }),
      call('setWheel', { shaft: 'crank', wheel: wheel('36-2') }),
      allot,
    );
  test.each(['in-turn', 'by-cylinder'] as const)('%s: four of each, and no stop', (school) => {
    const build = rotors(school);
    expect(build.devices.map(({ label }) => label)).toEqual([
      'Coil L1',
      'Coil L2',
      'Coil T1',
      'Coil T2',
      'Injector 1 pri',
      'Injector 2 pri',
      'Injector 1 sec',
      'Injector 2 sec',
      'Crank sensor',
    ]);
    expect(stops(build)).toEqual([]);
    // Leading 1 and 2 first, then trailing 1 and 2.
    expect(
      outputUses(build, needsOf(build))
        .filter(({ kind: of }) => of === 'ignition')
        .map(({ output, wiredTo }) => [output, wiredTo]),
    ).toEqual([
      [1, { cylinders: [1], row: 1 }],
      [2, { cylinders: [2], row: 1 }],
      [3, { cylinders: [1], row: 2 }],
      [4, { cylinders: [2], row: 2 }],
    ]);
  });
  test('leading and trailing of one rotor exchanged are found, and told apart by the reading', () => {
    const build = rotors('in-turn');
    const wrong = crossed(build, 'coil-igniter-1.C', 'coil-igniter-3.C');
    expect(told(wrong)).toBe(2);
    expect(stops(wrong).join()).toMatch(/wired to rotor 1, trailing, meant for rotor 1, leading/);
    const trailing = proveTests(build, netlist(build)).find(({ works }) => works?.words === 'rotor 1, trailing')!;
    expect(judge(trailing, 101, 0).right).toBe(true);
    expect(judge(trailing, 1, 0)).toMatchObject({
      right: false,
      sentence: expect.stringMatching(/rotor 1, trailing was meant/),
    });
  });
  test('a coil less is told by name', () => {
    const build = edited(rotors('in-turn'), call('removeDevice', { deviceId: 'coil-igniter-4' }));
    expect(stops(build)).toEqual(['OE-6 No coil serves rotor 2, trailing.']);
  });
  test('one injector a rotor needs twice the flow', () => {
    const build = edited(rotors('in-turn'), call('setFuel', { powerKw: 150 }));
    expect(codes(build)).not.toContain('OE-10');
    const single = edited(
      build,
      call('removeDevice', { deviceId: 'injector-high-3' }),
      call('removeDevice', { deviceId: 'injector-high-4' }),
      call('setEngine', { engine: { ...build.engine, injectors: 1 } }),
    );
    expect(codes(single)).toContain('OE-10');
    expect(stops(single)).toEqual([]);
  });
});

describe('a single without a cam', () => {
  const single = (ignition: Engine['ignition']) =>
    on(
      engineNamed(/^Single/, { ignition }),
      'orrery-26',
      call('addDevice', { kind: kind('coil-igniter'), perCylinder: true }),
      call('addDevice', { kind: kind('injector-high'), perCylinder: true }),
      call('addDevice', { kind: kind('crank-hall') }),
      call('setWheel', { shaft: 'crank', wheel: wheel('24-1') }),
      allot,
    );
  test('sparks every turn: its coil works twice as often as with the phase known', () => {
    const amps = (build: Build) =>
      netlist(build)
        .circuits.find(({ role }) => role === 'coils')!
        .loads.find(({ name }) => /^Coil/.test(name))!.amps;
    const phased = edited(single('direct'), call('setWheel', { shaft: 'cam', wheel: wheel('cam-1') }));
    expect(amps(single('wasted')) / amps(phased)).toBeCloseTo(2, 9);
    // Asked for once a cycle it sparks every turn all the same: the crank alone knows no better.
    expect(amps(single('direct'))).toBeCloseTo(amps(single('wasted')), 9);
    expect(codes(single('wasted'))).not.toContain('OE-12');
    expect(stops(single('wasted'))).toEqual([]);
  });
  test('asked to spark once a cycle it is told, with the way out', () => {
    const finding = findingsOf(single('direct')).find(({ rule }) => rule === 'OE-12')!;
    expect(codes(edited(single('direct'), ...finding.remedy!.calls))).not.toContain('OE-12');
  });
});

describe('injection that does not tell cylinders apart', () => {
  const four = (injection: Engine['injection']) =>
    on(
      engineNamed(/^Inline four/, { injection }),
      'orrery-48',
      call('addDevice', { kind: kind('injector-high'), perCylinder: true }),
      call('addDevice', { kind: kind('coil-igniter'), perCylinder: true }),
      allot,
    );
  test('batch: any injector on any output', () => {
    expect(told(crossed(four('batch'), 'injector-high-1.2', 'injector-high-3.2'))).toBe(0);
  });
  test('in pairs: exchanged within a pair is the same, between pairs is found', () => {
    // 1-3-4-2: 1 and 4 are a turn apart, 3 and 2 are.
    expect(told(crossed(four('semi-sequential'), 'injector-high-1.2', 'injector-high-4.2'))).toBe(0);
    expect(told(crossed(four('semi-sequential'), 'injector-high-1.2', 'injector-high-3.2'))).toBe(2);
  });
  test('sequential: every exchange is found', () => {
    expect(told(crossed(four('sequential'), 'injector-high-1.2', 'injector-high-4.2'))).toBe(2);
  });
});

test('a revision says whom a part serves, how the engine is sparked and injected, and what is on a bus', () => {
  const before = on(
    engineNamed(/^Inline four/, { ignition: 'wasted' }),
    'orrery-48',
    call('addDevice', { kind: kind('coil-wasted-igniter'), perCylinder: true }),
    call('addDevice', { kind: kind('can-dash'), label: 'Dash' }),
  );
  const after = edited(
    before,
    call('setEngine', { engine: { ...before.engine, plugs: 2, trailingDegrees: 8, injectors: 2 } }),
    call('editDevice', { deviceId: 'coil-wasted-igniter-1', serves: [3, 2], row: 2 }),
    call('addDevice', { kind: kind('can-logger'), label: 'Logger' }),
  );
  expect(differenceInWords(after, planOf(before), planOf(after))).toEqual(
    expect.arrayContaining([
      'Plugs of each chamber: 1 became 2.',
      'Second plug: 0° after the first became 8° after the first.',
      'Injectors of each cylinder: 1 became 2.',
      'Wasted-spark coil 1+4: it serves cylinders 2 and 3, second plug instead of cylinders 1 and 4.',
      'CAN 1: 500 kbit/s with Dash became 500 kbit/s with Dash and Logger.',
    ]),
  );
});

test('a twin of which no cylinders pair sparks every turn by a coil each; only a distributor is left one', () => {
  const fit = (ignition: Engine['ignition']) => {
    const build = on(engineNamed(/^V-twin/, { ignition }), 'orrery-26');
    return fitTrigger(build.ecu, build.engine, wheel('24-1'), null).ignition;
  };
  expect((['direct', 'wasted', 'distributor'] as const).map(fit)).toEqual(['wasted', 'wasted', 'distributor']);
});

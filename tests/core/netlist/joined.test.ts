import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { catalog } from '~/catalog';
import { ohmsBetween } from '~/core/circuit/reading';
import { solveCircuit } from '~/core/circuit/solve';
import { applyEdit, call } from '~/core/edits';
import { proposedJoins } from '~/core/edits/joins';
import { startBuild } from '~/core/edits/starter';
import type { Build } from '~/core/build/schema';
import { serve } from '~/core/ecu/ask';
import type { EcuDefinition } from '~/core/ecu/ecu';
import type { Engine } from '~/core/engine/engine';
import { deviceEnd, ecuEnd, spliceEnd } from '~/core/ends/ends';
import { canShare } from '~/core/netlist/joined';
import { needsOf, separateNeeds } from '~/core/netlist/needs';
import { netlist } from '~/core/netlist/netlist';
import { proveTests } from '~/core/prove/tests';
import { judge, progressOf } from '~/core/prove/verdict';
import { findingsOf } from '~/core/rules';
import { symptomsOf } from '~/core/trace/symptoms';
import { explain } from '~/core/ways/ways';
import { demoBuild, ecu, edited, engine } from '../../helpers';

/** The ECU of 48 with fewer injector drivers, each of so many amperes. */
function fewDrivers(
  count: number,
  ability: { maxAmps?: number; minOhms?: number } = { maxAmps: 5, minOhms: 10 },
): EcuDefinition {
  const full = ecu('orrery-48');
  let left = count;
  return {
    ...full,
    id: 'few-drivers',
    pins: full.pins.map((pin) => {
      const injector = pin.abilities.find((one) => one.kind === 'injector');
      if (!injector) return pin;
      left -= 1;
      return left >= 0
        ? { ...pin, abilities: [{ kind: 'injector', output: injector.output, ...ability }] }
        : { ...pin, abilities: [{ kind: 'low-side', maxAmps: 2, maxHz: 100 }] };
    }),
  };
}
function started(
  cylinders: number,
  drivers: number,
  injection: Engine['injection'],
  ability?: Parameters<typeof fewDrivers>[1],
): Build {
  const begun = startBuild({
    id: 'joined',
    now: '2026-01-01T00:00:00.000Z',
    name: 'Joined',
    vehicle: '',
    engine: { ...engine(cylinders), injection },
    ecu: fewDrivers(drivers, ability),
    kinds: catalog.kinds,
    withUsual: true,
  });
  if (!begun.ok) throw new Error(begun.problem.sentence);
  return edited(begun.value, call('allotAll', { keep: 'placed' }));
}
const injectorNeeds = (build: Build) => needsOf(build).filter(({ ask }) => ask.kind === 'injector');

describe('an ECU of fewer outputs than injectors', () => {
  test('six in batch on three drivers: two on each, no stop, and each wire has its place', () => {
    const build = started(6, 3, 'batch');
    const needs = injectorNeeds(build);
    expect(needs.map(({ label }) => label)).toEqual(['Injector 1 + 2', 'Injector 3 + 4', 'Injector 5 + 6']);
    // Two of 12.5 ohms and 1.1 A in parallel: 6.25 ohms, 2.2 A.
    expect(needs[0].ask).toMatchObject({ amps: 2.2, ohms: 12.5, parallelOhms: 6.25 });
    const stops = findingsOf(build).filter(({ rule, severity }) => severity === 'stop' && /^(OE|PL)/.test(rule));
    expect(stops.map(({ rule }) => rule)).toEqual([]);
    const net = netlist(build);
    const pin = build.assignments[needs[0].id];
    const ends = net.wiresAt
      .get(spliceEnd(pin))!
      .map((wire) => [wire.from, wire.to].find((end) => end !== spliceEnd(pin)));
    expect(ends.sort()).toEqual(
      [deviceEnd('injector-high-1', '2'), deviceEnd('injector-high-2', '2'), ecuEnd(pin)].sort(),
    );
    expect(net.wires.find((wire) => wire.from === ecuEnd(pin) || wire.to === ecuEnd(pin))!.amps).toBe(2.2);
    expect(net.needsOf.get('injector-high-2')).toEqual([net.needs.find(({ id }) => id === needs[0].id)]);
    expect(symptomsOf(net).filter(({ title }) => title.startsWith('No fuel'))).toHaveLength(6);
  });
  test('dead ohms at the cavity are those of both in parallel', () => {
    const build = started(6, 3, 'batch');
    const net = netlist(build);
    const pin = build.assignments[injectorNeeds(build)[0].id];
    const solution = solveCircuit(build, net, 'unplugged');
    const feed = net.wiresAt.get(deviceEnd('injector-high-1', '1'))![0];
    const splice = feed.from === deviceEnd('injector-high-1', '1') ? feed.to : feed.from;
    const ohms = ohmsBetween(solution, ecuEnd(pin), splice)!;
    // The other five injectors lead back to other drivers, which are open: only these two carry.
    expect(ohms).toBeGreaterThan(6.25);
    expect(ohms).toBeLessThan(6.25 + 0.4);
  });
  test('in pairs each set has a driver of its own; too few for the sets, and none is proposed', () => {
    const sets = injectorNeeds(started(6, 3, 'semi-sequential')).map(({ serves }) => serves.join('+'));
    const order = engine(6).firingOrder;
    const pairs = [0, 1, 2].map((at) => [order[at], order[at + 3]].sort((a, b) => a - b).join('+'));
    expect(sets.sort()).toEqual(pairs.sort());
    expect(proposedJoins(started(6, 2, 'semi-sequential'))).toEqual([]);
    expect(proposedJoins(started(6, 3, 'sequential'))).toEqual([]);
    expect(proposedJoins(started(6, 8, 'batch'))).toEqual([]);
  });
  test('a driver that does not stand them together gets none: by its amperes, or by its ohms where those are not told', () => {
    expect(
      injectorNeeds(started(6, 3, 'batch', { maxAmps: 2, minOhms: 10 })).every(({ joined }) => joined.length === 0),
    ).toBe(true);
    expect(injectorNeeds(started(6, 3, 'batch', { minOhms: 10 })).every(({ joined }) => joined.length === 0)).toBe(
      true,
    );
    const [need] = injectorNeeds(started(6, 3, 'batch'));
    expect(serve({ abilities: [{ kind: 'injector', minOhms: 10 }] }, need.ask).miss).toEqual({
      code: 'ohms',
      asked: 6.25,
      limit: 10,
      together: true,
    });
    expect(serve({ abilities: [{ kind: 'injector', minOhms: 6 }] }, need.ask).miss).toBeNull();
    expect(serve({ abilities: [{ kind: 'injector', maxAmps: 2 }] }, need.ask).miss).toEqual({
      code: 'amps',
      asked: 2.2,
      limit: 2,
    });
  });
  test('where too few were found first, putting them together is a way out that serves all', () => {
    const base = started(6, 3, 'batch');
    const apart = edited({ ...base, joined: {} }, call('allotAll', { keep: 'most' }));
    const told = explain(apart, { kinds: [], ecus: [] })!;
    const way = told.flatMap(({ ways }) => ways).find(({ code }) => code === 'join')!;
    expect(way).toMatchObject({ servesAll: true });
    expect(injectorNeeds(edited(apart, ...way.calls)).every(({ id, joined }) => joined.length === 1 && id !== '')).toBe(
      true,
    );
  });
  test('the order test takes every cylinder of the output, in both schools, and no other set', () => {
    for (const outputOrder of ['in-turn', 'by-cylinder'] as const) {
      const build = edited(
        started(6, 3, 'semi-sequential'),
        call('setOutputOrder', { outputOrder }),
        call('allotAll', { keep: 'locked' }),
      );
      const tests = proveTests(build, netlist(build)).filter(
        ({ kind, title }) => kind === 'order' && title.startsWith('Injection'),
      );
      expect(tests).toHaveLength(3);
      for (const one of injectorNeeds(build)) {
        const test = tests.find(({ hold }) => hold === ecuEnd(build.assignments[one.id]))!;
        for (let cylinder = 1; cylinder <= 6; cylinder += 1)
          expect(judge(test, cylinder, 0).right).toBe(one.serves.includes(cylinder));
      }
    }
  });
});

describe('who leads', () => {
  test('the part that leads goes: the next keeps pin, lock and those that hang on it', () => {
    const build = started(6, 2, 'batch');
    const [lead] = injectorNeeds(build);
    const pin = build.assignments[lead.id];
    const after = edited(
      build,
      call('lock', { needId: lead.id, locked: true }),
      call('removeDevice', { deviceId: lead.deviceId! }),
    );
    const [next] = injectorNeeds(after);
    expect(next.id).toBe(lead.joined[0].id);
    expect(next.joined.map(({ id }) => id)).toEqual(lead.joined.slice(1).map(({ id }) => id));
    expect(after.assignments[next.id]).toBe(pin);
    expect(after.locked).toContain(next.id);
  });
  test('one that hangs on it goes, or is given an output of its own', () => {
    const build = started(6, 3, 'batch');
    const [lead] = injectorNeeds(build);
    expect(injectorNeeds(edited(build, call('removeDevice', { deviceId: lead.joined[0].deviceId })))[0].joined).toEqual(
      [],
    );
    const parted = edited(build, call('joinOutput', { needId: lead.joined[0].id, leadId: null }));
    expect(injectorNeeds(parted)).toHaveLength(4);
    expect(parted.assignments[lead.id]).toBe(build.assignments[lead.id]);
  });
  test('a wire that was measured and is cut for a splice is to be measured anew; others stand, and undo is whole', () => {
    const build = demoBuild();
    const id = 'c|ecu:A1|dev:injector-high-1.2';
    expect(build.prove.readings[id]).toBeDefined();
    const joined = edited(build, call('joinOutput', { needId: 'injector-high-2.2', leadId: 'injector-high-1.2' }));
    expect(joined.prove.readings[id]).toBeUndefined();
    expect(joined.prove.readings['c|ecu:A3|dev:injector-high-3.2']).toEqual(
      build.prove.readings['c|ecu:A3|dev:injector-high-3.2'],
    );
    const trunk = netlist(joined).wiresAt.get(ecuEnd('A1'))![0];
    expect(progressOf(joined, netlist(joined), proveTests(joined, netlist(joined))).proved.has(trunk.id)).toBe(false);
  });
  test('what cannot share is refused in a sentence', () => {
    const build = demoBuild();
    const refused = (needId: string, leadId: string) => {
      const result = applyEdit(build, 'joinOutput', { needId, leadId });
      return result.ok ? '' : result.problem.sentence;
    };
    expect(refused('injector-high-1.2', 'coil-igniter-1.C')).toMatch(/cannot share an output with/);
    expect(refused('injector-high-1.2', 'injector-high-1.2')).toMatch(/leads this output already/);
    expect(refused('injector-high-1.2', 'nothing.1')).toMatch(/Nothing of this build asks for a pin as nothing.1/);
  });
  test('property: however outputs are joined and parted, every terminal is asked for once, and undoing all gives back the first', () => {
    const build = demoBuild();
    const all = separateNeeds(build);
    const ids = all.filter((need) => all.some((other) => canShare(need, other))).map(({ id }) => id);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(...ids), fc.option(fc.constantFrom(...ids))), { maxLength: 12 }),
        (steps) => {
          let now = build;
          for (const [needId, leadId] of steps) {
            const result = applyEdit(now, 'joinOutput', { needId, leadId });
            if (result.ok) now = result.value.build;
          }
          const asked = needsOf(now).flatMap(({ id, joined }) => [id, ...joined.map((one) => one.id)]);
          expect([...asked].sort()).toEqual(all.map(({ id }) => id).sort());
          const pins = Object.values(now.assignments);
          expect(new Set(pins).size).toBe(pins.length);
          for (const id of Object.keys(now.joined)) now = edited(now, call('joinOutput', { needId: id, leadId: null }));
          expect(needsOf(now).map(({ id }) => id)).toEqual(all.map(({ id }) => id));
        },
      ),
      { numRuns: 60 },
    );
  });
});

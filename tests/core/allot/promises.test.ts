import { endNamed } from '../../ends';
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { catalog } from '~/catalog';
import { allot, allotWith } from '~/core/allot/allot';
import { conflictsOf } from '~/core/allot/conflict';
import { isCrimped } from '~/core/allot/in-place';
import { WEIGHT, modelOf } from '~/core/allot/model';
import { solve } from '~/core/allot/solve';
import { call } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import { serve } from '~/core/ecu/ask';
import { pinsOfGroup } from '~/core/ecu/ecu';
import { findingsOf } from '~/core/rules';
import { needsOf } from '~/core/netlist/needs';
import { wireId } from '~/core/ends/ends';
import { broken, randomModel } from '../../allotment/random-model';
import { demoBuild, ecu, edited, emptyBuild, kind } from '../../helpers';

const at = '2026-03-01T10:00:00.000Z';
const anyKind = fc.constantFrom(...catalog.kinds);
const withDevices = (kinds: readonly (typeof catalog.kinds)[number][], ecuId: string): Build =>
  edited(emptyBuild(4, ecuId), ...kinds.map((one) => call('addDevice', { kind: one })));
const placedOn = (build: Build, found: ReturnType<typeof allot>): Build => ({
  ...build,
  assignments: Object.fromEntries(found.assignments.map(({ needId, pinId }) => [needId, pinId])),
});
function crimpAll(build: Build): Build {
  const wireIds = needsOf(build).flatMap((need) =>
    build.assignments[need.id] ? [wireId(endNamed(`ecu:${build.assignments[need.id]}`), need.end)] : [],
  );
  return wireIds.length === 0 ? build : edited(build, call('crimp', { wireIds, at, by: 'AB' }));
}

describe('no limit is ever broken', () => {
  test('on any ECU, with its timers, budgets and either-or', () => {
    fc.assert(
      fc.property(
        fc.array(anyKind, { minLength: 1, maxLength: 22 }),
        fc.constantFrom('orrery-48', 'orrery-94'),
        (kinds, id) => {
          const build = withDevices(kinds, id);
          const after = placedOn(build, allot(build, { keep: 'locked', explain: false }));
          const bad = findingsOf(after).filter(({ rule }) =>
            ['PL-2', 'PL-3', 'PL-4', 'PL-7', 'PL-8', 'PL-9', 'PL-10'].includes(rule),
          );
          expect(bad).toEqual([]);
        },
      ),
      { numRuns: 60 },
    );
  });
  test('in made-up plans the best answer beats every other that is tried, by brute force', () => {
    // Every subset of edges with at most one edge a row, on small plans: the optimum is found by looking at all.
    for (let seed = 1; seed <= 120; seed += 1) {
      const model = randomModel(seed * 31, { rows: 4, pins: 7 });
      const solved = solve(model)!;
      let best = Infinity;
      const walk = (row: number, edges: number[], cost: number) => {
        if (row === model.rows.length) {
          if (broken(model, edges).length === 0) best = Math.min(best, cost);
          return;
        }
        walk(row + 1, edges, cost + model.rows[row].needs.length * WEIGHT.unserved);
        for (let edge = model.start[row]; edge < model.start[row + 1]; edge += 1)
          walk(row + 1, [...edges, edge], cost + model.cost[edge]);
      };
      walk(0, [], 0);
      expect({ seed, cost: solved.cost }).toEqual({ seed, cost: best });
      const taken = [...solved.edgeOf].filter((edge) => edge >= 0);
      expect({ seed, broken: broken(model, taken) }).toEqual({ seed, broken: [] });
    }
  });
  test('is the same again and again, and says when it is cut short', () => {
    const model = randomModel(4711, { rows: 12, pins: 16 });
    expect(solve(model)).toEqual(solve(model));
    const hard = Array.from({ length: 200 }, (_, i) => randomModel(i * 97 + 5, { rows: 12, pins: 16 })).find(
      (one) => solve(one)!.nodes > 8,
    )!;
    const cut = solve(hard, { nodeLimit: 1 })!;
    expect(cut.proven).toBe(false);
    expect(
      broken(
        hard,
        [...cut.edgeOf].filter((edge) => edge >= 0),
      ),
    ).toEqual([]);
    expect(cut.cost).toBeGreaterThanOrEqual(solve(hard)!.cost);
  });
});

describe('what is locked, crimped or kept out', () => {
  test('locked pins are never moved, whatever comes', () => {
    fc.assert(
      fc.property(
        fc.array(anyKind, { minLength: 3, maxLength: 12 }),
        anyKind,
        fc.constantFrom('locked', 'most', 'placed'),
        (kinds, more, keep) => {
          const solved = edited(withDevices(kinds, 'orrery-94'), call('allotAll', { keep: 'locked' }));
          const locked = { ...solved, locked: Object.keys(solved.assignments) };
          const after = allot(edited(locked, call('addDevice', { kind: more })), {
            keep: keep as 'most',
            explain: false,
          });
          const now = new Map(after.assignments.map(({ needId, pinId }) => [needId, pinId]));
          for (const id of locked.locked) expect(now.get(id)).toBe(solved.assignments[id]);
          expect(after.moved).toEqual([]);
        },
      ),
      { numRuns: 40 },
    );
  });
  test('adding a need moves no crimped pin when there is a solution without it', () => {
    fc.assert(
      fc.property(
        fc.array(anyKind, { minLength: 2, maxLength: 12 }),
        anyKind,
        fc.constantFrom('orrery-26', 'orrery-48', 'orrery-94'),
        (kinds, more, id) => {
          const before = crimpAll(edited(withDevices(kinds, id), call('allotAll', { keep: 'locked' })));
          const build = edited(before, call('addDevice', { kind: more }));
          const free = allot(build, { keep: 'locked', explain: false });
          // The same with every crimped pin locked: does it serve as many?
          const held = allot({ ...build, locked: Object.keys(before.assignments) }, { keep: 'locked', explain: false });
          if (held.unserved.length <= free.unserved.length) expect(free.recrimped).toEqual([]);
          const ids = new Set(needsOf(build).map((need) => need.id));
          expect(free.recrimped.every((needId) => ids.has(needId))).toBe(true);
        },
      ),
      { numRuns: 60 },
    );
  });
  test('a crimped pin does move when that is the only way, and it is said', () => {
    const build = withDevices([kind('launch-button')], 'orrery-26');
    // Of all inputs only one that is analog or switch is left, and one that is a switch.
    const inputs = new Set(['A20', 'A21']);
    const pins = build.ecu.pins.filter(
      (pin) => inputs.has(pin.id) || !pin.abilities.some(({ kind: can }) => can === 'switch' || can === 'analog'),
    );
    const small = { ...build, ecu: { ...build.ecu, pins }, assignments: { 'launch-button-1.1': 'A20' } };
    const crimped = crimpAll(small);
    expect(isCrimped(crimped, needsOf(crimped)[0], 'A20')).toBe(true);
    expect(allot(crimped, { keep: 'locked' }).recrimped).toEqual([]);
    const found = allot(edited(crimped, call('addDevice', { kind: kind('oil-pressure') })), { keep: 'locked' });
    expect(found.status).toBe('solved');
    expect(found.recrimped).toEqual(['launch-button-1.1']);
  });
  test('never here is kept: for one need, and for all', () => {
    const build = withDevices([kind('clt-ntc'), kind('iat-ntc')], 'orrery-48');
    const usual = placedOn(build, allot(build, { keep: 'locked' }));
    const pin = usual.assignments['clt-ntc-1.1'];
    const one = edited(
      usual,
      call('setNever', { needId: 'clt-ntc-1.1', pinId: pin, never: true }),
      call('allotAll', { keep: 'locked' }),
    );
    expect(one.assignments['clt-ntc-1.1']).not.toBe(pin);
    expect(one.assignments['iat-ntc-1.1']).toBe(pin);
    const all = edited(
      usual,
      call('setNever', { needId: null, pinId: pin, never: true }),
      call('allotAll', { keep: 'locked' }),
    );
    expect(Object.values(all.assignments)).not.toContain(pin);
  });
  test('can be stopped while it works', () => {
    expect(allotWith(demoBuild(), { keep: 'locked', onProgress: () => true })).toBeNull();
    const seen: number[] = [];
    expect(allotWith(demoBuild(), { keep: 'locked', onProgress: (done) => seen.push(done) < 0 })).not.toBeNull();
    expect(seen.at(-1)).toBe(modelOf(demoBuild(), { keep: 'locked' }).rows.length);
  });
});

describe('what is left over', () => {
  test('dedicated pins go before versatile ones', () => {
    const button = withDevices([kind('launch-button')], 'orrery-48');
    const [{ pinId }] = allot(button, { keep: 'locked' }).assignments;
    expect(button.ecu.pins.find((pin) => pin.id === pinId)!.abilities).toHaveLength(1);
    const solenoid = withDevices([kind('boost-solenoid')], 'orrery-48');
    expect(
      solenoid.ecu.pins.find((pin) => pin.id === allot(solenoid, { keep: 'locked' }).assignments[0].pinId)!.label,
    ).toBe('Output 4 PWM');
  });
  test('needs of one device stand side by side, on one connector', () => {
    const build = withDevices([kind('throttle-motor'), kind('pedal')], 'orrery-94');
    const found = placedOn(build, allot(build, { keep: 'locked' }));
    const tracks = needsOf(build).filter((need) => need.deviceId === 'pedal-1' && need.ask.kind === 'analog');
    const cavities = tracks.map((need) => found.assignments[need.id]);
    expect(new Set(cavities.map((id) => id[0])).size).toBe(1);
    expect(Math.abs(Number(cavities[0].slice(1)) - Number(cavities[1].slice(1)))).toBe(1);
  });
});

describe('minimal conflicts', () => {
  const canAll = (build: Build, ids: ReadonlySet<string>): boolean => {
    const solved = solve(modelOf(build, { keep: 'locked', only: ids, locksAsRows: true }))!;
    return solved.edgeOf.every((edge) => edge >= 0);
  };
  test('each set is impossible, and possible without any one of its needs', () => {
    fc.assert(
      fc.property(
        fc.array(anyKind, { minLength: 8, maxLength: 26 }),
        fc.constantFrom('orrery-26', 'orrery-48'),
        fc.boolean(),
        (kinds, id, lock) => {
          const plain = withDevices(kinds, id);
          const build = lock ? { ...edited(plain, call('allotAll', { keep: 'locked' })) } : plain;
          const locked = lock ? { ...build, locked: Object.keys(build.assignments).slice(0, 4) } : build;
          for (const conflict of conflictsOf(locked)) {
            const all = new Set(conflict.needs);
            expect({ needs: conflict.needs, possible: canAll(locked, all) }).toEqual({
              needs: conflict.needs,
              possible: false,
            });
            const byId = new Map(needsOf(locked).map((need) => [need.id, need]));
            for (const needId of conflict.needs) {
              const pair = byId.get(needId)!.pair;
              const without = new Set(
                conflict.needs.filter((other) => (pair === null ? other !== needId : byId.get(other)!.pair !== pair)),
              );
              expect({ needId, possible: canAll(locked, without) }).toEqual({ needId, possible: true });
            }
            expect(conflict.sentence).toMatch(/\.$/);
          }
        },
      ),
      { numRuns: 40 },
    );
  });
  test('groups of the ECU are named when they are the reason', () => {
    const timed: Build = (() => {
      const build = withDevices([kind('boost-solenoid'), kind('idle-three-wire')], 'orrery-94');
      const pwm = new Set(
        build.ecu.pins.filter((pin) => serve(pin, { kind: 'low-side', hz: 30, amps: 1 }).ability).map((pin) => pin.id),
      );
      const keep = ['B5', 'B6', 'B7'];
      return {
        ...build,
        ecu: {
          ...build.ecu,
          pins: build.ecu.pins.filter((pin) => !pwm.has(pin.id) || keep.includes(pin.id)),
          groups: [{ type: 'timer', name: 'timer 9', pins: keep }],
        },
      };
    })();
    const [conflict] = conflictsOf(timed);
    expect(conflict.groups).toEqual(['timer 9']);
    expect(conflict.sentence).toMatch(/timer 9 \(B5, B6 and B7\) runs at one frequency: .*30 Hz.*100 Hz/);
    const either = withDevices([kind('crank-vr'), kind('cam-hall')], 'orrery-94');
    const strict: Build = {
      ...either,
      ecu: {
        ...either.ecu,
        groups: [
          {
            type: 'either',
            name: 'VR or Hall',
            sides: [
              ['C1', 'C2'],
              ['C3', 'C4', 'C5'],
            ],
          },
        ],
      },
    };
    expect(conflictsOf(strict)[0].sentence).toMatch(/VR or Hall: C1 and C2 or C3, C4 and C5, not both\./);
    expect(strict.ecu.groups.flatMap(pinsOfGroup)).toHaveLength(5);
  });
  test('none when all can be served', () => {
    expect(conflictsOf(demoBuild())).toEqual([]);
    expect(conflictsOf({ ...demoBuild(), ecu: ecu('orrery-94'), locked: [], assignments: {} })).toEqual([]);
  });
});

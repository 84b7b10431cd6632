import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { allot } from '~/core/allot/allot';
import { conflictsOf } from '~/core/allot/conflict';
import { waysOut } from '~/core/ways/ways';
import { wordMiss } from '~/core/allot/words';
import { call } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import { findingsOf } from '~/core/rules';
import { needsOf, type Need } from '~/core/netlist/needs';
import { bruteServed, placedAtRandom, randomBuild } from '../../allotment/brute';
import { edited, emptyBuild, kind } from '../../helpers';

const seeds = (count: number) => Array.from({ length: count }, (_, i) => i * 7919 + 11);
const none = new Map<string, string>();
const heldOf = (build: Build, needs: readonly Need[]) =>
  new Map(
    needs.flatMap((need) => (build.locked.includes(need.id) ? [[need.id, build.assignments[need.id]] as const] : [])),
  );

// Reference: trying every placement (tests/allotment/brute.ts), which knows nothing of the solver.
describe('against trying everything', () => {
  test('1,000 small builds with pairs of two and three, budgets, timers, either-or and never: as many served', () => {
    let paired = 0;
    for (const seed of seeds(1000)) {
      const build = randomBuild(seed);
      const needs = needsOf(build);
      const found = allot(build, { keep: 'locked', explain: false });
      expect({ seed, served: found.assignments.length, proven: found.proven }).toEqual({
        seed,
        served: bruteServed(build, needs, none),
        proven: true,
      });
      if (needs.some(({ pair }) => pair !== null) && build.ecu.groups.length > 0) paired += 1;
    }
    expect(paired).toBeGreaterThan(300);
  });
  test('900 with locks on pins that serve: the locked stay, and as many others are served', () => {
    let locks = 0;
    for (const seed of seeds(900)) {
      const open = randomBuild(seed);
      const needs = needsOf(open);
      const build = placedAtRandom(open, needs, seed + 1, true);
      const held = heldOf(build, needs);
      // What hands have locked may already break a group; then there is nothing to compare.
      const locked = needs.filter(({ id }) => held.has(id));
      const whole = locked.filter(
        (need) => need.pair === null || needs.every((one) => one.pair !== need.pair || held.has(one.id)),
      );
      if (bruteServed(build, locked, held) < locked.length || whole.length < locked.length) continue;
      const found = allot(build, { keep: 'locked', explain: false });
      for (const [id, pinId] of held) expect(found.assignments.find(({ needId }) => needId === id)?.pinId).toBe(pinId);
      // A locked need can be left out by nobody: the best plan that keeps all of them.
      expect({ seed, served: found.assignments.length }).toEqual({
        seed,
        served: bruteServed(build, needs, held, true),
      });
      locks += held.size;
    }
    expect(locks).toBeGreaterThan(200);
  });
  test('every conflict is impossible, and possible without any one of its members (a pair is one)', () => {
    let checked = 0;
    for (const seed of seeds(900)) {
      const open = randomBuild(seed, 6);
      const needs = needsOf(open);
      const build = seed % 3 === 0 ? placedAtRandom(open, needs, seed + 1, true) : open;
      const held = heldOf(build, needs);
      for (const { needs: ids } of conflictsOf(build, needs)) {
        const members = needs.filter(({ id }) => ids.includes(id));
        expect({ seed, ids, served: bruteServed(build, members, held) === members.length }).toEqual({
          seed,
          ids,
          served: false,
        });
        for (const unit of new Set(members.map((need) => need.pair ?? need.id))) {
          const rest = members.filter((need) => (need.pair ?? need.id) !== unit);
          expect({ seed, unit, served: bruteServed(build, rest, held) }).toEqual({ seed, unit, served: rest.length });
        }
        checked += 1;
      }
    }
    expect(checked).toBeGreaterThan(300);
  });
  test('every need without a pin stands in a reason, whatever hands have locked', () => {
    let lost = 0;
    for (const seed of seeds(300))
      for (const mode of ['open', 'serving locks', 'any locks'] as const) {
        const open = randomBuild(seed, 6);
        const needs = needsOf(open);
        const build = mode === 'open' ? open : placedAtRandom(open, needs, seed + 3, mode === 'serving locks');
        const placed = new Set(
          allot(build, { keep: 'locked', explain: false }).assignments.map(({ needId }) => needId),
        );
        const told = new Set(conflictsOf(build, needs).flatMap(({ needs: ids, more }) => [...ids, ...more]));
        const without = needs.filter(({ id }) => !placed.has(id));
        expect({ seed, mode, untold: without.filter(({ id }) => !told.has(id)).map(({ id }) => id) }).toEqual({
          seed,
          mode,
          untold: [],
        });
        lost += without.length;
      }
    expect(lost).toBeGreaterThan(1000);
  });
  test('locks that overdraw a budget are the reason, and the budget is named', () => {
    const two = edited(
      emptyBuild(4, 'orrery-94'),
      call('addDevice', { kind: kind('purge-valve') }),
      call('addDevice', { kind: kind('purge-valve') }),
    );
    const ids = needsOf(two).map(({ id }) => id);
    const build: Build = {
      ...two,
      devices: two.devices.map((device) => ({
        ...device,
        overrides: { '2': { to: 'pin', ask: { kind: 'low-side', amps: 1.3 } } },
      })),
      ecu: { ...two.ecu, groups: [{ type: 'budget', name: 'bank 3', pins: ['B11', 'B12'], amps: 2 }] },
      assignments: { [ids[0]]: 'B11', [ids[1]]: 'B12' },
      locked: ids,
    };
    const [reason] = conflictsOf(build);
    expect(reason).toMatchObject({ needs: ids, groups: ['bank 3'], locked: ids });
    expect(reason.sentence).toMatch(/bank 3 \(B11 and B12\) carries 2 A together; 2\.6 A are asked\..*locked/);
  });
});

test('no hand placement makes allotting, checking or explaining throw', () => {
  for (const seed of seeds(400)) {
    const open = randomBuild(seed, 6);
    const needs = needsOf(open);
    const build = placedAtRandom(open, needs, seed + 5, false);
    for (const keep of ['placed', 'most', 'locked'] as const) allot(build, { keep });
    findingsOf(build);
  }
});

test('five outputs placed by hand over one budget of 6 A, with needs open, are told and not thrown', () => {
  const many = edited(
    emptyBuild(4, 'orrery-94'),
    ...Array.from({ length: 7 }, () => call('addDevice', { kind: kind('purge-valve') })),
  );
  const strong: Build = {
    ...many,
    devices: many.devices.map((device) => ({
      ...device,
      overrides: { '2': { to: 'pin', ask: { kind: 'low-side', amps: 1.3 } } },
    })),
    assignments: Object.fromEntries(many.devices.slice(0, 5).map((device, i) => [`${device.id}.2`, `B${11 + i}`])),
  };
  const found = allot(strong, { keep: 'placed' });
  for (const [needId, pinId] of Object.entries(strong.assignments))
    expect(found.assignments).toContainEqual({ needId, pinId });
  expect(found.unserved).toEqual([]);
  expect(findingsOf(strong).find(({ rule }) => rule === 'PL-8')?.detail).toMatch(/6\.5 A/);
});

describe('ways out', () => {
  const help = { kinds: catalog.kinds, ecus: catalog.ecus };
  test('none gives up a redundancy or an interlock, nor sends one another way: 60 builds of random parts', () => {
    let kept = 0;
    for (const seed of seeds(60)) {
      let state = seed;
      const next = () => (state = (state * 48271) % 2147483647);
      const guarded = ['pedal', 'throttle-motor', 'clutch-switch', 'neutral-switch', 'brake-switch'];
      const ids = [...guarded, ...Array.from({ length: 14 }, () => catalog.kinds[next() % catalog.kinds.length].id)];
      const build = edited(
        emptyBuild(4, seed % 2 === 0 ? 'orrery-26' : 'orrery-48'),
        ...ids.map((id) => call('addDevice', { kind: kind(id) })),
      );
      const needs = needsOf(build);
      const before = new Map(needs.filter((need) => need.protection !== null).map((need) => [need.id, need.ask]));
      for (const conflict of conflictsOf(build, needs).slice(0, 2))
        for (const way of waysOut(build, conflict, help)) {
          const after = new Map(needsOf(edited(build, ...way.calls)).map((need) => [need.id, need.ask]));
          for (const [id, ask] of before)
            expect({ way: way.label, id, ask: after.get(id) }).toEqual({ way: way.label, id, ask });
          kept += 1;
        }
    }
    expect(kept).toBeGreaterThan(60);
  });
});

test('two-wire pickups: what a way out promises, the solver keeps', () => {
  const pickups = catalog.kinds.filter(({ terminals }) =>
    terminals.some(({ destination }) => destination.to === 'pin' && destination.ask.kind === 'vr'),
  );
  let tried = 0;
  for (const seed of seeds(24)) {
    let state = seed;
    const next = () => (state = (state * 48271) % 2147483647);
    const build = edited(
      emptyBuild(4, ['orrery-26', 'orrery-48', 'orrery-94'][seed % 3]),
      ...Array.from({ length: 2 + (next() % 4) }, () => call('addDevice', { kind: pickups[next() % pickups.length] })),
    );
    for (const conflict of conflictsOf(build).slice(0, 2))
      for (const way of waysOut(build, conflict, { kinds: catalog.kinds, ecus: catalog.ecus })) {
        const after = allot(edited(build, ...way.calls), { keep: 'locked', explain: false });
        expect({ seed, way: way.label, all: after.unserved.length === 0 }).toEqual({
          seed,
          way: way.label,
          all: way.servesAll,
        });
        tried += 1;
      }
  }
  expect(tried).toBeGreaterThan(20);
});

describe('the words of a pin', () => {
  const named = (label: string, of = 'orrery-48') => {
    const build = emptyBuild(4, of);
    return {
      ...build,
      ecu: { ...build.ecu, pins: build.ecu.pins.map((pin) => (pin.id === 'A8' ? { ...pin, label } : pin)) },
    };
  };
  test.each([
    ['Fuel pump relay'],
    ['FP'],
    ['Kraftstoffpumpenrelais'],
    ['Relais pompe à essence'],
    ['Relé bomba de combustible'],
  ])("the pump relay goes to '%s'", (label) => {
    const build = edited(
      named(label),
      call('addDevice', { kind: kind('fuel-pump') }),
      call('allotAll', { keep: 'locked' }),
    );
    expect(build.assignments['relay-pump.85']).toBe('A8');
  });
  test('others keep clear of a pin that is named after something else, as long as there is one', () => {
    const build = edited(
      named('Tacho'),
      call('addDevice', { kind: kind('fuel-pump') }),
      call('allotAll', { keep: 'locked' }),
    );
    expect(build.assignments['relay-pump.85']).toBe('A6');
    expect(wordMiss('Output 3', 'Fuel pump relay, ')).toBe(1);
    expect(wordMiss('Oil pressure', 'Coil 2, Coil with igniter')).toBe(2);
  });
});

import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { catalog } from '~/catalog';
import { allot, whyOpen } from '~/core/allot/allot';
import { sparesOf, spareWords } from '~/core/allot/spares';
import { call } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import { serve } from '~/core/ecu/ask';
import { needsOf } from '~/core/netlist/needs';
import { demoBuild, ecu, edited, emptyBuild, kind } from '../../helpers';

const anyKind = fc.constantFrom(...catalog.kinds);
const anyEcu = fc.constantFrom(...catalog.ecus);
const withDevices = (kinds: readonly (typeof catalog.kinds)[number][], ecuId: string): Build =>
  edited(emptyBuild(4, ecuId), ...kinds.map((one) => call('addDevice', { kind: one })));

describe('every allotment', () => {
  test('breaks no limit, uses no pin twice, keeps pairs whole and is the same each time', () => {
    fc.assert(
      fc.property(fc.array(anyKind, { minLength: 1, maxLength: 14 }), anyEcu, (kinds, one) => {
        const build = withDevices(kinds, one.id);
        const found = allot(build, { keep: 'locked' });
        const needs = new Map(needsOf(build).map((need) => [need.id, need]));
        const pins = new Map(build.ecu.pins.map((pin) => [pin.id, pin]));
        const used = found.assignments.map(({ pinId }) => pinId);
        expect(new Set(used).size).toBe(used.length);
        for (const { needId, pinId } of found.assignments)
          expect(serve(pins.get(pinId)!, needs.get(needId)!.ask).miss).toBeNull();
        const pairs = new Map<string, Set<string | undefined>>();
        for (const { needId, pinId } of found.assignments) {
          const { pair } = needs.get(needId)!;
          if (pair)
            pairs.set(
              pair,
              (pairs.get(pair) ?? new Set()).add(serve(pins.get(pinId)!, needs.get(needId)!.ask).ability!.pair),
            );
        }
        for (const partners of pairs.values()) expect(partners.size).toBe(1);
        expect(found.assignments.length + found.unserved.length).toBe(needs.size);
        expect(found.status).toBe(found.unserved.length === 0 ? 'solved' : 'infeasible');
        expect(allot(build, { keep: 'locked' })).toEqual(found);
      }),
      { numRuns: 60 },
    );
  });
  test('leaves locked needs where they are', () => {
    fc.assert(
      fc.property(fc.array(anyKind, { minLength: 2, maxLength: 10 }), fc.nat(), (kinds, pick) => {
        const solved = edited(withDevices(kinds, 'orrery-94'), call('allotAll', { keep: 'locked' }));
        const ids = Object.keys(solved.assignments);
        if (ids.length === 0) return;
        const needId = ids[pick % ids.length];
        const locked = edited(
          solved,
          call('lock', { needId, locked: true }),
          call('addDevice', { kind: kind('oil-pressure') }),
          call('allotAll', { keep: 'locked' }),
        );
        expect(locked.assignments[needId]).toBe(solved.assignments[needId]);
      }),
      { numRuns: 40 },
    );
  });
});

describe('order of outputs', () => {
  const engineOf = (order: 'in-turn' | 'by-cylinder') =>
    edited(
      emptyBuild(5),
      call('setOutputOrder', { outputOrder: order }),
      call('addDevice', { kind: kind('coil-igniter'), perCylinder: true }),
      call('addDevice', { kind: kind('injector-high'), perCylinder: true }),
      call('allotAll', { keep: 'locked' }),
    );
  test('by cylinder, coil n is on output n', () => {
    const { assignments } = engineOf('by-cylinder');
    expect([1, 2, 3, 4, 5].map((n) => assignments[`coil-igniter-${n}.C`])).toEqual(['A11', 'A12', 'A13', 'A14', 'A15']);
  });
  test('in turn, cylinder 4 of 1-2-4-5-3 is on output 3', () => {
    const { assignments } = engineOf('in-turn');
    expect([1, 2, 4, 5, 3].map((n) => assignments[`coil-igniter-${n}.C`])).toEqual(['A11', 'A12', 'A13', 'A14', 'A15']);
    expect([1, 2, 4, 5, 3].map((n) => assignments[`injector-high-${n}.2`])).toEqual(['A1', 'A2', 'A3', 'A4', 'A5']);
  });
});

describe('placing the rest', () => {
  test('moves nothing that fits', () => {
    const start = edited(
      demoBuild(),
      call('unassign', { needId: 'relay-fan-1.85' }),
      call('unassign', { needId: 'clt-ntc-1.1' }),
    );
    const done = edited(start, call('allotAll', { keep: 'placed' }));
    for (const [needId, pinId] of Object.entries(start.assignments)) expect(done.assignments[needId]).toBe(pinId);
    expect(Object.keys(done.assignments)).toHaveLength(38);
  });
  test('gives up a placement that does not fit any more', () => {
    const start: Build = { ...demoBuild(), assignments: { ...demoBuild().assignments, 'clt-ntc-1.1': 'A1' } };
    expect(edited(start, call('allotAll', { keep: 'placed' })).assignments['clt-ntc-1.1']).not.toBe('A1');
  });
});

describe('why not', () => {
  test('tells pins that would do, rivals, or that there is no such pin', () => {
    const open = edited(demoBuild(), call('unassign', { needId: 'clt-ntc-1.1' }));
    expect(whyOpen(open, 'clt-ntc-1.1')!.reason).toBe('Not placed yet: B10 would do.');
    expect(whyOpen(open, 'iat-ntc-1.1')).toBeNull();
    const pump = edited(demoBuild(), call('addDevice', { kind: kind('boost-solenoid'), label: 'Water pump' }));
    expect(whyOpen(pump, 'boost-solenoid-2.2')!.reason).toBe(
      '13 needs compete for 12 pins (A1, A2, A3, A4, A5, A6, A7, A8, A9, A17, A19 and A20): 5 for injector drivers, 2 for half-bridge pairs, 2 for PWM outputs of 30 Hz or more and 4 for low-side outputs. 5 of them are locked where they are.',
    );
    const small = edited(
      emptyBuild(4, 'orrery-26'),
      call('addDevice', { kind: kind('knock') }),
      call('addDevice', { kind: kind('crank-vr') }),
    );
    expect(whyOpen(small, 'knock-1.1')!.reason).toBe('No pin is a knock input.');
    expect(whyOpen(small, 'crank-vr-1.1')!.reason).toBe('This ECU has no VR pair.');
  });
  test('names the nearest miss', () => {
    const low = edited(emptyBuild(4), call('addDevice', { kind: kind('injector-low') }));
    expect(whyOpen(low, 'injector-low-1.2')!.reason).toMatch(/stands 10 Ω and more, the injector has 2.4 Ω/);
  });
});

test('spares are what no need holds, stale placements aside', () => {
  expect(spareWords(sparesOf(demoBuild()))).toBe('1 logic ignition output');
  const stale: Build = { ...demoBuild(), assignments: { ...demoBuild().assignments, 'gone.1': 'A16' } };
  expect(sparesOf(stale)[0].pins).toEqual(['A16']);
  expect(
    sparesOf({ ...demoBuild(), ecu: ecu('orrery-94'), assignments: {} }).reduce((sum, one) => sum + one.pins.length, 0),
  ).toBe(82);
});

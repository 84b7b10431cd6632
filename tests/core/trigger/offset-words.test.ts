import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { catalog, entry } from '~/catalog';
import { call } from '~/core/edits';
import {
  compareOffsets,
  fromOwnWords,
  inOwnWords,
  offsetCycle,
  offsetWords,
  rangeOf,
  turnSentence,
  twinsInRange,
  type OffsetWay,
} from '~/core/trigger/offset-words';
import { edited, emptyBuild } from '../../helpers';

const ways: OffsetWay[] = (['tooth-to-tdc', 'tdc-to-tooth'] as const).flatMap((counts) =>
  (['up', 'signed', 'wide'] as const).map((range) => ({ counts, range })),
);
const anyWay = fc.constantFrom(...ways);
const anyCycle = fc.constantFrom(360 as const, 720 as const);

describe('an offset in the words of the ECU', () => {
  test('goes there and back, lies in its range, and any number of that way is understood', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 7199 }), anyWay, anyCycle, (tenths, way, cycle) => {
        const kept = (tenths / 10) % cycle;
        const own = inOwnWords(kept, way, cycle);
        const [least, most] = rangeOf(way, cycle);
        expect(own).toBeGreaterThanOrEqual(least);
        expect(own).toBeLessThanOrEqual(most);
        for (const number of [own, ...twinsInRange(own, way, cycle), own + cycle])
          expect(fromOwnWords(number, way, cycle)).toBeCloseTo(kept, 6);
      }),
    );
  });
  // Read off one wheel with two settings of one ECU.
  test('-4 of a spark every turn and 355 of a coil each are one wheel, a degree apart', () => {
    const shared = { own: -4, way: { counts: 'tooth-to-tdc', range: 'signed' }, cycle: 360 } as const;
    const each = { own: 355, way: { counts: 'tooth-to-tdc', range: 'up' }, cycle: 720 } as const;
    expect(compareOffsets(shared, each)).toEqual({ apart: -1, same: true, otherTurn: false });
    // Both with the phase known they would be a turn apart, and that is not one wheel.
    expect(compareOffsets({ ...shared, cycle: 720 }, each)).toMatchObject({ same: false, otherTurn: true });
  });
  test('514 is a number of the second turn: 154 where the turn is not known, -206 about 0', () => {
    const up: OffsetWay = { counts: 'tooth-to-tdc', range: 'up' };
    expect(inOwnWords(514, up, 360)).toBe(154);
    expect(inOwnWords(514, { ...up, range: 'signed' }, 720)).toBe(-206);
    expect(inOwnWords(514, { ...up, counts: 'tdc-to-tooth' }, 720)).toBe(206);
  });
  test('what is left of the turn is said: one wheel without a phase, the exhaust stroke with it', () => {
    const crank = edited(
      emptyBuild(4),
      call('setWheel', { shaft: 'crank', wheel: entry(catalog.wheels, '36-2') }),
      call('setTrigger', { offsetDegrees: 90, offsetWay: { counts: 'tooth-to-tdc', range: 'wide' } }),
    );
    expect([offsetCycle(crank), offsetWords(crank)]).toEqual([360, '90.0°']);
    expect(turnSentence(crank)).toContain('90.0° and –270.0° are one');
    const cam = edited(crank, call('setWheel', { shaft: 'cam', wheel: entry(catalog.wheels, 'cam-1') }));
    expect([offsetCycle(cam), offsetWords(cam)]).toEqual([720, '90.0°']);
    expect(turnSentence(cam)).toContain('–270.0° is the other turn');
    expect(offsetWords(edited(cam, call('setTrigger', { offsetWay: { counts: 'tdc-to-tooth', range: 'up' } })))).toBe(
      '630.0°',
    );
  });
});

import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { byHand, guessPulses, longestGap, nothingFound } from '~/core/trigger/hand';
import { gapsOf } from '~/core/trigger/pattern';
import { pulseHertz, teethPerCycle, teethPerTurn } from '~/core/wheels/wheel';
import { wheel } from '../../helpers';

const { wheels } = catalog;
const first = (found: Partial<typeof nothingFound>) => byHand(wheels, { ...nothingFound, ...found }).candidates[0];

describe('counted by hand', () => {
  test.each([
    [{ teeth: 58, gap: 2, gaps: 1 }, '60-2'],
    [{ teeth: 35, gap: 1 }, '36-1'],
    [{ teeth: 30, gap: 2, gaps: 3 }, '36-2-2-2'],
    [{ teeth: 3, gap: 1 }, '4-1'],
    [{ teeth: 12, gap: 0 }, '12-even'],
    [{ teeth: 56, gap: 2, gaps: 2 }, '60-2-2'],
  ])('%j', (found, id) => {
    expect(first(found).wheel.id).toBe(id);
  });

  test('every wheel on equal places is first, or level with the first, by its own count', () => {
    for (const one of wheels) {
      if (one.shaft !== 'crank' || one.places === null) continue;
      const { candidates } = byHand(wheels, {
        ...nothingFound,
        teeth: teethPerTurn(one),
        gap: longestGap(one),
        gaps: gapsOf(one).length,
      });
      const own = candidates.find((candidate) => candidate.wheel.id === one.id)!;
      expect(own.score).toBe(candidates[0].score);
      expect(own.against).toEqual([]);
    }
  });

  test('one tooth off stays in sight and asks to count again', () => {
    const { candidates } = byHand(wheels, { ...nothingFound, teeth: 57, gap: 2 });
    expect(candidates[0].wheel.id).toBe('60-2');
    expect(candidates[0].against[0]).toContain('count again');
  });

  test('frequency and rev counter together count the pulses', () => {
    // f = pulses x rpm / 60: 58 pulses at 250 rpm are 242 Hz (domain facts).
    expect(pulseHertz(wheel('60-2'), 250)).toBeCloseTo(241.67, 2);
    const best = first({ crankHertz: 242, rpm: 250 });
    expect(best.wheel.id).toBe('60-2');
    expect(best.rpm).toBeCloseTo(250.3, 1);
  });

  test('wires tell the kind of sensor', () => {
    expect(byHand(wheels, { ...nothingFound, wires: 2 }).sensor).toContain('VR');
    expect(byHand(wheels, { ...nothingFound, wires: 3 }).sensor).toContain('Hall');
    expect(byHand(wheels, nothingFound).sensor).toBeNull();
  });

  test('the next look is the one that still tells them apart', () => {
    expect(byHand(wheels, nothingFound).next).toContain('Count the teeth');
    expect(byHand(wheels, { ...nothingFound, teeth: 30 }).next).toContain('longest gap');
    // 36-1 is the only one left.
    expect(byHand(wheels, { ...nothingFound, teeth: 35, gap: 1, gaps: 1 }).next).toBeNull();
  });
});

describe('two frequencies', () => {
  test('65 Hz beside 25 Hz: 4 crank pulses a turn with 3 cam pulses, 975 rpm (domain facts, common practice)', () => {
    const { ratio, guesses, candidates } = byHand(wheels, { ...nothingFound, crankHertz: 65, camHertz: 25 });
    expect(ratio).toBeCloseTo(2.6, 9);
    expect(guesses[0]).toMatchObject({ crankPerTurn: 4, camPerCycle: 3, rpm: 975 });
    expect(guesses[0].ratio).toBeCloseTo(8 / 3, 9);
    expect(teethPerCycle(candidates[0].wheel) / 2).toBe(4);
  });

  test('counted teeth leave only the cam to guess', () => {
    const guesses = guessPulses(wheels, { crankHertz: 242, camHertz: 242 / 116, rpm: null, teeth: 58 });
    expect(guesses[0]).toMatchObject({ crankPerTurn: 58, camPerCycle: 1 });
    expect(guesses.every(({ crankPerTurn }) => crankPerTurn === 58 || crankPerTurn === 29)).toBe(true);
  });

  test.each([1, 2, 3, 4, 5])('a meter two per cent off still finds 36-1 with %i cam pulses', (cam) => {
    const ratio = ((2 * 35) / cam) * 1.02;
    expect(guessPulses(wheels, { crankHertz: 150, camHertz: 150 / ratio, rpm: null, teeth: 35 })[0]).toMatchObject({
      crankPerTurn: 35,
      camPerCycle: cam,
    });
  });

  // f = pulses a turn x rpm / 60; a cam turns at half speed (domain facts): hand-worked.
  test('crank hertz beside a rev counter: 65 Hz at 975 rpm are four pulses a turn', () => {
    const { guesses } = byHand(wheels, { ...nothingFound, crankHertz: 65, rpm: 975 });
    expect(guesses[0]).toMatchObject({ crankPerTurn: 4, camPerCycle: null, rpm: 975 });
  });
  test('cam hertz beside a rev counter: 25 Hz at 1000 rpm are three pulses a cycle', () => {
    const { guesses, candidates } = byHand(wheels, { ...nothingFound, camHertz: 25, rpm: 1000 });
    expect(guesses[0]).toMatchObject({ crankPerTurn: null, camPerCycle: 3 });
    expect(candidates.every(({ against }) => against.length === 0)).toBe(true);
  });
  test('all three must agree', () => {
    expect(guessPulses(wheels, { crankHertz: 65, camHertz: 25, rpm: 985, teeth: null })[0]).toMatchObject({
      crankPerTurn: 4,
      camPerCycle: 3,
    });
    expect(guessPulses(wheels, { crankHertz: 65, camHertz: 25, rpm: 1400, teeth: null })).toEqual([]);
  });

  test('a cam that stands still gives no ratio', () => {
    expect(byHand(wheels, { ...nothingFound, crankHertz: 65, camHertz: 0 }).ratio).toBeNull();
  });
});

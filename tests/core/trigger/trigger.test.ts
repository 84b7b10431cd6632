import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { catalog } from '~/catalog';
import { call } from '~/core/edits';
import { needsOf } from '~/core/netlist/needs';
import { fitTrigger, gapMargin, shortestToothMicroseconds, triggerSensor } from '~/core/trigger/fit';
import {
  TDC_TO_TOOTH,
  TOOTH_TO_TDC,
  newOffset,
  offsetConventions,
  sensorDelayMicroseconds,
} from '~/core/trigger/offset';
import { outputUses } from '~/core/trigger/outputs';
import {
  camTellsPhase,
  missingToothWheel,
  pulseHertz,
  teethPerCycle,
  teethPerTurn,
  toothIntervals,
  wheelSchema,
} from '~/core/wheels/wheel';
import { demoBuild, ecu, edited, engine, wheel } from '../../helpers';

describe('wheels', () => {
  test.each(catalog.wheels.map((one) => [one.id, one] as const))(
    '%s: edges rise, levels alternate, intervals make a turn',
    (_, one) => {
      expect(wheelSchema.safeParse(one).success).toBe(true);
      expect(toothIntervals(one).reduce((sum, interval) => sum + interval, 0)).toBeCloseTo(360, 9);
    },
  );
  test('N-M has N minus M teeth and one gap of M + 1 pitches', () => {
    fc.assert(
      fc.property(fc.integer({ min: 4, max: 120 }), fc.integer({ min: 1, max: 3 }), (places, missing) => {
        const made = missingToothWheel(places, missing);
        expect(made.id).toBe(`${places}-${missing}`);
        expect(teethPerTurn(made)).toBe(places - missing);
        expect(Math.max(...toothIntervals(made))).toBeCloseTo((360 / places) * (missing + 1), 9);
      }),
    );
  });
  test('counts and frequencies', () => {
    expect(teethPerTurn(wheel('60-2'))).toBe(58);
    expect(teethPerCycle(wheel('60-2'))).toBe(116);
    expect(teethPerCycle(wheel('cam-4-plus-1'))).toBe(5);
    expect(pulseHertz(wheel('60-2'), 600)).toBeCloseTo(580, 9);
  });
  test('edges out of order are refused', () => {
    const wrong = {
      ...wheel('24-1'),
      edges: [
        { degrees: 10, level: 1 },
        { degrees: 5, level: 0 },
      ],
    };
    expect(wheelSchema.safeParse(wrong).success).toBe(false);
  });
});

describe('fit', () => {
  const five = engine(5);
  test('a 60-2 with a one-tooth cam allows all on the 48', () => {
    expect(fitTrigger(ecu('orrery-48'), five, wheel('60-2'), wheel('cam-1'))).toMatchObject({
      decodes: true,
      knows: 'cycle',
      injection: 'sequential',
    });
  });
  test('without a cam the stroke is unknown', () => {
    expect(fitTrigger(ecu('orrery-48'), engine(4), wheel('60-2'), null)).toMatchObject({
      knows: 'angle',
      injection: 'semi-sequential',
      ignition: 'wasted',
    });
  });
  test('a rotary needs no cam', () => {
    const rotary = catalog.engines.find((one) => one.kind === 'rotary')!;
    expect(fitTrigger(ecu('orrery-94'), rotary, wheel('36-2-2-2'), null).knows).toBe('cycle');
  });
  test('says why not', () => {
    expect(fitTrigger(ecu('orrery-26'), five, wheel('uneven-70-110'), null).reason).toMatch(/has no decoder/);
    expect(fitTrigger(ecu('orrery-26'), five, missingToothWheel(120, 2), null).reason).toMatch(/8 to 60 places/);
    expect(fitTrigger(ecu('orrery-48'), five, wheel('4-even'), null).reason).toMatch(/needs a cam signal/);
    expect(fitTrigger(ecu('orrery-48'), five, null, null).decodes).toBe(false);
  });
  test('a cam that repeats every half turn tells no phase', () => {
    expect(camTellsPhase(wheel('cam-1'))).toBe(true);
    expect(camTellsPhase(missingToothWheel(4, 0, 'cam'))).toBe(false);
  });
  test('the gap margin shrinks with the ripple and the threshold must lie inside', () => {
    const calm = gapMargin(wheel('60-2'), 0, 1.6)!;
    expect(calm.gapRatio).toBeCloseTo(3, 9);
    expect(calm.margin).toBeCloseTo(3, 9);
    const rough = gapMargin(wheel('36-1'), 0.4, 1.42)!;
    expect(rough.margin).toBeCloseTo(2 / 1.4 / 1.4, 9);
    expect(rough.thresholdFits).toBe(true);
    expect(gapMargin(wheel('36-1'), 0.5, 1.42)!.thresholdFits).toBe(false);
    expect(gapMargin(wheel('4-even'), 0.3, 1.5)).toBeNull();
  });
  test('the shortest tooth of a 60-2 at 7200 rpm is 139 microseconds', () => {
    expect(shortestToothMicroseconds(wheel('60-2'), 7200)).toBeCloseTo(138.9, 1);
  });
  test('finds the sensors of a build', () => {
    expect(triggerSensor(demoBuild(), 'crank')!.sensor).toBe('vr');
    expect(triggerSensor(demoBuild(), 'cam')!.sensor).toBe('hall');
  });
});

describe('offset', () => {
  const read = (old: number, commanded: number, seen: number) =>
    newOffset({ oldDegrees: old, commandedDegrees: commanded, seenDegrees: seen, cycleDegrees: 720, sign: 1 });
  test('the light closes the loop: after the new offset it agrees', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 719, noNaN: true }),
        fc.double({ min: 0, max: 719, noNaN: true }),
        fc.constantFrom(0, 10),
        fc.constantFrom(1 as const, -1 as const),
        (truth, guess, lock, sign) => {
          const seen = lock + sign * (guess - truth);
          const answer = newOffset({
            oldDegrees: guess,
            commandedDegrees: lock,
            seenDegrees: seen,
            cycleDegrees: 720,
            sign,
          });
          const left = Math.abs(answer.newDegrees - truth) % 720;
          expect(Math.min(left, 720 - left)).toBeLessThan(1e-6);
        },
      ),
    );
  });
  test('tooth to TDC, seen too early, grows: the ECU fires 74° after the tooth, TDC comes at 88°', () => {
    const [truth, offset, lock] = [88, 84, 10];
    const firesAfterTooth = offset - lock;
    const seen = truth - firesAfterTooth;
    expect(seen).toBe(14);
    const answer = newOffset({
      oldDegrees: offset,
      commandedDegrees: lock,
      seenDegrees: seen,
      cycleDegrees: 720,
      sign: TOOTH_TO_TDC,
    });
    expect(answer.newDegrees).toBe(truth);
    expect(answer.conventions.beforeTdc).toBe(truth);
    // An ECU that counts from TDC on to the tooth holds 720 - 84 and must come to 720 - 88.
    const other = newOffset({
      oldDegrees: 636,
      commandedDegrees: lock,
      seenDegrees: seen,
      cycleDegrees: 720,
      sign: TDC_TO_TOOTH,
    });
    expect(other.newDegrees).toBe(632);
    expect(other.conventions).toEqual(answer.conventions);
  });
  test('conventions are the same angle', () => {
    expect(offsetConventions(84, 720)).toEqual({ beforeTdc: 84, afterTdc: 636, signed: 84, signedOpposite: -84 });
    expect(offsetConventions(-10, 360).beforeTdc).toBe(350);
  });
  test('a full turn out is the phase', () => {
    expect(read(84, 10, 370).phaseWrong).toBe(true);
    expect(read(84, 10, 14).phaseWrong).toBe(false);
  });
  test('a drift with speed is a delay', () => {
    expect(sensorDelayMicroseconds({ rpm: 1000, seen: 10 }, { rpm: 4000, seen: 9.1 })).toBeCloseTo(50, 6);
    expect(sensorDelayMicroseconds({ rpm: 1000, seen: 10 }, { rpm: 1000, seen: 9 })).toBeNull();
  });
});

test('changing the school changes which cylinder an output means', () => {
  const build = demoBuild();
  expect(outputUses(build, needsOf(build)).every((use) => use.right)).toBe(true);
  const other = edited(build, call('setOutputOrder', { outputOrder: 'in-turn' }));
  const wrong = outputUses(other, needsOf(other)).filter((use) => !use.right);
  expect(wrong.map((use) => [use.output, use.wiredTo.cylinders[0], use.means?.cylinders[0]])).toEqual(
    expect.arrayContaining([
      [3, 3, 4],
      [4, 4, 5],
      [5, 5, 3],
    ]),
  );
  expect(wrong).toHaveLength(6);
});

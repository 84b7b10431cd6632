import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { match, type Match } from '~/core/trigger/match';
import { signalFaults } from '~/core/trigger/named';
import { standstills, turning } from '~/core/trigger/standstill';
import { wheel } from '../../helpers';
import { engines, fieldCapture, type FieldSpec } from '../../other-engine';

/** Captures drawn by other formulas than core's (tests/other-engine.ts); every figure here is invented. */
const { wheels } = catalog;
function found(more: Partial<FieldSpec>): Match {
  const result = match(
    fieldCapture({
      wheel: wheel('36-1'),
      cam: null,
      sensor: 'hall',
      seed: 5,
      rpm: 200,
      seconds: 3,
      samples: 25,
      tops: engines.four,
      swing: 0.25,
      jitter: 0.003,
      ...more,
    }),
    { wheels },
  );
  if (!result.ok) throw new Error(result.problem.sentence);
  return result.value;
}
const ids = (one: Match) => signalFaults(one).map(({ id }) => id);

describe('a crank that stops on its way', () => {
  // Speed 1 - 1.5 sin²(πu) over 0.35 s at 1200 degrees a second: negative from u = 0.304 to 0.696, where it turns back
  // 0.35 · 1200 · 0.127 = 53 degrees (by hand).
  test.each([
    ['60-2', 'hall'],
    ['36-1', 'vr-sine'],
    ['24-1', 'vr-flux'],
    ['12-1', 'hall'],
  ] as const)('%s, %s: thrown back, told with how far', (id, sensor) => {
    const one = found({ wheel: wheel(id), sensor, kick: { at: 1.45, seconds: 0.35, back: 0.5 } });
    expect(one.best.wheel.id).toBe(id);
    expect(one.verdict.kind).toBe('this');
    expect(one.stops).toHaveLength(1);
    const [{ seconds, backDegrees }] = one.stops;
    expect(seconds[0]).toBeLessThan(1.6);
    expect(seconds[1]).toBeGreaterThan(1.65);
    expect(Math.abs(backDegrees! - 53)).toBeLessThan(15);
    expect(ids(one)).toEqual(['kick-back']);
  });
  test('about to stall, not thrown back', () => {
    const one = found({ kick: { at: 1.45, seconds: 0.35, back: -0.15 } });
    expect(one.stops).toMatchObject([{ backDegrees: 0 }]);
    expect(ids(one)).toEqual(['all-but-stands']);
  });
  test('further than a quarter turn', () => {
    // By hand as above: 0.35 · 1200 · 0.278 = 117 degrees.
    const { stops } = found({ wheel: wheel('60-2'), kick: { at: 1.45, seconds: 0.35, back: 0.9 } });
    expect(Math.abs(stops[0].backDegrees! - 117)).toBeLessThan(15);
  });
  test.each(['single', 'odd twin', 'four'])('a swing of 45 % on a %s is no standstill', (engine) => {
    const one = found({ swing: 0.45, tops: engines[engine] });
    expect(one.stops).toEqual([]);
    expect(one.verdict.kind).toBe('this');
  });
});

describe('standstills in a row of pulses', () => {
  const times = (steps: readonly number[]) => {
    let at = 0;
    return Float64Array.from([0, ...steps], (step) => (at += step));
  };
  const even = (count: number) => new Array<number>(count).fill(1);
  test('a gap is none, wherever it stands', () => {
    expect(standstills(times([...even(40), 3, ...even(57), 3, ...even(57), 3, ...even(20)]))).toEqual([]);
  });
  test('several slow intervals are one; the longer side of it is judged', () => {
    const pulses = times([...even(60), 1.5, 3, 6, 6, 3, 1.5, ...even(40)]);
    const [stop, ...more] = standstills(pulses);
    expect(more).toEqual([]);
    expect(stop.from).toBeLessThan(61);
    expect(stop.to).toBeGreaterThan(66);
    expect(turning(pulses)).toEqual([0, stop.from]);
  });
  test('at either end it starts or stops: none', () => {
    expect(standstills(times([8, 5, 3, 2, ...even(60), 2, 3, 5, 8]))).toEqual([]);
  });
  test('too few pulses tell nothing', () => {
    expect(standstills(times([1, 1, 9, 9, 1, 1]))).toEqual([]);
    expect(turning(new Float64Array(0))).toEqual([0, 0]);
  });
});

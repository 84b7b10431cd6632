import { describe, expect, test } from '@jest/globals';
import { align } from '~/core/trigger/align';
import { anglesOf } from '~/core/trigger/path';
import { camRound } from '~/core/trigger/cam-round';
import { placesPerCycle } from '~/core/trigger/cycle-count';
import { match, type Match } from '~/core/trigger/match';
import { patternOf } from '~/core/trigger/pattern';
import { pulseFaults } from '~/core/trigger/pulse-faults';
import { rowsOf } from '~/core/trigger/rows';
import { seeded, synth } from '~/core/trigger/synth';
import { trackOf, type Track } from '~/core/trigger/tracks';
import { catalog } from '~/catalog';
import { wheel } from '../../helpers';

/** Times of the teeth of 36-1 over some turns at 300 rpm, with some taken out, by number from the first. */
function pulsesOf36(turns: number, out: readonly number[] = []): Float64Array {
  const seconds = (degrees: number) => degrees / (6 * 300);
  const all = Array.from({ length: turns }, (_, turn) =>
    Array.from({ length: 35 }, (__, tooth) => seconds(360 * turn + 10 * tooth)),
  ).flat();
  return Float64Array.from(all.filter((_, i) => !out.includes(i)));
}
const pattern = patternOf(wheel('36-1'), 'rise');

describe('the path through lost teeth', () => {
  test('of one, of two in a row: each is told, and the angle runs on', () => {
    for (const out of [[50], [50, 51], [12, 80, 81]]) {
      const pulses = pulsesOf36(4, out);
      const found = align(pattern, pulses);
      expect(found.events.map(({ kind }) => kind)).toEqual(out.map(() => 'lost'));
      const degrees = anglesOf(found, pattern, pulses);
      // Every pulse stands where its time says, from the first one on.
      degrees.forEach((angle, i) => expect(angle - degrees[0]).toBeCloseTo((pulses[i] - pulses[0]) * 6 * 300, 6));
    }
  });
  test('two teeth lost beside the gap are no gap of four', () => {
    // Tooth 35 of a turn is the last before the gap.
    const found = align(pattern, pulsesOf36(4, [68, 69]));
    expect(found.events.map(({ kind }) => kind)).toEqual(['lost', 'lost']);
  });
  test('a stretch that is gone is one break, and both sides keep their teeth', () => {
    const whole = pulsesOf36(6);
    // Eleven teeth gone in the second turn, and time lost besides.
    const pulses = Float64Array.from([...whole.slice(0, 45), ...whole.slice(56).map((time) => time + 0.0123)]);
    const { teeth, events } = align(pattern, pulses);
    expect(events.filter(({ kind }) => kind === 'break')).toHaveLength(1);
    const known = align(pattern, whole).teeth;
    expect([...teeth.slice(0, 44)]).toEqual([...known.slice(0, 44)]);
    expect([...teeth.slice(-100)]).toEqual([...known.slice(-100)]);
  });
  test('two in a row are two losses, a third and two thirds of the way', () => {
    const pulses = pulsesOf36(4, [50, 51]);
    const { teeth, events } = align(pattern, pulses);
    const degrees = anglesOf({ teeth, events }, pattern, pulses);
    const losses = pulseFaults({ events, pulses, teeth, degrees, stops: [], holes: [] } as unknown as Match);
    const whole = pulsesOf36(4);
    expect(losses.map(({ cause }) => cause)).toEqual(['missing-pulse', 'missing-pulse']);
    losses.forEach(({ seconds }, i) => expect(seconds).toBeCloseTo(whole[50 + i], 9));
  });
});

/** A square track of pulses 20 degrees wide at these crank angles, the crank turning at one degree a millisecond. */
const camOf = (angles: readonly number[]): Track =>
  ({
    reads: 'levels',
    edges: {
      seconds: Float64Array.from(angles.flatMap((angle) => [angle / 1000, (angle + 20) / 1000])),
      level: Uint8Array.from(angles.flatMap(() => [1, 0])),
    },
  }) as unknown as Track;

describe('after how many turns the cam comes round', () => {
  const pulses = Float64Array.from({ length: 800 }, (_, i) => (6 * i) / 1000);
  const degrees = pulses.map((seconds) => seconds * 1000);
  const of = (angles: readonly number[]) => camRound(camOf(angles), pulses, degrees, 360, 58);
  const cycles = Array.from({ length: 6 }, (_, i) => 720 * i);
  test('one window a cycle', () => {
    expect(of(cycles.map((base) => base + 100))).toMatchObject({ rounds: 2, evenly: false });
  });
  test('uneven windows, one of them lost and one too many', () => {
    const angles = cycles.flatMap((base) => [100, 250, 520].map((at) => base + at));
    expect(of(angles)).toMatchObject({ rounds: 2, evenly: false });
    expect(of(angles.filter((_, i) => i !== 7))?.rounds).toBe(2);
    expect(of([...angles, 1501].sort((one, other) => one - other))?.rounds).toBe(2);
  });
  test('windows all alike come round within; no rhythm is none', () => {
    expect(of(cycles.flatMap((base) => [60, 300, 540].map((at) => base + at)))).toMatchObject({
      rounds: 2,
      evenly: true,
    });
    expect(of([100, 513, 1270, 1511, 2405, 3071])).toBeNull();
  });
});

test('even teeth that are few are counted by a path where their neighbours mislead', () => {
  // A swing of 40 % at two compressions a turn, teeth 30 degrees apart, some lost: seeds at which plain counting fails.
  for (const seed of [1, 4, 5]) {
    const random = seeded(seed * 104_729);
    const { capture } = synth({
      crank: wheel('12-even'),
      cam: wheel('cam-1'),
      camDegrees: random() * 720,
      startDegrees: random() * 720,
      speed: { type: 'cranking', rpm: 240, ripple: 0.4, events: 2 },
      seconds: 2,
      sampleRate: 40_000,
      crankSensor: { type: 'hall' },
      faults: { jitter: 0.03, lost: 0.02 },
      random,
    });
    const [crank, cam] = [0, 1].map((index) => trackOf(capture, index));
    expect(placesPerCycle(cam, rowsOf(crank, 'square'))).toBe(24);
  }
});

test('vanes whose leading edges are even are told by their trailing ones, and read at those', () => {
  for (const id of ['vane-8-wide', 'vane-4-wide', 'vane-6-narrow'])
    for (const startDegrees of [0, 200]) {
      const { capture } = synth({
        crank: wheel(id),
        cam: null,
        startDegrees,
        speed: { type: 'cranking', rpm: 240, ripple: 0.4, events: 2 },
        seconds: 2,
        sampleRate: 40_000,
        crankSensor: { type: 'hall' },
        faults: { jitter: 0.02 },
        random: seeded(9),
      });
      const found = match(capture, { wheels: catalog.wheels });
      if (!found.ok) throw new Error(found.problem.sentence);
      expect(found.value.best.wheel.id).toBe(id);
      const edges = patternOf(
        wheel(id),
        found.value.best.inverted === (found.value.edge === 'rising') ? 'fall' : 'rise',
      );
      expect(edges.some((step) => Math.abs(step - edges[0]) > 1)).toBe(true);
    }
});

test('a library without a crank wheel is said, not stumbled over', () => {
  const { capture } = synth({
    crank: wheel('12-even'),
    cam: null,
    speed: { type: 'constant', rpm: 300 },
    seconds: 1,
    sampleRate: 20_000,
    crankSensor: { type: 'hall' },
    random: seeded(1),
  });
  const found = match(capture, { wheels: [] });
  expect(!found.ok && found.problem.code).toBe('no-wheels');
});

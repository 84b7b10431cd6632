import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { readBench } from '~/core/trigger/bench';
import { evenTime, secondsAt } from '~/core/trigger/capture/capture';
import { readCapture } from '~/core/trigger/capture/read';
import { match, type Match } from '~/core/trigger/match';
import { signalFaults } from '~/core/trigger/named';
import { pulsesOf, trackOf } from '~/core/trigger/tracks';
import { seeded } from '~/core/trigger/synth';
import type { Wheel } from '~/core/wheels/wheel';
import { wheel } from '../../helpers';
import { crankedCapture } from '../../crank-engine';
import { crankedCases, crankedFour, outcomeOf } from '../../cranked-captures';

/** Captures of a third make: an engine with inertia, gas and a starter, and the recorders people have (tests/crank-engine.ts). */
const four = crankedFour(wheel('36-1'), wheel('cam-1'));
/** A few wheels do where it is not asked which it is. */
const few = ['36-1', '60-2', '40-1', '12-1', '36-2-2-2', '24-1', '36-even', 'cam-1'].map(wheel);
const found = (capture: Parameters<typeof match>[0], wheels: readonly Wheel[] = few): Match => {
  const result = match(capture, { wheels });
  if (!result.ok) throw new Error(result.problem.sentence);
  return result.value;
};

describe('drawn by seeds that were never looked at', () => {
  let [right, honest] = [0, 0];
  const cases = crankedCases(12, catalog.wheels, 20_001);
  test.each(cases.map((one) => [one.name, one] as const))('%s', (_, one) => {
    const outcome = outcomeOf(one, match(crankedCapture(one.spec).capture, { wheels: catalog.wheels }));
    expect(outcome).not.toBe('wrong');
    if (outcome === 'right') right += 1;
    else honest += 1;
  });
  test('most of them are told', () => {
    expect(right + honest).toBe(cases.length);
    expect(right).toBeGreaterThanOrEqual(7);
  });
});

describe('a text with rows at changes only', () => {
  test.each(['60-2', '36-1', '40-1', '12-1', '36-2-2-2'])('%s: as steps, to the same times as a dump of it', (id) => {
    const own = { ...four, wheel: wheel(id), seed: 11 };
    const [text, dump] = (['changes', 'dump'] as const).map((recorder) => crankedCapture({ ...own, recorder }).capture);
    expect(text.notes.join(' ')).toMatch(/at changes only/);
    const times = [text, dump].map((capture) => pulsesOf(trackOf(capture, 0), 1));
    expect(times[0].length).toBe(times[1].length);
    // Both print the same ticks; drawn, an edge lies half a tick before its own.
    times[0].forEach((time, i) => expect(Math.abs(time - times[1][i])).toBeLessThan(text.resolution!));
    const [one, other] = [found(text), found(dump)];
    expect(one.best.wheel.id).toBe(id);
    expect(other.best.wheel.id).toBe(id);
    expect(one.verdict.kind).toBe(other.verdict.kind);
  });
  test('two waits that happen to be alike say nothing of the next', () => {
    // 600 rows: three waits of 400 µs, one of 900, over and over; a reader that steps over even rows makes all of them 525.
    const waits = Array.from({ length: 600 }, (_, i) => (i % 4 === 3 ? 900 : 400));
    const rows = waits.map(
      (
        (at) => (wait, i) =>
          `${((at += wait) / 1e6).toFixed(6)},${i % 2}`
      )(0),
    );
    const read = readCapture(new TextEncoder().encode(['Time [s],D0', ...rows, ''].join('\n')));
    if (!read.ok) throw new Error(read.problem.sentence);
    const capture = read.value;
    let at = 0;
    waits.forEach((wait, i) => {
      at += wait;
      expect(secondsAt(capture.time, 2 * i + 1) * 1e6).toBeCloseTo(at, 3);
    });
  });
  test('samples that come unevenly keep their holes', () => {
    let at = 0;
    const rows = Array.from({ length: 300 }, (_, i) => {
      at += i === 150 ? 0.02 : i % 2 === 0 ? 0.00045 : 0.00055;
      return `${at.toFixed(6)},${(2 * Math.sin(i / 3)).toFixed(3)}`;
    });
    const read = readCapture(new TextEncoder().encode(['Time (s),A (V)', ...rows, ''].join('\n')));
    if (!read.ok) throw new Error(read.problem.sentence);
    expect(read.value.count).toBe(300);
    expect(read.value.holes).toHaveLength(1);
    expect(read.value.notes.join(' ')).toMatch(/the time jumps ahead/);
  });
  test('samples stay samples: a line that toggles evenly is not taken for changes', () => {
    const rows = Array.from({ length: 200 }, (_, i) => `${(i * 0.0005).toFixed(4)},${i % 2}`);
    const read = readCapture(new TextEncoder().encode(['Time [s],D0', ...rows, ''].join('\n')));
    expect(read.ok && read.value.count).toBe(200);
  });
});

describe('what a file cannot show is not told', () => {
  test.each(['logic', 'changes', 'dump', 'sound'] as const)('%s: no volts, so no pull-up is missing', (recorder) => {
    const faults = signalFaults(found(crankedCapture({ ...four, recorder }).capture));
    expect(faults.map(({ id }) => id)).not.toContain('no-pull-up');
    expect(faults.map(({ id }) => id)).not.toContain('weak');
  });
  test('a scope that shows half a volt of swing still tells it', () => {
    const { capture } = crankedCapture({ ...four, recorder: 'scope' });
    const channels = capture.channels.map((one) => ({ ...one, values: one.values.map((value) => 0.2 + value / 9) }));
    expect(signalFaults(found({ ...capture, channels })).map(({ id }) => id)).toContain('no-pull-up');
  });
  test('rows that were dropped are a hole of the recording: no kick-back, no standstill, no lost tooth', () => {
    const { capture } = crankedCapture({ ...four, recorder: 'scope', seconds: 2.5 });
    const lines = ['Time (s),A (V),B (V)'];
    for (let i = 0; i < capture.count; i += 1) {
      const at = secondsAt(capture.time, i);
      if (at > 1.2 && at < 1.31) continue;
      lines.push(`${at.toFixed(6)},${capture.channels.map(({ values }) => values[i].toFixed(3)).join(',')}`);
    }
    const text = readCapture(new TextEncoder().encode(`${lines.join('\n')}\n`));
    if (!text.ok) throw new Error(text.problem.sentence);
    expect(text.value.holes).toHaveLength(1);
    const one = found(text.value);
    expect(one.best.wheel.id).toBe('36-1');
    expect(one.notes.join(' ')).toMatch(/has a hole \(1\.2\d* to 1\.31\d* s\)/);
    expect(signalFaults(one).map(({ id }) => id)).toEqual([]);
    const read = readBench(text.value, { wheels: few }, null);
    expect(read.ok && read.value.decoding.losses).toEqual([]);
  });
});

test('an engine that hardly turns is no crash, whatever it gives', () => {
  for (const { spec } of crankedCases(6, catalog.wheels, 31_000)) {
    const result = match(crankedCapture({ ...spec, flat: true }).capture, { wheels: few });
    if (result.ok) expect(result.value.verdict.reason.length).toBeGreaterThan(10);
    else expect(result.problem.sentence).toMatch(/\w+ .*\./);
  }
});

test('even teeth that the cam counts as an odd number a cycle are not told to be any', () => {
  // A single whose swing of half its speed makes sixteen pulses a cycle seventeen.
  const [one] = crankedCases(1, catalog.wheels, 62_077);
  expect(one.spec.wheel.id).toBe('8-even');
  const result = match(crankedCapture(one.spec).capture, { wheels: catalog.wheels });
  if (!result.ok) throw new Error(result.problem.sentence);
  expect(result.value.verdict.kind).toBe('one-of');
  expect(result.value.notes.join(' ')).toMatch(/their number cannot be told/);
});

test('a wheel more in the library turns no right answer into a wrong one', () => {
  const random = seeded(41);
  const known = crankedCases(40, catalog.wheels, 21_000, { unknown: 0 });
  let told = 0;
  for (const one of known.filter(({ spec }) => spec.wheel.family !== 'slot-disc').slice(0, 6)) {
    const { capture } = crankedCapture(one.spec);
    const some = catalog.wheels.filter(({ id }) => id === one.spec.wheel.id || id.startsWith('cam') || random() < 0.3);
    if (outcomeOf(one, match(capture, { wheels: some })) !== 'right') continue;
    told += 1;
    expect([one.name, outcomeOf(one, match(capture, { wheels: catalog.wheels }))]).not.toContain('wrong');
  }
  expect(told).toBeGreaterThanOrEqual(3);
});

test('renamed, turned over, cut at its start, or sampled twice as finely, it is the same wheel', () => {
  const { capture } = crankedCapture({ ...four, recorder: 'scope', cam: null });
  const cut = Math.round(capture.count / 5);
  const [only] = capture.channels;
  const step = (capture.time.seconds[1] - capture.time.seconds[0]) / (capture.count - 1);
  const doubled = Float32Array.from({ length: 2 * capture.count - 1 }, (_, i) =>
    i % 2 === 0 ? only.values[i >> 1] : (only.values[i >> 1] + only.values[(i >> 1) + 1]) / 2,
  );
  const most = Math.max(...only.values) + Math.min(...only.values);
  const others = [
    { ...capture, channels: [{ ...only, name: 'probe seven' }] },
    { ...capture, channels: [{ ...only, values: only.values.map((value) => most - value) }] },
    {
      ...capture,
      channels: [{ ...only, values: only.values.slice(cut) }],
      count: capture.count - cut,
      time: evenTime(capture.count - cut, step),
    },
    {
      ...capture,
      channels: [{ ...only, values: doubled }],
      count: doubled.length,
      time: evenTime(doubled.length, step / 2),
    },
  ];
  expect(found(capture).best.wheel.id).toBe('36-1');
  for (const other of others) {
    const { best, verdict } = found(other);
    expect(best.wheel.id).toBe('36-1');
    expect(verdict.kind).toBe('this');
  }
});

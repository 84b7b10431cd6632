import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { secondsAt, type Capture } from '~/core/trigger/capture/capture';
import { readCapture } from '~/core/trigger/capture/read';
import { disagreements } from '~/core/trigger/disagree';
import { match } from '~/core/trigger/match';
import { ecuFit } from '~/core/trigger/settings';
import { seeded } from '~/core/trigger/synth';
import { demoBuild } from '../../helpers';

/*
 * Logs of a wheel of 60 less 2, cranked at 230 to 290 rpm by a swing twice a turn: angles and times are worked out here, tooth by
 * tooth, and written in the forms that docs/formats.md names.
 */
const random = seeded(41);
/** Seconds at which the engine has turned so many degrees. */
function turnedBy(degrees: number): number {
  let [at, seconds] = [0, 0];
  while (at < degrees) {
    const rpm = 260 + 30 * Math.sin((2 * at * Math.PI) / 180);
    const step = Math.min(0.5, degrees - at);
    seconds += step / (6 * rpm);
    at += step;
  }
  return seconds;
}
const teeth = Array.from({ length: 60 * 9 }, (_, i) => i).filter((i) => i % 60 < 58);
const pulses = teeth.map((i) => ({
  rise: turnedBy(6 * i) + 1e-6 * random(),
  fall: turnedBy(6 * i + 3) + 1e-6 * random(),
}));
const cam = Array.from({ length: 4 }, (_, i) => turnedBy(720 * i + 100));

const read = (text: string): Capture => {
  const result = readCapture(new TextEncoder().encode(text));
  if (!result.ok) throw new Error(result.problem.sentence);
  return result.value;
};
const lines = (all: readonly (string | number)[]) => `${all.join('\n')}\n`;
const us = (seconds: number) => Math.round(seconds * 1e6);
const forms: readonly (readonly [string, string])[] = [
  ['times of one edge, seconds', lines(['Time (s)', ...pulses.map(({ rise }) => (rise + 0.01).toFixed(6))])],
  ['times of one edge, no head, microseconds', lines(pulses.map(({ rise }) => us(rise + 0.01)))],
  ['waits, microseconds', lines(['Interval (us)', ...pulses.slice(1).map(({ rise }, i) => us(rise - pulses[i].rise))])],
  [
    'waits, milliseconds, a tooth count ahead',
    lines([
      'Tooth,Tooth time (ms)',
      ...pulses.slice(1).map(({ rise }, i) => `${i + 1},${(1e3 * (rise - pulses[i].rise)).toFixed(3)}`),
    ]),
  ],
  ['pulses', lines(['Rise (s);Fall (s)', ...pulses.map(({ rise, fall }) => `${rise.toFixed(6)};${fall.toFixed(6)}`)])],
  [
    'waits with a decimal comma, milliseconds',
    lines([
      'Interval (ms)',
      ...pulses.slice(1).map(({ rise }, i) => (1e3 * (rise - pulses[i].rise)).toFixed(3).replace('.', ',')),
    ]),
  ],
  [
    'pulses with a decimal comma',
    lines([
      'Rise (s);Fall (s)',
      ...pulses.map(({ rise, fall }) => `${rise.toFixed(6)};${fall.toFixed(6)}`.replaceAll('.', ',')),
    ]),
  ],
  [
    'two inputs',
    lines([
      'Time (us),Input',
      ...[...pulses.map(({ rise }) => [us(rise), 'crank']), ...cam.map((at) => [us(at), 'cam'])]
        .sort((one, other) => Number(one[0]) - Number(other[0]))
        .map((row) => row.join(',')),
    ]),
  ],
];

describe.each(forms)('a log of teeth: %s', (_, text) => {
  const capture = read(text);
  test('each tooth is a step at its own time, and the log says what it is', () => {
    const [first] = capture.channels;
    const rises = Array.from({ length: capture.count - 1 }, (_, i) => i + 1).filter(
      (i) => first.values[i] === 1 && first.values[i - 1] === 0,
    );
    expect(rises.length).toBeGreaterThanOrEqual(pulses.length - 1);
    const [one, other] = [secondsAt(capture.time, rises[10]), secondsAt(capture.time, rises[400])];
    const shift = pulses.length - rises.length;
    expect(other - one).toBeCloseTo(pulses[400 + shift].rise - pulses[10 + shift].rise, 3);
    expect(capture.notes[0]).toMatch(/^A log of teeth: \d+ teeth, by /);
    expect(capture.channels.every(({ levelsOnly }) => levelsOnly)).toBe(true);
  });
  test('the wheel is recognised', () => {
    const found = match(capture, { wheels: catalog.wheels });
    if (!found.ok) throw new Error(found.problem.sentence);
    expect(found.value.best.wheel.id).toBe('60-2');
    expect(found.value.verdict.kind).toBe('this');
    // The demo has a VR sensor and could take either edge: neither is in a log.
    const build = demoBuild();
    for (const crankEdge of ['rising', 'falling'] as const)
      expect(disagreements(found.value, { ...build, trigger: { ...build.trigger, crankEdge } })).not.toContainEqual(
        expect.objectContaining({ what: expect.stringMatching(/edge|crank sensor/) }),
      );
    const { settings } = ecuFit(found.value, build.ecu, build.engine);
    const said = Object.fromEntries(settings.map(({ name, value }) => [name, value]));
    expect(said.Sensor).toBe('not in the file');
    expect(said['Pull-up']).toBeUndefined();
    expect(said.Edge === 'the one the log was taken by').toBe(capture.channels[0].oneEdge === true);
  });
});
test('only pulses hold both edges', () => {
  for (const [form, text] of forms)
    expect([form, read(text).channels[0].oneEdge === true]).toEqual([form, !form.startsWith('pulses')]);
});

test('what only one edge cannot show is said', () => {
  expect(read(forms[2][1]).notes).toContain(
    'Only one edge of each tooth is in the file: how wide its pulses are is not known.',
  );
  expect(read(forms[4][1]).notes.join(' ')).not.toMatch(/Only one edge/);
  expect(read(forms[1][1]).notes).toContain('The file says no unit: its figures are taken for microseconds.');
});

test('what is wrong in a log is told with its line', () => {
  const problem = (text: string) => {
    const result = readCapture(new TextEncoder().encode(text));
    return result.ok ? null : result.problem.sentence;
  };
  const waits = Array.from({ length: 40 }, (_, i) => 3000 + 7 * i);
  expect(problem(lines(['Interval (us)', ...waits.slice(0, 20), 'oops', ...waits.slice(20)]))).toBe(
    'Line 22 of the tooth log holds no figure where the others do.',
  );
  expect(problem(lines(['Interval (us)', ...waits.slice(0, 20), 0, ...waits.slice(20)]))).toBe(
    'Line 22 of the tooth log says a wait of nothing or less.',
  );
  expect(problem(lines(['Rise (s),Fall (s)', ...waits.map((_, i) => `${i === 9 ? 0.001 : i},${i + 0.5}`)]))).toBe(
    'The time runs back in line 11 of the tooth log.',
  );
  expect(problem(lines(['Interval (us)', 3000, 3100, 2900]))).toMatch(/holds 3 teeth: a turn of the wheel needs more/);
});

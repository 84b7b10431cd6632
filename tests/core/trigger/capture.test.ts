import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
  endOf,
  evenTime,
  indexAt,
  sampleRate,
  secondsAt,
  secondsOf,
  type Capture,
} from '~/core/trigger/capture/capture';
import { csvReader } from '~/core/trigger/capture/csv';
import { captureReader, readCapture, writeCapture, writeCsv } from '~/core/trigger/capture/read';
import { shapeOf } from '~/core/trigger/capture/shape';
import { qualityOf, squareEdges, vrEdges } from '~/core/trigger/capture/signal';
import { seeded, synth } from '~/core/trigger/synth';
import { between, pyramidOf, rangeOf } from '~/core/trigger/view';
import { wheel } from '../../helpers';

const bytes = (text: string) => new TextEncoder().encode(text);
const read = (text: string): Capture => {
  const result = readCapture(bytes(text));
  if (!result.ok) throw new Error(result.problem.sentence);
  return result.value;
};
const rows = (count: number, row: (i: number) => string) => Array.from({ length: count }, (_, i) => row(i)).join('\n');
/** A signal of two levels, so that something moves. */
const level = (i: number) => (i % 10 < 5 ? 0 : 5);
const shared = { count: 400, rate: 10_000 };

describe('texts of samples', () => {
  const shapes: [string, string, Partial<{ names: string[]; rate: number; high: number; count: number }>][] = [
    [
      'commas, units in the heading',
      `Time (s),crank (V),cam (V)\n${rows(400, (i) => `${(i * 1e-4).toFixed(4)},${level(i)},1.5`)}`,
      { names: ['crank', 'cam'] },
    ],
    [
      'semicolons and decimal commas',
      `Zeit [ms];A [V]\n${rows(400, (i) => `${(i * 0.1).toFixed(1).replace('.', ',')};${level(i)},0`)}\n`,
      { names: ['A'] },
    ],
    [
      'units in a second line, tabs',
      `time\tcrank\n(ms)\t(mV)\n${rows(400, (i) => `${(i * 0.1).toFixed(1)}\t${level(i) * 1000}`)}`,
      {},
    ],
    [
      'exponents and blanks',
      `x-axis,1\nsecond,Volt\n${rows(400, (i) => `${(i * 1e-4).toExponential(6)}, +${level(i).toExponential(3)}`)}`,
      {},
    ],
    [
      'an interval in the head, no time',
      `Model,none\nSample Interval,1.0E-4\nUnits,V\n\n${rows(400, (i) => `${level(i)}`)}`,
      { names: ['channel 1'] },
    ],
    [
      'a rate in the head, numbered rows',
      `Sample rate: 10 kHz\nsample,A\n${rows(400, (i) => `${i},${level(i)}`)}`,
      { names: ['A'] },
    ],
    [
      'Windows line ends and quotes in the head',
      `"Time","CH 1"\r\n"s","V"\r\n${rows(400, (i) => `${(i * 1e-4).toFixed(5)},${level(i)}`).replaceAll('\n', '\r\n')}\r\n`,
      { names: ['CH 1'] },
    ],
    ['no head, no unit', rows(400, (i) => `${(i * 1e-4).toFixed(4)},${level(i)}`), { names: ['channel 1'] }],
    ['milliseconds without a unit', `time,crank\n${rows(400, (i) => `${(i * 0.1).toFixed(1)},${level(i)}`)}`, {}],
    [
      'spaces',
      rows(400, (i) => `${(i * 1e-4).toFixed(4)}  ${level(i)}  -${level(i)}`),
      { names: ['channel 1', 'channel 2'] },
    ],
    ['negative start', `Time (s),A (V)\n${rows(400, (i) => `${((i - 200) * 1e-4).toFixed(4)},${level(i)}`)}`, {}],
    ['coarse printed times', `Time (s),A\n${rows(400, (i) => `${(i * 1e-4).toFixed(3)},${level(i)}`)}`, {}],
  ];
  test.each(shapes)('%s', (_, text, { names, rate = shared.rate, high = 5, count = shared.count }) => {
    const capture = read(text);
    expect(capture.count).toBe(count);
    expect(sampleRate(capture) / rate).toBeCloseTo(1, 1);
    expect(Math.max(...capture.channels[0].values)).toBeCloseTo(high, 5);
    expect([...capture.channels[0].values.subarray(0, 12)].map((one) => Math.round(one))).toEqual(
      Array.from({ length: 12 }, (_, i) => level(i)),
    );
    if (names) expect(capture.channels.map(({ name }) => name)).toEqual(names);
  });

  test('cut anywhere into pieces it reads the same', () => {
    const text = `Time (s),A (V),B (V)\n${rows(1500, (i) => `${(i * 1e-5).toFixed(6)},${(Math.sin(i / 9) * 3).toFixed(4)},${level(i)}`)}\n`;
    const whole = read(text);
    const all = bytes(text);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: all.length }), { minLength: 1, maxLength: 9 }), (cuts) => {
        const reader = captureReader();
        let at = 0;
        for (const cut of [...cuts.sort((one, other) => one - other), all.length]) {
          expect(reader.push(all.subarray(at, cut)).ok).toBe(true);
          at = cut;
        }
        const result = reader.finish();
        if (!result.ok) throw new Error(result.problem.sentence);
        expect(result.value).toEqual(whole);
      }),
      { numRuns: 40 },
    );
  });

  test('large enough to pass the look-ahead, in small pieces, every value is there', () => {
    const text = `Time (s),A (V)\n${rows(20_000, (i) => `${(i * 1e-5).toFixed(5)},${(i % 97) / 8}`)}\n`;
    const reader = csvReader();
    const all = bytes(text);
    for (let at = 0; at < all.length; at += 7919) expect(reader.push(all.subarray(at, at + 7919)).ok).toBe(true);
    const result = reader.finish();
    if (!result.ok) throw new Error(result.problem.sentence);
    expect(result.value.count).toBe(20_000);
    for (const i of [0, 255, 256, 511, 4097, 19_999])
      expect(result.value.channels[0].values[i]).toBeCloseTo((i % 97) / 8, 5);
    expect(endOf(result.value)).toBeCloseTo(0.19999, 9);
  });

  test('missing samples are a jump of the time, told and kept', () => {
    const at = (i: number) => (i < 6000 ? i : i + 500) * 1e-4;
    const capture = read(`Time (s),A (V)\n${rows(12_000, (i) => `${at(i).toFixed(4)},${level(i)}`)}`);
    expect(secondsAt(capture.time, 5999)).toBeCloseTo(0.5999, 6);
    expect(secondsAt(capture.time, 6000)).toBeCloseTo(0.65, 6);
    expect(secondsAt(capture.time, 11_999)).toBeCloseTo(at(11_999), 6);
    expect(capture.notes.join(' ')).toMatch(/In 1 place samples are missing/);
  });

  test('an uneven log keeps its own times', () => {
    const random = seeded(3);
    let now = 0;
    const times = Array.from({ length: 900 }, () => (now += 1e-4 + random() * 3e-4));
    const capture = read(`Time (s),A (V)\n${rows(900, (i) => `${times[i].toFixed(7)},${level(i)}`)}`);
    for (let i = 0; i < 900; i += 37) expect(secondsAt(capture.time, i)).toBeCloseTo(times[i], 4);
  });

  test('cells without a figure are no signal, other lines are left out and told', () => {
    const text = `Time (s),A (V)\n${rows(300, (i) => (i === 50 ? '0.0050,' : i === 80 ? 'comment here' : `${(i * 1e-4).toFixed(4)},${level(i)}`))}`;
    const capture = read(text);
    expect(capture.count).toBe(299);
    expect(capture.channels[0].values[50]).toBeNaN();
    expect(capture.notes.join(' ')).toMatch(
      /1 cell has no figure.*1 line is no row of figures and left out, the first is line 82/,
    );
  });

  test.each([
    ['empty', '', 'empty'],
    ['prose', 'Dear friend,\nthis is no capture\nat all', 'not-capture'],
    ['binary', `\u0000\u0001\u0002${'\u0003'.repeat(900)}`, 'not-capture'],
    ['one column, no interval', rows(50, (i) => `${level(i)}`), 'no-time-base'],
    ['two signals, no time', `A,B\n${rows(50, (i) => `${level(i)},${level(i + 3)}`)}`, 'no-time-base'],
    ['only a time', `Time (s)\n${rows(50, (i) => `${i / 1000}`)}`, 'one-column'],
    ['two captures in one', `Time (s),A\n${rows(50, (i) => `${(i % 30) / 1000},${level(i)}`)}`, 'no-time-base'],
    ['one row', 'Time (s),A (V)\n0.1,2', 'not-capture'],
  ])('%s is refused in one sentence', (_, text, code) => {
    const result = readCapture(bytes(text));
    expect(result).toMatchObject({ ok: false, problem: { code } });
    if (!result.ok) expect(result.problem.sentence).toMatch(/^[A-Z].*\.$/);
  });
  test('time that runs back names its line', () => {
    const result = readCapture(
      bytes(`Time (s),A\n${rows(9000, (i) => `${((i % 8000) / 1000).toFixed(3)},${level(i)}`)}`),
    );
    expect(result).toMatchObject({ ok: false, problem: { code: 'time-runs-back', path: 'line 8002' } });
  });
});

describe('times', () => {
  test('index and seconds undo each other over a gap', () => {
    const time = { index: Float64Array.of(0, 99, 100, 199), seconds: Float64Array.of(0, 0.99, 2, 2.99) };
    fc.assert(
      fc.property(fc.double({ min: 0, max: 199, noNaN: true }), (index) => {
        expect(indexAt(time, secondsAt(time, index))).toBeCloseTo(index, 6);
      }),
    );
    expect(secondsOf(time, [0, 50, 99.5, 150])).toEqual(
      Float64Array.from([0, 50, 99.5, 150].map((one) => secondsAt(time, one))),
    );
  });
});

describe('signals', () => {
  const wave = (count: number, f: (i: number) => number) => Float32Array.from({ length: count }, (_, i) => f(i));
  test('kinds are told apart', () => {
    expect(shapeOf(wave(1000, () => 2)).kind).toBe('constant');
    expect(shapeOf(wave(4000, (i) => (i % 40 < 20 ? 0.2 : 4.9))).kind).toBe('square');
    // A tooth a cycle: low for most of the time.
    expect(shapeOf(wave(4000, (i) => (i % 1000 < 20 ? 4.9 : 0.2))).kind).toBe('square');
    expect(shapeOf(wave(4000, (i) => Math.sin(i / 5))).kind).toBe('vr');
  });
  test('square: a slow edge counts once, at half height', () => {
    const values = wave(400, (i) => Math.min(5, Math.max(0, (i % 200) / 10 - 5)) + (i % 2) * 0.2);
    const shape = shapeOf(values);
    const edges = squareEdges(values, shape, evenTime(400, 1));
    expect([...edges.level]).toEqual([1, 0, 1]);
    expect(edges.at[0]).toBeGreaterThan(72);
    expect(edges.at[0]).toBeLessThan(80);
  });
  test('VR: every lobe of a rising speed counts once, noise between does not', () => {
    const random = seeded(4);
    const { capture } = synth({
      crank: wheel('36-1'),
      cam: null,
      speed: { type: 'rising', fromRpm: 100, toRpm: 3000 },
      seconds: 2,
      sampleRate: 100_000,
      crankSensor: { type: 'vr' },
      faults: { noiseVolts: 0.01 },
      random,
    });
    const [channel] = capture.channels;
    const shape = shapeOf(channel.values);
    const edges = vrEdges(channel.values, shape, capture.time);
    const falls = [...edges.level].filter((one) => one === 0).length;
    // Turns = mean rpm / 60 x seconds; 35 teeth each.
    expect(falls / ((1550 / 60) * 2 * 35)).toBeCloseTo(1, 1);
    const quality = qualityOf(shape, edges);
    expect(quality.volts[1] / quality.volts[0]).toBeGreaterThan(2);
    expect(quality.voltsPer100Hertz).toBeGreaterThan(0);
  });
});

describe('drawing', () => {
  test('least and most of any span equal those of its samples', () => {
    const random = seeded(9);
    const values = Float32Array.from({ length: 5000 }, () => random());
    const pyramid = pyramidOf(values);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 4999 }), fc.integer({ min: 1, max: 5000 }), (from, long) => {
        const part = values.subarray(from, Math.min(5000, from + long));
        expect(rangeOf(values, pyramid, from, from + long)).toEqual([Math.min(...part), Math.max(...part)]);
      }),
    );
  });
  test('between reads a rising row both ways', () => {
    expect(between([0, 10, 20], [100, 200, 400], 15)).toBe(300);
    expect(between([100, 200, 400], [0, 10, 20], 300)).toBe(15);
  });
});

describe('written and read again', () => {
  const made = synth({
    crank: wheel('60-2'),
    cam: wheel('cam-1'),
    speed: { type: 'constant', rpm: 300 },
    seconds: 0.5,
    sampleRate: 48_000,
    crankSensor: { type: 'vr' },
    random: seeded(1),
  }).capture;
  test.each(['csv', 'vcd', 'wav'] as const)('%s', (format) => {
    const result = readCapture(writeCapture(made, format, 48_000));
    if (!result.ok) throw new Error(result.problem.sentence);
    const { value } = result;
    expect(value.format).toBe(format);
    expect(value.channels).toHaveLength(2);
    expect(endOf(value)).toBeCloseTo(endOf(made), 3);
    const [one, other] = [value.channels[0].values, made.channels[0].values];
    // A sound file keeps the shape, not the volts.
    const scale = format === 'wav' ? Math.max(...other) / Math.max(...one) : 1;
    for (const share of [0.1, 0.35, 0.6, 0.85]) {
      const time = endOf(made) * share;
      const own = one[Math.round(indexAt(value.time, time))];
      expect(Math.abs(own * scale - other[Math.round(indexAt(made.time, time))])).toBeLessThan(0.15);
    }
  });
  test('the text names its units', () => {
    expect(writeCsv(made).split('\n')[0]).toBe('Time (s),crank (V),cam (V)');
  });
});

describe('what is no capture says so in words a person can use', () => {
  const bytes = (text: string) => new TextEncoder().encode(text);
  const sentence = (given: Uint8Array) => {
    const read = readCapture(given);
    return read.ok ? 'read' : read.problem.sentence;
  };
  const rows = (figure: string) =>
    bytes(['time,crank', ...Array.from({ length: 60 }, (_, i) => `${(i / 1000).toFixed(4)},${figure}`)].join('\n'));
  test('ten megabytes of nothing are not called empty', () => {
    expect(sentence(new Uint8Array(0))).toBe('The file is empty.');
    expect(sentence(new Uint8Array(10_000_000).fill(32))).toMatch(/nothing but blanks/);
    expect(sentence(new Uint8Array(10_000_000))).toMatch(/neither text nor a sound file/);
    expect(sentence(bytes('a'.repeat(2_000_000)))).toMatch(/first line does not come to an end/);
  });
  test('figures beyond any voltage are told, never written out', () => {
    expect(sentence(rows('1e308'))).toMatch(/can be a voltage/);
    const mixed = new TextDecoder().decode(rows('5')).replace(',5\n', ',-1e308\n');
    const read = readCapture(bytes(mixed));
    if (!read.ok) throw new Error(read.problem.sentence);
    expect(read.value.notes.join(' ')).toMatch(/1 figure beyond any voltage counts as no signal/);
  });
});

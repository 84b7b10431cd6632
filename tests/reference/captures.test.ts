import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, test } from '@jest/globals';
import wavefile from 'wavefile';
import { catalog } from '~/catalog';
import { endOf, sampleRate } from '~/core/trigger/capture/capture';
import { readCapture, writeCapture } from '~/core/trigger/capture/read';
import { match } from '~/core/trigger/match';
import { seeded, synth } from '~/core/trigger/synth';
import { trackOf } from '~/core/trigger/tracks';
import { pulseHertz, teethPerCycle } from '~/core/wheels/wheel';
import { wheel } from '../helpers';

const { WaveFile } = wavefile;
const read = (bytes: Uint8Array) => {
  const result = readCapture(bytes);
  if (!result.ok) throw new Error(result.problem.sentence);
  return result.value;
};

/** RIFF/WAVE: files made and read by the package wavefile 11.0.0. */
describe('sound files', () => {
  const wave = Float64Array.from({ length: 2000 }, (_, i) => 0.8 * Math.sin(i / 20));
  const other = wave.map((value) => -value / 2);
  test.each([
    ['8', 255, 128, 0.01],
    ['16', 32767, 0, 1e-4],
    ['24', 8388607, 0, 1e-6],
    ['32', 2147483647, 0, 1e-6],
    ['32f', 1, 0, 1e-6],
  ] as const)('%s bits, two channels', (depth, most, middle, near) => {
    const made = new WaveFile();
    const scale = (value: number) =>
      depth === '32f' ? value : depth === '8' ? Math.round(value * 127) + middle : Math.round(value * most);
    made.fromScratch(2, 48_000, depth, [wave.map(scale), other.map(scale)] as never);
    const capture = read(made.toBuffer());
    expect(capture.count).toBe(2000);
    expect(sampleRate(capture)).toBeCloseTo(48_000, 3);
    for (const i of [0, 17, 500, 1999]) {
      expect(Math.abs(capture.channels[0].values[i] - wave[i])).toBeLessThan(near + 0.01 * Number(depth === '8'));
      expect(Math.abs(capture.channels[1].values[i] - other[i])).toBeLessThan(near + 0.01 * Number(depth === '8'));
    }
  });
  test('what Gonyx writes, the package reads', () => {
    const { capture } = synth({
      crank: wheel('60-2'),
      cam: wheel('cam-1'),
      speed: { type: 'constant', rpm: 300 },
      seconds: 0.2,
      sampleRate: 44_100,
      crankSensor: { type: 'vr' },
      random: seeded(2),
    });
    const file = new WaveFile(writeCapture(capture, 'wav', 44_100));
    expect(file.fmt).toMatchObject({ numChannels: 2, sampleRate: 44_100, bitsPerSample: 16 });
    const [left] = file.getSamples(false) as unknown as Float64Array[];
    expect(left).toHaveLength(capture.count);
    const [peak, sample] = [Math.max(...left), left.indexOf(Math.max(...left))];
    expect(peak).toBeGreaterThan(30_000);
    expect(capture.channels[0].values[sample]).toBeCloseTo(Math.max(...capture.channels[0].values), 3);
  });
  test('a file cut short is read as far as it goes, and told', () => {
    const made = new WaveFile();
    made.fromScratch(1, 8000, '16', [...wave].map((value) => Math.round(value * 30_000)) as never);
    const capture = read(made.toBuffer().subarray(0, 1044));
    expect(capture.count).toBe(500);
    expect(capture.notes.join(' ')).toMatch(/cut short/);
  });
});

/** IEEE 1364-2005, 18.2: a four-state dump written by hand after the standard's grammar. */
describe('value change dumps', () => {
  const dump = `$date
   a day
$end
$version made by hand $end
$comment none $end
$timescale 10 us $end
$scope module top $end
$var wire 1 *@ crank $end
$var real 64 (k cam $end
$var reg 4 ! bus [3:0] $end
$upscope $end
$enddefinitions $end
$dumpvars
x*@
r0.5 (k
b1x0z !
$end
#50
1*@
#150
0*@ r2.5 (k
$comment 1*@ r9 (k $end
#250
z*@
b1111 !
#300
`;
  test('levels, reals and vectors at their times', () => {
    const capture = read(new TextEncoder().encode(dump));
    expect(capture.channels.map(({ name }) => name)).toEqual(['crank', 'cam', 'bus [3:0]']);
    expect(endOf(capture)).toBeCloseTo(300 * 10e-6, 9);
    const [crank, cam, bus] = capture.channels;
    // Two samples a change: before it and at it.
    expect([...crank.values]).toEqual([0, 0, 0, 5, 5, 0, 0, 0, 0, 0]);
    expect([...cam.values].slice(0, 6)).toEqual([0.5, 0.5, 0.5, 0.5, 0.5, 2.5]);
    expect(bus.values[0]).toBe(8);
    expect(bus.values[bus.values.length - 1]).toBe(15);
  });
  test.each([
    ['no time scale', dump.replace('$timescale 10 us $end', ''), 'no-time-base'],
    ['a time scale the standard has not', dump.replace('10 us', '7 us'), 'no-time-base'],
    ['cut in its head', dump.slice(0, 90), 'not-vcd'],
    ['time running back', dump.replace('#250', '#100'), 'time-runs-back'],
    ['no change', `${dump.split('$dumpvars')[0]}`, 'no-signal'],
  ])('%s is refused', (_, text, code) => {
    expect(readCapture(new TextEncoder().encode(text))).toMatchObject({ ok: false, problem: { code } });
  });
});

/** IEEE 1364-2005: dumps written by a Verilog simulator of Debian (iverilog 11), from a wheel written in Verilog. */
describe('value change dumps of a simulator', () => {
  // One turn is 60 places of 400 microseconds: 2500 rpm. The last two have no tooth; the cam is high for 10 ms a cycle.
  const bench = `\`timescale 1us/100ns
module wheel;
  reg crank; real cam; integer place; wire [3:0] low = place[3:0];
  initial begin
    $dumpfile("wheel.vcd"); $dumpvars(0, wheel);
    crank = 0; cam = 0.25;
    for (place = 0; place < 600; place = place + 1) begin
      if (place % 120 == 30) cam = 4.75;
      if (place % 120 == 55) cam = 0.25;
      crank = (place % 60) < 58; #200 crank = 0; #200;
    end
    $finish;
  end
endmodule
`;
  const dump = (): Uint8Array => {
    const folder = mkdtempSync(path.join(tmpdir(), 'gonyx-vcd-'));
    try {
      writeFileSync(path.join(folder, 'wheel.v'), bench);
      const made = spawnSync('iverilog', ['-o', 'wheel', 'wheel.v'], { cwd: folder, encoding: 'utf8' });
      if (made.status !== 0) throw new Error(`iverilog: ${made.error?.message ?? made.stderr}`);
      const ran = spawnSync('vvp', ['wheel'], { cwd: folder, encoding: 'utf8' });
      if (ran.status !== 0) throw new Error(`vvp: ${ran.error?.message ?? ran.stderr}`);
      return readFileSync(path.join(folder, 'wheel.vcd'));
    } finally {
      rmSync(folder, { recursive: true });
    }
  };
  test('is read edge by edge, and its wheel recognised', () => {
    const capture = read(dump());
    const names = capture.channels.map(({ name }) => name.split(' ')[0]);
    expect(names).toEqual(expect.arrayContaining(['crank', 'cam', 'place', 'low']));
    expect(endOf(capture)).toBeCloseTo(600 * 400e-6, 6);
    const track = trackOf(capture, names.indexOf('crank'));
    const rises = [...track.edges.seconds].filter((_, i) => track.edges.level[i] === 1);
    // The first tooth is high from the start: it has no rise.
    const teeth = Array.from({ length: 600 }, (_, place) => place).filter((place) => place % 60 < 58 && place > 0);
    expect(rises).toHaveLength(teeth.length);
    teeth.forEach((place, i) => expect(rises[i]).toBeCloseTo(place * 400e-6, 7));
    const cam = capture.channels[names.indexOf('cam')].values;
    expect([Math.min(...cam), Math.max(...cam)]).toEqual([0.25, 4.75]);
    const found = match(capture, { wheels: catalog.wheels, crank: 'crank', cam: 'cam' });
    if (!found.ok) throw new Error(found.problem.sentence);
    expect(found.value.best.wheel.id).toBe('60-2');
    expect(found.value.rpm.mean).toBeCloseTo(2500, 0);
    expect(found.value.camFit).toMatchObject({ pulsesPerCycle: 1, tellsPhase: true });
  });
});

/** Frequencies (common practice): f = pulses a turn x rpm / 60; 65 Hz beside 25 Hz at 975 rpm is 4 teeth and 3 a cycle. */
describe('frequency facts', () => {
  test('4 crank pulses a turn at 975 rpm are 65 Hz, 3 cam pulses a cycle 24.4 Hz', () => {
    expect(pulseHertz(wheel('4-even'), 975)).toBeCloseTo(65, 9);
    expect(pulseHertz(wheel('cam-3-phaser'), 975)).toBeCloseTo(24.375, 9);
    expect(teethPerCycle(wheel('4-even')) / teethPerCycle(wheel('cam-3-phaser'))).toBeCloseTo(2.667, 3);
  });
  test('a simulated 60-2 at 600 rpm has 580 teeth a second', () => {
    expect(pulseHertz(wheel('60-2'), 600)).toBe(580);
    const { capture } = synth({
      crank: wheel('60-2'),
      cam: null,
      speed: { type: 'constant', rpm: 600 },
      seconds: 1,
      sampleRate: 50_000,
      crankSensor: { type: 'hall' },
      random: seeded(1),
    });
    const { values } = capture.channels[0];
    let rises = 0;
    for (let i = 1; i < values.length; i += 1) if (values[i - 1] < 2.5 && values[i] >= 2.5) rises += 1;
    expect(Math.abs(rises - 580)).toBeLessThanOrEqual(1);
  });
});

import { spawnSync } from 'node:child_process';
import { closeSync, existsSync, mkdtempSync, openSync, readSync, rmSync, statSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { catalog } from '~/catalog';
import { match } from '~/core/trigger/match';
import { seeded, synth } from '~/core/trigger/synth';
import type { Wheel } from '~/core/wheels/wheel';
import { readCaptureFile } from './trigger';

/** Rows of the wheel bench: a capture read and matched against scanning its bytes, memory, and which wheel is taken for which. */

const middle = (values: number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const wheel = (id: string) => catalog.wheels.find((one) => one.id === id)!;

/** A text of samples made of one stretch of cranking over and over, times running on. */
function writeSamples(file: string, count: number): void {
  const { capture } = synth({
    crank: wheel('60-2'),
    cam: wheel('cam-1'),
    // Whole cycles, so that the stretches join: 0.4 s at 300 rpm are two turns.
    speed: { type: 'constant', rpm: 300 },
    seconds: 0.4,
    sampleRate: 250_000,
    crankSensor: { type: 'vr' },
    random: seeded(1),
  });
  const [crank, cam] = capture.channels.map(({ values }) => [...values].map((value) => value.toFixed(4)));
  const handle = openSync(file, 'w');
  writeSync(handle, 'Time (s),crank (V),cam (V)\n');
  let text: string[] = [];
  for (let i = 0; i < count; i += 1) {
    const at = i % capture.count;
    text.push(`${(i * 4e-6).toFixed(6)},${crank[at]},${cam[at]}\n`);
    if (text.length === 50_000 || i === count - 1) {
      writeSync(handle, text.join(''));
      text = [];
    }
  }
  closeSync(handle);
}

/** Megabytes a process of its own takes at its highest to read and match a file. */
function peakMegabytes(file: string): number {
  const script = path.join(import.meta.dirname, 'bench-memory.ts');
  const ran = spawnSync(process.execPath, ['--import', 'tsx', script, file], { encoding: 'utf8' });
  if (ran.status !== 0) throw new Error(ran.stderr);
  return (JSON.parse(ran.stdout) as { megabytes: number }).megabytes;
}

/** Counts line ends, byte by byte: what reading has to be held against. */
function scan(file: string): number {
  const handle = openSync(file, 'r');
  const buffer = new Uint8Array(1 << 20);
  let lines = 0;
  for (;;) {
    const got = readSync(handle, buffer, 0, buffer.length, null);
    if (got === 0) break;
    for (let i = 0; i < got; i += 1) if (buffer[i] === 10) lines += 1;
  }
  closeSync(handle);
  return lines;
}

export interface TriggerRow {
  readonly name: string;
  readonly median: number;
  readonly unit: string;
  readonly reference?: string;
  readonly ratio?: number;
}

export function triggerRows(): TriggerRow[] {
  const folder = mkdtempSync(path.join(tmpdir(), 'gonyx-bench-'));
  const rows: TriggerRow[] = [];
  try {
    for (const count of [100_000, 1_000_000, 10_000_000]) {
      const file = path.join(folder, `${count}.csv`);
      writeSamples(file, count);
      const [mine, scanned]: number[][] = [[], []];
      for (let round = 0; round < 5; round += 1) {
        let start = performance.now();
        scan(file);
        scanned.push(performance.now() - start);
        start = performance.now();
        const capture = readCaptureFile(file);
        if (!capture.ok) throw new Error(capture.problem.sentence);
        const found = match(capture.value, { wheels: catalog.wheels });
        if (!found.ok || found.value.best.wheel.id !== '60-2') throw new Error('the bench capture was not recognised');
        mine.push(performance.now() - start);
      }
      const megabytes = statSync(file).size / 1e6;
      rows.push({
        name: `capture of ${(count / 1e6).toFixed(1)} million rows read and matched`,
        median: middle(mine),
        unit: 'ms',
        reference: `scanning its ${megabytes.toFixed(0)} MB for line ends`,
        ratio: middle(mine) / middle(scanned),
      });
      rows.push({ name: `  peak memory of a process that does only this`, median: peakMegabytes(file), unit: 'MB' });
      rmSync(file);
    }
  } finally {
    if (existsSync(folder)) rmSync(folder, { recursive: true });
  }
  return rows;
}

/** Which wheel each wheel is taken for, cranking with swing, jitter and lost pulses: only what is confused is printed. */
export function confusion(): string {
  const primary = ({ shaft, family }: Wheel) => shaft === 'crank' || family === 'distributor' || family === 'slot-disc';
  const lines: string[] = [];
  let [right, all] = [0, 0];
  for (const own of catalog.wheels) {
    const taken = new Map<string, number>();
    for (const seed of [1, 2, 3]) {
      const random = seeded(seed * 104_729);
      const { capture } = synth({
        crank: primary(own) ? own : wheel('36-1'),
        cam: primary(own) ? (own.family === 'distributor' || own.tracks ? null : wheel('cam-1')) : own,
        camDegrees: random() * 720,
        startDegrees: random() * 720,
        speed: { type: 'cranking', rpm: 240, ripple: 0.4, events: 2 },
        seconds: 2,
        sampleRate: own.family === 'slot-disc' ? 100_000 : 40_000,
        crankSensor: { type: 'hall' },
        faults: { jitter: 0.03, lost: 0.02 },
        random,
      });
      const found = match(capture, { wheels: catalog.wheels });
      const id = !found.ok
        ? 'nothing'
        : primary(own)
          ? found.value.best.wheel.id
          : (found.value.camFit?.wheel?.id ?? 'no wheel of the library');
      taken.set(id, (taken.get(id) ?? 0) + 1);
      all += 1;
      if (id === own.id) right += 1;
    }
    const wrong = [...taken].filter(([id]) => id !== own.id);
    if (wrong.length > 0)
      lines.push(`  ${own.id.padEnd(16)} taken for ${wrong.map(([id, count]) => `${id} ${count} of 3`).join(', ')}`);
  }
  return [`wheels at 40 % swing, 3 % jitter, one pulse in fifty lost: ${right} of ${all} recognised`, ...lines].join(
    '\n',
  );
}

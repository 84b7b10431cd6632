import { closeSync, openSync, readSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { catalog } from '~/catalog';
import type { Build } from '~/core/build/schema';
import { fail, ok, type Result } from '~/core/problem';
import { lossAnswer, matchAnswer, readBench } from '~/core/trigger/bench';
import { sampleRate, type Capture } from '~/core/trigger/capture/capture';
import { captureReader, writeCapture, type CaptureFormat } from '~/core/trigger/capture/read';
import { seeded, synth, type Faults, type Speed } from '~/core/trigger/synth';
import { missingToothWheel, type Wheel } from '~/core/wheels/wheel';

/** The commands of the wheel bench: captures in, wheels and losses out; and captures made. */

const PIECE = 1 << 20;

/** Reads a capture piece by piece, so that its size does not matter. */
export function readCaptureFile(path: string | undefined): Result<Capture> {
  if (path === undefined) return fail('usage', '', 'Name the capture file, or - for standard input.');
  let file: number;
  try {
    file = path === '-' ? 0 : openSync(path, 'r');
  } catch (error) {
    return fail(
      'unreadable',
      path,
      `${path} cannot be read: ${error instanceof Error ? error.message.split(',')[0] : String(error)}.`,
    );
  }
  const named = (result: Result<never>): Result<never> =>
    result.ok ? result : { ok: false, problem: { ...result.problem, sentence: `${path}: ${result.problem.sentence}` } };
  try {
    const reader = captureReader();
    const buffer = new Uint8Array(PIECE);
    for (;;) {
      const got = readSync(file, buffer, 0, PIECE, null);
      if (got === 0) break;
      const pushed = reader.push(buffer.subarray(0, got));
      if (!pushed.ok) return named(pushed);
    }
    const capture = reader.finish();
    return capture.ok ? capture : named(capture);
  } catch (error) {
    return fail(
      'unreadable',
      path,
      `${path} cannot be read: ${error instanceof Error ? error.message.split(',')[0] : String(error)}.`,
    );
  } finally {
    if (file !== 0) closeSync(file);
  }
}

type WithBuild = (path: string, use: (build: Build) => Result<TriggerAnswer>) => Result<TriggerAnswer>;
export interface TriggerAnswer {
  readonly output: unknown;
  readonly exit: 0 | 1;
  /** A file instead of JSON. */
  readonly bytes?: Uint8Array;
}

const reading = {
  crank: { type: 'string' },
  cam: { type: 'string' },
  'no-cam': { type: 'boolean', default: false },
  build: { type: 'string' },
} as const;

function bench(words: readonly string[], withBuild: WithBuild, full: boolean): Result<TriggerAnswer> {
  const { values, positionals } = parseArgs({ args: [...words], options: reading, allowPositionals: true });
  const use = (build: Build | null): Result<TriggerAnswer> => {
    const capture = readCaptureFile(positionals[0]);
    if (!capture.ok) return capture;
    const own = build
      ? [build.trigger.crankWheel, build.trigger.camWheel].filter((wheel): wheel is Wheel => wheel !== null)
      : [];
    const wheels = [...catalog.wheels, ...own.filter(({ id }) => !catalog.wheels.some((wheel) => wheel.id === id))];
    const read = readBench(
      capture.value,
      { crank: values.crank, cam: values['no-cam'] ? null : values.cam, wheels },
      build,
    );
    if (!read.ok)
      return { ok: false, problem: { ...read.problem, sentence: `${positionals[0]}: ${read.problem.sentence}` } };
    const { match, decoding, suspicions, ecu, disagreements } = read.value;
    const answer = matchAnswer(match, sampleRate(capture.value));
    const notes = [...capture.value.notes, ...answer.notes, ...disagreements.map(({ sentence }) => sentence)];
    if (!full)
      return ok({
        output: { ...answer, disagreements: disagreements.map(({ wheel: _, ...said }) => said), notes },
        exit: match.verdict.kind === 'this' ? 0 : 1,
      });
    return ok({
      output: {
        patternId: match.best.wheel.id,
        states: decoding.states,
        toAngle: decoding.toAngle,
        toFull: decoding.toFull,
        pulses: decoding.pulses,
        filtered: decoding.filtered,
        syncLosses: decoding.losses.map(lossAnswer),
        suspicions: suspicions.map(({ story, likelihood, title, evidence, remedy }) => ({
          story,
          likelihood: Number(likelihood.toFixed(3)),
          title,
          evidence,
          remedy,
        })),
        ...(ecu
          ? { ecu: { decodes: ecu.fit.decodes, reason: ecu.fit.reason, settings: ecu.settings, figures: ecu.figures } }
          : {}),
        notes,
      },
      exit:
        decoding.losses.some(({ cause }) => cause !== 'start' && cause !== 'stop') || decoding.toAngle === null ? 1 : 0,
    });
  };
  return values.build === undefined ? use(null) : withBuild(values.build, use);
}

const made = {
  pattern: { type: 'string' },
  cam: { type: 'string' },
  'cam-degrees': { type: 'string', default: '100' },
  rpm: { type: 'string', default: '250' },
  'to-rpm': { type: 'string' },
  ripple: { type: 'string', default: '0' },
  events: { type: 'string', default: '2' },
  start: { type: 'string', default: '0' },
  stop: { type: 'string', default: '0' },
  seconds: { type: 'string', default: '2' },
  rate: { type: 'string', default: '50000' },
  from: { type: 'string', default: '0' },
  seed: { type: 'string', default: '1' },
  sensor: { type: 'string', default: 'vr' },
  'cam-sensor': { type: 'string', default: 'hall' },
  gap: { type: 'string', default: '1' },
  'run-out': { type: 'string', default: '0' },
  'pull-up': { type: 'string', default: '5' },
  operate: { type: 'string', default: '0' },
  release: { type: 'string', default: '0' },
  format: { type: 'string', default: 'csv' },
  jitter: { type: 'string', default: '0' },
  noise: { type: 'string', default: '0' },
  lost: { type: 'string', default: '0' },
  added: { type: 'string', default: '0' },
  amplitude: { type: 'string' },
  spikes: { type: 'string' },
  'missing-tooth': { type: 'string' },
  'bent-tooth': { type: 'string' },
  swapped: { type: 'boolean', default: false },
  crossed: { type: 'boolean', default: false },
  'no-pull-up': { type: 'boolean', default: false },
} as const;

/** Most samples one simulation makes. */
const SAMPLES_MOST = 20_000_000;

function wheelOf(id: string, option: string): Result<Wheel> {
  const known = catalog.wheels.find((wheel) => wheel.id === id);
  if (known) return ok(known);
  const plain = /^(\d{1,3})-(\d)$/.exec(id);
  if (plain && Number(plain[1]) >= 3 && Number(plain[2]) < Number(plain[1]) - 1 && Number(plain[2]) > 0)
    return ok(missingToothWheel(Number(plain[1]), Number(plain[2])));
  return fail(
    'no-wheel',
    option,
    `${option} knows no wheel '${id}'; known are ${catalog.wheels.map((wheel) => wheel.id).join(', ')}, and any N-M.`,
  );
}

function synthesis(words: readonly string[]): Result<TriggerAnswer> {
  const { values } = parseArgs({ args: [...words], options: made });
  const numbers: Record<string, number> = {};
  const limits: readonly (readonly [keyof typeof made, number, number])[] = [
    ['cam-degrees', -720, 720],
    ['rpm', 1, 20000],
    ['to-rpm', 1, 20000],
    ['ripple', 0, 1.5],
    ['events', 0.5, 8],
    ['start', 0, 60],
    ['stop', 0, 60],
    ['seconds', 0.01, 600],
    ['rate', 1000, 10_000_000],
    ['from', -720, 720],
    ['seed', 0, 4294967295],
    ['gap', 0.2, 5],
    ['run-out', 0, 0.9],
    ['pull-up', 1, 24],
    ['operate', -20, 20],
    ['release', -20, 20],
    ['jitter', 0, 0.5],
    ['noise', 0, 50],
    ['lost', 0, 0.5],
    ['added', 0, 0.5],
    ['amplitude', 0, 10],
    ['spikes', 0, 200],
    ['missing-tooth', 0, 400],
  ];
  for (const [name, least, most] of limits) {
    const text = values[name];
    if (text === undefined) continue;
    const value = Number(text);
    if (!Number.isFinite(value) || value < least || value > most || String(text).trim() === '')
      return fail('usage', `--${name}`, `--${name} must be a number from ${least} to ${most}, not '${String(text)}'.`);
    numbers[name] = value;
  }
  if (values.pattern === undefined)
    return fail('usage', '--pattern', '--pattern is missing: name a wheel, such as 60-2.');
  const crank = wheelOf(values.pattern, '--pattern');
  if (!crank.ok) return crank;
  const cam = values.cam === undefined ? ok(null) : wheelOf(values.cam, '--cam');
  if (!cam.ok) return cam;
  const sensors = ['vr', 'hall', 'optical'] as const;
  const sensor = sensors.find((one) => one === values.sensor);
  const camSensor = sensors.find((one) => one === values['cam-sensor']);
  if (!sensor || !camSensor) return fail('usage', '--sensor', '--sensor and --cam-sensor are vr, hall or optical.');
  const format = (['csv', 'vcd', 'wav'] as const).find((one): one is CaptureFormat => one === values.format);
  if (!format) return fail('usage', '--format', `--format is csv, vcd or wav, not '${values.format}'.`);
  if (numbers.seconds * numbers.rate > SAMPLES_MOST)
    return fail(
      'usage',
      '--rate',
      `${numbers.seconds} s at ${numbers.rate} samples a second are more than ${SAMPLES_MOST / 1e6} million samples.`,
    );
  const bent = values['bent-tooth'] === undefined ? null : /^(\d+):(-?[\d.]+)$/.exec(values['bent-tooth']);
  if (values['bent-tooth'] !== undefined && !bent)
    return fail(
      'usage',
      '--bent-tooth',
      `--bent-tooth is tooth:degrees, such as 7:1.5, not '${values['bent-tooth']}'.`,
    );
  const speed: Speed =
    numbers['to-rpm'] !== undefined
      ? { type: 'rising', fromRpm: numbers.rpm, toRpm: numbers['to-rpm'] }
      : {
          type: 'cranking',
          rpm: numbers.rpm,
          ripple: numbers.ripple,
          events: numbers.events,
          startSeconds: numbers.start,
          stopSeconds: numbers.stop,
        };
  const each = 360 / numbers.events;
  const faults: Faults = {
    ...(numbers.jitter ? { jitter: numbers.jitter } : {}),
    ...(numbers.noise ? { noiseVolts: numbers.noise } : {}),
    ...(numbers.lost ? { lost: numbers.lost } : {}),
    ...(numbers.added ? { added: numbers.added } : {}),
    ...(numbers.amplitude !== undefined ? { amplitude: numbers.amplitude } : {}),
    ...(numbers['missing-tooth'] !== undefined ? { missingTooth: numbers['missing-tooth'] } : {}),
    ...(bent ? { bentTooth: { tooth: Number(bent[1]), degrees: Number(bent[2]) } } : {}),
    ...(numbers.spikes
      ? {
          coilSpikes: {
            volts: numbers.spikes,
            atDegrees: Array.from({ length: Math.round(720 / each) }, (_, i) => 10 + i * each),
          },
        }
      : {}),
    ...(values.swapped ? { swappedLeads: true } : {}),
    ...(values.crossed ? { crossed: true } : {}),
    ...(values['no-pull-up'] ? { droppedPullUp: true } : {}),
  };
  const { capture } = synth({
    crank: crank.value,
    cam: cam.value,
    camDegrees: numbers['cam-degrees'],
    startDegrees: numbers.from,
    speed,
    seconds: numbers.seconds,
    sampleRate: numbers.rate,
    crankSensor: {
      type: sensor,
      gapShare: numbers.gap,
      runOut: numbers['run-out'],
      pullUpVolts: numbers['pull-up'],
      operateDegrees: numbers.operate,
      releaseDegrees: numbers.release,
    },
    camSensor: { type: camSensor },
    faults,
    random: seeded(numbers.seed),
  });
  return ok({ output: null, exit: 0, bytes: writeCapture(capture, format, numbers.rate) });
}

export function triggerCommand(
  [verb, ...rest]: readonly string[],
  withBuild: WithBuild,
  offset: (words: readonly string[]) => Result<TriggerAnswer>,
): Result<TriggerAnswer> {
  switch (verb) {
    case 'offset':
      return offset(rest);
    case 'match':
      return bench(rest, withBuild, false);
    case 'decode':
      return bench(rest, withBuild, true);
    case 'synth':
      return synthesis(rest);
    default:
      return fail('usage', 'trigger', `trigger knows match, decode, synth and offset, not '${verb ?? ''}'.`);
  }
}

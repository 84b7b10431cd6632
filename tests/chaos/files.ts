import { zipSync } from 'fflate';
import { catalog } from '~/catalog';
import { parseBuild } from '~/core/build/parse';
import { libraryFile, parseLibrary } from '~/core/devices/library';
import { donorCsv, donorTsv, readTable } from '~/core/donor/table';
import { draftOf, pinoutCsv } from '~/core/ecu/draft';
import { ecuFile, parseEcuFile } from '~/core/ecu/file';
import { readPinout } from '~/core/ecu/pinout/read';
import { packBundle, readBundle } from '~/core/formats/bundle';
import { netlist } from '~/core/netlist/netlist';
import type { Result } from '~/core/problem';
import { findingsOf } from '~/core/rules';
import { parsePoints } from '~/core/sensing/points';
import { readCapture, writeCapture } from '~/core/trigger/capture/read';
import { parseWheelFile, wheelFile } from '~/core/trigger/file';
import { seeded, synth } from '~/core/trigger/synth';
import { demoBuilds } from '~/demo';
import { damage } from './mutate';

/** A kind of file a person may bring, whole examples of it, and what reads it. */
interface Kind {
  readonly name: string;
  readonly how: 'json' | 'text' | 'bytes';
  readonly whole: readonly Uint8Array[];
  readonly read: (bytes: Uint8Array) => Result<unknown>;
}

const encode = (text: string): Uint8Array => new TextEncoder().encode(text);
const decode = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);

function capture() {
  const wheel = catalog.wheels.find(({ id }) => id === '36-1') ?? catalog.wheels[0];
  const made = synth({
    crank: wheel,
    cam: null,
    speed: { type: 'constant', rpm: 250 },
    seconds: 0.5,
    sampleRate: 20_000,
    crankSensor: { type: 'hall' },
    random: seeded(7),
  });
  return made.capture;
}

/** A file that reads may still hold something the sheets stumble over: it is worked through as opening it would. */
function workedThrough(bytes: Uint8Array): Result<unknown> {
  const read = readBundle(bytes);
  if (read.ok) {
    const { build } = read.value;
    findingsOf(build, netlist(build));
  }
  return read;
}

export function fileKinds(): Kind[] {
  const builds = demoBuilds();
  const texts = builds.map((build) => encode(JSON.stringify(build)));
  const wires = Object.values(builds[0].survey.donor);
  const small = capture();
  return [
    { name: 'build', how: 'json', whole: texts, read: (bytes) => parseBuild(decode(bytes)) },
    { name: 'build, worked through', how: 'json', whole: texts, read: workedThrough },
    {
      name: 'bundle',
      how: 'bytes',
      whole: [packBundle(builds[1], new Map()), zipSync({ 'build.json': texts[1], 'photos/a.jpg': encode('x') })],
      read: readBundle,
    },
    {
      name: 'library',
      how: 'json',
      whole: [encode(libraryFile(catalog.kinds.slice(0, 40)))],
      read: (bytes) => parseLibrary(decode(bytes)),
    },
    {
      name: 'ECUs',
      how: 'json',
      whole: [encode(ecuFile([...catalog.ecus]))],
      read: (bytes) => parseEcuFile(decode(bytes)),
    },
    {
      name: 'wheels',
      how: 'json',
      whole: [encode(wheelFile(catalog.wheels.slice(0, 30)))],
      read: (bytes) => parseWheelFile(decode(bytes)),
    },
    {
      name: 'donor list',
      how: 'text',
      whole: [encode(donorCsv(wires)), encode(donorTsv(wires))],
      read: (bytes) => readTable(decode(bytes)),
    },
    {
      name: 'pinout',
      how: 'text',
      whole: catalog.ecus.slice(0, 3).map((ecu) => encode(pinoutCsv(draftOf(ecu)))),
      read: (bytes) => readPinout(decode(bytes)),
    },
    {
      name: 'points',
      how: 'text',
      whole: [encode('-20 15000\n0 5800\n20 2500\n80 330\n')],
      read: (bytes) => parsePoints(decode(bytes), { ohms: true }),
    },
    ...(['csv', 'vcd', 'wav'] as const).map((format): Kind => ({
      name: `capture, ${format}`,
      how: format === 'wav' ? 'bytes' : 'text',
      whole: [writeCapture(small, format, 20_000)],
      read: readCapture,
    })),
  ];
}

/** Words no person should be shown. */
const UNFIT =
  /Invalid (string|input|key|option)|must match pattern|must be a (object|array|int)|undefined|NaN|Infinity|Only 0 |\[object|Nothing was changed\.\s+Nothing was changed/;

export interface FilesAnswer {
  readonly files: number;
  readonly uncaught: readonly string[];
  readonly unfit: readonly string[];
  readonly slow: readonly string[];
}

/** Reads `count` damaged files, shared out over the kinds. `slowest` is what a read may take, seconds. */
export function mutateFiles(
  count: number,
  seed: number,
  slowest = 2,
  onProgress?: (done: number, bad: number) => void,
): FilesAnswer {
  const kinds = fileKinds();
  const answer = { files: 0, uncaught: [] as string[], unfit: new Set<string>(), slow: [] as string[] };
  for (let i = 0; i < count; i += 1) {
    const random = seeded(seed + i);
    const kind = kinds[i % kinds.length];
    const whole = kind.whole[Math.floor(random() * kind.whole.length)];
    const bytes = damage(whole, kind.how, random);
    const name = `${kind.name}, seed ${seed + i}`;
    const began = performance.now();
    try {
      const read = kind.read(bytes);
      if (!read.ok) {
        const { sentence } = read.problem;
        // What the file itself holds may be quoted, whatever it is.
        const own = sentence.replace(/'[^']*'/g, "''");
        if (UNFIT.test(own) || !/[.?!]$/.test(sentence) || sentence.length > 400)
          answer.unfit.add(`${kind.name}: ${sentence.slice(0, 200)} (seed ${seed + i})`);
      }
    } catch (error) {
      answer.uncaught.push(
        `${name}: ${error instanceof Error ? (error.stack ?? error.message).slice(0, 400) : String(error)}`,
      );
    }
    const seconds = (performance.now() - began) / 1000;
    if (seconds > slowest) answer.slow.push(`${name}: ${seconds.toFixed(1)} s`);
    answer.files += 1;
    if (onProgress && i % 1000 === 999)
      onProgress(i + 1, answer.uncaught.length + answer.unfit.size + answer.slow.length);
  }
  return { ...answer, unfit: [...answer.unfit] };
}

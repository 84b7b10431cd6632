import { expose, transfer } from 'comlink';
import type { Build } from '~/core/build/schema';
import { fail, ok, type Result } from '~/core/problem';
import { readBench, type BenchReading } from '~/core/trigger/bench';
import type { Capture } from '~/core/trigger/capture/capture';
import { captureReader, writeCapture, type CaptureFormat } from '~/core/trigger/capture/read';
import type { Loss } from '~/core/trigger/decoder';
import { pulseFaults } from '~/core/trigger/pulse-faults';
import { seeded, synth, type SynthSpec } from '~/core/trigger/synth';
import { pyramidOf, type Pyramid } from '~/core/trigger/view';
import type { Wheel } from '~/core/wheels/wheel';

export interface BenchRequest {
  readonly wheels: readonly Wheel[];
  readonly build: Pick<Build, 'ecu' | 'engine' | 'trigger' | 'devices' | 'kinds'>;
  /** Channels by number from 1, as the person chose them; undefined: by name or look. */
  readonly crank?: string;
  readonly cam?: string | null;
}

/** A capture read and understood, with what drawing it needs. */
export interface BenchView {
  readonly name: string;
  readonly capture: Capture;
  readonly pyramids: readonly Pyramid[];
  readonly reading: BenchReading;
  readonly faults: readonly Loss[];
}

type Progress = (share: number) => void;

function view(name: string, capture: Capture, request: BenchRequest, onProgress: Progress): Result<BenchView> {
  const read = readBench(
    capture,
    {
      wheels: request.wheels,
      crank: request.crank,
      cam: request.cam,
      onProgress: (share) => {
        onProgress(0.6 + 0.4 * share);
        return false;
      },
    },
    request.build,
  );
  if (!read.ok) return read;
  const pyramids = capture.channels.map(({ values }) => pyramidOf(values));
  const buffers = new Set<ArrayBuffer>();
  for (const { values } of capture.channels) buffers.add(values.buffer as ArrayBuffer);
  return transfer(ok({ name, capture, pyramids, reading: read.value, faults: pulseFaults(read.value.match) }), [
    ...buffers,
  ]);
}

/** The wheel bench off the page's thread. Cancelled by ending the worker. */
const api = {
  async read(file: File, request: BenchRequest, onProgress: Progress): Promise<Result<BenchView>> {
    const reader = captureReader();
    const stream = file.stream().getReader();
    let [seen, told] = [0, 0];
    for (;;) {
      const piece = await stream.read();
      if (piece.done) break;
      const pushed = reader.push(piece.value);
      if (!pushed.ok) {
        await stream.cancel();
        return named(file.name, pushed);
      }
      seen += piece.value.length;
      if (seen - told > 4_000_000) {
        told = seen;
        onProgress((0.6 * seen) / Math.max(1, file.size));
      }
    }
    const capture = reader.finish();
    if (!capture.ok) return named(file.name, capture);
    const made = view(file.name, capture.value, request, onProgress);
    return made.ok ? made : named(file.name, made);
  },
  again(name: string, capture: Capture, request: BenchRequest, onProgress: Progress): Result<BenchView> {
    const made = view(name, capture, request, onProgress);
    return made.ok ? made : named(name, made);
  },
  simulate(
    name: string,
    spec: Omit<SynthSpec, 'random'>,
    seed: number,
    request: BenchRequest,
    onProgress: Progress,
  ): Result<BenchView> {
    const { capture } = synth({ ...spec, random: seeded(seed) });
    onProgress(0.5);
    return view(name, capture, request, onProgress);
  },
  write(capture: Capture, format: CaptureFormat, rate: number): Uint8Array {
    return writeCapture(capture, format, rate);
  },
};

function named(name: string, result: Result<unknown>): Result<never> {
  return result.ok
    ? (result as never)
    : fail(result.problem.code, result.problem.path, `${name}: ${result.problem.sentence}`);
}

export type TriggerApi = typeof api;
expose(api);

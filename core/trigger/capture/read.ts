import { fail, ok, type Result } from '../../problem';
import { plural } from '../../units/format';
import { secondsAt, type Capture, type CaptureReader } from './capture';
import { csvReader } from './csv';
import { isToothLog, readToothLog } from './tooth-log';
import { gatherReader, readVcd, writeVcd } from './vcd';
import { readWav, writeWav } from './wav';

/** Largest dump and sound file read, bytes; texts of samples are streamed and may be larger. */
const WHOLE_MOST = 400_000_000;
/** Largest log of teeth read, bytes: some million teeth. */
const LOG_MOST = 40_000_000;

/** Reads any capture: the first bytes tell what it is. */
export function captureReader(): CaptureReader {
  let reader: CaptureReader | null = null;
  let waiting = new Uint8Array(0);
  const begin = (): CaptureReader => {
    const start = new TextDecoder('latin1').decode(waiting.subarray(0, 400));
    if (start.startsWith('RIFF')) return gatherReader(WHOLE_MOST, readWav, 'sound file');
    if (/^\s*(\$(date|version|comment|timescale|scope|var)\b)/.test(start))
      return gatherReader(WHOLE_MOST, (bytes) => readVcd(new TextDecoder().decode(bytes)), 'dump');
    if (isToothLog(start))
      return gatherReader(LOG_MOST, (bytes) => readToothLog(new TextDecoder().decode(bytes)), 'tooth log');
    return csvReader();
  };
  return {
    push(bytes) {
      if (reader) return reader.push(bytes);
      const joined = new Uint8Array(waiting.length + bytes.length);
      joined.set(waiting);
      joined.set(bytes, waiting.length);
      waiting = joined;
      if (waiting.length < 400) return ok(null);
      reader = begin();
      const first = waiting;
      waiting = new Uint8Array(0);
      return reader.push(first);
    },
    finish() {
      if (!reader) {
        if (waiting.length === 0) return fail('empty', '', 'The file is empty.');
        reader = begin();
        const pushed = reader.push(waiting);
        if (!pushed.ok) return pushed;
      }
      const read = reader.finish();
      return read.ok ? withoutMonsters(read.value) : read;
    },
  };
}

/** Figures beyond any voltage, such as 1e308, are no figures; a capture of nothing else is none. */
function withoutMonsters(capture: Capture): Result<Capture> {
  let [beyond, left] = [0, 0];
  for (const { values } of capture.channels)
    for (let i = 0; i < values.length; i += 1) {
      if (Number.isFinite(values[i])) left += 1;
      else if (!Number.isNaN(values[i])) {
        values[i] = Number.NaN;
        beyond += 1;
      }
    }
  if (left === 0)
    return fail('not-capture', '', 'No cell of the file holds a figure that can be a voltage: it is not a capture.');
  if (beyond === 0) return ok(capture);
  const note = `${plural(beyond, 'figure')} beyond any voltage ${beyond === 1 ? 'counts' : 'count'} as no signal.`;
  return ok({ ...capture, notes: [...capture.notes, note] });
}

/** A capture held whole in memory. */
export function readCapture(bytes: Uint8Array): Result<Capture> {
  const reader = captureReader();
  const pushed = reader.push(bytes);
  return pushed.ok ? reader.finish() : pushed;
}

/** Decimal places of the volts in a written text. */
const VOLT_PLACES = 4;

/** A text of samples: seconds, then the channels in volts. */
export function writeCsv(capture: Capture): string {
  const rows = [
    `Time (s),${capture.channels.map(({ name, unit }) => `${name.replace(/,/g, ' ')} (${unit || 'V'})`).join(',')}`,
  ];
  for (let i = 0; i < capture.count; i += 1)
    rows.push(
      `${secondsAt(capture.time, i).toFixed(7)},${capture.channels.map(({ values }) => values[i]!.toFixed(VOLT_PLACES)).join(',')}`,
    );
  return `${rows.join('\n')}\n`;
}

export type CaptureFormat = 'csv' | 'vcd' | 'wav';
/** A capture as a file; `rate` is asked for by sound files, samples a second. */
export function writeCapture(capture: Capture, format: CaptureFormat, rate: number): Uint8Array {
  if (format === 'wav') return writeWav(capture, rate);
  return new TextEncoder().encode(
    format === 'csv' ? writeCsv(capture) : writeVcd(capture, (index) => secondsAt(capture.time, index)),
  );
}

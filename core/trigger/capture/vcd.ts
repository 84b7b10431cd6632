import { fail, ok, type Result } from '../../problem';
import type { Capture, CaptureReader, Channel } from './capture';
import { gridOf, stampsAsTime } from './steps';

/** Value change dump, IEEE 1364-2005 section 18: scalar wires, and reals as many recorders write them. */

const units: Readonly<Record<string, number>> = { s: 1, ms: 1e-3, us: 1e-6, ns: 1e-9, ps: 1e-12, fs: 1e-15 };

interface Wire {
  readonly name: string;
  readonly real: boolean;
  readonly times: number[];
  readonly values: number[];
}

/** The levels a wire of ones and zeros is drawn at, volts. */
const HIGH_VOLTS = 5;
/** Channels taken from one dump; more are counted in a note. */
const MOST = 16;

/**
 * A dump holds changes, a capture samples: each change becomes two samples, one at the old value right before and one at
 * the new, so that edges stay as sharp as they were and every channel keeps one time base.
 */
export function readVcd(text: string): Result<Capture> {
  let scale: number | null = null;
  const wires = new Map<string, Wire>();
  let [now, body, tooMany] = [0, false, 0];
  const head = /\$(\w+)\s+([\s\S]*?)\$end/g;
  const endOfHead = text.indexOf('$enddefinitions');
  if (endOfHead < 0) return fail('not-vcd', '', 'The dump has no $enddefinitions: it is cut short or no VCD file.');
  for (const [, keyword, content = ''] of text.slice(0, endOfHead).matchAll(head)) {
    if (keyword === 'timescale') {
      const match = /^\s*(1|10|100)\s*(s|ms|us|ns|ps|fs)\s*$/.exec(content);
      if (!match)
        return fail(
          'no-time-base',
          '$timescale',
          `The time scale '${content.trim()}' is not one of 1, 10 or 100 and a unit from s to fs.`,
        );
      scale = Number(match[1]) * units[match[2]!]!;
    } else if (keyword === 'var') {
      const [type, , id = '', ...name] = content.trim().split(/\s+/);
      if (wires.size >= MOST) tooMany += 1;
      else if (!wires.has(id)) wires.set(id, { name: name.join(' '), real: type === 'real', times: [], values: [] });
    }
  }
  if (scale === null)
    return fail('no-time-base', '$timescale', 'The dump names no time scale: its times cannot be read.');
  if (wires.size === 0) return fail('no-signal', '$var', 'The dump declares no signal.');
  const first = text.indexOf('$end', endOfHead) + 4;
  let line = text.slice(0, first).split('\n').length;
  const put = (id: string, value: number) => {
    const wire = wires.get(id);
    if (!wire || Number.isNaN(value)) return;
    wire.times.push(now);
    wire.values.push(value);
  };
  // An identifier may be any printable sign, `#` and `$` too: what follows a vector or a real is one, whatever it looks like.
  let [waiting, comment]: [number | null, boolean] = [null, false];
  for (const raw of text.slice(first).split('\n')) {
    for (const token of raw.split(/\s+/)) {
      const sign = token[0];
      if (sign === undefined) continue;
      if (comment) comment = token !== '$end';
      else if (waiting !== null) {
        put(token, waiting);
        waiting = null;
      } else if (sign === '$') comment = token === '$comment';
      else if (sign === '#') {
        const time = Number(token.slice(1));
        if (!Number.isFinite(time) || time < now || token === '#')
          return fail(
            'time-runs-back',
            `line ${line}`,
            `The time in line ${line} ('${token}') runs back or is no number.`,
          );
        now = time;
        body = true;
      } else if (sign === 'r' || sign === 'R') waiting = Number(token.slice(1));
      else if (sign === 'b' || sign === 'B') waiting = Number.parseInt(token.slice(1).replace(/[xz]/gi, '0'), 2);
      else if ('01xzXZ'.includes(sign)) put(token.slice(1), sign === '1' ? HIGH_VOLTS : 0);
    }
    line += 1;
  }
  const live = [...wires.values()].filter(({ times }) => times.length > 0);
  if (!body || live.length === 0) return fail('no-signal', '', 'The dump declares signals but no change of them.');
  const stamps = [...new Set(live.flatMap(({ times }) => times))].sort((one, other) => one - other);
  stamps.push(now > stamps[stamps.length - 1]! ? now : now + 1);
  const own = scale;
  const moments = stamps.map((stamp) => stamp * own);
  const count = 2 * stamps.length;
  const channels = live.map(({ name, real, times, values }): Channel => {
    const out = new Float32Array(count);
    let [next, value] = [0, values[0]!];
    for (let at = 0; at < stamps.length; at += 1) {
      out[2 * at] = value;
      while (next < times.length && times[next]! <= stamps[at]!) value = values[next++]!;
      out[2 * at + 1] = value;
    }
    return real ? { name, unit: '', values: out } : { name, unit: 'V', levelsOnly: true, values: out };
  });
  return ok({
    format: 'vcd',
    channels,
    time: stampsAsTime(moments, scale),
    count,
    resolution: gridOf(moments, scale),
    notes: [
      `Value change dump, ${scale} s a step, ${live.length === 1 ? '1 signal' : `${live.length} signals`}${tooMany > 0 ? `, ${tooMany} more left out` : ''}.`,
      ...(live.some(({ real }) => !real) ? [`Ones and zeros are shown as ${HIGH_VOLTS} V and 0 V.`] : []),
    ],
  });
}

/** A dump of a capture's channels as reals: a sample is written where it changed. */
export function writeVcd(capture: Capture, secondsAt: (index: number) => number, date = ''): string {
  const ids = '!"%&\'()*+,-./:;<=>?@';
  const lines = [
    ...(date === '' ? [] : [`$date ${date} $end`]),
    '$version Gonyx $end',
    '$timescale 100 ns $end',
    '$scope module capture $end',
    ...capture.channels.map(({ name }, at) => `$var real 64 ${ids[at]} ${name.replace(/\s+/g, '_')} $end`),
    '$upscope $end',
    '$enddefinitions $end',
  ];
  for (let i = 0; i < capture.count; i += 1) {
    const changed = capture.channels.flatMap(({ values }, at) =>
      // A sample that is missing is no change: the standard has no real for it.
      !Number.isNaN(values[i]) && (i === 0 || i === capture.count - 1 || values[i] !== values[i - 1])
        ? [`r${Number(values[i]!.toPrecision(6))} ${ids[at]}`]
        : [],
    );
    if (changed.length > 0) lines.push(`#${Math.round(secondsAt(i) * 1e7)}`, ...changed);
  }
  return `${lines.join('\n')}\n`;
}

/** Dumps and sound files are read whole: they are far smaller than the samples they stand for. */
export function gatherReader(most: number, read: (bytes: Uint8Array) => Result<Capture>, what: string): CaptureReader {
  const pieces: Uint8Array[] = [];
  let length = 0;
  return {
    push(bytes) {
      length += bytes.length;
      if (length > most) return fail('too-large', '', `The ${what} is larger than ${Math.round(most / 1e6)} MB.`);
      pieces.push(bytes.slice());
      return ok(null);
    },
    finish() {
      const whole = new Uint8Array(length);
      pieces.reduce((at, piece) => (whole.set(piece, at), at + piece.length), 0);
      pieces.length = 0;
      return read(whole);
    },
  };
}

import { fail, ok, type Result } from '../../problem';
import { evenTime, type Capture } from './capture';

/** RIFF/WAVE (IBM and Microsoft 1991; WAVE_FORMAT_EXTENSIBLE): 8, 16, 24, 32 bit whole numbers and 32 bit floats. */

const [PCM, FLOAT, EXTENSIBLE] = [1, 3, 0xfffe];
const CHANNELS_MOST = 16;
const idAt = (view: DataView, at: number): string =>
  String.fromCharCode(view.getUint8(at), view.getUint8(at + 1), view.getUint8(at + 2), view.getUint8(at + 3));

/** Samples as a share of full scale: a sound file knows no volts. */
export function readWav(bytes: Uint8Array): Result<Capture> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 44 || idAt(view, 0) !== 'RIFF' || idAt(view, 8) !== 'WAVE')
    return fail('not-wav', '', 'The file is no RIFF/WAVE file, or cut off in its head.');
  let format: { tag: number; channels: number; rate: number; bits: number } | null = null;
  let data: { at: number; length: number } | null = null;
  let cut = false;
  for (let at = 12; at + 8 <= bytes.length;) {
    const [id, length] = [idAt(view, at), view.getUint32(at + 4, true)];
    const body = at + 8;
    if (id === 'fmt ' && body + 16 <= bytes.length) {
      const tag = view.getUint16(body, true);
      format = {
        tag: tag === EXTENSIBLE && length >= 26 ? view.getUint16(body + 24, true) : tag,
        channels: view.getUint16(body + 2, true),
        rate: view.getUint32(body + 4, true),
        bits: view.getUint16(body + 14, true),
      };
    } else if (id === 'data') {
      data = { at: body, length: Math.min(length, bytes.length - body) };
      cut = length > bytes.length - body;
      break;
    }
    at = body + length + (length % 2);
  }
  if (!format) return fail('not-wav', 'fmt', 'The sound file has no format part.');
  if (!data) return fail('not-wav', 'data', 'The sound file has no data part.');
  const { tag, channels, rate, bits } = format;
  const known = (tag === PCM && [8, 16, 24, 32].includes(bits)) || (tag === FLOAT && bits === 32);
  if (!known || channels < 1 || channels > CHANNELS_MOST || rate < 1)
    return fail(
      'not-wav',
      'fmt',
      `The sound file holds ${channels} channels of kind ${tag} with ${bits} bits: plain samples of 8 to 32 bits are read.`,
    );
  const wide = bits / 8;
  const count = Math.floor(data.length / (wide * channels));
  if (count < 2) return fail('too-short', 'data', 'The sound file holds fewer than two samples.');
  const out = Array.from({ length: channels }, () => new Float32Array(count));
  const whole = 2 ** (bits - 1);
  for (let i = 0; i < count; i += 1)
    for (let c = 0; c < channels; c += 1) {
      const at = data.at + (i * channels + c) * wide;
      out[c]![i] =
        tag === FLOAT
          ? view.getFloat32(at, true)
          : bits === 8
            ? (view.getUint8(at) - 128) / whole
            : bits === 16
              ? view.getInt16(at, true) / whole
              : bits === 24
                ? ((view.getUint8(at + 2) << 24) | (view.getUint16(at, true) << 8)) / 2 ** 31
                : view.getInt32(at, true) / whole;
    }
  return ok({
    format: 'wav',
    channels: out.map((values, c) => ({
      name: channels === 2 ? (c === 0 ? 'left' : 'right') : `channel ${c + 1}`,
      unit: '',
      values,
    })),
    time: evenTime(count, 1 / rate),
    count,
    notes: [
      `Sound file, ${rate.toLocaleString('en')} samples a second, ${bits} bits; heights are a share of full scale, not volts.`,
      ...(cut ? ['The file is cut short; what is there was read.'] : []),
    ],
  });
}

/** Two channels of 16 bits for a sound output and a simple conditioner; both scaled by the larger one's own peak. */
export function writeWav(capture: Capture, rate: number): Uint8Array {
  const channels = capture.channels.slice(0, 2);
  const bytes = new Uint8Array(44 + capture.count * channels.length * 2);
  const view = new DataView(bytes.buffer);
  const put = (at: number, text: string) => [...text].forEach((sign, i) => view.setUint8(at + i, sign.charCodeAt(0)));
  put(0, 'RIFF');
  view.setUint32(4, bytes.length - 8, true);
  put(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, PCM, true);
  view.setUint16(22, channels.length, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * channels.length * 2, true);
  view.setUint16(32, channels.length * 2, true);
  view.setUint16(34, 16, true);
  put(36, 'data');
  view.setUint32(40, bytes.length - 44, true);
  channels.forEach(({ values }, c) => {
    let [least, most] = [0, 0];
    for (const value of values) {
      least = Math.min(least, value);
      most = Math.max(most, value);
    }
    // A square signal is centred: a sound output passes no steady voltage.
    const middle = least < -0.2 * most ? 0 : (least + most) / 2;
    const scale = 0.95 / Math.max(1e-9, most - middle, middle - least);
    values.forEach((value, i) =>
      view.setInt16(44 + (i * channels.length + c) * 2, Math.round((value - middle) * scale * 32767), true),
    );
  });
  return bytes;
}

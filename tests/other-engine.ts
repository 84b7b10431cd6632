import { evenTime, type Capture } from '~/core/trigger/capture/capture';
import { bell, seeded, type Random } from '~/core/trigger/synth';
import type { Wheel } from '~/core/wheels/wheel';

/**
 * Cranking as it is seen on recorders, drawn by hand and not computed as core computes it: each cylinder pulls the speed down over
 * the degrees before its top dead centre and lets it come back over those after, whatever the torque. Teeth are looked at by a
 * sensor of either kind and kept by a recorder with few samples, eight bits, a clipped top, an AC input or hum.
 */
export interface FieldSpec {
  readonly wheel: Wheel;
  readonly cam: Wheel | null;
  readonly sensor: 'hall' | 'hall-low' | 'vr-sine' | 'vr-flux';
  readonly seed: number;
  readonly rpm: number;
  readonly seconds: number;
  /** Samples from one tooth place to the next at the mean speed. */
  readonly samples: number;
  /** Crank degrees of each top dead centre within a cycle of 720. */
  readonly tops: readonly number[];
  /** Fastest less slowest over the mean. */
  readonly swing: number;
  readonly fall?: number;
  readonly recover?: number;
  /** Share of a place by which teeth stand off, the same every turn; and by which each pulse is off, anew. */
  readonly run?: number;
  readonly jitter?: number;
  /** Volts, root mean square. */
  readonly noise?: number;
  readonly bits?: number;
  /** Share of the swing at which the recorder clips. */
  readonly clip?: number;
  /** Hertz of the recorder's AC input. */
  readonly ac?: number;
  readonly drift?: number;
  readonly hum?: number;
  readonly reversed?: boolean;
  /** Seconds to come to speed. */
  readonly up?: number;
  readonly lost?: number;
  /** A moment in which the crank is thrown back: when, for how long, and how fast against its speed at the most. */
  readonly kick?: { readonly at: number; readonly seconds: number; readonly back: number };
}

/** Top dead centres of the engines tried: one to eight cylinders, even and odd. */
export const engines: Readonly<Record<string, readonly number[]>> = {
  single: [0],
  'even twin': [0, 360],
  'odd twin': [0, 270],
  'wide twin': [0, 405],
  triple: [0, 240, 480],
  four: [0, 180, 360, 540],
  five: [0, 144, 288, 432, 576],
  'even six': [0, 120, 240, 360, 480, 600],
  'odd six': [0, 90, 240, 330, 480, 570],
  eight: [0, 90, 180, 270, 360, 450, 540, 630],
};

const ease = (x: number) => 0.5 - 0.5 * Math.cos(Math.PI * Math.min(1, Math.max(0, x)));

/** Share of the speed at each crank degree of the cycle; mean 1, fastest less slowest `swing`. */
export function paceOf({ tops, swing, fall = 110, recover = 70 }: FieldSpec): Float64Array {
  const dip = Float64Array.from({ length: 7200 }, (_, i) => {
    const at = i / 10;
    return Math.max(
      ...tops.map((top) => {
        const before = (((top - at) % 720) + 720) % 720;
        return before <= 360 ? ease(1 - before / fall) : ease(1 - (720 - before) / recover);
      }),
    );
  });
  const [least, most] = [Math.min(...dip), Math.max(...dip)];
  const pace = dip.map((value) => -(swing * (value - least)) / Math.max(1e-9, most - least));
  const mean = pace.reduce((sum, one) => sum + one, 0) / pace.length;
  return pace.map((value) => 1 + value - mean);
}

/** Share of the speed while a spark too early throws the crank back: from 1 down to backwards, and up again as the starter pulls. */
const thrown = (kick: FieldSpec['kick'], seconds: number): number => {
  if (!kick || seconds < kick.at || seconds > kick.at + kick.seconds) return 1;
  return 1 - (1 + kick.back) * Math.sin((Math.PI * (seconds - kick.at)) / kick.seconds) ** 2;
};

function teethOf(spec: FieldSpec, from: number, to: number, pitch: number, random: Random) {
  const { wheel, run = 0, jitter = 0, lost = 0 } = spec;
  const ratio = wheel.shaft === 'cam' ? 2 : 1;
  const own = wheel.edges.flatMap((edge, i) => {
    if (edge.level === 0) return [];
    const width = (wheel.edges[(i + 1) % wheel.edges.length].degrees - edge.degrees + 360) % 360;
    return [{ at: edge.degrees * ratio + bell(random) * run * pitch, width: width * ratio }];
  });
  const teeth: { at: number; width: number }[] = [];
  for (let base = Math.floor(from / (360 * ratio)) - 1; base * 360 * ratio < to + 360; base += 1)
    for (const { at, width } of own)
      if (random() >= lost) teeth.push({ at: base * 360 * ratio + at + bell(random) * jitter * pitch, width });
  return teeth.sort((one, other) => one.at - other.at);
}

export function fieldCapture(spec: FieldSpec): Capture {
  const { wheel, cam, sensor, rpm, seconds, samples, up = 0, noise = 0, hum = 0, drift = 0 } = spec;
  const random = seeded(spec.seed * 50_021 + 7);
  const ratio = wheel.shaft === 'cam' ? 2 : 1;
  const places = wheel.places ?? 360 / Math.min(...stepsOf(wheel));
  const pitch = (360 * ratio) / places;
  const rate = (samples * 6 * rpm) / pitch;
  const count = Math.round(seconds * rate);
  const pace = paceOf(spec);
  const degrees = new Float64Array(count);
  let angle = random() * 720;
  // The recorder's clock is not the crank's: finer steps than its samples.
  const fine = 8;
  for (let i = 0; i < count; i += 1) {
    degrees[i] = angle;
    for (let part = 0; part < fine; part += 1) {
      const rising = up > 0 ? Math.min(1, 0.15 + (0.85 * i) / rate / up) : thrown(spec.kick, i / rate);
      angle += (6 * rpm * rising * pace[Math.floor(((angle % 720) + 720) % 720) * 10]) / rate / fine;
    }
  }
  const teeth = teethOf(spec, degrees[0], angle, pitch, random);
  let values: Float32Array = new Float32Array(count);
  const square = sensor.startsWith('hall');
  let low = 0;
  for (let i = 0; i < count; i += 1) {
    const now = degrees[i];
    while (low < teeth.length && teeth[low].at + teeth[low].width + (square ? 0 : pitch) <= now) low += 1;
    // A crank that is thrown back comes by the same teeth again.
    while (low > 0 && teeth[low - 1].at + teeth[low - 1].width + (square ? 0 : pitch) > now) low -= 1;
    if (square) {
      const over = low < teeth.length && teeth[low].at <= now;
      values[i] = over === (sensor === 'hall') ? 4.8 : 0.3;
      continue;
    }
    const speed = i > 0 ? (now - degrees[i - 1]) * rate : 6 * rpm;
    let sum = 0;
    for (let k = low; k < teeth.length && teeth[k].at - pitch < now; k += 1) {
      const off = (now - teeth[k].at - teeth[k].width / 2) / pitch;
      if (sensor === 'vr-sine') sum += Math.abs(off) < 0.5 ? -Math.sin(2 * Math.PI * off) : 0;
      else sum += -8 * off * Math.exp(-0.5 * (off / 0.19) ** 2);
    }
    values[i] = ((spec.reversed ? -1 : 1) * sum * speed) / 900;
  }
  values = values.map((value, i) => {
    const t = i / rate;
    return value + bell(random) * noise + hum * Math.sin(2 * Math.PI * 50 * t) + (drift * i) / count;
  });
  if (spec.ac) values = throughCapacitor(values, spec.ac, rate);
  const most = values.reduce((top, value) => Math.max(top, Math.abs(value)), 0);
  if (spec.clip) values = values.map((value) => Math.max(-spec.clip! * most, Math.min(spec.clip! * most, value)));
  if (spec.bits) {
    const step = (2.4 * most) / 2 ** spec.bits;
    values = values.map((value) => Math.round(value / step) * step);
  }
  const channels = [{ name: 'A', unit: 'V', values }];
  if (cam) {
    const start = random() * 720;
    channels.push({
      name: 'B',
      unit: 'V',
      values: Float32Array.from(degrees, (now) => {
        const at = ((((now - start) % 720) + 720) % 720) / 2;
        return 5 * (cam.edges.findLast((edge) => edge.degrees <= at) ?? cam.edges[cam.edges.length - 1]).level;
      }),
    });
  }
  return { format: 'made', channels, time: evenTime(count, 1 / rate), count, notes: [] };
}

const stepsOf = ({ edges }: Wheel): number[] => {
  const rises = edges.flatMap(({ degrees, level }) => (level === 1 ? [degrees] : []));
  return rises.map((rise, i) => (i + 1 < rises.length ? rises[i + 1] : rises[0] + 360) - rise);
};

/** A first-order high pass, as an AC input is. */
function throughCapacitor(values: Float32Array, hertz: number, rate: number): Float32Array {
  const keep = 1 / (1 + (2 * Math.PI * hertz) / rate);
  const out = new Float32Array(values.length);
  for (let i = 1; i < values.length; i += 1) out[i] = keep * (out[i - 1] + values[i] - values[i - 1]);
  return out;
}

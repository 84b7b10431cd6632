import { evenTime, type Capture } from '~/core/trigger/capture/capture';
import { bell, seeded } from '~/core/trigger/synth';
import type { Wheel } from '~/core/wheels/wheel';

// Samples are made in millions: these are looked up once.
const { PI, abs, exp, floor, min, round, sin } = Math;

/**
 * Captures made another way than core's synthesis makes them, so that the two do not share a blind spot: a tooth is a whole
 * sine (the textbook's picture), or the slope of a bell of flux, or two bells at its edges; Hall levels are not 0.2 and 5 V;
 * the swing has a phase of its own; teeth that are lost or added are drawn anew.
 */
export interface OtherSpec {
  readonly wheel: Wheel;
  readonly cam: Wheel | null;
  readonly shape: 'sine' | 'flux' | 'edges' | 'hall' | 'hall-low';
  readonly seed: number;
  readonly rpm: number;
  readonly seconds: number;
  readonly sampleRate?: number;
  /** Fastest less slowest over the mean; compressions a turn; phase, degrees. */
  readonly ripple?: number;
  readonly order?: number;
  readonly phase?: number;
  readonly jitter?: number;
  readonly lost?: number;
  readonly added?: number;
  readonly noise?: number;
  readonly reversed?: boolean;
}

export function otherCapture(spec: OtherSpec): Capture {
  const { wheel, cam, shape, seed, seconds, rpm } = spec;
  const { sampleRate = 50_000, ripple = 0, order = 2, phase = 0, jitter = 0, lost = 0, added = 0, noise = 0 } = spec;
  const random = seeded(seed * 7777 + 13);
  const count = round(seconds * sampleRate);
  const degrees = new Float64Array(count);
  const speed = new Float64Array(count);
  let angle = random() * 720;
  for (let i = 0; i < count; i += 1) {
    degrees[i] = angle;
    speed[i] = rpm * (1 + (ripple / 2) * sin(((angle * order + phase) * PI) / 180));
    angle += (6 * speed[i]) / sampleRate;
  }
  const ratio = wheel.shaft === 'cam' ? 2 : 1;
  const turn = 360 * ratio;
  const own = wheel.edges.flatMap((edge, i) => {
    const next = wheel.edges[(i + 1) % wheel.edges.length];
    return edge.level === 1
      ? [{ at: edge.degrees * ratio, width: ((next.degrees - edge.degrees + 360) % 360) * ratio }]
      : [];
  });
  const steps = own.map((tooth, i) => (i + 1 < own.length ? own[i + 1].at : own[0].at + turn) - tooth.at);
  const pitch = wheel.places ? turn / wheel.places : min(...steps);
  const teeth: { at: number; width: number }[] = [];
  for (let base = floor(degrees[0] / turn) - 1; base * turn < angle + turn; base += 1)
    for (const { at, width } of own) {
      if (random() < lost) continue;
      const place = base * turn + at + bell(random) * jitter * min(pitch, 30);
      teeth.push({ at: place, width });
      const room = pitch > width ? pitch - width : pitch;
      if (random() < added) teeth.push({ at: place + width + room * 0.45, width: min(width, room) * 0.15 });
    }
  teeth.sort((one, other) => one.at - other.at);
  const values = new Float32Array(count);
  const square = shape === 'hall' || shape === 'hall-low';
  const narrow = min(pitch / 2, ...own.map(({ width }) => width));
  const reach = square ? 0 : 1.6 * pitch;
  let low = 0;
  for (let i = 0; i < count; i += 1) {
    const now = degrees[i];
    while (low < teeth.length && teeth[low].at + teeth[low].width + reach <= now) low += 1;
    if (square) {
      const on = low < teeth.length && teeth[low].at <= now;
      values[i] = (on === (shape === 'hall') ? 4.9 : 0.1) + bell(random) * noise;
      continue;
    }
    let sum = 0;
    for (let k = low; k < teeth.length && teeth[k].at - reach < now; k += 1) {
      const { at, width } = teeth[k];
      const off = (now - at - width / 2) / pitch;
      if (shape === 'sine') sum -= abs(off) < 0.5 ? sin(2 * PI * off) : 0;
      else if (shape === 'flux') sum -= 7.5 * off * exp(-0.5 * (off / 0.2) ** 2);
      else {
        const bump = (x: number) => exp(-0.5 * (x / (0.25 * narrow)) ** 2);
        sum += bump(now - at) - bump(now - at - width);
      }
    }
    values[i] = ((spec.reversed ? -1 : 1) * sum * speed[i]) / 100 + bell(random) * noise;
  }
  const channels = [{ name: 'A', unit: 'V', values }];
  if (cam) {
    const start = random() * 720;
    const level = Float32Array.from(degrees, (now) => {
      const at = ((((now - start) % 720) + 720) % 720) / 2;
      return 5 * (cam.edges.findLast((edge) => edge.degrees <= at) ?? cam.edges[cam.edges.length - 1]).level;
    });
    channels.push({ name: 'B', unit: 'V', values: level });
  }
  return { format: 'made', channels, time: evenTime(count, 1 / sampleRate), count, notes: [] };
}

import { evenTime, type Capture, type Channel } from './capture/capture';
import type { Cranking } from './cranking';
import { turnEngine } from './synth-motion';
import { squareSignal, switched, vrSignal } from './synth-signals';
import { trackOf, type Wheel } from '../wheels/wheel';

/** A source of numbers from 0 up to 1; a seeded one makes every simulation repeatable. */
export type Random = () => number;

// The samples are made in millions: these are looked up once.
const { ceil, cos, exp, floor, imul, log, max, min, PI, round, sin, sqrt } = Math;

/** Small seeded generator (mulberry32, public domain): for simulations, not for secrets. */
export function seeded(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

/** A figure of the bell curve, mean 0 and deviation 1 (Box and Muller 1958). */
export const bell = (random: Random): number => sqrt(-2 * log(1 - random())) * cos(2 * PI * random());

export type Speed =
  | { readonly type: 'constant'; readonly rpm: number }
  | { readonly type: 'rising'; readonly fromRpm: number; readonly toRpm: number }
  /** Speed swings with compression: `ripple` is fastest less slowest over the mean, `events` compressions a turn. */
  | {
      readonly type: 'cranking';
      readonly rpm: number;
      readonly ripple: number;
      readonly events: number;
      /** Seconds from standstill to speed, and back to standstill at the end. */
      readonly startSeconds?: number;
      readonly stopSeconds?: number;
    }
  /** As a starter turns an engine (cranking.ts): from rest where `startSeconds` are given; let go `stopSeconds` before the end, when the last compression may turn it back. */
  | {
      readonly type: 'engine';
      readonly cranking: Cranking;
      readonly rpm: number;
      readonly startSeconds?: number;
      readonly stopSeconds?: number;
    };

export interface Sensor {
  readonly type: 'vr' | 'hall' | 'optical';
  /** VR: peak volts at 100 rpm of the crank and the air gap it was set for. */
  readonly voltsAt100?: number;
  /** VR: air gap against the one it was set for; twice the gap is a quarter of the signal (common practice). */
  readonly gapShare?: number;
  /** VR: once-a-turn change of the height by a wheel out of true, share. */
  readonly runOut?: number;
  /** VR: leads the other way round. */
  readonly reversed?: boolean;
  /** Square: volts of the pull-up; low is a transistor's rest of 0.2 V. */
  readonly pullUpVolts?: number;
  /** Square: the signal is low while a tooth passes. */
  readonly inverted?: boolean;
  /**
   * Square: degrees of the wheel behind a tooth's leading edge at which the sensor operates, and behind its trailing edge at
   * which it releases. Hysteresis makes both later; a high threshold, or a wide gap, makes the first later and the second earlier.
   */
  readonly operateDegrees?: number;
  readonly releaseDegrees?: number;
  /** Square: seconds in which the line rises to two thirds: pull-up ohms times the cable's farads. */
  readonly riseSeconds?: number;
}

export interface Faults {
  /** White noise, volts root mean square on each channel. */
  readonly noiseVolts?: number;
  /** Coils that couple in: a ringing spike of this height at each event. */
  readonly coilSpikes?: { readonly volts: number; readonly atDegrees: readonly number[]; readonly share?: number };
  /** Tooth of the crank wheel, from 0, that is broken off; or stands off its place by some degrees. */
  readonly missingTooth?: number;
  readonly bentTooth?: { readonly tooth: number; readonly degrees: number };
  /** Share of crank teeth that give no pulse, or one too many. */
  readonly lost?: number;
  readonly added?: number;
  /** Share of a pitch by which teeth are off, at random. */
  readonly jitter?: number;
  readonly swappedLeads?: boolean;
  readonly crossed?: boolean;
  /** Share of its height the crank signal has left. */
  readonly amplitude?: number;
  /** The crank sensor's pull-up is not there: its signal stays low. */
  readonly droppedPullUp?: boolean;
}

export interface SynthSpec {
  readonly crank: Wheel;
  readonly cam: Wheel | null;
  /** Crank degrees from the crank wheel's 0 to the cam wheel's 0. */
  readonly camDegrees?: number;
  /** Crank degrees at the first sample, 0 to 720. */
  readonly startDegrees?: number;
  readonly speed: Speed;
  readonly seconds: number;
  readonly sampleRate: number;
  readonly crankSensor: Sensor;
  readonly camSensor?: Sensor;
  readonly faults?: Faults;
  readonly random: Random;
}

/** What was made to go wrong, to hold a diagnosis against. */
export interface Injected {
  readonly seconds: number;
  readonly degrees: number;
  readonly fault: 'lost' | 'added' | 'missing-tooth' | 'bent-tooth' | 'coil-spike';
  readonly tooth: number | null;
}

export interface Synthesis {
  readonly capture: Capture;
  readonly injected: readonly Injected[];
  /** Crank degrees at each sample, not wrapped. */
  readonly degrees: Float64Array;
}

/** An edge of a wheel at a crank angle. */
export interface Mark {
  degrees: number;
  level: 0 | 1;
}

/** Speed in rpm at a time and crank angle. */
function rpmAt(speed: Speed, seconds: number, degrees: number, span: number): number {
  switch (speed.type) {
    case 'constant':
      return speed.rpm;
    case 'rising':
      return speed.fromRpm + ((speed.toRpm - speed.fromRpm) * seconds) / span;
    case 'engine':
      return speed.rpm;
    case 'cranking': {
      const { startSeconds = 0, stopSeconds = 0 } = speed;
      const up = startSeconds > 0 ? min(1, seconds / startSeconds) : 1;
      const down = stopSeconds > 0 ? min(1, max(0, (span - seconds) / stopSeconds)) : 1;
      return speed.rpm * up * down * (1 + 0.5 * speed.ripple * sin((degrees * speed.events * PI) / 180));
    }
  }
}

/** Edges of a wheel over a span of crank degrees, with what is wrong about its teeth. */
function marksOf(
  wheel: Wheel,
  at: number,
  from: number,
  to: number,
  faults: Faults,
  random: Random,
  injected: { degrees: number; fault: Injected['fault']; tooth: number }[],
): Mark[] {
  const ratio = wheel.shaft === 'cam' ? 2 : 1;
  const rises = wheel.edges.flatMap((edge, i) => (edge.level === 1 ? [i] : []));
  const marks: Mark[] = [];
  const turn = 360 * ratio;
  for (let base = floor((from - at) / turn) - 1; at + base * turn < to + turn; base += 1) {
    rises.forEach((rise, tooth) => {
      const up = wheel.edges[rise]!.degrees;
      const fallEdge = wheel.edges[(rise + 1) % wheel.edges.length]!.degrees;
      const width = (fallEdge - up + 360) % 360;
      const next = (wheel.edges[rises[(tooth + 1) % rises.length]!]!.degrees - up + 360) % 360 || 360;
      const pitch = wheel.places === null ? next : min(next, 360 / wheel.places);
      const place = at + base * turn + up * ratio;
      const note = (fault: Injected['fault'], degrees = place) => {
        if (degrees >= from && degrees < to) injected.push({ degrees, fault, tooth });
      };
      if (faults.missingTooth === tooth) return note('missing-tooth');
      if (faults.lost && random() < faults.lost) return note('lost');
      // Play of the shaft is not wider for wider teeth.
      const play = min(pitch * ratio, 30);
      let start = place + (faults.jitter ? bell(random) * faults.jitter * play : 0);
      if (faults.bentTooth?.tooth === tooth) {
        start += faults.bentTooth.degrees;
        note('bent-tooth');
      }
      marks.push({ degrees: start, level: 1 }, { degrees: start + width * ratio, level: 0 });
      if (faults.added && random() < faults.added) {
        const room = (next - width) * ratio;
        const extra = start + width * ratio + room * (0.35 + 0.3 * random());
        const wide = min(room * 0.2, pitch * ratio * 0.2);
        marks.push({ degrees: extra, level: 1 }, { degrees: extra + wide, level: 0 });
        note('added', extra);
      }
    });
  }
  return marks.sort((one, other) => one.degrees - other.degrees);
}

/**
 * The signals of a wheel set at a speed. VR: each edge of a tooth gives a bell-shaped lobe, up for its leading edge and
 * down for its trailing one, so a tooth is a lobe up, a steep fall through zero, a lobe down; the height grows with speed
 * (v = d(flux)/dt, domain facts). Square: levels with the pull-up's rise time.
 */
export function synth(spec: SynthSpec): Synthesis {
  const { crank, sampleRate, seconds, random, faults = {} } = spec;
  // A second track turns with the first: it has no angle of its own.
  const track = spec.cam ? null : trackOf(crank, 1);
  const cam = spec.cam ?? track;
  const count = max(2, round(seconds * sampleRate));
  const degrees = new Float64Array(count);
  const rpm = new Float32Array(count);
  const start = spec.startDegrees ?? 0;
  if (spec.speed.type === 'engine') turnEngine(spec.speed, start, seconds, sampleRate, degrees, rpm);
  else {
    let angle = start;
    for (let i = 0; i < count; i += 1) {
      degrees[i] = angle;
      const speed = rpmAt(spec.speed, i / sampleRate, angle, seconds);
      rpm[i] = speed;
      angle += (6 * speed) / sampleRate;
    }
  }
  let [from, to] = [Infinity, -Infinity];
  for (let i = 0; i < count; i += 1) [from, to] = [min(from, degrees[i]!), max(to, degrees[i]!)];
  to += 1e-9;
  const found: { degrees: number; fault: Injected['fault']; tooth: number | null }[] = [];
  const signal = (wheel: Wheel, at: number, sensor: Sensor, own: Faults, log: typeof found): Float32Array => {
    const marks = marksOf(wheel, at, from - 60, to + 60, own, random, log as never);
    return sensor.type === 'vr'
      ? vrSignal(wheel, marks, sensor, degrees, rpm)
      : squareSignal(switched(marks, sensor, wheel), sensor, degrees, sampleRate, own);
  };
  const crankSensor: Sensor = faults.swappedLeads
    ? { ...spec.crankSensor, reversed: !spec.crankSensor.reversed }
    : spec.crankSensor;
  let first = signal(crank, 0, crankSensor, faults, found);
  if (faults.amplitude !== undefined) first = first.map((value) => value * faults.amplitude!);
  const camFaults: Faults = faults.jitter ? { jitter: faults.jitter } : {};
  const second = cam
    ? signal(cam, track ? 0 : (spec.camDegrees ?? 0), spec.camSensor ?? { type: 'hall' }, camFaults, [])
    : null;
  if (faults.coilSpikes) addSpikes(faults.coilSpikes, [first, second], degrees, sampleRate, random, found);
  const injected = found
    .filter((one) => one.degrees >= from && one.degrees < to)
    .sort((one, other) => one.degrees - other.degrees)
    .map((one): Injected => ({ ...one, seconds: firstFrom(degrees, one.degrees) / sampleRate }));
  if (faults.noiseVolts)
    for (const values of [first, second])
      if (values) for (let i = 0; i < values.length; i += 1) values[i]! += bell(random) * faults.noiseVolts;
  const named = (name: string, values: Float32Array): Channel => ({ name, unit: 'V', values });
  const [one, other] = faults.crossed && second ? [second, first] : [first, second];
  return {
    capture: {
      format: 'made',
      channels: [named('crank', one), ...(other ? [named('cam', other)] : [])],
      time: evenTime(count, 1 / sampleRate),
      count,
      notes: ['Simulated.'],
    },
    injected,
    degrees,
  };
}

/** First sample at or past an angle. */
function firstFrom(degrees: Float64Array, angle: number): number {
  let [low, high] = [0, degrees.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (degrees[middle]! < angle) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Seconds a coupled spike rings, and its ringing, hertz (common practice). */
const [RING_SECONDS, RING_HERTZ] = [1.2e-4, 9e3];

function addSpikes(
  spikes: NonNullable<Faults['coilSpikes']>,
  channels: readonly (Float32Array | null)[],
  degrees: Float64Array,
  sampleRate: number,
  random: Random,
  found: { degrees: number; fault: Injected['fault']; tooth: number | null }[],
): void {
  const length = ceil(RING_SECONDS * 5 * sampleRate);
  const [from, to] = [degrees[0]!, degrees[degrees.length - 1]!];
  for (let cycle = floor(from / 720); cycle * 720 < to; cycle += 1)
    for (const event of spikes.atDegrees) {
      const angle = cycle * 720 + event;
      if (angle < from || angle >= to || random() >= (spikes.share ?? 1)) continue;
      const at = firstFrom(degrees, angle);
      found.push({ degrees: angle, fault: 'coil-spike', tooth: null });
      for (let k = 0; k < length && at + k < degrees.length; k += 1) {
        const t = k / sampleRate;
        const volts = spikes.volts * exp(-t / RING_SECONDS) * cos(2 * PI * RING_HERTZ * t);
        channels.forEach((values, channel) => {
          if (values) values[at + k]! += channel === 0 ? volts : volts * 0.3;
        });
      }
    }
}

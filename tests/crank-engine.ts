import { evenTime, type Capture } from '~/core/trigger/capture/capture';
import { readCapture } from '~/core/trigger/capture/read';
import { bell, seeded, type Random } from '~/core/trigger/synth';
import type { Wheel } from '~/core/wheels/wheel';

/*
 * A third make of captures: an engine that is turned by its starter, step by step in time, and the recorders people have. Nothing of
 * core's is used for the motion or the signals.
 *
 * The crank: J dw/dt = starter + gas - friction. Gas: each chamber holds the mass it shut in at its intake's closing, whose pressure
 * follows m and V by p V^1.28 = const while it leaks through its rings (dm = -k (p - p0) dt) and comes in again when it sucks; the lever
 * arm is that of crank and rod (crank radius 44 mm, rod 150 mm). Starter: a magnet motor, torque = c i, i = (U - c w) / R, through a
 * freewheel; the battery sags by its inside. From memory: J 0.1 to 0.25 kg m2, friction 15 to 30 N m a 2-litre, 4 to 10 mohm.
 *
 * Recorders: a scope of 8 or 12 bits with noise, hum and an input that may be coupled by a capacitor; a logic probe that writes every
 * sample, or a row at each change; a value change dump; a sound card with its high pass. Times as they print them.
 */

// Hot loops look these up once.
const { PI, abs, ceil, cos, exp, floor, log10, max, min, round, sign, sin, sqrt } = Math;

export type Recorder = 'scope' | 'scope-ac' | 'logic' | 'changes' | 'dump' | 'sound';

export interface CrankedSpec {
  readonly wheel: Wheel;
  readonly cam: Wheel | null;
  readonly seed: number;
  /** Crank degrees of each top within 720. */
  readonly tops: readonly number[];
  readonly litres: number;
  /** kg m2, N m, rings' leak (share of the mass a second at 10 bar). */
  readonly inertia: number;
  readonly friction: number;
  readonly leak: number;
  /** Of the starter at the crank: N m standing, rpm free. */
  readonly stall: number;
  readonly free: number;
  /** Fastest less slowest over the mean, at the most. */
  readonly swing: number;
  readonly seconds: number;
  readonly sensor: 'hall' | 'hall-low' | 'vr';
  readonly recorder: Recorder;
  /** Samples from place to place at the mean speed. */
  readonly samples: number;
  readonly noise: number;
  readonly hum: number;
  readonly runout: number;
  readonly reversed: boolean;
  /** Whether what comes before the starter has taken hold is in the recording. */
  readonly fromRest: boolean;
  /** Its battery is flat: a third of its starter's torque, and no other takes its place. */
  readonly flat?: boolean;
}

const [RADIUS, ROD, RATIO, GAMMA, AIR] = [0.044, 0.15, 8.5, 1.28, 101_325];
const wrap = (value: number, over: number) => ((value % over) + over) % over;

export const STEP = 5e-5;
/** Crank degrees at each step, by the first of ever stronger starters and heavier flywheels under which it swings no more than that. */
export function turn(spec: CrankedSpec): Float64Array {
  if (spec.flat) return turned(spec, spec.stall / 3, spec.inertia);
  for (let [more, tries] = [1, 0]; tries < 24; more *= 1.15, tries += 1) {
    const degrees = turned(spec, spec.stall * more, spec.inertia * more ** 0.8);
    const late = round(degrees.length / 2);
    const steps = Array.from(
      { length: floor((degrees.length - late) / 40) - 1 },
      (_, i) => degrees[late + 40 * i + 40] - degrees[late + 40 * i],
    );
    const mean = steps.reduce((sum, one) => sum + one, 0) / steps.length;
    const rpm = mean / 40 / STEP / 6;
    if (rpm > 110 && max(...steps) - min(...steps) <= spec.swing * mean) return degrees;
  }
  throw new Error(`No starter turns ${spec.seed}.`);
}
function turned(spec: CrankedSpec, stall: number, inertia: number): Float64Array {
  const { tops, litres, friction, leak, free, seconds, fromRest, seed } = spec;
  const random = seeded(seed * 31_337 + 11);
  const swept = litres / 1000 / tops.length;
  const area = swept / (2 * RADIUS);
  const clearance = swept / (RATIO - 1);
  const lever = (angle: number) => {
    const sine = (RADIUS / ROD) * sin(angle);
    return RADIUS * sin(angle) * (1 + ((RADIUS / ROD) * cos(angle)) / sqrt(1 - sine * sine));
  };
  const height = (angle: number) => RADIUS * (1 - cos(angle)) + ROD - sqrt(ROD * ROD - (RADIUS * sin(angle)) ** 2);
  /** Share of the air each chamber holds, of what fills it at the barometer. */
  const held = tops.map(() => 1);
  const closing = (220 / 180) * PI;
  const full = clearance + area * height(closing);
  const lead = fromRest ? 0 : 1.2;
  const count = round((seconds + lead) / STEP);
  const out = new Float64Array(count);
  let angle = ((random() * 720) / 180) * PI;
  let speed = fromRest ? 0 : (free * PI) / 60;
  const freeRad = (free * PI) / 30;
  for (let i = 0; i < count; i += 1) {
    out[i] = (angle / PI) * 180;
    let torque = 0;
    for (let k = 0; k < tops.length; k += 1) {
      // 0 at the top of compression: intake from -360 to -140, closed to 130, exhaust after.
      const at = wrap((angle / PI) * 180 - tops[k] + 360, 720) - 360;
      let over = at <= -140 ? -4000 : 3000;
      if (at > -140 && at < 130) {
        const pressure = AIR * ((held[k] * full) / (clearance + area * height((at / 180) * PI))) ** GAMMA;
        over = pressure - AIR;
        held[k] = max(0.02, held[k] - leak * (over / 1e6) * STEP);
      } else held[k] = 1;
      torque += over * area * lever((at / 180) * PI);
    }
    const pull = max(0, stall * (1 - speed / freeRad));
    const drag = friction * (0.75 + 0.25 * min(3, abs(speed) / 20)) * sign(speed || torque + pull);
    const all = abs(speed) < 0.05 && abs(torque + pull) < friction ? 0 : torque + pull - drag;
    speed += (all / inertia) * STEP;
    angle += speed * STEP;
  }
  return out.subarray(round(lead / STEP));
}

interface Edge {
  readonly seconds: number;
  readonly level: 0 | 1;
}
/** Moments at which a wheel's edges come by, forwards or back. */
function passing(degrees: Float64Array, wheel: Wheel, start: number, runout: number, random: Random): Edge[] {
  const ratio = wheel.shaft === 'cam' ? 2 : 1;
  const span = 360 * ratio;
  const places = wheel.edges.map(({ degrees: own, level }) => ({
    at: wrap(own * ratio + start + bell(random) * runout, span),
    level,
  }));
  places.sort((one, other) => one.at - other.at);
  const out: Edge[] = [];
  for (let i = 1; i < degrees.length; i += 1) {
    const [from, to] = [degrees[i - 1], degrees[i]];
    if (from === to) continue;
    const [low, high] = from < to ? [from, to] : [to, from];
    const base = floor(low / span) * span;
    for (const lap of [base, base + span])
      for (const { at, level } of places) {
        const place = lap + at;
        if (place <= low || place > high) continue;
        out.push({
          seconds: (i - 1 + (place - from) / (to - from)) * STEP,
          level: (to > from ? level : 1 - level) as 0 | 1,
        });
      }
  }
  return out.sort((one, other) => one.seconds - other.seconds);
}

/** Flux's slope of a wheel with teeth of iron before a pole of finite breadth: each edge a bell of 0.35 of the finest step. */
function voltsOf(degrees: Float64Array, wheel: Wheel, pitch: number, start: number, runout: number, random: Random) {
  const ratio = wheel.shaft === 'cam' ? 2 : 1;
  const span = 360 * ratio;
  // Resolution of a tenth of a degree of the crank.
  const fine = 10;
  const slope = new Float64Array(span * fine);
  const wide = 0.16 * pitch * fine;
  for (const { degrees: own, level } of wheel.edges) {
    const middle = wrap(own * ratio + start + bell(random) * runout, span) * fine;
    const reach = ceil(4 * wide);
    for (let off = -reach; off <= reach; off += 1) {
      const at = wrap(round(middle) + off, slope.length);
      slope[at] += (level === 1 ? 1 : -1) * exp(-0.5 * ((round(middle) + off - middle) / wide) ** 2);
    }
  }
  return (index: number) => {
    const i = min(degrees.length - 2, max(0, floor(index)));
    const angle = degrees[i] + (index - i) * (degrees[i + 1] - degrees[i]);
    const speed = (degrees[i + 1] - degrees[i]) / STEP;
    return (slope[floor(wrap(angle, span) * fine)] * speed) / 1400;
  };
}

/** What one recorder makes of what a crank does. */
export function crankedCapture(spec: CrankedSpec): {
  readonly capture: Capture;
  readonly rpm: number;
  /** Crank degrees at each `STEP`. */
  readonly degrees: Float64Array;
} {
  const { wheel, cam, sensor, recorder, samples, noise, hum, runout, reversed, seed } = spec;
  const random = seeded(seed * 90_001 + 5);
  const degrees = turn(spec);
  const seconds = degrees.length * STEP;
  const rpm = (degrees[degrees.length - 1] - degrees[0]) / seconds / 6;
  const ratio = wheel.shaft === 'cam' ? 2 : 1;
  const rises = wheel.edges.flatMap(({ degrees: at, level }) => (level === 1 ? [at] : []));
  const steps = rises.map((rise, i) => (i + 1 < rises.length ? rises[i + 1] : rises[0] + 360) - rise);
  const pitch = ratio * min(...steps);
  const off = random() * 360;
  const crank = sensor === 'vr' ? [] : passing(degrees, wheel, off, runout * pitch, random);
  const camEdges = cam ? passing(degrees, cam, random() * 720, 0, random) : [];
  const flip = (level: 0 | 1): 0 | 1 => (sensor === 'hall-low' ? ((1 - level) as 0 | 1) : level);
  const place = pitch / 6 / max(30, rpm);
  if (recorder === 'changes' || recorder === 'dump') {
    // A row a change, times in whole steps of the probe's clock.
    const clock = 10 ** floor(log10(place / 40));
    const all = [
      ...crank.map((edge) => ({ seconds: edge.seconds, channel: 0, level: flip(edge.level) })),
      ...camEdges.map((edge) => ({ seconds: edge.seconds, channel: 1, level: edge.level })),
    ].sort((one, other) => one.seconds - other.seconds);
    const now: (0 | 1)[] = [flip((1 - (crank[0]?.level ?? 1)) as 0 | 1), (1 - (camEdges[0]?.level ?? 1)) as 0 | 1];
    const rows = [{ ticks: 0, levels: [...now] }];
    for (const { seconds: at, channel, level } of all) {
      now[channel] = level;
      const ticks = round(at / clock);
      if (rows[rows.length - 1].ticks === ticks) rows[rows.length - 1].levels = [...now];
      else rows.push({ ticks, levels: [...now] });
    }
    const names = cam ? ['D0', 'D1'] : ['D0'];
    const digits = max(0, round(-log10(clock)));
    const text =
      recorder === 'changes'
        ? [
            `Time [s],${names.join(',')}`,
            ...rows.map(
              ({ ticks, levels }) => `${(ticks * clock).toFixed(digits)},${levels.slice(0, names.length).join(',')}`,
            ),
            '',
          ].join('\n')
        : [
            `$timescale 1 us $end`,
            ...names.map((name, i) => `$var wire 1 ${'!"'[i]} ${name} $end`),
            '$enddefinitions $end',
            ...rows.flatMap(({ ticks, levels }) => [
              `#${round(ticks * clock * 1e6)}`,
              ...levels.slice(0, names.length).map((level, i) => `${level}${'!"'[i]}`),
            ]),
            '',
          ].join('\n');
    const read = readCapture(new TextEncoder().encode(text));
    if (!read.ok) throw new Error(read.problem.sentence);
    return { capture: read.value, rpm, degrees };
  }
  const rate = recorder === 'sound' ? 44_100 : samples / place;
  const count = floor(seconds * rate) - 2;
  const sampled = (edges: readonly Edge[], low: number, high: number, first: 0 | 1) => {
    const out = new Float32Array(count);
    let [at, level] = [0, first];
    for (let i = 0; i < count; i += 1) {
      while (at < edges.length && edges[at].seconds <= i / rate) {
        level = edges[at].level;
        at += 1;
      }
      out[i] = level ? high : low;
    }
    return out;
  };
  const firstOf = (edges: readonly Edge[]): 0 | 1 => (edges.length > 0 ? ((1 - edges[0].level) as 0 | 1) : 0);
  const digital = recorder === 'logic';
  let values: Float32Array;
  if (sensor === 'vr') {
    const volts = voltsOf(degrees, wheel, pitch, off, runout * pitch, random);
    values = Float32Array.from({ length: count }, (_, i) => (reversed ? -1 : 1) * volts(i / rate / STEP));
  } else {
    const [low, high] = digital ? [0, 1] : [0.15, 4.9];
    values = sampled(crank, low, high, firstOf(crank));
    if (sensor === 'hall-low') values = values.map((value) => low + high - value);
  }
  let second: Float32Array | null = cam
    ? sampled(camEdges, digital ? 0 : 0.2, digital ? 1 : 5.1, firstOf(camEdges))
    : null;
  if (!digital) {
    const most = values.reduce((top, value) => max(top, abs(value)), 0);
    const dirty = (all: Float32Array) =>
      all.map((value, i) => value + most * (noise * bell(random) + hum * sin((2 * PI * 50 * i) / rate + seed)));
    values = dirty(values);
    const corner = recorder === 'sound' ? 8 + 20 * random() : recorder === 'scope-ac' ? 1 + 3 * random() : 0;
    if (corner > 0) {
      values = coupled(values, corner, rate);
      second = second && coupled(dirty(second), corner, rate);
    }
    const bits = recorder === 'sound' ? 16 : seed % 3 === 0 ? 12 : 8;
    const top = values.reduce((best, value) => max(best, abs(value)), 0);
    const quantum = (2.6 * top) / 2 ** bits;
    values = values.map((value) => round(value / quantum) * quantum);
    if (recorder === 'sound') {
      // A card knows no volts: full scale is 1.
      values = values.map((value) => value / (1.1 * top));
      second = second && second.map((value) => value / 12);
    }
  }
  const unit = digital || recorder === 'sound' ? '' : 'V';
  const channels = [{ name: digital ? 'D0' : 'left', unit, values }];
  if (second) channels.push({ name: digital ? 'D1' : 'right', unit, values: second });
  const format = recorder === 'sound' ? 'wav' : 'csv';
  return { capture: { format, channels, time: evenTime(count, 1 / rate), count, notes: [] }, rpm, degrees };
}

/** A capacitor before the input, of first order. */
function coupled(values: Float32Array, hertz: number, rate: number): Float32Array {
  const keep = exp((-2 * PI * hertz) / rate);
  const out = new Float32Array(values.length);
  let held = values[0];
  for (let i = 0; i < values.length; i += 1) {
    held = keep * held + (1 - keep) * values[i];
    out[i] = values[i] - held;
  }
  return out;
}

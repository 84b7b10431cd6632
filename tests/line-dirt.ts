import { secondsAt, type Capture } from '~/core/trigger/capture/capture';
import { seeded } from '~/core/trigger/synth';
import { STEP } from './crank-engine';

/*
 * What lines and recorders add to a signal: mains hum, a coupling capacitor, the ringing of ignition, two probes on one input. Each
 * changes samples only; where the crank stands comes from the engine that was turned (crank-engine.ts).
 */

// Hot loops look these up once.
const { PI, abs, exp, floor, max, round, sin } = Math;

const withChannel = (capture: Capture, index: number, change: (values: Float32Array) => Float32Array): Capture => ({
  ...capture,
  channels: capture.channels.map((one, at) => (at === index ? { ...one, values: change(one.values) } : one)),
});
const swingOf = (values: Float32Array): number => {
  let [least, most] = [Infinity, -Infinity];
  for (const value of values) {
    if (value < least) least = value;
    if (value > most) most = value;
  }
  return most - least;
};

/** A sine of the mains, its height a share of the signal's swing, peak to peak. */
export function hum(capture: Capture, index: number, share: number, hertz = 50): Capture {
  return withChannel(capture, index, (values) => {
    const height = (share * swingOf(values)) / 2;
    return values.map((value, i) => value + height * sin(2 * PI * hertz * secondsAt(capture.time, i)));
  });
}

/** A capacitor before the input, of first order. */
export function droop(capture: Capture, index: number, hertz: number): Capture {
  return withChannel(capture, index, (values) => {
    const out = new Float32Array(values.length);
    let held = values[0];
    for (let i = 0; i < values.length; i += 1) {
      const step = i === 0 ? 0 : secondsAt(capture.time, i) - secondsAt(capture.time, i - 1);
      held += (values[i] - held) * (1 - exp(-2 * PI * hertz * step));
      out[i] = values[i] - held;
    }
    return out;
  });
}

/** Seconds of sparks: 12 degrees before each top, each with so much of a chance. */
export function sparks(degrees: Float64Array, tops: readonly number[], chance: number, seed: number): number[] {
  const random = seeded(seed);
  const out: number[] = [];
  for (let i = 1; i < degrees.length; i += 1)
    for (const top of tops) {
      const at = top - 12;
      if (floor((degrees[i - 1] - at) / 720) !== floor((degrees[i] - at) / 720) && random() < chance)
        out.push(i * STEP);
    }
  return out;
}

/** Ringing at each of these moments: so many times the signal's swing high, of so many hertz, gone in so many seconds. */
export function bursts(
  capture: Capture,
  index: number,
  at: readonly number[],
  { times, hertz, decay }: { readonly times: number; readonly hertz: number; readonly decay: number },
): Capture {
  return withChannel(capture, index, (values) => {
    const out = values.slice();
    const height = times * swingOf(values);
    const first = secondsAt(capture.time, 0);
    const rate = (capture.count - 1) / (secondsAt(capture.time, capture.count - 1) - first);
    for (const spark of at) {
      const from = max(0, round((spark - first) * rate));
      for (let i = from; i < out.length; i += 1) {
        const later = i / rate + first - spark;
        if (later > 6 * decay) break;
        if (later >= 0) out[i] += height * exp(-later / decay) * sin(2 * PI * hertz * later + 0.4);
      }
    }
    return out;
  });
}

/** Both signals on one input, the second smaller. */
export function summed(capture: Capture, share: number): Capture {
  const [one, other] = capture.channels;
  const scale = (share * swingOf(one.values)) / max(1e-9, swingOf(other.values));
  return {
    ...capture,
    channels: [{ ...one, values: one.values.map((value, i) => value + scale * other.values[i]) }],
  };
}

/** A channel's samples as they are where none of its pulses is, for the stretches given. */
export function silenced(capture: Capture, index: number, stretches: readonly (readonly [number, number])[]): Capture {
  return withChannel(capture, index, (values) => {
    const sorted = [...values].sort((one, other) => one - other);
    const rest = sorted[sorted.length >> 1];
    return values.map((value, i) => {
      const at = secondsAt(capture.time, i);
      return stretches.some(([from, to]) => at >= from && at < to) && abs(value - rest) > 0 ? rest : value;
    });
  });
}

import { accelerationOf } from './cranking';
import type { Speed } from './synth';

/** Steps of the engine's motion for one sample, at the least, and their length at the most, seconds. */
const ENGINE_STEPS = 4;
const ENGINE_STEP = 5e-5;
/** Seconds the starter takes to engage. */
const ENGAGES = 0.05;

/** The motion of an engine under a starter, by small steps. */
export function turnEngine(
  { cranking, rpm: mean, startSeconds = 0, stopSeconds = 0 }: Extract<Speed, { type: 'engine' }>,
  start: number,
  seconds: number,
  sampleRate: number,
  degrees: Float64Array,
  rpm: Float32Array,
): void {
  const steps = Math.max(ENGINE_STEPS, Math.ceil(1 / sampleRate / ENGINE_STEP));
  const step = 1 / sampleRate / steps;
  let [angle, speed] = [start, startSeconds > 0 ? 0 : 6 * mean];
  for (let i = 0; i < degrees.length; i += 1) {
    degrees[i] = angle;
    rpm[i] = speed / 6;
    const time = i / sampleRate;
    const driven = (startSeconds <= 0 || time >= ENGAGES) && (stopSeconds <= 0 || time < seconds - stopSeconds);
    for (let part = 0; part < steps; part += 1) {
      const next = speed + step * accelerationOf(cranking, speed, angle, driven);
      // Friction stops a crank, it does not turn it.
      speed = speed !== 0 && next * speed < 0 && Math.abs(speed) < 1 ? 0 : next;
      angle += step * speed;
    }
  }
}

import type { Faults, Mark, Sensor } from './synth';
import type { Wheel } from '../wheels/wheel';

// The samples are made in millions: these are looked up once.
const { exp, PI, sin } = Math;

/** What a coil sees of a wheel's edges: a bell-shaped lobe for each, its height growing with the speed. */
export function vrSignal(
  wheel: Wheel,
  marks: readonly Mark[],
  sensor: Sensor,
  degrees: Float64Array,
  rpm: Float32Array,
): Float32Array {
  const ratio = wheel.shaft === 'cam' ? 2 : 1;
  const gaps = wheel.edges.map(
    (edge, i) => (wheel.edges[(i + 1) % wheel.edges.length]!.degrees - edge.degrees + 360) % 360,
  );
  // The pole sees about a third of the narrowest step: neighbouring lobes stay apart.
  const spread = Math.min(8, Math.min(...gaps) * 0.36) * ratio;
  const reach = 4 * spread;
  const volts = (sensor.voltsAt100 ?? 0.8) / (sensor.gapShare ?? 1) ** 2 / 100;
  const sign = sensor.reversed ? -1 : 1;
  const out = new Float32Array(degrees.length);
  let [low, high] = [0, 0];
  for (let i = 0; i < degrees.length; i += 1) {
    const angle = degrees[i]!;
    while (low < marks.length && marks[low]!.degrees < angle - reach) low += 1;
    while (high < marks.length && marks[high]!.degrees < angle + reach) high += 1;
    // A crank that is turned back comes by the same edges again.
    while (low > 0 && marks[low - 1]!.degrees >= angle - reach) low -= 1;
    while (high > 0 && marks[high - 1]!.degrees >= angle + reach) high -= 1;
    let sum = 0;
    for (let k = low; k < high; k += 1) {
      const off = (angle - marks[k]!.degrees) / spread;
      sum += (marks[k]!.level === 1 ? 1 : -1) * exp(-0.5 * off * off);
    }
    const height = 1 + (sensor.runOut ?? 0) * sin((angle * PI) / (180 * ratio));
    out[i] = sign * volts * rpm[i]! * height * sum;
  }
  return out;
}

/** Rise of an open collector against its pull-up, seconds (common practice: 1 kΩ and 10 nF). */
const RISE_SECONDS = 1e-5;
const LOW_VOLTS = 0.2;

/** Where the sensor switches: later or earlier than the tooth's own edges. */
export function switched(marks: readonly Mark[], sensor: Sensor, wheel: Wheel): readonly Mark[] {
  const { operateDegrees = 0, releaseDegrees = 0 } = sensor;
  if (operateDegrees === 0 && releaseDegrees === 0) return marks;
  const ratio = wheel.shaft === 'cam' ? 2 : 1;
  return marks
    .map(({ degrees, level }) => ({
      degrees: degrees + ratio * (level === 1 ? operateDegrees : releaseDegrees),
      level,
    }))
    .sort((one, other) => one.degrees - other.degrees);
}

/** Levels with the pull-up's rise time. */
export function squareSignal(
  marks: readonly Mark[],
  sensor: Sensor,
  degrees: Float64Array,
  sampleRate: number,
  faults: Faults,
): Float32Array {
  const out = new Float32Array(degrees.length);
  const high = faults.droppedPullUp ? LOW_VOLTS + 0.05 : (sensor.pullUpVolts ?? 5);
  const step = 1 - exp(-1 / (sampleRate * (sensor.riseSeconds ?? RISE_SECONDS)));
  // The first sample stands at its level.
  const inverted = sensor.inverted === true;
  let at = 0;
  let tooth = false;
  let value = Infinity;
  for (let i = 0; i < degrees.length; i += 1) {
    while (at < marks.length && marks[at]!.degrees <= degrees[i]!) {
      tooth = marks[at]!.level === 1;
      at += 1;
    }
    while (at > 0 && marks[at - 1]!.degrees > degrees[i]!) {
      at -= 1;
      tooth = marks[at]!.level === 0;
    }
    const goal = tooth !== inverted ? high : LOW_VOLTS;
    value = goal < value ? goal : value + (goal - value) * step;
    out[i] = value;
  }
  return out;
}

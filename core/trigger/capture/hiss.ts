// Hot loops look this up once.
const { abs } = Math;
/** Places at which the hiss is measured, and its share of a fourth difference: the root of 1 + 16 + 36 + 16 + 1. */
const HISS_PLACES = 20_000;
const FOURTH = Math.sqrt(70);
const NOWHERE = Number.NaN;
/** Of the median of absolute values, for a bell curve. */
const TO_DEVIATION = 1.4826;

/**
 * Noise, root mean square, from the median of fourth differences: a signal sampled ten times a period or more leaves next
 * to nothing in them, white noise passes eightfold.
 */
export function noiseOf(values: Float32Array): number {
  const stride = Math.max(1, Math.floor((values.length - 4) / HISS_PLACES));
  const found = new Float64Array(Math.max(0, Math.ceil((values.length - 4) / stride)));
  let count = 0;
  for (let i = 0; i + 4 < values.length; i += stride) {
    const fourth = values[i]! - 4 * values[i + 1]! + 6 * values[i + 2]! - 4 * values[i + 3]! + values[i + 4]!;
    if (fourth === fourth) found[count++] = abs(fourth);
  }
  return count === 0 ? 0 : (TO_DEVIATION * found.subarray(0, count).sort()[count >> 1]!) / FOURTH;
}

/** The same of a square signal: steps between neighbours that rest at one level. */
export function noiseAtLevels(values: Float32Array, low: number, high: number): number {
  const near = 0.3 * (high - low);
  const stride = Math.max(1, Math.floor(values.length / HISS_PLACES));
  const found = new Float64Array(Math.ceil(values.length / stride));
  let count = 0;
  for (let i = 0; i + 1 < values.length; i += stride) {
    const [one, other] = [values[i]!, values[i + 1]!];
    const level = abs(one - low) < near ? low : abs(one - high) < near ? high : NOWHERE;
    if (abs(other - level) < near) found[count++] = abs(other - one);
  }
  return count === 0 ? 0 : (TO_DEVIATION * found.subarray(0, count).sort()[count >> 1]!) / Math.SQRT2;
}

/** Lobes are narrower than a sine's: their curve is so many times stronger (set by hand, not derived). */
const CURVE = 2.2;

/**
 * Noise of a VR signal that was sampled a few times a period: what the signal's own curve leaves in fourth differences, which
 * is the fourth power of twice the sine of half a sample's phase, is taken off. With fewer than five samples nothing is known.
 *
 * @param period Samples from lobe to lobe; `height` of the lobes, volts.
 */
export function hissOf(noise: number, period: number, height: number): number {
  if (!(period > 0)) return noise;
  const own = (CURVE * height * (2 * Math.sin(Math.PI / Math.max(4, period))) ** 4) / FOURTH;
  return Math.sqrt(Math.max(0, noise * noise - own * own));
}

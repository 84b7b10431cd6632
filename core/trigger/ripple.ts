import { solveSmall } from './least-squares';

/**
 * How well a smooth speed with compression's swing explains the intervals of an aligned pattern.
 *
 * Least squares of the logarithmic slowness on a smooth trend (a cubic over the stretch looked at) and one order of the
 * crank with its double, each averaged over the interval it stands for; outliers are weighed down twice over (Huber 1964).
 * The swing has a bell-shaped prior, which is ridge regression (Hoerl and Kennard 1970): with two teeth in a period of the
 * swing a sine and a cosine look alike, and the plain equations are singular. Wheels with few teeth and a gap of the wrong
 * width can look alike from interval to interval while cranking; over whole turns compression cannot imitate a gap.
 */

/** Compressions a turn of engines with one to twelve cylinders, four-stroke and rotary. */
const ORDERS = [0.5, 1, 1.5, 2, 2.5, 3, 4, 5, 6];
const CUT = 2.5;
/** Half-heights of the swing and of its double that are common while cranking (common practice: 20 to 40 % in all). */
const USUAL = 0.16;
const USUAL_DOUBLE = 0.05;
/** What a swing costs whatever its height: one order of nine, and its phase. */
const SWING_PRICE = 3;
/** Rest below which fits are equals, logarithmic: play of teeth and a recorder's step. */
export const LEAST_REST = 0.03;
const STEPS_MOST = 400;
const TREND = 4;
/** Of the median of absolute values, for a bell curve (Rousseeuw and Croux 1993). */
const TO_DEVIATION = 1.4826;

export interface RippleFit {
  /** Negative logarithm of the likelihood, up to what all wheels share. */
  readonly cost: number;
  /** Compressions a turn; 0 when none explains more. */
  readonly order: number;
  /** Half of the swing over the mean. */
  readonly amplitude: number;
  readonly rest: number;
  /** Cosine and sine of the order, then of its double. */
  readonly swing: readonly number[];
}

interface Step {
  readonly from: number;
  readonly to: number;
  readonly slow: number;
}

const RADIAN = Math.PI / 180;
const { cos, sin } = Math;
const meanCos = (order: number, from: number, to: number): number =>
  (sin(order * to * RADIAN) - sin(order * from * RADIAN)) / (order * (to - from) * RADIAN);
const meanSin = (order: number, from: number, to: number): number =>
  (cos(order * from * RADIAN) - cos(order * to * RADIAN)) / (order * (to - from) * RADIAN);

/** Logarithmic slowness the swing adds to an interval between two crank angles. */
export function swingOver({ order, swing }: Pick<RippleFit, 'order' | 'swing'>, from: number, to: number): number {
  if (order === 0) return 0;
  const [a, b, a2 = 0, b2 = 0] = swing;
  return (
    a * meanCos(order, from, to) +
    b * meanSin(order, from, to) +
    a2 * meanCos(2 * order, from, to) +
    b2 * meanSin(2 * order, from, to)
  );
}

function fitOrder(steps: readonly Step[], order: number): RippleFit | null {
  const count = steps.length;
  const size = order === 0 ? TREND : TREND + 4;
  if (count < size + 2) return null;
  // One row of the design after the other in one array: this runs for every wheel in question and every order.
  const design = new Float64Array(count * size);
  const slow = new Float64Array(count);
  for (let i = 0; i < count; i += 1) {
    const [{ from, to, slow: own }, at] = [steps[i], i * size];
    const x = (2 * i) / (count - 1) - 1;
    slow[i] = own;
    design[at] = 1;
    design[at + 1] = x;
    design[at + 2] = x * x;
    design[at + 3] = x * x * x;
    if (order === 0) continue;
    design[at + 4] = meanCos(order, from, to);
    design[at + 5] = meanSin(order, from, to);
    design[at + 6] = meanCos(2 * order, from, to);
    design[at + 7] = meanSin(2 * order, from, to);
  }
  const weights = new Float64Array(count).fill(1);
  const ridge = new Float64Array(size);
  let [values, rest]: [number[] | null, number] = [null, 2 * LEAST_REST];
  const residuals = new Float64Array(count);
  const away = new Float64Array(count);
  for (let round = 0; round < 3; round += 1) {
    for (let a = TREND; a < size; a += 1) ridge[a] = (rest / (a < TREND + 2 ? USUAL : USUAL_DOUBLE)) ** 2;
    const flat = new Float64Array(size * size);
    const right = new Array<number>(size).fill(0);
    for (let i = 0; i < count; i += 1) {
      const [at, weight] = [i * size, weights[i]];
      for (let a = 0; a < size; a += 1) {
        const weighed = weight * design[at + a];
        right[a] += weighed * slow[i];
        for (let b = a; b < size; b += 1) flat[a * size + b] += weighed * design[at + b];
      }
    }
    const matrix = right.map((_, a) =>
      right.map((__, b) => flat[a <= b ? a * size + b : b * size + a] + (a === b ? ridge[a] : 0)),
    );
    values = solveSmall(matrix, right);
    if (!values) return null;
    for (let i = 0; i < count; i += 1) {
      let fit = 0;
      for (let a = 0; a < size; a += 1) fit += design[i * size + a] * values[a];
      residuals[i] = slow[i] - fit;
      away[i] = residuals[i] < 0 ? -residuals[i] : residuals[i];
    }
    rest = Math.max(LEAST_REST, TO_DEVIATION * away.slice().sort()[count >> 1]);
    const cut = CUT * rest;
    for (let i = 0; i < count; i += 1) weights[i] = away[i] <= cut ? 1 : cut / away[i];
  }
  const swing = values!.slice(TREND);
  const [amplitude, double] = order === 0 ? [0, 0] : [Math.hypot(swing[0], swing[1]), Math.hypot(swing[2], swing[3])];
  const misfit = residuals.reduce((sum, residual) => sum + Math.min(8, 0.5 * (residual / rest) ** 2), 0);
  const price = order === 0 ? 0 : SWING_PRICE + 0.5 * ((amplitude / USUAL) ** 2 + (double / USUAL_DOUBLE) ** 2);
  return {
    cost: count * Math.log(rest) + misfit + price,
    order,
    amplitude: Math.hypot(amplitude, double),
    rest,
    swing,
  };
}

/**
 * @param seconds Pulse times; `degrees` their crank angles, NaN where a pulse belongs to no tooth.
 * @param broken Whether the angle starts anew at a pulse: the interval before it says nothing.
 * @returns The best order; null with too few intervals.
 */
export function fitRipple(
  seconds: ArrayLike<number>,
  degrees: Float64Array,
  broken: (pulse: number) => boolean = () => false,
): RippleFit | null {
  const steps: Step[] = [];
  let before = -1;
  for (let i = 0; i < degrees.length; i += 1) {
    if (Number.isNaN(degrees[i])) continue;
    if (before >= 0 && degrees[i] > degrees[before] && !broken(i)) {
      const slow = Math.log(Math.max(1e-12, seconds[i] - seconds[before]) / (degrees[i] - degrees[before]));
      steps.push({ from: degrees[before], to: degrees[i], slow });
    }
    before = i;
  }
  // Enough turns to tell, from the middle of what is there.
  const spare = Math.max(0, steps.length - STEPS_MOST);
  steps.splice(0, spare >> 1);
  steps.length = Math.min(steps.length, STEPS_MOST);
  let best: RippleFit | null = null;
  for (const order of [0, ...ORDERS]) {
    // Nothing is left that a swing could explain and be worth its price.
    if (best && best.cost <= steps.length * Math.log(LEAST_REST) + SWING_PRICE) break;
    const fit = fitOrder(steps, order);
    if (fit && (!best || fit.cost < best.cost)) best = fit;
  }
  return best;
}

/**
 * How well a steady speed with compression's swing explains the intervals of an aligned pattern.
 *
 * Least squares (normal equations, Gauss with pivots) of the logarithmic slowness on a straight trend and one order of
 * the crank with its double, each averaged over the interval it stands for; outliers are weighed down twice over
 * (Huber 1964). Wheels with few teeth and a gap of the wrong width can look alike from interval to interval while
 * cranking; over whole turns compression cannot imitate a gap.
 */

/** Compressions a turn of engines with one to twelve cylinders, four-stroke and rotary. */
const ORDERS = [0.5, 1, 1.5, 2, 2.5, 3, 4, 5, 6];
const CUT = 2.5;
/** A swing of this half-height counts as much as one unit of misfit. */
const AMPLITUDE = 0.25;
const AMPLITUDE_WEIGHT = 3;
const LEAST_REST = 0.03;
const STEPS_MOST = 400;

export interface RippleFit {
  /** Negative logarithm of the likelihood, up to what all wheels share. */
  readonly cost: number;
  /** Compressions a turn; 0 when none explains more. */
  readonly order: number;
  /** Half of the swing over the mean. */
  readonly amplitude: number;
  readonly rest: number;
}

/** Solves a small symmetric system in place; null when it is singular to within 1e-10 of its largest entry. */
function solveSmall(matrix: number[][], right: number[]): number[] | null {
  const size = right.length;
  const largest = Math.max(...matrix.flat().map(Math.abs), 1e-300);
  for (let column = 0; column < size; column += 1) {
    let pivot = column;
    for (let row = column + 1; row < size; row += 1)
      if (Math.abs(matrix[row][column]) > Math.abs(matrix[pivot][column])) pivot = row;
    if (Math.abs(matrix[pivot][column]) < 1e-10 * largest) return null;
    [matrix[column], matrix[pivot]] = [matrix[pivot], matrix[column]];
    [right[column], right[pivot]] = [right[pivot], right[column]];
    for (let row = column + 1; row < size; row += 1) {
      const factor = matrix[row][column] / matrix[column][column];
      for (let k = column; k < size; k += 1) matrix[row][k] -= factor * matrix[column][k];
      right[row] -= factor * right[column];
    }
  }
  const out = new Array<number>(size).fill(0);
  for (let row = size - 1; row >= 0; row -= 1) {
    let sum = right[row];
    for (let k = row + 1; k < size; k += 1) sum -= matrix[row][k] * out[k];
    out[row] = sum / matrix[row][row];
  }
  return out;
}

interface Step {
  readonly from: number;
  readonly to: number;
  readonly slow: number;
}

const RADIAN = Math.PI / 180;
const meanCos = (order: number, { from, to }: Step): number =>
  (Math.sin(order * to * RADIAN) - Math.sin(order * from * RADIAN)) / (order * (to - from) * RADIAN);
const meanSin = (order: number, { from, to }: Step): number =>
  (Math.cos(order * from * RADIAN) - Math.cos(order * to * RADIAN)) / (order * (to - from) * RADIAN);

function fitOrder(steps: readonly Step[], order: number): RippleFit | null {
  const count = steps.length;
  const size = order === 0 ? 2 : 6;
  if (count < size + 2) return null;
  // One row of the design after the other in one array: this runs for every wheel in question and every order.
  const design = new Float64Array(count * size);
  const slow = new Float64Array(count);
  for (let i = 0; i < count; i += 1) {
    const [step, at] = [steps[i], i * size];
    slow[i] = step.slow;
    design[at] = 1;
    design[at + 1] = i / count - 0.5;
    if (order === 0) continue;
    design[at + 2] = meanCos(order, step);
    design[at + 3] = meanSin(order, step);
    design[at + 4] = meanCos(2 * order, step);
    design[at + 5] = meanSin(2 * order, step);
  }
  const weights = new Float64Array(count).fill(1);
  let [values, rest]: [number[] | null, number] = [null, 0];
  const residuals = new Float64Array(count);
  const away = new Float64Array(count);
  for (let round = 0; round < 3; round += 1) {
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
    const matrix = right.map((_, a) => right.map((__, b) => flat[a <= b ? a * size + b : b * size + a]));
    values = solveSmall(matrix, right);
    if (!values) return null;
    for (let i = 0; i < count; i += 1) {
      let fit = 0;
      for (let a = 0; a < size; a += 1) fit += design[i * size + a] * values[a];
      residuals[i] = slow[i] - fit;
      away[i] = residuals[i] < 0 ? -residuals[i] : residuals[i];
    }
    rest = Math.max(LEAST_REST, 1.4826 * away.slice().sort()[count >> 1]);
    const cut = CUT * rest;
    for (let i = 0; i < count; i += 1) weights[i] = away[i] <= cut ? 1 : cut / away[i];
  }
  const amplitude = order === 0 ? 0 : Math.hypot(...values!.slice(2));
  const misfit = residuals.reduce((sum, residual) => sum + Math.min(8, 0.5 * (residual / rest) ** 2), 0);
  return {
    cost: count * Math.log(rest) + misfit + AMPLITUDE_WEIGHT * (amplitude / AMPLITUDE) ** 2 + (order === 0 ? 0 : 1),
    order,
    amplitude,
    rest,
  };
}

/**
 * @param seconds Pulse times; `degrees` their crank angles, NaN where a pulse belongs to no tooth.
 * @returns The best order; null with too few intervals.
 */
export function fitRipple(seconds: ArrayLike<number>, degrees: Float64Array): RippleFit | null {
  const steps: Step[] = [];
  let before = -1;
  for (let i = 0; i < degrees.length; i += 1) {
    if (Number.isNaN(degrees[i])) continue;
    if (before >= 0 && degrees[i] > degrees[before]) {
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
    const fit = fitOrder(steps, order);
    if (fit && (!best || fit.cost < best.cost)) best = fit;
  }
  return best;
}

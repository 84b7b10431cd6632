import { solveSmall } from './least-squares';

/**
 * How well a smooth speed with compression's swing explains the intervals of an aligned pattern.
 *
 * Least squares of the logarithmic slowness on a smooth trend (a cubic over the stretch looked at) and the swing of one engine:
 * a base order of the crank and its multiples, each averaged over the interval it stands for; outliers
 * are weighed down twice over (Huber 1964). Base half is any engine, odd-fire too; a base of two is an even four. Each order has
 * a bell-shaped prior, which is ridge regression (Hoerl and Kennard 1970), and the swing costs what its freedom is worth: the
 * evidence of a linear model with such priors (MacKay 1992). Wheels with few teeth and a gap of the wrong width can look alike
 * from interval to interval while cranking; over whole turns compression cannot imitate a gap.
 */

/** Compressions a turn of engines with one to twelve cylinders, four-stroke and rotary; half is also every odd-fire engine. */
const BASES = [0.5, 1, 1.5, 2, 2.5, 3, 4, 5, 6];
/** Multiples are looked at up to this order, and up to three times the base; they come in halves. */
const ORDER_MOST = 6;
const MULTIPLES = 3;
const ORDERS = 24;
const CUT = 2.5;
/** Half-height of the base order that is common while cranking (common practice: a swing of 20 to 40 % in all). */
const USUAL = 0.16;
/** Of its multiples, which fall away towards this order. */
const USUAL_MULTIPLE = 0.1;
const FALLS_AT = 2.5;
/** What it costs to say which base it is: one of nine. */
const BASE_PRICE = 2.2;
/** Rest below which fits are equals, logarithmic: play of teeth and a recorder's step. */
export const LEAST_REST = 0.004;
const STEPS_MOST = 500;
const TREND = 4;
/** Of the median of absolute values, for a bell curve (Rousseeuw and Croux 1993). */
const TO_DEVIATION = 1.4826;

/** A swing by its orders: cosine and sine of each half order from 0.5 up, logarithmic slowness. */
export type Swing = readonly number[];

export interface RippleFit {
  /** Negative logarithm of the likelihood, up to what all wheels share. */
  readonly cost: number;
  /** Base order, compressions a turn of an even engine; 0 when none explains more. */
  readonly order: number;
  /** Half of the swing over the mean. */
  readonly amplitude: number;
  readonly rest: number;
  /** What a swing of this height and freedom costs, whatever it explains. */
  readonly price: number;
  readonly swing: Swing;
}

const RADIAN = Math.PI / 180;
const { cos, sin } = Math;
const meanCos = (order: number, from: number, to: number): number =>
  (sin(order * to * RADIAN) - sin(order * from * RADIAN)) / (order * (to - from) * RADIAN);
const meanSin = (order: number, from: number, to: number): number =>
  (cos(order * from * RADIAN) - cos(order * to * RADIAN)) / (order * (to - from) * RADIAN);

/** Logarithmic slowness the swing adds to an interval between two crank angles. */
export function swingOver(swing: Swing, from: number, to: number): number {
  let sum = 0;
  for (let k = 0; 2 * k < swing.length; k += 1) {
    const order = (k + 1) / 2;
    if (swing[2 * k] !== 0) sum += swing[2 * k] * meanCos(order, from, to);
    if (swing[2 * k + 1] !== 0) sum += swing[2 * k + 1] * meanSin(order, from, to);
  }
  return sum;
}

/** A swing of one order. */
export const swingOf = (order: number, cosine: number, sine: number): number[] => {
  const swing = new Array<number>(2 * ORDERS).fill(0);
  [swing[4 * order - 2], swing[4 * order - 1]] = [cosine, sine];
  return swing;
};

/** Half of the distance between a swing's highest and lowest. */
function heightOf(swing: Swing): number {
  let [least, most] = [0, 0];
  for (let at = 0; at < 720; at += 10) {
    const value = swingOver(swing, at, at + 1);
    least = Math.min(least, value);
    most = Math.max(most, value);
  }
  return (most - least) / 2;
}

/** The intervals as equations: what was seen, and what each order says about it. */
interface Equations {
  readonly count: number;
  readonly slow: Float64Array;
  readonly trend: Float64Array;
  /** Cosine and sine of each order, one interval after the other. */
  readonly orders: Float64Array;
}

function fitBase({ count, slow, trend, orders }: Equations, base: number): RippleFit | null {
  const columns: { at: number; prior: number }[] = [];
  const most = Math.min(ORDERS / 2, Math.max(ORDER_MOST, MULTIPLES * base));
  for (let order = base; base > 0 && order <= most; order += base) {
    const prior = order === base ? USUAL : USUAL_MULTIPLE / (1 + (order / Math.max(FALLS_AT, base)) ** 2);
    const at = 4 * order - 2;
    columns.push({ at, prior }, { at: at + 1, prior });
  }
  const size = TREND + columns.length;
  if (count < TREND + 4) return null;
  // One row of the design after the other in one array: this runs for every wheel in question and every base.
  const design = new Float64Array(count * size);
  for (let i = 0; i < count; i += 1) {
    const at = i * size;
    for (let k = 0; k < TREND; k += 1) design[at + k] = trend[i * TREND + k];
    for (let k = TREND; k < size; k += 1) design[at + k] = orders[2 * ORDERS * i + columns[k - TREND].at];
  }
  const weights = new Float64Array(count).fill(1);
  let [values, rest, freedom]: [number[] | null, number, number] = [null, 0.05, 0];
  const residuals = new Float64Array(count);
  const away = new Float64Array(count);
  for (let round = 0; round < 4; round += 1) {
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
    freedom = 0;
    for (let a = TREND; a < size; a += 1) {
      const ridge = (rest / columns[a - TREND].prior) ** 2;
      freedom += 0.5 * Math.log1p(flat[a * size + a] / ridge);
      flat[a * size + a] += ridge;
    }
    values = solveSmall(
      right.map((_, a) => right.map((__, b) => flat[a <= b ? a * size + b : b * size + a])),
      right,
    );
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
  const swing = new Array<number>(2 * ORDERS).fill(0);
  let price = base === 0 ? 0 : BASE_PRICE + freedom;
  columns.forEach(({ at, prior }, k) => {
    swing[at] = values![TREND + k];
    price += 0.5 * (swing[at] / prior) ** 2;
  });
  const misfit = residuals.reduce((sum, residual) => sum + Math.min(8, 0.5 * (residual / rest) ** 2), 0);
  return { cost: count * Math.log(rest) + misfit + price, order: base, amplitude: heightOf(swing), rest, price, swing };
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
  const equations = equationsOf(steps);
  let best: RippleFit | null = null;
  for (const base of [0, ...BASES]) {
    // Nothing is left that a swing could explain and be worth its price.
    if (best && best.cost <= steps.length * Math.log(LEAST_REST) + BASE_PRICE) break;
    const fit = fitBase(equations, base);
    if (fit && (!best || fit.cost < best.cost)) best = fit;
  }
  return best;
}

interface Step {
  readonly from: number;
  readonly to: number;
  readonly slow: number;
}

function equationsOf(steps: readonly Step[]): Equations {
  const count = steps.length;
  const slow = new Float64Array(count);
  const trend = new Float64Array(count * TREND);
  const orders = new Float64Array(count * 2 * ORDERS);
  steps.forEach(({ from, to, slow: own }, i) => {
    const x = count > 1 ? (2 * i) / (count - 1) - 1 : 0;
    slow[i] = own;
    for (let k = 0; k < TREND; k += 1) trend[i * TREND + k] = x ** k;
    for (let k = 0; k < ORDERS; k += 1) {
      const order = (k + 1) / 2;
      orders[2 * (i * ORDERS + k)] = meanCos(order, from, to);
      orders[2 * (i * ORDERS + k) + 1] = meanSin(order, from, to);
    }
  });
  return { count, slow, trend, orders };
}

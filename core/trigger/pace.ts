// Hot loops look these up once.
const { PI, exp, expm1, log, min } = Math;

/**
 * How a crank turns from tooth to tooth, and how exactly its teeth are seen: the model every wheel is held against.
 *
 * The logarithm of the slowness (seconds a degree) runs smoothly over the crank's angle: its slope is an Ornstein-Uhlenbeck
 * process, so that speed swings within some tens of degrees and wanders over turns. A pulse's time is the integral of the
 * slowness, seen with the play of the teeth and the recorder's step. It is the smoothing spline's filter (Wahba 1978; Kohn
 * and Ansley 1987) with time as the thing observed, so that the noise of a tooth moves both of its intervals, and the
 * likelihood of the times is the same measure for every wheel, whatever it takes for lost.
 */
export interface Pace {
  /** Deviation of the slope of the logarithmic slowness, per degree. */
  readonly slope: number;
  /** Root mean square by which a tooth stands off its place, share of a place. */
  readonly play: number;
  /** Root mean square by which a pulse's time is off, seconds: the recorder's step and the threshold's noise. */
  readonly clock: number;
}

/** Degrees over which the slope of the speed remembers itself: compression's rise (common practice: 60 to 110 degrees to its top). */
export const MEMORY_DEGREES = 30;
/** Places wider than this have no more play (degrees). */
export const PLAY_MOST_DEGREES = 30;

/** Places of one interval's figures in the table. */
export const STRIDE = 10;
/** What follows each other there: degrees; the slope's share of the slowness at its end and in its mean; what is left of the slope; the noise. */
export const [DEGREES, END, MEAN, LEFT, Q00, Q01, Q02, Q11, Q12, Q22] = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9];

export interface PaceTable {
  readonly teeth: number;
  /** `STRIDE` figures for each tooth and 0, 1 or 2 teeth lost before it. */
  readonly figures: Float64Array;
  /** Variance of a tooth's place, square degrees; and of a time, square seconds. */
  readonly playSquare: number;
  readonly clockSquare: number;
  /** Variance of the slope, per degree squared. */
  readonly slopeSquare: number;
  /** Usual step, degrees. */
  readonly usual: number;
}

/**
 * Figures of an interval for a slope of deviation 1, written to `out` at `at`: what an Ornstein-Uhlenbeck process and its first and
 * second integral become over it, and the covariance they gain, each integral in closed form.
 */
function intervalFigures(degrees: number, out: Float64Array, at: number): void {
  const length = MEMORY_DEGREES;
  const left = exp(-degrees / length);
  const gone = -expm1(-degrees / length);
  // Integrals of the decay, of its square, of the way times it.
  const once = length * gone;
  const twice = 0.5 * length * gone * (1 + left);
  const along = length * (once - degrees * left);
  const rising = 0.5 * degrees * degrees - along;
  const settled = degrees - 2 * once + twice;
  const scale = 2 / length;
  const [area, volume] = [length * length, length * length * length];
  out[at + DEGREES] = degrees;
  out[at + END] = once;
  out[at + MEAN] = (length * (degrees - once)) / degrees;
  out[at + LEFT] = left;
  out[at + Q00] = scale * (area * ((degrees * degrees * degrees) / 3) - 2 * volume * rising + area * area * settled);
  out[at + Q01] = scale * (area * rising - volume * (degrees - 2 * once + twice));
  out[at + Q02] = scale * (length * along - area * (once - twice));
  out[at + Q11] = scale * area * settled;
  out[at + Q12] = scale * length * (once - twice);
  out[at + Q22] = scale * twice;
}

const median = (values: readonly number[]): number => [...values].sort((x, y) => x - y)[values.length >> 1]!;

/** Figures of all intervals for a slope of deviation 1: they serve for any pace. @param intervals Crank degrees from each tooth to the next. */
export function figuresOf(intervals: readonly number[]): Float64Array {
  const teeth = intervals.length;
  const figures = new Float64Array(teeth * 3 * STRIDE);
  for (let tooth = 0; tooth < teeth; tooth += 1) {
    let degrees = 0;
    let before = tooth;
    for (let lost = 0; lost < 3; lost += 1) {
      before = before === 0 ? teeth - 1 : before - 1;
      degrees += intervals[before]!;
      intervalFigures(degrees, figures, (tooth * 3 + lost) * STRIDE);
    }
  }
  return figures;
}

/** @param intervals Crank degrees from each tooth to the next, one repeat of the pattern. @param unit Their figures, where they are known. */
export function paceTable(
  intervals: readonly number[],
  { slope, play, clock }: Pace,
  unit: Float64Array = figuresOf(intervals),
): PaceTable {
  const figures = unit.slice();
  const square = slope * slope;
  for (let at = 0; at < figures.length; at += STRIDE) for (let i = Q00; i < STRIDE; i += 1) figures[at + i]! *= square;
  const usual = median(intervals);
  return {
    teeth: intervals.length,
    figures,
    playSquare: (play * min(PLAY_MOST_DEGREES, usual)) ** 2,
    clockSquare: clock * clock,
    slopeSquare: slope * slope,
    usual,
  };
}

/** What is known at the end of a path, `STATE` figures in a row. */
export const STATE = 12;
/**
 * Its price so far; seconds from the last pulse to where its tooth was by the path's own reckoning; logarithmic slowness, the
 * slowness itself, the slope; their covariance, the place in degrees; half of the last pulse's squared deviation.
 */
export const [COST, TAU, SLOW, UNIT, SLOPE, P00, P01, P02, P11, P12, P22, HALF] = [
  0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11,
];
const HALF_LOG_TURN = 0.5 * log(2 * PI);

/** A path begins with one interval, seconds long and ending at a tooth: its speed is all that is known. */
export function begin(states: Float64Array, at: number, table: PaceTable, tooth: number, step: number): void {
  const { figures, playSquare, clockSquare, slopeSquare } = table;
  const f = tooth * 3 * STRIDE;
  const degrees = figures[f + DEGREES]!;
  const unit = step / degrees;
  const spread = playSquare + clockSquare / (unit * unit);
  const bend = figures[f + END]! - figures[f + MEAN]!;
  states[at + TAU] = 0;
  states[at + SLOW] = log(unit);
  states[at + UNIT] = unit;
  states[at + SLOPE] = 0;
  states[at + P00] = spread;
  states[at + P01] = spread / degrees;
  states[at + P02] = 0;
  states[at + P11] = (2 * spread) / (degrees * degrees) + slopeSquare * bend * bend;
  states[at + P12] = slopeSquare * bend * figures[f + LEFT]!;
  states[at + P22] = slopeSquare;
  states[at + HALF] = 0;
}

/** Exponential of what is mostly small, to 1e-9 there: the inner loop spends most of its time on it. */
function expOf(x: number): number {
  if (x > 0.12 || x < -0.12) return exp(x);
  return 1 + x * (1 + (x / 2) * (1 + (x / 3) * (1 + (x / 4) * (1 + (x / 5) * (1 + x / 6)))));
}

/** No pulse of this pattern is cheaper than this and its logarithmic slowness. */
export const leastPriceOfPulse = ({ playSquare }: PaceTable): number => 0.5 * log(playSquare) + HALF_LOG_TURN;

/** Price of a pulse as the next tooth, or the one after some lost ones: the negative logarithm of its density in time. */
export function priceOfPulse(
  states: Float64Array,
  own: number,
  { figures, playSquare, clockSquare }: PaceTable,
  f: number,
  step: number,
): number {
  const degrees = figures[f + DEGREES]!;
  const slope = states[own + SLOPE]!;
  const unit = states[own + UNIT]!;
  const slowEnd = states[own + SLOW]! + slope * figures[f + END]!;
  const unitEnd = unit * expOf(slope * figures[f + END]!);
  const unitMean = unit * expOf(slope * figures[f + MEAN]!);
  const off = (step - states[own + TAU]! - unitMean * degrees) / unitEnd;
  const rho = unit / unitEnd;
  const kappa = unitMean / unitEnd;
  const mean = figures[f + MEAN]! * degrees;
  const spread =
    rho * rho * states[own + P00]! +
    2 * rho * kappa * (degrees * states[own + P01]! + mean * states[own + P02]!) +
    kappa *
      kappa *
      (degrees * degrees * states[own + P11]! +
        2 * degrees * mean * states[own + P12]! +
        mean * mean * states[own + P22]! +
        figures[f + Q00]!) +
    playSquare +
    clockSquare / (unitEnd * unitEnd);
  return (0.5 * off * off) / spread + 0.5 * log(spread) + slowEnd + HALF_LOG_TURN;
}

/** Brings a path to its next tooth (Kalman's filter, 1960); `seen` false: the pulse is not believed, the tooth stands where it was expected. */
export function advance(
  from: Float64Array,
  own: number,
  to: Float64Array,
  at: number,
  { figures, playSquare, clockSquare }: PaceTable,
  f: number,
  step: number,
  seen: boolean,
): void {
  const degrees = figures[f + DEGREES]!;
  const [end, left] = [figures[f + END]!, figures[f + LEFT]!];
  const slope = from[own + SLOPE]!;
  const unit = from[own + UNIT]!;
  const slowEnd = from[own + SLOW]! + slope * end;
  const unitEnd = unit * expOf(slope * end);
  const unitMean = unit * expOf(slope * figures[f + MEAN]!);
  const late = step - from[own + TAU]! - unitMean * degrees;
  const rho = unit / unitEnd;
  const kappa = unitMean / unitEnd;
  const [a, b] = [kappa * degrees, kappa * figures[f + MEAN]! * degrees];
  const [p00, p01, p02] = [from[own + P00]!, from[own + P01]!, from[own + P02]!];
  const [p11, p12, p22] = [from[own + P11]!, from[own + P12]!, from[own + P22]!];
  // Rows of the transition times the covariance, then times its columns.
  const [r0, r1, r2] = [rho * p00 + a * p01 + b * p02, rho * p01 + a * p11 + b * p12, rho * p02 + a * p12 + b * p22];
  const [s1, s2] = [p11 + end * p12, p12 + end * p22];
  const n00 = rho * r0 + a * r1 + b * r2 + kappa * kappa * figures[f + Q00]!;
  const n01 = r1 + end * r2 + kappa * figures[f + Q01]!;
  const n02 = left * r2 + kappa * figures[f + Q02]!;
  const n11 = s1 + end * s2 + figures[f + Q11]!;
  const n12 = left * s2 + figures[f + Q12]!;
  const n22 = left * left * p22 + figures[f + Q22]!;
  if (!seen) {
    to[at + TAU] = -late;
    to[at + SLOW] = slowEnd;
    to[at + UNIT] = unitEnd;
    to[at + SLOPE] = slope * left;
    to[at + P00] = n00;
    to[at + P01] = n01;
    to[at + P02] = n02;
    to[at + P11] = n11;
    to[at + P12] = n12;
    to[at + P22] = n22;
    to[at + HALF] = 0;
    return;
  }
  const spread = n00 + playSquare + clockSquare / (unitEnd * unitEnd);
  const off = late / unitEnd;
  const [k0, k1, k2] = [n00 / spread, n01 / spread, n02 / spread];
  const slow = slowEnd + k1 * off;
  to[at + TAU] = -(1 - k0) * late;
  to[at + SLOW] = slow;
  to[at + UNIT] = unitEnd * expOf(k1 * off);
  to[at + SLOPE] = slope * left + k2 * off;
  to[at + P00] = n00 - k0 * n00;
  to[at + P01] = n01 - k0 * n01;
  to[at + P02] = n02 - k0 * n02;
  to[at + P11] = n11 - k1 * n01;
  to[at + P12] = n12 - k1 * n02;
  to[at + P22] = n22 - k2 * n02;
  to[at + HALF] = (0.5 * off * off) / spread;
}

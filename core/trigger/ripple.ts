import { factored, type Factored } from './least-squares';
import { heightOf, ORDERS, RADIAN, turned, type Swing } from './swing';

// Hot loops look these up once.
const { PI, SQRT2, abs, cos, floor, log, max, min, sin, sqrt } = Math;

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
/** Multiples are looked at up to this order, and up to three times the base; they come in halves. Fine teeth show more of them. */
const ORDERS_MOST = [6, 12, 24];
/** Orders that are reckoned with in any case. */
const ORDERS_ALL = 12;
const MULTIPLES = 3;
const CUT = 2.5;
/** Half-height of the base order that is common while cranking (common practice: a swing of 20 to 40 % in all). */
const USUAL = 0.16;
/** Of its multiples, which fall away towards this order. */
const USUAL_MULTIPLE = 0.1;
const FALLS_AT = 2.5;
/** Heights tried where many multiples would be paid for that are not there. */
const HEIGHTS = [1, 0.25, 0.06];
/** What it costs to say which base it is: fours are the commonest, odd-fire engines and singles rare; the figures are set by hand. */
const BASE_PRICES: Readonly<Record<number, number>> = {
  0.5: 7,
  1: 4,
  1.5: 2.5,
  2: 1,
  2.5: 3,
  3: 2,
  4: 2,
  5: 4,
  6: 3.5,
};
/** Half-height a starter hardly ever shows, logarithmic, and by how much more is out of question (common practice: 80 % on a single). */
const STEEP = 0.4;
const STEEP_MORE = 0.06;
/** Rest below which fits are equals, logarithmic: play of teeth and a recorder's step. */
export const LEAST_REST = 0.001;
const STEPS_MOST = 500;
const TREND = 4;
/** Of the median of absolute values, for a bell curve (Rousseeuw and Croux 1993). */
const TO_DEVIATION = 1.4826;

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

/** The intervals as equations: what was seen, and what the trend and each order say about it, one interval after the other. */
interface Equations {
  readonly count: number;
  readonly slow: Float64Array;
  readonly design: Float64Array;
  /** Columns of the design: the trend's, and two of each half order. */
  readonly width: number;
  /** Usual interval, degrees. */
  readonly step: number;
}
const trendColumns = Array.from({ length: TREND }, (_, at) => at);

/** One engine's orders among all columns, the lowest first, with the priors of each. */
interface Family {
  readonly base: number;
  /** The trend's, then two of each order. */
  readonly columns: readonly number[];
  readonly priors: readonly number[];
  /** How many of the orders may be there: a swing that is nearly a sine is not charged for others. */
  readonly sizes: readonly number[];
}
const SIZES = [2, 3, 4, 6, 8, 12, 24];

/** @param height Of the multiples, against the usual ones. */
function familyOf(base: number, height: number, orderMost: number): Family {
  const columns = [...trendColumns];
  const priors: number[] = [];
  const most = min(max(ORDERS_ALL, orderMost), max(orderMost, MULTIPLES * base));
  for (let order = base; base > 0 && order <= most; order += base) {
    const prior =
      order === base
        ? USUAL * max(0.5, sqrt(height))
        : (height * USUAL_MULTIPLE) / (1 + (order / max(FALLS_AT, base)) ** 2);
    const at = TREND + 4 * order - 2;
    columns.push(at, at + 1);
    priors.push(prior, prior);
  }
  const whole = priors.length / 2;
  return { base, columns, priors, sizes: [...SIZES.filter((size) => size < whole), whole] };
}
const NOTHING: Family = { base: 0, columns: trendColumns, priors: [], sizes: [0] };
const familiesTo = (orderMost: number) =>
  BASES.flatMap((base) => HEIGHTS.map((height) => familyOf(base, height, orderMost)));
const FAMILIES = ORDERS_MOST.map(familiesTo);
/** Of teeth so many degrees apart, two to the shortest of an order. */
const mostOf = (step: number): number => ORDERS_MOST.findLast((most) => most <= 180 / step + 1e-9) ?? ORDERS_MOST[0]!;
const familiesOf = (step: number) => FAMILIES[ORDERS_MOST.indexOf(mostOf(step))]!;

/** The normal equations of all columns at once: those of a family are a part of them. */
function normal(
  { count, slow, design, width, step }: Equations,
  weights: Float64Array | null,
  columns: readonly number[],
) {
  const size = columns.length;
  const flat = new Float64Array(size * size);
  const right = new Float64Array(size);
  const row = new Float64Array(size);
  for (let i = 0; i < count; i += 1) {
    const weight = weights ? weights[i]! : 1;
    for (let a = 0; a < size; a += 1) row[a] = design[i * width + columns[a]!]!;
    for (let a = 0; a < size; a += 1) {
      const weighed = weight * row[a]!;
      right[a]! += weighed * slow[i]!;
      for (let b = a; b < size; b += 1) flat[a * size + b]! += weighed * row[b]!;
    }
  }
  return { flat, right, size, step };
}

/** Least share of the noise that is reckoned with: beside the noise of times there is what the model leaves. */
const HEARD_LEAST = 0.2;

/**
 * Share of the intervals' noise that an order hears. A pulse that is late makes one interval longer and the next shorter, so the
 * noise of intervals is all in the high orders: twice the sine's square of half the phase from one to the next.
 */
const heard = (order: number, step: number): number =>
  max(HEARD_LEAST, SQRT2 * sin(min(PI / 4, (PI * order * step) / 360)));

/** A family's part of the normal equations, with the priors; and what they let each of its orders do, added up. */
interface Prepared extends Factored {
  /** What a swing of so many orders is free to do that the prior had not said: columns that look alike count once. */
  readonly freedom: (size: number) => number;
}

/** @param places Of the family's columns within the normal equations. */
function prepare(
  { flat, right, size, step }: ReturnType<typeof normal>,
  { columns, priors }: Family,
  places: readonly number[],
  rest: number,
): Prepared {
  const count = places.length;
  const matrix = new Float64Array(count * count);
  const sides = new Float64Array(count);
  const ridges = new Float64Array(count + 1);
  for (let a = 0; a < count; a += 1) {
    const place = places[a]!;
    sides[a] = right[place]!;
    for (let b = a; b < count; b += 1) matrix[a * count + b] = flat[place * size + places[b]!]!;
    if (a < TREND) continue;
    const order = (((columns[a]! - TREND) >> 1) + 1) / 2;
    const ridge = ((rest * heard(order, step)) / priors[a - TREND]!) ** 2;
    matrix[a * count + a]! += ridge;
    ridges[a + 1] = ridges[a]! + log(ridge);
  }
  const solved = factored(matrix, sides, count);
  return {
    ...solved,
    freedom: (orders) => {
      const taken = TREND + 2 * orders;
      return 0.5 * (solved.logDeterminant(taken) - solved.logDeterminant(TREND) - ridges[taken]!);
    },
  };
}

/** What is left of each interval, and how much of it there is. */
function leftOver({ count, slow, design, width }: Equations, values: Float64Array, columns: readonly number[]) {
  const residuals = new Float64Array(count);
  const away = new Float64Array(count);
  for (let i = 0; i < count; i += 1) {
    let fit = 0;
    for (let a = 0; a < values.length; a += 1) fit += design[i * width + columns[a]!]! * values[a]!;
    residuals[i] = slow[i]! - fit;
    away[i] = residuals[i]! < 0 ? -residuals[i]! : residuals[i]!;
  }
  const rest = max(LEAST_REST, TO_DEVIATION * away.slice().sort()[count >> 1]!);
  return { residuals, away, rest };
}

/** A family weighed with some of its orders: its values, what is left, and what it costs. */
function weighed(equations: Equations, family: Family, prepared: Prepared, orders: number) {
  const values = prepared.solve(TREND + 2 * orders);
  const { residuals, away, rest } = leftOver(equations, values, family.columns);
  let price = orders === 0 ? 0 : BASE_PRICES[family.base]! + prepared.freedom(orders);
  for (let k = TREND; k < values.length; k += 1) price += 0.5 * (values[k]! / family.priors[k - TREND]!) ** 2;
  let misfit = 0;
  for (let i = 0; i < residuals.length; i += 1) misfit += min(8, 0.5 * (residuals[i]! / rest) ** 2);
  return { cost: equations.count * log(rest) + misfit + price, price, rest, away, values };
}

const byCost = (one: { cost: number }, other: { cost: number }) => one.cost - other.cost;
/** Families weighed with fewer of their orders too: so many, and those that are no further behind. */
const [EXPANDED, EXPANDED_BEHIND] = [4, 40];
/** Families followed up with outliers weighed down, those of one engine among them, and how often. */
const [FOLLOWED, OF_ONE] = [4, 2];
const ROUNDS = 8;
/** Share by which the rest may still change. */
const SETTLED = 0.03;
/** Rest reckoned with at first. */
const FIRST_REST = 0.01;

/** Places of an engine's first top on the wheel that are tried, over a cycle. */
const PLACES = 144;
/** What the place, the height and the choice of the swing cost. */
const ENGINE_PRICE = 5;
/** Heights against the swing that was computed. */
const [LOWEST, HIGHEST] = [0.4, 2];

/** The swing of a known engine: only its height and its place on the wheel are free. */
function fitEngine(equations: Equations, all: ReturnType<typeof normal>, engine: Swing): RippleFit | null {
  const { flat, right, size } = all;
  const at = (a: number, b: number) => (a <= b ? flat[a * size + b]! : flat[b * size + a]!);
  let best: { swing: number[]; gain: number } | null = null;
  for (let place = 0; place < PLACES; place += 1) {
    const swing = turned(engine, (720 * place) / PLACES);
    // The trend and one column: its products with the others are sums over the orders.
    const cross = Array.from({ length: TREND }, (_, a) =>
      swing.reduce((sum, one, k) => sum + one * at(a, TREND + k), 0),
    );
    let square = 0;
    for (let k = 0; k < swing.length; k += 1) {
      if (swing[k] === 0) continue;
      for (let l = 0; l < swing.length; l += 1) square += swing[k]! * swing[l]! * at(TREND + k, TREND + l);
    }
    const matrix = Float64Array.from({ length: (TREND + 1) ** 2 }, (_, i): number => {
      const [a, b] = [floor(i / (TREND + 1)), i % (TREND + 1)];
      return a < TREND && b < TREND ? at(a, b) : a === TREND && b === TREND ? square : cross[min(a, b)]!;
    });
    const sides = Float64Array.from([
      ...right.slice(0, TREND),
      swing.reduce((sum, one, k) => sum + one * right[TREND + k]!, 0),
    ]);
    const solved = factored(matrix, sides, TREND + 1);
    if (solved.size <= TREND) continue;
    const values = solved.solve(TREND + 1);
    const height = min(HIGHEST, max(LOWEST, values[TREND]!));
    const gain = values.reduce((sum, value, k) => sum + value * sides[k]!, 0);
    if (values[TREND]! > 0 && (!best || gain > best.gain)) best = { swing: swing.map((one) => height * one), gain };
  }
  if (!best) return null;
  const { swing } = best;
  const { slow, design, width } = equations;
  const less = slow.map((one, i) => swing.reduce((rest, own, k) => rest - own * design[i * width + TREND + k]!, one));
  const rests = { ...equations, slow: less };
  const trend = prepare(normal(rests, null, trendColumns), NOTHING, trendColumns, FIRST_REST);
  if (trend.size < TREND) return null;
  const { cost, rest } = weighed(rests, NOTHING, trend, 0);
  return { cost: cost + ENGINE_PRICE, order: 0.5, amplitude: 0, rest, price: ENGINE_PRICE, swing };
}

const alike = (one: { family: Family; orders: number }, other: { family: Family; orders: number }): boolean =>
  one.family.base === other.family.base && one.orders === other.orders;

/** The best families for some intervals, the cheapest first; none with too few. */
function fitSwings(equations: Equations, engines: readonly Swing[]): RippleFit[] {
  const { count } = equations;
  if (count < TREND + 4) return [];
  const all = normal(
    equations,
    null,
    Array.from({ length: equations.width }, (_, at) => at),
  );
  const whole = [NOTHING, ...familiesOf(equations.step)]
    .flatMap((family) => {
      const { columns, sizes } = family;
      const orders = sizes[sizes.length - 1]!;
      let prepared = prepare(all, family, columns, FIRST_REST);
      if (prepared.size < columns.length) return [];
      const { rest } = weighed(equations, family, prepared, orders);
      prepared = prepare(all, family, columns, rest);
      return [{ family, orders, prepared, ...weighed(equations, family, prepared, orders) }];
    })
    .sort(byCost);
  // With fewer orders a swing costs less, but not by more than those it has cost.
  const first = whole
    .flatMap((one, at) =>
      at >= EXPANDED && one.cost > whole[0]!.cost + EXPANDED_BEHIND
        ? [one]
        : one.family.sizes.map((orders) => ({
            ...one,
            orders,
            ...(orders === one.orders ? {} : weighed(equations, one.family, one.prepared, orders)),
          })),
    )
    .sort(byCost);
  const followed: typeof first = [];
  for (const one of first)
    if (
      followed.length < FOLLOWED &&
      !followed.some((other) => alike(one, other)) &&
      followed.filter(({ family }) => family.base === one.family.base).length < OF_ONE
    )
      followed.push(one);
  const found = followed.flatMap(({ family, orders, ...start }) => {
    let best: RippleFit | null = null;
    let { away, rest } = start;
    const columns = family.columns.slice(0, TREND + 2 * orders);
    const own = columns.map((_, at) => at);
    for (let round = 0; round < ROUNDS; round += 1) {
      const cut = CUT * rest;
      const weights = away.map((one) => (one <= cut ? 1 : cut / one));
      const prepared = prepare(normal(equations, weights, columns), family, own, rest);
      if (prepared.size < columns.length) break;
      const now = weighed(equations, family, prepared, orders);
      const settled = abs(now.rest - rest) < SETTLED * rest;
      ({ away, rest } = now);
      if (!best || now.cost < best.cost) {
        const swing = new Array<number>(2 * ORDERS).fill(0);
        for (let k = TREND; k < columns.length; k += 1) swing[columns[k]! - TREND] = now.values[k]!;
        best = { cost: now.cost, order: family.base, amplitude: 0, rest, price: now.price, swing };
      }
      if (settled) break;
    }
    return best ? [best] : [];
  });
  for (const engine of engines) {
    const own = fitEngine(equations, all, engine);
    if (own) found.push(own);
  }
  return found.sort(byCost).map((one) => {
    const amplitude = heightOf(one.swing);
    const steep = max(0, amplitude - STEEP) / STEEP_MORE;
    return { ...one, amplitude, price: one.price + 0.5 * steep * steep };
  });
}

/**
 * @param seconds Pulse times; `degrees` their crank angles, NaN where a pulse belongs to no tooth.
 * @param broken Whether the angle starts anew at a pulse: the interval before it says nothing.
 * @param engines Swings the build's own engine may have, their first top at 0: their height and place on the wheel are sought.
 * @returns What explains them best, and what comes next; none with too few intervals.
 */
export function fitRipples(
  seconds: ArrayLike<number>,
  degrees: Float64Array,
  broken: (pulse: number) => boolean = () => false,
  engines: readonly Swing[] = [],
): RippleFit[] {
  const steps: Step[] = [];
  let before = -1;
  for (let i = 0; i < degrees.length; i += 1) {
    if (Number.isNaN(degrees[i])) continue;
    if (before >= 0 && degrees[i]! > degrees[before]! && !broken(i)) {
      const slow = log(max(1e-12, seconds[i]! - seconds[before]!) / (degrees[i]! - degrees[before]!));
      steps.push({ from: degrees[before]!, to: degrees[i]!, slow });
    }
    before = i;
  }
  // Enough turns to tell, from the middle of what is there.
  const spare = max(0, steps.length - STEPS_MOST);
  steps.splice(0, spare >> 1);
  steps.length = min(steps.length, STEPS_MOST);
  return fitSwings(equationsOf(steps), engines);
}

interface Step {
  readonly from: number;
  readonly to: number;
  readonly slow: number;
}

function equationsOf(steps: readonly Step[]): Equations {
  const count = steps.length;
  const widths = steps.map(({ from, to }) => to - from).sort((one, other) => one - other);
  const step = widths[count >> 1] ?? 1;
  const orders = 2 * max(ORDERS_ALL, mostOf(step));
  const width = TREND + 2 * orders;
  const slow = new Float64Array(count);
  const design = new Float64Array(count * width);
  steps.forEach(({ from, to, slow: own }, i) => {
    const x = count > 1 ? (2 * i) / (count - 1) - 1 : 0;
    slow[i] = own;
    const at = i * width;
    for (let k = 0; k < TREND; k += 1) design[at + k] = x ** k;
    // Sines of all half orders from those of the lowest, by the sum of angles.
    const [a, b] = [0.5 * from * RADIAN, 0.5 * to * RADIAN];
    const [cosA, sinA, cosB, sinB] = [cos(a), sin(a), cos(b), sin(b)];
    let [ca, sa, cb, sb] = [cosA, sinA, cosB, sinB];
    for (let k = 0; k < orders; k += 1) {
      const wide = ((k + 1) / 2) * (to - from) * RADIAN;
      design[at + TREND + 2 * k] = (sb - sa) / wide;
      design[at + TREND + 2 * k + 1] = (ca - cb) / wide;
      [ca, sa] = [ca * cosA - sa * sinA, sa * cosA + ca * sinA];
      [cb, sb] = [cb * cosB - sb * sinB, sb * cosB + cb * sinB];
    }
  });
  return { count, slow, design, width, step };
}

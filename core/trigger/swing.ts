// Hot loops look these up once.
const { PI, cos, max, min, sin } = Math;

/** Orders of the crank a swing is told by; they come in halves. */
export const ORDERS = 48;

/** A swing by its orders: cosine and sine of each half order from 0.5 up, logarithmic slowness. */
export type Swing = readonly number[];

export const RADIAN = PI / 180;
const meanCos = (order: number, from: number, to: number): number =>
  (sin(order * to * RADIAN) - sin(order * from * RADIAN)) / (order * (to - from) * RADIAN);
const meanSin = (order: number, from: number, to: number): number =>
  (cos(order * from * RADIAN) - cos(order * to * RADIAN)) / (order * (to - from) * RADIAN);

/** Logarithmic slowness the swing adds to an interval between two crank angles: its orders are looked up once. */
export function swingsOver(swing: Swing): (from: number, to: number) => number {
  const orders = swing.flatMap((_, k) => {
    const [cosine, sine] = [swing[2 * k], swing[2 * k + 1]];
    return cosine || sine ? [{ order: (k + 1) / 2, cosine: cosine ?? 0, sine: sine ?? 0 }] : [];
  });
  return (from, to) => {
    let sum = 0;
    for (const { order, cosine, sine } of orders) {
      if (cosine !== 0) sum += cosine * meanCos(order, from, to);
      if (sine !== 0) sum += sine * meanSin(order, from, to);
    }
    return sum;
  };
}

/** A swing of one order. */
export const swingOf = (order: number, cosine: number, sine: number): number[] => {
  const swing = new Array<number>(2 * ORDERS).fill(0);
  [swing[4 * order - 2], swing[4 * order - 1]] = [cosine, sine];
  return swing;
};

/** Half of the distance between a swing's highest and lowest. */
export function heightOf(swing: Swing): number {
  let [least, most] = [0, 0];
  const over = swingsOver(swing);
  for (let at = 0; at < 720; at += 10) {
    const value = over(at, at + 1);
    least = min(least, value);
    most = max(most, value);
  }
  return (most - least) / 2;
}

/** A swing turned so that its first top is at an angle. */
export function turned(swing: Swing, degrees: number): number[] {
  const out = new Array<number>(swing.length).fill(0);
  for (let k = 0; 2 * k < swing.length; k += 1) {
    const angle = ((k + 1) / 2) * degrees * RADIAN;
    const [a, b] = [swing[2 * k]!, swing[2 * k + 1]!];
    out[2 * k] = a * cos(angle) - b * sin(angle);
    out[2 * k + 1] = a * sin(angle) + b * cos(angle);
  }
  return out;
}

import { z } from 'zod';
import { fail, ok, type Result } from '../problem';
import {
  betaCelsius,
  betaOhms,
  steinhartCelsius,
  steinhartHart,
  steinhartOhms,
  type SteinhartHart,
} from './thermistor';
import { TYPE_K_CELSIUS, typeKCelsius, typeKMillivolts } from './type-k';

/** A pair of a calibration: what is measured electrically (volts, ohms, hertz or millivolts) and what it stands for. */
export const pointSchema = z.object({ signal: z.number(), value: z.number() });
export type Point = z.infer<typeof pointSchema>;

/** How a sensor turns the world into electricity. Signal and value are in the units its sensor names. */
export const curveSchema = z.discriminatedUnion('method', [
  z.object({ method: z.literal('linear'), points: z.array(pointSchema).length(2) }),
  z.object({ method: z.literal('table'), points: z.array(pointSchema).min(2).max(64) }),
  /** Ohms and degrees Celsius. */
  z.object({ method: z.literal('steinhart-hart'), points: z.array(pointSchema).length(3) }),
  z.object({
    method: z.literal('beta'),
    ohms: z.number().positive(),
    celsius: z.number().gt(-273),
    beta: z.number().min(100).max(20000),
  }),
  /** Millivolts and degrees Celsius, cold junction 0 °C. */
  z.object({ method: z.literal('type-k') }),
]);
export type Curve = z.infer<typeof curveSchema>;
export type CurveMethod = Curve['method'];

/** A curve ready to be asked, both ways. Null is outside of what the curve knows. */
export interface PreparedCurve {
  readonly valueOf: (signal: number) => number | null;
  readonly signalOf: (value: number) => number | null;
}

const finite = (value: number): number | null => (Number.isFinite(value) ? value : null);

/** Piecewise linear through points sorted by `x`; null outside. */
function interpolate(points: readonly { x: number; y: number }[], x: number): number | null {
  const last = points.length - 1;
  // A value that went through the curve once may come back a rounding outside of its end.
  const slack = 1e-9 * (points[last]!.x - points[0]!.x);
  if (!(x >= points[0]!.x - slack && x <= points[last]!.x + slack)) return null;
  let low = 0;
  let high = last;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (points[middle]!.x <= x) low = middle;
    else high = middle;
  }
  const [from, to] = [points[low]!, points[high]!];
  return from.y + ((to.y - from.y) * (x - from.x)) / (to.x - from.x);
}

/** Rows of a table, named from 1, must rise in signal once sorted and keep one direction in value. */
function checkTable(points: readonly Point[]): Result<readonly Point[]> {
  if (points.length < 2) return fail('points', 'points', 'A table needs two rows or more.');
  const numbered = points.map((point, index) => ({ ...point, row: index + 1 }));
  const sorted = [...numbered].sort((one, other) => one.signal - other.signal);
  const direction = Math.sign(sorted[sorted.length - 1]!.value - sorted[0]!.value);
  for (let i = 1; i < sorted.length; i += 1) {
    const [before, after] = [sorted[i - 1]!, sorted[i]!];
    if (before.signal === after.signal)
      return fail(
        'repeat',
        `points[${after.row - 1}]`,
        `Row ${after.row} repeats the signal ${after.signal} of row ${before.row}.`,
      );
    if (Math.sign(after.value - before.value) !== direction || direction === 0)
      return fail(
        'monotonic',
        `points[${after.row - 1}]`,
        `Row ${Math.max(before.row, after.row)} turns back: from ${before.value} to ${after.value} while the table ${direction >= 0 ? 'rises' : 'falls'}. One signal would stand for two values.`,
      );
  }
  return ok(sorted);
}

const thermistor = (sh: SteinhartHart): PreparedCurve => ({
  valueOf: (ohms) => (ohms > 0 ? finite(steinhartCelsius(sh, ohms)) : null),
  signalOf: (celsius) => finite(steinhartOhms(sh, celsius)),
});

/** Checks a curve and makes it ready. Linear and formula curves go on beyond their points, a table does not. */
export function prepareCurve(curve: Curve): Result<PreparedCurve> {
  switch (curve.method) {
    case 'linear': {
      const [one, other] = curve.points;
      if (!one || !other) return fail('points', 'points', 'A straight line needs two points.');
      if (one.signal === other.signal) return fail('repeat', 'points[1]', 'Row 2 repeats the signal of row 1.');
      if (one.value === other.value) return fail('monotonic', 'points[1]', 'Row 2 repeats the value of row 1.');
      const slope = (other.value - one.value) / (other.signal - one.signal);
      return ok({
        valueOf: (signal) => one.value + (signal - one.signal) * slope,
        signalOf: (value) => one.signal + (value - one.value) / slope,
      });
    }
    case 'table': {
      const checked = checkTable(curve.points);
      if (!checked.ok) return checked;
      const forward = checked.value.map(({ signal, value }) => ({ x: signal, y: value }));
      const back = checked.value
        .map(({ signal, value }) => ({ x: value, y: signal }))
        .sort((one, other) => one.x - other.x);
      return ok({
        valueOf: (signal) => interpolate(forward, signal),
        signalOf: (value) => interpolate(back, value),
      });
    }
    case 'steinhart-hart': {
      const solved = steinhartHart(curve.points.map(({ signal, value }) => ({ ohms: signal, celsius: value })));
      return solved.ok ? ok(thermistor(solved.value)) : solved;
    }
    case 'beta':
      return ok({
        valueOf: (ohms) => (ohms > 0 ? finite(betaCelsius(curve, curve.beta, ohms)) : null),
        signalOf: (celsius) => finite(betaOhms(curve, curve.beta, celsius)),
      });
    case 'type-k':
      return ok({
        valueOf: (millivolts) => finite(typeKCelsius(millivolts)),
        signalOf: (celsius) =>
          celsius >= TYPE_K_CELSIUS.least && celsius <= TYPE_K_CELSIUS.most ? typeKMillivolts(celsius) : null,
      });
  }
}

/** A curve that was checked before; a wrong one is a bug of the caller. */
export function curveOf(curve: Curve): PreparedCurve {
  const prepared = prepareCurve(curve);
  if (!prepared.ok) throw new Error(prepared.problem.sentence);
  return prepared.value;
}

/** A schema that also checks what Zod alone cannot: monotonic tables, solvable thermistors. */
export const checkedCurveSchema = curveSchema.superRefine((curve, context) => {
  const prepared = prepareCurve(curve);
  if (!prepared.ok) context.addIssue({ code: 'custom', message: prepared.problem.sentence.replace(/\.$/, '') });
});

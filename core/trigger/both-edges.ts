import { placesPerCycle } from './cycle-count';
import { asTrial, costOf, explains, judgeRow, type JudgedRow, type RowContext } from './judge-row';
import { samePattern } from './pattern';
import type { Row } from './rows';
import { isEven, spanOf, trialsFor, type Judged } from './trials';

/** Wheels of each row that are held against the other. */
const BOTH = 8;
/** And no further behind the best of its row: the other edge makes no more good. */
const BEHIND = 150;
/** Both edges are of one motion: what its swing costs at the one it costs at the other again. */
const SHARED = 0.6;
/** By how much the next must be behind for one row to do. */
const CLEAR = 20;

const keyOf = ({ wheel, inverted, direction }: Pick<Judged, 'wheel' | 'inverted' | 'direction'>) =>
  `${wheel.id} ${inverted} ${direction}`;

/**
 * Wheels judged by the pulses, the cheapest first. A wheel gives both edges of a square signal; where the first row does not
 * settle it, each wheel pays for both: even leading edges alone would hide a wheel whose trailing ones tell it.
 */
export function judgeRows(rows: readonly Row[], context: Omit<RowContext, 'told'>): Judged[] {
  const told = context.cam && placesPerCycle(context.cam, rows);
  const part = (at: number) => ({
    ...context,
    told,
    onProgress: (done: number) => context.onProgress((at + done) / rows.length),
  });
  const first = judgeRow(rows[0]!, part(0));
  const [leader, ...others] = first.near;
  if (!leader) return [];
  const next = others.find(({ pattern }) => !samePattern(pattern, leader.pattern));
  const settled = !isEven(leader) && explains(leader, rows[0]!) && !(next && costOf(next) < costOf(leader) + CLEAR);
  if (rows.length === 1 || settled) return [...first.near];
  const second = judgeRow(rows[1]!, part(1));
  const wheels = new Map(
    [second, first].flatMap(({ near }) =>
      near
        .slice(0, BOTH)
        .filter((one) => costOf(one) <= costOf(near[0]!) + BEHIND)
        .map((one) => [keyOf(one), one]),
    ),
  );
  const both = [...wheels.values()].map((wheel) => {
    const parts = [inRow(first, wheel, context.square), inRow(second, wheel, context.square)];
    const read = parts.find((one) => one !== null && !isEven(one)) ?? parts[0] ?? parts[1] ?? wheel;
    const [cost, stray] = [
      SHARED * ((parts[0]?.cost ?? first.even()) + (parts[1]?.cost ?? second.even())),
      Math.min(...parts.flatMap((one) => (one ? [one.stray] : []))),
    ];
    return { ...read, cost, stray };
  });
  return both.sort((one, other) => costOf(one) - costOf(other));
}

/** Teeth of a wheel up to which its even edges are judged at their own steps: finer ones are alike at any. */
const OWN_STEPS = 12;

/** A wheel the same way round as it stands in a row; null where that row's edges do not tell it from even teeth. */
function inRow(row: JudgedRow, wheel: Judged, square: boolean): Judged | null {
  const key = keyOf(wheel);
  const seen = row.near.find((one) => keyOf(one) === key);
  if (seen) return row.withSwing(seen);
  const { level } = row.row;
  const same = trialsFor([wheel.wheel], square, level, wheel.fromLibrary).find((one) => keyOf(one) === key);
  if (same) return isEven(same) ? null : row.judgeTrial(same);
  const { pattern } = wheel;
  if (pattern.length < 2 || pattern.length > OWN_STEPS) return null;
  return row.judgeTrial({ ...asTrial(wheel), pattern: [spanOf(wheel) / pattern.length] });
}

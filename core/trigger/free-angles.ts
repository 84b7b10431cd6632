import { judge, refine } from './judge';
import type { Row } from './rows';
import type { Swing } from './swing';
import { isEven, type Judged } from './trials';

/** Teeth a repeat of which a swing may take the angles' place, and repeats from which they are told. */
const [FEWEST, MOST] = [2, 12];
const REPEATS = 3;
/** By how much of the smallest step an angle must be another: teeth are cut and bent no better than to some hundredths (common practice). */
const OTHER_ANGLE = 0.12;
/** A swing under this hides no tooth's place. */
const HIDES = 0.08;

/**
 * What a wheel of as many teeth, but at angles of its own, would make of the pulses: each angle the mean of its share of a repeat. With
 * few teeth a swing of several orders bends a wheel of the library to almost any angles; a wheel that needs none of it says more.
 *
 * @returns By how much it costs less, what its angles cost not counted; null where there is nothing to tell by.
 */
export function freeAngles(best: Judged, { pulses, from, to, clock }: Row, engines: readonly Swing[]): number | null {
  const { alignment, pattern, ripple } = best;
  // Even teeth that the cam counts may be as many at other angles.
  const teeth = isEven(best) ? (best.round !== null && best.round % 2 === 0 ? best.round / 2 : 0) : pattern.length;
  if (teeth < FEWEST || teeth > MOST || !ripple || ripple.amplitude < HIDES) return null;
  const stood = isEven(best) ? Array.from({ length: teeth }, () => pattern[0]!) : pattern;
  const toothAt = (i: number) => (isEven(best) && alignment.teeth[i]! >= 0 ? i % teeth : alignment.teeth[i]);
  const shares = stood.map(() => 0);
  let repeats = 0;
  for (let i = 0; i + teeth < alignment.teeth.length; i += 1) {
    if (toothAt(i) !== 0 || toothAt(i + teeth) !== 0) continue;
    const whole = pulses[from + i + teeth]! - pulses[from + i]!;
    for (let tooth = 0; tooth < teeth; tooth += 1)
      shares[tooth]! += (pulses[from + i + tooth + 1]! - pulses[from + i + tooth]!) / whole;
    repeats += 1;
  }
  if (repeats < REPEATS) return null;
  const span = stood.reduce((sum, one) => sum + one, 0);
  const own = shares.map((share) => (share / repeats) * span);
  const least = Math.min(...stood);
  let [at, off] = [0, 0];
  const strays = own.map((step, tooth) => {
    at += step - stood[tooth]!;
    return at;
  });
  const middle = strays.reduce((sum, one) => sum + one, 0) / teeth;
  for (const stray of strays) off = Math.max(off, Math.abs(stray - middle));
  if (off < OTHER_ANGLE * least) return null;
  const first = judge(own, pulses, from, to, clock);
  return best.rowCost - Math.min(first.cost, refine(first, own, pulses, from, to, clock, engines).cost);
}

import { sameShape } from './pattern';
import { recurring, repeatsOf, withoutTwins, type Recurring } from './recurring';
import { isEven, prior, spanOf, type Judged } from './trials';
import type { Wheel } from '../wheels/wheel';

/**
 * What can be said at all: this wheel, one of these, or none of the library's.
 *
 * The costs of the wheels are logarithms of likelihoods, so their differences are odds; but a model is never quite the
 * engine, so the differences count for a part only (the temperature, set by hand; the odds are not calibrated on a whole run
 * of the bench yet). Beside the ranking stands an absolute question: what would a wheel
 * explain that nobody has drawn yet? It costs the places at which it differs, and saves what goes wrong there every turn.
 */
export interface Verdict {
  readonly kind: 'this' | 'one-of' | 'none';
  /** The wheels that may be it, the likeliest first, with their odds; `none` the odds of a wheel that is not in the library. */
  readonly odds: readonly { readonly wheel: Wheel; readonly odds: number }[];
  readonly noneOdds: number;
  /** Why no more can be said, or what makes the answer sure: one sentence. */
  readonly reason: string;
  /** What comes back turn by turn, whatever the wheel is called. */
  readonly repeats: string | null;
}

/** Differences of cost that make one power of e. */
const TEMPERATURE = 3;
const TEMPERATURE_SHAPE = 20;
/** Odds from which an answer is said without another beside it, and share of all that is listed. */
const SURE = 0.9;
const LISTED = 0.97;
const LISTED_MOST = 5;
/** Odds below which a wheel is not named beside the first. */
const WORTH = 0.01;
/** What a wheel that is not in the library costs, and each place at which it differs from one that is. */
const UNKNOWN = 12;
const UNKNOWN_PLACE = 3;
/** Each angle that is a wheel's own, and what a wheel costs that is drawn by its gaps alone. */
const UNKNOWN_ANGLE = 2.5;
const UNKNOWN_ROW = 5;
/** Teeth a turn up to which, and half of a swing from which, an unusual even number may be another wheel that swings. */
const [UNUSUAL_TEETH, UNUSUAL_SWING] = [6, 0.04];
/** Of what no engine does, a price up to which nothing is said against a wheel. */
const USUAL = 1;
/** Price of a wheel that is faulty at one place. */
const FAULTY = UNKNOWN / TEMPERATURE;
/** By how much a tooth that broke off is likelier than a wheel nobody has drawn. */
const BROKEN = 4;
const KNOCKED = 12;
/** Events a pulse that a bad line still gives (common practice: one in twenty), and what each beyond costs. */
const LINE_WORST = 0.06;
const BEYOND = 4.6;
/** Pulses too few to tell a wheel by. */
const FEW_REPEATS = 1.5;

/** What a starter turns an engine at, and by how much it differs, logarithmic (common practice: 150 to 300 rpm). */
const [STARTER_RPM, STARTER_SPREAD] = [210, 0.45];
/** Up to this speed a crank may swing as hard as on a starter; above, what its inertia lets it (from memory). */
const HARD_RPM = 330;
/** Price of an engine that runs: few captures are taken so. */
const RUNS = 2;

/** Price of a speed and a swing, by what engines do (common practice): cranking, running, overspeed. */
export function speedPrice(rpm: number, swing: number): number {
  const starter = 0.5 * (Math.log(Math.max(1, rpm) / STARTER_RPM) / STARTER_SPREAD) ** 2;
  const speed =
    rpm < STARTER_RPM
      ? Math.min(10, starter)
      : rpm <= 7500
        ? Math.min(RUNS, starter)
        : rpm <= 10_000
          ? 5
          : rpm <= 14_000
            ? 9
            : 15;
  // Compression's swing falls with the square of the speed: a crank that runs hardly swings.
  const allowed = 0.5 * Math.min(1, (HARD_RPM / Math.max(1, rpm)) ** 2) + 0.02;
  const excess = Math.max(0, Math.log(Math.max(1e-6, swing) / allowed));
  return speed + 8 * Math.min(2, excess);
}

/**
 * What of that speaks against the wheel itself and not only for another: no starter turns so slowly, no crank so fast, none swings so.
 */
const impossible = (rpm: number, swing: number): number => {
  const runs = rpm > STARTER_RPM ? RUNS : 0;
  return Math.max(0, speedPrice(rpm, swing) - runs - USUAL);
};

/** Teeth a repeat up to which a swing that keeps step with them could as well be their own angles. */
const FEW_TEETH = 2;
const STEADY = 0.02;
/**
 * A swing that keeps step with few teeth. Even ones that the cam counts may stand at other angles where it comes round with every turn:
 * one of half orders does not, so that two turns tell it from angles.
 */
function swingsWithIt(trial: Judged): boolean {
  const { pattern, ripple } = trial;
  if (isEven(trial) && trial.round !== null)
    return (
      trial.round / 2 <= UNUSUAL_TEETH &&
      ripple !== null &&
      ripple.order > 0 &&
      Number.isInteger(ripple.order) &&
      ripple.amplitude > UNUSUAL_SWING
    );
  if (isEven(trial) || pattern.length > FEW_TEETH || !ripple || ripple.amplitude < STEADY) return false;
  const steps = (ripple.order * spanOf(trial)) / 360;
  return Math.abs(steps - Math.round(steps)) < 0.01;
}

const rpmOf = ({ degrees }: Judged, pulses: Float64Array, from: number): number => {
  let [first, last] = [0, degrees.length - 1];
  while (first < last && Number.isNaN(degrees[first])) first += 1;
  while (last > first && Number.isNaN(degrees[last])) last -= 1;
  const seconds = pulses[from + last]! - pulses[from + first]!;
  return seconds > 0 ? (degrees[last]! - degrees[first]!) / seconds / 6 : 0;
};

export interface VerdictRow {
  readonly pulses: Float64Array;
  readonly from: number;
  readonly to: number;
}

/** Wheels people have: the library's, and even teeth, which the cam counts. */
const isUsual = (trial: Judged): boolean => trial.fromLibrary || isEven(trial);
/** What speaks for a wheel beforehand: how common it is, and the speed its pulses would mean. One of no library is one nobody has seen. */
const belief = (trial: Judged, { pulses, from, to }: VerdictRow): number =>
  prior(trial) +
  (isUsual(trial) ? 0 : UNKNOWN / TEMPERATURE) +
  // What goes wrong at one place in every turn is a fault of the wheel, or another wheel.
  (recurring(trial, repeatsOf(trial, to - from)).length > 0 ? FAULTY : 0) +
  (isEven(trial) && trial.round === null ? 0 : speedPrice(rpmOf(trial, pulses, from), swingOf(trial)));
/** And what the pulses say. */
const evidence = ({ cost, stray }: Judged): number => cost + stray;

/** Cost of a wheel with what its speed and swing say. */
const fullCost = (trial: Judged, row: VerdictRow): number => evidence(trial) + belief(trial, row);

const swingOf = ({ ripple }: Judged): number => ripple?.amplitude ?? 0;

/**
 * By how many powers of e a wheel is less likely than another. Wheels of one shape give the same pulses: only the scale of a swing,
 * and what engines do, speaks for the one or the other. What is known beforehand counts in full.
 */
function behind(trial: Judged, best: Judged, rowOf: RowOf): number {
  const alike = trial.wheel !== best.wheel && sameShape(trial.pattern, best.pattern);
  const said = (evidence(trial) - evidence(best)) / (alike ? TEMPERATURE_SHAPE : TEMPERATURE);
  return said + belief(trial, rowOf(trial)) - belief(best, rowOf(best));
}

/** The pulses a wheel was read from: square signals have two rows. */
type RowOf = (trial: Judged) => VerdictRow;

/** Judged wheels, the likeliest first. */
export function byLikelihood(judged: readonly Judged[], rowOf: RowOf): Judged[] {
  const near = withoutTwins(judged, (trial) => rowOf(trial).to - rowOf(trial).from)
    .map((trial) => ({ trial, cost: fullCost(trial, rowOf(trial)) }))
    .sort((one, other) => one.cost - other.cost)
    .map(({ trial }) => trial);
  if (near.length === 0) return near;
  const best = near.reduce((one, other) => (behind(other, one, rowOf) < 0 ? other : one));
  return [best, ...near.filter((trial) => trial !== best)];
}

/**
 * @param near Judged wheels, the cheapest first.
 * @param rowOf The pulses each was read from.
 * @param free By how much a wheel of as many teeth at angles of its own costs less; null where that tells nothing.
 * @param widths The row of wide and narrow teeth that comes back, and whether it speaks against the first of them; null where none.
 */
export function verdictOf(
  near: readonly Judged[],
  rowOf: RowOf,
  widths: { readonly row: string; readonly against: boolean } | null,
  free: number | null = null,
): Verdict {
  const best = near[0]!;
  const coded = widths?.against ? widths.row : null;
  const { from, to } = rowOf(best);
  const count = to - from;
  const repeats = repeatsOf(best, count);
  const again = recurring(best, repeats);
  const { events } = best.alignment;
  const chance = events.length - again.reduce((sum, { times }) => sum + times, 0);
  // One tooth gone in every turn is as likely broken off as a gap nobody has drawn.
  const [one] = again;
  const broken = again.length === 1 && one?.kind === 'lost' && best.pattern.length > 3;
  // A tooth that was knocked off its place is a fault, hardly ever a wheel.
  const knocked = again.length === 1 && one?.kind === 'bent' && best.pattern.length > 3;
  const saved = again.reduce((sum, { times }) => sum + BEYOND * times, 0);
  const beyond = Math.max(0, chance - LINE_WORST * count) * BEYOND;
  // A wheel nobody has drawn: this one, other at some places; or, where too much goes wrong at random, another altogether.
  const places = again.length * (UNKNOWN_PLACE + Math.log(Math.max(2, best.pattern.length)));
  const unlikely =
    isEven(best) && best.round === null ? 0 : impossible(rpmOf(best, rowOf(best).pulses, from), swingOf(best));
  const unknown = (UNKNOWN + Math.min(places - saved, 0) - beyond - (coded ? UNKNOWN * 3 : 0)) / TEMPERATURE - unlikely;
  // Teeth at other angles, and a swing the engine may well have, look alike: that is told, not decided.
  const teeth = isEven(best) ? (best.round ?? 0) / 2 : best.pattern.length;
  const bends =
    (free !== null && free > UNKNOWN_ANGLE * (teeth - 1) + UNKNOWN_ROW) ||
    // An even number nobody's wheel has, of few teeth that a swing makes even.
    (isEven(best) && !best.fromLibrary && teeth <= UNUSUAL_TEETH && swingOf(best) > UNUSUAL_SWING);
  const powers = new Map<Wheel, number>();
  for (const trial of near) {
    if (!Number.isFinite(trial.cost)) continue;
    const power = behind(trial, best, rowOf);
    powers.set(trial.wheel, Math.min(power, powers.get(trial.wheel) ?? power));
  }
  if (broken || knocked)
    powers.set(best.wheel, Math.min(powers.get(best.wheel)!, unknown - (knocked ? KNOCKED : BROKEN) / TEMPERATURE));
  const least = Math.min(unknown, ...powers.values());
  const weight = (power: number) => Math.exp(least - power);
  const all = [...powers.values()].reduce((sum, power) => sum + weight(power), weight(unknown));
  const library = new Set(near.flatMap((trial) => (isUsual(trial) ? [trial.wheel] : [])));
  // Drawn by its gaps alone a wheel is one of no library.
  const drawn = [...powers].reduce((sum, [wheel, power]) => sum + (library.has(wheel) ? 0 : weight(power)), 0);
  const odds = [...powers]
    .filter(([wheel]) => library.has(wheel))
    .map(([wheel, power]) => ({ wheel, odds: weight(power) / all }))
    .sort((one, other) => other.odds - one.odds);
  const noneOdds = (weight(unknown) + drawn) / all;
  const repeatsSaid = sayRepeats(best, again, coded);
  const worth = odds.filter(({ odds: own }, at) => at === 0 || own >= WORTH).slice(0, LISTED_MOST);
  // What the teeth show themselves says more than what they are not.
  const base = { odds: worth, noneOdds, repeats: (noneOdds > 0.5 && widths?.row) || repeatsSaid };
  if (coded && noneOdds > 0.5) return { ...base, kind: 'none', reason: coded };
  if (isEven(best) && best.round === null)
    return {
      ...base,
      kind: 'one-of',
      reason: 'The teeth are even: how many there are is told only by a cam or a known speed.',
    };
  if (broken)
    return {
      ...base,
      kind: 'one-of',
      reason: `A tooth is missing in every turn: ${best.wheel.name} with a broken tooth and a wheel with another gap there give the same pulses. Look at the wheel.`,
    };
  if (noneOdds > 0.5 && !isUsual(best))
    return {
      ...base,
      kind: 'none',
      repeats: base.repeats ?? `The gaps repeat like ${best.wheel.name}.`,
      reason: `No wheel of the library gives these pulses; they repeat like ${best.wheel.name}, which is not among them.`,
    };
  if (noneOdds > 0.5)
    return {
      ...base,
      kind: 'none',
      reason:
        unlikely > 0 && again.length === 0 && beyond === 0
          ? `${best.wheel.name} is nearest, but the crank would have to turn as no crank does.`
          : again.length > 0
            ? `${best.wheel.name} is nearest, but ${again.length === 1 ? 'one tooth' : `${again.length} teeth`} of it would be wrong in every turn.`
            : `${best.wheel.name} is nearest, but ${chance} of ${count} pulses do not fit it, at no one place.`,
    };
  if (repeats < FEW_REPEATS && !isEven(best))
    return { ...base, kind: 'one-of', reason: 'Less than one and a half turns of the pattern were seen.' };
  if (bends || swingsWithIt(best))
    return {
      ...base,
      // As likely another of as many teeth as this one.
      odds: worth.map(({ wheel, odds: own }) => ({ wheel, odds: own / 2 })),
      noneOdds: noneOdds + 0.5 * odds.reduce((sum, { odds: own }) => sum + own, 0),
      kind: 'one-of',
      reason: `With ${Math.round(teeth)} teeth a turn a swing of the speed and other angles between them look alike: crank with the plugs out, or measure the angles.`,
    };
  if (odds[0]!.odds >= SURE)
    return { ...base, odds: odds.slice(0, 1), kind: 'this', reason: 'No other wheel explains the pulses as well.' };
  let sum = 0;
  const listed = odds.filter(({ odds: own }) => {
    const more = sum < LISTED;
    sum += own;
    return more;
  });
  return {
    ...base,
    odds: listed.slice(0, LISTED_MOST),
    kind: 'one-of',
    reason: `${listed.length > 1 ? 'These' : 'Others'} explain the pulses nearly as well: a cam beside the crank, a steadier crank with the plugs out, or a count by hand tells them apart.`,
  };
}

function sayRepeats(
  { pattern, wheel, direction }: Judged,
  again: readonly Recurring[],
  coded: string | null,
): string | null {
  if (coded) return coded;
  if (pattern.length < 2) return null;
  const lost = again.filter(({ kind }) => kind === 'lost').length;
  const added = again.filter(({ kind }) => kind === 'added').length;
  const pulses = pattern.length - lost + added;
  if (again.length === 0) return null;
  const where = again
    .slice(0, 4)
    .map(({ tooth, kind }) => {
      const before = (tooth + pattern.length - 1) % pattern.length;
      return kind === 'lost'
        ? `tooth ${before + 1} not there`
        : kind === 'added'
          ? `one more before tooth ${tooth + 1}`
          : `tooth ${tooth + 1} off its place`;
    })
    .join(', ');
  return `${pulses} pulses come back every ${Math.round(spanOf({ pattern } as Judged))}°, counted as ${wheel.name}${direction === 'reverse' ? ' turned round' : ''}: ${where}.`;
}

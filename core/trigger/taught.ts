import { fail, ok, type Result } from '../problem';
import { align } from './align';
import { anglesOf } from './path';
import type { Match } from './match';
import { fitRipples } from './ripple';
import { wheelOfTeeth, type Tooth } from './teeth';
import { pulsesOf, showsSides } from './tracks';
import { repeats, teethPerTurn, type Wheel } from '../wheels/wheel';

/** A wheel learned from a capture, with how far it can be trusted. */
export interface Taught {
  readonly wheel: Wheel;
  /** Whole turns (of the wheel's shaft) it was averaged over. */
  readonly turns: number;
  /** Largest scatter of a tooth's angle from turn to turn, degrees of the wheel; null where only the mean is known. */
  readonly scatter: number | null;
  /** Degrees by which compression's swing may have moved the angles; 0 when the teeth stand on equal places. */
  readonly swing: number;
  readonly notes: readonly string[];
}

/** Longest pattern looked for, teeth a turn. */
const MOST_TEETH = 200;
/** Width of a tooth whose trailing edge no VR signal shows, as a share of the narrowest step. */
const VR_SHARE = 0.4;
/** Score from which a match is believed. */
const RECOGNISED = 0.4;
/** Angles of uneven wheels are told to this, degrees. */
const TOLD_TO = 0.5;
/** Rest of the logarithmic slowness up to which equal places explain the pulses. */
const PLACES_REST = 0.07;
/** Of the median of absolute differences, for a bell curve (Rousseeuw and Croux 1993). */
const TO_DEVIATION = 1.4826;

const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((one, other) => one - other);
  const half = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
};

/** Lags tried, the likeliest; and the share of the best one's pulses that a shorter must have in whole turns. */
const LAGS_TRIED = 8;
const AS_GOOD = 0.6;

/**
 * Pulses after which the row of intervals comes round; null when it does not, as for even teeth. Lags at which neighbours'
 * ratios repeat are tried: a turn of that many pulses is aligned with all of them (so lost and added pulses do not
 * matter), and the shortest that leaves nearly as many pulses in whole turns as the best is the answer.
 */
export function periodOf(seconds: Float64Array): number | null {
  const ratios: number[] = [];
  for (let i = 2; i < seconds.length; i += 1)
    ratios.push(Math.log((seconds[i]! - seconds[i - 1]!) / (seconds[i - 1]! - seconds[i - 2]!)));
  // The gaps carry the pattern, strays must not.
  const capped = ratios.map((ratio) => Math.max(-1.5, Math.min(1.5, ratio)));
  const power = capped.reduce((sum, ratio) => sum + ratio * ratio, 0) / Math.max(1, capped.length);
  if (power < 0.002) return null;
  const longest = Math.min(MOST_TEETH, Math.floor(capped.length / 3));
  const likeness: { lag: number; alike: number }[] = [];
  for (let lag = 1; lag <= longest; lag += 1) {
    let sum = 0;
    for (let i = lag; i < capped.length; i += 1) sum += capped[i]! * capped[i - lag]!;
    likeness.push({ lag, alike: sum / (capped.length - lag) / power });
  }
  likeness.sort((one, other) => other.alike - one.alike);
  if (likeness.length === 0 || likeness[0]!.alike < 0.3) return null;
  const tried = likeness
    .slice(0, LAGS_TRIED)
    .filter(({ alike }) => alike >= 0.3 * likeness[0]!.alike)
    .flatMap(({ lag }) => {
      const template = firstTemplate(seconds, lag, 360);
      if (!template) return [];
      const turns = wholeTurns(align(template, seconds).teeth, lag).length;
      return turns < 2 ? [] : [{ lag, covered: turns * lag }];
    });
  const most = Math.max(0, ...tried.map(({ covered }) => covered));
  const good = tried.filter(({ covered }) => covered >= AS_GOOD * most).map(({ lag }) => lag);
  return good.length > 0 ? Math.min(...good) : null;
}

/** Intervals of the turn that is most like its next one, scaled to `degrees`; on equal places where they fit. */
function firstTemplate(seconds: Float64Array, teeth: number, degrees: number): number[] | null {
  let [least, from] = [Number.POSITIVE_INFINITY, -1];
  for (let start = 0; start + 2 * teeth < seconds.length; start += 1) {
    const [turn, next] = [
      seconds[start + teeth]! - seconds[start]!,
      seconds[start + 2 * teeth]! - seconds[start + teeth]!,
    ];
    let off = Math.abs(Math.log(next / turn)) * 0.2;
    for (let k = 0; k < teeth && off < least; k += 1) {
      const one = (seconds[start + k + 1]! - seconds[start + k]!) / turn;
      const other = (seconds[start + teeth + k + 1]! - seconds[start + teeth + k]!) / next;
      off += Math.abs(one - other);
    }
    if (off < least) [least, from] = [off, start];
  }
  if (from < 0) return null;
  // Both turns together: compression of an odd number of cylinders swings one way in the one and back in the other.
  const both = seconds[from + 2 * teeth]! - seconds[from]!;
  const intervals = Array.from({ length: teeth }, (_, k) => {
    const sum =
      seconds[from + k + 1]! - seconds[from + k]! + seconds[from + teeth + k + 1]! - seconds[from + teeth + k]!;
    return (degrees * sum) / both;
  });
  const steps = teeth >= 3 ? stepsInPlaces(intervals) : null;
  if (!steps) return intervals;
  const all = steps.reduce((sum, step) => sum + step, 0);
  return steps.map((step) => (degrees * step) / all);
}

/** Whole turns: numbers of the pulses from each tooth 0 to the next, all teeth between present and in order. */
function wholeTurns(teeth: Int32Array, count: number): number[] {
  const starts: number[] = [];
  for (let i = 0; i + count < teeth.length; i += 1) {
    if (teeth[i] !== 0 || teeth[i + count] !== 0) continue;
    let whole = true;
    for (let k = 1; k < count && whole; k += 1) whole = teeth[i + k] === k;
    if (whole) starts.push(i);
  }
  return starts;
}

/**
 * Share of the turn passed at a share of its time, speed changing evenly through it:
 * theta(u) = u + a (u^2 - u), a from the turns' times before, now and after.
 */
const shareOf = (u: number, before: number, now: number, after: number): number =>
  u + (now * (1 / after - 1 / before) * (u * u - u)) / 4;

/** Steps in equal places, by the pitch of the neighbours; null where a step is no whole number of them. */
function stepsInPlaces(intervals: readonly number[]): number[] | null {
  const count = intervals.length;
  const steps = intervals.map((interval, k) => {
    const near = [-3, -2, -1, 1, 2, 3].map((shift) => intervals[(k + shift + 3 * count) % count]!);
    const pitch = median([...near, interval].sort((one, other) => one - other).slice(0, 5));
    return interval / pitch;
  });
  const whole = steps.map((step) => Math.max(1, Math.round(step)));
  return steps.some((step, k) => Math.abs(step - whole[k]!) > 0.3) ? null : whole;
}

/** A wheel that was recognised, by its cam too, tells whether a turn is one period or several of them. */
function turnOf({ best: { wheel, score } }: Match, period: number | null): number | null {
  if (period === null || score < RECOGNISED || wheel.shaft !== 'crank') return period;
  const own = teethPerTurn(wheel);
  return own % period === 0 && repeats(wheel) === own / period ? own : period;
}

/**
 * Learns the crank wheel from a capture: the pattern's period is found (or given as counted teeth a turn), pulses are
 * aligned with a first turn of their own so that lost and added ones do not count, and each tooth's place is the median over
 * the whole turns, the turn's change of speed taken out. Where equal places with empty ones explain the pulses together with
 * a swing of compression, they are taken exactly; else the angles stay as averaged, with the swing told.
 *
 * @param teeth Teeth a turn as counted by hand; needed for even teeth.
 * @param ripple Swing of the speed within a turn to reckon with, a share; `events` compressions a turn. A capture of uneven
 *   teeth alone cannot tell a swing from the teeth's own angles.
 */
export function teachCrank(
  found: Match,
  name: string,
  { teeth = null, ripple = 0, events = 2 }: { teeth?: number | null; ripple?: number; events?: number } = {},
): Result<Taught> {
  const square = showsSides(found.crank);
  const seconds = square ? pulsesOf(found.crank, 1) : found.pulses;
  const period = teeth ?? turnOf(found, periodOf(seconds));
  if (period === null)
    return fail(
      'no-period',
      'capture',
      'The pulses do not come round in a pattern, as even teeth do not: count the teeth of a turn and enter them.',
    );
  if (seconds.length < 3 * period + 1)
    return fail(
      'too-short',
      'capture',
      `The capture has ${seconds.length} pulses; to learn ${period} teeth a turn it needs at least ${3 * period + 1}.`,
    );
  const even = period === 1 || (teeth !== null && periodOf(seconds) === null);
  const notes: string[] = [];
  const done = (list: readonly Tooth[], turns: number, scatter: number, swing: number): Result<Taught> => {
    const wheel = wheelOfTeeth({ id: 'taught', name, shaft: 'crank' }, list);
    return wheel.ok ? ok({ wheel: wheel.value, turns, scatter, swing, notes }) : wheel;
  };
  const template = even ? Array.from({ length: period }, () => 360 / period) : firstTemplate(seconds, period, 360);
  if (!template) return fail('too-short', 'capture', 'The capture has no two whole turns after each other.');
  const { teeth: path } = align(template, seconds);
  const starts = wholeTurns(path, period);
  if (starts.length < 2)
    return fail('too-short', 'capture', 'The capture has fewer than two whole turns without a lost or added pulse.');
  const fractions = Array.from({ length: period }, (): number[] => []);
  const widths = Array.from({ length: period }, (): number[] => []);
  const falls = square ? pulsesOf(found.crank, 0) : null;
  let fall = 0;
  for (const start of starts) {
    const [from, to] = [seconds[start]!, seconds[start + period]!];
    const turn = to - from;
    const before = start >= period ? from - seconds[start - period]! : turn;
    const after = start + 2 * period < seconds.length ? seconds[start + 2 * period]! - to : turn;
    for (let k = 0; k < period; k += 1) {
      const at = seconds[start + k]!;
      const share = shareOf((at - from) / turn, before, turn, after);
      fractions[k]!.push(share);
      if (!falls) continue;
      while (fall < falls.length && falls[fall]! <= at) fall += 1;
      const end = falls[fall];
      if (end !== undefined && end < seconds[start + k + 1]!)
        widths[k]!.push(shareOf((end - from) / turn, before, turn, after) - share);
    }
  }
  const places = fractions.map((all) => 360 * median(all));
  const scatter = Math.max(
    ...fractions.map((all, k) => 360 * TO_DEVIATION * median(all.map((one) => Math.abs(one - places[k]! / 360)))),
  );
  const intervals = places.map((place, k) => (k + 1 < period ? places[k + 1]! : 360) - place);
  const narrowest = Math.min(...intervals);
  const widthOf = (k: number) => (widths[k]!.length > 0 ? 360 * median(widths[k]!) : VR_SHARE * narrowest);
  const plainWidths = widths.every((all) => all.length === 0);
  const steps = even ? template.map(() => 1) : period >= 3 ? stepsInPlaces(intervals) : null;
  if (steps) {
    const all = steps.reduce((sum, step) => sum + step, 0);
    const pattern = steps.map((step) => (step * 360) / all);
    const held = align(pattern, seconds);
    const [fit] = fitRipples(seconds, anglesOf(held, pattern, seconds));
    // Compression is smooth; what is left beside it must be no more than play of the teeth.
    if (fit && (fit.rest < PLACES_REST || even)) {
      // The turn starts behind its longest gap, as the library's wheels do.
      const gap = steps.lastIndexOf(Math.max(...steps));
      const order = steps.map((_, k) => (gap + 1 + k) % period);
      let at = 0;
      const pitch = 360 / all;
      const wide = plainWidths ? 0 : median(order.map(widthOf)) / pitch;
      const coded = !plainWidths && order.some((k) => Math.abs(widthOf(k) / pitch - wide) > 0.2);
      const list = order.map((k): Tooth => {
        const tooth = {
          at,
          width: plainWidths ? pitch / 2 : coded ? widthOf(k) : Math.round(20 * wide) * 0.05 * pitch,
        };
        at += steps[k]! * pitch;
        return tooth;
      });
      if (all > period) notes.push(`The teeth stand on ${all} equal places; ${all - period} of them are empty.`);
      if (plainWidths) notes.push('A VR signal does not show how wide the teeth are: half a place is taken.');
      return done(list, starts.length, scatter, 0);
    }
  }
  const swing = ((ripple / 2 / Math.max(0.5, events)) * 180) / Math.PI;
  notes.push('The teeth do not stand on equal places: their angles are averaged over the turns.');
  if (swing >= 1)
    notes.push(
      `With a swing of ${Math.round(ripple * 100)} % compression moves these angles by up to ${swing.toFixed(1)}°: with the plugs out they come out truer.`,
    );
  if (plainWidths) notes.push('A VR signal does not show how wide the teeth are.');
  const told = (degrees: number) => Math.round(degrees / TOLD_TO) * TOLD_TO;
  const longest = intervals.lastIndexOf(Math.max(...intervals));
  const zero = (longest + 1) % period;
  const list = places.map((place, k): Tooth => {
    const width = Math.max(TOLD_TO, told(widthOf(k)));
    // The steep crossing of a VR signal is the middle of its tooth.
    const from = told((place - places[zero]! + 360) % 360);
    return { at: from % 360, width: Math.min(width, Math.max(TOLD_TO, intervals[k]! - 2 * TOLD_TO)) };
  });
  return done(list, starts.length, scatter, swing);
}

/** Angles of a cam are told to this, degrees of the cam: between crank teeth they are only as good as the speed is even. */
const CAM_TOLD_TO = 0.5;

/** Learns the cam wheel from the angles at which its edges stood on the crank. */
export function teachCam(found: Match, name: string): Result<Taught> {
  const { camFit, cam } = found;
  if (!camFit || !cam) return fail('no-cam', 'capture', 'The capture has no cam signal to learn from.');
  const told = (degrees: number) => (Math.round(degrees / 2 / CAM_TOLD_TO) * CAM_TOLD_TO + 360) % 360;
  const rises = camFit.edges.filter(({ level }) => level === 1);
  const falls = camFit.edges.filter(({ level }) => level === 0);
  const square = showsSides(cam);
  const turns = Math.max(1, Math.floor((found.degrees.findLast((one) => !Number.isNaN(one)) ?? 0) / 720));
  const notes = [
    found.best.score > 0.3
      ? `Counted from the crank's reference tooth, ${Math.round((camFit.edges[0]?.degrees ?? 0) * 10) / 10}° to the first edge.`
      : 'The crank wheel itself is uncertain: so are these angles.',
  ];
  if (!square) notes.push('A VR signal does not show how wide the teeth are.');
  let list: Tooth[];
  if (square) {
    list = rises.flatMap(({ degrees }): Tooth[] => {
      const ends = falls.map((fall) => (fall.degrees - degrees + 720) % 720).filter((width) => width > 0);
      if (ends.length === 0) return [];
      const width = Math.round(Math.min(...ends) / 2 / CAM_TOLD_TO) * CAM_TOLD_TO;
      return [{ at: told(degrees), width: Math.max(CAM_TOLD_TO, width) }];
    });
  } else {
    const steps = falls.map(({ degrees }, i) => (falls[(i + 1) % falls.length]!.degrees - degrees + 720) % 720 || 720);
    const width = Math.min(10, Math.max(1, Math.round((VR_SHARE * Math.min(...steps)) / 2)));
    list = falls.map(({ degrees }) => ({ at: told(degrees - width), width }));
  }
  const wheel = wheelOfTeeth({ id: 'taught-cam', name, shaft: 'cam' }, list);
  return wheel.ok ? ok({ wheel: wheel.value, turns, scatter: null, swing: 0, notes }) : wheel;
}

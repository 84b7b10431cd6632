import { ok, type Result } from '../problem';
import { align, anglesOf, priceOf, type Alignment, type PulseEvent } from './align';
import { matchCam, type CamFit } from './cam';
import { sampleRate, type Capture } from './capture/capture';
import { fitRipple } from './ripple';
import { speedOf } from './speed';
import { chooseTracks, polarityOf, pulsesOf, type Polarity, type Track } from './tracks';
import { missingToothWheel, mirrored, repeats, teethPerTurn, toothIntervals, type Wheel } from './wheel';

/** One wheel held against the capture. */
export interface Candidate {
  readonly wheel: Wheel;
  /** 0 to 1: how well its teeth explain the pulses. */
  readonly score: number;
  /** Turning the other way round than the wheel is drawn; null where the wheel looks the same both ways. */
  readonly direction: 'forward' | 'reverse' | null;
  /** Square signals: low while a tooth passes. */
  readonly inverted: boolean;
  readonly fromLibrary: boolean;
  readonly reason: string;
}

export interface Match {
  readonly best: Candidate;
  readonly candidates: readonly Candidate[];
  readonly runnerUp: Candidate | null;
  readonly crank: Track;
  readonly cam: Track | null;
  /** The channels' names say the other way round. */
  readonly crossed: boolean;
  readonly polarity: Polarity;
  readonly camFit: CamFit | null;
  /** Times of the pulses a decoder uses, seconds, with the tooth and crank angle of each (-1 and NaN where it is one too many). */
  readonly pulses: Float64Array;
  readonly teeth: Int32Array;
  readonly degrees: Float64Array;
  readonly events: readonly PulseEvent[];
  readonly rpm: { readonly min: number; readonly mean: number; readonly max: number };
  /** Fastest less slowest within a turn, over the mean. */
  readonly ripple: number;
  /** Gaps of a turn, in tooth pitches each. */
  readonly gaps: readonly number[];
  readonly notes: readonly string[];
}

/** Intervals of one repeat of the pattern in crank degrees: from rise to rise, from fall to fall, or between centres. */
export function patternOf(wheel: Wheel, use: 'rise' | 'fall' | 'centre'): number[] {
  const ratio = wheel.shaft === 'cam' ? 2 : 1;
  const { edges } = wheel;
  const spots = edges.flatMap((edge, i) => {
    if (edge.level !== 1) return [];
    const off = (edges[(i + 1) % edges.length].degrees - edge.degrees + 360) % 360;
    return [edge.degrees + (use === 'rise' ? 0 : use === 'fall' ? off : off / 2)];
  });
  const count = spots.length / repeats(wheel);
  return spots.slice(0, count).map((spot, i) => {
    const next = i + 1 < spots.length ? spots[i + 1] : spots[0] + 360;
    return (next - spot) * ratio;
  });
}

/** Pulses a candidate is held against: enough turns to tell, few enough to be quick. */
const WINDOW = 700;
/** And at the first look, when all are tried: three turns of the finest wheel. */
const FIRST_LOOK = 360;
/** Below this a VR signal's polarity is not told; 'normal' is assumed. */
const SURE = 0.6;
/** Trials judged over whole turns. */
const NEAREST = 12;
/** Price of a cam that does not come round with the crank's pattern. */
const CAM_STRAY = 25;
/** Wheels as near as this are told apart by the cam. */
const CLOSE = 12;
/** Costs per turn at which the score falls to 1/e: of what does not fit, and of being worse than the best. */
const SCORE_WIDTH = 30;
const LOSER_WIDTH = 6;

interface Trial {
  readonly wheel: Wheel;
  readonly pattern: readonly number[];
  readonly inverted: boolean;
  readonly direction: Candidate['direction'];
  readonly fromLibrary: boolean;
  cost: number;
  misfit: number;
  /** Repeats of the pattern after which the cam comes round. */
  round: number | null;
}

const same = (one: readonly number[], other: readonly number[]): boolean =>
  one.length === other.length &&
  one.some((_, shift) => one.every((value, i) => Math.abs(value - other[(i + shift) % other.length]) < 0.01));

/** Intervals that are clearly longer than both neighbours, as multiples of them. */
function gapsSeen(seconds: Float64Array, from: number, to: number): { at: number; ratio: number }[] {
  const found: { at: number; ratio: number }[] = [];
  for (let i = from + 2; i + 1 < to; i += 1) {
    const [before, own, after] = [
      seconds[i - 1] - seconds[i - 2],
      seconds[i] - seconds[i - 1],
      seconds[i + 1] - seconds[i],
    ];
    const ratio = own / Math.sqrt(before * after);
    if (ratio > 1.55) found.push({ at: i, ratio });
  }
  return found;
}

const commonest = (values: readonly number[]): number | null => {
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  const [best] = [...counts].sort((one, other) => other[1] - one[1] || one[0] - other[0]);
  return best?.[0] ?? null;
};

/** Plain missing-tooth wheel that the gaps themselves spell, whether the library has it or not. */
function spelled(seconds: Float64Array, from: number, to: number): Wheel | null {
  const gaps = gapsSeen(seconds, from, to);
  const between = commonest(gaps.slice(1).map(({ at }, i) => at - gaps[i].at));
  if (between === null || between < 2) return null;
  const ratios = gaps.map(({ ratio }) => ratio).sort((one, other) => one - other);
  const missing = Math.round(ratios[ratios.length >> 1]) - 1;
  const places = between + missing;
  return missing >= 1 && missing <= 6 && places >= 3 && places <= 240 ? missingToothWheel(places, missing) : null;
}

function trialsFor(wheels: readonly Wheel[], square: boolean, fromLibrary: boolean): Trial[] {
  return wheels.flatMap((wheel) => {
    const made: Trial[] = [];
    const add = (own: Wheel, direction: Candidate['direction'], inverted: boolean) => {
      // Inverted, a tooth's leading edge falls: the rises of the signal are the wheel's trailing edges.
      const pattern = patternOf(own, square ? (inverted ? 'fall' : 'rise') : 'centre');
      if (!made.some((one) => same(one.pattern, pattern)))
        made.push({ wheel, pattern, inverted, direction, fromLibrary, cost: 0, misfit: 0, round: null });
    };
    const other = mirrored(wheel);
    const oneWay = same(patternOf(wheel, 'rise'), patternOf(other, 'rise')) ? null : 'forward';
    add(wheel, oneWay, false);
    if (square) add(wheel, oneWay, true);
    if (oneWay) {
      add(other, 'reverse', false);
      if (square) add(other, 'reverse', true);
    }
    return made;
  });
}

const primary = (wheel: Wheel): boolean =>
  wheel.shaft === 'crank' || wheel.family === 'distributor' || wheel.family === 'slot-disc';

/** Library before spelled out, crank before cam shaft, forward before reverse: only between equals. */
const prior = (trial: Trial): number =>
  (trial.fromLibrary ? 0 : 0.4) +
  (trial.wheel.shaft === 'cam' ? 1 : 0) +
  (trial.direction === 'reverse' ? 1.5 : 0) +
  (trial.inverted ? 0.2 : 0) +
  // Plain wheels are by far the commonest.
  (trial.wheel.family === 'missing-tooth' || trial.wheel.family === 'even' ? 0 : 1.5) +
  (repeats(trial.wheel) > 1 && trial.pattern.length > 1 ? 1 : 0);

export interface MatchOptions {
  readonly crank?: string;
  /** null: there is none. */
  readonly cam?: string | null;
  readonly wheels: readonly Wheel[];
  /** Says how far it is, 0 to 1; true to stop. */
  readonly onProgress?: (done: number) => boolean;
}

/** The spread of a row of intervals from even, robustly: how much a decoder could read from them. */
function structure(seconds: Float64Array, from: number, to: number): number {
  return align([1], seconds, from, to).cost;
}

/**
 * Which wheel a capture shows. Every wheel of the library, both ways round, and the plain missing-tooth wheel the gaps
 * spell out are aligned with the pulses (align.ts); the cheapest wins, the cam decides between wheels that give the
 * same pulses. Returns a failure with one sentence when the capture cannot be read so.
 */
export function match(capture: Capture, options: MatchOptions): Result<Match> {
  const chosen = chooseTracks(capture, options);
  if (!chosen.ok) return chosen;
  const { crank, cam } = chosen.value;
  const notes = [...chosen.value.notes];
  const found = polarityOf(crank);
  const { sure } = found;
  const polarity = sure < SURE ? (found.polarity === 'square' ? 'square' : 'normal') : found.polarity;
  const square = polarity === 'square';
  if (!square && sure < SURE)
    notes.push(
      'Both crossings of the VR signal look alike: which way round its leads are cannot be told from this wheel.',
    );
  const windowOf = (seconds: Float64Array) => {
    const spare = Math.max(0, seconds.length - WINDOW);
    return [spare >> 1, seconds.length - spare + (spare >> 1)] as const;
  };
  let level: 0 | 1 = polarity === 'reversed' ? 1 : 0;
  let pulses = pulsesOf(crank, level);
  if (square) {
    // The edge that says more is the one to read.
    const [falls, rises] = [pulses, pulsesOf(crank, 1)];
    const [of, other] = [structure(rises, ...windowOf(rises)), structure(falls, ...windowOf(falls))];
    level = other > of + Math.max(5, 0.05 * Math.abs(of)) ? 0 : 1;
    pulses = level === 1 ? rises : falls;
  }
  const [from, to] = windowOf(pulses);
  const library = options.wheels.filter(primary);
  const own = spelled(pulses, from, to);
  const trials = [
    ...trialsFor(library, square, true),
    ...(own && !library.some(({ id }) => id === own.id) ? trialsFor([own], false, false) : []),
  ];
  // A square signal read by its falls: rises and falls change places.
  const read = (trial: Trial) =>
    level === 0 && square
      ? patternOf(trial.direction === 'reverse' ? mirrored(trial.wheel) : trial.wheel, trial.inverted ? 'rise' : 'fall')
      : trial.pattern;
  trials.forEach((trial, at) => {
    ({ cost: trial.cost, misfit: trial.misfit } = align(read(trial), pulses, from, Math.min(to, from + FIRST_LOOK)));
    options.onProgress?.((0.6 * (at + 1)) / trials.length);
  });
  const byCost = (one: Trial, other: Trial) => one.cost + prior(one) - other.cost - prior(other);
  trials.sort(byCost);
  // The nearest are judged once more, over whole turns: compression repeats, and cannot imitate a gap.
  const near = trials.slice(0, NEAREST);
  for (const trial of trials.slice(NEAREST))
    if (trial.pattern.length === 1 && near.some((one) => one.pattern.length === 1)) near.push(trial);
  const usedSeconds = pulses.subarray(from, to);
  const spanOf = (trial: Trial) => read(trial).reduce((sum, one) => sum + one, 0);
  for (const trial of near) {
    const pattern = read(trial);
    const alignment = align(pattern, pulses, from, to);
    const degrees = anglesOf(alignment, pattern, from);
    trial.misfit = alignment.misfit;
    const fit = fitRipple(usedSeconds, degrees);
    trial.cost = fit && Number.isFinite(trial.cost) ? fit.cost + priceOf(alignment.events) : Number.POSITIVE_INFINITY;
    trial.round = cam && Number.isFinite(trial.cost) ? camRound(cam, usedSeconds, degrees, spanOf(trial)) : null;
    // A cam that does not come round once in two turns speaks against the wheel; even teeth are counted by it.
    if (cam && pattern.length > 1 && trial.round !== Math.round(720 / spanOf(trial))) trial.cost += CAM_STRAY;
    if (cam && pattern.length === 1 && trial.round === null) trial.cost += CAM_STRAY;
  }
  near.sort(byCost);
  let best = near[0];
  const wholeOf = (trial: Trial): { alignment: Alignment; degrees: Float64Array } => {
    const pattern = read(trial);
    const alignment = align(pattern, pulses);
    return { alignment, degrees: anglesOf(alignment, pattern) };
  };
  let whole = wholeOf(best);
  options.onProgress?.(0.8);
  let camFit: CamFit | null = null;
  if (cam) {
    const { round } = best;
    if (round !== null) {
      const fits = (trial: Trial) => Math.round(720 / spanOf(trial)) === round;
      const close = near.filter((trial) => trial.cost <= best.cost + CLOSE);
      const even = read(best).length === 1;
      const agreed = close.find((trial) => trial.round === round && fits(trial) && (read(trial).length === 1) === even);
      if (agreed) best = agreed;
      else if (even && round % 2 === 0 && round <= 260) {
        const [made] = trialsFor([missingToothWheel(round / 2, 0)], square, false);
        [made.cost, made.misfit] = [best.cost, best.misfit];
        near.unshift(made);
        best = made;
      } else if (!even)
        notes.push(
          `The cam comes round every ${round} repeats of the crank's pattern; two were expected: check that both belong to one engine.`,
        );
      if (even) notes.push(`Even teeth are told by the cam: ${round} pulses a cycle.`);
      whole = wholeOf(best);
    } else if (read(best).length === 1)
      notes.push('Even teeth, and a cam that gives no period: their number cannot be told.');
    camFit = matchCam(
      cam,
      pulses,
      whole.degrees,
      options.wheels.filter(
        ({ shaft, family }) => shaft === 'cam' && family !== 'distributor' && family !== 'slot-disc',
      ),
    );
  } else if (read(best).length === 1)
    notes.push('Even teeth alone: their number cannot be told without a cam or a known speed.');
  const perTurn = Math.max(1, (teethPerTurn(best.wheel) * (best.wheel.shaft === 'cam' ? 1 : 2)) / 2);
  const turns = Math.max(1, (to - from) / perTurn);
  const scoreOf = ({ cost }: Trial) =>
    Math.exp(-best.misfit / turns / SCORE_WIDTH - Math.max(0, cost - best.cost) / turns / LOSER_WIDTH);
  const candidates: Candidate[] = [];
  for (const trial of [best, ...near]) {
    if (candidates.some(({ wheel }) => wheel.id === trial.wheel.id)) continue;
    candidates.push({
      wheel: trial.wheel,
      score: scoreOf(trial),
      direction: trial.direction,
      inverted: trial.inverted,
      fromLibrary: trial.fromLibrary,
      reason: trial === best ? whyBest(trial.wheel, turns) : whyNot(trial, best),
    });
  }
  const runnerUp = candidates.slice(1).find(({ wheel }) => !alike(wheel, best.wheel)) ?? null;
  options.onProgress?.(1);
  return ok({
    best: candidates[0],
    candidates: candidates.slice(0, 12),
    runnerUp,
    crank,
    cam,
    crossed: chosen.value.crossed,
    polarity,
    camFit,
    pulses,
    teeth: whole.alignment.teeth,
    degrees: whole.degrees,
    events: whole.alignment.events,
    ...speedOf(pulses, whole.degrees),
    gaps: gapsOf(best.wheel),
    notes: [`${Math.round(sampleRate(capture)).toLocaleString('en')} samples a second.`, ...notes],
  });
}

/** Gaps of one turn in tooth places; empty for even and uneven wheels. */
export function gapsOf(wheel: Wheel): number[] {
  if (wheel.places === null) return [];
  const pitch = 360 / wheel.places;
  return toothIntervals(wheel)
    .map((interval) => Math.round(interval / pitch))
    .filter((count) => count > 1);
}

const alike = (one: Wheel, other: Wheel): boolean => {
  const [a, b] = [patternOf(one, 'rise'), patternOf(other, 'rise')];
  return a.length === 1 && b.length === 1;
};

const counted = (wheel: Wheel): string => `${teethPerTurn(wheel)} ${wheel.shaft === 'cam' ? 'a cycle' : 'a turn'}`;

function whyBest(wheel: Wheel, turns: number): string {
  return wheel.missing > 0
    ? `its gap comes back every ${counted(wheel)}, ${Math.round(turns)} turns looked at`
    : `its teeth, ${counted(wheel)}, fit over ${Math.round(turns)} turns`;
}

/** Why another wheel loses against the best, in terms of what the capture shows. */
function whyNot(trial: Trial, best: Trial): string {
  const { wheel } = trial;
  const [gaps, seen] = [gapsOf(wheel), gapsOf(best.wheel)];
  if (trial.cost <= best.cost + 3)
    return trial.direction === 'reverse'
      ? 'fits as well turning the other way'
      : 'gives the same pulses; the cam or the library decides';
  if (trial.pattern.length === 1)
    return seen.length > 0
      ? `has no gap; the capture has one ${Math.max(...seen)} teeth long`
      : 'has even teeth; those of the capture are not';
  if (gaps.length > 0 && seen.length === 0) return `has a gap ${Math.max(...gaps)} teeth long; the capture shows none`;
  if (gaps.length !== seen.length)
    return `has ${gaps.length === 1 ? 'one gap' : `${gaps.length || 'no'} gaps`} a turn; the capture has ${seen.length}`;
  const [teeth, counted] = [toothIntervals(wheel).length, toothIntervals(best.wheel).length];
  if (gaps.length === 1 && teeth !== counted) return `has ${teeth} teeth from gap to gap; the capture has ${counted}`;
  if (gaps.length === 1 && gaps[0] !== seen[0]) return `has a gap ${gaps[0]} teeth long; the capture's is ${seen[0]}`;
  return 'its teeth stand at other angles than those of the capture';
}

/**
 * After how many repeats of the crank's pattern the cam's signal comes round: counted on the crank's own teeth, so speed does
 * not matter. Null when it never does.
 */
function camRound(cam: Track, pulses: Float64Array, degrees: Float64Array, span: number): number | null {
  const square = cam.shape.kind === 'square';
  const places: number[] = [];
  const levels: number[] = [];
  let at = 0;
  for (let i = 0; i < cam.edges.seconds.length; i += 1) {
    if (!square && cam.edges.level[i] !== 0) continue;
    const seconds = cam.edges.seconds[i];
    while (at + 2 < pulses.length && pulses[at + 1] <= seconds) at += 1;
    if (seconds < pulses[0] || seconds > pulses[pulses.length - 1]) continue;
    if (Number.isNaN(degrees[at]) || Number.isNaN(degrees[at + 1])) continue;
    const part = (seconds - pulses[at]) / (pulses[at + 1] - pulses[at]);
    places.push((degrees[at] + part * (degrees[at + 1] - degrees[at])) / span);
    levels.push(cam.edges.level[i]);
  }
  const steps = square ? 2 : 1;
  for (let shift = steps; shift <= 24 && shift < places.length; shift += steps) {
    const distances = places.slice(shift).map((place, i) => place - places[i]);
    const rounds = commonest(distances.map((distance) => Math.round(distance)));
    if (rounds === null || rounds < 1) continue;
    const near = distances.filter((distance) => Math.abs(distance - rounds) < 0.35).length;
    if (near >= 0.8 * distances.length) return rounds;
  }
  return null;
}

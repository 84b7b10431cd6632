import { ok, type Result } from '../problem';
import { align, unrestSeen, type PulseEvent } from './align';
import { matchCam, type CamFit } from './cam';
import { putBack, thin } from './bursts';
import { camRound } from './cam-round';
import { sampleRate, type Capture } from './capture/capture';
import { alignWhole, judge, leastCost, refine, type Judgement } from './judge';
import { gapsOf, patternOf, samePattern } from './pattern';
import { alike, whyBest, whyNot } from './reasons';
import { speedOf } from './speed';
import { chooseTracks, polarityOf, pulsesOf, showsSides, type Polarity, type Track } from './tracks';
import { isEven, primary, prior, spanOf, spelled, trialsFor, type Judged, type Trial } from './trials';
import { missingToothWheel, teethPerTurn, trackOf, type Wheel } from './wheel';

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
  /** The edge the pulses are read at: the crossing of a VR signal, or the level a square one goes to. */
  readonly edge: 'rising' | 'falling';
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

/** Pulses a candidate is held against: enough turns to tell, few enough to be quick. */
const WINDOW = 700;
/** And at the first look, when all are tried: two turns of the finest wheel, with an unrest no smaller than play makes it. */
const FIRST_LOOK = 240;
const LOOK_UNREST = [0.03, 0.12] as const;
/** Pulses over which those of a cycle are counted: many cycles of the finest disc. */
const COUNTED = 6000;
/** Below this a VR signal's polarity is not told; 'normal' is assumed. */
const SURE = 0.6;
/** Trials judged over whole turns. */
const NEAREST = 14;
/** Some are judged in any case; the others while they are no further behind at the first look. */
const NEAREST_LEAST = 6;
const BEHIND = 150;
/** Price of a cam that does not come round with the crank's pattern: never, or after another number of turns. */
const CAM_STRAY = 15;
const CAM_WRONG = 45;
/** Wheels as near as this are told apart by the cam. */
const CLOSE = 12;
/** Above the least cost, at which a wheel explains the pulses; and above the best, at which one may still win. */
const EXPLAINED = 20;
const WITHIN_REACH = 200;
/** Costs per turn at which the score falls to 1/e: of what does not fit, and of being worse than the best. */
const SCORE_WIDTH = 30;
const LOSER_WIDTH = 6;
/** Degrees of a tooth taken for even teeth whose number is not known yet. */
const EVEN_STEP = 30;
/** Even teeth of a cycle that a cam may tell. */
const EVEN_MOST = 800;

export interface MatchOptions {
  readonly crank?: string;
  /** null: there is none. */
  readonly cam?: string | null;
  readonly wheels: readonly Wheel[];
  /** Says how far it is, 0 to 1; true to stop. */
  readonly onProgress?: (done: number) => boolean;
}

/** The middle of the pulses, as many as are looked at. */
const windowOf = (seconds: Float64Array, most = WINDOW): readonly [number, number] => {
  const spare = Math.max(0, seconds.length - most);
  return [spare >> 1, seconds.length - spare + (spare >> 1)];
};

/** The row of pulses a decoder would read: the steep crossings of a VR signal, the edge of a square one that says more. */
function pulsesToRead(crank: Track, polarity: Polarity): { pulses: Float64Array; level: 0 | 1 } {
  const level: 0 | 1 = polarity === 'reversed' ? 1 : 0;
  const pulses = pulsesOf(crank, level);
  if (!showsSides(crank)) return { pulses, level };
  // The spread of a row of intervals from even: how much a decoder could read from them.
  const structure = (seconds: Float64Array) => align([1], seconds, ...windowOf(seconds)).cost;
  const rises = pulsesOf(crank, 1);
  const [of, other] = [structure(rises), structure(pulses)];
  return other > of + Math.max(5, 0.05 * Math.abs(of)) ? { pulses, level: 0 } : { pulses: rises, level: 1 };
}

const costOf = (trial: Judged) => trial.cost + trial.stray + prior(trial);
const byCost = (one: Judged, other: Judged) => costOf(one) - costOf(other);

/** Neighbours on each side that tell how long one tooth takes. */
const NEIGHBOURS = 3;

/** Even teeth counted on: an interval as long as two of its neighbours is two teeth, whatever the speed does. */
function evenPlaces(seconds: Float64Array): Float64Array {
  const steps = seconds.subarray(1).map((time, i) => time - seconds[i]);
  const places = new Float64Array(seconds.length);
  for (let i = 0; i < steps.length; i += 1) {
    const around = steps.slice(Math.max(0, i - NEIGHBOURS), i + NEIGHBOURS + 1).sort();
    places[i + 1] = places[i] + Math.round(steps[i] / around[around.length >> 1]);
  }
  return places;
}

/**
 * Even teeth have one pattern whatever their number, so they are one trial: judged with the number the cam tells, or, where
 * none tells it, for all numbers at once.
 */
function judgeEven(
  trials: readonly Trial[],
  judgeOne: (trial: Trial) => Judged,
  told: number | null,
  square: boolean,
  level: 0 | 1,
): Judged[] {
  const [any] = trials;
  if (!any) return [];
  const madeOf = (round: number): Trial => {
    const known = trials.find((trial) => Math.round(720 / spanOf(trial)) === round);
    return known ?? trialsFor([missingToothWheel(round / 2, 0)], square, level, false)[0];
  };
  const counts = (round: number | null) => round !== null && round % 2 === 0 && round <= EVEN_MOST;
  // What was counted holds, also where the path itself slips at several lost pulses in a row.
  if (counts(told)) return [{ ...judgeOne(madeOf(told!)), round: told, stray: 0 }];
  const unknown = judgeOne({ ...any, pattern: [EVEN_STEP] });
  if (counts(unknown.round)) return [judgeOne(madeOf(unknown.round!))];
  return trials.map((trial) => ({ ...unknown, ...trial }));
}

/**
 * Which wheel a capture shows. Every wheel of the library, both ways round, and the plain missing-tooth wheel the gaps
 * spell out are aligned with the pulses (align.ts); the nearest are judged over whole turns together with compression's
 * swing (judge.ts); the cheapest wins, the cam decides between wheels that give the same pulses. Returns a failure with
 * one sentence when the capture cannot be read so.
 */
export function match(capture: Capture, options: MatchOptions): Result<Match> {
  const chosen = chooseTracks(capture, options);
  if (!chosen.ok) return chosen;
  const { crank, cam } = chosen.value;
  const notes = [...chosen.value.notes];
  const found = polarityOf(crank);
  const { sure } = found;
  const polarity = sure < SURE ? (found.polarity === 'square' ? 'square' : 'normal') : found.polarity;
  const square = showsSides(crank);
  if (!square && sure < SURE)
    notes.push(
      'Both crossings of the VR signal look alike: which way round its leads are cannot be told from this wheel.',
    );
  if (crank.reads === 'lobes')
    notes.push(
      "The teeth are wide for a VR sensor: its signal rests between a tooth's two sides, so the tops of its lobes are read. An ECU that waits for the crossing finds it unsteady.",
    );
  const { pulses: all, level } = pulsesToRead(crank, polarity);
  const thinned = thin(all);
  const { pulses } = thinned;
  const [from, to] = windowOf(pulses);
  const library = options.wheels.filter(primary);
  const own = spelled(pulses, from, to);
  const trials = [
    ...trialsFor(library, square, level, true),
    ...(own && !library.some(({ id }) => id === own.id) ? trialsFor([own], false, level, false) : []),
  ];
  const uneven = trials.filter((trial) => !isEven(trial));
  const lookTo = Math.min(to, from + FIRST_LOOK);
  const [calm, wild] = LOOK_UNREST;
  const unrest = Math.min(wild, Math.max(calm, unrestSeen(pulses, from, lookTo)));
  const first = uneven.map((trial, at) => {
    options.onProgress?.((0.5 * (at + 1)) / uneven.length);
    const { cost } = align(trial.pattern, pulses, from, lookTo, unrest);
    return { trial, cost: cost + prior(trial) };
  });
  first.sort((one, other) => one.cost - other.cost);
  const used = pulses.subarray(from, to);
  // Places of a cycle, counted between the cam's pulses.
  const many = pulses.subarray(...windowOf(pulses, COUNTED));
  const told = cam && camRound(cam, many, evenPlaces(many), 1, 1);
  const withCam = (trial: Trial, judged: Judgement): Judged => {
    const round =
      cam && Number.isFinite(judged.cost)
        ? camRound(cam, used, judged.degrees, spanOf(trial), trial.pattern.length)
        : null;
    // A cam that does not come round once in two turns speaks against the wheel; even teeth are counted by it.
    const { places, shaft } = trial.wheel;
    const counted = told !== null && places !== null && told === places * (shaft === 'crank' ? 2 : 1);
    const stray =
      !cam || counted || (isEven(trial) && round !== null)
        ? 0
        : round === null
          ? CAM_STRAY
          : round === Math.round(720 / spanOf(trial))
            ? 0
            : CAM_WRONG;
    return { ...trial, ...judged, stray, round };
  };
  const judgeOne = (trial: Trial) => withCam(trial, judge(trial.pattern, pulses, from, to));
  const nearest = first
    .slice(0, NEAREST)
    .filter(({ cost }, at) => at < NEAREST_LEAST || cost <= first[0].cost + BEHIND);
  const near = [
    ...nearest.map(({ trial }, at) => {
      options.onProgress?.(0.5 + (0.3 * at) / NEAREST);
      return judgeOne(trial);
    }),
    ...judgeEven(trials.filter(isEven), judgeOne, told, square, level),
  ].sort(byCost);
  // Where nothing explains the pulses yet, those within reach are judged with the swing they may hide.
  const least = leastCost(to - from);
  for (const [at, trial] of near.entries()) {
    const leader = near.reduce((one, other) => (byCost(one, other) <= 0 ? one : other));
    if (leader.cost <= least + EXPLAINED) break;
    if (trial.cost <= leader.cost + WITHIN_REACH) {
      const refined = refine(trial, trial.pattern, pulses, from, to);
      near[at] = isEven(trial) ? { ...trial, ...refined } : withCam(trial, refined);
    }
    options.onProgress?.(0.8 + (0.1 * at) / near.length);
  }
  near.sort(byCost);
  let best = near[0];
  if (cam && best.round !== null) {
    const { round } = best;
    // Wheels that give the same pulses are told apart by how often the cam comes round.
    const agreed = near.find(
      (trial) =>
        costOf(trial) <= costOf(best) + CLOSE &&
        trial.round === round &&
        Math.round(720 / spanOf(trial)) === round &&
        isEven(trial) === isEven(best),
    );
    if (agreed) best = agreed;
    else if (!isEven(best))
      notes.push(
        `The cam comes round every ${round} repeats of the crank's pattern; two were expected: check that both belong to one engine.`,
      );
    if (isEven(best)) notes.push(`Even teeth are told by the cam: ${round} pulses a cycle.`);
  } else if (isEven(best))
    notes.push(
      cam
        ? 'Even teeth, and a cam that gives no period: their number cannot be told.'
        : 'Even teeth alone: their number cannot be told without a cam or a known speed.',
    );
  const bodies = library.flatMap((wheel) => {
    const track = trackOf(wheel, 1);
    return track ? [{ wheel, track }] : [];
  });
  const whole = alignWhole(best.pattern, pulses, best);
  const { teeth, degrees, events } = putBack(all, thinned, {
    degrees: whole.degrees,
    teeth: whole.alignment.teeth,
    events: whole.alignment.events,
  });
  options.onProgress?.(0.9);
  const camFit = cam
    ? matchCam(cam, pulses, whole.degrees, [
        ...options.wheels.filter((wheel) => !primary(wheel)),
        ...bodies.map(({ track }) => track),
      ])
    : null;
  // The cam's signal is a second track: both belong to one body.
  const { wheel: seen } = best;
  const body = bodies.find(
    ({ wheel, track }) =>
      track.id === camFit?.wheel?.id &&
      seen.shaft === wheel.shaft &&
      samePattern(patternOf(seen, 'rise'), patternOf(wheel, 'rise')),
  );
  if (body) best = { ...best, wheel: body.wheel };
  const perTurn = Math.max(1, (teethPerTurn(best.wheel) * (best.wheel.shaft === 'cam' ? 1 : 2)) / 2);
  const turns = Math.max(1, (to - from) / perTurn);
  const scoreOf = (trial: Judged) =>
    Math.exp(-best.misfit / turns / SCORE_WIDTH - Math.max(0, costOf(trial) - costOf(best)) / turns / LOSER_WIDTH);
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
    // With wide teeth the wheel tells which lobe leads.
    polarity: crank.reads === 'lobes' && best.inverted ? 'reversed' : polarity,
    edge: level === 1 ? 'rising' : 'falling',
    camFit,
    pulses: all,
    teeth,
    degrees,
    events,
    ...speedOf(pulses, whole.degrees),
    gaps: gapsOf(best.wheel),
    notes: [`${Math.round(sampleRate(capture)).toLocaleString('en')} samples a second.`, ...notes],
  });
}

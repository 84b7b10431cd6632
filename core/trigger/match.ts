import type { Engine } from '../engine/engine';
import { fail, ok, type Result } from '../problem';
import type { PulseEvent } from './align';
import { judgeRows } from './both-edges';
import { putBack } from './bursts';
import { matchCam, type CamFit } from './cam';
import { sampleRate, type Capture, type Hole } from './capture/capture';
import { swingOfEngine } from './cranking';
import { freeAngles } from './free-angles';
import { costOf } from './judge-row';
import { overHole } from './pulse-faults';
import { gapsOf, patternOf, samePattern } from './pattern';
import { alike, whyBest, whyNot } from './reasons';
import { rowsOf } from './rows';
import { CRANKING_RPM, speedOf } from './speed';
import { ownStandstills, stopsOf, type Stop } from './standstill';
import { chooseTracks, polarityOf, showsSides, type Polarity, type Track } from './tracks';
import { isEven, primary, spanOf, type Judged } from './trials';
import { byLikelihood, verdictOf, type Verdict } from './verdict';
import { teethPerTurn, trackOf, type Wheel } from '../wheels/wheel';
import { alignWhole } from './whole';
import { codedWidths } from './widths';

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
  /** What can be said: this wheel, one of these, or none. */
  readonly verdict: Verdict;
  readonly candidates: readonly Candidate[];
  readonly runnerUp: Candidate | null;
  readonly crank: Track;
  readonly cam: Track | null;
  /** The channels' names say the other way round. */
  readonly crossed: boolean;
  readonly polarity: Polarity;
  /** Whether the signal tells it: of a VR one it may not, and 'normal' is only taken. */
  readonly leadsTold: boolean;
  /** The edge the pulses are read at: the crossing of a VR signal, or the level a square one goes to. */
  readonly edge: 'rising' | 'falling';
  readonly camFit: CamFit | null;
  /** Times of the pulses a decoder uses, seconds, with the tooth and crank angle of each (-1 and NaN where it is one too many). */
  readonly pulses: Float64Array;
  readonly teeth: Int32Array;
  readonly degrees: Float64Array;
  readonly events: readonly PulseEvent[];
  /** Moments within the capture in which the crank all but stood, or was thrown back. */
  readonly stops: readonly Stop[];
  /** Stretches the recorder left out, seconds. */
  readonly holes: readonly Hole[];
  readonly rpm: { readonly min: number; readonly mean: number; readonly max: number };
  /** Fastest less slowest within a turn, over the mean. */
  readonly ripple: number;
  /** Gaps of a turn, in tooth pitches each. */
  readonly gaps: readonly number[];
  readonly notes: readonly string[];
}

/** Below this a VR signal's polarity is not told; 'normal' is assumed. */
const SURE = 0.6;
/** Wheels as near as this are told apart by the cam. */
const CLOSE = 12;
/** Costs per turn at which the score falls to 1/e: of what does not fit, and of being worse than the best. */
const SCORE_WIDTH = 30;
const LOSER_WIDTH = 6;

/** Swings an engine is computed at: the height in between is fitted. */
const SWINGS = [0.15, 0.35];

export interface MatchOptions {
  readonly crank?: string;
  /** null: there is none. */
  readonly cam?: string | null;
  readonly wheels: readonly Wheel[];
  /** The build's engine, where there is one: what swing it has on a starter is then computed (cranking.ts). */
  readonly engine?: Engine | null;
  /** Says how far it is, 0 to 1; true to stop. */
  readonly onProgress?: (done: number) => boolean;
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
  const library = options.wheels.filter(primary);
  const rows = rowsOf(crank, polarity);
  const engines = options.engine ? SWINGS.map((swing) => swingOfEngine(options.engine!, CRANKING_RPM, swing)) : [];
  const judged = judgeRows(rows, {
    library,
    square,
    cam,
    engines,
    onProgress: (done) => options.onProgress?.(0.9 * done),
  });
  if (judged.length === 0)
    return fail('no-wheels', 'wheels', 'There is no crank wheel to hold the capture against: the library is empty.');
  // What an engine can do tells wheels of one shape apart.
  const rowOf = ({ level }: Judged) => rows.find((row) => row.level === level) ?? rows[0]!;
  const near = byLikelihood(judged, rowOf);
  let best = near[0]!;
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
  const row = rowOf(best);
  const { all, thinned, pulses, from, to } = row;
  const stops = ownStandstills(pulses, best.pattern);
  const whole = alignWhole(best.pattern, pulses, best, from, stops);
  const holes = capture.holes ?? [];
  // Where nobody recorded, the crank did not stand.
  const stopped = stopsOf(pulses, whole.alignment.teeth, best.pattern, stops).filter(
    ({ seconds: [start, end] }) => !overHole({ holes }, start, end),
  );
  if (holes.length > 0) notes.push(sayHoles(holes));
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
  const verdict = verdictOf(
    [best, ...near.filter((trial) => trial !== best)],
    rowOf,
    codedWidths(crank, best.wheel),
    freeAngles(best, row, engines),
  );
  // The wait over a wide tooth is as one over a gap, and of a wheel nobody knows it is not told which of them are gaps.
  const untold = polarity === 'reversed' && (best.wheel.family === 'width-coded' || verdict.kind === 'none');
  if (untold)
    notes.push(
      `${best.wheel.family === 'width-coded' ? 'Before teeth of two widths' : 'Before a wheel that is not known'} the waits between lobes do not tell which way round the leads of the VR sensor are: look which of its two sides is steep.`,
    );
  return ok({
    best: candidates[0]!,
    verdict,
    candidates: candidates.slice(0, 12),
    runnerUp,
    crank,
    cam,
    crossed: chosen.value.crossed,
    // With wide teeth the wheel tells which lobe leads.
    polarity: crank.reads === 'lobes' && best.inverted ? 'reversed' : untold ? 'normal' : polarity,
    leadsTold: square || (sure >= SURE && !untold),
    edge: row.level === 1 ? 'rising' : 'falling',
    camFit,
    pulses: all,
    teeth,
    degrees,
    events,
    stops: stopped,
    holes,
    ...speedOf(pulses, whole.degrees),
    gaps: gapsOf(best.wheel),
    notes: [`${Math.round(sampleRate(capture)).toLocaleString('en')} samples a second.`, ...notes],
  });
}

/** Holes told one by one, up to so many. */
const HOLES_TOLD = 3;
function sayHoles(holes: readonly Hole[]): string {
  const told = holes.slice(0, HOLES_TOLD).map(([from, to]) => `${from.toFixed(3)} to ${to.toFixed(3)} s`);
  const more = holes.length - told.length;
  return `The recording has ${holes.length === 1 ? 'a hole' : 'holes'} (${told.join(', ')}${more > 0 ? `, ${more} more` : ''}): what happened there is not known, and is taken for no fault.`;
}

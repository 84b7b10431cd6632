import type { Build } from '../build/schema';
import { ok, type Result } from '../problem';
import type { Capture } from './capture/capture';
import { decode, type Decoding, type Loss } from './decoder';
import { diagnose, placed, type Suspicion } from './diagnose';
import { disagreements, type Disagreement } from './disagree';
import { match, type Match, type MatchOptions } from './match';
import { signalFaults, type SignalFault } from './named';
import { clearFaults, overHole, pulseFaults } from './pulse-faults';
import { decoderFor, ecuFit, type CaptureFit } from './settings';
import { teethPerTurn } from '../wheels/wheel';

/** Everything read off one capture. */
export interface BenchReading {
  readonly match: Match;
  readonly decoding: Decoding;
  readonly suspicions: readonly Suspicion[];
  /** What is wrong with the signals themselves. */
  readonly signalFaults: readonly SignalFault[];
  /** What the build's ECU makes of it; null without a build. */
  readonly ecu: CaptureFit | null;
  /** Where the build's choices and the capture say different things, with both. */
  readonly disagreements: readonly Disagreement[];
}

type BenchBuild = Pick<Build, 'ecu' | 'engine' | 'trigger'> & Partial<Pick<Build, 'devices' | 'kinds'>>;

/** Top speed filters are set for when no engine is known. */
const USUAL_MOST_RPM = 7000;
const SECONDS_A_MINUTE = 60;

/** Matches, decodes as an ECU would, and explains. */
export function readBench(capture: Capture, options: MatchOptions, build: BenchBuild | null): Result<BenchReading> {
  const matched = match(capture, { engine: build?.engine ?? null, ...options });
  if (!matched.ok) return matched;
  const found = matched.value;
  const settings = decoderFor(found, build?.ecu ?? null, build?.engine.maxRpm ?? USUAL_MOST_RPM);
  const raw = decode(found.crank, found.cam, settings);
  // An ECU did not lose its place where the recorder did.
  const turn = found.rpm.mean > 0 ? SECONDS_A_MINUTE / found.rpm.mean : 0;
  const own = raw.losses.filter(({ seconds }) => !overHole(found, seconds - turn, seconds));
  const decoding: Decoding = { ...raw, losses: placed(own, found) };
  const cylinders = build?.engine.cylinders ?? 4;
  const cycle = build && build.engine.kind !== 'four-stroke' ? 360 : 720;
  return ok({
    match: found,
    decoding,
    signalFaults: signalFaults(found),
    suspicions: diagnose(decoding, cycle / cylinders, clearFaults(found)),
    ecu: build ? ecuFit(found, build.ecu, build.engine) : null,
    disagreements: build ? disagreements(found, build) : [],
  });
}

/** The answer of `trigger match` (docs/cli.md): geometry, not only ids. */
export function matchAnswer(found: Match, sampleRate: number) {
  const { best, crank, cam, camFit, polarity, rpm, runnerUp } = found;
  const perTurn = teethPerTurn(best.wheel) / (best.wheel.shaft === 'cam' ? 2 : 1);
  const figures = (value: number, places = 1) => Number(value.toFixed(places));
  return {
    sampleRate: Math.round(sampleRate),
    channels: [crank, ...(cam ? [cam] : [])].map(({ channel, quality, shape }) => ({
      name: channel.name,
      unit: channel.unit,
      kind: shape.kind,
      volts: quality.volts.map((value) => figures(value, 3)),
      edges: quality.edges,
      margin: figures(quality.margin, 2),
      noiseDecibels: Number.isFinite(quality.noiseDecibels) ? figures(quality.noiseDecibels) : null,
      duty: quality.duty === null ? null : figures(quality.duty, 3),
      clipped: quality.clipped,
    })),
    verdict: {
      kind: found.verdict.kind,
      odds: found.verdict.odds.map(({ wheel, odds }) => ({ patternId: wheel.id, odds: figures(odds, 3) })),
      noneOdds: figures(found.verdict.noneOdds, 3),
      reason: found.verdict.reason,
      repeats: found.verdict.repeats,
    },
    candidates: found.candidates.map((one) => ({
      patternId: one.wheel.id,
      name: one.wheel.name,
      score: figures(one.score, 3),
      polarity,
      direction: one.direction,
      reason: one.reason,
      rpm: { min: figures(rpm.min), mean: figures(rpm.mean), max: figures(rpm.max) },
    })),
    best: {
      patternId: best.wheel.id,
      score: figures(best.score, 3),
      crank: {
        channel: crank.channel.name,
        places: best.wheel.places,
        missing: best.wheel.missing,
        pulsesPerRev: perTurn,
        gaps: found.gaps,
      },
      cam: camFit
        ? {
            channel: cam!.channel.name,
            patternId: camFit.wheel?.id ?? null,
            pulsesPerCycle: camFit.pulsesPerCycle,
            edges: camFit.edges.map(({ degrees, level }) => ({ degrees: figures(degrees), level })),
            tellsPhase: camFit.tellsPhase,
          }
        : null,
      polarity,
      direction: best.direction,
      rpm: { min: figures(rpm.min), mean: figures(rpm.mean), max: figures(rpm.max) },
      ripple: figures(found.ripple, 3),
      firstPulse: { seconds: found.pulses[0] ?? null, tooth: found.teeth[0] ?? null },
    },
    runnerUp: runnerUp
      ? { patternId: runnerUp.wheel.id, score: figures(runnerUp.score, 3), reason: runnerUp.reason }
      : null,
    faults: signalFaults(found).map(({ id, title, evidence, tooth }) => ({ id, title, evidence, tooth })),
    syncLosses: pulseFaults(found).map(lossAnswer),
    notes: found.notes,
  };
}

export const lossAnswer = ({ seconds, angle, rpm, cause }: Loss) => ({
  time: Number(seconds.toFixed(6)),
  angle: Number(angle.toFixed(1)),
  rpm: Number(rpm.toFixed(1)),
  cause,
});

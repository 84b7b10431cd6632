import { patternOf } from './pattern';
import { showsSides, type Track } from './tracks';
import type { Wheel } from '../wheels/wheel';

/**
 * A stand-in for an ECU's trigger input: arming by speed, a filter, a check of every interval against the one before, a
 * window for the cam. It knows nothing of the future and forgives nothing, as an ECU does.
 */
export interface DecoderSettings {
  readonly wheel: Wheel;
  /** Crossing or edge that counts. */
  readonly edge: 'falling' | 'rising';
  /** Square: the line is low while a tooth passes, so that a tooth begins with a fall. */
  readonly inverted: boolean;
  /** VR: volts a lobe must reach, by crank rpm, rising; between the rows by straight lines. Empty: every lobe counts. */
  readonly arming: readonly { readonly rpm: number; readonly volts: number }[];
  /** Pulses sooner after the last than this are not seen. */
  readonly filterMicroseconds: number;
  /** An interval this many times the one before is a gap. */
  readonly gapThreshold: number;
  /** Crank degrees 0 to 720 of the cam's edges that count, and how far each may be off; null: there is no cam. */
  readonly cam: { readonly degrees: readonly number[]; readonly windowDegrees: number; readonly edge: 0 | 1 } | null;
}

export const decoderStates = ['silent', 'pulses', 'angle', 'full'] as const;
export type DecoderState = (typeof decoderStates)[number];
export const stateWords: Readonly<Record<DecoderState, string>> = {
  silent: 'no signal',
  pulses: 'pulses, no place yet',
  angle: 'crank angle known',
  full: 'full cycle known',
};

export type LossCause = 'extra-pulse' | 'missing-pulse' | 'cam-missing' | 'cam-window' | 'start' | 'stop';
export const causeWords: Readonly<Record<LossCause, string>> = {
  'extra-pulse': 'one pulse too many',
  'missing-pulse': 'a pulse is missing',
  'cam-missing': 'no cam pulse',
  'cam-window': 'cam pulse outside its window',
  start: 'while spinning up',
  stop: 'while coming to rest',
};

export interface Loss {
  readonly seconds: number;
  /** Crank degrees 0 to 720 (0 to 360 while the phase is not known), from the wheel's first tooth. */
  readonly angle: number;
  readonly rpm: number;
  readonly cause: LossCause;
  /** Tooth after which it happened. */
  readonly tooth: number;
}

export interface Decoding {
  readonly states: readonly { readonly seconds: number; readonly state: DecoderState }[];
  readonly losses: readonly Loss[];
  /** Seconds from the first pulse to knowing the angle and the cycle; null when it never did. */
  readonly toAngle: number | null;
  readonly toFull: number | null;
  readonly pulses: number;
  readonly filtered: number;
  /** Seconds of each pulse that counted and its tooth, -1 while the place was not known. */
  readonly seconds: Float64Array;
  readonly teeth: Int32Array;
}

/** Intervals in a row that must leave one place only. */
const CONFIRMED = 3;
const CYCLE = 720;
const wrap = (degrees: number) => ((degrees % CYCLE) + CYCLE) % CYCLE;
const distance = (one: number, other: number) => {
  const away = Math.abs(wrap(one) - wrap(other));
  return Math.min(away, CYCLE - away);
};

/** Volts a lobe must reach at a speed. */
export function armingAt(table: DecoderSettings['arming'], rpm: number): number {
  if (table.length === 0) return 0;
  const after = table.findIndex((row) => row.rpm > rpm);
  if (after === 0) return table[0]!.volts;
  if (after < 0) return table[table.length - 1]!.volts;
  const [one, other] = [table[after - 1]!, table[after]!];
  return one.volts + ((rpm - one.rpm) / (other.rpm - one.rpm)) * (other.volts - one.volts);
}

/** What a ratio of successive intervals may be where the wheel would give `ideal`. */
function bounds(ideal: number, threshold: number): readonly [number, number] {
  if (Math.abs(Math.log(ideal)) < Math.log(1.15)) return [1 / threshold, threshold];
  if (ideal > 1)
    return [Math.min(threshold, Math.sqrt(ideal) * 1.05), Math.max(ideal * 1.6, (ideal * ideal) / threshold)];
  const [low, high] = bounds(1 / ideal, threshold);
  return [1 / high, 1 / low];
}

export function decode(crank: Track, cam: Track | null, settings: DecoderSettings): Decoding {
  const square = showsSides(crank);
  const leading = (settings.edge === 'rising') !== settings.inverted;
  const pattern = patternOf(settings.wheel, square ? (leading ? 'rise' : 'fall') : 'centre');
  const teeth = pattern.length;
  const place = pattern.map((_, k) => pattern.slice(0, k).reduce((sum, one) => sum + one, 0));
  const span = pattern.reduce((sum, one) => sum + one, 0);
  const before = (k: number) => (k + teeth - 1) % teeth;
  // Tooth k ends the interval pattern[before(k)]; the ratio to the interval before that is what the decoder sees.
  const limits = pattern.map((_, k) =>
    bounds(pattern[before(k)]! / pattern[before(before(k))]!, settings.gapThreshold),
  );
  const level = settings.edge === 'rising' ? 1 : 0;
  const seconds: number[] = [];
  const found: number[] = [];
  const states: { seconds: number; state: DecoderState }[] = [];
  const losses: Loss[] = [];
  let state: DecoderState = 'silent';
  let [filtered, toAngle, toFull, firstPulse]: [number, number | null, number | null, number | null] = [
    0,
    null,
    null,
    null,
  ];
  let candidates: number[] = [];
  let tooth = -1;
  // Crank degrees of the last pulse, from the pattern's first tooth; the turn is only known with the cam.
  let angle = 0;
  let turn: number | null = null;
  let rpm = 0;
  let camAt = 0;
  // Crank degrees, counted on, at which each cam edge comes next.
  let due: number[] = [];
  let steady = 0;
  const enter = (time: number, next: DecoderState) => {
    if (next === state) return;
    state = next;
    states.push({ seconds: time, state });
  };
  const lose = (time: number, cause: LossCause) => {
    losses.push({ seconds: time, angle: turn === null ? angle % 360 : wrap(angle + turn), rpm, cause, tooth });
    candidates = [];
    tooth = -1;
    turn = null;
    due = [];
    steady = 0;
    enter(time, 'pulses');
  };
  const camEdges: number[] = [];
  if (cam && settings.cam)
    for (let i = 0; i < cam.edges.level.length; i += 1)
      if (cam.edges.level[i] === settings.cam.edge) camEdges.push(cam.edges.seconds[i]!);
  const seeCam = (time: number) => {
    const window = settings.cam!;
    if (state !== 'angle' && state !== 'full') return;
    const at = angle + rpm * 6 * (time - seconds[seconds.length - 1]!);
    const off = (turns: number) => Math.min(...window.degrees.map((degrees) => distance(at + turns, degrees)));
    if (turn === null) {
      // Which turn of the cycle: the repeats of the pattern are tried, and only one may fit.
      const fits: number[] = [];
      for (let shift = 0; shift < CYCLE - 0.5; shift += Math.min(360, span))
        if (off(shift) <= window.windowDegrees) fits.push(shift);
      const [only] = fits;
      if (only === undefined || fits.length > 1) return;
      turn = only;
      const now = at + turn;
      due = window.degrees.map((degrees) => at + wrap(degrees - now));
      // The one just seen comes a cycle later.
      due = due.map((next) => (next - at <= window.windowDegrees ? next + CYCLE : next));
      toFull ??= time - (firstPulse ?? time);
      enter(time, 'full');
      return;
    }
    const hit = due.findIndex((next) => Math.abs(next - at) <= window.windowDegrees);
    if (hit < 0) return lose(time, 'cam-window');
    due[hit]! += CYCLE;
  };
  for (let i = 0; i < crank.edges.level.length; i += 1) {
    if (crank.edges.level[i] !== level) continue;
    const time = crank.edges.seconds[i]!;
    if (!square && crank.edges.height[i]! < armingAt(settings.arming, rpm)) continue;
    const last = seconds[seconds.length - 1];
    if (last !== undefined && (time - last) * 1e6 < settings.filterMicroseconds) {
      filtered += 1;
      continue;
    }
    while (camAt < camEdges.length && camEdges[camAt]! <= time) {
      seeCam(camEdges[camAt]!);
      camAt += 1;
    }
    seconds.push(time);
    firstPulse ??= time;
    if (state === 'silent') enter(time, 'pulses');
    const count = seconds.length;
    if (count < 3) {
      found.push(-1);
      continue;
    }
    const ratio = (time - seconds[count - 2]!) / (seconds[count - 2]! - seconds[count - 3]!);
    if (tooth >= 0) {
      const next = (tooth + 1) % teeth;
      const [low, high] = limits[next]!;
      if (ratio < low || ratio > high) {
        lose(time, ratio < low ? 'extra-pulse' : 'missing-pulse');
        found.push(-1);
        continue;
      }
      const step = pattern[tooth]!;
      tooth = next;
      rpm = step / (time - seconds[count - 2]!) / 6;
      angle = angle + step;
      // A cam pulse that should have come by now.
      if (settings.cam && due.some((next) => angle - next > settings.cam!.windowDegrees + step)) {
        lose(time, 'cam-missing');
        found.push(-1);
        continue;
      }
      found.push(tooth);
      continue;
    }
    // Not synchronised: teeth that this interval cannot end fall out; one left is the place.
    const moved = candidates.length > 0 ? candidates.map((k) => (k + 1) % teeth) : pattern.map((_, k) => k);
    candidates = moved.filter((k) => ratio >= limits[k]![0] && ratio <= limits[k]![1]);
    steady = candidates.length === 1 ? steady + 1 : 0;
    // One place is left, and the teeth after it agree.
    if (steady >= Math.min(CONFIRMED, teeth)) {
      tooth = candidates[0]!;
      angle = place[tooth]!;
      rpm = pattern[before(tooth)]! / (time - seconds[count - 2]!) / 6;
      turn = null;
      toAngle ??= time - firstPulse;
      enter(time, 'angle');
      found.push(tooth);
    } else found.push(-1);
  }
  return {
    states,
    losses: atTheEnds(losses, seconds, (teeth * 360) / span),
    toAngle,
    toFull,
    pulses: seconds.length,
    filtered,
    seconds: Float64Array.from(seconds),
    teeth: Int32Array.from(found),
  };
}

/** Turns in which a crank spins up or comes to rest, and by how much its first or last steps are longer than the usual. */
const [END_TURNS, END_SLOWER] = [1.5, 1.5];
/** Steps at an end that tell whether the crank turned already; a gap may be one of them. */
const END_STEPS = 3;

/** Losses while the engine spins up or comes to rest are called by that name: in the first and last turns of a recording that has it. */
function atTheEnds(losses: readonly Loss[], seconds: readonly number[], perTurn: number): Loss[] {
  if (losses.length === 0) return [];
  const steps = seconds.slice(1).map((time, i) => time - seconds[i]!);
  const middle = (all: readonly number[]) => [...all].sort((one, other) => one - other)[all.length >> 1] ?? 0;
  const usual = middle(steps);
  const near = Math.round(END_TURNS * perTurn);
  const slow = (some: readonly number[]) => middle(some) > END_SLOWER * usual;
  const spinsUp = slow(steps.slice(0, END_STEPS)) ? (seconds[near] ?? Infinity) : -Infinity;
  const comesToRest = slow(steps.slice(-END_STEPS)) ? (seconds[seconds.length - 1 - near] ?? -Infinity) : Infinity;
  return losses.map((loss) =>
    loss.seconds <= spinsUp
      ? { ...loss, cause: 'start' }
      : loss.seconds >= comesToRest
        ? { ...loss, cause: 'stop' }
        : loss,
  );
}

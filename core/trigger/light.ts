import { wrapDegrees, wrapSigned } from '../units/convert';
import { CONFIRMED_WITHIN } from './offset';

/** One reading of the timing light, with the offset that was in use. Angles before TDC; offset as tooth to TDC. */
export interface LightRead {
  readonly rpm: number;
  readonly commandedDegrees: number;
  readonly seenDegrees: number;
  readonly oldOffset: number;
}

/** What the log shows of one reading. */
export interface ReadPoint extends LightRead {
  /** Commanded less seen, wrapped to the cycle: negative when the spark is early. */
  readonly error: number;
  /** The offset this reading asks for, unwrapped about the others. */
  readonly asks: number;
  /** Off the line through all, degrees; null for readings of another turn or cylinder. */
  readonly rest: number | null;
}

export interface LightLog {
  readonly points: readonly ReadPoint[];
  /** Offset that fits all readings at the speed asked for, 0 to cycle. */
  readonly offset: number;
  /** Offset without the sensor's delay: the line carried back to standstill. */
  readonly atRest: number;
  /** Degrees the answer may be off: two standard errors. */
  readonly within: number;
  /** Sensor delay, microseconds, and its two standard errors; null with readings at one speed only. */
  readonly delay: { readonly microseconds: number; readonly within: number; readonly sure: boolean } | null;
  /** Drift from the slowest reading to the engine's top speed, degrees, negative is later. */
  readonly driftAtTop: number;
  /** Standard deviation of the readings about the line, degrees; null with too few to tell. */
  readonly scatter: number | null;
  readonly verdicts: readonly Verdict[];
}

export interface Verdict {
  readonly id:
    | 'agrees'
    | 'offset'
    | 'read-again'
    | 'phase'
    | 'phase-unsteady'
    | 'other-cylinder'
    | 'wrong-sign'
    | 'not-taken'
    | 'other-lock'
    | 'delay'
    | 'scatter'
    | 'one-speed'
    | 'one-reading';
  readonly tone: 'right' | 'note' | 'fix' | 'stop';
  readonly sentence: string;
  readonly next: string;
}

/** A reading with a light is good to about this, degrees (common practice: half a mark's width). */
export const READ_TO = 0.5;
/** Scatter above which the trigger is looked at before the offset is changed, degrees (common practice). */
export const SCATTER_MOST = 2;
/** Speeds closer than this are one speed, rpm. */
const ONE_SPEED = 150;
/** A reading this near to a full turn, or to another cylinder's event, belongs there. */
const BESIDE = 12;
/** Standard errors from which a drift is more than scatter. */
const TELLING = 2.5;

interface Line {
  readonly mean: number;
  readonly at: number;
  readonly slope: number;
  readonly rest: number;
  readonly errorOfSlope: number;
  readonly errorOfMean: number;
}

/**
 * Least squares of y on x about the mean (Gauss 1809). The scatter is never taken below what a light can be read to, so two
 * readings do not prove a slope exactly. Slope 0 when all x are one.
 */
export function lineThrough(xs: readonly number[], ys: readonly number[], least = READ_TO): Line {
  const count = xs.length;
  const at = xs.reduce((sum, x) => sum + x, 0) / count;
  const mean = ys.reduce((sum, y) => sum + y, 0) / count;
  const spread = xs.reduce((sum, x) => sum + (x - at) ** 2, 0);
  const slope = spread > 0 ? xs.reduce((sum, x, i) => sum + (x - at) * (ys[i]! - mean), 0) / spread : 0;
  const squares = ys.reduce((sum, y, i) => sum + (y - mean - slope * (xs[i]! - at)) ** 2, 0);
  const free = count - (spread > 0 ? 2 : 1);
  const rest = free > 0 ? Math.sqrt(squares / free) : 0;
  const noise = Math.max(rest, least);
  return {
    mean,
    at,
    slope,
    rest,
    errorOfSlope: spread > 0 ? noise / Math.sqrt(spread) : 0,
    errorOfMean: noise / Math.sqrt(count),
  };
}

/** The engine the light is held at, and the offset its ECU works with now (tooth to TDC). */
export interface LightSetting {
  readonly cycle: 360 | 720;
  readonly cylinders: number;
  readonly maxRpm: number;
  readonly inUse: number;
  /** Speed the answer shall be best at, when there is a drift; the slowest reading's by default. */
  readonly forRpm?: number;
}

const degrees = (value: number, places = 1) => `${Number(value.toFixed(places))}°`;

/**
 * Reads a log of the timing light. Every reading asks for an offset of its own (old offset less commanded plus seen, as tooth
 * to TDC); readings of a right set-up all ask for the same one. Asked offsets that fall in a line with speed are a delay
 * t = drift / (6 x rpm) of the sensor or its conditioner; a full turn apart is the phase; a cylinder's distance apart is
 * the light on another lead (domain facts). Null for an empty log.
 *
 * @param maxRpm The engine's top speed, for what a delay costs there.
 */
export function readLights(
  reads: readonly LightRead[],
  { cycle, cylinders, maxRpm, inUse, forRpm }: LightSetting,
): LightLog | null {
  if (reads.length === 0) return null;
  const asked = reads.map((read) => read.oldOffset - (read.commandedDegrees - read.seenDegrees));
  // The largest group within a turn's fold is the engine; the rest is a turn or a cylinder away.
  const reference = bestReference(asked, cycle);
  const near = asked.map((one) => wrapSigned(one - reference, cycle));
  const events = cycle / cylinders;
  const mine = near.map((away) => Math.abs(away) <= Math.min(BESIDE, events / 3));
  const used = reads.flatMap((read, i) => (mine[i] ? [{ rpm: read.rpm, asks: reference + near[i]! }] : []));
  const speedsUsed = used.map(({ rpm }) => rpm);
  const [slowest, fastest] = [Math.min(...speedsUsed), Math.max(...speedsUsed)];
  const speeds = fastest - slowest >= ONE_SPEED;
  const line = lineThrough(
    speedsUsed.map((rpm) => (speeds ? rpm : slowest)),
    used.map(({ asks }) => asks),
  );
  const valueAt = (rpm: number) => line.mean + line.slope * (rpm - line.at);
  const sure = speeds && Math.abs(line.slope) > TELLING * line.errorOfSlope;
  const atRpm = sure ? (forRpm ?? slowest) : line.at;
  const scatter = used.length - (speeds ? 2 : 1) > 0 ? line.rest : null;
  const points = reads.map((read, i): ReadPoint => {
    const asks = reference + near[i]!;
    return {
      ...read,
      error: wrapSigned(read.commandedDegrees - read.seenDegrees, cycle),
      asks,
      rest: mine[i] ? asks - valueAt(read.rpm) : null,
    };
  });
  const perSecond = 1e6 / 6;
  const log: Omit<LightLog, 'verdicts'> = {
    points,
    offset: wrapDegrees(valueAt(atRpm), cycle),
    atRest: wrapDegrees(valueAt(0), cycle),
    within: 2 * Math.hypot(line.errorOfMean, speeds ? line.errorOfSlope * (atRpm - line.at) : 0),
    delay: speeds ? { microseconds: -line.slope * perSecond, within: 2 * line.errorOfSlope * perSecond, sure } : null,
    driftAtTop: line.slope * (maxRpm - slowest),
    scatter,
  };
  return { ...log, verdicts: verdictsOf(log, { cycle, events, reads, speeds, maxRpm, inUse }) };
}

/** The asked offset with the most others beside it, a cycle folded to one. */
function bestReference(asked: readonly number[], cycle: number): number {
  let [best, most] = [asked[0]!, 0];
  for (const one of asked) {
    const close = asked.filter((other) => Math.abs(wrapSigned(other - one, cycle)) <= BESIDE).length;
    // Between equals the later reading: what was corrected on the way counts.
    if (close >= most) [best, most] = [one, close];
  }
  return best;
}

function verdictsOf(
  log: Omit<LightLog, 'verdicts'>,
  setting: Pick<LightSetting, 'cycle' | 'maxRpm' | 'inUse'> & {
    readonly events: number;
    readonly reads: readonly LightRead[];
    readonly speeds: boolean;
  },
): Verdict[] {
  const { cycle, events, reads, speeds, maxRpm, inUse } = setting;
  const found: Verdict[] = [];
  const say = (id: Verdict['id'], tone: Verdict['tone'], sentence: string, next: string) =>
    found.push({ id, tone, sentence, next });
  const { points, scatter, delay } = log;
  const last = points[points.length - 1]!;
  const turnOut = (error: number) => cycle === 720 && Math.abs(Math.abs(error) - 360) <= BESIDE;
  const turned = points.filter(({ error }) => turnOut(error));
  const heeded = heed(reads, cycle);
  if (turned.length > 0 && turned.length < points.length)
    say(
      'phase-unsteady',
      'stop',
      `${turned.length} of ${points.length} readings are a full turn away from the others: the phase of the cycle is not steady.`,
      'Look at the cam signal on the bench: a weak or missing cam pulse lets the ECU guess the turn.',
    );
  else if (turned.length > 0)
    say(
      'phase',
      'stop',
      'The light is a full turn of the crank out: the phase is wrong, not the offset.',
      "Turn the phase in the ECU by 360°, or take the cam's other edge; leave the offset as it is.",
    );
  const elsewhere = points.filter(
    ({ error }) =>
      !turnOut(error) &&
      Math.abs(error) > BESIDE &&
      Math.abs(error / events - Math.round(error / events)) * events <= BESIDE / 2,
  );
  if (elsewhere.length > 0 && events >= 2 * BESIDE)
    say(
      'other-cylinder',
      'stop',
      `${elsewhere.length === points.length ? 'All readings are' : `${elsewhere.length} of ${points.length} readings are`} a whole cylinder's distance (${degrees(events)}) out.`,
      "Put the pick-up on cylinder 1's lead; if it is there, two ignition outputs are crossed.",
    );
  if (heeded === 'wrong-sign')
    say(
      'wrong-sign',
      'stop',
      'The last change of the offset made the error larger by as much as it should have taken away: this ECU counts the other way.',
      'Enter the offset with the other sign, or counted from TDC on (see the ways of counting), and read again.',
    );
  if (heeded === 'not-taken')
    say(
      'not-taken',
      'fix',
      'The offset was changed and the light did not move: the ECU works with the old one.',
      'Write the value to the ECU, store it, switch the key off and on, and read again.',
    );
  const otherLock = last.commandedDegrees === 10 ? 0 : 10;
  if (Math.abs(last.seenDegrees - otherLock) <= CONFIRMED_WITHIN && heeded === null)
    say(
      'other-lock',
      'note',
      `The light shows ${degrees(last.seenDegrees)}, as it does when the ECU is locked at ${otherLock}° and not at ${last.commandedDegrees}°.`,
      "Check the lock in the ECU and which of the pulley's marks was read, before the offset is changed.",
    );
  if (scatter !== null && scatter > SCATTER_MOST)
    say(
      'scatter',
      'fix',
      `The readings lie ${degrees(scatter)} about their line: the mark jumps.`,
      'Look at the trigger signal first: polarity of a VR sensor, the wrong edge, losses of sync, play of the belt or chain.',
    );
  if (delay?.sure) {
    const late = delay.microseconds > 0;
    say(
      'delay',
      Math.abs(log.driftAtTop) > 2 ? 'fix' : 'note',
      `The mark drifts ${late ? 'later' : 'earlier'} with speed: ${Math.round(Math.abs(delay.microseconds))} µs (give or take ${Math.round(delay.within)}), ${degrees(Math.abs(log.driftAtTop))} by ${maxRpm} rpm.`,
      late
        ? `Enter ${Math.round(delay.microseconds)} µs as the ECU's sensor delay with ${degrees(log.atRest)} as the offset. Without such a setting the spark is that much late at speed.`
        : 'A drift to earlier is no delay: look whether the ECU takes one off that is not there, or the wrong edge of a VR signal is used.',
    );
  }
  const clean = turned.length === 0 && elsewhere.length === 0;
  const off = wrapSigned(inUse - log.offset, cycle);
  const changed = Math.abs(wrapSigned(inUse - last.oldOffset, cycle)) > 0.05;
  if (clean && heeded === null) {
    if (changed && Math.abs(off) <= CONFIRMED_WITHIN)
      say(
        'read-again',
        'note',
        `The offset was changed to ${degrees(inUse)} since the last reading.`,
        'Write it to the ECU and read the light once more: it must show the lock now.',
      );
    else if (Math.abs(off) > CONFIRMED_WITHIN)
      say(
        'offset',
        'fix',
        `With ${degrees(inUse)} in use the spark comes ${degrees(Math.abs(off))} too ${off < 0 ? 'early' : 'late'}.`,
        `New offset ${degrees(log.offset)}, good to ${degrees(log.within)}.`,
      );
    else say('agrees', 'right', 'The light agrees within 1°.', 'Read once more when the engine runs.');
  }
  if (clean && points.length === 1)
    say(
      'one-reading',
      'note',
      'One reading tells the offset, not how steady it is.',
      'Read twice at cranking, then at idle and near 3000 rpm with no load.',
    );
  else if (clean && !speeds)
    say(
      'one-speed',
      'note',
      'All readings are at one speed: a delay of the sensor would not show.',
      'Read once more at another speed, 1000 rpm away or more, when the engine runs.',
    );
  return found;
}

/**
 * Whether the ECU heeds the offset: from one reading to the next with another offset, the error must move with it.
 * 'wrong-sign' when it moves the other way, 'not-taken' when it stays; null when it moved as it should, or nothing was changed.
 */
function heed(reads: readonly LightRead[], cycle: number): 'wrong-sign' | 'not-taken' | null {
  for (let i = reads.length - 1; i > 0; i -= 1) {
    const [one, other] = [reads[i - 1]!, reads[i]!];
    const moved = wrapSigned(other.oldOffset - one.oldOffset, cycle);
    if (Math.abs(moved) < 3 || Math.abs(Math.abs(moved) - 360) < 3) continue;
    const errorOf = (read: LightRead) => read.commandedDegrees - read.seenDegrees;
    const changed = wrapSigned(errorOf(other) - errorOf(one), cycle);
    const share = changed / moved;
    if (Math.abs(share - 1) <= 0.34) return null;
    if (Math.abs(share + 1) <= 0.34) return 'wrong-sign';
    return Math.abs(share) <= 0.34 ? 'not-taken' : null;
  }
  return null;
}

/** Degrees the spark comes early by the log's line at a speed, with an offset in use; level where no delay is sure. */
export function earlyAt(log: LightLog, inUse: number, rpm: number, cycle: 360 | 720): number {
  const at = Math.min(...log.points.filter(({ rest }) => rest !== null).map((point) => point.rpm));
  const drift = log.delay?.sure ? -6e-6 * log.delay.microseconds * (rpm - at) : 0;
  return wrapSigned(log.offset - inUse, cycle) + drift;
}

/** What the light would show with an offset in use, by either school of lock: same error, other mark. */
export const shownAt = (offset: number, inUse: number, lockDegrees: number): number => lockDegrees - (inUse - offset);

import type { Build } from '../build/schema';
import { cycleDegrees } from '../engine/engine';
import { wrapDegrees, wrapSigned } from '../units/convert';
import { fitTrigger } from './fit';

/** How an ECU names the angle between its reference tooth and TDC 1: which way it counts, and in which range. */
export type OffsetWay = Build['trigger']['offsetWay'];

const TURN = 360;
const WHOLE = 720;
/** Two offsets nearer than this are one wheel, degrees (common practice: the width of a mark and of a tooth's edge). */
const ONE_WHEEL = 2;

/** Crank degrees after which the ECU's count begins anew: without a phase it knows a single turn. */
export function offsetCycle(build: Pick<Build, 'ecu' | 'engine' | 'trigger'>): 360 | 720 {
  const { crankWheel, camWheel } = build.trigger;
  const { knows } = fitTrigger(build.ecu, build.engine, crankWheel, camWheel);
  return knows === 'angle' ? TURN : (cycleDegrees(build.engine) as 360 | 720);
}

/** The kept offset (degrees from the tooth on to TDC 1) as this way of counting has it. */
export function inOwnWords(kept: number, { counts, range }: OffsetWay, cycle: 360 | 720): number {
  const angle = counts === 'tooth-to-tdc' ? kept : -kept;
  return range === 'up' ? wrapDegrees(angle, cycle) : wrapSigned(angle, cycle);
}

/** The kept offset that a number of this way of counting means. Any number does: what is past a cycle comes round. */
export const fromOwnWords = (own: number, { counts }: OffsetWay, cycle: 360 | 720): number =>
  wrapDegrees(counts === 'tooth-to-tdc' ? own : -own, cycle);

/** Least and most an ECU of this way lets one type. */
export function rangeOf({ range }: OffsetWay, cycle: 360 | 720): readonly [number, number] {
  if (range === 'up') return [0, cycle];
  return range === 'wide' ? [-TURN, TURN] : [-cycle / 2, cycle / 2];
}

/** Other numbers of the same range that mean the same, such as 90 and -270 of one turn. */
export function twinsInRange(own: number, way: OffsetWay, cycle: 360 | 720): number[] {
  const [least, most] = rangeOf(way, cycle);
  return [own - cycle, own + cycle].filter((one) => one >= least && one <= most);
}

export interface SameWheel {
  /** Degrees by which the second differs, the turn left aside. */
  readonly apart: number;
  /** True when both can be one wheel, and the turn is all that differs or nothing does. */
  readonly same: boolean;
  /** True when they name the two turns of a cycle. */
  readonly otherTurn: boolean;
}

/**
 * Whether two numbers, each in its own way of counting, can be of one wheel: the turn is told apart only where both know it.
 * Minus 4 of a spark every turn and 355 of a coil each are one wheel a degree apart.
 */
export function compareOffsets(
  one: { readonly own: number; readonly way: OffsetWay; readonly cycle: 360 | 720 },
  other: { readonly own: number; readonly way: OffsetWay; readonly cycle: 360 | 720 },
): SameWheel {
  const [a, b] = [one, other].map(({ own, way, cycle }) => fromOwnWords(own, way, cycle));
  const apart = wrapSigned(b! - a!, TURN);
  const both = one.cycle === WHOLE && other.cycle === WHOLE;
  const otherTurn = both && Math.abs(wrapSigned(b! - a!, WHOLE)) > TURN / 2;
  return { apart, same: Math.abs(apart) <= ONE_WHEEL && !otherTurn, otherTurn };
}

const degrees = (value: number): string => `${value < 0 ? '–' : ''}${Math.abs(value).toFixed(1)}°`;

/** The offset of a build as its ECU names it: `–4.0°`. */
export const offsetWords = (
  build: Pick<Build, 'ecu' | 'engine' | 'trigger'>,
  kept = build.trigger.offsetDegrees,
): string => degrees(inOwnWords(kept, build.trigger.offsetWay, offsetCycle(build)));

/** What the turn means for this number, in a sentence. */
export function turnSentence(build: Pick<Build, 'ecu' | 'engine' | 'trigger'>): string {
  const cycle = offsetCycle(build);
  const own = inOwnWords(build.trigger.offsetDegrees, build.trigger.offsetWay, cycle);
  if (build.engine.kind !== 'four-stroke') return '';
  if (cycle === TURN) {
    const [twin] = twinsInRange(own, build.trigger.offsetWay, cycle);
    return `Without a phase the ECU counts one turn${twin === undefined ? '' : `: ${degrees(own)} and ${degrees(twin)} are one`}. A number a turn away is the same wheel.`;
  }
  const other = inOwnWords(build.trigger.offsetDegrees + TURN, build.trigger.offsetWay, cycle);
  return `${degrees(other)} is the other turn: with it the spark comes at the end of the exhaust stroke, and the light shows the mark all the same.`;
}

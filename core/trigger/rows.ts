import { align } from './align';
import { thin, type Thinned } from './bursts';
import { clockOf } from './noise';
import { turning } from './standstill';
import { pulsesOf, showsSides, type Polarity, type Track } from './tracks';

/** The pulses a decoder would read, at one edge. */
export interface Row {
  readonly level: 0 | 1;
  /** All of them, and what is left without bursts. */
  readonly all: Float64Array;
  readonly thinned: Thinned;
  readonly pulses: Float64Array;
  /** The stretch wheels are held against. */
  readonly from: number;
  readonly to: number;
  /** Seconds by which a pulse's time is off, root mean square. */
  readonly clock: number;
}

/** Pulses a wheel is held against: enough turns to tell, few enough to be quick. */
const WINDOW = 500;
/** How much more unrest the falling edges must show to be read first: absolute and as a share. */
const MORE = 5;
const MORE_SHARE = 0.05;

/** Intervals whose median is a speed; by how much they may be longer than usual at speed; pulses that must be left. */
const [SPEED_OVER, SLOWER, LEFT_LEAST] = [9, 1.25, 60];

/** Pulses over which a starter that has come near to its speed still gains some. */
const GAINS = 3 * SPEED_OVER;

/** The stretch between spinning up and running down, by the pulses: there the speed changes by more than compression lets it. */
function atSpeed(pulses: Float64Array): [number, number] {
  const steps = pulses.subarray(1).map((time, i) => time - pulses[i]!);
  const usual = [...steps].sort((one, other) => one - other)[steps.length >> 1]!;
  const slow = (at: number) =>
    [...steps.subarray(at, at + SPEED_OVER)].sort((one, other) => one - other)[SPEED_OVER >> 1]! > SLOWER * usual;
  let [first, last] = [0, pulses.length];
  while (last - first > LEFT_LEAST && slow(first)) first += 1;
  while (last - first > LEFT_LEAST && slow(last - 1 - SPEED_OVER)) last -= 1;
  // A starter still gains speed when it has come near to it.
  if (first > 0 && last - first > LEFT_LEAST + GAINS) first += GAINS;
  return [first, last];
}

/**
 * Share of the usual interval by which a pulse is off in any case: a sensor's crossing moves by that much between a tooth beside a
 * gap and one among others (common practice). In seconds, so that it is the same for every wheel.
 */
const EXACT_SHARE = 0.002;
const usualStep = (pulses: Float64Array): number =>
  [...pulses.subarray(1).map((time, i) => time - pulses[i]!)].sort((one, other) => one - other)[
    Math.max(0, pulses.length - 1) >> 1
  ] ?? 0;

/** Degrees of a tooth when a row is held against even ones. */
const EVEN = 10;

/** By how much an interval that is no measure of the speed is longer than those of the next pulses; and pulses that must be left. */
const [FIRST_LONGER, NEXT, LEFT_FIRST] = [1.5, 6, 12];

const rowOf = (crank: Track, level: 0 | 1): Row => {
  const all = pulsesOf(crank, level);
  const loud = Array.from(
    crank.loud.filter((_, i) => crank.edges.level[i] === level),
    (one) => one === 1,
  );
  const thinned = thin(all, loud);
  const { pulses } = thinned;
  const [start, end] = turning(pulses);
  const [first, last] = atSpeed(pulses.subarray(start, end)).map((at) => at + start) as [number, number];
  const spare = Math.max(0, last - first - WINDOW);
  const from = first + (spare >> 1);
  // A path begins with one interval that says how fast the crank turns: not with a gap, or over a lost pulse.
  const over = (at: number) =>
    pulses[at + 1]! - pulses[at]! > FIRST_LONGER * usualStep(pulses.subarray(at + 1, at + 1 + NEXT));
  return {
    level,
    all,
    thinned,
    pulses,
    from: last - from > LEFT_FIRST && over(from) ? from + 1 : from,
    to: last - spare + (spare >> 1),
    clock: Math.hypot(clockOf(crank), EXACT_SHARE * usualStep(pulses)),
  };
};

/** The rows of pulses in the order in which they are read: the steep crossings of a VR signal; both edges of a square one, the one that says more first. */
export function rowsOf(crank: Track, polarity: Polarity): Row[] {
  if (!showsSides(crank)) return [rowOf(crank, polarity === 'reversed' ? 1 : 0)];
  const [falls, rises] = [rowOf(crank, 0), rowOf(crank, 1)];
  // How far a row of intervals is from even: how much a decoder could read from them.
  const unevenness = ({ pulses, from, to }: Row) => align([EVEN], pulses, from, to).cost;
  const [down, up] = [unevenness(falls), unevenness(rises)];
  return down > up + Math.max(MORE, MORE_SHARE * Math.abs(up)) ? [falls, rises] : [rises, falls];
}

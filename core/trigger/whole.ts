import { align, folded, priceOf, type Alignment, type PulseEvent } from './align';
import { bestPace } from './best-pace';
import { bent, KEEN, LOOSE, overCycle, type Judgement } from './judge';
import type { Pace } from './pace';
import { anglesOf } from './path';
import type { Standstill } from './standstill';

// Hot loops look these up once.
const { max } = Math;

/** Teeth a repeat from which a step tells how many were lost. */
const TELLS_STEPS = 6;

/** What goes wrong along a path, told by its teeth: a pulse between two teeth that one lies between is that one, off its place. */
function told(path: Int32Array, count: number, off: ReadonlySet<number>): { teeth: Int32Array; events: PulseEvent[] } {
  const teeth = path.slice();
  const events: PulseEvent[] = [];
  let before = -1;
  for (let i = 0; i < teeth.length; i += 1) {
    if (teeth[i]! < 0) continue;
    if (before >= 0) {
      const step = (((teeth[i]! - teeth[before]!) % count) + count) % count;
      const strays = i - before - 1;
      if (step === 2 && strays === 1) {
        teeth[i - 1] = (teeth[before]! + 1) % count;
        events.push({ pulse: i - 1, kind: 'bent', tooth: teeth[i - 1]! });
      } else {
        for (let stray = before + 1; stray < i; stray += 1)
          events.push({ pulse: stray + 1, kind: 'added', tooth: teeth[i]! });
        if (step === 2 || step === 3)
          for (let gone = 0; gone < step - 1; gone += 1)
            events.push({ pulse: i, kind: 'lost', tooth: (teeth[i]! - gone + count) % count });
        else if (step !== 1) events.push({ pulse: i, kind: 'break', tooth: teeth[i]! });
      }
    }
    if (off.has(i)) events.push({ pulse: i, kind: 'bent', tooth: teeth[i]! });
    before = i;
  }
  return { teeth, events };
}

/** Backwards from a tooth that is known to the first pulse: spinning up is followed from where the crank is at speed. */
function backwards(
  pattern: readonly number[],
  seconds: Float64Array,
  from: number,
  tooth: number,
  pace: Pace,
): { teeth: Int32Array; off: number[] } {
  const count = pattern.length;
  const turned = pattern.map((_, j) => pattern[(2 * count - j - 1) % count]!);
  const times = Float64Array.from({ length: from + 1 }, (_, i) => -seconds[from - i]!);
  const found = align(turned, times, 0, times.length, pace, { start: (count - tooth) % count });
  const teeth = new Int32Array(from).fill(-1);
  for (let i = 1; i <= from; i += 1) if (found.teeth[i]! >= 0) teeth[from - i] = (count - found.teeth[i]!) % count;
  const off = found.events.filter(({ kind }) => kind === 'bent').map(({ pulse }) => from - pulse);
  return { teeth, off };
}

/**
 * The path through all pulses of a capture: from the stretch it was judged on, forwards and backwards; where the crank all but
 * stands it is interrupted and taken up anew behind.
 *
 * @param from Number of the first pulse of that stretch.
 */
export function alignWhole(
  pattern: readonly number[],
  seconds: Float64Array,
  judged: Pick<Judgement, 'ripple' | 'pace' | 'alignment'>,
  from: number,
  stops: readonly Standstill[] = [],
): { alignment: Alignment; degrees: Float64Array } {
  if (stops.length === 0) return alignTurning(pattern, seconds, judged, from);
  const teeth = new Int32Array(seconds.length).fill(-1);
  const events: PulseEvent[] = [];
  const { clock, play } = judged.pace;
  let cost = 0;
  [...stops, { from: seconds.length, to: seconds.length }].forEach(({ from: end }, i) => {
    const start = stops[i - 1]?.to ?? 0;
    const own = seconds.subarray(start, end);
    const shift = ({ pulse, ...rest }: PulseEvent): PulseEvent => ({ ...rest, pulse: pulse + start });
    const found =
      from >= start && from < end
        ? alignTurning(
            pattern,
            own,
            {
              ...judged,
              alignment: {
                ...judged.alignment,
                events: judged.alignment.events.map((one) => ({ ...one, pulse: one.pulse - start })),
              },
            },
            from - start,
          ).alignment
        : align(pattern, own, 0, own.length, { ...KEEN, play: max(KEEN.play, play), clock });
    teeth.set(found.teeth, start);
    cost += Number.isFinite(found.cost) ? found.cost : 0;
    const first = found.teeth.findIndex((tooth) => tooth >= 0);
    if (i > 0 && first >= 0) events.push({ pulse: start + first, kind: 'break', tooth: found.teeth[first]! });
    events.push(...found.events.map(shift));
  });
  const alignment = { cost, misfit: priceOf(events), teeth, events, trail: new Float64Array(0) };
  return { alignment, degrees: anglesOf(alignment, pattern, seconds) };
}

/** The same for pulses of a crank that turns one way. */
function alignTurning(
  pattern: readonly number[],
  seconds: Float64Array,
  { ripple, pace, alignment: judged }: Pick<Judgement, 'ripple' | 'pace' | 'alignment'>,
  from: number,
): { alignment: Alignment; degrees: Float64Array } {
  const cycle = overCycle(pattern);
  const { clock, play } = pace;
  const keen = { ...KEEN, play: max(KEEN.play, play), clock };
  // Behind a break the place is found again: from there the rest is followed both ways.
  const breaks = judged.events.filter(({ kind }) => kind === 'break').map(({ pulse }) => pulse - from);
  const settled = max(0, ...breaks);
  // A stretch may end within what was judged: a place behind its end is none of it.
  const within = (i: number) => i >= settled && from + i < seconds.length;
  const at = pattern.length >= TELLS_STEPS ? judged.teeth.findIndex((tooth, i) => within(i) && tooth >= 0) : -1;
  if (at >= 0 && breaks.length <= 1) {
    const start = from + at;
    const tooth = judged.teeth[at]!;
    const shape = ripple && cycle ? bent(cycle, ripple.swing) : pattern;
    const ahead = [keen, { ...LOOSE, clock }].map((one) => {
      const found = align(shape, seconds, start, seconds.length, one, { start: tooth });
      return { found, cost: bestPace(found, shape, seconds, start, clock).cost };
    });
    const { found } = ahead.reduce((best, one) => (one.cost < best.cost ? one : best));
    const path = new Int32Array(seconds.length).fill(-1);
    found.teeth.forEach((one, i) => (path[start + i] = one < 0 ? one : one % pattern.length));
    const off = new Set(found.events.filter(({ kind }) => kind === 'bent').map(({ pulse }) => pulse));
    if (start > 1) {
      const back = backwards(pattern, seconds, start, tooth, { ...keen, slope: SPINNING });
      path.set(back.teeth);
      back.off.forEach((pulse) => off.add(pulse));
    }
    const { teeth, events } = told(path, pattern.length, off);
    const alignment = { cost: found.cost, misfit: priceOf(events), teeth, events, trail: found.trail };
    return { alignment, degrees: anglesOf(alignment, pattern, seconds) };
  }
  const paces: Pace[] = [{ ...LOOSE, clock }, keen, { slope: SPINNING, play: LOOSE.play, clock }];
  const ways = paces.map((one) => {
    const alignment = align(pattern, seconds, 0, seconds.length, one);
    const { cost } = bestPace(alignment, pattern, seconds, 0, clock);
    return { cost, alignment, degrees: () => anglesOf(alignment, pattern, seconds) };
  });
  if (ripple && cycle !== null) {
    const shown = bent(cycle, ripple.swing);
    const alignment = align(shown, seconds, 0, seconds.length, keen);
    const { cost } = bestPace(alignment, shown, seconds, 0, clock);
    ways.push({
      cost,
      alignment: folded(alignment, pattern.length),
      degrees: () => anglesOf(alignment, cycle, seconds),
    });
  }
  const best = ways.reduce((one, other) => (other.cost < one.cost ? other : one));
  return { alignment: best.alignment, degrees: best.degrees() };
}
/** Slope of the speed while a starter engages, per degree. */
const SPINNING = 0.03;

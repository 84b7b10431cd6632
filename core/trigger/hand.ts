import { primary } from './trials';
import { gapsOf } from './pattern';
import { teethPerCycle, teethPerTurn, toothIntervals, type Wheel } from '../wheels/wheel';

/** What a person found without a recorder: eyes, a meter's hertz range, a rev counter. Null where not looked. */
export interface HandFindings {
  /** Teeth that are there, on one turn of the wheel itself. */
  readonly teeth: number | null;
  /** Teeth missing in the longest gap; 0 for a wheel without a gap. */
  readonly gap: number | null;
  /** Gaps on one turn. */
  readonly gaps: number | null;
  /** Wires of the crank sensor, its shield not counted. */
  readonly wires: 2 | 3 | null;
  readonly crankHertz: number | null;
  readonly camHertz: number | null;
  readonly rpm: number | null;
}

export const nothingFound: HandFindings = {
  teeth: null,
  gap: null,
  gaps: null,
  wires: null,
  crankHertz: null,
  camHertz: null,
  rpm: null,
};

/** A wheel held against what was found. */
export interface HandCandidate {
  readonly wheel: Wheel;
  /** What fits and what does not, a sentence each, in the order of the findings. */
  readonly fits: readonly string[];
  readonly against: readonly string[];
  /** Crank speed the frequency stands for on this wheel; null without one. */
  readonly rpm: number | null;
  /** Larger fits better; 0 with nothing found. */
  readonly score: number;
}

/** What two of three readings stand for: pulses of the crank's sensor a turn, of the cam's a cycle, and the speed. */
export interface PulseGuess {
  /** Null where the crank's frequency was not read; and the cam's. */
  readonly crankPerTurn: number | null;
  readonly camPerCycle: number | null;
  /** Ratio of the two frequencies these would have; null without both. */
  readonly ratio: number | null;
  /** How far the readings are from it, a share: the ratio, or a speed against the other. */
  readonly off: number;
  readonly rpm: number;
}

export interface HandAnswer {
  readonly candidates: readonly HandCandidate[];
  /** Crank hertz over cam hertz; null without both. */
  readonly ratio: number | null;
  /** From any two of crank hertz, cam hertz and a speed. */
  readonly guesses: readonly PulseGuess[];
  readonly sensor: string | null;
  /** What to look at next, when it would narrow the list; null when nothing would. */
  readonly next: string | null;
}

/** A meter's frequency while cranking wanders by about this share (common practice). */
const METER = 0.03;
/** Ratios farther off than this are no guess. */
const OFF_MOST = 0.05;
/** Cranking and idling speeds an engine has, rpm (common practice). */
const SPEEDS = [80, 8000] as const;
const GUESSES = 5;
/** Against a wheel that turns with the cam, when the count may be either's (from memory: they are few). */
const HALVED = 2;

/** Missing teeth of the longest gap, for wheels on equal places; null for uneven ones. */
export const longestGap = (wheel: Wheel): number | null => {
  if (wheel.places === null) return null;
  return Math.max(1, ...gapsOf(wheel)) - 1;
};

/**
 * Holds counted teeth, gaps and frequencies against every wheel (f = pulses a turn x rpm / 60, the cam at half speed: domain
 * facts). One tooth miscounted keeps a wheel in the list, and says so.
 */
export function byHand(wheels: readonly Wheel[], found: HandFindings): HandAnswer {
  const { crankHertz, camHertz } = found;
  const ratio = crankHertz !== null && camHertz !== null && camHertz > 0 ? crankHertz / camHertz : null;
  const guesses = guessPulses(wheels, found);
  const candidates = wheels
    .filter(primary)
    .map((wheel) => held(wheel, found, guesses))
    .sort(
      (one, other) =>
        other.score - one.score ||
        away(one.wheel, found) - away(other.wheel, found) ||
        rarity(one.wheel) - rarity(other.wheel) ||
        teethPerTurn(one.wheel) - teethPerTurn(other.wheel),
    );
  return {
    candidates,
    ratio,
    guesses,
    sensor:
      found.wires === 2
        ? 'Two wires are almost always a VR sensor: no supply, polarity matters, needs a conditioner or a VR input.'
        : found.wires === 3
          ? 'Three wires are a Hall or optical sensor with supply, ground and signal, or a VR sensor with its shield: a winding of some hundred ohms between two of them tells.'
          : null,
    next: nextLook(candidates, found),
  };
}

/** How far a wheel's count is from the one found; beyond a tooth it only orders the list. */
const away = (wheel: Wheel, { teeth }: HandFindings): number =>
  teeth === null ? 0 : Math.abs(teethPerTurn(wheel) - teeth);
/** Between equals the commoner kind first. */
const rarity = ({ family }: Wheel): number =>
  family === 'missing-tooth' ? 0 : family === 'even' ? 1 : family === 'multi-gap' ? 2 : 3;

function held(wheel: Wheel, found: HandFindings, guesses: readonly PulseGuess[]): HandCandidate {
  const fits: string[] = [];
  const against: string[] = [];
  let score = 0;
  const teeth = teethPerTurn(wheel);
  const perCrankTurn = teethPerCycle(wheel) / 2;
  if (found.teeth !== null) {
    const off = Math.abs(teeth - found.teeth);
    if (off === 0) {
      fits.push(`${teeth} teeth, as counted`);
      score += 4;
    } else if (off === 1 && found.teeth > 4) {
      against.push(`${teeth} teeth, one off the count: count again`);
      score -= 2;
    } else {
      against.push(`${teeth} teeth, not ${found.teeth}`);
      score -= 8;
    }
  }
  if (found.gap !== null) {
    const own = longestGap(wheel);
    const has = own === null ? 'uneven teeth' : own === 0 ? 'no gap' : `a gap of ${own}`;
    if (own === found.gap) {
      fits.push(has);
      score += 3;
    } else {
      against.push(`${has}, not ${found.gap === 0 ? 'none' : found.gap}`);
      score -= own !== null && own > 0 && found.gap > 0 ? 3 : 6;
    }
  }
  if (found.gaps !== null) {
    const own = gapsOf(wheel).length;
    if (wheel.places !== null && own === found.gaps) {
      fits.push(`${own} ${own === 1 ? 'gap' : 'gaps'} a turn`);
      score += 2;
    } else {
      against.push(`${wheel.places === null ? 'uneven' : own} ${own === 1 ? 'gap' : 'gaps'} a turn, not ${found.gaps}`);
      score -= 4;
    }
  }
  const rpm = found.crankHertz === null ? null : (found.crankHertz * 60) / perCrankTurn;
  if (rpm !== null && found.rpm !== null) {
    const off = Math.abs(Math.log(rpm / found.rpm));
    if (off < 0.1) {
      fits.push(`${Math.round(rpm)} rpm by its frequency`);
      score += 3 - (off / METER) ** 2 / 10;
    } else {
      against.push(`would turn at ${Math.round(rpm)} rpm, not ${found.rpm}`);
      score -= 5;
    }
  } else if (rpm !== null && (rpm < SPEEDS[0] || rpm > SPEEDS[1])) {
    against.push(`would turn at ${Math.round(rpm)} rpm`);
    score -= 4;
  }
  const crankRead = found.crankHertz !== null;
  if (guesses.length > 0 && crankRead) {
    const guess = guesses.find(({ crankPerTurn }) => crankPerTurn === perCrankTurn);
    if (guess) {
      if (guess.camPerCycle !== null)
        fits.push(
          `with ${guess.camPerCycle} cam ${guess.camPerCycle === 1 ? 'pulse' : 'pulses'} a cycle the ratio fits`,
        );
      // The likelier guess first: they are in that order.
      score += 2 - 0.2 * guesses.indexOf(guess);
    } else if (crankRead && found.camHertz !== null) {
      against.push('no small number of cam pulses gives this ratio');
      score -= 3;
    }
  }
  return { wheel, fits, against, rpm, score };
}

/** Cam pulses a cycle that are tried. */
const CAM_MOST = 12;
/** Against each further cam pulse: few are commoner (from memory). */
const EACH_CAM = 0.35;

/**
 * What any two of crank hertz, cam hertz and a rev counter's speed stand for: crank pulses a turn are 60 hertz / rpm, cam pulses
 * a cycle 120 hertz / rpm, and the two frequencies stand as 2 n / m. Small numbers of cam pulses and tooth counts that wheels
 * have come first; a ratio of 2.6 is 4 with 3 (2.67, a meter's error away) and not 13 with 10. With all three read, each must
 * agree with the others.
 */
export function guessPulses(
  wheels: readonly Wheel[],
  { crankHertz, camHertz, rpm, teeth }: Pick<HandFindings, 'crankHertz' | 'camHertz' | 'rpm' | 'teeth'>,
): PulseGuess[] {
  const read = [crankHertz, camHertz, rpm].filter((one) => one !== null && one > 0).length;
  if (read < 2 || crankHertz === 0 || camHertz === 0 || rpm === 0) return [];
  const known = new Set(wheels.filter(primary).map((wheel) => teethPerCycle(wheel) / 2));
  const counts = teeth === null ? [...known] : [teeth, teeth / 2];
  const guesses: (PulseGuess & { price: number })[] = [];
  for (const crankPerTurn of crankHertz === null ? [null] : counts)
    for (const camPerCycle of camHertz === null ? [null] : Array.from({ length: CAM_MOST }, (_, i) => i + 1)) {
      const speeds = [
        ...(crankPerTurn === null ? [] : [(60 * crankHertz!) / crankPerTurn]),
        ...(camPerCycle === null ? [] : [(120 * camHertz!) / camPerCycle]),
        ...(rpm === null ? [] : [rpm]),
      ];
      const off = Math.max(...speeds.map((speed) => Math.max(...speeds.map((other) => speed / other)))) - 1;
      // The crank's frequency counts the most pulses: its speed is the exactest that is not a rev counter's.
      const speed = rpm ?? speeds[0]!;
      if (off > OFF_MOST || speed < SPEEDS[0] || speed > SPEEDS[1]) continue;
      guesses.push({
        crankPerTurn,
        camPerCycle,
        ratio: crankPerTurn === null || camPerCycle === null ? null : (2 * crankPerTurn) / camPerCycle,
        off: crankPerTurn !== null && camPerCycle !== null && rpm === null ? speeds[1]! / speeds[0]! - 1 : off,
        rpm: speed,
        price:
          0.5 * (off / METER) ** 2 +
          EACH_CAM * (camPerCycle ?? 0) +
          // Half the count is a wheel that turns with the cam: rarer.
          (teeth !== null && crankPerTurn !== null && crankPerTurn !== teeth ? HALVED : 0),
      });
    }
  return guesses
    .sort((one, other) => one.price - other.price)
    .slice(0, GUESSES)
    .map(({ price: _, ...guess }) => guess);
}

/** The cheapest look that still tells the best apart. */
function nextLook(candidates: readonly HandCandidate[], found: HandFindings): string | null {
  const best = candidates[0]?.score ?? 0;
  const open = candidates.filter(({ score }) => score >= best - 0.5).map(({ wheel }) => wheel);
  if (open.length < 2) return null;
  const differ = (of: (wheel: Wheel) => number | null) => new Set(open.map(of)).size > 1;
  if (found.teeth === null && differ(teethPerTurn))
    return 'Count the teeth of one turn: chalk one, turn the crank by hand, count until it comes round.';
  if (found.gap === null && differ(longestGap)) return 'Look for the longest gap: how many teeth would fit into it?';
  if (found.gaps === null && differ((wheel) => gapsOf(wheel).length)) return 'Count the gaps of one turn.';
  if (found.crankHertz === null && differ((wheel) => teethPerCycle(wheel)))
    return "Read the crank signal's hertz while cranking, with the plugs out.";
  if (differ((wheel) => Math.round(Math.max(...toothIntervals(wheel)))))
    return 'Measure the angle from tooth to tooth, or put a capture on the bench: these differ only there.';
  return 'These give the same pulses; the cam tells them apart: put a capture of both on the bench.';
}

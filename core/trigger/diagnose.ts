import { anglesAt } from './cam';
import type { Decoding, Loss } from './decoder';

/** What the pattern of losses tells (domain facts): six stories, each with its likelihood, remedy and wires. */
export const stories = ['coil', 'tooth', 'cam', 'speed', 'start-stop', 'random'] as const;
export type Story = (typeof stories)[number];

export interface Suspicion {
  readonly story: Story;
  /** 0 to 1; all of them add up to 1. */
  readonly likelihood: number;
  readonly title: string;
  /** When it happens, in a few words: 'in step with the coils'. */
  readonly when: string;
  readonly evidence: string;
  readonly remedy: string;
  /** Which wires it concerns: shafts of the trigger sensors, and the coils' grounds. */
  readonly concerns: readonly ('crank' | 'cam' | 'coil-ground')[];
}

const words: Readonly<Record<Story, { title: string; when: string; remedy: string; concerns: Suspicion['concerns'] }>> =
  {
    coil: {
      title: 'Ignition noise: the losses keep step with the coils',
      when: 'in step with the coils',
      remedy:
        'Shield earthed at the ECU end only, trigger cable away from coils and igniters, igniter ground to the head and not shared with the sensor or the ECU.',
      concerns: ['crank', 'coil-ground'],
    },
    tooth: {
      title: 'One tooth: the losses come back at the same place of the wheel',
      when: 'at one tooth',
      remedy:
        'Look at that tooth for damage, and at the wheel for run-out: turn it by hand past the sensor and measure the air gap.',
      concerns: ['crank'],
    },
    cam: {
      title: "The cam's pulse does not come where it is awaited",
      when: 'at the cam',
      remedy:
        "The crank's own pulses are all there. Compare the cam's angle with what is set: off by a whole tooth of its belt or chain, the cam was moved, so look at the timing marks before the next start; else its sensor was moved, or the setting is another's.",
      concerns: ['cam'],
    },
    speed: {
      title: 'Above a speed: the signal or the settings give out',
      when: 'above a speed',
      remedy: 'Check the air gap, then the arming level and the filter time at that speed.',
      concerns: ['crank'],
    },
    'start-stop': {
      title: 'At the first and last turns only',
      when: 'at start and stop',
      remedy: 'Small numbers at start and stop are normal; nothing to do unless the engine is slow to fire.',
      concerns: [],
    },
    random: {
      title: 'No pattern: the losses come at random',
      when: 'at random',
      remedy: 'Wiggle the connectors, check the shield, the sensor ground and the terminals for a loose crimp.',
      concerns: ['crank', 'cam'],
    },
  };

/** Length of the mean of unit arrows at these angles: 1 all alike, 0 spread evenly (Mardia 1972). */
export function concentration(degrees: readonly number[], period: number): number {
  const turn = (2 * Math.PI) / period;
  const [x, y] = degrees.reduce(
    ([sumX, sumY], angle) => [sumX + Math.cos(angle * turn), sumY + Math.sin(angle * turn)],
    [0, 0],
  );
  return degrees.length === 0 ? 0 : Math.hypot(x, y) / degrees.length;
}

/** Chance of such a concentration without a cause: Rayleigh's test, first order (Mardia 1972). */
export const chanceOf = (concentrationFound: number, count: number): number =>
  Math.exp(-count * concentrationFound * concentrationFound);

/** How many times likelier a chance makes its cause, at the most: 1 / (-e p ln p) (Sellke, Bayarri and Berger 2001). */
const speaksFor = (chance: number): number => (chance >= 1 / Math.E ? 1 : 1 / (-Math.E * chance * Math.log(chance)));

/** Weights before anything is seen (common practice: noise first, then the rest). Chance has three patterns to imitate. */
const before: Readonly<Record<Story, number>> = {
  coil: 0.3,
  tooth: 0.2,
  cam: 0.2,
  speed: 0.2,
  'start-stop': 0.2,
  random: 0.9,
};
/** Where the decoder lost the cam and not the crank, what is at the cam, and what is left for others that disturb its line. */
const [CAM_MISSING, AT_CAM] = [
  {
    title: "The cam's pulse is missing",
    remedy:
      "The crank's own pulses are all there. Measure the cam sensor's supply, ground and pull-up, then its air gap and its plug; wiggle the plug while cranking.",
  },
  0.7,
] as const;
const LEAST_CHANCE = 1e-6;

/** Pulses on each side of a disturbance whose teeth are not trusted. */
const DISTURBED = 8;

/**
 * Losses with the angles of a match instead of the decoder's own: those hold on through a loss, so that losses can be
 * compared over the whole capture. About a disturbance the angle is taken between the good teeth before and after it.
 */
export function placed(
  losses: readonly Loss[],
  found: {
    readonly pulses: Float64Array;
    readonly degrees: Float64Array;
    readonly events: readonly { readonly pulse: number }[];
  },
): Loss[] {
  const trusted = found.degrees.slice();
  for (const { pulse } of found.events)
    trusted.fill(Number.NaN, Math.max(1, pulse - DISTURBED), Math.min(trusted.length - 1, pulse + DISTURBED));
  const angles = anglesAt(
    losses.map(({ seconds }) => seconds),
    found.pulses,
    trusted,
  );
  return losses.map((loss, i) =>
    Number.isNaN(angles[i]) ? loss : { ...loss, angle: ((angles[i]! % 720) + 720) % 720 },
  );
}

/**
 * @param events Crank degrees between ignition events: 720 over the cylinders.
 * @param faults The pulses themselves that are too many, missing or off, where they are known: a decoder also loses its place
 *   some way behind a fault, and those losses would blur the pattern.
 */
export function diagnose(decoding: Decoding, events: number, faults: readonly Loss[] = []): Suspicion[] {
  const { losses } = decoding;
  if (losses.length === 0) return [];
  const ends = losses.filter(({ cause }) => cause === 'start' || cause === 'stop');
  const running = losses.filter(({ cause }) => cause !== 'start' && cause !== 'stop');
  // What a decoder misses of the cam says nothing of the crank's wheel.
  const atCam = running.filter(({ cause }) => cause === 'cam-missing' || cause === 'cam-window');
  const atCrank = running.filter((loss) => !atCam.includes(loss));
  const count = running.length;
  const chances: Record<Story, number> = { coil: 1, tooth: 1, cam: 1, speed: 1, 'start-stop': 1, random: 1 };
  const evidence: Record<Story, string> = {
    coil: '',
    tooth: '',
    cam: '',
    speed: '',
    'start-stop': '',
    random: `${count === 1 ? '1 loss' : `${count} losses`} while running`,
  };
  if (ends.length > 0 && count === 0) {
    chances['start-stop'] = LEAST_CHANCE;
    evidence['start-stop'] = `all ${ends.length} of them`;
  } else evidence['start-stop'] = `${ends.length} of ${losses.length}`;
  const missing = atCam.filter(({ cause }) => cause === 'cam-missing').length;
  const own = atCrank.length >= atCam.length ? atCrank : atCam;
  // After a loss the turn of the cycle may be counted wrong: with an odd number of cylinders half the distance serves too.
  const withCoilsOf = (angles: readonly number[]) =>
    Math.max(
      concentration(angles, events),
      Math.abs(360 / events - Math.round(360 / events)) > 0.01 ? concentration(angles, events / 2) : 0,
    );
  const atTheCam = own === atCam && atCam.length > 0;
  if (atTheCam) {
    const angles = atCam.map(({ angle }) => angle);
    // Ignition on the cam's line: in step with the coils, but not always at one place of the cycle.
    const noisy = events < CYCLE && concentration(angles, CYCLE) < AT_CAM && atCam.length - missing >= NOISE_LEAST;
    chances.coil = noisy ? Math.max(LEAST_CHANCE, chanceOf(withCoilsOf(angles), angles.length)) : 1;
    chances.cam = chances.coil < CHANCE_COILS ? 1 : Math.max(LEAST_CHANCE, CHANCE_ONCE ** atCam.length);
    evidence.coil = `the cam's line, in step with the ${Math.round(events)}° between sparks to ${Math.round(withCoilsOf(angles) * 100)} %`;
    evidence.cam = `${atCam.length} of ${count} losses; ${missing === 0 ? 'it came outside its window' : missing === 1 ? 'once no pulse came' : `${missing} times no pulse came`}`;
  } else if (count >= 2) {
    const angles = (faults.length >= 3 ? faults : atCrank).map(({ angle }) => angle);
    const withTurn = concentration(angles, 360);
    const withCoils = withCoilsOf(angles);
    chances.tooth = Math.max(LEAST_CHANCE, chanceOf(withTurn, angles.length));
    // The same tooth every turn also keeps step with the coils; coils of several cylinders do not keep to one tooth.
    chances.coil =
      Math.max(LEAST_CHANCE, chanceOf(withCoils, angles.length)) * (withTurn > 0.9 && events < 359 ? 50 : 1);
    evidence.coil = `in step with the ${Math.round(events)}° between sparks to ${Math.round(withCoils * 100)} %`;
    evidence.tooth = `in step with the turn to ${Math.round(withTurn * 100)} %`;
    evidence.cam = `${atCam.length} of ${count} losses`;
    const share = fasterShare(decoding, atCrank);
    chances.speed = Math.max(LEAST_CHANCE, share ** atCrank.length);
    const slowest = Math.min(...atCrank.map(({ rpm }) => rpm));
    evidence.speed = `all at ${Math.round(slowest)} rpm and above, where ${Math.round(share * 100)} % of the pulses are`;
  }
  const weights = stories.map((story) =>
    story === 'random'
      ? before.random
      : (story === 'cam' && atCam.length === 0) || (atTheCam && (story === 'tooth' || story === 'speed'))
        ? 0
        : before[story] * Math.min(1e4, speaksFor(chances[story])),
  );
  const sum = weights.reduce((all, one) => all + one, 0);
  const wordsOf = (story: Story): (typeof words)[Story] => {
    if (story === 'cam' && 2 * missing > atCam.length) return { ...words.cam, ...CAM_MISSING };
    return story === 'coil' && atTheCam ? { ...words.coil, concerns: ['cam', 'coil-ground'] } : words[story];
  };
  return stories
    .map((story, i) => ({ story, likelihood: weights[i]! / sum, evidence: evidence[story], ...wordsOf(story) }))
    .filter(({ story, likelihood }) => likelihood > 0.01 || story === 'random')
    .sort((one, other) => other.likelihood - one.likelihood);
}

const CYCLE = 720;
/** Losses from which noise is told, and the chance under which it is; that of one cam pulse lost to something else (from memory). */
const [NOISE_LEAST, CHANCE_COILS, CHANCE_ONCE] = [4, 0.01, 0.02];

/** Pulses over which a speed is taken: compression's swing within a turn is no speed. */
const SPEED_PULSES = 60;

/** Share of the pulses that came while the crank turned at least as fast, in the mean, as at the slowest of the losses. */
function fasterShare({ seconds }: Decoding, losses: readonly Loss[]): number {
  const over = Math.min(SPEED_PULSES, Math.floor(seconds.length / 4));
  if (over < 2) return 1;
  const speeds: number[] = [];
  for (let i = 0; i + over < seconds.length; i += 1) speeds.push(1 / (seconds[i + over]! - seconds[i]!));
  const at = (time: number) => {
    let [low, high] = [0, seconds.length - 1];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (seconds[middle]! < time) low = middle + 1;
      else high = middle;
    }
    return speeds[Math.min(speeds.length - 1, Math.max(0, low - (over >> 1)))]!;
  };
  const slowest = Math.min(...losses.map((loss) => at(loss.seconds)));
  return Math.max(1 / speeds.length, speeds.filter((speed) => speed >= slowest * 0.95).length / speeds.length);
}

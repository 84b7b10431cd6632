import { anglesAt } from './cam';
import { lostCamPulses } from './cam-lost';
import type { Suspicion } from './diagnose';
import type { Match } from './match';
import { overHole, pulseFaults } from './pulse-faults';
import type { Track } from './tracks';
import type { Stop } from './standstill';
import { teethPerTurn } from '../wheels/wheel';

/** Something wrong with the signals themselves, whatever an ECU makes of them. */
export interface SignalFault {
  readonly id:
    | 'swapped-leads'
    | 'crossed'
    | 'two-signals'
    | 'cam-lost'
    | 'hum'
    | 'coupled'
    | 'no-pull-up'
    | 'weak'
    | 'noise'
    | 'clipped'
    | 'missing-tooth'
    | 'bent-tooth'
    | 'lost-pulses'
    | 'extra-pulses'
    | 'kick-back'
    | 'all-but-stands';
  readonly title: string;
  readonly evidence: string;
  readonly remedy: string;
  readonly concerns: Suspicion['concerns'];
  /** Tooth of the crank wheel, from 0; null where none. */
  readonly tooth: number | null;
}

/** Swing of a square line below which no input switches, volts (common practice: 1 V is low, 3.5 V high). */
const LEAST_SWING = 1.5;
/** Lobes below this are under what VR inputs arm at, volts (common practice). */
const LEAST_LOBE = 0.3;
/** Noise this near to the signal gives false crossings, decibels (common practice). */
const NOISY = -28;
/** Moments that are told one by one. */
const TIMES_TOLD = 3;
/** Share of the turns in which a fault must come back to be the wheel's own. */
const MOSTLY = 0.5;

const volts = (value: number) => `${Number(value.toFixed(2))} V`;

/** Everything a look at the two signals shows to be wrong, the gravest first. Empty when both are clean. */
export function signalFaults(found: Match): SignalFault[] {
  const faults: SignalFault[] = [];
  const say = (fault: Omit<SignalFault, 'tooth'> & { tooth?: number }) => faults.push({ tooth: null, ...fault });
  const { crank, cam, polarity } = found;
  if (polarity === 'reversed')
    say({
      id: 'swapped-leads',
      title: "The crank sensor's two leads are swapped",
      evidence: 'the steep crossing of the signal rises where it should fall',
      remedy:
        'Change the two cavities at the sensor or at the ECU, not both; or take the rising edge, where the ECU can.',
      concerns: ['crank'],
    });
  if (found.crossed)
    say({
      id: 'crossed',
      title: 'Crank and cam are crossed',
      evidence: `the channel named ${cam?.channel.name ?? 'cam'} gives the pulses of the crank's place`,
      remedy: 'Look whether the probes or the two plugs are crossed; twin plugs within reach of each other are.',
      concerns: ['crank', 'cam'],
    });
  lineFaults(crank, 'crank', say);
  if (cam) lineFaults(cam, 'cam', say);
  const lost = lostCamPulses(found);
  if (lost.length > 0)
    say({
      id: 'cam-lost',
      title: `${lost.length === 1 ? 'A pulse of the cam does' : `${lost.length} pulses of the cam do`} not come`,
      evidence: `due at ${lost
        .slice(0, TIMES_TOLD)
        .map((seconds) => `${seconds.toFixed(2)} s`)
        .join(', ')}${lost.length > TIMES_TOLD ? ' and later' : ''}, while the crank's pulses go on`,
      remedy: "Measure the cam sensor's supply, ground and pull-up, then its air gap; wiggle its plug while cranking.",
      concerns: ['cam'],
    });
  for (const stop of found.stops) standsStill(stop, say);
  if (!twoSignals(found, say)) toothFaults(found, say);
  return faults;
}

/** Times something comes back in every second turn, and the share of the cycles it must, to be a cam's. */
const [CAM_TIMES, CAM_SHARE] = [3, 0.6];

/** Crank and cam on one trace: more than two levels, or a place that is off in every second turn only. */
function twoSignals(found: Match, say: (fault: Omit<SignalFault, 'tooth'>) => void): boolean {
  const { crank, pulses, degrees } = found;
  const levels = crank.shape.levels ?? [];
  const cycles = Math.max(1, (pulses[pulses.length - 1]! - pulses[0]!) / (120 / Math.max(1, found.rpm.mean)));
  const places = new Map<number, number[]>();
  const angles = anglesAt(
    found.events.map(({ pulse }) => pulses[pulse]!),
    pulses,
    degrees,
  );
  found.events.forEach(({ tooth, kind }, i) => {
    if (kind !== 'break' && !Number.isNaN(angles[i])) places.set(tooth, [...(places.get(tooth) ?? []), angles[i]!]);
  });
  const evenTurns = [...places.values()].some((at) => {
    const turns = [...new Set(at.map((angle) => Math.floor(angle / 360)))];
    return (
      turns.length >= Math.max(CAM_TIMES, CAM_SHARE * cycles) &&
      turns.every((turn) => (turn - turns[0]!) % 2 === 0) &&
      found.best.wheel.shaft === 'crank'
    );
  });
  if (levels.length <= 2 && !(evenTurns && !found.cam)) return false;
  say({
    id: 'two-signals',
    title: 'Two signals lie on this line',
    evidence:
      levels.length > 2
        ? `it rests at ${levels.length} levels${crank.showsVolts ? `: ${levels.map(volts).join(', ')}` : ''}`
        : 'at one place its pulses are off in every second turn: a cam turns so',
    remedy:
      "One probe to one line: look whether the recorder adds its inputs up, then whether crank's and cam's lines are joined in the loom or share a ground that drops.",
    concerns: ['crank', 'cam'],
  });
  return true;
}

/** A crank that stops under way: thrown back by a spark too early, or about to stall. */
function standsStill(
  { seconds: [from, to], backDegrees }: Stop,
  say: (fault: Omit<SignalFault, 'tooth'>) => void,
): void {
  const when = `from ${from.toFixed(2)} s to ${to.toFixed(2)} s`;
  if (backDegrees)
    say({
      id: 'kick-back',
      title: `The crank is thrown back by about ${Math.round(backDegrees)}°`,
      evidence: `${when} teeth pass three times: forwards, backwards and forwards again`,
      remedy:
        'A spark that comes too early does that: before the next try look at the offset and its sign with a timing light, injectors unplugged. It breaks starters and wrists.',
      concerns: [],
    });
  else
    say({
      id: 'all-but-stands',
      title: 'The crank all but stops on its way',
      evidence: when,
      remedy:
        "Measure the battery while cranking (below 9.6 V it is weak), then its cables and the engine's ground; a spark too early, and a cylinder full of fuel, brake it too: injectors unplugged, plugs out, try again.",
      concerns: [],
    });
}

function lineFaults(track: Track, shaft: 'crank' | 'cam', say: (fault: Omit<SignalFault, 'tooth'>) => void): void {
  const { shape, quality, showsVolts } = track;
  const concerns = [shaft];
  const swing = shape.high - shape.low;
  const level = (shape.most + shape.least) / 2;
  // A line that is only moved between two low levels looks like a small signal off the middle.
  const low = shape.kind === 'square' ? swing < LEAST_SWING : shape.most - shape.least < 0.5 && level > 0.1;
  if (low && showsVolts) {
    say({
      id: 'no-pull-up',
      title: `The ${shaft} line hardly moves: its pull-up is missing`,
      evidence: `${volts(shape.least)} to ${volts(shape.most)}`,
      remedy:
        'Switch the pull-up of this input on, or fit 1 kΩ to the supply the ECU allows; then look whether the sensor has its own supply.',
      concerns,
    });
    return;
  }
  if (shape.kind === 'vr' && showsVolts && quality.volts[1] < LEAST_LOBE)
    say({
      id: 'weak',
      title: `The ${shaft} signal is weak`,
      evidence: `lobes of ${volts(quality.volts[0])} to ${volts(quality.volts[1])}`,
      remedy: 'Measure the air gap (0.5 to 1.5 mm is usual), look for dirt on the tip and the winding for a short.',
      concerns,
    });
  for (const mend of track.mends)
    if (mend.kind === 'hum')
      say({
        id: 'hum',
        title: `The ${shaft} line carries hum of the mains`,
        evidence: `${mend.hertz.toFixed(1)} Hz${showsVolts ? `, ±${volts(mend.height)}` : ''}; it was taken off for this reading, an ECU does not do that`,
        remedy:
          "Run the recorder from its battery and clip its ground to the sensor's; if the hum stays, the shield or a ground of the line is open.",
        concerns,
      });
    else
      say({
        id: 'coupled',
        title: `The recorder couples the ${shaft} line by a capacitor`,
        evidence: `a square signal that sinks back, corner about ${mend.hertz.toFixed(mend.hertz < 10 ? 1 : 0)} Hz; its levels were put back for this reading`,
        remedy: 'Couple the input to DC: only then do its volts say whether the pull-up is there.',
        concerns: [],
      });
  if (quality.noiseDecibels > NOISY)
    say({
      id: 'noise',
      title: `The ${shaft} line is noisy`,
      evidence: `noise ${Math.round(-quality.noiseDecibels)} dB under the signal`,
      remedy: 'Shield earthed at the ECU end only, twisted pair, away from coils, alternator and starter cable.',
      concerns,
    });
  if (quality.clipped)
    say({
      id: 'clipped',
      title: `The ${shaft} signal is clipped`,
      evidence: showsVolts
        ? `it rests at ${volts(shape.least)} and ${volts(shape.most)}`
        : "it rests at the ends of the recorder's range",
      remedy: "Set the recorder's range wider; the timing still holds, the height does not.",
      concerns: [],
    });
}

/** Teeth that are not there or off their place come back every turn; lost and added pulses do not. */
function toothFaults(found: Match, say: (fault: Omit<SignalFault, 'tooth'> & { tooth?: number }) => void): void {
  const faults = pulseFaults(found);
  if (faults.length === 0) return;
  const perTurn = teethPerTurn(found.best.wheel);
  const turns = Math.max(1, found.pulses.length / perTurn);
  const concerns = ['crank'] as const;
  const kinds = found.events.filter(({ kind }) => kind !== 'break');
  // A lost tooth is noticed at the next one.
  const places = kinds.map(({ kind, tooth, pulse }) => ({
    kind,
    pulse,
    tooth: kind === 'lost' ? (tooth + perTurn - 1) % perTurn : tooth,
  }));
  const told = new Set<number>();
  for (const { kind, tooth } of places) {
    if (told.has(tooth) || kind === 'added') continue;
    const same = places.filter((one) => one.tooth === tooth && one.kind !== 'added');
    if (same.length < Math.max(2, MOSTLY * turns)) continue;
    told.add(tooth);
    const lost = same.filter((one) => one.kind === 'lost').length * 2 > same.length;
    say({
      id: lost ? 'missing-tooth' : 'bent-tooth',
      title: lost ? `Tooth ${tooth + 1} is missing` : `Tooth ${tooth + 1} stands off its place`,
      evidence: `in ${same.length} of ${Math.max(same.length, Math.round(turns))} turns${
        lost && found.gaps.length === 1 && found.gaps[0] === 2
          ? "; it looks like the wheel's own gap, one of the two is it"
          : ''
      }`,
      remedy: 'Turn the wheel by hand past the sensor and look at that tooth, counted from the first after the gap.',
      concerns,
      tooth,
    });
  }
  // Spinning up and coming to rest, the signal is weak and its speed jumps: what goes wrong there is no fault of the line.
  const steady = (pulse: number) => pulse > perTurn && pulse < found.pulses.length - perTurn;
  // Nor what nobody recorded.
  const seen = (pulse: number) => !overHole(found, found.pulses[Math.max(0, pulse - 1)]!, found.pulses[pulse]!);
  const left = places.filter(
    ({ tooth, kind, pulse }) => steady(pulse) && seen(pulse) && (kind === 'added' || !told.has(tooth)),
  );
  const [added, lost] = [
    left.filter(({ kind }) => kind === 'added').length,
    left.filter(({ kind }) => kind === 'lost').length,
  ];
  if (added > 0)
    say({
      id: 'extra-pulses',
      title: `${added === 1 ? 'A pulse' : `${added} pulses`} too many`,
      evidence: `in ${Math.round(turns)} turns, at no one tooth`,
      remedy: 'Something couples into the line: see the diagnosis below, shield, routing and grounds.',
      concerns,
    });
  if (lost > 0)
    say({
      id: 'lost-pulses',
      title: `${lost === 1 ? 'A pulse is' : `${lost} pulses are`} lost`,
      evidence: `in ${Math.round(turns)} turns, at no one tooth`,
      remedy: 'A loose terminal, a wide air gap or too high an arming level: wiggle the plug while cranking.',
      concerns,
    });
}

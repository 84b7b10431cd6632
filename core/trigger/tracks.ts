import { fail, ok, type Result } from '../problem';
import type { Capture, Channel } from './capture/capture';
import { hissOf } from './capture/hiss';
import { mended, type Mend } from './capture/mend';
import { withoutEchoes } from './echo';
import { loudEdges } from './loud';
import { lobesApart, lobesAsEdges } from './lobes';
import { shapeOf, type SignalShape } from './capture/shape';
import { edgesOf, qualityOf, type Edges, type SignalQuality } from './capture/signal';

/** One channel with all that was measured of it. */
export interface Track {
  readonly channel: Channel;
  readonly index: number;
  readonly shape: SignalShape;
  readonly edges: Edges;
  readonly quality: SignalQuality;
  /** Seconds to which a moment of it is known: from sample to sample, or the clock of what recorded its changes; 0 with fewer than two edges. */
  readonly step: number;
  /** Whether its figures are volts of the line: not those of a sound card, nor ones and zeros. */
  readonly showsVolts: boolean;
  /** Whether it is levels and no wave: what kind of sensor made them is not in the file. */
  readonly levels: boolean;
  /** 1 for each edge beside which the signal goes beyond its own height. */
  readonly loud: Uint8Array;
  /** What was taken off the channel before it was read. */
  readonly mends: readonly Mend[];
  /** Crossings within gaps that were left out: a signal swinging back, no teeth. */
  readonly echoes: number;
  /** What the edges are: levels of a square signal, crossings of a VR one, or the tops of its lobes where teeth are wide. */
  readonly reads: 'levels' | 'crossings' | 'lobes';
}

/** Whether both sides of a tooth show, as rise and fall. */
export const showsSides = (track: Track): boolean => track.reads !== 'crossings';

/** How a VR signal's leads are: `normal` means its steep zero crossing falls. */
export type Polarity = 'normal' | 'reversed' | 'square';

/** Which way round a VR signal is, and how sure: 0.5 is a guess, 1 certain. */
export interface PolarityFound {
  readonly polarity: Polarity;
  readonly sure: number;
}

/** A wait between two lobes this many times its like nearby is a gap; this many gaps are enough to go by, and this much one-sided. */
const GAP_WAIT = 1.7;
const GAPS_LEAST = 3;
const ONE_SIDED = 0.5;
/** Waits of one kind nearby on each side. */
const WAITS_NEARBY = 4;

/** How many waits of each kind are gaps: from a lobe below to one above, and the other way. */
function gapsBetweenLobes({ lobe, level }: Edges): { toAbove: number; toBelow: number } {
  const found = { toAbove: 0, toBelow: 0 };
  const waits: { above: boolean; seconds: number }[][] = [[], []];
  for (let i = 1; i < lobe.length; i += 1) {
    // The lobe before a fall is above.
    const above = level[i] === 0;
    waits[above ? 1 : 0]!.push({ above, seconds: lobe[i]! - lobe[i - 1]! });
  }
  for (const kind of waits)
    kind.forEach(({ above, seconds }, i) => {
      const near = kind
        .slice(Math.max(0, i - WAITS_NEARBY), i + WAITS_NEARBY + 1)
        .map((wait) => wait.seconds)
        .sort((one, other) => one - other);
      if (seconds > GAP_WAIT * near[near.length >> 1]!) found[above ? 'toAbove' : 'toBelow'] += 1;
    });
  return found;
}

/**
 * A tooth gives two lobes close together with the steep crossing between them, and the wait for the next tooth lies after
 * the second. So the waits tell which lobe comes first: above all those of the gaps, which no shape of tooth can imitate;
 * without gaps the mean of the waits from the lobe below to the lobe above, against the other way.
 */
export function polarityOf(track: Track): PolarityFound {
  if (track.shape.kind === 'square') return { polarity: 'square', sure: 1 };
  // Only the wheel tells: a leading side above is the right way round.
  if (track.reads === 'lobes') return { polarity: 'normal', sure: 1 };
  const { lobe, level } = track.edges;
  const gaps = gapsBetweenLobes(track.edges);
  const all = gaps.toAbove + gaps.toBelow;
  const side = (gaps.toAbove - gaps.toBelow) / Math.max(1, all);
  if (all >= GAPS_LEAST && Math.abs(side) >= ONE_SIDED)
    return { polarity: side > 0 ? 'normal' : 'reversed', sure: 0.5 + 0.5 * Math.abs(side) };
  let [toBelow, toAbove, count] = [0, 0, 0];
  for (let i = 1; i + 1 < lobe.length; i += 1) {
    if (level[i] !== 0 || level[i - 1] !== 1 || level[i + 1] !== 1) continue;
    // lobe[i] is the top before this fall, lobe[i + 1] the bottom after it, lobe[i - 1] the bottom before.
    const [one, other] = [lobe[i + 1]! - lobe[i]!, lobe[i]! - lobe[i - 1]!];
    toBelow += one / (one + other);
    toAbove += other / (one + other);
    count += 1;
  }
  if (count === 0) return { polarity: 'normal', sure: 0.5 };
  const lean = (toAbove - toBelow) / count;
  return { polarity: lean >= 0 ? 'normal' : 'reversed', sure: Math.min(1, 0.5 + Math.abs(lean) * 12) };
}

/** Numbers of the crossings that a decoder would use: the steep ones of a VR signal, or one edge of a square one. */
export function pulsesOf(track: Track, level: 0 | 1): Float64Array {
  const { edges } = track;
  let count = 0;
  for (let i = 0; i < edges.level.length; i += 1) if (edges.level[i] === level) count += 1;
  const out = new Float64Array(count);
  let at = 0;
  for (let i = 0; i < edges.level.length; i += 1) if (edges.level[i] === level) out[at++] = edges.seconds[i]!;
  return out;
}

/** Half of the samples between falls of the signal, and the usual height of its lobes. */
function lobesOf({ at, level, height }: Edges): { period: number; height: number } {
  const falls = [...at].filter((_, i) => level[i] === 0);
  const steps = falls.slice(1).map((one, i) => one - falls[i]!);
  const middle = (all: readonly number[]) => [...all].sort((one, other) => one - other)[all.length >> 1] ?? 0;
  return { period: middle(steps), height: middle([...height.subarray(0, LOBES_LOOKED)]) };
}
const LOBES_LOOKED = 2000;
const LOBE_SAMPLES = 12;

/** Seconds from sample to sample between the edges of a track; 0 with fewer than two. */
function sampleSeconds({ at, seconds }: Edges): number {
  const last = at.length - 1;
  return last < 1 ? 0 : (seconds[last]! - seconds[0]!) / (at[last]! - at[0]!);
}

/** Ones and zeros that no head calls volts. */
const isLogic = ({ unit }: Channel, { kind, least, most, clipped }: SignalShape): boolean =>
  unit === '' && kind === 'square' && least === 0 && most === 1 && clipped === 1;

export const trackOf = (capture: Capture, index: number): Track => {
  const channel = capture.channels[index]!;
  const first = shapeOf(channel.values);
  const mend = mended(channel.values, first, capture.time);
  const [raw, values, mends] = [mend?.shape ?? first, mend?.values ?? channel.values, mend?.mends ?? []];
  const crossings =
    raw.kind === 'constant'
      ? {
          at: new Float64Array(0),
          seconds: new Float64Array(0),
          level: new Uint8Array(0),
          height: new Float32Array(0),
          lobe: new Float64Array(0),
        }
      : edgesOf({ ...channel, values }, raw, capture.time);
  const { edges, echoes } = raw.kind === 'vr' ? withoutEchoes(crossings) : { edges: crossings, echoes: 0 };
  const lobes = lobesOf(edges);
  const shape = raw.kind === 'vr' ? { ...raw, noise: hissOf(raw.noise, lobes.period, lobes.height) } : raw;
  const levels = channel.levelsOnly === true || isLogic(channel, raw);
  // A capacitor keeps the steady part to itself.
  const coupled = mends.some(({ kind }) => kind === 'coupled');
  const track = {
    channel,
    index,
    shape,
    edges,
    quality: qualityOf(shape, edges),
    step: capture.resolution ?? sampleSeconds(edges),
    showsVolts: capture.format !== 'wav' && !levels && !coupled,
    levels,
    mends,
    echoes,
    loud: loudEdges(values, shape, edges),
  };
  // With few samples a lobe nothing can be said of what lies between two of them.
  if (shape.kind === 'vr' && lobes.period >= LOBE_SAMPLES && lobesApart(edges, values, shape.low))
    return { ...track, edges: lobesAsEdges(edges), reads: 'lobes' };
  return { ...track, reads: shape.kind === 'square' ? 'levels' : 'crossings' };
};

export interface ChosenTracks {
  readonly crank: Track;
  readonly cam: Track | null;
  /** The channels' names and their pulses disagree: taken the other way round. */
  readonly crossed: boolean;
  readonly notes: readonly string[];
}

const crankName = /crank|\bckp\b|\bne\b|primary|trig(?:ger)?\s*1\b|kurbel|flywheel|distrib/i;
const camName = /\bcam|cmp\b|phase|sync|secondary|trig(?:ger)?\s*2\b|nocken|home|index/i;
const pulses = (track: Track) => track.edges.level.reduce((sum, level) => sum + (level === 0 ? 1 : 0), 0);
const quoted = (track: Track) => `'${track.channel.name}'`;

/** What was taken off a channel, in a sentence. */
const sayMend = (track: Track, mend: Mend): string =>
  mend.kind === 'coupled'
    ? `${quoted(track)} is a square signal behind a capacitor (corner about ${mend.hertz.toFixed(mend.hertz < 10 ? 1 : 0)} Hz): its levels are put back for reading, its volts are not known. Couple the input to DC where you can.`
    : `${quoted(track)} carries hum of the mains (${mend.hertz.toFixed(1)} Hz, ±${mend.height.toPrecision(2)} ${track.channel.unit || 'of its units'}): it is taken off for reading. Run the recorder from its battery, its ground at the sensor's.`;

/** Finds a channel by its name, its number from 1, or part of its name. */
export function channelNamed(capture: Capture, words: string): Result<number> {
  const plain = words.trim().toLowerCase();
  const names = capture.channels.map(({ name }) => name.toLowerCase());
  const exact = names.indexOf(plain);
  if (exact >= 0) return ok(exact);
  const number = /^(?:ch(?:annel)?\s*)?(\d+)$/.exec(plain);
  if (number && Number(number[1]) >= 1 && Number(number[1]) <= names.length) return ok(Number(number[1]) - 1);
  const part = names.findIndex((name) => name.includes(plain));
  if (part >= 0 && plain !== '') return ok(part);
  return fail(
    'no-channel',
    'channel',
    `The capture has no channel '${words}'; it has ${capture.channels.map(({ name }) => `'${name}'`).join(', ')}.`,
  );
}

/** Picks crank and cam: by the person's word, by the channels' names, else by which has more pulses. */
export function chooseTracks(
  capture: Capture,
  wanted: { readonly crank?: string; readonly cam?: string | null } = {},
): Result<ChosenTracks> {
  const named: { crank: number | null; cam: number | null } = { crank: null, cam: null };
  for (const role of ['crank', 'cam'] as const) {
    const words = wanted[role];
    if (words === undefined || words === null) continue;
    const found = channelNamed(capture, words);
    if (!found.ok) return found;
    named[role] = found.value;
  }
  const tracks = capture.channels.map((_, index) => trackOf(capture, index));
  const live = tracks.filter((track) => pulses(track) >= 2);
  const notes: string[] = [];
  const still = tracks.filter(({ shape }) => shape.kind === 'constant');
  if (live.length === 0) {
    const first = tracks[0]!;
    if (still.length === tracks.length)
      return fail(
        'constant',
        first.channel.name,
        `${tracks.length === 1 ? `Channel ${quoted(first)} stands` : 'All channels stand'} ${Number.isFinite(first.shape.least) ? `still at ${first.shape.least.toFixed(2)} V` : 'without a figure'}: no signal reached the recorder.`,
      );
    const most = Math.max(...tracks.map(pulses));
    return fail(
      'too-few-edges',
      first.channel.name,
      `${most === 0 ? 'No pulse was' : `Only ${most} ${most === 1 ? 'pulse was' : 'pulses were'}`} found in the capture: a match needs at least two turns of the cam.`,
    );
  }
  for (const track of still) notes.push(`${quoted(track)} stands still and is left out.`);
  for (const track of tracks) notes.push(...track.mends.map((mend) => sayMend(track, mend)));
  for (const track of tracks)
    if (track.echoes > 0)
      notes.push(
        `${quoted(track)} swings back over zero in its gaps, low and after as many pulses (${track.echoes} times): these crossings are left out. An ECU that arms low would count them.`,
      );
  for (const { channel, quality } of tracks)
    if (quality.clipped) notes.push(`'${channel.name}' is clipped: its timing holds, its height does not.`);
  const byName = (pattern: RegExp, other: RegExp) =>
    live.filter(({ channel }) => pattern.test(channel.name) && !other.test(channel.name));
  const busiest = [...live].sort((one, other) => pulses(other) - pulses(one));
  let crank = named.crank === null ? null : tracks[named.crank];
  let cam = named.cam === null ? null : tracks[named.cam];
  if (!crank) {
    const free = busiest.filter((track) => track !== cam);
    crank =
      byName(crankName, camName).find((track) => track !== cam) ??
      free.find((track) => !camName.test(track.channel.name)) ??
      free[0] ??
      null;
  }
  if (!crank) return fail('too-few-edges', '', 'No channel is left for the crank.');
  if (!cam && wanted.cam !== null) {
    const rest = busiest.filter((track) => track !== crank);
    cam =
      byName(camName, crankName).find((track) => track !== crank) ??
      (capture.channels.length <= 4 || rest.length === 1 ? (rest[0] ?? null) : null);
    cam ??= rest[0] ?? null;
  }
  // Names are believed only while the pulses agree with them: a cam never gives clearly more than its crank.
  const crossed = Boolean(cam) && named.crank === null && named.cam === null && pulses(cam!) > 1.6 * pulses(crank);
  if (cam && crossed) {
    notes.push(`${quoted(cam)} gives more pulses than ${quoted(crank)}: the two are taken as crossed.`);
    [crank, cam] = [cam, crank];
  }
  if (live.length > 2)
    notes.push(
      `${live.length} channels move; ${quoted(crank)} is taken as the crank${cam ? ` and ${quoted(cam)} as the cam` : ''}.`,
    );
  if (pulses(crank) < 6)
    return fail(
      'too-few-edges',
      crank.channel.name,
      `Channel ${quoted(crank)} has ${pulses(crank)} pulses: a match needs at least two turns of the cam.`,
    );
  return ok({ crank, cam: cam && pulses(cam) >= 2 ? cam : null, crossed, notes });
}

import { camRound } from './cam-round';
import { judge, look, refine, swungFirst, type Judgement, type Swung } from './judge';
import { sameShape } from './pattern';
import { comesBack } from './regular';
import type { Swing } from './swing';
import type { Row } from './rows';
import type { Track } from './tracks';
import { isEven, prior, spanOf, spelled, trialsFor, type Judged, type Trial } from './trials';
import { missingToothWheel, type Wheel } from '../wheels/wheel';

/** At the first look all are tried: two turns of the finest wheel. */
const FIRST_LOOK = 200;
/** Trials judged over whole turns. */
const NEAREST = 10;
/** Some are judged in any case; the others while they are no further behind at the first look. */
const NEAREST_LEAST = 6;
const BEHIND = 200;
/** As above, where the first of them explains the pulses already: only what looks nearly the same may still matter. */
const ALIKE_LEAST = 3;
const ALIKE_BEHIND = 40;
/** Judged wheels whose shape is looked for among the others. */
const SHAPES = 3;
/** Price of a cam that does not come round with the crank's pattern: never, or after another number of turns. */
const CAM_STRAY = 30;
const CAM_WRONG = 45;
/** And of one that also comes round within: its windows would all be alike, which is rarer than one. */
const CAM_EVENLY = 1.5;
/** Misfit with which a wheel explains the pulses: a share of them, and at most; few pulses hide much. */
const EXPLAINED_SHARE = 0.05;
const EXPLAINED = 20;
/** And the play of its teeth, and how the speed may change from one to the next. */
const EXPLAINED_PLAY = 0.02;
const EXPLAINED_CHANGE = 0.05;
/** Above one that explains the pulses, at which another may still win. */
const RIVAL = 25;
/** Above the best without its swing, at which one may still win with it: for each pulse, for a swing says something of each. */
const WITHIN_REACH = 1;
const REACH_LEAST = 200;
/** Degrees of a tooth taken for even teeth whose number is not known: coarse and fine, so that a swing has its scale among them. */
const EVEN_COARSE = [30, 45, 60, 90, 120, 180];
const EVEN_FINE = [15, 10, 6, 2];
/** Coarse scales that are followed: a swing tells them apart only in the end; with few pulses all are. */
const EVEN_FOLLOWED = 2;
const EVEN_ALL = 150;
/** Teeth a repeat below which even ones that swing may look like a wheel. */
const IMITATED = 8;
/** Even teeth of a cycle that a cam may tell. */
const EVEN_MOST = 800;

/** What a row of pulses is judged with. */
export interface RowContext {
  readonly library: readonly Wheel[];
  readonly square: boolean;
  readonly cam: Track | null;
  /** Swings the build's engine may have; empty where it is not known. */
  readonly engines: readonly Swing[];
  /** Even places of a cycle as the cam counts them. */
  readonly told: number | null;
  /** How far it is, 0 to 1. */
  readonly onProgress: (done: number) => void;
}

/** Wheels judged against one row of pulses, the cheapest first, and how any other is. */
export interface JudgedRow {
  readonly row: Row;
  readonly near: readonly Judged[];
  /** What the row costs as even teeth, with the swing that suits them best. */
  readonly even: () => number;
  /** One of `near` with its best swing, and any other trial. */
  readonly withSwing: (trial: Judged) => Judged;
  readonly judgeTrial: (trial: Trial) => Judged;
}

export const costOf = (trial: Judged): number => trial.cost + trial.stray + prior(trial);
const byCost = (one: Judged, other: Judged) => costOf(one) - costOf(other);

/** Whether a wheel explains a row: little is left that another could explain better. */
export const explains = (
  { misfit, pace, pattern }: Pick<Judged, 'misfit' | 'pace' | 'pattern'>,
  { from, to }: Pick<Row, 'from' | 'to'>,
): boolean =>
  misfit <= Math.min(EXPLAINED, EXPLAINED_SHARE * (to - from)) &&
  pace.play <= EXPLAINED_PLAY &&
  // Where the speed may change by much from tooth to tooth, a swing may imitate a gap.
  pace.slope * Math.min(...pattern) <= EXPLAINED_CHANGE;

/** All uneven wheels over few pulses, the likeliest first. */
function firstLook(trials: readonly Trial[], { pulses, from, to, clock }: Row, onProgress: RowContext['onProgress']) {
  const lookTo = Math.min(to, from + FIRST_LOOK);
  // One that falls behind the best so far is not followed to the end.
  const limit = new Float64Array(lookTo - from).fill(Number.POSITIVE_INFINITY);
  const seen = trials.map((trial, done) => {
    onProgress((done + 1) / trials.length);
    const { cost, trail } = look(trial.pattern, pulses, from, lookTo, clock, limit);
    for (let i = 0; i < trail.length; i += 1) limit[i] = Math.min(limit[i]!, trail[i]! + BEHIND);
    return { trial, cost: cost + prior(trial) };
  });
  return { limit, looked: seen.sort((one, other) => one.cost - other.cost) };
}

/** What the cam says to a wheel: after how many repeats it comes round, and what it costs when that is not once a cycle. */
function withCam(trial: Trial, judged: Judgement, { pulses, from, to, level }: Row, { cam, told }: RowContext): Judged {
  const round =
    cam && Number.isFinite(judged.cost)
      ? camRound(cam, pulses.subarray(from, to), judged.degrees, spanOf(trial), trial.pattern.length)
      : null;
  const { places, shaft } = trial.wheel;
  const counted = told !== null && places !== null && told === places * (shaft === 'crank' ? 2 : 1);
  // Even teeth are counted by the cam: any number of them is right.
  const right = round !== null && (isEven(trial) || round.rounds === Math.round(720 / spanOf(trial)));
  const stray = !cam || counted ? 0 : round === null ? CAM_STRAY : !right ? CAM_WRONG : round.evenly ? CAM_EVENLY : 0;
  return { ...trial, ...judged, rowCost: judged.cost, level, stray, round: round && round.rounds };
}

/** What a judged wheel was judged as. */
export const asTrial = ({ wheel, pattern, inverted, direction, fromLibrary, misread }: Trial): Trial => ({
  wheel,
  pattern,
  inverted,
  direction,
  fromLibrary,
  misread,
});

/** Pulses that are lost after as many teeth time and again are a gap: such a wheel is not even. */
const losesRegularly = ({ alignment: { events } }: Judged): boolean =>
  comesBack(events.flatMap(({ kind, pulse }) => (kind === 'lost' ? [pulse] : [])));

/** Even teeth: those of the number the cam tells, else all of the library at one cost. */
function judgeEven(
  evens: readonly Trial[],
  judgeOne: (trial: Trial) => Judged,
  { level, from, to }: Row,
  { square, told }: RowContext,
  swungOf: (pattern: readonly number[]) => Swung | null,
): Judged[] {
  const count = to - from;
  const [even] = evens;
  if (!even) return [];
  const ofLibrary = (round: number) => evens.find((trial) => Math.round(720 / spanOf(trial)) === round);
  const madeOf = (round: number): Trial =>
    ofLibrary(round) ?? trialsFor([missingToothWheel(round / 2, 0)], square, level, false)[0]!;
  // A distributor may give an odd number a cycle; any other is one that was miscounted.
  const counts = (round: number | null): round is number =>
    round !== null && round <= EVEN_MOST && (round % 2 === 0 || ofLibrary(round) !== undefined);
  // What was counted holds, also where the path itself slips at several lost pulses in a row.
  if (counts(told)) return [{ ...judgeOne(madeOf(told)), round: told, stray: 0 }];
  // Without a swing one coarse step is as another: which of them has it to scale is seen with one.
  const coarse = EVEN_COARSE.map((step) => [step])
    .map((pattern) => ({ pattern, cost: swungOf(pattern)?.cost ?? Infinity }))
    .sort((one, other) => one.cost - other.cost)
    .slice(0, count <= EVEN_ALL ? EVEN_COARSE.length : EVEN_FOLLOWED);
  const scales = [...coarse.map(({ pattern }) => pattern), ...EVEN_FINE.map((step) => [step])];
  const tried = scales.map((pattern) => judgeOne({ ...even, pattern }));
  const unknown = tried.reduce((one, other) => (other.cost + other.stray < one.cost + one.stray ? other : one));
  if (counts(unknown.round)) return [judgeOne(madeOf(unknown.round))];
  return tried.flatMap((one) => evens.map((trial) => ({ ...one, ...trial, pattern: one.pattern, round: null })));
}

/**
 * Every trial is aligned with the pulses (align.ts); the nearest are judged over whole turns together with compression's
 * swing (judge.ts). Even teeth have one pattern whatever their number, so they are one trial: judged with the number the
 * cam tells, or, where none tells it, for all numbers at once.
 */
export function judgeRow(row: Row, context: RowContext): JudgedRow {
  const { library, square, engines, onProgress } = context;
  const { pulses, from, to, level, clock } = row;
  const own = spelled(pulses, from, to);
  const trials = [
    ...trialsFor(library, square, level, true),
    ...(own && !library.some(({ id }) => id === own.id) ? trialsFor([own], false, level, false) : []),
  ];
  // A wheel that falls out of reach of the best so far is not followed to the end.
  const limit = new Float64Array(to - from).fill(Number.POSITIVE_INFINITY);
  const reach = Math.max(REACH_LEAST, WITHIN_REACH * (to - from));
  // What a swing would take off the cost of a wheel with few teeth, as far as the first look can say.
  const hiding = new Map<readonly number[], number>();
  const swung = new Map<readonly number[], Swung>();
  const hidden = ({ pattern }: Trial) => hiding.get(pattern) ?? 0;
  const hoped = (trial: Judged) => costOf(trial) - hidden(trial);
  const judgeOne = (trial: Trial) => {
    // One that hides a swing is followed to its end however far it falls behind without it.
    const judged = judge(trial.pattern, pulses, from, to, clock, hidden(trial) > 0 ? undefined : limit);
    const { trail } = judged;
    for (let i = 0; i < trail.length; i += 1) limit[i] = Math.min(limit[i]!, trail[i]! + reach);
    return withCam(trial, judged, row, context);
  };
  const refined = (trial: Judged): Judged => {
    const begun = swung.get(trial.pattern)?.swings;
    const finer = refine(trial, trial.pattern, pulses, from, to, clock, engines, begun);
    return isEven(trial) ? { ...trial, ...finer, rowCost: finer.cost } : withCam(trial, finer, row, context);
  };
  const uneven = trials.filter((trial) => !isEven(trial));
  const { looked, limit: seenBy } = firstLook(uneven, row, (done) => onProgress(0.5 * done));
  const lookTo = Math.min(to, from + FIRST_LOOK);
  const near: Judged[] = looked.slice(0, 1).map(({ trial }) => judgeOne(trial));
  const clear = to - from >= FIRST_LOOK && near.length > 0 && explains(near[0]!, row);
  // With few teeth a swing may be all that is wrong: what a wheel comes to with one is what it may still win by.
  const swungOf = (pattern: readonly number[]): Swung | null => {
    if (clear) return null;
    const found = swungFirst(pattern, pulses, from, lookTo, clock, seenBy);
    if (found) swung.set(pattern, found);
    return found;
  };
  const scale = (to - from) / Math.max(1, lookTo - from);
  const first = looked
    .map(({ trial, cost }) => {
      const own = swungOf(trial.pattern);
      // Sought over fewer pulses than the first look: it is taken to go on so.
      const hoping = own ? own.cost * ((lookTo - from) / (own.end - from)) + prior(trial) : Infinity;
      if (hoping < cost) hiding.set(trial.pattern, (cost - hoping) * scale);
      return { trial, cost: Math.min(cost, hoping) };
    })
    .sort((one, other) => one.cost - other.cost);
  for (const [at, { trial, cost }] of first.slice(0, NEAREST).entries()) {
    if (near[0]!.pattern === trial.pattern) {
      if (hidden(trial) > 0) near[0] = judgeOne(trial);
      continue;
    }
    const [atLeast, behind] = clear ? [ALIKE_LEAST, ALIKE_BEHIND] : [NEAREST_LEAST, BEHIND];
    if (at >= atLeast && cost > first[0]!.cost + behind) break;
    onProgress(0.5 + (0.3 * at) / NEAREST);
    near.push(judgeOne(trial));
  }
  // Wheels of the same shape at another scale give the same pulses: none of them may be left out.
  for (const { trial } of first) {
    if (near.some(({ pattern }) => pattern === trial.pattern)) continue;
    if (near.slice(0, SHAPES).some(({ pattern }) => sameShape(pattern, trial.pattern))) near.push(judgeOne(trial));
  }
  near.push(...judgeEven(trials.filter(isEven), judgeOne, row, context, swungOf));
  near.sort(byCost);
  // Where nothing explains the pulses yet, those within reach are judged with the swing they may hide; else only rivals.
  // Even teeth whose number is not known are one pattern: refined once for all.
  const done = new Map<Float64Array, Judged>();
  const swings = new Set<Float64Array>();
  const withSwing = (trial: Judged): Judged => {
    if (swings.has(trial.degrees)) return trial;
    const known = done.get(trial.degrees) ?? refined(trial);
    done.set(trial.degrees, known);
    swings.add(known.degrees);
    return { ...known, ...asTrial(trial) };
  };
  const judgedAll = near
    .map((trial) => ({ trial, swung: trial }))
    .sort((one, other) => hoped(one.trial) - hoped(other.trial));
  let [leader] = near;
  for (const [at, one] of judgedAll.entries()) {
    const { trial } = one;
    onProgress(0.8 + (0.2 * at) / judgedAll.length);
    if (leader && explains(leader, row)) {
      // Even teeth and a swing may be what makes a wheel of few teeth.
      const imitated = isEven(trial) && !isEven(leader) && leader.pattern.length < IMITATED;
      // A crank that hardly swings hides nothing; on one that does, a swing may be worth so much to each pulse.
      const worth = swings.has(leader.degrees) ? Math.max(hidden(trial), WITHIN_REACH * (to - from)) : hidden(trial);
      if (!imitated && costOf(trial) - worth > costOf(leader) + RIVAL) continue;
    }
    one.swung = withSwing(trial);
    if (!leader || byCost(one.swung, leader) < 0) leader = one.swung;
  }
  near.splice(0, near.length, ...judgedAll.map(({ swung: own }) => own));
  near.sort(byCost);
  // Of even teeth at several scales the best is left.
  const evens = near.filter(isEven);
  const bestEven = evens.find((trial) => !losesRegularly(trial));
  const left = near.filter((trial) => !isEven(trial) || trial.degrees === bestEven?.degrees);
  let even: number | null = null;
  return {
    row,
    near: left,
    even: () => (even ??= Math.min(Infinity, ...evens.map((trial) => withSwing(trial).cost))),
    withSwing,
    judgeTrial: (trial) => refined(judgeOne(trial)),
  };
}

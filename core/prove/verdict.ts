import type { Build, Reading } from '../build/schema';
import { isSame, keepMap, keepSet } from '../data/keep-same';
import type { Netlist } from '../netlist/netlist';
import { formatAmps, formatOhms, formatVolts } from '../units/format';
import { failsInPlug, halfTests } from './halves';
import { SECOND_ROW, type ProveTest } from './prove-test';

export type VerdictCode = 'right' | 'open' | 'high' | 'joined' | 'leak' | 'below-leads' | 'wrong-cylinder' | 'no-load';

export interface Verdict {
  readonly code: VerdictCode;
  readonly right: boolean;
  readonly sentence: string;
}

/** Over this a continuity reading is a bad crimp rather than a dirty probe, ohms (common practice). */
export const BAD_CRIMP_OHMS = 12;

/** What answered, in words: `Cylinder 4`, `Rotor 1, trailing,`. */
function answerWords({ chamber, second }: NonNullable<ProveTest['works']>, value: number | null): string {
  const name = chamber === 'rotor' ? 'Rotor' : 'Cylinder';
  if (value === null) return `${name} none`;
  return value > SECOND_ROW ? `${name} ${value - SECOND_ROW}, ${second || 'second'},` : `${name} ${value}`;
}

const verdict = (code: VerdictCode, sentence: string): Verdict => ({ code, right: code === 'right', sentence });

/**
 * Judges a reading. `value` is what the meter shows, leads included, in the test's unit; null is an open line.
 */
export function judge(test: ProveTest, value: number | null, leadOhms: number): Verdict {
  if (test.kind === 'order') {
    const { answers, words } = test.works!;
    const right = value === null ? answers.length === 0 : answers.includes(value);
    if (right) return verdict('right', `Right. ${answerWords(test.works!, value)} answers.`);
    return verdict(
      'wrong-cylinder',
      `${answerWords(test.works!, value)} answered, ${words} ${answers.length > 1 ? 'were' : 'was'} meant: this output's wire is crossed or in the wrong order.`,
    );
  }
  if (test.kind === 'isolation') {
    if (value === null || value >= test.limit) return verdict('right', 'Right. Nothing joins them.');
    if (value <= 50)
      return verdict(
        'joined',
        `Joined: ${formatOhms(value)}. A bridge, a crossed pin or pinched insulation. Part the halves and test again.`,
      );
    return verdict('leak', `A leak of ${formatOhms(value)}: moisture, or a device still plugged in.`);
  }
  if (test.kind === 'load') return judgeLoad(test, value);
  if (value === null) return verdict('open', 'No connection: wrong cavity, a terminal pushed back, or a broken crimp.');
  const ohms = value - leadOhms;
  if (ohms < -0.05)
    return verdict(
      'below-leads',
      `Less than the leads alone (${formatOhms(leadOhms)}): touch the probes together and set the leads again.`,
    );
  if (ohms <= test.limit) return verdict('right', 'Right. This wire is whole.');
  if (ohms <= BAD_CRIMP_OHMS)
    return verdict(
      'high',
      `High: ${formatOhms(ohms)} against ${formatOhms(test.expected)}. Press the probe harder; if it stays, look at the crimps.`,
    );
  return verdict(
    'high',
    `Far too high: ${formatOhms(ohms)}. A bad crimp, or the path goes through a device: unplug it.`,
  );
}

/** A circuit under load: what it may lose at the amperes it carries. */
function judgeLoad(test: ProveTest, value: number | null): Verdict {
  const { amps } = test.load!;
  if (value === null)
    return verdict('open', 'No volts were shown: the probes do not touch, or the meter is not on volts.');
  const volts = Math.abs(value);
  if (volts < (test.expected ?? 0) * LEAST_SHARE)
    return verdict(
      'no-load',
      `Only ${formatVolts(volts)}: so little is lost when nothing flows. Is it running, is the lamp lit?`,
    );
  if (volts <= test.limit)
    return verdict('right', `Right. It carries ${formatAmps(amps)} and loses no more than it should.`);
  return verdict(
    'high',
    `Too much: ${formatVolts(volts)} against ${formatVolts(test.expected ?? 0)}, about ${formatOhms((volts - (test.expected ?? 0)) / amps)} over. Move one probe along the way, joint by joint: where the volts jump sits the bad contact.`,
  );
}
/** Under this share of what is expected nothing flows. */
const LEAST_SHARE = 0.35;

/** Note of a reading that was a meter's tone: 'low', with no figure. Its value stands in for the judgement only. */
export const BEEP = 'beep';

export interface WrongReading {
  readonly test: ProveTest;
  readonly verdict: Verdict;
  /** Wires it speaks of, those left out that another reading proves. */
  readonly wireIds: readonly string[];
}

export interface Progress {
  readonly tests: number;
  readonly right: number;
  readonly wrong: number;
  readonly wires: number;
  readonly proved: ReadonlySet<string>;
  /** Readings that are not right, with the wires they speak of. */
  readonly wrongReadings: readonly WrongReading[];
  /** What the last wrong reading of a wire says, by wire. */
  readonly wrongWires: ReadonlyMap<string, string>;
  /** Readings whose wire or test is no longer in the plan: proof that fell away. */
  readonly fallen: readonly { readonly testId: string; readonly reading: Reading }[];
}

/** What was derived last where nothing was proved or read since; else the new state, with what of it is as it was. */
export function keepProgress(now: Progress, before: Progress | null): Progress {
  if (!before) return now;
  const kept: Progress = {
    ...now,
    proved: keepSet(now.proved, before.proved),
    wrongWires: keepMap(now.wrongWires, before.wrongWires),
    wrongReadings: isSame(now.wrongReadings, before.wrongReadings) ? before.wrongReadings : now.wrongReadings,
    fallen: isSame(now.fallen, before.fallen) ? before.fallen : now.fallen,
  };
  return (Object.keys(kept) as (keyof Progress)[]).every((key) => kept[key] === before[key]) ? before : kept;
}

/** Wires a test speaks of: those it would prove, or those at both probes. */
function wiresOf(net: Netlist, test: ProveTest): string[] {
  if (test.wireIds.length > 0) return [...test.wireIds];
  return [test.hold, test.touch].flatMap((end) => {
    const wires = net.wiresAt.get(end) ?? [];
    // A ground point holds every ground wire: it is not what was found wrong.
    return wires.length === 1 ? [wires[0]!.id] : [];
  });
}

/** Where the proof stands. Readings are looked up by test; a changed end makes a new test, so its proof falls away. */
export function progressOf(build: Build, net: Netlist, tests: readonly ProveTest[]): Progress {
  const proved = new Set<string>();
  const known = new Set(tests.map((test) => test.id));
  let right = 0;
  const failed: { test: ProveTest; verdict: Verdict }[] = [];
  for (const test of tests) {
    const reading = build.prove.readings[test.id];
    if (!reading) continue;
    const verdict = judge(test, reading.value, build.prove.leadOhms);
    if (verdict.right) {
      right += 1;
      for (const id of test.wireIds) proved.add(id);
    } else failed.push({ test, verdict });
  }
  const wrongReadings = failed.map(({ test, verdict }): WrongReading => {
    const wires = wiresOf(net, test);
    const left = test.kind === 'continuity' ? wires.filter((id) => !proved.has(id)) : wires;
    const where = failsInPlug(net, test, proved);
    const said = where === null ? verdict : { ...verdict, sentence: `${verdict.sentence} ${where}` };
    return { test, verdict: said, wireIds: left.length > 0 ? left : wires };
  });
  const unknown = Object.entries(build.prove.readings).filter(([testId]) => !known.has(testId));
  // Halves that are no longer asked for keep what was read of them, though it proves nothing.
  if (unknown.length > 0) for (const { id } of halfTests(build, net, 'kept')) known.add(id);
  return {
    tests: tests.length,
    right,
    wrong: failed.length,
    wires: net.wires.length,
    proved,
    wrongReadings,
    wrongWires: new Map(wrongReadings.flatMap(({ wireIds, verdict }) => wireIds.map((id) => [id, verdict.sentence]))),
    fallen: unknown.flatMap(([testId, reading]) => (known.has(testId) ? [] : [{ testId, reading }])),
  };
}

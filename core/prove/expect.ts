import type { Build } from '../build/schema';
import { readVolts, type Reading } from '../circuit/reading';
import { type Solution, solveCircuit } from '../circuit/solve';
import { BEEP, judge } from './verdict';
import type { ProveTest } from './prove-test';
import { endType, groundEnd } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import type { Run } from '../netlist/run';

/** What a person should read along a run, and what they have read. */
export interface RunExpectation {
  /** Ohms end to end with contacts, when one continuity test spans the run; else null. */
  readonly test: ProveTest | null;
  /** Volts against battery negative at each hop, in the state that was solved. */
  readonly volts: readonly (Reading | null)[];
  readonly measured: {
    readonly ohms: number | null;
    /** Only a tone was heard: there is no figure. */
    readonly beep: boolean;
    readonly right: boolean;
    readonly at: string;
    readonly sentence: string;
  } | null;
}

/** `solution`: the circuit in the state that is read; with the key on, where nothing else is said. */
export function expectRun(
  build: Build,
  net: Netlist,
  tests: readonly ProveTest[],
  run: Run,
  solution: Solution = solveCircuit(build, net, 'key-on'),
): RunExpectation {
  const ends = [run.hops[0]!.end, run.hops[run.hops.length - 1]!.end];
  const spans = (test: ProveTest) =>
    test.kind === 'continuity' && ends.includes(test.hold) && ends.includes(test.touch);
  const test =
    tests.find(spans) ??
    tests.find((one) => one.kind === 'continuity' && run.wires.length > 0 && one.wireIds.includes(run.wires[0]!.id)) ??
    null;
  const reading = test ? build.prove.readings[test.id] : undefined;
  const verdict = test && reading ? judge(test, reading.value, build.prove.leadOhms) : null;
  return {
    test,
    volts: run.hops.map((hop) =>
      endType(hop.end) === 'splice' ? null : readVolts(solution, hop.end, groundEnd('battery')),
    ),
    measured:
      verdict && reading
        ? {
            ohms: reading.value === null ? null : Math.max(0, reading.value - build.prove.leadOhms),
            beep: reading.note === BEEP,
            right: verdict.right,
            at: reading.at,
            sentence: verdict.sentence,
          }
        : null,
  };
}

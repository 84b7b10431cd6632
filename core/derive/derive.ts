import type { Build } from '../build/schema';
import type { DeviceKind } from '../devices/kind';
import { gatesOf, type Gate } from '../fireup/gates';
import { netlist, type Netlist } from '../netlist/netlist';
import { proveTests, type ProveTest } from '../prove/tests';
import { progressOf, type Progress } from '../prove/verdict';
import { countFindings, findingsOf, type FindingCounts } from '../rules';
import type { Finding } from '../rules/rule';

/** Everything the sheets show that follows from the build alone. */
export interface Derived {
  readonly net: Netlist;
  readonly findings: readonly Finding[];
  readonly counts: FindingCounts;
  readonly tests: readonly ProveTest[];
  readonly progress: Progress;
}

const known = new WeakMap<Build, Derived>();

/** Kinds whose calibrations may explain a reading; those of the build itself always do. */
let library: readonly DeviceKind[] = [];
/** Set once, before the first build is derived: findings then speak of parts that are not in the build. */
export function explainWith(kinds: readonly DeviceKind[]): void {
  library = kinds;
}

/** Derives once a build value; a build never changes in place. */
export function derive(build: Build): Derived {
  const found = known.get(build);
  if (found) return found;
  const net = netlist(build);
  const findings = findingsOf(build, net, library);
  const tests = proveTests(build, net);
  const derived = { net, findings, counts: countFindings(findings), tests, progress: progressOf(build, net, tests) };
  known.set(build, derived);
  return derived;
}

const gates = new WeakMap<Build, readonly Gate[]>();

/** The gates of a build: they solve the circuit, so they are derived only where they are shown. */
export function deriveGates(build: Build): readonly Gate[] {
  const found = gates.get(build);
  if (found) return found;
  const { net, progress, findings } = derive(build);
  const made = gatesOf(build, net, progress, findings);
  gates.set(build, made);
  return made;
}

import type { Build } from '../build/schema';
import type { DeviceKind } from '../devices/kind';
import { netlist, type Netlist } from '../netlist/netlist';
import { proveTests } from '../prove/tests';
import { progressOf, type Progress } from '../prove/verdict';
import { isBinding } from '../build/binding';
import { besideOf, type Beside } from './beside';
import { bodyRules } from './body';
import { busRules } from './bus';
import { calibrationRules } from './calibration';
import { coilRules } from './coils';
import { completeRules } from './complete';
import { feedRules } from './feeds';
import { relayRules } from './relays';
import { loomRules } from './loom';
import { orderRules } from './order';
import { pinRules } from './pins';
import { planRules } from './plan';
import { powerRules } from './power';
import { runRule, type Finding, type Rule, type RuleContext, type Severity } from './rule';
import { runRules } from './runs';
import { sensorRules } from './sensors';
import { speedRules } from './speed';
import { supplyRules } from './supply';
import { triggerRules } from './trigger';

/** Every design rule, family by family. */
export const rules: readonly Rule[] = [
  ...planRules,
  ...completeRules,
  ...pinRules,
  ...orderRules,
  ...coilRules,
  ...triggerRules,
  ...sensorRules,
  ...calibrationRules,
  ...feedRules,
  ...runRules,
  ...relayRules,
  ...powerRules,
  ...supplyRules,
  ...loomRules,
  ...busRules,
  ...bodyRules,
  ...speedRules,
];

const weight: Record<Severity, number> = { stop: 0, fix: 1, note: 2 };

/**
 * All findings of a build, stops first, in rule order within a severity, those set aside last. `library`: kinds beside the build's own whose
 * calibrations may explain a reading. `beside`: what a solver says, worked out here unless it is given; null: it is not known yet.
 */
export function findingsOf(
  build: Build,
  net: Netlist = netlist(build),
  library: readonly DeviceKind[] = [],
  beside: Beside | null = besideOf(build, net.needs),
): Finding[] {
  let progress: Progress | null = null;
  const context: RuleContext = {
    build,
    net,
    devices: net.devices,
    library: [...Object.values(build.kinds), ...library],
    proof: () => (progress ??= progressOf(build, net, proveTests(build, net))),
    beside,
  };
  return inOrder(
    build.aside,
    rules.flatMap((rule) => runRule(rule, context)),
  );
}

/** Findings in the order they are shown, each judged by what was set aside. */
export const inOrder = (aside: Build['aside'], findings: readonly Finding[]): Finding[] =>
  findings
    .map((finding) => judged(aside, finding))
    .sort((a, b) => Number(a.aside !== null) - Number(b.aside !== null) || weight[a.severity] - weight[b.severity]);

/** A finding set aside stays so while it reads the same; other figures are another finding. */
function judged(set: Build['aside'], finding: Finding): Finding {
  const aside = Object.hasOwn(set, finding.id) ? set[finding.id] : null;
  if (!aside || isBinding(finding.rule)) return finding;
  return aside.detail === finding.detail ? { ...finding, aside } : { ...finding, before: aside };
}

/** Findings that stand, by severity, and those set aside. */
export interface FindingCounts {
  readonly stop: number;
  readonly fix: number;
  readonly note: number;
  readonly aside: number;
}
export function countFindings(findings: readonly Finding[]): FindingCounts {
  const standing = (severity: Severity) =>
    findings.filter((one) => one.aside === null && one.severity === severity).length;
  return {
    stop: standing('stop'),
    fix: standing('fix'),
    note: standing('note'),
    aside: findings.filter((one) => one.aside !== null).length,
  };
}

import type { Build } from '../build/schema';
import type { DeviceKind } from '../devices/kind';
import { netlist, type Netlist } from '../netlist/netlist';
import { bodyRules } from './body';
import { busRules } from './bus';
import { calibrationRules } from './calibration';
import { loomRules } from './loom';
import { orderRules } from './order';
import { pinRules } from './pins';
import { planRules } from './plan';
import { powerRules } from './power';
import { runRule, type Finding, type Rule, type Severity } from './rule';
import { sensorRules } from './sensors';
import { triggerRules } from './trigger';

/** Every design rule, family by family. */
export const rules: readonly Rule[] = [
  ...planRules,
  ...pinRules,
  ...orderRules,
  ...triggerRules,
  ...sensorRules,
  ...calibrationRules,
  ...powerRules,
  ...loomRules,
  ...busRules,
  ...bodyRules,
];

const weight: Record<Severity, number> = { stop: 0, fix: 1, note: 2 };

/**
 * All findings of a build, stops first, in rule order within a severity. `library`: kinds beside the build's own whose
 * calibrations may explain a reading.
 */
export function findingsOf(
  build: Build,
  net: Netlist = netlist(build),
  library: readonly DeviceKind[] = [],
): Finding[] {
  const context = { build, net, devices: net.devices, library: [...Object.values(build.kinds), ...library] };
  return rules.flatMap((rule) => runRule(rule, context)).sort((a, b) => weight[a.severity] - weight[b.severity]);
}

export interface FindingCounts {
  readonly stop: number;
  readonly fix: number;
  readonly note: number;
}
export const countFindings = (findings: readonly Finding[]): FindingCounts => ({
  stop: findings.filter((one) => one.severity === 'stop').length,
  fix: findings.filter((one) => one.severity === 'fix').length,
  note: findings.filter((one) => one.severity === 'note').length,
});

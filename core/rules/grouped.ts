import type { Finding, Severity } from './rule';

/** Findings of one rule that say the same of several places. */
export interface FindingGroup {
  readonly id: string;
  readonly rule: string;
  readonly severity: Severity;
  readonly title: string;
  /** At least one, in the order they came. */
  readonly findings: readonly Finding[];
}

/** One group for each rule, title and severity, in the order of their first findings. */
export function groupFindings(findings: readonly Finding[]): FindingGroup[] {
  const groups = new Map<string, FindingGroup & { findings: Finding[] }>();
  for (const finding of findings) {
    const { rule, severity, title } = finding;
    const id = JSON.stringify([rule, severity, title]);
    const group = groups.get(id);
    if (group) group.findings.push(finding);
    else groups.set(id, { id, rule, severity, title, findings: [finding] });
  }
  return [...groups.values()];
}

const TIMES = ['', 'once', 'twice', 'three times', 'four times', 'five times', 'six times', 'seven times'];
/** How often something was found, in words. */
export const timesWords = (count: number): string => TIMES[count] ?? `${count} times`;

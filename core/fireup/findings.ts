import type { Netlist } from '../netlist/netlist';
import type { Progress } from '../prove/verdict';
import type { Finding } from '../rules/rule';
import { inSentence, listWords, plural } from '../units/format';

/** Findings of a severity that nobody has set aside. */
export const standingOf = (findings: readonly Finding[], severity: Finding['severity']): Finding[] =>
  findings.filter((finding) => finding.severity === severity && finding.aside === null);
/** Wrong readings of sheet 6 that nobody has set aside. */
export const wrongOf = (findings: readonly Finding[]): number =>
  findings.filter((finding) => finding.rule === 'PL-12' && finding.aside === null).length;
/** The first few, by rule and title. */
export const namesOf = (findings: readonly Finding[]): string =>
  `${listWords(findings.slice(0, 3).map(({ rule, title }) => `${rule} ${inSentence(title)}`))}${findings.length > 3 ? ` and ${findings.length - 3} more` : ''}`;

/** Rules that concern a later gate than their family's. */
const gateOfRule: Readonly<Record<string, string>> = {
  'BB-1': 'key',
  'BB-2': 'key',
  'BB-3': 'cranking',
  'BB-4': 'cranking',
  'BB-5': 'key',
  'BB-6': 'key',
  'BB-9': 'first-fire',
  'BB-15': 'first-fire',
  'OE-8': 'first-fire',
  'OE-10': 'first-fire',
  'PW-10': 'first-fire',
  'PW-11': 'first-fire',
};
const gateOfFamily: Readonly<Record<string, string>> = { PW: 'battery', SE: 'sensors', OE: 'outputs', TR: 'cranking' };
/** The gate that a finding concerns: where its figure is first relied on. */
export const gateOfFinding = ({ rule }: Pick<Finding, 'rule'>): string =>
  gateOfRule[rule] ?? gateOfFamily[rule.slice(0, 2)] ?? 'bench';

/** What shuts every gate, in words; none when nothing does. No circuit is solved for it. */
export function shutBy(net: Netlist, progress: Progress, findings: readonly Finding[]): string[] {
  const standing: string[] = [];
  const stops = standingOf(findings, 'stop').length;
  const wrong = wrongOf(findings);
  if (stops > 0) standing.push(`${plural(stops, 'finding says', 'findings say')} stop`);
  if (net.wires.length === 0) standing.push('nothing is planned yet');
  const unproved = progress.wires - progress.proved.size;
  if (unproved > 0) standing.push(`${plural(unproved, 'wire is', 'wires are')} not proved`);
  if (wrong > 0) standing.push(`${plural(wrong, 'reading is', 'readings are')} wrong`);
  return standing;
}

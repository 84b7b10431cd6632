import type { Aside, Build } from '../build/schema';
import type { EditCall } from '../edits';
import type { DeviceKind } from '../devices/kind';
import type { Device } from '../build/schema';
import type { Selection } from '../netlist/run';
import type { Netlist } from '../netlist/netlist';
import type { Beside } from './beside';
import type { Progress } from '../prove/verdict';

export type Severity = 'stop' | 'fix' | 'note';
export type Family = 'Order' | 'Trigger' | 'Sensors' | 'Power' | 'Loom' | 'Bus and body' | 'Plan';

/** The nine sheets, in order; a finding belongs to one. */
export const sheetIds = ['survey', 'allot', 'trigger', 'feeds', 'loom', 'prove', 'fire-up', 'trace', 'book'] as const;
export type SheetId = (typeof sheetIds)[number];

export interface Remedy {
  readonly label: string;
  readonly calls: readonly EditCall[];
}

/** What a rule found. `id` is stable for the same place, so that it can be followed over time. */
export interface Finding {
  readonly id: string;
  readonly rule: string;
  readonly severity: Severity;
  readonly title: string;
  /** One sentence of why, with the figures. */
  readonly detail: string;
  readonly source: string;
  readonly sheet: SheetId;
  readonly where: Selection | null;
  readonly remedy: Remedy | null;
  /** Who has set it aside as it is now, and why; null while it stands. */
  readonly aside: Aside | null;
  /** Set aside once, when it read otherwise: it stands again. */
  readonly before: Aside | null;
  /** More is being worked out beside: the figure or the remedy comes. */
  readonly waits?: true;
}

export interface RuleContext {
  readonly build: Build;
  readonly net: Netlist;
  readonly devices: readonly { readonly device: Device; readonly kind: DeviceKind }[];
  /** Kinds whose calibrations may explain a reading: the catalog's, the person's own and the build's. */
  readonly library: readonly DeviceKind[];
  /** Where the proof of the wires stands, worked out when a rule first asks. */
  readonly proof: () => Progress;
  /** What takes a solver; null until it is worked out for this build. */
  readonly beside: Beside | null;
}

/** What a check returns for each place; the rule adds its own name and source. */
export interface Hit {
  /** Names the place within the rule; '' when there can be only one. */
  readonly at: string;
  readonly detail: string;
  readonly title?: string;
  readonly severity?: Severity;
  readonly where?: Selection;
  readonly remedy?: Remedy;
  readonly waits?: boolean;
}

export interface Rule {
  readonly id: string;
  readonly family: Family;
  readonly severity: Severity;
  readonly title: string;
  readonly source: string;
  readonly sheet: SheetId;
  readonly check: (context: RuleContext) => Hit[];
}

/** A check that broke: what it would have said is not known, and that is said in its place. Every other check stands. */
const brokenCheck = (rule: Rule, error: unknown): Finding => ({
  id: `${rule.id}:broken`,
  rule: rule.id,
  severity: 'fix',
  title: 'A check could not be made',
  detail: `"${rule.title}" stopped at something it did not expect: ${error instanceof Error ? error.message : String(error)}. What it would have found is not known; look at it by hand.`,
  source: 'a fault of Gonyx, not of the build',
  sheet: rule.sheet,
  where: null,
  remedy: null,
  aside: null,
  before: null,
});

/** What a rule finds in a build. A rule that throws costs one finding, which tells so. */
export function runRule(rule: Rule, context: RuleContext): Finding[] {
  let hits: Hit[];
  try {
    hits = rule.check(context);
  } catch (error) {
    return [brokenCheck(rule, error)];
  }
  return hits.map((hit) => ({
    id: hit.at ? `${rule.id}:${hit.at}` : rule.id,
    rule: rule.id,
    severity: hit.severity ?? rule.severity,
    title: hit.title ?? rule.title,
    detail: hit.detail,
    source: rule.source,
    sheet: rule.sheet,
    where: hit.where ?? null,
    remedy: hit.remedy ?? null,
    aside: null,
    before: null,
    ...(hit.waits ? { waits: true } : {}),
  }));
}

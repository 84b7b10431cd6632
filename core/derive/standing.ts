import type { Finding, SheetId } from '../rules/rule';
import { sheetIds } from '../rules/rule';
import { offsetConfirmed } from '../prove/evidence';
import { plural } from '../units/format';
import type { Derived } from './derive';

/** Where a build stands, for whoever comes back to it. Plain data: it is kept beside the build. */
export interface Standing {
  /** How far each sheet is, 0 to 1, in the order of the sheets. */
  readonly sheets: readonly number[];
  /** The next thing to do, one sentence, and the sheet it is done on. */
  readonly next: string;
  readonly nextSheet: SheetId;
  readonly stops: number;
  readonly fixes: number;
}

type Step = readonly [SheetId, string];

const standing = (findings: readonly Finding[], severity: Finding['severity']) =>
  findings.filter((one) => one.severity === severity && one.aside === null);

/** The first thing that is left to do, in the order in which each makes the next one safe. */
export function nextStep({ build, net, findings, progress, gates }: Derived): Step {
  const [stop] = standing(findings, 'stop');
  const open = net.needs.filter((need) => build.assignments[need.id] === undefined).length;
  const ready = net.needs.length - open;
  const [fix] = standing(findings, 'fix');
  const left = progress.wires - progress.proved.size;
  const opened = build.cases.filter((one) => !one.closed).length;
  if (build.devices.length === 0) return ['survey', 'Put what is on the engine on the list.'];
  if (open > 0 && ready === 0) return ['allot', `Allot ${plural(open, 'need')} to pins.`];
  if (stop) return [stop.sheet, `Mend what stops it: ${stop.title}.`];
  if (open > 0) return ['allot', `Place ${plural(open, 'need')} that ${open === 1 ? 'is' : 'are'} without a pin.`];
  if (build.trigger.crankWheel === null) return ['trigger', 'Choose the wheel on the crank.'];
  if (opened > 0) return ['trace', `Go on with ${plural(opened, 'open case')}.`];
  if (progress.wrong > 0)
    return ['prove', `Mend ${plural(progress.wrong, 'reading')} that ${progress.wrong === 1 ? 'is' : 'are'} wrong.`];
  if (fix) return [fix.sheet, `Look at ${fix.rule}: ${fix.title}.`];
  if (left > 0) return ['prove', `Prove ${plural(left, 'wire')}${progress.proved.size > 0 ? ' more' : ''}.`];
  const gate = gates.find(({ status }) => status !== 'passed');
  if (gate) return ['fire-up', `Pass the next gate: ${gate.title}.`];
  if (!offsetConfirmed(build)) return ['trigger', 'Confirm the offset by the light.'];
  if (build.revisions.length === 0) return ['book', 'Save the first revision.'];
  return ['book', 'It runs, and it is on record.'];
}

export function standingOf(derived: Derived): Standing {
  const [nextSheet, next] = nextStep(derived);
  return {
    sheets: sheetIds.map((sheet) => derived.fill[sheet]),
    next,
    nextSheet,
    stops: derived.counts.stop,
    fixes: derived.counts.fix,
  };
}

import { shutBy } from '../fireup/findings';
import type { Gate } from '../fireup/gates';
import type { Netlist } from '../netlist/netlist';
import { offsetConfirmed } from '../prove/evidence';
import type { Progress } from '../prove/verdict';
import type { Finding, SheetId } from '../rules/rule';
import { fitTrigger } from '../trigger/fit';
import { planOf, type Build, type Plan } from '../build/schema';

/** Edits share what they do not touch: most of a plan is told to be the same at a glance. */
const samePlan = (one: Plan, other: Plan): boolean =>
  (Object.keys({ ...one, ...other }) as (keyof Plan)[]).every(
    (key) => one[key] === other[key] || JSON.stringify(one[key]) === JSON.stringify(other[key]),
  );

/** How far each sheet is, 0 to 1: what the spine shows. */
export function sheetProgress(
  build: Build,
  net: Netlist,
  findings: readonly Finding[],
  progress: Progress,
  gates: () => readonly Gate[],
): Record<SheetId, number> {
  const share = (part: number, whole: number) => (whole === 0 ? 0 : part / whole);
  const clean = (sheet: SheetId) =>
    findings.some((one) => one.sheet === sheet && one.severity !== 'note' && !one.aside) ? 0 : 1;
  const placed = net.needs.filter((need) => build.assignments[need.id] !== undefined).length;
  const fit = fitTrigger(build.ecu, build.engine, build.trigger.crankWheel, build.trigger.camWheel);
  // The gates rest on a circuit that is solved; while something shuts them all it need not be.
  const passed = () => {
    if (shutBy(net, progress, findings).length > 0) return 0;
    const ladder = gates();
    return share(ladder.filter((gate) => gate.status === 'passed').length, ladder.length);
  };
  const last = build.revisions[build.revisions.length - 1];
  const current = last !== undefined && samePlan(last.plan, planOf(build));
  return {
    survey: build.devices.length === 0 ? 0 : 0.6 + 0.4 * clean('survey'),
    allot: share(placed, net.needs.length),
    trigger: (build.trigger.crankWheel ? 0.35 : 0) + (fit.decodes ? 0.3 : 0) + (offsetConfirmed(build) ? 0.35 : 0),
    feeds: net.circuits.length === 0 ? 0 : 0.6 + 0.4 * clean('feeds'),
    loom: net.wires.length === 0 ? 0 : 0.6 + 0.4 * clean('loom'),
    prove: share(progress.proved.size, progress.wires),
    'fire-up': passed(),
    trace: share(build.cases.filter((one) => one.closed).length, build.cases.length),
    book: last ? (current ? 1 : 0.5) : 0,
  };
}

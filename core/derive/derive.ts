import { isSame, keepMap, sameAsBefore } from '../data/keep-same';
import type { Build } from '../build/schema';
import { compileAnew, compiled } from '../circuit/compile';
import type { CircuitIR } from '../circuit/ir';
import { scenarioOf } from '../circuit/scenario';
import { solveIn, type Solution } from '../circuit/solve';
import type { DeviceKind } from '../devices/kind';
import { gatesOf, type Gate } from '../fireup/gates';
import { needsOf, type Need } from '../netlist/needs';
import { knownDevices, netlist, type Netlist } from '../netlist/netlist';
import { feedPlan, type FeedPlan } from '../power/feed-plan';
import { flowsOf, type Flows } from '../power/flow';
import { countedOf, powerPlan, type Counted, type PowerPlan, type PowerSteps } from '../netlist/power-plan';
import type { Census } from '../power/census';
import type { Circuit } from '../power/plan';
import { fusesOf, sizesOf, type Fuses, type Sizes } from '../power/sizes';
import { proveTests } from '../prove/tests';
import type { ProveTest } from '../prove/prove-test';
import { keepProgress, progressOf, type Progress } from '../prove/verdict';
import { countFindings, inOrder, rules, type FindingCounts } from '../rules';
import type { Beside } from '../rules/beside';
import { runRule, type Finding, type SheetId } from '../rules/rule';
import { sheetProgress } from './sheets';
import { Stage } from './stage';

/** Everything the sheets show that follows from the build alone. Each part is worked out when it is first asked for. */
export interface Derived {
  readonly build: Build;
  readonly net: Netlist;
  readonly findings: readonly Finding[];
  readonly counts: FindingCounts;
  readonly tests: readonly ProveTest[];
  readonly progress: Progress;
  /** The circuit with the key on. */
  readonly keyOn: Solution;
  readonly gates: readonly Gate[];
  /** How far each sheet is, 0 to 1. */
  readonly fill: Readonly<Record<SheetId, number>>;
  /** Some finding waits for what is worked out beside. */
  readonly waits: boolean;
}

/** Kinds whose calibrations may explain a reading; those of the build itself always do. */
let library: readonly DeviceKind[] = [];
/** Set once, before the first build is derived: findings then speak of parts that are not in the build. */
export function explainWith(kinds: readonly DeviceKind[]): void {
  library = kinds;
}

/** What a stage reads besides the build and its wires. */
interface Told {
  readonly library: readonly DeviceKind[];
  readonly beside: Beside | null;
  readonly progress: Progress;
}
const idOf = ({ id }: { readonly id: string }): string => id;
type Plan = Readonly<Record<'build', Build> & Record<'net', Netlist>>;

/** A stage for a plan without a fuse of the ECU's own, and one for a plan with it. */
const both = <T>(make: (ecuFuse: boolean) => T) => ({ without: make(false), own: make(true) });
const pick = <T>(stages: { readonly without: T; readonly own: T }, ecuFuse: boolean): T =>
  ecuFuse ? stages.own : stages.without;

/** The steps of the derivation of one build, each remembering its last answer (stage.ts). */
class Graph {
  /** What was derived last: an item that says the same is the very same again, and nothing is drawn anew for it. */
  private lastNet: Netlist | null = null;
  private lastFill: Record<SheetId, number> | null = null;
  private lastProgress: Progress | null = null;
  private readonly needsAsBefore = sameAsBefore<Need>(idOf);
  private readonly circuitsAsBefore = sameAsBefore<Circuit>(idOf);
  private readonly testsAsBefore = sameAsBefore<ProveTest>(idOf);
  private readonly findingsAsBefore = sameAsBefore<Finding>(idOf);
  private readonly needs = new Stage<{ build: Build }, readonly Need[]>(({ build }) =>
    this.needsAsBefore(needsOf(build)),
  );
  private readonly feeds = both(
    (ecuFuse) => new Stage<{ build: Build }, FeedPlan>(({ build }) => feedPlan(build, ecuFuse)),
  );
  private readonly currents = both(
    () => new Stage<{ build: Build; made: { plan: FeedPlan } }, Flows>(({ build, made }) => flowsOf(build, made.plan)),
  );
  private readonly fuses = both(
    () =>
      new Stage<{ build: Build; made: { plan: FeedPlan; flows: Flows } }, Fuses>(({ build, made }) =>
        fusesOf(build, made.plan, made.flows),
      ),
  );
  /** Loaded wires of each piece: an edit that loads no other wire leaves every size as it is. */
  private lastCensus: Census | undefined;
  private readonly counted = both(
    () =>
      new Stage<
        { build: Build; made: { needs: readonly Need[]; plan: FeedPlan; flows: Flows; fuses: Fuses } },
        Counted
      >(({ build, made }) => {
        const counted = countedOf(build, made.needs, made.plan, made.flows, made.fuses);
        this.lastCensus = keepMap(counted.census, this.lastCensus);
        return { ...counted, census: this.lastCensus };
      }),
  );
  private readonly sizes = both(
    () =>
      new Stage<{ build: Build; made: { plan: FeedPlan; flows: Flows; fuses: Fuses; census: Census } }, Sizes>(
        ({ build, made }) => sizesOf(build, made.plan, made.flows, made.fuses, made.census),
      ),
  );
  private readonly steps: PowerSteps = {
    plan: (build, ecuFuse) => pick(this.feeds, ecuFuse).of({ build }),
    flows: (build, plan, ecuFuse) => pick(this.currents, ecuFuse).of({ build, made: { plan } }),
    fuses: (build, plan, flows, ecuFuse) => pick(this.fuses, ecuFuse).of({ build, made: { plan, flows } }),
    drafts: (build, needs, plan, flows, fuses, ecuFuse) =>
      pick(this.counted, ecuFuse).of({ build, made: { needs, plan, flows, fuses } }),
    sizes: (build, plan, flows, fuses, census, ecuFuse) =>
      pick(this.sizes, ecuFuse).of({ build, made: { plan, flows, fuses, census } }),
  };
  private readonly power = new Stage<{ build: Build; made: { needs: readonly Need[] } }, PowerPlan>(
    ({ build, made }) => {
      const plan = powerPlan(build, made.needs, this.steps);
      return { ...plan, circuits: this.circuitsAsBefore(plan.circuits) };
    },
  );
  private readonly devices = new Stage<{ build: Build }, Netlist['devices']>(({ build }) => knownDevices(build));
  private readonly nets = new Stage<
    { build: Build; made: { needs: readonly Need[]; power: PowerPlan; devices: Netlist['devices'] } },
    Netlist
  >(({ build, made }) => (this.lastNet = netlist(build, made.needs, made.power, made.devices, this.lastNet)));
  private readonly tested = new Stage<Plan, readonly ProveTest[]>(({ build, net }) =>
    this.testsAsBefore(proveTests(build, net)),
  );
  private readonly proved = new Stage<Plan & { made: { tests: readonly ProveTest[] } }, Progress>(
    ({ build, net, made }) => (this.lastProgress = keepProgress(progressOf(build, net, made.tests), this.lastProgress)),
  );
  private readonly kinds = new Stage<{ build: Build; told: { library: readonly DeviceKind[] } }, readonly DeviceKind[]>(
    ({ build, told }) => [...Object.values(build.kinds), ...told.library],
  );
  private readonly checks = rules.map(
    (rule) =>
      new Stage<Plan & { told: Told }, readonly Finding[]>(({ build, net, told }) =>
        runRule(rule, {
          build,
          net,
          get devices() {
            return net.devices;
          },
          get library() {
            return told.library;
          },
          proof: () => told.progress,
          get beside() {
            return told.beside;
          },
        }),
      ),
  );
  private readonly ordered = new Stage<
    { build: Build; made: Readonly<Record<number, readonly Finding[]>> },
    readonly Finding[]
  >(({ build, made }) =>
    this.findingsAsBefore(
      inOrder(
        build.aside,
        rules.flatMap((_, i) => made[i]!),
      ),
    ),
  );
  private readonly circuit = new Stage<Plan, CircuitIR>(({ build, net }) => compileAnew(build, net));
  private readonly solved = new Stage<Plan & { made: { ir: CircuitIR } }, Solution>(({ build, net, made }) =>
    solveIn(made.ir, scenarioOf(build, net, 'key-on')),
  );
  private readonly gated = new Stage<
    Plan & { made: { progress: Progress; findings: readonly Finding[]; keyOn: Solution } },
    readonly Gate[]
  >(({ build, net, made }) => gatesOf(build, net, made.progress, made.findings, made.keyOn));
  private readonly filled = new Stage<
    Plan & { made: { progress: Progress; findings: readonly Finding[]; gates: readonly Gate[] } },
    Record<SheetId, number>
  >(({ build, net, made }) => sheetProgress(build, net, made.findings, made.progress, () => made.gates));

  net(build: Build): Netlist {
    const needs = this.needs.of({ build });
    const made = {
      needs,
      power: this.power.of({ build, made: { needs } }),
      devices: this.devices.of({ build }),
    };
    return this.nets.of({ build, made });
  }
  tests(build: Build, net: Netlist): readonly ProveTest[] {
    return this.tested.of({ build, net });
  }
  progress(build: Build, { net, tests }: Pick<Derived, 'net' | 'tests'>): Progress {
    return this.proved.of({ build, net, made: { tests } });
  }
  private told(build: Build, derived: Pick<Derived, 'progress'>, beside: Beside | null): Told {
    return {
      library: this.kinds.of({ build, told: { library } }),
      beside,
      get progress() {
        return derived.progress;
      },
    };
  }
  findings(build: Build, derived: Pick<Derived, 'net' | 'progress'>, beside: Beside | null): readonly Finding[] {
    const told = this.told(build, derived, beside);
    const made = this.checks.map((check) => check.of({ build, net: derived.net, told }));
    return this.ordered.of({ build, made });
  }
  /** All of it, one step at a time: what a step works out is remembered, and found by whoever asks for the whole. */
  *inSteps(build: Build, derived: Derived, beside: Beside | null): Generator<void> {
    const needs = this.needs.of({ build });
    yield;
    yield void this.power.of({ build, made: { needs } });
    yield void derived.net;
    yield void derived.tests;
    const told = this.told(build, derived, beside);
    yield void derived.progress;
    for (const check of this.checks) yield void check.of({ build, net: derived.net, told });
    yield void derived.findings;
    yield void derived.keyOn;
    yield void derived.fill;
  }
  keyOn(build: Build, net: Netlist): Solution {
    const ir = compiled(build, net, this.circuit.of({ build, net }));
    return this.solved.of({ build, net, made: { ir } });
  }
  gates(
    build: Build,
    { net, progress, findings, keyOn }: Pick<Derived, 'net' | 'progress' | 'findings' | 'keyOn'>,
  ): readonly Gate[] {
    return this.gated.of({ build, net, made: { progress, findings, keyOn } });
  }
  fill(build: Build, derived: Derived): Record<SheetId, number> {
    const now = this.filled.of({ build, net: derived.net, made: derived });
    if (this.lastFill === null || !isSame(this.lastFill, now)) this.lastFill = now;
    return this.lastFill;
  }
}

/** Keeps what a getter has worked out. */
function once<T>(compute: () => T): () => T {
  let known: { readonly value: T } | null = null;
  return () => (known ??= { value: compute() }).value;
}

function viewOf(graph: Graph, build: Build, beside: Beside | null): Derived {
  const parts = {
    build: () => build,
    net: once(() => graph.net(build)),
    tests: once(() => graph.tests(build, view.net)),
    progress: once(() => graph.progress(build, view)),
    findings: once(() => graph.findings(build, view, beside)),
    counts: once(() => countFindings(view.findings)),
    keyOn: once(() => graph.keyOn(build, view.net)),
    gates: once(() => graph.gates(build, view)),
    fill: once(() => graph.fill(build, view)),
    waits: once(() => view.findings.some((finding) => finding.waits)),
  };
  const view: Derived = Object.defineProperties(
    {} as Derived,
    Object.fromEntries(Object.entries(parts).map(([name, get]) => [name, { get, enumerable: true }])),
  );
  steps.set(view, () => graph.inSteps(build, view, beside));
  return view;
}

const steps = new WeakMap<Derived, () => Generator<void>>();

/**
 * Works out what the shell reads of a build, a step at a time, so that whoever runs it can let a key press in between. Nothing
 * has to be run: what was not worked out here is worked out when it is read.
 *
 * @throws What a step throws on a build it does not expect, as reading it does.
 */
export const stepsOf = (derived: Derived): Generator<void> => steps.get(derived)!();

/** Builds whose steps are remembered: the one on show, and a few left a moment ago. */
const MOST_GRAPHS = 3;
const graphs = new Map<string, Graph>();
function graphOf(id: string): Graph {
  const graph = graphs.get(id) ?? new Graph();
  graphs.delete(id);
  graphs.set(id, graph);
  for (const old of [...graphs.keys()].slice(0, -MOST_GRAPHS)) graphs.delete(old);
  return graph;
}

const known = new WeakMap<Build, { readonly beside: Beside | null; readonly derived: Derived }>();

/**
 * Derives once a build value; a build never changes in place. Of an edited build only those steps are done again whose inputs
 * the edit touched. `beside`: what a solver says of this build, once it is known.
 */
export function derive(build: Build, beside: Beside | null = null): Derived {
  const found = known.get(build);
  // What was once known of this very build stays known.
  if (found && (beside === null || found.beside === beside)) return found.derived;
  const derived = viewOf(graphOf(build.id), build, beside);
  known.set(build, { beside, derived });
  return derived;
}

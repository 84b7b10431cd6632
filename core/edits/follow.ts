import type { Build, Device } from '../build/schema';
import { hasRole, holdRoles, trait, type DeviceKind } from '../devices/kind';
import { serve } from '../ecu/ask';
import type { Engine } from '../engine/engine';
import { rowsOf } from '../engine/outputs';
import { withId } from '../data/with-id';
import { needsOf } from '../netlist/needs';
import { netlist } from '../netlist/netlist';
import { checkFacts, offsetConfirmed, stands } from '../prove/evidence';
import { proveTests } from '../prove/tests';
import type { ProveTest } from '../prove/prove-test';
import { judge } from '../prove/verdict';
import type { Problem } from '../problem';
import { placesWithout } from './places';
import { starterParts, type StarterPart } from './starter';
import { applyEdit, call, type EditCall } from '.';

/** What is asked about an engine, besides its own geometry. */
export interface EngineAnswers {
  readonly engine: Engine;
  /** A cam sensor tells the phase. */
  readonly phase: boolean;
  readonly starting: Build['power']['starting'];
  readonly charging: Build['power']['charging'];
}

/** What a change of the answers brings with it, before it is made. */
export interface EngineChange {
  /** All of it as one step. */
  readonly calls: readonly EditCall[];
  readonly adds: readonly string[];
  readonly drops: readonly string[];
  /** Parts that stay on their pins, though their outputs now work other cylinders. */
  readonly moves: readonly string[];
  /** Readings on sheet 6, and confirmations of gates, that no longer hold. */
  readonly readings: number;
  readonly checks: number;
  readonly offset: boolean;
  readonly problem: Problem | null;
}

/** What the build says now. */
export const answersOf = (build: Build): EngineAnswers => ({
  engine: build.engine,
  phase: build.devices.some(({ kindId }) => isCam(build.kinds[kindId])),
  starting: build.power.starting,
  charging: build.power.charging,
});

const isCam = (kind: DeviceKind | undefined): boolean => kind !== undefined && trait(kind, 'trigger')?.shaft === 'cam';
const isCoil = (kind: DeviceKind | undefined): boolean => kind !== undefined && trait(kind, 'coil') !== null;
const isInjector = (kind: DeviceKind | undefined): boolean => kind !== undefined && trait(kind, 'injector') !== null;

/** A build that edits are tried on, each kept as a call. */
class Trial {
  readonly calls: EditCall[] = [];
  problem: Problem | null = null;

  constructor(public build: Build) {}

  make(next: EditCall): void {
    if (this.problem) return;
    const result = applyEdit(this.build, next.name, next.args);
    if (result.ok) {
      this.build = result.value.build;
      this.calls.push(next);
    } else this.problem = result.problem;
  }
  remove(test: (device: Device, kind: DeviceKind | undefined) => boolean): void {
    for (const device of this.build.devices)
      if (test(device, this.build.kinds[device.kindId])) this.make(call('removeDevice', { deviceId: device.id }));
  }
  has(test: (kind: DeviceKind) => boolean): boolean {
    return Object.values(this.build.kinds).some(test);
  }
}

/** A coil or an injector for every place that has none: of the kind that is fitted, else of the one proposed. */
function fill(trial: Trial, is: (kind: DeviceKind | undefined) => boolean, part: StarterPart | undefined): void {
  const fitted = trial.build.devices.map(({ kindId }) => trial.build.kinds[kindId]).find(is);
  const kind = fitted ?? part?.kind;
  if (!kind || part === undefined) return;
  if (part.count === null) {
    if (!fitted) trial.make(call('addDevice', { kind }));
  } else if (placesWithout(trial.build, kind).length > 0) trial.make(call('addDevice', { kind, perCylinder: true }));
}

/** True for a part that no cylinder, plug or injector of this engine asks for. */
const isHomeless = (engine: Engine, device: Device, kind: DeviceKind | undefined): boolean =>
  device.serves.some((cylinder) => cylinder > engine.cylinders) ||
  (isCoil(kind) && device.row > rowsOf(engine, 'ignition')) ||
  (isInjector(kind) && device.row > rowsOf(engine, 'injector'));

function followed(build: Build, answers: EngineAnswers, kinds: readonly DeviceKind[]): Trial {
  const { engine, phase, starting, charging } = answers;
  const trial = new Trial(build);
  // What is fitted comes before what the catalog has.
  const known = [...Object.values(build.kinds), ...kinds];
  const find = (test: (kind: DeviceKind) => boolean) => known.find(test);
  const coilOf = (one: Engine) => starterParts(one, build.ecu, known).find(({ kind }) => isCoil(kind));
  const [before, after] = [coilOf(build.engine), coilOf(engine)];
  const towers = (part: StarterPart | undefined) =>
    part && `${trait(part.kind, 'coil')!.serves} ${part.count === null}`;
  trial.make(call('setEngine', { engine }));
  if (starting !== build.power.starting || charging !== build.power.charging)
    trial.make(call('setPower', { starting, charging }));
  trial.remove((device, kind) => isHomeless(engine, device, kind));
  if (towers(before) !== towers(after)) trial.remove((_, kind) => isCoil(kind));
  if (engine.injection === 'none') trial.remove((_, kind) => isInjector(kind));
  const had = (is: (kind: DeviceKind | undefined) => boolean) =>
    build.devices.some(({ kindId }) => is(build.kinds[kindId]));
  // A list that was never begun is not begun here.
  if (had(isCoil)) fill(trial, isCoil, after);
  if (had(isInjector) || (build.engine.injection === 'none' && build.devices.length > 0))
    fill(
      trial,
      isInjector,
      starterParts(engine, build.ecu, known).find(({ kind }) => isInjector(kind)),
    );
  const add = (kind: DeviceKind | undefined) => kind && trial.make(call('addDevice', { kind }));
  if (phase && !answersOf(build).phase)
    add(find((kind) => isCam(kind) && trait(kind, 'trigger')!.sensor === 'hall') ?? find(isCam));
  if (!phase) trial.remove((_, kind) => isCam(kind));
  if (starting === 'button' && build.power.starting !== 'button') {
    if (!trial.has((kind) => hasRole(kind, 'start-button'))) add(find((kind) => hasRole(kind, 'start-button')));
    if (!trial.has((kind) => holdRoles.some((role) => hasRole(kind, role))))
      add(find((kind) => hasRole(kind, 'neutral-switch')));
  }
  if (charging !== build.power.charging) {
    if (charging === 'none') trial.remove((_, kind) => kind !== undefined && hasRole(kind, 'alternator'));
    else if (!trial.has((kind) => hasRole(kind, 'alternator'))) add(find((kind) => hasRole(kind, 'alternator')));
  }
  return trial;
}

/** Parts whose pin keeps its number, and whose number works something else than before. */
function movedOutputs(before: Build, after: Build): string[] {
  const right = (build: Build) =>
    new Map(
      needsOf(build).flatMap((need) => {
        const pin = withId(build.ecu.pins, build.assignments[need.id]);
        const output = pin && serve(pin, need.ask).ability?.output;
        return need.outputs === null || output === undefined
          ? []
          : [[need.id, { label: need.label, right: need.outputs.includes(output), output }] as const];
      }),
    );
  const now = right(after);
  return [...right(before)].flatMap(([id, was]) => {
    const is = now.get(id);
    return is && was.right && !is.right ? [`${is.label} (output ${is.output})`] : [];
  });
}

/** Readings that were right of a wire or an output that stands no more as it was read. */
function fallenReadings(before: Build, after: Build): number {
  const tests = (build: Build) => new Map(proveTests(build, netlist(build)).map((test) => [test.id, test] as const));
  const [old, now] = [tests(before), tests(after)];
  const isRight = (test: ProveTest | undefined, value: number | null) =>
    test !== undefined && judge(test, value, before.prove.leadOhms).right;
  return Object.entries(before.prove.readings).filter(
    ([id, { value }]) => isRight(old.get(id), value) && !isRight(now.get(id), value),
  ).length;
}

const fallenChecks = (before: Build, after: Build): number =>
  Object.entries(before.fireup).flatMap(([gateId, checks]) =>
    Object.entries(checks).filter(
      ([checkId, { on }]) =>
        stands(on, checkFacts(before, gateId, checkId)) && !stands(on, checkFacts(after, gateId, checkId)),
    ),
  ).length;

/**
 * What other answers about the engine bring with them: parts to add for cylinders, plugs and injectors that have none, parts
 * to drop that nothing asks for any more, outputs that now work something else, and what was proved of them.
 *
 * @param kinds Kinds parts are taken from where none is fitted yet.
 */
export function followEngine(build: Build, answers: EngineAnswers, kinds: readonly DeviceKind[]): EngineChange {
  const { calls, build: after, problem } = followed(build, answers, kinds);
  const [old, now] = [build, after].map(({ devices }) => new Map(devices.map(({ id, label }) => [id, label])));
  const missing = (list: ReadonlyMap<string, string>, from: ReadonlyMap<string, string>) =>
    [...list].flatMap(([id, label]) => (from.has(id) ? [] : [label]));
  return {
    calls,
    adds: missing(now!, old!),
    drops: missing(old!, now!),
    moves: movedOutputs(build, after),
    readings: fallenReadings(build, after),
    checks: fallenChecks(build, after),
    offset: offsetConfirmed(build) && !offsetConfirmed(after),
    problem,
  };
}

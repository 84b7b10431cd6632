import { z } from 'zod';
import { hasRole, kindSchema, pressureRange, sensorsIn, thermistorIn, trait, type DeviceKind } from '../devices/kind';
import { ecuSchema, pinsOfKind, type EcuDefinition } from '../ecu/ecu';
import { asksPhase, engineSchema, type Engine } from '../engine/engine';
import { setsOfTurn } from '../engine/outputs';
import type { Result } from '../problem';
import { ok } from '../problem';
import { standardBarometerKpa } from '../sensing/atmosphere';
import { createBuild } from './create';
import type { Units } from '../units/units';
import { applyEdit } from '.';
import { proposedJoins } from './joins';
import type { Build } from '../build/schema';

/** A kind to start from, and how many are laid down for the cylinders; null for one part of the whole engine. */
export interface StarterPart {
  readonly kind: DeviceKind;
  readonly count: number | null;
}

/** Coils as the ignition was answered: one, one for each pair, or one for each cylinder, with an igniter where the ECU has none. */
function coils(engine: Engine, ecu: EcuDefinition, kinds: readonly DeviceKind[]): StarterPart | null {
  const drives = pinsOfKind(ecu, 'ignition-driver').length > 0 && pinsOfKind(ecu, 'ignition-logic').length === 0;
  const find = (serves: (count: number) => boolean) => {
    const fitting = kinds.filter((kind) => {
      const coil = trait(kind, 'coil');
      return coil !== null && serves(coil.serves);
    });
    return fitting.find((kind) => trait(kind, 'coil')!.igniter === !drives);
  };
  if (engine.ignition === 'distributor') {
    // Behind a logic output a coil with an igniter of its own stands before the distributor.
    const kind = find((count) => count > 2) ?? find((count) => count === 1);
    return kind ? { kind, count: null } : null;
  }
  const sets = setsOfTurn(engine);
  if (engine.ignition === 'wasted' && sets.every(({ length }) => length === 2)) {
    const kind = find((count) => count === 2);
    if (kind) return { kind, count: sets.length * engine.plugs };
  }
  const kind = find((count) => count === 1);
  return kind ? { kind, count: engine.cylinders * engine.plugs } : null;
}

/** What is answered besides the engine itself; what is not answered is not laid down. */
export const moreSchema = z.object({
  /** A cam sensor tells the phase; absent: where spark or injection asks for it. */
  phase: z.boolean().optional(),
  starting: z.enum(['key', 'button']).optional(),
  charging: z.enum(['alternator', 'none']).optional(),
});

/** Parts nearly every engine of this kind has, as it was answered and as far as this ECU can use them. */
export function starterParts(
  engine: Engine,
  ecu: EcuDefinition,
  kinds: readonly DeviceKind[],
  { phase = asksPhase(engine), starting, charging }: z.infer<typeof moreSchema> = {},
): StarterPart[] {
  const has = (kind: Parameters<typeof pinsOfKind>[1]) => pinsOfKind(ecu, kind).length > 0;
  const one = (kind: DeviceKind | undefined): StarterPart | null => (kind ? { kind, count: null } : null);
  const find = (test: (kind: DeviceKind) => boolean) => one(kinds.find(test));
  const sensor = has('vr') ? 'vr' : 'hall';
  const triggerOn = (shaft: 'crank' | 'cam', kindOf: 'vr' | 'hall') => (kind: DeviceKind) =>
    trait(kind, 'trigger')?.shaft === shaft && trait(kind, 'trigger')?.sensor === kindOf;
  const injected = engine.injection !== 'none';
  const barometer = standardBarometerKpa(0);
  const wanted = (barometer + (engine.aspiration === 'boosted' ? engine.boostKpa : 0)) * 1.1;
  // The narrowest that reaches: it has the finest step. Atmospheric engines take the usual one-bar sensor.
  const pressures = kinds
    .flatMap((kind) => {
      const range = pressureRange(kind);
      const alone = sensorsIn(kind).length === 1;
      return range?.measures === 'manifold' && range.reference === 'absolute' && alone
        ? [{ kind, most: range.most }]
        : [];
    })
    .sort((a, b) => a.most - b.most);
  const manifold = engine.aspiration === 'boosted' ? pressures.find(({ most }) => most >= wanted) : pressures[0];
  const injector = kinds.find((kind) => (trait(kind, 'injector')?.ohms ?? 0) >= 10);
  const parts: (StarterPart | null)[] = [
    find(triggerOn('crank', sensor)),
    phase ? (find(triggerOn('cam', 'hall')) ?? find(triggerOn('cam', sensor))) : null,
    injected && injector ? { kind: injector, count: engine.cylinders * engine.injectors } : null,
    coils(engine, ecu, kinds),
    injected ? find((kind) => hasRole(kind, 'pump')) : null,
    find((kind) => hasRole(kind, 'throttle') && kind.terminals.length === 3),
    one(manifold?.kind ?? pressures.at(-1)?.kind),
    find((kind) => thermistorIn(kind) !== null && kind.system === 'Cooling'),
    // One part for each question: not a second manifold sensor for the sake of its thermometer.
    find((kind) => thermistorIn(kind) !== null && sensorsIn(kind).length === 1 && kind.system === 'Air and throttle'),
    // Started by a button, the ECU drives the starter, and something must hold it back.
    ...(starting === 'button'
      ? (['starter', 'start-button', 'neutral-switch'] as const).map((role) => find((kind) => hasRole(kind, role)))
      : []),
    charging === 'alternator' ? find((kind) => hasRole(kind, 'alternator')) : null,
  ];
  return parts.filter((part) => part !== null);
}

/** How many coils are among parts to start from. */
export const coilCount = (parts: readonly StarterPart[]): number =>
  parts.filter(({ kind }) => trait(kind, 'coil') !== null).reduce((sum, { count }) => sum + (count ?? 1), 0);

/** What is asked of a person who begins a build, by a page or by a file. */
export const answersSchema = z.object({
  name: z.string().trim().min(1).max(80),
  vehicle: z.string().max(120),
  engine: engineSchema,
  ecu: ecuSchema,
  /** Kinds the usual parts are taken from. */
  kinds: z.array(kindSchema),
  withUsual: z.boolean(),
  ...moreSchema.shape,
});
export type Answers = z.infer<typeof answersSchema>;

/** A new build, with the usual sensors and actuators when asked. `id` and `now` (ISO 8601) come from the caller. */
export function startBuild(args: Answers & { id: string; now: string; units?: Units }): Result<Build> {
  const { starting, charging } = args;
  const empty = createBuild(args);
  let build: Build = {
    ...empty,
    power: { ...empty.power, starting: starting ?? empty.power.starting, charging: charging ?? empty.power.charging },
  };
  if (!args.withUsual) return ok(build);
  for (const { kind, count } of starterParts(args.engine, args.ecu, args.kinds, args)) {
    const added = applyEdit(build, 'addDevice', { kind, perCylinder: count !== null });
    if (!added.ok) return added;
    build = added.value.build;
  }
  // An ECU of few outputs works several together.
  for (const join of proposedJoins(build)) {
    const joined = applyEdit(build, 'joinOutput', join);
    if (!joined.ok) return joined;
    build = joined.value.build;
  }
  return ok(build);
}

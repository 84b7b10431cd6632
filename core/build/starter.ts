import type { DeviceKind } from '../devices/kind';
import { trait, hasRole, pressureRange, thermistorIn } from '../devices/kind';
import type { EcuDefinition } from '../ecu/ecu';
import { pinsOfKind } from '../ecu/ecu';
import type { Engine } from '../engine/engine';
import type { Result } from '../problem';
import { ok } from '../problem';
import { createBuild } from './create';
import type { Units } from '../units/units';
import { applyEdit } from './edits';
import type { Build } from './schema';

/** Kinds nearly every engine has, as far as this ECU and engine can use them. */
export function starterKinds(engine: Engine, ecu: EcuDefinition, kinds: readonly DeviceKind[]): DeviceKind[] {
  const has = (kind: Parameters<typeof pinsOfKind>[1]) => pinsOfKind(ecu, kind).length > 0;
  const find = (test: (kind: DeviceKind) => boolean) => kinds.find(test);
  const sensor = has('vr') ? 'vr' : 'hall';
  const boosted = engine.aspiration === 'boosted';
  const wanted = [
    find((kind) => trait(kind, 'trigger')?.shaft === 'crank' && trait(kind, 'trigger')?.sensor === sensor),
    engine.injection === 'sequential' ? find((kind) => trait(kind, 'trigger')?.shaft === 'cam') : undefined,
    engine.injection === 'none' ? undefined : find((kind) => (trait(kind, 'injector')?.ohms ?? 0) >= 10),
    find((kind) => trait(kind, 'coil')?.igniter === true),
    engine.injection === 'none' ? undefined : find((kind) => hasRole(kind, 'pump')),
    find((kind) => hasRole(kind, 'throttle') && kind.terminals.length === 3),
    find((kind) => {
      const pressure = pressureRange(kind);
      return (
        pressure?.measures === 'manifold' &&
        (boosted ? pressure.most >= (101 + engine.boostKpa) * 1.1 : pressure.most < 200)
      );
    }),
    find((kind) => thermistorIn(kind) !== null && kind.system === 'Cooling'),
    find((kind) => thermistorIn(kind) !== null && kind.system === 'Air and throttle'),
  ];
  return wanted.filter((kind) => kind !== undefined);
}

/** A new build, with the usual sensors and actuators when asked. */
export function startBuild(args: {
  id: string;
  now: string;
  name: string;
  vehicle: string;
  engine: Engine;
  ecu: EcuDefinition;
  kinds: readonly DeviceKind[];
  withUsual: boolean;
  units?: Units;
}): Result<Build> {
  let build = createBuild(args);
  if (!args.withUsual) return ok(build);
  for (const kind of starterKinds(args.engine, args.ecu, args.kinds)) {
    const result = applyEdit(build, 'addDevice', { kind, perCylinder: kind.perCylinder });
    if (!result.ok) return result;
    build = result.value.build;
  }
  return ok(build);
}

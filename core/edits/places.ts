import type { Build, Device } from '../build/schema';
import { trait, type DeviceKind } from '../devices/kind';
import type { Engine } from '../engine/engine';
import { rowsOf, setsOfTurn } from '../engine/outputs';

/** Plugs, injectors or cylinders that have no device of this kind yet: for a coil of several towers by the sets that fire together. */
export function placesWithout(
  build: Pick<Build, 'engine' | 'devices'>,
  kind: DeviceKind,
): Pick<Device, 'serves' | 'row'>[] {
  const { engine } = build;
  const coil = trait(kind, 'coil');
  const rows = coil ? rowsOf(engine, 'ignition') : trait(kind, 'injector') ? rowsOf(engine, 'injector') : 1;
  const sets =
    coil && coil.serves > 1
      ? setsOfTurn(engine).filter((set) => set.length === coil.serves)
      : engine.firingOrder.map((cylinder) => [cylinder]);
  const rising = sets
    .map((set) => [...set].sort((one, other) => one - other))
    .sort((one, other) => one[0]! - other[0]!);
  const fitted = build.devices.filter((device) => device.kindId === kind.id);
  return ([1, 2] as const)
    .slice(0, rows)
    .flatMap((row) => rising.map((serves) => ({ serves, row })))
    .filter(
      ({ serves, row }) => !fitted.some((one) => one.row === row && one.serves.some((at) => serves.includes(at))),
    );
}

/** How a device is told from its like: by its cylinders, and shortly by its plug or injector where each has two (L and T of a rotor). */
export function placeLabel(engine: Engine, kind: DeviceKind, { serves, row }: Pick<Device, 'serves' | 'row'>): string {
  const which = serves.join('+');
  if (trait(kind, 'injector')) return engine.injectors === 2 ? `${which} ${row === 1 ? 'pri' : 'sec'}` : which;
  if (!trait(kind, 'coil') || engine.plugs === 1) return which;
  return engine.kind === 'rotary' ? `${row === 1 ? 'L' : 'T'}${which}` : `${which}${row === 1 ? 'a' : 'b'}`;
}

import { trait, type DeviceKind, type TraitOf } from '~/core/devices/kind';
import { injectorFigures, meanInjector, type InjectorFigures } from '~/core/engine/fuel';
import { useBuild } from '../../build/context';

/** Kinds of one trait that are fitted, with how many. */
export function useFitted<T extends 'injector' | 'coil'>(
  type: T,
): { kind: DeviceKind; trait: TraitOf<T>; count: number }[] {
  const { build } = useBuild();
  return Object.values(build.kinds).flatMap((kind) => {
    const found = trait(kind, type);
    return found
      ? [{ kind, trait: found, count: build.devices.filter((device) => device.kindId === kind.id).length }]
      : [];
  });
}

/** Figures of all injectors together: primaries and secondaries feed one engine. */
export function useFeeding(): InjectorFigures | null {
  const { build } = useBuild();
  const all = useFitted('injector').flatMap((one) => Array.from({ length: one.count }, () => one.trait));
  return all.length > 0 ? injectorFigures(build.engine, build.fuel, meanInjector(all, build.fuel), all.length) : null;
}

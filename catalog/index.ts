import type { DeviceKind } from '~/core/devices/kind';
import type { EcuDefinition } from '~/core/ecu/ecu';
import type { Engine } from '~/core/engine/engine';
import type { Wheel } from '~/core/wheels/wheel';
import { ecus } from './ecus';
import { engines } from './engines';
import { kinds } from './kinds';
import { wheels } from './wheels';

export interface Catalog {
  readonly ecus: EcuDefinition[];
  readonly kinds: DeviceKind[];
  readonly wheels: Wheel[];
  readonly engines: Engine[];
}

/**
 * Everything the app ships to choose from. It does not change once it is shipped, so it is held against its schemas by the
 * tests (tests/catalog) and not at every opening.
 */
export const catalog: Catalog = { ecus: [...ecus], kinds: [...kinds], wheels: [...wheels], engines: [...engines] };

/** An entry that must exist; a wrong id is a bug. */
export function entry<T extends { id: string }>(list: readonly T[], id: string): T {
  const found = list.find((one) => one.id === id);
  if (!found) throw new Error(`catalog: no entry ${id}`);
  return found;
}

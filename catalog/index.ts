import { z } from 'zod';
import { kindSchema } from '~/core/devices/kind';
import { ecuSchema } from '~/core/ecu/ecu';
import { engineSchema } from '~/core/engine/engine';
import { wheelSchema } from '~/core/wheels/wheel';
import { ecus } from './ecus';
import { engines } from './engines';
import { kinds } from './kinds';
import { wheels } from './wheels';

export const catalogSchema = z.object({
  ecus: z.array(ecuSchema),
  kinds: z.array(kindSchema),
  wheels: z.array(wheelSchema),
  engines: z.array(engineSchema),
});
export type Catalog = z.infer<typeof catalogSchema>;

/** Everything the app ships to choose from, checked when it is first loaded: a wrong entry stops the build. */
export const catalog: Catalog = catalogSchema.parse({ ecus, kinds, wheels, engines });

/** An entry that must exist; a wrong id is a bug. */
export function entry<T extends { id: string }>(list: readonly T[], id: string): T {
  const found = list.find((one) => one.id === id);
  if (!found) throw new Error(`catalog: no entry ${id}`);
  return found;
}

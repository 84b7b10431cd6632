import { z } from 'zod';
import { parseListFile } from '../data/list-file';
import { ok, type Result } from '../problem';
import { wheelSchema, type Wheel } from '../wheels/wheel';

/** A file of a person's own wheels (docs/formats.md). */
export const wheelFileSchema = z.object({
  format: z.literal('gonyx-wheels'),
  /** 2 when a wheel has further tracks. */
  version: z.union([z.literal(1), z.literal(2)]),
  wheels: z.array(wheelSchema).min(1).max(500),
});

export const wheelFile = (wheels: readonly Wheel[]): string =>
  JSON.stringify({ format: 'gonyx-wheels', version: wheels.some(({ tracks }) => tracks) ? 2 : 1, wheels }, null, 1);

/** Reads a file of wheels; nothing is half taken. */
export function parseWheelFile(text: string): Result<Wheel[]> {
  const parsed = parseListFile(text, {
    format: 'gonyx-wheels',
    things: 'wheels',
    ours: 'wheels',
    notOurs: 'not-wheels',
    invalid: 'invalid-wheel',
    schema: wheelFileSchema,
  });
  return parsed.ok ? ok(parsed.value.wheels) : parsed;
}

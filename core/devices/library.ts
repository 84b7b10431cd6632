import { z } from 'zod';
import { parseListFile } from '../data/list-file';
import { fail, ok, type Result } from '../problem';
import { kindSchema, type DeviceKind } from './kind';

/** A file of a person's own device kinds. */
export const libraryFileSchema = z.object({
  format: z.literal('gonyx-kinds'),
  version: z.literal(1),
  kinds: z.array(kindSchema).min(1).max(500),
});

export const libraryFile = (kinds: readonly DeviceKind[]): string =>
  JSON.stringify({ format: 'gonyx-kinds', version: 1, kinds }, null, 1);

/** Reads a file of kinds; two kinds of one id are refused by name. */
export function parseLibrary(text: string): Result<DeviceKind[]> {
  const parsed = parseListFile(text, {
    format: 'gonyx-kinds',
    things: 'kinds',
    ours: 'kinds',
    notOurs: 'not-kinds',
    invalid: 'invalid-kinds',
    schema: libraryFileSchema,
  });
  if (!parsed.ok) return parsed;
  const { kinds } = parsed.value;
  const seen = new Set<string>();
  for (const [index, kind] of kinds.entries()) {
    if (seen.has(kind.id)) return fail('duplicate', `kinds[${index}].id`, `kinds[${index}].id repeats ${kind.id}.`);
    seen.add(kind.id);
  }
  return ok(kinds);
}

/** An id made of a name, free among those taken: `coil-of-mine`, `coil-of-mine-2`. */
export function freeKindId(name: string, taken: ReadonlySet<string>): string {
  const base =
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 34) || 'kind';
  const start = base.length < 2 ? `${base}-kind` : base;
  if (!taken.has(start)) return start;
  let number = 2;
  while (taken.has(`${start}-${number}`)) number += 1;
  return `${start}-${number}`;
}

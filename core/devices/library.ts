import { z } from 'zod';
import { zodProblem } from '../build/parse';
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

/** Reads a file of kinds: size, syntax, shape, in that order; two kinds of one id are refused by name. */
export function parseLibrary(text: string): Result<DeviceKind[]> {
  if (text.length > 5_000_000) return fail('too-large', '', 'The file is larger than 5 MB: it is not a list of kinds.');
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return fail('not-json', '', 'The file is not readable JSON: it may be cut short.');
  }
  const parsed = libraryFileSchema.safeParse(data);
  if (!parsed.success) {
    const isOurs = typeof data === 'object' && data !== null && (data as { format?: unknown }).format === 'gonyx-kinds';
    return isOurs
      ? { ok: false, problem: zodProblem(parsed.error, 'invalid-kinds') }
      : fail('not-kinds', 'format', 'The file is JSON, but not a list of Gonyx kinds.');
  }
  const seen = new Set<string>();
  for (const [index, kind] of parsed.data.kinds.entries()) {
    if (seen.has(kind.id)) return fail('duplicate', `kinds[${index}].id`, `kinds[${index}].id repeats ${kind.id}.`);
    seen.add(kind.id);
  }
  return ok(parsed.data.kinds);
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

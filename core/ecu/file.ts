import { z } from 'zod';
import { zodProblem } from '../build/parse';
import { fail, ok, type Result } from '../problem';
import { ecuSchema, type EcuDefinition } from './ecu';

/** A file of ECU definitions (docs/formats.md). */
export const ecuFileSchema = z.object({
  format: z.literal('gonyx-ecus'),
  version: z.literal(1),
  ecus: z.array(ecuSchema).min(1).max(50),
});

export const ecuFile = (ecus: readonly EcuDefinition[]): string =>
  JSON.stringify({ format: 'gonyx-ecus', version: 1, ecus }, null, 1);

/** Reads a file of ECU definitions: size, syntax, shape, in that order; nothing is half taken. */
export function parseEcuFile(text: string): Result<EcuDefinition[]> {
  if (text.length > 5_000_000) return fail('too-large', '', 'The file is larger than 5 MB: it is not a list of ECUs.');
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return fail('not-json', '', 'The file is not readable JSON: it may be cut short.');
  }
  const parsed = ecuFileSchema.safeParse(data);
  if (parsed.success) return ok(parsed.data.ecus);
  const ours = typeof data === 'object' && data !== null && (data as { format?: unknown }).format === 'gonyx-ecus';
  return ours
    ? { ok: false, problem: zodProblem(parsed.error, 'invalid-ecu') }
    : fail('not-ecus', 'format', 'The file is JSON, but not a list of Gonyx ECU definitions.');
}

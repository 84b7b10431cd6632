import { z } from 'zod';
import { parseListFile } from '../data/list-file';
import { ok, type Result } from '../problem';
import { ecuSchema, type EcuDefinition } from './ecu';

/** A file of ECU definitions (docs/formats.md). */
export const ecuFileSchema = z.object({
  format: z.literal('gonyx-ecus'),
  version: z.literal(1),
  ecus: z.array(ecuSchema).min(1).max(50),
});

export const ecuFile = (ecus: readonly EcuDefinition[]): string =>
  JSON.stringify({ format: 'gonyx-ecus', version: 1, ecus }, null, 1);

/** Reads a file of ECU definitions; nothing is half taken. */
export function parseEcuFile(text: string): Result<EcuDefinition[]> {
  const parsed = parseListFile(text, {
    format: 'gonyx-ecus',
    things: 'ECUs',
    ours: 'ECU definitions',
    notOurs: 'not-ecus',
    invalid: 'invalid-ecu',
    schema: ecuFileSchema,
  });
  return parsed.ok ? ok(parsed.value.ecus) : parsed;
}

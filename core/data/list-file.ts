import type { ZodType } from 'zod';
import { fail, ok, type Result } from '../problem';
import { zodProblem } from './zod-problem';

/** What a kind of list file is called, in code and in sentences. */
export interface ListFile<T> {
  readonly format: string;
  /** As in 'a list of wheels'. */
  readonly things: string;
  /** As in 'a list of Gonyx wheels'. */
  readonly ours: string;
  readonly notOurs: string;
  readonly invalid: string;
  readonly schema: ZodType<T>;
}

/** Reads a file of a person's own things: size, syntax, shape, in that order; nothing is half taken. */
export function parseListFile<T>(text: string, file: ListFile<T>): Result<T> {
  if (text.length > 5_000_000)
    return fail('too-large', '', `The file is larger than 5 MB: it is not a list of ${file.things}.`);
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return fail('not-json', '', 'The file is not readable JSON: it may be cut short.');
  }
  const parsed = file.schema.safeParse(data);
  if (parsed.success) return ok(parsed.data);
  const isOurs = typeof data === 'object' && data !== null && (data as { format?: unknown }).format === file.format;
  return isOurs
    ? { ok: false, problem: zodProblem(parsed.error, file.invalid) }
    : fail(file.notOurs, 'format', `The file is JSON, but not a list of Gonyx ${file.ours}.`);
}

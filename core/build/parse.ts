import { zodProblem } from '../data/zod-problem';
import { fail, ok, type Problem, type Result } from '../problem';
import { raise } from './migrations';
import { buildIdSchema, buildSchema, type Build } from './schema';

/** Limits of a file, checked before anything is believed. */
export const FILE_LIMITS = { bytes: 20_000_000, depth: 24, values: 600_000 } as const;

/** Depth and count of a JSON value without recursion, so that a hostile file cannot exhaust the stack. */
function overLimit(root: unknown): Problem | null {
  const stack: { value: unknown; depth: number }[] = [{ value: root, depth: 0 }];
  let count = 0;
  while (stack.length > 0) {
    const { value, depth } = stack.pop()!;
    count += 1;
    if (depth > FILE_LIMITS.depth)
      return {
        code: 'too-deep',
        path: '',
        sentence: `The file nests deeper than ${FILE_LIMITS.depth} levels: it is not a Gonyx build.`,
      };
    if (count > FILE_LIMITS.values)
      return {
        code: 'too-many',
        path: '',
        sentence: `The file holds more than ${FILE_LIMITS.values} values: it is not a Gonyx build.`,
      };
    if (typeof value === 'object' && value !== null)
      for (const child of Object.values(value)) stack.push({ value: child, depth: depth + 1 });
  }
  return null;
}

/** Line and column of a JSON error, where the engine tells the position. */
function jsonPlace(text: string, error: unknown): string {
  const position = /position (\d+)/.exec(error instanceof Error ? error.message : '')?.[1];
  if (position === undefined)
    return text.length === 0 ? 'it is empty' : `it breaks off or goes wrong near line ${text.split('\n').length}`;
  const before = text.slice(0, Number(position)).split('\n');
  return `it goes wrong at line ${before.length}, column ${before[before.length - 1]!.length + 1}`;
}

/** What must hold between parts of a build that the schema alone cannot say. */
function crossCheck(build: Build): Problem | null {
  const ids = new Set<string>();
  for (const [index, device] of build.devices.entries()) {
    if (ids.has(device.id))
      return {
        code: 'duplicate',
        path: `devices[${index}].id`,
        sentence: `devices[${index}].id repeats ${device.id}.`,
      };
    ids.add(device.id);
    if (!Object.hasOwn(build.kinds, device.kindId))
      return {
        code: 'unknown-kind',
        path: `devices[${index}].kindId`,
        sentence: `devices[${index}].kindId names ${device.kindId}, which the file does not define.`,
      };
  }
  return null;
}

/** What stands in for an id no address or store could hold: without it such a build is refused. */
export interface ParseOptions {
  readonly standIn?: string;
}

/** Reads a build from JSON text: size, syntax, depth, version, schema, in that order. Never throws on bad input. */
export function parseBuild(text: string, options: ParseOptions = {}): Result<Build> {
  if (text.length > FILE_LIMITS.bytes)
    return fail('too-large', '', `The file is larger than ${FILE_LIMITS.bytes / 1e6} MB: it is not a Gonyx build.`);
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    return fail('not-json', '', `The file is not readable JSON: ${jsonPlace(text, error)}.`);
  }
  return parseBuildData(data, options);
}

/** The same for a value that is already parsed, such as one from storage. */
export function parseBuildData(data: unknown, { standIn }: ParseOptions = {}): Result<Build> {
  if (typeof data !== 'object' || data === null || Array.isArray(data))
    return fail('not-a-build', '', 'The file is JSON, but not a Gonyx build.');
  const over = overLimit(data);
  if (over) return { ok: false, problem: over };
  const raised = raise(data as Record<string, unknown>);
  if (!raised.ok) return raised;
  const odd =
    standIn !== undefined && typeof raised.value.id === 'string' && !buildIdSchema.safeParse(raised.value.id).success;
  const parsed = buildSchema.safeParse(odd ? { ...raised.value, id: standIn } : raised.value);
  if (!parsed.success) return { ok: false, problem: zodProblem(parsed.error, 'invalid-build') };
  const problem = crossCheck(parsed.data);
  return problem ? { ok: false, problem } : ok(parsed.data);
}

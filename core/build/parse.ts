import type { z } from 'zod';
import { fail, ok, type Problem, type Result } from '../problem';
import { raise } from './migrations';
import { buildIdSchema, buildSchema, type Build } from './schema';

/** Limits of a file, checked before anything is believed. */
export const FILE_LIMITS = { bytes: 20_000_000, depth: 24, values: 600_000 } as const;

/** `devices[3].label` */
export const pathText = (path: readonly PropertyKey[]): string =>
  path.map((part, i) => (typeof part === 'number' ? `[${part}]` : `${i > 0 ? '.' : ''}${String(part)}`)).join('');

/** What JSON calls a kind of value, as a person would write it. */
const EXPECTED: Readonly<Record<string, string>> = {
  string: 'a text in quotes',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list in square brackets',
  tuple: 'a list in square brackets',
  object: 'a group of named values in braces',
  record: 'a group of named values in braces',
  null: 'null',
};
const FORMATS: Readonly<Record<string, string>> = {
  datetime: 'must be a day and time such as 2026-03-01T10:00:00Z',
  date: 'must be a day such as 2026-03-01',
};

/** Zod's own words, which speak of strings and patterns. */
const isZods = (message: string): boolean => /^(Invalid|Too |Unrecognized|Expected)/.test(message);

/** Of the ways a value could have been right, the one it came nearest to: the furthest place, then the fewest faults. */
function nearestOf(errors: readonly (readonly z.core.$ZodIssue[])[]): z.core.$ZodIssue | undefined {
  const depth = (issues: readonly z.core.$ZodIssue[]) => Math.max(0, ...issues.map(({ path }) => path.length));
  const [best] = [...errors].sort((one, other) => depth(other) - depth(one) || one.length - other.length);
  return best?.[0];
}

function issueSentence(issue: z.core.$ZodIssue): string {
  const size = issue.code === 'too_small' || issue.code === 'too_big' ? issue.origin : '';
  const unit = size === 'string' ? ' characters' : size === 'array' ? ' entries' : '';
  switch (issue.code) {
    case 'too_small':
      return isZods(issue.message)
        ? `must be ${issue.inclusive === false ? 'more than' : 'at least'} ${String(issue.minimum)}${unit}`
        : issue.message;
    case 'too_big':
      return isZods(issue.message)
        ? `must be ${issue.inclusive === false ? 'less than' : 'at most'} ${String(issue.maximum)}${unit}`
        : issue.message;
    case 'invalid_type':
      return `must be ${EXPECTED[issue.expected] ?? `a ${issue.expected}`}`;
    case 'invalid_value':
      return `must be ${issue.values.length === 1 ? '' : 'one of '}${issue.values.map(String).join(', ')}`;
    case 'unrecognized_keys':
      return `holds ${issue.keys.slice(0, 3).join(', ')}, which does not belong there`;
    case 'invalid_format':
      return isZods(issue.message) ? (FORMATS[issue.format] ?? 'is not written as it must be') : issue.message;
    default:
      return isZods(issue.message) ? 'is not one of the things that can stand there' : issue.message;
  }
}

/** The issue itself, or for a choice of shapes the one within it that tells most. */
function tellingIssue(issue: z.core.$ZodIssue): { issue: z.core.$ZodIssue; path: readonly PropertyKey[] } {
  if (issue.code === 'invalid_union') {
    const inner = nearestOf(issue.errors);
    if (inner) {
      const told = tellingIssue(inner);
      return { issue: told.issue, path: [...issue.path, ...told.path] };
    }
  }
  if (issue.code === 'invalid_key' || issue.code === 'invalid_element') {
    const [inner] = issue.issues;
    return { issue: { ...inner, message: inner.message }, path: issue.path };
  }
  return { issue, path: issue.path };
}

/** The first thing Zod found wrong, as one sentence with its place. */
export function zodProblem(error: z.ZodError, code = 'invalid'): Problem {
  const { issue, path: parts } = tellingIssue(error.issues[0]);
  const path = pathText(parts);
  const more = error.issues.length > 1 ? ` (and ${error.issues.length - 1} more)` : '';
  return { code, path, sentence: `${path || 'The input'} ${issueSentence(issue)}${more}.` };
}

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
  return `it goes wrong at line ${before.length}, column ${before[before.length - 1].length + 1}`;
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

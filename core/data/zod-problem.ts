import type { z } from 'zod';
import type { Problem } from '../problem';

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

/** What is too short or too long, too few or too many, too small or too large, with its limit. */
function sizeSentence(origin: string, words: readonly [string, string], limit: unknown): string {
  const [bound, beyond] = words;
  const many = String(limit);
  switch (origin) {
    case 'string':
      return bound === 'at least' && many === '1'
        ? 'must not be empty'
        : `must have ${bound} ${many} ${many === '1' ? 'character' : 'characters'}`;
    case 'array':
    case 'set':
    case 'map':
      return `must hold ${bound} ${many} ${many === '1' ? 'entry' : 'entries'}`;
    default:
      return `must be ${beyond} ${many}`;
  }
}

function issueSentence(issue: z.core.$ZodIssue): string {
  switch (issue.code) {
    case 'too_small':
      return isZods(issue.message)
        ? sizeSentence(issue.origin, ['at least', issue.inclusive === false ? 'more than' : 'at least'], issue.minimum)
        : issue.message;
    case 'too_big':
      return isZods(issue.message)
        ? sizeSentence(issue.origin, ['at most', issue.inclusive === false ? 'less than' : 'at most'], issue.maximum)
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
    if (inner) return { issue: inner, path: issue.path };
  }
  return { issue, path: issue.path };
}

/** The first thing Zod found wrong, as one sentence with its place. */
export function zodProblem(error: z.ZodError, code = 'invalid'): Problem {
  const { issue, path: parts } = tellingIssue(error.issues[0]!);
  const path = pathText(parts);
  const more = error.issues.length > 1 ? ` (and ${error.issues.length - 1} more)` : '';
  return { code, path, sentence: `${path || 'The input'} ${issueSentence(issue)}${more}.` };
}

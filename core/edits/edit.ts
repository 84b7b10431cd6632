import type { z } from 'zod';
import { fail, type Result } from '../problem';
import { zodProblem } from '../data/zod-problem';
import type { Build } from '../build/schema';

/** A named change of a build. `apply` shares structure with its input and reports what it cannot do. */
export interface Edit<A> {
  readonly args: z.ZodType<A>;
  /** What undo calls it: 'Assign coil 3'. */
  readonly label: (args: A, build: Build) => string;
  readonly apply: (build: Build, args: A) => Result<Build>;
}

export const edit = <A>(args: z.ZodType<A>, label: Edit<A>['label'], apply: Edit<A>['apply']): Edit<A> => ({
  args,
  label,
  apply,
});

/** Checks unknown arguments by the edit's schema, then applies it. */
export function runEdit<A>(one: Edit<A>, build: Build, args: unknown): Result<{ build: Build; label: string }> {
  const parsed = one.args.safeParse(args);
  if (!parsed.success) return { ok: false, problem: zodProblem(parsed.error, 'invalid-argument') };
  const result = one.apply(build, parsed.data);
  return result.ok ? { ok: true, value: { build: result.value, label: one.label(parsed.data, build) } } : result;
}

export const noDevice = (id: string) => fail('no-device', 'deviceId', `There is no device ${id} in this build.`);

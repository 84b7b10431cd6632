import { fail, type Result } from '../problem';
import type { Build } from '../build/schema';
import { runEdit, type Edit } from './edit';
import { busEdits, withBuses } from './buses';
import { faceEdits } from './faces';
import { feedBoxEdits } from './feed-boxes';
import { feedEdits } from './feeds';
import { foundEdits } from './found';
import { joinEdits, withJoins } from './joins';
import { partEdits } from './parts';
import { pinEdits } from './pins';
import { planEdits } from './plan';
import { proofEdits } from './proof';
import { withProofs } from './proofs';
import { dropStale } from './stale';
import { storesEdits } from './stores';
import { surveyEdits } from './survey';
import { treeEdits } from './tree';

/** Every change a person can make, by name. */
export const edits = {
  ...surveyEdits,
  ...busEdits,
  ...joinEdits,
  ...feedEdits,
  ...feedBoxEdits,
  ...treeEdits,
  ...storesEdits,
  ...foundEdits,
  ...partEdits,
  ...faceEdits,
  ...planEdits,
  ...pinEdits,
  ...proofEdits,
};
export type EditName = keyof typeof edits;
export type EditArgs<N extends EditName> = (typeof edits)[N] extends Edit<infer A> ? A : never;

/** A change as data: what a form, a remedy or a script asks for. */
export type EditCall = { [N in EditName]: { readonly name: N; readonly args: EditArgs<N> } }[EditName];
export const call = <N extends EditName>(name: N, args: EditArgs<N>): EditCall => ({ name, args }) as EditCall;

/** Applies an edit by name with unchecked arguments; a wrong name or argument is a problem, never a throw. */
export function applyEdit(build: Build, name: string, args: unknown): Result<{ build: Build; label: string }> {
  if (!Object.hasOwn(edits, name)) return fail('no-edit', 'name', `There is no change called ${name}.`);
  const done = runEdit(edits[name as EditName] as Edit<unknown>, build, args);
  if (!done.ok) return done;
  const after = withProofs(build, withJoins(build, withBuses(build, done.value.build)));
  return after === done.value.build ? done : { ok: true, value: { ...done.value, build: dropStale(after) } };
}

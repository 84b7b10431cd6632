import { applyEdit, type EditCall } from '~/core/edits';
import type { Build } from '~/core/build/schema';

/** Applies edits as a person would; a refused one is a bug in the demo. */
export function play(build: Build, calls: readonly EditCall[]): Build {
  return calls.reduce((current, { name, args }) => {
    const result = applyEdit(current, name, args);
    if (!result.ok) throw new Error(`demo: ${name}: ${result.problem.sentence}`);
    return result.value.build;
  }, build);
}

import { z } from 'zod';
import { applyChanges, changeSchema, diff, invert, type Change } from './changes';
import type { Build } from './schema';

/** One step a person can undo, as the differences it made. */
export const stepSchema = z.object({ label: z.string(), changes: z.array(changeSchema) });
export type Step = z.infer<typeof stepSchema>;

export const historySchema = z.object({ done: z.array(stepSchema), undone: z.array(stepSchema) });
export type History = z.infer<typeof historySchema>;

export const emptyHistory: History = { done: [], undone: [] };
/** Steps kept; older ones are forgotten, the build is not. */
export const HISTORY_LIMIT = 200;

/** Records the step from `before` to `after`. A step that changes nothing is not kept. */
export function record(
  history: History,
  label: string,
  before: Build,
  after: Build,
): { history: History; changes: Change[] } {
  const changes = diff(before, after);
  if (changes.length === 0) return { history, changes };
  return { history: { done: [...history.done, { label, changes }].slice(-HISTORY_LIMIT), undone: [] }, changes };
}

export interface Moved {
  readonly build: Build;
  readonly history: History;
  readonly changes: Change[];
  readonly label: string;
}

export function undo(build: Build, history: History): Moved | null {
  const step = history.done[history.done.length - 1];
  if (!step) return null;
  const changes = invert(step.changes);
  return {
    build: applyChanges(build, changes),
    history: { done: history.done.slice(0, -1), undone: [...history.undone, step] },
    changes,
    label: step.label,
  };
}

export function redo(build: Build, history: History): Moved | null {
  const step = history.undone[history.undone.length - 1];
  if (!step) return null;
  return {
    build: applyChanges(build, step.changes),
    history: { done: [...history.done, step], undone: history.undone.slice(0, -1) },
    changes: step.changes,
    label: step.label,
  };
}

import type { Migration } from './migration';

/*
 * From version 6 to 7. Frozen: it knows the shapes of both versions by itself and uses nothing of today's code.
 * Nobody had decided yet what a ground pin that can be either is wired as.
 */
type Json = Record<string, unknown>;
const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);

const raisePlan = (plan: Json): Json => ({ ...plan, groundUse: {} });

export const grounds: Migration = {
  from: 6,
  name: 'grounds',
  migrate: (file) => ({
    ...raisePlan(file),
    revisions: list(file.revisions).map((revision) =>
      isObject(revision) && isObject(revision.plan) ? { ...revision, plan: raisePlan(revision.plan) } : revision,
    ),
  }),
};

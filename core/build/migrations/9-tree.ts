import type { Migration } from './migration';

/*
 * From version 9 to 10. Frozen: it knows the shapes of both versions by itself and uses nothing of today's code.
 * The loom was one typed length for each device; now it may lie in a tree. None is made here: lengths stay as they were typed.
 * Labels have a template, and there is a shelf.
 */
type Json = Record<string, unknown>;
const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);

const raisePlan = (plan: Json): Json => ({
  ...plan,
  loom: isObject(plan.loom) ? { ...plan.loom, label: '{number} {from} > {to}' } : plan.loom,
  tree: { vehicle: 'car', engine: 'front', nodes: {}, segments: {}, via: {} },
});

export const tree: Migration = {
  from: 9,
  name: 'tree',
  migrate: (file) => ({
    ...raisePlan(file),
    stores: { spools: [], spoolMetres: 25, parts: {} },
    revisions: list(file.revisions).map((revision) =>
      isObject(revision) && isObject(revision.plan) ? { ...revision, plan: raisePlan(revision.plan) } : revision,
    ),
  }),
};

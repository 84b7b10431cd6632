import type { Migration } from './migration';

/*
 * From version 7 to 8. Frozen: it knows the shapes of both versions by itself and uses nothing of today's code.
 * Each part had an output of its own, nobody had told how the speed sensor is geared, wire came in metric sizes, and lengths,
 * power and flow were read in metric units.
 */
type Json = Record<string, unknown>;
const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);

const raisePlan = (plan: Json): Json => ({
  ...plan,
  joined: {},
  speed: null,
  loom: isObject(plan.loom) ? { ...plan.loom, series: 'metric' } : plan.loom,
});

export const joins: Migration = {
  from: 7,
  name: 'joins',
  migrate: (file) => ({
    ...raisePlan(file),
    units: isObject(file.units) ? { ...file.units, workshop: 'metric' } : file.units,
    revisions: list(file.revisions).map((revision) =>
      isObject(revision) && isObject(revision.plan) ? { ...revision, plan: raisePlan(revision.plan) } : revision,
    ),
  }),
};

import type { Migration } from './migration';

/*
 * From version 8 to 9. Frozen: it knows the shapes of both versions by itself and uses nothing of today's code.
 * The plan of feeds was not part of the document: all of it was proposed, with injectors and relay windings behind the main
 * relay. Looms were built to it: they stay as they are.
 */
type Json = Record<string, unknown>;
const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);

function raisePower(power: Json): Json {
  const circuits = isObject(power.circuits) ? power.circuits : {};
  const shared = (name: string) => ({ ...(isObject(circuits[name]) ? circuits[name] : {}), feed: 'shared' });
  return { ...power, circuits: { ...circuits, injectors: shared('injectors'), windings: shared('windings') } };
}

const raisePlan = (plan: Json): Json => ({
  ...plan,
  power: isObject(plan.power) ? raisePower(plan.power) : plan.power,
  feeds: { parts: {}, changes: {}, links: {}, boxes: {}, source: null },
});

export const feeds: Migration = {
  from: 8,
  name: 'feeds',
  migrate: (file) => ({
    ...raisePlan(file),
    revisions: list(file.revisions).map((revision) =>
      isObject(revision) && isObject(revision.plan) ? { ...revision, plan: raisePlan(revision.plan) } : revision,
    ),
  }),
};

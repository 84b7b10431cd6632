import type { Migration } from './migration';

/*
 * From version 10 to 11. Frozen: it knows the shapes of both versions by itself and uses nothing of today's code.
 * The starter hung on the battery's posts and so did the alternator; now their cables are places of the circuit, of the usual
 * size where nobody has said. Looms were built with rings and blades one upon the other: they stay as they are, and a rule tells.
 */
type Json = Record<string, unknown>;
const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);

const raisePlan = (plan: Json): Json => ({
  ...plan,
  power: isObject(plan.power)
    ? {
        ...plan.power,
        starterCable: { squareMm: 25, metres: 1.2, at: 'bat:+' },
        alternatorCable: { squareMm: 16, metres: 1.5, at: 'bat:+' },
        joints: 'stacked',
      }
    : plan.power,
});

/** Rings are bought by their stud now: what was noted of a size goes on for the bolts of the body. */
const raiseStores = (stores: Json): Json => ({
  ...stores,
  parts: isObject(stores.parts)
    ? Object.fromEntries(
        Object.entries(stores.parts).map(([key, line]) => [/^Rings ring [\d.]+$/.test(key) ? `${key} M6` : key, line]),
      )
    : stores.parts,
});

export const cables: Migration = {
  from: 10,
  name: 'cables',
  migrate: (file) => ({
    ...raisePlan(file),
    stores: isObject(file.stores) ? raiseStores(file.stores) : file.stores,
    revisions: list(file.revisions).map((revision) =>
      isObject(revision) && isObject(revision.plan) ? { ...revision, plan: raisePlan(revision.plan) } : revision,
    ),
  }),
};

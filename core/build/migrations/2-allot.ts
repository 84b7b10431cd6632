import type { Migration } from './migration';

/*
 * From version 2 to 3. Frozen: it knows the shapes of both versions by itself and uses nothing of today's code.
 * Pairs move from the pin to what the pin can be; ECUs get groups; spares to keep are counted by kind; the plan gets
 * 'never here' and the pins of shared supplies; the build gets its pinning record and marks.
 */
type Json = Record<string, unknown>;
const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);
const paired = new Set(['half-bridge', 'vr', 'can', 'thermocouple', 'wideband']);

function raisePin(pin: unknown): unknown {
  if (!isObject(pin)) return pin;
  const { pair, ...rest } = pin;
  if (typeof pair !== 'string') return rest;
  return {
    ...rest,
    abilities: list(pin.abilities).map((ability) =>
      isObject(ability) && paired.has(String(ability.kind)) ? { ...ability, pair } : ability,
    ),
  };
}

const raisePlan = (plan: Json): Json => ({
  ...plan,
  ecu: isObject(plan.ecu) ? { ...plan.ecu, pins: list(plan.ecu.pins).map(raisePin), groups: [] } : plan.ecu,
  reserve: typeof plan.reserve === 'number' && plan.reserve > 0 ? { any: plan.reserve } : {},
  never: [],
  shared: {},
});

export const allotment: Migration = {
  from: 2,
  name: 'allotment',
  migrate: (file) => ({
    ...raisePlan(file),
    pinning: { order: 'connector', done: {} },
    marks: {},
    revisions: list(file.revisions).map((revision) =>
      isObject(revision) && isObject(revision.plan) ? { ...revision, plan: raisePlan(revision.plan) } : revision,
    ),
  }),
};

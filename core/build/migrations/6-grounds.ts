import type { Migration } from './migration';

/*
 * From version 6 to 7. Frozen: it knows the shapes of both versions by itself and uses nothing of today's code.
 * Nobody had decided yet what a ground pin that can be either is wired as. Every engine had an alternator and a battery of
 * a usual size. A terminal that is the part's own body, bolted to the engine, has no wire. An air mass meter says that it is one. Nobody
 * had told how the cylinders lie, how the ECU counts its offset, nor which bank a part stands on.
 */
type Json = Record<string, unknown>;
const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);

const BATTERY_AH = 45;

function raiseKind(kind: unknown): unknown {
  if (!isObject(kind)) return kind;
  const terminals = list(kind.terminals).map((terminal) => {
    if (!isObject(terminal) || terminal.name !== 'body' || !isObject(terminal.destination)) return terminal;
    const { destination } = terminal;
    return destination.to === 'ground' ? { ...terminal, destination: { ...destination, to: 'mounted' } } : terminal;
  });
  const meter = typeof kind.id === 'string' && kind.id.startsWith('air-mass-');
  const traits = meter ? [...list(kind.traits), { type: 'role', role: 'air-mass' }] : kind.traits;
  return { ...kind, terminals, traits };
}

function raisePlan(plan: Json): Json {
  const kinds = isObject(plan.kinds) ? plan.kinds : {};
  return {
    ...plan,
    engine: isObject(plan.engine) ? { ...plan.engine, banks: [], bankDegrees: 0 } : plan.engine,
    devices: list(plan.devices).map((device) => (isObject(device) ? { ...device, bank: null } : device)),
    groundUse: {},
    trigger: isObject(plan.trigger)
      ? { ...plan.trigger, offsetWay: { counts: 'tooth-to-tdc', range: 'up' } }
      : plan.trigger,
    kinds: Object.fromEntries(Object.entries(kinds).map(([id, kind]) => [id, raiseKind(kind)])),
    power: isObject(plan.power) ? { ...plan.power, charging: 'alternator', batteryAh: BATTERY_AH } : plan.power,
  };
}

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

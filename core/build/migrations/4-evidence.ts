import type { Migration } from './migration';

/*
 * From version 4 to 5. Frozen: it knows the shapes of both versions by itself and uses nothing of today's code.
 * Readings and confirmations say what they were taken on; findings can be set aside; the
 * donor's list says how its colours are written. What an older file does not tell is
 * taken from its plan as it stands: the pins of that moment.
 */
type Json = Record<string, unknown>;
const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);
const mapObject = (value: unknown, change: (one: Json, key: string) => Json): unknown =>
  isObject(value)
    ? Object.fromEntries(Object.entries(value).map(([key, one]) => [key, isObject(one) ? change(one, key) : one]))
    : value;

const raiseTrigger = (plan: Json): Json => {
  if (!isObject(plan.trigger)) return plan;
  const ecu = isObject(plan.ecu) && typeof plan.ecu.id === 'string' ? [`ECU ${plan.ecu.id}`] : [];
  const readings = list(plan.trigger.readings).map((reading) =>
    isObject(reading) ? { ...reading, on: ecu } : reading,
  );
  return { ...plan, trigger: { ...plan.trigger, readings } };
};

export const evidence: Migration = {
  from: 4,
  name: 'evidence',
  migrate: (file) => {
    const assignments = isObject(file.assignments) ? file.assignments : {};
    const on = (needId: string) => [`${needId} on ${String(assignments[needId] ?? 'no pin')}`];
    const checkOn = (gateId: string, checkId: string): string[] => {
      if (gateId === 'sensors' && checkId.startsWith('sensor-')) return on(checkId.slice('sensor-'.length));
      if (gateId !== 'outputs') return [];
      if (checkId.startsWith('relay-')) return on(checkId.slice('relay-'.length));
      const pinId = checkId.slice('output-'.length);
      const need = Object.entries(assignments).find(([, pin]) => pin === pinId);
      return checkId.startsWith('output-') && need ? on(need[0]) : [];
    };
    const sensing = isObject(file.sensing)
      ? {
          ...file.sensing,
          readings: mapObject(file.sensing.readings, (reading, id) => ({ ...reading, on: on(id) })),
        }
      : file.sensing;
    return {
      ...raiseTrigger(file),
      sensing,
      fireup: mapObject(
        file.fireup,
        (gate, gateId) =>
          mapObject(gate, (confirmation, checkId) => ({ ...confirmation, on: checkOn(gateId, checkId) })) as Json,
      ),
      aside: {},
      survey: isObject(file.survey) ? { ...file.survey, colours: 'auto' } : file.survey,
      revisions: list(file.revisions).map((revision) =>
        isObject(revision) && isObject(revision.plan) ? { ...revision, plan: raiseTrigger(revision.plan) } : revision,
      ),
    };
  },
};

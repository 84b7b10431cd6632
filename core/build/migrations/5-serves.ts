import type { Migration } from './migration';

/*
 * From version 5 to 6. Frozen: it knows the shapes of both versions by itself and uses nothing of today's code.
 * A device serves a set of cylinders, not one: a coil of two towers gets the cylinder 360 degrees from its own, as the
 * older version meant it. An engine has one plug a chamber and one injector a cylinder, as every older one had. A bus is
 * a thing of its own, with members.
 */
type Json = Record<string, unknown>;
const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);
const numbers = (value: unknown): number[] => list(value).filter((one) => typeof one === 'number');

/** Angles nearer than this are the same, degrees. */
const SAME = 1e-6;

/** The cylinder that fires one turn from this one, in an engine of this older shape; null when there is none. */
function partnerOf(engine: Json, cylinder: number): number | null {
  if (engine.kind !== 'four-stroke') return null;
  const order = numbers(engine.firingOrder);
  const given = numbers(engine.firingAngles);
  const angleAt = (place: number) => given[place] ?? (place * 720) / order.length;
  const own = order.indexOf(cylinder);
  if (own < 0) return null;
  const other = order.findIndex((_, place) => Math.abs(Math.abs(angleAt(place) - angleAt(own)) - 360) < SAME);
  return order[other] ?? null;
}

function raisePlan(plan: Json): Json {
  const engine = isObject(plan.engine) ? plan.engine : {};
  const kinds = isObject(plan.kinds) ? plan.kinds : {};
  const isDouble = (kindId: unknown): boolean => {
    const kind = typeof kindId === 'string' && Object.hasOwn(kinds, kindId) ? kinds[kindId] : null;
    return isObject(kind) && list(kind.traits).some((one) => isObject(one) && one.type === 'coil' && one.serves === 2);
  };
  const devices = list(plan.devices).map((device) => {
    if (!isObject(device)) return device;
    const { cylinder, ...rest } = device;
    if (typeof cylinder !== 'number') return { ...rest, serves: [], row: 1 };
    const partner = isDouble(device.kindId) ? partnerOf(engine, cylinder) : null;
    const serves = partner === null ? [cylinder] : [cylinder, partner].sort((one, other) => one - other);
    return { ...rest, serves, row: 1 };
  });
  return { ...plan, engine: { ...engine, plugs: 1, trailingDegrees: 0, injectors: 1 }, devices, buses: busesOf(plan) };
}

/** Every device on CAN had a pair of its own: that stays its bus; one that found no pair joins the first bus of its rate. */
function busesOf(plan: Json): Json[] {
  const kinds = isObject(plan.kinds) ? plan.kinds : {};
  const assignments = isObject(plan.assignments) ? plan.assignments : {};
  const buses: { id: string; name: string; kilobits: number; members: string[] }[] = [];
  const speakers = list(plan.devices).flatMap((device) => {
    if (!isObject(device) || typeof device.kindId !== 'string' || typeof device.id !== 'string') return [];
    const kind = Object.hasOwn(kinds, device.kindId) ? kinds[device.kindId] : null;
    const can = isObject(kind) ? list(kind.traits).find((one) => isObject(one) && one.type === 'can') : null;
    if (!isObject(can) || typeof can.kilobits !== 'number') return [];
    const { id } = device;
    const placed = Object.keys(assignments).some((needId) => needId.slice(0, needId.lastIndexOf('.')) === id);
    return [{ id, placed, kilobits: can.kilobits }];
  });
  for (const { id, placed, kilobits } of [
    ...speakers.filter((one) => one.placed),
    ...speakers.filter((one) => !one.placed),
  ]) {
    const there = placed ? undefined : buses.find((bus) => bus.kilobits === kilobits);
    if (there) there.members.push(id);
    else
      buses.push({
        id: `can-${buses.length + 1}`,
        name: `CAN ${buses.length + 1}`,
        kilobits,
        members: [id],
      });
  }
  return buses.slice(0, 16);
}

export const serves: Migration = {
  from: 5,
  name: 'serves',
  migrate: (file) => ({
    ...raisePlan(file),
    revisions: list(file.revisions).map((revision) =>
      isObject(revision) && isObject(revision.plan) ? { ...revision, plan: raisePlan(revision.plan) } : revision,
    ),
  }),
};

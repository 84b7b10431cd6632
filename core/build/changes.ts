import { z } from 'zod';

/**
 * One kind of difference for undo, journal, revisions and tabs: what was added, changed or removed, by path. Values are plain
 * JSON, so a difference survives storage. Lists of records are compared by their ids, other lists by what stands before and
 * behind the place that changed: one record added to a list of thousands is a difference of one record.
 */

/** A key of a record, a place in a list, or the record with that id in a list. */
const stepSchema = z.union([z.string(), z.number(), z.object({ id: z.string() })]);
const pathSchema = z.array(stepSchema);
type PathStep = z.infer<typeof stepSchema>;

/** Part of a list replaced: `cut` stood at `at`, `put` stands there now. */
const spliceSchema = z.object({
  path: pathSchema,
  at: z.int().min(0),
  cut: z.array(z.unknown()),
  put: z.array(z.unknown()),
});
/** A record that came into a list (`to`) or left it (`from`), and its place there. */
const memberSchema = z.object({
  path: pathSchema,
  place: z.int().min(0),
  from: z.unknown().optional(),
  to: z.unknown().optional(),
});
/** The same records in another order, by id. */
const orderSchema = z.object({ path: pathSchema, before: z.array(z.string()), after: z.array(z.string()) });
const valueSchema = z.object({
  path: pathSchema,
  /** Absent: added. */
  from: z.unknown().optional(),
  /** Absent: removed. */
  to: z.unknown().optional(),
});
// The last one would take any of the others and strip it: it is tried last.
export const changeSchema = z.union([spliceSchema, memberSchema, orderSchema, valueSchema]);
export type Change = z.infer<typeof changeSchema>;

type Path = PathStep[];
type Identified = { readonly id: string };

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const same = (one: unknown, other: unknown): boolean =>
  Object.is(one, other) || JSON.stringify(one) === JSON.stringify(other);

/** The list by id, when every member is a record with an id of its own. */
function byId(list: readonly unknown[]): Map<string, Identified> | null {
  const map = new Map<string, Identified>();
  for (const value of list) {
    if (!isRecord(value) || typeof value.id !== 'string' || map.has(value.id)) return null;
    map.set(value.id, value as unknown as Identified);
  }
  return map;
}

function diffRecords(before: Map<string, Identified>, after: Map<string, Identified>, path: Path): Change[] {
  const [old, fresh] = [[...before.keys()], [...after.keys()]];
  const left = old.flatMap((id, place): Change[] =>
    after.has(id) ? [] : [{ path: [...path, { id }], place, from: before.get(id) }],
  );
  const came = fresh.flatMap((id, place): Change[] =>
    before.has(id) ? [] : [{ path: [...path, { id }], place, to: after.get(id) }],
  );
  const [stayed, stand] = [old.filter((id) => after.has(id)), fresh.filter((id) => before.has(id))];
  const moved: Change[] = stayed.every((id, i) => id === stand[i]) ? [] : [{ path, before: stayed, after: stand }];
  const within = stand.flatMap((id) => diff(before.get(id), after.get(id), [...path, { id }]));
  // What left goes from the back, so that the places before it hold; what came is put in from the front.
  return [...left.reverse(), ...moved, ...came, ...within];
}

function diffLists(before: readonly unknown[], after: readonly unknown[], path: Path): Change[] {
  const [old, fresh] = [byId(before), byId(after)];
  if (old && fresh && old.size + fresh.size > 0) return diffRecords(old, fresh, path);
  if (before.length === after.length)
    return before.flatMap((value, index) => diff(value, after[index], [...path, index]));
  const least = Math.min(before.length, after.length);
  let head = 0;
  while (head < least && same(before[head], after[head])) head += 1;
  let tail = 0;
  while (tail < least - head && same(before[before.length - 1 - tail], after[after.length - 1 - tail])) tail += 1;
  return [
    { path, at: head, cut: before.slice(head, before.length - tail), put: after.slice(head, after.length - tail) },
  ];
}

/** Differences that turn `before` into `after`. Shared structure is skipped by reference. */
export function diff(before: unknown, after: unknown, path: Path = []): Change[] {
  if (Object.is(before, after)) return [];
  if (Array.isArray(before) && Array.isArray(after)) return diffLists(before, after, path);
  if (isRecord(before) && isRecord(after)) {
    const keys = new Set([...Object.keys(before), ...Object.keys(after)]);
    return [...keys].flatMap((key): Change[] => {
      if (!Object.hasOwn(after, key)) return [{ path: [...path, key], from: before[key] }];
      if (!Object.hasOwn(before, key)) return [{ path: [...path, key], to: after[key] }];
      return diff(before[key], after[key], [...path, key]);
    });
  }
  if (JSON.stringify(before) === JSON.stringify(after)) return [];
  return [{ path, from: before, to: after }];
}

export const invert = (changes: readonly Change[]): Change[] =>
  [...changes].reverse().map((change): Change => {
    const { path } = change;
    if ('cut' in change) return { path, at: change.at, cut: change.put, put: change.cut };
    if ('before' in change) return { path, before: change.after, after: change.before };
    return {
      path,
      ...('place' in change ? { place: change.place } : {}),
      ...('to' in change ? { from: change.to } : {}),
      ...('from' in change ? { to: change.from } : {}),
    };
  });

/** The list with one change of its own made. */
function changeList(list: readonly unknown[], change: Change): unknown[] {
  if ('cut' in change)
    return [...list.slice(0, change.at), ...change.put, ...list.slice(change.at + change.cut.length)];
  if ('before' in change) {
    const members = byId(list) ?? new Map<string, Identified>();
    // The moved take the places the moved had; whoever is not named keeps its own.
    const named = new Set(change.after);
    const queue = change.after.flatMap((id) => members.get(id) ?? []);
    return list.map((value) => (named.has((value as Identified).id) ? (queue.shift() ?? value) : value));
  }
  const { place } = change as z.infer<typeof memberSchema>;
  if ('to' in change) return [...list.slice(0, place), change.to, ...list.slice(place)];
  const last = change.path[change.path.length - 1] as Identified;
  return list.filter((value) => (value as Identified).id !== last.id);
}

/** Steps of the path to the value the change is made on: a member is changed on its list. */
const depthOf = (change: Change): number => ('place' in change ? change.path.length - 1 : change.path.length);

function applyOne(target: unknown, change: Change, depth: number): unknown {
  if (depth === depthOf(change)) {
    if ('cut' in change || 'before' in change || 'place' in change)
      return changeList(Array.isArray(target) ? target : [], change);
    return change.to;
  }
  const key = change.path[depth];
  if (Array.isArray(target)) {
    const list = target as unknown[];
    const index = typeof key === 'object' ? list.findIndex((one) => isRecord(one) && one.id === key.id) : Number(key);
    // A record that is not there any more: the change has nothing to act on.
    if (index < 0) return list;
    const copy = [...list];
    copy[index] = applyOne(copy[index], change, depth + 1);
    return copy;
  }
  const copy: Record<string, unknown> = { ...(target as Record<string, unknown>) };
  const name = String(key);
  if (
    depth === change.path.length - 1 &&
    !('to' in change) &&
    depthOf(change) === change.path.length &&
    'from' in change
  )
    delete copy[name];
  else copy[name] = applyOne(copy[name], change, depth + 1);
  return copy;
}

/** Applies differences in order; the input is not touched. */
export const applyChanges = <T>(target: T, changes: readonly Change[]): T =>
  changes.reduce<unknown>((value, change) => applyOne(value, change, 0), target) as T;

import { draftSchema, type EcuDraft } from '~/core/ecu/draft';
import { ecuSchema, type EcuDefinition } from '~/core/ecu/ecu';
import { parseEcuFile } from '~/core/ecu/file';
import { freeKindId, parseLibrary } from '~/core/devices/library';
import { kindSchema, type DeviceKind } from '~/core/devices/kind';
import { ok, type Result } from '~/core/problem';
import { parseWheelFile } from '~/core/trigger/file';
import { wheelDraftSchema, type WheelDraft } from '~/core/trigger/teeth';
import { wheelSchema, type Wheel } from '~/core/wheels/wheel';
import { database, type Database } from './database';

/** Everything of a store that can still be read, by name. What cannot is left where it is and not shown. */
async function readable<T>(
  store: Database['library'],
  read: (value: unknown) => T | null,
  nameOf: (value: T) => string,
): Promise<T[]> {
  const values = await Promise.all((await store.keys()).map((key) => store.getItem<unknown>(key)));
  return values.flatMap((value) => read(value) ?? []).sort((one, other) => nameOf(one).localeCompare(nameOf(other)));
}
const parsedBy =
  <T>(schema: { safeParse: (value: unknown) => { success: true; data: T } | { success: false } }) =>
  (value: unknown): T | null => {
    const parsed = schema.safeParse(value);
    return parsed.success ? parsed.data : null;
  };

/** The person's own kinds, by name. One that cannot be read any more is left where it is and not shown. */
export const ownKinds = (db: Pick<Database, 'library'> = database()): Promise<DeviceKind[]> =>
  readable(db.library, parsedBy(kindSchema), (kind) => kind.name);

export const keepOwnKind = (kind: DeviceKind, db: Pick<Database, 'library'> = database()) =>
  db.library.setItem(kind.id, kind);
export const dropOwnKind = (id: string, db: Pick<Database, 'library'> = database()) => db.library.removeItem(id);

/** Kinds of a file beside those kept: same id and same content is skipped, same id and other content is told apart. */
export async function compareKinds(
  text: string,
  db: Pick<Database, 'library'> = database(),
): Promise<Result<{ fresh: DeviceKind[]; changed: DeviceKind[]; same: number }>> {
  const parsed = parseLibrary(text);
  if (!parsed.ok) return parsed;
  const kept = new Map((await ownKinds(db)).map((kind) => [kind.id, JSON.stringify(kind)]));
  const fresh = parsed.value.filter((kind) => !kept.has(kind.id));
  const changed = parsed.value.filter((kind) => kept.has(kind.id) && kept.get(kind.id) !== JSON.stringify(kind));
  return ok({ fresh, changed, same: parsed.value.length - fresh.length - changed.length });
}

/** The person's own ECU definitions, by model. */
export const ownEcus = (db: Pick<Database, 'ecus'> = database()): Promise<EcuDefinition[]> =>
  readable(db.ecus, parsedBy(ecuSchema), (ecu) => ecu.model);
export const keepOwnEcu = (ecu: EcuDefinition, db: Pick<Database, 'ecus'> = database()) => db.ecus.setItem(ecu.id, ecu);
export const dropOwnEcu = (id: string, db: Pick<Database, 'ecus'> = database()) => db.ecus.removeItem(id);

/** What the catalog serves with the person's own before it: kinds and ECUs that may be called in. */
export async function withOwn(served: { kinds: readonly DeviceKind[]; ecus: readonly EcuDefinition[] }): Promise<{
  kinds: readonly DeviceKind[];
  ecus: readonly EcuDefinition[];
  own: readonly string[];
}> {
  const [kinds, ecus] = await Promise.all([ownKinds(), ownEcus()]);
  return {
    kinds: [...kinds, ...served.kinds],
    ecus: [...ecus, ...served.ecus],
    own: kinds.map((kind) => kind.id),
  };
}

/** Definitions in the making, by model. */
export const ecuDrafts = (db: Pick<Database, 'drafts'> = database()): Promise<EcuDraft[]> =>
  readable(db.drafts, parsedBy(draftSchema), (draft) => draft.model);
export async function ecuDraft(id: string, db: Pick<Database, 'drafts'> = database()): Promise<EcuDraft | null> {
  return parsedBy(draftSchema)(await db.drafts.getItem<unknown>(id));
}
export const keepDraft = (draft: EcuDraft, db: Pick<Database, 'drafts'> = database()) =>
  db.drafts.setItem(draft.id, draft);
export const dropDraft = (id: string, db: Pick<Database, 'drafts'> = database()) => db.drafts.removeItem(id);

/** ECUs of a file beside those kept: one with the same id and other content gets an id of its own, none is overwritten. */
export async function importEcus(
  text: string,
  db: Pick<Database, 'ecus'> = database(),
): Promise<Result<{ fresh: EcuDefinition[]; same: number }>> {
  const parsed = parseEcuFile(text);
  if (!parsed.ok) return parsed;
  return ok(
    freshBeside(await ownEcus(db), parsed.value, (ecu, id) => ({
      ...ecu,
      id,
      model: `${ecu.model.slice(0, 48)} (imported)`,
    })),
  );
}

/** Things of a file beside those kept: one with an id in use and other content gets an id of its own by `renamed`. */
function freshBeside<T extends { readonly id: string }>(
  kept: readonly T[],
  read: readonly T[],
  renamed: (one: T, id: string) => T,
): { fresh: T[]; same: number } {
  const ids = new Set(kept.map(({ id }) => id));
  const known = new Set(kept.map((one) => JSON.stringify(one)));
  const other = read.filter((one) => !known.has(JSON.stringify(one)));
  const fresh = other.map((one) => {
    const id = freeKindId(one.id, ids);
    ids.add(id);
    return id === one.id ? one : renamed(one, id);
  });
  return { fresh, same: read.length - other.length };
}

/** The person's own wheels, by name. */
export const ownWheels = (db: Pick<Database, 'wheels'> = database()): Promise<Wheel[]> =>
  readable(db.wheels, parsedBy(wheelSchema), (wheel) => wheel.name);
export const keepOwnWheel = (wheel: Wheel, db: Pick<Database, 'wheels'> = database()) =>
  db.wheels.setItem(wheel.id, wheel);
export const dropOwnWheel = (id: string, db: Pick<Database, 'wheels'> = database()) => db.wheels.removeItem(id);

/** The catalog's wheels with the person's own before them; one of the catalog's id stands in for it. */
export async function withOwnWheels<T extends { wheels: readonly Wheel[] }>(
  served: T,
): Promise<T & { own: readonly string[] }> {
  const own = await ownWheels();
  const ids = own.map(({ id }) => id);
  return { ...served, wheels: [...own, ...served.wheels.filter(({ id }) => !ids.includes(id))], own: ids };
}

/** Wheels of a file beside those kept; none kept is written over. */
export async function importWheels(
  text: string,
  db: Pick<Database, 'wheels'> = database(),
): Promise<Result<{ fresh: Wheel[]; same: number }>> {
  const parsed = parseWheelFile(text);
  if (!parsed.ok) return parsed;
  return ok(
    freshBeside(await ownWheels(db), parsed.value, (wheel, id) => ({
      ...wheel,
      id,
      name: `${wheel.name.slice(0, 68)} (imported)`,
    })),
  );
}

/** The one wheel on the drawing board, kept among the drafts under a name no ECU has. */
const WHEEL_DRAFT = 'wheel on the board';
export async function wheelDraft(db: Pick<Database, 'drafts'> = database()): Promise<WheelDraft | null> {
  return parsedBy(wheelDraftSchema)(await db.drafts.getItem<unknown>(WHEEL_DRAFT));
}
export const keepWheelDraft = (draft: WheelDraft, db: Pick<Database, 'drafts'> = database()) =>
  db.drafts.setItem(WHEEL_DRAFT, draft);
export const dropWheelDraft = (db: Pick<Database, 'drafts'> = database()) => db.drafts.removeItem(WHEEL_DRAFT);

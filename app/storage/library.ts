import { draftSchema, type EcuDraft } from '~/core/ecu/draft';
import { ecuSchema, type EcuDefinition } from '~/core/ecu/ecu';
import { parseEcuFile } from '~/core/ecu/file';
import { freeKindId, parseLibrary } from '~/core/devices/library';
import { kindSchema, type DeviceKind } from '~/core/devices/kind';
import { ok, type Result } from '~/core/problem';
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
  const kept = await ownEcus(db);
  const ids = new Set(kept.map((ecu) => ecu.id));
  const same = parsed.value.filter((ecu) => kept.some((one) => JSON.stringify(one) === JSON.stringify(ecu)));
  const fresh = parsed.value
    .filter((ecu) => !same.includes(ecu))
    .map((ecu) => {
      const id = freeKindId(ecu.id, ids);
      ids.add(id);
      return id === ecu.id ? ecu : { ...ecu, id, model: `${ecu.model.slice(0, 48)} (imported)` };
    });
  return ok({ fresh, same: same.length });
}

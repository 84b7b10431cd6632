import { parseLibrary } from '~/core/devices/library';
import { kindSchema, type DeviceKind } from '~/core/devices/kind';
import { ok, type Result } from '~/core/problem';
import { database, type Database } from './database';

/** The person's own kinds, by name. One that cannot be read any more is left where it is and not shown. */
export async function ownKinds(db: Pick<Database, 'library'> = database()): Promise<DeviceKind[]> {
  const keys = await db.library.keys();
  const kinds = await Promise.all(keys.map((key) => db.library.getItem<unknown>(key)));
  return kinds
    .flatMap((kind) => {
      const parsed = kindSchema.safeParse(kind);
      return parsed.success ? [parsed.data] : [];
    })
    .sort((one, other) => one.name.localeCompare(other.name));
}

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

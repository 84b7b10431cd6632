import { dropLeft } from './left';
import { entryKey } from './read';
import { keysOf, tuple, type AsideEntry, type Database } from './database';

/** An entry that stands on no state there is, and its key in the journal. */
export interface Orphan {
  readonly key: string;
  readonly entry: unknown;
}

/** Puts entries that stand on nothing aside, under their own keys, before they leave the journal. For who holds the pen. */
export async function putAside(
  db: Pick<Database, 'aside' | 'journal'>,
  {
    build,
    orphans,
  }: { readonly build: { readonly id: string; readonly name: string }; readonly orphans: readonly Orphan[] },
  at: string,
): Promise<void> {
  for (const { key, entry } of orphans) {
    const kept: AsideEntry = { buildId: build.id, buildName: build.name, putAsideAt: at, entry };
    await db.aside.setItem(tuple(build.id, key), kept);
    await db.journal.removeItem(key);
    dropLeft(build.id, (head) => entryKey(build.id, head) === key);
  }
}

/** What was put aside of a build. */
export async function asideOf(db: Pick<Database, 'aside'>, id: string): Promise<AsideEntry[]> {
  const keys = await keysOf(db.aside, id);
  const kept = await Promise.all(keys.map((key) => db.aside.getItem<AsideEntry>(key)));
  return kept.filter((one) => one !== null);
}
export async function dropAside(db: Pick<Database, 'aside'>, id: string): Promise<void> {
  for (const key of await keysOf(db.aside, id)) await db.aside.removeItem(key);
}

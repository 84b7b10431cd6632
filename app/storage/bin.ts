import { fail, ok, type Result } from '~/core/problem';
import { keysOf, partsOf, type BinRecord, type BuildCard, type Database, type Snapshot } from './database';
import { dropLeft } from './left';
import { refusedProblem } from './failure';
import { BIN_DAYS } from './whereabouts';
import { sweepPhotos } from './photos';
import { dropAside } from './aside';

const DAY = 86_400_000;

/**
 * Deletes a build: one record says so, and everything stays where it was. One write, so that there is nothing in between. A
 * device too full for it says so: then only deleting for good is left.
 */
export async function binBuild(db: Database, id: string, at: string): Promise<Result<null>> {
  try {
    const card = await db.cards.getItem<BuildCard>(id);
    const snapshot = card ? null : await db.snapshots.getItem<Snapshot>(id);
    if (!card && !snapshot) return fail('no-build', id, 'This build is not on this device any more.');
    await db.bin.setItem<BinRecord>(id, { id, at, card: card ?? nameless(id, at) });
    return ok(null);
  } catch (error) {
    const { code } = refusedProblem(error, '');
    return fail(
      code === 'quota' ? 'bin-full' : 'bin-refused',
      id,
      'There is no room on this device even to keep the build in the bin. Export it first, or delete it for good.',
    );
  }
}

const nameless = (id: string, at: string): BuildCard => ({
  id,
  name: 'A build without a name',
  vehicle: '',
  engine: '',
  ecu: '',
  changedAt: at,
  devices: 0,
  provedShare: 0,
});

/** Brings a build back: its record leaves the bin, which needs no room. */
export async function restoreBuild(db: Database, id: string): Promise<Result<null>> {
  const record = await db.bin.getItem<BinRecord>(id);
  if (!record)
    return fail('no-build', id, 'There is nothing to bring back: it is in the garage, or was deleted for good.');
  if ((await db.snapshots.getItem(id)) === null)
    return fail('no-build', id, 'There is nothing to bring back: the build was deleted for good.');
  await db.bin.removeItem(id);
  return ok(null);
}

/**
 * Deletes for good. Nothing but removals, which a full device allows; the snapshot goes first, and what is left behind by a
 * crash is swept when the bin is looked at. The record stays a while without a card, so that no tab brings the build back.
 */
export async function purgeBuild(db: Database, id: string, at: string): Promise<void> {
  await db.snapshots.removeItem(id);
  await sweepRest(db, id);
  try {
    await db.bin.setItem<BinRecord>(id, { id, at, card: null });
  } catch {
    // No room even for the mark: a tab that had the build open finds nothing to read, and writes nothing.
    await db.bin.removeItem(id);
  }
}

/** Everything a build without a snapshot may have left. */
async function sweepRest(db: Database, id: string): Promise<void> {
  await db.cards.removeItem(id);
  await db.captures.removeItem(id);
  await db.typed.removeItem(id);
  dropLeft(id, () => true);
  for (const store of [db.journal, db.steps]) for (const key of await keysOf(store, id)) await store.removeItem(key);
  for (const key of (await db.journal.keys()).filter(
    (key) => !partsOf(key) && key.slice(0, key.lastIndexOf('|')) === id,
  ))
    await db.journal.removeItem(key);
  await sweepPhotos(db, id, () => false);
  await dropAside(db, id);
}

/** What is in the bin, last deleted first. Removes what has been there too long, and marks that have done their work. */
export async function lookInBin(db: Database, now: Date): Promise<BinRecord[]> {
  const records = (await Promise.all((await db.bin.keys()).map((key) => db.bin.getItem<BinRecord>(key)))).filter(
    (one) => one !== null,
  );
  const kept: BinRecord[] = [];
  for (const record of records) {
    const old = now.getTime() - Date.parse(record.at) > BIN_DAYS * DAY;
    if (record.card === null) {
      if (old) await db.bin.removeItem(record.id);
    } else if (old || (await db.snapshots.getItem(record.id)) === null)
      await purgeBuild(db, record.id, now.toISOString());
    else kept.push(record);
  }
  return kept.sort((a, b) => (a.at < b.at ? 1 : -1));
}

/** Ids of deleted builds. */
export const binned = async (db: Pick<Database, 'bin'>): Promise<Set<string>> => new Set(await db.bin.keys());

/** Copies an earlier version kept in its bin become builds in this one's bin. Each step can be the last one. */
export async function adoptTrash(db: Database): Promise<void> {
  const keys = await db.trash.keys();
  for (const id of keys.filter((key) => !key.endsWith('|card'))) {
    const [snapshot, card] = [await db.trash.getItem<Snapshot>(id), await db.trash.getItem<BuildCard>(`${id}|card`)];
    const taken = (await db.snapshots.getItem(id)) !== null && !(await db.bin.getItem(id));
    if (snapshot && !taken) {
      const at = snapshot.savedAt ?? new Date(0).toISOString();
      await db.bin.setItem<BinRecord>(id, { id, at: new Date().toISOString(), card: card ?? nameless(id, at) });
      await db.snapshots.setItem(id, snapshot);
      if (card) await db.cards.setItem(id, card);
    }
    await db.trash.removeItem(id);
  }
  // Their cards, also of a take-over that broke off.
  for (const key of keys.filter((one) => one.endsWith('|card'))) await db.trash.removeItem(key);
}

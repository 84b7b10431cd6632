import { dropCaptures } from './captures';
import { partsOf, type BinRecord, type Database } from './database';
import { purgeBuild } from './bin';
import { sweepPhotos } from './photos';

/** What the app takes of the device, bytes; null where the browser does not tell. */
export async function usage(): Promise<{ used: number; quota: number } | null> {
  if (!('storage' in navigator)) return null;
  try {
    const { usage: used, quota } = await navigator.storage.estimate();
    return used === undefined || quota === undefined ? null : { used, quota };
  } catch {
    // A private window may refuse: then nothing is shown.
    return null;
  }
}

/** Asks the browser, once there is a build of the person's own, not to clear the stores by itself. */
export async function askToStay(): Promise<boolean> {
  try {
    if (!('storage' in navigator) || (await navigator.storage.persisted())) return true;
    return await navigator.storage.persist();
  } catch {
    // Refused or not known: the stores are as safe as the browser keeps them.
    return false;
  }
}

/** Makes room: the bin, kept captures, and pictures of builds that are there no more. Removals only. */
export async function freeRoom(
  db: Database,
  at: string,
): Promise<{ builds: number; captures: number; photos: number }> {
  const records = await Promise.all((await db.bin.keys()).map((key) => db.bin.getItem<BinRecord>(key)));
  const deleted = records.filter((one) => one !== null && one.card !== null) as BinRecord[];
  for (const { id } of deleted) await purgeBuild(db, id, at);
  const captures = await dropCaptures(db);
  const builds = new Set(await db.snapshots.keys());
  const named = new Set(
    (await db.photos.keys()).map((key) => String(partsOf(key)?.[0] ?? key.slice(0, key.lastIndexOf('|')))),
  );
  let photos = 0;
  for (const id of named) if (!builds.has(id)) photos += await sweepPhotos(db, id, () => false);
  return { builds: deleted.length, captures, photos };
}

import type { BuildCard, Database, Snapshot } from './database';

/** The line of a build whose card was never written, from what its snapshot says of itself. */
async function cardFrom(db: Pick<Database, 'snapshots'>, id: string): Promise<BuildCard | null> {
  const snapshot = await db.snapshots.getItem<Snapshot>(id);
  if (!snapshot) return null;
  const build = snapshot.build as {
    name?: unknown;
    vehicle?: unknown;
    engine?: { name?: unknown };
    ecu?: { model?: unknown };
    devices?: unknown[];
  } | null;
  const text = (value: unknown) => (typeof value === 'string' ? value : '');
  return {
    id,
    name: text(build?.name) || 'A build without a name',
    vehicle: text(build?.vehicle),
    engine: text(build?.engine?.name),
    ecu: text(build?.ecu?.model),
    changedAt: snapshot.savedAt ?? '',
    devices: build?.devices?.length ?? 0,
    provedShare: 0,
  };
}

/**
 * Every build of this device that is not in the bin, last changed first. Knows nothing of what a build holds, so that the
 * garage opens fast; a build whose card was lost is listed all the same.
 */
export async function listCards(db: Pick<Database, 'cards' | 'snapshots' | 'bin'>): Promise<BuildCard[]> {
  const [ids, gone] = await Promise.all([db.snapshots.keys(), db.bin.keys()]);
  const deleted = new Set(gone);
  const cards = await Promise.all(
    ids.filter((id) => !deleted.has(id)).map(async (id) => (await db.cards.getItem<BuildCard>(id)) ?? cardFrom(db, id)),
  );
  return cards.filter((card) => card !== null).sort((a, b) => (a.changedAt < b.changedAt ? 1 : -1));
}

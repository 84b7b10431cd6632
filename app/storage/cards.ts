import type { BuildCard, Database } from './database';

/** Every build of this device, last changed first. Knows nothing of what a build holds, so that the garage opens fast. */
export async function listCards(db: Pick<Database, 'cards'>): Promise<BuildCard[]> {
  const keys = await db.cards.keys();
  const cards = await Promise.all(keys.map((key) => db.cards.getItem<BuildCard>(key)));
  return cards.filter((card) => card !== null).sort((a, b) => (a.changedAt < b.changedAt ? 1 : -1));
}

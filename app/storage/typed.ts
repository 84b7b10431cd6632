import { z } from 'zod';
import { database, type Database } from './database';

/** Text typed into a field and not entered: what the field showed before, what it shows now. */
const typedSchema = z.record(z.string(), z.object({ shown: z.string(), text: z.string().max(20_000) }));
export type TypedTexts = z.infer<typeof typedSchema>;
type TypedStore = Pick<Database, 'typed'>;

/** Written when the page goes, faster than any store: the browser takes it over at once. */
const leavingKey = (buildId: string): string => `gonyx-typed-${buildId}`;

/** What was being typed on a build; what was written on leaving is newer than what the store holds. */
export async function readTyped(buildId: string, db: TypedStore = database()): Promise<TypedTexts> {
  try {
    const leaving = localStorage.getItem(leavingKey(buildId));
    if (leaving !== null) {
      const parsed = typedSchema.safeParse(JSON.parse(leaving));
      // The store first: what is older there must not show again once this is gone.
      if (parsed.success) await writeTyped(buildId, parsed.data, db);
      localStorage.removeItem(leavingKey(buildId));
      if (parsed.success) return parsed.data;
    }
    return typedSchema.safeParse(await db.typed.getItem<unknown>(buildId)).data ?? {};
  } catch {
    // Storage turned off: nothing was kept.
    return {};
  }
}

export const writeTyped = (buildId: string, texts: TypedTexts, db: TypedStore = database()): Promise<unknown> =>
  Object.keys(texts).length === 0 ? db.typed.removeItem(buildId) : db.typed.setItem(buildId, texts);

/** For a page that is being left; `stored` says that the store holds just this. */
export function writeOnLeaving(buildId: string, texts: TypedTexts, stored: boolean): void {
  try {
    if (stored) localStorage.removeItem(leavingKey(buildId));
    else localStorage.setItem(leavingKey(buildId), JSON.stringify(texts));
  } catch {
    // No room or turned off: the store has what was typed up to a moment ago.
  }
}

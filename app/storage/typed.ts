import { z } from 'zod';
import { database, type Database } from './database';

/** Text typed into a field and not entered: what the field showed before, what it shows now. */
const typedSchema = z.record(z.string(), z.object({ shown: z.string(), text: z.string().max(20_000) }));
export type TypedTexts = z.infer<typeof typedSchema>;

/** Written when the page goes, faster than any store: the browser takes it over at once. */
const leavingKey = (buildId: string): string => `gonyx-typed-${buildId}`;

/** What was being typed on a build; what was written on leaving is newer than what the store holds. */
export async function readTyped(buildId: string, db: Pick<Database, 'typed'> = database()): Promise<TypedTexts> {
  try {
    const leaving = localStorage.getItem(leavingKey(buildId));
    if (leaving !== null) {
      localStorage.removeItem(leavingKey(buildId));
      const parsed = typedSchema.safeParse(JSON.parse(leaving));
      if (parsed.success) return parsed.data;
    }
    return typedSchema.safeParse(await db.typed.getItem<unknown>(buildId)).data ?? {};
  } catch {
    // Storage turned off: nothing was kept.
    return {};
  }
}

export const writeTyped = (buildId: string, texts: TypedTexts, db: Pick<Database, 'typed'> = database()) =>
  Object.keys(texts).length === 0 ? db.typed.removeItem(buildId) : db.typed.setItem(buildId, texts);

/** For a page that is being left. */
export function writeOnLeaving(buildId: string, texts: TypedTexts): void {
  try {
    if (Object.keys(texts).length === 0) localStorage.removeItem(leavingKey(buildId));
    else localStorage.setItem(leavingKey(buildId), JSON.stringify(texts));
  } catch {
    // No room or turned off: the store has what was typed up to a moment ago.
  }
}

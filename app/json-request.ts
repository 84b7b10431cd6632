import type { z } from 'zod';

/** How a page sends JSON to its own action. */
export const asJson = { method: 'post', encType: 'application/json' } as const;

/** What a page sends its action, written and read by one schema. Our own pages send nothing else: another shape throws. */
export const jsonRequest = <T>(schema: z.ZodType<T>) => ({
  write: (action: T): string => JSON.stringify(action),
  read: async (request: Request): Promise<T> => schema.parse(await request.json()),
});

/** Writes that replace each other: one that was asked earlier and arrives later is not carried out. */
export class Newest {
  private asked = 0;
  private done = 0;
  /** Takes a number, when it is asked. */
  ask(): number {
    this.asked += 1;
    return this.asked;
  }
  /** Whether this is newer than all that was carried out; takes it for done. */
  take(number: number): boolean {
    if (number < this.done) return false;
    this.done = number;
    return true;
  }
}

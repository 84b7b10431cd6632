import { z } from 'zod';
import { changeSchema } from '~/core/build/changes';
import type { Head, JournalEntry } from './database';

const headShape = { writer: z.string(), sequence: z.int() };
const entrySchema = z.object({
  ...headShape,
  after: z.object(headShape),
  at: z.string(),
  move: z.enum(['do', 'undo', 'redo']),
  label: z.string(),
  changes: z.array(changeSchema).readonly(),
});
const leftKey = (id: string): string => `gonyx-left-${id}`;
const isSame = (one: Head, other: Head): boolean => one.writer === other.writer && one.sequence === other.sequence;

/**
 * Changes that were on their way to the journal when their page went: the store may not have taken them over any more. They
 * are read as if they stood in the journal, until a snapshot contains them.
 */
export function leftEntries(id: string): readonly JournalEntry[] {
  try {
    const text = localStorage.getItem(leftKey(id));
    return text === null ? [] : (z.array(entrySchema).safeParse(JSON.parse(text)).data ?? []);
  } catch {
    // Storage turned off, or no text of ours: nothing was left.
    return [];
  }
}

/**
 * For a page that is being left: this storage takes over at once. What an earlier page left stays until a snapshot has it.
 * Answers whether all of it is kept.
 */
export function keepLeft(id: string, entries: readonly JournalEntry[]): boolean {
  if (entries.length === 0) return true;
  const before = leftEntries(id).filter((one) => !entries.some((other) => isSame(one, other)));
  try {
    localStorage.setItem(leftKey(id), JSON.stringify([...before, ...entries]));
    return true;
  } catch {
    // No room or turned off: the store's own write is under way, and may yet be done.
    return false;
  }
}

/** Drops those that a snapshot contains, or that were put aside. */
export function dropLeft(id: string, isKept: (entry: Head) => boolean): void {
  const entries = leftEntries(id);
  const rest = entries.filter((entry) => !isKept(entry));
  if (rest.length === entries.length && rest.length > 0) return;
  try {
    if (rest.length === 0) localStorage.removeItem(leftKey(id));
    else localStorage.setItem(leftKey(id), JSON.stringify(rest));
  } catch {
    // It is known to be contained wherever it is read again.
  }
}

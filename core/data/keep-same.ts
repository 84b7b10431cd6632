/** Whether two plain values say the same: by identity where they share, else key by key. */
export function isSame(one: unknown, other: unknown): boolean {
  if (Object.is(one, other)) return true;
  if (typeof one !== 'object' || typeof other !== 'object' || one === null || other === null) return false;
  if (Array.isArray(one) !== Array.isArray(other)) return false;
  const [first, second] = [one as Record<string, unknown>, other as Record<string, unknown>];
  let left = 0;
  // Loops, not callbacks: this runs over all that an edit may have changed.
  for (const key in first) {
    const value = first[key];
    const there = second[key];
    if (value !== there && !isSame(value, there)) return false;
    if (there === undefined && !Object.hasOwn(second, key)) return false;
    left += 1;
  }
  for (const _ in second) left -= 1;
  return left === 0;
}

/**
 * The list with each item that says the same as before replaced by the one before: what is worked out or drawn for an item
 * then stays as it is. `before` finds the earlier item for one of the list. O(size of the items).
 */
export const keepSame = <T>(now: readonly T[], before: (item: T) => T | undefined): T[] =>
  now.map((item) => {
    const kept = before(item);
    return kept !== undefined && isSame(kept, item) ? kept : item;
  });

/** As `keepSame`, and the list before where all of it is as it was. */
export function keepList<T>(now: readonly T[], last: readonly T[] | undefined, before: (item: T) => T | undefined) {
  const kept = keepSame(now, before);
  return last?.length === kept.length && kept.every((item, i) => item === last[i]) ? last : kept;
}

/** The map before where it says the same, in the same order or not; else the new one. O(size of the values). */
export function keepMap<K, V>(now: ReadonlyMap<K, V>, before: ReadonlyMap<K, V> | undefined): ReadonlyMap<K, V> {
  const isAsBefore =
    before?.size === now.size && [...now].every(([key, value]) => before.has(key) && isSame(before.get(key), value));
  return isAsBefore ? before : now;
}

/** The set before where it holds the same; else the new one. */
export function keepSet<T>(now: ReadonlySet<T>, before: ReadonlySet<T> | undefined): ReadonlySet<T> {
  return before?.size === now.size && [...now].every((one) => before.has(one)) ? before : now;
}

/** Remembers the list it gave last, and gives what is as it was again: item by item, and the list where all of it is. */
export function sameAsBefore<T>(keyOf: (item: T) => string): (now: readonly T[]) => readonly T[] {
  let last: readonly T[] = [];
  let byKey: ReadonlyMap<string, T> = new Map();
  return (now) => {
    const kept = keepList(now, last, (item) => byKey.get(keyOf(item)));
    if (kept === last) return last;
    byKey = new Map(kept.map((one) => [keyOf(one), one]));
    last = kept;
    return kept;
  };
}

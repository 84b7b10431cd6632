const indexes = new WeakMap<readonly { readonly id: string }[], ReadonlyMap<string, { readonly id: string }>>();

/**
 * The item of a list with this id. The list is indexed once, when it is first asked, and never changes in place; of two items
 * with one id the first counts. Constant time.
 */
export function withId<T extends { readonly id: string }>(
  list: readonly T[],
  id: string | null | undefined,
): T | undefined {
  if (id === null || id === undefined) return undefined;
  let index = indexes.get(list);
  if (!index) {
    const made = new Map<string, T>();
    for (const item of list) if (!made.has(item.id)) made.set(item.id, item);
    indexes.set(list, made);
    index = made;
  }
  return index.get(id) as T | undefined;
}

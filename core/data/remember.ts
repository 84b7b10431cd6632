/** The same work on texts that come again with every edit: done once for each, the last few thousand of them kept. */
export function remember<T>(work: (text: string) => T, most = 5000): (text: string) => T {
  const known = new Map<string, T>();
  return (text) => {
    const before = known.get(text);
    if (before !== undefined) return before;
    if (known.size >= most) known.clear();
    const found = work(text);
    known.set(text, found);
    return found;
  };
}

/**
 * A short name for a value that changes when the value does: 32-bit FNV-1a (G. Fowler, L. Noll, K.-P. Vo, 1991) over its JSON.
 * For telling changes, not for security.
 */
export function hashOf(value: unknown): string {
  const text = JSON.stringify(value);
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i += 1) {
    hash ^= text.charCodeAt(i);
    hash = Math.imul(hash, 0x01000193);
  }
  return (hash >>> 0).toString(16).padStart(8, '0');
}

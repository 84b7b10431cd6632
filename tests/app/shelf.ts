/** What the browser takes over at once, as its localStorage. */
class Shelf {
  private readonly kept = new Map<string, string>();
  getItem = (key: string): string | null => this.kept.get(key) ?? null;
  setItem = (key: string, text: string): void => void this.kept.set(key, text);
  removeItem = (key: string): void => void this.kept.delete(key);
}

const before = Object.getOwnPropertyDescriptor(globalThis, 'localStorage');
/** Puts an empty shelf up in place of the browser's. */
export function putUpShelf(): void {
  Object.defineProperty(globalThis, 'localStorage', { configurable: true, value: new Shelf() });
}
export function takeShelfDown(): void {
  if (before) Object.defineProperty(globalThis, 'localStorage', before);
  else Reflect.deleteProperty(globalThis, 'localStorage');
}

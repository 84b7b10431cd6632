/** Something with a value now, told when there is another. */
export interface Told<T> {
  readonly subscribe: (listener: () => void) => () => void;
  readonly now: () => T;
}

type Values = Readonly<Record<string, unknown>>;

/**
 * One subscriber's view of a value: it notes which properties are read, and is another object only when one of those is another
 * value. `within` names properties whose own properties are noted one by one in the same way.
 */
export class Tracked<T extends object> {
  private readonly reads = new Map<string, (value: T) => unknown>();
  private shown: T;
  private handle: T;

  constructor(
    private readonly told: Told<T>,
    private readonly within: readonly (keyof T & string)[],
  ) {
    this.shown = told.now();
    this.handle = this.makeHandle();
  }

  readonly snapshot = (): T => {
    const now = this.told.now();
    if (now !== this.shown) {
      const before = this.shown;
      const isOther = [...this.reads.values()].some((read) => read(now) !== read(before));
      // What is not read is kept up to date without a word.
      this.shown = now;
      if (isOther) this.handle = this.makeHandle();
    }
    return this.handle;
  };

  private makeHandle(): T {
    const inner = new Map<string, object>(
      this.within.map((key) => [
        key,
        facade((this.shown as Values)[key] as object, (part) =>
          this.read(`${key}.${part}`, (value) => ((value as Values)[key] as Values)[part]),
        ),
      ]),
    );
    return facade(this.shown, (key) => inner.get(key) ?? this.read(key, (value) => (value as Values)[key]));
  }

  private read(path: string, of: (value: T) => unknown): unknown {
    if (!this.reads.has(path)) this.reads.set(path, of);
    return of(this.shown);
  }
}

/** An object of the same properties, each asked for when it is read. */
function facade<T extends object>(like: T, get: (key: string) => unknown): T {
  const made = {};
  for (const key of Object.keys(like)) Object.defineProperty(made, key, { enumerable: true, get: () => get(key) });
  return made as T;
}

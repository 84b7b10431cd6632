/** Something with a value now, told when there is another. */
export interface Told<T> {
  readonly subscribe: (listener: () => void) => () => void;
  readonly now: () => T;
}

type Values = Readonly<Record<string, unknown>>;
const at = (value: unknown, path: readonly string[]): unknown =>
  path.reduce<unknown>((inner, key) => (inner as Values)[key], value);

/**
 * One subscriber's view of a value: it notes which properties are read, and is another object only when one of those is another
 * value. `within` names properties, by dotted path, whose own properties are noted one by one in the same way.
 */
export class Tracked<T extends object> {
  private readonly reads = new Map<string, readonly string[]>();
  private readonly within: ReadonlySet<string>;
  private shown: T;
  private handle: T;

  constructor(
    private readonly told: Told<T>,
    within: readonly string[],
  ) {
    this.within = new Set(within);
    this.shown = told.now();
    this.handle = this.facade(this.shown, []) as T;
  }

  readonly snapshot = (): T => {
    const now = this.told.now();
    if (now !== this.shown) {
      const before = this.shown;
      const isOther = [...this.reads.values()].some((path) => at(now, path) !== at(before, path));
      // What is not read is kept up to date without a word.
      this.shown = now;
      if (isOther) this.handle = this.facade(now, []) as T;
    }
    return this.handle;
  };

  /** An object of the same properties, each noted when it is read. */
  private facade(like: object, path: readonly string[]): object {
    const made = {};
    for (const key of Object.keys(like)) {
      const own = [...path, key];
      const name = own.join('.');
      let inner: object | null = null;
      const get = this.within.has(name)
        ? () => (inner ??= this.facade(at(this.shown, own) as object, own))
        : () => this.read(name, own);
      Object.defineProperty(made, key, { enumerable: true, get });
    }
    return made;
  }

  private read(name: string, path: readonly string[]): unknown {
    if (!this.reads.has(name)) this.reads.set(name, path);
    return at(this.shown, path);
  }
}

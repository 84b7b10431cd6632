type Sources = Readonly<Record<string, object>>;

/** One property that was read while a value was worked out, and what it was. */
interface Read {
  readonly source: string;
  /** Null: the source itself, as when all of its keys are asked for. */
  readonly key: PropertyKey | null;
  readonly value: unknown;
}

/** The same object, noting what is read of it. */
function watched<T extends object>(source: string, target: T, note: (read: Read) => void): T {
  const seen = new Set<PropertyKey>();
  const noted = (key: PropertyKey): unknown => {
    const value: unknown = Reflect.get(target, key);
    if (!seen.has(key)) {
      seen.add(key);
      note({ source, key, value });
    }
    return value;
  };
  return new Proxy(target, {
    get: (_, key) => noted(key),
    has: (_, key) => {
      noted(key);
      return Reflect.has(target, key);
    },
    ownKeys: () => {
      note({ source, key: null, value: target });
      return Reflect.ownKeys(target);
    },
  });
}

/**
 * A step of the derivation. It is worked out again only when a property it read of its sources the last time is another value
 * now: edits share what they do not touch, so a step that reads no wires does nothing when a reading is taken. What it reads is
 * noted, not declared, and cannot be forgotten. The value must not hold a source itself, only what it read of it.
 */
export class Stage<S extends Sources, T> {
  private last: { readonly reads: readonly Read[]; readonly value: T } | null = null;

  constructor(private readonly compute: (sources: S) => T) {}

  of(sources: S): T {
    const { last } = this;
    if (last?.reads.every(({ source, key, value }) => readOf(sources[source]!, key) === value)) return last.value;
    const reads: Read[] = [];
    const note = (read: Read) => void reads.push(read);
    const entries = Object.entries(sources).map(([source, target]) => [source, watched(source, target, note)]);
    const value = this.compute(Object.fromEntries(entries) as S);
    this.last = { reads, value };
    return value;
  }
}

const readOf = (source: object, key: PropertyKey | null): unknown => (key === null ? source : Reflect.get(source, key));

import localforage from 'localforage';
import type { Change } from '~/core/build/changes';

/** What wrote last: a session of a tab, and the number of its write. */
export interface Head {
  readonly writer: string;
  readonly sequence: number;
}

/** A build as it was last written whole; the journal entries that stand on its head come on top. See docs/decisions/0012. */
export interface Snapshot extends Head {
  readonly build: unknown;
  readonly savedAt: string;
  /** Steps that can be undone, the last one last, and done again: each is kept under its own key. */
  readonly done: readonly Head[];
  readonly undone: readonly Head[];
  /** Entries this snapshot contains: those still in the journal are only waiting to be removed. */
  readonly taken: readonly Head[];
}

/** One change, written before the snapshot that contains it. It stands on exactly one state. */
export interface JournalEntry extends Head {
  readonly after: Head;
  readonly at: string;
  readonly move: 'do' | 'undo' | 'redo';
  readonly label: string;
  readonly changes: readonly Change[];
}

/** What could not be applied: kept under its own key until the person has it as a file, or drops it. */
export interface AsideEntry {
  readonly buildId: string;
  readonly buildName: string;
  readonly putAsideAt: string;
  readonly entry: unknown;
}

/** The line a build has in the garage. */
export interface BuildCard {
  readonly id: string;
  readonly name: string;
  readonly vehicle: string;
  readonly engine: string;
  readonly ecu: string;
  readonly changedAt: string;
  readonly devices: number;
  readonly provedShare: number;
}

/** A build in the bin is where it was; this record alone says that it is deleted. Without a card: deleted for good. */
export interface BinRecord {
  readonly id: string;
  readonly at: string;
  readonly card: BuildCard | null;
}

/** What the stores must do; localForage in the browser, a Map in tests. */
export interface KeyValue {
  getItem<T>(key: string): Promise<T | null>;
  setItem<T>(key: string, value: T): Promise<T>;
  removeItem(key: string): Promise<void>;
  keys(): Promise<string[]>;
}

/** Every store, with what it keeps and how long. */
const STORES = {
  snapshots: 'builds',
  journal: 'journal',
  /** Steps of the history, each written once. */
  steps: 'steps',
  cards: 'cards',
  bin: 'bin',
  /** The bin of an earlier version: copies of builds. Emptied into `bin` when the garage opens. */
  trash: 'trash',
  aside: 'aside',
  /** Text being typed, by build: kept until it is entered. */
  typed: 'typed',
  /** Pictures as blobs, by build and photo. */
  photos: 'photos',
  /** The person's own device kinds. */
  library: 'library',
  /** The person's own ECU definitions. */
  ecus: 'ecus',
  /** Definitions in the making. */
  drafts: 'drafts',
  /** The person's own wheels. */
  wheels: 'wheels',
  /** The last capture of each build, by build. */
  captures: 'captures',
} as const;

export type Database = { readonly [K in keyof typeof STORES]: KeyValue };
export const storeNames = Object.keys(STORES) as (keyof Database)[];

let opened: Database | null = null;

/** Opens the browser's stores on first use: never on the server. */
export function database(): Database {
  opened ??= Object.fromEntries(
    Object.entries(STORES).map(([key, storeName]) => [key, localforage.createInstance({ name: 'gonyx', storeName })]),
  ) as unknown as Database;
  return opened;
}

/** A key of several parts: no part can be mistaken for another, whatever it holds. */
export const tuple = (...parts: (string | number)[]): string => JSON.stringify(parts);
/** The parts of a key made by `tuple`; null for any other key. */
export function partsOf(key: string): readonly unknown[] | null {
  if (!key.startsWith('[')) return null;
  try {
    const parts = JSON.parse(key) as unknown;
    return Array.isArray(parts) ? parts : null;
  } catch {
    // Not one of these keys.
    return null;
  }
}
/** Keys of one build. */
export const keysOf = async (store: Pick<KeyValue, 'keys'>, buildId: string): Promise<string[]> =>
  (await store.keys()).filter((key) => partsOf(key)?.[0] === buildId);

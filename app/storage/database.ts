import type { Standing } from '~/core/derive/standing';
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
  /** Where it stands; cards of an earlier version do not say. */
  readonly standing?: Standing;
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

/** What localForage keeps to find out whether this browser can store pictures. */
const BLOB_STORE = 'local-forage-detect-blob-support';

const asked = <T>(request: IDBRequest<T>): Promise<T> =>
  new Promise((resolve, reject) => {
    request.onsuccess = () => resolve(request.result);
    request.onerror = () => reject(request.error ?? new Error('the store could not be opened'));
  });

/**
 * Makes every store in one step, before any is used. Made one by one as they are first asked for, each would raise the
 * database's version under the other tabs' hands.
 */
async function makeStores(): Promise<void> {
  for (let attempt = 0; attempt < 5; attempt += 1) {
    const now = await asked(indexedDB.open('gonyx'));
    const { version } = now;
    const missing = [...Object.values(STORES), BLOB_STORE].filter((name) => !now.objectStoreNames.contains(name));
    now.close();
    if (missing.length === 0) return;
    try {
      const request = indexedDB.open('gonyx', version + 1);
      request.onupgradeneeded = () => {
        for (const name of missing)
          if (!request.result.objectStoreNames.contains(name)) request.result.createObjectStore(name);
      };
      (await asked(request)).close();
    } catch (error) {
      // Another tab raised the version at the same moment: what it made is looked at again.
      if (!(error instanceof DOMException && error.name === 'VersionError')) throw error;
    }
  }
}

let opened: Database | null = null;

/** Opens the browser's stores on first use: never on the server. */
export function database(): Database {
  if (opened) return opened;
  // Where even this is refused, the stores say so themselves, in the words each write is answered with.
  const ready = typeof indexedDB === 'undefined' ? Promise.resolve() : makeStores().catch(() => undefined);
  const store = (storeName: string): KeyValue => {
    const forage = localforage.createInstance({ name: 'gonyx', storeName });
    return {
      getItem: (key) => ready.then(() => forage.getItem(key)),
      setItem: (key, value) => ready.then(() => forage.setItem(key, value)),
      removeItem: (key) => ready.then(() => forage.removeItem(key)),
      keys: () => ready.then(() => forage.keys()),
    };
  };
  opened = Object.fromEntries(
    Object.entries(STORES).map(([key, storeName]) => [key, store(storeName)]),
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

import localforage from 'localforage';
import type { Change } from '~/core/build/changes';
import type { History } from '~/core/build/history';
import type { Build } from '~/core/build/schema';

/** A build as it was last written whole; journal entries with a higher number come on top. */
export interface Snapshot {
  readonly build: unknown;
  readonly history: unknown;
  readonly sequence: number;
  readonly savedAt: string;
}
export type CheckedSnapshot = {
  readonly build: Build;
  readonly history: History;
  readonly sequence: number;
  readonly savedAt: string;
};

/** One change, written before the snapshot that contains it. */
export interface JournalEntry {
  readonly sequence: number;
  readonly move: 'do' | 'undo' | 'redo';
  readonly label: string;
  readonly changes: readonly Change[];
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

/** What the stores must do; localForage in the browser, a Map in tests. */
export interface KeyValue {
  getItem<T>(key: string): Promise<T | null>;
  setItem<T>(key: string, value: T): Promise<T>;
  removeItem(key: string): Promise<void>;
  keys(): Promise<string[]>;
}

export interface Database {
  readonly snapshots: KeyValue;
  readonly journal: KeyValue;
  readonly cards: KeyValue;
  readonly trash: KeyValue;
  /** Pictures as blobs, by build and photo. */
  readonly photos: KeyValue;
  /** The person's own device kinds. */
  readonly library: KeyValue;
  /** The person's own ECU definitions. */
  readonly ecus: KeyValue;
  /** Definitions in the making. */
  readonly drafts: KeyValue;
  /** The person's own wheels. */
  readonly wheels: KeyValue;
  /** The last capture of each build, by build. */
  readonly captures: KeyValue;
}

let opened: Database | null = null;

/** Opens the browser's stores on first use: never on the server. */
export function database(): Database {
  opened ??= {
    snapshots: localforage.createInstance({ name: 'gonyx', storeName: 'builds' }),
    journal: localforage.createInstance({ name: 'gonyx', storeName: 'journal' }),
    cards: localforage.createInstance({ name: 'gonyx', storeName: 'cards' }),
    trash: localforage.createInstance({ name: 'gonyx', storeName: 'trash' }),
    photos: localforage.createInstance({ name: 'gonyx', storeName: 'photos' }),
    library: localforage.createInstance({ name: 'gonyx', storeName: 'library' }),
    ecus: localforage.createInstance({ name: 'gonyx', storeName: 'ecus' }),
    drafts: localforage.createInstance({ name: 'gonyx', storeName: 'drafts' }),
    wheels: localforage.createInstance({ name: 'gonyx', storeName: 'wheels' }),
    captures: localforage.createInstance({ name: 'gonyx', storeName: 'captures' }),
  };
  return opened;
}

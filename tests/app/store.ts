import { storeNames, type Database, type KeyValue } from '~/app/storage/database';

export type Refusal = 'never' | 'always' | 'quota';
const refusal = (how: Refusal): Error =>
  how === 'quota' ? new DOMException('full', 'QuotaExceededError') : new Error('refused');

/** A store in memory that copies values as a browser does, and can be told to fail. */
export class Store implements KeyValue {
  readonly map = new Map<string, string>();
  fail: Refusal = 'never';
  constructor(private readonly onWrite: () => void = () => undefined) {}
  getItem = async <T>(key: string) => (this.map.has(key) ? (JSON.parse(this.map.get(key)!) as T) : null);
  setItem = async <T>(key: string, value: T) => {
    if (this.fail !== 'never') throw refusal(this.fail);
    this.onWrite();
    this.map.set(key, JSON.stringify(value));
    return value;
  };
  removeItem = async (key: string) => {
    this.onWrite();
    this.map.delete(key);
  };
  keys = async () => [...this.map.keys()];
}

type World = Record<keyof Database, Store>;

/**
 * All stores of a device, as one: their writes are counted through, each can be made to fail, and the state before each of
 * them is kept, which is what a crash right there would leave.
 */
export class Device {
  readonly stores: World;
  writes = 0;
  /** Numbers of the writes that fail, counted from 1. */
  failing: (write: number) => boolean = () => false;
  how: Refusal = 'always';
  readonly moments: Record<string, [string, string][]>[] = [];
  keepMoments = false;

  constructor() {
    const onWrite = () => {
      this.writes += 1;
      if (this.keepMoments) this.moments.push(this.copy());
      if (this.failing(this.writes)) throw refusal(this.how);
    };
    this.stores = Object.fromEntries(storeNames.map((name) => [name, new Store(onWrite)])) as World;
  }
  get db(): Database {
    return this.stores;
  }
  copy(): Record<string, [string, string][]> {
    return Object.fromEntries(storeNames.map((name) => [name, [...this.stores[name].map]]));
  }
  /** A device as it was left at a moment. */
  static at(moment: Record<string, [string, string][]>): Device {
    const device = new Device();
    for (const name of storeNames) for (const [key, value] of moment[name]) device.stores[name].map.set(key, value);
    return device;
  }
  refuse(how: Refusal): void {
    for (const name of storeNames) this.stores[name].fail = how;
  }
}

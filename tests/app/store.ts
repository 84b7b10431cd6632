import type { KeyValue } from '~/app/storage/database';

/** A store in memory that copies values as a browser does, and can be told to fail. */
export class Store implements KeyValue {
  readonly map = new Map<string, string>();
  fail: 'never' | 'always' | 'quota' = 'never';
  getItem = async <T>(key: string) => (this.map.has(key) ? (JSON.parse(this.map.get(key)!) as T) : null);
  setItem = async <T>(key: string, value: T) => {
    if (this.fail === 'always') throw new Error('refused');
    if (this.fail === 'quota') throw new DOMException('full', 'QuotaExceededError');
    this.map.set(key, JSON.stringify(value));
    return value;
  };
  removeItem = async (key: string) => void this.map.delete(key);
  keys = async () => [...this.map.keys()];
}

import { beforeEach, describe, expect, test } from '@jest/globals';
import type { KeyValue } from '~/app/storage/database';
import { compareKinds, dropOwnKind, keepOwnKind, ownKinds } from '~/app/storage/library';
import { photoKey, readPhotos, sweepPhotos, writePhotos } from '~/app/storage/photos';
import { lastUnits } from '~/app/storage/units';
import { call } from '~/core/edits';
import { libraryFile } from '~/core/devices/library';
import { defaultUnits } from '~/core/units/units';
import { demoBuild, edited, kind } from '../helpers';

/** A store that keeps values as they are, blobs among them. */
class Store implements KeyValue {
  readonly map = new Map<string, unknown>();
  getItem = async <T>(key: string) => (this.map.has(key) ? (this.map.get(key) as T) : null);
  setItem = async <T>(key: string, value: T) => {
    this.map.set(key, value);
    return value;
  };
  removeItem = async (key: string) => void this.map.delete(key);
  keys = async () => [...this.map.keys()];
}

const photo = (id: string) => ({
  id,
  about: '',
  caption: '',
  takenAt: '2026-03-01T10:00:00.000Z',
  type: 'image/jpeg' as const,
  width: 4,
  height: 4,
  bytes: 4,
});
const build = {
  ...edited(demoBuild(), call('putPhoto', { photo: photo('one') }), call('putPhoto', { photo: photo('two') })),
  id: 'b1',
};
let photos: Store;
let library: Store;
beforeEach(() => {
  photos = new Store();
  library = new Store();
});

describe('photographs', () => {
  test('are written and read as bytes; what is gone is named', async () => {
    await writePhotos(
      { photos },
      build,
      new Map([
        ['one', new Uint8Array([0xff, 0xd8, 1, 2])],
        ['stray', new Uint8Array([1])],
      ]),
    );
    expect(await photos.keys()).toEqual([photoKey('b1', 'one')]);
    const read = await readPhotos({ photos }, build);
    expect([...read.photos.get('one')!]).toEqual([0xff, 0xd8, 1, 2]);
    expect(read.missing).toEqual(['two']);
  });
  test('the sweep forgets what nobody names, of this build only', async () => {
    for (const key of ['b1|one', 'b1|old', 'b11|old', 'b2|old']) await photos.setItem(key, new Blob(['x']));
    expect(await sweepPhotos({ photos }, 'b1', (id) => id === 'one')).toBe(1);
    expect((await photos.keys()).sort()).toEqual(['b11|old', 'b1|one', 'b2|old']);
  });
});

describe('the library', () => {
  const mine = { ...kind('clt-ntc'), id: 'mine', name: 'Mine' };
  test('keeps kinds by id and lists them by name; what cannot be read is left alone', async () => {
    await keepOwnKind(mine, { library });
    await keepOwnKind({ ...mine, id: 'also', name: 'Also mine' }, { library });
    await library.setItem('broken', { id: 'broken' });
    expect((await ownKinds({ library })).map((one) => one.id)).toEqual(['also', 'mine']);
    expect(library.map.has('broken')).toBe(true);
    await dropOwnKind('also', { library });
    expect(await ownKinds({ library })).toHaveLength(1);
  });
  test('tells a file’s new kinds from changed ones and those it has', async () => {
    await keepOwnKind(mine, { library });
    const file = libraryFile([mine, { ...mine, id: 'fresh' }]);
    const compared = await compareKinds(file, { library });
    expect(compared.ok && [compared.value.fresh.length, compared.value.changed.length, compared.value.same]).toEqual([
      1, 0, 1,
    ]);
    const changed = await compareKinds(libraryFile([{ ...mine, note: 'other' }]), { library });
    expect(changed.ok && changed.value.changed.map((one) => one.id)).toEqual(['mine']);
    expect((await compareKinds('{', { library })).ok).toBe(false);
  });
});

test('without storage the usual units serve', () => {
  expect(lastUnits()).toEqual(defaultUnits);
});

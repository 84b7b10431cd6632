import { describe, expect, test } from '@jest/globals';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { call } from '~/core/edits';
import { kindSchema } from '~/core/devices/kind';
import { freeKindId, libraryFile, parseLibrary } from '~/core/devices/library';
import { isZip, packBundle, readBundle } from '~/core/formats/bundle';
import type { Photo } from '~/core/survey/records';
import { demoBuild, edited, kind } from '../../helpers';

const photo = (id: string, type: Photo['type'] = 'image/jpeg'): Photo => ({
  id,
  about: '',
  caption: id,
  takenAt: '2026-03-01T10:00:00.000Z',
  type,
  width: 10,
  height: 10,
  bytes: 6,
});
const jpeg = new Uint8Array([0xff, 0xd8, 0xff, 1, 2, 3]);
const build = edited(
  demoBuild(),
  call('putPhoto', { photo: photo('one') }),
  call('putPhoto', { photo: photo('two', 'image/png') }),
);
const refused = (bytes: Uint8Array) => {
  const result = readBundle(bytes);
  if (result.ok) throw new Error('was taken');
  return result.problem;
};

describe('a build with its photographs in one file', () => {
  const packed = packBundle(build, new Map([['one', jpeg]]));
  test('goes out and comes back, the same bytes each time', () => {
    expect(isZip(packed)).toBe(true);
    expect(packBundle(build, new Map([['one', jpeg]]))).toEqual(packed);
    const read = readBundle(packed);
    if (!read.ok) throw new Error(read.problem.sentence);
    expect(read.value.build).toEqual(build);
    expect(read.value.photos.get('one')).toEqual(jpeg);
    expect(read.value.missing).toEqual(['two']);
  });
  test('is a plain archive: build.json and photos beside it', () => {
    expect(Object.keys(unzipSync(packed))).toEqual(['build.json', 'photos/one.jpg']);
  });
  test('plain JSON is read as well', () => {
    const read = readBundle(strToU8(JSON.stringify(build)));
    expect(read.ok && read.value.missing).toEqual(['one', 'two']);
  });
  test('a picture that is none is told as missing, not shown', () => {
    const odd = zipSync({ 'build.json': strToU8(JSON.stringify(build)), 'photos/one.jpg': strToU8('<html>') });
    const read = readBundle(odd);
    expect(read.ok && read.value.missing).toEqual(['one', 'two']);
  });
  test('files of other names, and paths that climb, are left out', () => {
    const odd = zipSync({
      'build.json': strToU8(JSON.stringify(build)),
      '../evil.txt': strToU8('x'),
      'photos/../../up.jpg': jpeg,
      'notes.txt': strToU8('y'),
    });
    expect(readBundle(odd).ok).toBe(true);
  });
  test.each([
    ['cut short', packed.slice(0, packed.length / 2), 'not-zip'],
    ['without a build', zipSync({ 'photos/one.jpg': jpeg }), 'no-build'],
    ['with a broken build', zipSync({ 'build.json': strToU8('{') }), 'not-json'],
    [
      'of a thousand files',
      zipSync(Object.fromEntries(Array.from({ length: 400 }, (_, i) => [`photos/p${i}.jpg`, jpeg]))),
      'too-large',
    ],
    ['nothing', new Uint8Array(), 'not-json'],
  ])('%s is refused in a sentence', (_, bytes, code) => {
    const problem = refused(bytes);
    expect(problem.code).toBe(code);
    expect(problem.sentence).toMatch(/\.$/);
  });
  test('a bomb is refused by the size it declares', () => {
    const bomb = zipSync({ 'build.json': [new Uint8Array(21_000_000), { level: 9 }] });
    expect(bomb.length).toBeLessThan(100_000);
    expect(refused(bomb).sentence).toMatch(/too large/);
  });
});

describe('a file of kinds', () => {
  const mine = { ...kind('clt-ntc'), id: 'mine' };
  test('goes out and comes back', () => {
    expect(parseLibrary(libraryFile([mine]))).toEqual({ ok: true, value: [kindSchema.parse(mine)] });
  });
  test.each([
    ['{', 'not-json'],
    ['{"a":1}', 'not-kinds'],
    [libraryFile([mine, mine]), 'duplicate'],
    [libraryFile([{ ...mine, name: '' }]), 'invalid-kinds'],
    [libraryFile([]), 'invalid-kinds'],
    [' '.repeat(5_000_001), 'too-large'],
  ])('%# is refused', (text, code) => {
    const result = parseLibrary(text);
    expect(!result.ok && result.problem.code).toBe(code);
  });
  test('what is wrong is named by its path', () => {
    const result = parseLibrary(
      libraryFile([mine, { ...mine, id: 'two', traits: [{ ...mine.traits[0], terminal: '9' } as never] }]),
    );
    expect(!result.ok && result.problem.sentence).toMatch(/^kinds\[1\]\.traits\[0\] terminal 9 does not exist/);
  });
  test('ids are made of names and never taken twice', () => {
    expect(freeKindId('Coil, of mine!', new Set())).toBe('coil-of-mine');
    expect(freeKindId('Coil, of mine!', new Set(['coil-of-mine', 'coil-of-mine-2']))).toBe('coil-of-mine-3');
    expect(kindSchema.shape.id.safeParse(freeKindId('Ω', new Set())).success).toBe(true);
  });
});

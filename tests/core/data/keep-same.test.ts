import { describe, expect, test } from '@jest/globals';
import { isSame, keepSame, keepSet } from '~/core/data/keep-same';

describe('what stayed the same', () => {
  test.each<[unknown, unknown, boolean]>([
    [1, 1, true],
    [Number.NaN, Number.NaN, true],
    [0, -0, false],
    [null, undefined, false],
    [null, {}, false],
    [{ a: 1, b: [1, { c: 2 }] }, { b: [1, { c: 2 }], a: 1 }, true],
    [{ a: 1 }, { a: 1, b: undefined }, false],
    [{ a: undefined }, { b: undefined }, false],
    [[1, 2], [1, 2, 3], false],
    [[], {}, false],
    ['a', ['a'], false],
  ])('%j and %j: %s', (one, other, same) => {
    expect(isSame(one, other)).toBe(same);
    expect(isSame(other, one)).toBe(same);
  });
  test('is the very item there was; what changed is the new one, and the order is the new one', () => {
    const before = new Map([
      ['a', { id: 'a', to: ['x'] }],
      ['b', { id: 'b', to: ['y'] }],
    ]);
    const now = [
      { id: 'b', to: ['z'] },
      { id: 'c', to: [] },
      { id: 'a', to: ['x'] },
    ];
    const kept = keepSame(now, ({ id }) => before.get(id));
    expect(kept).toEqual(now);
    expect(kept.map((one, i) => [one === now[i], one === before.get(one.id)])).toEqual([
      [true, false],
      [true, false],
      [false, true],
    ]);
  });
  test('a set that holds the same is the set there was', () => {
    const before = new Set(['a', 'b']);
    expect(keepSet(new Set(['b', 'a']), before)).toBe(before);
    for (const now of [new Set(['a']), new Set(['a', 'c']), new Set(['a', 'b', 'c'])])
      expect(keepSet(now, before)).toBe(now);
    expect(keepSet(before, undefined)).toBe(before);
  });
});

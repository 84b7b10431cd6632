import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { applyChanges, diff, invert } from '~/core/build/changes';

const value = fc.jsonValue({ maxDepth: 4 });
// `__proto__` is no key of ours: documents come through JSON and Zod.
const tree = value
  .filter((one) => !JSON.stringify(one).includes('__proto__'))
  // Minus zero is not JSON's: it comes back as zero.
  .map((one) => JSON.parse(JSON.stringify(one)) as typeof one);

describe('differences', () => {
  test('turn one value into the other, and back, also through JSON', () => {
    fc.assert(
      fc.property(tree, tree, (before, after) => {
        const changes = JSON.parse(JSON.stringify(diff({ root: before }, { root: after }))) as ReturnType<typeof diff>;
        expect(applyChanges({ root: before }, changes)).toEqual({ root: after });
        expect(applyChanges({ root: after }, invert(changes))).toEqual({ root: before });
      }),
      { numRuns: 300 },
    );
  });
  test('are empty for equal values and do not touch their input', () => {
    const before = { list: [1, { a: 2 }], map: { x: 1 } };
    const copy = structuredClone(before);
    expect(diff(before, structuredClone(before))).toEqual([]);
    const after = applyChanges(before, [{ path: ['list', 1, 'a'], from: 2, to: 3 }]);
    expect(before).toEqual(copy);
    expect(after.map).toBe(before.map);
    expect(after.list[1]).toEqual({ a: 3 });
  });
  test('name added, changed and removed', () => {
    expect(diff({ a: 1, b: 2 }, { b: 3, c: 4 })).toEqual([
      { path: ['a'], from: 1 },
      { path: ['b'], from: 2, to: 3 },
      { path: ['c'], to: 4 },
    ]);
  });
});

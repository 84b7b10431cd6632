import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { applyChanges, changeSchema, diff, invert } from '~/core/build/changes';

const value = fc.jsonValue({ maxDepth: 4 });
// `__proto__` is no key of ours: documents come through JSON and Zod.
const tree = value
  .filter((one) => !JSON.stringify(one).includes('__proto__'))
  // Minus zero is not JSON's: it comes back as zero.
  .map((one) => JSON.parse(JSON.stringify(one)) as typeof one);

/** Lists of records with ids, in any order and with anything in them: devices, wires, notes. */
const records = fc.uniqueArray(
  fc.record({ id: fc.constantFrom(...'abcdefghij'), note: tree, tags: fc.array(fc.nat(3)) }),
  {
    selector: ({ id }) => id,
    maxLength: 8,
  },
);
const throughJson = <T>(one: T): T => JSON.parse(JSON.stringify(one)) as T;

describe('differences', () => {
  test('of lists of records go by id, and lead there and back', () => {
    fc.assert(
      fc.property(records, records, (before, after) => {
        const [old, fresh] = throughJson([{ list: before }, { list: after }]);
        const changes = changeSchema.array().parse(throughJson(diff(old, fresh)));
        expect(applyChanges(old, changes)).toEqual(fresh);
        expect(applyChanges(fresh, invert(changes))).toEqual(old);
      }),
      { numRuns: 600 },
    );
  });
  test('of one record among thousands are one record', () => {
    const list = Array.from({ length: 5000 }, (_, i) => ({ id: `wire-${i}`, note: 'n'.repeat(40) }));
    const added = [...list.slice(0, 2500), { id: 'fresh', note: 'here' }, ...list.slice(2500)];
    expect(diff({ list }, { list: added })).toEqual([
      { path: ['list', { id: 'fresh' }], place: 2500, to: { id: 'fresh', note: 'here' } },
    ]);
    const changed = list.map((one, i) => (i === 7 ? { ...one, note: 'other' } : one)).slice(1);
    expect(diff({ list }, { list: changed })).toEqual([
      { path: ['list', { id: 'wire-0' }], place: 0, from: list[0] },
      { path: ['list', { id: 'wire-7' }, 'note'], from: list[7].note, to: 'other' },
    ]);
  });
  test('of a list of plain values are the part that changed', () => {
    expect(diff({ pins: ['A1', 'A2', 'A3', 'A4'] }, { pins: ['A1', 'A3', 'A4'] })).toEqual([
      { path: ['pins'], at: 1, cut: ['A2'], put: [] },
    ]);
  });
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

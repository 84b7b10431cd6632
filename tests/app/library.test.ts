import { beforeEach, describe, expect, test } from '@jest/globals';
import { dropDraft, ecuDraft, ecuDrafts, importEcus, keepDraft, keepOwnEcu, ownEcus } from '~/app/storage/library';
import { draftOf, emptyDraft, setPins } from '~/core/ecu/draft';
import { ecuFile } from '~/core/ecu/file';
import { catalog } from '~/catalog';
import { Store } from './store';

let db: { ecus: Store; drafts: Store };
const [one, other] = catalog.ecus;
beforeEach(() => {
  db = { ecus: new Store(), drafts: new Store() };
});

describe('definitions in the making', () => {
  test('are kept as they stand, half done or whole, and read back equal', async () => {
    const whole = { ...draftOf(one), id: 'd1' };
    await keepDraft(whole, db);
    await keepDraft(emptyDraft('d2'), db);
    expect(await ecuDraft('d1', db)).toEqual(whole);
    expect((await ecuDrafts(db)).map(({ id }) => id).sort()).toEqual(['d1', 'd2']);
    await dropDraft('d2', db);
    expect(await ecuDraft('d2', db)).toBeNull();
  });
  test('a write that is refused leaves the draft before it', async () => {
    const before = { ...draftOf(one), id: 'd1' };
    await keepDraft(before, db);
    db.drafts.fail = 'always';
    const changed = setPins(before, new Set(['A1']), { label: 'Other' });
    await expect(keepDraft(changed, db)).rejects.toThrow('refused');
    db.drafts.fail = 'never';
    expect(await ecuDraft('d1', db)).toEqual(before);
  });
  test('one that cannot be read is left where it is and does not hide the others', async () => {
    await keepDraft({ ...draftOf(one), id: 'd1' }, db);
    db.drafts.map.set('cut', '{"id":"cut","pins":[{"cavity":"x"}]}');
    expect((await ecuDrafts(db)).map(({ id }) => id)).toEqual(['d1']);
    expect(db.drafts.map.has('cut')).toBe(true);
  });
});

describe('importing definitions', () => {
  test('what is there already is counted, not doubled', async () => {
    await keepOwnEcu(one, db);
    const taken = await importEcus(ecuFile([one, other]), db);
    expect(taken.ok && taken.value.same).toBe(1);
    expect(taken.ok && taken.value.fresh).toEqual([other]);
  });
  test('one id with other content gets an id of its own: nothing kept is written over', async () => {
    await keepOwnEcu(one, db);
    const taken = await importEcus(ecuFile([{ ...one, model: 'Otherwise' }]), db);
    if (!taken.ok) throw new Error(taken.problem.sentence);
    const [fresh] = taken.value.fresh;
    expect(fresh.id).not.toBe(one.id);
    expect(fresh.model).toBe('Otherwise (imported)');
    await keepOwnEcu(fresh, db);
    expect(await ownEcus(db)).toContainEqual(one);
    expect(await ownEcus(db)).toHaveLength(2);
  });
  test('two of one file with the same id stay two', async () => {
    const taken = await importEcus(ecuFile([one, { ...one, model: 'Second' }]), db);
    expect(taken.ok && new Set(taken.value.fresh.map(({ id }) => id)).size).toBe(2);
  });
  test.each([
    ['cut short', ecuFile([one]).slice(0, -40), 'not-json'],
    ['another file', '{"hello":1}', 'not-ecus'],
    ['a pin without a cavity', ecuFile([one]).replace(/"cavity": \d+/, '"cavity": "?"'), 'invalid-ecu'],
    ['too large', ' '.repeat(5_000_001), 'too-large'],
  ])('%s is refused with its code and nothing is kept', async (_, text, code) => {
    const taken = await importEcus(text, db);
    expect(taken).toMatchObject({ ok: false, problem: { code } });
    expect(db.ecus.map.size).toBe(0);
  });
});

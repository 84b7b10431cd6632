import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { leftEntries } from '~/app/storage/left';
import { Desk, rename } from './kept';
import { putUpShelf, takeShelfDown } from './shelf';

const desk = new Desk();
beforeEach(putUpShelf);
afterEach(async () => {
  await desk.clear();
  takeShelfDown();
});

/** A session that edits, and whose page goes before its store has taken anything over. */
async function goneWith(...names: string[]): Promise<void> {
  const session = await desk.start();
  await session.edit(rename('Saved'));
  desk.device.refuse('quota');
  for (const name of names) void session.edit(rename(name));
  session.leave();
  session.close();
  desk.device.refuse('never');
}

describe('a change on its way when the page goes', () => {
  test('is there when the build is opened again, can be undone, and is kept once', async () => {
    await goneWith('On its way', 'And another');
    expect((await desk.stored()).build.name).toBe('And another');
    const next = await desk.open();
    expect(next.snapshot()).toMatchObject({ build: { name: 'And another' }, aside: 0 });
    await next.undo();
    expect(next.snapshot().build.name).toBe('On its way');
    await next.settled();
    // A snapshot has them: the shelf is empty, and they are not applied again.
    expect(leftEntries('b1')).toEqual([]);
    expect((await desk.stored()).build.name).toBe('On its way');
    expect((await desk.stored()).orphans).toEqual([]);
  });
  test('outlives a second page that goes as fast', async () => {
    await goneWith('First');
    const next = await desk.open();
    desk.device.refuse('quota');
    void next.edit(rename('Second'));
    next.leave();
    next.close();
    desk.device.refuse('never');
    expect(leftEntries('b1').map(({ changes }) => changes[0])).toMatchObject([{ to: 'First' }, { to: 'Second' }]);
    expect((await desk.stored()).build.name).toBe('Second');
  });
  test('is on the device before an edit that stands on it is called saved: a crash may take the shelf with it', async () => {
    await goneWith('On its way');
    const next = await desk.open();
    await next.edit(rename('Told as saved'));
    expect(next.snapshot().saveState).toBe('saved');
    // Cut here, before a snapshot and before the browser has written its shelf out.
    next.close();
    localStorage.removeItem('gonyx-left-b1');
    const read = await desk.stored();
    expect([read.build.name, read.orphans]).toEqual(['Told as saved', []]);
    expect(read.history.done.map(({ changes }) => changes[0])).toMatchObject([
      { to: 'Saved' },
      { to: 'On its way' },
      { to: 'Told as saved' },
    ]);
  });
  test('that the journal refuses again is kept by the snapshot, and not put aside afterwards', async () => {
    await goneWith('On its way');
    desk.device.stores.journal.fail = 'quota';
    const next = await desk.open();
    await next.settled();
    desk.device.refuse('never');
    next.close();
    const read = await desk.stored();
    expect([read.build.name, read.orphans, leftEntries('b1')]).toEqual(['On its way', [], []]);
  });
  test('that the journal took over after all is applied once', async () => {
    const session = await desk.start();
    const edit = session.edit(rename('Twice told'));
    session.leave();
    await edit;
    session.close();
    const read = await desk.stored();
    expect(read.build.name).toBe('Twice told');
    expect(read.contained).toHaveLength(1);
  });
  test('whose snapshot was written, though the shelf could not be cleared, is not applied again nor put aside', async () => {
    const session = await desk.start();
    void session.edit(rename('One'));
    void session.edit(rename('Two'));
    session.leave();
    const shelf = localStorage.getItem('gonyx-left-b1')!;
    await session.settled();
    session.close();
    localStorage.setItem('gonyx-left-b1', shelf);
    const read = await desk.stored();
    expect([read.build.name, read.orphans]).toEqual(['Two', []]);
  });
  test('that stands on nothing is put aside, not applied; what is no entry is nothing', async () => {
    await goneWith('Lost its base');
    const [entry] = leftEntries('b1');
    localStorage.setItem('gonyx-left-b1', JSON.stringify([{ ...entry, after: { writer: 'nobody', sequence: 7 } }]));
    const next = await desk.open();
    await next.edit(rename('Newer'));
    await next.settled();
    expect(next.snapshot()).toMatchObject({ build: { name: 'Newer' }, aside: 1 });
    expect(leftEntries('b1')).toEqual([]);
    localStorage.setItem('gonyx-left-b1', '[{"writer":3}]');
    expect(leftEntries('b1')).toEqual([]);
    expect((await desk.stored()).build.name).toBe('Newer');
  });
});

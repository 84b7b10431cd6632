import { afterEach, describe, expect, test } from '@jest/globals';
import { asideOf } from '~/app/storage/aside';
import { listCards } from '~/app/storage/cards';
import { type JournalEntry } from '~/app/storage/database';
import { entryKey, readBuild } from '~/app/storage/read';
import { writeJournal } from '~/app/storage/write';
import { call } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import { demoBuild } from '../helpers';
import { AT, Desk, build, fan, rename } from './kept';
import { Device } from './store';

const desk = new Desk();
afterEach(() => desk.clear());

describe('what is asked', () => {
  test('is done in the order it was asked, whichever request arrives first', async () => {
    const session = await desk.start();
    await session.edit(rename('Kept'));
    const one = session.ask({ intent: 'edit', calls: rename('Taken back') });
    const other = session.ask({ intent: 'undo' });
    await session.answer(other, { intent: 'undo' });
    expect(session.snapshot().build.name).toBe('Kept');
    expect(session.snapshot().redoLabel).toBe('Name the build');
    // The request of the first arrives late: it was done, and is not done again.
    expect(await session.answer(one, { intent: 'edit', calls: rename('Taken back') })).toEqual({
      ok: true,
      value: null,
    });
    expect(session.snapshot().build.name).toBe('Kept');
  });
  test('is done when the page goes before its request has arrived', async () => {
    const session = await desk.start();
    session.ask({ intent: 'edit', calls: rename('On its way') });
    session.leave();
    await session.settled();
    expect((await desk.stored()).build.name).toBe('On its way');
  });
  test('in a session that was closed since is done by the next, once', async () => {
    const session = await desk.start();
    const turn = session.ask({ intent: 'edit', calls: rename('Late') });
    session.close();
    const next = await desk.open();
    await next.answer(turn, { intent: 'edit', calls: rename('Late') });
    await next.answer(next.ask({ intent: 'undo' }), { intent: 'undo' });
    expect(next.snapshot().build.name).toBe(build.name);
  });
});

describe('saving', () => {
  test('an edit is on the device before its snapshot is, and said to be', async () => {
    const session = await desk.start();
    await session.edit(rename('Other'));
    expect(session.snapshot().saveState).toBe('saved');
    expect(desk.device.stores.snapshots.map.get('b1')).not.toContain('Other');
    expect((await desk.stored()).build.name).toBe('Other');
    expect((await desk.stored()).history.done.map((step) => step.label)).toEqual(['Name the build']);
  });
  test('the snapshot takes the journal in and clears it; the card follows', async () => {
    const session = await desk.start();
    await session.edit(rename('One'));
    await session.edit(rename('Two'));
    await session.settled();
    expect(desk.device.stores.journal.map.size).toBe(0);
    expect((await desk.stored()).build.name).toBe('Two');
    expect((await listCards(desk.device.db))[0].name).toBe('Two');
    expect((await desk.stored()).history.done).toHaveLength(2);
  });
  test('a crash between journal and snapshot loses nothing, undo included', async () => {
    const first = await desk.start();
    await first.edit(rename('One'));
    await first.edit(rename('Two'));
    await first.undo();
    const second = await desk.open(Device.at(desk.device.copy()));
    expect(second.snapshot().build.name).toBe('One');
    expect(second.snapshot().redoLabel).toBe('Name the build');
    await second.redo();
    expect(second.snapshot().build.name).toBe('Two');
    await second.undo();
    await second.undo();
    expect(second.snapshot().build).toEqual(build);
  });
  test('a damaged entry ends the replay; it and what stands on it are put aside, not lost', async () => {
    const session = await desk.start();
    await session.edit(rename('One'));
    const { head } = await desk.stored();
    const entry = (sequence: number, name: unknown): JournalEntry => ({
      writer: head.writer,
      sequence,
      after: { writer: head.writer, sequence: sequence - 1 },
      at: AT,
      move: 'do',
      label: 'bad',
      changes: [{ path: [typeof name === 'number' ? 'name' : 'vehicle'], to: name }],
    });
    const later = Device.at(desk.device.copy());
    await writeJournal(later.db, 'b1', entry(head.sequence + 1, 7));
    await writeJournal(later.db, 'b1', entry(head.sequence + 2, 'Three'));
    const second = await desk.open(later);
    expect(second.snapshot().build.name).toBe('One');
    await second.settled();
    expect(second.snapshot().aside).toBe(2);
    expect((await asideOf(later.db, 'b1')).map(({ entry: one }) => (one as JournalEntry).sequence)).toEqual([
      head.sequence + 1,
      head.sequence + 2,
    ]);
    expect(await second.asideText()).toContain('Three');
    await second.dropAside();
    expect(await asideOf(later.db, 'b1')).toEqual([]);
  });
  test('a throw while the build is worked through does not stop saving', async () => {
    const session = await desk.start();
    const broken = { ...build, devices: build.devices.map((one) => ({ ...one, kindId: 'nothing' })) };
    // No edit leads to a build that cannot be derived: it is put there by hand, as a bug would.
    (session as unknown as { view: { build: Build } }).view.build = broken;
    await session.edit(rename('Saved all the same'));
    await session.settled();
    expect(desk.device.stores.snapshots.map.get('b1')).toContain('Saved all the same');
    expect((await listCards(desk.device.db))[0].name).toBe('Saved all the same');
  });
});

describe('a stale entry', () => {
  test('never comes back over a newer session: no entry is written over a gap', async () => {
    const first = await desk.start();
    let refused = 0;
    desk.device.failing = () => (refused += 1) === 1;
    await first.edit(rename('One'));
    await first.edit(fan('Fan 3'));
    // Both are there now: the second waited for the first.
    expect((await desk.stored()).build.name).toBe('One');
    expect((await desk.stored()).build.devices.some(({ label }) => label === 'Fan 3')).toBe(true);
  });
  test('an orphan of another session is put aside under its own key and never applied', async () => {
    await desk.keep();
    const orphan: JournalEntry = {
      writer: 'dead',
      sequence: 2,
      after: { writer: 'dead', sequence: 1 },
      at: AT,
      move: 'do',
      label: 'Name the build',
      changes: [{ path: ['name'], from: 'One', to: 'Stale' }],
    };
    await writeJournal(desk.device.db, 'b1', orphan);
    const session = await desk.open();
    await session.edit(rename('New one'));
    await session.edit(rename('New two'));
    await session.settled();
    session.close();
    expect((await desk.stored()).build.name).toBe('New two');
    expect((await asideOf(desk.device.db, 'b1')).map(({ entry }) => entry)).toEqual([orphan]);
    expect(desk.device.stores.journal.map.size).toBe(0);
  });
  test('two writers of one sequence number do not write over each other', async () => {
    const first = await desk.start();
    const second = await desk.open();
    await first.edit(rename('First'));
    await second.edit(rename('Second'));
    expect([...desk.device.stores.journal.map.keys()]).toHaveLength(2);
    const third = await desk.open(Device.at(desk.device.copy()));
    await third.settled();
    expect(third.snapshot().aside).toBe(1);
  });
});

describe('failing', () => {
  test('a full device keeps the memory, says so, and saves when there is room again', async () => {
    const session = await desk.start();
    desk.device.refuse('quota');
    await session.edit(rename('Kept in memory'));
    await session.settled();
    expect(session.snapshot().saveState).toBe('failed');
    expect(session.unsaved).toBe(true);
    expect(session.snapshot().problem!.sentence).toMatch(/no room left.*export it now/i);
    expect(session.snapshot().build.name).toBe('Kept in memory');
    desk.device.refuse('never');
    session.retry();
    await session.settled();
    expect(session.snapshot().saveState).toBe('saved');
    expect(session.snapshot().problem).toBeNull();
    expect((await desk.stored()).build.name).toBe('Kept in memory');
  });
  test('kept captures make room before a build is refused', async () => {
    const session = await desk.start();
    await desk.device.db.captures.setItem('b1', { large: true });
    desk.device.how = 'quota';
    desk.device.failing = () => desk.device.stores.captures.map.size > 0 && desk.device.stores.journal.map.size === 0;
    // The removal itself is no write that needs room.
    desk.device.stores.captures.removeItem = async (key) => void desk.device.stores.captures.map.delete(key);
    await session.edit(rename('Saved'));
    expect(session.snapshot().saveState).toBe('saved');
    expect(session.snapshot().notice).toMatch(/captures made room/);
    expect((await desk.stored()).build.name).toBe('Saved');
  });
  test('a refused store is told apart from a full one', async () => {
    const session = await desk.start();
    desk.device.stores.journal.fail = 'always';
    await session.edit(rename('x'));
    expect(session.snapshot().problem!.sentence).toMatch(/refused to store/);
    desk.device.stores.journal.fail = 'never';
  });
  test('a refused edit changes nothing and says why', async () => {
    const whole = { ...demoBuild(), id: 'b1' };
    const session = await desk.start(whole);
    const result = await session.edit([
      call('setReserve', { kind: 'any', count: 3 }),
      { name: 'assign', args: { needId: 'clt-ntc-1.1', pinId: 'A1' } },
    ]);
    expect(result.ok).toBe(false);
    expect(session.snapshot().build).toEqual(whole);
    expect(session.snapshot().problem!.sentence).toMatch(/cannot go there/);
    session.dismiss();
    expect(session.snapshot().problem).toBeNull();
  });
  test('a session that was left refuses edits instead of taking them nowhere', async () => {
    const session = await desk.start();
    session.close();
    const result = await session.edit(rename('x'));
    expect(!result.ok && result.problem.code).toBe('closed');
  });
  test('what cannot be read is left as it is', async () => {
    const record = JSON.stringify({ build: { schemaVersion: 99 }, history: {}, sequence: 0, savedAt: '' });
    desk.device.stores.snapshots.map.set('b1', record);
    const read = await readBuild(desk.device.db, 'b1');
    expect(!read.ok && read.problem.code).toBe('too-new');
    expect(desk.device.stores.snapshots.map.get('b1')).toBe(record);
    expect((await readBuild(desk.device.db, 'none')).ok).toBe(false);
  });
});

describe('edits as one step', () => {
  test('several calls undo together', async () => {
    const session = await desk.start();
    await session.edit([call('setReserve', { kind: 'any', count: 1 }), call('setPower', { ecuGround: 'battery' })]);
    await session.undo();
    expect(session.snapshot().build).toEqual(build);
    expect(session.snapshot().notice).toMatch(/^Undone: Set spares/);
  });
  test('listeners hear each change', async () => {
    const session = await desk.start();
    let heard = 0;
    const stop = session.subscribe(() => (heard += 1));
    await session.edit(rename('x'));
    expect(heard).toBeGreaterThan(0);
    stop();
    const before = heard;
    await session.edit(rename('y'));
    expect(heard).toBe(before);
  });
});

describe('what a hundred edits write', () => {
  test('of one list of hundreds: each edit a few hundred bytes, the history once', async () => {
    const parts = Array.from({ length: 400 }, (_, i) => part(i));
    const large = { ...build, survey: { ...build.survey, parts } };
    const session = await desk.start(large);
    const bytes = { journal: 0, steps: 0 };
    for (const name of ['journal', 'steps'] as const) {
      const { setItem } = desk.device.stores[name];
      desk.device.stores[name].setItem = async <T>(key: string, value: T) => {
        bytes[name] += JSON.stringify(value).length;
        return setItem(key, value);
      };
    }
    for (let i = 0; i < 100; i += 1) await session.edit([call('putPart', { part: part(1000 + i) })]);
    await session.settled();
    expect(session.snapshot().build.survey.parts).toHaveLength(500);
    expect(bytes.journal / 100).toBeLessThan(600);
    expect(bytes.steps).toBeLessThan(bytes.journal);
    expect(bytes.steps).toBeGreaterThan(100 * 100);
  });
});
const part = (i: number) => ({
  id: `p${i}`,
  item: `Terminal ${i}, 1.5 mm, with its seal`,
  from: 'the usual place',
  count: 4,
  costEach: 0.35,
  state: 'to-order' as const,
});

test('a build whose card was never written is listed all the same', async () => {
  await desk.keep();
  desk.device.stores.cards.map.clear();
  expect((await listCards(desk.device.db)).map(({ id, name }) => [id, name])).toEqual([['b1', build.name]]);
});

test('keys of several parts hold whatever their parts hold', () => {
  expect(entryKey('a|b', { writer: 'w"]', sequence: 1 })).not.toBe(entryKey('a', { writer: 'b|w"]', sequence: 1 }));
});

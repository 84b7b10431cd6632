import { readFileSync } from 'node:fs';
import { afterEach, describe, expect, test } from '@jest/globals';
import { adoptTrash, binBuild, lookInBin, purgeBuild, restoreBuild } from '~/app/storage/bin';
import { listCards } from '~/app/storage/cards';
import { tuple } from '~/app/storage/database';
import { readBuild } from '~/app/storage/read';
import { cardFor } from '~/app/storage/saver';
import { writeJournal } from '~/app/storage/write';
import { emptyHistory } from '~/core/build/history';
import type { Build } from '~/core/build/schema';
import { AT, Desk, build, fan, rename } from './kept';
import { Device } from './store';

const desk = new Desk();
afterEach(() => desk.clear());

describe('the bin', () => {
  test('keeps unsaved edits; bringing back needs no room', async () => {
    const session = await desk.start();
    await session.edit(rename('Late'));
    expect((await binBuild(desk.device.db, 'b1', AT)).ok).toBe(true);
    expect(await listCards(desk.device.db)).toEqual([]);
    const read = await readBuild(desk.device.db, 'b1');
    expect(!read.ok && read.problem.code).toBe('in-bin');
    desk.device.refuse('quota');
    expect((await restoreBuild(desk.device.db, 'b1')).ok).toBe(true);
    desk.device.refuse('never');
    expect((await desk.stored()).build.name).toBe('Late');
    expect((await restoreBuild(desk.device.db, 'b1')).ok).toBe(false);
  });
  test('a session of another tab writes nothing over a deletion', async () => {
    const session = await desk.start();
    await binBuild(desk.device.db, 'b1', AT);
    await session.edit(rename('Back from the dead'));
    await session.settled();
    expect(session.snapshot().gone).toMatch(/deleted/);
    expect(await listCards(desk.device.db)).toEqual([]);
    expect((await session.edit(rename('again'))).ok).toBe(false);
  });
  test('a full device says that only deleting for good is left, and that frees everything', async () => {
    const session = await desk.start();
    await session.edit(rename('One'));
    await session.edit(fan('Fan 3'));
    await session.settled();
    await session.edit(rename('Two'));
    session.close();
    await desk.device.db.photos.setItem(tuple('b1', 'one'), 'x');
    await desk.device.db.photos.setItem('b1|old', 'x');
    await desk.device.db.photos.setItem('b1|x|other', 'x');
    await desk.device.db.typed.setItem('b1', {});
    desk.device.refuse('quota');
    const binned = await binBuild(desk.device.db, 'b1', AT);
    expect(!binned.ok && binned.problem.code).toBe('bin-full');
    await purgeBuild(desk.device.db, 'b1', AT);
    const left = Object.values(desk.device.stores).flatMap((store) => [...store.map.keys()]);
    expect(left).toEqual(['b1|x|other']);
  });
  test('is emptied by age; the mark of a deleted build stays a while longer', async () => {
    await desk.start();
    await binBuild(desk.device.db, 'b1', '2026-01-01T00:00:00.000Z');
    expect(await lookInBin(desk.device.db, new Date('2026-01-20T00:00:00.000Z'))).toHaveLength(1);
    expect(await lookInBin(desk.device.db, new Date('2026-02-20T00:00:00.000Z'))).toEqual([]);
    expect(desk.device.stores.snapshots.map.size).toBe(0);
    expect((await desk.device.db.bin.getItem<{ card: unknown }>('b1'))!.card).toBeNull();
    await lookInBin(desk.device.db, new Date('2026-04-20T00:00:00.000Z'));
    expect(desk.device.stores.bin.map.size).toBe(0);
  });
  test('every prefix of a deletion, a return and a deletion for good is one or the other', async () => {
    await desk.start();
    desk.device.keepMoments = true;
    await binBuild(desk.device.db, 'b1', AT);
    await restoreBuild(desk.device.db, 'b1');
    await binBuild(desk.device.db, 'b1', AT);
    await purgeBuild(desk.device.db, 'b1', AT);
    for (const moment of desk.device.moments) {
      const crashed = Device.at(moment);
      const [cards, bin] = [await listCards(crashed.db), await lookInBin(crashed.db, new Date(AT))];
      const left = crashed.stores.snapshots.map.size;
      // In the garage, in the bin, or nowhere: never in both, never kept where no screen shows it.
      expect(cards.length + bin.length).toBe(left);
      if (bin.length === 1) expect((await restoreBuild(crashed.db, 'b1')).ok).toBe(true);
      if (left === 0) expect(crashed.stores.cards.map.size + crashed.stores.journal.map.size).toBe(0);
    }
  });
  test('takes over the copies of an earlier version’s bin, wherever it is interrupted', async () => {
    const old = { build, history: emptyHistory, sequence: 3, savedAt: AT };
    await desk.device.db.trash.setItem('b1', old);
    await desk.device.db.trash.setItem('b1|card', await cardFor(desk.device.db, build, AT));
    desk.device.keepMoments = true;
    await adoptTrash(desk.device.db);
    for (const moment of [...desk.device.moments, desk.device.copy()]) {
      const crashed = Device.at(moment);
      await adoptTrash(crashed.db);
      expect(await lookInBin(crashed.db, new Date())).toHaveLength(1);
      expect(crashed.stores.trash.map.size).toBe(0);
      expect((await restoreBuild(crashed.db, 'b1')).ok).toBe(true);
      expect((await desk.stored(crashed)).build).toEqual(build);
    }
  });
});

describe('what an earlier version kept', () => {
  test('opens with its history, its journal and its odd id', async () => {
    const odd = { ...build, id: 'shed 1.2' };
    const step = { label: 'Name the build', changes: [{ path: ['name'], from: 'Before', to: build.name }] };
    await desk.device.db.snapshots.setItem(odd.id, {
      build: odd,
      history: { done: [step], undone: [] },
      sequence: 4,
      savedAt: AT,
    });
    const entry = (sequence: number, from: string, to: string) => ({
      sequence,
      move: 'do',
      label: 'Name the build',
      changes: [{ path: ['name'], from, to }],
    });
    const key = (sequence: number) => `${odd.id}|${String(sequence).padStart(12, '0')}`;
    await desk.device.db.journal.setItem(key(4), entry(4, 'Before', build.name));
    await desk.device.db.journal.setItem(key(5), entry(5, build.name, 'After'));
    const session = await desk.open(desk.device, odd.id);
    expect(session.snapshot().build.name).toBe('After');
    await session.undo();
    await session.undo();
    expect(session.snapshot().build.name).toBe('Before');
    await session.settled();
    expect(desk.device.stores.journal.map.size).toBe(0);
    const again = await desk.open(Device.at(desk.device.copy()), odd.id);
    await again.redo();
    expect(again.snapshot().build.name).toBe(build.name);
  });
  const old = JSON.parse(readFileSync('tests/core/build/fixtures/v1.json', 'utf8')) as Build;
  const keepOld = () =>
    desk.device.db.snapshots.setItem(old.id, { build: old, history: emptyHistory, sequence: 0, savedAt: AT });
  test('its journal is applied in its own shape, then the whole is raised', async () => {
    await keepOld();
    const kinds = old.kinds as Record<string, unknown>;
    await writeJournal(desk.device.db, old.id, {
      writer: 'w',
      sequence: 1,
      after: { writer: '', sequence: 0 },
      at: AT,
      move: 'do',
      label: 'Add coil',
      // A difference as version 1 wrote it: a coil with one dwell.
      changes: [
        { path: ['kinds', 'coil-old'], to: { ...(kinds['coil-igniter'] as object), id: 'coil-old' } },
        { path: ['name'], from: old.name, to: 'Renamed' },
      ],
    });
    const read = await readBuild(desk.device.db, old.id);
    if (!read.ok) throw new Error(read.problem.sentence);
    expect(read.value.build.name).toBe('Renamed');
    expect(read.value.build.kinds['coil-old'].traits).toMatchObject([{ type: 'coil', dwell: [{ volts: 13.5 }] }]);
    expect(read.value.head).toEqual({ writer: 'w', sequence: 1 });
    // Its steps speak of the older shape: they cannot be undone.
    expect(read.value.history).toEqual(emptyHistory);
  });
  test('the kept snapshot stays as it was until the next write', async () => {
    await keepOld();
    await readBuild(desk.device.db, old.id);
    const kept = await desk.device.db.snapshots.getItem<{ build: { schemaVersion: number } }>(old.id);
    expect(kept!.build.schemaVersion).toBe(1);
  });
});

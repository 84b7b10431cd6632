import { readFileSync } from 'node:fs';
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import type { Database } from '~/app/storage/database';
import {
  cardOf,
  discardBuild,
  journalKey,
  readBuild,
  restoreBuild,
  writeJournal,
  writeSnapshot,
} from '~/app/storage/persist';
import { listCards } from '~/app/storage/cards';
import { Session } from '~/app/storage/session';
import { call } from '~/core/build/edits';
import { emptyHistory } from '~/core/build/history';
import type { Build } from '~/core/build/schema';
import { demoBuild } from '../helpers';
import { Store } from './store';

let stores: Record<keyof Database, Store>;
let db: Database;
const build = { ...demoBuild(), id: 'b1' };
const start = async (one: Build = build) => {
  await writeSnapshot(
    db,
    { build: one, history: emptyHistory, sequence: 0, savedAt: '2026-01-01T00:00:00.000Z' },
    cardOf(one, 0, '2026-01-01T00:00:00.000Z'),
  );
  const read = await readBuild(db, one.id);
  if (!read.ok) throw new Error(read.problem.sentence);
  return open(read.value);
};
const opened: Session[] = [];
const open = (value: ConstructorParameters<typeof Session>[1]) => {
  const session = new Session(db, value);
  opened.push(session);
  return session;
};
const stored = async () => {
  const read = await readBuild(db, 'b1');
  if (!read.ok) throw new Error(read.problem.sentence);
  return read.value;
};
const rename = (name: string) => [call('renameBuild', { name })];

beforeEach(() => {
  stores = {
    snapshots: new Store(),
    journal: new Store(),
    cards: new Store(),
    trash: new Store(),
    photos: new Store(),
    library: new Store(),
    ecus: new Store(),
    drafts: new Store(),
    wheels: new Store(),
    captures: new Store(),
  };
  db = stores;
});

afterEach(async () => {
  for (const session of opened.splice(0)) {
    await session.settled();
    session.close();
  }
});

describe('saving', () => {
  test('an edit is in the journal before the snapshot, and readable from there alone', async () => {
    const session = await start();
    await session.edit(rename('Other'));
    expect(stores.snapshots.map.get('b1')).not.toContain('Other');
    expect((await stored()).build.name).toBe('Other');
    expect((await stored()).history.done.map((step) => step.label)).toEqual(['Name the build']);
  });
  test('the snapshot takes the journal in and clears it', async () => {
    const session = await start();
    await session.edit(rename('One'));
    await session.edit(rename('Two'));
    expect(session.snapshot().saveState).toBe('saving');
    await session.settled();
    expect(session.snapshot().saveState).toBe('saved');
    expect(stores.journal.map.size).toBe(0);
    expect((await stored()).build.name).toBe('Two');
    expect((await listCards(db))[0].name).toBe('Two');
  });
  test('a crash between journal and snapshot loses nothing, undo included', async () => {
    const first = await start();
    await first.edit(rename('One'));
    await first.edit(rename('Two'));
    await first.undo();
    // The tab dies here: a new session starts from what is stored.
    const second = open(await stored());
    expect(second.snapshot().build.name).toBe('One');
    expect(second.snapshot().redoLabel).toBe('Name the build');
    await second.redo();
    expect(second.snapshot().build.name).toBe('Two');
    await second.undo();
    await second.undo();
    expect(second.snapshot().build).toEqual(build);
  });
  test('a crash while the journal is being cleared does not apply an entry twice', async () => {
    const session = await start();
    await session.edit([call('addDevice', { kind: demoBuild().kinds.fan, label: 'Fan 3' })]);
    const entry = stores.journal.map.get(journalKey('b1', 1))!;
    await session.settled();
    stores.journal.map.set(journalKey('b1', 1), entry);
    expect((await stored()).build.devices.filter((device) => device.label === 'Fan 3')).toHaveLength(1);
  });
  test('a damaged journal entry ends the replay, the rest stays', async () => {
    const session = await start();
    await session.edit(rename('One'));
    await writeJournal(db, 'b1', {
      sequence: 2,
      move: 'do',
      label: 'bad',
      changes: [{ path: ['name'], from: 'One', to: 7 }],
    });
    expect((await stored()).build.name).toBe('One');
  });
});

describe('failing', () => {
  test('a full device keeps the memory, says so, and saves when there is room again', async () => {
    const session = await start();
    stores.journal.fail = 'quota';
    stores.snapshots.fail = 'quota';
    await session.edit(rename('Kept in memory'));
    await session.settled();
    expect(session.snapshot().saveState).toBe('failed');
    expect(session.snapshot().problem!.sentence).toMatch(/no room left.*export it now/i);
    expect(session.snapshot().build.name).toBe('Kept in memory');
    stores.journal.fail = 'never';
    stores.snapshots.fail = 'never';
    session.retry();
    await session.settled();
    expect(session.snapshot().saveState).toBe('saved');
    expect((await stored()).build.name).toBe('Kept in memory');
  });
  test('a refused store is told apart from a full one', async () => {
    const session = await start();
    stores.journal.fail = 'always';
    await session.edit(rename('x'));
    expect(session.snapshot().problem!.sentence).toMatch(/refused to store/);
  });
  test('a refused edit changes nothing and says why', async () => {
    const session = await start();
    const result = await session.edit([
      call('setReserve', { kind: 'any', count: 3 }),
      { name: 'assign', args: { needId: 'clt-ntc-1.1', pinId: 'A1' } },
    ]);
    expect(result.ok).toBe(false);
    expect(session.snapshot().build).toEqual(build);
    expect(session.snapshot().problem!.sentence).toMatch(/cannot go there/);
    session.dismiss();
    expect(session.snapshot().problem).toBeNull();
  });
  test('what cannot be read is left as it is', async () => {
    stores.snapshots.map.set(
      'b1',
      JSON.stringify({ build: { schemaVersion: 99 }, history: {}, sequence: 0, savedAt: '' }),
    );
    const before = stores.snapshots.map.get('b1');
    const read = await readBuild(db, 'b1');
    expect(!read.ok && read.problem.code).toBe('too-new');
    expect(stores.snapshots.map.get('b1')).toBe(before);
    expect((await readBuild(db, 'none')).ok).toBe(false);
  });
});

describe('edits as one step', () => {
  test('several calls undo together', async () => {
    const session = await start();
    await session.edit([call('setReserve', { kind: 'any', count: 1 }), call('setPower', { ecuGround: 'battery' })]);
    await session.undo();
    expect(session.snapshot().build).toEqual(build);
    expect(session.snapshot().notice).toMatch(/^Undone: Set spares/);
  });
  test('listeners hear each change', async () => {
    const session = await start();
    let heard = 0;
    const stop = session.subscribe(() => (heard += 1));
    await session.edit(rename('x'));
    expect(heard).toBeGreaterThan(0);
    stop();
    const before = heard;
    await session.edit(rename('y'));
    expect(heard).toBe(before);
    await session.settled();
  });
});

describe('discarding', () => {
  test('and bringing back keeps unsaved edits', async () => {
    const session = await start();
    await session.edit(rename('Late'));
    await discardBuild(db, 'b1');
    expect(await listCards(db)).toEqual([]);
    expect((await readBuild(db, 'b1')).ok).toBe(false);
    expect(stores.journal.map.size).toBe(0);
    expect((await restoreBuild(db, 'b1')).ok).toBe(true);
    expect((await stored()).build.name).toBe('Late');
    expect((await restoreBuild(db, 'b1')).ok).toBe(false);
  });
});

describe('a build kept by an earlier version', () => {
  const old = JSON.parse(readFileSync('tests/core/build/fixtures/v1.json', 'utf8')) as Build;
  const keepOld = () =>
    db.snapshots.setItem(old.id, {
      build: old,
      history: emptyHistory,
      sequence: 0,
      savedAt: '2026-01-01T00:00:00.000Z',
    });
  test('its journal is applied in its own shape, then the whole is raised', async () => {
    await keepOld();
    const kinds = old.kinds as Record<string, unknown>;
    await writeJournal(db, old.id, {
      sequence: 1,
      move: 'do',
      label: 'Add coil',
      // A difference as version 1 wrote it: a coil with one dwell.
      changes: [
        { path: ['kinds', 'coil-old'], to: { ...(kinds['coil-igniter'] as object), id: 'coil-old' } },
        { path: ['name'], from: old.name, to: 'Renamed' },
      ],
    });
    const read = await readBuild(db, old.id);
    if (!read.ok) throw new Error(read.problem.sentence);
    expect(read.value.build.name).toBe('Renamed');
    expect(read.value.build.kinds['coil-old'].traits).toMatchObject([{ type: 'coil', dwell: [{ volts: 13.5 }] }]);
    expect(read.value.sequence).toBe(1);
    // Its steps speak of the older shape: they cannot be undone.
    expect(read.value.history).toEqual(emptyHistory);
  });
  test('the kept snapshot stays as it was until the next write', async () => {
    await keepOld();
    await readBuild(db, old.id);
    expect((await db.snapshots.getItem<{ build: { schemaVersion: number } }>(old.id))!.build.schemaVersion).toBe(1);
  });
});

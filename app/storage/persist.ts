import { applyChanges } from '~/core/build/changes';
import { emptyHistory, historySchema, HISTORY_LIMIT, type History } from '~/core/build/history';
import { parseBuildData } from '~/core/build/parse';
import { BUILD_SCHEMA_VERSION, type Build } from '~/core/build/schema';
import { fail, ok, type Result } from '~/core/problem';
import type { BuildCard, CheckedSnapshot, Database, JournalEntry, Snapshot } from './database';

const PAD = 12;
export const journalKey = (id: string, sequence: number) => `${id}|${String(sequence).padStart(PAD, '0')}`;

async function journalOf(db: Database, id: string): Promise<JournalEntry[]> {
  const keys = (await db.journal.keys()).filter((key) => key.startsWith(`${id}|`)).sort();
  const entries = await Promise.all(keys.map((key) => db.journal.getItem<JournalEntry>(key)));
  return entries.filter((entry) => entry !== null);
}

function replay(history: History, entry: JournalEntry): History {
  if (entry.move === 'undo') {
    const step = history.done[history.done.length - 1];
    return step ? { done: history.done.slice(0, -1), undone: [...history.undone, step] } : history;
  }
  if (entry.move === 'redo') {
    const step = history.undone[history.undone.length - 1];
    return step ? { done: [...history.done, step], undone: history.undone.slice(0, -1) } : history;
  }
  return {
    done: [...history.done, { label: entry.label, changes: [...entry.changes] }].slice(-HISTORY_LIMIT),
    undone: [],
  };
}

const isOlder = (build: unknown): boolean =>
  typeof build === 'object' &&
  build !== null &&
  (build as { schemaVersion?: unknown }).schemaVersion !== BUILD_SCHEMA_VERSION;

/**
 * Reads a build: snapshot first (version, migration, schema), then the journal on top. The snapshot stays as it is until
 * the next write, so that nothing that could not be read is ever cleared.
 */
export async function readBuild(db: Database, id: string): Promise<Result<CheckedSnapshot>> {
  const snapshot = await db.snapshots.getItem<Snapshot>(id);
  if (!snapshot)
    return fail(
      'no-build',
      id,
      'This build is not kept on this device. It may have been made in another browser: import its file in the garage.',
    );
  const parsed = parseBuildData(snapshot.build);
  if (!parsed.ok) return parsed;
  // The journal was written against the build as it was kept: it is applied before a migration, not after.
  const older = isOlder(snapshot.build);
  let kept = snapshot.build;
  let build = parsed.value;
  let history = (older ? null : historySchema.safeParse(snapshot.history).data) ?? emptyHistory;
  let sequence = snapshot.sequence;
  for (const entry of await journalOf(db, id)) {
    if (entry.sequence !== sequence + 1) continue;
    const changed = applyChanges(kept, entry.changes);
    const next = parseBuildData(changed);
    if (!next.ok) break;
    kept = changed;
    build = next.value;
    // Steps of an older version cannot be undone in a newer one: their differences speak of the older shape.
    if (!older) history = replay(history, entry);
    sequence = entry.sequence;
  }
  return ok({ build, history, sequence, savedAt: snapshot.savedAt });
}

export const writeJournal = (db: Database, id: string, entry: JournalEntry) =>
  db.journal.setItem(journalKey(id, entry.sequence), entry);

/** Writes the whole build, then drops the journal entries it contains. A crash in between costs nothing. */
export async function writeSnapshot(db: Database, snapshot: CheckedSnapshot, card: BuildCard): Promise<void> {
  const { id } = snapshot.build;
  await db.snapshots.setItem<Snapshot>(id, snapshot);
  await db.cards.setItem(id, card);
  const contained = (await db.journal.keys()).filter(
    (key) => key.startsWith(`${id}|`) && key <= journalKey(id, snapshot.sequence),
  );
  await Promise.all(contained.map((key) => db.journal.removeItem(key)));
}

export function cardOf(build: Build, provedShare: number, changedAt: string): BuildCard {
  return {
    id: build.id,
    name: build.name,
    vehicle: build.vehicle,
    engine: build.engine.name,
    ecu: build.ecu.model,
    changedAt,
    devices: build.devices.length,
    provedShare,
  };
}

/** Moves a build to the trash, journal applied, from where `restoreBuild` brings it back. */
export async function discardBuild(db: Database, id: string): Promise<Result<null>> {
  const read = await readBuild(db, id);
  const raw = await db.snapshots.getItem<Snapshot>(id);
  // A build that cannot be read is put aside as it is, not lost.
  await db.trash.setItem(id, read.ok ? { ...read.value } : raw);
  const card = await db.cards.getItem<BuildCard>(id);
  if (card) await db.trash.setItem(`${id}|card`, card);
  await db.cards.removeItem(id);
  await db.snapshots.removeItem(id);
  const keys = (await db.journal.keys()).filter((key) => key.startsWith(`${id}|`));
  await Promise.all(keys.map((key) => db.journal.removeItem(key)));
  return ok(null);
}

export async function restoreBuild(db: Database, id: string): Promise<Result<null>> {
  const [snapshot, card] = [await db.trash.getItem<Snapshot>(id), await db.trash.getItem<BuildCard>(`${id}|card`)];
  if (!snapshot || !card) return fail('no-build', id, 'There is nothing to bring back.');
  await db.snapshots.setItem(id, snapshot);
  await db.cards.setItem(id, card);
  await db.trash.removeItem(id);
  await db.trash.removeItem(`${id}|card`);
  return ok(null);
}

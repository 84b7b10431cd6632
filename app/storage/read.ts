import { applyChanges, changeSchema } from '~/core/build/changes';
import { HISTORY_LIMIT, historySchema, stepSchema, type History, type Step } from '~/core/build/history';
import { parseBuildData } from '~/core/build/parse';
import { BUILD_SCHEMA_VERSION, type Build } from '~/core/build/schema';
import { fail, ok, type Failure, type Result } from '~/core/problem';
import type { Orphan } from './aside';
import { leftEntries } from './left';
import { partsOf, tuple, type BinRecord, type Database, type Head, type JournalEntry, type Snapshot } from './database';

/** A step with the key it is kept under; null for one that is not written yet. */
export interface KeptStep extends Step {
  readonly key: Head | null;
}

/** A build as it stands on the device: the snapshot with the journal on top. */
export interface OpenedBuild {
  readonly build: Build;
  readonly history: History;
  /** The key each step of the history is, or is to be, kept under. */
  readonly keys: ReadonlyMap<Step, Head>;
  /** Steps that are in their own store already. */
  readonly stored: ReadonlySet<Step>;
  readonly head: Head;
  readonly savedAt: string;
  /** Entries the state contains that an earlier page left where the browser takes over at once: in no store yet. */
  readonly left: readonly JournalEntry[];
  /** Journal entries the state contains, by key: to be removed once a snapshot has them. */
  readonly contained: readonly { readonly key: string; readonly head: Head }[];
  /** Entries that stand on no state there is, by key: never applied, never thrown away. */
  readonly orphans: readonly Orphan[];
}

export const entryKey = (id: string, { writer, sequence }: Head): string => tuple(id, writer, sequence);
export const stepKey = entryKey;
export const sameHead = (one: Head, other: Head): boolean =>
  one.writer === other.writer && one.sequence === other.sequence;

const NOT_KEPT =
  'This build is not kept on this device. It may have been made in another browser: import its file in the garage.';
export const inBin = (id: string): Failure =>
  fail('in-bin', id, 'This build is in the bin: bring it back in the garage to open it.');

interface Kept {
  readonly key: string;
  readonly entry: JournalEntry;
  /** Left by a page that went, and not in the journal. */
  readonly left?: boolean;
}

/** Before there were writers, a key was the build's id and the number, and an entry stood on the number before it. */
function legacyEntry(key: string, id: string, value: Omit<JournalEntry, 'writer' | 'after' | 'at'>): Kept | null {
  if (!/^\d{12}$/.test(key.slice(id.length + 1)) || !key.startsWith(`${id}|`)) return null;
  const { sequence } = value;
  return {
    key,
    entry: { ...value, writer: '', after: { writer: '', sequence: sequence - 1 }, at: '' },
  };
}

async function journalOf(db: Pick<Database, 'journal'>, id: string): Promise<Kept[]> {
  const keys = (await db.journal.keys()).filter((key) => partsOf(key)?.[0] === id || key.startsWith(`${id}|`));
  const kept = await Promise.all(
    keys.map(async (key): Promise<Kept | null> => {
      const value = await db.journal.getItem<JournalEntry>(key);
      if (value === null) return null;
      return partsOf(key) ? { key, entry: value } : legacyEntry(key, id, value);
    }),
  );
  const left = leftEntries(id).map((entry): Kept => ({ key: entryKey(id, entry), entry, left: true }));
  return [...kept.filter((one) => one !== null), ...left.filter(({ key }) => !keys.includes(key))].sort(
    (a, b) => a.entry.sequence - b.entry.sequence || (a.entry.writer < b.entry.writer ? -1 : 1),
  );
}

/** Steps by their keys; those before a lost one cannot be reached any more and are left out. */
async function stepsOf(db: Pick<Database, 'steps'>, id: string, keys: readonly Head[]): Promise<[Step, Head][]> {
  const read = await Promise.all(
    keys.map(
      async (key) => [stepSchema.safeParse(await db.steps.getItem<unknown>(stepKey(id, key))).data, key] as const,
    ),
  );
  const lost = read.findLastIndex(([step]) => step === undefined);
  return read.slice(lost + 1) as [Step, Head][];
}

const older = (build: unknown): boolean =>
  typeof build === 'object' &&
  build !== null &&
  (build as { schemaVersion?: unknown }).schemaVersion !== BUILD_SCHEMA_VERSION;

/** The history after one more entry. */
function replay(history: History, step: Step, move: JournalEntry['move']): History {
  if (move === 'do') return { done: [...history.done, step].slice(-HISTORY_LIMIT), undone: [] };
  const [from, to] = move === 'undo' ? (['done', 'undone'] as const) : (['undone', 'done'] as const);
  const moved = history[from][history[from].length - 1];
  return moved
    ? ({ [from]: history[from].slice(0, -1), [to]: [...history[to], moved] } as unknown as History)
    : history;
}

/** A build of before ids were constrained keeps the one it is stored under. */
function parseKept(value: unknown): Result<Build> {
  const parsed = parseBuildData(value, { standIn: 'odd' });
  return parsed.ok ? ok({ ...parsed.value, id: (value as Build).id }) : parsed;
}

interface Link {
  readonly kept: Kept;
  /** The build after this entry; null where a later one has been read instead. */
  readonly build: Build | null;
}

/** The entries that stand on `head` and on one another, as far as they lead to a build that can be read. */
function chainOn(start: unknown, head: Head, waiting: readonly Kept[]): Link[] {
  const chain: Kept[] = [];
  const left = new Set(waiting);
  for (let at = head; ;) {
    const next = [...left].find(({ entry }) => sameHead(entry.after, at));
    if (!next || !changeSchema.array().safeParse(next.entry.changes).success) break;
    left.delete(next);
    chain.push(next);
    at = next.entry;
  }
  // Nearly always the whole chain can be read: then it is read once, not entry by entry.
  const whole = parseKept(chain.reduce((build, { entry }) => applyChanges(build, entry.changes), start));
  if (whole.ok) return chain.map((kept, i) => ({ kept, build: i === chain.length - 1 ? whole.value : null }));
  const links: Link[] = [];
  let raw = start;
  for (const kept of chain) {
    raw = applyChanges(raw, kept.entry.changes);
    const read = parseKept(raw);
    if (!read.ok) break;
    links.push({ kept, build: read.value });
  }
  return links;
}

type StoredSnapshot = Partial<Snapshot> & { readonly build: unknown; readonly sequence: number; history?: unknown };

/** The history a snapshot names; of an earlier version, the one it holds. */
async function historyOf(db: Pick<Database, 'steps'>, id: string, snapshot: StoredSnapshot) {
  const [done, undone] = await Promise.all([
    stepsOf(db, id, snapshot.done ?? []),
    stepsOf(db, id, snapshot.undone ?? []),
  ]);
  const held = snapshot.done ? null : historySchema.safeParse(snapshot.history).data;
  if (!held)
    return {
      history: { done: done.map(([step]) => step), undone: undone.map(([step]) => step) },
      keys: new Map([...done, ...undone]),
      stored: new Set([...done, ...undone].map(([step]) => step)),
    };
  const keys = new Map<Step, Head>();
  // Steps of before writers are given keys no writer has.
  [...held.done, ...held.undone].forEach((step, i) => keys.set(step, { writer: 'held', sequence: i }));
  return { history: held, keys, stored: new Set<Step>() };
}

/**
 * Reads a build: snapshot first (version, migration, schema), then the entries that stand on its head, one on the other. The
 * snapshot stays as it is until the next write, so that nothing that could not be read is ever cleared. Nothing is written.
 */
export async function readBuild(db: Database, id: string): Promise<Result<OpenedBuild>> {
  if (await db.bin.getItem<BinRecord>(id)) return inBin(id);
  return readKept(db, id);
}

/** The same for a build that may be in the bin. */
export async function readKept(db: Database, id: string): Promise<Result<OpenedBuild>> {
  const snapshot = await db.snapshots.getItem<StoredSnapshot>(id);
  if (!snapshot) return fail('no-build', id, NOT_KEPT);
  const parsed = parseKept(snapshot.build);
  if (!parsed.ok) return parsed;
  const wasOlder = older(snapshot.build);
  const { history: kept, keys, stored } = await historyOf(db, id, snapshot);
  let [build, history] = [parsed.value, wasOlder ? { done: [], undone: [] } : kept];
  let head: Head = { writer: snapshot.writer ?? '', sequence: snapshot.sequence };
  let savedAt = snapshot.savedAt ?? '';
  const taken = snapshot.taken ?? [];
  const journal = await journalOf(db, id);
  const isTaken = ({ entry }: Kept) =>
    snapshot.writer === undefined || entry.writer === snapshot.writer
      ? entry.sequence <= snapshot.sequence
      : taken.some((one) => sameHead(one, entry));
  const contained = journal.filter(isTaken).map(({ key, entry }) => ({ key, head: entry as Head }));
  const waiting = journal.filter((one) => !isTaken(one));
  const left: JournalEntry[] = [];
  for (const { kept: next, build: read } of chainOn(snapshot.build, head, waiting)) {
    const { entry } = next;
    const step: Step = { label: entry.label, changes: [...entry.changes] };
    if (read) build = read;
    // Steps of an older version cannot be undone in a newer one: their differences speak of the older shape.
    if (!wasOlder) {
      history = replay(history, step, entry.move);
      if (entry.move === 'do') keys.set(step, { writer: entry.writer, sequence: entry.sequence });
    }
    head = { writer: entry.writer, sequence: entry.sequence };
    if (entry.at) savedAt = entry.at;
    if (next.left) left.push(entry);
    else contained.push({ key: next.key, head });
  }
  const applied = new Set([...contained.map(({ key }) => key), ...left.map((entry) => entryKey(id, entry))]);
  const orphans = waiting.filter(({ key }) => !applied.has(key)).map(({ key, entry }) => ({ key, entry }));
  return ok({ build, history, keys, stored, head, savedAt, left, contained, orphans });
}

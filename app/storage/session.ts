import type { EditCall } from '~/core/build/edits';
import { applyEdit } from '~/core/build/edits';
import { record, redo, undo, type History, type Moved } from '~/core/build/history';
import type { Build } from '~/core/build/schema';
import { fail, ok, type Failure, type Problem, type Result } from '~/core/problem';
import { derive } from './derived';
import { database, type CheckedSnapshot, type Database, type JournalEntry } from './database';
import { sweepPhotos } from './photos';
import { cardOf, readBuild, writeJournal, writeSnapshot } from './persist';

export type SaveState = 'saved' | 'saving' | 'failed';

/** What the sheet shows of a session; a new object for every change. */
export interface SessionView {
  readonly build: Build;
  readonly saveState: SaveState;
  readonly savedAt: string;
  /** Another tab holds the pen: this one follows. */
  readonly following: boolean;
  readonly undoLabel: string | null;
  readonly redoLabel: string | null;
  readonly problem: Problem | null;
  readonly notice: string | null;
}

const lockName = (id: string): string => `gonyx-build-${id}`;
const SNAPSHOT_DELAY = 300;
const now = () => new Date().toISOString();

function describeFailure(error: unknown): Problem {
  const quota = error instanceof DOMException && error.name === 'QuotaExceededError';
  return {
    code: quota ? 'quota' : 'storage',
    path: '',
    sentence: quota
      ? 'This device has no room left for the build. It is still here in memory: export it now.'
      : 'The browser refused to store the build (private window, or storage turned off). It is still here in memory: export it now.',
  };
}

/** One open build: memory first, journal next, snapshot soon after. One write is in flight at a time. */
export class Session {
  private view: SessionView;
  private history: History;
  private sequence: number;
  private readonly listeners = new Set<() => void>();
  private timer: ReturnType<typeof setTimeout> | null = null;
  private writing: Promise<void> = Promise.resolve();
  private snapshotQueued = false;
  private readonly channel: BroadcastChannel | null;

  constructor(
    private readonly db: Database,
    start: CheckedSnapshot,
  ) {
    this.history = start.history;
    this.sequence = start.sequence;
    this.view = this.compose({
      build: start.build,
      saveState: 'saved',
      savedAt: start.savedAt,
      following: false,
      problem: null,
      notice: null,
    });
    this.channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(`gonyx-${start.build.id}`);
    if (this.channel) this.channel.onmessage = () => void this.follow();
    this.takePen();
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly snapshot = (): SessionView => this.view;

  /** Applies edits as one step. A refused edit changes nothing and says why. */
  async edit(calls: readonly EditCall[]): Promise<Result<null>> {
    if (this.view.following)
      return this.refuse(fail('following', '', 'Another tab is writing this build. Close it there, or work there.'));
    let build = this.view.build;
    let label = '';
    for (const one of calls) {
      const result = applyEdit(build, one.name, one.args);
      if (!result.ok) return this.refuse(result);
      build = result.value.build;
      label ||= result.value.label;
    }
    const recorded = record(this.history, label, this.view.build, build);
    if (recorded.changes.length === 0) {
      this.update({ problem: null });
      return ok(null);
    }
    return this.commit(build, recorded.history, { move: 'do', label, changes: recorded.changes }, null);
  }

  undo = () => this.move('undo', undo(this.view.build, this.history));
  redo = () => this.move('redo', redo(this.view.build, this.history));

  dismiss(): void {
    this.update({ problem: null, notice: null });
  }

  /** Lays the pen down: another tab, or a fresh session, may write. */
  close(): void {
    this.channel?.close();
    this.layPenDown();
  }
  private layPenDown: () => void = () => {};

  /** Tries a failed write again. */
  retry(): void {
    this.scheduleSnapshot(0);
  }

  /** Resolves once everything is on the device. */
  async settled(): Promise<void> {
    while (this.timer !== null || this.snapshotQueued || this.view.saveState === 'saving') {
      if (this.timer !== null) {
        clearTimeout(this.timer);
        this.timer = null;
        this.queueSnapshot();
      }
      await this.writing;
      if (this.view.saveState === 'failed') return;
    }
  }

  private async move(kind: 'undo' | 'redo', moved: Moved | null): Promise<Result<null>> {
    if (!moved) return ok(null);
    if (this.view.following) return this.refuse(fail('following', '', 'Another tab is writing this build.'));
    const notice = `${kind === 'undo' ? 'Undone' : 'Done again'}: ${moved.label}`;
    return this.commit(moved.build, moved.history, { move: kind, label: moved.label, changes: moved.changes }, notice);
  }

  private async commit(
    build: Build,
    history: History,
    change: Omit<JournalEntry, 'sequence'>,
    notice: string | null,
  ): Promise<Result<null>> {
    this.history = history;
    this.sequence += 1;
    const entry: JournalEntry = { ...change, sequence: this.sequence };
    this.update({ build, saveState: 'saving', problem: null, notice });
    this.writing = this.writing.then(async () => {
      try {
        await writeJournal(this.db, build.id, entry);
      } catch (error) {
        this.update({ saveState: 'failed', problem: describeFailure(error) });
      }
    });
    this.scheduleSnapshot(SNAPSHOT_DELAY);
    await this.writing;
    return ok(null);
  }

  private scheduleSnapshot(delay: number): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      this.timer = null;
      this.queueSnapshot();
    }, delay);
  }

  private queueSnapshot(): void {
    if (this.snapshotQueued) return;
    this.snapshotQueued = true;
    this.writing = this.writing.then(async () => {
      this.snapshotQueued = false;
      const { build } = this.view;
      const savedAt = now();
      const { progress } = derive(build);
      const share = progress.wires === 0 ? 0 : progress.proved.size / progress.wires;
      try {
        await writeSnapshot(
          this.db,
          { build, history: this.history, sequence: this.sequence, savedAt },
          cardOf(build, share, savedAt),
        );
        this.update({
          saveState: this.timer === null ? 'saved' : 'saving',
          savedAt,
          problem: this.view.saveState === 'failed' ? null : this.view.problem,
        });
        this.channel?.postMessage('saved');
      } catch (error) {
        this.update({ saveState: 'failed', problem: describeFailure(error) });
      }
    });
  }

  private refuse(result: Failure): Result<null> {
    this.update({ problem: result.problem });
    return result;
  }

  /** The first tab that asks holds the pen; the next ones follow until it closes. */
  private takePen(): void {
    if (typeof navigator === 'undefined' || !('locks' in navigator)) return;
    const name = lockName(this.view.build.id);
    const closed = new Promise<void>((resolve) => (this.layPenDown = resolve));
    void navigator.locks.request(name, { ifAvailable: true }, (lock) => {
      if (lock) return closed;
      this.update({ following: true });
      void navigator.locks.request(name, async () => {
        await this.follow();
        this.update({ following: false, notice: 'This tab may write the build now.' });
        await closed;
      });
      return undefined;
    });
  }

  private async follow(): Promise<void> {
    if (!this.view.following) return;
    const read = await readBuild(this.db, this.view.build.id);
    if (!read.ok) return;
    this.history = read.value.history;
    this.sequence = read.value.sequence;
    this.update({ build: read.value.build, savedAt: read.value.savedAt });
  }

  private compose(base: Omit<SessionView, 'undoLabel' | 'redoLabel'>): SessionView {
    return {
      ...base,
      undoLabel: this.history.done[this.history.done.length - 1]?.label ?? null,
      redoLabel: this.history.undone[this.history.undone.length - 1]?.label ?? null,
    };
  }

  private update(part: Partial<SessionView>): void {
    this.view = this.compose({ ...this.view, ...part });
    for (const listener of this.listeners) listener();
  }
}

/** Pictures nobody names any more go, unless another tab writes this build and may have just stored one. */
async function tidyPhotos(start: CheckedSnapshot): Promise<void> {
  const { held } = await navigator.locks.query();
  if (held?.some((lock) => lock.name === lockName(start.build.id))) return;
  const named = JSON.stringify([start.build.survey.photos, start.history]);
  await sweepPhotos(database(), start.build.id, (id) => named.includes(id));
}

function openWith(start: CheckedSnapshot): Session {
  // A picture that stays too long costs room, nothing else: a failed sweep is tried at the next opening.
  if (typeof navigator !== 'undefined' && 'locks' in navigator) void tidyPhotos(start).catch(() => undefined);
  return new Session(database(), start);
}

const sessions = new Map<string, Promise<Result<Session>>>();

/** The session of a build, opened once a tab. */
export function openSession(id: string): Promise<Result<Session>> {
  const known = sessions.get(id);
  if (known) return known;
  const opening = readBuild(database(), id).then((read): Result<Session> =>
    read.ok ? ok(openWith(read.value)) : read,
  );
  sessions.set(id, opening);
  // A build that could not be opened is tried afresh next time.
  void opening.then(
    (result) => !result.ok && sessions.delete(id),
    () => sessions.delete(id),
  );
  return opening;
}

/** Writes what is open, then closes a build's session, before it is discarded or replaced. */
export async function closeSession(id: string): Promise<void> {
  const known = sessions.get(id);
  sessions.delete(id);
  const opened = await known;
  if (!opened?.ok) return;
  await opened.value.settled();
  opened.value.close();
}

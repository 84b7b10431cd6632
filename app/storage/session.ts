import { applyEdit } from '~/core/edits';
import { record, redo, undo, type History, type Moved, type Step } from '~/core/build/history';
import type { Build } from '~/core/build/schema';
import { fail, ok, type Failure, type Problem, type Result } from '~/core/problem';
import type { AskedEdit, BuildAction } from './actions';
import type { Database, JournalEntry } from './database';
import { ASKING_MILLISECONDS, PenChannel, askPen, inSight, takePen, waitForPen, type Pen } from './pen';
import { asideOf, dropAside, putAside } from './aside';
import { keepLeft } from './left';
import { readBuild, type OpenedBuild } from './read';
import { Turns } from './turns';
import { Saver, type SaveNews, type SaveState } from './saver';

/** What the sheet shows of a session; a new object for every change. */
export interface SessionView {
  readonly build: Build;
  readonly saveState: SaveState;
  readonly savedAt: string;
  /** Another tab holds the pen: this one follows. */
  readonly following: boolean;
  /** Why the build can be read no more: it was deleted in another tab. */
  readonly gone: string | null;
  /** Changes of an earlier session that stand on nothing, put aside. */
  readonly aside: number;
  readonly undoLabel: string | null;
  readonly redoLabel: string | null;
  readonly problem: Problem | null;
  readonly notice: string | null;
}

const FOLLOWING: Failure = fail(
  'following',
  '',
  'Another tab is writing this build. Take the pen over here first, or work there.',
);
const REREAD_MILLISECONDS = 5000;

/** One open build: memory first, the device right after. Writes only while it holds the pen, and only over what it has read. */
export class Session {
  private view: SessionView;
  private history: History;
  private saver: Saver | null = null;
  private readonly listeners = new Set<() => void>();
  private readonly channel: PenChannel;
  private readonly turns = new Turns<BuildAction>((action) => this.perform(action));
  private closed = false;
  private pen: Pen | null = null;
  private giveUp = new AbortController();
  private askedAt = 0;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private reading: Promise<void> | null = null;
  private readAgain = false;

  /** Opens a build. Resolves when it is decided who writes, and the build was read under that decision. */
  static async open(db: Database, id: string, ask: 'if free' | 'ask for it' = 'if free'): Promise<Result<Session>> {
    const pen = await (ask === 'ask for it' ? askPen(id) : takePen(id));
    try {
      const read = await readBuild(db, id);
      if (!read.ok) {
        pen?.release();
        return read;
      }
      return ok(new Session(db, read.value, pen));
    } catch (error) {
      pen?.release();
      throw error;
    }
  }

  private constructor(
    private readonly db: Database,
    opened: OpenedBuild,
    pen: Pen | null,
  ) {
    this.history = opened.history;
    this.view = this.compose({
      build: opened.build,
      saveState: 'saved',
      savedAt: opened.savedAt,
      following: pen === null,
      gone: null,
      aside: 0,
      problem: null,
      notice: null,
    });
    this.channel = new PenChannel(opened.build.id, (message) => {
      if (message === 'asked') void this.layDown();
      else void this.follow();
      if (message === 'released') this.queueNow();
    });
    if (pen) this.write(opened, pen);
    else void this.queueForPen();
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly snapshot = (): SessionView => this.view;
  get id(): string {
    return this.view.build.id;
  }
  /** Steps that can be undone or done again: they may name pictures the build no longer does. */
  steps(): History {
    return this.history;
  }
  /** Changes that are in memory only. */
  get unsaved(): boolean {
    return this.saver?.unsaved ?? false;
  }

  /** Applies edits as one step. A refused edit changes nothing and says why. */
  async edit(calls: readonly AskedEdit[]): Promise<Result<null>> {
    const stop = this.mayNotWrite();
    if (stop) return this.refuse(stop);
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
    const { done } = recorded.history;
    const step = done[done.length - 1];
    return this.commit(build, recorded.history, { move: 'do', label, changes: recorded.changes }, null, step);
  }

  undo = () => this.move('undo', undo(this.view.build, this.history));
  redo = () => this.move('redo', redo(this.view.build, this.history));

  /** Says what is asked, before its request is on its way; answers the number under which the request is to come. */
  ask(action: BuildAction): number {
    return this.turns.ask(action);
  }
  /** Answers a request, and before it everything that was asked earlier. */
  async answer(turn: number, action: BuildAction): Promise<Result<null>> {
    return (await this.turns.answer(turn)) ?? this.perform(action);
  }
  /** The number of the last thing asked. */
  asked(): number {
    return this.turns.asked();
  }
  /** Resolves when all that was asked up to now is done and on the device, or cannot be. */
  answered(): Promise<void> {
    return this.turns.settled();
  }
  /** The page is going: does what was asked and is still on its way, and keeps what the store may not take over any more. */
  leave(): boolean {
    this.turns.catchUp();
    return this.saver === null || keepLeft(this.id, this.saver.onItsWay);
  }

  dismiss(): void {
    this.update({ problem: null, notice: null });
  }

  /** Tells the person something, in the sheet's line of notices. */
  tell(notice: string): void {
    this.update({ notice });
  }

  /** Tries a failed write again. */
  retry(): void {
    void this.saver?.retry();
  }

  /** Resolves once everything is on the device, or cannot be put there. */
  async settled(): Promise<void> {
    await this.saver?.settled();
  }

  /** Asks the tab that writes to lay the pen down, and takes it up here. */
  async takeOver(): Promise<void> {
    if (!this.view.following || this.closed) return;
    this.giveUp.abort();
    const pen = await askPen(this.id);
    if (pen) await this.takeUp(pen);
    else {
      this.update({
        problem: fail('pen', '', 'The other tab did not let go: it may hold changes it could not save. Look there.')
          .problem,
      });
      void this.queueForPen();
    }
  }

  /** Lays the pen down for good: another tab, or a fresh session, may write. */
  close(): void {
    this.closed = true;
    this.giveUp.abort();
    if (this.timer !== null) clearTimeout(this.timer);
    this.saver?.stop();
    if (this.pen) {
      this.pen.release();
      this.channel.tell('released');
    }
    this.pen = null;
    this.channel.close();
  }

  /** Tells the other tabs that this build was deleted. */
  tellBinned(): void {
    this.channel.tell('binned');
  }

  /** What was put aside, as a file's text; null when there is nothing. */
  async asideText(): Promise<string | null> {
    const aside = await asideOf(this.db, this.id);
    return aside.length === 0 ? null : JSON.stringify(aside, null, 1);
  }
  async dropAside(): Promise<void> {
    await dropAside(this.db, this.id);
    this.update({ aside: 0 });
  }

  private perform(action: BuildAction): Promise<Result<null>> {
    if (action.intent === 'edit') return this.edit(action.calls);
    return action.intent === 'undo' ? this.undo() : this.redo();
  }

  private mayNotWrite(): Failure | null {
    if (this.closed) return fail('closed', '', 'This build was left: open it again to change it.');
    if (this.view.gone !== null) return fail('gone', '', this.view.gone);
    return this.view.following || !this.saver ? FOLLOWING : null;
  }

  private async move(kind: 'undo' | 'redo', moved: Moved | null): Promise<Result<null>> {
    const stop = this.mayNotWrite();
    if (stop) return this.refuse(stop);
    if (!moved) return ok(null);
    const notice = `${kind === 'undo' ? 'Undone' : 'Done again'}: ${moved.label}`;
    const change = { move: kind, label: moved.label, changes: moved.changes };
    return this.commit(moved.build, moved.history, change, notice, null);
  }

  private async commit(
    build: Build,
    history: History,
    change: Pick<JournalEntry, 'move' | 'label' | 'changes'>,
    notice: string | null,
    step: Step | null,
  ): Promise<Result<null>> {
    this.history = history;
    this.update({ build, saveState: 'saving', problem: null, notice });
    await this.saver?.add(change, step);
    return ok(null);
  }

  private onSaved(news: SaveNews): void {
    this.update(news);
    if (news.saveState === 'saved') this.channel.tell('saved');
  }

  private refuse(result: Failure): Result<null> {
    this.update({ problem: result.problem });
    return result;
  }

  /** From here on this session writes, over exactly what was read. */
  private write(opened: OpenedBuild, pen: Pen): void {
    this.pen = pen;
    this.saver = new Saver(this.db, opened, {
      current: () => ({ build: this.view.build, history: this.history }),
      tell: (news) => this.onSaved(news),
      onBinned: () => this.update({ gone: 'This build was deleted in another tab.' }),
    });
    // What an earlier page left is only now put where it is safe.
    if (this.saver.unsaved) this.update({ saveState: 'saving' });
    void this.countAside(opened);
  }

  private async countAside(opened: OpenedBuild): Promise<void> {
    try {
      await putAside(this.db, opened, new Date().toISOString());
      this.update({ aside: (await asideOf(this.db, this.id)).length });
    } catch {
      // They stay in the journal, where they stand on nothing; the next opening tries again.
      this.update({ aside: opened.orphans.length });
    }
  }

  /** Another tab asks for the pen: what is on its way is finished first. A tab with unsaved changes keeps it. */
  private async layDown(): Promise<void> {
    this.askedAt = Date.now();
    const { pen, saver } = this;
    if (!pen || !saver) {
      // A follower that queues would get the pen in the asker's place.
      this.giveUp.abort();
      this.queueLater(ASKING_MILLISECONDS);
      return;
    }
    this.update({ following: true });
    await saver.settled();
    if (saver.unsaved) {
      this.update({ following: false });
      return;
    }
    saver.stop();
    [this.saver, this.pen] = [null, null];
    pen.release();
    this.queueLater(ASKING_MILLISECONDS);
  }

  /** Whoever asked for the pen is done with it: nobody need wait any longer. */
  private queueNow(): void {
    this.askedAt = 0;
    if (this.timer !== null && !this.pen) this.queueLater(0);
  }

  private queueLater(milliseconds: number): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      this.timer = null;
      void this.queueForPen();
    }, milliseconds);
  }

  /** Waits until nobody writes, then writes. */
  private async queueForPen(): Promise<void> {
    if (this.closed || this.pen) return;
    this.giveUp.abort();
    this.giveUp = new AbortController();
    const { signal } = this.giveUp;
    // A tab nobody looks at does not snatch the pen from one that is only being loaded anew.
    await inSight(signal);
    const pen = await waitForPen(this.id, signal);
    if (!pen) return;
    if (Date.now() - this.askedAt < ASKING_MILLISECONDS) {
      pen.release();
      this.queueLater(ASKING_MILLISECONDS);
      return;
    }
    await this.takeUp(pen);
  }

  /** Reads under the pen, and writes only what it has read. */
  private async takeUp(pen: Pen): Promise<void> {
    const read = await this.read();
    if (this.closed || !read.ok) {
      pen.release();
      if (!this.closed && !read.ok) this.onUnread(read.problem);
      return;
    }
    this.history = read.value.history;
    this.write(read.value, pen);
    this.update({
      build: read.value.build,
      savedAt: read.value.savedAt,
      saveState: 'saved',
      following: false,
      gone: null,
      problem: null,
      notice: 'This tab may write the build now.',
    });
  }

  private async read(): Promise<Result<OpenedBuild>> {
    try {
      return await readBuild(this.db, this.id);
    } catch {
      return fail('unread', this.id, 'The build could not be read from this device just now. It is tried again.');
    }
  }

  private onUnread(problem: Problem): void {
    const gone = problem.code === 'in-bin' || problem.code === 'no-build';
    if (gone) this.update({ gone: 'This build was deleted in another tab.', following: true });
    else {
      this.update({ problem });
      this.queueLater(REREAD_MILLISECONDS);
    }
  }

  /** Takes in what another tab has saved. Reads land in order: one at a time, and the last word is read last. */
  private follow(): Promise<void> {
    if (this.closed || this.pen) return Promise.resolve();
    if (this.reading) {
      this.readAgain = true;
      return this.reading;
    }
    this.reading = this.readOnce().finally(() => {
      this.reading = null;
      if (!this.readAgain) return;
      this.readAgain = false;
      void this.follow();
    });
    return this.reading;
  }
  private async readOnce(): Promise<void> {
    const read = await this.read();
    if (this.closed || this.pen) return;
    if (!read.ok) {
      this.onUnread(read.problem);
      return;
    }
    const back = this.view.gone !== null;
    this.history = read.value.history;
    this.update({ build: read.value.build, savedAt: read.value.savedAt, gone: null, problem: null });
    if (back) void this.queueForPen();
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

import type { History, Step } from '~/core/build/history';
import type { Build } from '~/core/build/schema';
import type { Problem } from '~/core/problem';
import { dropCaptures } from './captures';
import type { BinRecord, BuildCard, Database, Head, JournalEntry } from './database';
import { derive } from '~/core/derive/derive';
import { standingOf } from '~/core/derive/standing';
import { isFull, saveProblem } from './failure';
import { dropLeft } from './left';
import { entryKey, sameHead, type OpenedBuild } from './read';
import { cardOf, writeJournal, writeSnapshot } from './write';

export type SaveState = 'saved' | 'saving' | 'failed';

/** What the saver says of itself. */
export interface SaveNews {
  readonly saveState: SaveState;
  readonly savedAt?: string;
  readonly problem?: Problem | null;
  readonly notice?: string;
}

/** What is to be saved, asked for when a write begins. */
interface Subject {
  readonly current: () => { readonly build: Build; readonly history: History };
  readonly tell: (news: SaveNews) => void;
  /** The build was deleted elsewhere: nothing is written any more. */
  readonly onBinned: () => void;
}

/** A snapshot follows when the person pauses this long, or has made this many changes. */
const PAUSE_MILLISECONDS = 1000;
const MOST_ENTRIES = 40;
/** A write that failed is tried again by itself. */
const RETRY_MILLISECONDS = 5000;

const now = () => new Date().toISOString();

/** What a card shows of where a build stands; null where the build cannot be worked through. Saving never hangs on it. */
function whereItStands(build: Build): Pick<BuildCard, 'provedShare' | 'standing'> | null {
  try {
    const derived = derive(build);
    const { progress } = derived;
    return {
      provedShare: progress.wires === 0 ? 0 : progress.proved.size / progress.wires,
      standing: standingOf(derived),
    };
  } catch {
    // The sheets say what is wrong; the card keeps what it had.
    return null;
  }
}

export async function cardFor(db: Pick<Database, 'cards'>, build: Build, at: string): Promise<BuildCard> {
  const { provedShare, standing } = whereItStands(build) ??
    (await db.cards.getItem<BuildCard>(build.id)) ?? { provedShare: 0 };
  return { ...cardOf(build, provedShare, at), standing };
}

/**
 * Writes one build for one session: each change into the journal, in order and none over a gap; a snapshot when there is a
 * pause. One write is in flight at a time, and none stops the next.
 */
export class Saver {
  private readonly id: string;
  private readonly writer: string = crypto.randomUUID();
  private head: Head;
  private readonly keys: Map<Step, Head>;
  private readonly stored: Set<Step>;
  private contained: { key: string; head: Head }[];
  /** Entries that are in no store yet. */
  private pending: JournalEntry[];
  private dirty: boolean;
  private failed = false;
  private stopped = false;
  private chain: Promise<void> = Promise.resolve();
  private timer: ReturnType<typeof setTimeout> | null = null;

  constructor(
    private readonly db: Database,
    opened: OpenedBuild,
    private readonly subject: Subject,
  ) {
    this.id = opened.build.id;
    this.head = opened.head;
    this.keys = new Map(opened.keys);
    this.stored = new Set(opened.stored);
    this.contained = [...opened.contained];
    // What an earlier page left is written before anything stands on it: the shelf it lies on may be lost with a crash.
    this.pending = [...opened.left];
    this.dirty = this.contained.length > 0 || this.unsaved;
    if (this.unsaved) this.flush();
    if (this.dirty) this.scheduleSnapshot();
  }

  /** Something that is in memory only. */
  get unsaved(): boolean {
    return this.pending.length > 0;
  }

  /** Takes a change in; `step` is what it added to the history. Resolves when it is on the device, or could not be put there. */
  add(change: Pick<JournalEntry, 'move' | 'label' | 'changes'>, step: Step | null): Promise<void> {
    const sequence = this.head.sequence + 1;
    const entry: JournalEntry = { ...change, writer: this.writer, sequence, after: this.head, at: now() };
    this.head = { writer: this.writer, sequence };
    if (step) this.keys.set(step, this.head);
    this.pending.push(entry);
    this.dirty = true;
    this.flush();
    this.scheduleSnapshot();
    return this.chain;
  }

  /** What is in no store yet, for a page that goes. */
  get onItsWay(): readonly JournalEntry[] {
    return this.pending;
  }

  /** Tries again what failed. */
  retry(): Promise<void> {
    this.flush();
    if (this.failed) this.queueSnapshot();
    return this.chain;
  }

  /** Resolves once everything is on the device, snapshot and card included, or cannot be put there. */
  async settled(): Promise<void> {
    this.stopTimer();
    await this.chain;
    if (this.dirty && !this.stopped) this.queueSnapshot();
    await this.chain;
    // What is still owed keeps its next try.
    if (!this.dirty) this.stopTimer();
  }

  /** Nothing is written from here on. */
  stop(): void {
    this.stopped = true;
    this.stopTimer();
  }

  private flush(): void {
    this.enqueue(async () => {
      while (this.pending.length > 0) {
        const [entry] = this.pending;
        await writeJournal(this.db, this.id, entry);
        this.contained.push({ key: entryKey(this.id, entry), head: entry });
        this.pending.shift();
        this.tellSaved(entry.at);
      }
    });
  }

  private queueSnapshot(): void {
    this.enqueue(async () => {
      if (!this.dirty) return;
      if (await this.db.bin.getItem<BinRecord>(this.id)) {
        this.stop();
        this.subject.onBinned();
        return;
      }
      const { build, history } = this.subject.current();
      const card = await cardFor(this.db, build, now());
      const [written, head] = [this.pending.length, this.head];
      // What an earlier page left and the journal refused is in the snapshot all the same.
      const others = this.pending.filter((one) => one.writer !== this.writer);
      const contained = [...this.contained, ...others.map((one) => ({ key: entryKey(this.id, one), head: one }))];
      const named = new Set([...history.done, ...history.undone]);
      const gone = [...this.stored].filter((step) => !named.has(step));
      const forgotten = gone.flatMap((step) => this.keys.get(step) ?? []);
      await writeSnapshot(
        this.db,
        build,
        history,
        head,
        { keys: this.keys, stored: this.stored, contained, forgotten },
        card,
      );
      this.pending.splice(0, written);
      dropLeft(this.id, (entry) => entry.writer === this.writer || contained.some((one) => sameHead(one.head, entry)));
      this.contained = this.contained.filter((one) => !contained.includes(one));
      for (const step of gone) this.stored.delete(step);
      for (const step of this.keys.keys()) if (named.has(step)) this.stored.add(step);
      this.dirty = this.head !== head;
      this.tellSaved(card.changedAt);
    });
  }

  private tellSaved(savedAt: string): void {
    const recovered = this.failed;
    if (this.pending.length > 0) return;
    this.failed = false;
    this.subject.tell({ saveState: 'saved', savedAt, ...(recovered ? { problem: null } : {}) });
  }

  /** One after the other; what fails is told and tried again, and the next goes on all the same. */
  private enqueue(task: () => Promise<void>): void {
    this.chain = this.chain.then(async () => {
      if (this.stopped) return;
      try {
        await task();
      } catch (error) {
        await this.onFailure(error, task);
      }
    });
  }

  private async onFailure(error: unknown, task: () => Promise<void>): Promise<void> {
    let last = error;
    // A kept capture can be opened from its file again: it makes room before a build is refused.
    if (isFull(error) && (await dropCaptures(this.db)) > 0)
      try {
        await task();
        this.subject.tell({
          saveState: this.pending.length > 0 ? 'saving' : 'saved',
          notice: 'Kept captures made room for the build: open their files again when you need them.',
        });
        return;
      } catch (again) {
        last = again;
      }
    // What is in the journal is on the device: a snapshot that failed is only owed.
    if (this.pending.length > 0) {
      this.failed = true;
      this.subject.tell({ saveState: 'failed', problem: saveProblem(last) });
    }
    this.schedule(() => void this.retry(), RETRY_MILLISECONDS);
  }

  private scheduleSnapshot(): void {
    if (this.contained.length + this.pending.length >= MOST_ENTRIES) this.queueSnapshot();
    else this.schedule(() => this.queueSnapshot(), PAUSE_MILLISECONDS);
  }
  private schedule(act: () => void, milliseconds: number): void {
    this.stopTimer();
    if (this.stopped) return;
    this.timer = setTimeout(() => {
      this.timer = null;
      act();
    }, milliseconds);
  }
  private stopTimer(): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
  }
}

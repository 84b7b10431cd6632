import type { Typing } from '../ui/typed';
import { writeOnLeaving, writeTyped, type TypedTexts } from '../storage/typed';

/** Texts are written when the person pauses this long. */
const PAUSE_MILLISECONDS = 250;

/** What the keeper needs of the session whose build is typed on. */
export interface TypedOn {
  readonly id: string;
  /** The number of the last edit or undo that was asked. */
  asked(): number;
  /** Resolves when all of that is on the device, or cannot be put there. */
  answered(): Promise<void>;
  /** Something that was done is in memory only. */
  readonly unsaved: boolean;
  tell(notice: string): void;
}

/** Keeps the texts being typed on one build, and tells whether all of them are on the device. */
export class TypingKeeper implements Typing {
  private texts: TypedTexts;
  private readonly claimed = new Set<string>();
  private readonly paths = new Map<string, string>();
  /** Texts whose edit has been asked and is on its way to the device. */
  private readonly entered = new Map<string, TypedTexts[string]>();
  /** What had been asked when a text was typed that is not entered yet. */
  private readonly askedAt = new Map<string, number>();
  private readonly listeners = new Set<() => void>();
  private timer: ReturnType<typeof setTimeout> | null = null;
  private writing: Promise<unknown> = Promise.resolve();
  private changes = 0;
  private isTyping = false;

  constructor(
    private readonly session: TypedOn,
    kept: TypedTexts,
    private readonly store: (buildId: string, texts: TypedTexts) => Promise<unknown> = writeTyped,
  ) {
    this.texts = { ...kept };
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  /** Something typed is not on the device yet. */
  readonly typing = (): boolean => this.isTyping;

  claim(label: string): string {
    const path = window.location.pathname;
    let [key, number] = [`${path}${label}`, 1];
    while (this.claimed.has(key)) key = `${path}${label}#${(number += 1)}`;
    this.claimed.add(key);
    this.paths.set(key, path);
    return key;
  }
  release(key: string, entered: boolean): void {
    this.claimed.delete(key);
    // A dialog that was closed, a form that was sent: the page is the same. A page that was left keeps what was typed.
    if (!entered && window.location.pathname === this.paths.get(key)) this.drop(key);
  }
  kept(key: string, shown: string): string | null {
    const kept = Object.hasOwn(this.texts, key) ? this.texts[key] : null;
    if (!kept) return null;
    if (kept.shown === shown && kept.text !== shown) return kept.text;
    this.drop(key);
    return null;
  }
  type(key: string, shown: string, text: string): void {
    this.texts = { ...this.texts, [key]: { shown, text } };
    this.askedAt.set(key, this.session.asked());
    this.changed();
  }
  drop(key: string): void {
    if (!Object.hasOwn(this.texts, key)) return;
    this.texts = Object.fromEntries(Object.entries(this.texts).filter(([one]) => one !== key));
    this.askedAt.delete(key);
    this.changed();
  }
  left(key: string): void {
    const before = this.askedAt.get(key) ?? this.session.asked();
    this.askedAt.delete(key);
    // Leaving the field asks for its edit at once, if it does.
    setTimeout(() => this.session.asked() > before && void this.settle(key), 0);
  }
  async settle(key: string): Promise<void> {
    if (!Object.hasOwn(this.texts, key)) return;
    const text = this.texts[key];
    this.entered.set(key, text);
    await this.session.answered();
    if (this.entered.get(key) === text) this.entered.delete(key);
    // Typed on meanwhile; or the edit could not be stored, and this is the only copy.
    if (this.texts[key] !== text || this.session.unsaved) return;
    this.drop(key);
    // At once: it is not to come back when what was entered has been taken back.
    await this.write();
  }
  broughtBack(label: string): void {
    this.session.tell(`Brought back what was being typed: ${label}. It is not entered yet.`);
  }

  /**
   * Called when the page goes. With `handedOver` all that was asked is on the device: a text that was entered is kept no
   * longer then, or it would come back where its edit has been taken back.
   */
  leave(handedOver = false): void {
    if (handedOver) for (const [key, text] of this.entered) if (this.texts[key] === text) this.drop(key);
    writeOnLeaving(this.session.id, this.texts, !this.isTyping);
    void this.write();
  }

  private changed(): void {
    this.changes += 1;
    this.tell(true);
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.write(), PAUSE_MILLISECONDS);
  }
  private write(): Promise<unknown> {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
    const [changes, texts] = [this.changes, this.texts];
    this.writing = this.writing.then(async () => {
      try {
        await this.store(this.session.id, texts);
        if (changes === this.changes) this.tell(false);
      } catch {
        // It goes on saying that this is being typed, which is true: the next key tries again.
      }
    });
    return this.writing;
  }
  private tell(typing: boolean): void {
    if (typing === this.isTyping) return;
    this.isTyping = typing;
    for (const listener of this.listeners) listener();
  }
}

import type { Result } from '~/core/problem';

type Answer = Promise<Result<null>>;

/** Numbers never come twice in a tab: a request that arrives at a newer session is not taken for one of its own. */
let last = 0;

/**
 * What a person asked of a build, in the order it was asked. Each request goes through the router and is read for itself, so
 * on a busy machine a later one may arrive first: an undo would then take back the step before the one that was meant.
 */
export class Turns<A> {
  private readonly waiting = new Map<number, { readonly action: A; readonly begin: (answer: Answer) => void }>();
  private readonly answers = new Map<number, Answer>();
  private latest: Promise<unknown> = Promise.resolve();

  /** @param perform Does what it does to the build before it returns; what is awaited is only its way to the device. */
  constructor(private readonly perform: (action: A) => Answer) {}

  /** Takes a number; what was asked is done when its request arrives, or one of a later number. */
  ask(action: A): number {
    last += 1;
    const answer = new Promise<Result<null>>((begin) => this.waiting.set(last, { action, begin }));
    this.answers.set(last, answer);
    this.latest = answer;
    return last;
  }
  /** The number of the last that was asked. */
  asked(): number {
    return last;
  }
  /** Resolves when all that was asked up to now is done and on the device, or cannot be. */
  async settled(): Promise<void> {
    await this.latest;
  }

  /** Does everything up to this number, in order; null for a number that was not given here. */
  async answer(turn: number): Promise<Result<null> | null> {
    while (this.next(turn)) {
      // Each is shown by itself: a field follows what it was set to, and then what it was set back to.
      await Promise.resolve();
    }
    const own = this.answers.get(turn) ?? null;
    this.answers.delete(turn);
    return own;
  }

  /** Does all of it at once: the page is going. */
  catchUp(): void {
    while (this.next(last));
  }

  /** Does the first that waits, if it is not later than this number; false when there is none. */
  private next(turn: number): boolean {
    const [first] = this.waiting;
    if (!first || first[0] > turn) return false;
    this.waiting.delete(first[0]);
    first[1].begin(this.perform(first[1].action));
    return true;
  }
}

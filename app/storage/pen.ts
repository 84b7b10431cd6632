/**
 * One tab writes a build at a time: it holds the pen, a Web Lock by the build's id. Others follow, and may ask for it; the
 * holder finishes what it is writing, then lays it down. Without Web Locks (an insecure address) every tab holds a pen of
 * its own, and only the entries' heads tell two writers apart.
 */
export interface Pen {
  release(): void;
}

export type PenMessage = 'saved' | 'asked' | 'binned' | 'released';

const lockName = (id: string): string => `gonyx-build-${id}`;
const locks = (): LockManager | null =>
  typeof navigator !== 'undefined' && 'locks' in navigator ? navigator.locks : null;

const FREE: Pen = { release: () => undefined };

/** Takes the pen by the given options; null when the lock is not to be had so. */
function request(id: string, options: LockOptions): Promise<Pen | null> {
  const manager = locks();
  if (!manager) return Promise.resolve(FREE);
  return new Promise((resolve, reject) => {
    manager
      .request(lockName(id), options, (lock) => {
        if (!lock) return resolve(null);
        return new Promise<void>((release) => resolve({ release }));
      })
      .catch((error: unknown) => {
        // Given up waiting, by our own signal.
        if (error instanceof DOMException && (error.name === 'AbortError' || error.name === 'TimeoutError'))
          resolve(null);
        else reject(error instanceof Error ? error : new Error(String(error)));
      });
  });
}

/** The pen if nobody holds it. */
export const takePen = (id: string): Promise<Pen | null> => request(id, { ifAvailable: true });
/** The pen once it is free; null when the signal gives up. */
export const waitForPen = (id: string, signal: AbortSignal): Promise<Pen | null> => request(id, { signal });

/** Whether any tab writes this build now. */
export async function isPenHeld(id: string): Promise<boolean> {
  const held = (await locks()?.query())?.held;
  return held?.some((lock) => lock.name === lockName(id)) ?? false;
}

/** What tabs tell each other of a build. */
export class PenChannel {
  private readonly channel: BroadcastChannel | null;
  constructor(id: string, hear: (message: PenMessage) => void) {
    this.channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(`gonyx-${id}`);
    if (this.channel) this.channel.onmessage = (event: MessageEvent<PenMessage>) => hear(event.data);
  }
  tell(message: PenMessage): void {
    this.channel?.postMessage(message);
  }
  close(): void {
    this.channel?.close();
  }
}

/** How long an asking tab is given before those who follow queue for the pen again. */
export const ASKING_MILLISECONDS = 4000;

/** Asks whoever holds the pen to lay it down, and takes it; null when it is not laid down in time. */
export async function askPen(id: string, milliseconds = ASKING_MILLISECONDS): Promise<Pen | null> {
  const free = await takePen(id);
  if (free) return free;
  const channel = new PenChannel(id, () => undefined);
  const giveUp = new AbortController();
  const timer = setTimeout(() => giveUp.abort(), milliseconds);
  try {
    const waiting = waitForPen(id, giveUp.signal);
    channel.tell('asked');
    return await waiting;
  } finally {
    clearTimeout(timer);
    channel.close();
  }
}

/** Resolves once the page is looked at, or the signal gives up. */
export function inSight(signal: AbortSignal): Promise<void> {
  if (typeof document === 'undefined' || document.visibilityState === 'visible') return Promise.resolve();
  return new Promise((resolve) => {
    const look = () => {
      if (document.visibilityState !== 'visible' && !signal.aborted) return;
      document.removeEventListener('visibilitychange', look);
      resolve();
    };
    document.addEventListener('visibilitychange', look);
    signal.addEventListener('abort', look, { once: true });
  });
}

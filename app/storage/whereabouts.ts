/**
 * Where the person is, and what of the open builds is in memory only. Small, so that the garage and the frame of every page can
 * ask without loading what a session needs.
 */
/** Deleted builds are kept this long, days. */
export const BIN_DAYS = 30;

export interface UnsavedBuild {
  readonly id: string;
  readonly name: string;
  readonly retry: () => void;
  readonly exportNow: () => void;
}

/** The build on show; null for none, undefined until the first page is there. */
let shown: string | null | undefined;
let onMove: ((shown: string | null) => void) | null = null;
let unsaved: readonly UnsavedBuild[] = [];
const listeners = new Set<() => void>();

export const buildOnShow = (): string | null | undefined => shown;
/** Called wherever the person arrives. */
export function arriveAt(buildId: string | null): void {
  shown = buildId;
  onMove?.(buildId);
}
/** Whoever keeps sessions hears where the person is. */
export function onArrival(hear: (shown: string | null) => void): void {
  onMove = hear;
}

export const unsavedBuilds = (): readonly UnsavedBuild[] => unsaved;
export function subscribeUnsaved(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
export function tellUnsavedBuilds(next: readonly UnsavedBuild[]): void {
  if (next.length === unsaved.length && next.every(({ id }, i) => id === unsaved[i].id)) return;
  unsaved = next;
  for (const listener of listeners) listener();
}

/** The browser asks before a page with unsaved changes is closed. Returns how to stop asking. */
export function guardUnload(): () => void {
  const ask = (event: BeforeUnloadEvent) => {
    if (unsaved.length > 0) event.preventDefault();
  };
  window.addEventListener('beforeunload', ask);
  return () => window.removeEventListener('beforeunload', ask);
}

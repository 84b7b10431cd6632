/**
 * Use without the server: a service worker keeps one version whole. A newer one waits, because an open tab needs the files it
 * was made of; the person may load it at once, and otherwise it comes when the last tab is closed.
 */
export interface OfflineState {
  /** A newer version is on this device and waits. */
  readonly waiting: boolean;
  /** Why nothing is kept for use without the server; null when all is well. */
  readonly notKept: string | null;
}

let state: OfflineState = { waiting: false, notKept: null };
let registration: ServiceWorkerRegistration | null = null;
const listeners = new Set<() => void>();

export const offlineState = (): OfflineState => state;
export function subscribeOffline(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
function update(part: Partial<OfflineState>): void {
  state = { ...state, ...part };
  for (const listener of listeners) listener();
}

/** Loads the version that waits: every tab of Gonyx is loaded anew with it. */
export function loadNewVersion(): void {
  registration?.waiting?.postMessage('take over');
}

function watch(found: ServiceWorkerRegistration): void {
  registration = found;
  const look = () => {
    // The first version of a device has nobody to wait for.
    if (found.waiting && navigator.serviceWorker.controller) update({ waiting: true });
  };
  look();
  found.addEventListener('updatefound', () => found.installing?.addEventListener('statechange', look));
}

async function register(): Promise<void> {
  try {
    // A browser told to do without service workers may answer with nothing instead of refusing.
    const found = (await navigator.serviceWorker.register('/sw.js', { updateViaCache: 'none' })) as
      ServiceWorkerRegistration | undefined;
    if (found) watch(found);
    else update({ notKept: 'the browser does not allow it' });
  } catch (error) {
    // Without it the app still works while the server is there.
    update({ notKept: error instanceof Error ? error.message : String(error) });
  }
}

export function keepOffline(): void {
  if (!('serviceWorker' in navigator)) return;
  navigator.serviceWorker.addEventListener('message', (event: MessageEvent<{ type?: unknown; why?: unknown }>) => {
    if (event.data.type === 'not-kept') update({ notKept: String(event.data.why) });
  });
  let before = navigator.serviceWorker.controller;
  navigator.serviceWorker.addEventListener('controllerchange', () => {
    // Another version took over, here or in another tab, on the person's word: what is open is of the old one. The first
    // version of a device takes over from nobody.
    if (before) window.location.reload();
    before = navigator.serviceWorker.controller;
  });
  if (document.readyState === 'complete') void register();
  else window.addEventListener('load', () => void register());
}

/**
 * The text of the service worker. It keeps one version whole: every file and page of a build, or none of it. A newer version
 * waits until the person says so or the last tab is closed, so that an open tab always finds the files it was made of.
 */
export const serviceWorker = ({ name, files, pages, patterns }) => `// Written by scripts/precache.mjs.
const NAME = ${JSON.stringify(name)};
const FILES = new Set(${JSON.stringify(files)});
const PAGES = ${JSON.stringify(pages)};
const STAND_INS = ${JSON.stringify(patterns)}.map(([source, page]) => [new RegExp(source), page]);
/** How long a page is waited for before the kept one is shown, milliseconds. */
const PATIENCE = 2000;

const standIn = (path) => STAND_INS.find(([pattern]) => pattern.test(path))?.[1] ?? path;
const tell = async (message) => {
  for (const client of await self.clients.matchAll({ includeUncontrolled: true })) client.postMessage(message);
};

self.addEventListener('install', (event) => {
  event.waitUntil((async () => {
    const cache = await caches.open(NAME);
    try {
      await cache.addAll([...FILES].map((file) => new Request(file, { cache: 'no-cache' })));
      for (const page of PAGES) {
        const response = await fetch(page, { cache: 'no-store' });
        if (!response.ok) throw new Error(page + ' answers ' + response.status);
        await cache.put(page, response);
      }
    } catch (error) {
      // Whole or not at all: what was there before goes on serving, and the next visit tries again.
      await caches.delete(NAME);
      await tell({ type: 'not-kept', why: String(error && error.message) });
      throw error;
    }
  })());
});

self.addEventListener('activate', (event) => {
  event.waitUntil((async () => {
    for (const key of await caches.keys()) if (key.startsWith('gonyx-') && key !== NAME) await caches.delete(key);
    await self.clients.claim();
  })());
});

self.addEventListener('message', (event) => {
  if (event.data === 'take over') self.skipWaiting();
});

/** The server's answer, unless it is away, broken or slow and the page is kept. */
async function pageOf(request, path) {
  const keptPage = async () => (await caches.open(NAME)).match(standIn(path));
  const asked = fetch(request);
  const late = new Promise((resolve) => setTimeout(() => resolve(null), PATIENCE));
  try {
    const fresh = await Promise.race([asked, late]);
    if (fresh && fresh.status < 500) return fresh;
    const kept = await keptPage();
    if (kept) {
      asked.catch(() => undefined);
      return kept;
    }
    return fresh ?? (await asked);
  } catch (error) {
    const kept = await keptPage();
    if (kept) return kept;
    throw error;
  }
}

self.addEventListener('fetch', (event) => {
  const url = new URL(event.request.url);
  if (event.request.method !== 'GET' || url.origin !== self.location.origin) return;
  if (FILES.has(url.pathname)) {
    event.respondWith((async () => (await (await caches.open(NAME)).match(url.pathname)) ?? fetch(event.request))());
    return;
  }
  // Files of another version go to the network as ever; pages have their stand-ins.
  if (url.pathname.startsWith('/assets/') || url.pathname === '/sw.js') return;
  event.respondWith(pageOf(event.request, url.pathname));
});
`;

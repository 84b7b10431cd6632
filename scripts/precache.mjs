// Writes the service worker after the build, with the list of files it keeps, so that the app starts with the server gone.
import { createHash } from 'node:crypto';
import { readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { root } from './setup.mjs';

const client = path.join(root, 'build/client');
const walk = (folder) =>
  readdirSync(folder).flatMap((name) =>
    statSync(path.join(folder, name)).isDirectory() ? walk(path.join(folder, name)) : [path.join(folder, name)],
  );
const files = walk(client)
  .map((file) => `/${path.relative(client, file).split(path.sep).join('/')}`)
  .filter(
    (file) => !file.startsWith('/.vite') && file !== '/sw.js' && !file.endsWith('.woff') && !file.endsWith('.map'),
  );

const sheets = ['survey', 'allot', 'trigger', 'feeds', 'loom', 'prove', 'fire-up', 'trace', 'book'];
// One document stands for every build: the build itself is read in the browser.
const pages = ['identify', 'donor', 'body', 'sensing', 'fuel', 'notes'].map((page) => `survey/${page}`);
const desk = [
  ...['pinning', 'io', 'compare'].map((page) => `allot/${page}`),
  ...['wheels', 'bench', 'light'].map((page) => `trigger/${page}`),
];
const documents = [
  '/',
  '/new',
  '/library',
  '/library/ecus',
  '/library/ecus/any',
  ...[...sheets, ...pages, ...desk].map((sheet) => `/build/any/${sheet}`),
];
const data = ['/demo/demo-pellworth', '/demo/demo-twin'];
// Data of the routes with a server loader, asked as the client asks; kept under the bare path.
const routeData = [
  '/_root.data?_routes=routes%2Fgarage',
  '/new.data?_routes=routes%2Fnew',
  '/build/any/survey.data?_routes=routes%2Fsurvey',
  '/build/any/survey/identify.data?_routes=routes%2Fsurvey-identify',
  '/build/any/survey/sensing.data?_routes=routes%2Fsurvey-sensing',
  '/build/any/allot.data?_routes=routes%2Fallot',
  '/build/any/allot/compare.data?_routes=routes%2Fallot-compare',
  '/library.data?_routes=routes%2Flibrary',
  '/library/ecus.data?_routes=routes%2Flibrary-ecus',
  '/build/any/trigger.data?_routes=routes%2Ftrigger',
  '/build/any/trigger/wheels.data?_routes=routes%2Ftrigger-wheels',
  '/build/any/trigger/bench.data?_routes=routes%2Ftrigger-bench',
];

const version = createHash('sha256');
for (const file of files) version.update(file).update(readFileSync(path.join(client, file)));
version.update(JSON.stringify([documents, data, routeData]));
const name = `gonyx-${version.digest('hex').slice(0, 12)}`;

writeFileSync(
  path.join(client, 'sw.js'),
  `// Written by scripts/precache.mjs.
const NAME = ${JSON.stringify(name)};
const FILES = ${JSON.stringify(files)};
const PAGES = ${JSON.stringify([...documents, ...data, ...routeData])};
self.addEventListener('install', (event) => {
  event.waitUntil((async () => {
    const cache = await caches.open(NAME);
    await cache.addAll(FILES);
    for (const page of PAGES) {
      const response = await fetch(page, { cache: 'no-store' });
      if (response.ok) await cache.put(page.split('?')[0], response);
    }
    await self.skipWaiting();
  })());
});
self.addEventListener('activate', (event) => {
  event.waitUntil((async () => {
    for (const key of await caches.keys()) if (key.startsWith('gonyx-') && key !== NAME) await caches.delete(key);
    await self.clients.claim();
  })());
});
const standIn = (path) => path.replace(/^\\/library\\/ecus\\/[^/.]+/, '/library/ecus/any').replace(/^\\/build\\/[^/]+\\//, '/build/any/').replace(/^\\/build\\/[^/]+$/, '/build/any/survey');
self.addEventListener('fetch', (event) => {
  const url = new URL(event.request.url);
  if (event.request.method !== 'GET' || url.origin !== self.location.origin) return;
  if (FILES.includes(url.pathname)) {
    event.respondWith(caches.match(url.pathname).then((kept) => kept ?? fetch(event.request)));
    return;
  }
  // Pages, and the data of routes: from the server while it answers, else what was kept.
  event.respondWith((async () => {
    try {
      const fresh = await fetch(event.request);
      if (fresh.ok && event.request.mode !== 'navigate' && url.pathname.endsWith('.data')) {
        const cache = await caches.open(NAME);
        await cache.put(standIn(url.pathname), fresh.clone());
      }
      return fresh;
    } catch (error) {
      const kept = await caches.match(standIn(url.pathname));
      if (kept) return kept;
      throw error;
    }
  })());
});
`,
);
console.log(`service worker ${name}: ${files.length} files, ${documents.length} pages`);

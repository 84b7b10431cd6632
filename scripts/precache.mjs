// Writes the service worker after the build, with the list of files and pages it keeps, so that the app starts with the server
// gone. Pages come from the server build's own routes; each is asked for once here, and one that does not answer fails the build.
/* global Request */
import './production.mjs';
import { createHash } from 'node:crypto';
import { readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { createRequestHandler } from 'react-router';
import { root } from './setup.mjs';
import { pagesOf } from './service-pages.mjs';
import { serviceWorker } from './service-worker.mjs';

const client = path.join(root, 'build/client');
const walk = (folder) =>
  readdirSync(folder).flatMap((name) =>
    statSync(path.join(folder, name)).isDirectory() ? walk(path.join(folder, name)) : [path.join(folder, name)],
  );
const all = walk(client).map((file) => `/${path.relative(client, file).split(path.sep).join('/')}`);
// Pages are shown in WOFF2; of the WOFF files only what a program itself asks for is kept: letters for a PDF.
const programs = all
  .filter((file) => file.endsWith('.js') && file !== '/sw.js')
  .map((file) => readFileSync(path.join(client, file), 'utf8'));
const isAsked = (file) => programs.some((text) => text.includes(path.posix.basename(file)));
const files = all.filter(
  (file) =>
    !file.startsWith('/.vite') &&
    file !== '/sw.js' &&
    !file.endsWith('.map') &&
    (!file.endsWith('.woff') || isAsked(file)),
);

const build = await import(pathToFileURL(path.join(root, 'build/server/index.js')).href);
const { demos } = await build.routes.root.module.loader({ request: new Request('http://localhost/') });
const { pages, patterns } = pagesOf(build.routes, { demoId: demos.map(({ id }) => id) });

const answer = createRequestHandler(build, 'production');
for (const page of pages) {
  const { status } = await answer(new Request(`http://localhost${page}`));
  if (status !== 200) throw new Error(`the service worker would keep ${page}, which answers ${status}`);
}

const version = createHash('sha256');
for (const file of files) version.update(file).update(readFileSync(path.join(client, file)));
const text = (name) => serviceWorker({ name, files, pages, patterns });
const name = `gonyx-${version.update(text('')).digest('hex').slice(0, 12)}`;
writeFileSync(path.join(client, 'sw.js'), text(name));
console.log(`service worker ${name}: ${files.length} files, ${pages.length} pages`);

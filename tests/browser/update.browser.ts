import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { Page } from '@playwright/test';
import type { RouteConfigEntry } from '@react-router/dev/routes';
import routes from '../../app/routes';
import { serviceWorker } from '../../scripts/service-worker.mjs';
import { choose, expect, goTo, openDemo, ready, test } from './support';

interface Served {
  readonly url: string;
  readonly folder: string;
  /** Makes the server answer pages in another way: never, or with a failure. */
  readonly misbehave: (how: 'no' | 'silent' | 'broken') => void;
  readonly end: () => void;
}

/** The built app in a folder of its own, so that it can be updated under an open tab. */
async function serveCopy(): Promise<Served> {
  // Within the project, so that the server's packages are found.
  mkdirSync('.cache', { recursive: true });
  const folder = mkdtempSync(path.resolve('.cache/update-'));
  cpSync('build', path.join(folder, 'build'), { recursive: true });
  const script = `
    import { createServer } from 'node:http';
    process.env.GONYX_ROOT = ${JSON.stringify(folder)};
    const { createApp } = await import(${JSON.stringify(path.resolve('scripts/serve.mjs'))});
    const app = await createApp();
    let how = 'no';
    process.on('message', (next) => { how = next; });
    const isPage = (url) => !url.startsWith('/assets/') && !url.includes('.');
    createServer((request, response) => {
      if (how === 'broken' && isPage(request.url)) { response.statusCode = 503; response.end('away'); return; }
      if (how === 'silent' && isPage(request.url)) return;
      app(request, response);
    }).listen(0, '127.0.0.1', function () { process.send(this.address().port); });
  `;
  const child: ChildProcess = spawn(process.execPath, ['--input-type=module', '-e', script], {
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  const port = await new Promise<number>((resolve, reject) => {
    child.once('message', (message) => resolve(Number(message)));
    child.once('exit', () => reject(new Error('the copy could not be served')));
  });
  return {
    url: `http://127.0.0.1:${port}`,
    folder,
    misbehave: (how) => child.send(how),
    end: () => {
      child.kill();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

const kept = (page: Page) => page.waitForFunction(() => navigator.serviceWorker.controller !== null);

test.use({ serviceWorkers: 'allow' });

test.describe('an update', () => {
  let served: Served;
  test.beforeAll(async () => {
    served = await serveCopy();
  });
  test.afterAll(() => served.end());
  test('under an open tab leaves it whole, and waits for the person’s word', async ({ browser }) => {
    test.setTimeout(120_000);
    const context = await browser.newContext({ baseURL: served.url });
    const page = await context.newPage();
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(error.message));
    await openDemo(page);
    await kept(page);
    // The newer version has other files: those of the open tab are gone from the server and from the browser's own cache.
    const client = path.join(served.folder, 'build/client');
    for (const file of readdirSync(path.join(client, 'assets')).filter((name) => name.endsWith('.js')))
      rmSync(path.join(client, 'assets', file));
    writeFileSync(
      path.join(client, 'sw.js'),
      serviceWorker({ name: 'gonyx-next', files: ['/mark.svg'], pages: ['/mark.svg'], patterns: [] }),
    );
    const devtools = await context.newCDPSession(page);
    await devtools.send('Network.clearBrowserCache');
    await page.evaluate(async () => {
      await (await navigator.serviceWorker.getRegistration())!.update();
    });
    await expect(page.getByText('A new version of Gonyx is on this device.')).toBeVisible();
    // Everything the open tab had not loaded yet still works: sheets, workers, dialogs, actions, export.
    await goTo(page, 'Trace');
    await choose(page, /Symptom/, 'Fan 1 does not work');
    await expect(page.getByText('Most likely')).toBeVisible();
    await page.getByRole('link', { name: 'Garage' }).first().click();
    await page.getByRole('button', { name: /^Rename Pellworth/ }).click();
    await page.getByRole('textbox', { name: 'Name' }).fill('After the update');
    await page.getByRole('textbox', { name: 'Name' }).press('Enter');
    await expect(page.getByRole('link', { name: 'After the update' })).toBeVisible();
    await page.getByRole('button', { name: 'Duplicate After the update' }).click();
    await expect(page.getByRole('link', { name: 'After the update (copy)' })).toBeVisible();
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Export After the update', exact: true }).click(),
    ]);
    expect(file.suggestedFilename()).toBe('after-the-update.gonyx.json');
    expect(errors).toEqual([]);
    // On the person's word the new version takes over and the page is loaded anew.
    const reloaded = page.waitForEvent('framenavigated');
    await page.getByRole('button', { name: 'Load it now' }).click();
    await reloaded;
    await expect.poll(() => page.evaluate(() => caches.keys())).toEqual(['gonyx-next']);
    await context.close();
  });
});

test('a server that never answers is not waited for, nor is one that is broken', async ({ browser }) => {
  const served = await serveCopy();
  const context = await browser.newContext({ baseURL: served.url });
  try {
    const page = await context.newPage();
    await openDemo(page);
    await kept(page);
    for (const how of ['silent', 'broken'] as const) {
      served.misbehave(how);
      await page.goto('/');
      await ready(page);
      await expect(page.getByRole('link', { name: /^Pellworth/ })).toBeVisible();
    }
  } finally {
    await context.close();
    served.end();
  }
});

test('a page that fails while a version is being kept is reported, and nothing half is kept', async ({ browser }) => {
  const served = await serveCopy();
  const context = await browser.newContext({ baseURL: served.url });
  try {
    const sw = path.join(served.folder, 'build/client/sw.js');
    writeFileSync(sw, readFileSync(sw, 'utf8').replace('"/new"', '"/no/such/page"'));
    const page = await context.newPage();
    await page.goto('/');
    await expect(page.getByText(/this version will not start here: \/no\/such\/page answers 404/)).toBeVisible();
    expect(await page.evaluate(() => caches.keys())).toEqual([]);
  } finally {
    await context.close();
    served.end();
  }
});

test('the service worker keeps exactly the pages there are', async ({ request }) => {
  const text = await (await request.get('/sw.js')).text();
  const pages = JSON.parse(/const PAGES = (\[.*\]);/.exec(text)![1]) as string[];
  const paths = (entries: readonly RouteConfigEntry[], under = ''): string[] =>
    entries.flatMap((entry) => {
      const own = [under, entry.path ?? ''].filter(Boolean).join('/');
      return entry.children ? paths(entry.children, own) : [`/${own}`];
    });
  const wanted = paths(routes as RouteConfigEntry[])
    .filter((one) => !one.includes('*'))
    .flatMap((one) =>
      one.includes(':demoId')
        ? ['/demo/demo-launch', '/demo/demo-pellworth', '/demo/demo-twin']
        : [one.replace(/:\w+/g, 'any')],
    );
  expect(pages.sort()).toEqual(wanted.sort());
});

test('pages are this person’s alone, and carry no nonce in their data', async ({ request }) => {
  const answer = await request.get('/');
  expect(answer.headers()['cache-control']).toContain('private');
  expect(answer.headers().vary).toContain('Cookie');
  const nonce = /nonce-([^']+)'/.exec(answer.headers()['content-security-policy'])![1];
  const text = await answer.text();
  expect(text).toContain(`nonce="${nonce}"`);
  expect(text.replaceAll(`nonce="${nonce}"`, '')).not.toContain(nonce);
});

test('what is served runs the production builds of its packages', () => {
  // In a process of its own, as it is started: what it has loaded tells which React renders the pages.
  const script = `
    import { createRequire } from 'node:module';
    const { createApp } = await import(${JSON.stringify(path.resolve('scripts/serve.mjs'))});
    await createApp();
    const { cache } = createRequire(import.meta.url);
    const loaded = Object.keys(cache).filter((name) => /react-dom/.test(name) && cache[name].loaded);
    console.log(JSON.stringify({ env: process.env.NODE_ENV, loaded }));
  `;
  return new Promise<void>((resolve, reject) => {
    const { NODE_ENV: _, ...env } = process.env;
    const child = spawn(process.execPath, ['--input-type=module', '-e', script], { env: env as NodeJS.ProcessEnv });
    let out = '';
    child.stdout.on('data', (chunk: Buffer) => (out += chunk.toString()));
    child.on('exit', () => {
      try {
        const { env: mode, loaded } = JSON.parse(out) as { env: string; loaded: string[] };
        expect(mode).toBe('production');
        expect(loaded.length).toBeGreaterThan(0);
        expect(loaded.filter((name) => name.includes('development'))).toEqual([]);
        resolve();
      } catch (error) {
        reject(error instanceof Error ? error : new Error(String(error)));
      }
    });
  });
});

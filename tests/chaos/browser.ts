import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium as executable } from '../../scripts/chromium.mjs';
import { chromium, type Browser, type Page } from '@playwright/test';

const FLAGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--remote-debugging-port=0',
  '--lang=en-GB',
];

/** A real browser with a profile on disk, which can be killed as a power cut would. */
export class MortalBrowser {
  private constructor(
    private readonly child: ChildProcess,
    private readonly browser: Browser,
    readonly page: Page,
  ) {}

  static async start(profile: string): Promise<MortalBrowser> {
    const child = spawn(executable, [...FLAGS, `--user-data-dir=${profile}`, 'about:blank'], {
      stdio: ['ignore', 'ignore', 'pipe'],
      detached: true,
    });
    const endpoint = await new Promise<string>((resolve, reject) => {
      let said = '';
      child.stderr!.on('data', (chunk: Buffer) => {
        said += chunk.toString();
        const found = /DevTools listening on (ws:\S+)/.exec(said);
        if (found) resolve(found[1]);
      });
      child.once('exit', () => reject(new Error(`the browser ended by itself: ${said.slice(-400)}`)));
    });
    const browser = await chromium.connectOverCDP(endpoint);
    const [context] = browser.contexts();
    return new MortalBrowser(child, browser, context.pages()[0] ?? (await context.newPage()));
  }

  /** The whole of it at once, with no word to anybody. */
  async kill(): Promise<void> {
    if (this.child.exitCode !== null || this.child.signalCode !== null) return;
    const gone = new Promise<void>((resolve) => this.child.once('exit', () => resolve()));
    process.kill(-this.child.pid!, 'SIGKILL');
    await gone;
    await this.browser.close().catch(() => undefined);
  }
}

export interface Profile {
  readonly folder: string;
  readonly drop: () => void;
}
export function newProfile(): Profile {
  const folder = mkdtempSync(path.join(tmpdir(), 'gonyx-chaos-'));
  return { folder, drop: () => rmSync(folder, { recursive: true, force: true, maxRetries: 5, retryDelay: 200 }) };
}

export const ready = (page: Page): Promise<unknown> => page.waitForSelector('html[data-ready]');
export const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

/** Opens the smaller demo as a person does; answers its id. */
export async function openTwin(page: Page, base: string): Promise<string> {
  await page.goto(`${base}/`);
  await ready(page);
  const demo = page.getByRole('listitem').filter({ hasText: /Brindle/ });
  await demo.getByRole('button', { name: 'Open this demo' }).click();
  await page.waitForURL(/\/build\/[^/]+\/survey/);
  return /build\/([^/]+)\//.exec(page.url())![1];
}

/**
 * The whole of a build as its file has it, but for what nobody can foretell: the instants written by the clock, and the names an
 * item is given when it is added.
 */
export type Seen = Readonly<Record<string, unknown>>;

const INSTANT = /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d/;
const foretold = (value: unknown): unknown => {
  if (typeof value === 'string') return INSTANT.test(value) ? 'an instant' : value;
  if (Array.isArray(value)) return value.map(foretold);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, foretold(inner)]));
};
export function seenIn(text: string): Seen {
  const build = foretold(JSON.parse(text)) as { survey: { questions: { id: string }[] } };
  for (const question of build.survey.questions) question.id = 'given';
  return build as unknown as Seen;
}

/** The build as the garage exports it: what is on the device, read by the app itself. */
export async function exported(page: Page, base: string, name: RegExp): Promise<Seen> {
  await page.goto(`${base}/`);
  await ready(page);
  const button = page.getByRole('button', { name: new RegExp(`^Export ${name.source}`) }).first();
  try {
    await button.waitFor();
  } catch {
    // A garage without the build, or one that never comes: what it shows tells which.
    const shown = await page.evaluate(() => `${document.title}: ${document.body.innerText.slice(0, 600)}`);
    throw new Error(`the build is not in the garage, which shows ${JSON.stringify(shown)}`);
  }
  // The file is read as it is handed over, before any download: a browser that is to be killed may not finish one.
  await page.evaluate(() => {
    const { createObjectURL } = URL;
    URL.createObjectURL = (blob: Blob) => {
      Object.assign(window, { handedOver: blob });
      return createObjectURL(blob);
    };
  });
  await button.click();
  await page.waitForFunction(() => 'handedOver' in window);
  const text = await page.evaluate(() => (window as unknown as { handedOver: Blob }).handedOver.text());
  return seenIn(text);
}

/** The instant up to which the title block says everything is on the device; null while it says otherwise. */
export const savedUpTo = (page: Page): Promise<number | null> =>
  page.evaluate(() => {
    const said = document.querySelector<HTMLElement>('[data-testid="save-state"]');
    return said?.dataset.state === 'saved' ? Date.parse(said.dataset.savedAt ?? '') : null;
  });

/** Waits until an edit made after `since` is said to be saved. */
export async function savedSince(page: Page, since: number, timeout = 30_000): Promise<void> {
  await page.waitForFunction(
    (from) => {
      const said = document.querySelector<HTMLElement>('[data-testid="save-state"]');
      return said?.dataset.state === 'saved' && Date.parse(said.dataset.savedAt ?? '') >= from;
    },
    since,
    { timeout },
  );
}

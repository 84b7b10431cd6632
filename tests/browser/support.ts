import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { expect, test as base, type Page } from '@playwright/test';

/** Every test also fails on a console error, a hydration warning, an uncaught error or a foreign request. */
export const test = base.extend<{ watched: string[] }>({
  watched: [
    async ({ page, baseURL }, use) => {
      const noise: string[] = [];
      page.on('console', (message) => {
        // The tests themselves keep the service worker out, and the browser says so.
        if (message.text().includes('Service Worker registration blocked')) return;
        if (['error', 'warning'].includes(message.type())) noise.push(`${message.type()}: ${message.text()}`);
      });
      page.on('pageerror', (error) => noise.push(`uncaught: ${error.message}`));
      page.on('request', (request) => {
        if (!request.url().startsWith(baseURL!) && !/^(blob|data):/.test(request.url()))
          noise.push(`foreign request: ${request.url()}`);
      });
      await use(noise);
      expect(noise).toEqual([]);
    },
    { auto: true },
  ],
});

export { expect };
export const sheets = ['survey', 'allot', 'trigger', 'feeds', 'loom', 'prove', 'fire-up', 'trace', 'book'] as const;

export async function ready(page: Page): Promise<void> {
  await page.waitForSelector('html[data-ready]');
}

/** Opens a demo from the garage, as a person would, and returns its build id. */
export async function openDemo(page: Page, name: RegExp = /Pellworth/): Promise<string> {
  await page.goto('/');
  await ready(page);
  await page.getByRole('listitem').filter({ hasText: name }).getByRole('button', { name: 'Open this demo' }).click();
  await page.waitForURL(/\/build\/[^/]+\/survey/);
  await expect(page.getByRole('heading', { level: 1, name: /Survey/ })).toBeVisible();
  return /build\/([^/]+)\//.exec(page.url())![1];
}

/** Goes to a sheet by the spine. */
export async function goTo(page: Page, title: string): Promise<void> {
  await page
    .getByRole('navigation', { name: 'Sheets' })
    .getByRole('link', { name: new RegExp(`^${title},`) })
    .click();
  await expect(page.getByRole('heading', { level: 1, name: new RegExp(title) })).toBeVisible();
}

/** The panel of findings, opened where it is not. */
export async function findings(page: Page) {
  const panel = page.getByRole('group', { name: 'All findings' });
  const show = page.getByRole('button', { name: /^\d+ findings?: show them$/ });
  // On the way to another sheet it may open by itself between the look and the press.
  await expect(async () => {
    if (await show.isVisible()) await show.click({ timeout: 2000 });
    await expect(panel).toBeVisible({ timeout: 2000 });
  }).toPass({ timeout: 30_000 });
  return panel;
}

/** Where the ECU is grounded, on the page of the grounds; its bolts bear the same names in the drawing above. */
export const ecuGround = (page: Page) => page.getByRole('radiogroup', { name: 'ECU power ground' });
/** Where the sheet stands, in words. */
export const verdict = (page: Page) => page.getByRole('group', { name: 'State of the sheet' });

export const saved = (page: Page) => expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** Violations axe finds against WCAG 2.2 A and AA and its best practices, as short lines. */
export async function axe(page: Page): Promise<string[]> {
  await page.evaluate(axeSource);
  return page.evaluate(async () => {
    interface Axe {
      run(
        context: Document,
        options: object,
      ): Promise<{
        violations: { id: string; nodes: { target: string[]; html: string; failureSummary?: string }[] }[];
      }>;
    }
    const { axe } = window as unknown as { axe: Axe };
    const { violations } = await axe.run(document, {
      runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
    });
    return violations.flatMap((violation) =>
      violation.nodes
        .slice(0, 3)
        .map((node) => `${violation.id}: ${node.html.slice(0, 160)} ${node.failureSummary?.slice(0, 240) ?? ''}`),
    );
  });
}

/** Picks from a select by its label. */
export async function choose(page: Page, label: string | RegExp, option: string | RegExp): Promise<void> {
  await page.getByRole('button', { name: label }).click();
  await page.getByRole('option', { name: option }).click();
}

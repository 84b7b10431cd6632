import type { Page } from '@playwright/test';
import { largePlaced } from '../../scripts/bench-build';
import { expect, goTo, ready, saved, test, verdict } from './support';

/** 250 devices on more than 300 pins, 13 needs open. */
async function openLarge(page: Page): Promise<void> {
  await page.goto('/');
  await ready(page);
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Import a file' }).click(),
  ]);
  const buffer = Buffer.from(JSON.stringify(largePlaced()));
  await chooser.setFiles({ name: 'large.json', mimeType: 'application/json', buffer });
  await page.getByRole('dialog').getByRole('button', { name: 'Import', exact: true }).click();
  await page.waitForURL(/survey/);
}

test('a long cut list is drawn as it comes near, and whole in print', async ({ page }) => {
  await openLarge(page);
  await goTo(page, 'Loom');
  await page.getByRole('link', { name: 'Cut list', exact: true }).click();
  await expect(verdict(page)).toContainText('to cut');
  const wires = Number(/(\d+) wires/.exec((await verdict(page).textContent())!)![1]);
  expect(wires).toBeGreaterThan(400);
  const rows = page.getByRole('button', { name: /^Wire \d+: / });
  await expect(rows.first()).toBeVisible();
  expect(await rows.count()).toBeLessThan(wires / 2);
  // What is scrolled to is there.
  await page.locator('#work').evaluate((work) => work.scrollTo(0, work.scrollHeight));
  await expect(page.getByRole('button', { name: new RegExp(`^Wire ${wires}: `) })).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  await expect(rows).toHaveCount(wires);
  await page.emulateMedia({ media: null });
});

test('a long list of needs draws what is in sight, finds every one, and shows an edit', async ({ page }) => {
  await openLarge(page);
  await goTo(page, 'Allot');
  const needs = page.getByRole('grid', { name: 'Needs' });
  const items = needs.locator('[data-need]');
  await expect(items.first()).toBeVisible();
  expect(await items.count()).toBeLessThan(100);
  const { label } = largePlaced().devices[150];
  await page.getByRole('textbox', { name: 'Search needs' }).fill(label);
  const row = items.filter({ hasText: label }).first();
  await expect(row).toBeVisible();
  await expect(row).not.toContainText('open');
  await row.click();
  await page.getByRole('button', { name: 'Free it' }).click();
  await expect(row).toContainText('open');
  await saved(page);
});

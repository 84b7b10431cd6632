import type { Page } from '@playwright/test';
import { ecuGround, expect, goTo, openDemo, ready, saved, test, verdict } from './support';

const upload = async (page: Page, name: string, text: string) => {
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Import a file' }).click(),
  ]);
  await chooser.setFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });
};

test('damaged, foreign and newer files are refused in a sentence and change nothing', async ({ page, request }) => {
  await openDemo(page);
  await page.goto('/');
  await ready(page);
  const good = await (await request.get('/demo/demo-twin')).text();
  const list = page.getByRole('link', { name: /Pellworth/ });
  for (const [name, text, sentence] of [
    ['cut.json', good.slice(0, 4000), /cut\.json: The file is not readable JSON: .* Nothing was changed\./],
    ['other.json', '{"a":1}', /it has no schemaVersion/],
    ['newer.json', good.replace(/"schemaVersion":\d+/, '"schemaVersion":99'), /is version 99/],
    ['odd.json', good.replace(/"branchMetres":[\d.]+/, '"branchMetres":400'), /branchMetres must be at most 30/],
    ['empty.json', '', /it is empty/],
  ] as const) {
    await upload(page, name, text);
    await expect(page.getByText(sentence)).toBeVisible();
    await expect(list).toHaveCount(1);
  }
});

test('a whole file is shown before it is kept, and never overwrites', async ({ page, request }) => {
  await openDemo(page, /Brindle/);
  await page.goto('/');
  await ready(page);
  await upload(page, 'twin.json', await (await request.get('/demo/demo-twin')).text());
  const dialog = page.getByRole('dialog', { name: 'Import this build?' });
  await expect(dialog).toContainText('12 devices, 11 pins placed');
  await dialog.getByRole('button', { name: 'Import', exact: true }).click();
  await page.waitForURL(/survey/);
  await page.goto('/');
  await expect(page.getByRole('link', { name: /Brindle Quarry/ })).toHaveCount(2);
});

test('rename, duplicate, delete and bring back', async ({ page }) => {
  await openDemo(page, /Brindle/);
  await page.goto('/');
  await ready(page);
  await page.getByRole('button', { name: /^Rename Brindle/ }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Quarry engine');
  await page.getByRole('dialog').getByRole('button', { name: 'Rename' }).click();
  await expect(page.getByRole('link', { name: 'Quarry engine' })).toBeVisible();
  await page.getByRole('button', { name: 'Duplicate Quarry engine' }).click();
  await expect(page.getByRole('link', { name: 'Quarry engine (copy)' })).toBeVisible();
  await page.getByRole('button', { name: 'Delete Quarry engine', exact: true }).click();
  await expect(page.getByText('Quarry engine was deleted.')).toBeVisible();
  await expect(page.getByRole('link', { name: 'Quarry engine', exact: true })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: 'Quarry engine', exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Quarry engine', exact: true }).click();
  await expect(verdict(page)).toContainText('12 devices');
  await expect(page.getByText('Another tab')).toHaveCount(0);
});

test('a second tab follows the first and says so', async ({ page, context }) => {
  const id = await openDemo(page);
  const second = await context.newPage();
  await second.goto(`/build/${id}/feeds/grounds`);
  await expect(second.getByText('Another tab is writing this build.')).toBeVisible();
  await goTo(page, 'Feeds');
  await page.getByRole('link', { name: 'Grounds' }).click();
  await ecuGround(page).getByText('battery negative', { exact: true }).click();
  await saved(page);
  await expect(second.getByRole('radio', { name: 'battery negative' })).toBeChecked();
  await page.close();
  await expect(second.getByText('This tab may write the build now.')).toBeVisible();
});

test('a storage that refuses is told, with export at hand', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Feeds');
  await page.getByRole('link', { name: 'Grounds' }).click();
  await expect(page.getByRole('radio', { name: 'battery negative' })).toBeVisible();
  await page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('full', 'QuotaExceededError');
    };
  });
  await ecuGround(page).getByText('battery negative', { exact: true }).click();
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'failed');
  await expect(page.getByText(/export it now/)).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export now' }).click(),
  ]);
  expect(file.suggestedFilename()).toMatch(/gonyx\.json$/);
  await expect(page.getByRole('radio', { name: 'battery negative' })).toBeChecked();
});

test('a build that is not here, and a page that is not, say so', async ({ page, watched }) => {
  await page.goto('/build/none/survey');
  await expect(page.getByText('This build cannot be opened')).toBeVisible();
  const response = await page.goto('/no/such/page');
  expect(response!.status()).toBe(404);
  await expect(page.getByText('There is no such page')).toBeVisible();
  // The browser itself logs the 404 it was sent, and the router the missing build.
  watched.splice(0);
});

test('the garage says of each build how far its sheets are, what is wrong and what is next, and goes there', async ({
  page,
}) => {
  await openDemo(page);
  await page.getByRole('textbox', { name: 'Vehicle or machine' }).fill('Another car');
  await page.getByRole('textbox', { name: 'Vehicle or machine' }).press('Tab');
  await saved(page);
  const allotted = await page
    .getByRole('navigation', { name: 'Sheets' })
    .getByRole('link', { name: /^Allot,/ })
    .getAttribute('aria-label');
  await page.getByRole('link', { name: 'Garage: all builds' }).click();
  const card = page.getByRole('listitem').filter({ hasText: 'Pellworth' }).filter({ hasText: 'last worked on' });
  const levels = card.getByRole('list', { name: /^How far each sheet/ }).getByRole('listitem');
  await expect(levels).toHaveCount(9);
  await expect(levels.nth(1)).toContainText(/(\d+) %/.exec(allotted!)![0]);
  await expect(card).toContainText('3 to fix');
  await card.getByRole('link', { name: 'Mend 1 reading that is wrong.' }).click();
  await expect(page.getByRole('heading', { level: 1, name: /Prove/ })).toBeVisible();
});

test('New build draws the engine as it is described, and tries it on every ECU', async ({ page }) => {
  await page.goto('/new');
  await ready(page);
  await expect(
    page.getByRole('img', { name: /^4 cylinders over 720°: 1 at 0°, 3 at 180°, 4 at 360°, 2 at 540°/ }),
  ).toBeVisible();
  const ecus = page.getByRole('radiogroup', { name: 'ECU' });
  await expect(ecus.getByTestId('fit').first()).toContainText(/All \d+ needs have a pin/);
  const before = await ecus.getByTestId('fit').count();
  expect(before).toBeGreaterThanOrEqual(3);
  await page.getByRole('textbox', { name: 'Cylinders' }).fill('12');
  await page.getByRole('textbox', { name: 'Cylinders' }).press('Tab');
  await expect(page.getByRole('img', { name: /^12 cylinders over 720°/ })).toBeVisible();
  await expect(ecus.getByTestId('fit').first()).toContainText(/\d+ of \d+ needs without a pin/);
});

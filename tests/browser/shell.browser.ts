import type { Page } from '@playwright/test';
import { expect, findings, goTo, openDemo, ready, test } from './support';

const count = (page: Page) => page.getByRole('button', { name: /^\d+ findings?: (show|hide) them$/ });

test('what belongs together stands in one view', async ({ page }) => {
  await openDemo(page);
  const whole = (name: string, element: ReturnType<Page['locator']>) =>
    expect(element, name).toBeInViewport({ ratio: 1 });
  await goTo(page, 'Allot');
  await whole('A', page.getByRole('group', { name: 'Connector A, wire side' }));
  await whole('B', page.getByRole('group', { name: 'Connector B, wire side' }));
  const card = page.getByRole('region', { name: 'Pin B1' });
  await whole('the pin card', card);
  expect(await card.evaluate((one) => one.scrollHeight - one.clientHeight)).toBeLessThanOrEqual(0);
  // The needs take the height of the pane.
  const needs = (await page.getByRole('grid', { name: 'Needs' }).boundingBox())!;
  expect(needs.y + needs.height).toBeGreaterThan(600);
  await goTo(page, 'Trigger');
  await whole('the wheel', page.getByRole('img', { name: /60 places, 2 missing/ }).first());
  await whole('the events', page.getByRole('group', { name: /Events over 720/ }));
  await whole('the offset', page.getByRole('textbox', { name: 'Offset in use' }));
  await whole('the reading', page.getByRole('button', { name: 'Record this reading' }));
  await goTo(page, 'Survey');
  await page.getByRole('link', { name: 'Donor loom' }).click();
  const list = page.getByRole('grid', { name: /Donor/ });
  const rows = list.getByRole('row');
  await expect(rows.nth(16)).toBeAttached();
  const end = (await list.boundingBox())!;
  const bottoms = await rows.evaluateAll((all) => all.map((row) => row.getBoundingClientRect().bottom));
  expect(bottoms.filter((bottom) => bottom <= end.y + end.height + 1).length).toBeGreaterThanOrEqual(16);
});

test('nothing scrolls but the pane: a wheel over the strip moves its own hops', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Loom');
  for (const part of [page.getByLabel('The run', { exact: true }), page.getByLabel('Title block')]) {
    await part.hover();
    await page.mouse.wheel(0, 600);
    await page.mouse.wheel(0, -100);
  }
  expect(await page.evaluate(() => [window.scrollX, window.scrollY])).toEqual([0, 0]);
  await page.locator('#work').hover();
  await page.mouse.wheel(0, 600);
  await expect.poll(() => page.locator('#work').evaluate((work) => work.scrollTop)).toBeGreaterThan(0);
  expect(await page.evaluate(() => window.scrollY)).toBe(0);
});

test('a pip opens what is found at the thing itself; the panel has all, and is kept where it is pinned', async ({
  page,
}) => {
  await openDemo(page);
  await goTo(page, 'Loom');
  const pip = page.getByLabel('Findings', { exact: true }).getByRole('button', { name: /^LO-8 fix/ });
  await pip.click();
  const here = page.getByRole('dialog', { name: 'What is found here' });
  await expect(here).toContainText('Twin connectors unlabelled');
  await expect(here.getByRole('button', { name: 'They are labelled' })).toBeVisible();
  const mark = page.locator('#work').getByRole('button', { name: /^LO-8 fix/, includeHidden: true });
  await expect(mark).toBeInViewport();
  await page.keyboard.press('Escape');
  await expect(here).toBeHidden();
  // Left open, it does not open by itself on the way back.
  await pip.click();
  await expect(here).toBeVisible();
  await page.goBack();
  await expect(page.getByRole('heading', { level: 1, name: /Survey/ })).toBeVisible();
  await page.goForward();
  await expect(mark).toBeAttached();
  await expect(here).toBeHidden();
  // All of them; a sheet that has none says so.
  const panel = await findings(page);
  await expect(panel).toContainText('On other sheets');
  await page.keyboard.press('Escape');
  await expect(panel).toBeHidden();
  await expect(count(page)).toBeFocused();
  // What lies over the work goes when the work is pressed.
  await count(page).click();
  await expect(panel).toBeVisible();
  await page.locator('#work').click({ position: { x: 200, y: 8 } });
  await expect(panel).toBeHidden();
  await goTo(page, 'Book');
  await expect(await findings(page)).toContainText('No finding on this sheet');
  await page.getByRole('button', { name: 'Keep it beside the work' }).click();
  const beside = (await panel.boundingBox())!;
  const work = (await page.locator('#work').boundingBox())!;
  expect(work.x + work.width).toBeLessThanOrEqual(beside.x + 1);
  await page.reload();
  await expect(panel).toBeVisible();
  await goTo(page, 'Loom');
  await expect(panel).toContainText('Twin connectors unlabelled');
  await page.getByRole('button', { name: 'Close the findings' }).click();
  await page.reload();
  await expect(count(page)).toBeVisible();
  await expect(panel).toBeHidden();
});

test('the heading takes the focus on a change of sheet, and the work is one key away', async ({ page }) => {
  const id = await openDemo(page);
  await goTo(page, 'Feeds');
  await expect(page.getByRole('heading', { level: 1 })).toBeFocused();
  await page.goto(`/build/${id}/loom`);
  await ready(page);
  await expect(page.getByRole('heading', { level: 1, name: /Loom/ })).toBeVisible();
  await page.keyboard.press('Tab');
  const skip = page.getByRole('link', { name: 'Skip to the work' });
  await expect(skip).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.locator('#work')).toBeFocused();
});

test('a sheet that breaks leaves the spine, undo, the command box and the export alive', async ({ page, watched }) => {
  await page.route(/\/assets\/feeds-[^/]*\.js$/, (route) =>
    route.fulfill({
      contentType: 'text/javascript',
      body: "export default function Feeds() { throw new Error('made to break'); }",
    }),
  );
  await openDemo(page);
  const work = page.locator('#work');
  await work.getByRole('textbox', { name: 'Vehicle or machine' }).fill('Another car');
  await work.getByRole('textbox', { name: 'Vehicle or machine' }).press('Tab');
  await page
    .getByRole('navigation', { name: 'Sheets' })
    .getByRole('link', { name: /^Feeds,/ })
    .click();
  await expect(work.getByRole('alert')).toContainText('It stopped at: made to break');
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    work.getByRole('button', { name: 'Export this build' }).click(),
  ]);
  expect(file.suggestedFilename()).toMatch(/\.gonyx\.json$/);
  await page.getByRole('button', { name: /^Undo: / }).click();
  await expect(page.getByRole('button', { name: /^Do again: / })).toBeEnabled();
  await page.keyboard.press('Control+k');
  await page.getByRole('searchbox').fill('5 Loom');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: /Loom/ })).toBeVisible();
  await goTo(page, 'Survey');
  await expect(work.getByRole('textbox', { name: 'Vehicle or machine' })).not.toHaveValue('Another car');
  // The breaking itself is told in the console, and nothing else is.
  expect(
    watched.splice(0).filter((line) => !/made to break|error occurred|getDerivedStateFromError/.test(line)),
  ).toEqual([]);
});

test('a sheet that is long on its way says so', async ({ page }) => {
  await openDemo(page);
  let open: () => void = () => undefined;
  const held = new Promise<void>((resolve) => (open = resolve));
  await page.route(/\/assets\/book-[^/]*\.js$/, async (route) => {
    await held;
    await route.continue();
  });
  await page
    .getByRole('navigation', { name: 'Sheets' })
    .getByRole('link', { name: /^Book,/ })
    .click();
  await expect(page.getByText('Opening Book…')).toBeAttached();
  open();
  await expect(page.getByRole('heading', { level: 1, name: /Book/ })).toBeVisible();
  await expect(page.getByText('Opening Book…')).not.toBeAttached();
});

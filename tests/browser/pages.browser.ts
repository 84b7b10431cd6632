import type { Page } from '@playwright/test';
import { sheetList, type SheetInfo, type SheetPage } from '../../app/parts/sheets';
import { axe, expect, goTo, openDemo, ready, test, verdict } from './support';

/** Share of the window that is the work at 1280x800, at the least. */
const WORK_SHARE = 0.65;
/** Sizes are told in whole pixels: one too many may be both halves of a line rounded. */
const ROUNDING = 1;

/** Goes to a page as a person does: by the spine, then in the head. */
async function visit(page: Page, sheet: SheetInfo, one: SheetPage | undefined): Promise<void> {
  await goTo(page, sheet.title);
  if (one && one.path !== '') {
    const link = page.getByRole('list', { name: /^Pages of/ }).getByRole('link', { name: one.name, exact: true });
    await link.click();
    await expect(link).toHaveAttribute('aria-current', 'page');
  }
  await expect(verdict(page)).not.toBeEmpty();
}

const sideways = (page: Page) =>
  page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);

/** The work has its share of the window, and nothing beside it is cut or makes the window scroll. */
async function workHasTheWindow(page: Page, path: string): Promise<void> {
  const seen = await page.evaluate(() => {
    const work = document.querySelector('#work')!;
    const head = document.querySelector('header')!;
    const state = document.querySelector('[aria-label="State of the sheet"]')!;
    const { width, height } = work.getBoundingClientRect();
    const root = document.documentElement;
    return {
      share: (width * height) / (window.innerWidth * window.innerHeight),
      cut: Math.max(
        head.scrollWidth - head.clientWidth,
        state.scrollHeight - state.clientHeight,
        work.scrollWidth - work.clientWidth,
        root.scrollHeight - root.clientHeight,
      ),
    };
  });
  expect(seen.share, path).toBeGreaterThanOrEqual(WORK_SHARE);
  expect(seen.cut, path).toBeLessThanOrEqual(ROUNDING);
}

/** The bar shows where one is, every page tab is in reach, no table is cut or scrolls sideways in a box. */
async function nothingCut(page: Page, path: string): Promise<void> {
  const here = page.getByRole('navigation', { name: 'Sheets' }).locator('[aria-current="page"]');
  await expect(here).toBeInViewport({ ratio: 1 });
  for (const tab of await page
    .getByRole('list', { name: /^Pages of/ })
    .getByRole('link')
    .all())
    await expect(tab).toBeInViewport({ ratio: 1 });
  const cut = await page.locator('#work').evaluate((work) =>
    [...work.querySelectorAll('table')]
      .filter((table) => {
        const box = table.parentElement!;
        return table.getBoundingClientRect().right > window.innerWidth || box.scrollWidth > box.clientWidth + 1;
      })
      .map((table) => table.parentElement!.getAttribute('aria-label') ?? table.textContent!.slice(0, 40)),
  );
  expect(cut, path).toEqual([]);
}

for (const [theme, name, size, more] of [
  // Colours go by the theme, layout by the width: each theme is looked at by axe at one width, each width for room.
  ['paper', 'wide', { width: 1280, height: 800 }, workHasTheWindow],
  ['night', 'tablet', { width: 820, height: 1180 }, nothingCut],
  ['night', 'phone', { width: 390, height: 844 }, nothingCut],
] as const)
  test(`every page ${name === 'tablet' ? '' : 'keeps WCAG 2.2 AA and '}has room: ${theme}, ${name}`, async ({
    page,
    context,
    baseURL,
  }) => {
    test.setTimeout(400_000);
    await context.addCookies([{ name: 'gonyx-theme', value: theme, url: baseURL! }]);
    await page.setViewportSize(size);
    const found: string[] = [];
    const look = async (path: string) => {
      if (name !== 'tablet') for (const violation of await axe(page)) found.push(`${path}: ${violation}`);
      expect(await sideways(page), path).toBeLessThanOrEqual(0);
    };
    for (const path of ['/', '/new', '/library', '/library/ecus']) {
      await page.goto(path);
      await ready(page);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await look(path);
    }
    await openDemo(page);
    for (const sheet of sheetList)
      for (const one of sheet.pages.length === 0 ? [undefined] : sheet.pages) {
        await visit(page, sheet, one);
        await look(`${sheet.id}${one?.path ?? ''}`);
        await more(page, `${sheet.id}${one?.path ?? ''}`);
      }
    expect(found).toEqual([]);
  });

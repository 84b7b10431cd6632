import { sheetList } from '../../app/parts/sheets';
import { expect, goTo, openDemo, ready, test } from './support';

test('security headers stand on pages and files', async ({ request }) => {
  for (const path of ['/', '/mark.svg', '/no/such']) {
    const headers = (await request.get(path)).headers();
    expect(headers['content-security-policy']).toContain("default-src 'self'");
    expect(headers['content-security-policy']).not.toContain("script-src 'self' 'unsafe-inline'");
    expect(headers['referrer-policy']).toBe('no-referrer');
    expect(headers['x-content-type-options']).toBe('nosniff');
    expect(headers['x-powered-by']).toBeUndefined();
  }
});

test('an inline script without the nonce does not run', async ({ page, watched }) => {
  await page.goto('/');
  await ready(page);
  await page.evaluate(() => {
    const script = document.createElement('script');
    script.textContent = 'window.intruder = true';
    document.body.append(script);
  });
  expect(await page.evaluate(() => 'intruder' in window)).toBe(false);
  expect(watched.splice(0).join()).toMatch(/Content Security Policy/);
});

test('server and client agree on class names', async ({ page, request }) => {
  const html = await (await request.get('/new')).text();
  const served = [...html.matchAll(/<h1 class="([^"]+)"/g)].map((match) => match[1]);
  await page.goto('/new');
  await ready(page);
  expect(served).toEqual([await page.locator('h1').getAttribute('class')]);
});

test('narrow: the spine is a bar at the foot, the run a drawer', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  const id = await openDemo(page);
  await page.goto(`/build/${id}/prove`);
  await ready(page);
  // The sheet itself, not the skeleton that stands in while the build is read.
  const drawer = page.getByRole('button', { name: /^The run/ });
  await expect(drawer).toHaveAttribute('aria-expanded', 'false');
  const bar = (await page.getByRole('navigation', { name: 'Sheets' }).boundingBox())!;
  expect(bar.y).toBeGreaterThan(700);
  await drawer.click();
  await expect(page.getByRole('list', { name: 'Hop by hop' })).toBeVisible();
  for (const key of await page.getByRole('group', { name: 'Keypad' }).getByRole('button').all())
    expect((await key.boundingBox())!.height).toBeGreaterThanOrEqual(44);
});

test('print: the sheet without its tools, on white', async ({ page }) => {
  await openDemo(page);
  for (const { title } of sheetList) {
    await goTo(page, title);
    await page.emulateMedia({ media: 'print' });
    await expect(page.getByRole('navigation', { name: 'Sheets' })).toBeHidden();
    await expect(page.getByText('Find anything')).toBeHidden();
    await expect(page.getByLabel('Title block')).toBeVisible();
    await page.emulateMedia({ media: 'screen' });
  }
});

test.describe('offline', () => {
  test.use({ serviceWorkers: 'allow' });
  test('once visited, garage, sheets and worker run with the server gone', async ({ page, context }) => {
    const id = await openDemo(page);
    await page.evaluate(async () => {
      await navigator.serviceWorker.ready;
    });
    await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
    await context.setOffline(true);
    for (const sheet of [
      'survey',
      'survey/identify',
      'survey/donor',
      'survey/sensing',
      'allot',
      'allot/pinning',
      'allot/compare',
      'trigger',
      'trigger/wheels',
      'trigger/bench',
      'trigger/light',
      'loom',
      'loom/plugs',
      'loom/board',
      'trace',
      'book',
    ]) {
      await page.goto(`/build/${id}/${sheet}`);
      await ready(page);
      await expect(page.getByLabel('Title block')).toContainText('Pellworth');
    }
    await page.getByRole('link', { name: /^Trace,/ }).click();
    await page.getByRole('button', { name: /Symptom/ }).click();
    await page.getByRole('option', { name: 'Fan 1 does not work' }).click();
    await expect(page.getByText('Most likely')).toBeVisible();
    // Its letters come with the app: sheets of the board are made with no network.
    await page.goto(`/build/${id}/loom/board`);
    await ready(page);
    await page.getByRole('button', { name: 'Print' }).click();
    const sheets = page.waitForEvent('download');
    await page.getByRole('menuitem', { name: 'PDF on A3' }).click();
    expect((await sheets).suggestedFilename()).toMatch(/\.pdf$/);
    await page.getByRole('link', { name: /^Trigger,/ }).click();
    await expect(page.getByRole('heading', { level: 1, name: /Trigger/ })).toBeVisible();
    await page.goto('/library/ecus');
    await ready(page);
    await expect(page.getByText('Orrery 26')).toBeVisible();
    await page.goto('/library');
    await expect(page.getByRole('button', { name: 'Copy and change Fuel pump, 12 A' })).toBeVisible();
    await page.goto('/');
    await expect(page.getByRole('link', { name: /Pellworth/ })).toBeVisible();
    await context.setOffline(false);
  });
});

import { spawn } from 'node:child_process';
import type { BrowserContext, Page } from '@playwright/test';
import { expect, goTo, openDemo, ready, saved, test } from './support';

/** Every write of a page fails from here on: thrown, or aborted by the store. Removals go on, as on a full device. */
const refuseWrites = (page: Page, how: 'throw' | 'abort' = 'throw') =>
  page.evaluate((kind) => {
    IDBObjectStore.prototype.put =
      kind === 'throw'
        ? () => {
            throw new DOMException('full', 'QuotaExceededError');
          }
        : (function put(this: IDBObjectStore, value: unknown, key?: IDBValidKey) {
            const request = this.add(value, `${String(key)} never`);
            this.transaction.abort();
            return request;
          } as typeof IDBObjectStore.prototype.put);
  }, how);

const garage = async (context: BrowserContext): Promise<Page> => {
  const page = await context.newPage();
  await page.goto('/');
  await ready(page);
  return page;
};
const vehicle = (page: Page) => page.getByRole('textbox', { name: 'Vehicle or machine' });

test.describe('two tabs', () => {
  test('a build deleted in one cannot be brought back by typing in the other', async ({ page, context }) => {
    await openDemo(page);
    const other = await garage(context);
    await other.getByRole('button', { name: /^Delete Pellworth/ }).click();
    await expect(other.getByText(/was deleted\. It stays in the bin/)).toBeVisible();
    await expect(page.getByRole('heading', { name: 'This build was deleted in another tab.' })).toBeVisible();
    await other.reload();
    await expect(other.getByRole('link', { name: /^Pellworth/ })).toHaveCount(0);
    await other.getByRole('button', { name: /^Bring back Pellworth/ }).click();
    await expect(other.getByRole('link', { name: /^Pellworth/ })).toBeVisible();
    // The tab that had it open works on it again, and with the newest state.
    await expect(page.getByRole('heading', { level: 1, name: /Survey/ })).toBeVisible();
  });
  test('a rename in the garage takes the pen, and neither tab writes over the other', async ({ page, context }) => {
    await openDemo(page);
    await vehicle(page).fill('Typed before the rename');
    await vehicle(page).blur();
    const other = await garage(context);
    await other.getByRole('button', { name: /^Rename Pellworth/ }).click();
    const name = other.getByRole('textbox', { name: 'Name' });
    await name.fill('Named in the garage');
    await name.press('Enter');
    await expect(other.getByText('It is called Named in the garage now.')).toBeVisible();
    await expect(page.getByLabel('Title block')).toContainText('Named in the garage');
    // The garage lays the pen down when it is done, and says so: the first tab has it again.
    await expect(page.getByText('Another tab is writing this build.')).toHaveCount(0);
    await vehicle(page).fill('Typed after it');
    await vehicle(page).blur();
    await saved(page);
    await page.reload();
    await expect(vehicle(page)).toHaveValue('Typed after it');
    await expect(page.getByLabel('Title block')).toContainText('Named in the garage');
  });
  test('a tab that has gone back to the garage lays the pen down; a follower may take it before', async ({
    page,
    context,
  }) => {
    const id = await openDemo(page);
    const other = await context.newPage();
    await other.goto(`/build/${id}/survey`);
    await other.getByRole('button', { name: 'Write here instead' }).click();
    await expect(other.getByText('This tab may write the build now.')).toBeVisible();
    await expect(page.getByText('Another tab is writing this build.')).toBeVisible();
    await vehicle(other).fill('Taken over');
    await vehicle(other).blur();
    await saved(other);
    await expect(vehicle(page)).toHaveValue('Taken over');
    await other.getByRole('link', { name: 'Garage' }).first().click();
    await expect(page.getByText('This tab may write the build now.')).toBeVisible();
  });
});

test.describe('what is typed', () => {
  test('stays through a reload in the middle of a word, and is not called saved before it is kept', async ({
    page,
  }) => {
    const id = await openDemo(page);
    await vehicle(page).press('End');
    await vehicle(page).pressSequentially(' half a wor');
    await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');
    await page.reload();
    await expect(vehicle(page)).toHaveValue(/ half a wor$/);
    await expect(page.getByText('Brought back what was being typed: Vehicle or machine.')).toBeVisible();
    await expect(vehicle(page)).toBeFocused();
    // Leaving the field enters it, as ever; it is not brought back again.
    await vehicle(page).blur();
    await expect(page.getByRole('button', { name: /^Undo: / })).toBeEnabled();
    await saved(page);
    await page.reload();
    await expect(vehicle(page)).toHaveValue(/ half a wor$/);
    await expect(page.getByText('Brought back')).toHaveCount(0);

    for (const [sheet, field, text] of [
      ['survey/notes', 'What do you need to know?', 'Which way round is pin'],
      ['loom/cut', 'Slack on each wire', '0.2'],
      ['survey', 'Altitude', '12'],
    ] as const) {
      await page.goto(`/build/${id}/${sheet}`);
      await ready(page);
      const box = page.getByRole('textbox', { name: field }).first();
      await box.fill('');
      await box.pressSequentially(text);
      await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');
      await page.reload();
      await expect(page.getByRole('textbox', { name: field }).first()).toHaveValue(text);
    }
  });
  test('a reading half typed is brought back and enters nothing by itself', async ({ page }) => {
    const id = await openDemo(page);
    await page.goto(`/build/${id}/prove`);
    await ready(page);
    const box = page.getByRole('textbox', { name: /^Reading for/ });
    await box.pressSequentially('0.3');
    const label = await box.getAttribute('aria-label');
    await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');
    await page.reload();
    await expect(page.getByRole('textbox', { name: label! })).toHaveValue('0.3');
    await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
  });
  test('of a dialog that was closed nothing comes back', async ({ page }) => {
    await openDemo(page);
    await goTo(page, 'Allot');
    await page.goto(page.url().replace('/allot', '/survey/notes'));
    await ready(page);
    const question = page.getByRole('textbox', { name: 'What do you need to know?' });
    await question.fill('Sent off');
    await page.getByRole('button', { name: 'Note it', exact: true }).first().click();
    await expect(question).toHaveValue('');
    await saved(page);
    await page.reload();
    await expect(page.getByText('Sent off')).toBeVisible();
    await expect(question).toHaveValue('');
  });
});

test.describe('a full device', () => {
  for (const how of ['throw', 'abort'] as const)
    test(`deleting for good is left where nothing can be written (${how})`, async ({ page }) => {
      await openDemo(page, /Brindle/);
      await page.goto('/');
      await ready(page);
      await refuseWrites(page, how);
      await page.getByRole('button', { name: /^Rename Brindle/ }).click();
      await page.getByRole('textbox', { name: 'Name' }).fill('Not to be');
      await page.getByRole('textbox', { name: 'Name' }).press('Enter');
      await expect(page.getByText(/The new name could not be stored.*Nothing was changed/)).toBeVisible();
      await page.getByRole('button', { name: /^Delete Brindle/ }).click();
      const forGood = page.getByRole('button', { name: /^Delete Brindle.* for good$/ });
      if (how === 'throw') await forGood.click();
      else {
        // Refused, not full: the bin might work again, and is asked for again.
        await expect(page.getByText(/no room on this device even to keep/)).toBeVisible();
        return;
      }
      await expect(page.getByText(/was deleted for good/)).toBeVisible();
      await expect(page.getByRole('link', { name: /^Brindle/ })).toHaveCount(0);
      await page.reload();
      await expect(page.getByRole('link', { name: /^Brindle/ })).toHaveCount(0);
    });
  test('undoing a deletion needs no room; the bin has its door after a reload', async ({ page }) => {
    await openDemo(page, /Brindle/);
    await page.goto('/');
    await ready(page);
    await page.getByRole('button', { name: /^Delete Brindle/ }).click();
    await expect(page.getByRole('button', { name: 'Undo' })).toBeFocused();
    await page.reload();
    await ready(page);
    await refuseWrites(page);
    await page.getByRole('button', { name: /^Bring back Brindle/ }).click();
    await expect(page.getByRole('link', { name: /^Brindle/ })).toBeVisible();
  });
  test('the garage shows what is not saved, and it is saved when there is room', async ({ page }) => {
    await openDemo(page);
    await page.evaluate(() => {
      const { put } = IDBObjectStore.prototype;
      Object.assign(window, { put });
      IDBObjectStore.prototype.put = () => {
        throw new DOMException('full', 'QuotaExceededError');
      };
    });
    await vehicle(page).fill('Only in memory');
    await vehicle(page).blur();
    await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'failed');
    let asked = false;
    page.on('dialog', (dialog) => {
      asked = dialog.type() === 'beforeunload';
      void dialog.dismiss();
    });
    await page.close({ runBeforeUnload: true });
    await expect.poll(() => asked).toBe(true);
    await page.getByRole('link', { name: 'Garage' }).first().click();
    await expect(page.getByText(/Pellworth.*the last changes are not saved/)).toBeVisible();
    await page.evaluate(() => {
      IDBObjectStore.prototype.put = (window as unknown as { put: typeof IDBObjectStore.prototype.put }).put;
    });
    await page.getByRole('button', { name: 'Try again' }).click();
    await expect(page.getByText(/the last changes are not saved/)).toHaveCount(0);
    await page.getByRole('link', { name: /^Pellworth/ }).click();
    await expect(vehicle(page)).toHaveValue('Only in memory');
  });
});

test('an undo that overtakes its edit on the way takes back that edit, not the one before', async ({ page }) => {
  await openDemo(page, /Brindle/);
  const before = await vehicle(page).inputValue();
  await vehicle(page).fill('Kept');
  await vehicle(page).press('Tab');
  await saved(page);
  // The next request of the page is read after the one that follows it, as may happen on a busy machine.
  await page.evaluate(() => {
    const { json } = Request.prototype;
    let count = 0;
    let second: () => void = () => undefined;
    const overtaken = new Promise<void>((resolve) => {
      second = resolve;
    });
    Request.prototype.json = async function read(this: Request) {
      count += 1;
      const mine = count;
      if (mine === 1) await overtaken;
      const said: unknown = await json.call(this);
      if (mine === 2) setTimeout(second, 200);
      return said;
    };
  });
  await vehicle(page).fill('Taken back');
  await vehicle(page).press('Tab');
  await page.getByRole('button', { name: /^Undo: / }).click();
  await expect(page.getByText(/^Undone: /)).toBeVisible();
  await page.waitForTimeout(1000);
  await expect(vehicle(page)).toHaveValue('Kept');
  await page.keyboard.press('Control+z');
  await expect(vehicle(page)).toHaveValue(before);
});

test('a first visit with a write that fails says which demo is not here, and has the rest', async ({ browser }) => {
  // Served as `npm run demo` serves it: an empty garage is given the demos.
  const server = spawn(process.execPath, ['scripts/serve.mjs'], {
    env: { ...process.env, GONYX_DEMO: '1', PORT: '0' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const context = await browser.newContext({ serviceWorkers: 'block' });
  try {
    const url = await new Promise<string>((resolve) => {
      server.stdout.on('data', (said: Buffer) => {
        const found = /http:\S+/.exec(said.toString());
        if (found) resolve(found[0]);
      });
    });
    const page = await context.newPage();
    const uncaught: string[] = [];
    page.on('pageerror', (error) => uncaught.push(error.message));
    await page.addInitScript(() => {
      const { put } = IDBObjectStore.prototype;
      IDBObjectStore.prototype.put = function refuse(this: IDBObjectStore, ...args: Parameters<typeof put>) {
        if (JSON.stringify(args[0] ?? null).includes('Pellworth')) throw new DOMException('full', 'QuotaExceededError');
        return put.apply(this, args);
      };
    });
    await page.goto(url);
    await ready(page);
    await expect(page.getByText(/Pellworth.*could not be kept.*no room/)).toBeVisible();
    await expect(page.getByRole('link', { name: /^Brindle/ })).toBeVisible();
    await expect(page.getByRole('link', { name: /^Pellworth/ })).toHaveCount(0);
    expect(uncaught).toEqual([]);
  } finally {
    await context.close();
    server.kill();
  }
});

test('a build with an id no address could hold is given one of its own', async ({ page, request }) => {
  const demo = await (await request.get('/demo/demo-twin')).text();
  for (const id of ['..', 'a/b', 'demo-pellworth|x']) {
    await page.goto('/');
    await ready(page);
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('button', { name: 'Import a file' }).click(),
    ]);
    const text = demo.replace('"id":"demo-twin"', `"id":${JSON.stringify(id)}`);
    await chooser.setFiles({ name: 'odd.json', mimeType: 'application/json', buffer: Buffer.from(text) });
    await page.getByRole('dialog').getByRole('button', { name: 'Import', exact: true }).click();
    await page.waitForURL(/\/build\/[0-9a-f-]{36}\/survey/);
    await expect(page.getByRole('heading', { level: 1, name: /Survey/ })).toBeVisible();
  }
});

test('a sheet that is left while it is on its way asks nobody and leaves no error behind', async ({ page }) => {
  const data: string[] = [];
  page.on('request', (request) => {
    if (request.url().includes('.data')) data.push(request.url());
  });
  await openDemo(page);
  const spine = page.getByRole('navigation', { name: 'Sheets' });
  for (let round = 0; round < 4; round += 1)
    for (const sheet of ['Trigger', 'Allot', 'Survey', 'Prove', 'Trace'])
      await spine.getByRole('link', { name: new RegExp(`^${sheet},`) }).click({ noWaitAfter: true });
  await expect(page.getByRole('heading', { level: 1, name: /Trace/ })).toBeVisible();
  await page.goBack();
  await page.goBack();
  await page.getByRole('link', { name: 'Garage' }).first().click();
  await expect(page.getByRole('heading', { name: 'Your builds' })).toBeVisible();
  // Data that were on their way when a page was left were once cancelled with nobody listening: there are none any more.
  expect(data).toEqual([]);
});

test('focus stays where the work is', async ({ page }) => {
  await openDemo(page, /Brindle/);
  await page.goto('/');
  await ready(page);
  await page.getByRole('button', { name: /^Rename Brindle/ }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Quarry engine');
  await page.getByRole('textbox', { name: 'Name' }).press('Enter');
  await expect(page.getByRole('link', { name: 'Quarry engine' })).toBeFocused();
  await page.getByRole('button', { name: 'Delete Quarry engine' }).click();
  await expect(page.getByRole('button', { name: 'Undo' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Quarry engine' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: /Survey/ })).toBeVisible();
  // Tab out of a changed field goes on to the next one, not to the page.
  await vehicle(page).fill('Another');
  await vehicle(page).press('Tab');
  await saved(page);
  await expect(page.locator('body')).not.toBeFocused();
  // A row that takes itself away leaves the keyboard beside where it was.
  await page.getByRole('link', { name: 'Notes', exact: true }).click();
  for (const text of ['First', 'Second']) {
    await page.getByRole('textbox', { name: 'What do you need to know?' }).fill(text);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: `Remove: ${text}` })).toBeVisible();
  }
  await page.getByRole('button', { name: 'Remove: First' }).press('Enter');
  await expect(page.getByText('First', { exact: true })).toHaveCount(0);
  await expect(page.locator('body')).not.toBeFocused();
  await goTo(page, 'Survey');
  await page
    .getByRole('button', { name: /^Coolant/ })
    .first()
    .press('Enter');
  await page
    .getByRole('button', { name: /^Remove / })
    .first()
    .press('Enter');
  await expect(page.locator('body')).not.toBeFocused();
  await goTo(page, 'Trigger');
  await page.getByRole('link', { name: 'Bench' }).click();
  await page
    .getByRole('button', { name: /^A good start/ })
    .first()
    .press('Enter');
  await expect(page.getByText(/^Reading, /)).toHaveCount(0);
  await expect(page.locator('body')).not.toBeFocused();
});

import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { axe, choose, expect, goTo, openDemo, ready, saved, test } from './support';

/** An invented pinout of 60 cavities, as a manual has it: two connectors, ranges, a note, one word nobody knows. */
const pinout = readFileSync(new URL('./sixty-pins.txt', import.meta.url), 'utf8');

async function makeEcu(page: Page): Promise<void> {
  await page.goto('/library/ecus');
  await ready(page);
  await page.getByRole('button', { name: 'New ECU' }).click();
  await page.getByLabel('Name of the ECU').fill('Tarn 60');
  await page.getByLabel('The pinout').fill(pinout);
  await expect(page.getByText('60 cavities on A (34 way, grey), B (26 way, black)')).toBeVisible();
  await page.getByRole('button', { name: 'Take these pins' }).click();
}

/** A new build on the ECU of the person's own, with the usual sensors. */
async function newBuild(page: Page): Promise<void> {
  await page.goto('/new');
  await ready(page);
  await page.getByRole('textbox', { name: 'Name of the build' }).fill('Bench build');
  await page.getByText('Tarn 60').click();
  await page.getByRole('button', { name: 'Make the build' }).click();
  await page.waitForURL(/\/build\/[^/]+\/survey/);
}

async function addDevice(page: Page, words: string): Promise<void> {
  await page.getByRole('button', { name: 'Add a device' }).first().click();
  const dialog = page.getByRole('dialog', { name: 'Add a device' });
  await dialog.getByRole('textbox', { name: /search/ }).fill(words);
  await dialog.getByRole('button', { name: /^Add / }).first().click();
  await dialog.getByRole('button', { name: 'Done' }).click();
}

const placements = (page: Page): Promise<Record<string, string>> =>
  page
    .getByRole('grid', { name: 'Needs' })
    .evaluate((list) =>
      Object.fromEntries(
        [...list.querySelectorAll<HTMLElement>('[data-need]')].map((row) => [
          row.dataset.need!,
          /([AB]\d+)\s*$/.exec(row.innerText.trim())?.[1] ?? 'open',
        ]),
      ),
    );

test('an own ECU: paste 60 pins, set right, save, allot, lock, add two needs: only free pins move', async ({
  page,
}) => {
  // The longest story there is: on a machine with other work it takes more than the usual bound.
  test.slow();
  await makeEcu(page);
  const margin = page.getByRole('complementary', { name: 'What stands in the way' });
  await expect(margin.getByText(/1 cavity can be nothing yet \(B23\)/)).toBeVisible();
  await expect(margin.getByRole('button', { name: 'Save to the library' })).toBeDisabled();
  // The word nobody knows: shown by the margin, set by the panel.
  await margin.getByRole('button', { name: 'Show it' }).first().click();
  const panel = page.getByRole('region', { name: 'Set pins' });
  await expect(panel.getByRole('heading', { name: 'B23' })).toBeVisible();
  await choose(page, /Can be/, 'analog input');
  await panel.getByRole('button', { name: 'It is this' }).click();
  // The guess is looked at: its pull-up is another.
  await margin.getByRole('button', { name: 'Show it' }).first().click();
  await expect(panel.getByRole('heading', { name: 'B18' })).toBeVisible();
  await panel.getByRole('textbox', { name: 'Pull-up' }).fill('2200');
  await panel.getByRole('textbox', { name: 'Pull-up' }).blur();
  await panel.getByRole('button', { name: 'It is this' }).click();
  // Two at once: both outputs are given what the manual says of them elsewhere.
  const grid = page.getByRole('grid', { name: 'Pins of the ECU' });
  await grid.getByRole('row', { name: /^B18/ }).click();
  await grid.getByRole('row', { name: /^A13/ }).click();
  await grid.getByRole('row', { name: /^A14/ }).click();
  await expect(panel.getByRole('heading', { name: '2 cavities' })).toBeVisible();
  await panel.getByRole('textbox', { name: 'Current' }).fill('2.5');
  await panel.getByRole('textbox', { name: 'Current' }).blur();
  await panel.getByRole('button', { name: 'They are this' }).click();
  await expect(grid.getByRole('row', { name: /^A14/ })).toContainText('2.5 A');
  // It is kept while it is made.
  await page.waitForTimeout(500);
  await page.reload();
  await ready(page);
  await expect(page.getByRole('grid', { name: 'Pins of the ECU' }).getByRole('row', { name: /^B23/ })).toContainText(
    'analog',
  );
  expect(await axe(page)).toEqual([]);
  await page.getByRole('button', { name: 'Save to the library' }).click();
  await page.waitForURL(/\/library\/ecus$/);
  await expect(page.getByText('Tarn 60')).toBeVisible();

  await newBuild(page);
  await goTo(page, 'Allot');
  await page.locator('header').getByRole('button', { name: 'Allot the rest' }).click();
  await expect(page.getByText(/^(\d+) of \1 needs placed/)).toBeVisible();
  const first = await placements(page);
  expect(Object.values(first)).not.toContain('open');
  // One is locked where it is.
  const [lockedNeed] = Object.keys(first).filter((id) => id.startsWith('clt'));
  // Its connector comes with it: with more cavities than fit one above the other, each connector is a tab.
  await page.locator(`[data-need="${lockedNeed}"]`).click();
  await expect(page.getByRole('button', { name: new RegExp(`^${first[lockedNeed]},`) })).toBeVisible();
  await page.getByRole('button', { name: 'Must be here' }).click();
  await saved(page);
  // Two more needs.
  await goTo(page, 'Survey');
  for (const name of ['oil pressure', 'launch']) await addDevice(page, name);
  await goTo(page, 'Allot');
  await page.locator('header').getByRole('button', { name: 'Allot the rest' }).click();
  await expect(page.getByText(/^(\d+) of \1 needs placed/)).toBeVisible();
  const second = await placements(page);
  expect(Object.keys(second).length).toBe(Object.keys(first).length + 2);
  for (const [need, pin] of Object.entries(first)) expect(`${need} ${second[need]}`).toBe(`${need} ${pin}`);
});

test('an impossible build says why, and a way out is one press', async ({ page }) => {
  await openDemo(page);
  await addDevice(page, 'knock');
  await goTo(page, 'Allot');
  await expect(page.getByText(/38 of 39 needs placed/)).toBeVisible();
  await page.getByRole('button', { name: 'Why not?' }).click();
  const dialog = page.getByRole('dialog', { name: 'Why not?' });
  await expect(dialog.getByText(/2 needs ask for knock inputs; only 1 pin can: B4\./)).toBeVisible();
  const ways = dialog.getByRole('listitem');
  await expect(ways.filter({ hasText: 'Change to Orrery 94' })).toBeVisible();
  expect(await axe(page)).toEqual([]);
  await ways.filter({ hasText: 'Change to Orrery 94' }).getByRole('button', { name: 'Do this' }).click();
  await expect(page.getByText(/39 of 39 needs placed/)).toBeVisible();
  await expect(page.getByTestId('title-ecu').or(page.getByText('Orrery 94')).first()).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/38 of 39 needs placed/)).toBeVisible();
});

test('the desk: search, swap by keyboard, never here, mirrored face, own letters', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Allot');
  await page.getByRole('textbox', { name: 'Search needs' }).fill('fan');
  await expect(page.locator('[data-need]')).toHaveCount(2);
  // Keyboard: the need in hand by Enter, its place by Enter on the cavity: the two fans swap.
  await page.locator('[data-need="relay-fan-1.85"]').click();
  await page.getByRole('button', { name: /^A8,/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-need="relay-fan-1.85"]')).toContainText('A8');
  await expect(page.locator('[data-need="relay-fan-2.85"]')).toContainText('A7');
  await page.getByRole('button', { name: /^A8,/ }).focus();
  await page.keyboard.press('f');
  await expect(page.getByRole('group', { name: 'Connector A, mating side' })).toBeVisible();
  const left = await page.getByRole('button', { name: /^A1,/ }).boundingBox();
  const right = await page.getByRole('button', { name: /^A10,/ }).boundingBox();
  expect(left!.x).toBeGreaterThan(right!.x);
  await page.getByRole('button', { name: 'Never here' }).click();
  await expect(page.locator('[data-need="relay-fan-1.85"]')).toContainText('open');
  await expect(page.getByRole('button', { name: 'Allow Fan 1 relay again' })).toBeVisible();
  await page.getByRole('button', { name: 'Letters and colours' }).click();
  await choose(page, /Letter of injector/, 'J');
  await choose(page, /Pattern of injector/, 'slants');
  await page.keyboard.press('Escape');
  await expect(page.getByText('J injector')).toBeVisible();
  await page.reload();
  await ready(page);
  await expect(page.getByText('J injector')).toBeVisible();
});

test('a need is dragged from cavity to cavity, a taken one swaps, one that cannot be refuses', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Allot');
  const cavity = (id: string) => page.getByRole('button', { name: new RegExp(`^${id},`) });
  const [fan1, fan2] = ['relay-fan-1.85', 'relay-fan-2.85'].map((id) => page.locator(`[data-need="${id}"]`));
  await expect(fan1).toContainText('A7');
  await cavity('A7').dragTo(cavity('A8'));
  await expect(fan1).toContainText('A8');
  await expect(fan2).toContainText('A7');
  // An output does not fit on an analog input: nothing moves, and the reason is said.
  await cavity('A8').dragTo(cavity('B9'));
  await expect(page.getByText(/B9 .*: Fan 1 relay cannot go there/)).toBeVisible();
  await expect(fan1).toContainText('A8');
  await page.keyboard.press('Control+z');
  await expect(fan1).toContainText('A7');
});

test('a solver that takes long is cancelled, and the plan stays', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Allot');
  const before = await placements(page);
  // The worker's script never arrives: as slow as a solver can be.
  await page.route(/allot\.worker.*\.js/, () => undefined);
  const header = page.locator('header');
  await header.getByRole('button', { name: 'Allot all anew' }).click();
  await header.getByRole('button', { name: /^Cancel, 0 %/ }).click();
  await expect(header.getByRole('button', { name: 'Allot all anew' })).toBeEnabled();
  expect(await placements(page)).toEqual(before);
});

test('compare: what fits, what does not and why, and taking another', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Allot');
  await page.getByRole('link', { name: 'Compare ECUs' }).click();
  await expect(page.getByText('2 of 3 ECUs serve all needs.')).toBeVisible();
  await expect(page.getByText(/This ECU has no VR pair/)).toBeVisible();
  expect(await axe(page)).toEqual([]);
  await page
    .getByRole('row', { name: /Orrery 94/ })
    .getByRole('button', { name: 'Take it' })
    .click();
  await page.getByRole('button', { name: 'Change the ECU' }).click();
  await expect(page.getByRole('row', { name: /Orrery 94.*in this build/ })).toBeVisible();
  await page.getByRole('link', { name: 'Desk' }).click();
  await expect(page.getByText(/38 of 38 needs placed/)).toBeVisible();
});

test.describe('on a touch screen of 390 px', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });
  test('pinning: one cavity at a time, glove keys, resumes where it stopped', async ({ page }) => {
    const id = await openDemo(page);
    await page.goto(`/build/${id}/allot/pinning`);
    await ready(page);
    const step = page.getByRole('region', { name: /^Cavity/ });
    await expect(step).toBeVisible();
    const name = await step.getAttribute('aria-label');
    await expect(step.getByText(/^row \d of 3, \w+ from the (left|right), wire side$/)).toBeVisible();
    const key = step.getByRole('button', { name: 'Clicked and pulled' });
    expect((await key.boundingBox())!.height).toBeGreaterThanOrEqual(60);
    await key.tap();
    await expect(step).not.toHaveAttribute('aria-label', name!);
    const next = await page.getByRole('region', { name: /^Cavity/ }).getAttribute('aria-label');
    await saved(page);
    await page.reload();
    await ready(page);
    await expect(page.getByRole('region', { name: /^Cavity/ })).toHaveAttribute('aria-label', next!);
    await choose(page, /Order of pinning/, 'powers and grounds first');
    await expect(page.getByRole('region', { name: /^Cavity A2[1-3]/ })).toBeVisible();
    await page.getByText('mating side').tap();
    await expect(page.getByText(/, mating side$/).first()).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  });
});

test('the I/O sheet sorts, exports and prints whole with its boxes', async ({ page }) => {
  const id = await openDemo(page);
  await page.goto(`/build/${id}/allot/io`);
  await ready(page);
  const rows = page.getByRole('group', { name: 'I/O sheet' }).getByRole('row');
  await expect(rows).toHaveCount(49);
  await page.getByText('device', { exact: true }).click();
  await expect(rows.last()).toContainText('free');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'CSV file' }).click(),
  ]);
  const text = readFileSync(await download.path(), 'utf8');
  expect(text.trim().split('\r\n')).toHaveLength(49);
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('button', { name: 'CSV file' })).toBeHidden();
  await expect(page.getByRole('img', { name: 'not yet' }).first()).toBeVisible();
  const box = await page
    .getByRole('group', { name: 'I/O sheet' })
    .evaluate((group) => [group.scrollHeight, group.clientHeight]);
  expect(box[0]).toBeLessThanOrEqual(box[1] + 1);
});

test('two blocks of a copied page are shown side by side, joined by one press, and parted again', async ({ page }) => {
  await page.goto('/library/ecus');
  await ready(page);
  await page.getByRole('button', { name: 'New ECU' }).click();
  const text = page.getByLabel('The pinout');
  const words = ['Injector 1', 'Injector 2', 'CAN H', 'CAN L', 'Power ground'];
  await text.fill(['A1', 'A2', 'A3', 'A4', 'A5', '', ...words, 'Page 3 of the manual'].join('\n'));
  await expect(page.getByText('5 cavities against 6 lines of words')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Join them line by line' })).toBeDisabled();
  const pasted = ['A1', 'A2', 'A3', 'A4', 'A5', '', ...words].join('\n');
  await text.fill(pasted);
  await expect(page.getByRole('group', { name: 'The blocks side by side' }).getByRole('row').nth(2)).toContainText(
    'A3CAN H',
  );
  await page.getByRole('button', { name: 'Join them line by line' }).click();
  await expect(page.getByText('5 cavities on A')).toBeVisible();
  await page.getByRole('button', { name: 'Back to the text as pasted' }).click();
  await expect(text).toHaveValue(pasted);
  await text.fill(['A1', 'A2', 'A3'].flatMap((pin) => words.map((word) => `${pin}: ${word}`)).join('\n'));
  await expect(page.getByText('Not understood as a whole: 3 of 3 places are named more than once.')).toBeVisible();
});

test('bad pinouts and bad ECU files are refused in a sentence, and nothing is lost', async ({ page }) => {
  await makeEcu(page);
  await page.getByRole('tab', { name: 'Paste' }).click();
  await page.getByLabel('The pinout').fill('Dear friend,\nhere is no pinout at all.');
  await expect(page.getByText(/No cavity was found in this text/)).toBeVisible();
  await page.getByRole('tab', { name: 'Pins' }).click();
  await expect(
    page.getByRole('grid', { name: 'Pins of the ECU' }).getByRole('row', { name: /^A1\b/ }).first(),
  ).toBeVisible();
  await page.waitForTimeout(400);
  await page.goto('/library/ecus');
  await ready(page);
  await expect(page.getByText('60 cavities so far')).toBeVisible();
  for (const [name, text, says] of [
    ['cut.json', '{"format":"gonyx-ecus","ecus":[', /cut\.json: .*not readable JSON.*Nothing was changed/],
    ['other.json', '{"hello":1}', /other\.json: .*not a list of Gonyx ECU definitions/],
  ] as const) {
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('button', { name: 'Import ECUs' }).click(),
    ]);
    await chooser.setFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });
    await expect(page.getByText(says)).toBeVisible();
  }
});

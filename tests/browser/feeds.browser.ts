import { choose, ecuGround, expect, findings, goTo, openDemo, ready, saved, test, verdict } from './support';
import type { Page } from '@playwright/test';

const drawing = (page: Page) => page.getByRole('group', { name: 'Drawing of the feeds' });
const beside = (page: Page) => page.getByRole('complementary', { name: 'State and part' });
const state = (page: Page, name: string) => beside(page).getByText(name, { exact: true }).click();

test('the drawing is read in a state of the car, with what is driven beside', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Feeds');
  await expect(verdict(page)).toContainText(/A running, battery 13\.\d+ V/);
  const fan = drawing(page).getByRole('button', { name: /^Fan 1 1\d\.\d/ });
  await expect(fan).toBeVisible();
  await state(page, 'key on');
  await expect(verdict(page)).toContainText('key on, battery 12.35 V');
  await expect(drawing(page).getByRole('button', { name: /^Fan 1 relay, open/ })).toBeVisible();
  // One output driven by its test: its relay closes, and the rest stays as it is.
  await beside(page)
    .getByText(/^Fan 1/)
    .click();
  await expect(drawing(page).getByRole('button', { name: /^Fan 1 relay, closed, by A7/ })).toBeVisible();
  await expect(drawing(page).getByRole('button', { name: /^Fan 2 relay, open/ })).toBeVisible();
  await state(page, 'off');
  await expect(drawing(page).getByRole('button', { name: /^Main feed relay, open/ })).toBeVisible();
  // A lane drawn as one, and whole again.
  await drawing(page)
    .getByRole('button', { name: /^Main feed fuse/ })
    .click();
  const lane = beside(page).getByText('Lane drawn as one');
  await lane.click();
  await expect(drawing(page).getByRole('button', { name: /^5 loads/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /one by one$/ })).toHaveCount(2);
  await expect(drawing(page).getByRole('button', { name: /^Flex fuel 0/ })).toBeHidden();
  await lane.click();
  await expect(drawing(page).getByRole('button', { name: /^Main feed relay, open/ })).toBeVisible();
});

test('a load is hung on another relay and split off again; the finding and its fuse follow', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Feeds');
  await drawing(page)
    .getByRole('button', { name: /^Fan 2 1/ })
    .click();
  await choose(page, /Hangs on/, 'Fan 1 relay');
  await expect(drawing(page).getByRole('button', { name: 'Fan 1 fuse, 40 A' })).toBeVisible();
  await expect(drawing(page).getByRole('button', { name: /^Fan 2 relay/ })).toBeHidden();
  // A contact that stands both is proposed; with the usual one in its place the rule speaks.
  await drawing(page)
    .getByRole('button', { name: /^Fan 1 relay/ })
    .click();
  await expect(beside(page)).toContainText('The contact is the smallest that makes it (PW-21).');
  const contact = beside(page).getByRole('textbox', { name: /Contact carries/ });
  await expect(contact).toHaveValue('70');
  await contact.fill('30');
  await contact.press('Enter');
  await expect(await findings(page)).toContainText('Load above the relay’s contact');
  await drawing(page)
    .getByRole('button', { name: /^Fan 2 1/ })
    .click();
  await beside(page).getByRole('button', { name: 'Own fuse and relay' }).click();
  await expect(drawing(page).getByRole('button', { name: 'Fan 1 fuse, 20 A' })).toBeVisible();
  await expect(await findings(page)).not.toContainText('Load above the relay’s contact');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('menuitem', { name: /Take the proposal again/ }).click();
  await expect(drawing(page).getByRole('button', { name: /^Fan 2 relay/ })).toBeVisible();
});

test('a load is dragged onto a fuse, and what it would mean is told while it is held there', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Feeds');
  const load = drawing(page).getByRole('button', { name: /^Flex fuel/ });
  const [from, to] = await Promise.all([
    load.boundingBox(),
    drawing(page).getByRole('button', { name: 'Permanent feed fuse, 3 A' }).boundingBox(),
  ]);
  await page.mouse.move(from!.x + 20, from!.y + 15);
  await page.mouse.down();
  await page.mouse.move(from!.x, from!.y - 5, { steps: 4 });
  await page.mouse.move(to!.x + 30, to!.y + 16, { steps: 12 });
  await expect(page.getByText(/0\.3 A through 3 A and 0\.5 mm²/)).toBeVisible();
  await page.mouse.up();
  await expect(page.getByRole('button', { name: /^Undo/ })).toBeEnabled();
  await load.click();
  await expect(beside(page).getByRole('button', { name: /Hangs on/ })).toContainText('Permanent feed fuse');
});

test('a pump hung on a feed of the car follows the key, and is told; a part goes into its wire and out again', async ({
  page,
}) => {
  await openDemo(page);
  await goTo(page, 'Feeds');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('menuitem', { name: /^Feed of the car/ }).click();
  await drawing(page)
    .getByRole('button', { name: /^Fuel pump 1/ })
    .click();
  await choose(page, /Hangs on/, 'Feed of the car');
  await expect(await findings(page)).toContainText('Pump runs on with the engine stopped');
  // It gives 10 A; the pump wants 12.
  await expect(await findings(page)).toContainText('More drawn from the car than it can give');
  await drawing(page)
    .getByRole('button', { name: /^Fuel pump 1/ })
    .click();
  await beside(page).getByRole('button', { name: 'Put into its wire' }).click();
  await page.getByRole('menuitem', { name: 'In-line fuse' }).click();
  await expect(drawing(page).getByRole('button', { name: 'In-line fuse, 15 A' })).toBeVisible();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(drawing(page).getByRole('button', { name: 'In-line fuse, 15 A' })).toBeHidden();
});

test('what was taken out is told where it is missed, and its remedy hangs it again', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Feeds');
  await drawing(page)
    .getByRole('button', { name: /^Fan 1 relay/ })
    .click();
  await beside(page).getByRole('button', { name: 'Take it out' }).click();
  await expect(await findings(page)).toContainText('Nothing feeds it');
  await page.getByRole('button', { name: 'Hang it on the main feed' }).click();
  await expect(await findings(page)).not.toContainText('Nothing feeds it');
  await expect(drawing(page).getByRole('button', { name: 'Main feed fuse, 25 A' })).toBeVisible();
});

test('a box is filled and its lid is what is printed; it survives a reload', async ({ page }) => {
  const id = await openDemo(page);
  await page.goto(`/build/${id}/feeds/boxes`);
  const lid = page.getByRole('region', { name: 'Front box' });
  await expect(lid).toContainText('left inner wing');
  await expect(lid.getByRole('button', { name: 'Fan 1' })).toHaveCount(2);
  await page.getByRole('button', { name: 'Put all 6 into Front box' }).click();
  await expect(lid.getByRole('button', { name: 'Starter' })).toHaveCount(2);
  await expect(page.getByText('Every fuse and relay stands in a box.')).toBeVisible();
  await saved(page);
  await page.reload();
  await expect(lid.getByRole('button', { name: 'Starter' })).toHaveCount(2);
  await page.emulateMedia({ media: 'print' });
  await expect(lid).toBeVisible();
  await expect(page.getByRole('button', { name: 'Take the box away' })).toBeHidden();
});

test('a ground is moved, and the millivolts of the sensors are told for both schools', async ({ page }) => {
  const id = await openDemo(page);
  await page.goto(`/build/${id}/feeds/grounds`);
  const shifts = page.getByLabel('Ground shift of each sensor');
  await expect(shifts.getByRole('row').filter({ hasText: 'Wideband' })).toContainText('mV');
  const before = await shifts.getByRole('row').filter({ hasText: 'Wideband' }).innerText();
  await ecuGround(page).getByText('battery negative', { exact: true }).click();
  await expect(shifts.getByRole('row').filter({ hasText: 'Wideband' })).not.toHaveText(before);
  await choose(page, /Fan 1 · 2 bolted at/, 'battery negative');
  await expect(page.getByLabel('Returns and their bolts')).toContainText('Fan 1 · 2');
  await saved(page);
});

test('a return is dragged to another bolt in the drawing of the grounds, and taken back', async ({ page }) => {
  const id = await openDemo(page);
  await page.goto(`/build/${id}/feeds/grounds`);
  const plan = page.getByRole('group', { name: 'Drawing of the grounds' });
  const block = plan.getByRole('button', { name: /^engine block/ });
  await expect(block).toContainText('14 rings');
  const [from, to] = await Promise.all([
    plan.getByRole('button', { name: /^Wideband · 2/ }).boundingBox(),
    plan.getByRole('button', { name: /^battery negative/ }).boundingBox(),
  ]);
  await page.mouse.move(from!.x + 20, from!.y + 12);
  await page.mouse.down();
  await page.mouse.move(from!.x + 40, from!.y + 20, { steps: 4 });
  await page.mouse.move(to!.x + 30, to!.y + 20, { steps: 12 });
  await page.mouse.up();
  await expect(block).toContainText('13 rings');
  await expect(plan.getByRole('button', { name: /^battery negative/ })).toContainText('1 ring');
  await expect(
    page.getByLabel('Returns and their bolts').getByRole('row').filter({ hasText: 'Wideband · 2' }),
  ).toContainText('battery negative');
  await page.getByRole('button', { name: /^Undo: / }).click();
  await expect(block).toContainText('14 rings');
  await saved(page);
});

test('on a phone the drawing is read and its outputs ticked', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  const id = await openDemo(page);
  await page.goto(`/build/${id}/feeds`);
  await state(page, 'prime');
  await expect(drawing(page).getByRole('button', { name: /^Fuel pump relay, closed/ })).toBeVisible();
  await beside(page)
    .getByText(/^Fuel pump/)
    .click();
  await expect(drawing(page).getByRole('button', { name: /^Fuel pump relay, open/ })).toBeVisible();
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
  expect(wide).toBeLessThanOrEqual(0);
});

test('feeds of a new build from nothing: proposed, a fuse of one’s own, the pump split off, read in every state', async ({
  page,
}) => {
  await page.goto('/new');
  await ready(page);
  await page.getByRole('textbox', { name: 'Name of the build' }).fill('Four');
  await choose(page, /Start from/, /Inline four, 2\.0/);
  await page.getByRole('button', { name: 'Make the build' }).click();
  await page.waitForURL(/survey/);
  await goTo(page, 'Feeds');
  // What it proposes is there at once: battery, main relay, pump.
  await expect(drawing(page).getByRole('button', { name: /^Main feed relay, closed/ })).toBeVisible();
  await expect(verdict(page)).toContainText(/A running, battery 13\.\d+ V/);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('menuitem', { name: /^Fuse/ }).click();
  const own = drawing(page).getByRole('button', { name: /^Own fuse/ });
  await expect(own).toBeVisible();
  // The pump on the fuse of one's own, which nothing feeds yet: told, and undone.
  await drawing(page)
    .getByRole('button', { name: /^Fuel pump 1?\d?.*V?$/ })
    .last()
    .click();
  await choose(page, /Hangs on/, 'Own fuse');
  const unfed = page.getByLabel('Findings', { exact: true }).getByRole('button', { name: /^PW-17 stop/ });
  await expect(unfed).toBeVisible();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(unfed).toHaveCount(0);
  await beside(page).getByRole('button', { name: 'Own fuse and relay' }).click();
  await state(page, 'prime');
  await expect(verdict(page)).toContainText('prime, battery 12.');
  await state(page, 'cranking');
  await expect(beside(page)).toContainText(/the starter takes about 1\d\d A/);
  // The run below reads in the same state.
  await expect(page.getByRole('region', { name: 'The run' })).toContainText(/V cranking/);
  await beside(page).getByText('nearly flat', { exact: true }).click();
  await expect(verdict(page)).toContainText(/cranking, battery 8\.\d+ V/);
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(own).toBeVisible();
});

test('the table goes out to a spreadsheet and comes back changed', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await openDemo(page);
  await goTo(page, 'Feeds');
  await page.getByRole('link', { name: 'Table', exact: true }).click();
  await page.getByRole('button', { name: 'Copy table' }).click();
  await expect(page.getByText('Copied: paste it into a spreadsheet.')).toBeVisible();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  expect(copied.split('\n')[0]).toBe('feed\tload A\tfuse A\twire mm²\ttrunk m\tto fuse m\tdrop V\tset by hand');
  await page.getByRole('button', { name: 'Paste table' }).click();
  const box = page.getByRole('textbox', { name: 'Table' });
  await box.fill(copied);
  await expect(page.getByText('Nothing in it differs from what stands.')).toBeVisible();
  await box.fill('feed\tfuse A\nFan 9\t30');
  await expect(page.getByText(/Row 2: there is no feed 'Fan 9'/)).toBeVisible();
  await box.fill('feed\tfuse A\nFan 1\t30');
  await expect(page.getByText('Fan 1: fuse A 30')).toBeVisible();
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByRole('row', { name: /^Fan 1 / })).toContainText('30 A yours');
});

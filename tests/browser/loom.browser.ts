import { readFileSync } from 'node:fs';
import DxfParser from 'dxf-parser';
import type { Page } from '@playwright/test';
import { choose, expect, findings, goTo, openDemo, ready, saved, test, verdict } from './support';

const plan = (page: Page) => page.getByRole('group', { name: 'Plan of the loom' });
const pieceOf = (page: Page, name: RegExp) => plan(page).getByRole('button', { name });
const openPage = (page: Page, name: string) => page.getByRole('link', { name, exact: true }).click();

test('a tree from nothing: proposed, three pieces measured, taken back and done again', async ({ page }) => {
  await openDemo(page, /Brindle Quarry/);
  await goTo(page, 'Loom');
  await expect(verdict(page)).toContainText('Not laid in a tree yet');
  await page.getByRole('button', { name: 'Propose a tree' }).click();
  await expect(verdict(page)).toContainText(/(\d+) pieces of \1 only drawn/);
  for (const [piece, metres] of [
    [/^Piece trunk,/, '0.42'],
    [/^Piece wall,/, '0.31'],
    [/^Piece box,/, '0.7'],
  ] as const) {
    // By keyboard: the middle of a bent piece lies beside it.
    await pieceOf(page, piece).press('Enter');
    const length = page.getByRole('textbox', { name: 'Length, by string' });
    await length.fill(metres);
    await length.press('Enter');
    await expect(pieceOf(page, new RegExp(`${piece.source}.*${metres}.* measured`))).toBeVisible();
  }
  await pieceOf(page, /^Piece box,/).focus();
  await page.keyboard.press('Control+z');
  await expect(pieceOf(page, /^Piece box,.* drawn/)).toBeVisible();
  await page.keyboard.press('Control+y');
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(pieceOf(page, /^Piece wall, 0\.31 m, measured/)).toBeVisible();
  // The cut list has what was measured: the trunk is in every wire of the crank sensor.
  await openPage(page, 'Pieces');
  await expect(page.getByRole('rowheader', { name: / to cabin branch$/ }).first()).toBeVisible();
});

test('a plug on the wall parts what passes; a cavity is changed by the list, and a place moved by arrow keys', async ({
  page,
}) => {
  await openDemo(page, /Harbour launch/);
  await goTo(page, 'Loom');
  await page.getByText('Boat', { exact: true }).click();
  await page.getByRole('button', { name: 'Propose a tree' }).click();
  await pieceOf(page, /^Piece wall,/).press('Enter');
  const before = Number(/(\d+) wires/.exec((await verdict(page).textContent())!)![1]);
  await page.getByRole('button', { name: 'Plug', exact: true }).click();
  await page.getByRole('menuitem', { name: /On the wall/ }).click();
  await expect(verdict(page)).not.toContainText(`${before} wires`);
  await expect(plan(page).getByRole('button', { name: 'Bulkhead, plug' })).toBeVisible();
  const after = Number(/(\d+) wires/.exec((await verdict(page).textContent())!)![1]);
  await openPage(page, 'Plugs');
  await expect(verdict(page)).toContainText(`${after - before} wires parted`);
  // The wire in the first cavity goes to the last: the one that was there comes to the first, or it is free now.
  const face = page.getByRole('group', { name: 'Bulkhead, ECU’s half, wire side' });
  await face.getByRole('button', { name: /^Bulkhead 1, to / }).click();
  const held = page.getByText(/^Cavity 1: /);
  const words = (await held.textContent())!.replace('Cavity 1: ', '');
  await choose(page, /Move it to/, '24');
  await expect(
    page.getByRole('row', { name: new RegExp(`^24 ${words.split(' to ')[0]!.replace(/[.·]/g, '.')}`) }),
  ).toBeVisible();
  await saved(page);
  await openPage(page, 'Plan');
  const place = plan(page).getByRole('button', { name: 'Battery, ground' });
  const was = await place.getAttribute('transform');
  await place.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await expect(place).not.toHaveAttribute('transform', was!);
  // The cut list has both halves, and a loom of its own behind the plug.
  await openPage(page, 'Cut list');
  await expect(page.getByRole('button', { name: /^Wire \d+: .*Bulkhead · / }).first()).toBeVisible();
  await choose(page, /Cut which loom/, /behind Bulkhead/);
  await expect(verdict(page)).not.toContainText(`${after} wires`);
});

test('the crank cable tied to the coils is told by the metre, and stood elsewhere it is fewer', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Loom');
  await plan(page).getByRole('button', { name: 'Coil 1 to 5, tail' }).click();
  await choose(page, /Stand here as well/, 'Crank sensor');
  await expect(await findings(page)).toContainText('Crank sensor runs 1.23 m in one bundle with the coils');
  await plan(page).getByRole('button', { name: 'Crank sensor, tail' }).click();
  await choose(page, /Stand here as well/, 'Crank sensor');
  // In the trunk it lies beside the feed of the coils all the same.
  await expect(await findings(page)).toContainText('Crank sensor runs 0.45 m in one bundle with the coils');
  await expect(await findings(page)).not.toContainText('1.23 m');
});

test('labels, the board and the parts leave as files that other programs read', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Loom');
  await openPage(page, 'Labels');
  await expect(verdict(page)).toContainText(/\d+ labels on \d sizes of heat-shrink/);
  const taken = async (name: string) => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name, exact: true }).click(),
    ]);
    return readFileSync((await download.path())!);
  };
  expect((await taken('CSV')).toString()).toContain('heat-shrink mm');
  await openPage(page, 'Formboard');
  await expect(verdict(page)).toContainText(/27 pieces on 2\.\d\d m by/);
  const dxf = new DxfParser().parseSync((await taken('DXF')).toString())!;
  const lines = dxf.entities.filter(({ type, layer }) => type === 'LWPOLYLINE' && layer === 'LOOM');
  expect(lines).toHaveLength(27);
  expect((await taken('SVG')).toString()).toContain('width="2400mm"');
  // Sheets are made in a worker.
  await page.getByRole('button', { name: 'Print' }).click();
  const [sheets] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'PDF on A3' }).click(),
  ]);
  expect(
    readFileSync((await sheets.path())!)
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');
  // A board too small is said, and all of it is drawn.
  const long = page.getByRole('textbox', { name: 'Board, long' });
  await long.fill('0.7');
  await long.press('Enter');
  await expect(page.getByText(/^The board is too small: the loom takes/)).toBeVisible();
  await openPage(page, 'Parts');
  await expect(verdict(page)).toContainText('still to order');
  const have = page.getByRole('textbox', { name: /^Coil plug, both halves.*, have$/ });
  const open = Number(/(\d+) still to order/.exec((await verdict(page).textContent())!)![1]);
  await have.fill('1');
  await have.press('Enter');
  await expect(verdict(page)).toContainText(`${open - 1} still to order`);
});

test('on a phone the pieces are measured one by one', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await openDemo(page);
  await page.goto(page.url().replace(/survey.*/, 'loom/pieces'));
  await ready(page);
  const length = page.getByRole('textbox', { name: 'Length of engine branch to Crank sensor' });
  await length.fill('1.3');
  await length.press('Enter');
  await expect(page.getByRole('checkbox', { name: 'engine branch to Crank sensor is measured' })).toBeChecked();
});

test('the plugs of the devices are ticked off terminal by terminal, and stay so', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Loom');
  await openPage(page, 'Plugs');
  const tick = page.getByRole('checkbox', { name: 'Alternator L clicked in and pulled' });
  await tick.focus();
  await page.keyboard.press('Space');
  await expect(tick).toBeChecked();
  await expect(page.getByText(/^1 of \d+ terminals clicked in and pulled/)).toBeVisible();
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(tick).toBeChecked();
});

test('a plug is drawn as it is in the hand, and pinned from that drawing with its crimp beside it', async ({
  page,
}) => {
  await openDemo(page);
  await goTo(page, 'Loom');
  await openPage(page, 'Plugs');
  const plug = page.getByRole('region', { name: 'Plug of Boost solenoid' });
  await plug.getByRole('button', { name: 'Draw its face' }).click();
  // This variant has them the other way round: the two change places.
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'cavity 1 1 feed' }).click();
  await page.getByRole('option', { name: /cavity 2/ }).click();
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await plug.getByRole('button', { name: 'Add terminal data' }).click();
  await page.getByRole('textbox', { name: 'Terminal', exact: true }).fill('bag 12');
  await page.getByRole('textbox', { name: 'Strip' }).fill('4.5');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(plug.getByRole('button', { name: 'Terminal data' })).toBeVisible();
  await goTo(page, 'Allot');
  await openPage(page, 'Pinning');
  await page.getByText('devices', { exact: true }).click();
  const cavity = page.getByRole('region', { name: /^Cavity / });
  await expect(cavity).toContainText('Boost solenoid');
  await expect(cavity).toContainText('first from the right, wire side');
  await expect(cavity).toContainText('bag 12 · strip 4.5 mm');
  await expect(page.getByRole('group', { name: 'Plug of Boost solenoid, wire side' })).toBeVisible();
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(page.getByRole('region', { name: /^Cavity / })).toContainText('Boost solenoid');
});

test('each half of a plug is proved by itself, and a whole that fails points into the plug', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Prove');
  const tests = page.getByRole('group', { name: 'Tests' });
  await page.getByRole('checkbox', { name: 'Coil plug' }).focus();
  await page.keyboard.press('Space');
  // A ground of coil 1 goes by cavity 2: both halves by themselves, then all of it.
  for (const half of ['ECU’s half', 'other half']) {
    await tests
      .locator('section', { hasText: `Hold Coil plug · 2, ${half}` })
      .getByRole('button', { name: /not read/ })
      .first()
      .click();
    await expect(page.getByText(`${half}, not put together yet.`)).toBeVisible();
    await page.getByRole('textbox', { name: /^Reading for Coil plug · 2 / }).pressSequentially('0.2');
    await page.keyboard.press('Enter');
  }
  // Put together it reads open.
  await page.getByText('all', { exact: true }).click();
  const whole = tests.locator('section', { hasText: /^Hold engine block/ }).getByRole('button', { name: /Coil 1 · B/ });
  await whole.click();
  await page.getByRole('textbox', { name: /^Reading for engine block to Coil 1 · B/ }).press('o');
  await page.keyboard.press('Enter');
  await whole.click();
  await expect(page.getByText(/Each half is whole by itself: look into Coil plug · 2 for/).first()).toBeVisible();
});

test('a half of a wire is given a colour and a size of its own, and both go back', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Loom');
  await openPage(page, 'Cut list');
  await choose(page, /Cut which loom/, 'ECU loom');
  const row = page.getByRole('row', { name: /Wire \d+: A21 to Wall plug/ });
  await row.getByRole('button', { name: /^Wire/ }).click();
  const own = page.getByRole('group', { name: 'This wire' });
  await own.getByRole('button', { name: /Colour/ }).click();
  await page.getByRole('option', { name: /^PK/ }).click();
  await expect(row).toContainText('PK');
  const size = own.getByRole('textbox', { name: 'Size' });
  await size.fill('2.5');
  await size.press('Enter');
  await expect(row).toContainText('2.5 mm²');
  await own.getByRole('button', { name: 'As Gonyx has it' }).click();
  await expect(row).not.toContainText('PK');
  await expect(row).not.toContainText('2.5 mm²');
});

test('tags with a code are off until asked for; the address on one opens its run', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Loom');
  await openPage(page, 'Labels');
  const tags = page.getByRole('list', { name: 'Tags' });
  await expect(page.getByRole('checkbox', { name: /^Tags with a code/ })).not.toBeChecked();
  await page.getByRole('checkbox', { name: /^Tags with a code/ }).focus();
  await page.keyboard.press('Space');
  await expect(tags.getByRole('listitem').filter({ hasText: 'Fuel pump' })).toHaveCount(1);
  await saved(page);
  await page.goto(page.url().replace(/labels.*/, `plugs?end=${encodeURIComponent('dev:fan-2.1')}`));
  await ready(page);
  await expect(page.getByRole('region', { name: 'The run' })).toContainText('Fan 2');
});

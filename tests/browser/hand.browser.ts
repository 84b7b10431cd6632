import type { Page } from '@playwright/test';
import { call } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import { pellworth } from '~/demo/pellworth';
import { edited } from '../helpers';
import { proved, settled } from '../proved';
import { choose, expect, findings, goTo, openDemo, ready, saved, test, verdict } from './support';

const at = '2026-03-01T10:00:00.000Z';
/** The demo with every wire read right and every finding to fix set aside: its first gate has passed. */
const provedDemo = (): Build =>
  edited(
    settled(proved({ ...pellworth(), id: 'proved-estate', name: 'Proved estate' })),
    ...['locks', 'route'].map((checkId) =>
      call('confirmCheck', { gateId: 'bench', checkId, confirmation: { at, by: 'AB', value: null } }),
    ),
  );

async function importBuild(page: Page, build: Build): Promise<void> {
  await page.goto('/');
  await ready(page);
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Import a file' }).click(),
  ]);
  await chooser.setFiles({
    name: 'build.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(build)),
  });
  await page
    .getByRole('dialog', { name: 'Import this build?' })
    .getByRole('button', { name: 'Import', exact: true })
    .click();
  await page.waitForURL(/survey/);
}

test('prove by keyboard alone: twenty readings typed blind, from arrival on', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Prove');
  const box = page.getByRole('textbox', { name: /Reading for/ });
  await expect(box).toBeFocused();
  for (let i = 0; i < 20; i += 1) {
    // Only the title tells what to type; the hand never leaves the keys.
    const title = (await box.getAttribute('aria-label'))!;
    for (const key of / against /.test(title) ? ['o'] : ['0', '.', '2']) await page.keyboard.press(key);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('textbox', { name: title, exact: true })).toHaveCount(0);
    await expect(box).toBeFocused();
  }
  await expect(verdict(page)).toContainText('78 of 290 readings taken');
  const row = page.getByRole('group', { name: 'Tests' }).locator('[aria-current="true"]');
  await expect(row).toBeInViewport();
  // From anywhere else on the sheet a figure lands in the box as well.
  await page.locator('header').click({ position: { x: 300, y: 20 } });
  await page.keyboard.press('4');
  await expect(box).toHaveValue('4');
  await expect(box).toBeFocused();
  // And an empty box leaves Ctrl Z to the sheet.
  await page.keyboard.press('Backspace');
  await page.keyboard.press('Control+z');
  await expect(verdict(page)).toContainText('77 of 290 readings taken');
});

test('a finding is set aside by initials and a reason, stands in the book, and can be taken up again', async ({
  page,
}) => {
  await openDemo(page);
  await goTo(page, 'Loom');
  const margin = await findings(page);
  const finding = margin.getByRole('listitem').filter({ hasText: 'Twin connectors unlabelled' });
  await finding.getByRole('button', { name: 'Set aside' }).click();
  const dialog = page.getByRole('dialog', { name: 'Set LO-8 aside' });
  await expect(dialog.getByRole('button', { name: 'Set aside' })).toBeDisabled();
  await dialog.getByRole('textbox', { name: 'Why it may stay' }).fill('The fans are cut to lengths that do not reach.');
  await dialog.getByRole('textbox', { name: 'Who says so' }).fill('JR');
  await dialog.getByRole('button', { name: 'Set aside' }).click();
  await expect(margin).toContainText('Set aside 1');
  await expect(margin).toContainText('JR');
  await goTo(page, 'Book');
  await expect(page.locator('#work')).toContainText('The fans are cut to lengths that do not reach.');
  // Given once, initials are known on every sheet.
  await goTo(page, 'Fire up');
  await expect(page.getByRole('textbox', { name: 'Who confirms' })).toHaveValue('JR');
  await expect(page.locator('#work')).not.toContainText('LO-8');
  await saved(page);
  await page.reload();
  await (await findings(page)).getByRole('button', { name: 'Take it up again' }).click();
  await expect(page.locator('#work')).toContainText('LO-8 Twin connectors unlabelled');
});

test('a reading out of its band opens its case; what was confirmed on another wire does not count', async ({
  page,
}) => {
  await importBuild(page, provedDemo());
  await goTo(page, 'Fire up');
  await expect(verdict(page)).toContainText('1 of 8 gates passed');
  await page.getByRole('button', { name: /^.*Battery on/ }).click();
  await page.getByText('All coils and injectors unplugged').first().click();
  await page.getByRole('textbox', { name: /Current with the key off/ }).fill('2');
  await page.keyboard.press('Tab');
  await expect(page.locator('#work')).toContainText('Out of its band.');
  await page.getByRole('button', { name: 'Open a case on sheet 8' }).click();
  await expect(verdict(page)).toContainText('The ECU does not wake');
  await expect(page.getByRole('region', { name: 'Close this case' })).toBeVisible();
  // A pin that moves takes the closed locks with it.
  await goTo(page, 'Allot');
  await page.getByRole('row', { name: /^Fan 1 relay/ }).click();
  await page.getByRole('button', { name: /^A8, / }).first().click();
  await goTo(page, 'Fire up');
  await page.getByRole('button', { name: /Bench done/ }).click();
  await expect(page.locator('#work')).toContainText('Taken before its wire, part or wheel changed');
});

test('a cavity that reads open loses its tick on the desk, and the face says so', async ({ page }) => {
  await openDemo(page);
  await expect(await findings(page)).not.toContainText('Wire reads open');
  await goTo(page, 'Prove');
  await page.getByText('all', { exact: true }).click();
  await page
    .getByRole('group', { name: 'Tests' })
    .getByRole('button', { name: /Coil 1 · C/ })
    .first()
    .click();
  await page.keyboard.press('o');
  await page.keyboard.press('Enter');
  await expect(await findings(page)).toContainText('Wire reads open');
  await goTo(page, 'Allot');
  await expect(page.getByRole('button', { name: /^A11, Coil 1.*reads wrong/ })).toBeVisible();
  await page.getByRole('link', { name: 'Pinning' }).click();
  await expect(page.locator('#work')).toContainText('A11');
  await expect(page.locator('#work')).toContainText('Sheet 6 read this wire wrong.');
});

test('a doubtful reading names the part it could be; a wrong altitude is mended from the finding', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('link', { name: 'Sensing' }).click();
  await page
    .getByRole('navigation', { name: 'Sensors' })
    .getByRole('button', { name: /^Manifold/ })
    .click();
  await page.getByRole('textbox', { name: 'Meter at the pin' }).fill('1.41');
  await page.getByRole('textbox', { name: 'The ECU shows' }).fill('83.8');
  await page.getByRole('button', { name: 'Judge it' }).click();
  await expect(page.locator('#work')).toContainText(
    /The place is not at 410 m: 83\.\d kPa is the barometer at about 15\d0 m/,
  );
  await (await findings(page)).getByRole('button', { name: /Set the altitude to 15\d0 m/ }).click();
  await expect(page.getByTestId('judgement')).toContainText('Right');
});

test('a new build follows its answers: order, coils, boost', async ({ page }) => {
  await page.goto('/new');
  await ready(page);
  await page.getByRole('textbox', { name: 'Name of the build' }).fill('Shed van');
  const order = page.getByRole('textbox', { name: 'Firing order' });
  await expect(order).toHaveValue('1-3-4-2');
  const cylinders = page.getByRole('textbox', { name: 'Cylinders' });
  await cylinders.fill('1');
  await cylinders.press('Tab');
  await expect(order).toHaveValue('1');
  await choose(page, /Start from/, /V6 of 60/);
  await page.getByText('Wasted', { exact: true }).click();
  await expect(page.locator('body')).toContainText('3 × wasted-spark coil');
  await page.getByText('Boosted', { exact: true }).click();
  await page.getByRole('button', { name: 'Make the build' }).click();
  await expect(page.getByText(/Give the boost you want/)).toBeVisible();
  const boost = page.getByRole('textbox', { name: 'Boost above the barometer' });
  await boost.fill('80');
  await boost.press('Tab');
  await expect(page.locator('body')).toContainText('manifold pressure sensor, 2 bar absolute');
  await page.getByRole('button', { name: 'Make the build' }).click();
  await page.waitForURL(/survey/);
  await expect(page.locator('#work')).toContainText('Wasted-spark coil 3+6');
});

test('a pasted pinout stays beside its pins, piece by piece, and an empty cavity takes a pin by a press', async ({
  page,
}) => {
  await page.goto('/library/ecus');
  await ready(page);
  await page
    .getByRole('button', { name: /paste|new ecu/i })
    .first()
    .click();
  await page
    .getByRole('textbox', { name: 'The pinout' })
    .fill('A1-4: injector outputs 1-4, 2A\nA6: Masse\nA7: ignition switched\nA1: fan relay\nwritten down in a hurry');
  await expect(page.getByText('1 cavity is named more than once')).toBeVisible();
  await page.getByRole('button', { name: 'Take these pins' }).click();
  const text = page.getByRole('group', { name: 'The text it was read from' });
  await text.getByRole('button', { name: 'ignition switched' }).click();
  await expect(page.getByRole('textbox', { name: 'Label' })).toHaveValue('ignition switched');
  await expect(text.getByRole('button', { name: 'A7' })).toHaveAttribute('data-lit', 'true');
  await expect(text.getByRole('button', { name: 'written down in a hurry' })).toHaveAttribute('title', /left out/);
  await page.getByRole('tab', { name: 'Faces' }).click();
  await page.getByRole('button', { name: 'Put a pin into cavity 5' }).click();
  await expect(page.getByRole('tab', { name: 'Pins (7)' })).toHaveAttribute('aria-selected', 'true');
});

test('the events chart: each TDC stands above its own degree', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Trigger');
  // A long last column must not push the axis away from the bars.
  await page.getByText('fire in turn', { exact: true }).click();
  const chart = page.getByRole('group', { name: /Events over 720/ });
  await expect(chart).toContainText('ign 3 → cyl 4');
  const places = await chart.evaluate((node) => {
    const middle = (one: Element) => one.getBoundingClientRect().left + one.getBoundingClientRect().width / 2;
    const of = (name: string) =>
      Object.fromEntries(
        [...node.querySelectorAll(`[data-${name}]`)].map((one) => [one.getAttribute(`data-${name}`)!, middle(one)]),
      );
    return { tdc: of('tdc'), tick: of('tick') };
  });
  expect(Object.keys(places.tdc)).toHaveLength(5);
  for (const [degrees, x] of Object.entries(places.tdc)) expect(Math.abs(x - places.tick[degrees])).toBeLessThan(2);
});

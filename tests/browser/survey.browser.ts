import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { choose, expect, findings, goTo, openDemo, ready, saved, test, verdict } from './support';

/** Opens a page of the survey by its tab. */
async function page_(page: Page, name: string): Promise<void> {
  await page.locator('header').getByRole('link', { name, exact: true }).click();
  await expect(page.locator('header').getByRole('link', { name, exact: true })).toHaveAttribute('aria-current', 'page');
}

const header = 'connector\tcavity\tcolour\tsize\tfunction\tcondition\tsplice\tdecision\tside\tmove to\tnote\tbench row';
const colours = ['GN/YE', 'BN', 'RD/BU', 'light blue', 'white with red', 'BK'];
/** 300 wires as a spreadsheet's clipboard gives them. */
const rows = Array.from({ length: 300 }, (_, i) =>
  [
    `K${Math.floor(i / 12) + 1}`,
    String((i % 12) + 1),
    colours[i % colours.length],
    i % 3 === 0 ? '0.75' : '0.5 mm²',
    i === 4 ? '+5 V to sensors'.replace('+', '') : `circuit ${i + 1}`,
    i % 10 === 0 ? 'chafed' : '',
    i % 7 === 0 ? `S${(i % 21) + 1}` : '',
    '',
    '',
    '',
    '',
    String(i + 1),
  ].join('\t'),
);
const pasted = [header, ...rows].join('\n');

/** Pastes text where the focus is, as Ctrl V does. */
const paste = (page: Page, text: string) =>
  page.evaluate((plain) => {
    const data = new DataTransfer();
    data.setData('text/plain', plain);
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  }, text);
/** What Ctrl C puts on the clipboard from where the focus is. */
const copied = (page: Page) =>
  page.evaluate(() => {
    const data = new DataTransfer();
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('copy', { clipboardData: data, bubbles: true, cancelable: true }),
    );
    return data.getData('text/plain');
  });

test('300 donor wires pasted, decided by keyboard alone, undone, and copied back out unchanged', async ({ page }) => {
  await openDemo(page, /Brindle/);
  await page_(page, 'Donor loom');
  await page.getByRole('button', { name: 'Paste from a spreadsheet' }).click();
  const dialog = page.getByRole('dialog', { name: 'Bring in donor wires' });
  await dialog.getByRole('textbox').fill(pasted);
  await expect(dialog.getByText('300 wires separated by tabs')).toBeVisible();
  await dialog.getByRole('button', { name: 'Bring in 300 wires' }).click();
  await expect(verdict(page)).toContainText('300 wires');
  const list = page.getByRole('grid', { name: 'Donor wires' });
  // Virtual: far fewer rows are drawn than there are.
  expect(await list.getByRole('row').count()).toBeLessThan(60);

  await list.focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('k');
  await page.keyboard.press('g');
  for (const key of ['Shift+ArrowDown', 'Shift+ArrowDown', 'Shift+ArrowDown']) await page.keyboard.press(key);
  await expect(page.getByText('4 selected', { exact: true })).toBeVisible();
  await page.keyboard.press('e');
  await expect(verdict(page)).toContainText('4 extend');
  await page.keyboard.press('End');
  await page.keyboard.press('u');
  await expect(verdict(page)).toContainText('1 unknown');
  await saved(page);
  for (let i = 0; i < 4; i += 1) await page.keyboard.press('Control+z');
  await expect(verdict(page)).toContainText('300 open');
  await page.keyboard.press('Control+a');
  await expect(page.getByText('300 selected', { exact: true })).toBeVisible();
  expect(await copied(page)).toBe(pasted);
});

test('donor wires: filter as you type, sort by a heading, edit one, lock a restraint wire', async ({ page }) => {
  await openDemo(page);
  await page_(page, 'Donor loom');
  await page.getByRole('textbox', { name: 'Filter' }).fill('injector feed');
  await expect(page.getByText('5 shown')).toBeVisible();
  await page.getByRole('textbox', { name: 'Filter' }).fill('');
  await page.getByRole('button', { name: /^Sort by decision/ }).click();
  await page.getByRole('textbox', { name: 'Filter' }).fill('squib left +');
  const list = page.getByRole('grid', { name: 'Donor wires' });
  await list.getByRole('row').first().dblclick();
  const dialog = page.getByRole('dialog', { name: 'Y1 1' });
  await expect(dialog.getByRole('alert')).toContainText('licensed workshop');
  await expect(dialog.getByRole('radiogroup')).toHaveCount(0);
  await dialog.getByRole('button', { name: 'Leave it' }).click();
  await list.getByRole('row').first().click();
  await page.keyboard.press('r');
  await expect(page.getByRole('status').filter({ hasText: 'restraint system: it is locked' })).toBeVisible();

  await page.getByRole('textbox', { name: 'Filter' }).fill('F28 GY');
  await list.getByRole('row').first().dblclick();
  const wire = page.getByRole('dialog', { name: 'F28 5' });
  await wire.getByRole('textbox', { name: 'Function' }).fill('Fuel gauge');
  await wire.getByText('move', { exact: true }).click();
  await wire.getByRole('textbox', { name: 'Moves to cavity' }).fill('B10');
  await wire.getByRole('button', { name: 'Keep changes' }).click();
  await expect(list).toContainText('move to B10');
  await expect(await findings(page)).toContainText('Two donor wires move to one cavity');
});

test('a ragged table from another country is shown before it is written, and named by its line', async ({ page }) => {
  await openDemo(page);
  await page_(page, 'Donor loom');
  await page.getByRole('grid', { name: 'Donor wires' }).focus();
  await paste(page, 'Plug;Pin;Wire colour;mm2;Action\nF40;1;GN/YE;0,75;keep\nF40;1;BN;thin;perhaps\nF41;2');
  const dialog = page.getByRole('dialog', { name: 'Bring in donor wires' });
  await expect(dialog).toContainText('separated by semicolons');
  await expect(dialog.getByRole('alert')).toContainText("Line 3: 'perhaps' is no decision");
  await expect(dialog).toContainText('F40 cavity 1 is listed already (line 2)');
  await expect(dialog).toContainText('Line 4: it has 2 of 5 cells');
  await expect(dialog.getByRole('button', { name: /Bring in 3/ })).toBeDisabled();
  await choose(page, /Column Action is/, 'keep under its own heading');
  await dialog.getByRole('button', { name: 'Bring in 3 wires' }).click();
  await expect(verdict(page)).toContainText('43 wires');
  await expect(page.getByRole('grid', { name: 'Donor wires' })).toContainText('F12');
});

test('a wheel is identified by answers, and put on sheet 3', async ({ page }) => {
  await openDemo(page, /Brindle/);
  await page_(page, 'Identify');
  const wheel = page.getByTestId('topic-crank-wheel');
  await expect(wheel).toContainText('What would settle it');
  await page.getByText('one gap', { exact: true }).click();
  await page.getByRole('textbox', { name: 'How many teeth in one turn?' }).fill('35');
  await page.getByRole('textbox', { name: 'How many teeth in one turn?' }).press('Tab');
  await page.getByRole('textbox', { name: 'How many teeth would fit in the gap?' }).fill('1');
  await page.getByRole('textbox', { name: 'How many teeth would fit in the gap?' }).press('Tab');
  await expect(wheel).toContainText('36 places, 1 missing');
  await wheel.getByText(/are out$/).click();
  await expect(wheel).toContainText('teeth counted 35; 58 would fit');
  await wheel.getByRole('button', { name: 'Use 36-1 on sheet 3' }).click();
  await goTo(page, 'Trigger');
  await expect(verdict(page)).toContainText('36 places, 1 missing');
  await goTo(page, 'Survey');
  await page_(page, 'Identify');
  await page.getByRole('textbox', { name: 'How many ohms has one injector?' }).fill('99999999');
  await page.getByRole('textbox', { name: 'How many ohms has one injector?' }).press('Tab');
  await expect(page.getByText('Give 0 to 10000000 Ω.')).toBeVisible();
});

test('a sensor is calibrated by a pasted table, and a reading is judged', async ({ page }) => {
  await openDemo(page);
  await page_(page, 'Sensing');
  await page
    .getByRole('navigation', { name: 'Sensors' })
    .getByRole('button', { name: /^Manifold pressure/ })
    .click();
  await expect(page.locator('canvas')).toBeVisible();
  await expect(page.locator('#work')).toContainText('96.5 kPa here');
  await page.getByRole('button', { name: 'Forget the reading' }).click();
  await page.getByRole('textbox', { name: 'Meter at the pin' }).fill('0');
  await page.getByRole('button', { name: 'Judge it' }).click();
  await expect(page.getByTestId('judgement')).toContainText('Not right');
  await expect(page.getByRole('list', { name: 'What would explain it' })).toContainText('No 5 V at the sensor');
  await page.getByRole('textbox', { name: 'Meter at the pin' }).fill('1,6');
  await page.getByRole('textbox', { name: 'The ECU shows' }).fill('69.5');
  await page.getByRole('button', { name: 'Judge it' }).click();
  await expect(page.getByTestId('judgement')).toContainText("the ECU's setting is not");
  await expect(page.getByRole('list', { name: 'What would explain it' })).toContainText('2 bar absolute');
  await expect(await findings(page)).toContainText('Key-on reading not right');
  await page.getByRole('button', { name: 'Close the findings' }).click();

  await page.getByRole('button', { name: 'Change it' }).click();
  const dialog = page.getByRole('dialog', { name: /^Calibration/ });
  await choose(page, /How it is known/, /^table/);
  await dialog.getByRole('textbox', { name: /Or paste two columns/ }).fill('V;kPa\n0,5;20\n2;120\n1,5;300');
  await dialog.getByRole('button', { name: 'Read these lines' }).click();
  await expect(dialog.getByRole('alert')).toContainText('turns back');
  await expect(dialog.getByRole('button', { name: 'Keep this calibration' })).toBeDisabled();
  await dialog.getByRole('textbox', { name: 'Row 2, signal' }).fill('1');
  await dialog.getByRole('textbox', { name: 'Row 2, signal' }).press('Tab');
  await dialog.getByRole('button', { name: 'Keep this calibration' }).click();
  await expect(page.locator('#work')).toContainText('table of 3 rows');
  await page.keyboard.press('Control+z');
  await expect(page.locator('#work')).toContainText('A straight line through two points');
});

test('one setting of units goes through every sheet', async ({ page }) => {
  await openDemo(page);
  await page.getByText('psi', { exact: true }).click();
  await page.getByText('°F', { exact: true }).click();
  await expect(page.locator('#work')).toContainText('Barometer 14.0 psi');
  await page_(page, 'Sensing');
  await expect(verdict(page)).toContainText('64.4 °F');
  await goTo(page, 'Feeds');
  await page.getByRole('link', { name: 'Grounds' }).click();
  await expect(page.getByRole('row', { name: /^battery negative .* -?\d+\.\d+ psi$/ })).toBeVisible();
  await goTo(page, 'Loom');
  await expect(page.getByRole('textbox', { name: 'Hottest there' })).toHaveValue('140');
  await goTo(page, 'Fire up');
  await expect(page.locator('#work')).not.toContainText('kPa');
});

test('a photograph is scaled down, kept, exported with the build and imported again', async ({ page }) => {
  await openDemo(page);
  const picture = await page.evaluate(async () => {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [2400, 1200];
    const context = canvas.getContext('2d')!;
    context.fillStyle = '#884422';
    context.fillRect(0, 0, 2400, 1200);
    const blob = await new Promise<Blob>((resolve) => canvas.toBlob((one) => resolve(one!), 'image/png'));
    return [...new Uint8Array(await blob.arrayBuffer())];
  });
  await page
    .locator('#work')
    .getByRole('button', { name: /^Crank sensor/ })
    .first()
    .click();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Add a photograph of Crank sensor' }).click();
  await (await chooser).setFiles({ name: 'crank plug.png', mimeType: 'image/png', buffer: Buffer.from(picture) });
  const shelf = page.getByRole('list', { name: 'Photographs of Crank sensor' });
  await expect(shelf).toContainText('1600 × 800');
  await expect(shelf.getByRole('img', { name: 'crank plug' })).toBeVisible();
  const not = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Add a photograph of Crank sensor' }).click();
  await (await not).setFiles({ name: 'notes.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('not a picture') });
  await expect(page.getByRole('alert').filter({ hasText: 'notes.jpg is no picture' })).toBeVisible();
  await saved(page);

  await goTo(page, 'Book');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Build with 1 photograph' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toMatch(/\.gonyx\.zip$/);
  const bytes = readFileSync((await file.path())!);
  await page.goto('/');
  await ready(page);
  const importer = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a file' }).click();
  await (await importer).setFiles({ name: 'shared.gonyx.zip', mimeType: 'application/zip', buffer: bytes });
  const dialog = page.getByRole('dialog', { name: 'Import this build?' });
  await expect(dialog).toContainText('1 photographs');
  await dialog.getByRole('button', { name: 'Import' }).click();
  await page.waitForURL(/\/build\/[^/]+\/survey/);
  expect(page.url()).not.toContain('demo-pellworth/');
  await page
    .locator('#work')
    .getByRole('button', { name: /^Crank sensor/ })
    .first()
    .click();
  await expect(page.getByRole('img', { name: 'crank plug' })).toBeVisible();
  await page.getByRole('button', { name: 'Open crank plug' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Remove it' }).click();
  await expect(page.getByRole('list', { name: 'Photographs of Crank sensor' })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('img', { name: 'crank plug' })).toBeVisible();
});

test('a damaged archive is refused in a sentence', async ({ page }) => {
  await page.goto('/');
  await ready(page);
  const importer = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a file' }).click();
  await (
    await importer
  ).setFiles({ name: 'cut.zip', mimeType: 'application/zip', buffer: Buffer.from([0x50, 0x4b, 3, 4, 9, 9, 9]) });
  await expect(page.getByRole('status').filter({ hasText: 'cut.zip: The archive is damaged' })).toBeVisible();
});

test('a body plug joins the netlist, and a lone lamp is told', async ({ page }) => {
  await openDemo(page, /Brindle/);
  await page_(page, 'Body plugs');
  await page.getByRole('button', { name: /Add the first plug/ }).click();
  await expect(page.getByRole('heading', { name: 'Bulkhead plug' })).toBeVisible();
  await expect(await findings(page)).toContainText('oil lamp');
  await page.getByRole('button', { name: 'Close the findings' }).click();
  await page.getByRole('button', { name: /Key feed fuse/ }).click();
  await expect(page.locator('footer')).toContainText('Bulkhead plug · 1');
  await (await findings(page)).getByRole('button', { name: /Take Alternator through the lamp/ }).click();
  await page.getByRole('button', { name: 'Close the findings' }).click();
  await expect(page.locator('#work')).toContainText('Alternator · L');
  await page.getByRole('button', { name: /Add cavity 8/ }).click();
  await expect(verdict(page)).toContainText('1 cavity not known yet');
  await choose(page, 'What cavity 8 is', /Reverse light/);
  await expect(verdict(page)).toContainText('Every cavity has a name');
});

test('fuel and spark: a goal too high is told, and injector data is changed', async ({ page }) => {
  await openDemo(page);
  await page_(page, 'Fuel and spark');
  await page.getByRole('textbox', { name: 'Power goal at the crank' }).fill('420');
  await page.getByRole('textbox', { name: 'Power goal at the crank' }).press('Tab');
  await expect(await findings(page)).toContainText('Injectors too small for the power goal');
  await page.getByRole('button', { name: 'Change its data' }).first().click();
  const dialog = page.getByRole('dialog', { name: 'Injector, high impedance' });
  await dialog.getByRole('textbox', { name: 'Flow' }).fill('1200');
  await dialog.getByRole('textbox', { name: 'Dead time row 2, battery' }).fill('7');
  await dialog.getByRole('textbox', { name: 'Dead time row 2, battery' }).press('Tab');
  await expect(dialog.getByRole('alert')).toContainText('Row 2: battery volts must be above the row before it');
  await dialog.getByRole('textbox', { name: 'Dead time row 2, battery' }).fill('10');
  await dialog.getByRole('textbox', { name: 'Dead time row 2, battery' }).press('Tab');
  await dialog.getByRole('button', { name: 'Keep' }).click();
  await expect(await findings(page)).not.toContainText('Injectors too small');
});

test('questions, parts and hours are kept, and their totals stand in the book', async ({ page }) => {
  await openDemo(page, /Brindle/);
  await page_(page, 'Notes');
  await page
    .getByRole('textbox', { name: 'What do you need to know?' })
    .fill('Which way round is the throttle sensor?');
  await page.getByRole('button', { name: 'Note it' }).click();
  await page.getByRole('textbox', { name: 'Answer' }).fill('Supply is terminal 2.');
  await page.getByRole('textbox', { name: 'Answer' }).press('Tab');
  await expect(page.locator('#work')).toContainText('answered');
  await page.getByRole('textbox', { name: 'Part', exact: true }).fill('Seals');
  await page.getByRole('textbox', { name: 'How many' }).fill('40');
  await page.getByRole('textbox', { name: 'Cost of one' }).fill('0.35');
  await page.getByRole('textbox', { name: 'Cost of one' }).press('Tab');
  await page.getByRole('button', { name: 'Add part' }).click();
  await page.getByRole('textbox', { name: 'Hours' }).fill('2.5');
  await page.getByRole('textbox', { name: 'Hours' }).press('Tab');
  await page.getByRole('button', { name: 'Add hours' }).click();
  await expect(verdict(page)).toContainText('2.5 h, €14.00');
  await goTo(page, 'Book');
  await expect(page.locator('#work')).toContainText('€14.00');
  await expect(page.locator('#work')).toContainText('Which way round is the throttle sensor?');
});

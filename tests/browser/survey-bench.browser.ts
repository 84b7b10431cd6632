import { choose, expect, findings, goTo, openDemo, saved, test, verdict } from './support';

test('on a phone a donor wire is tapped and decided, and the list stays within the screen', async ({
  browser,
  baseURL,
}) => {
  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    baseURL,
    serviceWorkers: 'block',
  });
  const page = await context.newPage();
  const id = await openDemo(page);
  await page.goto(`/build/${id}/survey/donor`);
  const list = page.getByRole('grid', { name: 'Donor wires' });
  await list.getByRole('row').filter({ hasText: 'F12 1' }).tap();
  const dialog = page.getByRole('dialog', { name: 'F12 1' });
  await dialog.getByText('remove', { exact: true }).tap();
  await dialog.getByRole('button', { name: 'Keep changes' }).tap();
  await expect(verdict(page)).toContainText('8 remove');
  const size = (await list.boundingBox())!;
  expect(size.x + size.width).toBeLessThanOrEqual(390);
  const rows = await list.getByRole('row').all();
  for (const row of rows.slice(0, 4)) expect((await row.boundingBox())!.height).toBeGreaterThanOrEqual(44);
  await page.goto(`/build/${id}/survey/sensing`);
  await choose(page, / Sensor$/, /^Oil pressure/);
  await expect(page.locator('#work')).toContainText('Oil pressure sensor, 10 bar');
  await context.close();
});

test('the donor list prints whole, with boxes to tick, and without its tools', async ({ page }) => {
  const id = await openDemo(page);
  await page.goto(`/build/${id}/survey/donor`);
  await expect(page.getByRole('grid', { name: 'Donor wires' })).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('row')).toHaveCount(41);
  await expect(page.getByRole('row', { name: /F31 1/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /Y1 1/ })).toContainText('LOCKED: restraint');
  await expect(page.getByRole('button', { name: 'Paste' })).toBeHidden();
  await expect(page.getByRole('textbox', { name: 'Filter' })).toBeHidden();
  await page.emulateMedia({ media: 'screen' });
  await expect(page.getByRole('grid', { name: 'Donor wires' })).toBeVisible();
});

test('a CSV file is opened, and what goes out as CSV comes back the same', async ({ page }) => {
  const id = await openDemo(page, /Brindle/);
  await page.goto(`/build/${id}/survey/donor`);
  await page.getByRole('button', { name: 'Paste from a spreadsheet' }).click();
  await page
    .getByRole('dialog')
    .getByRole('textbox')
    .fill('connector,cavity,function\nA,1,"+12 V, switched"\nA,2,=1+1');
  await page.getByRole('button', { name: 'Bring in 2 wires' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'CSV', exact: true }).click();
  const stream = await (await download).createReadStream();
  let text = '';
  for await (const chunk of stream) text += String(chunk);
  expect(text).toContain('"\'+12 V, switched"');
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Open a file' }).click();
  await (await chooser).setFiles({ name: 'loom.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  const dialog = page.getByRole('dialog', { name: 'Bring in donor wires' });
  await dialog.getByText('take their place', { exact: true }).click();
  await dialog.getByRole('button', { name: 'Bring in 2 wires' }).click();
  await expect(verdict(page)).toContainText('2 wires');
  await expect(page.getByRole('grid')).toContainText('+12 V, switched');
  await expect(page.getByRole('grid')).toContainText('=1+1');
});

test('a mystery wire becomes a question; a moved wire gives the plan its colour', async ({ page }) => {
  const id = await openDemo(page);
  await page.goto(`/build/${id}/survey/donor`);
  const list = page.getByRole('grid', { name: 'Donor wires' });
  await page.getByRole('textbox', { name: 'Filter' }).fill('lights on');
  await list.getByRole('row').first().dblclick();
  await page.getByRole('dialog').getByRole('button', { name: 'Note a question about it' }).click();
  await page.getByRole('textbox', { name: 'Filter' }).fill('coolant sensor signal');
  await list.getByRole('row').first().dblclick();
  const dialog = page.getByRole('dialog', { name: 'F12 1' });
  await expect(dialog).toContainText('It is BU/WH');
  await dialog.getByRole('button', { name: /Plan the wire at B10 as GN\/YE/ }).click();
  await expect(dialog).toContainText('It is GN/YE, 0.75 mm²');
  await dialog.getByRole('button', { name: 'Leave it' }).click();
  await page.locator('header').getByRole('link', { name: 'Notes' }).click();
  await expect(page.locator('#work')).toContainText('What is the PK/BK wire at F28 3?');
  await goTo(page, 'Allot');
  await page.getByRole('button', { name: /^B10,/ }).click();
  await expect(page.locator('footer')).toContainText('GN/YE');
});

test('coils without igniters are put on an igniter module, channel by channel', async ({ page }) => {
  await openDemo(page, /Brindle/);
  const work = page.locator('#work');
  for (const name of ['Igniter module, 2 channels', 'Wasted-spark coil, two towers, no igniter']) {
    await page.getByRole('button', { name: 'Add a device' }).first().click();
    const dialog = page.getByRole('dialog', { name: 'Add a device' });
    await dialog.getByRole('textbox', { name: /search/ }).fill(name.replace(/,/g, ''));
    await dialog.getByRole('textbox', { name: /search/ }).fill(name.split(',')[0]);
    await dialog.getByRole('button', { name: `Add ${name}` }).click();
    await dialog.getByRole('button', { name: 'Done' }).click();
  }
  await expect(await findings(page)).toContainText('spark 1');
  await work.getByRole('button', { name: /^Wasted-spark coil/ }).click();
  await choose(page, 'Where terminal 1 goes', 'igniter channel 1');
  await expect(work.getByRole('button', { name: /Igniter module · O1/ })).toBeVisible();
  await expect(await findings(page)).not.toContainText('the line spark 1');
  await saved(page);
});

test("a part's data is changed in the build, and the part is kept in the library", async ({ page }) => {
  await openDemo(page);
  const work = page.locator('#work');
  await work.getByRole('button', { name: /^Oil pressure/ }).click();
  await work.getByRole('button', { name: 'Change what this part is' }).click();
  const dialog = page.getByRole('dialog', { name: 'Oil pressure sensor, 10 bar' });
  await dialog.getByRole('textbox', { name: 'to', exact: true }).fill('600');
  await dialog.getByRole('textbox', { name: 'to', exact: true }).press('Tab');
  await dialog.getByRole('textbox', { name: 'Terminal 3, marking' }).fill('9');
  await expect(dialog.getByRole('alert')).toContainText('terminal 3 does not exist');
  await expect(dialog.getByRole('button', { name: 'Keep this kind' })).toBeDisabled();
  await dialog.getByRole('textbox', { name: 'Terminal 3, marking' }).fill('3');
  await dialog.getByRole('button', { name: 'Keep this kind' }).click();
  await expect(work).toContainText('0.0 kPa to 600.0 kPa gauge');
  await work.getByRole('button', { name: 'Keep the part in my library' }).click();
  await expect(work).toContainText('Kept in the library.');
  await page.goto('/library');
  await expect(page.getByRole('button', { name: /^Edit Oil pressure sensor, 10 bar/ })).toBeVisible();
});

test('a setting of the ECU that is not the part is told, and taken back by its remedy', async ({ page }) => {
  const id = await openDemo(page);
  await page.goto(`/build/${id}/survey/sensing`);
  await page
    .getByRole('navigation', { name: 'Sensors' })
    .getByRole('button', { name: /^Manifold pressure/ })
    .click();
  await choose(page, /The ECU is set to/, 'manifold pressure sensor, 4 bar absolute');
  await expect(page.locator('#work')).toContainText('It would show 100.0 kPa too much at 300.0 kPa');
  await expect(await findings(page)).toContainText('ECU set to another calibration');
  await page.getByRole('button', { name: 'The ECU is set to the part now' }).click();
  await expect(await findings(page)).not.toContainText('ECU set to another calibration');
  await page
    .getByRole('navigation', { name: 'Sensors' })
    .getByRole('button', { name: /^Coolant/ })
    .click();
  await page.getByRole('textbox', { name: /Resistor fitted outside/ }).fill('2490');
  await page.getByRole('textbox', { name: /Resistor fitted outside/ }).press('Tab');
  await expect(await findings(page)).toContainText('Two pull-ups on one sensor');
  await page.getByRole('button', { name: 'Remove the outside one' }).click();
  await expect(await findings(page)).not.toContainText('Two pull-ups');
});

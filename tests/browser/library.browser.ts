import { readFileSync } from 'node:fs';
import { choose, expect, openDemo, ready, test } from './support';

test('the library: a catalog kind is copied and changed, offered first, exported and imported', async ({ page }) => {
  await page.goto('/library');
  await ready(page);
  await page.getByRole('textbox', { name: 'Search' }).fill('oil temperature');
  await page.getByRole('button', { name: 'Copy and change Oil temperature, NTC' }).click();
  const dialog = page.getByRole('dialog', { name: 'A kind of your own' });
  await dialog.getByRole('textbox', { name: 'Name', exact: true }).fill('');
  await expect(dialog.getByRole('button', { name: 'Keep this kind' })).toBeDisabled();
  await dialog.getByRole('textbox', { name: 'Name', exact: true }).fill('Sump sender from the spare engine');
  await dialog.getByRole('textbox', { name: 'Resistance 1' }).fill('1500');
  await dialog.getByRole('textbox', { name: 'Resistance 1' }).press('Tab');
  await dialog.getByRole('button', { name: 'Keep this kind' }).click();
  await expect(page.getByText('1 kind kept in the library.')).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export yours' }).click();
  const bytes = readFileSync((await (await download).path())!);
  await page.getByRole('button', { name: 'Remove Sump sender from the spare engine' }).click();
  await expect(page.getByText('None yet.')).toBeVisible();
  const importer = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import kinds' }).click();
  await (await importer).setFiles({ name: 'kinds.json', mimeType: 'application/json', buffer: bytes });
  await page.getByRole('dialog').getByRole('button', { name: 'Import 1' }).click();
  await expect(page.getByRole('button', { name: 'Edit Sump sender from the spare engine' })).toBeVisible();
  const wrong = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import kinds' }).click();
  await (await wrong).setFiles({ name: 'other.json', mimeType: 'application/json', buffer: Buffer.from('{"a":1}') });
  await expect(
    page.getByRole('status').filter({ hasText: 'other.json: The file is JSON, but not a list of Gonyx kinds' }),
  ).toBeVisible();

  await openDemo(page);
  await page.getByRole('button', { name: 'Add a device' }).click();
  await page
    .getByRole('dialog')
    .getByRole('textbox', { name: /search/ })
    .fill('sump');
  await expect(page.getByRole('dialog')).toContainText('your own');
  await page.getByRole('button', { name: 'Add Sump sender from the spare engine' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Done' }).click();
  await expect(page.locator('#work')).toContainText('Sump sender from the spare engine');
});

test('a kind of one’s own from nothing: a gauge pressure sensor that reads zero at key-on', async ({ page }) => {
  await page.goto('/library');
  await ready(page);
  await page.getByRole('button', { name: 'New kind' }).click();
  const dialog = page.getByRole('dialog', { name: 'A kind of your own' });
  await dialog.getByRole('textbox', { name: 'Name', exact: true }).fill('Water pressure, bought second-hand');
  await dialog.getByRole('button', { name: 'Add a calibrated signal' }).click();
  await expect(dialog.getByRole('button', { name: /1 signal Signal comes from/ })).toBeVisible();
  await dialog.getByRole('textbox', { name: 'to', exact: true }).fill('400');
  await dialog.getByRole('textbox', { name: 'to', exact: true }).press('Tab');
  await choose(page, /Pressure of/, 'something else');
  await choose(page, /Counted from/, 'the air around: gauge');
  await dialog.getByRole('button', { name: 'Keep this kind' }).click();
  await expect(page.getByText('1 kind kept in the library.')).toBeVisible();
  const id = await openDemo(page);
  await page.getByRole('button', { name: 'Add a device' }).click();
  await page
    .getByRole('dialog')
    .getByRole('textbox', { name: /search/ })
    .fill('second-hand');
  await expect(page.getByRole('dialog')).toContainText('0.0 kPa to 400.0 kPa gauge');
  await page.getByRole('button', { name: 'Add Water pressure, bought second-hand' }).click();
  await page.goto(`/build/${id}/survey/sensing`);
  await page
    .getByRole('navigation', { name: 'Sensors' })
    .getByRole('button', { name: /^Water pressure/ })
    .click();
  await expect(page.locator('#work')).toContainText('0.0 kPa here');
});

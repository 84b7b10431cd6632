import { readFileSync } from 'node:fs';
import { choose, expect, findings, goTo, openDemo, saved, test, verdict } from './support';

test('survey: a device is renamed, rewired, found faulty, mended and removed', async ({ page }) => {
  await openDemo(page);
  const work = page.locator('#work');
  await work.getByRole('button', { name: /^Coolant/ }).click();
  await work.getByRole('textbox', { name: 'Name' }).fill('Coolant, head');
  await work.getByRole('textbox', { name: 'Name' }).press('Tab');
  await expect(work.getByRole('button', { name: /^Coolant, head/ })).toBeVisible();
  await choose(page, /Where terminal 2 goes/, 'chassis');
  await expect(await findings(page)).toContainText('Sensor grounded to the body');
  await goTo(page, 'Feeds');
  await (await findings(page)).getByRole('button', { name: 'Use the ECU sensor ground' }).click();
  await expect(await findings(page)).not.toContainText('Sensor grounded to the body');
  await goTo(page, 'Survey');
  await page.locator('#work').getByRole('button', { name: 'Remove Coolant, head' }).click();
  await expect(verdict(page)).toContainText('36 devices');
  await page.keyboard.press('Control+z');
  await expect(verdict(page)).toContainText('37 devices');
});

test('survey: the engine form says ranges, and keeps what is whole', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Change the engine' }).click();
  const dialog = page.getByRole('dialog', { name: 'The engine' });
  await dialog.getByRole('textbox', { name: 'Firing order' }).fill('1-2-4-5');
  await expect(dialog.getByText(/each cylinder once, from 1 to 5/)).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Use this engine' })).toBeDisabled();
  await dialog.getByRole('textbox', { name: 'Firing order' }).fill('1-3-5-4-2');
  await dialog.getByRole('button', { name: 'Use this engine' }).click();
  await expect(page.locator('#work')).toContainText('1-3-5-4-2 over 720°');
});

test('survey: another ECU clears the pins, and the rest is allotted on it', async ({ page }) => {
  await openDemo(page);
  await choose(page, /^Orrery 48 Model|Model/, /Orrery 94/);
  await expect(await findings(page)).toContainText('38 needs without a pin');
  await goTo(page, 'Allot');
  await page.locator('header').getByRole('button', { name: 'Allot the rest' }).click();
  await expect(verdict(page)).toContainText('38 of 38 needs placed');
  await expect(page.getByRole('group', { name: 'Connector C, wire side' })).toBeVisible();
});

test('allot: a need no pin can serve is named with its reason', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Add a device' }).first().click();
  const dialog = page.getByRole('dialog', { name: 'Add a device' });
  await dialog.getByRole('textbox', { name: /search/ }).fill('boost');
  await dialog.getByRole('button', { name: 'Add Boost solenoid, three-port' }).click();
  await dialog.getByRole('button', { name: 'Done' }).click();
  await goTo(page, 'Allot');
  await page.locator('header').getByRole('button', { name: 'Allot the rest' }).click();
  await expect(verdict(page)).toContainText('1 open');
  await page.getByRole('button', { name: 'Why not?' }).click();
  await expect(page.getByRole('dialog')).toContainText(
    /13 needs compete for 12 pins \(A1, A2, .*Ways out, cheapest first/,
  );
});

test('trigger: a wheel the ECU cannot decode, then one it can; the light moves the offset', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Trigger');
  await choose(page, /On the crank/, /70° and 110°/);
  await expect(verdict(page)).toContainText('has no decoder');
  await expect(await findings(page)).toContainText('This ECU does not decode the wheel');
  await choose(page, /On the crank/, '36 places, 1 missing');
  await expect(verdict(page)).toContainText('knows the place in the whole cycle');
  await choose(page, /On the cam/, 'No cam signal');
  await expect(await findings(page)).toContainText('Sequential without phase');
  await page.getByRole('button', { name: 'Inject in pairs instead' }).click();
  await page.getByRole('button', { name: 'Close the findings' }).click();
  await page.getByRole('textbox', { name: 'Light shows' }).fill('14');
  await expect(page.getByText('too early: new offset')).toContainText('88.0°');
  await page.getByRole('button', { name: 'Use 88.0° and read the light again' }).click();
  await page.getByRole('textbox', { name: 'Light shows' }).fill('10.5');
  await page.getByRole('button', { name: 'Record this reading' }).click();
  await expect(verdict(page)).toContainText('Offset confirmed by light.');
});

test('trigger: a light a full turn out is told as the phase', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Trigger');
  await page.getByRole('textbox', { name: 'Light shows' }).fill('370');
  await expect(page.getByText(/A full turn out/)).toBeVisible();
  await expect(page.getByRole('button', { name: /read the light again|Record/ })).toBeDisabled();
});

test('feeds: a wire too thin is found and derived again; the relay’s diode has a direction', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Feeds');
  await page.getByRole('link', { name: 'Table' }).click();
  await page.getByRole('button', { name: 'Fan 1' }).first().click();
  await choose(page, /Trunk wire/, '1 mm²');
  await expect(await findings(page)).toContainText('Fuse above what the wire carries');
  await page.getByRole('button', { name: 'Derive fuse and wire' }).click();
  await expect(await findings(page)).not.toContainText('Fuse above what the wire carries');
  await page.getByText('with diode', { exact: true }).click();
  await page.getByText('reversed', { exact: true }).click();
  await expect(await findings(page)).toContainText('Suppressed relay reversed');
  await page.getByRole('button', { name: 'Wire 86 to supply' }).click();
  await expect(await findings(page)).not.toContainText('Suppressed relay reversed');
  await page.getByRole('button', { name: /^85: A7/ }).click();
  await expect(page.getByLabel('The run', { exact: true })).toContainText('A7');
});

test('feeds: the pump by key is a stop, with its remedy', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Feeds');
  await page.getByRole('link', { name: 'Table' }).click();
  await page.getByRole('button', { name: 'Fuel pump' }).first().click();
  await page.getByRole('radiogroup', { name: 'Switched by' }).getByText('key', { exact: true }).click();
  await expect(await findings(page)).toContainText('Pump runs on with the engine stopped');
  await page.getByRole('button', { name: 'Let the ECU switch it' }).click();
  await expect(await findings(page)).not.toContainText('Pump runs on');
});

test('loom: slack changes every length; the cut list as a file matches the sheet', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Loom');
  await page.getByRole('link', { name: 'Cut list', exact: true }).click();
  const slack = page.getByRole('textbox', { name: 'Slack on each wire' });
  await slack.fill('0.3');
  await slack.press('Tab');
  await expect(verdict(page)).toContainText('215.72 m to cut');
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Cut list as CSV' }).click(),
  ]);
  const lines = readFileSync((await file.path())!, 'utf8')
    .trim()
    .split('\r\n');
  expect(lines).toHaveLength(227);
  expect(lines[0]).toMatch(/^from,to,mm2,colour,metres,cable,loom,way,/);
  await page.getByRole('button', { name: /^Wire 1: / }).click();
  await expect(page.getByLabel('The run', { exact: true })).toContainText('chassis ground');
  await choose(page, /Order of work/, 'Shortest first');
  await expect(page.getByRole('button', { name: /^Wire 1: / })).toBeVisible();
  await choose(page, /Covering/, /Sealed/);
  await expect(await findings(page)).toContainText('Sealed sleeve');
});

test('prove: a wrong reading is shown among the wrong, read again and cleared', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Prove');
  await page.getByText('wrong 1').click();
  await page.getByRole('group', { name: 'Tests' }).getByRole('button').filter({ hasText: '3.4' }).click();
  await expect(page.locator('#work').getByText(/High: 3\.4/)).toBeVisible();
  const box = page.getByRole('textbox', { name: /Reading for/ });
  await box.fill('99999999');
  await expect(box).not.toHaveValue('99999999');
  await box.fill('0,2');
  await expect(page.getByText('Right. This wire is whole.')).toBeVisible();
  await page.getByRole('button', { name: 'Next', exact: true }).click();
  await expect(verdict(page)).toContainText('37 of 226 wires proved');
  await expect(verdict(page)).not.toContainText('wrong');
});

test('prove: an edit drops the proof of its wire, in sight', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Allot');
  await page.getByRole('row', { name: /^Fan 1 relay/ }).click();
  await page.getByRole('button', { name: /^A8, / }).first().click();
  await goTo(page, 'Prove');
  // Two wires moved: both continuities and every isolation reading taken against them.
  await expect(page.getByText(/^9 readings have lost their wire$/)).toBeVisible();
  await expect(verdict(page)).toContainText('34 of 226 wires proved');
  await expect(await findings(page)).toContainText('Wire changed since it was proved');
  await page.getByRole('button', { name: 'Drop them' }).click();
  await expect(page.getByText(/have lost their wire/)).toBeHidden();
});

test('fire up: a shut gate takes no confirmation, and says why it is shut', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Fire up');
  await expect(page.getByText(/This gate is shut: 190 wires are not proved/)).toBeVisible();
  await expect(page.getByRole('checkbox', { name: /Every terminal pulled/ })).toBeDisabled();
  await page
    .getByRole('button', { name: /^Timing read/ })
    .or(page.getByRole('listitem').filter({ hasText: 'Timing read' }).getByRole('button'))
    .first()
    .click();
  await expect(page.getByRole('heading', { name: 'Timing read' })).toBeVisible();
  await expect(page.getByText('Fuel still off.')).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Light shows' })).toBeVisible();
});

test('findings: a press selects the place and goes to its sheet; the source is at hand', async ({ page }) => {
  await openDemo(page);
  const panel = await findings(page);
  await panel.getByRole('button', { name: 'Source' }).first().click();
  await expect(panel.getByText(/Source: Variants of one sensor exist/)).toBeVisible();
  await panel.getByRole('button', { name: /No flyback path on a relay/ }).click();
  await expect(page).toHaveURL(/feeds/);
  await expect(page.getByLabel('The run', { exact: true })).toContainText('Main feed relay · 85');
  await saved(page);
});

test('a value out of its range says the range and is not taken', async ({ page }) => {
  await openDemo(page);
  const altitude = page.getByRole('textbox', { name: 'Altitude' });
  await altitude.fill('9000');
  await altitude.press('Tab');
  await expect(page.getByText('Give -430 to 6000 m.')).toBeVisible();
  await expect(page.getByText(/Barometer 96\.5 kPa/)).toBeVisible();
  await altitude.fill('1000');
  await altitude.press('Tab');
  await expect(page.getByText('Give -430 to 6000 m.')).toBeHidden();
  await expect(page.getByText(/Barometer 89\.9 kPa/)).toBeVisible();
});

test('prove: a beep is kept as a beep, not as a figure', async ({ page }) => {
  await openDemo(page);
  await goTo(page, 'Prove');
  await page.getByRole('textbox', { name: /Reading for/ }).press('ArrowDown');
  const box = page.getByRole('textbox', { name: /Reading for A15 to Coil 5/ });
  await box.press('b');
  await expect(page.getByText('Right. This wire is whole.')).toBeVisible();
  await box.press('Enter');
  await page.getByText('all', { exact: true }).click();
  await page
    .getByRole('group', { name: 'Tests' })
    .getByRole('button')
    .filter({ hasText: 'Coil 5 · C' })
    .first()
    .click();
  await expect(page.getByLabel('The run', { exact: true })).toContainText('a beep, no figure');
});

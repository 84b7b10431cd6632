import { expect, findings, goTo, openDemo, saved, test } from './support';

test('feet, gauges and horsepower by one setting, in and out; wire of the other series is a choice of its own', async ({
  page,
}) => {
  await openDemo(page);
  await page.getByText('feet, AWG, hp', { exact: true }).click();
  await goTo(page, 'Loom');
  await page.getByRole('link', { name: 'Cut list', exact: true }).click();
  const list = page.getByRole('table').filter({ hasText: 'colour' });
  await expect(list.getByRole('row').nth(1)).toContainText('4 mm² (10 AWG)');
  await expect(list.getByRole('row').nth(1)).toContainText(/\d ft/);
  const slack = page.getByLabel('Slack on each wire');
  await expect(slack).toHaveValue('4 in');
  await slack.fill('half a foot');
  await slack.press('Enter');
  await expect(page.getByText('Write it as 4 ft 11 in, 0 in to 6 ft 6½ in.')).toBeVisible();
  await slack.fill(`0' 6 1/2"`);
  await slack.press('Enter');
  await expect(slack).toHaveValue('6½ in');
  await page.getByText('AWG', { exact: true }).click();
  await expect(list.getByRole('row').nth(1)).toContainText(/1[02] AWG/);
  await expect(list.getByRole('row').nth(1)).not.toContainText('mm²');
  await saved(page);
  await page.reload();
  await expect(slack).toHaveValue('6½ in');
  await goTo(page, 'Survey');
  await page.getByRole('link', { name: 'Fuel and spark' }).click();
  const goal = page.getByLabel('Power goal at the crank');
  await goal.fill('400');
  await goal.blur();
  await expect(page.getByText(/the goal is 400 hp/)).toBeVisible();
  await expect(page.getByText(/lb\/h/).first()).toBeVisible();
});

test('road speed: gears and tyre give what the ECU is told, a moved sensor its factor, and a gauge on its wire is found', async ({
  page,
}) => {
  await openDemo(page);
  await page.getByRole('link', { name: 'Road speed' }).click();
  await page.getByRole('button', { name: 'Tell the gears and the tyre' }).click();
  await expect(page.getByText('8509 pulses a km').first()).toBeVisible();
  await page.getByRole('checkbox', { name: 'It has moved to another shaft or gearbox' }).click({ force: true });
  const before = page.getByLabel('Pulses a turn of its shaft').last();
  await before.fill('1');
  await before.blur();
  await expect(page.getByText('4.00 times')).toBeVisible();
  await page.getByRole('button', { name: 'Add a gauge' }).click();
  await page.getByText('the sensor', { exact: true }).click();
  await expect(page.getByText(/so it reads 3.42 times the speed/)).toBeVisible();
  const panel = await findings(page);
  await expect(panel.getByText(/50 km\/h shows as 171 km\/h/)).toBeVisible();
  await panel.getByRole('button', { name: 'Feed it from an output of the ECU' }).click();
  await expect(page.getByText('Set the ECU’s output to 2485 a km: 69 Hz at 100 km/h.')).toBeVisible();
  await panel.getByRole('button', { name: /^Scale it to/ }).click();
  await expect(panel.getByText('Speed sensor scaled for another shaft')).toBeHidden();
});

test('two injectors hang on one output: joined by hand, told where they are worked apart, and parted again', async ({
  page,
}) => {
  await openDemo(page);
  await page
    .getByRole('button', { name: /^Injector 2/ })
    .first()
    .click();
  const output = page.getByRole('button', { name: /Output$/ });
  await output.click();
  await page.getByRole('option', { name: /with Injector 1/ }).click();
  await goTo(page, 'Allot');
  const panel = await findings(page);
  await expect(panel.getByText('On one output, and not worked together')).toBeVisible();
  await expect(page.getByText('Injector 1 + 2').first()).toBeVisible();
  await panel.getByRole('button', { name: 'Give each an output of its own' }).click();
  await expect(panel.getByText('On one output, and not worked together')).toBeHidden();
});

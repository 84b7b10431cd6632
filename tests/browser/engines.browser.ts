import { choose, expect, findings, goTo, ready, test, verdict } from './support';

test('two rotors, four coils, staged injectors: from an empty sheet to no stop, and a crossed pair of plugs is told', async ({
  page,
}) => {
  test.setTimeout(180_000);
  await page.goto('/new');
  await ready(page);
  await page.getByRole('textbox', { name: 'Name of the build' }).fill('Hill rotary');
  await choose(page, /Start from/, /Two-rotor/);
  await expect(page.getByRole('textbox', { name: 'Trailing after leading' })).toHaveValue('10');
  await page.getByText('Orrery 94').first().click();
  await expect(page.getByText(/4 × injector.*4 × coil/)).toBeVisible();
  await expect(page.getByText('✓ All 15 needs have a pin.').first()).toBeVisible();
  await page.getByRole('button', { name: 'Make the build' }).click();
  await page.waitForURL(/survey/);
  await page.getByText('Coil T1').first().click();
  await expect(page.getByRole('button', { name: /trailing Plug/ })).toBeVisible();

  await goTo(page, 'Allot');
  await page.locator('header').getByRole('button', { name: 'Allot the rest' }).click();
  await expect(verdict(page)).toContainText('15 of 15 needs placed');
  await goTo(page, 'Trigger');
  await choose(page, /On the crank/, '36 places, 2 missing');
  await expect(page.getByRole('group', { name: /Events over 360/ })).toContainText('out 1+3');
  await expect(await findings(page)).not.toContainText(/ stop/);
  await page.keyboard.press('Escape');

  // The trailing plug of rotor 1 answers as such; its leading one in its place is wrong.
  await goTo(page, 'Prove');
  const order = page.getByRole('button', { name: /Coil T1 · C.*rotor 1t/ });
  await order.click();
  const reading = page.getByRole('textbox', { name: /Reading for Ignition output 3/ });
  await expect(page.getByText('rotor 1, trailing', { exact: true })).toBeVisible();
  await reading.press('1');
  await expect(page.getByText(/Rotor 1 answered, rotor 1, trailing was meant/)).toBeVisible();
  await reading.press('t');
  await expect(page.getByText(/Right. Rotor 1, trailing, answers/)).toBeVisible();
  await reading.press('Enter');
  await expect(verdict(page)).toContainText(/1 of \d+ readings taken/);
});

test('a V6 with three shared coils: pairs are proposed, and one that is served twice is told', async ({ page }) => {
  await page.goto('/new');
  await ready(page);
  await page.getByRole('textbox', { name: 'Name of the build' }).fill('Harbour launch');
  await choose(page, /Start from/, /V6 of 60/);
  await page.getByText('Wasted', { exact: true }).click();
  await page.getByText('Orrery 48').first().click();
  await expect(page.getByText(/3 × wasted-spark coil/)).toBeVisible();
  await expect(page.getByTestId('fit')).toHaveCount(3);
  await page.getByRole('button', { name: 'Make the build' }).click();
  await page.waitForURL(/survey/);
  await goTo(page, 'Allot');
  await page.locator('header').getByRole('button', { name: 'Allot the rest' }).click();
  await expect(verdict(page)).toContainText(/(\d+) of \1 needs placed/);
  await goTo(page, 'Survey');
  await page
    .getByText(/^Wasted-spark coil 1\+4$/)
    .first()
    .click();
  const field = page.getByRole('button', { name: /Cylinders$/ });
  await expect(field).toContainText('1 and 4');
  await expect(await findings(page)).not.toContainText(/OE-/);
  await page.keyboard.press('Escape');
  await field.click();
  await page.getByRole('option', { name: /^2 and 5/ }).click();
  const panel = await findings(page);
  await expect(panel).toContainText('No coil serves cylinders 1 and 4');
  await expect(panel).toContainText('More than one coil serves cylinders 2 and 5');
});

test('dash and wideband share the one pair of an ECU, in the order of the trunk', async ({ page }) => {
  await page.goto('/new');
  await ready(page);
  await page.getByRole('textbox', { name: 'Name of the build' }).fill('One bus');
  await page.getByText('Orrery 48').first().click();
  await page.getByText('Put the usual parts on the list').click();
  await page.getByRole('button', { name: 'Make the build' }).click();
  await page.waitForURL(/survey/);
  await page.getByRole('button', { name: 'Add the first device' }).click();
  const dialog = page.getByRole('dialog', { name: 'Add a device' });
  for (const name of ['Dash on CAN', 'Wideband']) {
    await dialog.getByRole('textbox', { name: /search/ }).fill(name === 'Wideband' ? 'wideband CAN' : 'dash CAN 500');
    await dialog
      .getByRole('button', { name: new RegExp(`^Add .*${name === 'Wideband' ? 'CAN' : 'ash'}`) })
      .first()
      .click();
  }
  await dialog.getByRole('button', { name: 'Done' }).click();
  // Each has a heater or a feed of its own; of the pair there is one.
  await expect(verdict(page)).toContainText('2 devices with 2 needs');
  await goTo(page, 'Allot');
  await page.locator('header').getByRole('button', { name: 'Allot the rest' }).click();
  await expect(verdict(page)).toContainText('2 of 2 needs placed');
  await goTo(page, 'Survey');
  await page
    .locator('#work')
    .getByText(/^Wideband/)
    .first()
    .click();
  await expect(page.getByRole('button', { name: /Bus$/ })).toContainText('CAN 1');
  const place = page.getByRole('button', { name: /Place on the trunk$/ });
  await expect(place).toContainText('2 of 2');
  // The dash ends the bus by its own resistor: the wideband stands before it.
  await expect(await findings(page)).toContainText(/BB-5/);
  await page.keyboard.press('Escape');
  await place.click();
  await page.getByRole('option', { name: /^1 of 2/ }).click();
  await expect(await findings(page)).not.toContainText(/BB-5/);
});

test('a single without a cam and with a kill switch: from an empty sheet to no stop; each wrong wire is told', async ({
  page,
}) => {
  await page.goto('/new');
  await ready(page);
  await page.getByRole('textbox', { name: 'Name of the build' }).fill('Sidecar single');
  await choose(page, /Start from/, /^Single/);
  await page.getByText('Wasted', { exact: true }).click();
  await choose(page, /Injection/, /In pairs/);
  await page.getByRole('radiogroup', { name: 'Charging' }).getByText('none').click();
  await expect(page.getByRole('img', { name: /1 cylinders over 720/ })).toBeVisible();
  await page.getByRole('button', { name: 'Make the build' }).click();
  await page.waitForURL(/survey/);
  await page.getByRole('button', { name: 'Add a device' }).first().click();
  const dialog = page.getByRole('dialog', { name: 'Add a device' });
  await dialog.getByRole('textbox', { name: /search/ }).fill('kill switch');
  await dialog
    .getByRole('button', { name: /^Add .*ill switch/ })
    .first()
    .click();
  await dialog.getByRole('button', { name: 'Done' }).click();
  await goTo(page, 'Trigger');
  await choose(page, /On the crank/, '24 places, 1 missing');
  await goTo(page, 'Allot');
  await page.locator('header').getByRole('button', { name: 'Allot the rest' }).click();
  await expect(verdict(page)).toContainText(/(\d+) of \1 needs placed/);
  const panel = await findings(page);
  await expect(panel).not.toContainText(/ stop/);
  // The battery lives on what it holds, and that is told in minutes or hours.
  await expect(panel).toContainText('Nothing charges the battery');
  await page.keyboard.press('Escape');
  // Both states of the switch are asked for at the gate, and at the first fire that it stops the engine.
  await goTo(page, 'Fire up');
  await page.getByRole('button', { name: /Sensors sane/ }).click();
  await expect(page.getByRole('textbox', { name: /^Kill switch.* held closed$/ })).toBeVisible();
  await page.getByRole('button', { name: /First fire/ }).click();
  await expect(page.getByRole('checkbox', { name: /^Kill switch stops the engine/ })).toBeVisible();
});

test('another answer about the engine says first what it brings, and brings it in one step', async ({ page }) => {
  await page.goto('/new');
  await ready(page);
  await page.getByRole('textbox', { name: 'Name of the build' }).fill('Shed four');
  await page.getByText('Orrery 48').first().click();
  await page.getByRole('button', { name: 'Make the build' }).click();
  await page.waitForURL(/survey/);
  await page.getByRole('button', { name: 'Change the engine' }).click();
  const dialog = page.getByRole('dialog', { name: 'The engine' });
  await dialog.getByText('Wasted', { exact: true }).click();
  const follows = dialog.getByRole('status', { name: 'What follows' });
  await expect(follows).toContainText(/adds.*1\+4.*2\+3/);
  await expect(follows).toContainText(/drops.*Coil 1.* Coil 4/);
  // A V asks for its angle, proposes an order, and is drawn bank by bank.
  await choose(page, /They lie/, 'in a V');
  await expect(dialog.getByRole('textbox', { name: 'Angle of the V' })).toHaveValue('90');
  await choose(page, /Numbered/, '1-2 / 3-4');
  await expect(dialog.getByRole('textbox', { name: 'Firing order' })).toHaveValue('1-3-2-4');
  await expect(dialog.getByText('bank 2')).toBeVisible();
  await dialog.getByRole('button', { name: 'Use this engine' }).click();
  await expect(
    page
      .locator('#work')
      .getByText(/^Wasted-spark coil/)
      .first(),
  ).toBeVisible();
  await expect(page.getByText('1-3-2-4 over 720°')).toBeVisible();
  // One step back brings the four coils again.
  await page.keyboard.press('ControlOrMeta+z');
  await expect(
    page
      .locator('#work')
      .getByText(/^Coil.* 4$/)
      .first(),
  ).toBeVisible();
  await expect(page.getByText('1-3-4-2 over 720°')).toBeVisible();
});

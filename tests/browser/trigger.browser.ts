import { writeFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test, axe, goTo, openDemo, ready } from './support';
import { catalog } from '~/catalog';
import { writeCapture } from '~/core/trigger/capture/read';
import { seeded, synth } from '~/core/trigger/synth';
import { missingToothWheel } from '~/core/wheels/wheel';

const wheel = (id: string) =>
  catalog.wheels.find((one) => one.id === id) ?? missingToothWheel(...(id.split('-').map(Number) as [number, number]));
const made = (id: string, rate = 40_000, seconds = 2) =>
  synth({
    crank: wheel(id),
    cam: wheel('cam-1'),
    camDegrees: 90,
    speed: { type: 'cranking', rpm: 230, ripple: 0.2, events: 2.5 },
    seconds,
    sampleRate: rate,
    crankSensor: { type: 'vr' },
    random: seeded(3),
  }).capture;
const csv = (id: string) => Buffer.from(writeCapture(made(id), 'csv', 40_000));

test.describe('the wheel bench', () => {
  test.beforeEach(async ({ page }) => {
    const id = await openDemo(page);
    await page.goto(`/build/${id}/trigger/bench`);
    await ready(page);
  });
  const pick = async (page: Page, name: string, buffer: Buffer | string) => {
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('button', { name: 'Open a capture' }).click(),
    ]);
    // A path for what is large: contents would have to be handed to the browser as one message.
    await chooser.setFiles(typeof buffer === 'string' ? buffer : { name, mimeType: 'text/csv', buffer });
  };

  test('a capture through the picker: wheel, settings, scope by keyboard; a bad one leaves it', async ({ page }) => {
    await pick(page, 'start.csv', csv('60-2'));
    await expect(page.getByRole('list', { name: 'Wheels by their odds' }).getByRole('listitem').first()).toContainText(
      '60 places, 2 missing',
    );
    await expect(page.getByText('✓ decodes it, full cycle')).toBeVisible();
    await expect(page.getByText('✓ No sync loss.')).toBeVisible();
    const scope = page.getByRole('group', { name: /^Scope: crank and cam/ });
    const drawn = () => scope.locator('canvas').evaluate((canvas) => (canvas as HTMLCanvasElement).toDataURL());
    const before = await drawn();
    await scope.focus();
    await page.keyboard.press('+');
    await page.keyboard.press('ArrowRight');
    expect(await drawn()).not.toBe(before);
    expect(await axe(page)).toEqual([]);
    for (const [name, text, says] of [
      ['letter.csv', 'Dear friend,\nno capture here\n', /letter\.csv: No rows of figures/],
      [
        'flat.csv',
        `Time (s),A (V)\n${Array.from({ length: 500 }, (_, i) => `${i / 1000},2.5`).join('\n')}`,
        /flat\.csv: .*stands still at 2\.50 V/,
      ],
      ['one.csv', Array.from({ length: 500 }, (_, i) => `${i % 7}`).join('\n'), /one\.csv: .*no sample interval/],
    ] as const) {
      await pick(page, name, Buffer.from(text));
      await expect(page.getByRole('alert')).toContainText(says);
      await expect(page.getByRole('alert')).toContainText('The capture before it stays.');
    }
    await expect(page.getByText('start.csv', { exact: true })).toBeVisible();
    // Another page and back: it is still on the bench.
    await page.getByRole('link', { name: 'Wheel and offset' }).click();
    await page.getByRole('link', { name: 'Bench' }).click();
    await expect(page.getByText('start.csv', { exact: true })).toBeVisible();
  });

  test('after a reload the capture is on the bench again', async ({ page }) => {
    await pick(page, 'kept.csv', csv('36-2'));
    await expect(page.getByText('kept.csv', { exact: true })).toBeVisible();
    await page.waitForTimeout(500);
    await page.reload();
    await ready(page);
    await expect(page.getByText('kept.csv', { exact: true })).toBeVisible();
    await expect(page.getByRole('list', { name: 'Wheels by their odds' })).toContainText('36 places, 2 missing');
  });

  test('Cancel ends the reading and leaves the capture before it; the next one is read', async ({ page }) => {
    await pick(page, 'first.csv', csv('60-2'));
    await expect(page.getByText('first.csv', { exact: true })).toBeVisible();
    // Large enough to be pressed in time: the same text over and over, some forty megabytes.
    const text = writeCapture(made('60-2', 200_000, 8), 'csv', 200_000);
    const large = test.info().outputPath('large.csv');
    writeFileSync(large, text);
    await pick(page, 'large.csv', large);
    await page.getByRole('button', { name: 'Cancel' }).click();
    await expect(page.getByRole('button', { name: 'Open a capture' })).toBeVisible();
    await expect(page.getByText('first.csv', { exact: true })).toBeVisible();
    await pick(page, 'second.csv', csv('36-1'));
    await expect(page.getByText('second.csv', { exact: true })).toBeVisible();
    await expect(page.getByText('large.csv', { exact: true })).toHaveCount(0);
  });

  test('a wheel no library has is learned, kept, and recognised', async ({ page }) => {
    const bytes = Buffer.from(writeCapture(made('28-2'), 'csv', 40_000));
    await pick(page, 'strange.csv', bytes);
    await page.getByRole('button', { name: 'Learn the crank wheel' }).click();
    await expect(page.getByRole('heading', { name: 'On the drawing board' })).toBeVisible();
    await expect(page.getByText('26 teeth a turn of the crank, on 28 places, a gap of 2')).toBeVisible();
    await page.getByLabel('Name', { exact: true }).fill('Wheel of the yellow engine');
    await page.getByRole('button', { name: 'Keep this wheel' }).click();
    await expect(page.getByText('Wheel of the yellow engine kept in the library.')).toBeVisible();
    await page.getByRole('link', { name: 'Bench' }).click();
    await pick(page, 'again.csv', bytes);
    await expect(page.getByRole('list', { name: 'Wheels by their odds' }).getByRole('listitem').first()).toContainText(
      'Wheel of the yellow engine',
    );
  });

  test('a suspicion shows its wires at the foot of the sheet', async ({ page }) => {
    await page.getByRole('button', { name: 'VR leads swapped' }).click();
    await expect(page.getByText("The crank sensor's two leads are swapped")).toBeVisible();
    await page
      .getByRole('button', { name: /^Crank sensor.*2$/ })
      .first()
      .click();
    await expect(page.getByRole('heading', { name: 'The run of Wall plug · 61 to Crank sensor · 2' })).toBeVisible();
  });

  test('another wheel than chosen is told, and taken by one press', async ({ page }) => {
    await pick(page, 'other.csv', csv('36-1'));
    await expect(
      page.getByText('The build says 60 places, 2 missing; the capture shows 36 places, 1 missing.'),
    ).toBeVisible();
    await page.getByRole('button', { name: 'Take the wheel of the capture' }).click();
    await goTo(page, 'Trigger');
    await expect(page.getByText('36 places, 1 missing').first()).toBeVisible();
  });

  test('a file dropped on the sheet is read', async ({ page }) => {
    const path = test.info().outputPath('dropped.csv');
    writeFileSync(path, csv('60-2'));
    const box = (await page.getByText('Put a capture on the bench').boundingBox())!;
    // As the system's file manager does it: a file of the disk, carried over the page and let go.
    const browser = await page.context().newCDPSession(page);
    for (const type of ['dragEnter', 'dragOver', 'drop'] as const) {
      await browser.send('Input.dispatchDragEvent', {
        type,
        x: box.x + 20,
        y: box.y + 10,
        data: { items: [], files: [path], dragOperationsMask: 1 },
      });
      await page.waitForTimeout(100);
    }
    await expect(page.getByText('dropped.csv', { exact: true })).toBeVisible();
    await expect(page.getByText('✓ No sync loss.')).toBeVisible();
  });

  test('the made-up captures: swapped leads and noise of the coils are named', async ({ page }) => {
    await page.getByRole('button', { name: 'VR leads swapped' }).click();
    await expect(page.getByText('The leads of the crank sensor are swapped.')).toBeVisible();
    await page.getByRole('button', { name: 'Noise of the coils' }).click();
    await expect(page.getByText(/Ignition noise: the losses keep step with the coils/)).toBeVisible();
    await expect(page.getByRole('table', { name: 'Sync losses' }).getByRole('row').nth(1)).toContainText(/pulse/);
    await page.getByRole('button', { name: 'Next loss' }).click();
  });

  test('simulated with a fault, saved and read again', async ({ page }) => {
    await page.getByRole('button', { name: 'Simulate' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Simulate' }).click();
    await expect(page.getByText('Simulated: 60 places, 2 missing', { exact: true })).toBeVisible();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'WAV' }).click(),
    ]);
    expect(download.suggestedFilename()).toMatch(/\.wav$/);
  });
});

test.describe('at 390 px', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });
  test('the bench fits', async ({ page }) => {
    const id = await openDemo(page);
    await page.goto(`/build/${id}/trigger/bench`);
    await ready(page);
    await page.getByRole('button', { name: 'A good start' }).tap();
    await expect(page.getByText('✓ No sync loss.')).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  });
});

test.describe('wheels by hand', () => {
  test.beforeEach(async ({ page }) => {
    const id = await openDemo(page);
    await page.goto(`/build/${id}/trigger/wheels`);
    await ready(page);
  });
  const first = (page: Page) => page.getByRole('listbox', { name: 'Wheels' }).getByRole('option').first();
  const fill = async (page: Page, label: string, value: string) => {
    await page.getByLabel(label, { exact: true }).fill(value);
    await page.keyboard.press('Tab');
  };

  test('counted teeth, then two frequencies, narrow the list; one press takes the wheel', async ({ page }) => {
    await fill(page, 'Teeth there', '35');
    await expect(first(page)).toContainText('36 places, 1 missing');
    await page.getByRole('button', { name: 'Clear' }).click();
    await fill(page, 'Crank signal', '65');
    await fill(page, 'Cam signal', '25');
    await expect(page.getByRole('heading', { name: 'Crank to cam, 2.60 to 1' })).toBeVisible();
    const guess = page.getByRole('table', { name: 'What the readings may be' }).getByRole('row').nth(1);
    await expect(guess).toContainText('4 a turn');
    await expect(guess).toContainText('3 pulses a cycle');
    await expect(guess).toContainText('975 rpm');
    await page.getByRole('option', { name: /^36 places, 2 missing/ }).click();
    await page.getByRole('button', { name: 'Take for the crank' }).click();
    await expect(page.getByRole('button', { name: 'The crank has it' })).toBeVisible();
    expect(await axe(page)).toEqual([]);
  });

  test('a wheel by count, by angles, by press and by keyboard; kept over a reload, exported and imported', async ({
    page,
  }) => {
    await page.getByRole('button', { name: 'New wheel' }).click();
    await page.getByRole('button', { name: 'Lay 35 teeth' }).click();
    await expect(page.getByText('35 teeth a turn of the crank, on 36 places, a gap of 1').first()).toBeVisible();
    const rim = page.getByRole('application', { name: /^Rim of the wheel, 35 teeth/ });
    await rim.focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Delete');
    await expect(page.getByText('34 teeth a turn of the crank, on 36 places, gaps of')).toBeVisible();
    // By angles: a bad one is named and the teeth stay.
    await page.getByText('by angles', { exact: true }).click();
    await page.getByLabel('Angles, in the order they pass the sensor').fill('0, 70, 18O, 250');
    await page.getByRole('button', { name: 'Take the list' }).click();
    await expect(page.getByRole('alert')).toContainText("'18O', number 3 of the list, is no angle.");
    await page.getByLabel('Angles, in the order they pass the sensor').fill('0-10; 70-80; 180-190');
    await page.getByRole('button', { name: 'Take the list' }).click();
    await expect(page.getByText('3 teeth a turn of the crank, 70°, 110°, 180° apart')).toBeVisible();
    // A press on the rim, at the middle of its left side: 90 degrees, turning clockwise.
    const board = page.getByRole('application', { name: /^Rim of the wheel, 3 teeth/ });
    const box = (await board.boundingBox())!;
    await page.mouse.click(box.x + box.width * (0.5 - 138 / 390), box.y + box.height / 2 + 60);
    await expect(page.getByRole('application', { name: /^Rim of the wheel, 4 teeth/ })).toBeVisible();
    await page.getByLabel('Leading edge').fill('250');
    await page.keyboard.press('Tab');
    await page.getByLabel('Width').fill('12');
    await page.keyboard.press('Tab');
    await expect(page.getByText('4 teeth a turn of the crank, 70°, 110°, 70°, 110° apart')).toBeVisible();
    expect(await axe(page)).toEqual([]);
    // What is on the board is there after a reload.
    await page.waitForTimeout(400);
    await page.reload();
    await ready(page);
    await expect(page.getByText('4 teeth a turn of the crank, 70°, 110°, 70°, 110° apart')).toBeVisible();
    await page.getByLabel('Name', { exact: true }).fill('Found in a barn');
    await page.getByRole('button', { name: 'Keep this wheel' }).click();
    await expect(page.getByRole('option', { name: /^Found in a barn/ })).toBeVisible();
    const [saved] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Export yours' }).click(),
    ]);
    const file = await saved.path();
    await page.getByRole('button', { name: 'Remove' }).click();
    await expect(page.getByRole('option', { name: /^Found in a barn/ })).toHaveCount(0);
    const choose = async (path: string | { name: string; mimeType: string; buffer: Buffer }) => {
      const [chooser] = await Promise.all([
        page.waitForEvent('filechooser'),
        page.getByRole('button', { name: 'Import', exact: true }).click(),
      ]);
      await chooser.setFiles(path);
    };
    await choose(file);
    await expect(page.getByRole('option', { name: /^Found in a barn/ })).toBeVisible();
    await choose({ name: 'cut.json', mimeType: 'application/json', buffer: Buffer.from('{"format":"gonyx-wh') });
    await expect(
      page.getByText('cut.json: The file is not readable JSON: it may be cut short. Nothing was changed.'),
    ).toBeVisible();
  });

  test('a wheel of two tracks: laid, kept, taken, simulated and recognised', async ({ page }) => {
    await page.getByRole('button', { name: 'New wheel' }).click();
    await page.getByText('the cam', { exact: true }).click();
    await fill(page, 'Places', '90');
    await fill(page, 'Missing', '0');
    await page.getByRole('button', { name: 'Lay 90 teeth' }).click();
    await page.getByRole('button', { name: 'Add a second track' }).click();
    await expect(page.getByText('Second track: A wheel needs at least one tooth.')).toBeVisible();
    await page.getByText('by angles', { exact: true }).click();
    await page.getByLabel('Angles, in the order they pass the sensor').fill('0-20; 90-98; 200-208');
    await page.getByRole('button', { name: 'Take the list' }).click();
    await expect(page.getByText('90 teeth a turn of the cam, and a further track: 3 teeth')).toBeVisible();
    expect(await axe(page)).toEqual([]);
    await page.getByLabel('Name', { exact: true }).fill('Disc of the quarry engine');
    await page.getByRole('button', { name: 'Keep this wheel' }).click();
    await page.getByRole('option', { name: /^Disc of the quarry engine/ }).click();
    await page.getByRole('button', { name: 'Take for the crank' }).click();
    await page.getByRole('link', { name: 'Wheel and offset' }).click();
    await page.getByRole('button', { name: /On the cam$/ }).click();
    await page.getByRole('option', { name: 'Its second track: 3 teeth' }).click();
    await page.getByRole('link', { name: 'Bench' }).click();
    await page.getByRole('button', { name: 'Simulate' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByText('optical', { exact: true }).first().click();
    await expect(dialog.getByLabel('Pull-up to')).toBeVisible();
    await dialog.getByRole('button', { name: 'Simulate' }).click();
    await expect(page.getByRole('list', { name: 'Wheels by their odds' }).getByRole('listitem').first()).toContainText(
      'Disc of the quarry engine',
    );
  });
});

test.describe('the timing light', () => {
  const read = async (page: Page, shows: string, rpm: string) => {
    await page.getByLabel('Light shows', { exact: true }).fill(shows);
    await page.getByLabel('at a speed of', { exact: true }).fill(rpm);
    await page.keyboard.press('Tab');
    const before = await page.getByRole('button', { name: /^Strike reading/ }).count();
    await page.getByRole('button', { name: 'Note the reading' }).click();
    await expect(page.getByRole('button', { name: /^Strike reading/ })).toHaveCount(before + 1);
  };

  test('offset, delay, wrong sign and phase out of a log; struck readings are gone', async ({ page }) => {
    const id = await openDemo(page);
    await page.goto(`/build/${id}/trigger/light`);
    await ready(page);
    await expect(page.getByText('No reading yet')).toBeVisible();
    await read(page, '14', '250');
    await expect(page.getByText('With 84° in use the spark comes 4° too early.')).toBeVisible();
    await expect(page.getByText('One reading tells the offset, not how steady it is.')).toBeVisible();
    // 84 counted the other way is 636; 88 is 632.
    const ways = page.getByRole('table', { name: 'Ways of counting the offset' });
    await expect(ways).toContainText('636.0°');
    await expect(ways).toContainText('632.0°');
    await page.getByRole('button', { name: 'Use 88.0°' }).click();
    await expect(page.getByText('The offset was changed to 88° since the last reading.')).toBeVisible();
    // The ECU counts the other way: the error doubles.
    await read(page, '18', '250');
    await expect(page.getByText(/this ECU counts the other way/)).toBeVisible();
    await page.getByRole('button', { name: 'Strike reading 2' }).click();
    await read(page, '10', '250');
    await expect(page.getByText('The light agrees within 1°.')).toBeVisible();
    // Later and later with speed: a delay.
    await read(page, '8.2', '3000');
    await read(page, '7.5', '4200');
    await expect(page.getByText(/^! The mark drifts later with speed: 1\d\d µs/)).toBeVisible();
    await expect(page.getByRole('img', { name: 'Light against lock over speed' })).toBeVisible();
    expect(await axe(page)).toEqual([]);
    await read(page, '370', '260');
    await expect(page.getByText('The phase of the cycle is not steady.', { exact: true })).toBeVisible();
    await page.getByRole('button', { name: 'Start a new log' }).click();
    await expect(page.getByText('No reading yet')).toBeVisible();
    await page.getByRole('button', { name: /^Undo: Start a new log/ }).click();
    await expect(page.getByRole('button', { name: 'Strike reading 5' })).toBeVisible();
  });
});

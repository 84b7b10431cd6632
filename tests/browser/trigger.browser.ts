import { writeFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test, axe, goTo, openDemo, ready } from './support';
import { catalog } from '~/catalog';
import { writeCapture } from '~/core/trigger/capture/read';
import { seeded, synth } from '~/core/trigger/synth';

const wheel = (id: string) => catalog.wheels.find((one) => one.id === id)!;
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
  const pick = async (page: Page, name: string, buffer: Buffer) => {
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('button', { name: 'Open a capture' }).click(),
    ]);
    await chooser.setFiles({ name, mimeType: 'text/csv', buffer });
  };

  test('a capture through the picker: wheel, settings, scope by keyboard; a bad one leaves it', async ({ page }) => {
    await pick(page, 'start.csv', csv('60-2'));
    await expect(page.getByRole('list', { name: 'Wheels by score' }).getByRole('listitem').first()).toContainText(
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

// npm run shots: one current picture of each main view, from the demo build, into docs/screenshots.
import path from 'node:path';
import { chromium as browserType } from '@playwright/test';
import { chromium } from './chromium.mjs';
import { ensureBuild, ensureChromium, root } from './setup.mjs';

ensureChromium();
ensureBuild();
process.env.GONYX_DEMO = '1';
const { serve } = await import('./serve.mjs');
const server = await serve(0);
const base = `http://127.0.0.1:${server.address().port}`;
const browser = await browserType.launch({ executablePath: chromium, args: ['--no-sandbox', '--disable-gpu'] });

async function shoot(name, route, { width = 1280, height = 800, theme = 'paper', act } = {}) {
  const context = await browser.newContext({ viewport: { width, height }, locale: 'en-GB', timezoneId: 'UTC' });
  await context.addCookies([{ name: 'gonyx-theme', value: theme, url: base }]);
  const page = await context.newPage();
  await page.goto(base);
  await page.getByRole('link', { name: /Pellworth/ }).waitFor();
  await page.goto(base + route);
  await page.waitForSelector('html[data-ready]');
  await page.getByRole('heading', { level: 1 }).waitFor();
  // The sheet itself, not the page that stands in while the build is read.
  await page.getByText('Opening the build…').waitFor({ state: 'hidden' });
  if (act) await act(page);
  await page.waitForTimeout(600);
  await page.screenshot({ path: path.join(root, 'docs/screenshots', `${name}.png`) });
  await context.close();
}

const sheet = (name) => `/build/demo-pellworth/${name}`;
await shoot('garage', '/');
await shoot('1-survey', sheet('survey'), {
  act: (page) =>
    page
      .getByRole('button', { name: /^Crank sensor/ })
      .first()
      .click(),
});
await shoot('1-survey-identify', sheet('survey/identify'));
await shoot('1-survey-donor', sheet('survey/donor'), {
  act: (page) => page.getByRole('grid').getByRole('row').nth(3).click(),
});
await shoot('1-survey-sensing', sheet('survey/sensing'), {
  act: (page) =>
    page
      .getByRole('navigation', { name: 'Sensors' })
      .getByRole('button', { name: /^Manifold/ })
      .click(),
});
await shoot('1-survey-fuel-night', sheet('survey/fuel'), { theme: 'night' });
await shoot('2-allot', sheet('allot'), { act: (page) => page.getByRole('button', { name: /^A13,/ }).first().click() });
await shoot('2-allot-pinning-phone', sheet('allot/pinning'), { width: 390, height: 844 });
await shoot('2-allot-editor', '/library/ecus', {
  act: async (page) => {
    await page.getByRole('button', { name: 'Copy and change Orrery 48' }).click();
    await page.getByRole('tab', { name: 'Faces' }).click();
  },
});
await shoot('3-trigger', sheet('trigger'));
await shoot('3-trigger-bench-night', sheet('trigger/bench'), {
  theme: 'night',
  act: async (page) => {
    await page.getByRole('button', { name: 'Noise of the coils' }).click();
    await page.getByText('Which wheel is it?').waitFor();
  },
});
await shoot('3-trigger-wheels', sheet('trigger/wheels'), {
  act: async (page) => {
    await page.getByRole('option', { name: /^36 places, three gaps of two/ }).click();
    await page.getByRole('button', { name: 'Copy and change' }).click();
    await page.getByRole('heading', { name: 'On the drawing board' }).waitFor();
  },
});
await shoot('3-trigger-light', sheet('trigger/light'), {
  act: async (page) => {
    for (const [shows, rpm] of [
      [14, 250],
      [13.8, 260],
      [13.1, 900],
      [11.4, 2600],
    ]) {
      await page.getByLabel('Light shows', { exact: true }).fill(String(shows));
      await page.getByLabel('at a speed of', { exact: true }).fill(String(rpm));
      await page.keyboard.press('Tab');
      await page.getByRole('button', { name: 'Note the reading' }).click();
      await page
        .getByRole('cell', { name: `${shows.toFixed(1)}°` })
        .first()
        .waitFor();
    }
    await page.getByRole('img', { name: 'Light against lock over speed' }).waitFor();
  },
});
await shoot('4-feeds', sheet('feeds'));
await shoot('5-loom', sheet('loom'));
await shoot('6-prove', sheet('prove'), {
  act: (page) => page.getByRole('textbox', { name: /Reading for/ }).press('o'),
});
await shoot('7-fire-up', sheet('fire-up'));
await shoot('8-trace', sheet('trace'), {
  act: async (page) => {
    await page.getByRole('button', { name: /Symptom/ }).click();
    await page.getByRole('option', { name: 'Fan 1 does not work' }).click();
    const form = page.locator('form').first();
    for (const [value, next] of [
      ['11.9', /Fan 1 fuse, load side/],
      ['0.15', /Fan 1 fuse, source side/],
    ]) {
      await form.getByRole('textbox').fill(value);
      await form.getByRole('button', { name: 'Enter' }).click();
      await form.filter({ hasText: next }).waitFor();
    }
    await page
      .getByText(/this fault gives/)
      .first()
      .waitFor();
  },
});
await shoot('9-book', sheet('book'));
await browser.close();
server.close();

import path from 'node:path';
import { chromium as browserType } from '@playwright/test';
import { chromium } from './chromium.mjs';
process.env.GONYX_DEMO = '1';
const { serve } = await import('./serve.mjs');
const server = await serve(0);
const base = `http://127.0.0.1:${server.address().port}`;
const browser = await browserType.launch({ executablePath: chromium, args: ['--no-sandbox', '--disable-gpu'] });
export async function shoot(name, route, { width = 1280, height = 800, theme = 'paper', act, print } = {}) {
  const context = await browser.newContext({ viewport: { width, height }, locale: 'en-GB', timezoneId: 'UTC' });
  await context.addCookies([{ name: 'gonyx-theme', value: theme, url: base }]);
  const page = await context.newPage();
  page.on('console', (m) => m.type() === 'error' && console.log('console', m.text().slice(0, 300)));
  await page.goto(base);
  await page.getByRole('link', { name: /Pellworth/ }).waitFor();
  await page.goto(base + route);
  await page.waitForSelector('html[data-ready]');
  await page.getByRole('heading', { level: 1 }).waitFor();
  await page.getByText('Opening the build…').waitFor({ state: 'hidden' });
  if (act) await act(page);
  await page.waitForTimeout(900);
  if (print) await page.emulateMedia({ media: 'print' });
  await page.screenshot({ path: `/tmp/w/${name}.png`, fullPage: !!print });
  await context.close();
}
const jobs = (await import('/tmp/w/jobs.mjs')).default;
for (const job of jobs) { try { await shoot(...job); } catch (e) { console.log(job[0], String(e).slice(0, 300)); } }
await browser.close(); server.close(); process.exit(0);

import { defineConfig } from '@playwright/test';
import { chromium } from './scripts/chromium.mjs';

const PORT = Number(process.env.GONYX_TEST_PORT ?? 4190);

/** The real interface in Debian's Chromium, against the production build. */
export default defineConfig({
  testDir: 'tests/browser',
  testMatch: '**/*.browser.ts',
  outputDir: '.cache/playwright',
  // Bounds for what hangs, not measures of speed: on a busy machine a worker's answer may take many times as long.
  timeout: 120_000,
  expect: { timeout: 30_000 },
  workers: 2,
  fullyParallel: true,
  retries: 0,
  forbidOnly: Boolean(process.env.CI),
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    timezoneId: 'UTC',
    locale: 'en-GB',
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: chromium,
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  webServer: {
    command: 'node scripts/serve.mjs',
    env: { PORT: String(PORT) },
    url: `http://127.0.0.1:${PORT}/`,
    reuseExistingServer: false,
    stdout: 'ignore',
  },
});

import type { Browser, Page } from '@playwright/test';
import { seeded } from '~/core/trigger/synth';
import { exported, openTwin, pause } from './browser';
import { differences, randomAct, sameSeen } from './edits';

export interface WritesAnswer {
  readonly tried: number;
  /** Of these, how often the session came as far as the write that was to fail. */
  readonly failed: number;
  readonly lost: readonly string[];
  readonly uncaught: readonly string[];
}

/** From here on the n-th write of the page fails, once: thrown, or aborted by the store. */
const failWrite = (page: Page, n: number, how: 'throw' | 'abort') =>
  page.evaluate(
    ([at, kind]) => {
      const { put } = IDBObjectStore.prototype;
      let count = 0;
      Object.assign(IDBObjectStore.prototype, {
        put(this: IDBObjectStore, ...args: Parameters<typeof put>) {
          count += 1;
          if (count !== at) return put.apply(this, args);
          Object.assign(window, { aWriteFailed: true });
          if (kind === 'throw') throw new DOMException('full', 'QuotaExceededError');
          const request = put.apply(this, args);
          this.transaction.abort();
          return request;
        },
      });
    },
    [n, how] as const,
  );

/**
 * For every n, the n-th write of a session fails. Memory is the truth: in the end, when writes work again, the device must hold
 * what the person saw last, and in between nothing may be thrown.
 */
export async function failingWrites(
  browser: Browser,
  base: string,
  numbers: readonly number[],
  seed: number,
): Promise<WritesAnswer> {
  const answer = { tried: 0, failed: 0, lost: [] as string[], uncaught: [] as string[] };
  for (const how of ['throw', 'abort'] as const)
    for (const n of numbers) {
      const random = seeded(seed + n);
      const context = await browser.newContext({ serviceWorkers: 'block' });
      const page = await context.newPage();
      page.on('pageerror', (error) => answer.uncaught.push(`${how} ${n}: ${error.message}`));
      try {
        await openTwin(page, base);
        await page.getByRole('heading', { level: 1, name: /Survey/ }).waitFor();
        // What is there before: read in another tab, which leaves the page and its session alone.
        const reader = await context.newPage();
        const before = await exported(reader, base, /.*Brindle/);
        await reader.close();
        await failWrite(page, n, how);
        const made: ReturnType<typeof randomAct>[] = [];
        for (let i = 0; i < 4 + n / 3; i += 1) {
          // All on the page that is open: going elsewhere by address would load the failing write away.
          const act = randomAct(random, 100 * n + i, ['survey']);
          await act.act(page);
          made.push(act);
          await pause(random() < 0.3 ? 1400 : 60);
        }
        // Whatever failed is tried again by itself; the person may also ask for it.
        const again = page.getByRole('button', { name: 'Try again' });
        if (await again.isVisible()) await again.click();
        await page.waitForFunction(
          () => document.querySelector<HTMLElement>('[data-testid="save-state"]')?.dataset.state === 'saved',
          undefined,
          { timeout: 15_000 },
        );
        await pause(1500);
        if (await page.evaluate(() => 'aWriteFailed' in window)) answer.failed += 1;
        const found = await exported(page, base, /.*Brindle/);
        const wanted = made.reduce((state, act) => act.after(state), before);
        if (!sameSeen(wanted, found)) answer.lost.push(`${how} ${n}: ${differences(wanted, found).join(', ')}`);
        answer.tried += 1;
      } catch (error) {
        answer.lost.push(`${how} ${n}: ${error instanceof Error ? error.message.split('\n')[0] : String(error)}`);
      } finally {
        await context.close();
      }
    }
  return answer;
}

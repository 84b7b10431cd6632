import type { Browser, Page } from '@playwright/test';
import { seeded } from '~/core/trigger/synth';
import { exported, pause, ready, savedSince } from './browser';

export interface TabsAnswer {
  readonly rounds: number;
  readonly acts: number;
  readonly lost: readonly string[];
  readonly resurrected: readonly string[];
  readonly uncaught: readonly string[];
}

const vehicle = (page: Page) => page.getByRole('textbox', { name: 'Vehicle or machine' });

/**
 * Two tabs on one build and a third in the garage: edits here and there, take-overs, renames, deletions, undoings. In the end the
 * last edit that was called saved stands, the last name stands, and a deleted build is deleted.
 */
export async function tabRounds(browser: Browser, base: string, rounds: number, seed: number): Promise<TabsAnswer> {
  const answer = { rounds: 0, acts: 0, lost: [] as string[], resurrected: [] as string[], uncaught: [] as string[] };
  for (let round = 0; round < rounds; round += 1) {
    const random = seeded(seed + round);
    const context = await browser.newContext({ serviceWorkers: 'block' });
    const open = async (address: string) => {
      const page = await context.newPage();
      page.on('pageerror', (error) => answer.uncaught.push(`round ${round}: ${error.message}`));
      await page.goto(address);
      await ready(page);
      return page;
    };
    const told: string[] = [];
    try {
      const garage = await open(`${base}/`);
      await garage
        .getByRole('listitem')
        .filter({ hasText: /Brindle/ })
        .getByRole('button', { name: 'Open this demo' })
        .click();
      await garage.waitForURL(/\/build\/[^/]+\/survey/);
      const address = garage.url();
      const tabs = [await open(address), await open(address)];
      await garage.goto(`${base}/`);
      await ready(garage);
      let [name, seen, deleted, number] = ['Brindle', '', false, 0];
      for (let step = 0; step < 8; step += 1) {
        answer.acts += 1;
        number += 1;
        const dice = random();
        if (!deleted && dice < 0.55) {
          const tab = tabs[random() < 0.5 ? 0 : 1];
          const take = tab.getByRole('button', { name: 'Write here instead' });
          // A tab that follows takes the pen first, as its notice offers.
          for (let tries = 0; tries < 20 && (await take.isVisible()); tries += 1) {
            await take.click({ timeout: 2000 }).catch(() => undefined);
            await pause(300);
          }
          const since = Date.now();
          told.push(`edit ${number} in tab ${tabs.indexOf(tab)}`);
          await vehicle(tab).fill(`edit ${number}`);
          await vehicle(tab).press('Tab');
          await savedSince(tab, since);
          seen = `edit ${number}`;
        } else if (!deleted && dice < 0.75) {
          told.push(`rename ${number}`);
          await garage.getByRole('button', { name: new RegExp(`^Rename ${name}`) }).click();
          await garage.getByRole('textbox', { name: 'Name' }).fill(`Named ${number}`);
          await garage.getByRole('textbox', { name: 'Name' }).press('Enter');
          await garage.getByText(`It is called Named ${number} now.`).waitFor();
          name = `Named ${number}`;
        } else if (!deleted) {
          told.push('delete');
          await garage
            .getByRole('button', { name: new RegExp(`^Delete ${name}`) })
            .first()
            .click();
          await garage.getByText(/was deleted/).waitFor();
          deleted = true;
        } else if (dice < 0.6) {
          told.push('bring back');
          await garage.getByRole('button', { name: new RegExp(`^Bring back ${name}`) }).click();
          await garage.getByText('It is back.').waitFor();
          deleted = false;
          for (const tab of tabs) await vehicle(tab).waitFor();
        } else {
          told.push('a deleted build is typed into');
          // There is nothing to type into: the tabs say so.
          for (const tab of tabs) await tab.getByText('This build was deleted in another tab.').waitFor();
        }
        await pause(random() * 200);
      }
      for (const tab of tabs) await tab.close();
      await garage.reload();
      await ready(garage);
      // The page answers before the builds are listed.
      await garage.getByRole('button', { name: 'Import a file' }).waitFor();
      const there = await garage.getByRole('link', { name: new RegExp(`^${name}`) }).count();
      if (deleted && there > 0) answer.resurrected.push(`round ${round}: ${told.join(', ')}`);
      if (!deleted) {
        const found = there === 1 ? await exported(garage, base, new RegExp(name)) : null;
        if (!found || (seen !== '' && found.vehicle !== seen))
          answer.lost.push(`round ${round}: wanted ${seen}, found ${String(found?.vehicle)}: ${told.join(', ')}`);
      }
      answer.rounds += 1;
    } catch (error) {
      answer.lost.push(
        `round ${round}: ${error instanceof Error ? error.message.split('\n')[0] : String(error)}: ${told.join(', ')}`,
      );
    } finally {
      await context.close();
    }
  }
  return answer;
}

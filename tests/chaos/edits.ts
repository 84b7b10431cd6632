import type { Page } from '@playwright/test';
import type { Random } from './mutate';
import { ready, type Seen } from './browser';

/** One edit of the interface: what it does there, and to what was seen before. */
export interface Act {
  readonly does: string;
  readonly on: 'survey' | 'survey/notes' | 'loom';
  readonly act: (page: Page) => Promise<void>;
  readonly after: (before: Seen) => Seen;
}

const put = async (page: Page, label: string, text: string): Promise<void> => {
  const box = page.getByRole('textbox', { name: label }).first();
  await box.fill(text, { timeout: 15_000 });
  await box.press('Tab');
};

/** A random edit; `number` makes its value one that was never there before. */
export function randomAct(random: Random, number: number): Act {
  const way = Math.floor(random() * 4);
  if (way === 0)
    return {
      does: `vehicle ${number}`,
      on: 'survey',
      act: (page) => put(page, 'Vehicle or machine', `vehicle ${number}`),
      after: (before) => ({ ...before, vehicle: `vehicle ${number}` }),
    };
  if (way === 1)
    return {
      does: `question ${number}`,
      on: 'survey/notes',
      act: async (page) => {
        const box = page.getByRole('textbox', { name: 'What do you need to know?' });
        await box.fill(`question ${number}`, { timeout: 15_000 });
        await box.press('Enter');
      },
      after: (before) => ({ ...before, questions: [...before.questions, `question ${number}`] }),
    };
  if (way === 2) {
    // Thousandths, so that each is a value of its own.
    const slack = 0.001 + (number % 1000) / 1000;
    return {
      does: `slack ${slack}`,
      on: 'loom',
      act: (page) => put(page, 'Slack on each wire', slack.toFixed(3)),
      after: (before) => ({ ...before, slack: Number(slack.toFixed(3)) }),
    };
  }
  const altitude = 1 + (number % 4000);
  return {
    does: `altitude ${altitude}`,
    on: 'survey',
    act: (page) => put(page, 'Altitude', String(altitude)),
    after: (before) => ({ ...before, altitude }),
  };
}

const titles = { survey: /Survey/, 'survey/notes': /Survey/, loom: /Loom/ } as const;

/** Goes to the sheet of an edit as a person does where that is one step, else by its address. */
export async function goToAct(page: Page, base: string, buildId: string, on: Act['on']): Promise<void> {
  const target = `${base}/build/${buildId}/${on}`;
  if (page.url() === target) return;
  await page.goto(target);
  await ready(page);
  await page.getByRole('heading', { level: 1, name: titles[on] }).waitFor();
}

export const sameSeen = (one: Seen, other: Seen): boolean => JSON.stringify(one) === JSON.stringify(other);

import type { Page } from '@playwright/test';
import type { Random } from './mutate';
import { ready, savedSince, type Seen } from './browser';

/** One edit of the interface: what it does there, and to the build that was seen before. */
export interface Act {
  readonly does: string;
  readonly on: Sheet;
  readonly act: (page: Page) => Promise<void>;
  readonly after: (before: Seen) => Seen;
}
type Sheet = 'survey' | 'survey/notes' | 'survey/fuel' | 'feeds' | 'loom/cut';

const titles: Readonly<Record<Sheet, RegExp>> = {
  survey: /Survey/,
  'survey/notes': /Survey/,
  'survey/fuel': /Survey/,
  feeds: /Feeds/,
  'loom/cut': /Loom/,
};

/** The same build with one place of it changed. */
function changed(seen: Seen, place: readonly string[], change: (value: unknown) => unknown): Seen {
  const [key, ...rest] = place;
  const inner = seen[key];
  return { ...seen, [key]: rest.length === 0 ? change(inner) : changed(inner as Seen, rest, change) };
}

/** A field of one sheet, the place of the build it stands for, and values it never had before. */
const fields: readonly {
  readonly on: Sheet;
  readonly label: string;
  readonly place: readonly string[];
  readonly value: (number: number) => string | number;
}[] = [
  { on: 'survey', label: 'Vehicle or machine', place: ['vehicle'], value: (number) => `vehicle ${number}` },
  { on: 'survey', label: 'Altitude', place: ['site', 'altitudeMetres'], value: (number) => 1 + (number % 4000) },
  {
    on: 'survey/fuel',
    label: 'Specific consumption',
    place: ['fuel', 'bsfc'],
    value: (number) => 150 + (number % 1300),
  },
  // Thousandths, so that each is a value of its own.
  {
    on: 'loom/cut',
    label: 'Slack on each wire',
    place: ['loom', 'slackMetres'],
    value: (number) => (1 + (number % 999)) / 1000,
  },
  {
    on: 'feeds',
    label: 'Engine strap',
    place: ['power', 'strapMetres'],
    value: (number) => (110 + (number % 9000)) / 1000,
  },
];

/** A random edit, on one of the sheets if they are named; `number` makes its value one that was never there before. */
export function randomAct(random: Random, number: number, on?: readonly Sheet[]): Act {
  const possible = fields.filter((field) => !on || on.includes(field.on));
  const way = Math.floor(random() * (possible.length + (!on || on.includes('survey/notes') ? 1 : 0)));
  if (way === possible.length)
    return {
      does: `question ${number}`,
      on: 'survey/notes',
      act: async (page) => {
        const box = page.getByRole('textbox', { name: 'What do you need to know?' });
        await box.fill(`question ${number}`, { timeout: 15_000 });
        await box.press('Enter');
      },
      after: (before) =>
        changed(before, ['survey', 'questions'], (questions) => [
          ...(questions as readonly unknown[]),
          {
            id: 'given',
            text: `question ${number}`,
            to: '',
            askedOn: new Date().toISOString().slice(0, 10),
            answer: '',
            answeredOn: null,
            about: '',
          },
        ]),
    };
  const { label, place, on: sheet, value } = possible[way];
  const wanted = value(number);
  return {
    does: `${label}: ${wanted}`,
    on: sheet,
    act: async (page) => {
      const box = page.getByRole('textbox', { name: label }).first();
      await box.fill(String(wanted), { timeout: 15_000 });
      await box.press('Tab');
    },
    after: (before) => changed(before, place, () => wanted),
  };
}

/** Takes back the last edit. */
export async function takeBack(page: Page): Promise<void> {
  await page.getByRole('button', { name: /^Undo: / }).click({ timeout: 15_000 });
}
/** Waits until the sheet says that it was taken back. */
export async function seenBack(page: Page): Promise<void> {
  await page.getByText(/^Undone: /).waitFor({ timeout: 15_000 });
}

/** Where a text is brought back that was being typed when the browser was killed, leaves its field; answers whether there was one. */
export async function enterBroughtBack(page: Page): Promise<boolean> {
  const notice = page.getByText(/^Brought back what was being typed/);
  if ((await notice.count()) === 0) return false;
  const since = Date.now();
  await page.keyboard.press('Tab');
  // A text that waits for its Enter is still being kept; any other is entered by leaving.
  await savedSince(page, since, 3_000).catch(() => undefined);
  return true;
}

/** Goes to the sheet of an edit as a person does where that is one step, else by its address. */
export async function goToAct(page: Page, base: string, buildId: string, on: Sheet): Promise<void> {
  const target = `${base}/build/${buildId}/${on}`;
  if (page.url() === target) return;
  await page.goto(target);
  await ready(page);
  await page.getByRole('heading', { level: 1, name: titles[on] }).waitFor();
}

/** The places where two builds differ, with both values; none when they are the same. */
export function differences(one: unknown, other: unknown, place = ''): readonly string[] {
  if (typeof one === 'object' && typeof other === 'object' && one !== null && other !== null) {
    const keys = new Set([...Object.keys(one), ...Object.keys(other)]);
    return [...keys].flatMap((key) => differences((one as Seen)[key], (other as Seen)[key], `${place}/${key}`));
  }
  return one === other ? [] : [`${place}: ${JSON.stringify(one)} is ${JSON.stringify(other)}`];
}
export const sameSeen = (one: Seen, other: Seen): boolean => differences(one, other).length === 0;

import { chromium as browserType, type Browser, type Page } from '@playwright/test';
import type { Build } from '~/core/build/schema';
import { pellworth } from '~/demo/pellworth';
import { largePlaced } from './bench-build';
import { chromium } from './chromium.mjs';
import { served } from './served';

/** One row of the whole edit: from the key press to what the person sees. */
export interface EditRow {
  readonly name: string;
  /** Key press to paint, milliseconds. */
  readonly median: number;
  readonly worst: number;
  /** Until the last figure of the sheet that follows from it is painted, those worked out after the answer with it. */
  readonly last: number;
  /** Script of the page from the key press to that paint. */
  readonly toPaint: number;
  /** All script that follows from one press, what is worked out and saved after the paint with it; style and layout besides. */
  readonly script: number;
  readonly layout: number;
  /** The longest task within any of them. */
  readonly longestTask: number;
  /** The longest task while the sheet was opened. */
  readonly opened?: number;
}

const SHEETS = ['survey', 'allot', 'trigger', 'feeds', 'loom', 'prove', 'fire-up', 'trace', 'book'] as const;
type Sheet = (typeof SHEETS)[number];
const PRESSES = 24;

const ready = (page: Page) => page.waitForSelector('html[data-ready]');

async function importBuild(page: Page, base: string, build: Build): Promise<string> {
  await page.goto(`${base}/`);
  await ready(page);
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Import a file' }).click(),
  ]);
  await chooser.setFiles({
    name: 'build.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(build)),
  });
  await page.getByRole('dialog').getByRole('button', { name: 'Import', exact: true }).click();
  await page.waitForURL(/\/build\/[^/]+\/survey/);
  return /build\/([^/]+)\//.exec(page.url())![1];
}

/** What one press did, milliseconds from it. */
interface Press {
  /** The paint that answers it. */
  answer: number | null;
  /** The last paint of anything in the sheet itself: figures that follow an edit once it is drawn come with it. */
  last: number;
}
interface Seen {
  readonly presses: Press[];
  readonly tasks: number[];
}

/** Listens in the page: when a key went down, when the page had shown its answer, and how long its tasks took. */
function watch(): void {
  const seen: Seen = { presses: [], tasks: [] };
  Object.assign(window, { seen });
  new PerformanceObserver((list) => {
    for (const entry of list.getEntries()) seen.tasks.push(entry.duration);
  }).observe({ entryTypes: ['longtask'] });
  // The task before all others that follows the frame's own work: a message would wait for the next frame's.
  const { scheduler } = window as unknown as {
    scheduler: { postTask: (run: () => void, how: { priority: string }) => Promise<void> };
  };
  const painted = (then: () => void) =>
    requestAnimationFrame(() => void scheduler.postTask(then, { priority: 'user-blocking' }));
  const word = () =>
    [...document.querySelectorAll('[aria-label^="Undo"], [aria-label^="Do again"]')]
      .map((button) => button.getAttribute('aria-label'))
      .join();
  let stop = () => {};
  window.addEventListener(
    'keydown',
    (event) => {
      if (['Control', 'Shift'].includes(event.key)) return;
      stop();
      const from = event.timeStamp;
      performance.mark('pressed', { startTime: from });
      const press: Press = { answer: null, last: 0 };
      seen.presses.push(press);
      const answer = () =>
        painted(() => {
          performance.mark('painted');
          press.answer = performance.now() - from;
        });
      const before = word();
      // What answers a typed letter is the field itself, what answers an edit are the new words of undo and redo.
      let isAnswered = !event.ctrlKey;
      if (isAnswered) window.addEventListener('input', answer, { once: true });
      const work = document.getElementById('work');
      const observer = new MutationObserver((changes) => {
        if (!isAnswered && word() !== before) {
          isAnswered = true;
          answer();
        }
        if (changes.some(({ target }) => work?.contains(target)))
          painted(() => {
            press.last = performance.now() - from;
          });
      });
      observer.observe(document.body, { subtree: true, childList: true, attributes: true, characterData: true });
      stop = () => observer.disconnect();
    },
    true,
  );
}

interface TraceEvent {
  readonly name: string;
  readonly ph: string;
  /** Microseconds. */
  readonly ts: number;
  readonly dur?: number;
  readonly pid: number;
  readonly tid: number;
}
/** How the browser's own trace names a stretch of script; they lie within each other. */
const SCRIPT = new Set([
  'EventDispatch',
  'FunctionCall',
  'FireAnimationFrame',
  'RunMicrotasks',
  'TimerFire',
  'v8.callFunction',
]);
const TRACED = ['devtools.timeline', 'blink.user_timing', 'v8'];

/** Script between each press and the paint that answers it, milliseconds. */
function scriptToPaint(trace: Buffer): number[] {
  const { traceEvents } = JSON.parse(trace.toString()) as { traceEvents: TraceEvent[] };
  const ordered = traceEvents.sort((a, b) => a.ts - b.ts);
  const marks = ordered.filter(({ name }) => name === 'pressed' || name === 'painted');
  const [{ pid, tid }] = marks;
  const stretches = ordered.filter(
    (one) => one.pid === pid && one.tid === tid && one.ph === 'X' && SCRIPT.has(one.name),
  );
  return marks.flatMap(({ name, ts }, i) => {
    if (name !== 'pressed') return [];
    const until = marks[i + 1].ts;
    let [total, reached] = [0, ts];
    for (const one of stretches) {
      const [from, to] = [Math.max(reached, one.ts), Math.min(until, one.ts + (one.dur ?? 0))];
      if (to <= from) continue;
      total += to - from;
      reached = to;
    }
    return [total / 1000];
  });
}

/** Presses keys in turn, each after the page has come to rest from the one before. */
async function pressed(browser: Browser, page: Page, name: string, keys: readonly string[]): Promise<EditRow> {
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Performance.enable');
  const spent = async () => {
    const { metrics } = await cdp.send('Performance.getMetrics');
    const of = (wanted: string) => metrics.find((one) => one.name === wanted)!.value;
    return {
      script: of('ScriptDuration') * 1000,
      layout: (of('LayoutDuration') + of('RecalcStyleDuration')) * 1000,
    };
  };
  const script: number[] = [];
  const layout: number[] = [];
  await page.evaluate(() => {
    const { seen } = window as unknown as { seen: Seen };
    seen.presses.length = seen.tasks.length = 0;
  });
  await browser.startTracing(page, { categories: TRACED });
  for (const [count, key] of keys.entries()) {
    const before = await spent();
    await page.keyboard.press(key);
    await page
      .waitForFunction(
        (at) => typeof (window as unknown as { seen: Seen }).seen.presses[at]?.answer === 'number',
        count,
      )
      .catch((error: unknown) => {
        throw new Error(`${name}: press ${count + 1} (${key}) has no answer`, { cause: error });
      });
    // The save that follows an edit, and what it draws anew, is part of it; the snapshot a second later is not.
    await page.waitForTimeout(250);
    const after = await spent();
    script.push(after.script - before.script);
    layout.push(after.layout - before.layout);
  }
  const toPaint = scriptToPaint(await browser.stopTracing());
  await cdp.detach();
  const { presses, tasks } = await page.evaluate(() => (window as unknown as { seen: Seen }).seen);
  const answers = presses.map(({ answer }) => answer!);
  // The first two warm the page up.
  const warm = (all: number[]) => all.slice(2).sort((a, b) => a - b);
  const middle = (all: number[]) => warm(all)[(all.length - 2) >> 1];
  return {
    name,
    median: middle(answers),
    worst: warm(answers).at(-1)!,
    last: middle(presses.map(({ answer, last }) => Math.max(answer!, last))),
    toPaint: middle(toPaint),
    script: middle(script),
    layout: middle(layout),
    longestTask: Math.max(0, ...tasks),
  };
}

async function rowsOf(
  browser: Browser,
  base: string,
  [named, build]: readonly [string, Build],
  sheets: readonly Sheet[],
): Promise<EditRow[]> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' });
  const page = await context.newPage();
  // Functions that are handed over whole name themselves by a helper the page does not have.
  await page.addInitScript('window.__name = (one) => one');
  await page.addInitScript(watch);
  const id = await importBuild(page, base, build);
  await ready(page);
  // Two edits to take back and do again on every sheet: a wire's length, then a need's pin.
  await page.goto(`${base}/build/${id}/loom/cut`);
  await ready(page);
  const slack = page.getByRole('textbox', { name: 'Slack on each wire' });
  for (const metres of ['0.21', '0.22']) {
    await slack.fill(metres);
    await slack.press('Tab');
    await page.getByRole('button', { name: /^Undo: / }).waitFor();
  }
  const rows: EditRow[] = [];
  for (const sheet of sheets) {
    await page.goto(`${base}/build/${id}/${sheet}`);
    await ready(page);
    await page.waitForTimeout(1500);
    const { tasks } = await page.evaluate(() => (window as unknown as { seen: Seen }).seen);
    await page.locator('h1').click();
    const keys = Array.from({ length: PRESSES }, (_, i) => (i % 2 === 0 ? 'Control+z' : 'Control+y'));
    const row = await pressed(browser, page, `${named}, ${sheet}: an edit taken back and done again`, keys);
    const opened = Math.max(0, ...tasks);
    rows.push({ ...row, opened });
    if (sheet !== 'allot') continue;
    await page.getByRole('textbox', { name: 'Search needs' }).first().focus();
    rows.push(
      await pressed(
        browser,
        page,
        `${named}, allot: a letter in the search`,
        [...'injectorinjector'].flatMap((letter) => [letter, 'Backspace']),
      ),
    );
  }
  await context.close();
  return rows;
}

/** Key press to paint in a real browser, on every sheet, for the demo build and a large one. */
export async function editRows(
  only: 'demo' | 'large' | 'both' = 'both',
  sheets: readonly Sheet[] = SHEETS,
): Promise<EditRow[]> {
  const { base, stop } = await served();
  const browser = await browserType.launch({
    executablePath: chromium,
    args: ['--no-sandbox', '--disable-gpu'],
  });
  try {
    return [
      ...(only === 'large' ? [] : await rowsOf(browser, base, ['demo', pellworth()], sheets)),
      ...(only === 'demo' ? [] : await rowsOf(browser, base, ['large', largePlaced()], sheets)),
    ];
  } finally {
    await browser.close();
    stop();
  }
}

export function editReport(rows: readonly EditRow[]): string {
  const heads = [
    'median',
    'worst',
    'last figure',
    'script to it',
    'script in all',
    'style, layout',
    'longest task',
    'longest on opening',
  ];
  const cells = rows.map((row) =>
    [row.median, row.worst, row.last, row.toPaint, row.script, row.layout, row.longestTask, row.opened].map(
      (value, i) => (value === undefined ? '' : value.toFixed(0)).padStart(heads[i].length),
    ),
  );
  const width = Math.max(...rows.map((row) => row.name.length));
  return [
    `${'key press to paint, ms'.padEnd(width)}  ${heads.join(' ')}`,
    ...rows.map((row, i) => `${row.name.padEnd(width)}  ${cells[i].join(' ')}`),
  ].join('\n');
}

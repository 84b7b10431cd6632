import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { TypingKeeper } from '~/app/build/typing';
import { readTyped, type TypedTexts } from '~/app/storage/typed';
import { putUpShelf, takeShelfDown } from './shelf';

/** A session that is only asked; what was asked is answered when the test says so. */
class Asked {
  readonly id = 'b1';
  unsaved = false;
  private count = 0;
  private answer: () => void = () => undefined;
  private latest: Promise<void> = Promise.resolve();
  ask(): void {
    this.count += 1;
    this.latest = new Promise((resolve) => {
      this.answer = resolve;
    });
  }
  asked = (): number => this.count;
  answered = (): Promise<void> => this.latest;
  async stored(): Promise<void> {
    this.answer();
    await jest.advanceTimersByTimeAsync(0);
  }
  tell(): void {
    throw new Error('nothing is to be told here');
  }
}

const { window } = globalThis;
/** The store of the device, which takes over what is written before the page goes and nothing after. */
const device = {
  typed: {
    getItem: () => Promise.resolve(kept),
    setItem: (_: string, texts: TypedTexts) => Promise.resolve((kept = texts)),
    removeItem: () => Promise.resolve(void (kept = {})),
  },
} as unknown as NonNullable<Parameters<typeof readTyped>[1]>;
let kept: TypedTexts = {};
let session = new Asked();
let keeper = new TypingKeeper(session, {});
const type = async (text: string): Promise<string> => {
  const key = keeper.claim('|Altitude');
  keeper.type(key, '92', text);
  await jest.advanceTimersByTimeAsync(300);
  return key;
};

beforeEach(() => {
  jest.useFakeTimers();
  putUpShelf();
  Object.assign(globalThis, { window: { location: { pathname: '/build/b1/survey' } } });
  kept = {};
  session = new Asked();
  keeper = new TypingKeeper(session, {}, (_, texts) => {
    kept = texts;
    return Promise.resolve();
  });
});
afterEach(() => {
  jest.useRealTimers();
  Object.assign(globalThis, { window });
  takeShelfDown();
});

describe('a text that was typed', () => {
  test('is kept until its edit is on the device, and no longer: an undo right after does not bring it back', async () => {
    const key = await type('108');
    keeper.left(key);
    session.ask();
    await jest.advanceTimersByTimeAsync(0);
    expect(Object.values(kept)).toEqual([{ shown: '92', text: '108' }]);
    await session.stored();
    // No pause has passed: a power cut now finds the edit, or its undo, and nothing to bring back.
    expect(kept).toEqual({});
  });
  test('entered by a key, then left, is dropped as well', async () => {
    const key = await type('108');
    session.ask();
    await session.stored();
    keeper.left(key);
    await jest.advanceTimersByTimeAsync(0);
    expect(kept).toEqual({});
  });
  test('is kept when leaving the field entered nothing, whatever is asked elsewhere afterwards', async () => {
    const key = await type('99999');
    keeper.left(key);
    await jest.advanceTimersByTimeAsync(5);
    session.ask();
    await session.stored();
    await jest.advanceTimersByTimeAsync(1000);
    expect(Object.values(kept)).toEqual([{ shown: '92', text: '99999' }]);
  });
  test('is kept when its edit could not be stored: it is the only copy', async () => {
    const key = await type('108');
    keeper.left(key);
    session.ask();
    session.unsaved = true;
    await session.stored();
    await jest.advanceTimersByTimeAsync(1000);
    expect(Object.values(kept)).toEqual([{ shown: '92', text: '108' }]);
  });
  test('whose edit goes with its page is not left behind to be brought back', async () => {
    const key = await type('108');
    keeper.left(key);
    session.ask();
    await jest.advanceTimersByTimeAsync(0);
    // Entered, and taken back at once; neither is on the device when the page goes, but both are handed over.
    keeper.leave(true);
    expect(await readTyped('b1', device)).toEqual({});
    // What was older in the store does not show again at the next visit.
    expect(await readTyped('b1', device)).toEqual({});
  });
  test('goes with its page when the page goes before a pause, and when its edit could not be handed over', async () => {
    const key = keeper.claim('|Altitude');
    keeper.type(key, '92', '108');
    keeper.leave(true);
    expect(Object.values(await readTyped('b1', device))).toEqual([{ shown: '92', text: '108' }]);
    keeper.left(key);
    session.ask();
    await jest.advanceTimersByTimeAsync(0);
    keeper.leave(false);
    expect(Object.values(await readTyped('b1', device))).toEqual([{ shown: '92', text: '108' }]);
  });
  test('is dropped once the field shows something else', async () => {
    const key = await type('108');
    void keeper.settle(key);
    await jest.advanceTimersByTimeAsync(0);
    expect(kept).toEqual({});
  });
});

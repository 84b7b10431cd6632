import { afterEach, describe, expect, jest, test } from '@jest/globals';
import { BuildStore } from '~/app/build/store';
import type { TypingKeeper } from '~/app/build/typing';
import type { Session } from '~/app/storage/session';
import type { Build } from '~/core/build/schema';
import { call } from '~/core/edits';
import { demoBuild, edited } from '../helpers';

/** A store of one build, without a device behind it. */
const storeOf = (build: Build) =>
  new BuildStore(
    { snapshot: () => ({ build }) } as unknown as Session,
    { typing: () => false } as unknown as TypingKeeper,
  );

test('a build opens on the run of its first placed need', () => {
  const build = demoBuild();
  const { selection } = storeOf(build).now();
  expect(selection?.type).toBe('need');
  expect(selection?.type === 'need' && build.assignments[selection.needId]).toBeTruthy();
});

test('a build whose wires cannot be worked out opens all the same: whoever draws them says so', () => {
  const broken = { ...demoBuild(), devices: null as unknown as Build['devices'] };
  const { selection, derived, build } = storeOf(broken).now();
  expect(selection).toBeNull();
  expect(build.name).toBe(demoBuild().name);
  expect(() => derived.net).toThrow();
});

describe('what follows from an edit', () => {
  /** A page whose frames are drawn when the test says so. */
  const frames: FrameRequestCallback[] = [];
  const page = { requestAnimationFrame: (run: FrameRequestCallback) => frames.push(run), document: { hidden: false } };
  const before = Object.getOwnPropertyDescriptors(globalThis);
  const drawFrame = () => {
    for (const run of frames.splice(0)) run(0);
  };
  const tasks = () => new Promise((resolve) => setTimeout(resolve, 20));
  afterEach(() => {
    frames.length = 0;
    for (const name of Object.keys(page)) {
      if (before[name]) Object.defineProperty(globalThis, name, before[name]);
      else Reflect.deleteProperty(globalThis, name);
    }
  });

  /** A store that follows a session, and what it tells its two kinds of listeners. */
  function following() {
    Object.assign(globalThis, page);
    let build = demoBuild();
    const listeners = new Set<() => void>();
    const listen = (listener: () => void) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    };
    const store = new BuildStore(
      { snapshot: () => ({ build }), subscribe: listen } as unknown as Session,
      { typing: () => false, subscribe: () => () => {} } as unknown as TypingKeeper,
    );
    const close = store.open();
    const told = { now: jest.fn(), later: jest.fn() };
    store.subscribe(told.now);
    store.later.subscribe(told.later);
    const name = (to: string) => {
      build = edited(build, call('renameBuild', { name: to }));
      for (const listener of listeners) listener();
    };
    /** The next time what follows is told, however long it takes to work out. */
    const followed = () => new Promise<void>((resolve) => void store.later.subscribe(() => resolve()));
    return { store, told, name, close, followed, later: () => store.later.now().build.name };
  }

  test('is told after the frame that paints it, not within: the edit itself at once', async () => {
    const { store, told, name, close, followed, later } = following();
    const first = later();
    name('Second');
    expect(told.now).toHaveBeenCalledTimes(1);
    expect(store.now().build.name).toBe('Second');
    await tasks();
    // However long the frame is in coming.
    expect([told.later.mock.calls.length, later()]).toEqual([0, first]);
    const then = followed();
    drawFrame();
    expect([told.later.mock.calls.length, later()]).toEqual([0, first]);
    await then;
    expect([told.later.mock.calls.length, later()]).toEqual([1, 'Second']);
    close();
  });
  test('of several edits before a frame only the last is worked out', async () => {
    const { told, name, close, followed, later } = following();
    for (const one of ['A', 'B', 'C']) name(one);
    expect(frames).toHaveLength(1);
    const then = followed();
    drawFrame();
    await then;
    await tasks();
    expect([told.later.mock.calls.length, later()]).toEqual([1, 'C']);
    close();
  });
  test('is not waited for by a page that nobody sees', async () => {
    const { name, close, followed, later } = following();
    Object.assign(globalThis, { document: { hidden: true } });
    const then = followed();
    name('Unseen');
    await then;
    expect([frames.length, later()]).toEqual([0, 'Unseen']);
    close();
  });
});

import { afterEach, describe, expect, test } from '@jest/globals';
import type { Session } from '~/app/storage/session';
import type { Build } from '~/core/build/schema';
import { Desk, build, fan, rename } from './kept';
import { Device } from './store';

const desk = new Desk();
afterEach(() => desk.clear());

/** Edits, undo, redo and a discarded redo, on lists and values: what a session may leave on the desk.device. */
const SCRIPT: ((session: Session) => Promise<unknown>)[] = [
  (session) => session.edit(rename('One')),
  (session) => session.edit(fan('Fan 3')),
  (session) => session.settled(),
  (session) => session.undo(),
  (session) => session.settled(),
  (session) => session.redo(),
  (session) => session.edit(rename('Two')),
  (session) => session.undo(),
  (session) => session.edit(fan('Fan 4')),
  (session) => session.settled(),
  (session) => session.edit(rename('Three')),
];
const seen = (one: Build): string => JSON.stringify(one);

describe('the storage contract, write by write', () => {
  test('every prefix of the writes of a session opens as a state the person has seen, no older than what was said saved', async () => {
    const session = await desk.start();
    const states = [seen(session.snapshot().build)];
    desk.device.keepMoments = true;
    // Which state was the last said to be saved when each write began.
    const acknowledged: number[] = [];
    let last = 0;
    const stop = session.subscribe(() => {
      const now = seen(session.snapshot().build);
      if (states[states.length - 1] !== now) states.push(now);
      if (session.snapshot().saveState === 'saved') last = states.length - 1;
      while (acknowledged.length < desk.device.moments.length) acknowledged.push(last);
    });
    for (const act of SCRIPT) {
      await act(session);
      while (acknowledged.length < desk.device.moments.length) acknowledged.push(last);
    }
    stop();
    expect(desk.device.moments.length).toBeGreaterThan(20);
    for (const [i, moment] of desk.device.moments.entries()) {
      const crashed = Device.at(moment);
      const read = await desk.stored(crashed);
      const at = states.lastIndexOf(seen(read.build));
      expect({ write: i, known: at >= 0 }).toEqual({ write: i, known: true });
      // `acknowledged` is noted at the write before, at the latest: never ahead of what was said.
      expect(at).toBeGreaterThanOrEqual(acknowledged[Math.max(0, i - 1)]);
      // And it works: a step can be taken back and saved again.
      const again = await desk.open(crashed);
      const label = again.snapshot().undoLabel;
      if (label) {
        await again.undo();
        await again.settled();
        expect((await desk.stored(crashed)).build).toEqual(again.snapshot().build);
        expect((await desk.stored(crashed)).orphans).toEqual([]);
      }
      again.close();
    }
  });
  test.each([
    ['always', 1],
    ['quota', 3],
  ] as const)('any one write that fails (%s) loses nothing that follows', async (how, every) => {
    for (let n = 1; n <= 30; n += every) {
      const on = new Device();
      await desk.keep(build, on);
      const before = on.writes;
      on.how = how;
      on.failing = (write) => write === before + n;
      const session = await desk.open(on);
      for (const act of SCRIPT) await act(session);
      session.retry();
      await session.settled();
      const { build: expected } = session.snapshot();
      expect(session.snapshot().saveState).toBe('saved');
      session.close();
      expect((await desk.stored(on)).build).toEqual(expected);
    }
  });
  test('from any write on everything fails: the memory stays, is said to be unsaved, and is saved when there is room', async () => {
    for (let n = 1; n <= 25; n += 3) {
      const on = new Device();
      await desk.keep(build, on);
      const from = on.writes + n;
      on.failing = (write) => write >= from;
      const session = await desk.open(on);
      for (const act of SCRIPT) await act(session);
      const { build: expected, saveState } = session.snapshot();
      if (session.unsaved) expect(saveState).toBe('failed');
      on.failing = () => false;
      session.retry();
      await session.settled();
      session.close();
      expect(session.unsaved).toBe(false);
      expect((await desk.stored(on)).build).toEqual(expected);
    }
  });
});

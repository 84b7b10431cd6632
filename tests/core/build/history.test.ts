import { describe, expect, test } from '@jest/globals';
import { call } from '~/core/edits';
import { HISTORY_LIMIT, emptyHistory, historySchema, record, redo, undo, type History } from '~/core/build/history';
import type { Build } from '~/core/build/schema';
import { demoBuild, edited, emptyBuild, kind } from '../../helpers';

function walk(start: Build, steps: ((build: Build) => Build)[]): { build: Build; history: History; all: Build[] } {
  let [build, history] = [start, emptyHistory as History];
  const all = [build];
  for (const [index, step] of steps.entries()) {
    const next = step(build);
    ({ history } = record(history, `step ${index}`, build, next));
    build = next;
    all.push(build);
  }
  return { build, history, all };
}

const steps = [
  (build: Build) => edited(build, call('addDevice', { kind: kind('coil-igniter'), perCylinder: true })),
  (build: Build) => edited(build, call('allotAll', { keep: 'placed' })),
  (build: Build) => edited(build, call('removeDevice', { deviceId: 'coil-igniter-2' })),
  (build: Build) => edited(build, call('setPower', { ecuGround: 'battery' })),
];

describe('undo and redo', () => {
  test('walk every step back and forth exactly, after a trip through JSON', () => {
    const { build, history, all } = walk(emptyBuild(), steps);
    let current = { build, history: historySchema.parse(JSON.parse(JSON.stringify(history))) };
    for (let index = all.length - 2; index >= 0; index -= 1) {
      const moved = undo(current.build, current.history)!;
      expect(moved.build).toEqual(all[index]);
      current = moved;
    }
    expect(undo(current.build, current.history)).toBeNull();
    for (let index = 1; index < all.length; index += 1) {
      const moved = redo(current.build, current.history)!;
      expect(moved.build).toEqual(all[index]);
      current = moved;
    }
    expect(redo(current.build, current.history)).toBeNull();
  });
  test('a new step forgets what was undone', () => {
    const { build, history } = walk(emptyBuild(), steps);
    const back = undo(build, history)!;
    const next = edited(back.build, call('setReserve', { kind: 'any', count: 3 }));
    const recorded = record(back.history, 'other', back.build, next);
    expect(recorded.history.undone).toEqual([]);
  });
  test('a step that changes nothing is not kept, and old ones are forgotten', () => {
    const build = demoBuild();
    expect(record(emptyHistory, 'nothing', build, structuredClone(build)).changes).toEqual([]);
    let history: History = emptyHistory;
    let now = build;
    for (let reserve = 0; reserve < HISTORY_LIMIT + 20; reserve += 1) {
      const next = { ...now, reserve: { any: reserve + 100 } };
      ({ history } = record(history, 'reserve', now, next));
      now = next;
    }
    expect(history.done).toHaveLength(HISTORY_LIMIT);
  });
});

import { expect, test } from '@jest/globals';
import { BuildStore } from '~/app/build/store';
import type { TypingKeeper } from '~/app/build/typing';
import type { Session } from '~/app/storage/session';
import type { Build } from '~/core/build/schema';
import { demoBuild } from '../helpers';

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

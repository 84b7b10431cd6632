import { describe, expect, test } from '@jest/globals';
import { Tracked } from '~/app/build/tracked';

interface Shown {
  readonly plan: { readonly pins: readonly string[]; readonly name: string };
  readonly count: number;
  readonly note: string;
}
function tracked(within: readonly string[] = []) {
  let shown: Shown = { plan: { pins: ['A1'], name: 'first' }, count: 1, note: '' };
  const view = new Tracked<Shown>({ subscribe: () => () => {}, now: () => shown }, within);
  const change = (part: Partial<Shown>) => {
    shown = { ...shown, ...part };
  };
  return { read: view.snapshot, change };
}

describe('one subscriber’s view', () => {
  test('is another object only when something it has read is another value', () => {
    const { read, change } = tracked();
    const first = read();
    expect(first.count).toBe(1);
    change({ note: 'said' });
    expect(read()).toBe(first);
    change({ count: 2 });
    const second = read();
    expect(second).not.toBe(first);
    expect(second.count).toBe(2);
  });
  test('keeps what was not read up to date without a word', () => {
    const { read, change } = tracked();
    const view = read();
    change({ note: 'said' });
    expect(read()).toBe(view);
    expect(view.note).toBe('said');
    change({ note: 'and again' });
    expect(read()).not.toBe(view);
  });
  test('notes the parts of what stands within one by one', () => {
    const { read, change } = tracked(['plan']);
    const first = read();
    expect(first.plan.name).toBe('first');
    change({ plan: { pins: ['A1', 'A2'], name: 'first' } });
    expect(read()).toBe(first);
    expect(first.plan.pins).toEqual(['A1', 'A2']);
    change({ plan: { pins: ['A1', 'A2'], name: 'second' } });
    expect(read().plan.name).toBe('second');
  });
  test('takes all of it where it is not noted part by part', () => {
    const { read, change } = tracked();
    const first = read();
    expect(first.plan.name).toBe('first');
    change({ plan: { ...first.plan } });
    expect(read()).not.toBe(first);
  });
});

import { describe, expect, jest, test } from '@jest/globals';
import { Marks } from '~/app/parts/findings/marks';
import { findingsOf } from '~/core/rules';
import { demoBuild } from '../helpers';

const findings = findingsOf(demoBuild()).filter(({ where }) => where?.type === 'device');
const [first] = findings;
const key = first.where?.type === 'device' ? `device ${first.where.deviceId}` : '';

describe('marks at the things findings are about', () => {
  test('a thing of which the same is said keeps its list, so that nothing is drawn again', () => {
    const marks = new Marks();
    marks.set(findings);
    const before = marks.at(key);
    expect(before).toContain(first);
    marks.set([...findings]);
    expect(marks.at(key)).toBe(before);
    marks.set(findings.map((one) => (one === first ? { ...first, detail: 'otherwise' } : one)));
    expect(marks.at(key)).not.toBe(before);
    marks.set([]);
    expect(marks.at(key)).toEqual([]);
  });
  test('a mark that is gone does not open by itself when it comes back', () => {
    const marks = new Marks();
    const gone = marks.show(key);
    const twice = marks.show(key);
    marks.open(key);
    gone();
    expect(marks.openedKey()).toBe(key);
    twice();
    expect(marks.has(key)).toBe(false);
    expect(marks.openedKey()).toBeNull();
  });
  test('who listens is told once for each change, and not for none', () => {
    const marks = new Marks();
    const heard = jest.fn();
    marks.subscribe(heard);
    marks.open(key);
    marks.open(key);
    marks.open(null);
    expect(heard).toHaveBeenCalledTimes(2);
  });
});

import { describe, expect, test } from '@jest/globals';
import { call } from '~/core/edits';
import { derive } from '~/core/derive/derive';
import { nextStep, standingOf } from '~/core/derive/standing';
import type { Build } from '~/core/build/schema';
import { sheetIds } from '~/core/rules/rule';
import { demoBuild, edited, emptyBuild } from '../../helpers';

const next = (build: Build) => nextStep(derive(build));

describe('the next thing to do', () => {
  const demo = demoBuild();
  test('an empty build wants its devices first', () =>
    expect(next(emptyBuild())).toEqual(['survey', 'Put what is on the engine on the list.']));
  test('devices without any pin want to be allotted, before anything else is wrong', () => {
    const none = { ...demo, assignments: {}, locked: [], shared: {} };
    expect(next(none)[0]).toBe('allot');
    expect(next(none)[1]).toMatch(/^Allot 3\d needs to pins\.$/);
  });
  test('what stops the build comes before what is merely open', () => {
    const turned: Build = { ...demo, outputOrder: 'in-turn' };
    const stop = derive(turned).findings.find(({ severity }) => severity === 'stop')!;
    expect(next(turned)).toEqual([stop.sheet, `Mend what stops it: ${stop.title}.`]);
  });
  test('a wrong reading comes before the wires still to be proved', () =>
    expect(next(demo)).toEqual(['prove', 'Mend 1 reading that is wrong.']));
  test('then what is to be fixed, then the wires', () => {
    const unread: Build = { ...demo, prove: { ...demo.prove, readings: {} } };
    expect(next(unread)[1]).toMatch(/^Look at [A-Z]{2}-\d+: /);
    const fixes = derive(unread).findings.filter(({ severity }) => severity === 'fix');
    const set = fixes.map(({ id, rule, detail }) =>
      call('setAside', { findingId: id, rule, detail, by: 'AB', reason: 'A test.', at: '2026-01-01T00:00:00.000Z' }),
    );
    const aside = edited(unread, ...set);
    expect(next(aside)).toEqual(['prove', 'Prove 148 wires.']);
  });
});

test('where a build stands is plain data: nine shares, the counts and the sentence', () => {
  const said = standingOf(derive(demoBuild()));
  expect(JSON.parse(JSON.stringify(said))).toEqual(said);
  expect(said.sheets).toHaveLength(sheetIds.length);
  for (const share of said.sheets) {
    expect(share).toBeGreaterThanOrEqual(0);
    expect(share).toBeLessThanOrEqual(1);
  }
  const findings = derive(demoBuild()).findings.filter(({ aside }) => aside === null);
  expect(said.stops).toBe(findings.filter(({ severity }) => severity === 'stop').length);
  expect(said.fixes).toBe(findings.filter(({ severity }) => severity === 'fix').length);
});

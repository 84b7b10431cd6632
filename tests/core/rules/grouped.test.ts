import { describe, expect, test } from '@jest/globals';
import { groupFindings, timesWords } from '~/core/rules/grouped';
import { netlist } from '~/core/netlist/netlist';
import { runRule, type Finding, type Rule } from '~/core/rules/rule';
import { findingsOf } from '~/core/rules';
import { demoBuild } from '../../helpers';

const finding = (part: Partial<Finding>): Finding => ({
  id: 'X-1',
  rule: 'X-1',
  severity: 'fix',
  title: 'Number past the last',
  detail: '',
  source: '',
  sheet: 'allot',
  where: null,
  remedy: null,
  aside: null,
  before: null,
  ...part,
});

describe('findings of one rule', () => {
  test('that say the same of several places are one group, in the order of the first', () => {
    const all = [
      finding({ id: 'a' }),
      finding({ id: 'b', rule: 'X-2', title: 'Another' }),
      finding({ id: 'c' }),
      finding({ id: 'd', severity: 'stop' }),
      finding({ id: 'e', title: 'Said otherwise' }),
    ];
    expect(groupFindings(all).map(({ findings }) => findings.map(({ id }) => id))).toEqual([
      ['a', 'c'],
      ['b'],
      ['d'],
      ['e'],
    ]);
  });
  test('no finding of a real build is lost or told twice', () => {
    const findings = findingsOf(demoBuild());
    const ids = groupFindings(findings).flatMap((group) => group.findings.map(({ id }) => id));
    expect([...ids].sort()).toEqual(findings.map(({ id }) => id).sort());
  });
  test('how often, in words', () =>
    expect([1, 2, 4, 12].map(timesWords)).toEqual(['once', 'twice', 'four times', '12 times']));
});

describe('a rule that throws', () => {
  const broken: Rule = {
    id: 'X-9',
    family: 'Plan',
    severity: 'stop',
    title: 'Pins counted',
    source: 'none',
    sheet: 'allot',
    check: () => {
      throw new TypeError('no such pin');
    },
  };
  test('costs one finding, which says what is not known', () => {
    const build = demoBuild();
    const net = netlist(build);
    const context = { build, net, devices: net.devices, library: [], proof: () => ({}) as never, beside: null };
    const found = runRule(broken, context);
    expect(found).toHaveLength(1);
    expect(found[0]).toMatchObject({ id: 'X-9:broken', rule: 'X-9', severity: 'fix', sheet: 'allot', remedy: null });
    expect(found[0].detail).toMatch(/Pins counted.*no such pin/);
  });
});

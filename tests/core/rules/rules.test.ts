import { readFileSync } from 'node:fs';
import { describe, expect, test } from '@jest/globals';
import { applyEdit, call } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import { countFindings, findingsOf, rules } from '~/core/rules';
import { stubLimitMetres } from '~/core/rules/bus';
import { sheetIds } from '~/core/rules/rule';
import { netlist } from '~/core/netlist/netlist';
import type { Selection } from '~/core/netlist/run';
import { demoBuild, ecu, edited, emptyBuild, twinBuild } from '../../helpers';
import { groundShifts } from '~/core/circuit/ground-shift';
import { solveCircuit } from '~/core/circuit/solve';
import { formatMillivolts } from '~/core/units/format';
import { cases } from './cases';

const demo = demoBuild();

const hits = (build: Build, id: string) => findingsOf(build).filter((finding) => finding.rule === id);

/** Whether what a finding points at is in a build. */
function stands(build: Build, where: Selection): boolean {
  const net = netlist(build);
  switch (where.type) {
    case 'need':
      return net.needs.some(({ id }) => id === where.needId);
    case 'wire':
      return net.wireById.has(where.wireId);
    case 'device':
      return build.devices.some(({ id }) => id === where.deviceId);
    case 'end':
      return net.nodeOf.has(where.end);
  }
}
/**
 * Rules that are kept by another thing in the place of the one that breaks them: an injector, a gauge, a wire of another kind; or,
 * for the immobiliser and a stray crimp, by its being gone.
 */
const ABOUT_ABSENCE = new Set(['OE-7', 'OE-8', 'BB-9', 'BB-11', 'PL-11', 'PL-12']);
describe.each(rules.map((rule) => [rule.id, rule] as const))('%s', (id, rule) => {
  const found = cases[id];
  test('finds the build that breaks it, with figures in a sentence', () => {
    const [finding] = hits(found.bad, id);
    expect(finding).toBeDefined();
    expect(finding.detail).toMatch(/[.!]$/);
    expect(finding.title.length).toBeGreaterThan(5);
    expect(rule.source.length).toBeGreaterThan(5);
    expect(sheetIds).toContain(rule.sheet);
  });
  test('is silent where the rule is kept, on a build that has what it speaks of', () => {
    const good = found.good ?? demo;
    expect(hits(good, id)).toEqual([]);
    // A build without the thing would keep every rule about it.
    const [{ where }] = hits(found.bad, id);
    if (!ABOUT_ABSENCE.has(id)) expect(where === null || stands(good, where)).toBe(true);
  });
  test('its remedy, where it offers one, takes the finding away', () => {
    for (const finding of hits(found.bad, id)) {
      if (!finding.remedy) continue;
      const mended = edited(found.bad, ...finding.remedy.calls);
      expect(findingsOf(mended).map((one) => one.id)).not.toContain(finding.id);
    }
  });
});

describe('one setting of units reaches every sentence', () => {
  const psi = { pressure: 'psi', temperature: 'F', mixture: 'AFR', workshop: 'inch' } as const;
  test.each(Object.entries(cases))('%s', (_, { bad }) => {
    for (const finding of findingsOf({ ...bad, units: psi })) {
      const said = `${finding.title} ${finding.detail} ${finding.remedy?.label ?? ''}`;
      expect(said).not.toMatch(/kPa|°C|\d kW|cc\/min|\d mm(?!²)|\d m\b|\d km\/h|\d cc\b/);
    }
  });
});

test('docs/rules.md lists every rule as it is', () => {
  const rows = readFileSync('docs/rules.md', 'utf8')
    .split('\n')
    .filter((line) => /^\| [A-Z]{2}-\d/.test(line))
    .map((line) =>
      line
        .split('|')
        .slice(1, -1)
        .map((cell) => cell.trim()),
    );
  expect(rows).toEqual(rules.map((rule) => [rule.id, rule.family, rule.severity, rule.title, rule.source]));
});

test('families, ids and order', () => {
  expect(new Set(rules.map((rule) => rule.family))).toEqual(
    new Set(['Plan', 'Order', 'Trigger', 'Sensors', 'Power', 'Loom', 'Bus and body']),
  );
  expect(new Set(rules.map((rule) => rule.id)).size).toBe(rules.length);
  const severities = findingsOf(cases['OE-1'].bad).map((finding) => finding.severity);
  expect(severities).toEqual([...severities].sort((a, b) => 'stop fix note'.indexOf(a) - 'stop fix note'.indexOf(b)));
  expect(countFindings(findingsOf(demo))).toEqual({ stop: 0, fix: 3, note: 7, aside: 0 });
  expect(countFindings(findingsOf(twinBuild())).stop).toBe(0);
});

test('a nearly empty build does not break a rule by crashing', () => {
  for (const id of ['orrery-26', 'orrery-48', 'orrery-94'])
    expect(Array.isArray(findingsOf(emptyBuild(4, id)))).toBe(true);
  expect(ecu('orrery-26').outputOrder).toBe('in-turn');
});

test('stubs: 0.3 m at 1 Mbit/s', () => {
  expect(stubLimitMetres(1000)).toBeCloseTo(0.3, 12);
  expect(stubLimitMetres(500)).toBeCloseTo(0.6, 12);
});

describe('set aside', () => {
  const at = '2026-03-01T10:00:00.000Z';
  const aside = (build: Build, id: string, reason = 'Looked at, left so.') => {
    const { rule, detail } = findingsOf(build).find((one) => one.id === id)!;
    return call('setAside', { findingId: id, rule, detail, by: 'AB', reason, at });
  };
  const found = (build: Build, id: string) => findingsOf(build).find((one) => one.id === id)!;
  test('a finding, a stop too, stays in sight with initials and reason, and is not counted', () => {
    const stopped = cases['OE-1'].bad;
    const left = edited(stopped, aside(stopped, 'OE-1'));
    expect(found(left, 'OE-1').aside).toMatchObject({ by: 'AB', reason: 'Looked at, left so.' });
    const [before, after] = [countFindings(findingsOf(stopped)), countFindings(findingsOf(left))];
    expect([after.stop, after.aside]).toEqual([before.stop - 1, 1]);
    expect(findingsOf(left).at(-1)!.id).toBe('OE-1');
    expect(found(edited(left, call('takeUp', { findingId: 'OE-1' })), 'OE-1').aside).toBeNull();
  });
  test('falls back when its figures change, and tells that it was set aside before', () => {
    const build = edited(demo, call('setFuel', { powerKw: 900 }));
    const left = edited(build, aside(build, 'OE-10'));
    expect(found(left, 'OE-10').aside).not.toBeNull();
    const more = found(edited(left, call('setFuel', { powerKw: 950 })), 'OE-10');
    expect(more.aside).toBeNull();
    expect(more.before).toMatchObject({ by: 'AB' });
  });
  test('restraint, interlock and redundancy cannot', () => {
    for (const rule of ['BB-3', 'BB-10', 'SE-12']) {
      const { bad } = cases[rule];
      const finding = findingsOf(bad).find((one) => one.rule === rule)!;
      for (const said of [rule, 'LO-1']) {
        const result = applyEdit(bad, 'setAside', {
          findingId: finding.id,
          rule: said,
          detail: finding.detail,
          by: 'AB',
          reason: 'no',
          at,
        });
        expect(result).toMatchObject({ ok: false, problem: { code: 'binding' } });
      }
      // Nor by a file that was written by hand.
      const forged: Build = {
        ...bad,
        aside: { [finding.id]: { rule, by: 'AB', reason: 'no', at, detail: finding.detail } },
      };
      expect(found(forged, finding.id).aside).toBeNull();
    }
  });
  test('needs initials and a reason', () => {
    const base = { findingId: 'LO-7', rule: 'LO-7', detail: 'x', at };
    for (const args of [
      { ...base, by: ' ', reason: 'why' },
      { ...base, by: 'AB', reason: '  ' },
    ])
      expect(applyEdit(demo, 'setAside', args).ok).toBe(false);
  });
});

describe('figures in the sentences, worked by hand', () => {
  test.each([
    // Two ends of 120 ohms in parallel are 60; one alone is 120 (ISO 11898-2).
    ['BB-1', /1 termination, 120 Ω .* exactly two, 60 Ω/],
    // Five cylinders over 720 degrees: 144 apart, so none is 360 from another.
    ['OE-3', /1 at 0° and 3 at 180°/],
    // 7200 rpm is 8.333 ms a turn; a coil of its own fires once in two: 16.67 ms, less 18 ms of dwell.
    ['OE-5', /16\.7 ms apart; 18 ms dwell leaves -1\.3 ms/],
    // 13.5 V / 2.40 ohms = 5.63 A; 10.0 - 2.4 = 7.6 ohms, in E12 (IEC 60063) the next is 8.2.
    ['OE-7', /5\.6 A at 13\.5 V.* 8\.20 Ω each \(E12\)/],
    // 1 mm2 carries 16.5 A alone (common practice); three loaded in a bundle 0.70 (IEC 60364-5-52 B.52.17); 60 °C around a wire
    // for 125 °C: sqrt((125 - 60) / (125 - 30)) = 0.827. 16.5 x 0.70 x 0.827 = 9.55 A.
    ['PW-1', /1 mm² carries 10\.8 A/],
    // 12.0 A on a fuse of 10 A.
    ['PW-2', /12\.0 A through a 10 A fuse, 120 % of it/],
    // (96.5 + 260) x 1.10 = 392.15.
    ['SE-3', /96\.5 kPa and 260\.0 kPa of boost with 10 % reserve is 392\.[12] kPa/],
    // Two of 2.49 kilohms side by side are 1.245.
    ['SE-9', /2\.49 kΩ in the ECU and 2\.49 kΩ outside make 1\.25 kΩ/],
    // Three windings, 0.2 A asked for each.
    ['PL-8', /100 mA together; .* ask 0\.6 A/],
  ] as const)('%s', (id, says) => {
    expect(hits(cases[id].bad, id)[0].detail).toMatch(says);
  });
});

test('SE-2 says what is known at once, and how far a sensor stands off once that is solved', () => {
  const { bad } = cases['SE-2'];
  const [at] = findingsOf(bad, netlist(bad), [], null).filter(({ rule }) => rule === 'SE-2');
  expect(at).toMatchObject({ waits: true, detail: expect.stringMatching(/returns to the body: what the loads draw/) });
  const shift = groundShifts(bad, netlist(bad), solveCircuit(bad, netlist(bad), 'running')).find(({ ground }) =>
    ground.includes('clt-ntc-1'),
  )!;
  const [{ detail, waits }] = hits(bad, 'SE-2');
  expect(waits).toBeUndefined();
  expect(detail).toContain(`${formatMillivolts(shift.shiftVolts)} above the ECU’s`);
});

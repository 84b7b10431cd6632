import { describe, expect, test } from '@jest/globals';
import { call } from '~/core/edits';
import { netlist } from '~/core/netlist/netlist';
import { probeMoves, proveTests } from '~/core/prove/tests';
import type { ProveTest } from '~/core/prove/prove-test';
import { judge, progressOf } from '~/core/prove/verdict';
import { demoBuild, edited, emptyBuild, twinBuild } from '../../helpers';

const build = demoBuild();
const net = netlist(build);
const tests = proveTests(build, net);
const by = (kind: ProveTest['kind']) => tests.filter((one) => one.kind === kind);

describe('the test sheet', () => {
  test.each([build, twinBuild(), emptyBuild()].map((one) => [one.name, one] as const))(
    '%s: every wire is under a continuity test, every id once',
    (_, one) => {
      const list = netlist(one);
      const sheet = proveTests(one, list);
      const covered = new Set(sheet.flatMap((row) => row.wireIds));
      expect(list.wires.filter((wire) => !covered.has(wire.id)).map((wire) => wire.id)).toEqual([]);
      expect(new Set(sheet.map((row) => row.id)).size).toBe(sheet.length);
    },
  );
  test('keeps one probe still: fewer moves than any shuffled order tried', () => {
    const moves = probeMoves(tests);
    const stride = (step: number) => tests.map((_, i) => tests[(i * step) % tests.length]);
    for (const step of [7, 11, 13]) expect(moves).toBeLessThan(probeMoves(stride(step)));
    expect(probeMoves([])).toBe(0);
  });
  test('never tests the same pair of cavities twice', () => {
    const pairs = by('isolation').map((one) => [one.hold, one.touch].sort().join());
    expect(new Set(pairs).size).toBe(pairs.length);
  });
  test('does not ask isolation of what is joined', () => {
    for (const one of by('isolation')) expect(net.nodeOf.get(one.hold)).not.toBe(net.nodeOf.get(one.touch));
  });
  test('expects the wire’s own ohms, two contacts each', () => {
    const one = by('continuity').find((row) => row.touch === 'dev:coil-igniter-3.C')!;
    expect(one.expected).toBeCloseTo(net.wireById.get(one.wireIds[0])!.ohms + 0.01, 9);
    const spliced = by('continuity').find((row) => row.touch === 'dev:clt-ntc-1.2')!;
    expect(spliced.wireIds).toHaveLength(2);
  });
  test('follows the firing-order school', () => {
    const expected = (order: 'in-turn' | 'by-cylinder') => {
      const one = edited(build, call('setOutputOrder', { outputOrder: order }));
      return proveTests(one, netlist(one))
        .filter((row) => row.kind === 'order')
        .map((row) => row.expected);
    };
    expect(expected('by-cylinder')).toEqual([1, 2, 3, 4, 5, 1, 2, 3, 4, 5]);
    expect(expected('in-turn')).toEqual([1, 2, 4, 5, 3, 1, 2, 4, 5, 3]);
  });
});

describe('verdicts', () => {
  const wire = by('continuity')[0];
  const apart = by('isolation')[0];
  const order = by('order')[2];
  test.each([
    [wire, wire.expected! + 0.1, 0.1, 'right'],
    [wire, null, 0.1, 'open'],
    [wire, 3, 0.1, 'high'],
    [wire, 400, 0.1, 'high'],
    [wire, 0.01, 0.2, 'below-leads'],
    [apart, null, 0.1, 'right'],
    [apart, 2e6, 0.1, 'right'],
    [apart, 0.3, 0.1, 'joined'],
    [apart, 40_000, 0.1, 'leak'],
    [order, 3, 0.1, 'right'],
    [order, 4, 0.1, 'wrong-cylinder'],
    [order, null, 0.1, 'wrong-cylinder'],
  ] as const)('%# gives %s', (one, value, leads, code) => {
    const verdict = judge(one, value, leads);
    expect(verdict.code).toBe(code);
    expect(verdict.right).toBe(code === 'right');
    expect(verdict.sentence.length).toBeGreaterThan(10);
  });
  test('leads are taken off: the same reading with longer leads is right', () => {
    const value = wire.limit + 0.2;
    expect(judge(wire, value, 0).right).toBe(false);
    expect(judge(wire, value, 0.3).right).toBe(true);
  });
});

describe('progress', () => {
  const reading = (value: number | null, title = 't') => ({
    value,
    at: '2026-03-01T10:00:00.000Z',
    by: '',
    note: '',
    title,
  });
  test('counts proved wires, wrong readings and what is left', () => {
    const progress = progressOf(build, net, tests);
    expect(progress.wires).toBe(net.wires.length);
    expect(progress.proved.size).toBeGreaterThan(15);
    expect(progress.wrong).toBe(1);
    expect(progress.fallen).toEqual([]);
  });
  test('a changed wire loses its proof, visibly, and undo would bring it back', () => {
    const moved = edited(build, call('assign', { needId: 'relay-fan-1.85', pinId: 'A8' }));
    const list = netlist(moved);
    const progress = progressOf(moved, list, proveTests(moved, list));
    expect(progress.proved.has('ecu:A8~relay:fan-1.85')).toBe(false);
    // Isolation readings of the moved wires fall with them, those of others stay.
    const fallen = progress.fallen.map(({ testId }) => testId);
    expect(fallen.filter((id) => id.startsWith('i|')).every((id) => /ecu:A[78]>/.test(id))).toBe(true);
    expect(fallen.filter((id) => id.startsWith('c|'))).toHaveLength(2);
    expect(progress.fallen.map(({ reading: one }) => one.title)).toContain('A7 to Fan 1 relay · 85');
    expect(progress.proved.size).toBe(progressOf(build, net, tests).proved.size - 2);
  });
  test('a wrong reading proves nothing', () => {
    const one = by('continuity').find((row) => !build.prove.readings[row.id])!;
    const bad = edited(build, call('recordReading', { testId: one.id, reading: reading(null) }));
    expect(progressOf(bad, net, tests).proved.has(one.wireIds[0])).toBe(false);
    const good = edited(bad, call('recordReading', { testId: one.id, reading: reading(0.2) }));
    expect(progressOf(good, net, tests).proved.has(one.wireIds[0])).toBe(true);
  });
});

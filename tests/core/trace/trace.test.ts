import { describe, expect, test } from '@jest/globals';
import { ohmsBetween, solveCircuit, voltsBetween } from '~/core/circuit/model';
import { netlist } from '~/core/netlist/netlist';
import { coneOf, hypothesesFor, type Hypothesis } from '~/core/trace/hypotheses';
import { symptomsOf } from '~/core/trace/symptoms';
import { traceFaults } from '~/core/trace/trace';
import { testsFor, type TraceTest } from '~/core/trace/tests';
import { demoBuild, emptyBuild, twinBuild } from '../../helpers';

const build = demoBuild();
const net = netlist(build);
const at = '2026-03-01T10:00:00.000Z';
const symptom = (id: string) => symptomsOf(net).find((one) => one.id === id)!;

/** What a meter would show with the fault really there. */
function measure(test: TraceTest, hidden: Hypothesis): number | null {
  const solution = solveCircuit(build, net, test.state, hidden.fault);
  return test.mode === 'ohms'
    ? ohmsBetween(solution, test.plus, test.minus)
    : voltsBetween(solution, test.plus, test.minus);
}

describe('symptoms', () => {
  test.each(symptomsOf(net).map((one) => [one.id, one] as const))('%s has faults, tests and a next step', (id, one) => {
    const cone = coneOf(build, net, one);
    expect(hypothesesFor(build, net, one, cone).length).toBeGreaterThan(4);
    expect(testsFor(build, net, one, cone).length).toBeGreaterThan(2);
    const answer = traceFaults(build, net, { symptomId: id, readings: [] })!;
    expect(answer.candidates.length).toBeGreaterThan(3);
    const total = answer.candidates.reduce((sum, candidate) => sum + candidate.probability, 0);
    expect(total).toBeLessThanOrEqual(1 + 1e-9);
    expect(answer.next.length).toBeGreaterThan(0);
  });
  test('an unknown one is null', () => {
    expect(traceFaults(build, net, { symptomId: 'none', readings: [] })).toBeNull();
    expect(symptomsOf(netlist(emptyBuild())).map((one) => one.id)).toEqual(['ecu-dead', 'no-sync']);
    expect(symptomsOf(netlist(twinBuild())).some((one) => one.id === 'dead:fan-1')).toBe(true);
  });
});

/** Follows the tool's own advice on a loom with a hidden fault, until it names it or runs out of steps. */
function follow(symptomId: string, hiddenId: string, steps = 8): { rank: number; readings: number } {
  const one = symptom(symptomId);
  const hidden = hypothesesFor(build, net, one, coneOf(build, net, one)).find(
    (hypothesis) => hypothesis.id === hiddenId,
  );
  if (!hidden) throw new Error(`no hypothesis ${hiddenId}`);
  const readings: { testId: string; value: number | null; at: string }[] = [];
  for (let step = 0; step < steps; step += 1) {
    const answer = traceFaults(build, net, { symptomId, readings })!;
    const next = answer.next.find(({ test }) => test.mode === 'volts' || test.mode === 'ohms');
    if (!next || answer.candidates[0].probability > 0.9) break;
    readings.push({ testId: next.test.id, value: measure(next.test, hidden), at });
  }
  const answer = traceFaults(build, net, { symptomId, readings })!;
  return { rank: answer.candidates.findIndex((candidate) => candidate.id === hiddenId), readings: readings.length };
}

describe('following the advice finds the hidden fault', () => {
  test.each([
    ['dead:fan-1', 'blown-fuse:fan-1'],
    ['dead:fan-1', 'not-driven:A7'],
    ['dead:fan-1', 'open:dev:fan-1.1~relay:fan-1.87'],
    ['dead:fan-1', 'open:dev:fan-1.2~gnd:chassis'],
    ['dead:fan-1', 'open:relay:fan-1.86~splice:main'],
    ['wrong:clt-ntc-1', 'open:dev:clt-ntc-1.1~ecu:B10'],
    ['wrong:map-3bar-1', 'short-to-ground:dev:map-3bar-1.3~ecu:B16'],
    ['ecu-dead', 'blown-fuse:main'],
    ['dead:injector-high-2', 'open:dev:injector-high-2.2~ecu:A2'],
    ['dead:coil-igniter-4', 'open:dev:coil-igniter-4.C~ecu:A14'],
  ])('%s: %s', (symptomId, hiddenId) => {
    const found = follow(symptomId, hiddenId);
    // Among the first two: a fault and its neighbour on one bare wire may read alike.
    expect(found.rank).toBeGreaterThanOrEqual(0);
    expect(found.rank).toBeLessThanOrEqual(1);
  });
});

test('each reading is weighed in words, and a contrary one lowers its fault', () => {
  const testId = 'v|outputs-on|fuse:fan-1.2';
  const before = traceFaults(build, net, { symptomId: 'dead:fan-1', readings: [] })!.candidates.find(
    (one) => one.id === 'blown-fuse:fan-1',
  )!;
  const answer = traceFaults(build, net, { symptomId: 'dead:fan-1', readings: [{ testId, value: 11.7, at }] })!;
  const after = answer.candidates.find((one) => one.id === 'blown-fuse:fan-1');
  expect(after?.probability ?? 0).toBeLessThan(before.probability / 5);
  expect(answer.candidates[0].evidence[0].sentence).toMatch(/this fault gives .* measured 11\.70 V/);
  expect(answer.candidates[0].evidence[0].agrees).toBe(true);
});

test('the wrong wheel is found by counting teeth, swapped leads by exchanging them', () => {
  const best = (testId: string, value: number) =>
    traceFaults(build, net, { symptomId: 'no-sync', readings: [{ testId, value, at }] })!.candidates[0].id;
  expect(best('n|teeth', 35)).toBe('setting:wrong-wheel');
  expect(best('a|swap-leads', 1)).toBe('setting:leads-swapped');
});

test('progress is reported to the end', () => {
  const seen: number[] = [];
  traceFaults(build, net, { symptomId: 'ecu-dead', readings: [] }, (done, of) => seen.push(done / of));
  expect(seen[0]).toBe(0);
  expect(seen[seen.length - 1]).toBe(1);
});

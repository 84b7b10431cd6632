import { describe, expect, test } from '@jest/globals';
import { call } from '~/core/edits';
import { meterVolts } from '~/core/circuit/reading';
import { solveCircuit } from '~/core/circuit/solve';
import type { Fault, Joint } from '~/core/circuit/faults';
import { netlist } from '~/core/netlist/netlist';
import { coneOf } from '~/core/trace/hypotheses';
import { symptomsOf } from '~/core/trace/symptoms';
import { stateOf, testsFor } from '~/core/trace/tests';
import { drivenFor, traceFaults } from '~/core/trace/trace';
import type { Build } from '~/core/build/schema';
import { demoBuild, edited } from '../../helpers';

/* Faults as a car has them: of any size, beside what is looked at, and measured straight. */

const build = demoBuild();
const net = netlist(build);
const at = '2026-03-01T10:00:00.000Z';
const symptom = (id: string, of = net) => symptomsOf(of).find((one) => one.id === id)!;
const answered = (symptomId: string, readings: readonly (readonly [string, number | null])[], of: Build = build) =>
  traceFaults(of, of === build ? net : netlist(of), {
    symptomId,
    readings: readings.map(([testId, value]) => ({ testId, value, at })),
  })!;
/** What a meter shows at these tests with the fault there. */
function shown(symptomId: string, fault: Fault, ids: readonly string[], of: Build = build) {
  const own = of === build ? net : netlist(of);
  const one = symptom(symptomId, own);
  const tests = testsFor(of, own, one, coneOf(of, own, one));
  return ids.map((id) => {
    const found = tests.find((candidate) => candidate.id === id);
    if (!found) throw new Error(`no test ${id}`);
    const solution = solveCircuit(of, own, found.state, fault, drivenFor(of, own, one));
    return [id, Number(meterVolts(solution, found.plus, found.minus)!.toFixed(2))] as const;
  });
}

describe('a bolted joint is as bad as it is', () => {
  const joints: readonly (readonly [Joint, string])[] = [
    ['battery-plus', 'v|outputs-on|bat:post|bat:+'],
    ['body', 'v|outputs-on|gnd:chassis'],
  ];
  test.each(joints.flatMap(([joint, own]) => [0.3, 0.4, 0.55, 0.92, 1].map((ohms) => [joint, ohms, own] as const)))(
    '%s, %d ohm, is found and told about as bad',
    (joint, ohms, own) => {
      const readings = shown('dead:fan-1', { type: 'poor-joint', joint, ohms }, [own, 'v|outputs-on|dev:fan-1.1']);
      const [first] = answered('dead:fan-1', readings).candidates;
      expect(first!.id).toBe(`poor-joint:${joint}`);
      expect(first!.probability).toBeGreaterThan(0.5);
      const [, said] = /about ([\d.]+) Ω/.exec(first!.title)!;
      expect(Number(said) / ohms).toBeGreaterThan(0.7);
      expect(Number(said) / ohms).toBeLessThan(1.4);
    },
  );
});

describe('what a symptom hangs on', () => {
  test('of what is fed from the main feed the main fuse, its relay and the trunk', () => {
    const cone = coneOf(build, net, symptom('dead:boost-solenoid-1'));
    expect(cone.parts).toEqual(expect.arrayContaining(['fuse:main', 'relay:main']));
    expect(cone.wires.map(({ id }) => id)).toEqual(
      expect.arrayContaining(['fuse:main.2~relay:main.30', 'relay:main.87~splice:main']),
    );
  });
  test('another sensor that pulls the 5 V down is found by what is read at the one that is looked at', () => {
    const fault: Fault = { type: 'supply-shorted', deviceId: 'throttle-motor-1' };
    const one = symptomsOf(net).find(({ type, deviceId }) => type === 'wrong-reading' && deviceId?.startsWith('map'))!;
    const tests = testsFor(build, net, one, coneOf(build, net, one)).filter(
      ({ id, plus }) => id.startsWith('v|') && (plus.startsWith(`dev:${one.deviceId}`) || plus.startsWith('ecu:')),
    );
    const readings = shown(
      one.id,
      fault,
      tests.map(({ id }) => id),
    );
    const found = answered(one.id, readings).candidates.map(({ id }) => id);
    expect(found.slice(0, 8)).toContain('supply-shorted:throttle-motor-1');
  });
});

describe('what was measured straight is not talked away', () => {
  test('2.04 ohm in the wire to a fan: a bad contact there, not the fan itself', () => {
    const wire = 'dev:fan-1.1~relay:fan-1.87';
    const { candidates } = answered('dead:fan-1', [[`r|${wire}`, 2.04]]);
    expect(candidates[0]!.id).toBe(`resistive:${wire}`);
    expect(candidates[0]!.probability).toBeGreaterThan(0.6);
    expect(candidates.find(({ id }) => id === 'device-open:fan-1')?.probability ?? 0).toBeLessThan(0.05);
  });
  test('a starter that the key pulls in is looked at with the key at start, and its feed is found', () => {
    const keyed = edited(build, call('setPower', { starting: 'key' }));
    const own = netlist(keyed);
    expect(stateOf(keyed, own, symptom('dead:starter-1', own))).toBe('start');
    const wire = 'dev:starter-1.50~relay:starter-1.87';
    const { candidates, tests } = answered('dead:starter-1', [[`r|${wire}`, 2.04]], keyed);
    expect(tests.some(({ id }) => id === 'v|start|dev:starter-1.50')).toBe(true);
    expect(candidates[0]!.id).toBe(`resistive:${wire}`);
  });
  test('its own test does not work it: an open wire says so as much as the part itself', () => {
    const [id] = ['a|own-plug|injector-high-1'];
    const before = answered('dead:injector-high-1', []).candidates;
    const after = answered('dead:injector-high-1', [[id!, 0]]).candidates;
    const wire = 'open:dev:injector-high-1.1~splice:injectors';
    const share = (all: typeof before) => all.find((one) => one.id === wire)!.probability;
    // It is no longer weighed as if the answer said nothing of it.
    expect(share(after)).toBeGreaterThan(0.5 * share(before));
    const worked = answered('dead:injector-high-1', [[id!, 1]]).candidates;
    expect(worked.find((one) => one.id === wire)?.probability ?? 0).toBeLessThan(0.2 * share(before));
  });
});

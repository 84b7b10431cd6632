import { describe, expect, test } from '@jest/globals';
import { meterVolts, ohmsBetween, voltsBetween } from '~/core/circuit/reading';
import { compile } from '~/core/circuit/compile';
import { solveAsShown } from '~/core/circuit/pulses';
import { scenarioOf } from '~/core/circuit/scenario';
import { solveCircuit, type Solution } from '~/core/circuit/solve';
import { pulsedOf } from '~/core/circuit/pulsed';
import { netlist } from '~/core/netlist/netlist';
import { coneOf, hypothesesFor, type Hypothesis } from '~/core/trace/hypotheses';
import { symptomsOf, type Symptom } from '~/core/trace/symptoms';
import type { Build } from '~/core/build/schema';
import { seeded } from '~/core/trigger/synth';
import { drivenFor, traceFaults } from '~/core/trace/trace';
import { testsFor, type TraceTest } from '~/core/trace/tests';
import { deviceEnd } from '~/core/ends/ends';
import { endNamed } from '../../ends';
import { demoBuild, emptyBuild, twinBuild } from '../../helpers';

const build = demoBuild();
const net = netlist(build);
const at = '2026-03-01T10:00:00.000Z';
const symptom = (id: string) => symptomsOf(net).find((one) => one.id === id)!;

/**
 * The car the meter is on is not the drawing: every branch is up to a third longer or shorter, the battery has its own voltage, and the
 * meter has leads, an error of its own and three figures. The tool knows the drawing only.
 */
const random = seeded(20_261_127);
const car: Build = {
  ...build,
  devices: build.devices.map((device) => ({ ...device, branchMetres: device.branchMetres * (0.7 + 0.6 * random()) })),
  loom: { ...build.loom, slackMetres: build.loom.slackMetres + 0.15 },
};
const carNet = netlist(car);
const BATTERY_SHARE = 0.97;
const LEADS_OHMS = 0.2;

/** What the meter shows on that car with the fault really there. */
function measure(test: TraceTest, hidden: Hypothesis, one: Symptom): number | null {
  // Only what is tested is switched on.
  const driven = drivenFor(car, carNet, one);
  const solution = solveCircuit(car, carNet, test.state, hidden.fault, driven);
  const shown = (value: number) => Number(value.toPrecision(3)) * (1 + 0.01 * (random() - 0.5));
  if (test.mode === 'ohms') {
    const ohms = ohmsBetween(solution, test.plus, test.minus);
    return ohms === null ? null : shown(ohms + LEADS_OHMS);
  }
  const within = meterVolts(solution, test.plus, test.minus);
  // An injector or a coil is pulsed: the meter shows the mean of what stands within a pulse and between two.
  const pulsed = test.state === 'outputs-on' ? pulsedOf(carNet, driven) : new Set<string>();
  const rest = new Set([...driven].filter((pin) => !pulsed.has(pin)));
  const between = meterVolts(solveCircuit(car, carNet, test.state, hidden.fault, rest), test.plus, test.minus);
  const volts = within === null || between === null ? null : 0.05 * within + 0.95 * between;
  return volts === null ? null : Number((shown(volts * BATTERY_SHARE) + 0.02 * (random() - 0.5)).toFixed(2));
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
    readings.push({ testId: next.test.id, value: measure(next.test, hidden, one), at });
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
    ['dead:fan-1', 'open:relay:fan-1.86~splice:windings'],
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

test('one output is driven at a time: a fan is told against a battery that nothing else pulls down', () => {
  const [fan, injector] = [symptom('dead:fan-1'), symptom('dead:injector-high-2')];
  expect([...drivenFor(build, net, fan)]).toEqual(['A7']);
  expect([...drivenFor(build, net, injector)]).toEqual(['A2']);
  const closed = (pins: ReadonlySet<string> | null) => [
    ...solveCircuit(build, net, 'outputs-on', null, pins).closedRelays,
  ];
  expect(closed(drivenFor(build, net, fan)).sort()).toEqual(['coils', 'fan-1', 'injectors', 'main']);
  expect(closed(null)).toEqual(expect.arrayContaining(['fan-1', 'fan-2', 'pump', 'starter-1']));
  const atFan = (pins: ReadonlySet<string> | null) =>
    voltsBetween(solveCircuit(build, net, 'outputs-on', null, pins), deviceEnd('fan-1', '1'), deviceEnd('fan-1', '2'))!;
  // 12 mohm inside the battery times what pump, second fan and starter draw.
  expect(atFan(drivenFor(build, net, fan)) - atFan(null)).toBeGreaterThan(0.3);
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
  // A whole loom reads the same: that is no support for whatever leaves this place as it is.
  expect(answer.candidates[0].evidence[0].agrees).toBeNull();
  const low = traceFaults(build, net, { symptomId: 'dead:fan-1', readings: [{ testId, value: 0.02, at }] })!;
  expect(low.candidates.find(({ id }) => id === 'blown-fuse:fan-1')!.evidence[0].agrees).toBe(true);
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

describe('readings as a car gives them, worked by hand', () => {
  const top = (symptomId: string, readings: [testId: string, value: number | null][]) =>
    traceFaults(build, net, {
      symptomId,
      readings: readings.map(([testId, value]) => ({ testId, value, at })),
    })!.candidates.map(({ id }) => id);
  test('a fan with 12.4 V before its fuse and nothing behind it has a blown fuse', () => {
    // Kirchhoff: no current flows, so the whole battery stands across the open fuse.
    const named = top('dead:fan-1', [
      ['v|outputs-on|fuse:fan-1.1', 12.4],
      ['v|outputs-on|fuse:fan-1.2', 0.02],
    ]);
    expect(named[0]).toBe('blown-fuse:fan-1');
  });
  test('a fan with 12.2 V at both of its terminals has lost its ground', () => {
    // No current, no drop: the motor's far terminal stands at the supply.
    const named = top('dead:fan-1', [
      ['v|outputs-on|dev:fan-1.1', 12.2],
      ['v|outputs-on|dev:fan-1.2', 12.2],
    ]);
    expect(named[0]).toMatch(/^open:(dev:fan-1\.2|gnd)/);
  });
  test('a coolant pin at 4.97 V is an open line, one at 0.01 V lies on ground', () => {
    // The pull-up alone: no current, so no drop across it. On ground: all of it.
    expect(top('wrong:clt-ntc-1', [['v|key-on|ecu:B10', 4.97]])[0]).toMatch(/^open:/);
    // A pin without its pull-up reads the same: the two stand side by side until a meter tells them apart.
    const low = top('wrong:clt-ntc-1', [['v|key-on|ecu:B10', 0.01]]).slice(0, 3);
    expect(low.some((id) => id.startsWith('short-to-ground:'))).toBe(true);
    expect(low).toContain('no-pull-up:B10');
  });
  test('a clamp that is corroded: the whole car sags with the load, and not one fan', () => {
    // The fan's 13.5 A and 3 A besides are 0.76 ohm to 12.2 V; with 0.2 ohm before the clamp and 0.012 inside, 12.5 A run, 2.5 V are
    // lost on the clamp, and 9.5 V stand there and everywhere behind it.
    const named = top('dead:fan-1', [
      ['v|outputs-on|bat:+', 9.5],
      ['v|outputs-on|fuse:fan-1.1', 9.5],
      ['v|outputs-on|dev:fan-1.1', 9.2],
    ]);
    expect(named[0]).toMatch(/^poor-joint:battery-/);
    // Which of the two: the probe goes from the post to its clamp.
    const plus = top('dead:fan-1', [
      ['v|outputs-on|bat:+', 9.5],
      ['v|outputs-on|bat:post|bat:+', 2.5],
    ]);
    expect(plus[0]).toBe('poor-joint:battery-plus');
  });
  test('0.7 ohm in the feed of a fan is a bad contact there, told with about how many ohms', () => {
    // The fan is about 0.78 ohm: of 12 V it keeps 12 x 0.78 / (0.78 + 0.7 + 0.03) = 6.2.
    const answer = traceFaults(build, net, {
      symptomId: 'dead:fan-1',
      readings: [
        ['v|outputs-on|relay:fan-1.87', 12],
        ['v|outputs-on|dev:fan-1.1', 6.2],
        ['v|outputs-on|dev:fan-1.2', 0.08],
      ].map(([testId, value]) => ({ testId: String(testId), value: Number(value), at })),
    })!;
    expect(answer.candidates[0].id).toBe('resistive:dev:fan-1.1~relay:fan-1.87');
    expect(answer.candidates[0].title).toMatch(/about 0\.7\d Ω/);
    expect(answer.candidates[0].probability).toBeGreaterThan(0.5);
  });
  test('a relay with the volts across its winding: its ohms tell a burnt winding from a contact that sticks', () => {
    const before: [string, number | null][] = [
      ['v|outputs-on|relay:fan-1.30', 12.1],
      ['v|outputs-on|relay:fan-1.87', 0.02],
      ['v|outputs-on|relay:fan-1.86', 12.1],
      ['v|outputs-on|relay:fan-1.85', 0.1],
    ];
    const stuck = top('dead:fan-1', [...before, ['r|relay:fan-1|winding', 89]]);
    const burnt = top('dead:fan-1', [...before, ['r|relay:fan-1|winding', null]]);
    expect(stuck[0]).toBe('relay-stuck-open:fan-1');
    expect(burnt[0]).toBe('relay-winding-open:fan-1');
  });
  test('readings that are all as they should be raise what the plan does not hold', () => {
    const share = (readings: [string, number][]) => {
      const answer = traceFaults(build, net, {
        symptomId: 'dead:fan-1',
        readings: readings.map(([testId, value]) => ({ testId, value, at })),
      })!;
      return answer.candidates.find(({ id }) => id === 'not-in-the-model')!.probability;
    };
    const healthy: [string, number][] = [
      ['v|outputs-on|fuse:fan-1.2', 12],
      ['v|outputs-on|relay:fan-1.87', 12],
      ['v|outputs-on|dev:fan-1.1', 11.6],
      ['v|outputs-on|dev:fan-1.2', 0.15],
    ];
    expect(share(healthy)).toBeGreaterThan(5 * share([]));
    expect(share(healthy)).toBeGreaterThan(share(healthy.slice(0, 2)));
  });
  test('the ECU that does not wake: the main fuse is measured on both sides, and the battery’s clamp', () => {
    const { tests } = traceFaults(build, net, { symptomId: 'ecu-dead', readings: [] })!;
    const ids = tests.map(({ id }) => id);
    expect(ids).toEqual(expect.arrayContaining(['v|key-on|fuse:main.1', 'v|key-on|fuse:main.2', 'v|key-on|bat:+']));
    expect(ids).toEqual(expect.arrayContaining(['v|key-on|gnd:head', 'r|relay:main|winding', 'r|fuse:main|body']));
  });
  test('a short behind a fuse opens it: at twice its rating it stands no five seconds (ISO 8820-3)', () => {
    const wire = net.wires.find(({ id }) => id === 'dev:fan-1.1~relay:fan-1.87')!;
    const solution = solveCircuit(
      build,
      net,
      'outputs-on',
      { type: 'short-to-ground', wireId: wire.id },
      new Set(['A7']),
    );
    expect([...solution.blownFuses]).toEqual(['fan-1']);
    expect(Math.abs(voltsBetween(solution, deviceEnd('fan-1', '1'), deviceEnd('fan-1', '2'))!)).toBeLessThan(0.1);
    expect(solveCircuit(build, net, 'running').blownFuses.size).toBe(0);
  });
});

describe('an output that its test pulses', () => {
  test('an injector’s pin stands at 19 parts in 20 of the battery: so it says nothing, and held down it says a short', () => {
    const beyond = (value: number) =>
      traceFaults(build, net, {
        symptomId: 'dead:injector-high-2',
        readings: [{ testId: 'v|outputs-on|ecu:A2', value, at }],
      })!.candidates;
    // 12 V nineteen parts of twenty, and next to nothing in the twentieth: 11.4 V. Held on it would read 0.2 V.
    const [sound, down] = [beyond(11.4), beyond(0.2)];
    const chance = (of: typeof sound, id: string) => of.find((one) => one.id === id)?.probability ?? 0;
    expect(chance(sound, 'not-in-the-model')).toBeGreaterThan(2 * chance(down, 'not-in-the-model'));
    expect(down[0].id).toMatch(/^(open:|blown-fuse:|relay-|short-to-ground:)/);
    const words = sound.flatMap(({ evidence }) => evidence.filter(({ agrees }) => agrees === null));
    expect(words.map(({ sentence }) => sentence).join(' ')).toMatch(/11\.\d+ V/);
  });
  test('a coil’s logic line: a twentieth of 5 V', () => {
    const own = symptom('dead:coil-igniter-4');
    const pulsed = pulsedOf(net, drivenFor(build, net, own));
    expect([...pulsed]).toEqual(['A14']);
    const at = (solution: Solution) => meterVolts(solution, endNamed('ecu:A14'), endNamed('gnd:battery'))!;
    const scenario = scenarioOf(build, net, 'outputs-on', { driven: new Set(['A14']) });
    const { shown, within } = solveAsShown(net, compile(build, net), scenario);
    // Pulled down between two pulses, near 5 V within one.
    expect(at(within!)).toBeGreaterThan(4);
    expect(at(shown)).toBeCloseTo(0.05 * at(within!), 1);
    // Both against the same battery: a pulse pulls none down.
    expect(shown.scenario.source).toEqual(within!.scenario.source);
  });
});

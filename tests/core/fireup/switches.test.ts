import { describe, expect, test } from '@jest/globals';
import type { Build } from '~/core/build/schema';
import { ohmsBetween } from '~/core/circuit/reading';
import { solveCircuit } from '~/core/circuit/solve';
import { call } from '~/core/edits';
import { deviceEnd, ecuEnd, groundEnd } from '~/core/ends/ends';
import { gatesOf } from '~/core/fireup/gates';
import { netlist } from '~/core/netlist/netlist';
import { progressOf } from '~/core/prove/verdict';
import { proveTests } from '~/core/prove/tests';
import { findingsOf } from '~/core/rules';
import { symptomOfCheck, symptomsOf } from '~/core/trace/symptoms';
import { traceFaults } from '~/core/trace/trace';
import { edited, emptyBuild, kind } from '../../helpers';

/** A motorcycle: push-button start held back by clutch and stand, stopped by kill and tilt switch, no alternator. */
const bike: Build = edited(
  emptyBuild(2, 'orrery-48'),
  ...['starter', 'start-button', 'clutch-switch', 'stand-switch', 'kill-switch', 'tilt-switch', 'speed-hall'].map(
    (id) => call('addDevice', { kind: kind(id) }),
  ),
  call('setPower', { starting: 'button', charging: 'none', batteryAh: 12 }),
  call('allotAll', { keep: 'placed' }),
);
const gates = (build: Build) => {
  const net = netlist(build);
  return gatesOf(build, net, progressOf(build, net, proveTests(build, net)), findingsOf(build));
};
const checks = (gate: string, build: Build = bike) => gates(build).find(({ id }) => id === gate)!.checks;
const pinOf = (deviceId: string, build: Build = bike) => build.assignments[`${deviceId}-1.1`];

describe('switches at the gates', () => {
  test('each is read in both states: 5 V through the pull-up at rest, next to nothing when closed', () => {
    const sane = checks('sensors');
    for (const id of ['start-button', 'clutch-switch', 'stand-switch', 'kill-switch', 'tilt-switch']) {
      const rest = sane.find((one) => one.id === `sensor-${id}-1.1`)!;
      expect(rest.text).toContain(pinOf(id));
      expect(rest.low!).toBeGreaterThan(3.9);
      expect(rest.high!).toBeLessThan(6);
      expect(sane.find((one) => one.id === `closed-${id}-1.1`)).toMatchObject({ unit: 'V', low: 0, high: 0.5 });
    }
  });
  test('a pulse input is read in hertz, with the figure at walking pace', () => {
    // 400 Hz at 300 km/h.
    expect(checks('sensors').find((one) => one.id === 'sensor-speed-hall-1.3')).toMatchObject({
      unit: 'Hz',
      hint: 'At 5 km/h it gives 7 Hz.',
    });
  });
  test('what holds the starter back is tried before cranking counts, what stops the engine at the first fire', () => {
    const ids = (gate: string) => checks(gate).flatMap(({ id }) => (id.startsWith('halt-') ? [id] : []));
    expect(ids('cranking')).toEqual(['halt-clutch-switch-1.1', 'halt-stand-switch-1.1']);
    expect(ids('first-fire')).toEqual(['halt-kill-switch-1.1', 'halt-tilt-switch-1.1']);
    // A starter on the key is not the ECU's to hold back.
    const keyed = edited(bike, call('setPower', { starting: 'key' }));
    expect(checks('cranking', keyed).some(({ id }) => id.startsWith('halt-'))).toBe(false);
  });
  test('what was confirmed of a switch falls with its pin', () => {
    const said = edited(
      bike,
      call('confirmCheck', {
        gateId: 'first-fire',
        checkId: 'halt-kill-switch-1.1',
        confirmation: { at: '2026-11-28T09:00:00Z', by: 'AB', value: null },
      }),
    );
    const check = (build: Build) => checks('first-fire', build).find(({ id }) => id === 'halt-kill-switch-1.1')!;
    expect(check(said).met).toBe(true);
    const free = said.ecu.pins.find(
      ({ id, abilities }) =>
        abilities.some((one) => one.kind === 'switch') && !Object.values(said.assignments).includes(id),
    )!;
    const moved = edited(said, call('assign', { needId: 'kill-switch-1.1', pinId: free.id }));
    expect(check(moved)).toMatchObject({ met: false, fallen: true });
  });
});

describe('a switch the ECU does not see', () => {
  const net = netlist(bike);
  test('is a symptom, and the check that failed leads to it', () => {
    expect(symptomsOf(net).find(({ deviceId }) => deviceId === 'kill-switch-1')).toMatchObject({ type: 'no-change' });
    expect(symptomOfCheck(net, 'sensors', 'closed-kill-switch-1.1')).toBe('still:kill-switch-1');
  });
  test('held closed, the volts at the pin tell the open wire from the lost ground', () => {
    const pin = ecuEnd(pinOf('kill-switch'));
    const far = deviceEnd('kill-switch-1', '1');
    const reading = (end: string, value: number) => ({ testId: `v|key-on|${end}`, value, at: '2026-11-28T09:00:00Z' });
    // 5 V at the pin and nothing at the switch: the signal wire is open.
    const open = traceFaults(bike, net, {
      symptomId: 'still:kill-switch-1',
      readings: [reading(pin, 5), reading(far, 0)],
    })!;
    expect(open.candidates[0].title).toMatch(/^Wire open/);
    expect(open.tests.find(({ id }) => id === `v|key-on|${pin}`)!.how).toContain('the switch held closed');
    // 5 V at both: its ground is missing, or the switch itself is open.
    const lost = traceFaults(bike, net, {
      symptomId: 'still:kill-switch-1',
      readings: [reading(pin, 5), reading(far, 5)],
    })!;
    expect(
      lost.candidates
        .slice(0, 2)
        .map((one) => one.title.split(':')[0])
        .sort(),
    ).toEqual(['Ground missing', 'Kill switch itself is open']);
  });
});

describe('earthed by its body', () => {
  const build = edited(
    emptyBuild(4),
    ...['starter', 'oil-switch', 'gauge-sender-oil'].map((id) => call('addDevice', { kind: kind(id) })),
  );
  const net = netlist(build);
  test('no wire goes to it, and the circuit goes through all the same', () => {
    for (const end of [
      deviceEnd('starter-1', '31'),
      deviceEnd('oil-switch-1', 'B'),
      deviceEnd('gauge-sender-oil-1', 'B'),
    ])
      expect(net.wires.some(({ from, to }) => from === end || to === end)).toBe(false);
    // 1.4 ohm of the winding in the catalog, 10 mohm where it is bolted on.
    const off = solveCircuit(build, net, 'unplugged');
    expect(ohmsBetween(off, deviceEnd('starter-1', '50'), groundEnd('head'))!).toBeCloseTo(1.41, 2);
  });
});

describe('no alternator', () => {
  test('it is told how long the battery lasts, and no lamp is missed', () => {
    const found = findingsOf(bike);
    expect(found.some(({ rule }) => rule === 'PW-11')).toBe(false);
    const told = found.find(({ rule }) => rule === 'PW-13')!;
    // The starter does not count: 12 Ah x 0.8 over what runs.
    const amps = netlist(bike)
      .circuits.filter(({ id, source }) => source !== 'main' && id !== 'starter-1')
      .reduce((sum, { loadAmps }) => sum + loadAmps, 0);
    expect(told.detail).toContain(`${((12 * 0.8) / amps).toFixed(1)} hours`);
  });
  test('with an alternator on the list it is told that the two do not agree', () => {
    const both = edited(bike, call('addDevice', { kind: kind('alternator') }));
    expect(findingsOf(both).find(({ rule }) => rule === 'PW-13')).toMatchObject({ severity: 'fix' });
  });
});

test('what a first fire needs, and what can wait', () => {
  const told = (build: Build) => findingsOf(build).find(({ rule }) => rule === 'PL-13')?.detail;
  expect(told(emptyBuild(4))).toBeUndefined();
  const begun = edited(emptyBuild(4), call('addDevice', { kind: kind('injector-high'), perCylinder: true }));
  expect(told(begun)).toContain('crank sensor or another trigger reference');
  expect(told(begun)).toContain('can wait until it runs');
  const whole = edited(
    begun,
    ...['crank-vr', 'map-1bar', 'clt-ntc', 'fuel-pump'].map((id) => call('addDevice', { kind: kind(id) })),
  );
  expect(told(whole)).toBeUndefined();
  const carburettor = edited(
    emptyBuild(4),
    call('setEngine', { engine: { ...begun.engine, injection: 'none' } }),
    call('addDevice', { kind: kind('crank-vr') }),
  );
  expect(told(carburettor)).toBeUndefined();
});

describe('sensors within the ECU', () => {
  const own = edited(
    { ...emptyBuild(4), ecu: { ...emptyBuild(4).ecu, inside: { manifoldKpa: 250, barometer: true } } },
    call('setSite', { altitudeMetres: 1500, ambientCelsius: 20 }),
    call('addDevice', { kind: kind('manifold-hose') }),
  );
  test('both must show the barometer of the place: 84.6 kPa at 1500 m (ISO 2533)', () => {
    const manifold = checks('sensors', own).find(({ id }) => id === 'inside-manifold')!;
    expect(manifold.unit).toBe('kPa');
    expect((manifold.low! + manifold.high!) / 2).toBeCloseTo(84.56, 1);
    expect(manifold.high! - manifold.low!).toBeCloseTo(2 * (3 + 0.015 * 250), 1);
    expect(checks('sensors', own).some(({ id }) => id === 'inside-barometer')).toBe(true);
    expect(checks('sensors', bike).some(({ id }) => id.startsWith('inside-'))).toBe(false);
  });
  test('its range is held against the boost, as that of any manifold sensor', () => {
    const boosted = (boostKpa: number) =>
      findingsOf(
        edited(own, call('setEngine', { engine: { ...own.engine, aspiration: 'boosted' as const, boostKpa } })),
      ).some(({ rule }) => rule === 'SE-3');
    expect([boosted(100), boosted(180)]).toEqual([false, true]);
  });
  test('without its hose the list lacks a load sensor, and is told that a hose will do', () => {
    const begun = edited({ ...own, devices: [] }, call('addDevice', { kind: kind('crank-vr') }));
    expect(findingsOf(begun).find(({ rule }) => rule === 'PL-13')!.detail).toContain('a hose to it will do');
    expect(findingsOf(own).find(({ rule }) => rule === 'PL-13')!.detail).not.toContain('load sensor');
  });
});

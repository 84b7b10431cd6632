import { describe, expect, test } from '@jest/globals';
import { call } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import { gateOfFinding } from '~/core/fireup/findings';
import { gatesOf, type Gate } from '~/core/fireup/gates';
import { netlist } from '~/core/netlist/netlist';
import { expectation } from '~/core/sensing/judge';
import { sensorsOf } from '~/core/sensing/sensor';
import { proveTests } from '~/core/prove/tests';
import { progressOf } from '~/core/prove/verdict';
import { offsetConfirmed } from '~/core/prove/evidence';
import { findingsOf, rules } from '~/core/rules';
import { proved, settled } from '../../proved';
import { demoBuild, edited, kind, wheel } from '../../helpers';

const at = '2026-03-01T10:00:00.000Z';

function gates(build: Build): Gate[] {
  const net = netlist(build);
  const tests = proveTests(build, net);
  return gatesOf(build, net, progressOf(build, net, tests), findingsOf(build, net));
}

/** Confirms every check of a gate that a person may confirm. */
const confirmed = (build: Build, gateId: string): Build =>
  edited(
    build,
    ...gates(build)
      .find((gate) => gate.id === gateId)!
      .checks.filter((check) => check.kind !== 'auto')
      .map((check) =>
        call('confirmCheck', {
          gateId,
          checkId: check.id,
          confirmation: { at, by: 'AB', value: check.low === null ? null : (check.low + check.high!) / 2 },
        }),
      ),
  );

describe('evidence', () => {
  const swap = (build: Build, one: string, other: string): Build => ({
    ...build,
    assignments: { ...build.assignments, [one]: build.assignments[other], [other]: build.assignments[one] },
  });
  const gateOf = (build: Build, id: string) => gates(build).find((gate) => gate.id === id)!;
  test('a key-on reading belongs to the pin it was taken on: two sensors swapped and proved anew are read anew', () => {
    const read = edited(
      demoBuild(),
      call('recordSensing', { sensorId: 'map-3bar-1.3', reading: { atPin: 1.6, shown: null, at, by: '' } }),
    );
    const check = (build: Build) => gateOf(build, 'sensors').checks.find((one) => one.id === 'sensor-map-3bar-1.3')!;
    expect(check(read)).toMatchObject({ kind: 'auto', met: true });
    const swapped = proved(swap(read, 'map-3bar-1.3', 'oil-pressure-1.3'));
    expect(check(swapped)).toMatchObject({ kind: 'reading', met: false });
    expect(findingsOf(swapped).find(({ rule }) => rule === 'SE-14')?.detail).toMatch(/Read it again/);
    // Changed back, the reading stands again: it was taken on just this wire.
    expect(check(swap(swapped, 'map-3bar-1.3', 'oil-pressure-1.3'))).toMatchObject({ kind: 'auto', met: true });
  });
  test('the gate and sheet 1 judge one reading by one band, over the whole range of every sensor', () => {
    const demo = demoBuild();
    const apart: string[] = [];
    let tried = 0;
    for (const { id } of sensorsOf(demo, netlist(demo)))
      for (let volts = 0.1; volts < 5; volts += 0.3) {
        const read = edited(
          demo,
          call('recordSensing', {
            sensorId: id,
            reading: { atPin: Math.round(volts * 100) / 100, shown: null, at, by: '' },
          }),
        );
        const check = gateOf(read, 'sensors').checks.find((one) => one.id === `sensor-${id}`);
        const { value } =
          expectation(
            demo.site,
            sensorsOf(read, netlist(read)).find((one) => one.id === id)!,
          ) ?? {};
        if (check?.kind !== 'auto' || value === undefined) continue;
        tried += 1;
        const said = findingsOf(read).find(({ rule, id: of }) => rule === 'SE-10' && of.includes(id));
        if (check.met !== (said === undefined || said.severity === 'note'))
          apart.push(`${id} at ${volts.toFixed(2)} V`);
      }
    expect(tried).toBeGreaterThan(60);
    expect(apart).toEqual([]);
  });
  test('another part on the same pin is read anew', () => {
    const read = edited(
      demoBuild(),
      call('recordSensing', { sensorId: 'clt-ntc-1.1', reading: { atPin: 2.6, shown: null, at, by: '' } }),
      call('changeKind', { deviceId: 'clt-ntc-1', kind: kind('clt-ntc-3k') }),
    );
    expect(gateOf(read, 'sensors').checks.find(({ id }) => id === 'sensor-clt-ntc-1.1')?.kind).toBe('reading');
  });
  test('a confirmed output belongs to its wire and its cylinder', () => {
    const build = confirmed(demoBuild(), 'outputs');
    const outputs = (one: Build) => gateOf(one, 'outputs').checks.filter(({ id }) => id.startsWith('output-'));
    expect(outputs(build).every(({ met }) => met)).toBe(true);
    const [a, b] = ['coil-igniter-1.C', 'coil-igniter-2.C'];
    const swapped = outputs(swap(build, a, b));
    expect(swapped.filter(({ fallen }) => fallen)).toHaveLength(2);
    expect(swapped.filter(({ met }) => !met)).toHaveLength(2);
    const turned = outputs(edited(build, call('setOutputOrder', { outputOrder: 'in-turn' })));
    expect(turned.some(({ fallen }) => fallen)).toBe(true);
  });
  test('a reading of the light belongs to the wheel and the ECU', () => {
    const lit = edited(demoBuild(), call('readLight', { at, rpm: 250, seenDegrees: demoBuild().trigger.lockDegrees }));
    expect(offsetConfirmed(lit)).toBe(true);
    const other: Build = { ...lit, ecu: { ...lit.ecu, id: 'another' } };
    expect(offsetConfirmed(other)).toBe(false);
    const wheeled: Build = { ...lit, trigger: { ...lit.trigger, crankWheel: wheel('36-1') } };
    expect(offsetConfirmed(wheeled)).toBe(false);
    // Striking the newest reading does not bring back one of another wheel.
    const back = edited(
      edited(wheeled, call('readLight', { at, rpm: 250, seenDegrees: 4, keepOffset: true })),
      call('dropLight', { index: lit.trigger.readings.length }),
    );
    expect(back.trigger.offsetConfirmed).toBe(false);
    const shared = edited(lit, call('setEngine', { engine: { ...lit.engine, ignition: 'distributor' } }));
    expect(offsetConfirmed(shared)).toBe(false);
  });
  test('locks that were closed are open again when a pin has moved', () => {
    const build = confirmed(demoBuild(), 'bench');
    const locks = (one: Build) => gateOf(one, 'bench').checks.find(({ id }) => id === 'locks')!;
    expect(locks(build).met).toBe(true);
    expect(locks(edited(build, call('assign', { needId: 'relay-fan-1.85', pinId: 'A8' })))).toMatchObject({
      met: false,
      fallen: true,
    });
  });
});

describe('findings at the gates', () => {
  test('each to fix is named by the gate it concerns, and keeps it from passing until it is mended or set aside', () => {
    const build = proved(demoBuild());
    const fixes = findingsOf(build).filter(({ severity }) => severity === 'fix');
    expect(fixes.length).toBeGreaterThan(0);
    for (const fix of fixes) {
      const gate = gates(build).find(({ id }) => id === gateOfFinding(fix))!;
      expect(gate.checks.find(({ id }) => id === `fix-${fix.id}`)).toMatchObject({ met: false, kind: 'auto' });
    }
    for (const gate of gates(settled(build))) expect(gate.checks.some(({ id }) => id.startsWith('fix-'))).toBe(false);
  });
  test('every rule concerns a gate there is', () => {
    const ids = gates(demoBuild()).map(({ id }) => id);
    for (const rule of rules) expect(ids).toContain(gateOfFinding({ rule: rule.id }));
  });
  test('a starter is told as one', () => {
    const build = edited(
      demoBuild(),
      call('addDevice', { kind: kind('starter') }),
      call('setPower', { starting: 'button' }),
      call('allotAll', { keep: 'most' }),
    );
    const start = gates(build)
      .find(({ id }) => id === 'outputs')!
      .checks.find(({ text }) => /Starter/.test(text))!;
    expect(start.hint).toMatch(/out of gear/);
    expect(start.hint).not.toMatch(/fan/);
  });
});

describe('gates', () => {
  test('stand in order and each has a caution or an aim, and checks', () => {
    expect(gates(demoBuild()).map((gate) => gate.id)).toEqual([
      'bench',
      'battery',
      'key',
      'sensors',
      'outputs',
      'cranking',
      'timing',
      'first-fire',
    ]);
    for (const gate of gates(demoBuild())) {
      expect(gate.aim.length).toBeGreaterThan(10);
      expect(gate.checks.length).toBeGreaterThan(0);
    }
  });
  test('are all shut while a wire is unproved', () => {
    for (const gate of gates(demoBuild())) {
      expect(gate.status).toBe('shut');
      expect(gate.blockers.join()).toMatch(/wires are not proved/);
    }
  });
  test('stay shut with every check confirmed while a stop finding stands', () => {
    const stopped = confirmed(edited(proved(demoBuild()), call('setOutputOrder', { outputOrder: 'in-turn' })), 'bench');
    expect(gates(stopped)[0].status).toBe('shut');
    expect(gates(stopped)[0].blockers.join()).toMatch(/say stop/);
  });
  test('open one after the other on evidence, to the last', () => {
    let build = settled(proved(demoBuild()));
    const ids = gates(build).map((gate) => gate.id);
    for (const [index, id] of ids.entries()) {
      expect(gates(build)[index].status).toBe('open');
      if (index + 1 < ids.length) expect(gates(build)[index + 1].status).toBe('shut');
      build = confirmed(build, id);
      if (id === 'timing') build = edited(build, call('readLight', { at, rpm: 250, seenDegrees: 10 }));
      expect(gates(build)[index].status).toBe('passed');
    }
    // A moved pin takes the wires' proof, and with it every gate.
    const moved = edited(build, call('assign', { needId: 'relay-fan-1.85', pinId: 'A8' }));
    expect(gates(moved).every((gate) => gate.status === 'shut')).toBe(true);
  });
  test('a reading out of its band does not pass', () => {
    const build = confirmed(settled(proved(demoBuild())), 'bench');
    const bad = edited(
      confirmed(build, 'battery'),
      call('confirmCheck', { gateId: 'battery', checkId: 'drain', confirmation: { at, by: 'AB', value: 2 } }),
    );
    expect(gates(bad)[1].status).toBe('open');
  });
  test('takes a key-on reading that was judged on sheet 1, and is not met by a wrong one', () => {
    const check = (build: Build) =>
      gates(build)
        .find((gate) => gate.id === 'sensors')!
        .checks.find((one) => one.id === 'sensor-map-3bar-1.3')!;
    expect(check(demoBuild())).toMatchObject({ kind: 'auto', met: true });
    expect(check(demoBuild()).text).toMatch(/1\.61 V read with the key on/);
    const read = (atPin: number | null) =>
      edited(
        demoBuild(),
        call('recordSensing', {
          sensorId: 'map-3bar-1.3',
          reading: atPin === null ? null : { atPin, shown: null, at, by: '' },
        }),
      );
    expect(check(read(4.2))).toMatchObject({ kind: 'auto', met: false });
    expect(check(read(null)).kind).toBe('reading');
  });
  test('expects the barometer of the place from the manifold sensor', () => {
    const check = (build: Build) =>
      gates(build)
        .find((gate) => gate.id === 'sensors')!
        .checks.find((one) => one.id.includes('map-3bar'))!;
    const unread = edited(demoBuild(), call('recordSensing', { sensorId: 'map-3bar-1.3', reading: null }));
    expect(check(demoBuild()).hint).toMatch(/96\.5 kPa at 410 m/);
    expect(check(edited(unread, call('setSite', { altitudeMetres: 2500, ambientCelsius: 10 }))).high!).toBeLessThan(
      check(unread).high!,
    );
  });
});

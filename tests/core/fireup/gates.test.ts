import { describe, expect, test } from '@jest/globals';
import { call } from '~/core/build/edits';
import type { Build } from '~/core/build/schema';
import { gatesOf, type Gate } from '~/core/fireup/gates';
import { netlist } from '~/core/netlist/netlist';
import { proveTests } from '~/core/prove/tests';
import { progressOf } from '~/core/prove/verdict';
import { countFindings, findingsOf } from '~/core/rules';
import { demoBuild, edited } from '../../helpers';

const at = '2026-03-01T10:00:00.000Z';

function gates(build: Build): Gate[] {
  const net = netlist(build);
  const tests = proveTests(build, net);
  return gatesOf(build, net, progressOf(build, net, tests), countFindings(findingsOf(build, net)));
}

/** The demo with every test read right. */
function proved(build: Build): Build {
  const net = netlist(build);
  return edited(
    build,
    ...proveTests(build, net).map((one) =>
      call('recordReading', {
        testId: one.id,
        reading: {
          value:
            one.kind === 'order'
              ? one.expected
              : one.kind === 'isolation'
                ? null
                : one.expected! + build.prove.leadOhms,
          at,
          by: 'AB',
          note: '',
          title: one.title,
        },
      }),
    ),
  );
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
    expect(gates(stopped)[0].blockers.join()).toMatch(/says stop/);
  });
  test('open one after the other on evidence, to the last', () => {
    let build = proved(demoBuild());
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
    const build = confirmed(proved(demoBuild()), 'bench');
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

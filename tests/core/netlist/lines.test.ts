import { deviceAt, deviceEnd, endType, spliceEnd, type EndKey } from '~/core/ends/ends';
import { endNamed } from '../../ends';
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { bodySignals } from '~/core/body/signals';
import { call } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import { solveCircuit } from '~/core/circuit/solve';
import { destinationOf } from '~/core/build/destination';
import { netlist } from '~/core/netlist/netlist';
import { proveTests } from '~/core/prove/tests';
import { findingsOf } from '~/core/rules';
import { edited, emptyBuild, kind } from '../../helpers';

const parts = [
  'oil-switch',
  'gauge-sender-temperature',
  'gauge-sender-oil',
  'alternator',
  'reverse-switch',
  'starter',
  'warning-lamp',
  'relay-plain',
  'coil-bare',
  'igniter-2',
];

const anyBuild = fc
  .record({
    cavities: fc.array(fc.constantFrom(...bodySignals.map((signal) => signal.id)), { minLength: 1, maxLength: 12 }),
    second: fc.array(fc.constantFrom(...bodySignals.map((signal) => signal.id)), { maxLength: 5 }),
    devices: fc.array(fc.constantFrom(...parts), { maxLength: 6 }),
    drive: fc.constantFrom('low-side', 'logic', 'coil-negative' as const),
    lamp: fc.boolean(),
  })
  .map(({ cavities, second, devices, drive, lamp }): Build => {
    const plug = (name: string, signals: typeof cavities) =>
      call('setBodyPlug', {
        deviceId: null,
        name,
        cavities: signals.map((signal, index) => ({ cavity: String(index + 1), colour: '', signal, note: '' })),
        pulsesPerTurn: 2,
        drive,
      });
    let build = edited(emptyBuild(4, 'orrery-94'), plug('One', cavities));
    if (second.length > 0) build = edited(build, plug('Two', second));
    for (const id of devices) build = edited(build, call('addDevice', { kind: kind(id) }));
    for (const device of build.devices) {
      if (device.kindId === 'alternator' && lamp)
        build = edited(
          build,
          call('setDestination', {
            deviceId: device.id,
            terminalId: 'L',
            destination: { to: 'line', line: 'charge-lamp' },
          }),
        );
      if (device.kindId === 'coil-bare')
        build = edited(
          build,
          call('setDestination', {
            deviceId: device.id,
            terminalId: '1',
            destination: { to: 'line', line: 'spark-1' },
          }),
        );
    }
    return edited(build, call('allotAll', { keep: 'locked' }));
  });

describe('property: plugs, lines and key feeds of any build', () => {
  test('every end of a line is one node; a lone end has no wire; nothing else is joined to it', () => {
    fc.assert(
      fc.property(anyBuild, (build) => {
        const net = netlist(build);
        const lines = new Map<string, EndKey[]>();
        for (const { device, kind: of } of net.devices)
          for (const terminal of of.terminals) {
            const destination = destinationOf(device, terminal);
            if (destination.to !== 'line') continue;
            lines.set(destination.line, [...(lines.get(destination.line) ?? []), deviceEnd(device.id, terminal.id)]);
          }
        for (const ends of lines.values()) {
          if (ends.length === 1) expect(net.nodeOf.has(ends[0])).toBe(false);
          else {
            const node = net.nodeOf.get(ends[0])!;
            expect(node.ends.filter((end) => endType(end) !== 'splice').sort()).toEqual([...ends].sort());
          }
        }
      }),
      { numRuns: 60 },
    );
  });
  test('the key feeds hang on one plug at most, and every relay or fuse of the key on them', () => {
    fc.assert(
      fc.property(anyBuild, (build) => {
        const net = netlist(build);
        for (const splice of [spliceEnd('key-run'), spliceEnd('key-start')]) {
          const fed = (net.wiresAt.get(splice) ?? []).filter((wire) =>
            [wire.from, wire.to].some((end) => deviceAt(end) !== null),
          );
          expect(fed.length).toBeLessThanOrEqual(1);
          if (fed.length === 1)
            expect(
              net.wiresAt.has(splice === endNamed('splice:key-run') ? endNamed('key:15') : endNamed('key:50')),
            ).toBe(false);
        }
      }),
      { numRuns: 60 },
    );
  });
  test('every wire is under test, the circuit settles, and no rule breaks down', () => {
    fc.assert(
      fc.property(anyBuild, (build) => {
        const net = netlist(build);
        const covered = new Set(proveTests(build, net).flatMap((one) => one.wireIds));
        expect(net.wires.filter((wire) => !covered.has(wire.id)).map((wire) => wire.id)).toEqual([]);
        for (const state of ['unplugged', 'key-on', 'cranking'] as const) {
          const solution = solveCircuit(build, net, state);
          expect(solution.settled).toBe(true);
          expect([...solution.voltages].every((volts) => Number.isFinite(volts) && Math.abs(volts) < 20)).toBe(true);
        }
        for (const finding of findingsOf(build, net)) expect(finding.detail).toMatch(/[.!]$/);
      }),
      { numRuns: 40 },
    );
  });
});

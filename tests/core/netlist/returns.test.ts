import { describe, expect, test } from '@jest/globals';
import { call } from '~/core/edits';
import { deviceEnd, ecuEnd, groundEnd, wireId } from '~/core/ends/ends';
import { ecuReturnAmps } from '~/core/netlist/ecu-return';
import { netlist } from '~/core/netlist/netlist';
import { mostAt } from '~/core/power/runs';
import { surroundings } from '~/core/power/census';
import { carriedAmps } from '~/core/wire/wire';
import { launch } from '~/demo/launch';
import { demoBuild, edited, twinBuild } from '../../helpers';

const back = (device: string, terminal: string, place: 'head' | 'chassis' = 'head') =>
  wireId(deviceEnd(device, terminal), groundEnd(place));

describe('what comes back', () => {
  test('through an igniter: all the primaries it switches, which do not overlap, so their squares add', () => {
    const net = netlist(launch());
    const own = net.power.flows.at.get(deviceEnd('coil-wasted-bare-1', '2'))!.rms;
    const returned = net.wireById.get(back('igniter-3-1', 'G'))!;
    // Three coils of one RMS each, apart in time: its root of three; and the module's own 0.1 A.
    expect(own).toBeGreaterThan(2);
    expect(returned.amps).toBeCloseTo(0.1 + Math.sqrt(3) * own, 2);
    // Each primary's own wire carries that coil's.
    const primary = net.wireById.get(wireId(deviceEnd('coil-wasted-bare-1', '1'), deviceEnd('igniter-3-1', 'O1')))!;
    expect(primary.amps).toBeCloseTo(own, 6);
    expect(primary.squareMm).toBeGreaterThanOrEqual(1);
  });
  test('an igniter without coils sends back its own current', () => {
    const bare = edited(launch(), ...[1, 2, 3].map((n) => call('removeDevice', { deviceId: `coil-wasted-bare-${n}` })));
    expect(netlist(bare).wireById.get(back('igniter-3-1', 'G'))!.amps).toBeCloseTo(0.1, 6);
  });
  test('a return stands what the fuse before its load lets by, up to what its plug takes', () => {
    for (const build of [demoBuild(), twinBuild(), launch()]) {
      const net = netlist(build);
      const around = surroundings(build);
      const { flows, sizes } = net.power;
      let held = 0;
      for (const { load, end } of flows.draws) {
        const fuse = flows.fuseBefore.get(end);
        const device =
          load && net.devices.find((one) => one.kind.terminals.some(({ id }) => deviceEnd(one.device.id, id) === end));
        if (!device || !fuse) continue;
        for (const wire of net.wires) {
          if (wire.deviceId !== device.device.id || wire.signal !== 'ground' || !wire.to.startsWith('gnd:')) continue;
          held += 1;
          const stands = carriedAmps(wire.squareMm, around) >= sizes.fuses.get(fuse)!.amps;
          expect({ wire: wire.id, stands: stands || wire.squareMm >= mostAt(build, wire.from) }).toEqual({
            wire: wire.id,
            stands: true,
          });
        }
      }
      expect(held).toBeGreaterThan(3);
    }
  });
  test('a return that is moved, and one with a switch in it, carry and stand what they did', () => {
    const before = netlist(demoBuild()).wireById.get(back('fuel-pump-1', '2', 'chassis'))!;
    const moved = edited(demoBuild(), call('moveReturn', { end: 'dev:fuel-pump-1.2', to: 'gnd:battery' }));
    const own = netlist(moved).wires.find(({ from }) => from === 'dev:fuel-pump-1.2')!;
    expect([own.amps, own.squareMm, own.signal]).toEqual([before.amps, before.squareMm, 'ground']);
    expect(own.amps).toBe(12);
    const cut = netlist(
      edited(
        moved,
        call('insertInFeed', {
          linkId: own.id,
          part: { kind: 'switch', name: 'Isolator', amps: 30, resting: 'closed' },
        }),
      ),
    );
    const halves = cut.wires.filter(({ id }) => id.includes('switch:switch-1'));
    expect(halves.map(({ amps, squareMm, signal }) => [amps, squareMm, signal])).toEqual([
      [12, before.squareMm, 'ground'],
      [12, before.squareMm, 'ground'],
    ]);
  });
  test('through the ECU: its own current and half of what its outputs pull down, shared by its grounds', () => {
    const build = demoBuild();
    const net = netlist(build);
    const driven = net.needs.filter(
      ({ id, ask }) =>
        build.assignments[id] !== undefined &&
        ['injector', 'low-side', 'ignition-driver', 'half-bridge'].includes(ask.kind),
    );
    const sum = driven.reduce((all, { ask }) => all + (ask.amps ?? 0), 0);
    expect(driven.length).toBeGreaterThan(5);
    expect(ecuReturnAmps(build, net.needs)).toBeCloseTo(build.ecu.ownAmps + sum / 2, 9);
    // Strong outputs on one ground: its wire follows what comes back, not the habit.
    const strong = { ...build, ecu: { ...build.ecu, ownAmps: 60 } };
    const [ground] = strong.ecu.pins.filter(({ abilities }) => abilities[0].kind === 'power-ground');
    const wire = netlist(strong).wireById.get(wireId(ecuEnd(ground.id), groundEnd('head')))!;
    expect(wire.amps).toBeCloseTo((60 + sum / 2) / 3, 6);
    expect(carriedAmps(wire.squareMm, surroundings(strong))).toBeGreaterThanOrEqual(wire.amps);
    expect(wire.squareMm).toBeGreaterThan(1.5);
  });
});

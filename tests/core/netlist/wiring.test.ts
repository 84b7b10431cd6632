import { endOf } from '~/core/ends/ends';
import { endNamed } from '../../ends';
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { catalog } from '~/catalog';
import { call } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import { netlist } from '~/core/netlist/netlist';
import { probeMoves, proveTests } from '~/core/prove/tests';
import { demoBuild, edited, emptyBuild, kind, twinBuild } from '../../helpers';

/** Random builds: any kinds on any ECU, allotted, sometimes with a pin taken away again. */
const anyBuild = fc
  .tuple(
    fc.array(fc.constantFrom(...catalog.kinds), { minLength: 0, maxLength: 12 }),
    fc.constantFrom(...catalog.ecus),
    fc.boolean(),
    fc.constantFrom('battery' as const, 'head' as const),
  )
  .map(([kinds, ecu, drop, ecuGround]): Build => {
    const build = edited(
      emptyBuild(4, ecu.id),
      ...kinds.map((kind) => call('addDevice', { kind })),
      call('setPower', { ecuGround }),
      call('allotAll', { keep: 'locked' }),
    );
    const [first] = Object.keys(build.assignments);
    return drop && first ? edited(build, call('unassign', { needId: first })) : build;
  });

describe('any build', () => {
  test('has a loom that is a forest: copper never makes a ring', () => {
    fc.assert(
      fc.property(anyBuild, (build) => {
        const net = netlist(build);
        const ends = new Set(net.wires.flatMap((wire) => [wire.from, wire.to]));
        expect(net.wires.length).toBe(ends.size - net.nodes.length);
      }),
      { numRuns: 60 },
    );
  });
  test('has every wire under test, and no isolation asked of joined copper', () => {
    fc.assert(
      fc.property(anyBuild, (build) => {
        const net = netlist(build);
        const tests = proveTests(build, net);
        const covered = new Set(tests.flatMap((one) => one.wireIds));
        expect(net.wires.filter((wire) => !covered.has(wire.id))).toEqual([]);
        for (const one of tests) {
          if (one.kind === 'isolation') expect(net.nodeOf.get(one.hold)).not.toBe(net.nodeOf.get(one.touch));
          if (one.kind === 'continuity') expect(one.wireIds.length).toBeGreaterThan(0);
          expect(one.id.length).toBeLessThanOrEqual(200);
        }
        expect(probeMoves(tests)).toBeLessThanOrEqual(tests.length * 2);
      }),
      { numRuns: 60 },
    );
  });
  test('gives each ECU cavity one wire at most', () => {
    fc.assert(
      fc.property(anyBuild, (build) => {
        const net = netlist(build);
        for (const { pin } of net.cavities)
          expect((net.wiresAt.get(endNamed(`ecu:${pin.id}`)) ?? []).length).toBeLessThanOrEqual(1);
      }),
      { numRuns: 60 },
    );
  });
  test('grounds the ECU where the school says', () => {
    fc.assert(
      fc.property(anyBuild, (build) => {
        const net = netlist(build);
        const grounds = build.ecu.pins.filter((pin) => pin.abilities[0].kind === 'power-ground');
        for (const pin of grounds)
          expect(net.nodeOf.get(endNamed(`ecu:${pin.id}`))!.ends).toContain(`gnd:${build.power.ecuGround}`);
      }),
      { numRuns: 30 },
    );
  });
});

describe('colours tell wires apart', () => {
  const builds = () => [demoBuild(), twinBuild()];
  test('supplies of different volts never look alike', () => {
    for (const build of builds()) {
      const net = netlist(build);
      const volts = (wire: (typeof net.wires)[number]) => {
        const node = net.nodeOf.get(wire.from)!;
        const pin = build.ecu.pins.find(
          (one) => node.ends.includes(endNamed(`ecu:${one.id}`)) && one.abilities[0].kind === 'supply-5v',
        );
        return pin ? 5 : 12;
      };
      const of = (level: number) =>
        new Set(
          net.wires.filter((wire) => wire.signal === 'supply' && volts(wire) === level).map(({ colour }) => colour),
        );
      expect([...of(5)].filter((colour) => of(12).has(colour))).toEqual([]);
      expect(of(5).size).toBeGreaterThan(0);
    }
  });
  test('no two wires of one plug look alike, unless they are one copper', () => {
    for (const build of [...builds(), crowded()]) {
      const net = netlist(build);
      const plugs = new Map<string, Map<string, Set<string>>>();
      for (const wire of net.wires)
        for (const end of [wire.from, wire.to]) {
          const ref = endOf(end);
          const connector = ref.of === 'ecu' && build.ecu.pins.find((pin) => pin.id === ref.pin)?.connector;
          const plug = connector ? `ecu ${connector}` : ref.of === 'device' ? ref.device : null;
          if (plug === null) continue;
          const colours = plugs.get(plug) ?? new Map<string, Set<string>>();
          plugs.set(plug, colours);
          colours.set(wire.colour, (colours.get(wire.colour) ?? new Set()).add(net.nodeOf.get(wire.from)!.id));
        }
      for (const [plug, colours] of plugs)
        for (const [colour, coppers] of colours)
          expect({ plug, colour, coppers: coppers.size }).toEqual({ plug, colour, coppers: 1 });
    }
  });
  test('a colour a person chose stays', () => {
    const build = demoBuild();
    const [wire] = netlist(build).wires.filter((one) => one.deviceId === 'pedal-1');
    const chosen = edited(build, call('setWire', { wireId: wire.id, colour: 'BK' }));
    expect(netlist(chosen).wireById.get(wire.id)!.colour).toBe('BK');
  });
});

/** Twenty sensors of the same sort on the largest ECU. */
const crowded = () =>
  edited(
    emptyBuild(8, 'orrery-94'),
    ...['pedal', 'throttle-motor', 'coil-igniter', 'wideband-cell', 'can-io-module'].map((id) =>
      call('addDevice', { kind: kind(id) }),
    ),
    ...Array.from({ length: 12 }, () => call('addDevice', { kind: kind('oil-pressure') })),
    call('allotAll', { keep: 'locked' }),
  );

import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { catalog } from '~/catalog';
import { call } from '~/core/build/edits';
import type { Build } from '~/core/build/schema';
import { netlist } from '~/core/netlist/netlist';
import { probeMoves, proveTests } from '~/core/prove/tests';
import { edited, emptyBuild } from '../../helpers';

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
          expect((net.wiresAt.get(`ecu:${pin.id}`) ?? []).length).toBeLessThanOrEqual(1);
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
          expect(net.nodeOf.get(`ecu:${pin.id}`)!.ends).toContain(`gnd:${build.power.ecuGround}`);
      }),
      { numRuns: 30 },
    );
  });
});

import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { call } from '~/core/edits';
import { deviceAt, endType, pinAt } from '~/core/ends/ends';
import { passingWires } from '~/core/loom/plug';
import { wholeWires } from '~/core/netlist/whole';
import { nowhere } from '~/core/loom/propose-tree';
import { netlist } from '~/core/netlist/netlist';
import { ECU_THING, placesOf } from '~/core/tree/things';
import { noTree, vehicles, type LoomTree } from '~/core/tree/tree';
import { Ways, piecesOf, ringsOf } from '~/core/tree/ways';
import { demoBuilds } from '~/demo';
import { demoBuild, edited, kind } from '../../helpers';

const node = { kind: 'branch' as const, name: '', at: { x: 0, y: 0 }, holds: [] };
const made = (...pieces: readonly (readonly [string, string, number])[]): LoomTree => ({
  ...noTree,
  nodes: Object.fromEntries(pieces.flatMap(([a, b]) => [a, b]).map((id) => [id, node])),
  segments: Object.fromEntries(
    pieces.map(([a, b, metres], i) => [`s${i}`, { a, b, metres, measured: true, zone: 'cabin' as const }]),
  ),
});

describe('ways', () => {
  const ring = made(['a', 'b', 1], ['b', 'c', 1], ['c', 'd', 1], ['d', 'a', 2.5], ['c', 'e', 0.4]);
  test('the shorter way round a ring, and the other where it is asked for', () => {
    const ways = new Ways(ring);
    expect(ways.way('a', 'e')).toEqual({ metres: 2.4, segments: ['s0', 's1', 's4'], nodes: ['a', 'b', 'c', 'e'] });
    expect(ways.by('a', 'e', 's3')).toEqual({
      metres: 3.9,
      segments: ['s3', 's2', 's4'],
      nodes: ['a', 'd', 'c', 'e'],
    });
    expect(ringsOf(ring)).toEqual(['s3']);
    expect(ringsOf(made(['a', 'b', 1], ['b', 'c', 1]))).toEqual([]);
  });
  test('a tree in pieces: no way, and each piece by itself', () => {
    const apart = made(['a', 'b', 1], ['b', 'c', 1], ['x', 'y', 1]);
    expect(new Ways(apart).way('a', 'y')).toBeNull();
    expect(piecesOf(apart)).toEqual([
      ['a', 'b', 'c'],
      ['x', 'y'],
    ]);
  });
  test('any graph: a way is a path of pieces that join, as long as they are together, and none is shorter by one step', () => {
    const graph = fc
      .array(fc.tuple(fc.nat(8), fc.nat(8), fc.integer({ min: 0, max: 30 })), { minLength: 1, maxLength: 20 })
      .map((pieces) => made(...pieces.map(([a, b, tenths]) => [`n${a}`, `n${b}`, tenths / 10] as const)));
    fc.assert(
      fc.property(graph, fc.nat(8), fc.nat(8), (tree, one, other) => {
        const [from, to] = [`n${one}`, `n${other}`];
        fc.pre(tree.nodes[from] !== undefined && tree.nodes[to] !== undefined);
        const ways = new Ways(tree);
        const way = ways.way(from, to);
        const joined = piecesOf(tree).some((piece) => piece.includes(from) && piece.includes(to));
        expect(way !== null).toBe(joined);
        if (!way) return;
        expect([way.nodes[0], way.nodes[way.nodes.length - 1]]).toEqual([from, to]);
        const pieces = way.segments.map((id) => tree.segments[id]!);
        pieces.forEach(({ a, b }, i) => expect([a, b].sort()).toEqual([way.nodes[i], way.nodes[i + 1]].sort()));
        expect(pieces.reduce((sum, { metres }) => sum + metres, 0)).toBeCloseTo(way.metres, 9);
        for (const { a, b, metres } of Object.values(tree.segments))
          if (ways.metres(from, a) < Infinity)
            expect(ways.metres(from, b)).toBeLessThanOrEqual(ways.metres(from, a) + metres + 1e-9);
      }),
    );
  });
});

describe.each(demoBuilds().map((build) => [build.name, build] as const))('%s', (_, build) => {
  test.each(vehicles)(
    'a proposal for a %s puts everything somewhere, and no wire is shorter than its branch was typed',
    (vehicle) => {
      const treed = edited(build, call('proposeTree', { vehicle, engine: 'front' }));
      expect(nowhere(treed)).toEqual([]);
      expect(piecesOf(treed.tree)).toHaveLength(1);
      const net = netlist(treed);
      const straight = net.wires.filter(
        ({ from, to, route }) => pinAt(from) !== null && endType(to) === 'device' && route.length > 0,
      );
      expect(straight.length).toBeGreaterThan(5);
      for (const wire of straight) {
        const { branchMetres } = treed.devices.find(({ id }) => id === deviceAt(wire.to))!;
        expect(wire.lengthMetres).toBeGreaterThanOrEqual(branchMetres + treed.loom.slackMetres - 0.011);
        expect(wire.lengthMetres).toBeLessThanOrEqual(branchMetres + treed.loom.slackMetres + 0.3);
      }
    },
  );
  const treed = edited(build, call('proposeTree', { vehicle: 'car', engine: 'front' }));
  test('a length of a piece is in every wire that lies in it, and in no other', () => {
    const longer = edited(
      treed,
      call('setSegment', { segment: 'wall', changes: { metres: treed.tree.segments.wall!.metres + 0.5 } }),
    );
    const after = netlist(longer).wireById;
    let through = 0;
    for (const wire of netlist(treed).wires) {
      const now = after.get(wire.id)!;
      if (wire.route.includes('wall')) through += 1;
      expect(now.lengthMetres - wire.lengthMetres).toBeCloseTo(wire.route.includes('wall') ? 0.5 : 0, 2);
    }
    expect(through).toBeGreaterThan(10);
  });
  const plugged = edited(
    treed,
    call('plugSegment', { segment: 'wall', metres: 0.1, name: 'Bulkhead', shell: 'bulkhead' }),
  );
  test('a plug in a piece parts every wire that passes it, each half once, and moves no other', () => {
    const [before, after] = [netlist(treed), netlist(plugged)];
    const passing = before.wires.filter(({ route }) => route.includes('wall'));
    const { plug } = plugged.tree.nodes.plug!;
    expect(Object.keys(plug!.wires).sort()).toEqual(passing.map(({ id }) => id).sort());
    expect(new Set(Object.values(plug!.wires)).size).toBe(passing.length);
    for (const wire of before.wires) {
      const halves = after.wires.filter(({ cutOf }) => cutOf === wire.id);
      if (!passing.includes(wire)) {
        const now = after.wireById.get(wire.id);
        expect(now).toMatchObject({ from: wire.from, to: wire.to, route: wire.route, lengthMetres: wire.lengthMetres });
        continue;
      }
      expect(halves).toHaveLength(2);
      const [one, other] = halves;
      expect([one!.from, other!.to]).toEqual([wire.from, wire.to]);
      expect(one!.to).toBe(other!.from);
      expect(endType(one!.to)).toBe('plug');
      // In a plug another may have its colour: then it takes the next of its family, on both sides.
      expect(one!.colour).toBe(other!.colour);
      // Each half has slack of its own.
      const slack = treed.loom.slackMetres;
      expect(one!.lengthMetres + other!.lengthMetres - slack).toBeCloseTo(wire.lengthMetres, 1);
      expect(after.nodeOf.get(one!.from)).toBe(after.nodeOf.get(other!.to));
    }
    expect(after.wires).toHaveLength(before.wires.length + passing.length);
    expect(
      passingWires(plugged, after, 'plug')
        .map(({ id }) => id)
        .sort(),
    ).toEqual(Object.keys(plug!.wires).sort());
    expect([...wholeWires(after).keys()].sort()).toEqual(before.wires.map(({ id }) => id).sort());
  });
  test('what is twisted stands side by side in one row, powers and signals at either end', () => {
    const { plug } = plugged.tree.nodes.plug!;
    const net = netlist(treed);
    const cables = new Map<string, number[]>();
    for (const [id, cavity] of Object.entries(plug!.wires)) {
      const { cable } = net.wireById.get(id)!;
      if (cable !== null) cables.set(cable, [...(cables.get(cable) ?? []), cavity]);
    }
    for (const cavities of cables.values()) {
      cavities.sort((one, other) => one - other);
      expect(cavities[cavities.length - 1]! - cavities[0]!).toBe(cavities.length - 1);
      expect(new Set(cavities.map((one) => Math.floor((one - 1) / plug!.columns))).size).toBe(1);
    }
  });
  test('taken out again the loom is as it was', () => {
    const back = edited(plugged, call('removeTreeNode', { node: 'plug' }));
    expect(netlist(back).wires.map(({ id, lengthMetres }) => [id, lengthMetres])).toEqual(
      netlist(treed).wires.map(({ id, lengthMetres }) => [id, lengthMetres]),
    );
  });
  test('a wire that comes later is led past until it is allotted, and no cavity of another moves', () => {
    const more = edited(plugged, call('addDevice', { kind: kind('knock'), branchMetres: 1.5 }), call('placeRest', {}));
    const placed = edited(more, call('allotAll', { keep: 'placed' }));
    const { wires: before } = plugged.tree.nodes.plug!.plug!;
    expect(placed.tree.nodes.plug!.plug!.wires).toEqual(before);
    const again = edited(placed, call('allotPlug', { node: 'plug', anew: false }));
    expect(again.tree.nodes.plug!.plug!.wires).toMatchObject(before);
  });
});

test('where the ECU stands, and nothing of an empty tree', () => {
  const build = demoBuild();
  const treed = edited(build, call('proposeTree', { vehicle: 'car', engine: 'rear' }));
  expect(placesOf(treed.tree).get(ECU_THING)).toBe('ecu');
  expect(netlist(edited(treed, call('clearTree', {}))).wires).toEqual(
    netlist({ ...build, tree: { ...noTree, engine: 'rear' } }).wires,
  );
});

test('where a ring gives two ways, a wire goes the shorter, or the one it was led by; the others stay', () => {
  const ring = edited(
    demoBuild(),
    call('proposeTree', { vehicle: 'car', engine: 'front' }),
    call('joinTreeNodes', { a: 'ecu', b: 'outside', metres: 2 }),
  );
  const id = 'dev:crank-vr-1.1~ecu:B1';
  const [way] = ringsOf(ring.tree);
  const before = netlist(ring).wireById;
  expect(before.get(id)!.route).toContain('wall');
  const led = netlist(edited(ring, call('leadWire', { wireId: id, segment: way! }))).wireById;
  expect(led.get(id)!.route).toContain(way);
  expect(led.get(id)!.route).not.toContain('wall');
  const { trunk, wall } = ring.tree.segments;
  expect(led.get(id)!.lengthMetres - before.get(id)!.lengthMetres).toBeCloseTo(2 - trunk!.metres - wall!.metres, 2);
  for (const [other, wire] of before) if (other !== id) expect(led.get(other)!.route).toEqual(wire.route);
});

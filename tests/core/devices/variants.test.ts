import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { call } from '~/core/edits';
import { compareVariants, otherDifferences, variantsOf } from '~/core/devices/variants';
import type { DeviceKind } from '~/core/devices/kind';
import { edited, emptyBuild, kind } from '../../helpers';

/** The same part with its terminals renumbered: what sat in the first place sits in the last. */
function renumbered(one: DeviceKind, order: readonly string[]): DeviceKind {
  return {
    ...one,
    id: `${one.id}-other`,
    internals: [],
    traits: one.traits.map((trait) =>
      trait.type === 'sensor'
        ? { ...trait, terminal: order[one.terminals.findIndex(({ id }) => id === trait.terminal)] }
        : trait,
    ),
    terminals: one.terminals.map((terminal, at) => ({ ...terminal, id: order[at] })),
  };
}

describe('two variants side by side', () => {
  test('supply and ground changed over: two wires move, the signal stays', () => {
    const own = kind('map-1bar');
    const turned = renumbered(own, ['2', '1', '3']);
    const found = compareVariants(own, turned);
    expect(found.moves).toEqual([
      { from: '1', to: '2' },
      { from: '2', to: '1' },
    ]);
    expect(found.rows.filter(({ same }) => same).map(({ from }) => from!.id)).toEqual(['3']);
    expect([found.adds, found.leaves, found.otherwise, found.exchangeable]).toEqual([[], [], [], false]);
    expect(compareVariants(own, own).exchangeable).toBe(true);
  });
  test('5 V against 12 V: the same cavity, another supply', () => {
    const found = compareVariants(kind('cam-hall'), kind('cam-hall-12v'));
    expect(found.moves).toEqual([]);
    expect(found.otherwise.map(({ terminal, was }) => [terminal.name, was.to])).toEqual([['supply', 'supply-5v']]);
    expect(found.exchangeable).toBe(false);
  });
  test('two wires against three: what is new and what is left over', () => {
    const found = compareVariants(kind('crank-vr'), kind('crank-hall'));
    expect(found.adds.length + found.leaves.length + found.moves.length).toBeGreaterThan(2);
    expect(otherDifferences(kind('crank-vr'), kind('crank-hall'))[0]).toContain('another input of the ECU');
  });
  test('the variants of a part are of its sort, the nearest first, and never itself', () => {
    const found = variantsOf(kind('map-1bar'), catalog.kinds).map(({ id }) => id);
    expect(found).not.toContain('map-1bar');
    expect(found).toContain('map-3bar');
    expect(
      found.every((id) => kind(id).traits.some((one) => one.type === 'pressure' && one.measures === 'manifold')),
    ).toBe(true);
    expect(variantsOf(kind('crank-hall'), catalog.kinds).map(({ id }) => id)).toEqual(
      expect.arrayContaining(['crank-hall-12v', 'crank-mr', 'crank-vr']),
    );
  });
  // Every pair of one sort: each terminal is accounted for once, and the way back is the way turned round.
  test('for any two of a sort nothing is lost, and back is the same', () => {
    for (const one of catalog.kinds)
      for (const other of variantsOf(one, catalog.kinds)) {
        const there = compareVariants(one, other);
        const ids = (side: 'from' | 'to') => there.rows.flatMap((row) => row[side]?.id ?? []).sort();
        expect(ids('from')).toEqual(one.terminals.map(({ id }) => id).sort());
        expect(ids('to')).toEqual(other.terminals.map(({ id }) => id).sort());
        const back = compareVariants(other, one);
        expect(back.adds.length).toBe(there.leaves.length);
        expect(back.leaves.length).toBe(there.adds.length);
      }
  });
});

describe('taken for another', () => {
  test('pins and locks go with what a terminal is for', () => {
    const own = kind('map-1bar');
    const turned = renumbered(own, ['3', '2', '1']);
    const build = edited(
      emptyBuild(4),
      call('addDevice', { kind: own }),
      call('allotAll', { keep: 'placed' }),
      call('lock', { needId: 'map-1bar-1.3', locked: true }),
    );
    const after = edited(build, call('changeKind', { deviceId: 'map-1bar-1', kind: turned }));
    expect(after.assignments).toEqual({ 'map-1bar-1.1': build.assignments['map-1bar-1.3'] });
    expect(after.locked).toEqual(['map-1bar-1.1']);
  });
  test('a pin the other part cannot use is left open', () => {
    const build = edited(
      emptyBuild(4),
      call('addDevice', { kind: kind('cam-hall') }),
      call('allotAll', { keep: 'placed' }),
    );
    const after = edited(build, call('changeKind', { deviceId: 'cam-hall-1', kind: kind('cam-vr') }));
    expect(after.assignments).toEqual({});
  });
});

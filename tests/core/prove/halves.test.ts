import { describe, expect, test } from '@jest/globals';
import { buildSchema, type Build } from '~/core/build/schema';
import { call } from '~/core/edits';
import { endType, isSink, type EndKey } from '~/core/ends/ends';
import { meetingsOf } from '~/core/loom/plug-face';
import { loomOfWire, subLooms } from '~/core/loom/sub-looms';
import { netlist, type Netlist, type Wire } from '~/core/netlist/netlist';
import { wholeWires } from '~/core/netlist/whole';
import { failsInPlug, halfTests } from '~/core/prove/halves';
import type { ProveTest } from '~/core/prove/prove-test';
import { proveTests } from '~/core/prove/tests';
import { progressOf } from '~/core/prove/verdict';
import { demoBuilds } from '~/demo';
import { pellworth } from '~/demo/pellworth';
import { edited } from '../../helpers';

const at = '2026-09-06T10:00:00.000Z';
const estate = pellworth();
const apart = (build: Build, on = true) =>
  edited(build, ...['wall-plug', 'coil-plug'].map((node) => call('setPlug', { node, changes: { apart: on } })));
const asked = apart(estate);
const net = netlist(asked);
const tests = halfTests(asked, net);
const read = (build: Build, one: ProveTest, value: number | null) =>
  edited(
    build,
    call('recordReading', { testId: one.id, reading: { value, at, by: 'MP', note: '', title: one.title } }),
  );
const progress = (build: Build) => {
  const list = netlist(build);
  return progressOf(build, list, proveTests(build, list));
};

/** Which copper hangs together with every plug apart and every ring off its bolt: by joining pairs, as a check by other means. */
function copper(list: Netlist): (end: EndKey, wire: Wire) => string {
  const over = new Map<string, string>();
  const find = (one: string): string => {
    const up = over.get(one);
    return up === undefined || up === one ? one : find(up);
  };
  // A cavity and a bolt are as many places as wires end in them.
  const place = (end: EndKey, wire: Wire) => (endType(end) === 'plug' || isSink(end) ? `${end} ${wire.id}` : end);
  for (const wire of list.wires) over.set(find(place(wire.from, wire)), find(place(wire.to, wire)));
  return (end, wire) => find(place(end, wire));
}

describe('halves of plugs by themselves', () => {
  test('are tested where that was asked for, and nowhere else', () => {
    expect(halfTests(estate, netlist(estate))).toEqual([]);
    expect(proveTests(estate, netlist(estate)).some(({ half }) => half)).toBe(false);
    const one = edited(estate, call('setPlug', { node: 'coil-plug', changes: { apart: true } }));
    expect(new Set(halfTests(one, netlist(one)).map(({ hold }) => hold.split('.')[0]))).toEqual(
      new Set(['plug:coil-plug']),
    );
  });
  test('every piece at these plugs is under a reading, every id once, none of them one of the whole sheet', () => {
    const covered = new Set(tests.flatMap(({ wireIds }) => wireIds));
    for (const id of ['wall-plug', 'coil-plug'])
      for (const { near, far } of meetingsOf(asked, net, id))
        expect([covered.has(near.id), covered.has(far.id)]).toEqual([true, true]);
    const all = proveTests(asked, net);
    expect(new Set(all.map(({ id }) => id)).size).toBe(all.length);
    expect(all.every(({ id }) => id.length <= 200)).toBe(true);
  });
  test('what is asked to be joined is joined by copper of that half, what is asked to be apart is not', () => {
    const part = copper(net);
    const wiresAt = (end: EndKey) => net.wiresAt.get(end) ?? [];
    const parts = (end: EndKey) => new Set(wiresAt(end).map((wire) => part(end, wire)));
    const shared = (one: EndKey, other: EndKey) => [...parts(one)].filter((id) => parts(other).has(id));
    for (const one of tests.filter(({ kind }) => kind === 'continuity')) {
      expect(shared(one.hold, one.touch).length).toBeGreaterThan(0);
      const [first] = one.wireIds;
      expect([net.wireById.get(first!)!.from, net.wireById.get(first!)!.to]).toContain(one.hold);
    }
    const pairs = tests.filter(({ kind, touch }) => kind === 'isolation' && endType(touch) === 'plug');
    expect(pairs.length).toBeGreaterThan(20);
    for (const { hold, touch, half } of pairs) {
      const own = (end: EndKey) => {
        const [id, cavity] = end.slice('plug:'.length).split('.') as [string, string];
        const meeting = meetingsOf(asked, net, id).find((m) => m.cavity === Number(cavity))!;
        return part(end, meeting[half!]);
      };
      expect(own(hold)).not.toBe(own(touch));
    }
    expect(new Set(pairs.map(({ hold, touch, half }) => `${[hold, touch].sort().join()} ${half}`)).size).toBe(
      pairs.length,
    );
  });
  test('expects the piece’s own ohms and its two terminals', () => {
    const [whole] = [...wholeWires(net).values()].filter(
      ({ pieces, from, to }) =>
        pieces.length === 2 &&
        pieces.every(({ circuitId }) => circuitId === null) &&
        [from, to].every((end) => endType(end) === 'ecu' || endType(end) === 'device'),
    );
    const [near, far] = whole!.pieces as [Wire, Wire];
    for (const piece of [near, far]) {
      const one = tests.find(({ wireIds }) => wireIds.length === 1 && wireIds[0] === piece.id)!;
      // 5 milliohms a terminal (common practice).
      expect(one.expected).toBeCloseTo(piece.ohms + 0.01, 9);
    }
  });
});

describe('what halves prove', () => {
  const already = progress(asked).proved;
  const [near, far] = [...wholeWires(net).values()]
    .filter(
      ({ pieces, from, to }) =>
        pieces.length === 2 &&
        [from, to].every((end) => ['ecu', 'device'].includes(endType(end))) &&
        pieces.every(({ id }) => !already.has(id)),
    )
    .map(({ pieces }) => pieces)[0] as [Wire, Wire];
  const of = (piece: Wire) => tests.find(({ wireIds }) => wireIds.length === 1 && wireIds[0] === piece.id)!;
  const whole =
    proveTests(asked, net).find(
      ({ kind, half, wireIds }) => kind === 'continuity' && !half && wireIds.join() === [near.id, far.id].join(),
    ) ??
    proveTests(asked, net).find(({ half, wireIds }) => !half && wireIds.includes(near.id) && wireIds.includes(far.id))!;

  test('each its own piece; the whole is proved by both', () => {
    const one = read(asked, of(near), of(near).expected! + 0.1);
    expect([progress(one).proved.has(near.id), progress(one).proved.has(far.id)]).toEqual([true, false]);
    const both = read(one, of(far), of(far).expected! + 0.1);
    expect([near, far].every(({ id }) => progress(both).proved.has(id))).toBe(true);
  });
  test('two halves that are right and a whole that is open: the contact in the plug', () => {
    const both = read(read(asked, of(near), 0.1), of(far), 0.1);
    const wrongOf = (build: Build) => progress(build).wrongReadings.find(({ test: one }) => one.id === whole.id)!;
    expect(wrongOf(read(both, whole, null)).verdict.sentence).toMatch(
      /^No connection.*Each half is whole by itself: look into .+ · \d+/,
    );
    // With one half unread nothing is said of the plug.
    const half = read(read(asked, of(near), 0.1), whole, null);
    expect(wrongOf(half).verdict.sentence).not.toContain('Each half');
    expect(wrongOf(half).wireIds).toEqual([far.id]);
    // Held in the cavity itself there is no contact between.
    expect(failsInPlug(net, of(near), new Set([near.id]))).toBeNull();
  });
  test('no longer asked for, readings are kept and prove nothing; asked for again they do', () => {
    const one = read(asked, of(near), 0.1);
    const off = apart(one, false);
    expect(progress(off).proved.has(near.id)).toBe(false);
    expect(progress(off).fallen).toEqual([]);
    expect(progress(apart(off)).proved.has(near.id)).toBe(true);
  });
  test('a wire that is moved in the plug loses its readings, its neighbours keep theirs', () => {
    const others = tests.filter(({ kind, wireIds }) => kind === 'continuity' && !wireIds.includes(near.id));
    const beside = others.find(({ hold }) => hold !== of(near).hold)!;
    const readBoth = read(read(asked, of(near), 0.1), beside, 0.1);
    const plug = asked.tree.nodes['wall-plug']!.plug!;
    const used = new Set(Object.values(plug.wires));
    const free = Array.from({ length: plug.cavities }, (_, i) => i + 1).find((cavity) => !used.has(cavity))!;
    const moved = edited(readBoth, call('setCavity', { node: 'wall-plug', wireId: near.cutOf!, cavity: free }));
    expect(progress(moved).proved.has(near.id)).toBe(false);
    expect(
      progress(moved)
        .fallen.map(({ testId }) => testId)
        .filter((id) => id.startsWith('c|')),
    ).toEqual([of(near).id]);
    expect(beside.wireIds.every((id) => progress(moved).proved.has(id))).toBe(true);
  });
});

describe('halves of any loom', () => {
  const looms = demoBuilds().flatMap((build) =>
    (['car', 'boat', 'kart'] as const).map((vehicle) => {
      const laid = edited(build, call('proposeTree', { vehicle, engine: 'front' }));
      // A plug in the middle of the trunk's two ends, as large as there are.
      const plugged = ['wall', 'trunk', 'top'].reduce(
        (one, segment) =>
          one.tree.segments[segment]
            ? edited(
                one,
                call('plugSegment', {
                  segment,
                  metres: one.tree.segments[segment].metres / 2,
                  name: segment,
                  shell: 'in-line',
                  cavities: 200,
                }),
              )
            : one,
        laid,
      );
      const plugs = Object.keys(plugged.tree.nodes).filter((id) => plugged.tree.nodes[id]!.plug);
      return {
        name: `${build.name}, ${vehicle}`,
        build: edited(plugged, ...plugs.map((node) => call('setPlug', { node, changes: { apart: true } }))),
        plugs,
      };
    }),
  );
  test.each(looms.map((one) => [one.name, one] as const))(
    '%s: whole, of one side each, and still a build',
    (_, one) => {
      expect(one.plugs.length).toBeGreaterThan(0);
      expect(buildSchema.safeParse(one.build).success).toBe(true);
      const list = netlist(one.build);
      const sheet = proveTests(one.build, list);
      expect(new Set(sheet.map(({ id }) => id)).size).toBe(sheet.length);
      const covered = new Set(sheet.flatMap(({ half, wireIds }) => (half ? wireIds : [])));
      const parts = subLooms(one.build);
      for (const id of one.plugs) {
        const meetings = meetingsOf(one.build, list, id);
        for (const half of ['near', 'far'] as const) {
          expect(new Set(meetings.map((meeting) => loomOfWire(parts, meeting[half], list)?.id)).size).toBeLessThan(2);
          for (const meeting of meetings) expect(covered.has(meeting[half].id)).toBe(true);
        }
      }
    },
  );
});

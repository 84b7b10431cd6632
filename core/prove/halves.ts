import type { Build } from '../build/schema';
import { neighbourCavities } from '../ecu/face';
import { endType, groundEnd, isSink, plugEnd, type EndKey } from '../ends/ends';
import { halfWords, halves, meetingsOf, plugConnector, type Half, type Meeting } from '../loom/plug-face';
import { labelOf } from '../netlist/label';
import type { Netlist, Wire } from '../netlist/netlist';
import { continuityLimit, ISOLATED_OHMS, mostAmps, type ProveTest } from './prove-test';
import { endToEndOhms, otherEnd } from '../netlist/wires';

/** Copper that hangs together while the plugs are apart and no ring is under its bolt. */
interface Section {
  /** Where a probe may be held, with the wires that lead there. */
  readonly ways: ReadonlyMap<EndKey, readonly Wire[]>;
  readonly wires: ReadonlySet<string>;
}

/** What is reached from a cavity by the wire of one half: splices are walked through, bolts, posts and other plugs are not. */
function sectionFrom(net: Netlist, hold: EndKey, first: Wire): Section {
  const ways = new Map<EndKey, readonly Wire[]>();
  const wires = new Set<string>();
  const walk = (end: EndKey, wire: Wire, before: readonly Wire[]): void => {
    if (wires.has(wire.id)) return;
    wires.add(wire.id);
    const next = otherEnd(wire, end);
    const way = [...before, wire];
    const type = endType(next);
    if (next !== hold && type !== 'splice' && !ways.has(next)) ways.set(next, way);
    if (type === 'plug' || isSink(next)) return;
    for (const other of net.wiresAt.get(next) ?? []) walk(next, other, way);
  };
  walk(hold, first, []);
  return { ways, wires };
}

/**
 * Tests of the loom's parts by themselves, before the plugs that were asked for are put together: from each cavity of each half
 * to where its wire ends, then against ground and the cavities beside it. O(wires of these plugs and what hangs on them).
 *
 * @param which `kept`: of plugs that are not asked for, whose readings may still be there.
 */
export function halfTests(build: Build, net: Netlist, which: 'asked' | 'kept' = 'asked'): ProveTest[] {
  const { nodes } = build.tree;
  const asked = Object.keys(nodes).filter((id) => {
    const plug = nodes[id]!.plug;
    return plug !== undefined && (plug.apart === true) === (which === 'asked');
  });
  const done = new Set<string>();
  return asked.flatMap((id) => {
    const plug = nodes[id]!.plug!;
    const meetings = meetingsOf(build, net, id);
    const face = plugConnector(plug);
    return halves.flatMap((half) => testsOfHalf(net, id, half, meetings, face, done));
  });
}

function testsOfHalf(
  net: Netlist,
  id: string,
  half: Half,
  meetings: readonly Meeting[],
  face: ReturnType<typeof plugConnector>,
  done: Set<string>,
): ProveTest[] {
  const byCavity = new Map(meetings.map((one) => [one.cavity, one]));
  const sections = new Map(
    meetings.map((one) => [one.cavity, sectionFrom(net, plugEnd(id, one.cavity), one[half])] as const),
  );
  const paired = new Set<string>();
  const name = (cavity: number) => `${labelOf(net, plugEnd(id, cavity))} (${halfWords[half]})`;
  const apart = (cavity: number, touch: EndKey, to: string, testId: string): ProveTest => ({
    id: testId,
    kind: 'isolation',
    hold: plugEnd(id, cavity),
    touch,
    title: `${name(cavity)} against ${to}`,
    wireIds: [],
    unit: 'ohms',
    expected: null,
    limit: ISOLATED_OHMS,
    half,
  });
  return meetings.flatMap(({ cavity, ...meeting }) => {
    const hold = plugEnd(id, cavity);
    const { ways, wires } = sections.get(cavity)!;
    const own = `${hold}>${otherEnd(meeting[half], hold)}`;
    const tests: ProveTest[] = [];
    if (!done.has(meeting[half].id))
      for (const [touch, way] of ways) {
        const expected = way.reduce((sum, wire) => sum + endToEndOhms(wire), 0);
        tests.push({
          id: `c|${hold}|${touch}|${half}`,
          kind: 'continuity',
          hold,
          touch,
          title: `${name(cavity)} to ${labelOf(net, touch)}`,
          wireIds: way.map((wire) => wire.id),
          unit: 'ohms',
          expected,
          limit: continuityLimit(expected, mostAmps(way)),
          half,
        });
      }
    for (const wire of wires) done.add(wire);
    if (![...ways.keys()].some(isSink))
      tests.push(apart(cavity, groundEnd('chassis'), 'chassis ground', `i|${own}|gnd`));
    for (const other of neighbourCavities(face, cavity)) {
      const beside = byCavity.get(other);
      const pair = [cavity, other].sort((a, b) => a - b).join(' ');
      if (!beside || paired.has(pair) || wires.has(beside[half].id)) continue;
      paired.add(pair);
      const touch = plugEnd(id, other);
      tests.push(apart(cavity, touch, labelOf(net, touch), `i|${own}|${touch}>${otherEnd(beside[half], touch)}`));
    }
    return tests;
  });
}

/**
 * Where a wire fails that reads wrong end to end though each of its pieces reads right by itself: in the contacts of the plugs
 * between them. Null where a piece is not known to be right.
 *
 * @param right Wires that are proved by a reading of their own.
 */
export function failsInPlug(net: Netlist, test: ProveTest, right: ReadonlySet<string>): string | null {
  if (test.kind !== 'continuity' || !test.wireIds.every((id) => right.has(id))) return null;
  const ends = test.wireIds.flatMap((id) => {
    const wire = net.wireById.get(id);
    return wire ? [wire.from, wire.to] : [];
  });
  // A cavity between two of the wires, not one the probe is held in.
  const plugs = [...new Set(ends.filter((end, i) => endType(end) === 'plug' && ends.indexOf(end) < i))];
  if (plugs.length === 0) return null;
  const names = plugs.map((end) => labelOf(net, end)).join(' or ');
  return `Each half is whole by itself: look into ${names} for a terminal that was pushed back, or that sits in another cavity of one half.`;
}

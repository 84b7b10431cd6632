import { withId } from '../data/with-id';
import type { Build } from '../build/schema';
import { pinIdOf } from '../ecu/ecu';
import { neighbourCavities } from '../ecu/face';
import { ecuEnd, endType, groundEnd, isSink, pinAt, type EndKey } from '../ends/ends';
import { labelOf } from '../netlist/label';
import type { Netlist, NetNode, Wire } from '../netlist/netlist';
import { endToEndOhms, otherEnd } from '../netlist/wires';
import { rowWords } from '../engine/outputs';
import { meantWords, outputUses } from '../trigger/outputs';
import { halfTests } from './halves';
import { loadTests } from './load-tests';
import { answerOf, continuityId, continuityLimit, ISOLATED_OHMS, mostAmps, type ProveTest } from './prove-test';

/** Wires from one end to each of others of its node, depth first, each end once: feeds may hold rings. Linear in the node. */
function copperFrom(net: Netlist, from: EndKey, targets: readonly EndKey[]): Map<EndKey, readonly Wire[]> {
  const wanted = new Set(targets);
  const found = new Map<EndKey, readonly Wire[]>();
  const seen = new Set([from]);
  const way: Wire[] = [];
  const walk = (end: EndKey): void => {
    if (wanted.delete(end)) found.set(end, [...way]);
    for (const wire of net.wiresAt.get(end) ?? []) {
      if (wanted.size === 0) return;
      const next = otherEnd(wire, end);
      if (seen.has(next)) continue;
      seen.add(next);
      way.push(wire);
      walk(next);
      way.pop();
    }
  };
  walk(from);
  return found;
}

/** Continuity from one end to each of others. */
function continuities(net: Netlist, hold: EndKey, touches: readonly EndKey[]): ProveTest[] {
  const copper = copperFrom(net, hold, touches);
  return touches.map((touch) => continuity(net, hold, touch, copper.get(touch) ?? []));
}

function continuity(net: Netlist, hold: EndKey, touch: EndKey, wires: readonly Wire[]): ProveTest {
  const expected = wires.reduce((sum, wire) => sum + endToEndOhms(wire), 0);
  return {
    id: continuityId(hold, touch),
    kind: 'continuity',
    hold,
    touch,
    title: `${labelOf(net, hold)} to ${labelOf(net, touch)}`,
    wireIds: wires.map((wire) => wire.id),
    unit: 'ohms',
    expected,
    limit: continuityLimit(expected, mostAmps(wires)),
  };
}

/** An end with where its wire goes: an isolation reading belongs to the wires it kept apart, not to the bare cavities. */
function withFar(net: Netlist, end: EndKey): string {
  const [wire] = net.wiresAt.get(end) ?? [];
  if (!wire || endType(end) !== 'ecu') return end;
  return `${end}>${otherEnd(wire, end)}`;
}

const isolation = (net: Netlist, hold: EndKey, touch: EndKey): ProveTest => ({
  id: `i|${withFar(net, hold)}|${withFar(net, touch)}`,
  kind: 'isolation',
  hold,
  touch,
  title: `${labelOf(net, hold)} against ${labelOf(net, touch)}`,
  wireIds: [],
  unit: 'ohms',
  expected: null,
  limit: ISOLATED_OHMS,
});

/** Where a probe is held for the test of a wire: not at a splice, and not at a plug that is put together in its course. */
const isProbed = (end: EndKey): boolean => endType(end) !== 'splice' && endType(end) !== 'plug';

/** Tests with the probe held on one ECU cavity: its wires, then ground, then wired neighbours not yet paired. */
function testsAtCavity(build: Build, net: Netlist, hold: EndKey, node: NetNode, paired: Set<string>): ProveTest[] {
  const sink = node.ends.find(isSink);
  const touches = sink ? [sink] : node.ends.filter((end) => end !== hold && isProbed(end));
  const tests = continuities(net, hold, touches);
  if (!sink) tests.push(isolation(net, hold, groundEnd('chassis')));
  const pin = withId(build.ecu.pins, pinAt(hold))!;
  const connector = withId(build.ecu.connectors, pin.connector);
  if (!connector) return tests;
  for (const cavity of neighbourCavities(connector, pin.cavity)) {
    const other = ecuEnd(pinIdOf(pin.connector, cavity));
    const otherNode = net.nodeOf.get(other);
    if (!otherNode || otherNode === node) continue;
    const key = hold < other ? `${hold}|${other}` : `${other}|${hold}`;
    if (paired.has(key)) continue;
    paired.add(key);
    tests.push(isolation(net, hold, other));
  }
  return tests;
}

/** Tests of copper that ends on no ECU pin, held at its hub: battery, ground, relay, fuse. */
function testsAtHub(net: Netlist, node: NetNode): ProveTest[] {
  const rank = (end: EndKey) => ['battery', 'key', 'ground', 'relay', 'fuse', 'device', 'shield'].indexOf(endType(end));
  const ends = node.ends
    .filter((end) => isProbed(end) && endType(end) !== 'ecu')
    .sort((a, b) => rank(a) - rank(b) || (a < b ? -1 : 1));
  const [hub, ...rest] = ends;
  if (!hub) return [];
  const tests = continuities(net, hub, rest);
  return isSink(hub) || rest.length === 0 ? tests : [...tests, isolation(net, hub, groundEnd('chassis'))];
}

/**
 * The test sheet of a netlist: halves of plugs that are to be proved apart; every wire by continuity, every cavity against ground and its neighbours, in an order
 * that keeps one probe still; what the heavy circuits lose under load; then which cylinder each output must work, by the build's school.
 */
export function proveTests(build: Build, net: Netlist): ProveTest[] {
  const paired = new Set<string>();
  const tests = halfTests(build, net);
  const shared = new Set<NetNode>();
  for (const { pin } of net.cavities) {
    const hold = ecuEnd(pin.id);
    const node = net.nodeOf.get(hold);
    if (!node) continue;
    const sunk = node.ends.some(isSink);
    if (!sunk && shared.has(node)) {
      // A second ECU cavity on the same copper is reached from the first.
      continue;
    }
    shared.add(node);
    tests.push(...testsAtCavity(build, net, hold, node, paired));
  }
  for (const node of net.nodes) if (!shared.has(node) || node.ends.some(isSink)) tests.push(...testsAtHub(net, node));
  tests.push(...loadTests(build, net));
  for (const use of outputUses(build, net.needs)) {
    const touch = withId(net.needs, use.needId)!.end;
    const answers = (use.means?.cylinders ?? []).map((cylinder) => answerOf(cylinder, use.means!.row));
    tests.push({
      id: `o|${ecuEnd(use.pinId)}|${touch}`,
      kind: 'order',
      hold: ecuEnd(use.pinId),
      touch,
      title: `${use.kind === 'injector' ? 'Injection' : 'Ignition'} output ${use.output}, pin ${use.pinId}`,
      wireIds: [],
      unit: 'cylinder',
      expected: answers[0] ?? null,
      works: {
        answers,
        words: meantWords(build.engine, use),
        chamber: build.engine.kind === 'rotary' ? 'rotor' : 'cylinder',
        second: rowWords(build.engine, use.kind, 2),
      },
      limit: 0,
    });
  }
  return tests;
}

/** How often a probe must be moved: once for every end that differs from the test before. */
export function probeMoves(tests: readonly Pick<ProveTest, 'hold' | 'touch'>[]): number {
  let moves = 0;
  let before: Pick<ProveTest, 'hold' | 'touch'> | null = null;
  for (const test of tests) {
    moves += before ? Number(test.hold !== before.hold) + Number(test.touch !== before.touch) : 2;
    before = test;
  }
  return moves;
}

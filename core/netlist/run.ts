import { withId } from '../data/with-id';
import { labelOf } from './label';
import {
  deviceAt,
  deviceEnd,
  endOf,
  endType,
  isSink,
  pinAt,
  partEnd,
  spliceEnd,
  type EndKey,
  type EndType,
} from '../ends/ends';
import type { Netlist, Wire } from './netlist';

/** What a person can point at. */
export type Selection =
  | { readonly type: 'end'; readonly end: EndKey }
  | { readonly type: 'wire'; readonly wireId: string }
  | { readonly type: 'need'; readonly needId: string }
  | { readonly type: 'device'; readonly deviceId: string };

export interface Hop {
  readonly end: EndKey;
  /** Wire, or what stands in one, that leads on from this end; null at the last. */
  readonly next: { readonly wire: Wire } | { readonly through: Passed } | null;
}

/** What a run goes through that is no wire. */
type Passed = 'fuse' | 'relay contact' | 'resistor' | 'diode' | 'switch' | 'button';

export interface Run {
  readonly title: string;
  readonly hops: readonly Hop[];
  readonly wires: readonly Wire[];
  /** Copper of the whole run at 20 °C, ohms. */
  readonly ohms: number;
  readonly lengthMetres: number;
  /** Other ends joined to the same node that this run does not show. */
  readonly branches: readonly EndKey[];
}

interface Step {
  readonly end: EndKey;
  readonly by: { readonly wire: Wire } | { readonly through: Passed };
}

function stepsFrom(net: Netlist, end: EndKey, throughParts: boolean): Step[] {
  const steps: Step[] = (net.wiresAt.get(end) ?? []).map((wire) => ({
    end: wire.from === end ? wire.to : wire.from,
    by: { wire },
  }));
  if (!throughParts) return steps;
  const ref = endOf(end);
  if (ref.of !== 'part') return steps;
  const { kind, part, port } = ref;
  const on = (other: string, through: Passed) => steps.push({ end: partEnd(kind, part, other), by: { through } });
  switch (kind) {
    case 'fuse':
    case 'resistor':
    case 'switch':
    case 'button':
      on(port === '1' ? '2' : '1', kind);
      break;
    case 'diode':
      on(port === 'a' ? 'k' : 'a', kind);
      break;
    case 'relay':
      // Winding terminals lead to no contact.
      if (port === '30') on('87', 'relay contact');
      if (port === '87' || port === '87a') on('30', 'relay contact');
      break;
    default:
      break;
  }
  return steps;
}

/** Shortest way by hops from an end to the first end that satisfies `isGoal`; breadth first, each end once. */
function way(net: Netlist, start: EndKey, isGoal: (end: EndKey) => boolean, throughParts: boolean): Hop[] | null {
  const came = new Map<EndKey, { from: EndKey; by: Step['by'] } | null>([[start, null]]);
  const queue: EndKey[] = [start];
  for (let head = 0; head < queue.length; head += 1) {
    const end = queue[head]!;
    if (end !== start && isGoal(end)) {
      const hops: Hop[] = [];
      let at: EndKey | null = end;
      let next: Hop['next'] = null;
      while (at !== null) {
        hops.push({ end: at, next });
        const step: { from: EndKey; by: Step['by'] } | null = came.get(at) ?? null;
        next = step?.by ?? null;
        at = step?.from ?? null;
      }
      return hops
        .reverse()
        .map((hop, index, all) => ({ end: hop.end, next: index < all.length - 1 ? hop.next : null }));
    }
    // Grounds and supplies end a run: walking on through them would join everything to everything.
    if (end !== start && isSink(end)) continue;
    for (const step of stepsFrom(net, end, throughParts))
      if (!came.has(step.end)) {
        came.set(step.end, { from: end, by: step.by });
        queue.push(step.end);
      }
  }
  return null;
}

const isType =
  (...types: EndType[]) =>
  (end: EndKey) =>
    types.includes(endType(end));

function describe(net: Netlist, title: string, hops: readonly Hop[]): Run {
  const wires = hops.flatMap((hop) => (hop.next && 'wire' in hop.next ? [hop.next.wire] : []));
  const shown = new Set(hops.map((hop) => hop.end));
  const node = net.nodeOf.get(hops[0]!.end);
  return {
    title,
    hops,
    wires,
    ohms: wires.reduce((sum, wire) => sum + wire.ohms, 0),
    lengthMetres: wires.reduce((sum, wire) => sum + wire.lengthMetres, 0),
    branches: (node?.ends ?? []).filter((end) => !shown.has(end) && endType(end) !== 'splice'),
  };
}

/** Where power enters the loom: battery, key switch, or the cavity of a body plug that brings the key's feeds. */
function isSource(net: Netlist): (end: EndKey) => boolean {
  const brought = new Set(
    [spliceEnd('key-run'), spliceEnd('key-start')].flatMap((splice) =>
      (net.wiresAt.get(splice) ?? []).flatMap((wire) => [wire.from, wire.to].filter((end) => deviceAt(end) !== null)),
    ),
  );
  return (end) => isType('battery', 'key', 'tap')(end) || brought.has(end);
}

/** The run through one end: from an ECU cavity, else from the battery or key, else to ground. */
function runOfEnd(net: Netlist, end: EndKey): Run | null {
  if (!net.nodeOf.has(end)) return null;
  const title = labelOf(net, end);
  if (pinAt(end) !== null) {
    const out =
      way(net, end, isType('device', 'relay', 'ground', 'fuse', 'shield'), false) ?? way(net, end, isSource(net), true);
    return out && describe(net, title, out);
  }
  // The direct copper run comes first; else the supply's whole way through fuse and relay.
  const back =
    way(net, end, isType('ecu'), false) ??
    way(net, end, isSource(net), true) ??
    way(net, end, isType('ground'), false) ??
    // A line between two devices, such as a lamp and its switch; or the feed a body plug brings.
    way(net, end, isType('device', 'fuse', 'relay'), false);
  if (!back) return null;
  const startsHere = endType(back[back.length - 1]!.end) === 'ground';
  return describe(net, title, startsHere ? back : reverse(back));
}

function reverse(hops: readonly Hop[]): Hop[] {
  return hops.map((_, index) => {
    const hop = hops[hops.length - 1 - index]!;
    const before = hops[hops.length - 2 - index];
    return { end: hop.end, next: before ? before.next : null };
  });
}

function runOfWire(net: Netlist, id: string): Run | null {
  const wire = net.wireById.get(id);
  if (!wire) return null;
  const candidates = [wire.to, wire.from].map((end) => runOfEnd(net, end)).filter((run) => run !== null);
  const title = `${labelOf(net, wire.from)} to ${labelOf(net, wire.to)}`;
  const best = candidates.find((run) => run.wires.some((hop) => hop.id === id));
  return best
    ? { ...best, title }
    : describe(net, title, [
        { end: wire.from, next: { wire } },
        { end: wire.to, next: null },
      ]);
}

/**
 * The whole run of whatever is selected, hop by hop; null when it has no wire yet.
 * Cost: breadth-first search over the netlist, linear in wires.
 */
export function runOf(net: Netlist, selection: Selection): Run | null {
  switch (selection.type) {
    case 'end':
      return runOfEnd(net, selection.end);
    case 'wire':
      return runOfWire(net, selection.wireId);
    case 'need': {
      const need = withId(net.needs, selection.needId);
      const run = need ? runOfEnd(net, need.end) : null;
      return run && need ? { ...run, title: need.label } : null;
    }
    case 'device': {
      const entry = net.deviceOf.get(selection.deviceId);
      if (!entry) return null;
      const ends = entry.kind.terminals.map((terminal) => deviceEnd(entry.device.id, terminal.id));
      const signal = ends.find((end) =>
        net.wires.some((wire) => wire.needId !== null && (wire.from === end || wire.to === end)),
      );
      const end = signal ?? ends.find((one) => net.nodeOf.has(one));
      const run = end === undefined ? null : runOfEnd(net, end);
      return run && { ...run, title: entry.device.label };
    }
  }
}

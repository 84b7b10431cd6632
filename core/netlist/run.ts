import { parseEnd, spliceEnd, type End } from '../ends/ends';
import type { Netlist, Wire } from './netlist';

/** What a person can point at. */
export type Selection =
  | { readonly type: 'end'; readonly end: End }
  | { readonly type: 'wire'; readonly wireId: string }
  | { readonly type: 'need'; readonly needId: string }
  | { readonly type: 'device'; readonly deviceId: string };

export interface Hop {
  readonly end: End;
  /** Wire, or fuse/relay contact, that leads on from this end; null at the last. */
  readonly next: { readonly wire: Wire } | { readonly through: 'fuse' | 'relay contact' } | null;
}

export interface Run {
  readonly title: string;
  readonly hops: readonly Hop[];
  readonly wires: readonly Wire[];
  /** Copper of the whole run at 20 °C, ohms. */
  readonly ohms: number;
  readonly lengthMetres: number;
  /** Other ends joined to the same node that this run does not show. */
  readonly branches: readonly End[];
}

interface Step {
  readonly end: End;
  readonly by: { readonly wire: Wire } | { readonly through: 'fuse' | 'relay contact' };
}

function stepsFrom(net: Netlist, end: End, throughParts: boolean): Step[] {
  const steps: Step[] = (net.wiresAt.get(end) ?? []).map((wire) => ({
    end: wire.from === end ? wire.to : wire.from,
    by: { wire },
  }));
  if (!throughParts) return steps;
  const { type, owner, terminal } = parseEnd(end);
  if (type === 'fuse') steps.push({ end: `fuse:${owner}.${terminal === '1' ? '2' : '1'}`, by: { through: 'fuse' } });
  if (type === 'relay' && (terminal === '87' || terminal === '30'))
    steps.push({ end: `relay:${owner}.${terminal === '87' ? '30' : '87'}`, by: { through: 'relay contact' } });
  return steps;
}

/** Shortest way by hops from an end to the first end that satisfies `isGoal`; breadth first, each end once. */
function way(net: Netlist, start: End, isGoal: (end: End) => boolean, throughParts: boolean): Hop[] | null {
  const came = new Map<End, { from: End; by: Step['by'] } | null>([[start, null]]);
  const queue: End[] = [start];
  for (let head = 0; head < queue.length; head += 1) {
    const end = queue[head];
    if (end !== start && isGoal(end)) {
      const hops: Hop[] = [];
      let at: End | null = end;
      let next: Hop['next'] = null;
      while (at !== null) {
        hops.push({ end: at, next });
        const step: { from: End; by: Step['by'] } | null = came.get(at) ?? null;
        next = step?.by ?? null;
        at = step?.from ?? null;
      }
      return hops
        .reverse()
        .map((hop, index, all) => ({ end: hop.end, next: index < all.length - 1 ? hop.next : null }));
    }
    // Grounds and supplies end a run: walking on through them would join everything to everything.
    if (end !== start && /^(gnd|bat|key)/.test(end)) continue;
    for (const step of stepsFrom(net, end, throughParts))
      if (!came.has(step.end)) {
        came.set(step.end, { from: end, by: step.by });
        queue.push(step.end);
      }
  }
  return null;
}

const isType =
  (...types: string[]) =>
  (end: End) =>
    types.includes(parseEnd(end).type);

function describe(net: Netlist, title: string, hops: readonly Hop[]): Run {
  const wires = hops.flatMap((hop) => (hop.next && 'wire' in hop.next ? [hop.next.wire] : []));
  const shown = new Set(hops.map((hop) => hop.end));
  const node = net.nodeOf.get(hops[0].end);
  return {
    title,
    hops,
    wires,
    ohms: wires.reduce((sum, wire) => sum + wire.ohms, 0),
    lengthMetres: wires.reduce((sum, wire) => sum + wire.lengthMetres, 0),
    branches: (node?.ends ?? []).filter((end) => !shown.has(end) && parseEnd(end).type !== 'splice'),
  };
}

/** Where power enters the loom: battery, key switch, or the cavity of a body plug that brings the key's feeds. */
function isSource(net: Netlist): (end: End) => boolean {
  const brought = new Set(
    [spliceEnd('key-run'), spliceEnd('key-start')].flatMap((splice) =>
      (net.wiresAt.get(splice) ?? []).flatMap((wire) =>
        [wire.from, wire.to].filter((end) => parseEnd(end).type === 'dev'),
      ),
    ),
  );
  return (end) => isType('bat', 'key')(end) || brought.has(end);
}

/** The run through one end: from an ECU cavity, else from the battery or key, else to ground. */
function runOfEnd(net: Netlist, end: End): Run | null {
  if (!net.nodeOf.has(end)) return null;
  const title = net.labelOf(end);
  if (parseEnd(end).type === 'ecu') {
    const out = way(net, end, isType('dev', 'relay', 'gnd', 'fuse'), false) ?? way(net, end, isSource(net), true);
    return out && describe(net, title, out);
  }
  // The direct copper run comes first; else the supply's whole way through fuse and relay.
  const back =
    way(net, end, isType('ecu'), false) ??
    way(net, end, isSource(net), true) ??
    way(net, end, isType('gnd'), false) ??
    // A line between two devices, such as a lamp and its switch; or the feed a body plug brings.
    way(net, end, isType('dev', 'fuse', 'relay'), false);
  if (!back) return null;
  const startsHere = parseEnd(back[back.length - 1].end).type === 'gnd';
  return describe(net, title, startsHere ? back : reverse(back));
}

function reverse(hops: readonly Hop[]): Hop[] {
  return hops.map((_, index) => {
    const hop = hops[hops.length - 1 - index];
    const before = hops[hops.length - 2 - index];
    return { end: hop.end, next: before ? before.next : null };
  });
}

function runOfWire(net: Netlist, id: string): Run | null {
  const wire = net.wireById.get(id);
  if (!wire) return null;
  const candidates = [wire.to, wire.from].map((end) => runOfEnd(net, end)).filter((run) => run !== null);
  const title = `${net.labelOf(wire.from)} to ${net.labelOf(wire.to)}`;
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
      const need = net.needs.find((candidate) => candidate.id === selection.needId);
      const run = need ? runOfEnd(net, need.end) : null;
      return run && need ? { ...run, title: need.label } : null;
    }
    case 'device': {
      const entry = net.devices.find(({ device }) => device.id === selection.deviceId);
      if (!entry) return null;
      const ends = entry.kind.terminals.map((terminal) => `dev:${entry.device.id}.${terminal.id}`);
      const signal = ends.find((end) =>
        net.wires.some((wire) => wire.needId !== null && (wire.from === end || wire.to === end)),
      );
      const run = runOfEnd(net, signal ?? ends.find((end) => net.nodeOf.has(end)) ?? '');
      return run && { ...run, title: entry.device.label };
    }
  }
}

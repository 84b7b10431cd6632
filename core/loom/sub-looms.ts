import type { Build } from '../build/schema';
import type { Netlist, Wire } from '../netlist/netlist';
import { ECU_THING, placesOf } from '../tree/things';
import { placeName } from './names';

/** A loom by itself: what hangs together between plugs. */
export interface SubLoom {
  readonly id: string;
  readonly name: string;
  readonly segments: ReadonlySet<string>;
}

/** The looms that a tree falls into at its plugs, the ECU's first; one where it has no plug. */
export function subLooms(build: Build): SubLoom[] {
  const { nodes, segments } = build.tree;
  const left = new Set(Object.keys(segments));
  const looms: { segments: Set<string>; places: string[] }[] = [];
  for (const start of Object.keys(segments)) {
    if (!left.has(start)) continue;
    const own = new Set([start]);
    const places = new Set<string>();
    left.delete(start);
    const queue = [start];
    for (const segment of queue) {
      const { a, b } = segments[segment]!;
      for (const node of [a, b]) {
        places.add(node);
        // Behind a plug begins another loom.
        if (nodes[node]!.kind === 'plug') continue;
        for (const other of left) {
          const one = segments[other]!;
          if (one.a !== node && one.b !== node) continue;
          left.delete(other);
          own.add(other);
          queue.push(other);
        }
      }
    }
    looms.push({ segments: own, places: [...places] });
  }
  const ecu = placesOf(build.tree).get(ECU_THING);
  const named = looms.map(({ segments: own, places }): SubLoom => {
    const [first] = [...own];
    if (ecu !== undefined && places.includes(ecu)) return { id: 'ecu', name: 'ECU loom', segments: own };
    const plugs = places.filter((node) => nodes[node]!.kind === 'plug').map((node) => placeName(build, node));
    return {
      id: first!,
      name: plugs.length === 0 ? 'a loom by itself' : `behind ${plugs.join(' and ')}`,
      segments: own,
    };
  });
  return named.sort(
    (one, other) => Number(other.id === 'ecu') - Number(one.id === 'ecu') || other.segments.size - one.segments.size,
  );
}

/** The loom each wire is of: by the pieces it lies in; of what lies in none, that of the place its ends stand at, else the ECU's. */
export function loomOfWire(looms: readonly SubLoom[], wire: Wire, net: Netlist): SubLoom | null {
  const [first] = wire.route;
  if (first !== undefined) return looms.find(({ segments }) => segments.has(first)) ?? null;
  // A jumper or a tail at one place goes with what it is joined to.
  for (const end of [wire.from, wire.to])
    for (const other of net.wiresAt.get(end) ?? []) {
      const [segment] = other.route;
      const found = segment === undefined ? undefined : looms.find(({ segments }) => segments.has(segment));
      if (found) return found;
    }
  return looms[0] ?? null;
}

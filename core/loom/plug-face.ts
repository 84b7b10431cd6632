import type { Connector } from '../ecu/ecu';
import type { Build } from '../build/schema';
import { endOf, plugEnd, type EndKey } from '../ends/ends';
import type { Netlist, Wire } from '../netlist/netlist';
import { ECU_THING, placesOf } from '../tree/things';
import type { Plug } from '../tree/tree';
import { waysOf } from '../tree/ways';

const known = new WeakMap<Plug, Connector>();
/** A plug of the loom as a connector that can be drawn: rows of its columns, the last one as long as is left. The same one each time. */
export function plugConnector(plug: Plug): Connector {
  const before = known.get(plug);
  if (before) return before;
  const rows = Array.from({ length: Math.ceil(plug.cavities / plug.columns) }, (_, row) =>
    Math.min(plug.columns, plug.cavities - row * plug.columns),
  );
  const connector = {
    id: 'P',
    rows,
    maxSquareMm: plug.squareMm,
    sealed: plug.sealed,
    ...(plug.terminal ? { terminal: plug.terminal } : {}),
  };
  known.set(plug, connector);
  return connector;
}

/** Halves of a plug in the loom: the one toward the ECU, and the other. */
export const halves = ['near', 'far'] as const;
export type Half = (typeof halves)[number];
export const halfWords: Readonly<Record<Half, string>> = { near: 'ECU’s half', far: 'other half' };

/** Both wires that meet in a cavity: that of the half toward the ECU, and that of the other. */
export interface Meeting {
  readonly cavity: number;
  /** The wire as it would be whole. */
  readonly whole: string;
  readonly near: Wire;
  readonly far: Wire;
}

/** The piece of the tree by which a plug is reached from the ECU; of a tree without one, the first piece that ends there. */
function towardEcu({ tree }: Pick<Build, 'tree'>, node: string): string | undefined {
  const ecu = placesOf(tree).get(ECU_THING);
  const way = ecu === undefined ? null : waysOf(tree).way(ecu, node);
  return (
    way?.segments[way.segments.length - 1] ??
    Object.keys(tree.segments).find((id) => tree.segments[id]!.a === node || tree.segments[id]!.b === node)
  );
}

/** What meets in each cavity of a plug, in order. */
export function meetingsOf(build: Pick<Build, 'tree'>, net: Pick<Netlist, 'wiresAt'>, node: string): Meeting[] {
  const plug = build.tree.nodes[node]?.plug;
  if (!plug) return [];
  const side = towardEcu(build, node);
  // The end of a wire that is in the plug lies in the piece its course begins or ends with there.
  const isNear = (wire: Wire, end: EndKey) =>
    (wire.from === end ? wire.route[0] : wire.route[wire.route.length - 1]) === side;
  return Object.entries(plug.wires)
    .flatMap(([whole, cavity]): Meeting[] => {
      const end = plugEnd(node, cavity);
      const [one, other] = net.wiresAt.get(end) ?? [];
      if (!one || !other || one.cutOf !== whole) return [];
      const [near, far] = isNear(other, end) && !isNear(one, end) ? [other, one] : [one, other];
      return [{ cavity, whole, near, far }];
    })
    .sort((one, other) => one.cavity - other.cavity);
}

/** The half in which these wires end in a cavity of a plug; undefined for any other end. */
export function halfAt(build: Build, net: Netlist, end: EndKey, wireIds: readonly string[]): Half | undefined {
  const ref = endOf(end);
  const plug = ref.of === 'part' && ref.kind === 'plug' ? build.tree.nodes[ref.part]?.plug : undefined;
  if (!plug || ref.of !== 'part') return undefined;
  const meeting = meetingsOf(build, net, ref.part).find(({ cavity }) => cavity === Number(ref.port));
  return meeting && halves.find((half) => wireIds.includes(meeting[half].id));
}

/** A step of re-pinning: a terminal is pulled, and pushed in elsewhere. */
export interface Repin {
  readonly whole: string;
  /** Null: it was in none, or held aside. */
  readonly from: number | null;
  readonly to: number | null;
}

/**
 * From one allotment of a plug to another, so that each terminal goes into a cavity that is free by then. Where some change
 * places in a ring the first of them is held aside.
 */
export function repinSteps(before: Plug['wires'], after: Plug['wires']): Repin[] {
  const steps: Repin[] = [];
  const at = new Map(Object.entries(before));
  const taken = new Map([...at].map(([whole, cavity]) => [cavity, whole]));
  const move = (whole: string, to: number | null) => {
    const from = at.get(whole) ?? null;
    if (from !== null) taken.delete(from);
    if (to === null) at.delete(whole);
    else {
      at.set(whole, to);
      taken.set(to, whole);
    }
    steps.push({ whole, from, to });
  };
  for (const [whole] of [...at]) if (after[whole] === undefined) move(whole, null);
  const open = new Set(Object.keys(after).filter((whole) => at.get(whole) !== after[whole]));
  while (open.size > 0) {
    const free = [...open].find((whole) => !taken.has(after[whole]!));
    if (free === undefined) {
      // All that is left changes places in rings.
      move([...open][0]!, null);
      continue;
    }
    move(free, after[free]!);
    open.delete(free);
  }
  return steps;
}

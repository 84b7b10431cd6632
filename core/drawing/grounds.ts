import type { Build } from '../build/schema';
import { ECU_GROUND, type Probe } from '../circuit/nodes';
import { withId } from '../data/with-id';
import { deviceAt, ecuEnd, endOf, endType, groundEnd, partAt, partEnd, pinAt, type EndKey } from '../ends/ends';
import { groundPins } from '../netlist/ground-pins';
import { labelOf } from '../netlist/label';
import type { Netlist, Wire } from '../netlist/netlist';
import { namesTogether } from '../netlist/short';
import { asOne, wholeWires } from '../netlist/whole';

/*
 * The drawing of the grounds: what returns stands at the left, a row each, and runs to the right to where it is bolted, through
 * the ECU where it returns to that, and on to the battery's negative post. A tree from the battery, walked once over the wires:
 * linear, safe on rings, and the same for the same plan. What closes a ring is drawn as a second way.
 */

export const groundKinds = ['return', 'joint', 'pin', 'ecu', 'bolt', 'battery'] as const;
export type GroundKind = (typeof groundKinds)[number];

export interface GroundNode {
  readonly id: string;
  readonly kind: GroundKind;
  readonly name: string;
  /** Where a probe is held to it, and what is selected with it; null inside the ECU. */
  readonly end: EndKey | null;
  readonly probe: Probe;
  /** Ends a row stands for. */
  readonly members: readonly EndKey[];
  /** Ring terminals under its bolt; 0 of anything else. */
  readonly rings: number;
  /** A return can be brought here. */
  readonly takes: boolean;
  readonly x: number;
  /** Middle of its row. */
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Joints that no wire of the loom is: the engine's strap, the body's sheet, the inside of the ECU, a bolt of one's own. */
export type GroundJoint = 'strap' | 'body' | 'inside' | 'bolted';

export interface GroundLine {
  readonly id: string;
  /** Wires drawn as one. */
  readonly wires: readonly Wire[];
  readonly joint: GroundJoint | null;
  readonly from: readonly [x: number, y: number];
  readonly to: readonly [x: number, y: number];
  /** Where it turns. */
  readonly bend: number;
  /** It closes a ring, or goes back a second way. */
  readonly second: boolean;
}

export interface GroundDrawing {
  readonly nodes: readonly GroundNode[];
  readonly lines: readonly GroundLine[];
  readonly width: number;
  readonly height: number;
}

/** Sizes of the drawing, pixels. */
const ROW = 28;
const TOP = 12;
const LEAF_WIDTH = 200;
/** From the rows to the first place they meet: a wire's words are written there. */
const BRANCH = 176;
const GAP = 91;
/** Where the rows of what returns end. */
export const ROWS_END = LEAF_WIDTH + 1;
const sizes: Readonly<Record<GroundKind, readonly [width: number, height: number]>> = {
  return: [LEAF_WIDTH, 24],
  joint: [12, 12],
  pin: [72, 40],
  ecu: [84, 52],
  bolt: [116, 52],
  battery: [76, 52],
};

const BATTERY_POST = groundEnd('battery');
const BODY = groundEnd('chassis');
const BLOCK = groundEnd('head');
const ECU = 'ecu';

interface Edge {
  readonly to: string;
  readonly wire: Wire | null;
  readonly joint: GroundJoint | null;
}

interface Draft {
  readonly id: string;
  readonly kind: GroundKind;
  readonly ends: EndKey[];
  readonly parent: Draft | null;
  /** The return it hangs on. */
  readonly via: Draft | null;
  readonly wires: Wire[];
  readonly joint: GroundJoint | null;
  readonly children: Draft[];
  readonly depth: number;
  y: number;
}

/** Places and wires of the grounds as a graph: power grounds of the ECU are one place with its inside. */
function graphOf(build: Build, net: Netlist): ReadonlyMap<string, readonly Edge[]> {
  const pins = groundPins(build);
  const powers = new Set(pins.power.map(({ id }) => ecuEnd(id)));
  const edges = new Map<string, Edge[]>();
  const add = (from: string, edge: Edge) => {
    const at = edges.get(from);
    if (at) at.push(edge);
    else edges.set(from, [edge]);
  };
  const join = (one: string, other: string, wire: Wire | null, joint: GroundJoint | null) => {
    add(one, { to: other, wire, joint });
    add(other, { to: one, wire, joint });
  };
  // What stands in a return is one place, whichever side a wire is on.
  const placeOf = (end: EndKey): string => {
    const ref = endOf(end);
    const inline =
      ref.of === 'part' && inlineKinds.has(ref.kind) ? net.parts.find(({ id }) => id === partAt(end)) : undefined;
    return powers.has(end)
      ? ECU
      : inline
        ? partEnd(inline.part.kind, inline.name, inline.part.kind === 'diode' ? 'a' : '1')
        : end;
  };
  join(BATTERY_POST, BLOCK, null, 'strap');
  join(BATTERY_POST, BODY, null, 'body');
  for (const { name, part } of net.parts)
    if (part.kind === 'ground') join(partEnd('ground', name), part.on === 'body' ? BODY : BLOCK, null, 'bolted');
  // Plugs part a return and change nothing of where it goes.
  for (const whole of wholeWires(net).values()) {
    const wire = asOne(whole);
    if (wire.signal !== 'ground') continue;
    join(placeOf(wire.from), placeOf(wire.to), wire, null);
    for (const end of [wire.from, wire.to])
      if (pinAt(end) !== null && !powers.has(end) && !edges.get(end)?.some(({ joint }) => joint === 'inside'))
        join(end, ECU, null, 'inside');
  }
  return edges;
}
/** Parts that may stand in a return. */
const inlineKinds: ReadonlySet<string> = new Set(['switch', 'button', 'resistor', 'diode']);

function kindOf(place: string, hasMore: boolean): GroundKind {
  if (place === ECU) return 'ecu';
  if (place === BATTERY_POST) return 'battery';
  const end = place as EndKey;
  if (endType(end) === 'ground') return 'bolt';
  if (pinAt(end) !== null) return 'pin';
  return endType(end) === 'splice' || (hasMore && inlineKinds.has(endType(end))) ? 'joint' : 'return';
}

/** What a row is grouped by: alike things of one name, on wires alike, that go to one place. */
function groupKey(net: Netlist, draft: Draft): string {
  const [end] = draft.ends as [EndKey];
  const device = net.deviceOf.get(deviceAt(end) ?? '');
  const ref = endOf(end);
  const [wire] = draft.wires;
  const look = wire ? `${wire.squareMm} ${wire.lengthMetres} ${wire.colour}` : '';
  if (!device) return `${ref.of === 'part' && ref.kind === 'relay' ? `relay ${ref.port}` : end} ${look}`;
  return `${device.kind.id} ${draft.wires.length} ${look}`;
}

function nameOf(net: Netlist, ends: readonly EndKey[]): string {
  const [first] = ends as [EndKey];
  const ref = endOf(first);
  if (ref.of === 'part' && ref.kind === 'relay' && ends.length > 1)
    return `${ends.length} relay windings · ${ref.port}`;
  if (ref.of !== 'device') return labelOf(net, first);
  const devices = [...new Set(ends.map((end) => deviceAt(end)!))];
  const labels = devices.map((id) => net.names.devices.get(id) ?? id);
  const terminals = [...new Set(ends.map((end) => terminalOf(end)))];
  return `${devices.length === 1 ? labels[0]! : namesTogether(labels)} · ${terminals.join(', ')}`;
}
const terminalOf = (end: EndKey): string => {
  const ref = endOf(end);
  return ref.of === 'device' ? ref.terminal : '';
};

/** Lays out the grounds of a build. O(wires). */
export function drawGrounds(build: Build, net: Netlist): GroundDrawing {
  const edges = graphOf(build, net);
  const drafts = new Map<string, Draft>();
  const second: { from: string; to: string; wires: Wire[]; joint: GroundJoint | null }[] = [];
  const used = new Set<Wire | string>();
  const root: Draft = {
    id: BATTERY_POST,
    kind: 'battery',
    ends: [BATTERY_POST],
    parent: null,
    via: null,
    wires: [],
    joint: null,
    children: [],
    depth: 0,
    y: 0,
  };
  drafts.set(root.id, root);
  const queue = [root];
  /** Returns that others hang on: gone through last, so that no place is reached by way of a device. */
  const last: Draft[] = [];
  const follow = (draft: Draft): void => {
    for (const { to, wire, joint } of edges.get(draft.id) ?? []) {
      const name = wire ?? [draft.id, to].sort().join(' ');
      if (used.has(name)) continue;
      used.add(name);
      const known = drafts.get(to);
      if (known) {
        // Several wires side by side are one line; any other is a second way.
        if (known.parent === draft && wire && known.wires.length > 0) known.wires.push(wire);
        else second.push({ from: to, to: draft.id, wires: wire ? [wire] : [], joint });
        continue;
      }
      // What hangs on another's return is a row beside it, and says so.
      const via = draft.kind === 'return' ? draft : null;
      const parent = via?.parent ?? draft;
      const made: Draft = {
        id: to,
        kind: kindOf(to, (edges.get(to)?.length ?? 0) > 1),
        ends: to === ECU ? [] : [to as EndKey],
        parent,
        via,
        wires: wire ? [wire] : [],
        joint,
        children: [],
        depth: parent.depth + 1,
        y: 0,
      };
      drafts.set(to, made);
      parent.children.push(made);
      (made.kind === 'return' ? last : queue).push(made);
    }
  };
  for (const draft of queue) follow(draft);
  for (const draft of last) {
    const grown = queue.length;
    follow(draft);
    for (let i = grown; i < queue.length; i += 1) follow(queue[i]!);
  }
  fold(net, root, drafts, new Set(second.flatMap(({ from, to }) => [from, to])));
  return placed(net, root, drafts, second);
}

/** Rows that are alike become one. A row with a second way stays its own. */
function fold(net: Netlist, root: Draft, drafts: Map<string, Draft>, apart: ReadonlySet<string>): void {
  const isVia = new Set([...drafts.values()].flatMap(({ via }) => via ?? []));
  const walk = (draft: Draft): void => {
    const groups = new Map<string, Draft>();
    const kept: Draft[] = [];
    for (const child of draft.children) {
      walk(child);
      const alone = child.kind !== 'return' || child.via !== null || isVia.has(child) || apart.has(child.id);
      const key = alone ? null : groupKey(net, child);
      const group = key === null ? undefined : groups.get(key);
      if (group) {
        group.ends.push(...child.ends);
        group.wires.push(...child.wires);
        drafts.set(child.id, group);
        continue;
      }
      if (key !== null) groups.set(key, child);
      kept.push(child);
    }
    draft.children.splice(0, draft.children.length, ...kept);
  };
  walk(root);
}

function titleOf(net: Netlist, { kind, ends, via }: Draft): string {
  if (kind === 'ecu') return 'ECU';
  if (kind === 'pin') return pinAt(ends[0]!)!;
  return via ? `${nameOf(net, ends)}, by ${nameOf(net, via.ends)}` : nameOf(net, ends);
}

const isBolt = ({ kind }: Draft): boolean => kind === 'bolt' || kind === 'battery';

function placed(
  net: Netlist,
  root: Draft,
  drafts: ReadonlyMap<string, Draft>,
  second: readonly { from: string; to: string; wires: Wire[]; joint: GroundJoint | null }[],
): GroundDrawing {
  const all: Draft[] = [];
  let row = 0;
  let deepest = 0;
  // A place with nothing behind it is a row like a return, so that it takes up room.
  const walk = (draft: Draft): void => {
    all.push(draft);
    const start = row;
    const rows = Math.max(1, Math.ceil((sizes[draft.kind][1] + 4) / ROW));
    // What is behind it takes less room than it does itself: it stands in the middle of its own.
    const behind = rowsBehind(draft);
    if (behind > 0 && behind < rows) row += (rows - behind) / 2;
    if (draft.kind !== 'return') deepest = Math.max(deepest, draft.depth);
    const inner = draft.children.filter(({ kind }) => kind !== 'return');
    const leaves = draft.children.filter(({ kind }) => kind === 'return');
    for (const child of [...leaves, ...inner]) walk(child);
    if (draft.children.length > 0) {
      const ys = draft.children.map(({ y }) => y);
      draft.y = (Math.min(...ys) + Math.max(...ys)) / 2;
      row = Math.max(row, start + rows);
      return;
    }
    draft.y = TOP + (row + rows / 2) * ROW;
    row += rows;
  };
  walk(root);
  const columns = columnsOf(all, deepest);
  const xOf = (draft: Draft): number => (draft.kind === 'return' ? 0 : columns[draft.depth]!);
  const nodes = all.map((draft): GroundNode => {
    const [width, height] = sizes[draft.kind];
    const [end] = draft.ends;
    const rings = [...draft.children, draft].reduce(
      (sum, one) => sum + one.wires.filter(({ from, to }) => from === end || to === end).length,
      0,
    );
    return {
      id: draft.id,
      kind: draft.kind,
      name: titleOf(net, draft),
      end: end ?? null,
      probe: end ?? ECU_GROUND,
      members: draft.ends,
      rings: isBolt(draft) ? rings : 0,
      takes: isBolt(draft) || (draft.kind === 'joint' && withId(net.parts, partAt(end!)!)?.proposed === false),
      x: xOf(draft),
      y: draft.y,
      width,
      height,
    };
  });
  const byId = new Map(nodes.map((node) => [node.id, node]));
  const drawnOf = (id: string): GroundNode => byId.get(drafts.get(id)!.id)!;
  const between = (from: GroundNode, to: GroundNode) => ({
    from: [from.x + from.width, from.y] as const,
    to: [to.x, to.y] as const,
    bend: to.x - 10,
  });
  const lines = [
    ...all.flatMap((draft): GroundLine[] =>
      draft.parent
        ? [
            {
              id: draft.id,
              wires: draft.wires,
              joint: draft.joint,
              ...between(drawnOf(draft.id), drawnOf(draft.parent.id)),
              second: false,
            },
          ]
        : [],
    ),
    ...second.map(({ from, to, wires, joint }, at): GroundLine => {
      const [one, other] = [drawnOf(from), drawnOf(to)];
      // From the left to the right, whichever was found first.
      const [left, right] = one.x <= other.x ? [one, other] : [other, one];
      return { id: `second ${at}`, wires, joint, ...between(left, right), second: true };
    }),
  ];
  return { nodes, lines, width: columns[0]! + sizes.battery[0] + 4, height: TOP + row * ROW + TOP };
}

/** Rows that what hangs on a place takes; 0: nothing hangs there. */
const rowsBehind = ({ children }: Draft): number =>
  children.reduce(
    (sum, child) =>
      sum + Math.max(rowsBehind(child), child.kind === 'return' ? 1 : Math.ceil((sizes[child.kind][1] + 4) / ROW)),
    0,
  );

/** The left edge of each depth's column, the battery's the rightmost. */
function columnsOf(all: readonly Draft[], deepest: number): number[] {
  const widths = Array.from({ length: deepest + 1 }, (_, depth) =>
    Math.max(
      ...all.filter((one) => one.depth === depth && one.kind !== 'return').map(({ kind }) => sizes[kind][0]),
      12,
    ),
  );
  const columns: number[] = [];
  let x = LEAF_WIDTH + BRANCH;
  for (let depth = deepest; depth >= 0; depth -= 1) {
    columns[depth] = x;
    x += widths[depth]! + GAP;
  }
  return columns;
}

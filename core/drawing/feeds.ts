import { withId } from '../data/with-id';
import { deviceAt, deviceEnd, endType, partAt, pinAt, type EndKey } from '../ends/ends';
import { labelOf } from '../netlist/label';
import type { Netlist, Wire } from '../netlist/netlist';

import { plural } from '../units/format';
import type { PlannedPart } from '../power/propose';
import { namesTogether } from '../netlist/short';
import { asOne, farOf, wholeWires } from '../netlist/whole';
import { fold, sketch, type Draft, type DrawnKind, type Sketch } from './sketch';

/*
 * The drawing of the feeds, read from left to right: source, protection, switching, shared at, load, returns at. Each load has a row;
 * what feeds it stands in the row of the first of its loads. Laid out in one walk over the plan: linear, and the same for the same
 * plan, so that nothing jumps when something is added below.
 */

export interface DrawnNode {
  /** The part's id, or the end of a source or a load. */
  readonly id: string;
  readonly kind: DrawnKind;
  readonly part: PlannedPart | null;
  /** Where a probe is held to it: a part's side towards the load. */
  readonly end: EndKey;
  readonly name: string;
  /** Loads, or windings, it stands for; of anything else none. */
  readonly members: readonly EndKey[];
  /** It stands for all that hangs behind a fuse, whose lane is folded. */
  readonly isLane: boolean;
  /** Where its current goes back. */
  readonly returns: string | null;
  /** Nothing feeds it. */
  readonly adrift: boolean;
  readonly x: number;
  /** Middle of its row. */
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export interface DrawnWire {
  readonly id: string;
  readonly wire: Wire;
  /** Wires that were drawn as one, to the members of a group. */
  readonly count: number;
  readonly from: readonly [x: number, y: number];
  readonly to: readonly [x: number, y: number];
  /** Where it turns. */
  readonly bend: number;
  /** It closes a ring, or lies beside another. */
  readonly second: boolean;
  /** Several leave the same post: their common way is drawn once. */
  readonly bus: boolean;
}

/** The common way of the wires that leave a source: across, and down to the last of them. */
export interface DrawnBus {
  readonly from: number;
  readonly x: number;
  readonly y: number;
  readonly to: number;
}

export interface DrawnBox {
  readonly id: string;
  readonly name: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export interface FeedDrawing {
  readonly nodes: readonly DrawnNode[];
  readonly wires: readonly DrawnWire[];
  readonly buses: readonly DrawnBus[];
  readonly boxes: readonly DrawnBox[];
  readonly columns: readonly { readonly title: string; readonly x: number }[];
  readonly width: number;
  readonly height: number;
}

/** Sizes of the drawing, pixels. */
const ROW = 46;
const TOP = 30;
const sizes: Readonly<Record<DrawnKind, readonly [width: number, height: number]>> = {
  source: [90, 52],
  fuse: [60, 32],
  relay: [134, 38],
  inline: [84, 32],
  joint: [12, 12],
  load: [190, 34],
  windings: [190, 34],
};
/** Room before a column, by what stands in it: a wire's words want more. */
const gaps: Readonly<Record<DrawnKind, number>> = {
  source: 0,
  fuse: 32,
  relay: 20,
  inline: 20,
  joint: 76,
  load: 34,
  windings: 34,
};
/** From the joints to the loads at least: a branch's size, length and current are written there. */
const BRANCH = 128;
const RETURNS = 118;

/** Columns: by what a thing is, and always right of what feeds it. */
function placeColumns(made: Sketch): number {
  const all = [...made.byId.values()];
  const depth = (draft: Draft): number => (draft.parent ? depth(draft.parent) + 1 : 0);
  const before = all.filter(({ kind, parent }) => {
    for (let up = parent; up; up = up.parent) if (up.kind === 'fuse') return false;
    return kind === 'inline' || kind === 'joint';
  });
  const first =
    Math.max(
      0,
      ...before.filter(({ children }) => children.some(({ kind }) => kind === 'fuse' || kind === 'joint')).map(depth),
    ) + 1;
  const least: Readonly<Record<DrawnKind, number>> = {
    source: 0,
    fuse: first,
    relay: first + 1,
    inline: 1,
    joint: 1,
    load: 0,
    windings: 0,
  };
  const leaves: Draft[] = [];
  let most = 0;
  const walk = (draft: Draft): void => {
    const behindFuse = ((): boolean => {
      for (let up = draft.parent; up; up = up.parent) if (up.kind === 'fuse') return true;
      return false;
    })();
    const base = draft.kind === 'joint' && behindFuse ? first + 2 : least[draft.kind];
    draft.column = Math.max(base, draft.parent ? draft.parent.column + 1 : 0);
    if (draft.kind === 'load' || draft.kind === 'windings') leaves.push(draft);
    else most = Math.max(most, draft.column);
    draft.children.forEach(walk);
  };
  made.roots.forEach(walk);
  for (const leaf of leaves) leaf.column = most + 1;
  return most + 1;
}

/** Rows: a leaf each, and whatever has none of its own; what feeds them in the row of the first. */
function placeRows(made: Sketch): number {
  let next = 0;
  const walk = (draft: Draft): void => {
    draft.children.forEach(walk);
    draft.row = draft.children[0]?.row ?? next;
    if (draft.children.length === 0) next += 1;
  };
  made.roots.forEach(walk);
  return next;
}

/** Where the current of a load goes back: the bolt of its ground, or the output that switches it. */
function returnsOf(net: Netlist, members: readonly EndKey[]): string | null {
  const places = new Set(
    members.flatMap((end) => {
      if (pinAt(end) !== null) return ['through the ECU'];
      const entry = net.deviceOf.get(deviceAt(end) ?? '');
      if (!entry) return [];
      const { device, kind } = entry;
      const others = kind.terminals.map(({ id }) => deviceEnd(device.id, id)).filter((one) => one !== end);
      const far = others.flatMap((one) => (net.wiresAt.get(one) ?? []).map((wire) => farOf(net, wire, one)));
      const ground = far.find((one) => endType(one) === 'ground');
      if (ground) return [labelOf(net, ground)];
      const mounted = kind.terminals.find(({ destination }) => destination.to === 'mounted');
      if (mounted) return ['its own body'];
      return far.some((one) => endType(one) === 'ecu' || endType(one) === 'splice') ? ['by the ECU'] : [];
    }),
  );
  const [first] = places;
  return first === undefined ? null : places.size === 1 ? first : 'several places';
}

/** Room that the title of a column takes, px. */
const TITLE_WIDTH = 72;
const columnTitles: Readonly<Record<DrawnKind, string>> = {
  source: 'source',
  fuse: 'protection',
  relay: 'switched by',
  inline: '',
  joint: 'shared at',
  load: 'load',
  windings: 'load',
};

/**
 * Draws the plan of feeds.
 *
 * @param open Groups of loads alike that are drawn one by one.
 * @param folded Fuses whose lane is drawn as one load.
 */
export function drawFeeds(
  net: Netlist,
  open: ReadonlySet<string> = new Set(),
  folded: ReadonlySet<string> = new Set(),
): FeedDrawing {
  const made = sketch(net, open);
  fold(made, folded);
  const last = placeColumns(made);
  const rows = placeRows(made);
  const drafts = [...made.byId.values()];

  const lefts: number[] = [];
  const widths: number[] = [];
  let x = 0;
  let branched = 0;
  for (let column = 0; column <= last; column += 1) {
    const here = drafts.filter((draft) => draft.column === column);
    widths[column] = Math.max(0, ...here.map(({ kind }) => sizes[kind][0]));
    const gap = here.length === 0 ? 0 : Math.max(...here.map(({ kind }) => gaps[kind]));
    lefts[column] = column === last ? Math.max(x + gap, branched + BRANCH) : x + gap;
    x = lefts[column]! + widths[column]!;
    // Words over a branch begin at the last column that most loads hang on.
    if (here.some(({ kind }) => kind === 'joint' || kind === 'relay')) branched = x;
  }
  const yOf = (row: number) => TOP + row * ROW + ROW / 2;
  const nodes = drafts.map((draft): DrawnNode => {
    const [width, height] = sizes[draft.kind];
    return {
      id: draft.id,
      kind: draft.kind,
      part: draft.part,
      end: draft.end,
      name: nameOf(net, draft),
      members: draft.members,
      isLane: draft.isLane,
      returns: draft.kind === 'load' ? returnsOf(net, draft.members) : null,
      // A second battery hangs on nothing: it is a source itself.
      adrift: draft.parent === null && draft.kind !== 'source' && endType(draft.end) !== 'battery',
      x: lefts[draft.column]!,
      y: yOf(draft.row),
      width,
      height,
    };
  });
  const wholes = wholeWires(net);
  const nodeById = new Map(nodes.map((node) => [node.id, node]));
  const drawn = new Set<string>();
  const wires = drafts.flatMap((draft): DrawnWire[] => {
    const [step] = draft.links;
    const whole = step?.link && wholes.get(step.link.id);
    if (!whole || !draft.parent) return [];
    const wire = asOne(whole);
    for (const { link } of [...draft.links, ...draft.through]) drawn.add(link!.id);
    const [one, other] = [nodeById.get(draft.parent.id)!, nodeById.get(draft.id)!];
    return [joining(wire, one, other, draft.links.length, false)];
  });
  for (const { id, from, to, role } of net.power.plan.links) {
    const whole = wholes.get(id);
    if (drawn.has(id) || role === 'return' || role === 'winding' || !whole) continue;
    const wire = asOne(whole);
    const [one, other] = [from, to].map((end) => nodeById.get(partAt(end) ?? '') ?? nodeById.get(end));
    if (one && other && one !== other)
      wires.push(joining(wire, one.x <= other.x ? one : other, one.x <= other.x ? other : one, 1, true));
  }
  const titled = new Set<string>();
  const columns = lefts.flatMap((left, column) => {
    const kinds = drafts.filter((draft) => draft.column === column).map(({ kind }) => columnTitles[kind]);
    const title = kinds.find((one) => one !== '' && !titled.has(one));
    // A bar is narrower than what it would be called.
    if (title === undefined || (lefts[column + 1] ?? Infinity) - left < TITLE_WIDTH) return [];
    titled.add(title);
    return [{ title, x: left }];
  });
  return {
    nodes,
    wires,
    buses: busesOf(wires),
    boxes: boxesOf(net, nodes),
    columns: [...columns, { title: 'returns at', x: x + 34 }],
    width: x + RETURNS,
    height: TOP + rows * ROW + 8,
  };
}

/** Of more loads that are drawn as one only the first is named: as many as an engine has. */
const MOST_NAMED = 12;

function nameOf(net: Netlist, draft: Draft): string {
  if (draft.kind === 'windings')
    return `Winding${draft.members.length > 1 ? 's' : ''}: ${draft.members.map((end) => withId(net.parts, partAt(end)!)?.part.name ?? '').join(', ')}`;
  if (draft.isLane) return plural(draft.members.length, 'load');
  if (draft.members.length < 2) return draft.name;
  const names = draft.members.map((end) => net.deviceOf.get(deviceAt(end) ?? '')?.device.label ?? labelOf(net, end));
  return names.length > MOST_NAMED ? `${names[0]} and ${names.length - 1} more` : namesTogether(names);
}

/** A wire from the right side of one thing to the left of another; it turns just behind the first. */
function joining(wire: Wire, one: DrawnNode, other: DrawnNode, count: number, second: boolean): DrawnWire {
  const shift = second ? 6 : 0;
  const start = one.x + one.width / (one.kind === 'joint' ? 2 : 1);
  const bend = one.kind === 'joint' ? start : start + 13 + shift;
  return {
    id: wire.id,
    wire,
    count,
    from: [start, one.y + shift],
    to: [other.x + (other.kind === 'joint' ? other.width / 2 : 0), other.y + shift],
    bend,
    second,
    bus: one.kind === 'source' && !second,
  };
}

function busesOf(wires: readonly DrawnWire[]): DrawnBus[] {
  const found = new Map<string, DrawnBus>();
  for (const { bus, from, to, bend } of wires) {
    if (!bus) continue;
    const key = from.join(' ');
    const known = found.get(key);
    found.set(key, { from: from[0], x: bend, y: from[1], to: Math.max(known?.to ?? from[1], to[1]) });
  }
  return [...found.values()];
}

/** A frame round the parts of a box, for each run of rows they stand in. */
function boxesOf(net: Netlist, nodes: readonly DrawnNode[]): DrawnBox[] {
  const found = new Map<string, DrawnNode[]>();
  for (const node of nodes) {
    const box = node.part?.part.box;
    if (box !== undefined) found.set(box, [...(found.get(box) ?? []), node]);
  }
  return [...found].flatMap(([id, inside]) => {
    const sorted = [...inside].sort((one, other) => one.y - other.y);
    const runs: DrawnNode[][] = [];
    for (const node of sorted) {
      const run = runs[runs.length - 1];
      if (run && node.y - run[run.length - 1]!.y <= ROW) run.push(node);
      else runs.push([node]);
    }
    return runs.map((run, at): DrawnBox => {
      const left = Math.min(...run.map((node) => node.x)) - 7;
      const right = Math.max(...run.map((node) => node.x + node.width)) + 7;
      const top = run[0]!.y - 23;
      return {
        id: `${id} ${at}`,
        name: net.power.boxes[id]?.name ?? id,
        x: left,
        y: top,
        width: right - left,
        height: run[run.length - 1]!.y + 22 - top,
      };
    });
  });
}

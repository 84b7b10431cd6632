import type { Build } from '../build/schema';
import { deviceAt, endOf, endType, pinAt, plugEnd, portOf, type EndKey } from '../ends/ends';
import { otherEnd } from '../netlist/wires';
import type { Netlist, Wire } from '../netlist/netlist';
import { labelOf } from '../netlist/label';
import { ECU_THING, placesOf, thingsOf } from '../tree/things';
import { ringsOf, waysOf } from '../tree/ways';
import { bundleOf, wiresBySegment } from './bundles';
import { placeName } from './names';
import { meetingsOf } from './plug-face';

/*
 * The loom laid flat on a board at 1:1, millimetres. It runs to the right from the ECU; what hangs on a place is led up or down
 * and then along it, shortest nearest, each clear of what lies further out, so that nothing crosses. What is too long is laid in
 * turns. Every piece is drawn as long as it is.
 */

export interface BoardPoint {
  readonly x: number;
  readonly y: number;
}
export interface BoardLine {
  readonly segment: string;
  readonly points: readonly BoardPoint[];
  /** Of the bundle in it, bare, mm. */
  readonly thick: number;
}
/** A row of the table beside a plug. */
export interface BoardRow {
  readonly at: string;
  readonly colour: string;
  readonly squareMm: number;
  readonly to: string;
}
export interface BoardPlace {
  readonly id: string;
  readonly name: string;
  readonly at: BoardPoint;
  /** Beside its end, from the top; empty where the loom only parts. */
  readonly rows: readonly BoardRow[];
  /** A long table, or one of a place within the loom, stands below it: in columns from here. */
  readonly table: BoardPoint | null;
}
/** A tick on a piece, so many millimetres from its beginning. */
export interface BoardTick {
  readonly at: BoardPoint;
  /** Across the piece. */
  readonly across: 'x' | 'y';
  readonly millimetres: number;
}
export type BoardProblem =
  /** The board would have to be this large. */
  | { readonly code: 'too-small'; readonly width: number; readonly height: number }
  /** A piece is too short to be led clear of what lies beside it. */
  | { readonly code: 'crowded'; readonly segment: string }
  | { readonly code: 'in-pieces'; readonly places: number }
  /** A ring is laid open there. */
  | { readonly code: 'ring'; readonly segment: string };

export interface Board {
  readonly width: number;
  readonly height: number;
  /** What of it the loom takes, from its upper left corner. */
  readonly used: { readonly width: number; readonly height: number };
  readonly lines: readonly BoardLine[];
  readonly places: readonly BoardPlace[];
  readonly ticks: readonly BoardTick[];
  readonly problems: readonly BoardProblem[];
}

/** Sizes on the board, mm. */
const PITCH = 22;
const ROW_HEIGHT = 5;
export const TABLE_WIDTH = 74;
const NAME_HEIGHT = 7;
const MARGIN = 15;
const TICK = 100;
const LEAST_RUN = 5;
/** Rows that stand beside an end; longer tables stand below the loom, in columns of so many. */
const MOST_BESIDE = 14;
export const COLUMN_ROWS = 30;
const BELOW: BoardPoint = { x: 0, y: 0 };

/** Something that takes up room: from x0 to x1, between y0 and y1. Trunks lie at y = 0, up is negative. */
interface Rect {
  readonly x0: number;
  readonly x1: number;
  readonly y0: number;
  readonly y1: number;
}
interface Laid {
  readonly lines: BoardLine[];
  readonly places: BoardPlace[];
  readonly rects: Rect[];
}

const shifted = (by: BoardPoint, flip: 1 | -1, { x, y }: BoardPoint): BoardPoint => ({
  x: x + by.x,
  y: by.y + y * flip,
});
const movedRect = (by: BoardPoint, flip: 1 | -1, { x0, x1, y0, y1 }: Rect): Rect => ({
  x0: x0 + by.x,
  x1: x1 + by.x,
  y0: by.y + Math.min(y0 * flip, y1 * flip),
  y1: by.y + Math.max(y0 * flip, y1 * flip),
});

class Layout {
  readonly problems: BoardProblem[] = [];
  private readonly edges = new Map<string, { readonly segment: string; readonly to: string }[]>();
  private readonly leaves = new Map<string, number>();
  private readonly wires: ReadonlyMap<string, readonly Wire[]>;

  constructor(
    private readonly build: Build,
    net: Netlist,
    /** Nothing is led further along than this before it turns. */
    private readonly fold: number,
    private readonly tables: ReadonlyMap<string, readonly BoardRow[]>,
  ) {
    this.wires = wiresBySegment(net);
    for (const id of Object.keys(build.tree.nodes)) this.edges.set(id, []);
  }

  /**
   * The pieces by which everything is reached from a place. Of a ring that piece is left out in which fewest wires lie, and of
   * those the longest: the trunk stays drawn, and of two ways the one that wires take.
   */
  span(root: string): void {
    const { tree } = this.build;
    const count = (id: string) => this.wires.get(id)?.length ?? 0;
    const order = Object.keys(tree.segments).sort(
      (one, other) => count(other) - count(one) || tree.segments[one]!.metres - tree.segments[other]!.metres,
    );
    const open = new Set(ringsOf({ segments: Object.fromEntries(order.map((id) => [id, tree.segments[id]!])) }));
    const seen = new Set([root]);
    const queue = [root];
    for (const node of queue)
      for (const [segment, { a, b }] of Object.entries(tree.segments)) {
        if (a === b || (a !== node && b !== node)) continue;
        const to = a === node ? b : a;
        if (open.has(segment)) {
          // Told once, from the end that is reached first.
          if (!seen.has(to) || queue.indexOf(to) >= queue.indexOf(node)) this.problems.push({ code: 'ring', segment });
          continue;
        }
        if (seen.has(to)) continue;
        seen.add(to);
        queue.push(to);
        this.edges.get(node)!.push({ segment, to });
      }
    for (const node of [...queue].reverse()) {
      const children = this.edges.get(node)!;
      this.leaves.set(
        node,
        children.length === 0 ? 1 : children.reduce((sum, { to }) => sum + this.leaves.get(to)!, 0),
      );
    }
  }

  private thick(segment: string): number {
    return bundleOf(this.wires.get(segment) ?? [], 'none').bareMillimetres;
  }
  private millimetres(segment: string): number {
    return this.build.tree.segments[segment]!.metres * 1000;
  }

  /** What hangs on a place, the place itself at the origin, laid to the right. */
  lay(node: string): Laid {
    const children = [...this.edges.get(node)!];
    const rows = this.tables.get(node) ?? [];
    const name = placeName(this.build, node);
    const isEnd = children.length === 0;
    const beside = isEnd && rows.length <= MOST_BESIDE;
    const half = beside ? Math.max(PITCH / 2, (rows.length * ROW_HEIGHT + NAME_HEIGHT) / 2) : PITCH / 2;
    const laid: Laid = {
      lines: [],
      places: [{ id: node, name, at: { x: 0, y: 0 }, rows, table: beside || rows.length === 0 ? null : BELOW }],
      rects: isEnd
        ? [{ x0: 0, x1: TABLE_WIDTH, y0: -half, y1: half }]
        : [{ x0: -PITCH / 2, x1: PITCH / 2, y0: -PITCH / 2, y1: PITCH / 2 }],
    };
    if (isEnd) return laid;
    // What parts most goes straight on; of ends the longest.
    children.sort(
      (one, other) =>
        this.leaves.get(other.to)! - this.leaves.get(one.to)! ||
        this.millimetres(other.segment) - this.millimetres(one.segment),
    );
    const [main, ...rest] = children as [(typeof children)[number], ...(typeof children)[number][]];
    this.straight(laid, main);
    rest.sort((one, other) => this.millimetres(one.segment) - this.millimetres(other.segment));
    for (const child of rest) this.hang(laid, child);
    return laid;
  }

  private isEnd(node: string): boolean {
    return this.edges.get(node)!.length === 0;
  }

  /** A run of a length along the trunk, in turns where it is too long: its corners from the origin, and where it ends. */
  private run(length: number, folds: boolean): BoardPoint[] {
    const turns = folds && length > this.fold ? Math.ceil(length / this.fold) : 1;
    const along = (length - (turns - 1) * PITCH) / turns;
    const points: BoardPoint[] = [{ x: 0, y: 0 }];
    for (let turn = 0; turn < turns; turn += 1) {
      const y = -turn * PITCH;
      if (turn > 0) points.push({ x: points[points.length - 1]!.x, y });
      points.push({ x: turn % 2 === 0 ? along : 0, y });
    }
    return points;
  }

  private straight(laid: Laid, { segment, to }: { segment: string; to: string }): void {
    const points = this.run(this.millimetres(segment), this.isEnd(to));
    const end = points[points.length - 1]!;
    this.take(laid, segment, points, this.lay(to), end, 1);
  }

  private take(
    laid: Laid,
    segment: string,
    points: readonly BoardPoint[],
    child: Laid,
    at: BoardPoint,
    flip: 1 | -1,
  ): void {
    laid.lines.push({ segment, points, thick: this.thick(segment) });
    laid.rects.push(...rectsAlong(points));
    laid.lines.push(
      ...child.lines.map((line) => ({ ...line, points: line.points.map((one) => shifted(at, flip, one)) })),
    );
    laid.places.push(...child.places.map((place) => ({ ...place, at: shifted(at, flip, place.at) })));
    laid.rects.push(...child.rects.map((rect) => movedRect(at, flip, rect)));
  }

  /** Up or down to where it is clear of what lies there already, then along. */
  private hang(laid: Laid, { segment, to }: { segment: string; to: string }): void {
    const length = this.millimetres(segment);
    const child = this.lay(to);
    const up = this.clear(laid.rects, child, length, this.isEnd(to), 1);
    const down = this.clear(laid.rects, child, length, this.isEnd(to), -1);
    const side = up <= down ? 1 : -1;
    const wanted = Math.min(up, down);
    const away = Math.min(wanted, Math.max(0, length - LEAST_RUN));
    if (away < wanted) this.problems.push({ code: 'crowded', segment });
    const along = this.run(length - away, this.isEnd(to));
    const flip = side === 1 ? 1 : -1;
    const start = { x: 0, y: -side * away };
    const points = [{ x: 0, y: 0 }, ...along.map((point) => shifted(start, flip, point))];
    this.take(laid, segment, points, child, points[points.length - 1]!, flip);
  }

  /** How far from the trunk something has to be led so that all of it is clear. */
  private clear(taken: readonly Rect[], child: Laid, length: number, folds: boolean, side: 1 | -1): number {
    let away = PITCH;
    for (;;) {
      const along = this.run(Math.max(0, length - away), folds);
      const end = along[along.length - 1]!;
      const own = [...rectsAlong(along), ...child.rects.map((rect) => movedRect(end, 1, rect))];
      let next = away;
      for (const rect of own)
        for (const other of taken) {
          if (other.x1 <= rect.x0 || other.x0 >= rect.x1) continue;
          // How far the other reaches out on this side, and how far in this one does.
          const reach = side === 1 ? -other.y0 : other.y1;
          next = Math.max(next, reach + rect.y1);
        }
      if (next <= away + 1e-6) return away;
      away = next;
      if (away > length + 1e5) return away;
    }
  }
}

/** Room on either side of what is led along. */
const rectsAlong = (points: readonly BoardPoint[]): Rect[] =>
  points.slice(1).map((to, i) => {
    const from = points[i]!;
    return {
      x0: Math.min(from.x, to.x),
      x1: Math.max(from.x, to.x),
      y0: Math.min(from.y, to.y) - PITCH / 2,
      y1: Math.max(from.y, to.y) + PITCH / 2,
    };
  });

/** What ends at each place: a row for each terminal, cavity or ring. */
function tablesOf(build: Build, net: Netlist): ReadonlyMap<string, readonly BoardRow[]> {
  const places = placesOf(build.tree);
  const boxes = new Map(net.parts.map(({ id, part }) => [id, part.box]));
  const tables = new Map<string, BoardRow[]>();
  const add = (end: EndKey, wire: Wire) => {
    const ref = endOf(end);
    const node = places.get(thingsOf(end, (id) => boxes.get(id)).find((thing) => places.has(thing)) ?? '');
    if (node === undefined || (ref.of === 'part' && ref.kind === 'splice')) return;
    const far = otherEnd(wire, end);
    const rows = tables.get(node) ?? [];
    rows.push({
      at:
        pinAt(end) ??
        (deviceAt(end) !== null || ref.of !== 'part' ? labelOf(net, end) : portOf(end) || labelOf(net, end)),
      colour: wire.colour,
      squareMm: wire.squareMm,
      to: labelOf(net, far),
    });
    tables.set(node, rows);
  };
  for (const wire of net.wires) for (const end of [wire.from, wire.to]) if (endType(end) !== 'plug') add(end, wire);
  // A cavity of a plug is one row: what comes, and what goes on.
  for (const [id, { plug }] of Object.entries(build.tree.nodes))
    if (plug)
      tables.set(
        id,
        meetingsOf(build, net, id).map(({ cavity, near, far }) => ({
          at: String(cavity),
          colour: near.colour,
          squareMm: near.squareMm,
          to: `${labelOf(net, near.from === plugEnd(id, cavity) ? near.to : near.from)} > ${labelOf(net, far.from === plugEnd(id, cavity) ? far.to : far.from)}`,
        })),
      );
  return tables;
}

/** How far what is long is led along before it turns, as shares of the board's width, tried in turn. */
const FOLDS = [Infinity, 0.85, 0.7, 0.55, 0.4, 0.28, 0.18] as const;

/** The loom of a build laid on a board of this size, mm. Deterministic; O(places²) for each of a few foldings. */
export function layBoard(build: Build, net: Netlist, size: { readonly width: number; readonly height: number }): Board {
  const nodes = Object.keys(build.tree.nodes);
  if (nodes.length === 0)
    return { width: 0, height: 0, used: { width: 0, height: 0 }, lines: [], places: [], ticks: [], problems: [] };
  const tables = tablesOf(build, net);
  const root = placesOf(build.tree).get(ECU_THING) ?? nodes[0]!;
  const away = nodes.filter((node) => waysOf(build.tree).metres(root, node) === Infinity).length;
  let best: { board: Board; over: number } | null = null;
  for (const share of FOLDS) {
    const layout = new Layout(build, net, share * size.width, tables);
    layout.span(root);
    const laid = layout.lay(root);
    const [left, top] = [Math.min(...laid.rects.map(({ x0 }) => x0)), Math.min(...laid.rects.map(({ y0 }) => y0))];
    const by = { x: MARGIN - left, y: MARGIN - top };
    const wide = Math.max(...laid.rects.map(({ x1 }) => x1)) - left + 2 * MARGIN;
    const bottom = Math.max(...laid.rects.map(({ y1 }) => y1)) - top + 2 * MARGIN;
    const below = tablesBelow(laid.places, Math.max(wide, size.width) - MARGIN, bottom);
    const [width, height] = [Math.max(wide, below.width), bottom + below.height];
    const lines = laid.lines.map((line) => ({ ...line, points: line.points.map((point) => shifted(by, 1, point)) }));
    const fits = width <= size.width && height <= size.height;
    const board: Board = {
      width: Math.max(size.width, width),
      height: Math.max(size.height, height),
      used: { width, height },
      lines,
      places: below.places.map((place) => ({ ...place, at: shifted(by, 1, place.at) })),
      ticks: lines.flatMap(ticksOf),
      problems: [
        ...(fits ? [] : [{ code: 'too-small' as const, width: Math.ceil(width), height: Math.ceil(height) }]),
        ...(away > 0 ? [{ code: 'in-pieces' as const, places: away }] : []),
        ...layout.problems,
      ],
    };
    if (fits) return board;
    const over = Math.max(0, width - size.width) + Math.max(0, height - size.height);
    if (best === null || over < best.over) best = { board, over };
  }
  return best!.board;
}

/** Tables that stand below the loom, one beside the other and in as many rows of them as it takes. */
function tablesBelow(
  places: readonly BoardPlace[],
  most: number,
  from: number,
): { readonly places: readonly BoardPlace[]; readonly width: number; readonly height: number } {
  let [x, y, deep, width] = [MARGIN, 0, 0, 0];
  const placed = places.map((place): BoardPlace => {
    if (place.table === null) return place;
    const own = Math.ceil(place.rows.length / COLUMN_ROWS) * TABLE_WIDTH;
    const high = Math.min(place.rows.length, COLUMN_ROWS) * ROW_HEIGHT + 2 * NAME_HEIGHT;
    if (x > MARGIN && x + own > most) [x, y, deep] = [MARGIN, y + deep, 0];
    const table = { x, y: from + y + NAME_HEIGHT };
    x += own + PITCH;
    deep = Math.max(deep, high);
    width = Math.max(width, x);
    return { ...place, table };
  });
  return { places: placed, width, height: y + deep };
}

/** A tick each hundred millimetres of a piece, from its beginning. */
function ticksOf({ points }: BoardLine): BoardTick[] {
  const ticks: BoardTick[] = [];
  let [walked, next] = [0, TICK];
  for (let i = 1; i < points.length; i += 1) {
    const [from, to] = [points[i - 1]!, points[i]!];
    const length = Math.abs(to.x - from.x) + Math.abs(to.y - from.y);
    while (next <= walked + length + 1e-6) {
      const share = length === 0 ? 0 : (next - walked) / length;
      ticks.push({
        at: { x: from.x + (to.x - from.x) * share, y: from.y + (to.y - from.y) * share },
        across: to.x === from.x ? 'x' : 'y',
        millimetres: next,
      });
      next += TICK;
    }
    walked += length;
  }
  return ticks;
}

/** How long a piece is drawn, mm. */
export const drawnMillimetres = ({ points }: BoardLine): number =>
  points.slice(1).reduce((sum, to, i) => sum + Math.hypot(to.x - points[i]!.x, to.y - points[i]!.y), 0);

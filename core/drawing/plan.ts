import type { Build } from '../build/schema';
import type { SegmentFigures } from '../loom/bundles';
import { layoutOf, type Layout } from '../loom/regions';
import { celsiusOf, type LoomTree, type NodeKind, type Point, type Zone } from '../tree/tree';

/*
 * The loom on the plan of its vehicle: places as they stand, pieces as rectangular lines as wide as their bundle. Lengths are
 * what is written on them, not what is drawn.
 */

export interface PlanNode {
  readonly id: string;
  readonly kind: NodeKind;
  readonly name: string;
  readonly x: number;
  readonly y: number;
  /** Where its name stands. */
  readonly side: 'left' | 'right' | 'above' | 'below';
  /** Pieces that meet there. */
  readonly meets: number;
}

export interface PlanSegment {
  readonly id: string;
  readonly path: string;
  /** The part of it that it does not share with the trunk it leads off. */
  readonly own: string;
  /** Pixels. */
  readonly width: number;
  readonly metres: number;
  readonly measured: boolean;
  readonly wires: number;
  /** Middle of its longer part, where its length stands. */
  readonly word: Point;
  readonly upright: boolean;
  /** A short one beside a plug of the trunk has its length below, clear of the plug. */
  readonly below: boolean;
  /** There is room for its length; of the shortest it is told when it is looked at. */
  readonly told: boolean;
  readonly hole: Point | null;
}

/** Pieces that hang together in one surrounding that a loom has to be made for. */
export interface PlanZone {
  readonly zone: Zone;
  readonly celsius: number;
  /** Where they are by themselves, to be drawn as one broad band. */
  readonly paths: readonly string[];
}
/** Drawn as areas: what a loom has to be made for. The cabin and the engine's room are told by the vehicle's outline. */
const drawnZones: readonly Zone[] = ['hot', 'moving', 'wet'];

export interface PlanDrawing {
  readonly layout: Layout;
  /** Pixels to a metre of the plan. */
  readonly scale: number;
  readonly width: number;
  readonly height: number;
  readonly nodes: readonly PlanNode[];
  readonly segments: readonly PlanSegment[];
  readonly zones: readonly PlanZone[];
}

/** Sizes of the drawing, pixels. */
const WIDTH = 760;
const EDGE = 26;
/** A length is written on the part that leads out, where that is so long. */
const WORD = 46;
const SHORT = 75;
const LEAST_TOLD = 24;
const PER_MILLIMETRE = 0.5;
const LEAST_STROKE = 2.5;
const MOST_STROKE = 13;

/** Pixels of a place on the plan. */
export const onPlan = ({ x, y }: Point, scale: number): Point => ({ x: EDGE + x * scale, y: EDGE + y * scale });
/** The place on the plan of pixels, on its grid, metres. */
export const fromPlan = ({ x, y }: Point, scale: number): Point => ({
  x: toGrid((x - EDGE) / scale),
  y: toGrid((y - EDGE) / scale),
});
const GRID_METRES = 0.05;
const toGrid = (value: number): number => Math.round(Math.round(value / GRID_METRES) * GRID_METRES * 100) / 100;

/** An upright piece has its length written so far along: its middle is where others lead off. */
const UPRIGHT_SHARE = 0.3;

/** Lays the tree out on its plan. O(pieces + places). */
export function drawPlan(build: Build, figures: readonly SegmentFigures[]): PlanDrawing {
  const { tree } = build;
  const layout = layoutOf(tree.vehicle, tree.engine);
  const scale = WIDTH / layout.length;
  const meets = new Map<string, string[]>();
  for (const { a, b } of Object.values(tree.segments))
    for (const [one, other] of [
      [a, b],
      [b, a],
    ] as const) {
      const at = meets.get(one);
      if (at) at.push(other);
      else meets.set(one, [other]);
    }
  const pointOf = (id: string) => onPlan(tree.nodes[id]!.at, scale);
  const nodes = Object.entries(tree.nodes).map(([id, { kind, name }]): PlanNode => {
    const { x, y } = pointOf(id);
    const near = meets.get(id) ?? [];
    const [only] = near;
    const side =
      only === undefined || near.length > 1
        ? 'above'
        : pointOf(only).x > x
          ? 'left'
          : pointOf(only).x < x
            ? 'right'
            : 'below';
    return { id, kind, name, x, y, side, meets: near.length };
  });
  const segments = figures.map(({ id, segment, roughMillimetres, wires }): PlanSegment => {
    const [from, to] = [pointOf(segment.a), pointOf(segment.b)];
    const ends = [segment.a, segment.b].map((end) => ({ id: end, kind: tree.nodes[end]!.kind }));
    const [wide, high] = [Math.abs(to.x - from.x), Math.abs(to.y - from.y)];
    const upright = high > wide && wide < WORD;
    return {
      id,
      // Along the trunk first, then out to what hangs on it.
      path: `M${from.x} ${from.y}V${to.y}H${to.x}`,
      own: wide < WORD ? `M${from.x} ${from.y}V${to.y}H${to.x}` : `M${from.x} ${to.y}H${to.x}`,
      width: Math.min(MOST_STROKE, Math.max(LEAST_STROKE, roughMillimetres * PER_MILLIMETRE)),
      metres: segment.metres,
      measured: segment.measured,
      wires: wires.length,
      word: upright ? { x: from.x, y: from.y + (to.y - from.y) * UPRIGHT_SHARE } : { x: (from.x + to.x) / 2, y: to.y },
      upright,
      below:
        !upright &&
        wide < SHORT &&
        ends.some(({ kind }) => kind === 'plug') &&
        ends.every(({ id: end }) => meets.get(end)!.length > 1),
      told: upright ? high >= LEAST_TOLD : wide >= LEAST_TOLD,
      hole: segment.hole ? { x: (from.x + to.x) / 2, y: to.y } : null,
    };
  });
  return {
    layout,
    scale,
    width: WIDTH + 2 * EDGE,
    height: layout.width * scale + 2 * EDGE,
    nodes,
    zones: zonesOf(tree, segments),
    // The thick lie over the thin where they run together.
    segments: segments.sort((one, other) => one.width - other.width),
  };
}

/** Pieces of one zone and one heat, put together: hot ones first, the hottest of them before the rest. */
function zonesOf(tree: LoomTree, drawn: readonly PlanSegment[]): PlanZone[] {
  const zones = new Map<string, PlanZone & { paths: string[] }>();
  for (const { id, own } of drawn) {
    const segment = tree.segments[id]!;
    if (!drawnZones.includes(segment.zone)) continue;
    const celsius = celsiusOf(segment);
    const key = `${segment.zone} ${segment.zone === 'hot' ? celsius : ''}`;
    const zone = zones.get(key) ?? { zone: segment.zone, celsius, paths: [] };
    zone.paths.push(own);
    zones.set(key, zone);
  }
  return [...zones.values()].sort(
    (one, other) => drawnZones.indexOf(one.zone) - drawnZones.indexOf(other.zone) || other.celsius - one.celsius,
  );
}

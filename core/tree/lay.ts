import { endType, type EndKey, type PartId } from '../ends/ends';
import { placesOf, thingsOf } from './things';
import type { LoomTree } from './tree';
import { waysOf } from './ways';

/** A wire to be laid, as it is known before the tree is asked. */
export interface Run {
  readonly id: string;
  readonly from: EndKey;
  readonly to: EndKey;
  /** How long it is where the tree does not say. */
  readonly metres: number;
  /** Its length is a matter of one place, whatever the tree is like: a splice behind its plug, a stub, a jumper in a box. */
  readonly local?: boolean;
  /** A person said it of this wire. */
  readonly fixed?: boolean;
}

/** A wire as it lies in the tree. */
export interface Laid {
  readonly metres: number;
  readonly segments: readonly string[];
  /** Places it passes, its ends' own included, and how far from its first end each is. */
  readonly nodes: readonly string[];
  readonly reached: readonly number[];
}

/** An end's place, and how far towards the rest of its wires it lies from there. */
interface Spot {
  readonly node: string;
  readonly off: number;
}

/** Between two things of one place: within a box, or side by side (common practice). */
const AT_ONE_PLACE_METRES = 0.15;
/** No wire is shorter: both its terminals have to be crimped (common practice). */
const LEAST_METRES = 0.1;

/** Places as good as each other: the first of them stays, however lengths round. */
const ROUNDING = 1e-6;

/** Where the ends of the runs lie: what stands somewhere there, a splice nobody placed where its wires meet with least of them. */
function spotsOf(
  tree: LoomTree,
  runs: readonly Run[],
  boxOf: (id: PartId) => string | undefined,
): ReadonlyMap<EndKey, Spot> {
  const places = placesOf(tree);
  const ways = waysOf(tree);
  const spots = new Map<EndKey, Spot>();
  const loose = new Map<EndKey, Run[]>();
  const asked = new Set<EndKey>();
  for (const run of runs)
    for (const end of [run.from, run.to]) {
      loose.get(end)?.push(run);
      if (asked.has(end)) continue;
      asked.add(end);
      const thing = thingsOf(end, boxOf).find((one) => places.has(one));
      if (thing !== undefined) spots.set(end, { node: places.get(thing)!, off: 0 });
      else if (endType(end) === 'splice') loose.set(end, [run]);
    }
  // Splices hang on splices: each is placed once something it is joined to is. Those behind a plug first, then the others by
  // what they join; a chain of n of them takes n rounds.
  const far = (splice: EndKey, run: Run) => (run.from === splice ? run.to : run.from);
  const settle = (place: (splice: EndKey, of: readonly Run[]) => Spot | null): boolean => {
    let some = false;
    for (const [splice, of] of loose) {
      const spot = place(splice, of);
      if (spot === null) continue;
      spots.set(splice, spot);
      loose.delete(splice);
      some = true;
    }
    return some;
  };
  const behind = (splice: EndKey, of: readonly Run[]): Spot | null => {
    const near = of.find((run) => run.local && spots.get(far(splice, run))?.off === 0);
    return near ? { node: spots.get(far(splice, near))!.node, off: near.metres } : null;
  };
  const between = (splice: EndKey, of: readonly Run[]): Spot | null => {
    const at = of.flatMap((run) => spots.get(far(splice, run))?.node ?? []);
    if (at.length === 0) return null;
    let [best, least] = ['', Infinity];
    for (const node of Object.keys(tree.nodes)) {
      const sum = at.reduce((all, one) => all + ways.metres(node, one), 0);
      if (sum < least - ROUNDING) [best, least] = [node, sum];
    }
    return least < Infinity ? { node: best, off: 0 } : null;
  };
  while (settle(behind) || settle(between));
  return spots;
}

/**
 * How each wire lies in the tree: the shortest way between what it joins, or the one it was led by. A wire of which an end
 * stands nowhere, or that no way leads along, is not among them. Nothing of an empty tree.
 *
 * Cost: O(runs + places of what they join · search); the ways of a tree are remembered.
 */
export function layRuns(
  tree: LoomTree,
  runs: readonly Run[],
  boxOf: (id: PartId) => string | undefined,
): ReadonlyMap<string, Laid> {
  const laid = new Map<string, Laid>();
  if (Object.keys(tree.nodes).length === 0) return laid;
  const spots = spotsOf(tree, runs, boxOf);
  const ways = waysOf(tree);
  for (const run of runs) {
    const [one, other] = [spots.get(run.from), spots.get(run.to)];
    if (!one || !other) continue;
    const via = tree.via[run.id];
    const way = (via === undefined ? null : ways.by(one.node, other.node, via)) ?? ways.way(one.node, other.node);
    if (!way) continue;
    if (run.local || one.node === other.node) {
      const metres =
        run.local || run.fixed ? run.metres : Math.min(run.metres, AT_ONE_PLACE_METRES + Math.abs(one.off - other.off));
      laid.set(run.id, { metres, segments: [], nodes: [one.node], reached: [0] });
      continue;
    }
    const metres = Math.max(LEAST_METRES, way.metres - one.off - other.off);
    let at = -one.off;
    const reached = way.nodes.map((_, i) => (i === 0 ? at : (at += tree.segments[way.segments[i - 1]!]!.metres)));
    laid.set(run.id, { metres: run.fixed ? run.metres : metres, segments: way.segments, nodes: way.nodes, reached });
  }
  return laid;
}

/** A piece of a wire between plugs. */
export interface CutPiece {
  readonly metres: number;
  readonly segments: readonly string[];
  /** The plug and cavity it ends in; null: the far end of the wire. */
  readonly into: { readonly plug: string; readonly cavity: number } | null;
}

/** A laid wire as the plugs it passes part it: those in which it has a cavity. One piece where there are none. */
export function cutPieces(tree: LoomTree, id: string, { metres, segments, nodes, reached }: Laid): readonly CutPiece[] {
  const whole = Math.max(LEAST_METRES, (reached[reached.length - 1] ?? 0) - (reached[0] ?? 0));
  const share = metres / whole;
  const pieces: CutPiece[] = [];
  let [from, since] = [0, 0];
  for (let i = 1; i < nodes.length - 1; i += 1) {
    const cavity = tree.nodes[nodes[i]!]!.plug?.wires[id];
    if (cavity === undefined) continue;
    const at = Math.min(metres, Math.max(0, reached[i]! * share));
    pieces.push({
      metres: Math.max(LEAST_METRES, at - from),
      segments: segments.slice(since, i),
      into: { plug: nodes[i]!, cavity },
    });
    [from, since] = [at, i];
  }
  return [
    ...pieces,
    {
      metres: pieces.length === 0 ? metres : Math.max(LEAST_METRES, metres - from),
      segments: segments.slice(since),
      into: null,
    },
  ];
}

import type { LoomTree } from './tree';

/** A way through the tree: its pieces and the places it passes, both ends included, in order. */
export interface Way {
  readonly metres: number;
  readonly segments: readonly string[];
  readonly nodes: readonly string[];
}

interface Edge {
  readonly segment: string;
  readonly to: string;
  readonly metres: number;
}

/** How a place is reached from where a search began. */
interface Reached {
  readonly metres: number;
  /** The last piece of the way, and the place it leads on from; null where the search began. */
  readonly by: Edge | null;
  readonly from: string;
}

/**
 * Shortest ways between the places of a tree. A loom may close a ring or lie in pieces: each way is the shortest there is, the
 * same for the same tree, and null where there is none. What was asked once is remembered.
 *
 * Cost: one search from each place that is asked from, O(segments · places that are open at once).
 */
export class Ways {
  private readonly edges = new Map<string, Edge[]>();
  private readonly searches = new Map<string, ReadonlyMap<string, Reached>>();
  private readonly ways = new Map<string, Way | null>();

  constructor(private readonly tree: LoomTree) {
    for (const id of Object.keys(tree.nodes)) this.edges.set(id, []);
    for (const [segment, { a, b, metres }] of Object.entries(tree.segments)) {
      this.edges.get(a)!.push({ segment, to: b, metres });
      this.edges.get(b)!.push({ segment, to: a, metres });
    }
  }

  /** All places that are reached from one (Dijkstra). */
  private search(start: string): ReadonlyMap<string, Reached> {
    const known = this.searches.get(start);
    if (known) return known;
    const found = new Map<string, Reached>();
    const open: (Reached & { readonly node: string })[] = [{ metres: 0, node: start, by: null, from: start }];
    while (open.length > 0) {
      // Looms part a few dozen times: the least of a short list is found as fast as by a heap.
      let least = 0;
      for (let i = 1; i < open.length; i += 1) if (open[i]!.metres < open[least]!.metres) least = i;
      const [{ metres, node, by, from }] = open.splice(least, 1) as [(typeof open)[number]];
      if (found.has(node)) continue;
      found.set(node, { metres, by, from });
      for (const edge of this.edges.get(node) ?? [])
        if (!found.has(edge.to)) open.push({ metres: metres + edge.metres, node: edge.to, by: edge, from: node });
    }
    this.searches.set(start, found);
    return found;
  }

  /** Metres between two places; Infinity where no way leads. */
  metres(from: string, to: string): number {
    return this.search(from).get(to)?.metres ?? Infinity;
  }

  way(from: string, to: string): Way | null {
    const key = `${from} ${to}`;
    const known = this.ways.get(key);
    if (known !== undefined) return known;
    const search = this.search(from);
    const end = search.get(to);
    let made: Way | null = null;
    if (end) {
      const segments: string[] = [];
      const nodes: string[] = [to];
      for (let at = end; at.by !== null; at = search.get(at.from)!) {
        segments.push(at.by.segment);
        nodes.push(at.from);
      }
      made = { metres: end.metres, segments: segments.reverse(), nodes: nodes.reverse() };
    }
    this.ways.set(key, made);
    return made;
  }

  /** The way by one piece, where there are two: to its nearer end, along it, and on. Null: it cannot be gone by. */
  by(from: string, to: string, via: string): Way | null {
    const piece = this.tree.segments[via];
    if (!piece) return null;
    const along = (one: string, other: string): Way | null => {
      const [before, after] = [this.way(from, one), this.way(other, to)];
      if (!before || !after || before.segments.includes(via) || after.segments.includes(via)) return null;
      return {
        metres: before.metres + piece.metres + after.metres,
        segments: [...before.segments, via, ...after.segments],
        nodes: [...before.nodes, ...after.nodes],
      };
    };
    const straight = this.way(from, to);
    if (straight?.segments.includes(via)) return straight;
    const both = [along(piece.a, piece.b), along(piece.b, piece.a)].filter((one) => one !== null);
    return both.sort((one, other) => one.metres - other.metres)[0] ?? null;
  }
}

/** Ways of the trees that were asked last: the same tree is asked for with every edit of another thing. */
const known = new WeakMap<LoomTree, Ways>();
export function waysOf(tree: LoomTree): Ways {
  const ways = known.get(tree) ?? new Ways(tree);
  known.set(tree, ways);
  return ways;
}

/** Places by the piece of the tree they are in, the largest first: more than one where it lies in pieces. */
export function piecesOf(tree: LoomTree): readonly (readonly string[])[] {
  const ways = waysOf(tree);
  const left = new Set(Object.keys(tree.nodes));
  const pieces: string[][] = [];
  for (const start of left) {
    const piece = [...left].filter((node) => ways.metres(start, node) < Infinity);
    for (const node of piece) left.delete(node);
    pieces.push(piece);
  }
  return pieces.sort((one, other) => other.length - one.length);
}

/** Pieces that close a ring: with any of them taken out everything would still be reached. */
export function ringsOf(tree: Pick<LoomTree, 'segments'>): readonly string[] {
  const parent = new Map<string, string>();
  const root = (node: string): string => {
    let at = node;
    while ((parent.get(at) ?? at) !== at) at = parent.get(at)!;
    return at;
  };
  return Object.entries(tree.segments).flatMap(([id, { a, b }]) => {
    const [one, other] = [root(a), root(b)];
    if (one === other) return [id];
    parent.set(one, other);
    return [];
  });
}

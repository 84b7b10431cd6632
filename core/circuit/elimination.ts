/** How a pattern of branches is eliminated: worked out once, and then filled with the values of each state. */
export interface Elimination {
  readonly nodes: number;
  /** Both nodes of each branch, one after the other; -1 is the reference. */
  readonly ends: Int32Array;
  /** Place of each branch's conductance between two nodes; -1 where it goes to the reference. */
  readonly slots: Int32Array;
  readonly slotCount: number;
  /** Nodes in the order they are eliminated; what each then still touches, from `starts` on, and where that stands. */
  readonly order: Int32Array;
  readonly starts: Int32Array;
  readonly neighbours: Int32Array;
  readonly places: Int32Array;
  /** Places that are changed by each step, one for every pair of its neighbours, in their order. */
  readonly fills: Int32Array;
}

/**
 * Minimum-degree order (George and Liu 1989) with the fill it makes. A loom is nearly a tree, so it makes almost none: near
 * linear in branches.
 */
export function eliminate(nodes: number, ends: Int32Array): Elimination {
  const rows: Map<number, number>[] = Array.from({ length: nodes }, () => new Map<number, number>());
  let slotCount = 0;
  const slotOf = (i: number, j: number): number => {
    const known = rows[i]!.get(j);
    if (known !== undefined) return known;
    rows[i]!.set(j, slotCount);
    rows[j]!.set(i, slotCount);
    return slotCount++;
  };
  const slots = new Int32Array(ends.length / 2);
  for (let at = 0; at < slots.length; at += 1) {
    const [i, j] = [ends[2 * at]!, ends[2 * at + 1]!];
    slots[at] = i >= 0 && j >= 0 ? slotOf(i, j) : -1;
  }
  const order = new Int32Array(nodes);
  const starts = new Int32Array(nodes + 1);
  const neighbours: number[] = [];
  const places: number[] = [];
  const fills: number[] = [];
  const gone = new Uint8Array(nodes);
  // Buckets by degree, refilled lazily: an entry whose degree is stale is skipped.
  const buckets: number[][] = [];
  const push = (node: number) => (buckets[rows[node]!.size] ??= []).push(node);
  for (let node = 0; node < nodes; node += 1) push(node);
  let degree = 0;
  for (let step = 0; step < nodes; step += 1) {
    let node = -1;
    degree = Math.max(0, degree - 1);
    while (node < 0) {
      const candidate = buckets[degree]?.pop();
      if (candidate === undefined) degree += 1;
      else if (gone[candidate] === 0 && rows[candidate]!.size === degree) node = candidate;
    }
    order[step] = node;
    gone[node] = 1;
    starts[step] = neighbours.length;
    const touched = [...rows[node]!];
    for (const [other, place] of touched) {
      neighbours.push(other);
      places.push(place);
      rows[other]!.delete(node);
    }
    for (let a = 0; a < touched.length; a += 1)
      for (let b = a + 1; b < touched.length; b += 1) fills.push(slotOf(touched[a]![0], touched[b]![0]));
    for (const [other] of touched) push(other);
  }
  starts[nodes] = neighbours.length;
  return {
    nodes,
    ends,
    slots,
    slotCount,
    order,
    starts,
    neighbours: Int32Array.from(neighbours),
    places: Int32Array.from(places),
    fills: Int32Array.from(fills),
  };
}

/** Patterns that are kept of one loom: its states, and faults that change what touches what. */
const MOST_KEPT = 24;

/** The eliminations of a loom's patterns, those last asked for. */
export class Eliminations {
  private kept: Elimination[] = [];

  of(nodes: number, ends: Int32Array): Elimination {
    const at = this.kept.findIndex((one) => one.nodes === nodes && isSame(one.ends, ends));
    const found = at < 0 ? eliminate(nodes, ends) : this.kept[at]!;
    if (at !== 0) this.kept = [found, ...this.kept.filter((one) => one !== found)].slice(0, MOST_KEPT);
    return found;
  }
}

function isSame(one: Int32Array, other: Int32Array): boolean {
  if (one.length !== other.length) return false;
  for (let i = 0; i < one.length; i += 1) if (one[i] !== other[i]) return false;
  return true;
}

/**
 * Minimum-cost assignment of rows to columns over a sparse list of edges, each row with its own price for staying unserved.
 * Source: R. Jonker and A. Volgenant, "A shortest augmenting path algorithm for dense and sparse linear assignment
 * problems", Computing 38 (1987), 325-340. Departures: edges are sparse, without the reduction phases; a row may end at
 * 'unserved' as at a column of its own; costs are pairs of numbers compared one after the other, which the proof allows
 * because it needs an ordered group only. Deterministic: the first of equal columns is taken.
 * Cost O(rows x (edges + columns²)) at worst, near O(edges) on the plans people make; memory O(edges).
 */
export interface SparseProblem {
  readonly rows: number;
  readonly columns: number;
  /** Edges of row r are `start[r]` to `start[r + 1]`, exclusive. */
  readonly start: Int32Array;
  readonly column: Int32Array;
  /** What counts first and what counts when the first is equal; integers below 2^52 in all sums, so that they compare exactly. */
  readonly cost: Float64Array;
  readonly minor: Float64Array;
  /** Cost of leaving each row unserved. */
  readonly leave: Float64Array;
  readonly leaveMinor: Float64Array;
}

export interface Assigned {
  /** Edge taken by each row, or -1. */
  readonly edgeOf: Int32Array;
  readonly cost: number;
  readonly minor: number;
}

/** @param barred edges that may not be taken, one byte an edge; null for none. */
export function assign(problem: SparseProblem, barred: Uint8Array | null = null): Assigned {
  const { rows, columns, start, column, cost, minor, leave, leaveMinor } = problem;
  const rowPrice = new Float64Array(rows);
  const rowMinor = new Float64Array(rows);
  const columnPrice = new Float64Array(columns);
  const columnMinor = new Float64Array(columns);
  const rowOf = new Int32Array(columns).fill(-1);
  const edgeOf = new Int32Array(rows).fill(-1);
  const far = new Float64Array(columns);
  const farMinor = new Float64Array(columns);
  /** Row from which a column was reached, and by which edge. */
  const from = new Int32Array(columns);
  const by = new Int32Array(columns);
  /** 0 untouched, 1 reached, 2 done; `touched` lists all that are not 0. */
  const state = new Uint8Array(columns);
  const touched = new Int32Array(columns);

  for (let root = 0; root < rows; root += 1) {
    let count = 0;
    let row = root;
    let at = 0;
    let atMinor = 0;
    let endRow = -1;
    let endColumn = -1;
    let end = Infinity;
    let endMinor = Infinity;
    // No path longer than the best end seen so far is followed.
    let bound = Infinity;
    let boundMinor = Infinity;
    for (;;) {
      const stay = at + leave[row]! - rowPrice[row]!;
      const stayMinor = atMinor + leaveMinor[row]! - rowMinor[row]!;
      if (stay < end || (stay === end && stayMinor < endMinor)) {
        end = stay;
        endMinor = stayMinor;
        endRow = row;
        if (end < bound || (end === bound && endMinor < boundMinor)) {
          bound = end;
          boundMinor = endMinor;
        }
      }
      for (let edge = start[row]!; edge < start[row + 1]!; edge += 1) {
        if (barred !== null && barred[edge] === 1) continue;
        const j = column[edge]!;
        if (state[j] === 2) continue;
        const reach = at + cost[edge]! - rowPrice[row]! - columnPrice[j]!;
        if (reach > bound) continue;
        const reachMinor = atMinor + minor[edge]! - rowMinor[row]! - columnMinor[j]!;
        if (reach === bound && reachMinor > boundMinor) continue;
        if (rowOf[j]! < 0) {
          bound = reach;
          boundMinor = reachMinor;
        }
        if (state[j] === 0) {
          state[j] = 1;
          touched[count] = j;
          count += 1;
        } else if (!(reach < far[j]! || (reach === far[j] && reachMinor < farMinor[j]!))) continue;
        far[j] = reach;
        farMinor[j] = reachMinor;
        from[j] = row;
        by[j] = edge;
      }
      let next = -1;
      for (let k = 0; k < count; k += 1) {
        const j = touched[k]!;
        if (state[j] === 2) continue;
        if (next < 0 || far[j]! < far[next]! || (far[j] === far[next] && farMinor[j]! < farMinor[next]!)) next = j;
      }
      // A column as cheap as 'unserved' is taken: to be served is better.
      if (next < 0 || end < far[next]! || (end === far[next] && endMinor < farMinor[next]!)) break;
      if (rowOf[next]! < 0) {
        end = far[next]!;
        endMinor = farMinor[next]!;
        endColumn = next;
        break;
      }
      state[next] = 2;
      row = rowOf[next]!;
      at = far[next]!;
      atMinor = farMinor[next]!;
    }
    for (let k = 0; k < count; k += 1) {
      const j = touched[k]!;
      if (state[j] === 2) {
        const owner = rowOf[j]!;
        rowPrice[owner]! += end - far[j]!;
        rowMinor[owner]! += endMinor - farMinor[j]!;
        columnPrice[j]! += far[j]! - end;
        columnMinor[j]! += farMinor[j]! - endMinor;
      }
      state[j] = 0;
    }
    rowPrice[root]! += end;
    rowMinor[root]! += endMinor;
    if (endColumn < 0) {
      // The tree ends where a row gives its column up.
      endColumn = edgeOf[endRow]! < 0 ? -1 : column[edgeOf[endRow]!]!;
      edgeOf[endRow] = -1;
    }
    while (endColumn >= 0) {
      const taker = from[endColumn]!;
      const left = edgeOf[taker]! < 0 ? -1 : column[edgeOf[taker]!]!;
      edgeOf[taker] = by[endColumn]!;
      rowOf[endColumn] = taker;
      endColumn = taker === root ? -1 : left;
    }
  }
  let total = 0;
  let totalMinor = 0;
  for (let row = 0; row < rows; row += 1) {
    if (edgeOf[row]! < 0) {
      total += leave[row]!;
      totalMinor += leaveMinor[row]!;
    } else {
      total += cost[edgeOf[row]!]!;
      totalMinor += minor[edgeOf[row]!]!;
    }
  }
  return { edgeOf, cost: total, minor: totalMinor };
}

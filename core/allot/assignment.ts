/**
 * Minimum-cost assignment of rows to columns by shortest augmenting paths with potentials.
 * Source: R. Jonker and A. Volgenant, "A shortest augmenting path algorithm for dense and sparse linear assignment
 * problems", Computing 38 (1987); the plain dense form, without the reduction phases. Deterministic. Cost O(rows² x columns); memory O(rows x columns) for the matrix given.
 */

/** Cost of a pairing that cannot be. Larger than any sum of real costs, so that as many rows as possible are served. */
export const FORBIDDEN = 1e7;

export interface Assignment {
  /** Column of each row, or -1. */
  readonly columnOf: Int32Array;
  readonly total: number;
}

/**
 * @param cost row-major matrix, `rows` x `columns`, finite; use FORBIDDEN for impossible pairs.
 * Rows beyond the columns stay unserved: the matrix is padded inside.
 */
export function assign(cost: Float64Array, rows: number, columns: number): Assignment {
  const width = Math.max(rows, columns);
  const rowPotential = new Float64Array(rows + 1);
  const columnPotential = new Float64Array(width + 1);
  /** Row matched to each column, 1-based; 0 is free. */
  const rowOf = new Int32Array(width + 1);
  const cameFrom = new Int32Array(width + 1);
  const best = new Float64Array(width + 1);
  const done = new Uint8Array(width + 1);
  for (let row = 1; row <= rows; row += 1) {
    rowOf[0] = row;
    let column = 0;
    best.fill(Infinity);
    done.fill(0);
    do {
      done[column] = 1;
      const current = rowOf[column];
      const offset = (current - 1) * columns - 1;
      const potential = rowPotential[current];
      let step = Infinity;
      let nextColumn = 0;
      for (let j = 1; j <= width; j += 1) {
        if (done[j]) continue;
        const reduced = (j <= columns ? cost[offset + j] : FORBIDDEN) - potential - columnPotential[j];
        if (reduced < best[j]) {
          best[j] = reduced;
          cameFrom[j] = column;
        }
        if (best[j] < step) {
          step = best[j];
          nextColumn = j;
        }
      }
      for (let j = 0; j <= width; j += 1) {
        if (done[j]) {
          rowPotential[rowOf[j]] += step;
          columnPotential[j] -= step;
        } else best[j] -= step;
      }
      column = nextColumn;
    } while (rowOf[column] !== 0);
    while (column !== 0) {
      const before = cameFrom[column];
      rowOf[column] = rowOf[before];
      column = before;
    }
  }
  const columnOf = new Int32Array(rows).fill(-1);
  let total = 0;
  for (let j = 1; j <= width; j += 1) {
    if (rowOf[j] === 0 || j > columns) continue;
    const value = cost[(rowOf[j] - 1) * columns + j - 1];
    if (value >= FORBIDDEN) continue;
    columnOf[rowOf[j] - 1] = j - 1;
    total += value;
  }
  return { columnOf, total };
}

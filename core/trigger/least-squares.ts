// Hot loops look these up once.
const { log, sqrt } = Math;

/** Normal equations and their solution for the first columns, however many of them are taken. */
export interface Factored {
  /** Columns that may be taken: from the next one on they are singular. */
  readonly size: number;
  /** Solution for the first `count` columns alone. */
  readonly solve: (count: number) => Float64Array;
  /** Logarithm of the determinant of the first `count` columns. */
  readonly logDeterminant: (count: number) => number;
}

/** Share of a column's own square that must be left of it. */
const LEFT_LEAST = 1e-12;

/**
 * Cholesky's factors of a symmetric matrix, row by row: those of its first columns are their beginning, so one factoring
 * solves every smaller system of the same columns.
 *
 * @param matrix `size` squared figures, row by row; the upper triangle is read.
 * @param right `size` figures.
 */
export function factored(matrix: Float64Array, right: Float64Array, size: number): Factored {
  const lower = new Float64Array(size * size);
  const forward = new Float64Array(size);
  const logs = new Float64Array(size + 1);
  let good = size;
  for (let i = 0; i < size; i += 1) {
    for (let j = 0; j <= i; j += 1) {
      let sum = matrix[j * size + i]!;
      for (let k = 0; k < j; k += 1) sum -= lower[i * size + k]! * lower[j * size + k]!;
      lower[i * size + j] = i === j ? sum : sum / lower[j * size + j]!;
    }
    const left = lower[i * size + i]!;
    if (!(left > LEFT_LEAST * matrix[i * size + i]!)) {
      good = i;
      break;
    }
    const root = sqrt(left);
    lower[i * size + i] = root;
    let sum = right[i]!;
    for (let k = 0; k < i; k += 1) sum -= lower[i * size + k]! * forward[k]!;
    forward[i] = sum / root;
    logs[i + 1] = logs[i]! + 2 * log(root);
  }
  return {
    size: good,
    logDeterminant: (count) => logs[count]!,
    solve: (count) => {
      const out = new Float64Array(count);
      for (let row = count - 1; row >= 0; row -= 1) {
        let sum = forward[row]!;
        for (let k = row + 1; k < count; k += 1) sum -= lower[k * size + row]! * out[k]!;
        out[row] = sum / lower[row * size + row]!;
      }
      return out;
    },
  };
}

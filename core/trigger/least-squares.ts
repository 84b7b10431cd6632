/**
 * Solves a small system in place by Gauss's elimination with pivots of the column; null when it is singular to within
 * 1e-10 of its largest entry. With the logarithm of the determinant's size. Cost: size cubed.
 */
export function solveWhole(matrix: number[][], right: number[]): { values: number[]; logDeterminant: number } | null {
  const size = right.length;
  const largest = Math.max(...matrix.flat().map(Math.abs), 1e-300);
  let logDeterminant = 0;
  for (let column = 0; column < size; column += 1) {
    let pivot = column;
    for (let row = column + 1; row < size; row += 1)
      if (Math.abs(matrix[row][column]) > Math.abs(matrix[pivot][column])) pivot = row;
    if (Math.abs(matrix[pivot][column]) < 1e-10 * largest) return null;
    [matrix[column], matrix[pivot]] = [matrix[pivot], matrix[column]];
    [right[column], right[pivot]] = [right[pivot], right[column]];
    logDeterminant += Math.log(Math.abs(matrix[column][column]));
    for (let row = column + 1; row < size; row += 1) {
      const factor = matrix[row][column] / matrix[column][column];
      for (let k = column; k < size; k += 1) matrix[row][k] -= factor * matrix[column][k];
      right[row] -= factor * right[column];
    }
  }
  const out = new Array<number>(size).fill(0);
  for (let row = size - 1; row >= 0; row -= 1) {
    let sum = right[row];
    for (let k = row + 1; k < size; k += 1) sum -= matrix[row][k] * out[k];
    out[row] = sum / matrix[row][row];
  }
  return { values: out, logDeterminant };
}

import { expect, test } from '@jest/globals';
import munkres from 'munkres';
import { FORBIDDEN, assign } from '~/core/allot/assignment';

/** Small seeded generator (Park and Miller, 1988): a failing seed can be run again. */
function generator(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 48271) % 2147483647;
    return state / 2147483647;
  };
}

/** Random costs with a share of forbidden pairs; integers, so that totals compare exactly. */
function instance(seed: number) {
  const random = generator(seed);
  const rows = 1 + Math.floor(random() * 14);
  const columns = 1 + Math.floor(random() * 18);
  const share = random() * 0.5;
  const matrix = Array.from({ length: rows }, () =>
    Array.from({ length: columns }, () => (random() < share ? FORBIDDEN : Math.floor(random() * 100))),
  );
  return { rows, columns, matrix };
}

const seeds = Array.from({ length: 500 }, (_, i) => i * 7919 + 13);

test('500 random cases: as many served and the same least cost as the general-purpose package munkres', () => {
  for (const seed of seeds) {
    const { rows, columns, matrix } = instance(seed);
    const ours = assign(Float64Array.from(matrix.flat()), rows, columns);
    const pairs = munkres(matrix).filter(([row, column]) => matrix[row][column] < FORBIDDEN);
    const theirs = pairs.reduce((sum, [row, column]) => sum + matrix[row][column], 0);
    const served = [...ours.columnOf].filter((column) => column >= 0);
    expect({ seed, served: served.length, total: ours.total }).toEqual({ seed, served: pairs.length, total: theirs });
    expect(new Set(served).size).toBe(served.length);
  }
});

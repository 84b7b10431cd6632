import { expect, test } from '@jest/globals';
import loadHighs from 'highs';
import munkres from 'munkres';
import { assign } from '~/core/allot/assignment';
import { WEIGHT } from '~/core/allot/model';
import { solve } from '~/core/allot/solve';
import { asLinearProgram, broken, generator, randomModel } from '../allotment/random-model';

const seeds = Array.from({ length: 500 }, (_, i) => i * 7919 + 13);
const UNSERVED = 10_000;

// Reference: HiGHS 1.15 (npm 'highs'), a general-purpose mixed-integer solver; it gets the same problem as text.
test('500 random plans with pairs, timers, budgets and either-or: as many served at the same least cost as HiGHS', async () => {
  const highs = await loadHighs();
  let [tied, nodes] = [0, 0];
  for (const seed of seeds) {
    const model = randomModel(seed, { rows: 12, pins: 16 });
    const ours = solve(model)!;
    const taken = [...ours.edgeOf].filter((edge) => edge >= 0);
    expect({ seed, broken: broken(model, taken) }).toEqual({ seed, broken: [] });
    const open = model.rows.reduce((sum, row, i) => sum + (ours.edgeOf[i] < 0 ? row.needs.length : 0), 0);
    const cost = taken.reduce((sum, edge) => sum + model.cost[edge], 0);
    const theirs = highs.solve(asLinearProgram(model, UNSERVED), { mip_rel_gap: 0, mip_abs_gap: 0 });
    expect({ seed, status: theirs.Status }).toEqual({ seed, status: 'Optimal' });
    expect({ seed, total: open * UNSERVED + cost }).toEqual({ seed, total: Math.round(theirs.ObjectiveValue) });
    expect({ seed, cost: ours.cost }).toEqual({ seed, cost: open * WEIGHT.unserved + cost });
    expect(ours.proven).toBe(true);
    nodes += ours.nodes;
    if (ours.nodes > 0) tied += 1;
  }
  // The cases must really need the branching, not only the assignment.
  expect(tied).toBeGreaterThan(150);
  expect(nodes).toBeGreaterThan(500);
});

// Reference: munkres 2.0.4, a general-purpose assignment package, on dense matrices without side constraints.
test('500 random matrices: as many served and the same least cost as munkres', () => {
  const FORBIDDEN = 1e7;
  for (const seed of seeds) {
    const random = generator(seed);
    const rows = 1 + Math.floor(random() * 14);
    const columns = 1 + Math.floor(random() * 18);
    const share = random() * 0.5;
    const matrix = Array.from({ length: rows }, () =>
      Array.from({ length: columns }, () => (random() < share ? FORBIDDEN : Math.floor(random() * 100))),
    );
    const start = [0];
    const [column, cost]: [number[], number[]] = [[], []];
    for (const row of matrix) {
      row.forEach((value, j) => {
        if (value === FORBIDDEN) return;
        column.push(j);
        cost.push(value);
      });
      start.push(column.length);
    }
    const ours = assign({
      rows,
      columns,
      start: Int32Array.from(start),
      column: Int32Array.from(column),
      cost: Float64Array.from(cost),
      minor: new Float64Array(cost.length),
      leave: new Float64Array(rows).fill(FORBIDDEN),
      leaveMinor: new Float64Array(rows),
    });
    const pairs = munkres(matrix).filter(([row, at]) => matrix[row][at] < FORBIDDEN);
    const theirs = pairs.reduce((sum, [row, at]) => sum + matrix[row][at], 0);
    const taken = [...ours.edgeOf].filter((edge) => edge >= 0);
    expect({ seed, served: taken.length }).toEqual({ seed, served: pairs.length });
    expect({ seed, cost: taken.reduce((sum, edge) => sum + cost[edge], 0) }).toEqual({ seed, cost: theirs });
    expect(new Set(taken.map((edge) => column[edge])).size).toBe(taken.length);
  }
});

import { expect, test } from '@jest/globals';
import { inSlices } from '~/app/build/slices';

/** Steps that take longer than a slice each, noting that they ran. */
function* slow(ran: number[], count: number): Generator<void> {
  for (let i = 0; i < count; i += 1) {
    const until = performance.now() + 12;
    while (performance.now() < until);
    yield void ran.push(i);
  }
}

test('steps are run to the end, with room between for what else comes in', async () => {
  const ran: number[] = [];
  const done = inSlices(slow(ran, 4));
  let seen = -1;
  setTimeout(() => (seen = ran.length), 0);
  await done;
  expect(ran).toEqual([0, 1, 2, 3]);
  expect(seen).toBeGreaterThan(0);
  expect(seen).toBeLessThan(4);
});

test('they end once nobody needs them', async () => {
  const ran: number[] = [];
  await inSlices(slow(ran, 10), () => ran.length < 2);
  expect(ran).toEqual([0, 1]);
});

test('a step that breaks ends them, and is met again by whoever reads what it was for', async () => {
  const ran: number[] = [];
  function* broken(): Generator<void> {
    yield void ran.push(1);
    throw new Error('as read');
  }
  await expect(inSlices(broken())).resolves.toBeUndefined();
  expect(ran).toEqual([1]);
});

import { failingWrites } from '../chaos/writes';
import { killRounds } from '../chaos/kills';
import { tabRounds } from '../chaos/tabs';
import { expect, test } from './support';

// The long form is `npm run chaos`: the same, a hundred times over, with other seeds.
test('killed at random moments, nothing that was called saved is lost', async ({ baseURL }) => {
  test.setTimeout(180_000);
  const { kills, lost, uncaught } = await killRounds(baseURL!, 2, 20_261_127);
  expect(lost).toEqual([]);
  expect(uncaught).toEqual([]);
  expect(kills).toBe(4);
});

test('a write that fails, thrown or aborted, loses nothing', async ({ browser, baseURL }) => {
  test.setTimeout(180_000);
  const { tried, failed, lost, uncaught } = await failingWrites(browser, baseURL!, [2], 20_261_127);
  expect(lost).toEqual([]);
  expect(uncaught).toEqual([]);
  expect(tried).toBe(2);
  expect(failed).toBe(2);
});

test('two tabs and a garage at once lose nothing and bring nothing back', async ({ browser, baseURL }) => {
  test.setTimeout(180_000);
  const { rounds, lost, resurrected, uncaught } = await tabRounds(browser, baseURL!, 1, 20_261_127);
  expect(lost).toEqual([]);
  expect(resurrected).toEqual([]);
  expect(uncaught).toEqual([]);
  expect(rounds).toBe(1);
});

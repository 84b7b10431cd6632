import { expect, test } from '@jest/globals';
import { mutateFiles } from '../chaos/files';

// Common practice: readers of files are tried with damaged ones. `npm run chaos` reads 100,000; a seed that broke is pinned here.
test('damaged files of every kind are read or refused in a sentence, never thrown at anybody', () => {
  const { files, uncaught, unfit } = mutateFiles(400, 7_000);
  expect(uncaught).toEqual([]);
  expect(unfit).toEqual([]);
  expect(files).toBe(400);
});

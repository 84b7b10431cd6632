import { expect, test } from '@jest/globals';
import { z } from 'zod';
import { Newest, jsonRequest } from '~/app/json-request';

test('a draft that was drawn earlier and arrives later is not stored over the newer', () => {
  const drafts = new Newest();
  const [one, other] = [drafts.ask(), drafts.ask()];
  expect([drafts.take(other), drafts.take(one), drafts.take(drafts.ask())]).toEqual([true, false, true]);
});
test('a request is read as it was written; another shape throws', async () => {
  const requests = jsonRequest(z.object({ number: z.int() }));
  const sent = (body: string) => requests.read({ json: () => Promise.resolve(JSON.parse(body)) } as Request);
  expect(await sent(requests.write({ number: 3 }))).toEqual({ number: 3 });
  await expect(sent('{}')).rejects.toThrow();
});

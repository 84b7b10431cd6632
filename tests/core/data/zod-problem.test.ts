import { describe, expect, test } from '@jest/globals';
import { z } from 'zod';
import { zodProblem } from '~/core/data/zod-problem';

const part = z.object({
  name: z.string().min(1).max(5),
  code: z.string().min(3).optional(),
  pins: z.array(z.number()).min(2).max(3).optional(),
  one: z.array(z.number()).max(1).optional(),
  amps: z.number().gt(0).max(40).optional(),
  ohms: z.number().min(1).optional(),
});
const said = (value: object): string => {
  const read = part.safeParse({ name: 'fan', ...value });
  if (read.success) throw new Error('read well');
  return zodProblem(read.error).sentence;
};

describe('what is wrong with a value, as one sentence with its place', () => {
  test.each<[object, string]>([
    [{ name: '' }, 'name must not be empty.'],
    [{ name: 'radiator' }, 'name must have at most 5 characters.'],
    [{ code: 'F' }, 'code must have at least 3 characters.'],
    [{ pins: [1] }, 'pins must hold at least 2 entries.'],
    [{ pins: [1, 2, 3, 4] }, 'pins must hold at most 3 entries.'],
    [{ one: [1, 2] }, 'one must hold at most 1 entry.'],
    [{ amps: 0 }, 'amps must be more than 0.'],
    [{ amps: 50 }, 'amps must be at most 40.'],
    [{ ohms: 0.5 }, 'ohms must be at least 1.'],
    [{ pins: [1, 'x'] }, 'pins[1] must be a number.'],
    [{ name: '', amps: 50 }, 'name must not be empty (and 1 more).'],
  ])('%j: %s', (value, sentence) => {
    expect(said(value)).toBe(sentence);
  });
});

import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { draftOf, engineOf } from '~/app/parts/engine-draft';
import { sheetInfo, sheetList } from '~/app/parts/sheets';
import { alternatives, destinationWords } from '~/app/parts/destination-words';
import { fileName } from '~/app/storage/files';
import { themeFromCookie } from '~/app/ui/theme';
import { destinationSchema } from '~/core/devices/kind';
import { sheetIds } from '~/core/rules/rule';
import { engine } from '../helpers';

describe('the engine form', () => {
  test.each(catalog.engines.map((one) => [one.name, one] as const))('%s goes in and comes out the same', (_, one) => {
    expect(engineOf(draftOf(one))).toEqual({ engine: one });
  });
  const draft = draftOf(engine(5));
  const errorsOf = (part: Partial<typeof draft>) => {
    const result = engineOf({ ...draft, ...part });
    return 'errors' in result ? result.errors : {};
  };
  test.each([
    ['1 2 4 5 3', [1, 2, 4, 5, 3]],
    ['1,2,4,5,3', [1, 2, 4, 5, 3]],
    ['1 - 2 - 4 - 5 - 3', [1, 2, 4, 5, 3]],
  ])('takes a firing order typed as %j', (firingOrder, wanted) => {
    const result = engineOf({ ...draft, firingOrder });
    expect('engine' in result && result.engine.firingOrder).toEqual(wanted);
  });
  test.each([
    ['firingOrder', { firingOrder: '1-2-3' }, /each cylinder once, from 1 to 5/],
    ['firingOrder', { firingOrder: '' }, /each cylinder once/],
    ['cylinders', { cylinders: null }, /from 1 to 16/],
    ['cylinders', { cylinders: 40 }, /from 1 to 16/],
    ['maxRpm', { maxRpm: 90 }, /from 500 to 20000 rpm/],
    ['boostKpa', { boostKpa: 900 }, /from 0 to 500.0 kPa/],
    ['displacementCc', { displacementCc: null }, /from 20 cc to 20000 cc/],
    ['firingAngles', { firing: 'typed', firingAngles: '0, 90' }, /one angle for each cylinder/],
    ['name', { name: '' }, /1 to 80 characters/],
  ] as const)('%s out of range says the range', (field, part, words) => {
    expect(errorsOf(part)[field]).toMatch(words);
  });
  test('an atmospheric engine has no boost, whatever was typed before', () => {
    const result = engineOf({ ...draft, aspiration: 'atmospheric', boostKpa: 140 });
    expect('engine' in result && result.engine.boostKpa).toBe(0);
  });
});

describe('where a terminal may go', () => {
  const all = catalog.kinds.flatMap((kind) =>
    kind.terminals.map((terminal) => [`${kind.id} ${terminal.id}`, terminal.destination] as const),
  );
  test.each(all)('%s: words, and choices that are whole destinations, none twice', (_, destination) => {
    expect(destinationWords(destination).length).toBeGreaterThan(4);
    const choices = alternatives(destination);
    expect(choices[0]).toMatchObject({ id: 'own', destination: null });
    expect(new Set(choices.map((choice) => choice.id)).size).toBe(choices.length);
    for (const choice of choices)
      if (choice.destination) expect(destinationSchema.safeParse(choice.destination).success).toBe(true);
  });
  test('a ground may move to any ground, a signal only be left bare', () => {
    expect(alternatives({ to: 'sensor-ground', bank: 0 }).map((choice) => choice.name)).toContain('chassis');
    expect(alternatives({ to: 'pin', ask: { kind: 'knock' } }).map((choice) => choice.name)).toEqual([
      'as the part asks: knock input',
      'left bare',
    ]);
  });
});

test('nine sheets, numbered as the work is done', () => {
  expect(sheetList.map((sheet) => sheet.id)).toEqual([...sheetIds]);
  expect(sheetList.map((sheet) => sheet.number)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9]);
  expect(sheetInfo('prove').question).toBe('Is every wire where the plan says?');
});

test.each([
  ['Pellworth estate, five-cylinder turbo', 'gonyx.json', 'pellworth-estate-five-cylinder-turbo.gonyx.json'],
  ['../../etc/passwd', 'csv', 'etc-passwd.csv'],
  ['???', 'csv', 'build.csv'],
])('file name of %j', (title, ending, wanted) => {
  expect(fileName(title, ending)).toBe(wanted);
});

test.each([
  ['gonyx-theme=night', 'night'],
  ['a=b; gonyx-theme=paper; c=d', 'paper'],
  ['gonyx-theme=pink', undefined],
  ['other-gonyx-theme=night', undefined],
  [null, undefined],
])('theme of cookie %j', (cookie, wanted) => {
  expect(themeFromCookie(cookie)).toBe(wanted);
});

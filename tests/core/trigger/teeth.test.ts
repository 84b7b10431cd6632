import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { catalog } from '~/catalog';
import {
  countedAs,
  countedTeeth,
  kindOfTeeth,
  listOfTeeth,
  roomAt,
  spaces,
  teethFromList,
  teethOf,
  wheelOfTeeth,
  withChanged,
  withTooth,
  withoutTooth,
} from '~/core/trigger/teeth';
import { missingToothWheel, wheelSchema } from '~/core/wheels/wheel';

const named = { id: 'own', name: 'Own', shaft: 'crank' } as const;
const made = (teeth: Parameters<typeof wheelOfTeeth>[1], shaft: 'crank' | 'cam' = 'crank') => {
  const wheel = wheelOfTeeth({ ...named, shaft }, teeth);
  if (!wheel.ok) throw new Error(wheel.problem.sentence);
  return wheel.value;
};

describe('teeth and wheels', () => {
  test.each(catalog.wheels.map((wheel) => [wheel.id, wheel] as const))(
    '%s taken apart and put together is the same wheel',
    (_, wheel) => {
      const again = made(teethOf(wheel), wheel.shaft);
      expect(again.edges.map(({ level }) => level)).toEqual(wheel.edges.map(({ level }) => level));
      again.edges.forEach((edge, i) => expect(edge.degrees).toBeCloseTo(wheel.edges[i].degrees, 3));
    },
  );

  test('plain wheels of the library are classed as they are filed', () => {
    for (const wheel of catalog.wheels) {
      if (wheel.shaft !== 'crank' || wheel.id === '1-even') continue;
      const { family, places, missing } = kindOfTeeth(teethOf(wheel), 'crank');
      expect([wheel.id, family, places, missing]).toEqual([wheel.id, wheel.family, wheel.places, wheel.missing]);
    }
  });

  test('a tooth may reach over the end of the turn', () => {
    const wheel = made([
      { at: 350, width: 20 },
      { at: 90, width: 30 },
    ]);
    expect(wheelSchema.safeParse(wheel).success).toBe(true);
    expect(wheel.edges[0]).toEqual({ degrees: 10, level: 0 });
    expect(teethOf(wheel)).toContainEqual({ at: 350, width: 20 });
  });

  test.each([
    ['no teeth', [], 'at least one tooth'],
    [
      'two that overlap',
      [
        { at: 10, width: 20 },
        { at: 25, width: 5 },
      ],
      'The tooth at 10° is 20° wide and runs into the one at 25°.',
    ],
    [
      'the last over the first',
      [
        { at: 5, width: 5 },
        { at: 350, width: 20 },
      ],
      'at 350° is 20° wide and runs into the one at 5°',
    ],
    ['no width', [{ at: 5, width: 0 }], 'is 0° wide'],
  ])('%s: one sentence', (_, teeth, sentence) => {
    const wheel = wheelOfTeeth(named, teeth);
    expect(!wheel.ok && wheel.problem.sentence).toContain(sentence);
  });

  test('a wheel without a name is told so', () => {
    const wheel = wheelOfTeeth({ ...named, name: ' ' }, []);
    expect(wheel.ok).toBe(false);
  });

  test('teeth by count are those of the library', () => {
    expect(teethOf(missingToothWheel(60, 2))).toEqual(countedTeeth(60, 2));
  });
});

describe('lists of angles', () => {
  test.each([
    ['0, 70, 180, 250', [0, 70, 180, 250]],
    ['0 70 180 250', [0, 70, 180, 250]],
    ['0°\n70,5°\n180', [0, 70.5, 180]],
    ['0; 70,5; 180', [0, 70.5, 180]],
    ['0.5,1.5', [0.5, 1.5]],
  ])('%j', (text, angles) => {
    const teeth = teethFromList(text, 0.5);
    expect(teeth.ok && teeth.value.map(({ at }) => at)).toEqual(angles);
  });

  test('spans, by hyphen, dash, dots or word, and over the end of the turn', () => {
    const teeth = teethFromList('0-10; 70 – 80; 180..200; 340 to 5', 3);
    expect(teeth.ok && teeth.value).toEqual([
      { at: 0, width: 10 },
      { at: 70, width: 10 },
      { at: 180, width: 20 },
      { at: 340, width: 25 },
    ]);
  });

  test.each([
    ['', 'The list is empty'],
    ['0, seven, 180', "'seven', number 2 of the list, is no angle."],
    ['0, 400', '400, number 2 of the list, is past a turn'],
    ['-5', 'is no angle'],
    [Array.from({ length: 900 }, (_, i) => i / 3).join(' '), '900 angles'],
  ])('%.20j is refused in a sentence', (text, sentence) => {
    const teeth = teethFromList(text, 1);
    expect(!teeth.ok && teeth.problem.sentence).toContain(sentence);
  });

  test('written and read again', () => {
    const { value } = teethFromList('0-10, 350-355, 200-219.5', 1) as {
      ok: true;
      value: { at: number; width: number }[];
    };
    expect(teethFromList(listOfTeeth(value), 1)).toEqual({ ok: true, value });
  });
});

/** Any press, move and removal keeps the teeth in order and apart. */
const acts = fc.array(
  fc.record({
    what: fc.constantFrom('put' as const, 'move' as const, 'widen' as const, 'remove' as const),
    at: fc.double({ min: 0, max: 359.9, noNaN: true }),
    width: fc.double({ min: 0.1, max: 60, noNaN: true }),
    which: fc.nat(50),
  }),
  { maxLength: 30 },
);

test('drawing keeps teeth in order and apart, whatever is done', () => {
  fc.assert(
    fc.property(acts, (all) => {
      let teeth = countedTeeth(4, 1);
      for (const { what, at, width, which } of all) {
        const index = teeth.length === 0 ? -1 : which % teeth.length;
        if (what === 'put') {
          const before = teeth.length;
          const put = withTooth(teeth, at, width);
          if (put) expect(put).toHaveLength(before + 1);
          else expect(roomAt(teeth, at) === null || Math.min(...spaces(teeth)) < 0.4).toBe(true);
          teeth = put ?? teeth;
        } else if (index >= 0 && what === 'remove' && teeth.length > 1) teeth = withoutTooth(teeth, index);
        else if (index >= 0) {
          const changed = withChanged(teeth, index, what === 'move' ? { at } : { width });
          expect(changed.teeth).toHaveLength(teeth.length);
          expect(changed.index).toBeGreaterThanOrEqual(0);
          teeth = changed.teeth;
        }
        expect(Math.min(...spaces(teeth))).toBeGreaterThan(0.0999);
        expect(teeth.every((tooth, i) => i === 0 || tooth.at > teeth[i - 1].at)).toBe(true);
      }
      expect(wheelOfTeeth(named, teeth).ok).toBe(true);
    }),
    { numRuns: 300 },
  );
});

test('a tooth goes as far as its neighbours let it', () => {
  const teeth = [
    { at: 0, width: 10 },
    { at: 100, width: 10 },
    { at: 200, width: 10 },
  ];
  expect(withChanged(teeth, 1, { at: 150 }).teeth[1]).toEqual({ at: 150, width: 10 });
  expect(withChanged(teeth, 1, { at: 195 }).teeth[1].at).toBeCloseTo(189.9, 5);
  expect(withChanged(teeth, 1, { at: 5 }).teeth[1].at).toBeCloseTo(10.1, 5);
  expect(withChanged(teeth, 1, { width: 300 }).teeth[1]).toEqual({ at: 10.1, width: 189.8 });
});

test('teeth on the board are counted as they were laid; an empty board counts as a usual wheel', () => {
  expect(countedAs(countedTeeth(60, 2), 'crank')).toEqual({ places: 60, missing: 2 });
  expect(countedAs(countedTeeth(360, 0), 'cam')).toEqual({ places: 360, missing: 0 });
  expect(
    countedAs(
      [
        { at: 0, width: 10 },
        { at: 70, width: 10 },
      ],
      'crank',
    ),
  ).toEqual({ places: 2, missing: 0 });
  expect(countedAs([], 'crank')).toEqual({ places: 36, missing: 1 });
});

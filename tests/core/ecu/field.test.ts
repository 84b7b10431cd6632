import { describe, expect, test } from '@jest/globals';
import { pinIdOf } from '~/core/ecu/ecu';
import { emptyDraft, setPins, takePinout } from '~/core/ecu/draft';
import { readPinout } from '~/core/ecu/pinout/read';
import { abilitiesText } from '~/core/ecu/pinout/text';
import { proposeFrom, saysEmpty } from '~/core/ecu/pinout/words';
import { fieldPinouts as classic, type FieldPinout } from './field-pinouts';
import { plainPinouts } from './field-pinouts-plain';

const fieldPinouts = [...classic, ...plainPinouts];
const read = (text: string) => {
  const result = readPinout(text);
  if (!result.ok) throw new Error(result.problem.sentence);
  return result.value;
};
const told = (pin: ReturnType<typeof read>['pins'][number]): string => {
  const [first] = pin.abilities;
  const more = first ? (first.output ?? first.side ?? '') : '';
  return first ? `${first.kind}${more === '' ? '' : ` ${more}`}` : 'nothing';
};

interface Score {
  readonly missing: string[];
  readonly extra: string[];
  readonly wrong: string[];
  readonly sure: string[];
  readonly cavities: number;
}
function score(one: FieldPinout): Score {
  const found = read(one.text);
  const byId = new Map(found.pins.map((pin) => [pinIdOf(pin.connector, pin.cavity), pin]));
  const wanted = Object.entries(one.wants);
  const empty = new Set(found.empty);
  // 'power-ground' must not match 'power-ground 2'; a side or number that the text does not tell is not asked.
  const same = (want: string, got: string) => got === want || (!want.includes(' ') && got.split(' ')[0] === want);
  const wrong = wanted.flatMap(([id, want]) => {
    const pin = byId.get(id);
    return pin && !same(want, told(pin)) ? [{ id, want, got: told(pin), confidence: pin.confidence }] : [];
  });
  return {
    cavities: wanted.length + (one.empty?.length ?? 0),
    missing: [
      ...wanted.flatMap(([id]) => (byId.has(id) ? [] : [id])),
      ...(one.empty ?? []).flatMap((id) => (empty.has(id) ? [] : [`${id} (empty)`])),
    ],
    extra: [...byId.keys()].filter((id) => !(id in one.wants)),
    wrong: wrong.map(({ id, want, got }) => `${id}: ${got} for ${want}`),
    sure: wrong.filter(({ confidence }) => confidence === 'sure').map(({ id, got }) => `${id}: ${got}`),
  };
}

// Texts of our own, in the styles people have them; wants worked out by hand (common practice).
describe.each(fieldPinouts.map((one) => [one.name, one] as const))('%s', (_, one) => {
  const result = score(one);
  test('every cavity is found, and none that is not there', () => {
    expect({ missing: result.missing, extra: result.extra }).toEqual({ missing: [], extra: [] });
  });
  test('nothing wrong is called sure', () => {
    expect(result.sure).toEqual([]);
  });
  test('what they are', () => {
    expect(result.wrong).toEqual([]);
  });
});

describe('nothing of the text is lost', () => {
  test.each(fieldPinouts.map((one) => [one.name, one.text] as const))(
    '%s: every character is read as something, or left out for a reason',
    (_, text) => {
      const { spans, pins } = read(text);
      expect(spans.map(({ from, to }) => text.slice(from, to)).join('')).toBe(text);
      for (const span of spans) {
        expect(span.said).toMatch(/^(read as|left out|not understood)/);
        // What stands between cells is signs and blanks only: no word is taken for one.
        if (span.use === 'sign') expect(text.slice(span.from, span.to)).toMatch(/^[\s|,;:=."'()+_–—-]*$/);
      }
      const spoken = new Set(spans.flatMap((span) => span.pins));
      for (const pin of pins) expect(spoken.has(pinIdOf(pin.connector, pin.cavity))).toBe(true);
    },
  );
  test('a cavity that is named twice is asked about, with both readings', () => {
    const { pins, doubles } = read('A1: Injector 1\nA2: Injector 2\nA3: Power ground\nA1: Fan relay');
    expect(pins).toHaveLength(3);
    expect(doubles).toEqual([
      {
        id: 'A1',
        said: [
          { line: 1, text: 'Injector 1' },
          { line: 4, text: 'Fan relay' },
        ],
      },
    ]);
    const [first] = pins;
    expect(first.abilities.map(({ kind }) => kind)).toEqual(['injector', 'low-side']);
    expect(first).toMatchObject({ confidence: 'guess' });
    expect(first.why).toMatch(/line 1 'Injector 1'; line 4 'Fan relay'/);
  });
  test('what was looked at before is not overwritten by a second paste', () => {
    const draft = takePinout(emptyDraft('e'), read('A1: Injector 1\nA2: Injector 2\nA3: Power ground\nA4: Fan relay'));
    const looked = setPins(draft, new Set(['A1']), { checked: true, label: 'Mine' });
    const again = takePinout(looked, read('A1: Analog 1\nA2: Analog 2'));
    expect(again.pins.find(({ cavity }) => cavity === 1)).toMatchObject({ label: 'Mine', checked: true });
    expect(again.pins.find(({ cavity }) => cavity === 2)!.label).toBe('Analog 2');
  });
  test('figures that no ability carries are told', () => {
    expect(proposeFrom('Tacho', '3 A peak, 470 Hz').why).not.toMatch(/Not used/);
    expect(proposeFrom('Analog 1', '3 A peak').why).toMatch(/Not used: 3 A/);
  });
});

test('words that were read wrong', () => {
  const kinds = (label: string, text = '') => proposeFrom(label, text).abilities.map(({ kind }) => kind);
  const cases: readonly (readonly [string, string])[] = [
    ['Analogue 3 (0-5V)', 'analog'],
    ['TPS, 0-5V', 'analog'],
    ['+12V from main relay', 'switched'],
    ['Main relay control', 'main-relay'],
    ['Ignition 1 (12 V)', 'ignition-logic'],
    ['Trigger 1 (+)', 'vr'],
    ['PGND', 'power-ground'],
    ['P-GND', 'power-ground'],
  ];
  for (const [label, kind] of cases) expect([label, kinds(label)[0]]).toEqual([label, kind]);
  expect(proposeFrom('Crank+').abilities[0].pair).not.toBe(proposeFrom('Cam+').abilities[0].pair);
  // Nor do they look alike where an ability is written, and what is written reads back.
  const written = (label: string) => abilitiesText(proposeFrom(label).abilities);
  expect([written('Crank+'), written('Cam+')]).toEqual(['VR 1 +', 'VR cam 1 +']);
  expect(proposeFrom('', written('Cam+')).abilities).toEqual(proposeFrom('Cam+').abilities);
  for (const nothing of ['n.c.', 'N/C', 'frei', 'libre', 'nicht belegt', 'non connecté', 'libero', 'vacío', 'not used'])
    expect([nothing, saysEmpty(nothing)]).toEqual([nothing, true]);
});

test('commas in every description part no columns', () => {
  const text = [1, 2, 3, 4].map((n) => `A${n}: Injector ${n}, saturated, 2 A`).join('\n');
  expect(read(text).pins.map(told)).toEqual(['injector 1', 'injector 2', 'injector 3', 'injector 4']);
});

test('one writing, two readings: the rest of the text decides', () => {
  const ids = (text: string) => read(text).pins.map((pin) => pinIdOf(pin.connector, pin.cavity));
  expect(ids('B1-4: injector 1-4\nB5: ground\nB6: ground')).toEqual(['B1', 'B2', 'B3', 'B4', 'B5', 'B6']);
  expect(ids('J1-3: injector 1\nJ1-4: injector 2\nJ2-1: ground')).toEqual(['J1-3', 'J1-4', 'J2-1']);
  expect(ids('X1/11: injector 1\nX1/12: injector 2\nX2/1: ground')).toEqual(['X1-11', 'X1-12', 'X2-1']);
  expect(ids('A1/A2: power ground\nA3: injector 1')).toEqual(['A1', 'A2', 'A3']);
});

import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import {
  definitionOf,
  draftOf,
  emptyDraft,
  guessRows,
  issuesOf,
  pinoutCsv,
  removePins,
  setAbilities,
  setPins,
  takePinout,
  type EcuDraft,
} from '~/core/ecu/draft';
import { ecuFile, parseEcuFile } from '~/core/ecu/file';
import { readPinout } from '~/core/ecu/pinout/read';
import { pinouts } from './pinouts';

const pasted = (...texts: string[]): EcuDraft =>
  texts.reduce(
    (draft, text) => {
      const read = readPinout(text);
      if (!read.ok) throw new Error(read.problem.sentence);
      return takePinout(draft, read.value);
    },
    { ...emptyDraft('own'), model: 'Bench box' },
  );
const sentences = (draft: EcuDraft, severity?: string) =>
  issuesOf(draft)
    .filter((issue) => !severity || issue.severity === severity)
    .map(({ sentence }) => sentence);

describe.each(catalog.ecus.map((ecu) => [ecu.model, ecu] as const))('%s', (_, ecu) => {
  test('is its own draft and back', () => {
    expect(issuesOf(draftOf(ecu))).toEqual([]);
    expect(definitionOf(draftOf(ecu))).toEqual({ ok: true, value: ecu });
  });
  test('comes back from its CSV with the same pins, abilities and pairs', () => {
    const again = pasted(pinoutCsv(draftOf(ecu)));
    expect(again.pins).toHaveLength(ecu.pins.length);
    const joined = (pins: readonly { abilities: readonly { kind: string; pair?: string }[] }[]) =>
      pins.map((pin) =>
        pin.abilities.map((ability) => ({
          ...ability,
          // A pair's name may differ, its members may not.
          pair:
            ability.pair &&
            pins.flatMap((other, i) =>
              other.abilities.some((one) => one.kind === ability.kind && one.pair === ability.pair) ? [i] : [],
            ),
        })),
      );
    expect(joined(again.pins)).toEqual(joined(ecu.pins));
  });
  test('comes back from its file', () => {
    expect(parseEcuFile(ecuFile([ecu]))).toEqual({ ok: true, value: [ecu] });
  });
});

test('a pasted pinout becomes a definition when nothing stands in its way', () => {
  const draft = pasted(pinouts[4].text);
  expect(draft.connectors).toMatchObject([{ id: 'A', name: '26 way, grey' }, { id: 'B' }]);
  expect(draft.connectors.map(({ rows }) => rows.reduce((a, b) => a + b, 0))).toEqual([26, 34]);
  expect(sentences(draft, 'fix')).toEqual(['No supply: neither a switched nor a permanent one is listed.']);
  const done = definitionOf(draft);
  expect(done.ok).toBe(true);
});

test('what stands in the way is said with the cavity', () => {
  expect(sentences(emptyDraft('x'))).toEqual([
    'Give the ECU a name.',
    'A definition has at least four cavities: paste the pinout first.',
  ]);
  const nothing = pasted('A1 | Quux\nA2 | Injector 1 2 A\nA3 | VR + \nA4 | Injector 1 2 A');
  const found = sentences(nothing);
  expect(found).toContainEqual('1 cavity can be nothing yet (A1): choose what they can be, or leave them out.');
  expect(found).toContainEqual('No power ground: every ECU has at least one.');
  expect(found).toContainEqual('injector driver 1 is on A2 and A4.');
  expect(found.some((one) => /VR pair vr-1 has 1 pin \(A3\); 2 are usual/.test(one))).toBe(true);
  const refused = definitionOf(nothing);
  expect(refused.ok ? '' : refused.problem.path).toBe('A1');
  const doubled = { ...nothing, pins: [...nothing.pins, nothing.pins[1]] };
  expect(sentences(doubled, 'stop')[0]).toBe('A2 is listed twice.');
  const short = { ...nothing, connectors: [{ ...nothing.connectors[0], rows: [2] }] };
  expect(sentences(short, 'stop').some((one) => one.startsWith('A3 and A4 are not on the face'))).toBe(true);
});

test('pasting again overwrites what was pasted and keeps the face that fits', () => {
  const first = pasted(pinouts[0].text);
  const faced = { ...first, connectors: [{ ...first.connectors[0], rows: [5, 5] }] };
  const read = readPinout('A2\tAnalog 9\nA10\tPower ground');
  if (!read.ok) throw new Error();
  const again = takePinout(faced, read.value);
  expect(again.pins).toHaveLength(9);
  expect(again.pins.find((pin) => pin.cavity === 2)!.abilities).toEqual([{ kind: 'analog' }]);
  expect(again.connectors[0].rows).toEqual([5, 5]);
});

test('several pins are set at once and count as looked at; those left out leave their groups', () => {
  const draft: EcuDraft = {
    ...pasted(pinouts[6].text),
    groups: [
      { type: 'timer', name: 't', pins: ['A1', 'A2'] },
      { type: 'either', name: 'e', sides: [['A12'], ['A13']] },
    ],
  };
  const set = setAbilities(draft, new Set(['A12', 'A13']), (_, i) => [{ kind: 'switch', pullUpOhms: 1000 * (i + 1) }]);
  expect(
    set.pins
      .filter((pin) => pin.abilities[0].kind === 'switch')
      .map((pin) => [pin.cavity, pin.abilities[0].pullUpOhms, pin.checked]),
  ).toEqual([
    [12, 1000, true],
    [13, 2000, true],
  ]);
  expect(setPins(draft, new Set(['A1']), { label: 'Mine' }).pins[0].label).toBe('Mine');
  const less = removePins(draft, new Set(['A1', 'A13']));
  expect(less.groups).toEqual([{ type: 'timer', name: 't', pins: ['A2'] }]);
});

test('a face nobody described has as many cavities as are there', () => {
  for (let count = 1; count <= 120; count += 1) expect(guessRows(count).reduce((sum, row) => sum + row, 0)).toBe(count);
});

test('files that are no list of ECUs are refused in a sentence, from the outside in', () => {
  const good = ecuFile([catalog.ecus[0]]);
  for (const [text, code] of [
    ['', 'not-json'],
    [good.slice(0, -20), 'not-json'],
    ['{"format":"gonyx-kinds"}', 'not-ecus'],
    ['[]', 'not-ecus'],
    [good.replace('"version": 1', '"version": 9'), 'invalid-ecu'],
    [good.replace('"cavity": 2,', '"cavity": 3,'), 'invalid-ecu'],
    ['x'.repeat(5_000_001), 'too-large'],
  ] as const) {
    const result = parseEcuFile(text);
    expect(result.ok ? 'ok' : result.problem.code).toBe(code);
    if (!result.ok) expect(result.problem.sentence).toMatch(/\.$/);
  }
});

import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { catalog } from '~/catalog';
import { pinIdOf } from '~/core/ecu/ecu';
import { placesOf, readPinout } from '~/core/ecu/pinout/read';
import { abilitiesText } from '~/core/ecu/pinout/text';
import { proposeFrom } from '~/core/ecu/pinout/words';
import { pinouts } from './pinouts';

const read = (text: string) => {
  const result = readPinout(text);
  if (!result.ok) throw new Error(result.problem.sentence);
  return result.value;
};

describe.each(pinouts.map((one) => [one.name, one] as const))('a pinout as %s', (_, one) => {
  const found = read(one.text);
  test('every cavity is found, once, on its connector', () => {
    const ids = found.pins.map((pin) => pinIdOf(pin.connector, pin.cavity));
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids).toHaveLength(one.pins);
    expect(found.connectors.map(({ id }) => id)).toEqual(one.connectors);
    expect(found.empty).toEqual(one.empty ?? []);
  });
  test('what they are is read from the words', () => {
    const read = Object.fromEntries(
      found.pins.map((pin) => {
        const [first] = pin.abilities;
        const more = first ? (first.output ?? first.side ?? '') : '';
        return [
          pinIdOf(pin.connector, pin.cavity),
          first ? `${first.kind}${more === '' ? '' : ` ${more}`}` : 'nothing',
        ];
      }),
    );
    expect(read).toMatchObject(one.wants);
    // Nothing of these texts is left without a proposal.
    expect(found.pins.filter((pin) => pin.confidence === 'none')).toEqual([]);
  });
});

test('figures are read with their units', () => {
  const first = (label: string, text = '') => proposeFrom(label, text).abilities[0];
  expect(first('Injector 3', '2 A, 10 Ω and more')).toEqual({ kind: 'injector', output: 3, maxAmps: 2, minOhms: 10 });
  expect(first('Output 4', 'PWM to 1 kHz, 500 mA')).toEqual({ kind: 'low-side', maxAmps: 0.5, maxHz: 1000 });
  expect(first('Inj 1', '8 A peak and hold, hold 2 A')).toEqual({
    kind: 'injector',
    output: 1,
    drive: 'peak-hold',
    maxAmps: 8,
    holdAmps: 2,
  });
  expect(first('Temp 1', 'pull-up 2,49 kΩ switchable')).toEqual({
    kind: 'analog',
    pullUpOhms: 2490,
    pullUpSwitchable: true,
  });
  expect(first('Trigger 2', 'Hall, pull-up 4k7, switches at 2.5 V')).toMatchObject({
    kind: 'hall',
    pullUpOhms: 4700,
    thresholdVolts: 2.5,
  });
  expect(first('12 V supply out', '200 mA')).toEqual({ kind: 'supply-out', volts: 12, maxAmps: 0.2 });
  expect(first('Ignition 2', '5 V logic')).toEqual({ kind: 'ignition-logic', output: 2, volts: 5 });
});

test('alternate functions become further abilities', () => {
  const { abilities } = proposeFrom('Injector 6 or low-side output, 2 A');
  expect(abilities.map(({ kind }) => kind)).toEqual(['injector', 'low-side']);
  expect(proposeFrom('INJ5 / GPO5').abilities.map(({ kind }) => kind)).toEqual(['injector', 'low-side']);
  expect(proposeFrom('Analog 3', 'alternatively switch input').abilities.map(({ kind }) => kind)).toEqual([
    'analog',
    'switch',
  ]);
});

test('confidence: outright, by what hangs on it, a guess, or none', () => {
  expect(proposeFrom('CAN H').confidence).toBe('sure');
  expect(proposeFrom('Fan 1 relay').confidence).toBe('likely');
  expect(proposeFrom('Coolant temp').confidence).toBe('guess');
  expect(proposeFrom('Coolant temp').why).toMatch(/2490 Ω assumed/);
  expect(proposeFrom('Trigger 1', 'Hall, pull-up')).toMatchObject({
    confidence: 'guess',
    why: expect.stringMatching(/4700 Ω assumed/),
  });
  expect(proposeFrom('Quux').confidence).toBe('none');
  expect(proposeFrom('', '').abilities).toEqual([]);
});

test('cavities: one, ranges, lists, and what is none', () => {
  const names = (cell: string) => placesOf(cell).map(({ connector, cavity }) => `${connector}${cavity}`);
  expect(names('A1-A4')).toEqual(['A1', 'A2', 'A3', 'A4']);
  expect(names('A1 to 3')).toEqual(['A1', 'A2', 'A3']);
  expect(names('7..9')).toEqual(['7', '8', '9']);
  expect(names('J1-4')).toEqual(['J14']);
  expect(names('A1, A3 & A5')).toEqual(['A1', 'A3', 'A5']);
  expect(names('Pin 12')).toEqual(['12']);
  for (const none of ['Injector 1', '2 A', '0-5 V', '', 'A', '1.5', '1000']) expect(names(none)).toEqual([]);
});

test('what Gonyx writes of an ability it reads back: every pin of the catalog', () => {
  for (const ecu of catalog.ecus)
    for (const pin of ecu.pins) {
      const text = abilitiesText(pin.abilities);
      const again = proposeFrom('', text).abilities;
      // Pair names are made anew; what they join is compared by the editor's own test.
      const bare = (list: readonly object[]) => list.map((one) => ({ ...one, pair: undefined }));
      expect({ id: pin.id, text, abilities: bare(again) }).toEqual({
        id: pin.id,
        text,
        abilities: bare(pin.abilities),
      });
    }
});

test('a text without a cavity, an empty one and one too long are refused in a sentence', () => {
  for (const text of ['', '   \n ', 'This is a letter to a friend.\nIt has two lines.', 'x'.repeat(400_001)]) {
    const result = readPinout(text);
    expect(result.ok).toBe(false);
    if (!result.ok) expect(result.problem.sentence).toMatch(/\.$/);
  }
});

test('no text makes the reader throw, and every line is a cavity or is named', () => {
  const cell = fc.constantFrom(
    'A1',
    'B12',
    'Injector 3',
    '',
    '|',
    'Pin',
    'Function',
    'n/c',
    'A1-A4',
    'CAN H',
    '2 A',
    '"',
    'Connector B',
    '\t',
    ';',
    '   ',
  );
  fc.assert(
    fc.property(
      fc.array(fc.array(cell, { maxLength: 6 }), { maxLength: 12 }),
      fc.constantFrom('\t', ' | ', ';', ',', '  ', ' '),
      (rows, sign) => {
        const result = readPinout(rows.map((row) => row.join(sign)).join('\n'));
        if (!result.ok) return;
        for (const pin of result.value.pins) expect(pin.line).toBeLessThanOrEqual(rows.length * 6);
        for (const note of result.value.notes) expect(note.sentence).toMatch(/^Line \d+ .*\.$/);
      },
    ),
    { numRuns: 300 },
  );
});

import { describe, expect, test } from '@jest/globals';
import { proposeFrom } from '~/core/ecu/pinout/words';
import { readPinout } from '~/core/ecu/pinout/read';
import { composedStyle } from '../../pinouts/composed';
import { measure, nothing } from '../../pinouts/measure';
import { styles } from '../../pinouts/styles';

// Texts drawn by seed, in words and ways that tests/pinouts writes down by itself (common practice, from memory).
describe('pinouts as people have them', () => {
  test.each(styles.map((style) => [style.name, style] as const))('%s', (_, style) => {
    const own = nothing();
    for (let seed = 1; seed <= 2; seed += 1) measure(style, seed, own);
    expect({ found: own.found, sureWrong: own.sureWrong, lost: own.lostQuietly }).toEqual({
      found: own.cavities,
      sureWrong: 0,
      lost: [],
    });
    expect(own.kinds / own.cavities).toBeGreaterThan(0.9);
  });
  test('put together of writing, layout and language by seeds that nobody looked at', () => {
    const own = nothing();
    for (let seed = 1001; seed < 1161; seed += 2) measure(composedStyle(seed), seed, own);
    expect(own.texts).toBe(80);
    expect(own.found / own.cavities).toBeGreaterThan(0.97);
    expect(own.kinds / own.cavities).toBeGreaterThan(0.92);
    expect(own.sureWrong / own.cavities).toBeLessThan(0.005);
    expect(own.lostQuietly).toEqual([]);
  });
});

const read = (text: string) => {
  const result = readPinout(text);
  if (!result.ok) throw new Error(result.problem.sentence);
  return result.value;
};

describe('a text that is not understood as a whole says so, and nothing of it is sure', () => {
  const doubted = (text: string) => {
    const { doubt, pins } = read(text);
    expect(pins.filter(({ confidence }) => confidence === 'sure')).toEqual([]);
    return doubt;
  };
  const numbers = Array.from({ length: 12 }, (_, i) => i + 1);
  test('most places are named again', () => {
    const names = ['Injector 1', 'CAN H', 'Power ground', '5 V sensor supply, 100 mA'];
    expect(doubted(numbers.map((n) => `A${(n % 3) + 1}: ${names[n % 4]}`).join('\n'))).toMatch(/named more than once/);
  });
  test('most words say nothing', () => {
    expect(doubted(numbers.map((n) => `A${n}: zorp ${'abcdefghijkl'[n - 1]}`).join('\n'))).toMatch(/say nothing/);
  });
  test('more than one cavity in the words of a line', () => {
    const line = (n: number) => `A${n} Injector ${n} and then A${n + 12} CAN H, or A${n + 24} Knock 1`;
    expect(doubted(numbers.map(line).join('\n'))).toMatch(/name further cavities/);
  });
  test('a text that is understood is not doubted', () => {
    expect(read(numbers.map((n) => `A${n}: Injector ${n}, 2 A`).join('\n')).doubt).toBe('');
  });
});

describe('columns that were copied one below the other', () => {
  const places = ['A1', 'A2', 'A3', 'A4', 'A5'];
  const labels = ['Injector 1', 'Injector 2', 'AN 1', 'CAN H', 'Power ground'];
  test('are asked about, and joined line by line', () => {
    const { blocks } = read([...places, '', ...labels].join('\n'));
    expect(blocks).toMatchObject({ places, columns: [labels] });
    const joined = read(blocks!.joined!);
    expect(joined.pins.map((pin) => [pin.cavity, pin.label, pin.abilities[0]?.kind])).toEqual([
      [1, 'Injector 1', 'injector'],
      [2, 'Injector 2', 'injector'],
      [3, 'AN 1', 'analog'],
      [4, 'CAN H', 'can'],
      [5, 'Power ground', 'power-ground'],
    ]);
  });
  test('are not joined where one has a line more', () => {
    const { blocks } = read(
      [...places, '', ...labels.slice(0, 2), 'Crank hall', ...labels.slice(3), 'Fan relay'].join('\n'),
    );
    expect(blocks).toMatchObject({ joined: null });
    expect(blocks!.columns[0]).toHaveLength(6);
  });
  test('a table is no such thing', () => {
    expect(read(places.map((place, i) => `${place}\t${labels[i]}`).join('\n')).blocks).toBeNull();
  });
});

describe('sure and wrong is the worst', () => {
  const kinds = (label: string, text = '') => proposeFrom(label, text).abilities.map(({ kind }) => kind);
  test.each([
    ['Output 3, sources 2 A', 'high-side'],
    ['Push-pull output for igniter 1, 5 V', 'ignition-logic'],
    ['Starter signal +12 V', 'switch'],
    ['Wideband 0-5 V in', 'analog'],
    ['GND knock sensor', 'sensor-ground'],
    ['Ground for injectors', 'power-ground'],
    ['To fuel pump relay coil', 'low-side'],
    ['Idle speed solenoid', 'low-side'],
    ['drives up to 3 A to ground', 'low-side'],
    ['input up to 10 kHz', 'frequency'],
    ['input with 1 k pull-up to 5 V', 'analog'],
  ])('%s', (text, kind) => {
    expect(kinds(text)[0]).toBe(kind);
  });
  test.each([
    'Injector input',
    'Analog output 0-5 V',
    'Coil driver 1, logic level',
    'Fuel pump 12 V feed',
    'Knock output',
  ])('%s: said two ways, and so a guess', (text) => {
    expect(proposeFrom(text)).toMatchObject({ confidence: expect.stringMatching(/guess|none/) });
  });
  test('label and text that work opposite ways are both shown', () => {
    const both = proposeFrom('Injector 3', 'analog input 0-5 V');
    expect(both.abilities.map(({ kind }) => kind)).toEqual(['injector', 'analog']);
    expect(both).toMatchObject({ confidence: 'guess', why: expect.stringMatching(/'Injector 3' reads as injector/) });
  });
  test('a range that speaks of cavities named one by one swallows none of them', () => {
    const { pins, doubles } = read(
      [
        'A1-A4: injector outputs',
        'A1: Injector 1',
        'A2: Injector 2',
        'A3: Injector 3',
        'A4: Fan relay',
        'A5: Power ground',
      ].join('\n'),
    );
    expect(doubles).toEqual([]);
    expect(pins.map((pin) => pin.abilities[0]?.kind)).toEqual([
      'injector',
      'injector',
      'injector',
      'low-side',
      'power-ground',
    ]);
  });
});

import { describe, expect, test } from '@jest/globals';
import { askWords, kindWord, missSentence, serve, type Ask } from '~/core/ecu/ask';
import { abilityKinds, ecuSchema, type Ability, type Pin } from '~/core/ecu/ecu';
import { cavityPlace, neighbourCavities } from '~/core/ecu/face';
import { ecu } from '../../helpers';

const pin = (...abilities: Ability[]): Pin => ({ id: 'A1', connector: 'A', cavity: 1, label: 'x', abilities });

describe('serving', () => {
  const cases: [string, Pin, Ask, string | null][] = [
    ['its own kind', pin({ kind: 'knock' }), { kind: 'knock' }, null],
    ['another kind', pin({ kind: 'knock' }), { kind: 'analog' }, 'kind'],
    ['enough current', pin({ kind: 'low-side', maxAmps: 2 }), { kind: 'low-side', amps: 2 }, null],
    ['too much current', pin({ kind: 'low-side', maxAmps: 2 }), { kind: 'low-side', amps: 2.1 }, 'amps'],
    ['a frequency it reaches', pin({ kind: 'low-side', maxHz: 300 }), { kind: 'low-side', hz: 300 }, null],
    ['on and off for PWM', pin({ kind: 'low-side', maxHz: 0 }), { kind: 'low-side', hz: 30 }, 'hz'],
    ['a low-impedance injector', pin({ kind: 'injector', minOhms: 10 }), { kind: 'injector', ohms: 2.4 }, 'ohms'],
    ['a pull-up that is there', pin({ kind: 'analog', pullUpOhms: 2490 }), { kind: 'analog', pullUp: true }, null],
    ['a pull-up that is missing', pin({ kind: 'analog' }), { kind: 'analog', pullUp: true }, 'pull-up'],
    [
      'a fixed pull-up nobody wants',
      pin({ kind: 'analog', pullUpOhms: 2490 }),
      { kind: 'analog', pullUp: false },
      'pull-up',
    ],
    [
      'a pull-up that can be turned off',
      pin({ kind: 'analog', pullUpOhms: 2490, pullUpSwitchable: true }),
      { kind: 'analog', pullUp: false },
      null,
    ],
    ['the wrong side of a pair', pin({ kind: 'vr', side: 'plus' }), { kind: 'vr', side: 'minus' }, 'side'],
    [
      'the second of two abilities',
      pin({ kind: 'injector' }, { kind: 'low-side', maxAmps: 2 }),
      { kind: 'low-side', amps: 1 },
      null,
    ],
  ];
  test.each(cases)('%s', (_, one, ask, code) => {
    const served = serve(one, ask);
    expect(served.miss?.code ?? null).toBe(code);
    expect(served.ability === null).toBe(code !== null);
    if (served.miss) expect(missSentence(served.miss, ask).length).toBeGreaterThan(8);
  });
  test('the nearest miss is told, not the first', () => {
    const near = serve(pin({ kind: 'injector', maxAmps: 2 }, { kind: 'low-side', maxAmps: 1 }), {
      kind: 'low-side',
      amps: 3,
    });
    expect(near.miss).toEqual({ code: 'amps', asked: 3, limit: 1 });
  });
  test('every kind has a word', () => {
    for (const kind of abilityKinds) expect(kindWord(kind).length).toBeGreaterThan(3);
    expect(askWords({ kind: 'low-side', hz: 30 })).toBe('PWM output of 30 Hz or more');
    expect(askWords({ kind: 'analog', pullUp: true })).toBe('analog input with pull-up');
  });
});

describe('cavities', () => {
  const connector = ecu('orrery-48').connectors[0];
  test('are counted by row from the left, wire side', () => {
    expect(cavityPlace(connector, 1)).toEqual({ row: 1, place: 1 });
    expect(cavityPlace(connector, 10)).toEqual({ row: 1, place: 10 });
    expect(cavityPlace(connector, 13)).toEqual({ row: 2, place: 3 });
    expect(cavityPlace(connector, 28)).toEqual({ row: 3, place: 8 });
  });
  test('know their neighbours, and are known by them', () => {
    expect(neighbourCavities(connector, 13).sort((a, b) => a - b)).toEqual([3, 12, 14, 23]);
    expect(neighbourCavities(connector, 1).sort((a, b) => a - b)).toEqual([2, 11]);
    expect(neighbourCavities(connector, 20).sort((a, b) => a - b)).toEqual([10, 19]);
    for (let cavity = 1; cavity <= 28; cavity += 1)
      for (const other of neighbourCavities(connector, cavity))
        expect(neighbourCavities(connector, other)).toContain(cavity);
  });
});

describe('schema', () => {
  const good = ecu('orrery-26');
  test.each([
    ['a cavity twice', { pins: [...good.pins, good.pins[0]] }, /listed twice/],
    [
      'a cavity that is not there',
      { pins: [...good.pins, { ...good.pins[0], id: 'A99', cavity: 99 }] },
      /not on a connector/,
    ],
    [
      'a pin whose id is not its place',
      { pins: [{ ...good.pins[0], id: 'A2' }, ...good.pins.slice(2)] },
      /not on a connector/,
    ],
    ['no power ground', { pins: good.pins.filter((one) => one.abilities[0].kind !== 'power-ground') }, /power ground/],
  ])('%s is refused', (_, part, message) => {
    const result = ecuSchema.safeParse({ ...good, ...part });
    expect(result.success).toBe(false);
    expect(result.error!.issues.map((issue) => issue.message).join()).toMatch(message);
  });
});

import { expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { find } from '~/core/search/find';

const names = (query: string) => find(query, catalog.kinds, (kind) => [kind.name, kind.note]).map(({ name }) => name);

test.each([
  ['electronic throttle', 'Throttle body, motor and two tracks'],
  ['drive-by-wire', 'Throttle body, motor and two tracks'],
  ['DBW', 'Throttle body, motor and two tracks'],
  ['water temp', 'Coolant temperature, NTC'],
  ['rev counter', 'Tachometer, driven to ground'],
  ['VVT', 'Cam phaser oil valve'],
  ['flex fuel', 'Fuel composition sensor'],
  ['EGT', 'Exhaust thermocouple, type K, bare pair'],
])('%j finds %j first', (query, name) => expect(names(query)[0]).toBe(name));

test("'oil' finds oil before coil, and coil still", () => {
  const found = names('oil');
  const first = (test: RegExp) => found.findIndex((name) => test.test(name));
  expect(found[0]).toMatch(/^Oil/);
  expect(first(/^Coil/)).toBeGreaterThan(first(/^Oil temperature/));
  expect(first(/^Coil/)).toBeGreaterThanOrEqual(0);
});

test('lambda finds every oxygen sensor', () => {
  expect(names('lambda').filter((name) => /wideband|narrow-band/i.test(name)).length).toBeGreaterThanOrEqual(4);
});

test('every word must fit, an empty query finds all, nonsense nothing', () => {
  expect(names('coil igniter three')[0]).toBe('Coil with igniter, three terminals');
  expect(names('')).toHaveLength(catalog.kinds.length);
  expect(names('quuxly')).toEqual([]);
});

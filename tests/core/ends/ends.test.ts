import { expect, test } from '@jest/globals';
import { endKey, endOf, endsOfWire, readEnd, wireId, type EndRef } from '~/core/ends/ends';
import { endNamed } from '../../ends';

test.each<[string, EndRef]>([
  ['ecu:A13', { of: 'ecu', pin: 'A13' }],
  ['dev:coil-igniter-3.C', { of: 'device', device: 'coil-igniter-3', terminal: 'C' }],
  ['dev:a.b.2', { of: 'device', device: 'a.b', terminal: '2' }],
  ['fuse:main.1', { of: 'part', kind: 'fuse', part: 'main', port: '1' }],
  ['relay:fan-1.87', { of: 'part', kind: 'relay', part: 'fan-1', port: '87' }],
  ['splice:line-lamp', { of: 'part', kind: 'splice', part: 'line-lamp', port: '' }],
  ['gnd:head', { of: 'part', kind: 'ground', part: 'head', port: '' }],
  ['bat:+', { of: 'part', kind: 'battery', part: '+', port: '' }],
  ['key:15', { of: 'part', kind: 'key', part: '15', port: '' }],
])('end %s, as earlier files have it', (text, ref) => {
  expect(readEnd(text)).toEqual(ref);
  expect(endKey(ref)).toBe(text);
  expect(endOf(endKey(ref))).toEqual(ref);
});
test.each(['', 'ecu', 'ecu:', 'dev:x', 'fuse:main', 'relay:.85', 'moon:1'])('%p names no end', (text) => {
  expect(readEnd(text)).toBeNull();
});
test.each(['', 'ecu:A1', 'ecu:A1~', 'ecu:A1~moon:1', 'ecu:A1~ecu:A2~ecu:A3'])('%p is no wire', (text) => {
  expect(endsOfWire(text)).toBeNull();
});
test('a wire’s id does not depend on its direction', () => {
  expect(wireId(endNamed('ecu:A1'), endNamed('dev:x.1'))).toBe(wireId(endNamed('dev:x.1'), endNamed('ecu:A1')));
});

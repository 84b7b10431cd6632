import { expect, test } from '@jest/globals';
import Papa from 'papaparse';
import { call } from '~/core/edits';
import { neutralise, toCsv } from '~/core/data/csv';
import { ioCsv, ioRows } from '~/core/allot/io-sheet';
import { cutListCsv, pinListCsv } from '~/core/formats/lists';
import { cutList } from '~/core/loom/loom';
import { netlist } from '~/core/netlist/netlist';
import {
  celsiusToFahrenheit,
  feetToMetres,
  kpaToBar,
  kpaToPsi,
  psiToKpa,
  wrapDegrees,
  wrapSigned,
} from '~/core/units/convert';
import { formatAmps, formatOhms, formatVolts, inSentence, listWords, plural } from '~/core/units/format';
import { groupBy } from '~/core/data/group';
import { demoBuild, edited } from '../../helpers';

test.each(['=1+1', '+SUM(A1)', '-cmd', '@x', '\tx'])('a cell that starts like a formula is neutralised: %j', (cell) => {
  expect(neutralise(cell)).toBe(`'${cell}`);
});
test('numbers and plain words stay', () => {
  expect(neutralise('-3.5')).toBe('-3.5');
  expect(neutralise('plain')).toBe('plain');
  expect(neutralise(4)).toBe(4);
  expect(neutralise(null)).toBe('');
});
test('quotes, commas and line ends survive a reader (RFC 4180)', () => {
  const rows = [['a "b"', 'c,d', 'e\nf', 1]];
  const text = toCsv(['w', 'x', 'y', 'z'], rows);
  expect(text).toContain('\r\n');
  expect(Papa.parse<string[]>(text).data[1]).toEqual(['a "b"', 'c,d', 'e\nf', '1']);
});
test('pin and cut lists hold a row for each cavity and wire', () => {
  const build = demoBuild();
  const net = netlist(build);
  const pins = Papa.parse<Record<string, string>>(pinListCsv(build, net), { header: true }).data;
  expect(pins).toHaveLength(48);
  expect(pins.find((row) => row.cavity === 'A13')).toMatchObject({
    serves: 'Coil 3',
    'runs to': 'Coil 3 · C',
    note: 'locked',
  });
  expect(pins.find((row) => row.cavity === 'A16')).toMatchObject({ serves: '', colour: '' });
  const cuts = Papa.parse(cutListCsv(build, net)).data;
  expect(cuts).toHaveLength(net.wires.length + 1);
});
test('lists of a build read in inches are in gauges and feet', () => {
  const demo = demoBuild();
  const build = { ...demo, units: { ...demo.units, workshop: 'inch' as const } };
  const net = netlist(build);
  const lines = cutList(build, net);
  const at = lines.findIndex(({ squareMm }) => squareMm === 2.5);
  const wire = lines[at];
  // 2.5 mm² is bought as 12 AWG; a foot is 0.3048 m.
  expect(Papa.parse<Record<string, string>>(cutListCsv(build, net), { header: true }).data[at]).toMatchObject({
    AWG: '12',
    feet: String(Number((wire.lengthMetres / 0.3048).toFixed(2))),
  });
  expect(pinListCsv(build, net).split('\r\n')[0]).toContain('AWG,feet');
  expect(ioCsv(ioRows(build, net, { proved: new Set(), wrongWires: new Map() }, 'pin'), build)).toMatch(/20 AWG/);
});
test('a label that looks like a formula leaves as text', () => {
  const build = edited(demoBuild(), call('editDevice', { deviceId: 'fan-1', label: '=HYPERLINK("x")' }));
  expect(cutListCsv(build, netlist(build))).toContain(`"'=HYPERLINK(""x"") · 1"`);
});
test('figures as people read them', () => {
  expect([0.144, 12.34, 860, 4700, 2.5e6, null].map(formatOhms)).toEqual([
    '0.14 Ω',
    '12.3 Ω',
    '860 Ω',
    '4.7 kΩ',
    '2.5 MΩ',
    'open line',
  ]);
  expect([0, 0.013, 4.987, -0.1].map(formatVolts)).toEqual(['0 V', '13 mV', '4.99 V', '-100 mV']);
  expect([0.02, 1.1, 16].map(formatAmps)).toEqual(['20 mA', '1.1 A', '16.0 A']);
  expect([listWords([]), listWords(['a']), listWords(['a', 'b', 'c'])]).toEqual(['', 'a', 'a, b and c']);
  expect([plural(1, 'wire'), plural(2, 'wire'), plural(2, 'cavity', 'cavities')]).toEqual([
    '1 wire',
    '2 wires',
    '2 cavities',
  ]);
});
test('names within a sentence keep their abbreviations and units', () => {
  expect(inSentence('Crank sensor, VR two-wire')).toBe('crank sensor, VR two-wire');
  expect(inSentence('Fuel pump, 12 A')).toBe('fuel pump, 12 A');
  expect(inSentence('ECU ground')).toBe('ECU ground');
});
test('angles wrap', () => {
  expect([wrapDegrees(-10, 720), wrapDegrees(730, 720), wrapDegrees(720, 720)]).toEqual([710, 10, 0]);
  expect([wrapSigned(350, 360), wrapSigned(180, 360), wrapSigned(-190, 360)]).toEqual([-10, 180, 170]);
});
test('units there and back', () => {
  expect(psiToKpa(kpaToPsi(101.325))).toBeCloseTo(101.325, 9);
  expect(kpaToBar(250)).toBe(2.5);
  expect(celsiusToFahrenheit(-40)).toBe(-40);
  expect(feetToMetres(1000)).toBeCloseTo(304.8, 9);
});
test('groups keep the order of appearance', () => {
  expect([...groupBy(['b1', 'a1', 'b2'], (text) => text[0])]).toEqual([
    ['b', ['b1', 'b2']],
    ['a', ['a1']],
  ]);
});

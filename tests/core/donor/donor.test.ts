import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { allWires, countWires, filterWires, sortWires, splitSplices } from '~/core/donor/sort';
import {
  delimiterWord,
  donorCsv,
  donorTsv,
  fieldHeadings,
  readTable,
  tableFields,
  wiresFrom,
} from '~/core/donor/table';
import { colourLetters, writingOf } from '~/core/donor/colours';
import { isRestraint, type DonorWire } from '~/core/donor/wire';
import { sizeSquareMm } from '~/core/wire/size';
import { donorWire } from '../../helpers';

const table = (text: string) => {
  const result = readTable(text);
  if (!result.ok) throw new Error(result.problem.sentence);
  return result.value;
};
const read = (text: string, existing: DonorWire[] = []) => {
  const raw = table(text);
  return wiresFrom(raw, raw.uses, existing);
};
const strip = ({ id: _, row: __, ...rest }: DonorWire) => rest;

describe('a table comes in', () => {
  test.each([
    ['tabs', 'connector\tcavity\tcolour\nF1\t1\tGN', 'tabs'],
    ['semicolons', 'Plug;Pin;Wire colour\nF1;1;GN', 'semicolons'],
    ['commas', 'conn,cav,colour\nF1,1,GN', 'commas'],
    ['bars', 'plug|way|colour\nF1|1|GN', 'bars'],
  ])('by %s, headings as people write them', (_, text, words) => {
    const raw = table(text);
    expect(delimiterWord(raw.delimiter)).toBe(words);
    expect(raw.uses.slice(0, 3)).toEqual(['connector', 'cavity', 'colour']);
    expect(read(text).wires[0]).toMatchObject({ connector: 'F1', cavity: '1', colour: 'GN' });
  });
  test('without a heading the columns are taken in order, and the first line is a wire', () => {
    const raw = table('F1\t1\tGN/YE\t0.75\tCoolant\nF1\t2\tBN\t0.75\tReturn');
    expect(raw.hasHeading).toBe(false);
    expect(wiresFrom(raw, raw.uses).wires).toHaveLength(2);
  });
  test('a heading that is not known is kept under its own name', () => {
    expect(read('connector\tcavity\tstrip\nF1\t1\t7').wires[0].extra).toEqual({ strip: '7' });
  });
  test('a byte order mark and Windows line ends do no harm', () => {
    expect(read('\uFEFFconnector\tcavity\r\nF1\t1\r\n').wires).toHaveLength(1);
  });
});

describe('bad input is named by its line, nothing is lost', () => {
  const sentences = (text: string, existing: DonorWire[] = []) =>
    read(text, existing).issues.map((issue) => issue.sentence);
  test('ragged lines', () => {
    const text = 'connector\tcavity\tcolour\nF1\t1\nF1\t2\tGN\textra';
    expect(sentences(text)).toEqual([
      'Line 2: it has 2 of 3 cells; the rest is taken as empty.',
      'Line 3: it has 4 cells, the heading has 3; the rest is kept as its own column.',
    ]);
    expect(read(text).wires[1].extra).toEqual({ 'column 4': 'extra' });
  });
  test('a cavity listed twice, in the table or in what is there', () => {
    expect(sentences('connector\tcavity\nF1\t1\nf1 \t1')[0]).toMatch(
      /Line 3: f1 cavity 1 is listed already \(line 2\)/,
    );
    expect(sentences('connector\tcavity\nF1\t1', [donorWire({ id: 'w' })])[0]).toMatch(/row 1 of the list/);
  });
  test('a word that is no decision, a size nobody understands, a cell too long', () => {
    const found = read(
      `connector\tcavity\tsize\tdecision\nF1\t1\tthin\tperhaps\nF1\t2\t0,75\tre-pin\nF1\t3\t1\t${'x'.repeat(300)}`,
    );
    expect(found.issues.map((issue) => [issue.line, issue.severity])).toEqual([
      [2, 'stop'],
      [2, 'note'],
      [4, 'stop'],
    ]);
    expect(found.wires[1]).toMatchObject({ size: '0,75', decision: 'move' });
  });
  test('a quotation mark that is never closed', () => {
    const result = readTable('connector\tcavity\nF1\t"1\nF1\t2');
    expect(!result.ok && result.problem.sentence).toMatch(/^Line \d+: a quotation mark is opened/);
  });
  test('nothing, and far too much', () => {
    const empty = readTable(' \n\n');
    expect(!empty.ok && empty.problem.code).toBe('empty');
    expect(read(`connector\tcavity\n${'F1\t1\n'.repeat(2001)}`).issues[0].sentence).toMatch(/2000 is the most/);
  });
  test('a restraint wire loses its decision, and says so', () => {
    const found = read('connector\tcavity\tfunction\tdecision\nY1\t1\tAirbag left\tremove');
    expect(found.wires[0].decision).toBe('open');
    expect(found.issues[0].sentence).toMatch(/restraint wire carries a decision/);
  });
});

const cell = fc.stringMatching(/^[A-Za-z0-9+=/ "',;-]{0,12}$/).map((text) => text.trim());
const anyWire = fc
  .record({
    connector: cell,
    cavity: cell,
    colour: cell,
    size: cell,
    function: cell,
    condition: cell,
    splice: cell,
    moveTo: cell,
    note: cell,
    decision: fc.constantFrom('open', 'keep', 'move', 'mystery' as const),
    group: fc.constantFrom('none', 'engine', 'body' as const),
  })
  .filter(
    (wire) => !isRestraint({ ...wire, restraint: false }) && wire.connector !== '' && !wire.connector.startsWith("'"),
  );

describe('property: nothing a person typed is lost', () => {
  const anyCell = fc.stringMatching(/^[A-Za-z0-9 /+.-]{0,24}$/).map((text) => text.trim());
  const anyHeading = fc.constantFrom(
    'connector',
    'cavity',
    'wire colour',
    'size',
    'description',
    'decision',
    'side',
    'note',
    'page',
    'my own',
  );
  const anyTable = fc.record({
    headings: fc.uniqueArray(anyHeading, { minLength: 2, maxLength: 8 }),
    rows: fc.array(fc.array(anyCell, { minLength: 0, maxLength: 10 }), { minLength: 1, maxLength: 8 }),
    sign: fc.constantFrom('\t', ';', '|'),
  });
  test('every cell is in a wire, or its line is named', () => {
    fc.assert(
      fc.property(anyTable, ({ headings, rows, sign }) => {
        const text = [headings, ...rows].map((row) => row.join(sign)).join('\n');
        const result = readTable(text);
        if (!result.ok) return;
        const { wires, issues } = wiresFrom(result.value, result.value.uses);
        const stopped = new Set(issues.filter((issue) => issue.severity === 'stop').map((issue) => issue.line));
        result.value.rows.forEach(({ line, cells }, index) => {
          if (stopped.has(line)) return;
          const wire = wires[index];
          const decision = wire.decision === 'open' ? [] : ['keep', 'extend', 'move', 'remove', 'unknown'];
          const kept = [
            ...Object.values(wire).filter((value) => typeof value === 'string'),
            ...Object.values(wire.extra),
            ...decision,
          ];
          for (const [column, cell] of cells.entries()) {
            if (cell === '') continue;
            const use = result.value.uses[column];
            // Words of a decision or a side become that decision or side.
            if (use === 'decision' || use === 'group') continue;
            expect(kept).toContain(cell);
          }
        });
        expect(wires).toHaveLength(result.value.rows.length);
      }),
      { numRuns: 300 },
    );
  });
  test('any text at all is read or refused in a sentence, never thrown', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 300, unit: 'grapheme' }), (text) => {
        const result = readTable(text);
        if (!result.ok) return /\.$/.test(result.problem.sentence);
        return wiresFrom(result.value, result.value.uses).wires.length === result.value.rows.length;
      }),
      { numRuns: 500 },
    );
  });
  test('any use of the columns is taken without a throw', () => {
    fc.assert(
      fc.property(
        anyTable,
        fc.array(fc.constantFrom(...tableFields, 'keep', 'skip'), { minLength: 10, maxLength: 10 }),
        ({ headings, rows, sign }, uses) => {
          const result = readTable([headings, ...rows].map((row) => row.join(sign)).join('\n'));
          if (!result.ok) return true;
          return (
            wiresFrom(result.value, uses.slice(0, result.value.headings.length)).wires.length ===
            result.value.rows.length
          );
        },
      ),
    );
  });
});

describe('a table goes out', () => {
  test('property: copied and pasted it is what it was', () => {
    fc.assert(
      fc.property(fc.array(anyWire, { minLength: 1, maxLength: 12 }), (parts) => {
        const wires = parts.map((part, index) =>
          donorWire({ ...part, id: `w${index}`, row: index } as Partial<DonorWire> & { id: string }),
        );
        // A leading apostrophe is a spreadsheet's own sign and cannot be told from one; such cells are left out here.
        if (wires.some((wire) => tableFields.some((field) => /^'/.test(String(wire[field]))))) return;
        for (const text of [donorTsv(wires), donorCsv(wires)])
          expect(read(text).wires.map(strip)).toEqual(wires.map(strip));
      }),
    );
  });
  test('columns people brought along come behind Gonyx’ own', () => {
    const text = donorTsv([
      donorWire({ id: 'a', extra: { strip: '7' } }),
      donorWire({ id: 'b', row: 1, extra: { page: '2' } }),
    ]);
    expect(text.split('\n')[0]).toBe([...tableFields.map((field) => fieldHeadings[field]), 'strip', 'page'].join('\t'));
    expect(text.split('\n')[1]).toMatch(/\t7\t$/);
  });
  test('a cell that a spreadsheet would run is made harmless, and read back plain', () => {
    const wire = donorWire({ id: 'a', function: '+5 V to sensors', note: '=SUM(A1)' });
    expect(donorCsv([wire])).toContain("'+5 V to sensors");
    expect(read(donorTsv([wire])).wires[0]).toMatchObject({ function: '+5 V to sensors', note: '=SUM(A1)' });
  });
});

describe('sorting by side', () => {
  const wires = [
    donorWire({ id: 'a', connector: 'F10', cavity: '10', splice: 'S1', decision: 'keep', group: 'engine' }),
    donorWire({ id: 'b', row: 1, connector: 'F2', cavity: '9', decision: 'remove' }),
    donorWire({ id: 'c', row: 2, connector: 'F2', cavity: '10', splice: 's1', decision: 'remove' }),
    donorWire({ id: 'd', row: 3, connector: 'Y1', cavity: '1', function: 'Airbag' }),
  ];
  test('in natural order, wires of one splice together', () => {
    expect(sortWires(wires, 'connector').map((wire) => wire.id)).toEqual(
      ['b', 'a', 'c', 'd'].sort((x, y) => 'bcad'.indexOf(x) - 'bcad'.indexOf(y)),
    );
    expect(sortWires(wires, 'row', 'descending').map((wire) => wire.id)).toEqual(['d', 'c', 'a', 'b']);
  });
  test('type to filter: every word, anywhere', () => {
    expect(filterWires(wires, { ...allWires, text: 'f2 10' }).map((wire) => wire.id)).toEqual(['c']);
    expect(filterWires(wires, { ...allWires, text: 'engine side' }).map((wire) => wire.id)).toEqual(['a']);
    expect(filterWires(wires, { ...allWires, decision: 'remove', group: 'none' })).toHaveLength(2);
  });
  test('counts, with the locked ones apart', () => {
    expect(countWires(wires)).toMatchObject({
      total: 4,
      open: 0,
      restraint: 1,
      byDecision: { keep: 1, remove: 2, open: 1 },
    });
  });
  test('a splice whose wires part is found', () => {
    expect(splitSplices(wires)).toMatchObject([{ splice: 'S1', stay: [{ id: 'a' }], go: [{ id: 'c' }] }]);
  });
});

describe('what is written on a wire', () => {
  test.each([
    ['GN/YE', 'GN/YE'],
    ['green-yellow', 'GN/YE'],
    ['light blue', 'BU'],
    ['Purple with white', 'VT/WH'],
    ['R W', 'RD/WH'],
    ['B', null],
    ['greenish', null],
    ['', null],
    ['red/white/blue', null],
  ])('colour %j is %j', (text, letters) => expect(colourLetters(text)).toBe(letters));
  test.each([
    ['english', 'B/W', 'BK/WH'],
    ['english', 'G/R', 'GN/RD'],
    ['english', 'Y/L', 'YE/BU'],
    ['english', 'L/Y', 'BU/YE'],
    ['english', 'Or', 'OG'],
    ['english', 'BY', 'BK/YE'],
    ['english', 'Br/W', 'BN/WH'],
    ['german', 'sw/ws', 'BK/WH'],
    ['german', 'bl', 'BU'],
    ['german', 'gn/ge', 'GN/YE'],
    ['german', 'B/W', null],
    ['iec', 'L/Y', null],
    ['iec', 'BU/YE', 'BU/YE'],
    ['iec', 'schwarz/weiß', 'BK/WH'],
    ['english', 'constructor', null],
  ] as const)('in %s letters %j is %j', (writing, text, letters) => expect(colourLetters(text, writing)).toBe(letters));
  test('the family is known by what occurs in the list', () => {
    expect(writingOf(['B/W', 'G/R', 'Y/L', 'L/Y', 'Or', 'W'])).toMatchObject({
      writing: 'english',
      understood: 6,
      of: 6,
    });
    expect(writingOf(['sw', 'sw/ws', 'bl/ge', 'rt', 'gn'])).toMatchObject({ writing: 'german', understood: 5 });
    expect(writingOf(['BK', 'GN/YE', 'BU', 'RD/WH', 'brown'])).toMatchObject({ writing: 'iec', understood: 4, of: 4 });
    expect(writingOf([])).toMatchObject({ writing: 'iec', of: 0 });
  });
  test.each([
    ['0.75', 0.75],
    ['0,5 mm²', 0.5],
    ['1.5mm2', 1.5],
    ['20 AWG', 0.518],
    ['awg 18', 0.823],
    ['0', null],
    ['-1', null],
    ['thin', null],
  ])('size %j is %j mm²', (text, square) => {
    const found = sizeSquareMm(text);
    if (square === null) expect(found).toBeNull();
    else expect(found).toBeCloseTo(square, 3);
  });
  test.each([
    ['Airbag squib left', true],
    ['SRS warning', true],
    ['Belt pre-tensioner', true],
    ['Clock spring 3', true],
    ['Airbox temperature', false],
    ['Crash bar light', false],
    ['Bag of plugs', false],
  ])('%j is locked: %j', (text, locked) => expect(isRestraint(donorWire({ id: 'w', function: text }))).toBe(locked));
});

test('a list of 200,000 lines is read, not stumbled over', () => {
  const { headings } = table(`from\tto\n${'B1\tB2\n'.repeat(200_000)}`);
  expect(headings).toHaveLength(2);
});

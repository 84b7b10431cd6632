import { readFileSync } from 'node:fs';
import { describe, expect, test } from '@jest/globals';
import DxfParser from 'dxf-parser';
import { PDFDocument } from 'pdf-lib';
import { boardDxf } from '~/core/formats/board-dxf';
import { boardPdf, papers, tileName, tilingOf, type Paper } from '~/core/formats/board-pdf';
import { boardSvg } from '~/core/formats/board-svg';
import type { Build } from '~/core/build/schema';
import { call } from '~/core/edits';
import { drawnMillimetres, layBoard, type Board } from '~/core/loom/board';
import { boardProblems } from '~/core/loom/board-shapes';
import { netlist } from '~/core/netlist/netlist';
import { demoBuilds } from '~/demo';
import { pellworth } from '~/demo/pellworth';
import { edited } from '../../helpers';

const SIZE = { width: 2400, height: 1200 };
const treed = demoBuilds().map((build) =>
  Object.keys(build.tree.nodes).length > 0
    ? build
    : edited(build, call('proposeTree', { vehicle: 'car', engine: 'front' })),
);
const laid = (build: Build, size = SIZE) => layBoard(build, netlist(build), size);
const estate = pellworth();

/** Straight parts of a board, each with its piece. */
const partsOf = (board: Board) =>
  board.lines.flatMap(({ segment, points }) =>
    points.slice(1).map((to, i) => ({ segment, from: points[i]!, to, level: points[i]!.y === to.y })),
  );
/** Two pieces that cross: one level, one upright, each well within the other. */
function crossings(board: Board): string[] {
  const parts = partsOf(board);
  const within = (value: number, one: number, other: number) =>
    value > Math.min(one, other) + 1 && value < Math.max(one, other) - 1;
  return parts.flatMap((one) =>
    parts.flatMap((other) =>
      one.level &&
      !other.level &&
      one.segment !== other.segment &&
      within(other.from.x, one.from.x, one.to.x) &&
      within(one.from.y, other.from.y, other.to.y)
        ? [`${one.segment} x ${other.segment}`]
        : [],
    ),
  );
}

describe.each(treed.map((build) => [build.name, build] as const))('%s on its board', (_, build) => {
  const board = laid(build);
  test('has every piece once, as long as it is to a tenth of a millimetre, and nothing crosses', () => {
    expect(board.lines.map(({ segment }) => segment).sort()).toEqual(Object.keys(build.tree.segments).sort());
    for (const line of board.lines)
      expect(Math.abs(drawnMillimetres(line) - 1000 * build.tree.segments[line.segment]!.metres)).toBeLessThan(0.1);
    expect(crossings(board)).toEqual([]);
    expect(board.problems).toEqual([]);
    for (const { points } of board.lines)
      for (const { x, y } of points) {
        expect(x).toBeGreaterThanOrEqual(0);
        expect(x).toBeLessThanOrEqual(SIZE.width);
        expect(y).toBeGreaterThanOrEqual(0);
        expect(y).toBeLessThanOrEqual(SIZE.height);
      }
  });
  test('pieces that lie along each other keep a hand’s breadth of wire between them', () => {
    const levels = partsOf(board).filter(({ level }) => level);
    for (const one of levels)
      for (const other of levels) {
        if (one.segment >= other.segment || one.from.y === other.from.y) continue;
        const beside =
          Math.min(Math.max(one.from.x, one.to.x), Math.max(other.from.x, other.to.x)) -
          Math.max(Math.min(one.from.x, one.to.x), Math.min(other.from.x, other.to.x));
        if (beside > 1) expect(Math.abs(one.from.y - other.from.y)).toBeGreaterThan(10);
      }
  });
  test('the DXF, read back by another program, has the lengths of the tree', () => {
    const read = new DxfParser().parseSync(boardDxf(build, board))!;
    const lines = read.entities.filter(({ type, layer }) => type === 'LWPOLYLINE' && layer === 'LOOM') as unknown as {
      vertices: { x: number; y: number }[];
    }[];
    const lengths = lines
      .map(({ vertices }) =>
        vertices.slice(1).reduce((sum, to, i) => sum + Math.hypot(to.x - vertices[i]!.x, to.y - vertices[i]!.y), 0),
      )
      .sort((one, other) => one - other);
    const wanted = Object.values(build.tree.segments)
      .map(({ metres }) => metres * 1000)
      .sort((one, other) => one - other);
    expect(lengths).toHaveLength(wanted.length);
    lengths.forEach((length, i) => expect(Math.abs(length - wanted[i]!)).toBeLessThan(0.1));
    // Millimetres (DXF reference, $INSUNITS 4).
    expect(read.header.$INSUNITS).toBe(4);
  });
  test('the SVG is as large as the board, a unit a millimetre, and has the same lines', () => {
    const svg = boardSvg(build, board);
    expect(svg).toContain(
      `width="${SIZE.width}mm" height="${SIZE.height}mm" viewBox="0 0 ${SIZE.width} ${SIZE.height}"`,
    );
    const lines = [...svg.matchAll(/data-piece="([^"]+)" points="([^"]+)"/g)];
    expect(lines.map(([, id]) => id).sort()).toEqual(Object.keys(build.tree.segments).sort());
    for (const [, id, points] of lines) {
      const at = points!.split(' ').map((pair) => pair.split(',').map(Number) as [number, number]);
      const length = at.slice(1).reduce((sum, [x, y], i) => sum + Math.hypot(x - at[i]![0], y - at[i]![1]), 0);
      expect(Math.abs(length - 1000 * build.tree.segments[id!]!.metres)).toBeLessThan(0.1);
    }
  });
});

const fonts = {
  files: ['b612/files/b612-latin-400-normal.woff', 'fira-sans/files/fira-sans-greek-400-normal.woff'].map(
    (file) => new Uint8Array(readFileSync(`node_modules/@fontsource/${file}`)),
  ),
};
describe('sheets of the board', () => {
  const board = laid(estate);
  test.each(Object.keys(papers) as Paper[])(
    '%s: every part of the loom is on a sheet, and neighbours share a strip',
    (paper) => {
      const { columns, rows, wide, high, stepX, stepY } = tilingOf(board, paper);
      expect(wide - stepX).toBeCloseTo(10, 9);
      expect(high - stepY).toBeCloseTo(10, 9);
      expect((columns - 1) * stepX + wide).toBeGreaterThanOrEqual(board.used.width);
      expect((rows - 1) * stepY + high).toBeGreaterThanOrEqual(board.used.height);
      // No more of them than it takes.
      expect((columns - 2) * stepX + wide).toBeLessThan(board.used.width);
      expect((rows - 2) * stepY + high).toBeLessThan(board.used.height);
    },
  );
  test('pages have the size of the paper; empty ones are left out', async () => {
    const read = await PDFDocument.load(await boardPdf(estate, board, 'A3', fonts));
    const { columns, rows, paper } = tilingOf(board, 'A3');
    const pages = read.getPages();
    expect(pages.length).toBeGreaterThan(3);
    expect(pages.length).toBeLessThanOrEqual(1 + columns * rows);
    // 72 points an inch (ISO 32000).
    for (const page of pages) {
      expect(page.getWidth()).toBeCloseTo((paper[0] * 72) / 25.4, 6);
      expect(page.getHeight()).toBeCloseTo((paper[1] * 72) / 25.4, 6);
    }
    expect(read.getTitle()).toContain(estate.name);
  }, 30_000);
  test('sheets are named by row and column', () => {
    expect([tileName(0, 0), tileName(2, 11), tileName(26, 0)]).toEqual(['A1', 'C12', 'A11']);
  });
});

describe('what does not fit, or hangs nowhere, is named', () => {
  test('a board too small: the size it takes, and all of it is drawn', () => {
    const board = laid(estate, { width: 700, height: 500 });
    const [problem] = board.problems;
    expect(problem).toMatchObject({ code: 'too-small' });
    expect(boardProblems(estate, board)[0]).toMatch(/too small: the loom takes \d+\.\d\d m by \d+\.\d\d m/);
    expect(board.lines).toHaveLength(Object.keys(estate.tree.segments).length);
  });
  test('a ring lies open, a piece apart is left out', () => {
    const ring = edited(estate, call('joinTreeNodes', { a: 'rear', b: 'battery', metres: 1 }));
    const open = laid(ring);
    expect(open.problems).toEqual([{ code: 'ring', segment: expect.stringMatching(/rear/) }]);
    expect(open.lines).toHaveLength(Object.keys(ring.tree.segments).length - 1);
    const apart = edited(estate, call('removeSegment', { segment: 'rear' }));
    expect(laid(apart).problems).toEqual([{ code: 'in-pieces', places: 1 }]);
  });
  test('nothing of an empty tree', () => {
    expect(laid(edited(estate, call('clearTree', {}))).lines).toEqual([]);
  });
});

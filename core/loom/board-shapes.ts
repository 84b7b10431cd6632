import type { Build } from '../build/schema';
import { readLength } from '../units/workshop';
import { shortSize } from '../wire/size';
import { COLUMN_ROWS, TABLE_WIDTH, type Board, type BoardPoint } from './board';
import { segmentName } from './names';

export const boardLayers = ['BOARD', 'LOOM', 'PLACES', 'TICKS', 'NAMES', 'TABLES'] as const;
export type BoardLayer = (typeof boardLayers)[number];

/** What a board is drawn with, mm, y downwards: what an SVG, a DXF and the pages of a PDF have in common. */
export type Shape =
  | {
      readonly is: 'line';
      readonly layer: BoardLayer;
      readonly points: readonly BoardPoint[];
      readonly thick: number;
      readonly id?: string;
    }
  | { readonly is: 'circle'; readonly layer: BoardLayer; readonly at: BoardPoint; readonly radius: number }
  | {
      readonly is: 'text';
      readonly layer: BoardLayer;
      /** Left end of its base line. */
      readonly at: BoardPoint;
      readonly size: number;
      readonly text: string;
    };

const HAIR = 0.3;
const NAME = 4.2;
const ROW = 5;
const ROW_TEXT = 2.7;
const TICK_HALF = 2;
const LONG_TICK_HALF = 4;
const NUMBERED = 500;
const DOT = 3;

/** Everything that is drawn of a board, in order. */
export function boardShapes(build: Build, board: Board): Shape[] {
  const { width, height } = board;
  const frame: Shape = {
    is: 'line',
    layer: 'BOARD',
    thick: HAIR,
    points: [
      { x: 0, y: 0 },
      { x: width, y: 0 },
      { x: width, y: height },
      { x: 0, y: height },
      { x: 0, y: 0 },
    ],
  };
  const loom = board.lines.map(({ segment, points, thick }): Shape => ({
    is: 'line',
    layer: 'LOOM',
    points,
    thick: Math.max(1, thick),
    id: segment,
  }));
  const lengths = board.lines.flatMap(({ segment, points }): Shape[] => {
    // Where it is led along longest its length is written over it.
    let [at, most]: [BoardPoint | null, number] = [null, 0];
    for (let i = 1; i < points.length; i += 1) {
      const [from, to] = [points[i - 1]!, points[i]!];
      const along = from.y === to.y ? Math.abs(to.x - from.x) : 0;
      if (along > most) [at, most] = [{ x: (from.x + to.x) / 2 - 8, y: from.y - 5 }, along];
    }
    const piece = build.tree.segments[segment]!;
    return at === null
      ? []
      : [
          {
            is: 'text',
            layer: 'NAMES',
            at,
            size: ROW_TEXT,
            text: `${readLength(piece.metres, build)}${piece.measured ? '' : ' drawn'}`,
          },
        ];
  });
  const ticks = board.ticks.flatMap(({ at, across, millimetres }): Shape[] => {
    const isNumbered = millimetres % NUMBERED === 0;
    const half = isNumbered ? LONG_TICK_HALF : TICK_HALF;
    const [dx, dy] = across === 'y' ? [0, half] : [half, 0];
    const line: Shape = {
      is: 'line',
      layer: 'TICKS',
      thick: HAIR,
      points: [
        { x: at.x - dx, y: at.y - dy },
        { x: at.x + dx, y: at.y + dy },
      ],
    };
    if (!isNumbered) return [line];
    const text: Shape = {
      is: 'text',
      layer: 'TICKS',
      at: { x: at.x + 1, y: at.y + LONG_TICK_HALF + 3 },
      size: 2.2,
      text: `${millimetres} mm`,
    };
    return [line, text];
  });
  const places = board.places.flatMap(({ at, name, rows, table }): Shape[] => {
    const dot: Shape = { is: 'circle', layer: 'PLACES', at, radius: DOT };
    if (rows.length === 0) return [dot];
    const top = table?.y ?? at.y - (rows.length * ROW) / 2;
    const left = table?.x ?? at.x + 6;
    const named = (where: BoardPoint): Shape => ({ is: 'text', layer: 'NAMES', at: where, size: NAME, text: name });
    return [
      dot,
      named({ x: left, y: top - 1 }),
      ...(table === null ? [] : [named({ x: at.x + 4, y: at.y - 7 })]),
      ...rows.map((row, i): Shape => {
        const column = table === null ? 0 : Math.floor(i / COLUMN_ROWS);
        return {
          is: 'text',
          layer: 'TABLES',
          at: { x: left + column * TABLE_WIDTH, y: top + (i - column * COLUMN_ROWS + 0.8) * ROW },
          size: ROW_TEXT,
          text: cut(`${row.at}  ${row.colour} ${shortSize(row.squareMm, build)}  ${row.to}`),
        };
      }),
    ];
  });
  return [frame, ...loom, ...ticks, ...lengths, ...places];
}
/** Letters of a row that a table has room for. */
const MOST_LETTERS = Math.floor((TABLE_WIDTH - 8) / (ROW_TEXT * 0.56));
const cut = (text: string): string => (text.length <= MOST_LETTERS ? text : `${text.slice(0, MOST_LETTERS - 1)}…`);

/** What is wrong with a board, in a sentence that names the place. */
export function boardProblems(build: Build, board: Board): string[] {
  const size = (millimetres: number) => readLength(millimetres / 1000, build);
  return board.problems.map((problem) => {
    switch (problem.code) {
      case 'too-small':
        return `The board is too small: the loom takes ${size(problem.width)} by ${size(problem.height)}. It is drawn that large.`;
      case 'crowded':
        return `From ${segmentName(build, problem.segment)} it is too short to be led clear of what lies beside it.`;
      case 'in-pieces':
        return `${problem.places === 1 ? 'One place is' : `${problem.places} places are`} not joined to the ECU and not on the board.`;
      case 'ring':
        return `From ${segmentName(build, problem.segment)} a ring is closed: on the board it lies open, and that piece is left out.`;
    }
  });
}

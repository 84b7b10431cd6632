import fontkit from '@pdf-lib/fontkit';
import { PDFDocument, rgb, type PDFFont, type PDFPage } from 'pdf-lib';
import type { Build } from '../build/schema';
import type { Board } from '../loom/board';
import { boardShapes, type Shape } from '../loom/board-shapes';

/** Pages that a board is cut into, mm (ISO 216; ANSI/ASME Y14.1 for Letter). */
export const papers = { A4: [210, 297], A3: [297, 420], Letter: [215.9, 279.4] } as const;
export type Paper = keyof typeof papers;

/** A point of a PDF is 1/72 inch (ISO 32000). */
const POINTS_PER_MM = 72 / 25.4;
/** What a printer leaves white, and what neighbouring sheets share, mm (common practice). */
const BORDER = 10;
const OVERLAP = 10;
const MARK = 4;
const SMALL = 8;
const LARGE = 14;
/** Room for what is said above the overview, mm. */
const HEAD = 24;

export interface Tiling {
  readonly columns: number;
  readonly rows: number;
  /** What of the board a sheet shows, mm. */
  readonly wide: number;
  readonly high: number;
  /** From one sheet's left edge, or top, to the next one's, mm. */
  readonly stepX: number;
  readonly stepY: number;
  readonly paper: readonly [number, number];
}

/** Sheets laid across the way round that takes fewer. */
export function tilingOf({ used }: Pick<Board, 'used'>, paper: Paper): Tiling {
  const [short, long] = papers[paper];
  const of = (size: readonly [number, number]): Tiling => {
    const [wide, high] = [size[0] - 2 * BORDER, size[1] - 2 * BORDER];
    const [stepX, stepY] = [wide - OVERLAP, high - OVERLAP];
    return {
      columns: Math.max(1, Math.ceil((used.width - OVERLAP) / stepX)),
      rows: Math.max(1, Math.ceil((used.height - OVERLAP) / stepY)),
      wide,
      high,
      stepX,
      stepY,
      paper: size,
    };
  };
  const [upright, across] = [of([short, long]), of([long, short])];
  return across.columns * across.rows <= upright.columns * upright.rows ? across : upright;
}
/** `B3`: the row's letter, the column's number. */
export const tileName = (row: number, column: number): string =>
  `${String.fromCharCode(65 + (row % 26))}${row >= 26 ? Math.floor(row / 26) : ''}${column + 1}`;

export interface PdfFonts {
  /**
   * Font files that have the letters between them: what the first has not is written in the next. WOFF: of a WOFF2 file that is
   * embedded in part nothing is seen.
   */
  readonly files: readonly Uint8Array[];
}

/** Text in the first font that has each letter. */
class Writer {
  private readonly has: readonly ReadonlySet<number>[];
  constructor(private readonly fonts: readonly PDFFont[]) {
    this.has = fonts.map((font) => new Set(font.getCharacterSet()));
  }
  private fontOf(letter: string): number {
    const found = this.has.findIndex((set) => set.has(letter.codePointAt(0)!));
    return Math.max(0, found);
  }
  write(page: PDFPage, text: string, x: number, y: number, size: number): void {
    let at = x;
    let run = '';
    let font = 0;
    const flush = () => {
      if (run === '') return;
      const face = this.fonts[font]!;
      page.drawText(run, { x: at, y, size, font: face, color: INK });
      at += face.widthOfTextAtSize(run, size);
      run = '';
    };
    for (const letter of text) {
      const next = this.fontOf(letter);
      if (next !== font) {
        flush();
        font = next;
      }
      // A sign that no font has would stop the page.
      run += this.has[next]!.has(letter.codePointAt(0)!) ? letter : '?';
    }
    flush();
  }
}
const INK = rgb(0.13, 0.15, 0.17);
const LOOM = rgb(0.55, 0.52, 0.47);
const SOFT = rgb(0.6, 0.6, 0.6);

/** Draws shapes on a page: `x` and `y` turn millimetres of the board into points of the page. */
function draw(
  page: PDFPage,
  writer: Writer,
  shapes: readonly Shape[],
  scale: number,
  x: (mm: number) => number,
  y: (mm: number) => number,
): void {
  for (const shape of shapes)
    switch (shape.is) {
      case 'line':
        for (let i = 1; i < shape.points.length; i += 1) {
          const [from, to] = [shape.points[i - 1]!, shape.points[i]!];
          page.drawLine({
            start: { x: x(from.x), y: y(from.y) },
            end: { x: x(to.x), y: y(to.y) },
            thickness: shape.thick * scale,
            color: shape.layer === 'LOOM' ? LOOM : INK,
          });
        }
        break;
      case 'circle':
        page.drawCircle({
          x: x(shape.at.x),
          y: y(shape.at.y),
          size: shape.radius * scale,
          borderColor: INK,
          borderWidth: 0.6 * scale,
          color: rgb(1, 1, 1),
        });
        break;
      case 'text':
        writer.write(page, shape.text, x(shape.at.x), y(shape.at.y), shape.size * scale);
        break;
    }
}

/** Whether something of a shape lies within a box, give or take so much. */
function isWithin(shape: Shape, x0: number, y0: number, x1: number, y1: number, room: number): boolean {
  if (shape.is === 'text')
    return (
      shape.at.y > y0 - room &&
      shape.at.y - shape.size < y1 + room &&
      shape.at.x < x1 + room &&
      shape.at.x + shape.text.length * shape.size * LETTER_WIDTH > x0 - room
    );
  const points = shape.is === 'circle' ? [shape.at, shape.at] : shape.points;
  return points.slice(1).some((to, i) => {
    const from = points[i]!;
    return (
      Math.max(from.x, to.x) > x0 - room &&
      Math.min(from.x, to.x) < x1 + room &&
      Math.max(from.y, to.y) > y0 - room &&
      Math.min(from.y, to.y) < y1 + room
    );
  });
}
/** A letter is about so wide for its height. */
const LETTER_WIDTH = 0.6;
/** Thickness and letters that reach over a sheet's edge, mm. */
const OVER_EDGE = 12;

/**
 * The board in sheets at 1:1, after a page that shows how they are joined. Crosses stand at the corners of what neighbouring
 * sheets share: they are laid over each other.
 */
export async function boardPdf(build: Build, board: Board, paper: Paper, { files }: PdfFonts): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  pdf.registerFontkit(fontkit);
  pdf.setTitle(`${build.name}, loom at 1:1`);
  pdf.setCreator('Gonyx');
  pdf.setCreationDate(new Date(0));
  pdf.setModificationDate(new Date(0));
  const fonts: PDFFont[] = [];
  for (const file of files) fonts.push(await pdf.embedFont(file, { subset: true }));
  const writer = new Writer(fonts);
  const shapes = boardShapes(build, board).filter(({ layer }) => layer !== 'BOARD');
  const tiling = tilingOf(board, paper);
  const [pageWide, pageHigh] = tiling.paper.map((mm) => mm * POINTS_PER_MM) as [number, number];

  // The first page lies as the loom does.
  const [overWide, overHigh] = [...tiling.paper].sort((one, other) =>
    board.used.width > board.used.height ? other - one : one - other,
  ) as [number, number];
  const overview = pdf.addPage([overWide * POINTS_PER_MM, overHigh * POINTS_PER_MM]);
  const scale = Math.min(
    (overWide - 2 * BORDER) / board.used.width,
    (overHigh - 2 * BORDER - HEAD) / board.used.height,
  );
  const ox = (mm: number) => (BORDER + mm * scale) * POINTS_PER_MM;
  const oy = (mm: number) => (overHigh - BORDER - HEAD - mm * scale) * POINTS_PER_MM;
  const head = [
    `${build.name}, loom at 1:1`,
    `${tiling.columns} sheets of ${paper} across and ${tiling.rows} down; those with nothing on them are left out.`,
    'Print at 100 % and lay the crosses over each other; the line at the foot of each sheet is 100 mm long.',
  ];
  head.forEach((line, i) =>
    writer.write(
      overview,
      line,
      BORDER * POINTS_PER_MM,
      (overHigh - BORDER - 5 - 6 * i) * POINTS_PER_MM,
      i === 0 ? LARGE : SMALL,
    ),
  );
  draw(overview, writer, shapes, scale * POINTS_PER_MM, ox, oy);
  for (let row = 0; row < tiling.rows; row += 1)
    for (let column = 0; column < tiling.columns; column += 1) {
      const [x0, y0] = [column * tiling.stepX, row * tiling.stepY];
      overview.drawRectangle({
        x: ox(x0),
        y: oy(y0 + tiling.high),
        width: tiling.wide * scale * POINTS_PER_MM,
        height: tiling.high * scale * POINTS_PER_MM,
        borderColor: SOFT,
        borderWidth: 0.5,
      });
      writer.write(overview, tileName(row, column), ox(x0 + 6), oy(y0 + 6) - 10, 9);
    }

  for (let row = 0; row < tiling.rows; row += 1)
    for (let column = 0; column < tiling.columns; column += 1) {
      const [x0, y0] = [column * tiling.stepX, row * tiling.stepY];
      const px = (mm: number) => (BORDER + mm - x0) * POINTS_PER_MM;
      const py = (mm: number) => pageHigh - (BORDER + mm - y0) * POINTS_PER_MM;
      const on = (room: number) => (shape: Shape) => isWithin(shape, x0, y0, x0 + tiling.wide, y0 + tiling.high, room);
      // A sheet with nothing on it is not printed.
      if (!shapes.some(on(0))) continue;
      const page = pdf.addPage([pageWide, pageHigh]);
      draw(page, writer, shapes.filter(on(OVER_EDGE)), POINTS_PER_MM, px, py);
      // What runs beyond the sheet's own part is covered, so that a printer's white edge cuts nothing.
      const white = rgb(1, 1, 1);
      const edge = BORDER * POINTS_PER_MM;
      for (const [x, y, width, height] of [
        [0, 0, pageWide, edge],
        [0, pageHigh - edge, pageWide, edge],
        [0, 0, edge, pageHigh],
        [pageWide - edge, 0, edge, pageHigh],
      ] as const)
        page.drawRectangle({ x, y, width, height, color: white });
      for (const mx of [x0 + OVERLAP / 2, x0 + tiling.wide - OVERLAP / 2])
        for (const my of [y0 + OVERLAP / 2, y0 + tiling.high - OVERLAP / 2]) {
          page.drawLine({
            start: { x: px(mx - MARK), y: py(my) },
            end: { x: px(mx + MARK), y: py(my) },
            thickness: 0.5,
            color: INK,
          });
          page.drawLine({
            start: { x: px(mx), y: py(my - MARK) },
            end: { x: px(mx), y: py(my + MARK) },
            thickness: 0.5,
            color: INK,
          });
        }
      const foot = 4 * POINTS_PER_MM;
      writer.write(page, `${tileName(row, column)}  ${build.name}`, edge, foot, SMALL);
      const ruler = pageWide - edge - 100 * POINTS_PER_MM;
      page.drawLine({
        start: { x: ruler, y: foot },
        end: { x: ruler + 100 * POINTS_PER_MM, y: foot },
        thickness: 0.8,
        color: INK,
      });
      writer.write(page, '100 mm', ruler - 40, foot - 2, SMALL);
    }
  return pdf.save();
}

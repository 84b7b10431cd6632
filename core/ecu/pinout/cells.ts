import Papa from 'papaparse';

/** One line of the text, cut into cells. */
export interface Line {
  /** From 1, as an editor counts. */
  readonly line: number;
  readonly cells: readonly string[];
  readonly text: string;
}

/** How the columns of a text are parted. */
export type Delimiter = '\t' | '|' | ';' | ',' | 'spaces' | 'single';

const words = (cell: string): string =>
  cell
    .replace(/^["']|["']$/g, '')
    .replace(/\u00a0/g, ' ')
    .trim();

/** The sign that parts most lines into at least two cells; tabs and bars are believed before commas and spaces. */
export function delimiterOf(lines: readonly string[]): Delimiter {
  const full = lines.filter((line) => line.trim() !== '');
  const share = (test: (line: string) => boolean) => full.filter(test).length / Math.max(1, full.length);
  if (share((line) => line.includes('\t')) >= 0.3) return '\t';
  if (share((line) => line.includes('|')) >= 0.3) return '|';
  if (share((line) => line.split(';').length > 1) >= 0.6) return ';';
  if (share((line) => /\S {2,}\S/.test(line)) >= 0.4) return 'spaces';
  // Commas part cells only where lines agree on how many there are; a list of functions has them within a cell.
  const commas = full.map((line) => Papa.parse<string[]>(line).data[0]?.length ?? 1);
  const usual = [...commas].sort((a, b) => a - b)[Math.floor(commas.length / 2)] ?? 1;
  if (usual >= 2 && commas.filter((count) => count === usual).length / Math.max(1, commas.length) >= 0.6) return ',';
  return 'single';
}

/** A cavity at the head of a line, the sign after it, and the rest: `A12: Injector 3`, `12) Coil 1`, `A1-A4 Injectors`. */
const heading =
  /^((?:pin|cav(?:ity)?|pos(?:ition)?|terminal|no\.?|#)?\s*[A-Z]{0,3}\d{0,2}[-. ]?\d{1,3}(?:\s*(?:-|–|\.\.|to)\s*[A-Z]{0,3}\d{0,2}-?\d{1,3})?(?:\s*[,&+]\s*[A-Z]{0,3}-?\d{1,3})*)\s*(?:[:=).]|\s[-–]\s|\s|$)\s*(.*)$/i;

function cutLine(text: string, delimiter: Delimiter): string[] {
  switch (delimiter) {
    case '\t':
      return text.split('\t').map(words);
    case '|': {
      const cells = text.split('|').map(words);
      // A table drawn with bars has one at each end.
      if (cells[0] === '') cells.shift();
      if (cells[cells.length - 1] === '') cells.pop();
      return cells;
    }
    case 'spaces':
      return text
        .trim()
        .split(/\s{2,}|\t/)
        .map(words);
    case 'single': {
      const match = heading.exec(text.trim());
      return match && match[2] !== '' ? [words(match[1]), words(match[2])] : [words(text)];
    }
    default:
      return [];
  }
}

/** Cuts a text into lines of cells; blank lines and drawn rules (`----`, `+---+`, `|:--|`) are left out. */
export function cutText(text: string): { delimiter: Delimiter; lines: Line[] } {
  const clean = text.replace(/^\uFEFF/, '');
  const raw = clean.split(/\r\n|\r|\n/);
  const isRule = (line: string) => /^[\s|+:=_–—-]*$/.test(line);
  const delimiter = delimiterOf(raw.filter((line) => !isRule(line)));
  if (delimiter === ',' || delimiter === ';' || (delimiter === '\t' && clean.includes('"'))) {
    const parsed = Papa.parse<string[]>(clean, { delimiter, skipEmptyLines: false });
    return {
      delimiter,
      lines: parsed.data.flatMap((cells, index) =>
        cells.every((cell) => cell.trim() === '')
          ? []
          : [
              {
                line: index + 1,
                cells: cells.map((cell) => words(cell.replace(/\s*\n\s*/g, ' '))),
                text: cells.join(' '),
              },
            ],
      ),
    };
  }
  return {
    delimiter,
    lines: raw.flatMap((line, index) =>
      isRule(line) ? [] : [{ line: index + 1, cells: cutLine(line, delimiter), text: line.trim() }],
    ),
  };
}

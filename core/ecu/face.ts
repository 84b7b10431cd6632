import type { Connector } from './ecu';

/** Where a cavity stands, counted from 1 from the top left, seen from the wire side. */
export interface FacePlace {
  readonly cavity: number;
  readonly row: number;
  readonly place: number;
}

const known = new WeakMap<Connector, readonly FacePlace[]>();

/** Places in the order they are numbered, as row and place seen from the wire side. */
function numbered({ rows, numbering }: Connector): { row: number; place: number }[] {
  const { from, along, turning } = numbering ?? { from: 'top-left', along: 'rows', turning: false };
  const fromRight = from.endsWith('right');
  const fromBottom = from.startsWith('bottom');
  const columns = Math.max(...rows);
  const lines: { row: number; place: number }[][] =
    along === 'rows'
      ? rows.map((count, row) => Array.from({ length: count }, (_, i) => ({ row: row + 1, place: i + 1 })))
      : Array.from({ length: columns }, (_, column) =>
          rows.flatMap((count, row) => (column < count ? [{ row: row + 1, place: column + 1 }] : [])),
        );
  // A line of cavities and the cavities in it run each their way: rows top to bottom, columns left to right.
  const [linesBack, cellsBack] = along === 'rows' ? [fromBottom, fromRight] : [fromRight, fromBottom];
  if (linesBack) lines.reverse();
  return lines.flatMap((line, index) => (cellsBack !== (turning && index % 2 === 1) ? [...line].reverse() : line));
}

/** Every cavity of a connector with its place, in the order of their numbers. Computed once a connector. */
export function faceOf(connector: Connector): readonly FacePlace[] {
  const before = known.get(connector);
  if (before) return before;
  const first = connector.first ?? 1;
  const face = numbered(connector).map((at, index) => ({ cavity: first + index, ...at }));
  known.set(connector, face);
  return face;
}

export const cavityCount = (connector: Pick<Connector, 'rows'>): number =>
  connector.rows.reduce((sum, count) => sum + count, 0);

/** Row and place of a cavity, counted from 1 on the wire side. A cavity that is not there stands past the last row. */
export function cavityPlace(connector: Connector, cavity: number): { row: number; place: number } {
  const at = faceOf(connector)[cavity - (connector.first ?? 1)];
  return at ? { row: at.row, place: at.place } : { row: connector.rows.length, place: cavity };
}

/** The cavity at a place of the face, or null. */
export const cavityAt = (connector: Connector, row: number, place: number): number | null =>
  faceOf(connector).find((at) => at.row === row && at.place === place)?.cavity ?? null;

export interface Neighbours {
  readonly left: number | null;
  readonly right: number | null;
  readonly above: number | null;
  readonly below: number | null;
}

/** Cavities beside this one, seen from the wire side. In a staggered face 'above' is the nearer of two, to the left. */
export function neighbours(connector: Connector, cavity: number): Neighbours {
  const { row, place } = cavityPlace(connector, cavity);
  return {
    left: cavityAt(connector, row, place - 1),
    right: cavityAt(connector, row, place + 1),
    above: cavityAt(connector, row - 1, place),
    below: cavityAt(connector, row + 1, place),
  };
}

/** Cavities that touch this one: left, right, and those above and below on the same grid. */
export const neighbourCavities = (connector: Connector, cavity: number): number[] =>
  Object.values(neighbours(connector, cavity)).filter((one): one is number => one !== null);

/** Largest bare wire a cavity takes, square millimetres. */
export const cavitySquareMm = (connector: Connector, cavity: number): number =>
  connector.large?.cavities.includes(cavity) ? connector.large.maxSquareMm : connector.maxSquareMm;

const ordinals = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth'];
export const ordinal = (count: number): string => {
  if (count <= ordinals.length) return ordinals[count - 1]!;
  const [tens, ones] = [count % 100, count % 10];
  return `${count}${tens > 10 && tens < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][ones] ?? 'th')}`;
};

/**
 * How to count to a cavity: `row 2 of 3, fifth from the left, wire side`. Counted from the nearer end, as people do; on the
 * mating side left and right are changed over.
 *
 * @param named The side as it is called, where a mating half is counted on a drawing of the other.
 */
export function countingWords(
  connector: Connector,
  cavity: number,
  side: 'wire' | 'mating' = 'wire',
  named: 'wire' | 'mating' = side,
): string {
  const { row, place } = cavityPlace(connector, cavity);
  const width = connector.rows[row - 1] ?? place;
  const fromLeft = place <= Math.ceil(width / 2);
  const nearLeft = side === 'wire' ? fromLeft : !fromLeft;
  const counted = fromLeft ? place : width - place + 1;
  const rowWords = connector.rows.length > 1 ? `row ${row} of ${connector.rows.length}, ` : '';
  return `${rowWords}${ordinal(counted)} from the ${nearLeft ? 'left' : 'right'}, ${named} side`;
}

import { FLAT_DEGREES, type BankNumbering, type Lying } from './banks';
import type { Engine } from './engine';

/** Firing orders most engines of so many cylinders in one row have (common practice); others fire as they are numbered. */
const inRow: Readonly<Record<number, readonly number[]>> = {
  3: [1, 3, 2],
  4: [1, 3, 4, 2],
  5: [1, 2, 4, 5, 3],
  6: [1, 5, 3, 6, 2, 4],
  8: [1, 6, 2, 5, 8, 3, 7, 4],
};
/** Of two banks in a V, and of two that lie flat, by their numbering (common practice, from memory). */
const inVee: Readonly<Record<string, readonly number[]>> = {
  '4 odd-even': [1, 2, 3, 4],
  '4 halves': [1, 3, 2, 4],
  '6 odd-even': [1, 2, 3, 4, 5, 6],
  '6 halves': [1, 4, 2, 5, 3, 6],
  '8 odd-even': [1, 8, 4, 3, 6, 5, 7, 2],
  '8 halves': [1, 5, 4, 8, 6, 3, 7, 2],
  '10 odd-even': [1, 10, 9, 4, 3, 6, 5, 8, 7, 2],
  '10 halves': [1, 6, 5, 10, 2, 7, 3, 8, 4, 9],
  '12 odd-even': [1, 2, 9, 10, 5, 6, 11, 12, 3, 4, 7, 8],
  '12 halves': [1, 7, 5, 11, 3, 9, 6, 12, 2, 8, 4, 10],
};
const inFlat: Readonly<Record<string, readonly number[]>> = {
  '4 odd-even': [1, 3, 2, 4],
  '4 halves': [1, 4, 3, 2],
  '6 odd-even': [1, 6, 3, 2, 5, 4],
  '6 halves': [1, 6, 2, 4, 3, 5],
};

export interface Layout {
  readonly kind: Engine['kind'];
  readonly cylinders: number;
  readonly lying: Lying;
  readonly numbering: BankNumbering;
}

/** A firing order to start from: rotors and two-strokes fire as they are numbered. */
export function proposedOrder({ kind, cylinders, lying, numbering }: Layout): number[] {
  const key = `${cylinders} ${numbering}`;
  const usual = lying === 'inline' ? inRow[cylinders] : (lying === 'flat' ? inFlat : inVee)[key];
  return [
    ...((kind === 'four-stroke' ? usual : undefined) ??
      Array.from({ length: Math.max(0, cylinders) }, (_, i) => i + 1)),
  ];
}

/**
 * Angles at which an engine with a shared crank pin for each pair across the V fires: the second of a pair follows by the
 * angle of the V. Of a twin it follows a turn later less that angle. Null where the V alone does not tell.
 */
export function oddFireAngles(cylinders: number, bankDegrees: number): number[] | null {
  if (bankDegrees <= 0 || bankDegrees >= FLAT_DEGREES) return null;
  if (cylinders === 2) return [0, 360 - bankDegrees];
  const pairs = cylinders / 2;
  // Pins of a six stand 120 degrees apart: pairs fire every 240 degrees.
  return cylinders === 6 ? Array.from({ length: pairs }, (_, i) => [i * 240, i * 240 + bankDegrees]).flat() : null;
}

/** True when an order names each cylinder from 1 to `cylinders` once. */
export const ordersAll = (order: readonly number[], cylinders: number): boolean =>
  order.length === cylinders && [...order].sort((one, other) => one - other).every((one, i) => one === i + 1);

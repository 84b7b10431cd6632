import type { Engine } from './engine';

/** How cylinders lie: one row, two rows in a V, two rows across from each other. */
export type Lying = 'inline' | 'vee' | 'flat';
/** How the cylinders of two banks are numbered: odd ones here and even ones there, or the front half of the numbers here. */
export type BankNumbering = 'odd-even' | 'halves';
export const FLAT_DEGREES = 180;

type Laid = Pick<Engine, 'cylinders' | 'banks' | 'bankDegrees'>;

const count = (from: number, to: number): number[] => Array.from({ length: to - from + 1 }, (_, i) => from + i);

/** Cylinders of each bank from the front; one bank of all where none are told. */
export const banksOf = ({ cylinders, banks }: Laid): readonly (readonly number[])[] =>
  banks.length > 0 ? banks : [count(1, cylinders)];

export const lyingOf = ({ banks, bankDegrees }: Laid): Lying =>
  banks.length < 2 ? 'inline' : bankDegrees === FLAT_DEGREES ? 'flat' : 'vee';

/** Two banks numbered as it is usual; one where there are too few cylinders. */
export function banksFor(cylinders: number, numbering: BankNumbering): number[][] {
  if (cylinders < 2) return [];
  const half = Math.ceil(cylinders / 2);
  return numbering === 'halves'
    ? [count(1, half), count(half + 1, cylinders)]
    : [count(1, cylinders).filter((one) => one % 2 === 1), count(1, cylinders).filter((one) => one % 2 === 0)];
}

/** The usual numbering that two banks follow; null for one of the maker's own. */
export function numberingOf(engine: Laid): BankNumbering | null {
  const key = JSON.stringify(engine.banks);
  return (
    (['odd-even', 'halves'] as const).find(
      (numbering) => JSON.stringify(banksFor(engine.cylinders, numbering)) === key,
    ) ?? null
  );
}

/** The bank of a cylinder, from 1. */
export const bankOf = (engine: Laid, cylinder: number): number =>
  banksOf(engine).findIndex((bank) => bank.includes(cylinder)) + 1;

/** The bank that all these cylinders are of; null where they are of several, or none are named. */
export function bankOfAll(engine: Laid, cylinders: readonly number[]): number | null {
  const banks = new Set(cylinders.map((cylinder) => bankOf(engine, cylinder)));
  return banks.size === 1 ? [...banks][0]! : null;
}

/** A bank in words: `bank 2, cylinders 2, 4 and 6`. */
export const bankWords = (engine: Laid, bank: number): string => {
  const cylinders = banksOf(engine)[bank - 1] ?? [];
  return `bank ${bank}, ${cylinders.length === 1 ? 'cylinder' : 'cylinders'} ${cylinders.join(', ')}`;
};

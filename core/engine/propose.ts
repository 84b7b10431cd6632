import type { Engine } from './engine';

/** Firing orders most engines of so many cylinders have (common practice); others fire as they are numbered. */
const usualOrders: Readonly<Record<number, readonly number[]>> = {
  3: [1, 3, 2],
  4: [1, 3, 4, 2],
  5: [1, 2, 4, 5, 3],
  6: [1, 5, 3, 6, 2, 4],
  8: [1, 8, 4, 3, 6, 5, 7, 2],
  10: [1, 10, 9, 4, 3, 6, 5, 8, 7, 2],
  12: [1, 7, 5, 11, 3, 9, 6, 12, 2, 8, 4, 10],
};

/** A firing order to start from: rotors and two-strokes fire as they are numbered. */
export const proposedOrder = (kind: Engine['kind'], cylinders: number): number[] => [
  ...((kind === 'four-stroke' ? usualOrders[cylinders] : undefined) ??
    Array.from({ length: Math.max(0, cylinders) }, (_, i) => i + 1)),
];

/** True when an order names each cylinder from 1 to `cylinders` once. */
export const ordersAll = (order: readonly number[], cylinders: number): boolean =>
  order.length === cylinders && [...order].sort((one, other) => one - other).every((one, i) => one === i + 1);

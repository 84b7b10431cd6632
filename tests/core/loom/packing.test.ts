import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { packCircles, type Packing } from '~/core/loom/packing';

const alike = (count: number, diameter = 1) => packCircles(new Array<number>(count).fill(diameter)).diameter;

/** The most that any two overlap, and that any stands out of the circle about them. */
function faults({ circles, diameter }: Packing): { overlap: number; out: number } {
  let [overlap, out] = [0, 0];
  circles.forEach((one, at) => {
    out = Math.max(out, Math.hypot(one.x, one.y) + one.r - diameter / 2);
    for (const other of circles.slice(at + 1))
      overlap = Math.max(overlap, one.r + other.r - Math.hypot(one.x - other.x, one.y - other.y));
  });
  return { overlap, out };
}

describe('wires of one size', () => {
  test('lie as the lay 1-6-12-18-24 has them: 1, 3, 5, 7 and 9 diameters (IEC 60228, concentric lay of strands)', () => {
    expect([0, 1, 7, 19, 37, 61].map((count) => alike(count))).toEqual(
      [0, 1, 3, 5, 7, 9].map((one) => expect.closeTo(one, 9)),
    );
    expect(alike(19, 1.6)).toBeCloseTo(8, 9);
  });
  // Smallest circles about N equal ones, in their diameters: Graham, Lubachevsky, Nurmela and Östergård, Discrete Mathematics 181 (1998).
  test.each([
    [2, 2],
    [3, 2.1547],
    [4, 2.4142],
    [5, 2.7013],
    [6, 3],
    [8, 3.3048],
    [9, 3.6131],
    [10, 3.813],
    [11, 3.9238],
    [12, 4.0296],
  ])('%i come within two hundredths of the best that is known', (count, best) => {
    expect(alike(count)).toBeGreaterThan(best * 0.9999);
    expect(alike(count)).toBeLessThan(best * 1.02);
  });
  test.each([
    [13, 4.2361],
    [14, 4.3284],
    [15, 4.5214],
    [16, 4.6154],
    [17, 4.792],
    [18, 4.8637],
    [20, 5.1223],
    [37, 6.7588],
    [61, 8.6613],
  ])('%i, which hands do not lay better than in turns, within nine hundredths', (count, best) => {
    expect(alike(count)).toBeGreaterThan(best * 0.9999);
    expect(alike(count)).toBeLessThan(best * 1.09);
  });
});

describe('wires of any sizes', () => {
  const bundles = fc.array(fc.constantFrom(1.3, 1.6, 1.9, 2.1, 2.4, 3, 3.7, 4.3, 6), { minLength: 1, maxLength: 60 });
  test('never overlap, never stand out, and are no thicker than 1.2 d sqrt(N) by more than a sixth', () => {
    fc.assert(
      fc.property(bundles, (diameters) => {
        const packing = packCircles(diameters);
        expect(packing.circles.map(({ r }) => 2 * r)).toEqual(diameters);
        const { overlap, out } = faults(packing);
        expect(overlap).toBeLessThan(1e-6);
        expect(out).toBeLessThan(1e-6);
        const together = Math.sqrt(diameters.reduce((sum, d) => sum + d * d, 0));
        expect(packing.diameter).toBeGreaterThanOrEqual(together * 0.9999);
        // A pair is as wide as both, and a thick one beside thin ones as that: the rule is for many.
        const least = diameters.length === 1 ? diameters[0] : Math.max(...diameters) + Math.min(...diameters);
        expect(packing.diameter).toBeLessThan(Math.max(1.2 * together * (7 / 6), 2 * least));
      }),
      { numRuns: 60 },
    );
  });
  test('are laid the same every time', () => {
    const diameters = [3, 1.3, 1.3, 2.4, 1.6, 1.3, 1.9];
    const first = packCircles(diameters);
    for (let i = 0; i < 70; i += 1) packCircles([1, 1 + i / 10]);
    expect(packCircles(diameters)).toEqual(first);
  });
});

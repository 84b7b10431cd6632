import { describe, expect, test } from '@jest/globals';
import { alternator, battery, inside, meter, parts, type Figure } from '~/core/circuit/figures';

const all: (readonly [string, Figure])[] = Object.entries({ alternator, battery, inside, meter, parts }).flatMap(
  ([group, figures]) =>
    Object.entries(figures as Record<string, Figure>).map(([name, figure]) => [`${group}.${name}`, figure] as const),
);

describe('the figures of the circuit', () => {
  test.each(all)('%s says where it is from, and how far it strays', (_, { value, unit, spread, source }) => {
    expect(value).toBeGreaterThan(0);
    expect(spread).toBeGreaterThan(0);
    // Of ohms a share, never all of it; of volts and amperes less than there are.
    expect(spread).toBeLessThan(unit === 'Ω' ? 1 : value);
    expect(source).toMatch(/^(common practice: |(?:ISO|DIN|IEC|SAE) [\d-]+: ).{10,}/);
  });
  // What the source says in words, worked out by hand from the number.
  test.each([
    ['a coil driver of 7 A drops', 7 * inside.ignitionDriverOn.value, 1, 1.5],
    ['its standing current, mA, is', (1000 * battery.off.value) / inside.permanent.value, 1, 5],
    ['an output at rest leaks, µA', (1e6 * battery.off.value) / inside.outputOff.value, 0.5, 10],
    ['a cell of the battery at rest has', battery.off.value / 6, 2.09, 2.13],
    ['a relay pulls in at a share of 12 V of', parts.pullIn.value / 12, 0.55, 0.65],
    ['200 A of starter take from the battery', 200 * battery.inside.value, 1.5, 3],
  ])('%s what its source says', (_, figure, least, most) => {
    expect(figure).toBeGreaterThanOrEqual(least);
    expect(figure).toBeLessThanOrEqual(most);
  });
  test('a pair with both ends closed reads 60 ohms, as ISO 11898-2 has it', () => {
    const { value } = inside.canTermination;
    expect(1 / (1 / value + 1 / value)).toBeCloseTo(60, 9);
  });
});

import { describe, expect, test } from '@jest/globals';
import { engineSchema, firingAngleByCylinder, type Engine, type OutputOrder } from '~/core/engine/engine';
import { firedTogether, outputsFor, workedBy, type OutputKind } from '~/core/engine/outputs';
import { seeded } from '~/core/trigger/synth';

/*
 * Firing angles and pairs of engines from their cranks, worked out here and not in core: a cylinder is at its top when its
 * pin stands in line with its bore, so at (bank - pin) mod 360; the order says which of them fires next.
 * Crank geometry: any engine textbook. Layouts and orders: common practice; no maker's engine is meant.
 */
interface Crank {
  readonly name: string;
  readonly order: readonly number[];
  /** Degrees of each cylinder's pin, and of its bore, both in the sense of turning. */
  readonly pins: readonly number[];
  readonly bores: readonly number[];
  readonly kind?: Engine['kind'];
}
const same = (count: number, degrees = 0) => Array.from({ length: count }, () => degrees);
/** Pins of an engine that fires evenly in this order, on one bank: each one third, quarter, ... of a cycle behind the last. */
const evenPins = (order: readonly number[], cycle = 720): number[] => {
  const pins: number[] = [];
  order.forEach((cylinder, place) => (pins[cylinder - 1] = (360 - (((place * cycle) / order.length) % 360)) % 360));
  return pins;
};
const inline = (name: string, order: readonly number[], pins = evenPins(order)): Crank => ({
  name,
  order,
  pins,
  bores: same(order.length),
});
/** Two banks `apart`; pins by cylinder. Cylinders of the second bank are named. */
const vee = (
  name: string,
  order: readonly number[],
  second: readonly number[],
  apart: number,
  pins: number[],
): Crank => ({
  name,
  order,
  pins,
  bores: order.map((_, at) => (second.includes(at + 1) ? apart : 0)),
});

const straight: Crank[] = [
  inline('single', [1]),
  inline('twin, pins together', [1, 2], [0, 0]),
  inline('twin, pins apart', [1, 2], [0, 180]),
  inline('twin, a quarter apart', [1, 2], [0, 90]),
  inline('triple', [1, 3, 2]),
  inline('triple the other way', [1, 2, 3]),
  inline('four', [1, 3, 4, 2], [0, 180, 180, 0]),
  inline('four the other way', [1, 2, 4, 3], [0, 180, 180, 0]),
  inline('five', [1, 2, 4, 5, 3]),
  inline('five the other way', [1, 3, 5, 4, 2]),
  inline('six', [1, 5, 3, 6, 2, 4], [0, 240, 120, 120, 240, 0]),
  inline(
    'six the other way',
    [1, 4, 2, 6, 3, 5],
    [0, 240, 120, 120, 240, 0].map((pin) => (360 - pin) % 360),
  ),
  inline('seven', [1, 3, 5, 7, 2, 4, 6]),
  inline('eight in line', [1, 6, 2, 5, 8, 3, 7, 4]),
  inline('nine', [1, 3, 5, 7, 9, 2, 4, 6, 8]),
  inline('ten in line', [1, 6, 5, 10, 2, 7, 3, 8, 4, 9]),
  inline('twelve in line', [1, 7, 5, 11, 3, 9, 6, 12, 2, 8, 4, 10]),
];
const banks: Crank[] = [
  vee('V-twin of 45, one pin', [1, 2], [2], 315, [0, 0]),
  vee('V-twin of 60, one pin', [1, 2], [2], 300, [0, 0]),
  vee('V-twin of 90, one pin', [1, 2], [2], 270, [0, 0]),
  vee('V-twin of 52, offset pins', [1, 2], [2], 308, [0, 76]),
  vee('flat twin', [1, 2], [2], 180, [0, 180]),
  vee('V4 of 90', [1, 2, 4, 3], [3, 4], 90, [0, 180, 0, 180]),
  vee('flat four', [1, 3, 2, 4], [2, 4], 180, [0, 180, 180, 0]),
  vee('V6 of 60, six pins', [1, 2, 3, 4, 5, 6], [2, 4, 6], 60, [0, 300, 120, 60, 240, 180]),
  vee('V6 of 90, three pins, odd', [1, 6, 5, 4, 3, 2], [2, 4, 6], 90, [0, 240, 240, 120, 120, 0]),
  vee('flat six', [1, 6, 2, 4, 3, 5], [4, 5, 6], 180, [0, 120, 240, 180, 300, 60]),
  vee('V8 of 90, cross plane', [1, 8, 4, 3, 6, 5, 7, 2], [2, 4, 6, 8], 270, [0, 0, 90, 90, 270, 270, 180, 180]),
  vee('V8 of 90, flat plane', [1, 8, 3, 6, 4, 5, 2, 7], [5, 6, 7, 8], 90, [0, 180, 180, 0, 0, 180, 180, 0]),
  vee('V10 of 72', [1, 6, 5, 10, 2, 7, 3, 8, 4, 9], [6, 7, 8, 9, 10], 72, [0, 72, 288, 144, 216, 0, 72, 288, 144, 216]),
  vee(
    'V12 of 60',
    [1, 7, 5, 11, 3, 9, 6, 12, 2, 8, 4, 10],
    [7, 8, 9, 10, 11, 12],
    60,
    [0, 240, 120, 120, 240, 0, 0, 240, 120, 120, 240, 0],
  ),
];
const turns: Crank[] = [1, 2, 3, 4, 5, 6, 8].map((count) => {
  const order = Array.from({ length: count }, (_, at) => at + 1);
  return { ...inline(`two-stroke of ${count}`, order, evenPins(order, 360)), kind: 'two-stroke' as const };
});
const rotors: Crank[] = [1, 2, 3, 4].map((count) => {
  const order = Array.from({ length: count }, (_, at) => at + 1);
  return { ...inline(`${count} rotors`, order, evenPins(order, 360)), kind: 'rotary' as const };
});
/** Every count evenly spaced, in an order of its own drawn by lot. */
const drawn: Crank[] = Array.from({ length: 24 }, (_, at) => {
  const random = seeded(at + 1);
  const count = 1 + (at % 16);
  const order = Array.from({ length: count }, (_, i) => i + 1)
    .map((cylinder) => ({ cylinder, by: cylinder === 1 ? -1 : random() }))
    .sort((one, other) => one.by - other.by)
    .map(({ cylinder }) => cylinder);
  return inline(`${count} in an order by lot (${order.join('-')})`, order);
});
const all = [...straight, ...banks, ...turns, ...rotors, ...drawn];

const mod = (degrees: number, span: number) => (((Math.round(degrees * 1e6) / 1e6) % span) + span) % span;
const topOf = ({ pins, bores }: Crank, cylinder: number) => mod(bores[cylinder - 1]! - pins[cylinder - 1]!, 360);

/** Angles at which they fire, from the first: the next one's top after the one before. */
function anglesOf(crank: Crank): number[] {
  const cycle = crank.kind ? 360 : 720;
  let at = 0;
  return crank.order.map((cylinder, place) => {
    if (place === 0) return 0;
    const step = mod(topOf(crank, cylinder) - topOf(crank, crank.order[place - 1]!), 360);
    at += step === 0 ? 360 : step;
    if (at >= cycle) throw new Error(`${crank.name}: its order goes round more than a cycle`);
    return at;
  });
}
const engineOf = (crank: Crank, more: Partial<Engine> = {}): Engine => {
  const angles = anglesOf(crank);
  const cycle = crank.kind ? 360 : 720;
  const isEven = angles.every((angle, place) => Math.abs(angle - (place * cycle) / angles.length) < 1e-6);
  return engineSchema.parse({
    name: crank.name,
    kind: crank.kind ?? 'four-stroke',
    cylinders: crank.order.length,
    firingOrder: [...crank.order],
    firingAngles: isEven ? null : angles,
    aspiration: 'atmospheric',
    boostKpa: 0,
    maxRpm: 6000,
    displacementCc: 2000,
    ignition: 'wasted',
    injection: 'sequential',
    ...more,
  });
};
const sorted = (sets: readonly (readonly number[])[]) =>
  sets.map((set) => [...set].sort((one, other) => one - other)).sort((one, other) => one[0]! - other[0]!);

test('at least 60 engines, even and odd, two- and four-stroke, one to four rotors', () => {
  expect(all.length).toBeGreaterThanOrEqual(60);
  expect(all.filter((crank) => engineOf(crank).firingAngles !== null).length).toBeGreaterThanOrEqual(5);
});

describe.each(all.map((crank) => [crank.name, crank] as const))('%s', (_, crank) => {
  const engine = engineOf(crank);
  test('fires where its crank says, and those share a coil that come to the top together', () => {
    const angles = anglesOf(crank);
    crank.order.forEach((cylinder, place) =>
      expect(firingAngleByCylinder(engine).get(cylinder)).toBeCloseTo(angles[place]!, 6),
    );
    const byTop = new Map<string, number[]>();
    for (const cylinder of crank.order) {
      const top = topOf(crank, cylinder).toFixed(3);
      byTop.set(top, [...(byTop.get(top) ?? []), cylinder]);
    }
    expect(sorted(firedTogether(engine, 'ignition'))).toEqual(sorted([...byTop.values()]));
    expect(firedTogether({ ...engine, ignition: 'direct' }, 'ignition').flat()).toEqual(crank.order);
  });
  test('outputs and cylinders map onto each other in both schools, for every way of firing', () => {
    const wrong: string[] = [];
    for (const ignition of ['direct', 'wasted', 'distributor'] as const)
      for (const injection of ['sequential', 'semi-sequential', 'batch'] as const)
        for (const school of ['in-turn', 'by-cylinder'] as const)
          for (const use of ['ignition', 'injector'] as OutputKind[])
            wrong.push(...mapFaults({ ...engine, ignition, injection, plugs: 2, injectors: 2 }, school, use));
    expect(wrong).toEqual([]);
  });
});

/** Where the map output -> cylinders is none: of sets that overlap, and of wires it calls right or wrong against what they work. */
function mapFaults(own: Engine, school: OutputOrder, use: OutputKind): string[] {
  const wrong: string[] = [];
  const count = own.cylinders;
  const worked = Array.from({ length: count * 2 }, (_, at) => workedBy(own, school, use, at + 1)!);
  const here = `${own.ignition} ${own.injection} ${school} ${use}`;
  if (workedBy(own, school, use, count * 2 + 1) !== null) wrong.push(`${here}: past the last`);
  for (const row of [1, 2]) {
    // Two outputs of a row work the same cylinders or none in common; a row's outputs work them all, once.
    const sets = new Set(
      worked.filter((one) => one.row === row).map((one) => [...one.cylinders].sort((a, b) => a - b).join()),
    );
    const named = [...sets].flatMap((set) => set.split(','));
    if (named.length !== count || new Set(named).size !== count) wrong.push(`${here}: row ${row} is no partition`);
    // A wire on any output meant for a cylinder works it; on any other it does not.
    for (let cylinder = 1; cylinder <= count; cylinder += 1) {
      const right = outputsFor(own, school, use, [cylinder], row);
      if (right.length === 0) wrong.push(`${here}: nothing works ${cylinder}`);
      worked.forEach((one, at) => {
        if (right.includes(at + 1) !== (one.row === row && one.cylinders.includes(cylinder)))
          wrong.push(`${here}: output ${at + 1} and cylinder ${cylinder}`);
      });
    }
  }
  return wrong;
}

test('worked by hand: what an output means', () => {
  const six = engineOf(straight.find(({ name }) => name === 'six')!);
  // 1-5-3-6-2-4 every 120 degrees: 1 and 6, 5 and 2, 3 and 4 are 360 apart.
  expect(firedTogether(six, 'ignition')).toEqual([
    [1, 6],
    [5, 2],
    [3, 4],
  ]);
  expect(outputsFor(six, 'in-turn', 'ignition', [1, 6], 1)).toEqual([1]);
  expect(outputsFor(six, 'in-turn', 'ignition', [3, 4], 1)).toEqual([3]);
  expect(outputsFor(six, 'by-cylinder', 'ignition', [2, 5], 1)).toEqual([2, 5]);
  expect(outputsFor(six, 'in-turn', 'ignition', [1, 5], 1)).toEqual([]);
  // Single coils fired every turn: output 4 comes round to the pair of output 1.
  expect(outputsFor(six, 'in-turn', 'ignition', [6], 1)).toEqual([1, 4]);
  const rotors2 = engineOf(rotors[1]!, { plugs: 2, injectors: 2, ignition: 'direct' });
  expect(outputsFor(rotors2, 'by-cylinder', 'ignition', [2], 2)).toEqual([4]);
  expect(outputsFor(rotors2, 'in-turn', 'injector', [1], 2)).toEqual([3]);
});

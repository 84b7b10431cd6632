import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { catalog } from '~/catalog';
import type { Build } from '~/core/build/schema';
import { compile } from '~/core/circuit/compile';
import { scenarioOf } from '~/core/circuit/scenario';
import { solveIn } from '~/core/circuit/solve';
import { circuitStates } from '~/core/circuit/states';
import { applyEdit, call } from '~/core/edits';
import { createBuild } from '~/core/edits/create';
import { netlist, type Netlist } from '~/core/netlist/netlist';
import { powerPlan } from '~/core/netlist/power-plan';
import { bareRuns } from '~/core/power/bare-runs';
import { rules } from '~/core/rules';
import { runRule } from '~/core/rules/rule';
import { celsiusOf } from '~/core/tree/tree';
import { sizeFor, wireSeries } from '~/core/wire/wire';
import { ecu, kind } from '../helpers';

/*
 * What must hold of any build of catalog parts, wherever it is laid and whatever its wire stands. Grouping: IEC 60364-5-52 table
 * B.52.17 item 1, written out here; amperes of sizes: the table of core/wire, which is common practice.
 */
const grouping = (count: number): number => {
  const table: readonly (readonly [number, number])[] = [
    [1, 1],
    [2, 0.8],
    [3, 0.7],
    [4, 0.65],
    [5, 0.6],
    [6, 0.57],
    [7, 0.54],
    [8, 0.52],
    [9, 0.5],
    [12, 0.45],
    [16, 0.41],
    [20, 0.38],
  ];
  return (table.find(([most]) => count <= most) ?? [0, 0.38])[1];
};
/** Amperes of the metric sizes alone at 105 °C in air of 30 (common practice). */
const alone: Readonly<Record<number, number>> = {
  0.35: 7,
  0.5: 11,
  0.75: 14,
  1: 16.5,
  1.5: 21,
  2.5: 29,
  4: 39,
  6: 50,
  10: 70,
  16: 94,
  25: 130,
  35: 160,
  50: 200,
};

const cars = fc.record({
  engine: fc.constantFrom(...catalog.engines.map(({ name }) => name)),
  ecu: fc.constantFrom(...catalog.ecus.map(({ id }) => id)),
  kinds: fc.array(fc.constantFrom(...catalog.kinds.map(({ id }) => id)), { minLength: 4, maxLength: 16 }),
  ecuGround: fc.constantFrom('battery', 'head'),
  zoneCelsius: fc.constantFrom(40, 60, 90, 105),
  wireCelsius: fc.constantFrom(70, 85, 105, 125, 150),
  tree: fc.constantFrom(null, 'car', 'motorcycle', 'boat', 'kart'),
  hot: fc.constantFrom(null, 80, 100, 120),
  thin: fc.option(fc.nat(), { nil: null }),
});
type Car = typeof cars extends fc.Arbitrary<infer T> ? T : never;

function laid(car: Car): Build {
  let build = createBuild({
    id: 'any',
    now: '2026-01-01T00:00:00.000Z',
    name: 'Any',
    vehicle: '',
    engine: catalog.engines.find(({ name }) => name === car.engine)!,
    ecu: ecu(car.ecu),
  });
  const edit = (name: string, args: unknown) => {
    const result = applyEdit(build, name, args);
    if (result.ok) build = result.value.build;
  };
  for (const id of car.kinds) edit('addDevice', call('addDevice', { kind: kind(id) }).args);
  edit('setPower', { ecuGround: car.ecuGround });
  edit('setLoom', { zoneCelsius: car.zoneCelsius, wireCelsius: car.wireCelsius });
  edit('allotAll', { keep: 'placed' });
  if (car.tree) edit('proposeTree', { vehicle: car.tree, engine: 'front' });
  const pieces = Object.keys(build.tree.segments);
  if (car.hot !== null && pieces.length > 0)
    edit('setSegment', { segment: pieces[car.hot % pieces.length], changes: { zone: 'hot', celsius: car.hot } });
  // Now and then a wire is thinner than it was proposed.
  if (car.thin !== null) {
    const { wires } = netlist(build);
    const wire = wires[car.thin % wires.length];
    if (wire) edit('setWire', { wireId: wire.id, squareMm: 0.5 });
  }
  return build;
}

/** What these rules, and no others, find in a build. */
const toldOf = (build: Build, net: Netlist, ids: readonly string[]): string[] =>
  rules
    .filter(({ id }) => ids.includes(id))
    .flatMap((rule) =>
      runRule(rule, {
        build,
        net,
        devices: net.devices,
        library: [],
        proof: () => {
          throw new Error('no rule of these asks for the proof');
        },
        beside: null,
      }),
    )
    .map(({ id }) => id.split(':')[0]!);

describe('any build of catalog parts', () => {
  test('no wire passes what its insulation stands at the current its protection lets through, or a finding says so', () => {
    let [checked, hot] = [0, 0];
    fc.assert(
      fc.property(cars, (car) => {
        const build = laid(car);
        const net = netlist(build);
        const told = new Set(toldOf(build, net, ['PW-1', 'PW-26', 'LO-2']));
        for (const wire of net.wires) {
          const pieces = wire.route.map((id) => ({
            air: celsiusOf(build.tree.segments[id]!),
            loaded: Math.max(1, net.power.census.get(id) ?? 1),
          }));
          const lies = pieces.length > 0 ? pieces : [{ air: Math.min(car.zoneCelsius, 60), loaded: 3 }];
          for (const { air, loaded } of lies) {
            const full = (alone[wire.squareMm] ?? 0) * grouping(loaded);
            const celsius = air + 75 * (wire.lets / full) ** 2;
            checked += 1;
            if (celsius <= car.wireCelsius + 0.5) continue;
            hot += 1;
            // Air that is as hot by itself is LO-2's; a fuse above a feed is PW-1's.
            expect(
              [...told].some(
                (rule) => rule === 'PW-26' || rule === 'PW-1' || (rule === 'LO-2' && air >= car.wireCelsius),
              ),
            ).toBe(true);
          }
        }
      }),
      { numRuns: 500 },
    );
    // Both happened, or it has shown nothing.
    expect(checked).toBeGreaterThan(20_000);
    expect(hot).toBeGreaterThan(20);
  });
  test('every ampere in every state has a way back, and comes from somewhere', () => {
    fc.assert(
      fc.property(cars, fc.constantFrom(...circuitStates), (car, state) => {
        const build = laid(car);
        const net = netlist(build);
        const solution = solveIn(compile(build, net), scenarioOf(build, net, state));
        expect(solution.residual).toBeLessThan(1e-6);
        // Summed here by itself, branch by branch: what flows into a place flows out of it; at the reference all of it meets.
        const { ends } = solution.ir;
        const { siemens, volts } = solution.branches;
        const sums = new Map<number, number>();
        for (let at = 0; at < siemens.length; at += 1) {
          const [i, j] = [ends[2 * at]!, ends[2 * at + 1]!];
          const amps = (solution.at(i) - solution.at(j) - volts[at]!) * siemens[at]!;
          sums.set(i, (sums.get(i) ?? 0) - amps);
          sums.set(j, (sums.get(j) ?? 0) + amps);
        }
        for (const sum of sums.values()) expect(Math.abs(sum)).toBeLessThan(1e-5);
      }),
      { numRuns: 60 },
    );
  });
  test('from every source to the first protection half a metre at the most, or it is told', () => {
    fc.assert(
      fc.property(cars, fc.constantFrom(0.1, 0.6, 2), fc.nat(), (car, metres, at) => {
        let build = laid(car);
        const { circuits } = netlist(build);
        const circuit = circuits[at % Math.max(1, circuits.length)];
        if (circuit) {
          const result = applyEdit(build, 'setCircuit', {
            circuitId: circuit.id,
            choice: { fuseDistanceMetres: metres },
          });
          if (result.ok) build = result.value.build;
        }
        const net = netlist(build);
        const { plan, flows, sizes, census } = net.power;
        const far = bareRuns(build, plan, flows, sizes, census).filter(
          ({ meets, thinMetres }) => meets === 'fuse' && thinMetres > 0.5,
        );
        // By walking the plan here: the wires before any fuse, from the battery's clamp, one after the other.
        const bare = (end: string, so: number, seen: ReadonlySet<string>): number =>
          Math.max(
            so,
            ...plan.links
              .filter(({ id, from, to, role }) => role !== 'return' && (from === end || to === end) && !seen.has(id))
              .map(({ id, from, to, metres: long }) => {
                const next = from === end ? to : from;
                const thin = sizes.links.get(id)!.squareMm < 16 ? long : 0;
                return /^fuse:/.test(next)
                  ? so + thin
                  : /^(bar|splice):/.test(next)
                    ? bare(next, so + thin, new Set([...seen, id]))
                    : so;
              }),
          );
        expect(bare('bat:+', 0, new Set()) > 0.5 + 1e-9).toBe(far.length > 0);
        expect(toldOf(build, net, ['PW-4']).length > 0).toBe(far.length > 0);
      }),
      { numRuns: 60 },
    );
  });
  test('with every size fixed, no drop of a loop falls as a wire grows longer', () => {
    fc.assert(
      fc.property(cars, fc.nat(), (car, at) => {
        const build = laid({ ...car, tree: null, thin: null });
        const net = netlist(build);
        const wires = Object.fromEntries(net.wires.map(({ id, squareMm }) => [id, { squareMm }]));
        const fixed: Build = { ...build, loom: { ...build.loom, wires } };
        const before = powerPlan(fixed);
        const device = fixed.devices[at % Math.max(1, fixed.devices.length)];
        if (!device) return;
        const longer: Build = {
          ...fixed,
          devices: fixed.devices.map((one) => (one === device ? { ...one, branchMetres: one.branchMetres + 1 } : one)),
          power: {
            ...fixed.power,
            groundMetres: { battery: 4, head: 4, chassis: 4 },
          },
        };
        const after = powerPlan(longer);
        before.circuits.forEach((circuit, i) => {
          const now = after.circuits[i]!;
          expect(now.dropVolts).toBeGreaterThanOrEqual(circuit.dropVolts - 1e-9);
          if (circuit.back)
            expect(now.back!.volts - now.back!.limitVolts).toBeGreaterThanOrEqual(
              circuit.back.volts - circuit.back.limitVolts - 1e-9,
            );
        });
      }),
      { numRuns: 60 },
    );
  });
  test('sizes only grow with current, heat and bunching, and shrink with what the insulation stands', () => {
    const around = fc.record({
      loadedCircuits: fc.integer({ min: 1, max: 30 }),
      ambientCelsius: fc.integer({ min: -20, max: 60 }),
      wireCelsius: fc.constantFrom(70, 85, 105, 125, 150),
      series: fc.constantFrom(...wireSeries),
    });
    fc.assert(
      fc.property(
        around,
        fc.double({ min: 0, max: 120, noNaN: true }),
        fc.double({ min: 0, max: 40, noNaN: true }),
        (one, amps, more) => {
          const size = sizeFor(amps, one);
          expect(sizeFor(amps + more, one)).toBeGreaterThanOrEqual(size);
          expect(sizeFor(amps, { ...one, loadedCircuits: one.loadedCircuits + 3 })).toBeGreaterThanOrEqual(size);
          expect(sizeFor(amps, { ...one, ambientCelsius: one.ambientCelsius + 8 })).toBeGreaterThanOrEqual(size);
          expect(sizeFor(amps, { ...one, wireCelsius: one.wireCelsius + 20 })).toBeLessThanOrEqual(size);
        },
      ),
      { numRuns: 500 },
    );
  });
});

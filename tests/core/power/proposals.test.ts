import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { catalog } from '~/catalog';
import type { Build } from '~/core/build/schema';
import { applyEdit, call } from '~/core/edits';
import { createBuild } from '~/core/edits/create';
import { partAt } from '~/core/ends/ends';
import { netlist } from '~/core/netlist/netlist';
import { powerPlan } from '~/core/netlist/power-plan';
import { findingsOf } from '~/core/rules';
import { ecu, edited, kind } from '../../helpers';

/** Any engine on any ECU with any parts of the catalog, by name. */
const cars = fc.record({
  engine: fc.constantFrom(...catalog.engines.map(({ name }) => name)),
  ecu: fc.constantFrom(...catalog.ecus.map(({ id }) => id)),
  kinds: fc.array(fc.constantFrom(...catalog.kinds.map(({ id }) => id)), { minLength: 4, maxLength: 18 }),
  ecuGround: fc.constantFrom('battery', 'head'),
  zoneCelsius: fc.constantFrom(40, 60, 105),
});

/** Such a car, fed as Gonyx proposes it. */
function proposed(car: typeof cars extends fc.Arbitrary<infer T> ? T : never): Build {
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
  edit('setLoom', { zoneCelsius: car.zoneCelsius });
  edit('allotAll', { keep: 'placed' });
  return build;
}

/** The largest wire that is laid unasked, and the largest plug of an injector or a coil. */
const LARGEST = [10, 1.5];

describe('any proposal', () => {
  test('breaks no rule of the feeds; where the largest wire is too thin for its length the rule says so', () => {
    fc.assert(
      fc.property(cars, (car) => {
        const build = proposed(car);
        const net = netlist(build);
        const broken = findingsOf(build, net).filter(
          ({ rule, severity }) => /^(PW|LO-6)/.test(rule) && severity !== 'note',
        );
        const { sizes } = net.power;
        const cramped = sizes.drops.filter(({ volts, limitVolts }) => volts > limitVolts);
        for (const { hops } of cramped)
          for (const { step } of hops)
            if (step.link) expect(LARGEST).toContain(sizes.links.get(step.link.id)!.squareMm);
        expect(broken.filter(({ rule }) => rule !== 'PW-3' || cramped.length === 0)).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });
  test('feeds every load, protects every wire by a fuse it outlasts, and says what set each', () => {
    fc.assert(
      fc.property(cars, (car) => {
        const build = proposed(car);
        const { sizes, unfed } = powerPlan(build);
        expect(unfed).toEqual([]);
        for (const link of sizes.links.values()) {
          expect(['PW-1', 'PW-3', 'strength']).toContain(link.setBy);
          // The short piece before a fuse is protected by that one, at its end.
          const fuse = sizes.fuses.get(partAt(link.to)!) ?? (link.fuse && sizes.fuses.get(link.fuse));
          if (fuse) expect(link.carriesAmps).toBeGreaterThanOrEqual(fuse.amps - 1e-9);
        }
        for (const fuse of sizes.fuses.values()) expect(['PW-2', 'PW-21']).toContain(fuse.setBy);
        for (const relay of sizes.relays.values()) expect(['PW-15', 'PW-21', 'usual']).toContain(relay.setBy);
      }),
      { numRuns: 60 },
    );
  });
  test('with every size fixed, a thicker wire anywhere raises no drop', () => {
    fc.assert(
      fc.property(cars, fc.nat(), (car, at) => {
        const build = proposed(car);
        const { sizes } = powerPlan(build);
        const wires = Object.fromEntries([...sizes.links].map(([id, { squareMm }]) => [id, { squareMm }]));
        const fixed: Build = { ...build, loom: { ...build.loom, wires } };
        const before = powerPlan(fixed).sizes;
        const [id, one] = [...before.links][at % before.links.size]!;
        const thicker: Build = {
          ...fixed,
          loom: { ...fixed.loom, wires: { ...wires, [id]: { squareMm: 2 * one.squareMm } } },
        };
        const after = powerPlan(thicker).sizes;
        before.drops.forEach(({ volts }, drop) => expect(after.drops[drop].volts).toBeLessThanOrEqual(volts + 1e-9));
      }),
      { numRuns: 60 },
    );
  });
  test('what draws ten amperes for ever does not share the fuse of the ECU’s memory', () => {
    let build = createBuild({
      id: 'any',
      now: '2026-01-01T00:00:00.000Z',
      name: 'Any',
      vehicle: '',
      engine: catalog.engines[0],
      ecu: ecu('orrery-94'),
    });
    for (const id of ['relay-diode', 'relay-diode', 'clt-ntc'])
      build = edited(build, call('addDevice', { kind: kind(id) }));
    const { circuits } = netlist(build);
    // 0.2 A of the memory: the smallest blade; 10 A for good: 10 / 0.8 is 12.5, a 15 A blade each.
    const of = (name: string) => circuits.find(({ id }) => id === name)!;
    expect(of('permanent').fuseAmps).toBe(3);
    expect([of('relay-diode-1-standing').fuseAmps, of('relay-diode-2-standing').fuseAmps]).toEqual([15, 15]);
    expect(
      findingsOf(build)
        .filter(({ rule }) => /^(PW|LO-6)/.test(rule))
        .filter(({ severity }) => severity !== 'note'),
    ).toEqual([]);
  });
});

describe('a run that no size is enough for', () => {
  /** A fan of 25 A, so far from its relay. */
  const far = (branchMetres: number): Build => {
    const build = edited(
      createBuild({
        id: 'far',
        now: '2026-01-01T00:00:00.000Z',
        name: 'Far',
        vehicle: '',
        engine: catalog.engines[0],
        ecu: ecu('orrery-48'),
      }),
      call('addDevice', { kind: kind('fan-large'), label: 'Fan', branchMetres }),
      call('allotAll', { keep: 'locked' }),
    );
    return build;
  };
  const drop = (build: Build) => findingsOf(build, netlist(build)).find(({ rule }) => rule === 'PW-3');
  test('is told how short it would have to be, and so short it does', () => {
    const found = drop(far(5))!;
    expect(found.remedy).toBeNull();
    const [, enough, laid] = /No thicker wire is laid there unasked: (.*) m of it instead of (.*) m would do/.exec(
      found.detail,
    )!;
    const spare = Number(laid) - Number(enough);
    expect(spare).toBeGreaterThan(0);
    expect(drop(far(5 - spare))).toBeUndefined();
    // Not shorter than need be: told in steps of 5 cm.
    expect(drop(far(5 - spare + 0.1))).toBeDefined();
  });
  test('a wire whose size was set by hand is first taken as thick as it was proposed', () => {
    const build = far(2);
    expect(drop(build)).toBeUndefined();
    const wire = netlist(build).wires.find(({ id }) => id.includes('.87') && id.includes('fan-large-1.1'))!;
    const thin = edited(build, call('setWire', { wireId: wire.id, squareMm: 1.5 }));
    const { remedy, detail } = drop(thin)!;
    expect(remedy?.calls).toContainEqual(call('setWire', { wireId: wire.id, squareMm: null }));
    expect(detail).not.toMatch(/unasked/);
    expect(drop(edited(thin, ...remedy!.calls))).toBeUndefined();
  });
  test('the last word holds: a size for the feed over one for a wire of its trunk, and the other way round', () => {
    const build = far(2);
    const run = netlist(build).wires.find(({ id }) => id.includes('.87') && id.includes('fan-large-1.1'))!;
    const sizes = (one: Build) => {
      const net = netlist(one);
      const { squareMm, squareByPerson } = net.circuits.find(({ id }) => id === 'fan-large-1')!;
      return [net.wireById.get(run.id)!.squareMm, squareMm, squareByPerson];
    };
    const byWire = edited(build, call('setWire', { wireId: run.id, squareMm: 4, colour: 'OG' }));
    expect(sizes(byWire)).toEqual([4, 4, true]);
    const byFeed = edited(byWire, call('setCircuit', { circuitId: 'fan-large-1', choice: { squareMm: 6 } }));
    expect(sizes(byFeed)).toEqual([6, 6, true]);
    // Its colour was not spoken of.
    expect(byFeed.loom.wires[run.id]).toEqual({ colour: 'OG' });
    expect(sizes(edited(byFeed, call('setWire', { wireId: run.id, squareMm: 2.5 })))).toEqual([2.5, 2.5, true]);
    const derived = edited(byWire, call('deriveCircuit', { circuitId: 'fan-large-1', fields: ['squareMm'] }));
    expect(sizes(derived)).toEqual([...sizes(build).slice(0, 2), false]);
    // Another of its figures leaves the wire alone.
    expect(sizes(edited(byWire, call('setCircuit', { circuitId: 'fan-large-1', choice: { fuseAmps: 40 } })))).toEqual([
      4,
      4,
      true,
    ]);
  });
});

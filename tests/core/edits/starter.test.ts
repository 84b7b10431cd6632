import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { coilCount, startBuild, starterParts } from '~/core/edits/starter';
import { pressureRange, sensorsIn, trait } from '~/core/devices/kind';
import { engineSchema, type Engine } from '~/core/engine/engine';
import { setsOfTurn } from '~/core/engine/outputs';
import { ordersAll, proposedOrder } from '~/core/engine/propose';
import { findingsOf } from '~/core/rules';
import { ecu, edited } from '../../helpers';
import { call } from '~/core/edits';
import type { Build } from '~/core/build/schema';

const engineNamed = (name: RegExp): Engine => catalog.engines.find((one) => name.test(one.name))!;
const parts = (engine: Engine, ecuId = 'orrery-48') => starterParts(engine, ecu(ecuId), catalog.kinds);
const ids = (engine: Engine, ecuId?: string) => parts(engine, ecuId).map(({ kind }) => kind.id);
const four = engineNamed(/^Inline four/);

describe('engines to start from', () => {
  test('are whole, and hold a single, a V6, odd-fire twins and vees, two-strokes and rotors', () => {
    for (const one of catalog.engines) expect(engineSchema.safeParse(one).success).toBe(true);
    const has = (test: (engine: Engine) => boolean) => catalog.engines.some(test);
    expect(has(({ cylinders }) => cylinders === 1)).toBe(true);
    expect(
      has(({ name, cylinders, firingAngles }) => /V6/.test(name) && cylinders === 6 && firingAngles === null),
    ).toBe(true);
    expect(has(({ cylinders, firingAngles }) => cylinders === 6 && firingAngles !== null)).toBe(true);
    expect(has(({ kind, cylinders }) => kind === 'rotary' && cylinders === 3)).toBe(true);
    expect(has(({ kind }) => kind === 'two-stroke')).toBe(true);
  });
  test('a firing order is proposed for every count, each cylinder once', () => {
    for (const kind of ['four-stroke', 'two-stroke', 'rotary'] as const)
      for (const lying of ['inline', 'vee', 'flat'] as const)
        for (const numbering of ['odd-even', 'halves'] as const)
          for (let cylinders = 1; cylinders <= 16; cylinders += 1)
            expect(ordersAll(proposedOrder({ kind, cylinders, lying, numbering }), cylinders)).toBe(true);
    const row = { lying: 'inline', numbering: 'odd-even' } as const;
    expect(proposedOrder({ kind: 'four-stroke', cylinders: 1, ...row })).toEqual([1]);
    expect(proposedOrder({ kind: 'rotary', cylinders: 3, ...row })).toEqual([1, 2, 3]);
    expect(ordersAll([1, 3, 4, 2], 1)).toBe(false);
  });
});

describe('parts follow the answers', () => {
  test('one manifold sensor, the narrowest that reaches, and a thermometer beside it', () => {
    for (const engine of [four, { ...four, aspiration: 'boosted', boostKpa: 140 } as const]) {
      const manifold = parts(engine).filter(({ kind }) => pressureRange(kind)?.measures === 'manifold');
      expect(manifold).toHaveLength(1);
      const needed = engine.aspiration === 'boosted' ? (101.325 + engine.boostKpa) * 1.1 : 100;
      expect(pressureRange(manifold[0].kind)!.most).toBeGreaterThanOrEqual(needed);
      const air = parts(engine).filter(
        ({ kind }) =>
          kind.system === 'Air and throttle' && sensorsIn(kind).some(({ quantity }) => quantity === 'temperature'),
      );
      expect(air).toHaveLength(1);
    }
    expect(ids({ ...four, aspiration: 'boosted', boostKpa: 80 })).toContain('map-2bar');
    expect(ids({ ...four, aspiration: 'boosted', boostKpa: 140 })).toContain('map-3bar');
  });
  test('shared ignition lays down a coil a pair, a distributor one, direct one a cylinder', () => {
    const coils = (ignition: Engine['ignition'], engine: Engine = four, ecuId = 'orrery-48') =>
      parts({ ...engine, ignition }, ecuId).filter(({ kind }) => trait(kind, 'coil'));
    expect(coils('direct')).toMatchObject([{ count: 4 }]);
    const [shared] = coils('wasted');
    expect(trait(shared.kind, 'coil')!.serves).toBe(2);
    expect(shared.count).toBe(2);
    expect(coils('wasted', engineNamed(/^V6 of 60/))[0].count).toBe(3);
    // No two cylinders of an odd-fire twin fire 360 degrees apart.
    expect(coils('wasted', engineNamed(/^V-twin/))[0].count).toBe(2);
    expect(coils('distributor')).toHaveLength(1);
    expect(coils('distributor')[0].count).toBeNull();
    for (const ignition of ['direct', 'wasted', 'distributor'] as const)
      for (const ecuId of ['orrery-26', 'orrery-48'])
        expect(trait(coils(ignition, four, ecuId)[0].kind, 'coil')!.igniter).toBe(true);
  });
  test('a cam sensor only where there is a cam to read and a phase to know', () => {
    const cam = (engine: Engine) => parts(engine).some(({ kind }) => trait(kind, 'trigger')?.shaft === 'cam');
    expect(cam(four)).toBe(true);
    expect(cam(engineNamed(/^Two-rotor/))).toBe(false);
    expect(cam(engineNamed(/^Two-stroke/))).toBe(false);
    // A spark each asks for the phase as well; a spark every turn does not.
    expect(cam({ ...four, injection: 'batch' })).toBe(true);
    expect(cam({ ...four, injection: 'batch', ignition: 'wasted' })).toBe(false);
  });
  test('nothing for fuel beside a carburettor', () => {
    const list = parts({ ...four, injection: 'none' });
    expect(list.some(({ kind }) => trait(kind, 'injector') || kind.id === 'fuel-pump')).toBe(false);
  });
});

test.each(catalog.engines.map((engine) => [engine.name, engine] as const))(
  'a new build of a %s is made and placed',
  (_, engine) => {
    for (const ignition of ['direct', 'wasted'] as const) {
      const made = startBuild({
        id: 'new',
        now: '2026-01-01T00:00:00.000Z',
        name: 'New',
        vehicle: '',
        engine: { ...engine, ignition },
        ecu: ecu('orrery-94'),
        kinds: catalog.kinds,
        withUsual: true,
      });
      if (!made.ok) throw new Error(made.problem.sentence);
      const build = edited(made.value, call('allotAll', { keep: 'locked' }));
      const labels = build.devices.map(({ label }) => label);
      expect(new Set(labels).size).toBe(labels.length);
      // Coils that fire by pairs carry both cylinders.
      if (ignition === 'wasted' && setsOfTurn(engine).every(({ length }) => length === 2))
        expect(
          build.devices.filter((device) => trait(build.kinds[device.kindId], 'coil')).map(({ serves }) => serves),
        ).toEqual(
          setsOfTurn(engine)
            .map((pair) => pair.toSorted((one, other) => one - other))
            .sort((one, other) => one[0] - other[0]),
        );
      // SE-1 and SE-3 stopped most new builds: neither has a reason here.
      expect(findingsOf(build).filter(({ rule }) => ['SE-1', 'SE-3', 'TR-2'].includes(rule))).toEqual([]);
    }
  },
);

test('boost without a target is asked for, not stopped', () => {
  const made = startBuild({
    id: 'new',
    now: '2026-01-01T00:00:00.000Z',
    name: 'New',
    vehicle: '',
    engine: { ...four, aspiration: 'boosted', boostKpa: 0 },
    ecu: ecu('orrery-48'),
    kinds: catalog.kinds,
    withUsual: true,
  });
  if (!made.ok) throw new Error(made.problem.sentence);
  expect(findingsOf(made.value).filter(({ rule }) => rule === 'SE-3')).toMatchObject([
    { severity: 'fix', title: 'Boost wanted is not told' },
  ]);
});

test('a part with pressure and temperature in one is judged by its temperature pin alone', () => {
  const tmap = catalog.kinds.find(({ id }) => id === 'tmap-3bar')!;
  const build = edited(startedOn('orrery-94'), call('addDevice', { kind: tmap }), call('allotAll', { keep: 'locked' }));
  expect(findingsOf(build).filter(({ rule }) => rule === 'SE-1')).toEqual([]);
  // On a pin without one, the temperature is told, and the remedy moves that wire only.
  const free = build.ecu.pins.find(
    (pin) => pin.label.startsWith('Analog') && !Object.values(build.assignments).includes(pin.id),
  )!;
  const wrong: Build = { ...build, assignments: { ...build.assignments, 'tmap-3bar-1.2': free.id } };
  const [finding] = findingsOf(wrong).filter(({ rule }) => rule === 'SE-1');
  expect(finding.detail).toContain(free.id);
  const mended = edited(wrong, ...finding.remedy!.calls);
  expect(mended.assignments['tmap-3bar-1.4']).toBe(wrong.assignments['tmap-3bar-1.4']);
  expect(findingsOf(mended).filter(({ rule }) => rule === 'SE-1')).toEqual([]);
  // A resistor outside does as well.
  const outside = edited(wrong, call('setPullUp', { deviceId: 'tmap-3bar-1', ohms: 2490 }));
  expect(findingsOf(outside).filter(({ rule }) => rule === 'SE-1')).toEqual([]);
});

const startedOn = (ecuId: string) => {
  const made = startBuild({
    id: 'new',
    now: '2026-01-01T00:00:00.000Z',
    name: 'New',
    vehicle: '',
    engine: four,
    ecu: ecu(ecuId),
    kinds: [],
    withUsual: false,
  });
  if (!made.ok) throw new Error(made.problem.sentence);
  return made.value;
};

describe('coils counted', () => {
  const count = (cylinders: number, ignition: Engine['ignition'], firingOrder: number[]) =>
    coilCount(parts({ ...four, cylinders, ignition, firingOrder, firingAngles: null }));
  test('one each, one for two that fire a turn apart, one before a distributor', () => {
    expect(count(4, 'direct', [1, 3, 4, 2])).toBe(4);
    expect(count(4, 'wasted', [1, 3, 4, 2])).toBe(2);
    expect(count(4, 'distributor', [1, 3, 4, 2])).toBe(1);
  });
  test('five cylinders have no pairs: what is laid down is counted, not half of them', () => {
    const five = count(5, 'wasted', [1, 2, 4, 5, 3]);
    expect(setsOfTurn({ ...four, cylinders: 5, firingOrder: [1, 2, 4, 5, 3], firingAngles: null })).toHaveLength(5);
    expect(five).toBe(5);
  });
});

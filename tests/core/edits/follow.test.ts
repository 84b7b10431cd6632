import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import type { Build } from '~/core/build/schema';
import { applyEdit, call } from '~/core/edits';
import { answersOf, followEngine, type EngineAnswers, type EngineChange } from '~/core/edits/follow';
import { startBuild } from '~/core/edits/starter';
import type { Engine } from '~/core/engine/engine';
import { findingsOf } from '~/core/rules';
import { demoBuild, ecu, edited, emptyBuild } from '../../helpers';

function started(name: RegExp, ecuId: string, part: Partial<Engine> = {}): Build {
  const engine = { ...catalog.engines.find((one) => name.test(one.name))!, ...part };
  const built = startBuild({
    id: 'one',
    now: '2026-11-28T09:00:00.000Z',
    name: 'One',
    vehicle: '',
    engine,
    ecu: ecu(ecuId),
    kinds: [...catalog.kinds],
    withUsual: true,
  });
  if (!built.ok) throw new Error(built.problem.sentence);
  return edited(built.value, call('allotAll', { keep: 'placed' }));
}
const follow = (build: Build, part: Partial<EngineAnswers>): EngineChange =>
  followEngine(build, { ...answersOf(build), ...part }, catalog.kinds);
const made = (build: Build, change: EngineChange): Build => edited(build, ...change.calls);
const stops = (build: Build) => findingsOf(build).filter(({ severity }) => severity === 'stop');

describe('changing an answer says what it brings', () => {
  test('a coil each becomes shared ones: four drop, two are added, and nothing is left wrong', () => {
    const four = started(/^Inline four/, 'orrery-48');
    const change = follow(four, { engine: { ...four.engine, ignition: 'wasted' } });
    expect(change.drops).toHaveLength(4);
    expect(change.adds).toHaveLength(2);
    const after = edited(made(four, change), call('allotAll', { keep: 'placed' }));
    expect(after.devices.filter(({ kindId }) => kindId.includes('coil')).map(({ serves }) => serves)).toEqual([
      [1, 4],
      [2, 3],
    ]);
    expect(stops(after)).toEqual([]);
    // And back again.
    const back = follow(after, { engine: four.engine });
    expect([back.adds.length, back.drops.length]).toEqual([4, 2]);
  });
  test('fewer cylinders drop the parts of those that are gone; more add theirs of the kind that is fitted', () => {
    const six = started(/^Inline six/, 'orrery-94');
    const four = catalog.engines.find(({ name }) => name.startsWith('Inline four'))!;
    const fewer = follow(six, { engine: four });
    expect(fewer.drops).toHaveLength(4);
    expect(fewer.adds).toEqual([]);
    const more = follow(made(six, fewer), { engine: six.engine });
    expect(more.adds).toHaveLength(4);
    expect(new Set(made(made(six, fewer), more).devices.map(({ kindId }) => kindId))).toEqual(
      new Set(six.devices.map(({ kindId }) => kindId)),
    );
  });
  test('a second plug, staged injectors, a carburettor', () => {
    const four = started(/^Inline four/, 'orrery-94');
    expect(follow(four, { engine: { ...four.engine, plugs: 2 } }).adds).toHaveLength(4);
    expect(follow(four, { engine: { ...four.engine, injectors: 2 } }).adds).toHaveLength(4);
    const carburettor = follow(four, { engine: { ...four.engine, injection: 'none' } });
    expect([carburettor.adds, carburettor.drops.length]).toEqual([[], 4]);
  });
  test('the cam sensor, the button with what holds it back, the alternator', () => {
    const four = started(/^Inline four/, 'orrery-48');
    expect(follow(four, { phase: false }).drops).toEqual([expect.stringMatching(/^Cam/)]);
    expect(follow(made(four, follow(four, { phase: false })), { phase: true }).adds).toEqual([
      expect.stringMatching(/^Cam/),
    ]);
    expect(follow(four, { starting: 'button' }).adds).toEqual(['Start button', 'Neutral switch']);
    const charged = made(four, follow(made(four, follow(four, { charging: 'none' })), { charging: 'alternator' }));
    expect(charged.power.charging).toBe('alternator');
  });
  test('what keeps its pin and works something else is named, and so are the proofs that fall', () => {
    const demo = demoBuild();
    const change = follow(demo, { engine: { ...demo.engine, firingOrder: [1, 3, 5, 4, 2] } });
    expect([change.adds, change.drops]).toEqual([[], []]);
    // By cylinder an output belongs to its cylinder, whatever the order.
    expect(change.moves).toEqual([]);
    const inTurn = edited(demo, call('setOutputOrder', { outputOrder: 'in-turn' }), call('allotAll', { keep: 'most' }));
    const turned = follow(inTurn, { engine: { ...demo.engine, firingOrder: [1, 3, 5, 4, 2] } });
    expect(turned.moves.length).toBeGreaterThan(1);
    expect(turned.moves.every((one) => /\(output \d\)$/.test(one))).toBe(true);
    const spark = follow(demo, { engine: { ...demo.engine, ignition: 'wasted' } });
    expect(spark.offset).toBe(demo.trigger.offsetConfirmed);
  });
  test('an empty list stays empty, and the same answers change nothing', () => {
    const empty = emptyBuild(4);
    const change = follow(empty, { engine: { ...empty.engine, ignition: 'wasted', plugs: 2 } });
    expect([change.adds, change.drops, change.calls.length]).toEqual([[], [], 1]);
    const demo = demoBuild();
    expect(follow(demo, {})).toMatchObject({ adds: [], drops: [], moves: [], readings: 0, checks: 0, offset: false });
  });
  test('every engine to every other: it is one step that holds, and never leaves a part for a cylinder that is gone', () => {
    for (const from of catalog.engines)
      for (const to of catalog.engines) {
        const build = started(new RegExp(`^${from.name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}$`), 'orrery-94');
        const change = follow(build, { engine: to });
        expect(change.problem).toBeNull();
        const after = change.calls.reduce((current, { name, args }) => {
          const result = applyEdit(current, name, args);
          if (!result.ok) throw new Error(result.problem.sentence);
          return result.value.build;
        }, build);
        expect(after.devices.flatMap(({ serves }) => serves).every((one) => one <= to.cylinders)).toBe(true);
        expect(findingsOf(after).filter(({ rule }) => rule === 'OE-6' || rule === 'OE-13')).toEqual([]);
      }
  });
});

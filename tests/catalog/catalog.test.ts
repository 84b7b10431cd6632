import { describe, expect, test } from '@jest/globals';
import { z } from 'zod';
import { catalog, entry } from '~/catalog';
import { whyOpen } from '~/core/allot/allot';
import { call } from '~/core/edits';
import { solveCircuit } from '~/core/circuit/solve';
import { kindSchema, trait } from '~/core/devices/kind';
import { ecuSchema, isFixedPin, pinsOfKind } from '~/core/ecu/ecu';
import { cavityPlace } from '~/core/ecu/face';
import { engineSchema } from '~/core/engine/engine';
import { needsOf } from '~/core/netlist/needs';
import { netlist } from '~/core/netlist/netlist';
import { runOf } from '~/core/netlist/run';
import { proveTests } from '~/core/prove/tests';
import { findingsOf } from '~/core/rules';
import { symptomsOf } from '~/core/trace/symptoms';
import { traceFaults } from '~/core/trace/trace';
import { wheelSchema } from '~/core/wheels/wheel';
import { edited, emptyBuild } from '../helpers';

const catalogSchema = z.object({
  ecus: z.array(ecuSchema),
  kinds: z.array(kindSchema),
  wheels: z.array(wheelSchema),
  engines: z.array(engineSchema),
});

describe('the catalog', () => {
  test('is what its schemas make of it, with nothing left for them to fill in', () => {
    expect(catalogSchema.parse(catalog)).toEqual(catalog);
  });
  test('is large enough', () => {
    expect(catalog.ecus.map((ecu) => ecu.pins.length)).toEqual([26, 48, 94]);
    expect(catalog.kinds.length).toBeGreaterThanOrEqual(25);
    expect(catalog.wheels.length).toBeGreaterThanOrEqual(10);
    expect(catalog.engines.length).toBeGreaterThanOrEqual(12);
  });
  test('has no id twice, and a wrong id is a bug', () => {
    for (const list of [catalog.ecus, catalog.kinds, catalog.wheels])
      expect(new Set(list.map((one) => one.id)).size).toBe(list.length);
    expect(() => entry(catalog.ecus, 'none')).toThrow(/no entry none/);
  });
  test('names one invented maker', () => {
    expect(new Set(catalog.ecus.map((ecu) => ecu.maker))).toEqual(new Set(['Orrery']));
  });
});

describe.each(catalog.ecus.map((ecu) => [ecu.model, ecu] as const))('%s', (_, ecu) => {
  test('has a pin in every cavity of its connectors but the last', () => {
    for (const connector of ecu.connectors) {
      const count = connector.rows.reduce((sum, row) => sum + row, 0);
      const cavities = ecu.pins.filter((pin) => pin.connector === connector.id).map((pin) => pin.cavity);
      // The last cavities of a housing may have no terminal.
      expect(cavities.sort((a, b) => a - b)).toEqual(Array.from({ length: cavities.length }, (_unused, i) => i + 1));
      expect(count - cavities.length).toBeLessThanOrEqual(3);
      expect(cavityPlace(connector, count)).toEqual({
        row: connector.rows.length,
        place: connector.rows[connector.rows.length - 1],
      });
    }
  });
  test('has the supplies it cannot do without', () => {
    for (const kind of ['supply-5v', 'sensor-ground', 'power-ground', 'switched'] as const)
      expect(pinsOfKind(ecu, kind).length).toBeGreaterThan(0);
    expect(pinsOfKind(ecu, 'power-ground').length).toBeGreaterThanOrEqual(ecu.groundsAsked);
  });
  test('keeps pairs whole: a plus and a minus each', () => {
    const pairs = new Map<string, string[]>();
    for (const pin of ecu.pins)
      for (const { kind, pair, side } of pin.abilities)
        if (pair && side && kind !== 'stepper') pairs.set(pair, [...(pairs.get(pair) ?? []), side]);
    for (const sides of pairs.values()) expect(sides.sort()).toEqual(['minus', 'plus']);
  });
  test('numbers its outputs without a gap', () => {
    for (const kind of ['injector', 'ignition-logic'] as const) {
      const numbers = pinsOfKind(ecu, kind).map(
        (pin) => pin.abilities.find((ability) => ability.kind === kind)!.output!,
      );
      expect(numbers.sort((a, b) => a - b)).toEqual(numbers.map((_unused, i) => i + 1));
    }
  });
  test('holds the slice’s promises', () => {
    const has = (kind: Parameters<typeof pinsOfKind>[1]) => pinsOfKind(ecu, kind).length > 0;
    if (ecu.id === 'orrery-26') {
      expect(ecu.outputOrder).toBe('in-turn');
      expect([has('vr'), has('ignition-driver'), has('hall')]).toEqual([false, false, true]);
    } else {
      expect(ecu.outputOrder).toBe('by-cylinder');
      expect([has('half-bridge'), has('vr'), has('hall'), has('knock'), has('can')]).toEqual([
        true,
        true,
        true,
        true,
        true,
      ]);
    }
    if (ecu.id === 'orrery-94') expect(has('wideband')).toBe(true);
    expect(ecu.pins.filter(isFixedPin).length).toBeGreaterThan(3);
  });
});

describe.each(catalog.kinds.map((kind) => [kind.id, kind] as const))('kind %s', (_, kind) => {
  const build = edited(
    emptyBuild(4, 'orrery-94'),
    call('addDevice', { kind, label: 'Part' }),
    call('addDevice', { kind, label: 'Twin' }),
    call('allotAll', { keep: 'locked' }),
  );
  const net = netlist(build);
  test('names its terminals and carries a note a person can use', () => {
    expect(kind.note.length).toBeGreaterThan(15);
    expect(kind.terminals.length).toBeGreaterThan(0);
  });
  test('is placed on the largest ECU or told why not, wired and under test', () => {
    for (const need of needsOf(build)) {
      const pinId = build.assignments[need.id];
      // No catalog ECU has peak-and-hold drivers: low-impedance injectors must be refused, with the figure.
      if (pinId === undefined)
        expect(whyOpen(build, need.id)!.reason).toMatch(
          kind.id.startsWith('injector-low')
            ? /No pin is an injector driver: .* has [23]\.\d Ω/
            : /only \d+ (pin|pair|set)s? can|could only go to|compete for/,
        );
      else expect(net.nodeOf.get(need.end)!.ends).toContain(`ecu:${pinId}`);
    }
    const covered = new Set(proveTests(build, net).flatMap((one) => one.wireIds));
    expect(net.wires.every((wire) => covered.has(wire.id))).toBe(true);
  });
  test('has a run, settles in the circuit and breaks no rule by crashing', () => {
    // A hose has no wire.
    const wired = kind.terminals.some(({ destination }) => destination.to !== 'nothing');
    expect(runOf(net, { type: 'device', deviceId: build.devices[0].id }) !== null).toBe(wired);
    const solution = solveCircuit(build, net, 'outputs-on');
    expect(solution.settled).toBe(true);
    expect([...solution.voltages].every((volts) => Number.isFinite(volts) && volts > -1 && volts < 15)).toBe(true);
    expect(Array.isArray(findingsOf(build, net))).toBe(true);
  });
  test('can be traced when it fails, where it is a thing that can', () => {
    const mine = symptomsOf(net).find((symptom) => symptom.deviceId === build.devices[0].id);
    if (trait(kind, 'trigger') || !mine) return;
    expect(traceFaults(build, net, { symptomId: mine.id, readings: [] })!.candidates[0].probability).toBeGreaterThan(
      0.02,
    );
  });
});

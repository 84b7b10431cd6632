import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import type { Build } from '~/core/build/schema';
import { call } from '~/core/edits';
import { bankOf, bankOfAll, banksFor, banksOf, lyingOf, numberingOf } from '~/core/engine/banks';
import { engineSchema } from '~/core/engine/engine';
import { oddFireAngles, proposedOrder } from '~/core/engine/propose';
import { bankOfDevice, twinsOf } from '~/core/netlist/twins';
import { knownDevices, netlist } from '~/core/netlist/netlist';
import { findingsOf } from '~/core/rules';
import { gatesOf } from '~/core/fireup/gates';
import { progressOf } from '~/core/prove/verdict';
import { proveTests } from '~/core/prove/tests';
import { traceFaults } from '~/core/trace/trace';
import { createBuild } from '~/core/edits/create';
import { ecu, edited, emptyBuild, kind } from '../../helpers';

const vee = catalog.engines.find(({ name }) => name.startsWith('V6 of 60'))!;

describe('how cylinders lie', () => {
  test('two banks, odd and even or by halves; one row where none are told', () => {
    expect(banksFor(6, 'odd-even')).toEqual([
      [1, 3, 5],
      [2, 4, 6],
    ]);
    expect(banksFor(5, 'halves')).toEqual([
      [1, 2, 3],
      [4, 5],
    ]);
    expect(banksOf({ ...vee, banks: [] })).toEqual([[1, 2, 3, 4, 5, 6]]);
    expect([lyingOf(vee), lyingOf({ ...vee, banks: [] }), lyingOf({ ...vee, bankDegrees: 180 })]).toEqual([
      'vee',
      'inline',
      'flat',
    ]);
    expect(numberingOf(vee)).toBe('odd-even');
    expect(
      numberingOf({
        ...vee,
        banks: [
          [1, 2, 5],
          [3, 4, 6],
        ],
      }),
    ).toBeNull();
    expect([
      bankOf(vee, 5),
      bankOf(vee, 6),
      bankOfAll(vee, [1, 3]),
      bankOfAll(vee, [1, 4]),
      bankOfAll(vee, []),
    ]).toEqual([1, 2, 1, null, null]);
  });
  test('banks that leave a cylinder out, or name one twice, are refused by name', () => {
    const refused = engineSchema.safeParse({
      ...vee,
      banks: [
        [1, 3, 5],
        [2, 4],
      ],
    });
    expect(refused.success ? '' : refused.error.issues[0].message).toContain('each cylinder from 1 to 6 once');
  });
  // Consecutive firings of an even V with shared pins go from bank to bank: pairs across the V share a pin.
  test.each([
    [6, 'odd-even'],
    [6, 'halves'],
  ] as const)('a V%i numbered %s fires from bank to bank', (cylinders, numbering) => {
    const banks = banksFor(cylinders, numbering);
    const order = proposedOrder({ kind: 'four-stroke', cylinders, lying: 'vee', numbering });
    const sides = order.map((cylinder) => banks.findIndex((bank) => bank.includes(cylinder)));
    expect(sides).toEqual([0, 1, 0, 1, 0, 1]);
  });
  // The two numberings of one V8 are the same engine: cross-plane, each bank fires at 180, 90, 180 and 270 in some turn of it.
  test.each(['odd-even', 'halves'] as const)('a cross-plane V8 numbered %s fires each bank unevenly', (numbering) => {
    const order = proposedOrder({ kind: 'four-stroke', cylinders: 8, lying: 'vee', numbering });
    for (const bank of banksFor(8, numbering)) {
      const at = order.flatMap((cylinder, place) => (bank.includes(cylinder) ? [place * 90] : []));
      const gaps = at.map((angle, i) => (i + 1 < at.length ? at[i + 1] : at[0] + 720) - angle);
      expect([...gaps].sort((a, b) => a - b)).toEqual([90, 180, 180, 270]);
    }
  });
  test('an odd-fire V fires by its angle: 315 and 405 degrees of a 45 degree twin, 90 and 150 of a six', () => {
    expect(oddFireAngles(2, 45)).toEqual([0, 315]);
    expect(oddFireAngles(6, 90)).toEqual([0, 90, 240, 330, 480, 570]);
    expect(oddFireAngles(8, 90)).toBeNull();
    expect(oddFireAngles(6, 180)).toBeNull();
  });
});

describe('parts of one bank', () => {
  const banked: Build = edited(
    emptyBuild(6, 'orrery-94'),
    call('setEngine', { engine: vee }),
    call('addDevice', { kind: kind('wideband-volts') }),
    call('addDevice', { kind: kind('wideband-volts') }),
    call('addDevice', { kind: kind('injector-high'), perCylinder: true }),
    call('allotAll', { keep: 'placed' }),
  );
  const told = edited(
    banked,
    call('editDevice', { deviceId: 'wideband-volts-1', bank: 1 }),
    call('editDevice', { deviceId: 'wideband-volts-2', bank: 2 }),
  );
  const found = (build: Build, id: string) => findingsOf(build).filter(({ rule }) => rule === id);

  test('two oxygen sensors without a bank are told, until each has one', () => {
    expect(found(banked, 'SE-16')).toHaveLength(1);
    expect(found(banked, 'SE-16')[0].detail).toContain('bank 2, cylinders 2, 4, 6');
    expect(found(told, 'SE-16')).toEqual([]);
    // In one row there are no sides.
    expect(found(edited(banked, call('setEngine', { engine: { ...vee, banks: [] } })), 'SE-16')).toEqual([]);
  });
  test('of cylinders it follows from them, else it is as told', () => {
    const by = (id: string) =>
      bankOfDevice(
        told.engine,
        told.devices.find((one) => one.id === id)!,
      );
    expect([by('injector-high-5'), by('injector-high-6'), by('wideband-volts-2')]).toEqual([1, 2, 2]);
  });
  test('one kind on two banks is a pair of twins: to be labelled, and suspected of being crossed', () => {
    expect(kind('wideband-volts').twinRisk).toBe(false);
    const groups = (build: Build) => twinsOf(build.engine, knownDevices(build)).map((group) => group[0].kind.id);
    expect(groups(banked)).not.toContain('wideband-volts');
    expect(groups(told)).toContain('wideband-volts');
    expect(found(told, 'LO-8').some(({ id }) => id.includes('wideband-volts'))).toBe(true);
    const symptom = { symptomId: 'dead:wideband-volts-1', readings: [] };
    const crossed = (build: Build) =>
      traceFaults(build, netlist(build), symptom)!.candidates.some(({ title }) => title.startsWith('Plugs crossed'));
    expect([crossed(banked), crossed(told)]).toEqual([false, true]);
  });
  test('at the first fire the bank that is fed more must answer by its own sensor', () => {
    const net = netlist(told);
    const gate = gatesOf(told, net, progressOf(told, net, proveTests(told, net)), findingsOf(told)).find(
      ({ id }) => id === 'first-fire',
    )!;
    expect(gate.checks.find(({ id }) => id === 'banks')?.hint).toContain('cylinders 1, 3, 5');
  });
});

test('an engine is given a power to start from by how it breathes: a rotor about twice its displacement', () => {
  const start = (part: Partial<typeof vee>) =>
    createBuild({
      id: 'one',
      now: '2026-11-28T09:00:00.000Z',
      name: 'One',
      vehicle: '',
      ecu: ecu('orrery-48'),
      engine: { ...vee, displacementCc: 1300, ...part },
    }).fuel.powerKw;
  expect(start({ kind: 'rotary' })).toBe(130);
  expect(start({ kind: 'four-stroke' })).toBe(65);
  expect(start({ kind: 'two-stroke' })).toBe(91);
});

import { describe, expect, test } from '@jest/globals';
import { catalog } from '~/catalog';
import { compareEcus } from '~/core/ways/compare';
import { conflictsOf } from '~/core/allot/conflict';
import { ioCsv, ioRows, ioTsv } from '~/core/allot/io-sheet';
import { cavityHelp, pinSteps, staleCrimps } from '~/core/allot/pinning';
import { shortfalls, shortfallWords, spareWords, sparesOf } from '~/core/allot/spares';
import { allotSupplies } from '~/core/allot/supplies';
import { explain, waysOut } from '~/core/ways/ways';
import { call } from '~/core/edits';
import { pinningOrders, type Build } from '~/core/build/schema';
import { netlist } from '~/core/netlist/netlist';
import { needsOf } from '~/core/netlist/needs';
import { findingsOf } from '~/core/rules';
import { demoBuild, ecu, edited, emptyBuild, kind } from '../../helpers';

const at = '2026-03-01T10:00:00.000Z';
const help = { kinds: catalog.kinds, ecus: catalog.ecus };
const open = (build: Build): number => needsOf(build).filter((need) => build.assignments[need.id] === undefined).length;
const ways = (build: Build) => conflictsOf(build).flatMap((conflict) => waysOut(build, conflict, help));
const impossible = () => edited(demoBuild(), call('addDevice', { kind: kind('boost-solenoid'), label: 'Water pump' }));

describe('ways out', () => {
  test('each keeps its word: one press serves as many as it says', () => {
    const builds = [
      impossible(),
      edited(
        emptyBuild(4, 'orrery-26'),
        ...Array.from({ length: 4 }, () => call('addDevice', { kind: kind('clt-ntc') })),
      ),
      edited(
        emptyBuild(4, 'orrery-26'),
        ...Array.from({ length: 9 }, () => call('addDevice', { kind: kind('oil-pressure') })),
      ),
    ];
    for (const build of builds) {
      const before = open(edited(build, call('allotAll', { keep: 'most' })));
      const found = ways(build);
      expect(found.length).toBeGreaterThan(1);
      for (const way of found) {
        const after = edited(build, ...way.calls);
        expect({ way: way.label, open: before - open(after) }).toEqual({ way: way.label, open: way.gains });
        expect(way.servesAll).toBe(open(after) === 0);
      }
      expect(found.map(({ cost }) => cost)).toEqual([...found.map(({ cost }) => cost)].sort((a, b) => a - b));
    }
  });
  test('an on/off output, a relay, a resistor, a module, the next ECU and leaving out are all offered where they help', () => {
    const codes = new Set(ways(impossible()).map(({ code }) => code));
    for (const code of ['next-ecu', 'leave-out'] as const) expect(codes).toContain(code);
    const warm = edited(
      emptyBuild(4, 'orrery-26'),
      ...Array.from({ length: 4 }, () => call('addDevice', { kind: kind('clt-ntc') })),
    );
    expect(ways(warm).map(({ code }) => code)).toContain('pull-up');
    const many = edited(
      emptyBuild(4, 'orrery-48'),
      ...Array.from({ length: 14 }, () => call('addDevice', { kind: kind('oil-pressure') })),
    );
    expect(ways(many).find(({ code }) => code === 'can-module')?.label).toMatch(/Add a CAN module/);
    const pwm = edited(
      emptyBuild(4, 'orrery-26'),
      ...Array.from({ length: 6 }, () => call('addDevice', { kind: kind('boost-solenoid') })),
    );
    expect(ways(pwm).map(({ code }) => code)).toContain('on-off');
    const strong = edited(emptyBuild(4, 'orrery-26'), call('addDevice', { kind: kind('boost-solenoid') }));
    const heavy: Build = {
      ...strong,
      devices: strong.devices.map((device) => ({
        ...device,
        overrides: { '2': { to: 'pin', ask: { kind: 'low-side', amps: 8 } } },
      })),
    };
    expect(ways(heavy)[0].code).toBe('relay');
  });
  test('a module that is fitted takes more before another is bought', () => {
    const many = edited(
      emptyBuild(4, 'orrery-48'),
      ...Array.from({ length: 14 }, () => call('addDevice', { kind: kind('oil-pressure') })),
    );
    const first = ways(many).find(({ code }) => code === 'can-module')!;
    const fitted = edited(many, ...first.calls);
    const more = edited(fitted, call('addDevice', { kind: kind('oil-pressure') }));
    const second = ways(more).find(({ code }) => code === 'can-module')!;
    expect(second.label).toMatch(/to CAN input and output module$/);
    expect(second.cost).toBeLessThan(first.cost);
    expect(netlist(edited(more, ...second.calls)).wires.some((wire) => /can-io-module-1\.A2/.test(wire.id))).toBe(true);
  });
  test('of those alike three are told, and each of the others would help as much', () => {
    const many = edited(
      emptyBuild(4, 'orrery-48'),
      ...Array.from({ length: 20 }, () => call('addDevice', { kind: kind('oil-pressure') })),
    );
    const before = open(edited(many, call('allotAll', { keep: 'most' })));
    const [{ conflict, ways: told, more }] = explain(many, help)!;
    const out = told.filter(({ code }) => code === 'leave-out');
    expect(out).toHaveLength(3);
    const members = needsOf(many).filter(({ id }) => conflict.needs.includes(id) || conflict.more.includes(id));
    expect(members.length).toBeGreaterThan(6);
    for (const need of members.filter(({ label }) => !out.some((way) => way.label.includes(`${label} out`)))) {
      const rewired = call('setDestination', {
        deviceId: need.deviceId!,
        terminalId: need.id.slice(need.deviceId!.length + 1),
        destination: { to: 'nothing' },
      });
      const after = open(edited(many, rewired, call('allotAll', { keep: 'most' })));
      expect({ need: need.label, gains: before - after }).toEqual({ need: need.label, gains: out[0].gains });
    }
    const codes = [...new Set(told.filter(({ code }) => code !== 'next-ecu').map(({ code }) => code))];
    expect(more).toBe(codes.length * members.length - told.filter(({ code }) => code !== 'next-ecu').length);
  });
  test('a lock and a never that are the only reason come first', () => {
    const two = edited(emptyBuild(4, 'orrery-48'), call('addDevice', { kind: kind('knock') }));
    const barred = edited(two, call('setNever', { needId: null, pinId: 'B4', never: true }));
    const held = edited(
      emptyBuild(4, 'orrery-26'),
      call('addDevice', { kind: kind('oil-pressure') }),
      call('addDevice', { kind: kind('oil-pressure') }),
      call('addDevice', { kind: kind('clt-ntc') }),
      call('assign', { needId: 'oil-pressure-1.3', pinId: 'A15' }),
      call('assign', { needId: 'oil-pressure-2.3', pinId: 'A16' }),
      call('lock', { needId: 'oil-pressure-1.3', locked: true }),
      call('lock', { needId: 'oil-pressure-2.3', locked: true }),
    );
    const [locks] = conflictsOf(held);
    expect(locks.locked).toHaveLength(2);
    expect(locks.sentence).toMatch(/is locked on A15/);
    expect(waysOut(held, locks, help)[0].code).toBe('unlock');
    const [conflict] = conflictsOf(barred);
    expect(conflict.never).toBe(true);
    expect(waysOut(barred, conflict, help)[0].code).toBe('lift-never');
  });
});

describe('the same needs on every ECU', () => {
  const fits = compareEcus(demoBuild(), catalog.ecus)!;
  test('the own one first where it fits, too small ones last with their reasons', () => {
    expect(fits.map(({ ecuId, fits: all }) => [ecuId, all])).toEqual([
      ['orrery-48', true],
      ['orrery-94', true],
      ['orrery-26', false],
    ]);
    expect(fits[0]).toMatchObject({ own: true, moved: 0, trigger: 'cycle', spareCount: 1 });
    expect(fits[1].moved).toBe(38);
    expect(fits[2].reasons.length).toBeGreaterThan(2);
    expect(
      fits[2].served + conflictsOf(edited(demoBuild(), call('chooseEcu', { ecu: ecu('orrery-26') }))).length,
    ).toBeLessThanOrEqual(38);
  });
  test('the plan it shows is the plan that is taken', () => {
    const fit = fits[1];
    const taken = edited(
      demoBuild(),
      call('chooseEcu', { ecu: ecu('orrery-94') }),
      call('placeAll', {
        assignments: Object.fromEntries(fit.assignments.map(({ needId, pinId }) => [needId, pinId])),
        shared: {},
        label: 'x',
      }),
    );
    expect(open(taken)).toBe(0);
    expect(
      findingsOf(taken).filter(({ rule }) => rule.startsWith('PL-') && rule !== 'PL-5' && rule !== 'PL-6'),
    ).toEqual([]);
  });
  test('can be stopped', () => {
    expect(compareEcus(demoBuild(), catalog.ecus, () => true)).toBeNull();
  });
});

describe('spares to keep', () => {
  test('what works by pairs is counted by pairs', () => {
    const empty = emptyBuild(4, 'orrery-94');
    const words = spareWords(sparesOf(empty));
    expect(words).toMatch(/(^|, )1 VR pair(,|$)/);
    expect(words).toMatch(/2 CAN pairs/);
    expect(words).toMatch(/2 half-bridge pairs/);
    // Half a pair is none.
    const half = edited(empty, call('setNever', { needId: null, pinId: 'C1', never: true }));
    expect(spareWords(sparesOf(half))).not.toMatch(/VR pair/);
    expect(shortfalls(edited(empty, call('setReserve', { kind: 'can', count: 3 })))).toEqual([
      { kind: 'can', asked: 3, left: 2 },
    ]);
  });
  test('by kind, as an alternate too', () => {
    const build = edited(
      emptyBuild(4, 'orrery-26'),
      call('setReserve', { kind: 'low-side', count: 9 }),
      call('setReserve', { kind: 'any', count: 3 }),
    );
    expect(shortfalls(build)).toEqual([{ kind: 'low-side', asked: 9, left: 7 }]);
    expect(shortfallWords(shortfalls(build))).toBe('9 low-side outputs asked, 7 left');
    expect(shortfalls(edited(build, call('setReserve', { kind: 'low-side', count: 0 })))).toEqual([]);
  });
});

describe('5 V supplies', () => {
  const sensors = (count: number) =>
    edited(
      emptyBuild(4, 'orrery-48'),
      ...Array.from({ length: count }, () => call('addDevice', { kind: kind('map-3bar') })),
    );
  test('stay by bank while they carry it, and are spread when they do not', () => {
    expect(allotSupplies(sensors(5)).shared).toEqual({});
    const many = sensors(14);
    const plan = allotSupplies(many);
    expect(plan.fits).toBe(true);
    expect(Object.keys(plan.shared).length).toBeGreaterThan(0);
    for (const amps of Object.values(plan.amps)) expect(amps).toBeLessThanOrEqual(0.1);
    const spread = edited(many, call('allotAll', { keep: 'placed' }));
    expect(findingsOf(spread).filter(({ rule }) => rule === 'SE-4')).toEqual([]);
    expect(findingsOf(many).some(({ rule }) => rule === 'SE-4')).toBe(true);
  });
  test('say when nothing helps, and keep a common budget', () => {
    expect(allotSupplies(sensors(30)).fits).toBe(false);
    const tied = sensors(14);
    const strict: Build = {
      ...tied,
      ecu: { ...tied.ecu, groups: [{ type: 'budget', name: '5 V', pins: ['B7', 'B8'], amps: 0.05 }] },
    };
    expect(allotSupplies(strict).fits).toBe(false);
  });
  test('never put two banks of one pedal on one pin', () => {
    const build = edited(sensors(6), call('addDevice', { kind: kind('pedal') }));
    const net = netlist({ ...build, shared: { ...allotSupplies(build).shared } });
    const feeds = net.nodes.filter(
      (node) =>
        node.ends.some((end) => end.startsWith('dev:pedal-1')) &&
        node.ends.some((end) => end === 'ecu:B7' || end === 'ecu:B8'),
    );
    expect(feeds.length).toBe(2);
  });
});

describe('pinning', () => {
  const build = demoBuild();
  const net = netlist(build);
  test.each(pinningOrders)('every wire at the ECU once, in order: %s', (order) => {
    const steps = pinSteps(build, net, order);
    const ids = steps.map((step) => step.wire.id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids.length).toBe(
      net.wires.filter((wire) => wire.from.startsWith('ecu:') || wire.to.startsWith('ecu:')).length,
    );
  });
  test('orders are what they say', () => {
    expect(
      pinSteps(build, net, 'connector')
        .map((step) => step.cavity)
        .slice(0, 3),
    ).toEqual(['A1', 'A2', 'A3']);
    const lengths = pinSteps(build, net, 'branch').map((step) => step.wire.lengthMetres);
    expect(lengths).toEqual([...lengths].sort((a, b) => a - b));
    expect(
      pinSteps(build, net, 'powers-first')
        .slice(0, 5)
        .every((step) => ['ground', 'supply'].includes(step.wire.signal)),
    ).toBe(true);
    const groups = pinSteps(build, net, 'device').map((step) => step.group);
    expect(groups.filter((group, i) => groups.indexOf(group) < i && groups[i - 1] !== group)).toEqual([]);
  });
  test('a cavity is told by counting and by its neighbours, mirrored on the mating side', () => {
    const pin = build.ecu.pins.find((one) => one.id === 'A15')!;
    const face = build.ecu.connectors[0];
    const wire = cavityHelp(net, pin, face, 'wire');
    expect(wire.counting).toBe('row 2 of 3, fifth from the left, wire side');
    expect(wire.beside.map(({ side, pinId }) => `${side} ${pinId}`)).toEqual([
      'left A14',
      'right A16',
      'above A5',
      'below A25',
    ]);
    const mating = cavityHelp(net, pin, face, 'mating');
    expect(mating.counting).toBe('row 2 of 3, fifth from the right, mating side');
    expect(mating.beside.find(({ side }) => side === 'left')!.pinId).toBe('A16');
  });
  test('what was clicked in stands until the plan changes, then it must come out', () => {
    const crimped = edited(build, call('crimp', { wireIds: ['dev:coil-igniter-1.C~ecu:A16'], at, by: 'AB' }));
    const own = netlist(crimped).wires.find((wire) => wire.to.startsWith('ecu:B') || wire.from.startsWith('ecu:B'))!;
    const real = edited(build, call('crimp', { wireIds: [own.id], at, by: 'AB' }));
    expect(staleCrimps(real, netlist(real))).toEqual([]);
    expect(pinSteps(real, netlist(real)).find((step) => step.wire.id === own.id)!.done).toBe(true);
    expect(staleCrimps(crimped, netlist(crimped))).toMatchObject([{ pinId: 'A16', was: 'Coil 1 · C' }]);
  });
});

const unproved = { proved: new Set<string>(), wrongWires: new Map<string, string>() };

describe('the I/O sheet', () => {
  const build = demoBuild();
  const net = netlist(build);
  test('has every cavity once, in each order, spares last but by pin', () => {
    for (const order of ['pin', 'device', 'branch'] as const) {
      const rows = ioRows(build, net, unproved, order);
      expect(new Set(rows.map((row) => row.pinId)).size).toBe(48);
      if (order !== 'pin') expect(rows.at(-1)!.serves).toBe('free');
    }
    expect(
      ioRows(build, net, unproved, 'pin')
        .map((row) => row.pinId)
        .slice(8, 11),
    ).toEqual(['A9', 'A10', 'A11']);
  });
  test('as CSV and for the clipboard: one line a cavity, formulas made harmless', () => {
    const rows = ioRows(build, net, unproved, 'pin').map((row, i) =>
      i === 0 ? { ...row, serves: '=2+2', to: 'a\tb' } : row,
    );
    expect(ioCsv(rows, demoBuild()).trim().split('\r\n')).toHaveLength(49);
    expect(ioTsv(rows, demoBuild()).split('\n')).toHaveLength(49);
    expect(
      ioTsv(rows, demoBuild())
        .split('\n')
        .every((line) => line.split('\t').length === 11),
    ).toBe(true);
    expect(ioCsv(rows, demoBuild())).not.toMatch(/(^|,)=2/m);
  });
});

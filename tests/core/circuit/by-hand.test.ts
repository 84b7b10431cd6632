import { describe, expect, test } from '@jest/globals';
import type { Build } from '~/core/build/schema';
import { starterAmps } from '~/core/circuit/battery';
import { insideOhms } from '~/core/power/battery-figures';
import { readCar } from '~/core/circuit/car';
import { ohmsBetween, voltsBetween, wireAmps } from '~/core/circuit/reading';
import { type CircuitState, circuitStates } from '~/core/circuit/states';
import { solveCircuit } from '~/core/circuit/solve';
import { ecuVolts, standingDays } from '~/core/circuit/standing';
import { call } from '~/core/edits';
import { ECU_GROUND, numberOf } from '~/core/circuit/nodes';
import { deviceEnd, ecuEnd } from '~/core/ends/ends';
import { netlist } from '~/core/netlist/netlist';
import { wireOhms } from '~/core/wire/wire';
import { demoBuilds } from '~/demo';
import { launch } from '~/demo/launch';
import { endNamed } from '../../ends';
import { demoBuild, edited, emptyBuild, kind } from '../../helpers';

/*
 * The model worked by hand, its arithmetic written out: what a simulator that is fed our own numbers cannot tell. Wires at 20 °C:
 * IEC 60228 class 5. Contacts, fuses and relays: common practice, as named beside each.
 */

const demo = demoBuild();
const solved = (build: Build, state: CircuitState, pins: readonly string[] | null = null) => {
  const net = netlist(build);
  const solution = solveCircuit(build, net, state, null, pins && new Set(pins));
  const volts = (plus: string, minus = 'gnd:battery') => voltsBetween(solution, endNamed(plus), endNamed(minus))!;
  return { net, solution, volts, amps: wireAmps(solution, net) };
};

/** 12 mohm of a warm battery of 45 Ah, and at 18 °C two degrees of 1.3 % more. */
const INSIDE = 0.012 * (1 + 2 * 0.013);

describe('worked by hand', () => {
  test('a pump 4.6 m away on 4 mm², alone on the battery', () => {
    const build = edited(
      demo,
      call('setCircuit', { circuitId: 'pump', choice: { lengthMetres: 4.6, squareMm: 4, fuseAmps: 20 } }),
    );
    const { volts, amps } = solved(build, 'outputs-on', ['A6']);
    const pumpAmps = amps.get('bar:plus~fuse:pump.1')!;
    // 4 mm² is 4.95 mohm/m: 4.6 m and 0.1 m of slack are 23.265 mohm, two crimps of 1 mohm: 25.265. Times what flows.
    expect(volts('relay:pump.87', 'dev:fuel-pump-1.1')).toBeCloseTo(pumpAmps * 0.025265, 6);
    // The fuse: 0.1 V at its 20 A are 5 mohm. The relay's contact: 3 mohm.
    expect(volts('fuse:pump.1', 'fuse:pump.2')).toBeCloseTo(pumpAmps * 0.005, 6);
    expect(volts('relay:pump.30', 'relay:pump.87')).toBeCloseTo(pumpAmps * 0.003, 6);
    // 12 A at 12.4 V is a motor of about 1.1 ohm; it draws what its volts leave it.
    expect(pumpAmps).toBeGreaterThan(10);
    expect(pumpAmps).toBeLessThan(12);
  });
  test('the battery sags by its own resistance: 12.3 mohm times all that is drawn', () => {
    const { volts, net, amps } = solved(demo, 'outputs-on', ['A6', 'A7']);
    const drawn = net.wires.reduce(
      (sum, { id, from, to }) => sum + (from === 'bat:+' ? amps.get(id)! : to === 'bat:+' ? -amps.get(id)! : 0),
      0,
    );
    // What the key's plug brings comes from the battery as well, over no wire of the loom.
    const key = (volts('bat:+') - volts('key:15')) / 0.03;
    expect(volts('bat:+')).toBeCloseTo(12.2 - INSIDE * (drawn + key), 3);
  });
  test('a shared return shifts what hangs on it: the strap times all that runs through it', () => {
    const { volts, net, solution, amps } = solved(demo, 'running');
    // 25 mm² is 0.78 mohm/m: 0.6 m are 0.468 mohm, two bolts of 0.2: 0.868 mohm.
    expect([demo.power.strapSquareMm, demo.power.strapMetres]).toEqual([25, 0.6]);
    const byWire = net.wires.reduce(
      (sum, { id, from, to }) => sum + (to === 'gnd:head' ? amps.get(id)! : from === 'gnd:head' ? -amps.get(id)! : 0),
      0,
    );
    // The coils' primary comes back by their own power grounds, what their feed carries; by the secondary grounds next to nothing.
    const back = (terminal: string) =>
      [1, 2, 3, 4, 5].reduce((sum, n) => sum + amps.get(`dev:coil-igniter-${n}.${terminal}~gnd:head`)!, 0);
    expect(back('B')).toBeCloseTo(amps.get('relay:coils.87~splice:coils')!, 1);
    expect(Math.abs(back('D'))).toBeLessThan(0.01);
    expect(byWire).toBeGreaterThan(5);
    // What is bolted to the block (switches, senders, the starter's body) adds less than a third of an ampere.
    // What charges has its case there: it takes back what it gives along its cable, 1.5 m of 16 mm² (1.21 mohm/m) and two rings.
    const given = volts('bat:alternator', 'bat:+') / 2.215e-3;
    const bolted = volts('gnd:head') / 0.868e-3 - byWire + given;
    expect(bolted).toBeGreaterThanOrEqual(0);
    expect(bolted).toBeLessThan(0.33);
    expect(solution.settled).toBe(true);
  });
  test('a coil grounded with the sensors moves them all: its mean through the one wire they share', () => {
    const wrong = edited(
      demo,
      call('setDestination', {
        deviceId: 'coil-igniter-1',
        terminalId: 'B',
        destination: { to: 'sensor-ground', bank: 0 },
      }),
    );
    const [right, moved] = [solved(demo, 'running'), solved(wrong, 'running')];
    const mean = moved.amps.get('dev:coil-igniter-1.A~splice:coils')!;
    // 0.5 mm² is 38.9 mohm/m (IEC 60228: 39.0), 0.4 m are 15.6 mohm, two crimps of 5: 25.6 mohm.
    const shared = moved.net.wires.find(({ from, to }) => from === 'ecu:B5' && to === 'splice:B5')!;
    expect([shared.squareMm, shared.lengthMetres]).toEqual([0.5, 0.4]);
    const of = ({ volts }: typeof moved) => volts('splice:B5', 'ecu:B5');
    expect(Math.abs(mean)).toBeGreaterThan(0.5);
    expect(of(moved) - of(right)).toBeCloseTo(Math.abs(mean) * 0.0256, 2);
  });
  test('a coil without igniter comes back through what switches it: the ECU’s grounds, or the module’s own', () => {
    const launched = solved(launch(), 'running');
    const through = (n: number) => Math.abs(launched.amps.get(`dev:coil-wasted-bare-${n}.2~splice:coils`)!);
    const module = launched.amps.get('dev:igniter-3-1.G~gnd:head')!;
    expect(through(1)).toBeGreaterThan(0.5);
    const supply = Math.abs(launched.amps.get('dev:igniter-3-1.S~splice:coils')!);
    expect(module).toBeCloseTo(through(1) + through(2) + through(3) + supply, 2);
    const driven = edited(
      launch(),
      ...[1, 2, 3].map((n) =>
        call('setDestination', { deviceId: `coil-wasted-bare-${n}`, terminalId: '1', destination: null }),
      ),
    );
    const own = solved(driven, 'running');
    const grounds = (one: typeof own) =>
      ['P1-19', 'P1-20', 'P1-21'].reduce((sum, pin) => sum + Math.abs(one.amps.get(`ecu:${pin}~gnd:battery`)!), 0);
    expect(grounds(own) - grounds(launched)).toBeGreaterThan(0.9 * module);
  });
  test('an idle valve of three wires is drawn one way at a time: 13 V through one winding of 13 ohms, an ampere', () => {
    const build = edited(
      emptyBuild(4, 'orrery-94'),
      call('addDevice', { kind: kind('idle-three-wire') }),
      call('allotAll', { keep: 'placed' }),
    );
    const { amps, net } = solved(build, 'running');
    const feed = net.wires.find(({ id }) => id.includes('idle-three-wire-1.2'))!;
    expect(Math.abs(amps.get(feed.id)!)).toBeCloseTo(1, 0);
    expect(Math.abs(amps.get(feed.id)!)).toBeLessThan(1.2);
    expect(feed.amps).toBe(1);
  });
  test('two 120 ohm terminations at rest: 2.5 V on both lines of the bus (ISO 11898-2)', () => {
    const { volts } = solved(demo, 'key-on');
    expect(volts('ecu:A25', 'gnd:battery')).toBeCloseTo(2.5, 1);
    expect(volts('ecu:A26', 'gnd:battery')).toBeCloseTo(2.5, 1);
    expect(Math.abs(volts('ecu:A25', 'ecu:A26'))).toBeLessThan(0.02);
  });
  test('a relay winding: 90 ohms behind 0.9 m of 0.35 mm², pulled down by an output of 0.15 ohm', () => {
    const { volts, amps } = solved(demo, 'outputs-on', ['A7']);
    const winding = Math.abs(amps.get('relay:fan-1.86~splice:windings')!);
    expect(volts('relay:fan-1.86', 'relay:fan-1.85')).toBeCloseTo(winding * 90, 6);
    // About 12 V through 90 ohms: 133 mA.
    expect(winding).toBeGreaterThan(0.12);
    expect(winding).toBeLessThan(0.14);
    // 0.35 mm² is 54.4 mohm/m: 0.9 m are 49 mohm, and two crimps.
    expect(volts('splice:windings', 'relay:fan-1.86')).toBeCloseTo(winding * (0.0544 * 0.9 + 0.002), 5);
  });
  test('cranking: 10 V behind the battery’s own resistance, and the ECU still above its least', () => {
    const { volts, solution } = solved(demo, 'cranking');
    expect(volts('bat:+')).toBeLessThan(10);
    expect(volts('ecu:A10', 'ecu:A11')).toBeGreaterThan(demo.ecu.minVolts);
    expect(solution.closedRelays.has('pump')).toBe(true);
    expect(solution.closedRelays.has('fan-1')).toBe(false);
  });
  test('prime: the pump runs and nothing else that the ECU drives', () => {
    const { solution } = solved(demo, 'prime');
    expect([...solution.closedRelays].sort()).toEqual(['coils', 'injectors', 'main', 'pump']);
  });
  test('running: charged, fans on, the starter off, coils and injectors at their mean', () => {
    const { solution, volts, amps, net } = solved(demo, 'running');
    expect(solution.closedRelays.has('fan-2')).toBe(true);
    expect(solution.closedRelays.has('starter-1')).toBe(false);
    // 13.9 V at its studs; near 60 A leave 0.13 V in its cable and as much in regulator, case and strap.
    expect(volts('bat:+')).toBeGreaterThan(13.5);
    const feed = net.circuits.find(({ id }) => id === 'injectors')!;
    expect(amps.get('bat:+~fuse:injectors.1')! / feed.flow.mean).toBeGreaterThan(0.9);
    expect(amps.get('bat:+~fuse:injectors.1')! / feed.flow.mean).toBeLessThan(1.05);
    const flat = solved(edited(demo, call('setPower', { charging: 'none' })), 'running');
    expect(flat.volts('bat:+')).toBeLessThan(12.2);
  });
});

test('a standing car: half of 45 Ah at 3 mA lasts 312 days; nothing drawn, for ever', () => {
  // 22.5 Ah / 0.003 A = 7500 h = 312.5 days.
  expect(standingDays(demo, 0.003)).toBeCloseTo(312.5, 6);
  expect(standingDays(demo, 0)).toBe(Infinity);
});

test('what the ECU itself has: its feed against its own ground, under the battery’s volts by the drops of both', () => {
  const { solution, volts } = solved(demo, 'cranking');
  const own = ecuVolts(demo, solution)!;
  expect(own).toBeLessThan(volts('ecu:A10'));
  expect(own).toBeGreaterThan(volts('ecu:A10') - 0.2);
});

test('what leaves the battery is what its own resistance says: 12.3 mohm behind 12.4 V', () => {
  const { total, battery } = readCar(demo, netlist(demo), 'prime', new Set(['A6']));
  expect(total).toBeGreaterThan(11);
  expect(battery!).toBeCloseTo(12.4 - INSIDE * total, 4);
});

test('a fuse too small for its load opens, and what hangs on it is dead', () => {
  const small = edited(demo, call('setCircuit', { circuitId: 'fan-1', choice: { fuseAmps: 5 } }));
  const { solution, volts } = readCar(small, netlist(small), 'running', new Set(['A7']));
  expect([...solution.blownFuses]).toEqual(['fan-1']);
  expect(Math.abs(volts(endNamed('dev:fan-1.1'))!)).toBeLessThan(0.2);
});

describe.each(demoBuilds().map((build) => [build.name, build] as const))('%s', (_, build) => {
  test.each(circuitStates)('what flows into a node flows out of it, %s', (state) => {
    const solution = solveCircuit(build, netlist(build), state);
    const { network, ir } = solution;
    const at = (name: string) => solution.at(numberOf(ir.nodes, name));
    const sums = new Map<string, number>();
    let largest = 0;
    for (const { plus, minus, ohms, volts: source } of network.elements) {
      const amps = (at(plus) - at(minus) - source) / ohms;
      largest = Math.max(largest, Math.abs(amps));
      sums.set(plus, (sums.get(plus) ?? 0) - amps);
      sums.set(minus, (sums.get(minus) ?? 0) + amps);
    }
    sums.delete('gnd:battery');
    // What leaks away at each node is 0.1 nA a volt.
    for (const sum of sums.values()) expect(Math.abs(sum)).toBeLessThan(1e-6 * Math.max(1, largest));
  });
});

test('a starter pulls the battery down and lifts the engine: by hand', () => {
  // 2.31 litres at 18 °C: (60 + 50 x 2.31) x (1 + 2 x 0.0125) = 179.9 A, said as 180, at 10 V: 55.6 mohm.
  expect(starterAmps(demo)).toBe(180);
  const { volts } = solved(demo, 'cranking');
  // 12.2 V through 12.3 mohm, the starter, the strap and its bolts: what is left at the posts, the loom's few amperes besides.
  const strap = wireOhms(demo.power.strapSquareMm, demo.power.strapMetres) + 2 * 0.0002;
  const starter = 10 / 180;
  const amps = 12.2 / (INSIDE + starter + strap);
  expect(volts('bat:post', 'gnd:post')).toBeCloseTo(amps * (starter + strap), 0);
  expect(volts('gnd:head')).toBeGreaterThan(0.9 * amps * strap);
  expect(volts('gnd:head')).toBeLessThan(1.3 * amps * strap);
});

test('a battery of half its charge, cold: by hand', () => {
  const build = edited(demo, call('setSite', { ...demo.site, ambientCelsius: -10 }));
  // 30 degrees of 1.3 % and half of 80 %: 12 mohm x 1.39 x 1.4 = 23.4 mohm. 11.8 + 0.4 V at rest, 0.2 less with the key on.
  expect(insideOhms(45, -10, 0.5)).toBeCloseTo(0.012 * 1.39 * 1.4, 6);
  const { total, battery } = readCar(build, netlist(build), 'key-on', new Set(), 0.5);
  expect(battery!).toBeCloseTo(12 - 0.012 * 1.39 * 1.4 * total, 4);
});

test('a filament: a tenth of its ohms when cold, lit at what it is told to draw', () => {
  const build = edited(
    emptyBuild(4, 'orrery-94'),
    call('addDevice', { kind: kind('warning-lamp') }),
    call('allotAll', { keep: 'placed' }),
  );
  const net = netlist(build);
  const [one, other] = [deviceEnd('warning-lamp-1', '1'), deviceEnd('warning-lamp-1', '2')];
  // Cold it measures 12 ohms and what its loom adds.
  expect(ohmsBetween(solveCircuit(build, net, 'unplugged'), one, other)).toBeCloseTo(12, 0);
  const pin = build.assignments['warning-lamp-1.2']!;
  const lit = solveCircuit(build, net, 'outputs-on', null, new Set([pin]));
  // 0.1 A at 13.5 V is 135 ohms; at about 12.1 V 135 x (12.1 / 13.5)^0.45 = 128.5.
  const volts = voltsBetween(lit, one, other)!;
  expect(lit.drive.filaments[lit.ir.filaments.findIndex(({ deviceId }) => deviceId === 'warning-lamp-1')]).toBeCloseTo(
    135 * (volts / 13.5) ** 0.45,
    1,
  );
  expect(lit.settled).toBe(true);
});

test('a wideband heater is one thing everywhere: 2 A on the mean, its full 4 A while its output is tested', () => {
  const of = demo.devices.some(({ kindId }) => kindId === 'wideband-cell')
    ? demo
    : edited(demo, call('addDevice', { kind: kind('wideband-cell') }));
  const net = netlist(of);
  const load = net.power.flows.draws.find(
    ({ name, load: one }) => one?.inrush?.cause === 'heater' && /wideband/i.test(name),
  )!.load!;
  // 3.4 ohms at 13.5 V are 3.97 A; 2 A on the mean are half the time, and sqrt(2 x 3.97) = 2.82 A to a fuse.
  expect(load.amps).toBe(2);
  expect(load.peak).toBeCloseTo(13.5 / 3.4, 6);
  expect(load.rms).toBeCloseTo(Math.sqrt((2 * 13.5) / 3.4), 6);
});

test('the 5 V supply holds its current: a wire that lies on the body pulls it all the way down', () => {
  const net = netlist(demo);
  const rail = ecuEnd(demo.ecu.pins.find(({ abilities }) => abilities[0].kind === 'supply-5v')!.id);
  const sound = solveCircuit(demo, net, 'key-on');
  expect(voltsBetween(sound, rail, ECU_GROUND)).toBeGreaterThan(4.95);
  expect([sound.drive.fiveLimits, sound.drive.limits.includes(1)]).toEqual([false, false]);
  const wire = net.wires.find(({ from, to }) => from === rail || to === rail)!;
  const chafed = solveCircuit(demo, net, 'key-on', { type: 'short-to-ground', wireId: wire.id });
  // Half an ampere through 50 mohm to the body and some wire.
  expect([chafed.drive.fiveLimits, chafed.drive.limits.includes(1)]).toEqual([true, false]);
  expect(voltsBetween(chafed, rail, ECU_GROUND)).toBeLessThan(0.3);
});

describe('a flyback diode within the ECU', () => {
  const bare = edited(
    emptyBuild(4, 'orrery-94'),
    call('addDevice', { kind: kind('boost-solenoid') }),
    call('allotAll', { keep: 'placed' }),
  );
  const fed = edited(bare, call('hangLoad', { end: 'dev:boost-solenoid-1.1', from: 'fuse:permanent.2' }));
  const withDiodes = (build: Build): Build => ({
    ...build,
    ecu: {
      ...build.ecu,
      pins: build.ecu.pins.map((pin) => ({
        ...pin,
        abilities: pin.abilities.map((one) => (one.kind === 'low-side' ? { ...one, catches: true } : one)),
      })),
    },
  });
  const supply = fed.ecu.pins.find(({ abilities }) => abilities[0]!.kind === 'switched')!.id;
  const sink = Object.values(fed.assignments)[0]!;

  test('with the key off a load on the permanent feed feeds the ECU backwards', () => {
    const { volts } = solved(withDiodes(fed), 'key-off');
    // The ECU draws 12.4 V / ohms at rest; the solenoid stands before it, and 0.8 V are lost in the diode.
    const own = 12.4 / fed.ecu.ownAmps;
    const current = (volts('dev:boost-solenoid-1.1') - 0.8) / (24 + 0.1 + own);
    expect(volts(`ecu:${supply}`)).toBeCloseTo(current * own, 1);
    expect(volts(`ecu:${sink}`) - volts(`ecu:${supply}`)).toBeCloseTo(0.8 + current * 0.1, 1);
    // Without the diode, and with it where the load hangs behind the relay, nothing comes there.
    expect(solved(fed, 'key-off').volts(`ecu:${supply}`)).toBeLessThan(0.1);
    expect(solved(withDiodes(bare), 'key-off').volts(`ecu:${supply}`)).toBeLessThan(0.1);
  });
  test('with the key on it leads nothing, driven or not', () => {
    const { volts } = solved(withDiodes(fed), 'key-on');
    const { volts: plain } = solved(fed, 'key-on');
    for (const end of [`ecu:${supply}`, 'dev:boost-solenoid-1.2']) expect(volts(end)).toBeCloseTo(plain(end), 3);
    const driven = solved(withDiodes(fed), 'outputs-on', [sink]);
    expect(driven.volts(`ecu:${sink}`)).toBeCloseTo(solved(fed, 'outputs-on', [sink]).volts(`ecu:${sink}`), 3);
  });
});

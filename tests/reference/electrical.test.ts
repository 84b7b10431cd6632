import { describe, expect, test } from '@jest/globals';
import { compile } from '~/core/circuit/compile';
import type { CircuitState } from '~/core/circuit/states';
import { solveAsShown } from '~/core/circuit/pulses';
import { scenarioOf } from '~/core/circuit/scenario';
import { solveCircuit } from '~/core/circuit/solve';
import { ecuVolts } from '~/core/circuit/standing';
import { call } from '~/core/edits';
import { allFigures } from '~/core/loom/bundles';
import { netlist } from '~/core/netlist/netlist';
import { endToEndOhms } from '~/core/netlist/wires';
import { carriedAmps, conductorCelsius, sizeFor } from '~/core/wire/wire';
import { pellworth } from '~/demo/pellworth';
import { demoBuild, edited, emptyBuild, kind } from '../helpers';
import { INSIDE, RING, STRAP, findings, near, solvedIn } from './by-hand';
import { spiceVolts } from './deck';

/*
 * What burns and what lies, worked by hand: the network in words, its arithmetic written out, and the same network solved by ngspice,
 * which is another make. Copper: IEC 60228 class 5 at 20 °C. Contacts, rings, batteries and starters: common practice, as
 * named beside each. Within 1 % or 5 mV.
 */

const demo = demoBuild();

describe('9: the plus clamp carries the starter, and what charges stands at the engine', () => {
  // Starter of the demo, 2.31 l at 18 °C: (60 + 50 x 2.31) x (1 + 0.0125 x 2) = 179.9, told as 180 A at 10 V: 55.6 mohm.
  const STARTER = 10 / 180;
  // 1.2 m of 25 mm² is 0.936 mohm, two rings; the strap 0.6 m, 0.468 mohm, likewise.
  const CABLE = 1.2 * 0.00078 + 2 * RING;
  test('a clamp of 0.1 ohm while cranking leaves the clamp 4 V, and the ECU none: no relay pulls in', () => {
    const { solution, volts } = solvedIn(demo, 'cranking', { type: 'poor-joint', joint: 'battery-plus', ohms: 0.1 });
    // 12.2 V under load over 11.9 + 100.2 + 1.34 + 55.6 + 0.87 + 0.2 mohm: 71.7 A; behind the clamp 71.7 x (1.34 + 55.6 + 0.87) mohm.
    const amps = 12.2 / (INSIDE + 0.1 + RING + CABLE + STARTER + STRAP + RING);
    near(amps, 71.7);
    const hand = amps * (CABLE + STARTER + STRAP);
    near(volts('bat:+'), hand);
    const spice = spiceVolts([
      ['post', 'minus post', { volts: 12.2, ohms: INSIDE }],
      ['post', 'clamp', 0.1 + RING],
      ['clamp', 'stud', CABLE],
      ['stud', 'block', STARTER],
      ['block', '0', STRAP],
      ['minus post', '0', RING],
    ]);
    near(volts('bat:+'), spice.get('clamp')!);
    near(volts('gnd:head'), spice.get('block')!);
    near(volts('bat:post', 'gnd:post'), spice.get('post')! - spice.get('minus post')!);
    expect(ecuVolts(demo, solution)!).toBeLessThan(0.5);
    expect(solution.settled).toBe(true);
  });
  test('running, the block stands below battery negative by what the strap brings back to the alternator', () => {
    const { net, volts, amps } = solvedIn(demo, 'running');
    // What the loom sends to each place, and what the battery takes: 12.6 V behind 50 times its inside.
    const into = (place: string) =>
      net.wires.reduce(
        (sum, { id, from, to }) => sum + (to === place ? amps.get(id)! : from === place ? -amps.get(id)! : 0),
        0,
      );
    const [block, body, post] = ['gnd:head', 'gnd:chassis', 'gnd:battery'].map(into);
    const spice = spiceVolts([
      ['stud', 'case', { volts: 13.9, ohms: 0.002 }],
      ['case', 'block', 0.0005],
      ['stud', 'clamp', 1.5 * 0.00121 + 2 * RING],
      ['clamp', '0', { volts: 12.6, ohms: 50 * 0.012 * 1.026 }],
      ['block', '0', STRAP],
      ['body', '0', 0.006],
      ['clamp', 'block', { amps: block }],
      ['clamp', 'body', { amps: body }],
      ['clamp', '0', { amps: post }],
    ]);
    near(volts('gnd:head'), spice.get('block')!);
    near(volts('bat:+'), spice.get('clamp')!);
    expect(volts('gnd:head')).toBeLessThan(-0.02);
    // By hand: all that comes back at body and post goes through 0.868 mohm of strap to the block.
    near(volts('gnd:head'), -(body! + post! + (volts('bat:+') - 12.6) / 0.62) * STRAP);
  });
  test('a poor clamp takes nothing off a running car: it is fed from the engine', () => {
    const [right, poor] = [
      solvedIn(demo, 'running'),
      solvedIn(demo, 'running', { type: 'poor-joint', joint: 'battery-plus', ohms: 0.3 }),
    ];
    near(poor.volts('bat:+'), right.volts('bat:+'));
  });
});

describe('4 and 11: two batteries joined', () => {
  const house = (charge: number) =>
    edited(
      demo,
      call('addFeedPart', { part: { kind: 'battery', name: 'House', ampereHours: 45, charge }, name: 'house' }),
      call('linkFeed', { from: 'bat:+', to: 'bat:house', metres: 2 }),
    );
  test('the link is sized by what runs between them, not by what hangs behind', () => {
    const { net } = solvedIn(house(1), 'key-off');
    const link = net.power.sizes.links.get('bat:+~bat:house')!;
    // Charged at 13.9 V behind 2 mohm, the other at 0.15: 11.8 + 0.15 x 0.8 = 11.92 V behind 12.3 x (1 + 0.8 x 0.85) = 20.7 mohm;
    // 2.1 m of 25 mm² are 1.64 mohm and two rings: 1.98 V over 24.7 mohm are 80 A.
    const hand = (13.9 - 11.92) / (0.002 + 0.012 * 1.026 * 1.68 + 2.1 * 0.00078 + 2 * RING);
    near(link.flow.rms, hand);
    expect(link.squareMm).toBe(25);
  });
  test('one flat, at rest: by both insides and the link', () => {
    const { amps } = solvedIn(house(0.15), 'key-off');
    // 12.6 - 11.92 V; the flat one takes in by 20.7 / 0.85 mohm.
    const takes = (0.012 * 1.026 * 1.68) / 0.85;
    const hand = (12.6 - 11.92) / (INSIDE + 2 * RING + 2.1 * 0.00078 + 2 * RING + takes);
    near(amps.get('bat:+~bat:house')!, hand);
    const spice = spiceVolts([
      ['post', 'minus', { volts: 12.6, ohms: INSIDE }],
      ['post', 'clamp', RING],
      ['minus', '0', RING],
      ['clamp', 'house', 2.1 * 0.00078 + 2 * RING],
      ['house', '0', { volts: 11.92, ohms: takes }],
    ]);
    near(amps.get('bat:+~bat:house')!, (spice.get('clamp')! - spice.get('house')!) / (2.1 * 0.00078 + 2 * RING));
  });
  test('one fuse in the link is not enough: from the other battery nothing protects it', () => {
    const half = edited(
      demo,
      call('addFeedPart', { part: { kind: 'battery', name: 'House', ampereHours: 45 }, name: 'house' }),
      call('addFeedPart', { part: { kind: 'fuse', name: 'Link', amps: 125 }, name: 'near' }),
      call('linkFeed', { from: 'bat:+', to: 'fuse:near.1', metres: 0.2 }),
      call('linkFeed', { from: 'fuse:near.2', to: 'bat:house', metres: 2 }),
    );
    const [found, ...more] = findings(half, /^PW-27$/);
    expect(more).toEqual([]);
    expect(found!.detail).toMatch(/^From House, positive it is 2\.00 m of 50 mm² to the first fuse/);
  });
  test('a switch thrown, the key at accessories, an accessory that drops at start: told by the scenario alone', () => {
    const build = edited(
      demo,
      call('addFeedPart', {
        part: { kind: 'tap', name: 'Radio feed', live: 'accessory', amps: 5, fused: true },
        name: 'radio',
      }),
      call('hangLoad', { end: 'dev:flex-fuel-1.1', from: 'tap:radio' }),
    );
    const at = (state: CircuitState) => solvedIn(build, state).volts('tap:radio');
    expect(at('key-off')).toBeLessThan(0.5);
    expect(at('accessory')).toBeGreaterThan(12);
    expect(at('key-on')).toBeGreaterThan(11.5);
    expect(at('start')).toBeLessThan(0.5);
    const cut = edited(demo, call('fitMasterSwitch', { amps: 300 }));
    const net = netlist(cut);
    const off = solveCircuit(cut, net, 'key-on');
    expect(off.ecuPowered).toBe(true);
    const scenario = scenarioOf(cut, net, 'key-on', { thrown: new Set(['master']) });
    const thrown = solveAsShown(net, compile(cut, net), scenario).shown;
    expect(thrown.ecuPowered).toBe(false);
    // The alternator behind it feeds a running engine on.
    const running = scenarioOf(cut, net, 'running', { thrown: new Set(['master']) });
    expect(solveAsShown(net, compile(cut, net), running).shown.ecuPowered).toBe(true);
  });
});

describe('10: a bolted return is one contact and one ring', () => {
  test('13 mohm as two signal crimps are 4.2: 3 of copper, 1 of the contact, 0.2 of the ring', () => {
    const net = netlist(demo);
    const back = net.wires.find(({ id }) => id === 'dev:fan-1.2~gnd:chassis')!;
    const perMetre: Record<number, number> = { 2.5: 0.00798, 4: 0.00495, 6: 0.0033, 10: 0.00191 };
    expect(endToEndOhms(back)).toBeCloseTo(perMetre[back.squareMm]! * back.lengthMetres + 0.001 + RING, 9);
    const sensor = net.wires.find(({ id }) => id.includes('clt') && id.includes('dev:') && !id.includes('gnd:'))!;
    expect(endToEndOhms(sensor)).toBeCloseTo(sensor.ohms + 0.01, 9);
  });
});

describe('2 and 3: insulation, and one sizing for every wire', () => {
  const around = (wireCelsius: number, loadedCircuits: number, ambientCelsius: number) =>
    ({ wireCelsius, loadedCircuits, ambientCelsius, series: 'metric' }) as const;
  test('by hand: 1.5 mm², 21 A alone at 105 °C in air of 30', () => {
    expect(carriedAmps(1.5, around(105, 1, 30))).toBeCloseTo(21, 9);
    // 85 °C: 21 x sqrt(55 / 75) = 17.98; 70 °C in 50: 21 x sqrt(20 / 75) = 10.84; 150 °C: 21 x sqrt(120 / 75) = 26.56.
    expect(carriedAmps(1.5, around(85, 1, 30))).toBeCloseTo(17.98, 2);
    expect(carriedAmps(1.5, around(70, 1, 50))).toBeCloseTo(10.84, 2);
    expect(carriedAmps(1.5, around(150, 1, 30))).toBeCloseTo(26.56, 2);
    // Loaded so, each gets just as warm as its insulation stands.
    for (const [most, air] of [
      [85, 30],
      [70, 50],
      [150, 30],
      [105, 60],
    ] as const)
      expect(
        conductorCelsius(1.5, carriedAmps(1.5, around(most, 6, air)), { loadedCircuits: 6, ambientCelsius: air }),
      ).toBeCloseTo(most, 6);
  });
  test('a return of 60 A is not capped at 6 mm²: what its fuse asks for it has', () => {
    const strong = edited(
      emptyBuild(4),
      call('addDevice', {
        kind: {
          ...kind('fan-large'),
          id: 'heater',
          name: 'Heater',
          terminals: kind('fan-large').terminals.map((one) =>
            one.destination.to === 'feed' ? { ...one, destination: { ...one.destination, amps: 60 } } : one,
          ),
        },
      }),
      call('allotAll', { keep: 'placed' }),
    );
    const net = netlist(strong);
    const back = net.wires.find(({ id }) => id.startsWith('dev:heater') && id.includes('gnd:'))!;
    const fuse = net.circuits.find(({ loads }) => loads.some(({ end }) => end.startsWith('dev:heater')))!.fuseAmps;
    // 80 A, three bunched (0.70) at 60 °C in insulation of 125: sqrt(65 / 75) = 0.931; 16 mm² carries 61 A, 25 mm² 85.
    expect(fuse).toBe(80);
    expect(back.squareMm).toBeGreaterThanOrEqual(25);
    expect(back.squareMm).toBeGreaterThanOrEqual(sizeFor(80, around(125, 3, 60)));
  });
  test('a wire thinner than its fuse asks is told with its temperature', () => {
    const thin = edited(demo, call('setWire', { wireId: 'dev:fan-1.2~gnd:chassis', squareMm: 1 }));
    const [found] = findings(thin, /^PW-26$/);
    // 20 A on 1 mm², 16.5 A alone, three bunched: 11.55 A for 75 K; (20 / 11.55)² x 75 = 225 K over 60 °C.
    expect(found!.detail).toMatch(/28[45](\.\d)? °C/);
  });
});

describe('7: one count of loaded wires, for sizes and bundles alike', () => {
  test('by hand, in the piece through the wall: feeds by their fuse alone, outputs by what they carry', () => {
    const estate = pellworth();
    const net = netlist(estate);
    const table: Readonly<Record<number, number>> = {
      0.35: 7,
      0.5: 11,
      0.75: 14,
      1: 16.5,
      1.5: 21,
      2.5: 29,
      4: 39,
      6: 50,
    };
    // 105 °C and more of zone are taken as 60 in a power branch; insulation of 125: sqrt(65 / 75) = 0.931, each alone.
    const wires = net.wires.filter(({ route }) => route.includes('wall'));
    const pulsed = (id: string | null) => {
      const kindOf = net.needs.find((need) => need.id === id)?.ask.kind;
      return kindOf === 'injector' ? 0.7 : kindOf === 'half-bridge' ? 0.3 : 1;
    };
    const shares = wires.map((wire) => {
      const isFeed = net.power.sizes.links.has(wire.cutOf ?? wire.id);
      const least = isFeed ? 0.5 : wire.signal === 'injector' ? 0.5 : 0;
      const size = Object.keys(table)
        .map(Number)
        .sort((one, other) => one - other)
        .find((square) => square >= least && table[square]! * 0.931 >= wire.lets)!;
      const starts = wire.id.includes('starter') ? 0 : 1;
      return (wire.amps * pulsed(wire.needId) * starts) / table[size]!;
    });
    // IEC 60364-5-52, 523.5: under 30 % of what it may carry in its group a wire does not count.
    const bars = [1, 1, 0.8, 0.7, 0.65, 0.6, 0.57, 0.54, 0.52, 0.5, 0.45, 0.45, 0.45, 0.41];
    let count = 0;
    for (;;) {
      const loaded = shares.filter((share) => share >= 0.3 * bars[Math.max(1, count)]!).length;
      if (loaded <= count) break;
      count = loaded;
    }
    expect(count).toBeGreaterThan(3);
    expect(net.power.census.get('wall')).toBe(count);
    const figures = allFigures(estate, net).find(({ id }) => id === 'wall')!;
    expect(figures.loaded).toBe(count);
  });
});

describe('1: from every source to its first protection', () => {
  test('4 m of 6 mm² to an isolator and on to its fuse', () => {
    const build = edited(
      demo,
      call('addFeedPart', { part: { kind: 'switch', name: 'Isolator', amps: 100, resting: 'closed' }, name: 'iso' }),
      call('linkFeed', { from: 'bat:+', to: 'switch:iso.1', metres: 4 }),
      call('linkFeed', { from: 'switch:iso.2', to: 'fuse:pump.1', metres: 0.3 }),
      call('unlinkFeed', { linkId: 'bar:plus~fuse:pump.1' }),
      call('setWire', { wireId: 'bat:+~switch:iso.1', squareMm: 6 }),
      call('setWire', { wireId: 'fuse:pump.1~switch:iso.2', squareMm: 6 }),
    );
    const [found] = findings(build, /^PW-4$/);
    // 12.6 V over 12.3 mohm and 4.3 m with 0.2 of slack, 4.5 x 3.3 = 14.9 mohm: 463 A. It carries 50 x 0.7 x 0.931 = 32.6.
    expect(found!.detail).toMatch(/^4\.30 m of 6 mm².*Isolator.*46[34](\.\d)? A.*32\.6 A/);
  });
  test('cables of the starting circuit are exempt by practice, and told', () => {
    const long = edited(demo, call('setPower', { starterCable: { metres: 4 } }));
    expect(findings(long, /^PW-4$/)).toEqual([]);
    expect(findings(long, /^PW-28$/)[0]!.detail).toMatch(/the starter’s 4\.00 m of 25 mm²/);
  });
});

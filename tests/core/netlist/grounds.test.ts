import { describe, expect, test } from '@jest/globals';
import { allot } from '~/core/allot/allot';
import type { Build } from '~/core/build/schema';
import { voltsBetween } from '~/core/circuit/reading';
import { solveCircuit } from '~/core/circuit/solve';
import { call } from '~/core/edits';
import { ecuSchema, type Ability, type EcuDefinition } from '~/core/ecu/ecu';
import { proposeFrom } from '~/core/ecu/pinout/words';
import { readPinout } from '~/core/ecu/pinout/read';
import { deviceEnd, ecuEnd, groundEnd, shieldEnd, spliceEnd, wireId } from '~/core/ends/ends';
import { groundPins } from '~/core/netlist/ground-pins';
import { needsOf } from '~/core/netlist/needs';
import { netlist } from '~/core/netlist/netlist';
import { runOf } from '~/core/netlist/run';
import { proveTests } from '~/core/prove/tests';
import { findingsOf } from '~/core/rules';
import { seeded } from '~/core/trigger/synth';
import { ecu, edited, emptyBuild, kind } from '../../helpers';

const either: Ability[] = [{ kind: 'power-ground' }, { kind: 'sensor-ground' }];
/** An ECU whose ground pins are these; the other pins are those of Orrery 48 without grounds. */
function withGrounds(grounds: readonly (readonly Ability[])[], groundsAsked: number): EcuDefinition {
  const base = ecu('orrery-48');
  const isGround = (kinds: readonly Ability[]) => kinds.some((one) => one.kind.endsWith('-ground'));
  const free = base.pins.filter(({ abilities }) => isGround(abilities)).map(({ id }) => id);
  const pins = base.pins.flatMap((pin) => {
    const at = free.indexOf(pin.id);
    if (at < 0) return [pin];
    const abilities = grounds[at];
    return abilities ? [{ ...pin, label: `Ground ${at + 1}`, abilities: [...abilities] }] : [];
  });
  return ecuSchema.parse({ ...base, id: 'own', pins, groundsAsked });
}
const on = (definition: EcuDefinition): Build => edited(emptyBuild(4), call('chooseEcu', { ecu: definition }));
const names = (pins: readonly { label: string }[]) => pins.map(({ label }) => label.slice(-1)).join('');
const used = (build: Pick<Build, 'ecu' | 'groundUse'>) => {
  const { power, sensor } = groundPins(build);
  return `${names(power)} | ${names(sensor)}`;
};
const power: Ability[] = [{ kind: 'power-ground' }];
const sensors: Ability[] = [{ kind: 'sensor-ground' }];

describe('which ground is wired as what', () => {
  test.each([
    ['five equal, two for the ECU', [either, either, either, either, either], 2, '123 | 45'],
    ['three equal, two for the ECU', [either, either, either], 2, '12 | 3'],
    ['two equal, two for the ECU: the last is shared', [either, either], 2, '12 | 2'],
    ['one for all', [either], 1, '1 | 1'],
    ['equal ones beside a sensor ground', [sensors, either, either, either], 2, '23 | 14'],
    ['power grounds and one that is either', [power, power, either], 2, '12 | 3'],
    ['no ground for the sensors: the first is shared', [power, power], 2, '12 | 1'],
    ['each its own', [power, power, sensors], 2, '12 | 3'],
  ])('%s', (_, grounds, asked, wanted) => {
    expect(used({ ecu: withGrounds(grounds, asked), groundUse: {} })).toBe(wanted);
  });

  test('what a person decided stands, and Gonyx makes the best of the rest', () => {
    const own = on(withGrounds([either, either, either, either, either], 2));
    const ids = own.ecu.pins.filter(({ label }) => label.startsWith('Ground')).map(({ id }) => id);
    const decided = edited(own, call('setGroundUse', { pinId: ids[0], use: 'sensors' }));
    expect(used(decided)).toBe('234 | 15');
    expect(used(edited(decided, call('setGroundUse', { pinId: ids[0], use: null })))).toBe('123 | 45');
    const all = edited(own, ...ids.map((pinId) => call('setGroundUse', { pinId, use: 'ecu' as const })));
    // Nothing is left for the sensors: they share one, and PW-8 is content.
    expect(used(all)).toBe('12345 | 1');
    const none = edited(own, ...ids.map((pinId) => call('setGroundUse', { pinId, use: 'sensors' as const })));
    expect(findingsOf(none).find(({ rule }) => rule === 'PW-8')?.detail).toContain('0 pins are wired as one');
  });

  // Every way to give each pin a use, counted by hand: enough for the ECU first, then two for the sensors, the fewest shared.
  test('as good as the best of all ways, for any ECU', () => {
    const random = seeded(20_261_128);
    for (let round = 0; round < 300; round += 1) {
      const grounds = Array.from({ length: 1 + Math.floor(random() * 5) }, () =>
        random() < 0.5 ? either : random() < 0.5 ? power : sensors,
      );
      if (!grounds.some((one) => one !== sensors)) grounds[0] = power;
      const asked = 1 + Math.floor(random() * 4);
      const found = groundPins({ ecu: withGrounds(grounds, asked), groundUse: {} });
      const ways = grounds.reduce<readonly string[][]>(
        (list, pin) =>
          list.flatMap((way) =>
            (pin === sensors ? ['sensors'] : pin === power ? ['ecu', 'both'] : ['ecu', 'sensors', 'both']).map(
              (use) => [...way, use],
            ),
          ),
        [[]],
      );
      /** Short of what the ECU asks, no return at all, pins shared, short of two returns: each weighs above what follows. */
      const price = (ecuPins: number, sensorPins: number, shared: number) =>
        1000 * Math.max(0, asked - ecuPins) +
        10_000 * Number(sensorPins === 0) +
        50 * shared +
        Math.max(0, 2 - sensorPins);
      const count = (way: readonly string[], use: string) => way.filter((one) => one === use || one === 'both').length;
      const best = Math.min(
        ...ways.map((way) =>
          price(count(way, 'ecu'), count(way, 'sensors'), way.filter((one) => one === 'both').length),
        ),
      );
      const shared = found.power.filter((pin) => found.sensor.includes(pin)).length;
      expect(price(found.power.length, found.sensor.length, shared)).toBe(best);
    }
  });
});

test('one cavity takes one wire: a shared ground has its splice behind the plug, and is told with its volts', () => {
  const build = edited(
    on(withGrounds([power, power], 2)),
    call('addDevice', { kind: kind('clt-ntc') }),
    call('addDevice', { kind: kind('map-1bar') }),
    call('allotAll', { keep: 'placed' }),
  );
  const net = netlist(build);
  const [pin] = groundPins(build).sensor;
  const at = net.wiresAt.get(ecuEnd(pin.id))!;
  expect(at.map(({ id }) => id)).toEqual([wireId(ecuEnd(pin.id), spliceEnd(pin.id))]);
  const joined = net.nodeOf.get(ecuEnd(pin.id))!.ends;
  expect(joined).toContain(deviceEnd('clt-ntc-1', '2'));
  expect(joined).toContain(groundEnd(build.power.ecuGround));
  const told = findingsOf(build).find(({ rule }) => rule === 'SE-15')!;
  expect(told.severity).toBe('fix');
  // 1.5 mm² is 13.3 ohm a kilometre (IEC 60228): 0.4 m at 5 A.
  expect(told.detail).toContain(`${(0.0133 * 0.4 * 5 * 1000).toFixed(0)} mV`);
  // The reading is right all the same: the sensor and the ECU meet at the splice.
  const solved = solveCircuit(build, net, 'key-on');
  expect(voltsBetween(solved, deviceEnd('clt-ntc-1', '2'), groundEnd('battery'))!).toBeLessThan(0.1);
  const other = edited(build, call('setGroundUse', { pinId: groundPins(build).power[1].id, use: 'both' }));
  expect(groundPins(other).sensor.map(({ id }) => id)).toEqual([groundPins(build).power[1].id]);
});

describe('a VR input of one pin', () => {
  const single = (mixed: boolean): EcuDefinition => {
    const base = ecu('orrery-48');
    return ecuSchema.parse({
      ...base,
      id: 'single',
      pins: base.pins.map((pin) => {
        if (pin.id === 'B3') return { ...pin, label: 'VR single', abilities: [{ kind: 'vr' }] };
        if (mixed || !pin.abilities.some((one) => one.kind === 'vr')) return pin;
        return { ...pin, label: 'Switch', abilities: [{ kind: 'switch' }] };
      }),
    });
  };
  const vr = (definition: EcuDefinition, count: number) =>
    edited(
      on(definition),
      ...Array.from({ length: count }, () => call('addDevice', { kind: kind('crank-vr') })),
      call('allotAll', { keep: 'placed' }),
    );

  test('takes the signal; the return goes to the sensor ground, in the cable of the signal', () => {
    const build = vr(single(false), 1);
    expect(needsOf(build).map(({ id, pair }) => [id, pair])).toEqual([['crank-vr-1.1', null]]);
    expect(build.assignments).toEqual({ 'crank-vr-1.1': 'B3' });
    const net = netlist(build);
    const [ground] = groundPins(build).sensor;
    expect(net.nodeOf.get(deviceEnd('crank-vr-1', '2'))!.ends).toContain(ecuEnd(ground.id));
    expect(new Set(net.wires.filter(({ deviceId }) => deviceId === 'crank-vr-1').map(({ cable }) => cable))).toEqual(
      new Set(['crank-vr-1']),
    );
    expect(findingsOf(build).filter(({ severity, rule }) => severity === 'stop' && rule !== 'OE-6')).toEqual([]);
  });

  test('beside a pair of two: both sensors are placed, whichever comes first', () => {
    const build = vr(single(true), 2);
    expect(Object.values(build.assignments).sort()).toEqual(['B1', 'B2', 'B3']);
    expect(needsOf(build).every(({ id }) => build.assignments[id] !== undefined)).toBe(true);
    // A third finds no place, and is told; nothing that stands is given up.
    const third = edited(build, call('addDevice', { kind: kind('crank-vr') }));
    expect(allot(third, { keep: 'placed' }).unserved).toHaveLength(2);
    expect(allot(third, { keep: 'locked' }).unserved.length).toBeGreaterThan(0);
  });

  test('by hand: taken from its pair to the input of one pin, the second wire follows, and back', () => {
    const build = vr(single(true), 1);
    expect(build.assignments).toEqual({ 'crank-vr-1.1': 'B1', 'crank-vr-1.2': 'B2' });
    const moved = edited(build, call('assign', { needId: 'crank-vr-1.1', pinId: 'B3' }));
    expect(moved.assignments).toEqual({ 'crank-vr-1.1': 'B3' });
    expect(netlist(moved).nodeOf.get(deviceEnd('crank-vr-1', '2'))!.ends).toContain(
      ecuEnd(groundPins(moved).sensor[0].id),
    );
    const back = edited(moved, call('unassign', { needId: 'crank-vr-1.1' }));
    expect(needsOf(back)).toHaveLength(2);
  });
});

describe('shields', () => {
  test('each is a wire with an end of its own; several share the pin; the far end is only joined when it is said', () => {
    const build = edited(
      emptyBuild(4),
      call('addDevice', { kind: kind('crank-vr') }),
      call('addDevice', { kind: kind('knock') }),
      call('allotAll', { keep: 'placed' }),
    );
    const net = netlist(build);
    const [ground] = groundPins(build).sensor;
    const ends = net.nodeOf.get(ecuEnd(ground.id))!.ends;
    expect(ends).toEqual(expect.arrayContaining([shieldEnd('crank-vr-1'), shieldEnd('knock-1')]));
    expect(runOf(net, { type: 'end', end: shieldEnd('knock-1') })?.hops[0].end).toBe(ecuEnd(ground.id));
    const test = proveTests(build, net).find(({ touch }) => touch === shieldEnd('crank-vr-1'))!;
    expect(test).toMatchObject({ kind: 'continuity', hold: ecuEnd(ground.id) });
    expect(test.title).toContain('shield');
    const none = edited(build, call('editDevice', { deviceId: 'crank-vr-1', shield: 'none' }));
    expect(netlist(none).nodeOf.has(shieldEnd('crank-vr-1'))).toBe(false);
    const both = netlist(edited(build, call('editDevice', { deviceId: 'crank-vr-1', shield: 'both-ends' })));
    expect(both.nodeOf.get(shieldEnd('crank-vr-1'))!.ends).toContain(groundEnd('head'));
  });
  test('a pin of the ECU for shields takes them all', () => {
    const base = ecu('orrery-48');
    const pins = base.pins.map((pin) =>
      pin.id === 'A27' ? { ...pin, label: 'Shield', abilities: [{ kind: 'shield' as const }] } : pin,
    );
    const build = edited(
      on(ecuSchema.parse({ ...base, pins })),
      call('addDevice', { kind: kind('crank-vr') }),
      call('addDevice', { kind: kind('knock') }),
      call('allotAll', { keep: 'placed' }),
    );
    expect(netlist(build).nodeOf.get(ecuEnd('A27'))!.ends).toEqual(
      [ecuEnd('A27'), shieldEnd('crank-vr-1'), shieldEnd('knock-1'), spliceEnd('A27')].sort(),
    );
  });
});

describe('as pinouts have it', () => {
  test.each([
    ['Any ground', ['power-ground', 'sensor-ground']],
    ['Power or sensor ground', ['power-ground', 'sensor-ground']],
    ['Sensor/power GND', ['power-ground', 'sensor-ground']],
    ['Sensor ground', ['sensor-ground']],
    ['Power ground', ['power-ground']],
    ['Shield', ['shield']],
    ['Crank shield', ['shield']],
    ['VR single-ended', ['vr']],
  ])('%s', (words, kinds) => {
    expect(proposeFrom(words).abilities.map((one) => one.kind)).toEqual(kinds);
  });
  test('equal grounds and none for the sensors are either; one VR input alone has no pair', () => {
    const read = readPinout('A1 Ground\nA2 Ground\nA3 Ground\nA4 VR crank\nA5 Injector 1\nA6 +12 V switched');
    if (!read.ok) throw new Error(read.problem.sentence);
    const kinds = read.value.pins.map(({ abilities }) => abilities.map((one) => one.kind).join('+'));
    expect(kinds.slice(0, 4)).toEqual([
      'power-ground+sensor-ground',
      'power-ground+sensor-ground',
      'power-ground+sensor-ground',
      'vr',
    ]);
    expect(read.value.pins[3].abilities[0].pair).toBeUndefined();
    const other = readPinout('A1 Ground\nA2 Ground\nA3 Sensor ground\nA4 VR crank +\nA5 VR crank -');
    if (!other.ok) throw new Error(other.problem.sentence);
    expect(other.value.pins.map(({ abilities }) => abilities.length)).toEqual([1, 1, 1, 1, 1]);
    expect(other.value.pins[3].abilities[0].pair).toBe('vr-1');
  });
});

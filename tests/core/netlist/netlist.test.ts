import { endNamed } from '../../ends';
import { describe, expect, test } from '@jest/globals';
import { call } from '~/core/edits';
import { expectRun } from '~/core/prove/expect';
import { endType, wireId } from '~/core/ends/ends';
import { classColour, isColour, signalClasses, type SignalClass } from '~/core/wire/colours';
import { labelOf } from '~/core/netlist/label';
import { netlist } from '~/core/netlist/netlist';
import { runOf } from '~/core/netlist/run';
import { shortLabel } from '~/core/netlist/short';
import { proveTests } from '~/core/prove/tests';
import { demoBuild, edited, emptyBuild, kind, twinBuild } from '../../helpers';

const build = demoBuild();
const net = netlist(build);

describe('netlist', () => {
  test('of an empty build holds the ECU’s own supply only', () => {
    const empty = netlist(emptyBuild());
    expect(empty.needs).toEqual([]);
    expect(empty.wires.every((wire) => wire.signal === 'ground' || wire.signal === 'supply')).toBe(true);
  });
  test.each([
    ['demo', build],
    ['twin', twinBuild()],
  ])('%s: every wire joins two known ends, once', (_, one) => {
    const list = netlist(one);
    const terminals = new Set(
      list.devices.flatMap(({ device, kind: of }) => of.terminals.map((terminal) => `dev:${device.id}.${terminal.id}`)),
    );
    const pins = new Set(one.ecu.pins.map((pin) => `ecu:${pin.id}`));
    expect(new Set(list.wires.map((wire) => wire.id)).size).toBe(list.wires.length);
    for (const wire of list.wires) {
      expect(wire.id).toBe(wireId(wire.from, wire.to));
      expect(isColour(wire.colour)).toBe(true);
      expect(wire.lengthMetres).toBeGreaterThan(0);
      for (const end of [wire.from, wire.to]) {
        const type = endType(end);
        if (type === 'device') expect(terminals).toContain(end);
        if (type === 'ecu') expect(pins).toContain(end);
      }
    }
  });
  test('every device terminal that goes somewhere has a wire', () => {
    for (const { device, kind: of } of net.devices)
      for (const terminal of of.terminals)
        expect([terminal.name, net.nodeOf.has(endNamed(`dev:${device.id}.${terminal.id}`))]).toEqual([
          terminal.name,
          !['nothing', 'mounted'].includes(terminal.destination.to),
        ]);
  });
  test('nodes part the ends: each end in one node only', () => {
    const ends = net.nodes.flatMap((node) => node.ends);
    expect(new Set(ends).size).toBe(ends.length);
    expect(net.nodes.every((node) => node.ends.length >= 2)).toBe(true);
  });
  test('a moved pin makes a new wire and leaves the others alone', () => {
    const moved = netlist(edited(build, call('assign', { needId: 'relay-fan-1.85', pinId: 'A8' })));
    const before = new Set(net.wires.map((wire) => wire.id));
    const fresh = moved.wires.filter((wire) => !before.has(wire.id)).map((wire) => wire.id);
    expect(fresh.sort()).toEqual(['ecu:A7~relay:fan-2.85', 'ecu:A8~relay:fan-1.85']);
  });
  test('colours stay with their pins when another need moves', () => {
    const moved = netlist(edited(build, call('unassign', { needId: 'boost-solenoid-1.2' })));
    for (const wire of moved.wires) expect(wire.colour).toBe(net.wireById.get(wire.id)!.colour);
  });
  test('a shared supply is one trunk to a splice and a branch for each user', () => {
    const splice = net.nodeOf.get(endNamed('splice:B7'))!;
    expect(splice.ends).toContain('ecu:B7');
    expect(net.wiresAt.get(endNamed('splice:B7'))!).toHaveLength(splice.ends.length - 1);
  });
  test('the person’s own size and colour are kept', () => {
    const own = netlist(
      edited(build, call('setWire', { wireId: 'dev:coil-igniter-1.C~ecu:A11', colour: 'PK', squareMm: 1 })),
    );
    expect(own.wireById.get('dev:coil-igniter-1.C~ecu:A11')).toMatchObject({ colour: 'PK', squareMm: 1 });
  });
  test('a missing kind is left out, not thrown over', () => {
    const { fan: _, ...kinds } = build.kinds;
    expect(netlist({ ...build, kinds }).devices.some(({ device }) => device.kindId === 'fan')).toBe(false);
  });
});

describe('runs', () => {
  test('goes through whatever stands in a wire: resistor, diode, switch, button, and a feed of the car', () => {
    const twin = twinBuild();
    const run = runOf(netlist(twin), { type: 'device', deviceId: 'alternator-1' })!;
    expect(run.hops.map(({ next }) => (next && 'through' in next ? next.through : null)).filter(Boolean)).toEqual([
      'fuse',
      'resistor',
    ]);
    for (const part of [
      { kind: 'diode', name: 'Block' },
      { kind: 'button', name: 'Press' },
      { kind: 'switch', name: 'Cut', amps: 20, resting: 'closed' },
    ] as const) {
      const with_ = edited(twin, call('insertInFeed', { linkId: 'dev:alternator-1.L~res:alternator-1.2', part }));
      const through = runOf(netlist(with_), { type: 'device', deviceId: 'alternator-1' })!;
      expect(through.hops.some(({ next }) => next && 'through' in next && next.through === part.kind)).toBe(true);
    }
  });
  const labels = (run: ReturnType<typeof runOf>) => run!.hops.map((hop) => labelOf(net, hop.end));
  test('of a need goes from its cavity to its terminal', () => {
    const run = runOf(net, { type: 'need', needId: 'coil-igniter-3.C' });
    expect(labels(run)).toEqual(['A13', 'Coil 3 · C']);
    expect(run!.wires[0].colour).toMatch(/^WH/);
    expect(run!.ohms).toBeCloseTo(run!.wires[0].ohms, 12);
  });
  test('of a feed terminal goes from the battery through fuse and relay', () => {
    expect(labels(runOf(net, { type: 'end', end: endNamed('dev:fan-1.1') }))).toEqual([
      'battery positive',
      'Plus busbar',
      'Fan 1 fuse, source side',
      'Fan 1 fuse, load side',
      'Fan 1 relay · 30',
      'Fan 1 relay · 87',
      'Fan 1 · 1',
    ]);
  });
  test('of a shared ground names its other users', () => {
    const run = runOf(net, { type: 'end', end: endNamed('dev:clt-ntc-1.2') })!;
    expect(labels(run)[0]).toBe('B5');
    expect(run.branches.length).toBeGreaterThan(4);
  });
  test('of a wire holds that wire; of a device its signal', () => {
    const wire = net.wires.find((one) => one.to === 'dev:map-3bar-1.3' || one.from === 'dev:map-3bar-1.3')!;
    expect(runOf(net, { type: 'wire', wireId: wire.id })!.wires).toContain(wire);
    expect(runOf(net, { type: 'device', deviceId: 'map-3bar-1' })!.title).toBe('Manifold pressure');
  });
  test('of every wire ends somewhere', () => {
    for (const wire of net.wires)
      expect(runOf(net, { type: 'wire', wireId: wire.id })!.wires.map((one) => one.id)).toContain(wire.id);
  });
  test('of what has no wire is null', () => {
    expect(runOf(net, { type: 'end', end: endNamed('ecu:A16') })).toBeNull();
    expect(runOf(net, { type: 'wire', wireId: 'no~such' })).toBeNull();
    expect(runOf(net, { type: 'device', deviceId: 'none' })).toBeNull();
    expect(runOf(net, { type: 'need', needId: 'none' })).toBeNull();
  });
  test('carries what to expect and what was read', () => {
    const tests = proveTests(build, net);
    const proved = expectRun(build, net, tests, runOf(net, { type: 'need', needId: 'coil-igniter-3.C' })!);
    expect(proved.test!.expected).toBeCloseTo(0.0544 * 1.72 + 0.01, 3);
    expect(proved.measured!.right).toBe(true);
    expect(proved.measured!.beep).toBe(false);
    const open = expectRun(build, net, tests, runOf(net, { type: 'need', needId: 'clt-ntc-1.1' })!);
    expect(open.measured).toBeNull();
    expect(open.volts[0]!.volts).toBeGreaterThan(2);
  });
});

test('a class has at least twenty colours, none twice', () => {
  for (const signal of Object.keys(signalClasses) as SignalClass[]) {
    const colours = Array.from({ length: 20 }, (_, i) => classColour(signal, i));
    expect(new Set(colours).size).toBe(20);
    expect(colours.every(isColour)).toBe(true);
  }
});

test.each([
  ['Injector 1', 'Inj 1'],
  ['Power ground 2', 'Gnd 2'],
  ['Throttle motor +', 'Throt +'],
  ['Manifold pressure', 'Manif.\npress.'],
  ['Extraordinary long name of a thing', 'Extrao.\na thing'],
])('%s is drawn as %j', (label, short) => {
  expect(shortLabel(label)).toBe(short);
  for (const line of shortLabel(label).split('\n')) expect(line.length).toBeLessThanOrEqual(7);
});

test('a fan of its own brings relay, fuse and a need', () => {
  const one = netlist(edited(emptyBuild(), call('addDevice', { kind: kind('fan'), label: 'Fan' })));
  expect(one.needs.map((need) => need.id)).toEqual(['relay-fan-1.85']);
  expect(one.circuits.map((circuit) => circuit.id)).toContain('fan-1');
});

test('a netlist is plain data: it crosses to a worker whole, and reads the same there', () => {
  const net = netlist(demoBuild());
  const there = structuredClone(net);
  expect(there).toEqual(net);
  expect(net.nodes.flatMap(({ ends }) => ends.map((one) => labelOf(there, one)))).toEqual(
    net.nodes.flatMap(({ ends }) => ends.map((one) => labelOf(net, one))),
  );
});

import { describe, expect, test } from '@jest/globals';
import type { Build } from '~/core/build/schema';
import { cableOhms } from '~/core/circuit/battery';
import { jointAmps } from '~/core/circuit/grounds';
import { numberOf } from '~/core/circuit/nodes';
import { wireAmps } from '~/core/circuit/reading';
import { solveCircuit } from '~/core/circuit/solve';
import { drawGrounds } from '~/core/drawing/grounds';
import { call } from '~/core/edits';
import { ALTERNATOR_STUD, BATTERY } from '~/core/ends/ends';
import { netlist, type Wire } from '~/core/netlist/netlist';
import { demoBuilds } from '~/demo';
import { demoBuild, edited } from '../../helpers';

const drawn = (build: Build) => {
  const net = netlist(build);
  return { net, ...drawGrounds(build, net) };
};
const named = ({ nodes }: ReturnType<typeof drawn>, name: string) => nodes.find((node) => node.name === name)!;

const merged = edited(
  demoBuild(),
  call('addFeedPart', { part: { kind: 'ground', name: 'Rear bolt', on: 'body' }, name: 'rear' }),
  call('moveReturn', { end: 'dev:fuel-pump-1.2', to: 'gnd:rear' }),
);
const shielded = edited(demoBuild(), call('editDevice', { deviceId: 'crank-vr-1', shield: 'both-ends' }));
const builds: [string, Build][] = [
  ...demoBuilds().map((build): [string, Build] => [build.name, build]),
  ['a bolt of one’s own', merged],
  ['a shield on both ends', shielded],
  [
    'a return that hangs on another',
    edited(
      demoBuild(),
      call('linkFeed', { from: 'dev:fan-1.2', to: 'dev:fan-2.2' }),
      call('linkFeed', { from: 'dev:fan-1.2', to: 'gnd:chassis' }),
    ),
  ],
  [
    'a switch in a return',
    edited(
      demoBuild(),
      call('moveReturn', { end: 'dev:fuel-pump-1.2', to: 'gnd:battery' }),
      call('insertInFeed', {
        linkId: 'dev:fuel-pump-1.2~gnd:battery',
        part: { kind: 'switch', name: 'Isolator', amps: 30, resting: 'closed' },
      }),
    ),
  ],
  ['ECU grounded at the battery', edited(demoBuild(), call('setPower', { ecuGround: 'battery' }))],
];

describe.each(builds)('grounds of %s', (_, build) => {
  const drawing = drawn(build);
  const { net, nodes, lines, width, height } = drawing;
  test('every ground wire stands there once, plugs or not', () => {
    const whole = ({ id, cutOf }: Wire) => cutOf ?? id;
    const shown = lines.flatMap(({ wires }) => wires.map(whole)).sort();
    const grounds = net.wires.filter(({ signal }) => signal === 'ground').map(whole);
    expect(shown).toEqual([...new Set(grounds)].sort());
  });
  test('all runs to the battery, from the left to the right, and nothing lies on anything else', () => {
    const [battery] = nodes.filter(({ kind }) => kind === 'battery');
    nodes.forEach((one, at) => {
      expect(one.x + one.width).toBeLessThanOrEqual(width);
      expect(one.y + one.height / 2).toBeLessThanOrEqual(height + 1);
      expect(one === battery || one.x < battery.x).toBe(true);
      for (const other of nodes.slice(at + 1)) {
        const apart =
          one.x + one.width <= other.x ||
          other.x + other.width <= one.x ||
          Math.abs(one.y - other.y) >= (one.height + other.height) / 2;
        expect({ one: one.name, other: other.name, apart }).toMatchObject({ apart: true });
      }
    });
    for (const { from, to, second } of lines) if (!second) expect(from[0]).toBeLessThan(to[0]);
    expect(drawGrounds(build, netlist(build))).toEqual({ nodes, lines, width, height });
  });
});

describe('what the drawing of the grounds says', () => {
  test('alike returns are one row, and a bolt counts its rings', () => {
    const drawing = drawn(demoBuild());
    expect(named(drawing, 'Coil 1 to 5 · B, D').members).toHaveLength(10);
    expect(named(drawing, '3 relay windings · 85').members).toHaveLength(3);
    // Ten of the coils, the wideband's, three of the ECU.
    expect(named(drawing, 'engine block')).toMatchObject({ rings: 14, takes: true });
    expect(drawing.lines.find(({ id }) => id === 'ecu')!.wires).toHaveLength(3);
    // The splice behind a pin is Gonyx' own: nothing is brought there by hand.
    expect(named(drawing, 'Splice B5').takes).toBe(false);
  });
  test('a bolt of one’s own hangs on the body, and what was brought there hangs on it', () => {
    const drawing = drawn(merged);
    const own = drawing.nodes.find(({ id }) => id === 'gnd:rear')!;
    expect(own).toMatchObject({ kind: 'bolt', rings: 1, takes: true });
    expect(drawing.lines.find(({ id }) => id === 'gnd:rear')).toMatchObject({ joint: 'bolted', wires: [] });
    const pump = drawing.lines.find(({ id }) => id === 'dev:fuel-pump-1.2')!;
    expect(pump.to[1]).toBe(own.y);
  });
  test('what hangs on another’s return says so, and stands beside it', () => {
    const chained = builds.find(([name]) => name === 'a return that hangs on another')![1];
    const drawing = drawn(chained);
    const [first, second] = [named(drawing, 'Fan 1 · 2'), named(drawing, 'Fan 2 · 2, by Fan 1 · 2')];
    expect([first.kind, second.kind]).toEqual(['return', 'return']);
    expect(second.x).toBe(first.x);
  });
  test('a shield on both ends has a second way', () => {
    const second = drawn(shielded).lines.filter((line) => line.second);
    expect(second).toHaveLength(1);
    expect(second[0].wires[0].id).toContain('shield:crank-vr-1');
  });
  test('what is told of strap and body is all that comes back', () => {
    const build = demoBuild();
    const net = netlist(build);
    const solution = solveCircuit(build, net, 'running');
    const { strap, body } = jointAmps(build, solution);
    const amps = wireAmps(solution, net);
    const into = (bolt: string) =>
      net.wires.reduce(
        (sum, { id, from, to }) => sum + (to === bolt ? amps.get(id)! : from === bolt ? -amps.get(id)! : 0),
        0,
      );
    // Kirchhoff at either bolt; what is mounted on it by its body adds less than half an ampere. What charges has its case on the
    // block: what it gives the loom comes back there, and the strap carries the rest of it to the body's loads.
    expect(strap).toBeLessThan(-20);
    const at = (end: typeof BATTERY) => solution.at(numberOf(solution.ir.nodes, end));
    const stud = at(ALTERNATOR_STUD) - at(BATTERY);
    expect(Math.abs(strap - (into('gnd:head') - stud / cableOhms(build.power.alternatorCable)))).toBeLessThan(0.5);
    expect(Math.abs(body - into('gnd:chassis'))).toBeLessThan(0.5);
  });
});

import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, test } from '@jest/globals';
import type { Build } from '~/core/build/schema';
import type { Fault } from '~/core/circuit/faults';
import { type CircuitState, circuitStates } from '~/core/circuit/states';
import { solveCircuit, type Solved } from '~/core/circuit/solve';
import { applyEdit } from '~/core/edits';
import { groundEnd } from '~/core/ends/ends';
import { spiceDeck } from '~/core/formats/spice';
import { netlist, type Netlist } from '~/core/netlist/netlist';
import { demoBuilds } from '~/demo';

/*
 * Node voltages against ngspice 39, a general-purpose circuit simulator, which reads the same resistors and sources as text: that
 * checks the solver and the text. What the resistors should be is checked by hand-worked cases beside it (tests/core/circuit).
 */

/** Operating points of several decks in one process: volts of each node by its number, deck by deck. */
function operatingPoints(decks: readonly string[]): Map<string, number>[] {
  const folder = mkdtempSync(path.join(tmpdir(), 'gonyx-circuit-'));
  try {
    const files = decks.map((deck, at) => {
      const file = path.join(folder, `deck-${at}.cir`);
      writeFileSync(file, deck);
      return file;
    });
    const main = path.join(folder, 'all.cir');
    const lines = files.flatMap((file, at) => [`echo deck-${at}`, `source ${file}`, 'destroy all']);
    writeFileSync(main, ['* decks', '.control', ...lines, 'quit', '.endc', '.end', ''].join('\n'));
    const out = execFileSync('/usr/bin/ngspice', ['-b', main], { encoding: 'utf8', maxBuffer: 1 << 28, stdio: 'pipe' });
    return out
      .split(/^deck-\d+$/m)
      .slice(1)
      .map(
        (part) => new Map([...part.matchAll(/^v\((n\d+)\) = (\S+)$/gm)].map((found) => [found[1], Number(found[2])])),
      );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

interface Case {
  readonly name: string;
  readonly solution: Solved;
}
const solved = (
  name: string,
  build: Build,
  net: Netlist,
  state: CircuitState,
  fault: Fault | null = null,
  pins: ReadonlySet<string> | null = null,
): Case => ({
  name,
  solution: solveCircuit(build, net, state, fault, pins),
});

/** Every node within 1 mV or a thousandth of what the simulator says. */
function agree(cases: readonly Case[]): void {
  const points = operatingPoints(
    cases.map(({ name, solution }) => spiceDeck(solution.network, name, groundEnd('battery'))),
  );
  expect(points).toHaveLength(cases.length);
  cases.forEach(({ name, solution }, at) => {
    const far = solution.network.names.flatMap((node, i) => {
      const [ours, theirs] = [solution.voltages[i], points[at].get(`n${i + 1}`) ?? NaN];
      return Math.abs(ours - theirs) <= Math.max(1e-3, Math.abs(theirs) / 1000)
        ? []
        : [`${name}: ${node} ${ours} ${theirs}`];
    });
    expect(far).toEqual([]);
    expect(points[at].size).toBe(solution.network.size);
  });
}

const builds = demoBuilds().map((build) => [build.name, build, netlist(build)] as const);

/** Whole numbers that always come the same. */
function numbers(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
}

describe.each(builds)('%s against ngspice', (_, build, net) => {
  test('every state', () => {
    agree(circuitStates.map((state) => solved(state, build, net, state)));
  });
  test('every output driven alone', () => {
    const pins = net.cavities.flatMap(({ pin, needId }) => (needId === null ? [] : [pin.id]));
    agree(pins.map((pin) => solved(pin, build, net, 'outputs-on', null, new Set([pin]))));
  });
  test('a hundred single faults', () => {
    const next = numbers(build.name.length);
    const wire = () => net.wires[next(net.wires.length)].id;
    const part = (kind: string) => {
      const found = net.parts.filter((one) => one.part.kind === kind);
      return found[next(found.length)].name;
    };
    const makes: (() => Fault)[] = [
      () => ({ type: 'open', wireId: wire() }),
      () => ({ type: 'resistive', wireId: wire(), ohms: 10 ** (next(5) - 1) }),
      () => ({ type: 'short-to-ground', wireId: wire() }),
      () => ({ type: 'blown-fuse', circuitId: part('fuse') }),
      () => ({ type: 'relay-stuck-open', circuitId: part('relay') }),
      () => ({ type: 'relay-winding-open', circuitId: part('relay') }),
      () => ({ type: 'device-open', deviceId: net.devices[next(net.devices.length)].device.id }),
      () => ({ type: 'device-shorted', deviceId: net.devices[next(net.devices.length)].device.id }),
    ];
    const states: readonly CircuitState[] = ['key-on', 'outputs-on', 'running'];
    agree(
      Array.from({ length: 100 }, (_unused, i) =>
        solved(`fault ${i}`, build, net, states[i % 3], makes[i % makes.length]()),
      ),
    );
  });
});

test('two hundred random plans of feeds, with every kind of part, against ngspice', () => {
  const next = numbers(7);
  const [twin] = demoBuilds().slice(1);
  const parts = [
    { kind: 'splice', name: 'Splice' },
    { kind: 'busbar', name: 'Bar' },
    { kind: 'resistor', name: 'Resistor', ohms: 470 },
    { kind: 'diode', name: 'Diode' },
    { kind: 'fuse', name: 'Fuse' },
    { kind: 'switch', name: 'Switch', amps: 40, resting: 'closed' },
    { kind: 'button', name: 'Button' },
    { kind: 'tap', name: 'Tap', live: 'run', amps: 20, fused: true },
    { kind: 'battery', name: 'Second battery', ampereHours: 60 },
    { kind: 'ground', name: 'Bolt', on: 'engine' },
    {
      kind: 'relay',
      name: 'Relay',
      contact: 'change-over',
      control: 'wired',
      suppression: 'diode',
      reversed: false,
      contactAmps: 30,
    },
  ];
  const cases = Array.from({ length: 200 }, (_, i) => {
    let build = twin;
    const edit = (name: string, args: unknown) => {
      const result = applyEdit(build, name, args);
      if (result.ok) build = result.value.build;
    };
    for (let step = 0; step < 5; step += 1) {
      const { plan } = netlist(build).power;
      const link = plan.links[next(plan.links.length)];
      const any = () => plan.links[next(plan.links.length)].from;
      const part = parts[(i + step) % parts.length];
      if (['splice', 'resistor', 'diode', 'fuse', 'switch', 'button'].includes(part.kind))
        edit('insertInFeed', { linkId: link.id, part });
      else {
        edit('addFeedPart', { part, name: `own-${step}` });
        const port = part.kind === 'relay' ? ['.30', '.87', '.87a', '.85', '.86'] : [''];
        const prefix = { busbar: 'bar', tap: 'tap', battery: 'bat', ground: 'gnd', relay: 'relay' }[
          part.kind as 'busbar'
        ];
        for (const suffix of port)
          edit('linkFeed', { from: `${prefix}:own-${step}${suffix}`, to: any(), metres: 1 + next(3) });
      }
    }
    const state = circuitStates[1 + (i % (circuitStates.length - 1))];
    return solved(`plan ${i}`, build, netlist(build), state);
  });
  agree(cases);
});

import { expect, test } from '@jest/globals';
import type { Build } from '~/core/build/schema';
import { voltsBetween } from '~/core/circuit/reading';
import { solveCircuit } from '~/core/circuit/solve';
import { call } from '~/core/edits';
import { deviceEnd, groundEnd, partEnd } from '~/core/ends/ends';
import { netlist } from '~/core/netlist/netlist';
import { findingsOf } from '~/core/rules';

import { demoBuild, edited, twinBuild } from '../../helpers';

const demo = demoBuild();
/** The twin as it is proposed, with nothing decided. */
const plainTwin = (): Build => edited(twinBuild(), call('proposeFeeds', {}));
const powerStops = (build: Build) =>
  findingsOf(build).filter(({ rule, severity }) => /^PW/.test(rule) && severity !== 'note');

test('a relay that breaks its own winding never settles, and that is told', () => {
  const build = edited(
    twinBuild(),
    call('addFeedPart', {
      part: {
        kind: 'relay',
        name: 'Buzzer',
        contact: 'change-over',
        control: 'wired',
        suppression: 'none',
        reversed: false,
        contactAmps: 30,
      },
      name: 'buzzer',
    }),
    call('linkFeed', { from: 'bat:+', to: 'relay:buzzer.30' }),
    call('linkFeed', { from: 'relay:buzzer.87a', to: 'relay:buzzer.86' }),
    call('linkFeed', { from: 'relay:buzzer.85', to: 'gnd:chassis' }),
  );
  expect(solveCircuit(build, netlist(build), 'key-on').settled).toBe(false);
  expect(solveCircuit(twinBuild(), netlist(twinBuild()), 'key-on').settled).toBe(true);
});

test('a diode in a wire conducts one way: its volts are lost, and turned round it lets nothing through', () => {
  const id = 'dev:alternator-1.L~fuse:key.2';
  const straight = edited(plainTwin(), call('hangLoad', { end: 'dev:alternator-1.L', from: 'fuse:key.2' }));
  const solved = (build: Build) => solveCircuit(build, netlist(build), 'key-on');
  const put = solved(
    edited(straight, call('insertInFeed', { linkId: id, part: { kind: 'diode', name: 'Block' }, name: 'block' })),
  );
  // 0.7 V at its knee, and 20 mohm for what flows: under 3 A.
  const lost = voltsBetween(put, partEnd('diode', 'block', 'a'), partEnd('diode', 'block', 'k'))!;
  expect(lost).toBeGreaterThan(0.7);
  expect(lost).toBeLessThan(0.76);
  const turned = edited(
    plainTwin(),
    call('addFeedPart', { part: { kind: 'diode', name: 'Block' }, name: 'block' }),
    call('linkFeed', { from: 'fuse:key.2', to: 'diode:block.k' }),
    call('linkFeed', { from: 'diode:block.a', to: 'dev:alternator-1.L' }),
  );
  expect(voltsBetween(solved(turned), deviceEnd('alternator-1', 'L'), groundEnd('battery'))).toBeLessThan(0.1);
  expect(powerStops(turned).map(({ rule }) => rule)).toContain('PW-17');
});

test('an alternator’s lamp terminal: amperes straight on the feed, 1 to 2 V behind 470 ohms, the battery’s volts once it charges', () => {
  const at = (build: Build, state: 'key-on' | 'running') => {
    const solution = solveCircuit(build, netlist(build), state);
    return voltsBetween(solution, deviceEnd('alternator-1', 'L'), groundEnd('head'))!;
  };
  // Straight: all but 1.2 V across the field's 4 ohms, so (12.4 - 1.2) / 4 = 2.8 A less what wire and fuse take.
  const straight = edited(plainTwin(), call('hangLoad', { end: 'dev:alternator-1.L', from: 'fuse:key.2' }));
  expect((at(straight, 'key-on') - 1.2) / 4).toBeGreaterThan(2);
  // Behind 470 ohms (12.4 - 1.2) / 474 = 24 mA flow, which makes 0.09 V in the field.
  expect(at(twinBuild(), 'key-on')).toBeCloseTo(1.2 + (4 * (12.4 - 1.2)) / 474, 1);
  expect(at(twinBuild(), 'running')).toBeGreaterThan(13);
});

test('a terminal that asks for no feed any more takes the wires laid to it by hand along, and what stood in them', () => {
  const lamp = call('setDestination', {
    deviceId: 'alternator-1',
    terminalId: 'L',
    destination: { to: 'line', line: 'charge-lamp' },
  });
  const byHand = edited(
    plainTwin(),
    call('hangLoad', { end: 'dev:alternator-1.L', from: 'fuse:key.2' }),
    call('insertInFeed', {
      linkId: 'dev:alternator-1.L~fuse:key.2',
      part: { kind: 'resistor', name: 'Own', ohms: 330 },
      name: 'own',
    }),
  );
  expect(edited(byHand, lamp).feeds).toEqual(edited(plainTwin(), lamp).feeds);
  // Taken out by hand it stays out, and the wire is straight again.
  const without = edited(plainTwin(), call('removeFeedPart', { partId: 'res:alternator-1' }));
  expect(netlist(without).wires.some(({ id }) => id.includes('res:'))).toBe(false);
  expect(powerStops(without).map(({ rule }) => rule)).toEqual(['PW-24']);
  // A fuse that others hang on stays.
  const shared = edited(
    plainTwin(),
    call('addFeedPart', { part: { kind: 'fuse', name: 'Own' }, name: 'own' }),
    call('hangLoad', { end: 'dev:alternator-1.L', from: 'fuse:own.2' }),
    call('hangLoad', { end: 'dev:fan-1.1', from: 'fuse:own.2' }),
    lamp,
  );
  expect(Object.keys(shared.feeds.parts)).toContain('fuse:own');
  expect(Object.keys(shared.feeds.links).some((id) => id.includes('fan-1'))).toBe(true);
  expect(Object.keys(shared.feeds.links).some((id) => id.includes('alternator-1.L'))).toBe(false);
});

test('a suppressed relay turned round is a short through its diode: the fuse of the windings opens', () => {
  const build = edited(
    demo,
    call('setCircuit', { circuitId: 'main', choice: { relay: 'diode', winding: 'reversed' } }),
  );
  const solution = solveCircuit(build, netlist(build), 'key-on');
  // 12 V less 0.7 through some tenths of an ohm of thin wire: tens of amperes, where 3 A are fused.
  expect([...solution.blownFuses]).toEqual(['wake']);
  expect(solution.closedRelays.has('main')).toBe(false);
  expect(solution.settled).toBe(true);
  const right = edited(demo, call('setCircuit', { circuitId: 'main', choice: { relay: 'diode' } }));
  expect(solveCircuit(right, netlist(right), 'key-on').closedRelays.has('main')).toBe(true);
});

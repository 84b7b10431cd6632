import { expect, test } from '@jest/globals';
import { call } from '~/core/edits';
import { trunkOf } from '~/core/loom/bundles';
import { cutList, cutTotals } from '~/core/loom/loom';
import { netlist } from '~/core/netlist/netlist';
import { demoBuild, edited } from '../../helpers';

const build = demoBuild();
const net = netlist(build);

test('the cut list holds every wire once; totals add up to it', () => {
  const lines = cutList(build, net);
  expect(lines.map((line) => line.wireId).sort()).toEqual(net.wires.map((wire) => wire.id).sort());
  const metres = lines.reduce((sum, line) => sum + line.lengthMetres, 0);
  const totals = cutTotals(lines);
  expect(totals.reduce((sum, total) => sum + total.metres, 0)).toBeCloseTo(metres, 6);
  expect(totals.reduce((sum, total) => sum + total.count, 0)).toBe(lines.length);
});

test('three orders of work', () => {
  const list = (orderOfWork: 'powers-first' | 'engine-side-first' | 'shortest-first') =>
    cutList({ ...build, loom: { ...build.loom, orderOfWork } }, net);
  expect(net.wireById.get(list('powers-first')[0].wireId)!.signal).toBe('ground');
  expect(['injector', 'ignition', 'trigger', 'analog', 'bus']).toContain(
    net.wireById.get(list('engine-side-first')[0].wireId)!.signal,
  );
  const lengths = list('shortest-first').map((line) => line.lengthMetres);
  expect(lengths).toEqual([...lengths].sort((a, b) => a - b));
});

test('length is branch plus slack', () => {
  const slack = (slackMetres: number) =>
    netlist(edited(build, call('setLoom', { slackMetres }))).wireById.get('dev:coil-igniter-3.C~ecu:A13')!.lengthMetres;
  expect(slack(0)).toBeCloseTo(1.62, 9);
  expect(slack(0.25)).toBeCloseTo(1.87, 9);
});

test('thicker coverings make thicker trunks', () => {
  const trunk = (covering: 'tape' | 'conduit') =>
    trunkOf(edited(build, call('setLoom', { covering })), net).millimetres;
  expect(trunk('conduit')).toBeGreaterThan(trunk('tape'));
});

test('the trunk has every wire of the ECU once, beside each other', () => {
  const { wires, laid, bareMillimetres } = trunkOf(build, net);
  expect(wires.length).toBe(
    net.wires.filter(({ from, to }) => [from, to].some((end) => end.startsWith('ecu:'))).length,
  );
  expect(laid).toHaveLength(wires.length);
  // No bundle is thinner than its copper and insulation, and hands lay none thicker than 1.2 d sqrt(N) (common practice).
  const square = laid.reduce((sum, { r }) => sum + (2 * r) ** 2, 0);
  expect(bareMillimetres).toBeGreaterThan(Math.sqrt(square));
  expect(bareMillimetres).toBeLessThan(1.2 * Math.sqrt(square));
});

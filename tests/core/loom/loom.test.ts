import { expect, test } from '@jest/globals';
import { call } from '~/core/edits';
import { bundleMillimetres, cutList, cutTotals, trunkMillimetres } from '~/core/loom/loom';
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

test('bundles by the lay 1-6-12-18, else 1.2 d sqrt N', () => {
  const of = (count: number) => bundleMillimetres(new Array<number>(count).fill(2));
  expect([of(0), of(1), of(7), of(19), of(37)]).toEqual([0, 2, 6, 10, 14]);
  expect(of(30)).toBeCloseTo(2 * 1.2 * Math.sqrt(30), 9);
});

test('thicker coverings make thicker trunks', () => {
  const trunk = (covering: 'tape' | 'conduit') => trunkMillimetres(edited(build, call('setLoom', { covering })), net);
  expect(trunk('conduit')).toBeGreaterThan(trunk('tape'));
});

import { describe, expect, test } from '@jest/globals';
import { drawFeeds, type FeedDrawing } from '~/core/drawing/feeds';
import { call } from '~/core/edits';
import { endType, partAt, partId } from '~/core/ends/ends';
import { netlist, type Netlist } from '~/core/netlist/netlist';
import { demoBuilds } from '~/demo';
import { demoBuild, edited } from '../../helpers';

const demo = demoBuild();
const net = netlist(demo);
const loadsIn = ({ nodes }: FeedDrawing) =>
  nodes
    .flatMap(({ kind, members }) => (kind === 'load' || kind === 'windings' ? members : []))
    // A second battery stands among them, and draws nothing.
    .filter((end) => endType(end) !== 'battery')
    .sort();
/** What draws: loads and windings, but for windings that hang on a terminal of their own relay. */
const drawing = ({ power: { flows } }: Netlist) =>
  flows.draws
    .map(({ end }) => end)
    .filter((end) => partAt(end) === null || partAt(flows.into.get(end)!.from) !== partAt(end))
    .sort();

describe.each(demoBuilds().map((build) => [build.name, build] as const))('%s drawn', (_, build) => {
  const own = netlist(build);
  const drawn = drawFeeds(own);
  test('every load and winding stands there once', () => {
    expect(loadsIn(drawn)).toEqual(drawing(own));
  });
  test('nothing lies on anything else, and all of it is on the sheet', () => {
    const { nodes, width, height } = drawn;
    nodes.forEach((one, at) => {
      expect(one.x).toBeGreaterThanOrEqual(0);
      expect(one.x + one.width).toBeLessThanOrEqual(width);
      expect(one.y + one.height / 2).toBeLessThanOrEqual(height);
      for (const other of nodes.slice(at + 1)) {
        const apart =
          one.x + one.width <= other.x ||
          other.x + other.width <= one.x ||
          Math.abs(one.y - other.y) >= (one.height + other.height) / 2;
        expect({ one: one.name, other: other.name, apart }).toMatchObject({ apart: true });
      }
    });
  });
  test('the same plan is drawn the same, and what feeds a thing is left of it', () => {
    expect(drawFeeds(netlist(build))).toEqual(drawn);
    for (const { from, to, second } of drawn.wires) if (!second) expect(from[0]).toBeLessThan(to[0] + 6);
  });
});

describe('lanes', () => {
  const main = partId('fuse', 'main');
  test('a folded lane is one load with all of its members, and as many rows less', () => {
    const [whole, folded] = [drawFeeds(net), drawFeeds(net, new Set(), new Set([main]))];
    const behind = net.circuits.find(({ id }) => id === 'main')!.loads.map(({ end }) => end);
    const lane = folded.nodes.find(({ kind, members }) => kind === 'load' && members.includes(behind[0]))!;
    expect([...lane.members].sort()).toEqual([...behind].sort());
    expect(lane).toMatchObject({ isLane: true, name: `${behind.length} loads`, returns: 'several places' });
    expect(folded.height).toBeLessThan(whole.height);
    // Everything else stands as it did.
    expect(drawing(net)).toEqual(expect.arrayContaining(loadsIn(folded)));
    expect(folded.nodes.some(({ id }) => id === partId('relay', 'main'))).toBe(false);
    expect(folded.nodes.some(({ id }) => id === main)).toBe(true);
  });
  test('a lane of one thing, and one that is not there, are drawn as they are', () => {
    const plain = drawFeeds(net);
    expect(drawFeeds(net, new Set(), new Set([partId('fuse', 'permanent')]))).toEqual(plain);
    expect(drawFeeds(net, new Set(), new Set([partId('fuse', 'nobody')]))).toEqual(plain);
  });
  test('what is added below moves nothing above', () => {
    const more = edited(demo, call('addFeedPart', { part: { kind: 'fuse', name: 'Own' }, name: 'own' }));
    const [before, after] = [drawFeeds(net), drawFeeds(netlist(more))];
    const place = ({ nodes }: FeedDrawing) => new Map(nodes.map(({ id, y }) => [id, y]));
    const now = place(after);
    for (const [id, y] of place(before)) expect({ id, y: now.get(id) }).toEqual({ id, y });
  });
});

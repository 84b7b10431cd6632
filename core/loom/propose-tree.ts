import type { Build, Device } from '../build/schema';
import { groupBy } from '../data/group';
import { namesOfPlace } from '../netlist/short';
import type { DeviceKind } from '../devices/kind';
import {
  BATTERY_THING,
  ECU_THING,
  KEY_THINGS,
  LOOSE_BOX,
  boxThing,
  deviceThing,
  groundThing,
  placesOf,
} from '../tree/things';
import { noTree, type EngineSeat, type LoomTree, type Segment, type TreeNode, type Vehicle } from '../tree/tree';
import { waysOf } from '../tree/ways';
import { isQuiet, loudOf } from './noise';
import { regions, type Region } from '../devices/kind';
import { layoutOf, regionOf, regionZones } from './regions';

/** Depth of the trunk's places from the ECU where the branches leave room, metres (common practice in a car). */
const INSIDE_METRES = 0.35;
const WALL_METRES = 0.5;
const ENGINE_METRES = 0.25;
const BOX_METRES = 0.6;
const BATTERY_METRES = 0.2;
/** No tail is shorter: its plug must come off (common practice). */
const LEAST_TAIL_METRES = 0.1;
/** Tails whose lengths are so near each other are one (common practice). */
const ALIKE_METRES = 0.15;
/** A hole through the wall, with its grommet, mm (common practice). */
const HOLE_MILLIMETRES = 38;

/** Regions that are reached through the wall, and by which place of the trunk. */
const hangsOn: Readonly<Record<Region, 'inside' | 'outside' | 'top'>> = {
  cabin: 'inside',
  rear: 'inside',
  front: 'outside',
  intake: 'top',
  coils: 'top',
  injectors: 'top',
  block: 'outside',
  exhaust: 'outside',
  gearbox: 'outside',
};

interface Tail {
  readonly region: Region;
  readonly devices: readonly Device[];
  readonly metres: number;
}

/** Devices that end at one place: of one region, about as far from the ECU; those that are one for each cylinder by themselves. */
function tailsOf(build: Build, devices: readonly Device[]): Tail[] {
  const found = devices.flatMap((device) => {
    const kind = build.kinds[device.kindId];
    if (!kind || !hasWires(kind)) return [];
    // A cable that hears everything has a tail of its own, and so has what makes the noise.
    const keep = isQuiet(kind) ? 'quiet' : loudOf(kind) === 'machine' ? 'loud' : 'plain';
    return [{ device, region: regionOf(kind), keep }];
  });
  return [...groupBy(found, ({ region }) => region)].flatMap(([region, of]) => {
    const rising = [...of].sort((one, other) => one.device.branchMetres - other.device.branchMetres);
    const tails: (typeof rising)[] = [];
    for (const one of rising) {
      const { device, keep } = one;
      const like = tails.find(
        ([first]) => first!.keep === keep && device.branchMetres - first!.device.branchMetres <= ALIKE_METRES,
      );
      if (like) like.push(one);
      else tails.push([one]);
    }
    return tails.map((all) => ({
      region,
      devices: all.map(({ device }) => device),
      metres: all[all.length - 1]!.device.branchMetres,
    }));
  });
}

/** Something within the ECU, or through the body it is bolted to, has no wire of its own. */
const hasWires = ({ terminals }: DeviceKind): boolean =>
  terminals.some(({ destination }) => destination.to !== 'nothing' && destination.to !== 'mounted');

const nameOf = (devices: readonly Device[]): string => namesOfPlace(devices.map(({ label }) => label)).slice(0, 60);
const round = (value: number): number => Math.round(value * 100) / 100;
/**
 * A first tree from the list of devices: a trunk from the ECU through the wall to the engine, and a tail for what sits together.
 * No wire is shorter than its branch was typed. Every length is drawn, none measured.
 */
export function proposeTree(build: Build, vehicle: Vehicle, seat: EngineSeat): LoomTree {
  const { at, wall, step, columns } = layoutOf(vehicle, seat);
  const tails = tailsOf(build, build.devices);
  // The trunk is as long as usual, and no longer than the shortest tail behind it allows.
  const room = (...places: string[]) =>
    Math.min(
      ...tails.flatMap(({ region, devices }) => (places.includes(hangsOn[region]) ? devices[0]!.branchMetres : [])),
    ) - LEAST_TAIL_METRES;
  const inside = round(Math.max(LEAST_TAIL_METRES, Math.min(INSIDE_METRES, room('inside', 'outside', 'top'))));
  const outside = round(Math.max(inside + LEAST_TAIL_METRES, Math.min(inside + WALL_METRES, room('outside', 'top'))));
  const top = round(Math.max(outside + LEAST_TAIL_METRES, Math.min(outside + ENGINE_METRES, room('top'))));
  const depth = { inside, outside, top };

  const nodes: Record<string, TreeNode> = {
    ecu: { kind: 'ecu', name: '', at: at.ecu, holds: [ECU_THING] },
    inside: { kind: 'branch', name: 'cabin branch', at: at.inside, holds: [] },
    outside: { kind: 'branch', name: 'engine branch', at: at.outside, holds: [groundThing('head')] },
    box: {
      kind: 'box',
      name: '',
      at: at.box,
      // The key's feed is taken where the fuses stand: no wire runs far before its fuse.
      holds: [LOOSE_BOX, ...Object.keys(build.feeds.boxes).map(boxThing), ...KEY_THINGS],
    },
    battery: { kind: 'ground', name: 'Battery', at: at.battery, holds: [BATTERY_THING, groundThing('battery')] },
  };
  const segments: Record<string, Segment> = {
    trunk: piece('ecu', 'inside', inside, 'cabin'),
    wall: {
      ...piece('inside', 'outside', outside - inside, 'cabin'),
      ...(wall === null ? {} : { hole: { millimetres: HOLE_MILLIMETRES, grommet: true } }),
    },
    box: piece('inside', 'box', BOX_METRES, 'cabin'),
    battery: piece('box', 'battery', BATTERY_METRES, 'cabin'),
  };
  if (tails.some(({ region }) => hangsOn[region] === 'top')) {
    nodes.top = { kind: 'branch', name: 'top branch', at: at.top, holds: [] };
    segments.top = piece('outside', 'top', top - outside, 'engine');
  }
  // One column of tails for each place of the trunk, in the order of the regions.
  for (const [from, column] of groupBy(
    [...tails].sort((one, other) => regions.indexOf(one.region) - regions.indexOf(other.region)),
    ({ region }) => hangsOn[region],
  )) {
    const pitch = Math.min(step, columns[from].depth / column.length);
    column.forEach(({ region, devices, metres }, index) => {
      const id = freeId(nodes, segments, region);
      nodes[id] = {
        kind: 'tail',
        name: nameOf(devices),
        at: { x: at[region].x, y: round(columns[from].from + index * pitch) },
        holds: devices.map((device) => deviceThing(device.id)),
      };
      segments[id] = piece(from, id, Math.max(LEAST_TAIL_METRES, metres - depth[from]), regionZones[region]);
    });
  }
  return { ...noTree, vehicle, engine: seat, nodes, segments };
}

const piece = (a: string, b: string, metres: number, zone: Segment['zone']): Segment => ({
  a,
  b,
  metres: round(metres),
  measured: false,
  zone,
});

/** Devices that stand nowhere in a tree. */
export function nowhere(build: Build): readonly Device[] {
  const places = placesOf(build.tree);
  return build.devices.filter(({ id, kindId }) => {
    const kind = build.kinds[kindId];
    return kind !== undefined && hasWires(kind) && !places.has(deviceThing(id));
  });
}

/** The tree with a tail for each device that stands nowhere, where others of its region hang, or at the ECU. */
export function withRest(build: Build): LoomTree {
  const { tree } = build;
  const ways = waysOf(tree);
  const places = placesOf(tree);
  const ecu = places.get(ECU_THING) ?? Object.keys(tree.nodes)[0];
  if (ecu === undefined) return proposeTree(build, tree.vehicle, tree.engine);
  const { at } = layoutOf(tree.vehicle, tree.engine);
  const [nodes, segments] = [{ ...tree.nodes }, { ...tree.segments }];
  const regionAt = (region: Region): string | undefined => {
    const like = build.devices.find((device) => {
      const kind = build.kinds[device.kindId];
      return kind && regionOf(kind) === region && places.has(deviceThing(device.id));
    });
    const tail = like && places.get(deviceThing(like.id))!;
    const segment =
      tail === undefined ? undefined : Object.values(tree.segments).find(({ a, b }) => a === tail || b === tail);
    return segment && (segment.a === tail ? segment.b : segment.a);
  };
  for (const tail of tailsOf(build, nowhere(build))) {
    const from = regionAt(tail.region) ?? ecu;
    const id = freeId(nodes, segments, tail.region);
    nodes[id] = {
      kind: 'tail',
      name: nameOf(tail.devices),
      at: { x: round(at[tail.region].x + 0.1), y: round(at[tail.region].y + 0.1) },
      holds: tail.devices.map((device) => deviceThing(device.id)),
    };
    const before = ways.metres(ecu, from);
    segments[id] = piece(
      from,
      id,
      Math.max(LEAST_TAIL_METRES, tail.metres - (before < Infinity ? before : 0)),
      regionZones[tail.region],
    );
  }
  return { ...tree, nodes, segments };
}

/** A name that neither a place nor a piece has. */
export function freeId(nodes: LoomTree['nodes'], segments: LoomTree['segments'], wanted: string): string {
  let id = wanted;
  for (let number = 2; nodes[id] !== undefined || segments[id] !== undefined; number += 1) id = `${wanted}-${number}`;
  return id;
}

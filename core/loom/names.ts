import type { Build } from '../build/schema';
import { aboutDevice, endType, hasPorts, partAt, partEnd, readPart } from '../ends/ends';
import { labelOf } from '../netlist/label';
import type { Netlist } from '../netlist/netlist';
import { BATTERY_THING, ECU_THING, KEY_THINGS, LOOSE_BOX, boxThing, deviceOfThing, groundThing } from '../tree/things';

/** What a place of the tree is called: by its name, else by what it is. */
export function placeName({ tree, ecu }: Pick<Build, 'tree' | 'ecu'>, id: string): string {
  const node = tree.nodes[id];
  if (node?.name) return node.name;
  return node?.kind === 'ecu' ? ecu.model : node?.kind === 'box' ? 'box' : id;
}

/** What a piece is called: by what it lies between. */
export function segmentName(build: Pick<Build, 'tree' | 'ecu'>, id: string): string {
  const piece = build.tree.segments[id];
  return piece ? `${placeName(build, piece.a)} to ${placeName(build, piece.b)}` : id;
}

/** Something that can stand at a place of the tree, in words. */
export interface Thing {
  readonly id: string;
  readonly name: string;
}

const words: Readonly<Record<string, string>> = {
  [ECU_THING]: 'the ECU',
  [LOOSE_BOX]: 'fuses and relays',
  [BATTERY_THING]: 'battery positive',
  [groundThing('battery')]: 'battery negative',
  [groundThing('head')]: 'engine block',
  [groundThing('chassis')]: 'chassis ground',
  [KEY_THINGS[0]!]: 'key, run',
  [KEY_THINGS[1]!]: 'key, start',
};

/** A thing in words; also one that is not in the build any more. */
export function thingName(build: Build, net: Netlist, thing: string): string {
  const device = deviceOfThing(thing);
  if (device !== null) return net.names.devices.get(device) ?? `${device}, not in the build`;
  const box = Object.entries(build.feeds.boxes).find(([name]) => boxThing(name) === thing);
  if (box) return box[1].name;
  const part = readPart(thing);
  return words[thing] ?? (part && !hasPorts(part.kind) ? labelOf(net, partEnd(part.kind, part.name)) : thing);
}

/** Everything that can be stood somewhere: the ECU, devices, boxes, the battery, the key, bolts, and splices by choice. */
export function thingsToStand(build: Build, net: Netlist): Thing[] {
  const splices = net.wires
    .flatMap(({ from, to }) => [from, to])
    .flatMap((end) => (endType(end) === 'splice' ? [partAt(end)!] : []));
  const ids = [
    ECU_THING,
    ...build.devices.map(({ id }) => aboutDevice(id)),
    LOOSE_BOX,
    ...Object.keys(build.feeds.boxes).map(boxThing),
    BATTERY_THING,
    groundThing('battery'),
    groundThing('head'),
    groundThing('chassis'),
    ...KEY_THINGS,
    ...net.parts.flatMap(({ id, part }) => (part.kind === 'ground' || part.kind === 'battery' ? [id] : [])),
    ...splices,
  ];
  return [...new Set(ids)].map((id) => ({ id, name: thingName(build, net, id) }));
}

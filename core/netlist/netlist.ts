import type { Build, Device } from '../build/schema';
import type { DeviceKind } from '../devices/kind';
import type { Pin } from '../ecu/ecu';
import { loadsByRelay, type Circuit } from '../power/plan';
import type { Load } from '../power/loads';
import type { PlannedPart } from '../power/propose';
import { classColour, classOfPin, type SignalClass } from '../wire/colours';
import { groupBy } from '../data/group';
import { keepList, keepMap } from '../data/keep-same';
import { tellApart } from './apart';
import { deviceAt, partId, readPart, type EndKey } from '../ends/ends';
import type { Names } from './label';
import { needsOf, type Need } from './needs';
import { powerPlan, type PowerPlan } from './power-plan';
import { knownDevices } from './shared-pins';
import { inColour, layWires } from './laid';
import { WireList, type Draft, type Wire } from './wires';

export { knownDevices } from './shared-pins';
export type { Wire } from './wires';

export interface NetNode {
  readonly id: EndKey;
  /** Every end joined by copper alone, sorted. */
  readonly ends: readonly EndKey[];
}

export interface Cavity {
  readonly pin: Pin;
  readonly needId: string | null;
  readonly label: string;
  readonly signal: SignalClass;
}

/** The loom as plain data, so that it crosses to a worker. */
export interface Netlist {
  readonly needs: readonly Need[];
  readonly cavities: readonly Cavity[];
  readonly circuits: readonly Circuit[];
  /** The plan of feeds with its currents and sizes. */
  readonly power: PowerPlan;
  /** Parts of the plan of feeds. */
  readonly parts: readonly PlannedPart[];
  readonly wires: readonly Wire[];
  readonly nodes: readonly NetNode[];
  readonly wireById: ReadonlyMap<string, Wire>;
  readonly wiresAt: ReadonlyMap<EndKey, readonly Wire[]>;
  readonly nodeOf: ReadonlyMap<EndKey, NetNode>;
  readonly devices: readonly { readonly device: Device; readonly kind: DeviceKind }[];
  /** By the id of the pin, of the device, and again of the device. */
  readonly cavityOf: ReadonlyMap<string, Cavity>;
  readonly deviceOf: ReadonlyMap<string, { readonly device: Device; readonly kind: DeviceKind }>;
  readonly needsOf: ReadonlyMap<string, readonly Need[]>;
  /** Loads that the contact of a relay switches, by the relay's name. */
  readonly relayLoads: ReadonlyMap<string, readonly Load[]>;
  readonly names: Names;
}

/** The wires of the plan of feeds, each in the colour of its feed, with the returns among them. */
function feedWires(power: PowerPlan, list: WireList): readonly Draft[] {
  const { plan, sizes, circuits, drafts } = power;
  const order = new Map(circuits.map(({ id }, at) => [id, at]));
  const wires: Draft[] = [];
  for (const link of plan.links) {
    const sized = sizes.links.get(link.id);
    const back = drafts.returns.get(link.id);
    if (back) wires.push(back);
    if (!sized) continue;
    const feed = link.feed ?? (sized.fuse ? readPart(sized.fuse)!.name : null);
    const alone = circuits.find(({ id }) => id === feed)?.loads.length === 1;
    const lets = sized.sizedBy ? sizes.fuses.get(sized.sizedBy)!.amps : sized.flow.rms;
    const wire = list.planned(sized, lets, link.cuts ?? 0, {
      colour: classColour('supply', (feed === null ? 0 : (order.get(feed) ?? 0)) + 2),
      signal: 'supply',
      circuitId: feed,
      deviceId: link.role === 'trunk' && alone ? null : (deviceAt(link.to) ?? deviceAt(link.from)),
    });
    if (wire) wires.push(wire);
  }
  return wires;
}

/** Needs by the device they are of; of an output that works several, by each. */
function needsByDevice(needs: readonly Need[]): Map<string, Need[]> {
  const owned = needs.flatMap((need) =>
    [need.deviceId, ...need.joined.map(({ deviceId }) => deviceId)].flatMap((deviceId) =>
      deviceId === null ? [] : [{ deviceId, need }],
    ),
  );
  return new Map(
    [...groupBy(owned, ({ deviceId }) => deviceId)].map(([id, own]) => [id, [...new Set(own.map(({ need }) => need))]]),
  );
}

/** Groups ends joined by wires (union by path compression; near linear). */
function joinNodes(wires: readonly Wire[]): NetNode[] {
  const parent = new Map<EndKey, EndKey>();
  const find = (end: EndKey): EndKey => {
    let root = end;
    while (parent.get(root) !== undefined && parent.get(root) !== root) root = parent.get(root)!;
    let walk = end;
    while (parent.get(walk) !== undefined && parent.get(walk) !== root) {
      const next = parent.get(walk)!;
      parent.set(walk, root);
      walk = next;
    }
    return root;
  };
  for (const wire of wires) {
    for (const end of [wire.from, wire.to]) if (!parent.has(end)) parent.set(end, end);
    const [a, b] = [find(wire.from), find(wire.to)];
    if (a !== b) parent.set(a < b ? b : a, a < b ? a : b);
  }
  const groups = new Map<EndKey, EndKey[]>();
  for (const end of parent.keys()) {
    const root = find(end);
    const group = groups.get(root);
    if (group) group.push(end);
    else groups.set(root, [end]);
  }
  return [...groups].map(([root, ends]) => ({ id: root, ends: ends.sort() }));
}

function wiresByEnd(wires: readonly Wire[]): Map<EndKey, Wire[]> {
  const byEnd = new Map<EndKey, Wire[]>();
  for (const wire of wires)
    for (const end of [wire.from, wire.to]) {
      const at = byEnd.get(end);
      if (at) at.push(wire);
      else byEnd.set(end, [wire]);
    }
  return byEnd;
}

/** Whether the same wires join the same ends, whatever their lengths and sizes. */
const isJoinedAlike = (now: readonly Wire[], before: readonly Wire[]): boolean =>
  now.length === before.length && now.every(({ from, to }, i) => from === before[i]!.from && to === before[i]!.to);

function namesOf(
  build: Build,
  circuits: readonly Circuit[],
  parts: readonly PlannedPart[],
  before: Names | undefined,
): Names {
  const devices = keepMap(new Map(build.devices.map(({ id, label }) => [id, label])), before?.devices);
  const named = keepMap(new Map(circuits.map(({ id, name }) => [id, name])), before?.circuits);
  const plugs = Object.entries(build.tree.nodes).flatMap(([id, { kind, name }]) =>
    kind === 'plug' ? [[partId('plug', id), name || id] as const] : [],
  );
  const planned = keepMap(new Map([...parts.map(({ id, part }) => [id, part.name] as const), ...plugs]), before?.parts);
  if (before && devices === before.devices && named === before.circuits && planned === before.parts) return before;
  return { devices, circuits: named, parts: planned };
}

/**
 * Derives the whole loom from a build. Pure and cheap: linear in devices, pins and wires; a few milliseconds at most.
 * Needs without a pin, or with a pin the ECU does not have, get no wire: rules and the pin desk name them.
 *
 * @param before An earlier netlist of the same build: wires, nodes and cavities that are as they were are the very same.
 */
export function netlist(
  build: Build,
  needs: readonly Need[] = needsOf(build),
  power: PowerPlan = powerPlan(build, needs),
  devices: Netlist['devices'] = knownDevices(build),
  before: Netlist | null = null,
): Netlist {
  const { circuits } = power;
  const parts = [...power.plan.parts.values()];
  const { before: first, after } = power.drafts;
  const drafts: readonly Draft[] = [
    ...first,
    ...feedWires(
      power,
      new WireList(
        build,
        first.map(({ id }) => id),
      ),
    ),
    ...after,
  ];

  const needOfPin = new Map<string, Need>();
  for (const need of needs) {
    const pinId = build.assignments[need.id];
    if (pinId !== undefined) needOfPin.set(pinId, need);
  }
  const cavities = keepList(
    build.ecu.pins.map((pin): Cavity => {
      const need = needOfPin.get(pin.id);
      return { pin, needId: need?.id ?? null, label: need?.label ?? '', signal: classOfPin(pin) };
    }),
    before?.cavities,
    ({ pin }) => before?.cavityOf.get(pin.id),
  );
  const laid = layWires(build, drafts, (id) => power.plan.parts.get(id)?.part.box);
  const nodes =
    before && isJoinedAlike(laid.pieces, before.wires)
      ? before.nodes
      : keepList(joinNodes(laid.pieces), before?.nodes, ({ id }) => before?.nodeOf.get(id));
  const nodeOf =
    nodes === before?.nodes
      ? before.nodeOf
      : new Map(nodes.flatMap((node) => node.ends.map((end) => [end, node] as const)));
  const coloured = tellApart(build, drafts, laid.passed, (end) => nodeOf.get(end)?.id ?? end);
  const wires = keepList(inColour(build, laid.pieces, coloured), before?.wires, ({ id }) => before?.wireById.get(id));
  return {
    needs,
    cavities,
    circuits,
    power,
    parts,
    relayLoads: keepMap(loadsByRelay(power), before?.relayLoads),
    wires,
    nodes,
    wireById: wires === before?.wires ? before.wireById : new Map(wires.map((wire) => [wire.id, wire])),
    wiresAt: wires === before?.wires ? before.wiresAt : wiresByEnd(wires),
    nodeOf,
    devices,
    cavityOf:
      cavities === before?.cavities ? before.cavityOf : new Map(cavities.map((cavity) => [cavity.pin.id, cavity])),
    deviceOf: devices === before?.devices ? before.deviceOf : new Map(devices.map((entry) => [entry.device.id, entry])),
    needsOf: needs === before?.needs ? before.needsOf : needsByDevice(needs),
    names: namesOf(build, circuits, parts, before?.names),
  };
}

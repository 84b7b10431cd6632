import type { Build, Device } from '../build/schema';
import type { DeviceKind } from '../devices/kind';
import { pinsOfKind, type EcuDefinition, type Pin } from '../ecu/ecu';
import { WINDING_AMPS } from '../power/flow';
import { loadsByRelay, powerPlan, type Circuit, type PowerPlan } from '../power/plan';
import type { Load } from '../power/loads';
import { TO_BOX_METRES, windingEnds, type PlannedLink, type PlannedPart } from '../power/propose';
import { classColour, classOfPin, familyOfPin, type ColourFamily, type SignalClass } from '../wire/colours';
import { groupBy } from '../data/group';
import { withId } from '../data/with-id';
import { keepList, keepMap } from '../data/keep-same';
import { tellApart } from './apart';
import { destinationOf } from '../build/destination';
import {
  deviceAt,
  deviceEnd,
  ecuEnd,
  groundEnd,
  partId,
  readPart,
  shieldEnd,
  spliceEnd,
  type EndKey,
} from '../ends/ends';
import type { Names } from './label';
import { plannedReturns, returnAmps, returnSquareMm } from './feed-returns';
import { addBusLine, busOf, membersOf } from './bus';
import { addLines, joinKeyFeeds } from './lines';
import { needsOf, type Need } from './needs';
import { addEcuGrounds, addSupplies, knownDevices, SENSOR_AMPS } from './shared-pins';
import { inColour, layWires } from './laid';
import { SPLICE_METRES, WireList, mostSizeFor, usualSize, type Wire } from './wires';

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

/** Colour of a pin's wire: its place among the pins of its class, so that it stays when other pins change. */
function pinColours(ecu: EcuDefinition, leads: boolean): Map<string, string> {
  const counts = new Map<ColourFamily, number>();
  return new Map(
    ecu.pins.map((pin) => {
      const signal = familyOfPin(pin);
      const index = counts.get(signal) ?? 0;
      counts.set(signal, index + 1);
      // A loom that came with the ECU keeps its own colours.
      return [pin.id, leads && pin.lead ? pin.lead.colour : classColour(signal, index)];
    }),
  );
}

/** Wires from allotted pins to their device terminals and relay windings. */
function addNeedWires(
  list: WireList,
  build: Build,
  needs: readonly Need[],
  pins: ReadonlyMap<string, Pin>,
  colours: ReadonlyMap<string, string>,
): void {
  const devices = new Map(build.devices.map((device) => [device.id, device]));
  for (const need of needs) {
    const pin = pins.get(build.assignments[need.id] ?? '');
    if (!pin) continue;
    const device = need.deviceId ? devices.get(need.deviceId) : undefined;
    const kind = device ? build.kinds[device.kindId] : undefined;
    const bus = need.ask.kind === 'can' && device ? busOf(build, device.id) : null;
    if (bus && membersOf(build, bus).length > 1) {
      const look = { colour: colours.get(pin.id)!, signal: classOfPin(pin), needId: need.id };
      addBusLine(list, build, bus, need.ask.side === 'minus' ? 'minus' : 'plus', pin.id, look);
      continue;
    }
    if (need.joined.length > 0) {
      addJoined(list, build, need, pin, colours.get(pin.id)!);
      continue;
    }
    list.add(ecuEnd(pin.id), need.end, {
      colour: colours.get(pin.id)!,
      metres: device?.branchMetres ?? TO_BOX_METRES,
      amps: need.ask.amps,
      squareMm: need.ask.kind === 'injector' ? usualSize(build, INJECTOR_SQUARE_MM) : undefined,
      signal: classOfPin(pin),
      needId: need.id,
      deviceId: need.deviceId,
      cable: kind && (kind.shielded || kind.twisted) ? need.deviceId : null,
      shield: kind?.shielded ? (device?.shield ?? null) : null,
    });
  }
}

/** Several parts on one output: one wire from its cavity, and a splice behind it. */
function addJoined(list: WireList, build: Build, need: Need, pin: Pin, colour: string): void {
  const injects = need.ask.kind === 'injector';
  const all = [{ end: need.end, deviceId: need.deviceId }, ...need.joined];
  const amps = need.ask.amps;
  const shared = { colour, signal: classOfPin(pin), needId: need.id } as const;
  const least = injects ? usualSize(build, INJECTOR_SQUARE_MM) : undefined;
  list.add(ecuEnd(pin.id), spliceEnd(pin.id), {
    ...shared,
    metres: SPLICE_METRES,
    local: true,
    amps,
    squareMm: least && Math.max(least, mostSizeFor(build, amps ?? 0)),
    deviceId: need.deviceId,
  });
  for (const { end, deviceId } of all)
    list.add(spliceEnd(pin.id), end, {
      ...shared,
      metres: Math.max(
        LEAST_BRANCH_METRES,
        (withId(build.devices, deviceId)?.branchMetres ?? TO_BOX_METRES) - SPLICE_METRES,
      ),
      amps: amps === undefined ? undefined : amps / all.length,
      squareMm: least,
      deviceId,
    });
}

/** A ground tail to the nearest bolt, a branch of a feed, metres (common practice). */
const GROUND_TAIL_METRES = 0.5;
const LEAST_BRANCH_METRES = 0.2;
/** An injector's wire, for its strength more than its ampere (common practice). */
const INJECTOR_SQUARE_MM = 0.5;
/** Grounds of devices, and shields that are earthed at the far end as well. */
function addGrounds(list: WireList, build: Build, power: PowerPlan, planned: ReadonlySet<EndKey>): void {
  for (const device of build.devices)
    if (build.kinds[device.kindId]?.shielded && device.shield === 'both-ends')
      list.add(shieldEnd(device.id), groundEnd('head'), {
        colour: 'BK',
        metres: GROUND_TAIL_METRES,
        signal: 'ground',
        amps: SENSOR_AMPS,
        deviceId: device.id,
      });
  for (const device of build.devices) {
    const kind = build.kinds[device.kindId];
    for (const terminal of kind?.terminals ?? []) {
      const destination = destinationOf(device, terminal);
      // A return that was planned goes where the plan says.
      if (destination.to !== 'ground' || planned.has(deviceEnd(device.id, terminal.id))) continue;
      const amps = returnAmps(build, power, device, kind!);
      list.add(deviceEnd(device.id, terminal.id), groundEnd(destination.place), {
        colour: 'BK',
        metres: GROUND_TAIL_METRES,
        signal: 'ground',
        amps,
        squareMm: returnSquareMm(build, power, device, kind!, amps),
        deviceId: device.id,
      });
    }
  }
}

/** The wires of the plan of feeds, each in the colour of its feed. */
function addFeeds(list: WireList, build: Build, needs: readonly Need[], power: PowerPlan): void {
  const { plan, sizes, circuits } = power;
  const returns = plannedReturns(build, needs, power);
  const order = new Map(circuits.map(({ id }, at) => [id, at]));
  const owner = (link: PlannedLink): string | null => {
    const fuse = sizes.links.get(link.id)?.fuse;
    return link.feed ?? (fuse ? readPart(fuse)!.name : null);
  };
  for (const link of plan.links) {
    const feed = owner(link);
    const sized = sizes.links.get(link.id);
    const device = deviceAt(link.to) ?? deviceAt(link.from);
    const earthed = returns.has(link.id);
    const alone = circuits.find(({ id }) => id === feed)?.loads.length === 1;
    if (sized)
      list.addPlanned(sized, link.cuts ?? 0, {
        colour: classColour('supply', (feed === null ? 0 : (order.get(feed) ?? 0)) + 2),
        signal: 'supply',
        circuitId: feed,
        deviceId: link.role === 'trunk' && alone ? null : device,
      });
    // Nothing is drawn through it from a source: a return, or a wire that nothing feeds yet.
    else
      list.add(link.from, link.to, {
        colour: earthed ? 'BK' : classColour('supply', 0),
        metres: link.metres,
        fixed: link.fixed,
        signal: earthed ? 'ground' : 'supply',
        circuitId: link.role === 'return' ? feed : null,
        amps: returns.get(link.id)?.amps ?? 0,
        squareMm: returns.get(link.id)?.squareMm,
        deviceId: device,
      });
  }
}

/** Windings the ECU's main relay pin drives: straight to one, over a splice to several. One cavity takes one wire. */
function addMainRelayDriver(list: WireList, build: Build, parts: readonly PlannedPart[]): void {
  const [pin] = pinsOfKind(build.ecu, 'main-relay');
  const windings = parts.flatMap(({ name, part }) =>
    part.kind === 'relay' && part.control === 'main-relay-pin' ? [windingEnds(name, part).driver] : [],
  );
  if (!pin || windings.length === 0) return;
  const wire = {
    signal: 'output',
    colour: classColour('output', 0),
    amps: WINDING_AMPS,
    metres: TO_BOX_METRES,
  } as const;
  const from = windings.length === 1 ? ecuEnd(pin.id) : spliceEnd(pin.id);
  if (windings.length > 1)
    list.add(ecuEnd(pin.id), from, {
      ...wire,
      metres: SPLICE_METRES,
      local: true,
      amps: WINDING_AMPS * windings.length,
    });
  for (const winding of windings) list.add(from, winding, wire);
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
  power: PowerPlan = powerPlan(build),
  devices: Netlist['devices'] = knownDevices(build),
  before: Netlist | null = null,
): Netlist {
  const pins = new Map(build.ecu.pins.map((pin) => [pin.id, pin]));
  const colours = pinColours(build.ecu, build.loom.origin === 'flying-lead');
  const list = new WireList(build);
  addNeedWires(list, build, needs, pins, colours);
  addSupplies(list, build, colours);
  const { circuits } = power;
  const parts = [...power.plan.parts.values()];
  const planned = new Set(power.plan.links.flatMap(({ from, to }) => [from, to]));
  addEcuGrounds(list, build, needs, colours, planned);
  addGrounds(list, build, power, planned);
  addFeeds(list, build, needs, power);
  addMainRelayDriver(list, build, parts);
  joinKeyFeeds(list, build);
  addLines(list, build, power);

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
  const laid = layWires(build, list.drafts, (id) => power.plan.parts.get(id)?.part.box);
  const nodes =
    before && isJoinedAlike(laid.pieces, before.wires)
      ? before.nodes
      : keepList(joinNodes(laid.pieces), before?.nodes, ({ id }) => before?.nodeOf.get(id));
  const nodeOf =
    nodes === before?.nodes
      ? before.nodeOf
      : new Map(nodes.flatMap((node) => node.ends.map((end) => [end, node] as const)));
  const coloured = tellApart(build, list.drafts, laid.passed, (end) => nodeOf.get(end)?.id ?? end);
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

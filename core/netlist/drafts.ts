import type { Build } from '../build/schema';
import { destinationOf } from '../build/destination';
import { withId } from '../data/with-id';
import { pinsOfKind, type EcuDefinition, type Pin } from '../ecu/ecu';
import { deviceAt, deviceEnd, ecuEnd, groundEnd, shieldEnd, spliceEnd, type EndKey } from '../ends/ends';
import { warmShare } from '../power/census';
import { WINDING_AMPS } from '../power/flow';
import { TO_BOX_METRES, windingEnds, type PlannedPart } from '../power/propose';
import { classColour, classOfPin, familyOfPin, type ColourFamily } from '../wire/colours';
import { addBusLine, busOf, membersOf } from './bus';
import { fuseBefore, plannedReturns, returnAmps, type Fed } from './feed-returns';
import { addLines, joinKeyFeeds } from './lines';
import type { Need } from './needs';
import { addEcuGrounds, addSupplies, SENSOR_AMPS } from './shared-pins';
import { SPLICE_METRES, WireList, usualSize, type Unsized } from './wires';

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
      least: need.ask.kind === 'injector' ? usualSize(build, INJECTOR_SQUARE_MM) : undefined,
      warm: warmShare(need.ask.kind),
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
  const shared = { colour, signal: classOfPin(pin), needId: need.id, warm: warmShare(need.ask.kind) } as const;
  const least = injects ? usualSize(build, INJECTOR_SQUARE_MM) : undefined;
  list.add(ecuEnd(pin.id), spliceEnd(pin.id), {
    ...shared,
    metres: SPLICE_METRES,
    local: true,
    amps,
    least,
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
      least,
      deviceId,
    });
}

/** A ground tail to the nearest bolt, a branch of a feed, metres (common practice). */
const GROUND_TAIL_METRES = 0.5;
const LEAST_BRANCH_METRES = 0.2;
/** An injector's wire, for its strength more than its ampere (common practice). */
const INJECTOR_SQUARE_MM = 0.5;
/** Grounds of devices, and shields that are earthed at the far end as well. */
function addGrounds(list: WireList, build: Build, fed: Fed, planned: ReadonlySet<EndKey>): void {
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
      list.add(deviceEnd(device.id, terminal.id), groundEnd(destination.place), {
        colour: 'BK',
        metres: GROUND_TAIL_METRES,
        signal: 'ground',
        amps: returnAmps(build, fed, device, kind!),
        // A short inside it runs through its return too.
        lets: fuseBefore(fed, device, kind!),
        deviceId: device.id,
      });
    }
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

/** Every wire that is no feed, in the order it is listed: those before the feeds, the returns among these, and those after. */
export interface Drafts {
  readonly before: readonly Unsized[];
  /** Returns of the plan, by the link. */
  readonly returns: ReadonlyMap<string, Unsized>;
  readonly after: readonly Unsized[];
}
export const allDrafts = ({ before, returns, after }: Drafts): Unsized[] => [...before, ...returns.values(), ...after];

/** Wires of outputs, sensors, grounds and lines with what they carry, before any has a size. Linear in devices, pins and wires. */
export function draftsOf(build: Build, needs: readonly Need[], fed: Fed): Drafts {
  const pins = new Map(build.ecu.pins.map((pin) => [pin.id, pin]));
  const colours = pinColours(build.ecu, build.loom.origin === 'flying-lead');
  const list = new WireList(build);
  const planned = new Set(fed.plan.links.flatMap(({ from, to }) => [from, to]));
  addNeedWires(list, build, needs, pins, colours);
  addSupplies(list, build, colours);
  addEcuGrounds(list, build, needs, colours, planned);
  addGrounds(list, build, fed, planned);
  const before = list.drafts.length;
  const carried = plannedReturns(build, needs, fed);
  for (const link of fed.plan.links) {
    // Nothing is drawn through it from a source: a return, or a wire that nothing feeds yet.
    const back = carried.get(link.id);
    if (fed.flows.through.has(link.id)) list.take(link.id);
    else
      list.add(link.from, link.to, {
        colour: back ? 'BK' : classColour('supply', 0),
        metres: link.metres,
        fixed: link.fixed,
        signal: back ? 'ground' : 'supply',
        circuitId: link.role === 'return' ? link.feed : null,
        amps: back?.amps ?? 0,
        lets: back?.lets,
        deviceId: deviceAt(link.to) ?? deviceAt(link.from),
      });
  }
  const after = list.drafts.length;
  addMainRelayDriver(list, build, [...fed.plan.parts.values()]);
  joinKeyFeeds(list, build, planned);
  addLines(list, build, fed);
  return {
    before: list.drafts.slice(0, before),
    returns: new Map(list.drafts.slice(before, after).map((wire) => [wire.id, wire])),
    after: list.drafts.slice(after),
  };
}

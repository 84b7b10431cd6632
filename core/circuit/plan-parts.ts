import { destinationOf } from '../build/destination';
import type { Build } from '../build/schema';
import { sensorsIn, trait } from '../devices/kind';
import {
  BATTERY,
  KEY_RUN,
  KEY_START,
  MINUS_POST,
  PLUS_POST,
  deviceAt,
  deviceEnd,
  fuseEnd,
  groundEnd,
  partEnd,
  relayEnd,
  type EndKey,
} from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import { RELAY_WINDING_OHMS } from '../power/flow';
import { DIODE_VOLTS, LUG_OHMS, RELAY_CONTACT_OHMS, BUTTON_OHMS, fuseOhms, switchOhms } from '../power/sizes';
import { wireOhms } from '../wire/wire';
import type { Fault, Joint } from './faults';
import { OPEN_OHMS, battery, parts } from './figures';
import type { CircuitState } from './model';
import type { Network } from './network';
import { ECU_FIVE, ECU_GROUND, type Probe } from './nodes';
import { internalsAtRest } from './rest';

/** What is in one of two states, and was found by the last solution. */
export interface Drive {
  /** Relays that have pulled in, by name. */
  readonly closed: ReadonlySet<string>;
  /** Diodes that conduct, by where they stand. */
  readonly conducting: ReadonlySet<string>;
  readonly powered: boolean;
  /** Fuses that have opened, by name: one that has stays so. */
  readonly blown: ReadonlySet<string>;
}

/** A diode: from its anode to its cathode. */
interface Diode {
  readonly id: string;
  readonly anode: EndKey;
  readonly cathode: EndKey;
}

/** Diodes in wires, and those inside relays: they lead from 85 to 86, so that the winding's kick ends in it. */
const diodesOf = (net: Netlist): Diode[] =>
  net.parts.flatMap(({ id, name, part }): Diode[] => {
    if (part.kind === 'diode')
      return [{ id, anode: partEnd('diode', name, 'a'), cathode: partEnd('diode', name, 'k') }];
    return part.kind === 'relay' && part.suppression === 'diode'
      ? [{ id, anode: relayEnd(name, '85'), cathode: relayEnd(name, '86') }]
      : [];
  });

/** A diode at its knee conducts, volts. */
const CLOSE = 1e-6;
/** Diodes that conduct, by the volts across them. */
export const conducting = (net: Netlist, at: (end: Probe) => number): Set<string> =>
  new Set(
    diodesOf(net).flatMap(({ id, anode, cathode }) => (at(anode) - at(cathode) >= DIODE_VOLTS - CLOSE ? [id] : [])),
  );

/** Relays whose winding has the volts to pull in, or to hold what it has pulled in. */
export function pulledIn(net: Netlist, before: Drive, fault: Fault | null, at: (end: Probe) => number): Set<string> {
  return new Set(
    net.parts.flatMap(({ name, part }) => {
      if (part.kind !== 'relay') return [];
      // An open winding has the volts but draws no current: it pulls nothing in.
      if (fault?.type === 'relay-winding-open' && fault.circuitId === name) return [];
      const volts = Math.abs(at(relayEnd(name, '86')) - at(relayEnd(name, '85')));
      return volts >= (before.closed.has(name) ? parts.dropOut : parts.pullIn).value ? [name] : [];
    }),
  );
}

/** A fuse opens within five seconds at twice its rating (ISO 8820-3); a meter is held longer than that. */
const OPENS_AT = 2;

/** Fuses that have opened: those that had, and those that twice their rating runs through. */
export function opened(net: Netlist, before: Drive, fault: Fault | null, at: (end: Probe) => number): Set<string> {
  const blown = new Set(before.blown);
  for (const { id, fuseAmps } of net.circuits) {
    if (blown.has(id) || (fault?.type === 'blown-fuse' && fault.circuitId === id)) continue;
    const amps = Math.abs(at(fuseEnd(id, 1)) - at(fuseEnd(id, 2))) / fuseOhms(fuseAmps);
    if (amps >= OPENS_AT * fuseAmps) blown.add(id);
  }
  return blown;
}

/** Resistance of a diode that conducts, ohms: small beside all it stands in. */
const DIODE_OHMS = 0.02;
/** A resistor across a winding that takes its kick, ohms (common practice: 180 to 1000). */
const SUPPRESSOR_OHMS = 680;

/** Fuses, relays and what else stands in the plan of feeds. */
export function addParts(network: Network, net: Netlist, state: CircuitState, drive: Drive, fault: Fault | null): void {
  const isAt = (type: Fault['type'], name: string) =>
    fault?.type === type && 'circuitId' in fault && fault.circuitId === name;
  const ratings = new Map(net.circuits.map(({ id, fuseAmps }) => [id, fuseAmps]));
  for (const { name, part } of net.parts) {
    const [one, other] = [partEnd(part.kind, name, '1'), partEnd(part.kind, name, '2')];
    switch (part.kind) {
      case 'fuse':
        network.resistor(
          fuseEnd(name, 1),
          fuseEnd(name, 2),
          isAt('blown-fuse', name) || drive.blown.has(name) ? OPEN_OHMS : fuseOhms(ratings.get(name)!),
        );
        break;
      case 'relay': {
        network.resistor(
          relayEnd(name, '85'),
          relayEnd(name, '86'),
          isAt('relay-winding-open', name) ? OPEN_OHMS : RELAY_WINDING_OHMS,
        );
        if (part.suppression === 'resistor')
          network.resistor(relayEnd(name, '85'), relayEnd(name, '86'), SUPPRESSOR_OHMS);
        const closed = drive.closed.has(name) && !isAt('relay-stuck-open', name);
        network.resistor(relayEnd(name, '30'), relayEnd(name, '87'), closed ? RELAY_CONTACT_OHMS : OPEN_OHMS);
        if (part.contact === 'change-over')
          network.resistor(
            relayEnd(name, '30'),
            relayEnd(name, '87a'),
            drive.closed.has(name) ? OPEN_OHMS : RELAY_CONTACT_OHMS,
          );
        break;
      }
      case 'switch':
        network.resistor(one, other, part.resting === 'closed' ? switchOhms(part.amps) : OPEN_OHMS);
        break;
      case 'button':
        // Pressed to start, and only then.
        network.resistor(one, other, state === 'cranking' ? BUTTON_OHMS : OPEN_OHMS);
        break;
      case 'resistor':
        network.resistor(one, other, part.ohms);
        break;
      case 'ground':
        network.resistor(
          partEnd('ground', name),
          groundEnd(part.on === 'body' ? 'chassis' : 'head'),
          parts.mounted.value,
        );
        break;
      default:
        break;
    }
  }
  for (const { id, anode, cathode } of diodesOf(net))
    if (drive.conducting.has(id)) network.source(anode, cathode, DIODE_VOLTS, DIODE_OHMS);
    else network.resistor(anode, cathode, OPEN_OHMS);
}

/** What a poor joint adds to a good one. */
const jointOhms = (fault: Fault | null, joint: Joint): number =>
  fault?.type === 'poor-joint' && fault.joint === joint ? fault.ohms : 0;

/** Batteries, the key's contacts, and feeds of the car that are live in this state. */
export function addSources(
  network: Network,
  net: Netlist,
  state: CircuitState,
  fault: Fault | null,
  { volts, ohms }: { readonly volts: number; readonly ohms: number },
): void {
  const keyOn = state !== 'key-off';
  const live = { always: true, run: keyOn, start: state === 'cranking' };
  const contact = (end: EndKey, isLive: boolean) =>
    network.resistor(end, BATTERY, isLive ? parts.key.value : OPEN_OHMS);
  // The clamps are part of the way from the posts: plus and minus both.
  network.source(PLUS_POST, MINUS_POST, volts, ohms - 2 * LUG_OHMS);
  network.resistor(PLUS_POST, BATTERY, LUG_OHMS + jointOhms(fault, 'battery-plus'));
  network.resistor(MINUS_POST, groundEnd('battery'), LUG_OHMS + jointOhms(fault, 'battery-minus'));
  contact(KEY_RUN, live.run);
  contact(KEY_START, live.start);
  for (const { name, part } of net.parts) {
    if (part.kind === 'tap') contact(partEnd('tap', name), live[part.live]);
    if (part.kind === 'battery')
      network.source(partEnd('battery', name), groundEnd('battery'), volts, battery.inside.value);
  }
}

/** Coils and injectors of a running engine by what they draw on the mean, with everything on (at top speed, 85 % duty). */
export function addPulsed(network: Network, net: Netlist, volts: number): void {
  for (const { end, load } of net.power.flows.draws) {
    const kind = net.deviceOf.get(deviceAt(end) ?? '')?.kind;
    if (!load || !kind || load.amps <= 0) continue;
    if (trait(kind, 'coil')) network.resistor(end, groundEnd('head'), volts / load.amps);
    else if (trait(kind, 'injector')) network.resistor(end, ECU_GROUND, volts / load.amps);
  }
}

/** Points of the car a body plug's inside leads to (DIN 72552). */
const carPoint: Record<string, EndKey | undefined> = {
  '@15': KEY_RUN,
  '@50': KEY_START,
  '@30': BATTERY,
  '@31': groundEnd('chassis'),
};

/** What stands inside the devices, at rest. */
export function addDevices(network: Network, build: Build, net: Netlist, fault: Fault | null): void {
  for (const { device, kind } of net.devices) {
    const broken = fault && 'deviceId' in fault && fault.deviceId === device.id ? fault.type : null;
    if (device.pullUpOhms !== null)
      for (const sensor of sensorsIn(kind))
        network.resistor(deviceEnd(device.id, sensor.terminal), ECU_FIVE, device.pullUpOhms);
    for (const terminal of kind.terminals) {
      const destination = destinationOf(device, terminal);
      if (destination.to === 'mounted')
        network.resistor(deviceEnd(device.id, terminal.id), groundEnd(destination.place), parts.mounted.value);
    }
    internalsAtRest(build.site, kind).forEach((internal) => {
      const at = (terminal: string): EndKey => carPoint[terminal] ?? deviceEnd(device.id, terminal);
      if (internal.type === 'resistor') {
        const ohms =
          broken === 'device-open' ? OPEN_OHMS : broken === 'device-shorted' ? parts.shortedPart.value : internal.ohms;
        network.resistor(at(internal.from), at(internal.to), ohms);
      } else if (broken !== 'device-open') {
        network.resistor(
          at(internal.supply),
          at(internal.signal),
          broken === 'device-shorted' ? parts.shortedSensor.value : internal.ohms / internal.ratio,
        );
        network.resistor(at(internal.signal), at(internal.ground), internal.ohms / (1 - internal.ratio));
      }
    });
  }
}

/** The engine's strap and the body's sheet: every ground is at the battery in the end. */
export function addBody(network: Network, build: Build, fault: Fault | null): void {
  network.resistor(
    groundEnd('head'),
    groundEnd('battery'),
    wireOhms(build.power.strapSquareMm, build.power.strapMetres) + 2 * LUG_OHMS + jointOhms(fault, 'strap'),
  );
  network.resistor(groundEnd('chassis'), groundEnd('battery'), parts.bodyToBattery.value + jointOhms(fault, 'body'));
}

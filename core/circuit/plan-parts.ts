import { destinationOf } from '../build/destination';
import type { Build, Device } from '../build/schema';
import { hasRole, sensorsIn, trait, type DeviceKind, type Internal } from '../devices/kind';
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
import { fedThrough, isWorked } from '../power/drawn';
import { RELAY_WINDING_OHMS } from '../power/flow';
import { opensWithin } from '../power/fuse';
import { runningVolts } from '../power/volts';
import { DIODE_VOLTS, LUG_OHMS, RELAY_CONTACT_OHMS, BUTTON_OHMS, fuseOhms, switchOhms } from '../power/sizes';
import type { Fault, Joint } from './faults';
import { strapOhms, type Source } from './battery';
import { OPEN_CONTACT_OHMS, OPEN_OHMS, alternator, battery, parts } from './figures';
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
  /** Ohms of each filament as warm as it is, by its device. */
  readonly filaments: ReadonlyMap<string, number>;
  /** What of the ECU holds its current at its limit. */
  readonly limiting: ReadonlySet<string>;
}
export const atRest: Drive = {
  closed: new Set(),
  conducting: new Set(),
  powered: false,
  blown: new Set(),
  filaments: new Map(),
  limiting: new Set(),
};

/** A diode, or what conducts like one: from its anode to its cathode, at its volts and more. */
interface Diode {
  readonly id: string;
  readonly anode: EndKey;
  readonly cathode: EndKey;
  readonly volts: number;
  readonly ohms: number;
}

/** Resistance of a diode that conducts, ohms: small beside all it stands in. */
const DIODE_OHMS = 0.02;

/**
 * Diodes in wires, those inside relays, which lead from 85 to 86, so that the winding's kick ends in them; and the regulators
 * of alternators at rest, which draw the lamp's terminal down.
 */
export const diodesOf = (net: Netlist, state: CircuitState): Diode[] => [
  ...net.parts.flatMap(({ id, name, part }): Diode[] => {
    if (part.kind === 'diode')
      return [
        {
          id,
          anode: partEnd('diode', name, 'a'),
          cathode: partEnd('diode', name, 'k'),
          volts: DIODE_VOLTS,
          ohms: DIODE_OHMS,
        },
      ];
    return part.kind === 'relay' && part.suppression === 'diode'
      ? [{ id, anode: relayEnd(name, '85'), cathode: relayEnd(name, '86'), volts: DIODE_VOLTS, ohms: DIODE_OHMS }]
      : [];
  }),
  ...(state === 'running' || state === 'unplugged' || state === 'key-off'
    ? []
    : lampTerminals(net).map(({ end, ground }): Diode => ({
        id: end,
        anode: end,
        cathode: ground,
        volts: alternator.resting.value,
        ohms: alternator.field.value,
      }))),
];

/** The lamp terminal of each alternator, and what its regulator stands on. */
const lampTerminals = (net: Netlist): { end: EndKey; ground: EndKey }[] =>
  net.devices.flatMap(({ device, kind }) => {
    if (!hasRole(kind, 'alternator')) return [];
    // By what the part is: through a lamp it hangs on a line, and is the same terminal.
    return kind.terminals.flatMap((terminal) =>
      terminal.destination.to === 'feed' ? [{ end: deviceEnd(device.id, terminal.id), ground: groundEnd('head') }] : [],
    );
  });

/** A diode at its knee conducts, volts. */
const CLOSE = 1e-6;
/** Diodes that conduct, by the volts across them. */
export const conducting = (net: Netlist, state: CircuitState, at: (end: Probe) => number): Set<string> =>
  new Set(
    diodesOf(net, state).flatMap(({ id, anode, cathode, volts }) =>
      at(anode) - at(cathode) >= volts - CLOSE ? [id] : [],
    ),
  );

/** A filament is lit at what it is told to draw; its ohms rise with its volts by this power (common practice: 0.4 to 0.5). */
const FILAMENT_POWER = 0.45;

/** Filaments that are fed, by the volts across each. */
export function filamentsOf(build: Build, net: Netlist, at: (end: Probe) => number): Map<string, number> {
  const lit = runningVolts(build);
  return new Map(
    net.devices.flatMap(({ device, kind }): [string, number][] => {
      const inside = filamentOf(kind);
      const amps = inside && drawnAt(device, kind, inside);
      if (inside === null || amps === null) return [];
      const volts = Math.abs(at(deviceEnd(device.id, inside.from)) - at(deviceEnd(device.id, inside.to)));
      return [[device.id, Math.max(inside.ohms, (lit / amps) * (volts / lit) ** FILAMENT_POWER)]];
    }),
  );
}

/** Whether two rounds found the filaments about as warm. */
export const asWarm = (one: ReadonlyMap<string, number>, other: ReadonlyMap<string, number>): boolean =>
  [...one].every(([id, ohms]) => Math.abs((other.get(id) ?? 0) - ohms) <= WARM_SHARE * ohms);
const WARM_SHARE = 1e-4;

/** What a device is told to draw at a feed that a resistor of its inside hangs on; null where it is at none. */
function drawnAt(device: Device, kind: DeviceKind, inside: Extract<Internal, { type: 'resistor' }>): number | null {
  for (const terminal of kind.terminals) {
    if (terminal.id !== inside.from && terminal.id !== inside.to) continue;
    const destination = destinationOf(device, terminal);
    if (destination.to === 'feed' && destination.amps > 0 && fedThrough(kind, terminal.id) === inside)
      return destination.amps;
  }
  return null;
}

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

/** A meter is held about so long: what ISO 8820-3 lets a fuse take no longer for has opened it by then. */
const HELD_SECONDS = 5;

/** The current from which on a fuse has opened by then, amperes. */
export const opensAt = (fuseAmps: number): number => opensWithin(HELD_SECONDS) * fuseAmps;

/** Fuses that have opened: those that had, and those that what runs through them opens while a meter is held. */
export function opened(net: Netlist, before: Drive, fault: Fault | null, at: (end: Probe) => number): Set<string> {
  const blown = new Set(before.blown);
  for (const { id, fuseAmps } of net.circuits) {
    if (blown.has(id) || (fault?.type === 'blown-fuse' && fault.circuitId === id)) continue;
    const amps = Math.abs(at(fuseEnd(id, 1)) - at(fuseEnd(id, 2))) / fuseOhms(fuseAmps);
    if (amps >= opensAt(fuseAmps)) blown.add(id);
  }
  return blown;
}

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
  for (const { id, anode, cathode, volts, ohms } of diodesOf(net, state))
    if (drive.conducting.has(id)) network.source(anode, cathode, volts, ohms);
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
  { volts, ohms }: Source,
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
    if (part.kind === 'battery') network.source(partEnd('battery', name), groundEnd('battery'), volts, ohms);
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

/** Points of a terminal: of the device, or of the car behind a body plug. */
const pointOf =
  (deviceId: string) =>
  (terminal: string): EndKey =>
    carPoint[terminal] ?? deviceEnd(deviceId, terminal);

const brokenOf = (fault: Fault | null, device: Device): Fault['type'] | null =>
  fault && 'deviceId' in fault && fault.deviceId === device.id ? fault.type : null;

/** What a part is that may be open or shorted within itself. */
function partOhms(broken: Fault['type'] | null, ohms: number): number {
  if (broken === 'device-open') return OPEN_OHMS;
  return broken === 'device-shorted' ? parts.shortedPart.value : ohms;
}

/** What stands inside the devices, but for filaments. */
export function addDevices(
  network: Network,
  build: Build,
  net: Netlist,
  state: CircuitState,
  fault: Fault | null,
): void {
  if (state === 'running' && build.power.charging !== 'none')
    for (const { end, ground } of lampTerminals(net))
      network.source(end, ground, battery.charging.value, alternator.lampOut.value);
  for (const { device, kind } of net.devices) {
    const broken = brokenOf(fault, device);
    if (device.pullUpOhms !== null)
      for (const sensor of sensorsIn(kind))
        network.resistor(deviceEnd(device.id, sensor.terminal), ECU_FIVE, device.pullUpOhms);
    for (const terminal of kind.terminals) {
      const destination = destinationOf(device, terminal);
      if (destination.to === 'mounted')
        network.resistor(deviceEnd(device.id, terminal.id), groundEnd(destination.place), parts.mounted.value);
    }
    const at = pointOf(device.id);
    for (const internal of internalsAtRest(build.site, kind)) {
      if (internal.type === 'divider') {
        if (broken === 'device-open') continue;
        network.resistor(
          at(internal.supply),
          at(internal.signal),
          broken === 'device-shorted' ? parts.shortedSensor.value : internal.ohms / internal.ratio,
        );
        network.resistor(at(internal.signal), at(internal.ground), internal.ohms / (1 - internal.ratio));
      } else if (internal !== filamentOf(kind))
        network.resistor(
          at(internal.from),
          at(internal.to),
          partOhms(broken, workingOhms(build, device, kind, internal, state) ?? internal.ohms),
        );
    }
  }
}

/** Filaments as warm as the last solution found them, lit where none was made yet; unplugged they are cold. */
export function addFilaments(
  network: Network,
  build: Build,
  net: Netlist,
  state: CircuitState,
  drive: Drive,
  fault: Fault | null,
): void {
  for (const { device, kind } of net.devices) {
    const filament = filamentOf(kind);
    if (!filament) continue;
    const amps = drawnAt(device, kind, filament);
    const lit = amps === null ? filament.ohms : runningVolts(build) / amps;
    const ohms = state === 'unplugged' ? filament.ohms : (drive.filaments.get(device.id) ?? lit);
    const at = pointOf(device.id);
    network.resistor(at(filament.from), at(filament.to), partOhms(brokenOf(fault, device), ohms));
  }
}

/** The filament of a lamp; null of anything else. */
function filamentOf(kind: DeviceKind): Extract<Internal, { type: 'resistor' }> | null {
  if (!hasRole(kind, 'lamp')) return null;
  for (const one of kind.internals) if (one.type === 'resistor') return one;
  return null;
}

/**
 * Ohms of a part at work, where they differ from what a meter finds in it at rest: electronics, motors and heaters by what they
 * draw; what the ECU works in pulses by its mean, but for the test of that output, which is driven in full. Null: as at rest.
 */
function workingOhms(
  build: Build,
  device: Device,
  kind: DeviceKind,
  inside: Internal,
  state: CircuitState,
): number | null {
  if (state === 'unplugged' || inside.type !== 'resistor') return null;
  if (trait(kind, 'coil') || trait(kind, 'injector')) return null;
  const amps = drawnAt(device, kind, inside);
  // An open contact draws nothing, whatever hangs behind it.
  if (amps === null || inside.ohms >= OPEN_CONTACT_OHMS || hasRole(kind, 'alternator')) return null;
  if (state === 'outputs-on' && isWorked(device, kind, inside)) return null;
  return runningVolts(build) / amps;
}

/** The engine's strap and the body's sheet: every ground is at the battery in the end. */
export function addBody(network: Network, build: Build, fault: Fault | null): void {
  network.resistor(groundEnd('head'), groundEnd('battery'), strapOhms(build) + jointOhms(fault, 'strap'));
  network.resistor(groundEnd('chassis'), groundEnd('battery'), parts.bodyToBattery.value + jointOhms(fault, 'body'));
}

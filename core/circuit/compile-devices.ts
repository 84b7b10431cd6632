import { destinationOf } from '../build/destination';
import { igniterOf, linesOf, type Known } from '../build/direct-lines';
import type { Build, Device } from '../build/schema';
import { hasRole, sensorsIn, trait, type DeviceKind, type Internal } from '../devices/kind';
import { BATTERY, KEY_RUN, KEY_START, deviceEnd, groundEnd, type EndKey } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import { fedThrough, isWorked } from '../power/drawn';
import { runningVolts } from '../power/volts';
import type { Branching } from './branching';
import { OPEN_CONTACT_OHMS, alternator, parts, spreads } from './figures';
import type { CircuitIR, CoilIR, DiodeIR, FilamentIR, InsideIR, Law, RestIR } from './ir';
import { ECU_FIVE, type Probe } from './nodes';
import { groundedBy, pulsesReturn } from './pulses-return';

type Resistor = Extract<Internal, { type: 'resistor' }>;

/** Points of the car a body plug's inside leads to (DIN 72552). */
const carPoint: Record<string, EndKey | undefined> = {
  '@15': KEY_RUN,
  '@50': KEY_START,
  '@30': BATTERY,
  '@31': groundEnd('chassis'),
};

/** What a device is told to draw at a feed that a resistor of its inside hangs on; null where it is at none. */
function drawnAt(device: Device, kind: DeviceKind, inside: Resistor): number | null {
  for (const terminal of kind.terminals) {
    if (terminal.id !== inside.from && terminal.id !== inside.to) continue;
    const destination = destinationOf(device, terminal);
    if (destination.to === 'feed' && destination.amps > 0 && fedThrough(kind, terminal.id) === inside)
      return destination.amps;
  }
  return null;
}

/** The filament of a lamp; null of anything else. */
function filamentOf(kind: DeviceKind): Resistor | null {
  if (!hasRole(kind, 'lamp')) return null;
  for (const one of kind.internals) if (one.type === 'resistor') return one;
  return null;
}

/**
 * A resistor at rest and at work, where they differ: electronics, motors and heaters by what they draw, and what the ECU works
 * in pulses by its mean.
 */
function resistorLaw(build: Build, device: Device, kind: DeviceKind, one: Resistor): Law {
  const plain: Law = { is: 'ohms', ohms: one.ohms, spread: spreads.winding.value };
  if (trait(kind, 'coil') || trait(kind, 'injector')) return plain;
  const amps = drawnAt(device, kind, one);
  // An open contact draws nothing, whatever hangs behind it.
  if (amps === null || one.ohms >= OPEN_CONTACT_OHMS || hasRole(kind, 'alternator')) return plain;
  return {
    is: 'load',
    ohms: one.ohms,
    workingOhms: runningVolts(build) / amps,
    worked: isWorked(device, kind, one),
  };
}

export type DevicesIR = Pick<CircuitIR, 'devices' | 'filaments' | 'coils' | 'rests'>;

/** The number of the pin that works a terminal, by the terminal's end: its own need's, or the one it is joined to. */
function pinsByEnd(build: Build, net: Netlist): ReadonlyMap<EndKey, number> {
  const found = new Map<EndKey, number>();
  const number = new Map(build.ecu.pins.map(({ id }, at) => [id, at]));
  for (const need of net.needs) {
    const pin = number.get(build.assignments[need.id] ?? '');
    if (pin === undefined) continue;
    for (const end of [need.end, ...need.joined.map((one) => one.end)]) found.set(end, pin);
  }
  return found;
}

/** What works a coil's primary: its own trigger or driver, or the channel of the module its line leads to; -1 for nothing. */
function workedByPin(build: Build, { device, kind }: Known, pins: ReadonlyMap<EndKey, number>): number {
  for (const { id } of kind.terminals) {
    const pin = pins.get(deviceEnd(device.id, id));
    if (pin !== undefined) return pin;
  }
  const module = igniterOf(build, { device, kind });
  const lines = linesOf({ device, kind });
  const channel =
    module &&
    trait(module.kind, 'igniter')!.channels.find(({ output }) =>
      [...linesOf(module, (id) => id === output)].some((line) => lines.has(line)),
    );
  return module && channel ? (pins.get(deviceEnd(module.device.id, channel.input)) ?? -1) : -1;
}

/** What stands inside the devices; the regulators of alternators join the diodes. */
export function compileDevices(branching: Branching, build: Build, net: Netlist, diodes: DiodeIR[]): DevicesIR {
  const devices = new Map<string, readonly InsideIR[]>();
  const filaments: FilamentIR[] = [];
  const coils: CoilIR[] = [];
  const pins = pinsByEnd(build, net);
  const rests: RestIR[] = [];
  for (const { device, kind } of net.devices) {
    const at = (terminal: string): EndKey => carPoint[terminal] ?? deviceEnd(device.id, terminal);
    const own: InsideIR[] = [];
    if (hasRole(kind, 'alternator')) compileLampTerminals(branching, build, device, kind, diodes);
    const sensors = sensorsIn(kind);
    if (device.pullUpOhms !== null)
      for (const sensor of sensors)
        branching.ohms(deviceEnd(device.id, sensor.terminal), ECU_FIVE, device.pullUpOhms, spreads.marked.value);
    for (const terminal of kind.terminals) {
      const destination = destinationOf(device, terminal);
      if (destination.to === 'mounted')
        branching.ohms(
          deviceEnd(device.id, terminal.id),
          groundEnd(destination.place),
          parts.mounted.value,
          parts.mounted.spread,
        );
    }
    const filament = filamentOf(kind);
    const coil = trait(kind, 'coil');
    const primary = (from: EndKey, to: Probe, restOhms: number | null): Law => {
      const pin = workedByPin(build, { device, kind }, pins);
      coils.push({ i: branching.node(from), j: branching.node(to), pin, coil: coil! });
      return { is: 'primary', coil: coils.length - 1, restOhms };
    };
    if (coil?.igniter) {
      // The igniter lets the primary to its ground while it is told to.
      const fed = kind.terminals.find((terminal) => destinationOf(device, terminal).to === 'feed');
      const ground = pulsesReturn(build, { device, kind });
      if (fed && ground !== null) {
        const from = deviceEnd(device.id, fed.id);
        own.push({ branch: branching.add(from, ground, primary(from, ground, null)), share: 'whole' });
      }
    }
    for (const { input, output } of trait(kind, 'igniter')?.channels ?? []) {
      const pin = pins.get(deviceEnd(device.id, input));
      const ground = groundedBy({ device, kind });
      if (pin !== undefined && ground !== null)
        branching.add(deviceEnd(device.id, output), ground, { is: 'channel', pin });
    }
    kind.internals.forEach((internal, number) => {
      const sensed = (share: InsideIR['share']): Law => {
        rests.push({ kind, internal: number });
        return { is: 'sensor', rest: rests.length - 1, share };
      };
      if (internal.type === 'divider') {
        own.push(
          { branch: branching.add(at(internal.supply), at(internal.signal), sensed('supply')), share: 'supply' },
          { branch: branching.add(at(internal.signal), at(internal.ground), sensed('ground')), share: 'ground' },
        );
        return;
      }
      let law = resistorLaw(build, device, kind, internal);
      if (internal === filament) {
        law = { is: 'filament', filament: filaments.length };
        const amps = drawnAt(device, kind, internal);
        const litVolts = runningVolts(build);
        filaments.push({
          deviceId: device.id,
          i: branching.node(at(internal.from)),
          j: branching.node(at(internal.to)),
          coldOhms: internal.ohms,
          litOhms: amps === null ? null : litVolts / amps,
          litVolts,
        });
      } else if (law.is === 'ohms' && coil && !coil.igniter)
        law = primary(at(internal.from), at(internal.to), internal.ohms);
      else if (law.is === 'ohms' && sensors.length > 0) law = sensed('whole');
      own.push({ branch: branching.add(at(internal.from), at(internal.to), law), share: 'whole' });
    });
    devices.set(device.id, own);
  }
  return { devices, filaments, coils, rests };
}

/** The lamp terminal of an alternator: its regulator draws it down at rest, and lets it out once it charges. */
function compileLampTerminals(
  branching: Branching,
  build: Build,
  device: Device,
  kind: DeviceKind,
  diodes: DiodeIR[],
): void {
  // By what the part is: through a lamp it hangs on a line, and is the same terminal.
  for (const terminal of kind.terminals) {
    if (terminal.destination.to !== 'feed') continue;
    const [end, ground] = [deviceEnd(device.id, terminal.id), groundEnd('head')];
    branching.add(end, ground, { is: 'diode', diode: diodes.length });
    diodes.push({
      id: end,
      i: branching.node(end),
      j: branching.node(ground),
      volts: alternator.resting.value,
      ohms: alternator.field.value,
      when: 'resting',
    });
    if (build.power.charging !== 'none') branching.add(end, ground, { is: 'charged' });
  }
}

import type { Build, Bus, Device } from '../build/schema';
import { destinationOf } from '../build/destination';
import { trait, type DeviceKind, type Terminal } from '../devices/kind';
import type { SignalClass } from '../wire/colours';
import { deviceEnd, ecuEnd, spliceEnd } from '../ends/ends';
import type { WireList } from './wires';

export const busSides = ['plus', 'minus'] as const;
export type BusSide = (typeof busSides)[number];

/** The terminal of a device that goes to one line of its bus; null when it has none, or the person leads it elsewhere. */
export function busTerminal(device: Device, kind: DeviceKind, side: BusSide): Terminal | null {
  return (
    kind.terminals.find((terminal) => {
      const destination = destinationOf(device, terminal);
      return destination.to === 'pin' && destination.ask.kind === 'can' && destination.ask.side === side;
    }) ?? null
  );
}

export const busOf = (build: Pick<Build, 'buses'>, deviceId: string): Bus | null =>
  build.buses.find(({ members }) => members.includes(deviceId)) ?? null;

/** Members of a bus that are on the list and speak CAN, in their order along it. */
export function membersOf(build: Pick<Build, 'devices' | 'kinds'>, bus: Bus): { device: Device; kind: DeviceKind }[] {
  return bus.members.flatMap((id) => {
    const device = build.devices.find((one) => one.id === id);
    const kind = device && build.kinds[device.kindId];
    return device && kind && trait(kind, 'can') ? [{ device, kind }] : [];
  });
}

/** Whether a device brings the bus to the ECU: the first of its members; the others hang on the trunk behind it. */
export function leadsBus(build: Pick<Build, 'devices' | 'kinds' | 'buses'>, deviceId: string): boolean {
  const bus = busOf(build, deviceId);
  return bus === null || membersOf(build, bus)[0]?.device.id === deviceId;
}

/** A stub off the trunk: as short as a splice allows; ISO 11898-2 lets it be 0.3 m at 1 Mbit/s (common practice: 0.1 m). */
export const STUB_METRES = 0.1;
/** The stub of a member, as measured or as short as a splice allows; the last member ends the trunk and has none. */
export const stubOf = (bus: Bus, deviceId: string): number => bus.stubs?.[deviceId] ?? STUB_METRES;

/** A termination (ISO 11898-2), ohms. */
export const TERMINATION_OHMS = 120;
/** What a meter finds on a bus: ohms across the dead pair with all plugged in, and volts of each line at rest (ISO 11898-2). */
export interface BusFigures {
  /** Terminations: the ECU's own and those of members. */
  readonly ends: number;
  readonly ohms: number;
  /** With the ECU unplugged; null where only the ECU ends it. */
  readonly withoutEcu: number | null;
  readonly restVolts: number;
}
const RECESSIVE_VOLTS = 2.5;
export function busFigures(build: Pick<Build, 'devices' | 'kinds'>, bus: Bus): BusFigures {
  const others = membersOf(build, bus).filter(({ kind }) => trait(kind, 'can')!.terminated).length;
  return {
    ends: others + 1,
    ohms: TERMINATION_OHMS / (others + 1),
    withoutEcu: others === 0 ? null : TERMINATION_OHMS / others,
    restVolts: RECESSIVE_VOLTS,
  };
}

/**
 * One line of a bus: from the ECU's pin past each member to the last, which ends the trunk. All but the last hang on a splice.
 * One member alone has its wire straight from the pin.
 */
export function addBusLine(
  list: WireList,
  build: Build,
  bus: Bus,
  side: BusSide,
  pinId: string,
  look: { readonly colour: string; readonly signal: SignalClass; readonly needId: string },
): void {
  const members = membersOf(build, bus);
  let [from, reached] = [ecuEnd(pinId), 0];
  members.forEach(({ device, kind }, at) => {
    const terminal = busTerminal(device, kind, side);
    if (!terminal) return;
    const end = deviceEnd(device.id, terminal.id);
    const shared = { ...look, needId: at === 0 ? look.needId : null, cable: bus.id, deviceId: device.id };
    const metres = at === 0 ? device.branchMetres : Math.abs(device.branchMetres - reached);
    reached = device.branchMetres;
    if (at === members.length - 1) {
      list.add(from, end, { ...shared, metres: Math.max(STUB_METRES, metres) });
      return;
    }
    const splice = spliceEnd(`${bus.id}-${side}-${at + 1}`);
    const stub = stubOf(bus, device.id);
    list.add(from, splice, { ...shared, metres: Math.max(STUB_METRES, metres - stub) });
    list.add(splice, end, { ...shared, needId: null, metres: stub, local: true });
    from = splice;
  });
}

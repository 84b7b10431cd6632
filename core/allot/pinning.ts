import type { Build, PinningOrder } from '../build/schema';
import { cavityPlace, cavitySquareMm, countingWords, neighbours } from '../ecu/face';
import { pinIdOf, type Connector, type Pin } from '../ecu/ecu';
import { ecuEnd, endsOfWire, isFarPin, pinAt } from '../ends/ends';
import { labelOf } from '../netlist/label';
import type { Netlist, Wire } from '../netlist/netlist';
import { farOf } from '../netlist/whole';
import { inPlace } from './model';
import { natural } from '../data/natural';

/** A wire that was clicked into a cavity and is no longer planned there. */
export interface StaleCrimp {
  readonly wireId: string;
  readonly pinId: string;
  /** What its other end was. */
  readonly was: string;
}

/** Wires that sit in the ECU's connectors though the plan has changed under them. */
export function staleCrimps(build: Build, net: Netlist): StaleCrimp[] {
  return Object.keys(build.pinning.done).flatMap((wireId): StaleCrimp[] => {
    if (net.wireById.has(wireId) || isFarPin(wireId)) return [];
    const ends = endsOfWire(wireId);
    const own = ends?.find((end) => pinAt(end) !== null);
    const far = ends?.find((end) => end !== own);
    return own === undefined ? [] : [{ wireId, pinId: pinAt(own)!, was: far === undefined ? '' : labelOf(net, far) }];
  });
}

/** One cavity to be pinned. */
export interface PinStep {
  readonly wire: Wire;
  readonly pin: Pin;
  readonly connector: Connector;
  readonly farLabel: string;
  readonly done: boolean;
  /** Known to be in place by a reading only. */
  readonly measured: boolean;
  /** What a reading on sheet 6 found wrong of this wire; '' for nothing. */
  readonly wrong: string;
  /** The branch it belongs to, for orders that go by device. */
  readonly group: string;
}

const classRank = { ground: 0, supply: 1, output: 2, injector: 3, ignition: 4, trigger: 5, analog: 6, bus: 7 } as const;

/** Every wire that ends in a cavity of the ECU, in the order chosen. Stable: equal steps keep connector and cavity order. */
export function pinSteps(
  build: Build,
  net: Netlist,
  order: PinningOrder = build.pinning.order,
  wrongWires: ReadonlyMap<string, string> = new Map(),
): PinStep[] {
  const connectors = new Map(build.ecu.connectors.map((connector) => [connector.id, connector]));
  const devices = new Map(build.devices.map((device) => [device.id, device]));
  const steps = build.ecu.pins.flatMap((pin): PinStep[] =>
    (net.wiresAt.get(ecuEnd(pin.id)) ?? []).map((wire) => {
      const far = farOf(net, wire, ecuEnd(pin.id));
      const device = wire.deviceId === null ? undefined : devices.get(wire.deviceId);
      return {
        wire,
        pin,
        connector: connectors.get(pin.connector)!,
        farLabel: labelOf(net, far),
        done: inPlace(build, wire.from, wire.to) && !wrongWires.has(wire.id),
        wrong: wrongWires.get(wire.id) ?? '',
        measured: inPlace(build, wire.from, wire.to) && build.pinning.done[wire.id] === undefined,
        group: device?.label ?? (wire.signal === 'ground' ? 'Grounds' : 'Feeds and relays'),
      };
    }),
  );
  const byCavity = (one: PinStep, other: PinStep) =>
    natural(one.pin.connector, other.pin.connector) || one.pin.cavity - other.pin.cavity;
  const keys: Record<PinningOrder, (one: PinStep, other: PinStep) => number> = {
    connector: byCavity,
    device: (one, other) => natural(one.group, other.group) || byCavity(one, other),
    branch: (one, other) => one.wire.lengthMetres - other.wire.lengthMetres || byCavity(one, other),
    'powers-first': (one, other) => classRank[one.wire.signal] - classRank[other.wire.signal] || byCavity(one, other),
  };
  return steps.sort(keys[order]);
}

export interface CavityHelp {
  /** `row 2 of 3, fifth from the left, wire side` */
  readonly counting: string;
  readonly row: number;
  readonly place: number;
  /** Neighbours by side, as the person sees them from this side: name of the pin and what goes there. */
  readonly beside: readonly {
    readonly side: 'left' | 'right' | 'above' | 'below';
    readonly pinId: string;
    readonly holds: string;
  }[];
  readonly largestSquareMm: number;
}

/** What is needed to find a cavity with the connector in hand. */
export function cavityHelp(net: Netlist, pin: Pin, connector: Connector, side: 'wire' | 'mating'): CavityHelp {
  const beside = neighbours(connector, pin.cavity);
  const seen = side === 'wire' ? beside : { ...beside, left: beside.right, right: beside.left };
  const holds = new Map(net.cavities.map((cavity) => [cavity.pin.id, cavity]));
  return {
    counting: countingWords(connector, pin.cavity, side),
    ...cavityPlace(connector, pin.cavity),
    beside: (['left', 'right', 'above', 'below'] as const).flatMap((at) => {
      const cavity = seen[at];
      if (cavity === null) return [];
      const pinId = pinIdOf(connector.id, cavity);
      const there = holds.get(pinId);
      const wired = (net.wiresAt.get(ecuEnd(pinId)) ?? []).length > 0;
      return [{ side: at, pinId, holds: there?.label || (there && wired ? there.pin.label : 'empty') }];
    }),
    largestSquareMm: cavitySquareMm(connector, pin.cavity),
  };
}

import type { Build, PinningEnds, PinningOrder } from '../build/schema';
import { cavityPlace, cavitySquareMm, countingWords, neighbours } from '../ecu/face';
import { pinIdOf, type Connector, type Pin } from '../ecu/ecu';
import { withId } from '../data/with-id';
import { ecuEnd, endOf, endsOfWire, isFarPin, pinAt, type EndKey } from '../ends/ends';
import { endPlace, type EndPlace } from '../loom/end-places';
import { deviceEnds, plugEnds } from '../loom/far-ends';
import type { Half } from '../loom/plug-face';
import { labelOf } from '../netlist/label';
import type { Netlist, Wire } from '../netlist/netlist';
import { farOf } from '../netlist/whole';
import { inPlace, readInPlace } from './in-place';
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
  /** What the bench notes it by. */
  readonly note: string;
  readonly wire: Wire;
  readonly end: EndKey;
  /** The plug in hand: `A`, `Coil 1`, `Wall plug`. */
  readonly plug: string;
  /** Of a plug in the loom: which half. */
  readonly half: Half | null;
  /** How the cavity is called: `A13`, `C`, `4`. */
  readonly cavity: string;
  /** What it is for; '' where that is said by where the wire goes. */
  readonly purpose: string;
  /** Where it is on the face; null where nobody has drawn the plug. */
  readonly place: EndPlace | null;
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

/** Every wire that ends in a cavity of these plugs, in the order chosen. Stable: equal steps keep plug and cavity order. */
export function pinSteps(
  build: Build,
  net: Netlist,
  order: PinningOrder = build.pinning.order,
  wrongWires: ReadonlyMap<string, string> = new Map(),
  ends: PinningEnds = 'ecu',
): PinStep[] {
  const devices = new Map(build.devices.map((device) => [device.id, device]));
  const groupOf = (wire: Wire) =>
    (wire.deviceId === null ? undefined : devices.get(wire.deviceId))?.label ??
    (wire.signal === 'ground' ? 'Grounds' : 'Feeds and relays');
  const step = (wire: Wire, note: string, ticked: boolean, read: boolean | null, rest: Named): PinStep => ({
    note,
    wire,
    place: endPlace(build, net, rest.end),
    done: (read ?? ticked) && !wrongWires.has(wire.id),
    measured: read === true && build.pinning.done[note] === undefined,
    wrong: wrongWires.get(wire.id) ?? '',
    group: groupOf(wire),
    ...rest,
  });
  const steps =
    ends === 'ecu'
      ? build.ecu.pins.flatMap((pin): PinStep[] =>
          (net.wiresAt.get(ecuEnd(pin.id)) ?? []).map((wire) => {
            const end = ecuEnd(pin.id);
            return step(wire, wire.id, inPlace(build, wire.from, wire.to), readInPlace(build, wire.from, wire.to), {
              end,
              plug: pin.connector,
              half: null,
              cavity: pin.id,
              purpose: pin.label,
              farLabel: labelOf(net, farOf(net, wire, end)),
            });
          }),
        )
      : (ends === 'devices' ? deviceEnds : plugEnds)(build, net).map(
          ({ wire, note, done, end, plug, half, terminal, from }) =>
            step(wire, note, done, readInPlace(build, wire.from, wire.to), {
              end,
              plug,
              half,
              cavity: terminal,
              purpose: ends === 'devices' ? terminalName(net, end) : '',
              farLabel: from,
            }),
        );
  const places = new Map(steps.map((one, i) => [one, i]));
  const byCavity =
    ends === 'ecu'
      ? (one: PinStep, other: PinStep) =>
          natural(one.plug, other.plug) || (one.place?.cavity ?? 0) - (other.place?.cavity ?? 0)
      : (one: PinStep, other: PinStep) => places.get(one)! - places.get(other)!;
  const keys: Record<PinningOrder, (one: PinStep, other: PinStep) => number> = {
    connector: byCavity,
    device: (one, other) => natural(one.group, other.group) || byCavity(one, other),
    branch: (one, other) => one.wire.lengthMetres - other.wire.lengthMetres || byCavity(one, other),
    'powers-first': (one, other) => classRank[one.wire.signal] - classRank[other.wire.signal] || byCavity(one, other),
  };
  return steps.sort(keys[order]);
}
type Named = Pick<PinStep, 'end' | 'plug' | 'half' | 'cavity' | 'purpose' | 'farLabel'>;

function terminalName(net: Netlist, end: EndKey): string {
  const ref = endOf(end);
  const kind = ref.of === 'device' ? net.deviceOf.get(ref.device)?.kind : undefined;
  return (ref.of === 'device' && kind && withId(kind.terminals, ref.terminal)?.name) || '';
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

/**
 * What is needed to find a cavity with a plug in hand.
 *
 * @param turned The half that mates with the connector as it is drawn: its wire side is the drawing's mirror.
 */
export function placeHelp(
  connector: Connector,
  cavity: number,
  side: 'wire' | 'mating',
  turned: boolean,
  at: (cavity: number) => { readonly written: string; readonly holds: string },
): CavityHelp {
  const beside = neighbours(connector, cavity);
  const mirrored = (side === 'mating') !== turned;
  const seen = mirrored ? { ...beside, left: beside.right, right: beside.left } : beside;
  return {
    counting: countingWords(connector, cavity, mirrored ? 'mating' : 'wire', side),
    ...cavityPlace(connector, cavity),
    beside: (['left', 'right', 'above', 'below'] as const).flatMap((where) => {
      const other = seen[where];
      if (other === null) return [];
      const { written, holds } = at(other);
      return [{ side: where, pinId: written, holds }];
    }),
    largestSquareMm: cavitySquareMm(connector, cavity),
  };
}

/** What is needed to find a cavity of the ECU with the connector in hand. */
export function cavityHelp(net: Netlist, pin: Pin, connector: Connector, side: 'wire' | 'mating'): CavityHelp {
  const holds = new Map(net.cavities.map((cavity) => [cavity.pin.id, cavity]));
  return placeHelp(connector, pin.cavity, side, false, (cavity) => {
    const pinId = pinIdOf(connector.id, cavity);
    const there = holds.get(pinId);
    const wired = (net.wiresAt.get(ecuEnd(pinId)) ?? []).length > 0;
    return { written: pinId, holds: there?.label || (there && wired ? there.pin.label : 'empty') };
  });
}

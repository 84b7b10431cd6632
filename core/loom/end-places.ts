import type { Build } from '../build/schema';
import { withId } from '../data/with-id';
import { faceConnector } from '../devices/face';
import type { Connector } from '../ecu/ecu';
import { endOf, type EndKey } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import { placeName } from './names';
import { plugConnector } from './plug-face';

/** Where an end sits, with the plug in hand. */
export interface EndPlace {
  /** What the plug is called: `A`, `Coil 1`, `Wall plug`. */
  readonly plug: string;
  readonly connector: Connector;
  readonly cavity: number;
  /** How the cavity is written on the face. */
  readonly written: string;
}

/** The cavity an end sits in; null where it is no cavity, or where nobody has drawn the plug of the part. */
export function endPlace(build: Build, net: Netlist, end: EndKey): EndPlace | null {
  const ref = endOf(end);
  if (ref.of === 'ecu') {
    const pin = withId(build.ecu.pins, ref.pin);
    const connector = pin && withId(build.ecu.connectors, pin.connector);
    return pin && connector ? { plug: connector.id, connector, cavity: pin.cavity, written: pin.id } : null;
  }
  if (ref.of === 'device') {
    const known = net.deviceOf.get(ref.device);
    const cavity = known?.kind.face?.cavities[ref.terminal];
    return known?.kind.face && cavity !== undefined
      ? { plug: known.device.label, connector: faceConnector(known.kind.face), cavity, written: ref.terminal }
      : null;
  }
  const plug = ref.kind === 'plug' ? build.tree.nodes[ref.part]?.plug : undefined;
  return plug
    ? { plug: placeName(build, ref.part), connector: plugConnector(plug), cavity: Number(ref.port), written: ref.port }
    : null;
}

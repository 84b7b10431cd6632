import { nothingStuck, type Stuck } from './drive';
import { crossedEnds, type Fault } from './faults';
import { OPEN_OHMS, parts } from './figures';
import type { CircuitIR } from './ir';
import { nameOf, numberOf } from './nodes';

/**
 * What a fault changes of a circuit: branches that then measure something else, and branches that were not there. Each is a change
 * of rank one; a crossed pair is four, most faults are one.
 */
export interface Changes {
  /** Branches with the ohms they then have; infinite where they are gone. */
  readonly set: readonly { readonly branch: number; readonly ohms: number }[];
  /** Branches that come with it, by their nodes; `carries` is the one whose wire runs there now, -1 for none. */
  readonly extra: readonly {
    readonly i: number;
    readonly j: number;
    readonly ohms: number;
    readonly carries: number;
  }[];
  readonly stuck: Stuck;
}

export const noChanges: Changes = { set: [], extra: [], stuck: nothingStuck };

const ohmsOf = (ir: CircuitIR, branch: number): number => {
  const law = ir.laws[branch]!;
  return law.is === 'ohms' ? law.ohms : NaN;
};
const setting = (branch: number, ohms: number): Changes => ({
  ...noChanges,
  set: branch < 0 ? [] : [{ branch, ohms }],
});

/** What a fault changes; nothing where it is a setting, or at something this circuit has not. */
export function changesOf(ir: CircuitIR, fault: Fault | null): Changes {
  switch (fault?.type) {
    case 'open':
      return setting(ir.wires.get(fault.wireId) ?? -1, OPEN_OHMS);
    case 'resistive': {
      const branch = ir.wires.get(fault.wireId) ?? -1;
      return branch < 0 ? noChanges : setting(branch, ohmsOf(ir, branch) + fault.ohms);
    }
    case 'short-to-ground': {
      const branch = ir.wires.get(fault.wireId) ?? -1;
      if (branch < 0) return noChanges;
      const bitten = ir.ends[2 * branch + 1]!;
      if (bitten === ir.body) return noChanges;
      return { ...noChanges, extra: [{ i: bitten, j: ir.body, ohms: parts.shortToBody.value, carries: -1 }] };
    }
    case 'crossed':
      return crossed(ir, fault.wireIds);
    case 'poor-joint': {
      // A car that nothing charges has no cable to an alternator.
      const branch = ir.joints.get(fault.joint) ?? -1;
      return branch < 0 ? noChanges : setting(branch, ohmsOf(ir, branch) + fault.ohms);
    }
    case 'blown-fuse': {
      const fuse = ir.fuses.findIndex(({ name }) => name === fault.circuitId);
      if (fuse < 0) return noChanges;
      return { ...setting(ir.fuses[fuse]!.branch, OPEN_OHMS), stuck: { ...nothingStuck, fuse } };
    }
    case 'relay-stuck-open': {
      const relay = ir.relays.find(({ name }) => name === fault.circuitId);
      return relay ? setting(relay.contact, OPEN_OHMS) : noChanges;
    }
    case 'relay-winding-open': {
      const relay = ir.relays.findIndex(({ name }) => name === fault.circuitId);
      if (relay < 0) return noChanges;
      return { ...setting(ir.relays[relay]!.winding, OPEN_OHMS), stuck: { ...nothingStuck, relay } };
    }
    case 'not-driven': {
      const pin = ir.pins.findIndex(({ id }) => id === fault.pinId);
      return { ...noChanges, stuck: { ...nothingStuck, pin } };
    }
    case 'no-pull-up':
      return setting(ir.pins.find(({ id }) => id === fault.pinId)?.pullUp ?? -1, Infinity);
    case 'device-open':
    case 'device-shorted':
      return broken(ir, fault.deviceId, fault.type === 'device-open');
    case 'supply-shorted':
      return supplyShorted(ir, fault.deviceId);
    default:
      return noChanges;
  }
}

/** Inside a part that is open or shorted within itself. */
function broken(ir: CircuitIR, deviceId: string, isOpen: boolean): Changes {
  const set = (ir.devices.get(deviceId) ?? []).flatMap(({ branch, share }) => {
    if (branch < 0) return [];
    if (isOpen) return [{ branch, ohms: share === 'whole' ? OPEN_OHMS : Infinity }];
    if (share === 'whole') return [{ branch, ohms: parts.shortedPart.value }];
    return share === 'supply' ? [{ branch, ohms: parts.shortedSensor.value }] : [];
  });
  return { ...noChanges, set };
}

/** From a sensor's supply to its ground, past its track; of one without a track through what is there. */
function supplyShorted(ir: CircuitIR, deviceId: string): Changes {
  const own = ir.devices.get(deviceId) ?? [];
  const branch = (share: 'whole' | 'supply' | 'ground') => own.find((one) => one.share === share)?.branch ?? -1;
  const [supply, ground] = [branch('supply'), branch('ground')];
  if (supply < 0 || ground < 0) return setting(branch('whole'), parts.shortedSensor.value);
  const [i, j] = [ir.ends[2 * supply]!, ir.ends[2 * ground + 1]!];
  return i === j ? noChanges : { ...noChanges, extra: [{ i, j, ohms: parts.shortedSensor.value, carries: -1 }] };
}

/** Two wires with their device ends exchanged. */
function crossed(ir: CircuitIR, wireIds: readonly [string, string]): Changes {
  const branches = wireIds.map((id) => ir.wires.get(id) ?? -1);
  const [one, other] = branches.map((branch) => ({
    from: nameOf(ir.nodes, ir.ends[2 * branch] ?? -1),
    to: nameOf(ir.nodes, ir.ends[2 * branch + 1] ?? -1),
  }));
  if (!one || !other || branches.includes(-1)) return noChanges;
  const ends = crossedEnds(one, other);
  return {
    ...noChanges,
    set: branches.map((branch) => ({ branch, ohms: Infinity })),
    extra: branches.flatMap((branch, at) => {
      const [i, j] = [numberOf(ir.nodes, ends[at]!.from), numberOf(ir.nodes, ends[at]!.to)];
      return i === j ? [] : [{ i, j, ohms: ohmsOf(ir, branch), carries: branch }];
    }),
  };
}

import type { Build } from '../build/schema';
import { natural } from '../data/natural';
import { endOf, pinnedAt, type EndKey } from '../ends/ends';
import { labelOf } from '../netlist/label';
import type { Netlist, Wire } from '../netlist/netlist';

/** A terminal that is clicked into a plug elsewhere than at the ECU. */
export interface FarEnd {
  /** What the bench notes it by. */
  readonly note: string;
  readonly end: EndKey;
  readonly wire: Wire;
  /** The plug it is in. */
  readonly plug: string;
  readonly terminal: string;
  /** What is at the wire's other end. */
  readonly from: string;
  readonly done: boolean;
}

const farEnd = (build: Build, net: Netlist, wire: Wire, end: EndKey, plug: string, terminal: string): FarEnd => {
  const note = pinnedAt(wire.id, end);
  return {
    note,
    end,
    wire,
    plug,
    terminal,
    from: labelOf(net, wire.from === end ? wire.to : wire.from),
    done: build.pinning.done[note] !== undefined,
  };
};

/** Ends in the plugs of devices, plug by plug. O(wires log wires). */
export function deviceEnds(build: Build, net: Netlist): FarEnd[] {
  return net.wires
    .flatMap((wire) =>
      [wire.from, wire.to].flatMap((end): FarEnd[] => {
        const ref = endOf(end);
        return ref.of === 'device'
          ? [farEnd(build, net, wire, end, net.names.devices.get(ref.device) ?? ref.device, ref.terminal)]
          : [];
      }),
    )
    .sort((one, other) => natural(one.plug, other.plug) || natural(one.terminal, other.terminal));
}

import type { Build } from '../build/schema';
import { natural } from '../data/natural';
import { endOf, pinnedAt, plugEnd, type EndKey } from '../ends/ends';
import { labelOf } from '../netlist/label';
import type { Netlist, Wire } from '../netlist/netlist';
import { otherEnd } from '../netlist/wires';
import { placeName } from './names';
import { halves, meetingsOf, type Half } from './plug-face';

/** A terminal that is clicked into a plug elsewhere than at the ECU. */
export interface FarEnd {
  /** What the bench notes it by. */
  readonly note: string;
  readonly end: EndKey;
  readonly wire: Wire;
  /** The plug it is in. */
  readonly plug: string;
  readonly terminal: string;
  /** Of a plug in the loom: which half. */
  readonly half: Half | null;
  /** What is at the wire's other end. */
  readonly from: string;
  readonly done: boolean;
}

type Where = Pick<FarEnd, 'plug' | 'terminal' | 'half'>;
function farEnd(build: Build, net: Netlist, wire: Wire, end: EndKey, where: Where): FarEnd {
  const note = pinnedAt(wire.id, end);
  return {
    note,
    end,
    wire,
    ...where,
    from: labelOf(net, otherEnd(wire, end)),
    done: build.pinning.done[note] !== undefined,
  };
}

/** Ends in the plugs of devices, plug by plug. O(wires log wires). */
export function deviceEnds(build: Build, net: Netlist): FarEnd[] {
  return net.wires
    .flatMap((wire) =>
      [wire.from, wire.to].flatMap((end): FarEnd[] => {
        const ref = endOf(end);
        if (ref.of !== 'device') return [];
        const plug = net.names.devices.get(ref.device) ?? ref.device;
        return [farEnd(build, net, wire, end, { plug, terminal: ref.terminal, half: null })];
      }),
    )
    .sort((one, other) => natural(one.plug, other.plug) || natural(one.terminal, other.terminal));
}

/** Ends in the plugs of the loom, half by half. */
export function plugEnds(build: Build, net: Netlist): FarEnd[] {
  return Object.entries(build.tree.nodes).flatMap(([id, { plug }]) =>
    plug
      ? halves.flatMap((half) =>
          meetingsOf(build, net, id).map((meeting) =>
            farEnd(build, net, meeting[half], plugEnd(id, meeting.cavity), {
              plug: placeName(build, id),
              terminal: String(meeting.cavity),
              half,
            }),
          ),
        )
      : [],
  );
}

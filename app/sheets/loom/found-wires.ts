import type { Netlist, Wire } from '~/core/netlist/netlist';
import type { Selection } from '~/core/netlist/run';

/** Wires of what is selected, to be found in what they lie in. */
export function wiresOf(net: Netlist, selection: Selection | null): ReadonlySet<string> {
  if (selection === null) return new Set();
  if (selection.type === 'wire') return new Set([selection.wireId]);
  if (selection.type === 'end') return new Set(net.wiresAt.get(selection.end)?.map(({ id }) => id));
  const isOf = ({ needId, deviceId }: Wire) =>
    selection.type === 'need' ? needId === selection.needId : deviceId === selection.deviceId;
  return new Set(net.wires.filter(isOf).map(({ id }) => id));
}

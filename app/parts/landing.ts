import { deviceAt, endType, pinAt, type EndKey } from '~/core/ends/ends';
import { labelOf } from '~/core/netlist/label';
import type { Netlist } from '~/core/netlist/netlist';

/** Where the copper at an end leads, in words: a ground point first (the ECU's own grounds only share it), an ECU cavity, a part of the feeds, then another device. */
export function landingOf(net: Netlist, end: EndKey): string {
  const others = (net.nodeOf.get(end)?.ends ?? []).filter((other) => other !== end && endType(other) !== 'splice');
  const best =
    others.find((other) => endType(other) === 'ground') ??
    others.find((other) => pinAt(other) !== null) ??
    others.find((other) => deviceAt(other) === null) ??
    others[0];
  return best === undefined ? 'no wire yet' : labelOf(net, best);
}

import type { End } from '~/core/ends/ends';
import type { Netlist } from '~/core/netlist/netlist';

/** Where the copper at an end leads, in words: a ground point first (the ECU's own grounds only share it), an ECU cavity, a part of the feeds, then another device. */
export function landingOf(net: Netlist, end: End): string {
  const others = (net.nodeOf.get(end)?.ends ?? []).filter((other) => other !== end && !other.startsWith('splice:'));
  const best =
    others.find((other) => other.startsWith('gnd:')) ??
    others.find((other) => other.startsWith('ecu:')) ??
    others.find((other) => !other.startsWith('dev:')) ??
    others.find((other) => other.startsWith('dev:'));
  return best === undefined ? 'no wire yet' : net.labelOf(best);
}

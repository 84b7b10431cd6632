import type { Build } from '../build/schema';
import { classColour, type ColourFamily } from '../wire/colours';
import { endOf, pinAt, type EndKey } from '../ends/ends';
import type { Draft } from './wires';

/** Colours tried before a double is left to the rule that names it. */
const TRIES = 24;

/**
 * No two wires of one plug look alike unless they are the same copper anyway: the later one takes the next colour of its
 * family that none of the plugs it ends in or passes has. Colours a person chose, and those a loom came with, stay.
 *
 * @param passed Plugs of the loom that part a wire, by the wire.
 * @returns The other colour of each wire that was given one. O(wires x tries).
 */
export function tellApart(
  build: Build,
  wires: readonly Draft[],
  passed: ReadonlyMap<string, readonly string[]>,
  nodeOf: (end: EndKey) => string,
): ReadonlyMap<string, string> {
  const colours = new Map<string, string>();
  const connectorOf = new Map(build.ecu.pins.map((pin) => [pin.id, pin.connector]));
  const leads = new Set(
    build.loom.origin === 'flying-lead' ? build.ecu.pins.flatMap((pin) => (pin.lead ? [pin.id] : [])) : [],
  );
  const plugOf = (end: EndKey): string | null => {
    const ref = endOf(end);
    if (ref.of === 'ecu') return `ecu ${connectorOf.get(ref.pin) ?? ''}`;
    return ref.of === 'device' ? `device ${ref.device}` : null;
  };
  /** Copper by colour, for each plug. */
  const seen = new Map<string, Map<string, string>>();
  const clash = (plugs: readonly string[], colour: string, copper: string) =>
    plugs.some((plug) => {
      const there = seen.get(plug)?.get(colour);
      return there !== undefined && there !== copper;
    });
  const plugsOf = (wire: Draft) => [
    ...[wire.from, wire.to].flatMap((end) => plugOf(end) ?? []),
    ...(passed.get(wire.id) ?? []).map((plug) => `plug ${plug}`),
  ];
  const take = (plugs: readonly string[], colour: string, copper: string) => {
    for (const plug of plugs) {
      const own = seen.get(plug) ?? new Map<string, string>();
      if (!own.has(colour)) own.set(colour, copper);
      seen.set(plug, own);
    }
  };
  const isSettled = (wire: Draft) =>
    build.loom.wires[wire.id]?.colour !== undefined || [wire.from, wire.to].some((end) => leads.has(pinAt(end) ?? ''));
  const settled = new Set(wires.filter(isSettled));
  // What was chosen comes first: the others keep clear of it.
  for (const wire of settled) take(plugsOf(wire), wire.colour, nodeOf(wire.from));
  for (const wire of wires) {
    if (settled.has(wire)) continue;
    const plugs = plugsOf(wire);
    const copper = nodeOf(wire.from);
    let { colour } = wire;
    if (clash(plugs, colour, copper)) {
      const family: ColourFamily = wire.signal === 'supply' && colour.startsWith('OG') ? 'sensor-supply' : wire.signal;
      for (let index = 0; index < TRIES; index += 1) {
        const next = classColour(family, index);
        if (clash(plugs, next, copper)) continue;
        colour = next;
        break;
      }
    }
    take(plugs, colour, copper);
    if (colour !== wire.colour) colours.set(wire.id, colour);
  }
  return colours;
}

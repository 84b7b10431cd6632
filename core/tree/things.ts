import { aboutDevice, deviceNamed, endOf, partAt, partId, type EndKey, type PartId } from '../ends/ends';
import type { LoomTree } from './tree';

/*
 * What stands at a place of the tree, as `holds` names it: the ECU, a device, a box, or a part of the feeds that stands by
 * itself.
 */
export const ECU_THING = 'ecu';
export const deviceThing = aboutDevice;
export const deviceOfThing = deviceNamed;
export const boxThing = (box: string): string => `box:${box}`;
/** Fuses and relays that stand in no box with a name. */
export const LOOSE_BOX = boxThing('');
export const BATTERY_THING: PartId = partId('battery', '+');
export const KEY_THINGS: readonly PartId[] = [partId('key', '15'), partId('key', '50')];
export const groundThing = (place: string): PartId => partId('ground', place);

/** Parts that are held in the hand by themselves, not plugged into a box. */
const standsAlone = new Set(['splice', 'ground', 'battery', 'key']);

/**
 * What an end may be found by, most exact first. The two posts of the battery are one thing.
 *
 * @param boxOf The box a part of the feeds stands in.
 */
export function thingsOf(end: EndKey, boxOf: (id: PartId) => string | undefined): readonly string[] {
  const ref = endOf(end);
  if (ref.of === 'ecu') return [ECU_THING];
  if (ref.of === 'device') return [aboutDevice(ref.device)];
  if (ref.kind === 'shield') return [aboutDevice(ref.part)];
  const id = partAt(end)!;
  if (id === groundThing('battery')) return [id, BATTERY_THING];
  if (standsAlone.has(ref.kind)) return [id];
  const box = boxOf(id);
  return box === undefined ? [id, LOOSE_BOX] : [id, boxThing(box), LOOSE_BOX];
}

/** Where each thing stands; of one that two places hold, the first. */
export function placesOf({ nodes }: LoomTree): ReadonlyMap<string, string> {
  const places = new Map<string, string>();
  for (const [id, { holds }] of Object.entries(nodes))
    for (const thing of holds) if (!places.has(thing)) places.set(thing, id);
  return places;
}

import type { Build, Device } from '../build/schema';
import { destinationOf } from '../build/destination';
import type { DeviceKind } from '../devices/kind';
import { deviceAt, deviceEnd, ecuEnd, endType, type EndKey } from '../ends/ends';
import { WINDING_AMPS } from '../power/flow';
import type { PowerPlan } from '../power/plan';
import type { PlannedLink } from '../power/propose';
import { groundPins } from './ground-pins';
import { POWER_GROUND_AMPS } from './wires';

/** What a device of no stated load sends to the body, amperes (common practice). */
const GROUND_AMPS = 0.2;

/** What a device sends to the body: what it is fed with, coils by what warms the wire. */
export function returnAmps({ flows }: PowerPlan, device: Device, kind: DeviceKind): number {
  const feeds = kind.terminals.filter((terminal) => destinationOf(device, terminal).to === 'feed');
  const amps = feeds.reduce((sum, { id }) => sum + (flows.at.get(deviceEnd(device.id, id))?.rms ?? 0), 0);
  return feeds.length > 0 ? amps : GROUND_AMPS;
}

/**
 * What the planned returns carry, by the link: each device's current on its shortest way through them to a ground, added up where
 * several were merged into one.
 */
export function plannedReturns(build: Build, power: PowerPlan): Map<string, number> {
  const own = power.plan.links.filter(({ id }) => !power.sizes.links.has(id));
  const at = new Map<EndKey, PlannedLink[]>();
  for (const link of own)
    for (const end of [link.from, link.to]) {
      const there = at.get(end);
      if (there) there.push(link);
      else at.set(end, [link]);
    }
  const towards = new Map<EndKey, PlannedLink | null>();
  const order = [...at.keys()].filter((end) => endType(end) === 'ground');
  for (const ground of order) towards.set(ground, null);
  for (const end of order)
    for (const link of at.get(end) ?? []) {
      const other = link.from === end ? link.to : link.from;
      if (towards.has(other)) continue;
      towards.set(other, link);
      order.push(other);
    }
  const devices = new Map(build.devices.map((device) => [device.id, device]));
  const ecuGrounds = new Set(groundPins(build).power.map(({ id }) => ecuEnd(id)));
  const carried = new Map<string, number>();
  for (let i = order.length - 1; i >= 0; i -= 1) {
    const end = order[i]!;
    const link = towards.get(end);
    if (!link) continue;
    const device = devices.get(deviceAt(end) ?? '');
    const kind = device && build.kinds[device.kindId];
    const into = (at.get(end) ?? []).reduce((sum, one) => sum + (one === link ? 0 : (carried.get(one.id) ?? 0)), 0);
    const drawn =
      device && kind
        ? returnAmps(power, device, kind)
        : ecuGrounds.has(end)
          ? POWER_GROUND_AMPS
          : endType(end) === 'relay'
            ? WINDING_AMPS
            : 0;
    carried.set(link.id, into + drawn);
  }
  return carried;
}

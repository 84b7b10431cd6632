import type { Build, Device } from '../build/schema';
import { destinationOf } from '../build/destination';
import { coilsBehind, type Known } from '../build/direct-lines';
import { trait, type DeviceKind } from '../devices/kind';
import { deviceAt, deviceEnd, ecuEnd, endType, partEnd, type EndKey, type PartId } from '../ends/ends';
import { pulsesOfCoils, type FittedCoil } from '../power/coil-feed';
import { WINDING_AMPS } from '../power/flow';
import type { FeedPlan } from '../power/feed-plan';
import type { Flows } from '../power/flow';
import type { PlannedLink, PlannedPart } from '../power/propose';
import { groundPins } from './ground-pins';
import { groundShareAmps } from './ecu-return';
import type { Need } from './needs';

/** What a device of no stated load sends to the body, amperes (common practice). */
const GROUND_AMPS = 0.2;

/** Coils that hang on the outputs of an igniter. */
const coilsOf = (build: Build, module: Known): FittedCoil[] =>
  coilsBehind(build, module).map(({ device, kind }) => ({
    coil: trait(kind, 'coil')!,
    serves: device.serves,
    row: device.row,
  }));

/**
 * What a device sends to the body: what it is fed with, coils by what warms the wire. The primaries of the coils an igniter
 * switches run through its ground, added up where their dwells overlap.
 */
export function returnAmps(build: Build, { flows }: Pick<Fed, 'flows'>, device: Device, kind: DeviceKind): number {
  const feeds = kind.terminals.filter((terminal) => destinationOf(device, terminal).to === 'feed');
  const fed = feeds.reduce((sum, { id }) => sum + (flows.at.get(deviceEnd(device.id, id))?.rms ?? 0), 0);
  const switched = trait(kind, 'igniter') ? pulsesOfCoils(build)(coilsOf(build, { device, kind })).rms : 0;
  return feeds.length > 0 || switched > 0 ? fed + switched : GROUND_AMPS;
}

/** What is known of the feeds before any wire has a size. */
export interface Fed {
  readonly plan: FeedPlan;
  readonly flows: Flows;
  readonly fuses: ReadonlyMap<PartId, { readonly amps: number }>;
}

/** The strongest fuse that stands before a device: a short inside it runs through its return too. */
export function fuseBefore({ fuses, flows }: Fed, device: Device, kind: DeviceKind): number {
  const fused = kind.terminals.map((terminal) => {
    const fuse = flows.fuseBefore.get(deviceEnd(device.id, terminal.id)) ?? null;
    return fuse === null ? 0 : (fuses.get(fuse)?.amps ?? 0);
  });
  return Math.max(0, ...fused);
}

/** What a planned return carries, and what the strongest fuse before it lets through. */
export interface PlannedReturn {
  readonly amps: number;
  readonly lets: number;
}

/** The two sides of what may stand in a return: a switch, a button, a resistor, a diode. */
function sidesOf({ name, part }: PlannedPart): readonly [EndKey, EndKey] | null {
  if (part.kind === 'diode') return [partEnd('diode', name, 'a'), partEnd('diode', name, 'k')];
  return part.kind === 'switch' || part.kind === 'button' || part.kind === 'resistor'
    ? [partEnd(part.kind, name, '1'), partEnd(part.kind, name, '2')]
    : null;
}

/**
 * What the planned returns carry, by the link: each device's current on its shortest way through them, and through what stands
 * in them, to a ground; added up where several were merged into one, which is then as strong as the strongest of them asks.
 */
export function plannedReturns(build: Build, needs: readonly Need[], fed: Fed): Map<string, PlannedReturn> {
  const at = new Map<EndKey, Way[]>();
  const add = (from: EndKey, to: EndKey, link: PlannedLink | null) => {
    const there = at.get(from);
    if (there) there.push({ to, link });
    else at.set(from, [{ to, link }]);
  };
  const join = (one: EndKey, other: EndKey, link: PlannedLink | null) => {
    add(one, other, link);
    add(other, one, link);
  };
  for (const link of fed.plan.links) if (!fed.flows.through.has(link.id)) join(link.from, link.to, link);
  for (const part of fed.plan.parts.values()) {
    const sides = sidesOf(part);
    if (sides?.some((side) => at.has(side))) join(...sides, null);
  }
  const towards = new Map<EndKey, Way | null>();
  const order = [...at.keys()].filter((end) => endType(end) === 'ground');
  for (const ground of order) towards.set(ground, null);
  for (const end of order)
    for (const { to, link } of at.get(end) ?? []) {
      if (towards.has(to)) continue;
      towards.set(to, { to: end, link });
      order.push(to);
    }
  const devices = new Map(build.devices.map((device) => [device.id, device]));
  const ecuGrounds = new Set(groundPins(build).power.map(({ id }) => ecuEnd(id)));
  const ecuShare = groundShareAmps(build, needs);
  /** What has come to each end so far. */
  const into = new Map<EndKey, PlannedReturn>();
  const carried = new Map<string, PlannedReturn>();
  for (let i = order.length - 1; i >= 0; i -= 1) {
    const end = order[i]!;
    const way = towards.get(end);
    if (!way) continue;
    const device = devices.get(deviceAt(end) ?? '');
    const kind = device && build.kinds[device.kindId];
    const before = into.get(end) ?? { amps: 0, lets: 0 };
    const drawn =
      device && kind
        ? returnAmps(build, fed, device, kind)
        : ecuGrounds.has(end)
          ? ecuShare
          : endType(end) === 'relay'
            ? WINDING_AMPS
            : 0;
    const amps = before.amps + drawn;
    const own = device && kind ? fuseBefore(fed, device, kind) : 0;
    const returned = { amps, lets: Math.max(before.lets, own, amps) };
    if (way.link) carried.set(way.link.id, returned);
    const next = into.get(way.to) ?? { amps: 0, lets: 0 };
    into.set(way.to, { amps: next.amps + amps, lets: Math.max(next.lets, returned.lets) });
  }
  return carried;
}

interface Way {
  readonly to: EndKey;
  /** Null: through a part. */
  readonly link: PlannedLink | null;
}

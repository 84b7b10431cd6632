import type { Build, Device } from '../build/schema';
import { destinationOf } from '../build/destination';
import { trait, type DeviceKind } from '../devices/kind';
import { deviceAt, deviceEnd, ecuEnd, endType, type EndKey } from '../ends/ends';
import { pulsesOfCoils, type FittedCoil } from '../power/coil-feed';
import { WINDING_AMPS } from '../power/flow';
import type { PowerPlan } from '../power/plan';
import type { PlannedLink } from '../power/propose';
import { mostAt } from '../power/sizes';
import { groundPins } from './ground-pins';
import { groundShareAmps } from './ecu-return';
import type { Need } from './needs';
import { mostSizeFor } from './wires';

/** What a device of no stated load sends to the body, amperes (common practice). */
const GROUND_AMPS = 0.2;

/** Coils that hang on the outputs of an igniter, by the lines that lead to them. */
function coilsBehind(build: Build, device: Device, kind: DeviceKind): FittedCoil[] {
  const outputs = new Set(trait(kind, 'igniter')?.channels.map(({ output }) => output));
  const lines = new Set(
    kind.terminals.flatMap((terminal) => {
      const far = destinationOf(device, terminal);
      return outputs.has(terminal.id) && far.to === 'line' ? [far.line] : [];
    }),
  );
  return build.devices.flatMap((other): FittedCoil[] => {
    const own = build.kinds[other.kindId];
    const coil = own && trait(own, 'coil');
    const hangs = own?.terminals.some((terminal) => {
      const far = destinationOf(other, terminal);
      return far.to === 'line' && lines.has(far.line);
    });
    return coil && hangs ? [{ coil, serves: other.serves, row: other.row }] : [];
  });
}

/**
 * What a device sends to the body: what it is fed with, coils by what warms the wire. The primaries of the coils an igniter
 * switches run through its ground, added up where their dwells overlap.
 */
export function returnAmps(build: Build, { flows }: PowerPlan, device: Device, kind: DeviceKind): number {
  const feeds = kind.terminals.filter((terminal) => destinationOf(device, terminal).to === 'feed');
  const fed = feeds.reduce((sum, { id }) => sum + (flows.at.get(deviceEnd(device.id, id))?.rms ?? 0), 0);
  const switched = trait(kind, 'igniter') ? pulsesOfCoils(build)(coilsBehind(build, device, kind)).rms : 0;
  return feeds.length > 0 || switched > 0 ? fed + switched : GROUND_AMPS;
}

/**
 * The size a device's return takes: what its current asks, and what the fuse before it asks of the wire that feeds it, since a
 * short inside the device runs through both (common practice); no more than its plug takes.
 */
export function returnSquareMm(
  build: Build,
  { sizes, flows }: PowerPlan,
  device: Device,
  kind: DeviceKind,
  amps: number,
) {
  const fused = kind.terminals.map((terminal) => {
    const fuse = flows.fuseBefore.get(deviceEnd(device.id, terminal.id)) ?? null;
    return fuse === null ? 0 : (sizes.fuses.get(fuse)?.amps ?? 0);
  });
  const most = mostAt(build, deviceEnd(device.id, kind.terminals[0]?.id ?? ''));
  return Math.max(mostSizeFor(build, amps), Math.min(most, mostSizeFor(build, Math.max(...fused))));
}

/**
 * What the planned returns carry, by the link: each device's current on its shortest way through them to a ground, added up where
 * several were merged into one.
 */
export function plannedReturns(build: Build, needs: readonly Need[], power: PowerPlan): Map<string, number> {
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
  const ecuShare = groundShareAmps(build, needs);
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
        ? returnAmps(build, power, device, kind)
        : ecuGrounds.has(end)
          ? ecuShare
          : endType(end) === 'relay'
            ? WINDING_AMPS
            : 0;
    carried.set(link.id, into + drawn);
  }
  return carried;
}

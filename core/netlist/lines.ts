import { sparkChannel } from '../devices/spark-line';
import type { Build, Device } from '../build/schema';
import { classColour } from '../wire/colours';
import { destinationOf } from '../build/destination';
import { deviceEnd, spliceEnd, type EndKey } from '../ends/ends';
import { trait } from '../devices/kind';
import { broughtFeeds } from '../power/key';
import { fuseBefore, type Fed } from './feed-returns';
import { SPLICE_METRES, usualSize, type WireList } from './wires';

/** The key feed a body plug brings: relay windings and the ECU's wake-up (common practice). */
const KEY_AMPS = 5;
const KEY_SQUARE_MM = 1.5;

/** Joins the plug to the splices that something hangs on. A cavity takes one wire; a feed nobody uses gets none. */
export function joinKeyFeeds(list: WireList, build: Build, planned: ReadonlySet<EndKey>): void {
  const brought = broughtFeeds(build);
  if (brought.length === 0) return;
  const used = new Set([...planned, ...list.drafts.flatMap((wire) => [wire.from, wire.to])]);
  for (const { source, end, device } of brought)
    if (used.has(spliceEnd(source)))
      list.add(end, spliceEnd(source), {
        colour: classColour('supply', source === 'key-run' ? 0 : 1),
        metres: SPLICE_METRES,
        signal: 'supply',
        amps: KEY_AMPS,
        least: usualSize(build, KEY_SQUARE_MM),
        deviceId: device.id,
      });
}

/** Lines begin with other colours than the ECU's outputs, so that they are told apart in one bundle. */
const FIRST_COLOUR = 5;
/** A line between two devices may carry a lamp or a small motor (common practice). */
const LINE_SQUARE_MM = 0.75;
/** The least a coil's primary is laid with, for its strength (common practice). */
const PRIMARY_SQUARE_MM = 1;

interface LineUser {
  readonly end: EndKey;
  readonly device: Device;
}

/** The wire to a coil's primary: what its feed carries comes back along it, by what warms the wire. */
function primaryWire(build: Build, fed: Fed, users: readonly LineUser[]) {
  const coils = users.filter(({ device }) => trait(build.kinds[device.kindId]!, 'coil'));
  const amps = coils.reduce(
    (sum, { device }) =>
      (build.kinds[device.kindId]?.terminals ?? []).reduce(
        (all, terminal) => all + (fed.flows.at.get(deviceEnd(device.id, terminal.id))?.rms ?? 0),
        sum,
      ),
    0,
  );
  const lets = Math.max(0, ...coils.map(({ device }) => fuseBefore(fed, device, build.kinds[device.kindId]!)));
  return { amps, lets, least: usualSize(build, PRIMARY_SQUARE_MM) };
}

/** Lines by name: one wire between two terminals, a splice for more. A line with one end has no wire; a rule names it. */
export function addLines(list: WireList, build: Build, fed: Fed): void {
  const ends = new Map<string, LineUser[]>();
  for (const device of build.devices)
    for (const terminal of build.kinds[device.kindId]?.terminals ?? []) {
      const destination = destinationOf(device, terminal);
      if (destination.to !== 'line') continue;
      const at = ends.get(destination.line) ?? [];
      at.push({ end: deviceEnd(device.id, terminal.id), device });
      ends.set(destination.line, at);
    }
  let order = 0;
  for (const [name, users] of ends) {
    if (users.length < 2) continue;
    const look = {
      colour: classColour('output', order + FIRST_COLOUR),
      signal: 'output',
      least: usualSize(build, LINE_SQUARE_MM),
    } as const;
    order += 1;
    const heavy = sparkChannel(name) !== null ? { ...look, ...primaryWire(build, fed, users) } : look;
    if (users.length === 2) {
      const [one, other] = users as [LineUser, LineUser];
      list.add(one.end, other.end, {
        ...heavy,
        metres: one.device.branchMetres + other.device.branchMetres,
        deviceId: one.device.id,
      });
      continue;
    }
    const splice = spliceEnd(`line-${name}`);
    for (const { end, device } of users)
      list.add(end, splice, { ...heavy, metres: device.branchMetres, deviceId: device.id });
  }
}

import { destinationOf, sharedPin } from '../build/destination';
import type { Build, Device } from '../build/schema';
import type { DeviceKind } from '../devices/kind';
import { pinsOfKind, type Pin } from '../ecu/ecu';
import { deviceEnd, ecuEnd, groundEnd, shieldEnd, spliceEnd, terminalId, type EndKey } from '../ends/ends';
import { groundPins, shieldPins } from './ground-pins';
import { returnBank } from './returns';
import { MOST_RINGS } from '../power/propose';
import { ecuReturnAmps, groundShareAmps } from './ecu-return';
import type { Need } from './needs';
import { SPLICE_METRES, usualSize, type Look, type Unsized, type WireList } from './wires';

/** The one wire from an ECU pin to the splice of all that share it (common practice: as strong as a branch of a feed). */
const SHARED_SQUARE_MM = 0.5;
/** A power ground: its share of what injectors and outputs send through the ECU, by the field's usual wire (common practice). */
const POWER_GROUND_SQUARE_MM = 1.5;
/** What is left of a tail behind its splice, metres (common practice). */
const LEAST_TAIL_METRES = 0.1;
/** What a sensor sends to its ground, amperes (common practice). */
export const SENSOR_AMPS = 0.01;

/** Devices whose kind the build holds, with it. */
export const knownDevices = (build: Build): readonly { readonly device: Device; readonly kind: DeviceKind }[] =>
  build.devices.flatMap((device) => {
    const kind = build.kinds[device.kindId];
    return kind ? [{ device, kind }] : [];
  });

interface Shared {
  readonly end: EndKey;
  readonly device: Device;
  readonly amps: number;
  /** The wires of a shielded sensor lie in one cable, and so does the shield. */
  readonly cable: string | null;
}

/** A pin shared by several device terminals: one wire when alone, a trunk and a splice otherwise. */
function addShared(
  list: WireList,
  build: Build,
  pin: Pin,
  users: readonly Shared[],
  look: Look,
  trunk: (Partial<Pick<Unsized, 'colour' | 'least' | 'amps'>> & { readonly drawn?: number }) | null,
): void {
  const tail = (user: Shared, metres: number) => ({
    ...look,
    metres,
    amps: user.amps,
    deviceId: user.device.id,
    cable: user.cable,
  });
  const [user] = users;
  if (user && users.length === 1 && trunk === null) {
    list.add(ecuEnd(pin.id), user.end, tail(user, user.device.branchMetres));
    return;
  }
  const splice = spliceEnd(pin.id);
  list.add(ecuEnd(pin.id), splice, {
    ...look,
    metres: SPLICE_METRES,
    local: true,
    amps: users.reduce((sum, user) => sum + user.amps, 0),
    least: usualSize(build, SHARED_SQUARE_MM),
    ...trunk,
  });
  for (const user of users)
    list.add(splice, user.end, tail(user, Math.max(LEAST_TAIL_METRES, user.device.branchMetres - SPLICE_METRES)));
}

const cableOf = (device: Device, kind: DeviceKind): string | null => (kind.shielded ? device.id : null);

/** The ECU's 5 V supplies, chosen by the terminal's bank. */
export function addSupplies(list: WireList, build: Build, colours: ReadonlyMap<string, string>): void {
  const pins = pinsOfKind(build.ecu, 'supply-5v');
  if (pins.length === 0) return;
  const users = new Map<string, Shared[]>(pins.map((pin) => [pin.id, []]));
  for (const { device, kind } of knownDevices(build))
    for (const terminal of kind.terminals) {
      const destination = destinationOf(device, terminal);
      if (destination.to !== 'supply-5v') continue;
      const pin = sharedPin(build, pins, terminalId(device.id, terminal.id), destination.bank);
      users.get(pin.id)!.push({
        end: deviceEnd(device.id, terminal.id),
        device,
        amps: destination.milliamps / 1000,
        cable: cableOf(device, kind),
      });
    }
  for (const pin of pins)
    if (users.get(pin.id)!.length > 0)
      addShared(list, build, pin, users.get(pin.id)!, { colour: colours.get(pin.id)!, signal: 'supply' }, null);
}

/**
 * The ECU's ground pins: returns of sensors and shields by bank, and its own grounds; one pin may be both.
 *
 * @param planned Ends that the plan of feeds wires: a ground of the ECU among them goes where it says.
 */
export function addEcuGrounds(
  list: WireList,
  build: Build,
  needs: readonly Need[],
  colours: ReadonlyMap<string, string>,
  planned: ReadonlySet<EndKey>,
): void {
  const { power, sensor } = groundPins(build);
  const shields = shieldPins(build);
  const users = new Map<string, Shared[]>([...power, ...sensor, ...shields].map((pin) => [pin.id, []]));
  for (const { device, kind } of knownDevices(build)) {
    const cable = cableOf(device, kind);
    for (const terminal of kind.terminals) {
      const bank = returnBank(build, device, kind, terminal);
      if (bank === null || sensor.length === 0) continue;
      const pin = sharedPin(build, sensor, terminalId(device.id, terminal.id), bank);
      users.get(pin.id)!.push({ end: deviceEnd(device.id, terminal.id), device, amps: SENSOR_AMPS, cable });
    }
    const [shield] = shields;
    if (kind.shielded && device.shield !== 'none' && shield)
      users.get(shield.id)!.push({ end: shieldEnd(device.id), device, amps: SENSOR_AMPS, cable });
  }
  const amps = groundShareAmps(build, needs);
  const drawn = ecuReturnAmps(build, needs) / Math.max(1, power.length);
  const own = {
    colour: 'BK',
    metres: build.power.groundMetres[build.power.ecuGround] ?? 1,
    least: usualSize(build, POWER_GROUND_SQUARE_MM),
    signal: 'ground',
    amps,
    // It is as thick as for what each is counted with; what it loses is by what comes back.
    drawn,
  } as const;
  const powers = new Set(power);
  // More rings than one bolt takes are joined two and two behind the plug.
  const alone = power.filter((pin) => users.get(pin.id)!.length === 0 && !planned.has(ecuEnd(pin.id)));
  const shared = power.length - alone.length;
  const stacks = build.power.joints === 'stacked' || build.power.ecuGround !== 'battery';
  const rings = stacks ? alone.length : Math.max(1, MOST_RINGS - shared);
  const pairs = Math.max(0, alone.length - rings);
  const partner = new Map(alone.slice(0, 2 * pairs).map((pin, at, all) => [pin.id, all[at - (at % 2)]!.id]));
  for (const pin of new Set([...power, ...sensor, ...shields])) {
    const returning = users.get(pin.id)!;
    const look = { colour: colours.get(pin.id)!, signal: 'ground' } as const;
    if (!powers.has(pin)) {
      if (returning.length > 0) addShared(list, build, pin, returning, look, null);
    } else if (planned.has(ecuEnd(pin.id)) && returning.length === 0) continue;
    else if (returning.length === 0 && partner.has(pin.id)) {
      const splice = spliceEnd(`${partner.get(pin.id)!}-ground`);
      list.add(ecuEnd(pin.id), splice, { ...own, metres: SPLICE_METRES, local: true });
      list.add(splice, groundEnd(build.power.ecuGround), { ...own, amps: 2 * amps, drawn: 2 * drawn });
    } else if (returning.length === 0) list.add(ecuEnd(pin.id), groundEnd(build.power.ecuGround), own);
    else {
      // One cavity takes one wire: the bolt's and the sensors' meet a hand's breadth behind it.
      addShared(list, build, pin, returning, look, {
        colour: 'BK',
        least: own.least,
        amps: own.amps,
        drawn: own.drawn,
      });
      list.add(spliceEnd(pin.id), groundEnd(build.power.ecuGround), own);
    }
  }
}

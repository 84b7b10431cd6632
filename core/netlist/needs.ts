import type { Build, Device } from '../build/schema';
import { protectionOf, trait, type DeviceKind, type Protection, type System, type Terminal } from '../devices/kind';
import type { Wanted } from '../ecu/ask';
import { outputsFor, workOf } from '../engine/outputs';
import { feedPlan } from '../power/feed-plan';
import { windingEnds } from '../power/propose';
import { destinationOf } from '../build/destination';
import { coilsBehind } from '../build/direct-lines';
import { leadsBus } from './bus';
import { folded, type Member } from './joined';
import { returnsToGround } from './returns';
import { deviceEnd, type EndKey, terminalId } from '../ends/ends';

/** What a relay's winding may ask of the output that drives it: 60 to 90 ohms at 13 V (common practice). */
const DRIVEN_WINDING_AMPS = 0.2;

/** One wire end that wants an ECU pin. */
export interface Need {
  readonly id: string;
  readonly label: string;
  readonly system: System;
  readonly end: EndKey;
  readonly ask: Wanted;
  readonly deviceId: string | null;
  /** The circuit whose relay winding it drives; null for a device's own terminal. */
  readonly winding: string | null;
  /** Needs of one device that must land on a pin pair of the ECU. */
  readonly pair: string | null;
  /** Cylinders it serves, and which plug or injector of theirs; none of a part of the whole engine. */
  readonly serves: readonly number[];
  readonly row: number;
  /** Output numbers that work its cylinders under the build's school; null where the number does not matter. */
  readonly outputs: readonly number[] | null;
  /** Part of a redundancy or an interlock: no way out may give it up or send it another way. */
  readonly protection: Protection | null;
  /** Further terminals that hang on the same output, by a splice behind its cavity. */
  readonly joined: readonly Member[];
}

function deviceNeeds(build: Build, device: Device, kind: DeviceKind): Need[] {
  // Only the first member of a bus asks for the ECU's pair; the others hang on the trunk.
  const led = leadsBus(build, device.id);
  const wanting = kind.terminals.filter((terminal) => {
    const destination = destinationOf(device, terminal);
    if (destination.to !== 'pin' || returnsToGround(build, device, kind, terminal)) return false;
    return led || destination.ask.kind !== 'can';
  });
  const membersOfPair = new Map<string, number>();
  for (const terminal of wanting) {
    const destination = destinationOf(device, terminal);
    const pair = destination.to === 'pin' ? destination.pair : undefined;
    if (pair !== undefined) membersOfPair.set(pair, (membersOfPair.get(pair) ?? 0) + 1);
  }
  return wanting.map((terminal) => {
    const destination = destinationOf(device, terminal) as Extract<Terminal['destination'], { to: 'pin' }>;
    const injector = trait(kind, 'injector');
    const ask =
      injector && destination.ask.kind === 'injector' ? { ...destination.ask, ohms: injector.ohms } : destination.ask;
    const { serves, row } =
      device.serves.length > 0 ? device : (coilsBehind(build, { device, kind }, terminal.id)[0]?.device ?? device);
    const work = workOf(ask);
    return {
      id: terminalId(device.id, terminal.id),
      label: wanting.length > 1 ? `${device.label} ${terminal.name}` : device.label,
      system: kind.system,
      end: deviceEnd(device.id, terminal.id),
      ask,
      deviceId: device.id,
      winding: null,
      // A VR signal whose return goes to ground stands alone.
      pair:
        destination.pair && !(destination.ask.kind === 'vr' && membersOfPair.get(destination.pair) === 1)
          ? terminalId(device.id, destination.pair)
          : null,
      serves,
      row,
      outputs:
        work !== null && serves.length > 0 ? outputsFor(build.engine, build.outputOrder, work, serves, row) : null,
      protection: protectionOf(kind, terminal),
      joined: [],
    };
  });
}

/** What stands for a device in the need of a relay's winding. */
export const windingOwner = (circuitId: string): string => `relay-${circuitId}`;

/** Every terminal of a build that wants an ECU pin, as if none shared one, in the order of the devices, then the relays the ECU drives. */
export function separateNeeds(build: Build): Need[] {
  const fromDevices = build.devices.flatMap((device) => {
    const kind = build.kinds[device.kindId];
    return kind ? deviceNeeds(build, device, kind) : [];
  });
  const plan = feedPlan(build);
  const systems = new Map(plan.feeds.map(({ id, system }) => [id, system]));
  const fromRelays = [...plan.parts.values()].flatMap(({ name, part }): Need[] =>
    part.kind === 'relay' && part.control === 'need'
      ? [
          {
            id: terminalId(windingOwner(name), '85'),
            label: `${part.name} relay`,
            system: systems.get(name) ?? 'Start and charge',
            end: windingEnds(name, part).driver,
            ask: { kind: 'low-side', amps: DRIVEN_WINDING_AMPS },
            deviceId: null,
            winding: name,
            pair: null,
            serves: [],
            row: 1,
            outputs: null,
            protection: null,
            joined: [],
          },
        ]
      : [],
  );
  return [...fromDevices, ...fromRelays];
}

/** Every need of a build: terminals that were joined on one output are one. Pure, O(devices). */
export const needsOf = (build: Build): Need[] => folded(build, separateNeeds(build));

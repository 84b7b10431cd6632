import { destinationOf } from '../build/destination';
import type { Build, Device } from '../build/schema';
import { hasRole, trait, type DeviceKind, type FeedName } from '../devices/kind';
import { pinsOfKind } from '../ecu/ecu';
import { deviceEnd, ecuEnd, type EndKey } from '../ends/ends';
import type { FittedCoil } from './coil-feed';
import { drawnBy, steady, type Inrush } from './drawn';

/** A thing that is fed. */
export interface Load {
  readonly end: EndKey;
  readonly name: string;
  /** Mean amperes with everything on: what it draws for good; what of it warms a wire; and the most at a time. */
  readonly amps: number;
  readonly rms: number;
  readonly peak: number;
  /** What it draws above that as it is switched on; null: no more than it always does. */
  readonly inrush: Inrush | null;
  readonly branchMetres: number;
  readonly feed: FeedName;
  /** A coil draws in pulses: what warms its feed is more than its mean. */
  readonly coil: FittedCoil | null;
  /** Volts it may lose on its way from the source, and on its way back. */
  readonly limitVolts: number;
  readonly groundVolts: number;
  /** It draws for some seconds, while nothing else is loaded for good: a starter. */
  readonly brief: boolean;
}

/** A load with the device it is of. */
export interface DeviceLoad {
  readonly device: Device;
  readonly kind: DeviceKind;
  readonly load: Load;
}

/** Voltage drop limits, volts: coil, injector and ECU feeds, and pumps and fans (common practice, see docs/rules.md). */
const FEED_DROP = 0.3;
export const MOTOR_DROP = 0.5;
/** And on the way back to a bolt: power grounds, and those of motors (common practice: 100 and 200 mV). */
export const GROUND_DROP = 0.1;
const MOTOR_GROUND_DROP = 0.2;
const returnDropOf = (feed: FeedName): number => (feed === 'pump' || feed === 'own' ? MOTOR_GROUND_DROP : GROUND_DROP);
const dropOf = (feed: FeedName): number => (feed === 'pump' || feed === 'own' ? MOTOR_DROP : FEED_DROP);

/** Amperes of an ECU's permanent feed: it keeps its memory and closes its files (common practice). */
const PERMANENT_AMPS = 0.2;
/** From the box to an ECU's own feed pins, metres (common practice). */
const ECU_BRANCH_METRES = 0.4;

/** Terminals of devices that ask for a feed, in the order of the devices. */
export function deviceLoads(build: Build): DeviceLoad[] {
  return build.devices.flatMap((device) => {
    const kind = build.kinds[device.kindId];
    if (!kind) return [];
    const coil = trait(kind, 'coil');
    return kind.terminals.flatMap((terminal): DeviceLoad[] => {
      const destination = destinationOf(device, terminal);
      if (destination.to !== 'feed') return [];
      const load: Load = {
        end: deviceEnd(device.id, terminal.id),
        name: device.label,
        ...drawnBy(build, device, kind, terminal.id, destination),
        branchMetres: device.branchMetres,
        feed: destination.feed,
        coil: coil && { coil, serves: device.serves, row: device.row },
        limitVolts: dropOf(destination.feed),
        groundVolts: returnDropOf(destination.feed),
        brief: hasRole(kind, 'starter'),
      };
      return [{ device, kind, load }];
    });
  });
}

/** The ECU's own feed pins: those that are always live, and those it runs on. */
export function ecuLoads(build: Build, pins: 'permanent' | 'switched'): Load[] {
  const feed = pins === 'permanent' ? 'permanent' : 'main';
  const own = pinsOfKind(build.ecu, pins);
  // What it draws runs through as many pins as it is fed by.
  const amps = pins === 'permanent' ? PERMANENT_AMPS : build.ecu.ownAmps / own.length;
  return own.map((pin) => ({
    end: ecuEnd(pin.id),
    name: `ECU ${pin.id}`,
    ...steady(amps),
    branchMetres: ECU_BRANCH_METRES,
    feed,
    coil: null,
    limitVolts: dropOf(feed),
    groundVolts: GROUND_DROP,
    brief: false,
  }));
}

import { withId } from '../data/with-id';
import type { Build, Device } from './schema';
import type { Destination, Terminal } from '../devices/kind';
import type { Pin } from '../ecu/ecu';

/** The destination of a terminal after the person's overrides. */
export const destinationOf = (device: Device, terminal: Terminal): Destination =>
  device.overrides[terminal.id] ?? terminal.destination;

/** The pin of a shared supply or sensor ground a terminal (`device.terminal`) goes to: as chosen, else by its bank. */
export const sharedPin = (build: Pick<Build, 'shared'>, pins: readonly Pin[], id: string, bank: number): Pin =>
  withId(pins, build.shared[id]) ?? pins[bank % pins.length]!;

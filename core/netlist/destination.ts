import type { Device } from '../build/schema';
import type { Destination, Terminal } from '../devices/kind';

/** The destination of a terminal after the person's overrides. */
export const destinationOf = (device: Device, terminal: Terminal): Destination =>
  device.overrides[terminal.id] ?? terminal.destination;

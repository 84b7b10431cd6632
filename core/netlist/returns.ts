import { destinationOf } from '../build/destination';
import type { Build, Device } from '../build/schema';
import { withId } from '../data/with-id';
import type { DeviceKind, Terminal } from '../devices/kind';
import { serve } from '../ecu/ask';
import { pinsOfKind } from '../ecu/ecu';
import { terminalId } from '../ends/ends';

type Placing = Pick<Build, 'ecu' | 'assignments'>;

/**
 * Whether the second wire of a VR winding goes to the sensor ground: its signal is on an input of one pin, which has no
 * second side. While the signal has no pin yet this holds where the ECU has no other kind of VR input.
 */
export function returnsToGround(build: Placing, device: Device, kind: DeviceKind, terminal: Terminal): boolean {
  const destination = destinationOf(device, terminal);
  if (destination.to !== 'pin' || destination.ask.kind !== 'vr' || destination.ask.side !== 'minus') return false;
  const signal = kind.terminals.find((one) => {
    const other = destinationOf(device, one);
    return other.to === 'pin' && other.pair === destination.pair && other.ask.side === 'plus';
  });
  const wanted = signal && destinationOf(device, signal);
  if (!signal || wanted?.to !== 'pin') return false;
  const pin = withId(build.ecu.pins, build.assignments[terminalId(device.id, signal.id)]);
  const on = pin && serve(pin, wanted.ask).ability;
  if (on) return on.pair === undefined;
  const inputs = pinsOfKind(build.ecu, 'vr').flatMap((one) => one.abilities.filter(({ kind: can }) => can === 'vr'));
  return inputs.length > 0 && inputs.every(({ pair }) => pair === undefined);
}

/** The bank of sensor grounds a terminal returns to; null where it goes elsewhere. */
export function returnBank(build: Placing, device: Device, kind: DeviceKind, terminal: Terminal): number | null {
  const destination = destinationOf(device, terminal);
  if (destination.to === 'sensor-ground') return destination.bank;
  return returnsToGround(build, device, kind, terminal) ? 0 : null;
}

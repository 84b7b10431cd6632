import { destinationOf } from '../build/destination';
import { igniterOf, type Known } from '../build/direct-lines';
import type { Build } from '../build/schema';
import { trait } from '../devices/kind';
import { deviceEnd, groundEnd, type EndKey } from '../ends/ends';
import { ECU_GROUND, type Probe } from './nodes';

/** The terminal a device is grounded by, wherever that was sent: to a bolt, to the sensors, or through its body. */
export function groundedBy({ device, kind }: Known): EndKey | null {
  const found = kind.terminals.find((terminal) =>
    ['ground', 'sensor-ground', 'mounted'].includes(destinationOf(device, terminal).to),
  );
  return found ? deviceEnd(device.id, found.id) : null;
}

/**
 * Where what a running engine draws in pulses comes back: of a coil with its igniter by its own ground, of one without by that of
 * the igniter module it hangs on or through the ECU's driver, of an injector through the ECU. Null: the device is neither.
 */
export function pulsesReturn(build: Build, fitted: Known): Probe | null {
  const coil = trait(fitted.kind, 'coil');
  if (!coil) return trait(fitted.kind, 'injector') ? ECU_GROUND : null;
  if (coil.igniter) return groundedBy(fitted) ?? groundEnd('head');
  const module = igniterOf(build, fitted);
  return module ? (groundedBy(module) ?? groundEnd('head')) : ECU_GROUND;
}

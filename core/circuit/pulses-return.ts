import { destinationOf } from '../build/destination';
import { trait } from '../devices/kind';
import { deviceEnd, groundEnd, type EndKey } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import { ECU_GROUND, type Probe } from './nodes';

type Fitted = Netlist['devices'][number];

/** The terminal a device is grounded by, wherever that was sent: to a bolt, to the sensors, or through its body. */
export function groundedBy({ device, kind }: Pick<Fitted, 'device' | 'kind'>): EndKey | null {
  const found = kind.terminals.find((terminal) =>
    ['ground', 'sensor-ground', 'mounted'].includes(destinationOf(device, terminal).to),
  );
  return found ? deviceEnd(device.id, found.id) : null;
}

/** The igniter at the other end of a coil's line. */
function igniterOf(net: Netlist, { device, kind }: Fitted): Fitted | null {
  const lines = new Set(
    kind.terminals.flatMap((terminal) => {
      const far = destinationOf(device, terminal);
      return far.to === 'line' ? [far.line] : [];
    }),
  );
  const isAtIt = ({ device: other, kind: own }: Fitted): boolean =>
    Boolean(trait(own, 'igniter')) &&
    own.terminals.some((terminal) => {
      const far = destinationOf(other, terminal);
      return far.to === 'line' && lines.has(far.line);
    });
  return lines.size === 0 ? null : (net.devices.find(isAtIt) ?? null);
}

/**
 * Where what a running engine draws in pulses comes back: of a coil with its igniter by its own ground, of one without by that of
 * the igniter module it hangs on or through the ECU's driver, of an injector through the ECU. Null: the device is neither.
 */
export function pulsesReturn(net: Netlist, fitted: Fitted): Probe | null {
  const coil = trait(fitted.kind, 'coil');
  if (!coil) return trait(fitted.kind, 'injector') ? ECU_GROUND : null;
  if (coil.igniter) return groundedBy(fitted) ?? groundEnd('head');
  const module = igniterOf(net, fitted);
  return module ? (groundedBy(module) ?? groundEnd('head')) : ECU_GROUND;
}

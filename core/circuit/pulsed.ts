import { withId } from '../data/with-id';
import type { AbilityKind } from '../ecu/ecu';
import type { Netlist } from '../netlist/netlist';

/** Outputs that work in pulses: at rest they are off, and while the engine runs they draw their mean. */
export const pulsedKinds: ReadonlySet<AbilityKind> = new Set(['injector', 'ignition-logic', 'ignition-driver']);

/**
 * Share of the time an ECU's own test drives an injector or a coil: some milliseconds, some times a second (common practice: a few
 * per cent). A coil that is held on for longer burns, and its igniter with it.
 */
export const TEST_DUTY = 0.05;

/** Of these pins those that a test pulses. */
export function pulsedOf(net: Netlist, pins: ReadonlySet<string>): ReadonlySet<string> {
  return new Set(
    [...pins].filter((pin) => {
      const need = withId(net.needs, net.cavityOf.get(pin)?.needId);
      return need !== undefined && pulsedKinds.has(need.ask.kind);
    }),
  );
}

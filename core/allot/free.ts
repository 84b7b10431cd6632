import type { Build } from '../build/schema';
import { serve } from '../ecu/ask';
import { pinsOfGroup, type EcuDefinition } from '../ecu/ecu';
import type { Need } from '../netlist/needs';
import { barredPins } from './model';

/** Pins no need holds that could be what a need asks for, those barred to it left out. Says nothing of pairs and groups. */
export function freeFits(build: Build, need: Need, needs: readonly Need[]): string[] {
  const used = new Set(needs.flatMap((other) => build.assignments[other.id] ?? []));
  const never = barredPins(build);
  return build.ecu.pins
    .filter(
      (pin) =>
        !used.has(pin.id) && !never(null, pin.id) && !never(need.id, pin.id) && serve(pin, need.ask).ability !== null,
    )
    .map((pin) => pin.id);
}

/** True when a free pin that can be it is all a need takes: it is no part of a pair, and no group has a say. */
export const isFreeToTake = (ecu: EcuDefinition, need: Need, pinId: string): boolean =>
  need.pair === null && !ecu.groups.some((group) => pinsOfGroup(group).includes(pinId));

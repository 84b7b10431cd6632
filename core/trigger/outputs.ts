import type { Build } from '../build/schema';
import { cylinderOfOutput } from '../engine/engine';
import { serve } from '../ecu/ask';
import type { Need } from '../netlist/needs';

/** One injector or ignition output as it is wired, and as the ECU will use it. */
export interface OutputUse {
  readonly needId: string;
  readonly kind: 'injector' | 'ignition';
  readonly pinId: string;
  /** Output number on the ECU's label. */
  readonly output: number;
  /** Cylinder at the other end of the wire. */
  readonly wiredTo: number;
  /** Cylinder the ECU means when it uses this output, by the school; null past the last. */
  readonly means: number | null;
  readonly right: boolean;
}

/** The map output -> cylinder as wired against as meant: computed, never typed (product: both schools). */
export function outputUses(build: Build, needs: readonly Need[]): OutputUse[] {
  const pins = new Map(build.ecu.pins.map((pin) => [pin.id, pin]));
  return needs.flatMap((need): OutputUse[] => {
    const pin = pins.get(build.assignments[need.id] ?? '');
    if (!pin || need.cylinder === null || need.output === null) return [];
    const output = serve(pin, need.ask).ability?.output;
    if (output === undefined) return [];
    const means = cylinderOfOutput(build.engine, build.outputOrder, output);
    return [
      {
        needId: need.id,
        kind: need.ask.kind === 'injector' ? 'injector' : 'ignition',
        pinId: pin.id,
        output,
        wiredTo: need.cylinder,
        means,
        right: means === need.cylinder,
      },
    ];
  });
}

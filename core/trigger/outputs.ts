import type { Build } from '../build/schema';
import type { Engine } from '../engine/engine';
import { workedBy, workOf, workWords, type OutputKind, type Worked } from '../engine/outputs';
import { serve } from '../ecu/ask';
import type { Need } from '../netlist/needs';

/** One injector or ignition output as it is wired, and as the ECU will use it. */
export interface OutputUse {
  readonly needId: string;
  readonly kind: OutputKind;
  readonly pinId: string;
  /** Output number on the ECU's label. */
  readonly output: number;
  /** What stands at the other end of the wire. */
  readonly wiredTo: Worked;
  /** What the ECU means when it uses this output, by the school; null past the last. */
  readonly means: Worked | null;
  readonly right: boolean;
}

/** What must answer when an output is tried, in words: a coil of theirs works all its cylinders, a part of one only one of those. */
export function meantWords(engine: Engine, { kind, wiredTo, means, right }: OutputUse): string {
  // Several parts on one output answer together.
  if (right && wiredTo.cylinders.length > 1) return workWords(engine, kind, wiredTo);
  const words = workWords(engine, kind, means);
  return means && means.cylinders.length > wiredTo.cylinders.length ? `one of ${words}` : words;
}

/** The map output -> cylinders as wired against as meant: computed, never typed (product: both schools). */
export function outputUses(build: Build, needs: readonly Need[]): OutputUse[] {
  const pins = new Map(build.ecu.pins.map((pin) => [pin.id, pin]));
  return needs.flatMap((need): OutputUse[] => {
    const pin = pins.get(build.assignments[need.id] ?? '');
    const kind = workOf(need.ask);
    if (!pin || kind === null || need.outputs === null) return [];
    const output = serve(pin, need.ask).ability?.output;
    if (output === undefined) return [];
    return [
      {
        needId: need.id,
        kind,
        pinId: pin.id,
        output,
        wiredTo: { cylinders: need.serves, row: need.row },
        means: workedBy(build.engine, build.outputOrder, kind, output),
        right: need.outputs.includes(output),
      },
    ];
  });
}

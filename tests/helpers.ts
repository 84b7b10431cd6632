import { catalog, entry } from '~/catalog';
import { createBuild } from '~/core/edits/create';
import { applyEdit, type EditCall } from '~/core/edits';
import type { Build } from '~/core/build/schema';
import type { DeviceKind } from '~/core/devices/kind';
import type { DonorWire } from '~/core/donor/wire';
import { pellworth } from '~/demo/pellworth';
import { twin } from '~/demo/twin';

export const kind = (id: string): DeviceKind => entry(catalog.kinds, id);
export const ecu = (id: string) => entry(catalog.ecus, id);
export const wheel = (id: string) => entry(catalog.wheels, id);
export const engine = (cylinders: number) =>
  catalog.engines.find((one) => one.cylinders === cylinders && one.kind === 'four-stroke')!;

/** A donor wire of which only what matters is told. */
export const donorWire = (part: Partial<DonorWire> & { id: string }): DonorWire => ({
  row: 0,
  connector: 'F1',
  cavity: '1',
  colour: 'GN/YE',
  size: '0.75',
  function: 'Coolant sensor',
  condition: '',
  splice: '',
  decision: 'open',
  group: 'none',
  moveTo: '',
  note: '',
  restraint: false,
  extra: {},
  ...part,
});

/** Applies edits that must be taken. */
export function edited(build: Build, ...calls: EditCall[]): Build {
  return calls.reduce((current, { name, args }) => {
    const result = applyEdit(current, name, args);
    if (!result.ok) throw new Error(result.problem.sentence);
    return result.value.build;
  }, build);
}

export function emptyBuild(cylinders = 4, ecuId = 'orrery-48'): Build {
  return createBuild({
    id: 'test',
    now: '2026-01-01T00:00:00.000Z',
    name: 'Test',
    vehicle: '',
    engine: engine(cylinders),
    ecu: ecu(ecuId),
  });
}

let demo: Build | null = null;
let small: Build | null = null;
/** The demo builds, made once a test file: edits never change them in place. */
/** The estate before its loom was laid: wires of one piece, by the lengths that were typed. */
export const demoBuild = (): Build => (demo ??= pellworth({ tree: false }));
export const twinBuild = (): Build => (small ??= twin());

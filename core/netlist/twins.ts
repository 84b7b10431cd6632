import type { Device } from '../build/schema';
import type { DeviceKind } from '../devices/kind';
import { bankOfAll } from '../engine/banks';
import type { Engine } from '../engine/engine';

interface Fitted {
  readonly device: Device;
  readonly kind: DeviceKind;
}

/** The bank a part stands on: its cylinders', else as it was told; null for one of the whole engine. */
export const bankOfDevice = (engine: Engine, { bank, serves }: Pick<Device, 'bank' | 'serves'>): number | null =>
  engine.banks.length < 2 ? null : (bankOfAll(engine, serves) ?? bank);

/**
 * Parts whose plugs fit each other, by kind: those that are known for it, and one kind on two banks, where the left plug
 * reaches the right part.
 */
export function twinsOf(engine: Engine, devices: readonly Fitted[]): readonly (readonly Fitted[])[] {
  const byKind = new Map<string, Fitted[]>();
  for (const entry of devices) byKind.set(entry.kind.id, [...(byKind.get(entry.kind.id) ?? []), entry]);
  return [...byKind.values()].filter((group) => {
    if (group.length < 2) return false;
    const told = group.flatMap(({ device }) => device.bank ?? []);
    return group[0]!.kind.twinRisk || (engine.banks.length > 1 && new Set(told).size > 1);
  });
}

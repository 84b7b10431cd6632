import { fuseEnd, readPart, type PartId } from '../ends/ends';
import type { FeedPlan } from './feed-plan';
import { wayTo, type Flows } from './flow';
import { usualOpeningSeconds } from './fuse';
import type { Load } from './loads';

/** What is switched on at once: the loads behind one contact, or a load by itself. */
export interface Rush {
  /** The relay whose contact makes it; null: the load's own switch, or an output of the ECU. */
  readonly relay: string | null;
  readonly loads: readonly Load[];
  /** Amperes at the moment it makes, all its loads together, and how long the longest of them lasts. */
  readonly amps: number;
  readonly seconds: number;
  /** What of that it goes on drawing, as it warms a fuse. */
  readonly settled: number;
}

/** The fuse with the worst of what is switched on behind it, on top of all that runs through it for good. */
export interface FuseRush {
  readonly amps: number;
  readonly seconds: number;
  readonly rush: Rush;
}

/** Loads by what switches them, with what they take as it does; and the worst at every fuse. Linear in loads and their ways. */
export function rushesOf(
  plan: FeedPlan,
  flows: Flows,
): { readonly rushes: readonly Rush[]; readonly fuses: ReadonlyMap<PartId, FuseRush> } {
  const groups = new Map<string, { relay: string | null; loads: Load[]; fuses: Set<PartId> }>();
  for (const { end, load } of flows.draws) {
    if (!load) continue;
    const way = wayTo(flows, end);
    const relays = way.flatMap(({ part }) => (part && plan.parts.get(part)?.part.kind === 'relay' ? [part] : []));
    const last = relays[relays.length - 1] ?? null;
    const group = groups.get(last ?? end) ?? { relay: last && readPart(last)!.name, loads: [], fuses: new Set() };
    groups.set(last ?? end, group);
    group.loads.push(load);
    for (const { part } of way) if (part && plan.parts.get(part)?.part.kind === 'fuse') group.fuses.add(part);
  }
  const fuses = new Map<PartId, FuseRush>();
  const rushes = [...groups.values()].flatMap(({ relay, loads, fuses: passed }): Rush[] => {
    if (!loads.some(({ inrush }) => inrush)) return [];
    const rush: Rush = {
      relay,
      loads,
      amps: loads.reduce((sum, { inrush, peak }) => sum + (inrush?.amps ?? peak), 0),
      seconds: Math.max(...loads.map(({ inrush }) => inrush?.seconds ?? 0)),
      settled: loads.reduce((sum, { rms }) => sum + rms, 0),
    };
    for (const fuse of passed) {
      const running =
        flows.at.get(fuseEnd(readPart(fuse)!.name, 2))?.rms ?? flows.at.get(fuseEnd(readPart(fuse)!.name, 1))?.rms ?? 0;
      const amps = Math.max(0, running - rush.settled) + rush.amps;
      const known = fuses.get(fuse);
      if (!known || amps > known.amps) fuses.set(fuse, { amps, seconds: rush.seconds, rush });
    }
    return [rush];
  });
  return { rushes, fuses };
}

/** A fuse outlasts an inrush where it usually takes longer to open than that lasts. */
export const outlasts = (ratingAmps: number, rush: Pick<FuseRush, 'amps' | 'seconds'> | null): boolean =>
  rush === null || usualOpeningSeconds(ratingAmps, rush.amps) > rush.seconds;

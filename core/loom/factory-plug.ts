import type { Build } from '../build/schema';
import { natural } from '../data/natural';
import { donorList } from '../donor/sort';
import { isRestraint, type DonorWire } from '../donor/wire';
import type { Netlist } from '../netlist/netlist';
import { meetingsOf } from './plug-face';
import { reusedWires } from './reuse';

const sameName = (one: string, other: string): boolean => one.trim().toLowerCase() === other.trim().toLowerCase();

/** Connectors of the donor loom that a plug may be: those with a restraint wire in them are left alone. */
export function donorConnectors({ survey }: Pick<Build, 'survey'>): string[] {
  const wires = donorList(survey.donor);
  const names = new Map(wires.map(({ connector }) => [connector.trim().toLowerCase(), connector.trim()]));
  for (const wire of wires) if (isRestraint(wire)) names.delete(wire.connector.trim().toLowerCase());
  return [...names.values()].filter(Boolean).sort(natural);
}

/** What each cavity of a factory plug had in it, by its number. */
export function oldUses(build: Build, node: string): ReadonlyMap<number, DonorWire> {
  const was = build.tree.nodes[node]?.plug?.was;
  if (was === undefined) return new Map();
  return new Map(
    donorList(build.survey.donor).flatMap((wire) =>
      sameName(wire.connector, was) && /^\d+$/.test(wire.cavity.trim()) ? [[Number(wire.cavity), wire] as const] : [],
    ),
  );
}

/** A wire of a factory plug: where it was and where it goes. */
export interface OldPin {
  readonly wire: DonorWire;
  readonly from: number;
  /** The cavity it goes on in; null: it comes out. */
  readonly to: number | null;
}

/**
 * What is done to a factory plug so that it serves the new loom: wires that live on and change their cavity, and wires that come
 * out because another has their cavity now. What stays where it was is not named.
 */
export function repinFactory(build: Build, net: Netlist, node: string): OldPin[] {
  const uses = oldUses(build, node);
  if (uses.size === 0) return [];
  const meetings = meetingsOf(build, net, node);
  const taken = new Set(meetings.map(({ cavity }) => cavity));
  const livesOn = new Map(
    [...reusedWires(build, net).values()].map(({ donor, wire }) => [donor.id, wire.cutOf ?? wire.id]),
  );
  return [...uses]
    .flatMap(([from, wire]): OldPin[] => {
      const whole = livesOn.get(wire.id);
      const to = meetings.find((one) => one.whole === whole)?.cavity ?? null;
      if (to === from) return [];
      return to !== null || taken.has(from) || wire.decision === 'remove' ? [{ wire, from, to }] : [];
    })
    .sort((one, other) => one.from - other.from);
}

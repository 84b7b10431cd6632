import type { Build } from '../build/schema';
import { groupBy } from '../data/group';
import type { Netlist } from '../netlist/netlist';
import { cuttingPlan, type CuttingPlan } from './cutting';

/** The cutting of one colour and size. */
export interface Cutting {
  readonly colour: string;
  readonly squareMm: number;
  readonly plan: CuttingPlan;
}

/** What every wire of the loom is cut from: leftovers of the shelf first, thickest wire first. */
export function cuttingOf({ stores }: Build, net: Netlist): Cutting[] {
  const shelf = groupBy(stores.spools, ({ colour, squareMm }) => `${colour} ${squareMm}`);
  return [...groupBy(net.wires, ({ colour, squareMm }) => `${colour} ${squareMm}`)]
    .map(([key, wires]): Cutting => {
      const { colour, squareMm } = wires[0]!;
      const pieces = wires.map(({ id, lengthMetres }) => ({ id, metres: lengthMetres }));
      return { colour, squareMm, plan: cuttingPlan(pieces, shelf.get(key) ?? [], stores.spoolMetres) };
    })
    .sort((one, other) => other.squareMm - one.squareMm || one.colour.localeCompare(other.colour));
}

/** New spools over all, the fewest there could be, and wires that are longer than a spool. */
export function cuttingSums(cutting: readonly Cutting[]): {
  readonly bought: number;
  readonly bound: number;
  readonly tooLong: number;
} {
  const sum = (of: (plan: CuttingPlan) => number) => cutting.reduce((all, { plan }) => all + of(plan), 0);
  return {
    bought: sum(({ bought }) => bought),
    bound: sum(({ boundBought }) => boundBought),
    tooLong: sum(({ tooLong }) => tooLong.length),
  };
}

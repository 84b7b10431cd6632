import { whyOpen, type WhyOpen } from '../allot/allot';
import { conflictsOf, type Conflict } from '../allot/conflict';
import { allotSupplies, type SupplyPlan } from '../allot/supplies';
import type { Build } from '../build/schema';
import { needsOf, type Need } from '../netlist/needs';

/** Open needs up to which each has a finding of its own, with its reason. */
export const MOST_TOLD = 4;

/**
 * What the rules say more exactly once a solver has worked it out. No rule solves: it says what is plain from the build at
 * once, and the rest when this has come.
 */
export interface Beside {
  /** Why each open need has no pin, where there are few of them. */
  readonly open: Readonly<Record<string, WhyOpen>>;
  /** How the 5 V terminals could be spread over the supplies. */
  readonly supplies: SupplyPlan;
}

export function besideOf(build: Build, needs: readonly Need[] = needsOf(build)): Beside {
  let known: readonly Conflict[] | null = null;
  const conflicts = () => (known ??= conflictsOf(build, needs));
  const open = needs.filter((need) => build.assignments[need.id] === undefined);
  const told = open.length > MOST_TOLD ? [] : open;
  return {
    open: Object.fromEntries(told.map((need) => [need.id, whyOpen(build, need.id, needs, conflicts)!])),
    supplies: allotSupplies(build),
  };
}

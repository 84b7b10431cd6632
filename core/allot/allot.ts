import type { Build } from '../build/schema';
import { serve } from '../ecu/ask';
import { needsOf, type Need } from '../netlist/needs';
import { listWords } from '../units/format';
import { conflictsOf, type Conflict } from './conflict';
import { barredPins, isCrimped, modelOf, type Keep } from './model';
import { placements, solve, type SolveOptions } from './solve';
import { sparesOf, type Spare } from './spares';
import { allotSupplies } from './supplies';

export interface Allotment {
  readonly status: 'solved' | 'infeasible';
  readonly assignments: readonly { readonly needId: string; readonly pinId: string }[];
  readonly unserved: readonly string[];
  /** Minimal sets of needs that exclude one another; empty when solved. */
  readonly conflicts: readonly Conflict[];
  readonly spares: readonly Spare[];
  /** Placements that changed, and those of them whose cavity is crimped. */
  readonly moved: readonly string[];
  readonly recrimped: readonly string[];
  /** Pins of shared supplies that differ from the terminals' own banks, by `device.terminal`. */
  readonly shared: Readonly<Record<string, string>>;
  /** False when the search was cut short and the answer is only the best found. */
  readonly proven: boolean;
}

export interface AllotOptions extends SolveOptions {
  readonly keep: Keep;
  /** Whether to work out why needs are left; dearer than the allotment itself. */
  readonly explain?: boolean;
}

/**
 * Serves as many needs as the pins allow at the least cost (the weights are in model.ts), within every limit, with pairs and
 * groups kept whole and locked needs left alone. Null only when `onProgress` stopped it. Deterministic.
 */
export function allotWith(build: Build, options: AllotOptions): Allotment | null {
  const needs = needsOf(build);
  const model = modelOf(build, { keep: options.keep }, needs);
  const solved = solve(model, options);
  if (!solved) return null;
  const placed = placements(model, solved);
  const assignments = needs.flatMap((need) => {
    const pinId = placed.get(need.id);
    return pinId === undefined ? [] : [{ needId: need.id, pinId }];
  });
  const unserved = needs.filter((need) => !placed.has(need.id)).map((need) => need.id);
  const moved = needs.filter((need) => {
    const before = build.assignments[need.id];
    return before !== undefined && placed.get(need.id) !== before;
  });
  const next = { ...build, assignments: Object.fromEntries(placed) };
  return {
    status: unserved.length === 0 ? 'solved' : 'infeasible',
    assignments,
    unserved,
    conflicts: unserved.length > 0 && options.explain !== false ? conflictsOf(build, needs) : [],
    spares: sparesOf(next, needs),
    moved: moved.map((need) => need.id),
    recrimped: moved.filter((need) => isCrimped(build, need, build.assignments[need.id])).map((need) => need.id),
    shared: allotSupplies(build).shared,
    proven: solved.proven,
  };
}

/** As `allotWith`, run to the end. */
export const allot = (build: Build, options: Omit<AllotOptions, 'onProgress'>): Allotment => allotWith(build, options)!;

export interface WhyOpen {
  readonly needId: string;
  /** One sentence: why no pin is left for it. */
  readonly reason: string;
  /** Free pins that would do. */
  readonly fits: readonly string[];
  /** The conflict it is part of, if moving others about does not help either. */
  readonly conflict: Conflict | null;
}

/** Why a need has no pin now; `null` when it has one. `conflicts` are those of the build, when known. */
export function whyOpen(
  build: Build,
  needId: string,
  needs: readonly Need[] = needsOf(build),
  conflicts: () => readonly Conflict[] = () => conflictsOf(build, needs),
): WhyOpen | null {
  const need = needs.find((candidate) => candidate.id === needId);
  if (!need || build.assignments[needId] !== undefined) return null;
  const used = new Set(needs.flatMap((other) => build.assignments[other.id] ?? []));
  const never = barredPins(build);
  const fits = build.ecu.pins
    .filter(
      (pin) =>
        !used.has(pin.id) && !never(null, pin.id) && !never(needId, pin.id) && serve(pin, need.ask).ability !== null,
    )
    .map((pin) => pin.id);
  // A whole pair must be free, and groups must allow it: ask the solver, with everything else left as it is.
  const possible =
    fits.length > 0 &&
    allot(build, { keep: 'placed', explain: false }).assignments.some((one) => one.needId === needId);
  if (possible) return { needId, reason: `Not placed yet: ${listWords(fits)} would do.`, fits, conflict: null };
  const conflict = conflicts().find((one) => one.needs.includes(needId) || one.more.includes(needId)) ?? null;
  if (conflict) return { needId, reason: conflict.sentence, fits: [], conflict };
  const able = build.ecu.pins.filter((pin) => serve(pin, need.ask).ability);
  return {
    needId,
    reason: `Its pins are taken (${listWords(able.map((pin) => pin.id))}); others can move to make room.`,
    fits: [],
    conflict: null,
  };
}

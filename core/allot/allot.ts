import { withId } from '../data/with-id';
import type { Build } from '../build/schema';
import { serve } from '../ecu/ask';
import { needsOf, type Need } from '../netlist/needs';
import { groupBy } from '../data/group';
import { listWords } from '../units/format';
import { conflictsOf, type Conflict } from './conflict';
import { freeFits } from './free';
import { isCrimped } from './in-place';
import { MINOR, modelOf, type Keep, type Model } from './model';
import { placements, solve, type SolveOptions, type Solved } from './solve';
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

interface Plan {
  readonly model: Model;
  readonly solved: Solved;
}
/** Rows up to which devices are brought together by solving again; beyond it the first answer stands. */
const TOGETHER_ROWS = 120;
const TOGETHER_TRIES = 10;

/** Devices whose single needs stand on more than one connector, with the connectors that could take them. */
function split(plan: Plan, needs: readonly Need[], connectorOf: ReadonlyMap<string, string>): Map<string, string[]> {
  const placed = placements(plan.model, plan.solved);
  const singles = needs.filter((need) => need.deviceId !== null && need.pair === null && placed.has(need.id));
  const apart = [...groupBy(singles, (need) => need.deviceId!)].flatMap(([deviceId, own]) => {
    const at = [...new Set(own.map((need) => connectorOf.get(placed.get(need.id)!)!))];
    return at.length > 1 ? [[deviceId, at] as const] : [];
  });
  return new Map(apart);
}

/**
 * Brings the needs of a device to one connector where that costs nothing that weighs more. Which connector is the home of a
 * device is worked out before the solution; here other homes are tried, one device after the other, and kept when fewer
 * devices are split. A local search: nearness alone is not proven optimal, everything above it stays so.
 */
function together(build: Build, needs: readonly Need[], keep: Keep, first: Plan): Plan {
  if (first.model.rows.length > TOGETHER_ROWS || build.ecu.connectors.length < 2) return first;
  const connectorOf = new Map(build.ecu.pins.map((pin) => [pin.id, pin.connector]));
  let best = first;
  let homes = new Map<string, string>();
  let apart = split(best, needs, connectorOf);
  let tries = 0;
  for (const deviceId of [...apart.keys()])
    for (const { id } of build.ecu.connectors) {
      if (!apart.has(deviceId) || tries >= TOGETHER_TRIES) continue;
      tries += 1;
      const tried = new Map(homes).set(deviceId, id);
      const model = modelOf(build, { keep, homes: tried }, needs);
      const plan: Plan = { model, solved: solve(model)! };
      const versatile = (one: Plan) => Math.floor(one.solved.minor / MINOR.versatile);
      if (plan.solved.cost > best.solved.cost || versatile(plan) > versatile(best)) continue;
      const now = split(plan, needs, connectorOf);
      if (now.size >= apart.size) continue;
      [best, homes, apart] = [plan, tried, now];
    }
  return best;
}

/**
 * Serves as many needs as the pins allow at the least cost (the weights are in model.ts), within every limit, with pairs and
 * groups kept whole and locked needs left alone. Null only when `onProgress` stopped it. Deterministic.
 */
export function allotWith(build: Build, options: AllotOptions): Allotment | null {
  const needs = needsOf(build);
  const first = modelOf(build, { keep: options.keep }, needs);
  const found = solve(first, options);
  if (!found) return null;
  const { model, solved } = together(build, needs, options.keep, { model: first, solved: found });
  const placed = placements(model, solved);
  const assignments = needs.flatMap((need) => {
    const pinId = placed.get(need.id);
    return pinId === undefined ? [] : [{ needId: need.id, pinId }];
  });
  const next = { ...build, assignments: Object.fromEntries(placed) };
  // A VR signal on an input of one pin needs no second: what is asked follows from what was placed.
  const asked = needsOf(next);
  const unserved = asked.filter((need) => !placed.has(need.id)).map((need) => need.id);
  const moved = needs.filter((need) => {
    const before = build.assignments[need.id];
    return before !== undefined && placed.get(need.id) !== before;
  });
  return {
    status: unserved.length === 0 ? 'solved' : 'infeasible',
    assignments,
    unserved,
    conflicts: unserved.length > 0 && options.explain !== false ? conflictsOf(build, needs) : [],
    spares: sparesOf(next, asked),
    moved: moved.map((need) => need.id),
    recrimped: moved.filter((need) => isCrimped(build, need, build.assignments[need.id]!)).map((need) => need.id),
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
  const need = withId(needs, needId);
  if (!need || build.assignments[needId] !== undefined) return null;
  const fits = freeFits(build, need, needs);
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

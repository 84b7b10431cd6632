import { applyEdit } from '../edits';
import type { Build } from '../build/schema';
import { pinsOfKind, type AbilityKind, type EcuDefinition } from '../ecu/ecu';
import { needsOf } from '../netlist/needs';
import { fitTrigger } from '../trigger/fit';
import { allot, type Allotment } from '../allot/allot';
import { conflictsOf } from '../allot/conflict';
import { isCrimped } from '../allot/in-place';
import { shortfalls, spareCount, type Shortfall } from '../allot/spares';

/** The same needs on one ECU. */
export interface EcuFit {
  readonly ecuId: string;
  readonly model: string;
  readonly pins: number;
  /** This is the ECU of the build. */
  readonly own: boolean;
  readonly fits: boolean;
  readonly needs: number;
  readonly served: number;
  /** One sentence for each separate reason, empty when all needs are served. */
  readonly reasons: readonly string[];
  readonly spares: Readonly<Partial<Record<AbilityKind, number>>>;
  readonly spareCount: number;
  readonly reserve: readonly Shortfall[];
  /** Placed needs whose cavity would have another name, and of those the crimped ones. */
  readonly moved: number;
  readonly recrimped: number;
  /** Whether its decoders know the wheels chosen: the cycle, the turn only, or nothing. */
  readonly trigger: 'cycle' | 'angle' | 'nothing' | 'not chosen';
  readonly groundsAsked: number;
  readonly groundPins: number;
  readonly outputOrder: EcuDefinition['outputOrder'];
  readonly assignments: Allotment['assignments'];
}

/** The build as it would be on another ECU: nothing placed, nothing locked. The present one keeps what it has. */
function onEcu(build: Build, ecu: EcuDefinition): Build {
  const moved = applyEdit(build, 'chooseEcu', { ecu });
  if (!moved.ok) throw new Error(moved.problem.sentence);
  return { ...moved.value.build, reserve: build.reserve };
}

/** One line of the comparison. */
export function fitOn(build: Build, ecu: EcuDefinition): EcuFit {
  const own = ecu.id === build.ecu.id;
  const there = own ? build : onEcu(build, ecu);
  const needs = needsOf(there);
  const found = allot(there, { keep: own ? 'most' : 'locked', explain: false });
  const placed = new Map(found.assignments.map(({ needId, pinId }) => [needId, pinId]));
  const next: Build = { ...there, assignments: Object.fromEntries(placed) };
  const moved = needsOf(build).filter((need) => {
    const before = build.assignments[need.id];
    return before !== undefined && (!own || placed.get(need.id) !== before);
  });
  const { crankWheel, camWheel } = build.trigger;
  const spares = found.spares;
  return {
    ecuId: ecu.id,
    model: ecu.model,
    pins: ecu.pins.length,
    own,
    fits: found.unserved.length === 0,
    needs: needs.length,
    served: needs.length - found.unserved.length,
    reasons: found.unserved.length === 0 ? [] : conflictsOf(there, needs).map(({ sentence }) => sentence),
    spares: Object.fromEntries(spares.map(({ kind, pins }) => [kind, pins.length])),
    spareCount: spareCount(spares),
    reserve: shortfalls(next, needs),
    moved: moved.length,
    recrimped: moved.filter((need) => isCrimped(build, need, build.assignments[need.id]!)).length,
    trigger: crankWheel === null ? 'not chosen' : fitTrigger(ecu, build.engine, crankWheel, camWheel).knows,
    groundsAsked: ecu.groundsAsked,
    groundPins: pinsOfKind(ecu, 'power-ground').length,
    outputOrder: ecu.outputOrder,
    assignments: found.assignments,
  };
}

/**
 * The same needs on every ECU, those that fit first, smaller ones before larger. `onProgress` hears how many are done and
 * may stop it (null).
 */
export function compareEcus(
  build: Build,
  ecus: readonly EcuDefinition[],
  onProgress?: (done: number, of: number) => boolean,
): EcuFit[] | null {
  const all = ecus.some((ecu) => ecu.id === build.ecu.id)
    ? ecus.map((ecu) => (ecu.id === build.ecu.id ? build.ecu : ecu))
    : [build.ecu, ...ecus];
  const fits: EcuFit[] = [];
  for (const ecu of all) {
    if (onProgress?.(fits.length, all.length)) return null;
    fits.push(fitOn(build, ecu));
  }
  return fits.sort(
    (one, other) =>
      Number(other.fits) - Number(one.fits) ||
      (one.fits ? one.pins - other.pins : other.served - one.served) ||
      one.model.localeCompare(other.model),
  );
}

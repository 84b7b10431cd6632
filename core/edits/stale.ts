import type { Build } from '../build/schema';
import { needsOf } from '../netlist/needs';

/** Forgets placements of needs that no longer exist. Readings stay: they show as fallen, and come back with undo. */
export function dropStale(build: Build): Build {
  const needs = new Set(needsOf(build).map((need) => need.id));
  const stale = Object.keys(build.assignments).filter((id) => !needs.has(id));
  const locked = build.locked.filter((id) => needs.has(id));
  if (stale.length === 0 && locked.length === build.locked.length) return build;
  return {
    ...build,
    assignments: Object.fromEntries(Object.entries(build.assignments).filter(([id]) => needs.has(id))),
    locked,
  };
}

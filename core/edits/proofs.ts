import type { Build } from '../build/schema';
import { netlist, type Netlist } from '../netlist/netlist';
import { halfTests } from '../prove/halves';
import { proveTests } from '../prove/tests';

/** What decides which wires lie between two ends without changing the ends. */
const touches = ['feeds', 'devices', 'kinds', 'shared', 'power', 'groundUse', 'tree'] as const;

/** The loom of a build, kept: what an edit makes is what the next one starts from. */
const looms = new WeakMap<Build, Netlist>();
function loomOf(build: Build): Netlist {
  const known = looms.get(build) ?? netlist(build);
  looms.set(build, known);
  return known;
}

/** The wires each reading proves, by the reading. */
const provedBy = (build: Build): Map<string, string> =>
  new Map(
    [...proveTests(build, loomOf(build)), ...halfTests(build, loomOf(build), 'kept')].map(({ id, wireIds }) => [
      id,
      [...wireIds].sort().join(' '),
    ]),
  );

/**
 * A wire that is cut for a splice, or led another way, is not the wire that was measured: a reading between the same two ends is
 * taken back when other wires lie between them now. What is beside stays proved.
 */
export function withProofs(before: Build, after: Build): Build {
  const ids = Object.keys(after.prove.readings);
  if (ids.length === 0 || touches.every((key) => before[key] === after[key])) return after;
  const [was, is] = [loomOf(before), loomOf(after)];
  // Where no wire went none was cut.
  if (was.wires.every(({ id }) => is.wireById.has(id))) return after;
  const [old, now] = [provedBy(before), provedBy(after)];
  const cut = new Set(ids.filter((id) => old.has(id) && now.has(id) && old.get(id) !== now.get(id)));
  if (cut.size === 0) return after;
  const readings = Object.fromEntries(Object.entries(after.prove.readings).filter(([id]) => !cut.has(id)));
  return { ...after, prove: { ...after.prove, readings } };
}

import type { Build } from '../build/schema';
import { ecuEnd, endOf, endsOfWire, plugEnd, spliceEnd, wireId, type EndKey } from '../ends/ends';
import type { Need } from '../netlist/needs';
import { continuityId } from '../prove/prove-test';
import { BAD_CRIMP_OHMS } from '../prove/verdict';
import { ECU_THING, placesOf } from '../tree/things';
import { waysOf } from '../tree/ways';

/** What a reading from end to end says of the wire's terminals, through the plugs that part it; null: it was not read. */
export function readInPlace(build: Pick<Build, 'prove' | 'tree'>, from: EndKey, to: EndKey): boolean | null {
  const [one, other] = wholeEnds(build, from, to);
  const reading = build.prove.readings[continuityId(one, other)] ?? build.prove.readings[continuityId(other, one)];
  return reading ? reading.value !== null && reading.value - build.prove.leadOhms <= BAD_CRIMP_OHMS : null;
}

/**
 * True when a wire between these ends sits in its cavities: clicked and pulled, or measured end to end. A reading outweighs a
 * tick: what reads open is not in place, whatever was clicked.
 */
export function inPlace(build: Pick<Build, 'pinning' | 'prove' | 'tree'>, from: EndKey, to: EndKey): boolean {
  const read = readInPlace(build, from, to);
  if (read !== null) return read;
  const near = nearPlug(build, wireId(from, to));
  return build.pinning.done[wireId(from, near ?? to)] !== undefined;
}

/** What the pieces of a wire that ends in a plug join, once it is put together: that is what a reading is of. */
function wholeEnds({ tree }: Pick<Build, 'tree'>, from: EndKey, to: EndKey): readonly [EndKey, EndKey] {
  for (const end of [from, to]) {
    const ref = endOf(end);
    if (ref.of !== 'part' || ref.kind !== 'plug') continue;
    const wires = tree.nodes[ref.part]?.plug?.wires ?? {};
    const [whole] = Object.entries(wires).find(([, cavity]) => String(cavity) === ref.port) ?? [];
    const ends = whole === undefined ? null : endsOfWire(whole);
    if (ends) return ends;
  }
  return [from, to];
}

/** The cavity in which a wire's first piece ends, seen from the ECU; null: no plug parts it. */
function nearPlug({ tree }: Pick<Build, 'tree'>, whole: string): EndKey | null {
  const ecu = placesOf(tree).get(ECU_THING);
  const plugs = Object.entries(tree.nodes).flatMap(([id, { plug }]) => {
    const cavity = plug?.wires[whole];
    return cavity === undefined ? [] : [{ id, cavity, metres: ecu === undefined ? 0 : waysOf(tree).metres(ecu, id) }];
  });
  const [nearest] = plugs.sort((one, other) => one.metres - other.metres);
  return nearest ? plugEnd(nearest.id, nearest.cavity) : null;
}

/** True when this need's wire sits in this cavity. */
export const isCrimped = (build: Build, need: Need, pinId: string): boolean =>
  // Where several hang on the output, the wire in the cavity leads to their splice.
  inPlace(build, ecuEnd(pinId), need.joined.length > 0 ? spliceEnd(pinId) : need.end);

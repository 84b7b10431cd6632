import type { EndKey } from '../ends/ends';
import type { Netlist, Wire } from './netlist';

/** A wire as it would be without the plugs that part it. */
export interface WholeWire {
  readonly id: string;
  /** From its first end to its second; one where nothing parts it. */
  readonly pieces: readonly Wire[];
  readonly from: EndKey;
  readonly to: EndKey;
  readonly route: readonly string[];
}

const known = new WeakMap<readonly Wire[], ReadonlyMap<string, WholeWire>>();

/** Wires by what they would be whole. Remembered for a netlist; O(wires). */
export function wholeWires({ wires }: Pick<Netlist, 'wires'>): ReadonlyMap<string, WholeWire> {
  const before = known.get(wires);
  if (before) return before;
  const whole = new Map<string, WholeWire>();
  for (const wire of wires) {
    const id = wire.cutOf ?? wire.id;
    const first = whole.get(id);
    whole.set(
      id,
      first
        ? { ...first, pieces: [...first.pieces, wire], to: wire.to, route: [...first.route, ...wire.route] }
        : { id, pieces: [wire], from: wire.from, to: wire.to, route: wire.route },
    );
  }
  known.set(wires, whole);
  return whole;
}

/** A whole wire as one, for a drawing that shows no plugs: its first piece's name and colour, the length and ohms of all of it. */
export function asOne({ pieces, to, route }: WholeWire): Wire {
  const [first] = pieces as [Wire, ...Wire[]];
  if (pieces.length === 1) return first;
  const sum = (of: (wire: Wire) => number) => pieces.reduce((all, wire) => all + of(wire), 0);
  return {
    ...first,
    to,
    route,
    lengthMetres: Math.round(sum(({ lengthMetres }) => lengthMetres) * 100) / 100,
    ohms: sum(({ ohms }) => ohms),
  };
}

/** The other end of a wire from one of its ends, through the plugs that part it. */
export function farOf(net: Pick<Netlist, 'wires'>, wire: Wire, end: EndKey): EndKey {
  const { from, to } = wholeWires(net).get(wire.cutOf ?? wire.id)!;
  return from === end ? to : to === end ? from : wire.from === end ? wire.to : wire.from;
}

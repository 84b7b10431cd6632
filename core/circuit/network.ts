import { Eliminations } from './elimination';
import { nameOf, type Nodes } from './nodes';

/**
 * Nodal analysis of a resistive network: G v = i, solved by sparse symmetric elimination (LDL^T) in minimum-degree
 * order. Source: A. George and J. Liu, "The evolution of the minimum degree ordering algorithm", SIAM Review 31 (1989).
 * Assumes conductances only, so G is symmetric positive definite once every node has a leak to the reference. What touches
 * what is worked out once for a pattern of branches (elimination.ts); each solution then only fills in values.
 */

/** Leak from every node to the reference, siemens. Keeps floating nodes defined; named so that results can allow for it. */
export const LEAK_SIEMENS = 1e-10;

export interface Factor {
  /** Node voltages for injected currents (amperes by node number). O(nonzeros). */
  readonly solve: (currents: Float64Array) => Float64Array;
  /** Smallest over largest pivot: how far the network is from singular. */
  readonly conditioning: number;
}

/** A resistor between two nodes, or with volts a source behind it, by name. */
export interface Element {
  readonly plus: string;
  readonly minus: string;
  readonly ohms: number;
  readonly volts: number;
}

/** Branches as numbers: both nodes of each, one after the other, its conductance, and its volts from the second to the first. */
export interface Branches {
  readonly ends: Int32Array;
  readonly siemens: Float64Array;
  readonly volts: Float64Array;
}

/** Patterns met last, of whatever circuit: an edit that moves no branch finds its own again. */
const eliminations = new Eliminations();

export class Network {
  constructor(
    readonly nodes: Nodes,
    readonly branches: Branches,
  ) {}

  get size(): number {
    return this.nodes.names.length;
  }

  /** Names of the nodes, in the order of a solution. */
  get names(): readonly string[] {
    return this.nodes.names;
  }

  /** What it is made of, for whoever solves it otherwise: but for branches that lead nothing. */
  get elements(): Element[] {
    const { ends, siemens, volts } = this.branches;
    const name = (node: number) => nameOf(this.nodes, node);
    return Array.from(siemens, (lead, at): Element[] =>
      lead === 0
        ? []
        : [{ plus: name(ends[2 * at]!), minus: name(ends[2 * at + 1]!), ohms: 1 / lead, volts: volts[at]! }],
    ).flat();
  }

  /**
   * What flows into each node and not out of it in a solution, amperes.
   *
   * @param injected What is pushed into each node, its sources all at rest; null: what its sources push.
   */
  unbalanced(solution: Float64Array, injected: Float64Array | null = null): Float64Array {
    const sums = injected ? injected.slice() : this.currents();
    const { ends, siemens } = this.branches;
    for (let at = 0; at < siemens.length; at += 1) {
      const i = ends[2 * at]!;
      const j = ends[2 * at + 1]!;
      const flow = ((i < 0 ? 0 : solution[i]!) - (j < 0 ? 0 : solution[j]!)) * siemens[at]!;
      if (i >= 0) sums[i]! -= flow;
      if (j >= 0) sums[j]! += flow;
    }
    for (let node = 0; node < sums.length; node += 1) sums[node]! -= LEAK_SIEMENS * solution[node]!;
    return sums;
  }

  /** What its sources push into each node, amperes. */
  currents(): Float64Array {
    const injected = new Float64Array(this.size);
    const { ends, siemens, volts } = this.branches;
    for (let at = 0; at < volts.length; at += 1) {
      if (volts[at] === 0) continue;
      const i = ends[2 * at]!;
      const j = ends[2 * at + 1]!;
      if (i >= 0) injected[i]! += volts[at]! * siemens[at]!;
      if (j >= 0) injected[j]! -= volts[at]! * siemens[at]!;
    }
    return injected;
  }

  factor(): Factor {
    const n = this.size;
    const { ends, siemens } = this.branches;
    const { slots, slotCount, order, starts, neighbours, places, fills } = eliminations.of(n, ends);
    const pivots = new Float64Array(n).fill(LEAK_SIEMENS);
    const values = new Float64Array(slotCount);
    for (let at = 0; at < slots.length; at += 1) {
      const i = ends[2 * at]!;
      const j = ends[2 * at + 1]!;
      if (i >= 0) pivots[i]! += siemens[at]!;
      if (j >= 0) pivots[j]! += siemens[at]!;
      if (slots[at]! >= 0) values[slots[at]!]! -= siemens[at]!;
    }
    const factors = new Float64Array(neighbours.length);
    let [largest, smallest] = [0, Infinity];
    let fill = 0;
    for (let step = 0; step < n; step += 1) {
      const pivot = pivots[order[step]!]!;
      if (pivot > largest) largest = pivot;
      if (pivot < smallest) smallest = pivot;
      const end = starts[step + 1]!;
      for (let a = starts[step]!; a < end; a += 1) {
        const value = values[places[a]!]!;
        factors[a] = value / pivot;
        pivots[neighbours[a]!]! -= value * factors[a]!;
      }
      for (let a = starts[step]!; a < end; a += 1)
        for (let b = a + 1; b < end; b += 1) values[fills[fill++]!]! -= values[places[a]!]! * factors[b]!;
    }
    const solve = (currents: Float64Array): Float64Array => {
      const v = Float64Array.from(currents);
      for (let step = 0; step < n; step += 1) {
        const value = v[order[step]!]!;
        if (value !== 0)
          for (let k = starts[step]!; k < starts[step + 1]!; k += 1) v[neighbours[k]!]! -= factors[k]! * value;
      }
      for (let node = 0; node < n; node += 1) v[node]! /= pivots[node]!;
      for (let step = n - 1; step >= 0; step -= 1) {
        const node = order[step]!;
        let sum = v[node]!;
        for (let k = starts[step]!; k < starts[step + 1]!; k += 1) sum -= factors[k]! * v[neighbours[k]!]!;
        v[node] = sum;
      }
      return v;
    };
    return { solve, conditioning: n === 0 ? 1 : smallest / largest };
  }
}

import { Eliminations } from './elimination';

/**
 * Nodal analysis of a resistive network: G v = i, solved by sparse symmetric elimination (LDL^T) in minimum-degree
 * order. Source: A. George and J. Liu, "The evolution of the minimum degree ordering algorithm", SIAM Review 31 (1989).
 * Assumes conductances only, so G is symmetric positive definite once every node has a leak to the reference. What touches
 * what is worked out once for a loom in a state (elimination.ts); each solution then only fills in values.
 */

/** Leak from every node to the reference, siemens. Keeps floating nodes defined; named so that results can allow for it. */
export const LEAK_SIEMENS = 1e-10;

export interface Factor {
  /** Node voltages for injected currents (amperes by node number). O(nonzeros). */
  readonly solve: (currents: Float64Array) => Float64Array;
  /** Smallest over largest pivot: how far the network is from singular. */
  readonly conditioning: number;
}

/** A resistor between two nodes, or with volts a source behind it. */
export interface Element {
  readonly plus: string;
  readonly minus: string;
  readonly ohms: number;
  readonly volts: number;
}

/** Elements as numbers: both nodes of each, its conductance, its volts. */
interface Packed {
  readonly ends: Int32Array;
  readonly siemens: Float64Array;
  readonly volts: Float64Array;
}

export class Network {
  /** What it is made of, for whoever solves it otherwise. */
  readonly elements: Element[] = [];
  private index = new Map<string, number>();
  /** Both nodes of each element, one after the other. */
  private ends: number[] = [];
  private pack: Packed | null = null;

  /** @param eliminations Of looms that are solved again and again with other values. */
  constructor(
    private readonly reference: string,
    private readonly eliminations: Eliminations = new Eliminations(),
  ) {}

  /** The same network, to which more can be added. */
  fork(): Network {
    const copy = new Network(this.reference, this.eliminations);
    copy.index = new Map(this.index);
    copy.ends = this.ends.slice();
    copy.elements.push(...this.elements);
    return copy;
  }

  /** Number of a node, made on first use; -1 is the reference. */
  node(name: string): number {
    if (name === this.reference) return -1;
    const known = this.index.get(name);
    if (known !== undefined) return known;
    const created = this.index.size;
    this.index.set(name, created);
    return created;
  }

  has(name: string): boolean {
    return name === this.reference || this.index.has(name);
  }

  get size(): number {
    return this.index.size;
  }

  /** A resistor. `ohms` must be positive. */
  resistor(a: string, b: string, ohms: number): void {
    this.source(a, b, 0, ohms);
  }

  /** A voltage source of `volts` from `minus` to `plus` behind `ohms` (Norton form). Nothing between a node and itself. */
  source(plus: string, minus: string, volts: number, ohms: number): void {
    const [i, j] = [this.node(plus), this.node(minus)];
    if (i === j) return;
    this.ends.push(i, j);
    this.elements.push({ plus, minus, ohms, volts });
  }

  /** Names of the nodes, in the order of a solution. */
  get names(): readonly string[] {
    return [...this.index.keys()];
  }

  /** The elements as numbers, packed when they are first asked for. */
  private packed(): Packed {
    if (this.pack?.siemens.length !== this.elements.length)
      this.pack = {
        ends: Int32Array.from(this.ends),
        siemens: Float64Array.from(this.elements, ({ ohms }) => 1 / ohms),
        volts: Float64Array.from(this.elements, ({ volts }) => volts),
      };
    return this.pack;
  }

  /** What flows into each node and not out of it in a solution, amperes, but for the leak. */
  unbalanced(solution: Float64Array): Float64Array {
    const sums = new Float64Array(this.size);
    const { ends, siemens, volts } = this.packed();
    for (let at = 0; at < siemens.length; at += 1) {
      const i = ends[2 * at]!;
      const j = ends[2 * at + 1]!;
      const flow = ((i < 0 ? 0 : solution[i]!) - (j < 0 ? 0 : solution[j]!) - volts[at]!) * siemens[at]!;
      if (i >= 0) sums[i]! -= flow;
      if (j >= 0) sums[j]! += flow;
    }
    return sums;
  }

  /** Number of a node that is there; -1 is the reference, or one that no branch reaches: both stand at nothing. */
  numberOf(name: string): number {
    return this.index.get(name) ?? -1;
  }

  currents(): Float64Array {
    const injected = new Float64Array(this.size);
    const { ends, siemens, volts } = this.packed();
    for (let at = 0; at < volts.length; at += 1) {
      if (volts[at] === 0) continue;
      const i = ends[2 * at]!;
      const j = ends[2 * at + 1]!;
      if (i >= 0) injected[i]! += volts[at]! * siemens[at]!;
      if (j >= 0) injected[j]! -= volts[at]! * siemens[at]!;
    }
    return injected;
  }

  /** Voltage of a node in a solution; 0 for the reference, `null` for a node that is not in the network. */
  volts(solution: Float64Array, name: string): number | null {
    if (name === this.reference) return 0;
    const node = this.index.get(name);
    return node === undefined ? null : solution[node]!;
  }

  factor(): Factor {
    const n = this.size;
    const { ends, siemens } = this.packed();
    const { slots, slotCount, order, starts, neighbours, places, fills } = this.eliminations.of(n, ends);
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

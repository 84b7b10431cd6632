/**
 * Nodal analysis of a resistive network: G v = i, solved by sparse symmetric elimination (LDL^T) in minimum-degree
 * order. Source: A. George and J. Liu, "The evolution of the minimum degree ordering algorithm", SIAM Review 31 (1989).
 * Assumes conductances only, so G is symmetric positive definite once every node has a leak to the reference.
 * A loom is nearly a tree, so elimination makes almost no fill: near linear in elements.
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

export class Network {
  /** What it is made of, for whoever solves it otherwise. */
  readonly elements: Element[] = [];
  private readonly index = new Map<string, number>();
  private readonly rows: Map<number, number>[] = [];
  private readonly diagonal: number[] = [];
  private readonly injected: number[] = [];

  constructor(private readonly reference: string) {}

  /** Number of a node, made on first use; -1 is the reference. */
  node(name: string): number {
    if (name === this.reference) return -1;
    const known = this.index.get(name);
    if (known !== undefined) return known;
    const created = this.rows.length;
    this.index.set(name, created);
    this.rows.push(new Map());
    this.diagonal.push(LEAK_SIEMENS);
    this.injected.push(0);
    return created;
  }

  has(name: string): boolean {
    return name === this.reference || this.index.has(name);
  }

  get size(): number {
    return this.rows.length;
  }

  /** A resistor. `ohms` must be positive. */
  resistor(a: string, b: string, ohms: number): void {
    if (this.join(a, b, ohms)) this.elements.push({ plus: a, minus: b, ohms, volts: 0 });
  }

  /** Adds the conductance; false between a node and itself. */
  private join(a: string, b: string, ohms: number): boolean {
    const [i, j] = [this.node(a), this.node(b)];
    if (i === j) return false;
    const g = 1 / ohms;
    if (i >= 0) this.diagonal[i]! += g;
    if (j >= 0) this.diagonal[j]! += g;
    if (i >= 0 && j >= 0) {
      this.rows[i]!.set(j, (this.rows[i]!.get(j) ?? 0) - g);
      this.rows[j]!.set(i, (this.rows[j]!.get(i) ?? 0) - g);
    }
    return true;
  }

  /** A voltage source of `volts` from `minus` to `plus` behind `ohms` (Norton form). */
  source(plus: string, minus: string, volts: number, ohms: number): void {
    if (!this.join(plus, minus, ohms)) return;
    this.elements.push({ plus, minus, ohms, volts });
    const [i, j] = [this.node(plus), this.node(minus)];
    if (i >= 0) this.injected[i]! += volts / ohms;
    if (j >= 0) this.injected[j]! -= volts / ohms;
  }

  /** Names of the nodes, in the order of a solution. */
  get names(): readonly string[] {
    return [...this.index.keys()];
  }

  currents(): Float64Array {
    return Float64Array.from(this.injected);
  }

  /** Voltage of a node in a solution; 0 for the reference, `null` for a node that is not in the network. */
  volts(solution: Float64Array, name: string): number | null {
    if (name === this.reference) return 0;
    const node = this.index.get(name);
    return node === undefined ? null : solution[node]!;
  }

  factor(): Factor {
    const n = this.rows.length;
    const rows = this.rows.map((row) => new Map(row));
    const pivots = Float64Array.from(this.diagonal);
    const order = new Int32Array(n);
    const gone = new Uint8Array(n);
    const columns: { nodes: Int32Array; factors: Float64Array }[] = new Array(n);
    let largest = 0;
    let smallest = Infinity;
    // Buckets by degree, refilled lazily: an entry whose degree is stale is skipped.
    const buckets: number[][] = [];
    const push = (node: number) => (buckets[rows[node]!.size] ??= []).push(node);
    for (let node = 0; node < n; node += 1) push(node);
    let degree = 0;
    for (let step = 0; step < n; step += 1) {
      let node = -1;
      degree = Math.max(0, degree - 1);
      while (node < 0) {
        const candidate = buckets[degree]?.pop();
        if (candidate === undefined) degree += 1;
        else if (!gone[candidate] && rows[candidate]!.size === degree) node = candidate;
      }
      order[step] = node;
      gone[node] = 1;
      const pivot = pivots[node]!;
      largest = Math.max(largest, pivot);
      smallest = Math.min(smallest, pivot);
      const neighbours = [...rows[node]!];
      const nodes = new Int32Array(neighbours.length);
      const factors = new Float64Array(neighbours.length);
      neighbours.forEach(([other, value], k) => {
        nodes[k] = other;
        factors[k] = value / pivot;
        rows[other]!.delete(node);
        pivots[other]! -= (value * value) / pivot;
      });
      for (let a = 0; a < neighbours.length; a += 1)
        for (let b = a + 1; b < neighbours.length; b += 1) {
          const [i, j] = [neighbours[a]![0], neighbours[b]![0]];
          const fill = -neighbours[a]![1] * factors[b]!;
          rows[i]!.set(j, (rows[i]!.get(j) ?? 0) + fill);
          rows[j]!.set(i, (rows[j]!.get(i) ?? 0) + fill);
        }
      for (const [other] of neighbours) push(other);
      columns[step] = { nodes, factors };
    }
    const solve = (currents: Float64Array): Float64Array => {
      const v = Float64Array.from(currents);
      for (let step = 0; step < n; step += 1) {
        const { nodes, factors } = columns[step]!;
        const value = v[order[step]!]!;
        if (value !== 0) for (let k = 0; k < nodes.length; k += 1) v[nodes[k]!]! -= factors[k]! * value;
      }
      for (let step = 0; step < n; step += 1) v[order[step]!]! /= pivots[order[step]!]!;
      for (let step = n - 1; step >= 0; step -= 1) {
        const { nodes, factors } = columns[step]!;
        let sum = v[order[step]!]!;
        for (let k = 0; k < nodes.length; k += 1) sum -= factors[k]! * v[nodes[k]!]!;
        v[order[step]!] = sum;
      }
      return v;
    };
    return { solve, conditioning: n === 0 ? 1 : smallest / largest };
  }
}

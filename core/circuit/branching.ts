import type { CircuitIR, Law } from './ir';
import type { Probe } from './nodes';

/** Laws whose values hang on what the last round found. */
const moving: ReadonlySet<Law['is']> = new Set([
  'fuse',
  'contact',
  'diode',
  'filament',
  'primary',
  'channel',
  'battery',
  'rail',
  'pin',
  'pull-up',
]);

/** Branches as they are added: nodes get numbers as they are named. */
export class Branching {
  private readonly index = new Map<Probe, number>();
  readonly laws: Law[] = [];
  private readonly ends: number[] = [];
  constructor(private readonly reference: Probe) {}

  /** Number of a node, made on first use. */
  node(name: Probe): number {
    if (name === this.reference) return -1;
    const known = this.index.get(name);
    if (known !== undefined) return known;
    const created = this.index.size;
    this.index.set(name, created);
    return created;
  }

  /** A branch by its law, volts from `b` to `a`; -1 where it would lead from a node to itself. */
  add(a: Probe, b: Probe, law: Law): number {
    const [i, j] = [this.node(a), this.node(b)];
    if (i === j) return -1;
    this.ends.push(i, j);
    return this.laws.push(law) - 1;
  }
  /** @param spread The share it usually strays by. */
  ohms(a: Probe, b: Probe, ohms: number, spread: number): number {
    return this.add(a, b, { is: 'ohms', ohms, spread });
  }

  done(): Pick<CircuitIR, 'nodes' | 'ends' | 'laws' | 'moving'> {
    return {
      nodes: { reference: this.reference, index: this.index, names: [...this.index.keys()] },
      ends: Int32Array.from(this.ends),
      laws: this.laws,
      moving: Int32Array.from(this.laws.flatMap(({ is }, at) => (moving.has(is) ? [at] : []))),
    };
  }
}

import type { EndKey } from '../ends/ends';

/** Nodes inside the ECU: no wire lands on them, so they are no ends. */
export const ECU_GROUND = 'the ground of the ECU';
export const ECU_FIVE = 'the 5 V of the ECU';
/** What a probe can be held to in thought: an end of the loom, or the ground inside the ECU, as its inputs measure. */
export type Probe = EndKey | typeof ECU_GROUND | typeof ECU_FIVE;

/** Names of a circuit's nodes by number. The reference stands at nothing and is number -1. */
export interface Nodes {
  readonly reference: Probe;
  readonly index: ReadonlyMap<string, number>;
  readonly names: readonly Probe[];
}

export const nameOf = ({ reference, names }: Nodes, node: number): Probe => (node < 0 ? reference : names[node]!);

/** Number of a node; -1 is the reference, or one that no branch reaches: both stand at nothing. */
export const numberOf = ({ index }: Nodes, name: string): number => index.get(name) ?? -1;
export const hasNode = ({ reference, index }: Nodes, name: string): boolean => name === reference || index.has(name);

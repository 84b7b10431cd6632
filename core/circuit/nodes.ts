import type { EndKey } from '../ends/ends';

/** Nodes inside the ECU: no wire lands on them, so they are no ends. */
export const ECU_GROUND = 'the ground of the ECU';
export const ECU_FIVE = 'the 5 V of the ECU';
/** What a probe can be held to in thought: an end of the loom, or the ground inside the ECU, as its inputs measure. */
export type Probe = EndKey | typeof ECU_GROUND | typeof ECU_FIVE;

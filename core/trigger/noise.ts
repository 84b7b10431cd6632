import type { Track } from './tracks';

/** Error of a time that may lie anywhere between two samples: a step over the root of 12. */
const ANYWHERE = Math.sqrt(1 / 12);
/** Of a crossing drawn as a straight line between two samples of a slow signal, share of a step. */
const DRAWN = 0.05;

/**
 * Seconds by which the recorder alone puts a pulse off its time, root mean square: an edge that is faster than a sample may
 * have been anywhere between two; a slow crossing is drawn between them.
 */
export const clockOf = ({ step, shape }: Pick<Track, 'step' | 'shape'>): number =>
  step * (shape.kind === 'square' ? ANYWHERE : DRAWN);

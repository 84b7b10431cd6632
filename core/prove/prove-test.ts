import type { EndKey } from '../ends/ends';
import type { Half } from '../loom/plug-face';

export interface ProveTest {
  readonly id: string;
  readonly kind: 'continuity' | 'isolation' | 'order' | 'load';
  /** The probe that stays. */
  readonly hold: EndKey;
  /** The probe that moves. */
  readonly touch: EndKey;
  readonly title: string;
  /** Wires a right reading proves. */
  readonly wireIds: readonly string[];
  readonly unit: 'ohms' | 'cylinder' | 'volts';
  /** Expected reading; null is an open line. */
  readonly expected: number | null;
  /** Of an output: every reading that is right (`answerOf`), and what must answer, in words. */
  readonly works?: {
    readonly answers: readonly number[];
    readonly words: string;
    readonly chamber: 'cylinder' | 'rotor';
    /** What the second plug or injector of a cylinder is called; empty where there is but one. */
    readonly second: string;
  };
  /** Of a test under load: what it carries, and how that is brought about. */
  readonly load?: { readonly amps: number; readonly how: string };
  /** Highest reading called right (continuity, load), lowest (isolation). */
  readonly limit: number;
  /** Of a test with the plugs apart: the half of the plug that is held. */
  readonly half?: Half;
}

/** A second plug or injector is read as its cylinder above this: 101 is the second one of cylinder 1. */
export const SECOND_ROW = 100;
export const answerOf = (cylinder: number, row: number): number => cylinder + (row - 1) * SECOND_ROW;

/** Isolation readings at or above this are right, ohms (common practice: no reading on a hand meter's 1 MΩ range). */
export const ISOLATED_OHMS = 1e6;

/** No meter in the hand tells less than this beside its leads, ohms (common practice). */
const TOLD_OHMS = 0.1;
/** So many volts a wire may lose over what it should at the current it carries, before a reading is no longer right. */
const SPARE_VOLTS = 0.3;

/**
 * Readings up to half as much again plus 0.3 ohm are right: contacts and a hand-held probe (common practice). Of a wire that carries
 * amperes no more than would lose 0.3 V over what is expected; what a meter cannot tell there a test under load does.
 */
export function continuityLimit(expectedOhms: number, amps = 0): number {
  const usual = expectedOhms * 1.5 + 0.3;
  const spare = amps > 0 ? Math.max(TOLD_OHMS, SPARE_VOLTS / amps) : Infinity;
  return Math.round(Math.min(usual, expectedOhms + spare) * 100) / 100;
}
/** The most that any wire of a test carries, amperes. */
export const mostAmps = (wires: readonly { readonly amps: number }[]): number =>
  wires.reduce((most, { amps }) => Math.max(most, amps), 0);

/** Id of a reading from one end to another. */
export const continuityId = (hold: EndKey, touch: EndKey): string => `c|${hold}|${touch}`;

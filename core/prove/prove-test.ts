import type { EndKey } from '../ends/ends';
import type { Half } from '../loom/plug-face';

export interface ProveTest {
  readonly id: string;
  readonly kind: 'continuity' | 'isolation' | 'order';
  /** The probe that stays. */
  readonly hold: EndKey;
  /** The probe that moves. */
  readonly touch: EndKey;
  readonly title: string;
  /** Wires a right reading proves. */
  readonly wireIds: readonly string[];
  readonly unit: 'ohms' | 'cylinder';
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
  /** Highest reading called right (continuity), lowest (isolation). */
  readonly limit: number;
  /** Of a test with the plugs apart: the half of the plug that is held. */
  readonly half?: Half;
}

/** A second plug or injector is read as its cylinder above this: 101 is the second one of cylinder 1. */
export const SECOND_ROW = 100;
export const answerOf = (cylinder: number, row: number): number => cylinder + (row - 1) * SECOND_ROW;

/** Isolation readings at or above this are right, ohms (common practice: no reading on a hand meter's 1 MΩ range). */
export const ISOLATED_OHMS = 1e6;

/** Readings up to half as much again plus 0.3 ohm are right: contacts and a hand-held probe (common practice). */
export const continuityLimit = (expectedOhms: number): number => Math.round((expectedOhms * 1.5 + 0.3) * 100) / 100;

/** Id of a reading from one end to another. */
export const continuityId = (hold: EndKey, touch: EndKey): string => `c|${hold}|${touch}`;

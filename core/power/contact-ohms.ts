import { endType, type EndKey, type EndType } from '../ends/ends';

/** Contact resistance of one crimped and mated signal terminal, and of a power terminal, ohms (common practice). */
export const CONTACT_OHMS = 0.005;
export const POWER_CONTACT_OHMS = 0.001;
/** A ring terminal bolted on clean metal, ohms (common practice: 0.1 to 0.3 milliohms). */
export const LUG_OHMS = 0.0002;
/** A closed relay contact, and that of a button, ohms (common practice). */
export const RELAY_CONTACT_OHMS = 0.003;
export const BUTTON_OHMS = 0.02;
/** Volts lost across a switch at what it is marked with (common practice: some tens of millivolts). */
const SWITCH_VOLTS = 0.05;
export const switchOhms = (ratingAmps: number): number => SWITCH_VOLTS / ratingAmps;

/** Ends that are bolted, not plugged. */
const bolted: ReadonlySet<EndType> = new Set(['battery', 'busbar', 'switch', 'ground']);
/** Whether a wire ends in a ring there. */
export const isBolted = (end: EndKey): boolean => bolted.has(endType(end));
/** What both terminals of a wire that carries power add to its copper, ohms: a ring where it is bolted, a power contact elsewhere. */
export const terminalOhms = (...ends: readonly EndKey[]): number =>
  ends.reduce((sum, end) => sum + (isBolted(end) ? LUG_OHMS : POWER_CONTACT_OHMS), 0);

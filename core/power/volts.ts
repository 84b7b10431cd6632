import type { Build } from '../build/schema';

/** Supply volts for load figures: alternator charging (common practice). */
export const CHARGING_VOLTS = 13.5;
/** A battery that nothing charges, under load (common practice: 12.0 to 12.4 V). */
const TOTAL_LOSS_VOLTS = 12.2;
/** Volts the engine runs at. */
export const runningVolts = (build: Pick<Build, 'power'>): number =>
  build.power.charging === 'none' ? TOTAL_LOSS_VOLTS : CHARGING_VOLTS;

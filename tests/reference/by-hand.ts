import { expect } from '@jest/globals';
import type { Build } from '~/core/build/schema';
import type { Fault } from '~/core/circuit/faults';
import { voltsBetween, wireAmps } from '~/core/circuit/reading';
import { solveCircuit } from '~/core/circuit/solve';
import type { CircuitState } from '~/core/circuit/states';
import { netlist } from '~/core/netlist/netlist';
import { findingsOf } from '~/core/rules';
import type { Finding } from '~/core/rules/rule';
import { endNamed } from '../ends';

/** Ohms a metre of copper by square millimetres: IEC 60228 class 5 at 20 °C. */
const OHMS_A_METRE = {
  0.35: 0.0544,
  0.5: 0.039,
  0.75: 0.026,
  1: 0.0195,
  1.5: 0.0133,
  2.5: 0.00798,
  4: 0.00495,
  6: 0.0033,
  10: 0.00191,
  25: 0.00078,
  50: 0.000386,
} as const;
/** A wire with its two ends, ohms. */
export const run = (size: keyof typeof OHMS_A_METRE, metres: number, ends: number): number =>
  OHMS_A_METRE[size] * metres + ends;

/*
 * Common practice, from memory, ohms: a ring on clean metal; a power contact with a ring at the other end, two power contacts, two pins
 * of a thin wire; a key, a relay's contact and its winding, a fuse (100 mV at its rating), a low-side driver, body to battery.
 */
export const RING = 0.0002;
export const RINGED = 0.0012;
export const PLUGGED = 0.002;
export const THIN = 0.01;
export const KEY = 0.03;
export const RELAY = 0.003;
export const WINDING = 90;
export const DRIVER = 0.15;
export const BODY = 0.006;
export const fuse = (amps: number): number => 0.1 / amps;
/** An ECU that draws 0.8 A at 12.4 V. */
export const ECU = 12.4 / 0.8;
/** A full battery of 45 Ah at 20 °C, its clamps of 0.2 mohm told apart; the demo's at 18 °C, 1.3 % a degree. */
export const INSIDE_WARM = 0.012 - 2 * RING;
export const INSIDE = 0.012 * 1.026 - 2 * RING;
/** Engine to battery negative: 0.6 m of 25 mm² and two rings. */
export const STRAP = run(25, 0.6, 2 * RING);

/** A build solved in a state: volts by the names of ends, amperes by wires. */
export function solvedIn(
  build: Build,
  state: CircuitState,
  fault: Fault | null = null,
  pins: ReadonlySet<string> | null = null,
) {
  const net = netlist(build);
  const solution = solveCircuit(build, net, state, fault, pins);
  const volts = (plus: string, minus = 'gnd:battery') => voltsBetween(solution, endNamed(plus), endNamed(minus))!;
  return { net, solution, volts, amps: wireAmps(solution, net) };
}

/** Within 1 % or 5 mV. */
export const near = (found: number, hand: number): void =>
  expect(Math.abs(found - hand)).toBeLessThan(Math.max(0.005, 0.01 * Math.abs(hand)));

/** What the rules of so named say of a build. */
export const findings = (build: Build, rule: RegExp): Finding[] =>
  findingsOf(build).filter((one) => rule.test(one.rule));

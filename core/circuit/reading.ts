import type { Netlist } from '../netlist/netlist';
import type { EndKey } from '../ends/ends';
import { formatVolts } from '../units/format';
import { meter, spreads } from './figures';
import { hasNode, numberOf, type Probe } from './nodes';
import type { Solution } from './solve';

/** Volts between two ends; null when one is not wired. */
export function voltsBetween(solution: Solution, plus: Probe, minus: Probe): number | null {
  const { nodes } = solution.ir;
  if (!hasNode(nodes, plus) || !hasNode(nodes, minus)) return null;
  return solution.at(numberOf(nodes, plus)) - solution.at(numberOf(nodes, minus));
}

/** Amperes in every wire, from its first end to its second; of a crossed pair where each runs now. */
export function wireAmps(solution: Solution, net: Netlist): Map<string, number> {
  const { ir, changes, branches } = solution;
  const through = (i: number, j: number, siemens: number) => (solution.at(i) - solution.at(j)) * siemens;
  const moved = new Map(changes.extra.map((one) => [one.carries, one]));
  return new Map(
    net.wires.map(({ id }) => {
      const branch = ir.wires.get(id) ?? -1;
      if (branch < 0) return [id, 0];
      const now = moved.get(branch);
      if (now) return [id, through(now.i, now.j, 1 / now.ohms)];
      return [id, through(ir.ends[2 * branch]!, ir.ends[2 * branch + 1]!, branches.siemens[branch]!)];
    }),
  );
}

/**
 * What a voltmeter shows between two ends: it is a part of the circuit while it is held there, and an end that hangs on nothing
 * but leakage reads about nothing. Null when one is not wired.
 */
export function meterVolts(solution: Solution, plus: Probe, minus: Probe): number | null {
  const open = voltsBetween(solution, plus, minus);
  if (open === null) return null;
  return (open * meter.volts.value) / (meter.volts.value + ohmsBehind(solution, plus, minus));
}

/** By so many volts either way what lies between two wired ends may be off, by what the parts of a circuit usually measure. */
export const straysBetween = (solution: Solution, plus: Probe, minus: Probe): number =>
  solution.strays(numberOf(solution.ir.nodes, plus), numberOf(solution.ir.nodes, minus));

/** What a meter shows, with how far it may honestly be off. */
export interface Reading {
  readonly volts: number;
  /** By what the parts of the circuit usually measure, and by the meter: so many volts either way. */
  readonly strays: number;
  /** False where relays or filaments did not come to rest: the volts are those of a moment. */
  readonly settled: boolean;
}

/** The same with how far it may be off. Null when one is not wired. */
export function readVolts(solution: Solution, plus: Probe, minus: Probe): Reading | null {
  const volts = meterVolts(solution, plus, minus);
  if (volts === null) return null;
  const parts = straysBetween(solution, plus, minus);
  const own = spreads.meter.value * Math.abs(volts) + meter.digit.value;
  return { volts, strays: Math.hypot(parts, own), settled: solution.settled };
}

/** Under so many volts a reading is said in thousandths. */
const SMALL_VOLTS = 0.2;
/** From so many volts of doubt on one decimal is all that is known. */
const COARSE_VOLTS = 0.095;
/** A reading in words, with what it may be off by. */
export function readingWords({ volts, strays, settled }: Reading): string {
  if (!settled) return `about ${formatVolts(volts)}, never at rest`;
  if (Math.abs(volts) < SMALL_VOLTS && strays < SMALL_VOLTS)
    return `${(1000 * volts).toFixed(0)} ± ${Math.max(1, Math.round(1000 * strays))} mV`;
  const decimals = strays >= COARSE_VOLTS ? 1 : 2;
  return `${volts.toFixed(decimals)} ± ${strays.toFixed(decimals)} V`;
}

/** Ohms between two probes with every source at rest; the model is linear, so any current tells them. */
const ohmsBehind = (solution: Solution, plus: Probe, minus: Probe): number =>
  solution.behind(numberOf(solution.ir.nodes, plus), numberOf(solution.ir.nodes, minus));

/** A meter shows more than this as an open line, ohms. */
export const OPEN_ABOVE_OHMS = meter.openAbove.value;

/** Ohms between two ends of an unpowered solution; null is an open line (or an end that is not wired). */
export function ohmsBetween(solution: Solution, a: EndKey, b: EndKey): number | null {
  const { nodes } = solution.ir;
  if (!hasNode(nodes, a) || !hasNode(nodes, b)) return null;
  const ohms = ohmsBehind(solution, a, b);
  return ohms > OPEN_ABOVE_OHMS ? null : ohms;
}

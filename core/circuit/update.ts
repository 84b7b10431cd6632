import type { Build } from '../build/schema';
import { BATTERY, MINUS_POST, PLUS_POST, fuseEnd, groundEnd, relayEnd } from '../ends/ends';

import type { Netlist } from '../netlist/netlist';
import { RELAY_WINDING_OHMS } from '../power/flow';
import { LUG_OHMS, RELAY_CONTACT_OHMS, fuseOhms } from '../power/sizes';
import { endToEndOhms } from '../netlist/wires';
import { strapOhms } from './battery';
import type { Fault } from './faults';
import { OPEN_OHMS, parts } from './figures';

import { switchesOf } from './switches';
import { columnOf, type Solution } from './model';

/*
 * A fault of one branch is a change of rank one: G' = G + dG u u^T, with u = e_a - e_b. By Sherman and Morrison (1950)
 * V' = V - Z u dG u^T V / (1 + dG u^T Z u), so that one solution with the factor that is there serves every degree of the
 * fault. It holds while relays, diodes, fuses and the ECU stay as they were; where one changes, or where digits cancel, the caller
 * solves anew. Cost: one solution for a branch, then linear in nodes.
 */

/** A changed branch: siemens between two nodes. */
export interface Perturbation {
  readonly a: string;
  readonly b: string;
  readonly siemens: number;
}

/** Under this much of what it was the denominator has lost its digits: an opened branch that alone held a node. */
const LEAST_DENOMINATOR = 1e-7;
/** Currents that do not add up by more than this mean that digits were lost, amperes. */
const MOST_RESIDUAL = 1e-6;

const branch = (a: string, b: string, before: number, after: number): Perturbation => ({
  a,
  b,
  siemens: 1 / after - 1 / before,
});

/** What a fault changes where that is one branch; null where it is more, or none. */
export function perturbationOf(build: Build, net: Netlist, base: Solution, fault: Fault): Perturbation | null {
  switch (fault.type) {
    case 'open':
    case 'resistive':
    case 'short-to-ground': {
      const wire = net.wireById.get(fault.wireId);
      if (!wire) return null;
      const ohms = endToEndOhms(wire);
      if (fault.type === 'short-to-ground')
        return { a: wire.to, b: groundEnd('chassis'), siemens: 1 / parts.shortToBody.value };
      return branch(wire.from, wire.to, ohms, fault.type === 'open' ? OPEN_OHMS : ohms + fault.ohms);
    }
    case 'blown-fuse': {
      const rating = net.circuits.find(({ id }) => id === fault.circuitId)?.fuseAmps;
      if (rating === undefined || base.blownFuses.has(fault.circuitId)) return null;
      return branch(fuseEnd(fault.circuitId, 1), fuseEnd(fault.circuitId, 2), fuseOhms(rating), OPEN_OHMS);
    }
    case 'relay-stuck-open':
      return base.closedRelays.has(fault.circuitId)
        ? branch(relayEnd(fault.circuitId, '30'), relayEnd(fault.circuitId, '87'), RELAY_CONTACT_OHMS, OPEN_OHMS)
        : null;
    case 'relay-winding-open':
      return branch(relayEnd(fault.circuitId, '85'), relayEnd(fault.circuitId, '86'), RELAY_WINDING_OHMS, OPEN_OHMS);
    case 'poor-joint': {
      const { joint, ohms } = fault;
      if (joint === 'strap') {
        const strap = strapOhms(build);
        return branch(groundEnd('head'), groundEnd('battery'), strap, strap + ohms);
      }
      if (joint === 'body') {
        const body = parts.bodyToBattery.value;
        return branch(groundEnd('chassis'), groundEnd('battery'), body, body + ohms);
      }
      const [post, clamp] = joint === 'battery-plus' ? [PLUS_POST, BATTERY] : [MINUS_POST, groundEnd('battery')];
      return branch(post, clamp, LUG_OHMS, LUG_OHMS + ohms);
    }
    default:
      return null;
  }
}

/** What stands between two nodes. */
const across = (v: Float64Array, i: number, j: number): number => (i < 0 ? 0 : v[i]!) - (j < 0 ? 0 : v[j]!);
/** A solution with so much of another on top. */
function moved(v: Float64Array, share: number, column: Float64Array): Float64Array {
  const out = new Float64Array(v.length);
  for (let node = 0; node < out.length; node += 1) out[node] = v[node]! + share * column[node]!;
  return out;
}

/** The most that flows into a node and not out of it, with the branch that changed. */
function residual({ network }: Solution, voltages: Float64Array, i: number, j: number, siemens: number): number {
  const sums = network.unbalanced(voltages);
  const flow = siemens * ((i < 0 ? 0 : voltages[i]!) - (j < 0 ? 0 : voltages[j]!));
  if (i >= 0) sums[i]! -= flow;
  if (j >= 0) sums[j]! += flow;
  let most = 0;
  for (let node = 0; node < sums.length; node += 1) {
    const size = sums[node]! < 0 ? -sums[node]! : sums[node]!;
    if (size > most) most = size;
  }
  return most;
}

/**
 * The solution under a fault, from the one without it; null where the fault is more than one branch, where something switches, or
 * where digits are lost: solve anew then. Agrees with a new solution within a microvolt.
 */
export function updated(build: Build, net: Netlist, base: Solution, fault: Fault): Solution | null {
  const change = base.settled ? perturbationOf(build, net, base, fault) : null;
  const { network } = base;
  if (!change || !network.has(change.a) || !network.has(change.b)) return null;
  const [i, j] = [network.numberOf(change.a), network.numberOf(change.b)];
  if (i === j) return null;
  const column = columnOf(base, change.a, change.b);
  const denominator = 1 + change.siemens * across(column, i, j);
  if (Math.abs(denominator) < LEAST_DENOMINATOR) return null;
  const share = -change.siemens / denominator;
  const voltages = moved(base.voltages, share * across(base.voltages, i, j), column);
  if (residual(base, voltages, i, j, change.siemens) > MOST_RESIDUAL) return null;

  if (!switchesOf(build, net, base).areAsBefore(voltages, fault)) return null;
  return {
    ...base,
    voltages,
    unit: (a, b) => {
      const own = columnOf(base, a, b);
      return moved(own, share * across(own, i, j), column);
    },
    factor: {
      ...base.factor,
      solve: (currents) => {
        const own = base.factor.solve(currents);
        return moved(own, share * across(own, i, j), column);
      },
    },
  };
}

import type { Build } from '../build/schema';
import { BATTERY, MINUS_POST, PLUS_POST, ecuEnd, fuseEnd, groundEnd, relayEnd } from '../ends/ends';
import { pinsOfKind } from '../ecu/ecu';
import type { Netlist } from '../netlist/netlist';
import { RELAY_WINDING_OHMS } from '../power/flow';
import { LUG_OHMS, RELAY_CONTACT_OHMS, fuseOhms } from '../power/sizes';
import { endToEndOhms } from '../netlist/wires';
import { strapOhms } from './battery';
import type { Fault } from './faults';
import { OPEN_OHMS, parts } from './figures';
import { limitingNow } from './ecu-pins';
import { columnOf, compile, type Solution } from './model';
import { ECU_GROUND, type Probe } from './nodes';
import { asWarm, atRest, conducting, filamentsOf, opened, pulledIn, type Drive } from './plan-parts';

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

/** The most that flows into a node and not out of it. */
function residual({ network }: Solution, voltages: Float64Array, { a, b, siemens }: Perturbation): number {
  const sums = new Float64Array(network.size);
  const at = (node: number) => (node < 0 ? 0 : voltages[node]!);
  const add = (i: number, j: number, flow: number) => {
    if (i >= 0) sums[i]! -= flow;
    if (j >= 0) sums[j]! += flow;
  };
  for (const { plus, minus, ohms, volts } of network.elements) {
    const [i, j] = [network.node(plus), network.node(minus)];
    add(i, j, (at(i) - at(j) - volts) / ohms);
  }
  const [i, j] = [network.node(a), network.node(b)];
  add(i, j, siemens * (at(i) - at(j)));
  return sums.reduce((most, sum) => Math.max(most, Math.abs(sum)), 0);
}

/**
 * The solution under a fault, from the one without it; null where the fault is more than one branch, where something switches, or
 * where digits are lost: solve anew then. Agrees with a new solution within a microvolt.
 */
export function updated(build: Build, net: Netlist, base: Solution, fault: Fault): Solution | null {
  const change = base.settled ? perturbationOf(build, net, base, fault) : null;
  const { network } = base;
  if (!change || !network.has(change.a) || !network.has(change.b)) return null;
  const [i, j] = [network.node(change.a), network.node(change.b)];
  if (i === j) return null;
  const column = columnOf(base, change.a, change.b);
  const across = (v: Float64Array) => (i < 0 ? 0 : v[i]!) - (j < 0 ? 0 : v[j]!);
  const denominator = 1 + change.siemens * across(column);
  if (Math.abs(denominator) < LEAST_DENOMINATOR) return null;
  const moved = (v: Float64Array): Float64Array => {
    const share = (-change.siemens * across(v)) / denominator;
    return v.map((volts, node) => volts + share * column[node]!);
  };
  const voltages = moved(base.voltages);
  if (residual(base, voltages, change) > MOST_RESIDUAL) return null;

  const at = (end: Probe) => network.volts(voltages, end) ?? 0;
  // From rest: what would not have pulled in, or would have opened on the way, is no small change.
  const rest: Drive = { ...atRest, blown: base.blownFuses };
  const same = (one: ReadonlySet<string>, other: ReadonlySet<string>) =>
    one.size === other.size && [...one].every((item) => other.has(item));
  const powered =
    base.state !== 'unplugged' &&
    pinsOfKind(build.ecu, 'switched').some((pin) => at(ecuEnd(pin.id)) - at(ECU_GROUND) >= build.ecu.minVolts);
  if (
    powered !== base.ecuPowered ||
    !same(pulledIn(net, rest, fault, at), base.closedRelays) ||
    !same(conducting(net, base.state, at), base.conducting) ||
    !same(opened(net, rest, fault, at), base.blownFuses) ||
    !asWarm(filamentsOf(build, net, at), base.filaments) ||
    !same(limitingNow(compile(build, net).uses, { ...base, powered, pins: base.driven, fault }, at), base.limiting)
  )
    return null;
  return {
    ...base,
    voltages,
    unit: (a, b) => moved(columnOf(base, a, b)),
    factor: { ...base.factor, solve: (currents) => moved(base.factor.solve(currents)) },
  };
}

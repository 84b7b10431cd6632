import { withId } from '../data/with-id';
import type { Build } from '../build/schema';

import { hasRole } from '../devices/kind';
import { pinsOfKind } from '../ecu/ecu';
import { PLUS_POST, deviceAt, ecuEnd, groundEnd, type EndKey } from '../ends/ends';
import type { Need } from '../netlist/needs';
import type { Netlist } from '../netlist/netlist';
import { endToEndOhms } from '../netlist/wires';
import { crossedEnds, type Fault } from './faults';
import { sourceIn, starterOhms } from './battery';
import { OPEN_OHMS, inside, meter, parts } from './figures';
import { Eliminations } from './elimination';
import { Network, type Factor } from './network';
import { ECU_GROUND, type Probe } from './nodes';
import { abilityInUse, addPin, addRail, limitingNow, pairsOf, type Doing, type PinUse } from './ecu-pins';
import { pulsedKinds } from './pulsed';
import {
  addBody,
  addDevices,
  addFilaments,
  addParts,
  addPulsed,
  addSources,
  asWarm,
  atRest,
  conducting,
  filamentsOf,
  opened,
  pulledIn,
  type Drive,
} from './plan-parts';

/** What the car is doing when a meter is held to it. */
export const circuitStates = ['unplugged', 'key-off', 'key-on', 'prime', 'outputs-on', 'cranking', 'running'] as const;
export type CircuitState = (typeof circuitStates)[number];

export const stateWords: Record<CircuitState, string> = {
  unplugged: 'battery off, ECU unplugged',
  'key-off': 'key off',
  'key-on': 'key on, engine still',
  prime: 'key on, pump priming',
  'outputs-on': 'key on, output driven by its test',
  cranking: 'cranking',
  running: 'running',
};

/** Iterations of relays, diodes and ECU power before the answer is taken as it stands. */
const MAX_ROUNDS = 12;

export interface Solution {
  readonly state: CircuitState;
  /** Outputs that were driven; null: every one. */
  readonly driven: ReadonlySet<string> | null;
  readonly network: Network;
  readonly factor: Factor;
  /** Node voltages against battery negative. */
  readonly voltages: Float64Array;
  readonly closedRelays: ReadonlySet<string>;
  /** Diodes that conduct. */
  readonly conducting: ReadonlySet<string>;
  /** Fuses that what flows has opened. */
  readonly blownFuses: ReadonlySet<string>;
  /** Ohms of each filament as warm as it is, by its device. */
  readonly filaments: ReadonlyMap<string, number>;
  /** What of the ECU holds its current at its limit: pins, and the 5 V supply. */
  readonly limiting: ReadonlySet<string>;
  readonly ecuPowered: boolean;
  /** Of a solution made from another: what an ampere between two nodes makes, from the other's. */
  readonly unit?: (a: string, b: string) => Float64Array;
  /** False when relays did not settle within the cap. */
  readonly settled: boolean;
}

interface WireUnder {
  readonly id: string;
  readonly from: EndKey;
  readonly to: EndKey;
  readonly ohms: number;
  readonly shorted: boolean;
}

/** The wires as they run under a fault, with what they measure from end to end. */
export function wiresUnder(net: Netlist, fault: Fault | null): WireUnder[] {
  const crossed = fault?.type === 'crossed' ? fault.wireIds.map((id) => net.wireById.get(id)) : [];
  const swapped = new Map(
    crossed[0] && crossed[1]
      ? crossedEnds(crossed[0], crossed[1]).map((ends, i) => [crossed[i]!.id, ends] as const)
      : [],
  );
  return net.wires.map((wire) => {
    const ends = swapped.get(wire.id) ?? wire;
    const hit = fault !== null && 'wireId' in fault && fault.wireId === wire.id;
    let ohms = endToEndOhms(wire);
    if (hit && fault.type === 'open') ohms = OPEN_OHMS;
    if (hit && fault.type === 'resistive') ohms += fault.ohms;
    return { id: wire.id, from: ends.from, to: ends.to, ohms, shorted: hit && fault.type === 'short-to-ground' };
  });
}

function addWires(network: Network, net: Netlist, fault: Fault | null): void {
  for (const { from, to, ohms, shorted } of wiresUnder(net, fault)) {
    network.resistor(from, to, ohms);
    if (shorted) network.resistor(to, groundEnd('chassis'), parts.shortToBody.value);
  }
}

/** What stays of a loom while what it does changes: how it is eliminated, and what each pin of its ECU is used as. */
interface Compiled {
  readonly eliminations: Eliminations;
  readonly uses: readonly PinUse[];
}
const compiledOf = new WeakMap<Netlist, Compiled>();
/** Worked out once for a netlist, and kept as long as it. */
export function compile(build: Build, net: Netlist): Compiled {
  const known = compiledOf.get(net);
  if (known) return known;
  const compiled: Compiled = {
    eliminations: new Eliminations(),
    uses: build.ecu.pins.map((pin) => ({ pin, use: abilityInUse(net, pin) })),
  };
  compiledOf.set(net, compiled);
  return compiled;
}

/** What of a state does not hang on relays, fuses, filaments, or on whether the ECU has its supply. */
function fixedNetwork(build: Build, net: Netlist, state: CircuitState, fault: Fault | null, charge: number): Network {
  const network = new Network(groundEnd('battery'), compile(build, net).eliminations);
  addWires(network, net, fault);
  addDevices(network, build, net, state, fault);
  addBody(network, build, fault);
  if (state === 'unplugged') return network;
  const source = sourceIn(build, state, charge);
  addSources(network, net, state, fault, source);
  if (state === 'cranking') network.resistor(PLUS_POST, groundEnd('head'), starterOhms(build));
  if (state === 'running') addPulsed(network, net, source.volts);
  for (const [plus, minus] of pairsOf(build, 'can')) network.resistor(plus, minus, inside.canTermination.value);
  for (const [plus, minus] of pairsOf(build, 'vr')) network.resistor(plus, minus, inside.vrPair.value);
  return network;
}

/** The rest of it, by what the last solution found. */
function driven(
  network: Network,
  build: Build,
  net: Netlist,
  state: CircuitState,
  drive: Drive,
  fault: Fault | null,
  pins: ReadonlySet<string> | null,
): Network {
  addParts(network, net, state, drive, fault);
  addFilaments(network, build, net, state, drive, fault);
  if (state === 'unplugged') return network;
  const doing: Doing = { state, powered: drive.powered, pins, fault, limiting: drive.limiting };
  addRail(network, doing);
  // What the ECU draws by its own definition, through as many pins as it is fed by.
  const ownOhms = (inside.ownVolts.value / build.ecu.ownAmps) * pinsOfKind(build.ecu, 'switched').length;
  for (const one of compile(build, net).uses) addPin(network, one, doing, ownOhms);
  return network;
}

const sameSet = (a: ReadonlySet<string>, b: ReadonlySet<string>) =>
  a.size === b.size && [...a].every((item) => b.has(item));

/**
 * Pins that are driven where nobody says which: while the pump primes its own; cranking all but the fans', running all but the
 * starter's, and of both not what is pulsed. Null: every one.
 */
export function drivenIn(net: Netlist, state: CircuitState): ReadonlySet<string> | null {
  if (state !== 'prime' && state !== 'cranking' && state !== 'running') return null;
  const works = (need: Need, role: 'pump' | 'fan' | 'starter'): boolean => {
    const devices = [need.deviceId, ...(net.relayLoads.get(need.winding ?? '') ?? []).map(({ end }) => deviceAt(end))];
    return devices.some((id) => id !== null && hasRole(net.deviceOf.get(id)!.kind, role));
  };
  const isOn = (need: Need): boolean => {
    if (state === 'prime') return works(need, 'pump');
    return !pulsedKinds.has(need.ask.kind) && !works(need, state === 'running' ? 'starter' : 'fan');
  };
  return new Set(
    net.cavities.flatMap(({ pin, needId }) => {
      const need = needId === null ? undefined : withId(net.needs, needId);
      return need && isOn(need) ? [pin.id] : [];
    }),
  );
}

/**
 * Node voltages of the whole loom in a state, under at most one fault. Relays, diodes and the ECU's own supply are settled by
 * repeated solution, at most 12 rounds: `settled` tells whether they did. Setting faults leave the circuit as it is.
 *
 * @param pins Outputs the ECU drives while outputs are driven at all; null: those that are on in such a state.
 * @param charge How full the battery is, 0 to 1.
 */
export function solveCircuit(
  build: Build,
  net: Netlist,
  state: CircuitState,
  fault: Fault | null = null,
  pins: ReadonlySet<string> | null = null,
  charge = 1,
): Solution {
  const on = pins ?? drivenIn(net, state);
  const fixed = fixedNetwork(build, net, state, fault, charge);
  const { uses } = compile(build, net);
  let drive = atRest;
  for (let round = 1; ; round += 1) {
    const network = driven(fixed.fork(), build, net, state, drive, fault, on);
    const factor = network.factor();
    const voltages = factor.solve(network.currents());
    const at = (end: Probe) => network.volts(voltages, end) ?? 0;
    const powered =
      state !== 'unplugged' &&
      pinsOfKind(build.ecu, 'switched').some((pin) => at(ecuEnd(pin.id)) - at(ECU_GROUND) >= build.ecu.minVolts);
    const next: Drive = {
      closed: pulledIn(net, drive, fault, at),
      conducting: conducting(net, state, at),
      powered,
      blown: opened(net, drive, fault, at),
      filaments: filamentsOf(build, net, at),
      limiting: limitingNow(uses, { state, powered: drive.powered, pins: on, fault, limiting: drive.limiting }, at),
    };
    const settled =
      sameSet(next.closed, drive.closed) &&
      sameSet(next.conducting, drive.conducting) &&
      next.blown.size === drive.blown.size &&
      asWarm(next.filaments, drive.filaments) &&
      sameSet(next.limiting, drive.limiting) &&
      next.powered === drive.powered;
    if (settled || round === MAX_ROUNDS)
      return {
        state,
        driven: on,
        network,
        factor,
        voltages,
        closedRelays: next.closed,
        conducting: next.conducting,
        blownFuses: next.blown,
        filaments: next.filaments,
        limiting: next.limiting,
        ecuPowered: powered,
        settled,
      };
    drive = next;
  }
}

/** Volts between two ends; null when one is not wired. */
export function voltsBetween(solution: Solution, plus: Probe, minus: Probe): number | null {
  const [a, b] = [solution.network.volts(solution.voltages, plus), solution.network.volts(solution.voltages, minus)];
  return a === null || b === null ? null : a - b;
}

/** Amperes in every wire, from its first end to its second. */
export function wireAmps(solution: Solution, net: Netlist, fault: Fault | null = null): Map<string, number> {
  return new Map(
    wiresUnder(net, fault).map(({ id, from, to, ohms }) => [id, (voltsBetween(solution, from, to) ?? 0) / ohms]),
  );
}

/** Solutions of a unit current between two nodes, by the solution they belong to: the same probes are held to many faults. */
const columns = new WeakMap<Solution, Map<string, Float64Array>>();
/** Volts of every node for an ampere from one node to another, every source at rest. Not to be written to. */
export function columnOf(solution: Solution, a: string, b: string): Float64Array {
  if (solution.unit) return solution.unit(a, b);
  const known = columns.get(solution) ?? new Map<string, Float64Array>();
  columns.set(solution, known);
  const key = `${a}|${b}`;
  const found = known.get(key);
  if (found) return found;
  const { network, factor } = solution;
  const unit = new Float64Array(network.size);
  const [i, j] = [network.node(a), network.node(b)];
  if (i >= 0) unit[i]! += 1;
  if (j >= 0) unit[j]! -= 1;
  const column = factor.solve(unit);
  known.set(key, column);
  return column;
}

/** Ohms between two probes with every source at rest; the model is linear, so any current tells them. */
function ohmsBehind(solution: Solution, plus: Probe, minus: Probe): number {
  const column = columnOf(solution, plus, minus);
  const { network } = solution;
  return (network.volts(column, plus) ?? 0) - (network.volts(column, minus) ?? 0);
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

/** A meter shows more than this as an open line, ohms. */
export const OPEN_ABOVE_OHMS = meter.openAbove.value;

/** Ohms between two ends of an unpowered solution; null is an open line (or an end that is not wired). */
export function ohmsBetween(solution: Solution, a: EndKey, b: EndKey): number | null {
  const { network } = solution;
  if (!network.has(a) || !network.has(b)) return null;
  const ohms = ohmsBehind(solution, a, b);
  return ohms > OPEN_ABOVE_OHMS ? null : ohms;
}

import type { Build } from '../build/schema';
import { ecuEnd, fuseEnd, relayEnd } from '../ends/ends';
import { pinsOfKind } from '../ecu/ecu';
import type { Netlist } from '../netlist/netlist';
import { fuseOhms } from '../power/sizes';
import { ratedLimits } from './ecu-pins';
import type { Fault } from './faults';
import { parts } from './figures';
import { compile, type Solution } from './model';
import { ECU_GROUND } from './nodes';
import { diodesOf, filamentsOf, opensAt, asWarm } from './plan-parts';

/*
 * What of a circuit is in one of two states, by the numbers of its nodes: so that thousands of small changes of one solution are
 * looked at without a name being spelled.
 */

/** Volts between two nodes against what makes the thing between them switch. */
interface Switch {
  readonly i: number;
  readonly j: number;
  /** Volts from which on it is on, and whether their sign counts. */
  readonly from: number;
  readonly signed: boolean;
  readonly on: boolean;
  /** A fault of the relay or the fuse it is may say otherwise. */
  readonly kind: 'relay' | 'fuse' | null;
  readonly name: string;
}

export class Switches {
  constructor(
    private readonly all: readonly Switch[],
    private readonly ecu: { readonly pins: Int32Array; readonly ground: number; readonly least: number },
    private readonly base: Solution,
    private readonly warm: (voltages: Float64Array) => boolean,
  ) {}

  /** Whether with these volts everything stands as it did, looked at from rest. */
  areAsBefore(voltages: Float64Array, fault: Fault): boolean {
    const own = 'circuitId' in fault ? fault.circuitId : null;
    for (const { i, j, from, signed, on, kind, name } of this.all) {
      const volts = (i < 0 ? 0 : voltages[i]!) - (j < 0 ? 0 : voltages[j]!);
      const isOn = (signed ? volts : Math.abs(volts)) >= from;
      if (own !== null && name === own) {
        // A fuse that is taken as blown does not blow; an open winding has the volts and pulls nothing in.
        if (kind === 'fuse' && fault.type === 'blown-fuse') continue;
        if (kind === 'relay' && fault.type === 'relay-winding-open') {
          if (on) return false;
          continue;
        }
      }
      if (isOn !== on) return false;
    }
    if (this.base.state !== 'unplugged') {
      const { pins, ground, least } = this.ecu;
      let powered = false;
      const below = ground < 0 ? 0 : voltages[ground]!;
      for (const pin of pins) if (pin >= 0 && voltages[pin]! - below >= least) powered = true;
      if (powered !== this.base.ecuPowered) return false;
    }
    return this.base.filaments.size === 0 || this.warm(voltages);
  }
}

const known = new WeakMap<Solution, Switches>();
export function switchesOf(build: Build, net: Netlist, base: Solution): Switches {
  const found = known.get(base) ?? switchesIn(build, net, base);
  known.set(base, found);
  return found;
}

/** A volt less than this beside a threshold is no other side of it. */
const CLOSE = 1e-6;

function switchesIn(build: Build, net: Netlist, base: Solution): Switches {
  const { network } = base;
  const node = (name: string) => network.numberOf(name);
  const all: Switch[] = [];
  for (const { name, part } of net.parts)
    if (part.kind === 'relay')
      all.push({
        i: node(relayEnd(name, '86')),
        j: node(relayEnd(name, '85')),
        from: parts.pullIn.value,
        signed: false,
        on: base.closedRelays.has(name),
        kind: 'relay',
        name,
      });
  for (const { id, anode, cathode, volts } of diodesOf(net, base.state))
    all.push({
      i: node(anode),
      j: node(cathode),
      from: volts - CLOSE,
      signed: true,
      on: base.conducting.has(id),
      kind: null,
      name: '',
    });
  for (const { id, fuseAmps } of net.circuits)
    if (!base.blownFuses.has(id))
      all.push({
        i: node(fuseEnd(id, 1)),
        j: node(fuseEnd(id, 2)),
        from: opensAt(fuseAmps) * fuseOhms(fuseAmps),
        signed: false,
        on: false,
        kind: 'fuse',
        name: id,
      });
  for (const { end, minus, from, id } of ratedLimits(compile(build, net).uses, {
    state: base.state,
    powered: base.ecuPowered,
    pins: base.driven,
    fault: null,
    limiting: base.limiting,
  }))
    all.push({ i: node(end), j: node(minus), from, signed: true, on: base.limiting.has(id), kind: null, name: '' });
  const pins = Int32Array.from(pinsOfKind(build.ecu, 'switched'), ({ id }) => node(ecuEnd(id)));
  return new Switches(all, { pins, ground: node(ECU_GROUND), least: build.ecu.minVolts }, base, (voltages) =>
    asWarm(
      filamentsOf(build, net, (end) => network.volts(voltages, end) ?? 0),
      base.filaments,
    ),
  );
}

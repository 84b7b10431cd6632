import type { Build, Cable } from '../build/schema';
import {
  ALTERNATOR_CASE,
  ALTERNATOR_STUD,
  BATTERY,
  MINUS_POST,
  PLUS_POST,
  STARTER_STUD,
  ecuEnd,
  groundEnd,
  partAt,
  type EndKey,
} from '../ends/ends';
import { pinsOfKind } from '../ecu/ecu';
import type { Netlist } from '../netlist/netlist';
import { endToEndOhms } from '../netlist/wires';
import { LUG_OHMS } from '../power/contact-ohms';
import { cableOhms, starterOhms, strapOhms } from './battery';
import { Branching } from './branching';
import { compileDevices } from './compile-devices';
import { compileParts } from './compile-parts';
import { compilePins, heldBy, pairsOf } from './ecu-pins';
import type { Joint } from './faults';
import { inside, machines, parts, spreads, type Figure } from './figures';
import type { BatteryIR, CircuitIR, DiodeIR, Law } from './ir';
import { ECU_FIVE, ECU_GROUND } from './nodes';

/** The battery's own name among the batteries of a circuit. */
export const OWN_BATTERY = '+';
/** Where a heavy cable lands: where it was said to, or on the clamp where that is no place of the circuit. */
const landing = (net: Netlist, { at }: Cable): EndKey =>
  net.parts.some(({ id, part }) => id === partAt(at) && part.kind === 'busbar') ? at : BATTERY;

/**
 * The car between its battery and its engine: clamps, the cables of starter and alternator, the alternator's case, the engine's
 * strap, the body's sheet. The starter's current runs through the clamp, and what charges stands at the engine. Every ground is
 * at the battery in the end. Left out: that a starter which hardly turns takes more, and what an alternator gives at most.
 */
function compileCar(branching: Branching, build: Build, net: Netlist, batteries: BatteryIR[]): Map<string, number> {
  const { starterCable, alternatorCable, charging } = build.power;
  const clamps = 2 * LUG_OHMS;
  const joint = spreads.joint.value;
  const cable = spreads.wire.value;
  branching.add(PLUS_POST, MINUS_POST, { is: 'battery', battery: batteries.length, clampOhms: clamps });
  batteries.push({ name: OWN_BATTERY, i: branching.node(PLUS_POST), j: branching.node(MINUS_POST) });
  branching.add(STARTER_STUD, groundEnd('head'), { is: 'starter', ohms: starterOhms(build) });
  const found = new Map<Joint, number>([
    ['starter-cable', branching.ohms(landing(net, starterCable), STARTER_STUD, cableOhms(starterCable), cable)],
  ]);
  if (charging !== 'none') {
    branching.add(ALTERNATOR_STUD, ALTERNATOR_CASE, { is: 'alternator' });
    branching.ohms(ALTERNATOR_CASE, groundEnd('head'), machines.case.value, machines.case.spread);
    found.set(
      'alternator-cable',
      branching.ohms(landing(net, alternatorCable), ALTERNATOR_STUD, cableOhms(alternatorCable), cable),
    );
  }
  return new Map<Joint, number>([
    ...found,
    ['battery-plus', branching.ohms(PLUS_POST, BATTERY, LUG_OHMS, joint)],
    ['battery-minus', branching.ohms(MINUS_POST, groundEnd('battery'), LUG_OHMS, joint)],
    ['strap', branching.ohms(groundEnd('head'), groundEnd('battery'), strapOhms(build), joint)],
    [
      'body',
      branching.ohms(groundEnd('chassis'), groundEnd('battery'), parts.bodyToBattery.value, parts.bodyToBattery.spread),
    ],
  ]);
}

const plugged = ({ value, spread }: Figure): Law => ({ is: 'plugged', ohms: value, spread });

/** The circuit of a build, whether it is known or not. */
export function compileAnew(build: Build, net: Netlist): CircuitIR {
  const branching = new Branching(groundEnd('battery'));
  const wires = new Map(
    net.wires.map((wire) => [wire.id, branching.ohms(wire.from, wire.to, endToEndOhms(wire), spreads.wire.value)]),
  );
  const batteries: BatteryIR[] = [];
  const joints = compileCar(branching, build, net, batteries);
  const diodes: DiodeIR[] = [];
  const plan = compileParts(branching, build, net, diodes, batteries);
  const devices = compileDevices(branching, build, net, diodes);
  branching.add(ECU_FIVE, ECU_GROUND, { is: 'rail' });
  const pins = compilePins(branching, build, net, diodes);
  for (const [plus, minus] of pairsOf(build, 'can')) branching.add(plus, minus, plugged(inside.canTermination));
  for (const [plus, minus] of pairsOf(build, 'vr')) branching.add(plus, minus, plugged(inside.vrPair));
  const feeds = pinsOfKind(build.ecu, 'switched').map(({ id }) => branching.node(ecuEnd(id)));
  return {
    ...branching.done(),
    wires,
    joints,
    ...plan,
    ...devices,
    batteries,
    diodes,
    pins,
    drivers: pins.flatMap(({ ability, node }, pin) => {
      const amps = heldBy(ability);
      return amps === Infinity ? [] : [{ pin, node, holdsVolts: amps * inside.lowSideOn.value }];
    }),
    ecu: {
      ground: branching.node(ECU_GROUND),
      five: branching.node(ECU_FIVE),
      feeds,
      minVolts: build.ecu.minVolts,
      // What the ECU draws by its own definition, through as many pins as it is fed by.
      ownOhms: (inside.ownVolts.value / build.ecu.ownAmps) * feeds.length,
    },
    body: branching.node(groundEnd('chassis')),
  };
}

const known = new WeakMap<Netlist, { readonly build: Build; readonly ir: CircuitIR }>();
/** The circuit of a build, compiled once for its value. */
export function compile(build: Build, net: Netlist): CircuitIR {
  const found = known.get(net);
  return found?.build === build ? found.ir : compiled(build, net, compileAnew(build, net));
}

/** Says that this is the circuit of a build, for whoever asks for it next. */
export function compiled(build: Build, net: Netlist, ir: CircuitIR): CircuitIR {
  known.set(net, { build, ir });
  return ir;
}

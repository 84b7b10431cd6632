import type { Build } from '../build/schema';
import { BATTERY, MINUS_POST, PLUS_POST, ecuEnd, groundEnd } from '../ends/ends';
import { pinsOfKind } from '../ecu/ecu';
import type { Netlist } from '../netlist/netlist';
import { endToEndOhms } from '../netlist/wires';
import { LUG_OHMS } from '../power/sizes';
import { starterOhms, strapOhms } from './battery';
import { Branching } from './branching';
import { compileDevices } from './compile-devices';
import { compileParts } from './compile-parts';
import { compilePins, heldBy, pairsOf } from './ecu-pins';
import type { Joint } from './faults';
import { inside, parts, spreads, type Figure } from './figures';
import type { CircuitIR, DiodeIR, Law } from './ir';
import { ECU_FIVE, ECU_GROUND } from './nodes';

/** Bolted joints of the car: the battery's clamps, the engine's strap, the body's sheet. Every ground is at the battery in the end. */
function compileCar(branching: Branching, build: Build): Map<string, number> {
  const clamps = 2 * LUG_OHMS;
  const joint = spreads.joint.value;
  branching.add(PLUS_POST, MINUS_POST, { is: 'battery', clampOhms: clamps });
  branching.add(PLUS_POST, groundEnd('head'), { is: 'starter', ohms: starterOhms(build) });
  return new Map<Joint, number>([
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
  const joints = compileCar(branching, build);
  const diodes: DiodeIR[] = [];
  const plan = compileParts(branching, build, net, diodes);
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

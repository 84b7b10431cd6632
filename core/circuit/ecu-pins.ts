import type { Build } from '../build/schema';
import { withId } from '../data/with-id';
import { serve } from '../ecu/ask';
import { pinsOfKind, type Ability, type Pin } from '../ecu/ecu';
import { ecuEnd, type EndKey } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import type { Branching } from './branching';
import { DRIVER_LIMIT_TIMES, inside } from './figures';
import type { PinIR } from './ir';
import { ECU_FIVE, ECU_GROUND } from './nodes';
import type { Scenario } from './scenario';

/** The ability a pin is used by: of the need it serves, else its first; and its pull-up, ohms, where it has one then. */
function useOf(net: Netlist, pin: Pin): { ability: Ability; pullUpOhms: number | null } {
  const needId = net.cavityOf.get(pin.id)?.needId;
  const need = needId ? withId(net.needs, needId) : undefined;
  const ability = (need && serve(pin, need.ask).ability) ?? pin.abilities[0]!;
  const wanted =
    need?.ask.pullUp ?? (ability.kind === 'hall' || ability.kind === 'switch' || ability.kind === 'frequency');
  const { pullUpOhms } = ability;
  return {
    ability,
    pullUpOhms: pullUpOhms !== undefined && (wanted || !ability.pullUpSwitchable) ? pullUpOhms : null,
  };
}

/** Inputs that are read against the ECU's ground, with the pull-up they may have. */
const inputs: ReadonlySet<Ability['kind']> = new Set([
  'analog',
  'switch',
  'frequency',
  'hall',
  'knock',
  'wideband',
  'thermocouple',
]);

/** What the ECU is at its pins. */
export function compilePins(branching: Branching, build: Build, net: Netlist): PinIR[] {
  return build.ecu.pins.map((pin, number): PinIR => {
    const { ability, pullUpOhms } = useOf(net, pin);
    const end = ecuEnd(pin.id);
    const to = ability.kind === 'supply-5v' ? ECU_FIVE : ECU_GROUND;
    const branch = branching.add(end, to, { is: 'pin', pin: number });
    const pulled = pullUpOhms !== null && inputs.has(ability.kind);
    const pullUp = pulled ? branching.add(end, ECU_FIVE, { is: 'pull-up', ohms: pullUpOhms }) : -1;
    return { id: pin.id, ability, node: branching.node(end), pullUp, branch };
  });
}

/** What the ECU does now. */
export interface Doing {
  readonly scenario: Scenario;
  readonly powered: boolean;
  /** Number of a pin that is not driven though it should be; -1 for none. */
  readonly dead: number;
}
export const isOn = ({ scenario, powered, dead }: Doing, pin: PinIR, number: number): boolean =>
  powered && number !== dead && scenario.driven.has(pin.id);

/** What a branch measures: its ohms, and volts from its second node to its first. */
export interface Value {
  readonly ohms: number;
  readonly volts: number;
}
export const plain = (ohms: number): Value => ({ ohms, volts: 0 });

/** What stands for a current that is held: volts so high, behind ohms so large, that what hangs there hardly moves it. */
const HELD_OHMS = 1e4;
export const held = (amps: number): Value => ({ volts: amps * HELD_OHMS, ohms: HELD_OHMS });

/** The current a driver to ground holds, amperes; infinite where nobody marked it. */
export const heldBy = ({ kind, drive, maxAmps }: Ability): number =>
  (kind === 'low-side' || kind === 'injector') && drive !== 'peak-hold' && maxAmps !== undefined
    ? DRIVER_LIMIT_TIMES * maxAmps
    : Infinity;

/** What the ECU puts on one pin, against its own ground (5 V supplies: against its rail). */
export function pinValue(pin: PinIR, number: number, doing: Doing, limiting: boolean, ownOhms: number): Value {
  const on = isOn(doing, pin, number);
  const { scenario, powered } = doing;
  const { ability } = pin;
  switch (ability.kind) {
    case 'power-ground':
      return plain(inside.powerGround.value);
    case 'sensor-ground':
    case 'shield':
      return plain(inside.sensorGround.value);
    case 'supply-5v':
      return plain(inside.supplyTrack.value);
    case 'permanent':
      return plain(inside.permanent.value);
    case 'switched':
      return plain(ownOhms);
    case 'injector':
    case 'low-side': {
      if (!on) return plain(inside.outputOff.value);
      if (!limiting) return plain(inside.lowSideOn.value);
      const { volts, ohms } = held(heldBy(ability));
      return { volts: -volts, ohms };
    }
    case 'main-relay':
      return plain((scenario.key !== 'off' && number !== doing.dead ? inside.mainRelayOn : inside.outputOff).value);
    case 'ignition-driver':
      return plain((on ? inside.ignitionDriverOn : inside.outputOff).value);
    case 'ignition-logic':
      return on ? { volts: inside.logicHigh.value, ohms: inside.logicSource.value } : plain(inside.logicOff.value);
    case 'half-bridge':
      if (!on) return plain(inside.bridgeOff.value);
      return {
        volts: (ability.side === 'plus' ? inside.bridgeHigh : inside.bridgeLow).value,
        ohms: inside.bridgeSource.value,
      };
    case 'stepper':
      return plain(inside.stepperOff.value);
    case 'supply-out':
      if (!powered) return plain(inside.supplyOutOff.value);
      return { volts: ability.volts ?? inside.supplyOutVolts.value, ohms: inside.supplyOutSource.value };
    case 'high-side':
      return plain(inside.highSideOff.value);
    case 'vr':
      return plain((ability.pair === undefined ? inside.vrPair : inside.vr).value);
    case 'can':
      return powered ? { volts: inside.canRecessive.value, ohms: inside.canInput.value } : plain(inside.canInput.value);
    case 'analog':
    case 'switch':
    case 'frequency':
    case 'hall':
    case 'knock':
    case 'wideband':
    case 'thermocouple':
      return plain(inside.input.value);
  }
}

/** The 5 V rail of the sensors: regulated, held at its limit, or bleeding away. */
export function railValue(powered: boolean, limiting: boolean): Value {
  if (!powered) return plain(inside.supplyOff.value);
  if (limiting) return held(inside.supplyLimit.value);
  return { volts: inside.supplyOpen.value, ohms: inside.supplySource.value };
}

/** Both pins of each pair of a kind. */
export function pairsOf(build: Build, kind: 'can' | 'vr'): [EndKey, EndKey][] {
  const pins = pinsOfKind(build.ecu, kind);
  const ability = (pin: Pin) => pin.abilities.find((one) => one.kind === kind)!;
  return pins
    .filter((pin) => ability(pin).side === 'plus')
    .flatMap((plus) =>
      pins
        .filter((other) => other !== plus && ability(other).pair === ability(plus).pair)
        .map((minus): [EndKey, EndKey] => [ecuEnd(plus.id), ecuEnd(minus.id)]),
    );
}

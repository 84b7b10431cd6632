import type { Build } from '../build/schema';
import { withId } from '../data/with-id';
import { serve } from '../ecu/ask';
import { pinsOfKind, type Ability, type Pin } from '../ecu/ecu';
import { ecuEnd, type EndKey } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import type { Branching } from './branching';
import { DRIVER_LIMIT_TIMES, inside, spreads, type Figure } from './figures';
import type { DiodeIR, PinIR } from './ir';
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

/**
 * What the ECU is at its pins. A driver that clamps by itself does so at 40 to 60 V, for as long as a load kicks: no steady state
 * reaches that, so it is not there. One that catches the kick by a diode to the ECU's supply leads current there whenever the
 * load is fed and the ECU is not: that is there, and joins the diodes.
 */
export function compilePins(branching: Branching, build: Build, net: Netlist, diodes: DiodeIR[]): PinIR[] {
  const [supply] = pinsOfKind(build.ecu, 'switched');
  return build.ecu.pins.map((pin, number): PinIR => {
    const { ability, pullUpOhms } = useOf(net, pin);
    const end = ecuEnd(pin.id);
    if (ability.catches && supply) {
      const rail = ecuEnd(supply.id);
      branching.add(end, rail, { is: 'diode', diode: diodes.length });
      diodes.push({
        id: end,
        i: branching.node(end),
        j: branching.node(rail),
        volts: inside.catchVolts.value,
        ohms: inside.catchOhms.value,
        when: 'plugged',
      });
    }
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

/** What a branch measures: its ohms, and volts from its second node to its first, each with how far it usually strays. */
export interface Value {
  readonly ohms: number;
  readonly volts: number;
  /** Of its ohms a share, of its volts so many. */
  readonly spread: number;
  readonly strays: number;
}
export const plain = (ohms: number, spread: number): Value => ({ ohms, volts: 0, spread, strays: 0 });
export const told = ({ value, spread }: Figure): Value => plain(value, spread);
export const behind = (volts: Figure, ohms: Figure): Value => ({
  ohms: ohms.value,
  volts: volts.value,
  spread: ohms.spread,
  strays: volts.spread,
});

/** What stands for a current that is held: volts so high, behind ohms so large, that what hangs there hardly moves it. */
const HELD_OHMS = 1e4;
/** A current is held within a third or so (common practice). */
const HELD_SPREAD = 0.3;
export const held = (amps: number): Value => ({
  volts: amps * HELD_OHMS,
  ohms: HELD_OHMS,
  spread: 0,
  strays: HELD_SPREAD * amps * HELD_OHMS,
});

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
      return told(inside.powerGround);
    case 'sensor-ground':
    case 'shield':
      return told(inside.sensorGround);
    case 'supply-5v':
      return told(inside.supplyTrack);
    case 'permanent':
      return told(inside.permanent);
    case 'switched':
      return plain(ownOhms, spreads.load.value);
    case 'injector':
    case 'low-side': {
      if (!on || !limiting) return told(on ? inside.lowSideOn : inside.outputOff);
      const value = held(heldBy(ability));
      return { ...value, volts: -value.volts };
    }
    case 'main-relay':
      return told(
        (scenario.key === 'run' || scenario.key === 'start') && number !== doing.dead
          ? inside.mainRelayOn
          : inside.outputOff,
      );
    case 'ignition-driver':
      return told(on ? inside.ignitionDriverOn : inside.outputOff);
    case 'ignition-logic':
      return on ? behind(inside.logicHigh, inside.logicSource) : told(inside.logicOff);
    case 'half-bridge':
      if (!on) return told(inside.bridgeOff);
      return behind(ability.side === 'plus' ? inside.bridgeHigh : inside.bridgeLow, inside.bridgeSource);
    case 'stepper':
      return told(inside.stepperOff);
    case 'supply-out': {
      if (!powered) return told(inside.supplyOutOff);
      const value = behind(inside.supplyOutVolts, inside.supplyOutSource);
      return { ...value, volts: ability.volts ?? value.volts };
    }
    case 'high-side':
      return told(inside.highSideOff);
    case 'vr':
      return told(ability.pair === undefined ? inside.vrPair : inside.vr);
    case 'can':
      return powered ? behind(inside.canRecessive, inside.canInput) : told(inside.canInput);
    case 'analog':
    case 'switch':
    case 'frequency':
    case 'hall':
    case 'knock':
    case 'wideband':
    case 'thermocouple':
      return told(inside.input);
  }
}

/** The 5 V rail of the sensors: regulated, held at its limit, or bleeding away. */
export function railValue(powered: boolean, limiting: boolean): Value {
  if (!powered) return told(inside.supplyOff);
  return limiting ? held(inside.supplyLimit.value) : behind(inside.supplyOpen, inside.supplySource);
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

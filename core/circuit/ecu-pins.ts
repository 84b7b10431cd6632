import type { Build } from '../build/schema';
import { withId } from '../data/with-id';
import { serve } from '../ecu/ask';
import { pinsOfKind, type Ability, type Pin } from '../ecu/ecu';
import { ecuEnd, type EndKey } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import type { Fault } from './faults';
import { inside } from './figures';
import type { CircuitState } from './model';
import type { Network } from './network';
import { ECU_FIVE, ECU_GROUND } from './nodes';

const isDriving = (state: CircuitState): boolean => !['unplugged', 'key-off', 'key-on'].includes(state);

/** The ability a pin is used by now: of the need it serves, else its first. */
export function abilityInUse(net: Netlist, pin: Pin): { ability: Ability; pullUp: boolean } {
  const needId = net.cavityOf.get(pin.id)?.needId;
  const need = needId ? withId(net.needs, needId) : undefined;
  const ability = (need && serve(pin, need.ask).ability) ?? pin.abilities[0]!;
  const wanted =
    need?.ask.pullUp ?? (ability.kind === 'hall' || ability.kind === 'switch' || ability.kind === 'frequency');
  return { ability, pullUp: ability.pullUpOhms !== undefined && (wanted || !ability.pullUpSwitchable) };
}

/** What the ECU puts on one pin. */
export function addPin(
  network: Network,
  pin: Pin,
  use: { ability: Ability; pullUp: boolean },
  state: CircuitState,
  powered: boolean,
  isDriven: boolean,
  ownOhms: number,
  faulty: (type: Fault['type']) => boolean,
): void {
  const end = ecuEnd(pin.id);
  const on = powered && isDriving(state) && isDriven && !faulty('not-driven');
  const { ability } = use;
  switch (ability.kind) {
    case 'power-ground':
      network.resistor(end, ECU_GROUND, inside.powerGround.value);
      return;
    case 'sensor-ground':
    case 'shield':
      network.resistor(end, ECU_GROUND, inside.sensorGround.value);
      return;
    case 'supply-5v':
      network.resistor(end, ECU_FIVE, inside.supplyTrack.value);
      return;
    case 'permanent':
      network.resistor(end, ECU_GROUND, inside.permanent.value);
      return;
    case 'switched':
      network.resistor(end, ECU_GROUND, ownOhms);
      return;
    case 'injector':
    case 'low-side':
      network.resistor(end, ECU_GROUND, on ? inside.lowSideOn.value : inside.outputOff.value);
      return;
    case 'main-relay':
      network.resistor(
        end,
        ECU_GROUND,
        state !== 'key-off' && state !== 'unplugged' && !faulty('not-driven')
          ? inside.mainRelayOn.value
          : inside.outputOff.value,
      );
      return;
    case 'ignition-driver':
      network.resistor(end, ECU_GROUND, on ? inside.ignitionDriverOn.value : inside.outputOff.value);
      return;
    case 'ignition-logic':
      if (on) network.source(end, ECU_GROUND, inside.logicHigh.value, inside.logicSource.value);
      else network.resistor(end, ECU_GROUND, inside.logicOff.value);
      return;
    case 'half-bridge':
      if (on)
        network.source(
          end,
          ECU_GROUND,
          (ability.side === 'plus' ? inside.bridgeHigh : inside.bridgeLow).value,
          inside.bridgeSource.value,
        );
      else network.resistor(end, ECU_GROUND, inside.bridgeOff.value);
      return;
    case 'stepper':
      network.resistor(end, ECU_GROUND, inside.stepperOff.value);
      return;
    case 'supply-out':
      if (powered)
        network.source(end, ECU_GROUND, ability.volts ?? inside.supplyOutVolts.value, inside.supplyOutSource.value);
      else network.resistor(end, ECU_GROUND, inside.supplyOutOff.value);
      return;
    case 'high-side':
      network.resistor(end, ECU_GROUND, inside.highSideOff.value);
      return;
    case 'vr':
      network.resistor(end, ECU_GROUND, (ability.pair === undefined ? inside.vrPair : inside.vr).value);
      return;
    case 'can':
      if (powered) network.source(end, ECU_GROUND, inside.canRecessive.value, inside.canInput.value);
      else network.resistor(end, ECU_GROUND, inside.canInput.value);
      return;
    case 'analog':
    case 'switch':
    case 'frequency':
    case 'hall':
    case 'knock':
    case 'wideband':
    case 'thermocouple':
      network.resistor(end, ECU_GROUND, inside.input.value);
      if (use.pullUp && !faulty('no-pull-up')) network.resistor(end, ECU_FIVE, ability.pullUpOhms!);
      return;
  }
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

import type { Build } from '../build/schema';
import { withId } from '../data/with-id';
import { serve } from '../ecu/ask';
import { pinsOfKind, type Ability, type Pin } from '../ecu/ecu';
import { ecuEnd, type EndKey } from '../ends/ends';
import type { Netlist } from '../netlist/netlist';
import type { Fault } from './faults';
import { DRIVER_LIMIT_TIMES, inside } from './figures';
import type { CircuitState } from './model';
import type { Network } from './network';
import { ECU_FIVE, ECU_GROUND, type Probe } from './nodes';

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

/** What the ECU does now. */
export interface Doing {
  readonly state: CircuitState;
  readonly powered: boolean;
  /** Outputs that are driven; null: every one. */
  readonly pins: ReadonlySet<string> | null;
  readonly fault: Fault | null;
  /** What holds its current at its limit: pins, and the 5 V supply. */
  readonly limiting: ReadonlySet<string>;
}
const hasFault = ({ fault }: Doing, pin: Pin, type: Fault['type']): boolean =>
  fault !== null && fault.type === type && 'pinId' in fault && fault.pinId === pin.id;
const isOn = (doing: Doing, pin: Pin): boolean =>
  doing.powered &&
  isDriving(doing.state) &&
  (doing.pins === null || doing.pins.has(pin.id)) &&
  !hasFault(doing, pin, 'not-driven');

/** What stands for a current that is held: volts so high, behind ohms so large, that what hangs there hardly moves it. */
const HELD_OHMS = 1e4;
const hold = (network: Network, from: Probe, to: Probe, amps: number): void =>
  network.source(from, to, amps * HELD_OHMS, HELD_OHMS);

/** The current a driver to ground holds, amperes; infinite where nobody marked it. */
const heldBy = ({ kind, drive, maxAmps }: Ability): number =>
  (kind === 'low-side' || kind === 'injector') && drive !== 'peak-hold' && maxAmps !== undefined
    ? DRIVER_LIMIT_TIMES * maxAmps
    : Infinity;

/** What may hold its current: what it is, and the volts from `minus` to `end` from which on it does. */
interface Limit {
  readonly id: string;
  readonly end: Probe;
  readonly minus: Probe;
  readonly from: number;
}
/** Drivers that are on, and the 5 V supply, which holds where its volts fall. */
export function ratedLimits(uses: readonly PinUse[], doing: Doing): Limit[] {
  const drivers = uses.flatMap(({ pin, use }): Limit[] => {
    const most = heldBy(use.ability);
    if (most === Infinity || !isOn(doing, pin)) return [];
    return [{ id: pin.id, end: ecuEnd(pin.id), minus: ECU_GROUND, from: most * inside.lowSideOn.value + CLOSE }];
  });
  const least = inside.supplyOpen.value - inside.supplyLimit.value * inside.supplySource.value;
  const five: Limit = { id: ECU_FIVE, end: ECU_GROUND, minus: ECU_FIVE, from: CLOSE - least };
  return doing.powered ? [...drivers, five] : drivers;
}

/** What now asks for more than it gives. */
export const limitingNow = (uses: readonly PinUse[], doing: Doing, at: (end: Probe) => number): Set<string> =>
  new Set(ratedLimits(uses, doing).flatMap(({ id, end, minus, from }) => (at(end) - at(minus) >= from ? [id] : [])));
const CLOSE = 1e-6;

/** The 5 V rail of the sensors: regulated, held at its limit, or bleeding away. */
export function addRail(network: Network, doing: Doing): void {
  if (!doing.powered) network.resistor(ECU_FIVE, ECU_GROUND, inside.supplyOff.value);
  else if (doing.limiting.has(ECU_FIVE)) hold(network, ECU_FIVE, ECU_GROUND, inside.supplyLimit.value);
  else network.source(ECU_FIVE, ECU_GROUND, inside.supplyOpen.value, inside.supplySource.value);
}

/** A pin with what it is used as. */
export interface PinUse {
  readonly pin: Pin;
  readonly use: ReturnType<typeof abilityInUse>;
}

/** What the ECU puts on one pin. */
export function addPin(network: Network, { pin, use }: PinUse, doing: Doing, ownOhms: number): void {
  const end = ecuEnd(pin.id);
  const { state, powered } = doing;
  const on = isOn(doing, pin);
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
      if (on && doing.limiting.has(pin.id)) hold(network, ECU_GROUND, end, heldBy(ability));
      else network.resistor(end, ECU_GROUND, on ? inside.lowSideOn.value : inside.outputOff.value);
      return;
    case 'main-relay':
      network.resistor(
        end,
        ECU_GROUND,
        state !== 'key-off' && state !== 'unplugged' && !hasFault(doing, pin, 'not-driven')
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
      if (use.pullUp && !hasFault(doing, pin, 'no-pull-up')) network.resistor(end, ECU_FIVE, ability.pullUpOhms!);
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

import type { Build } from '../build/schema';
import { withId } from '../data/with-id';
import { hasRole } from '../devices/kind';
import { deviceAt, endOf } from '../ends/ends';
import type { Need } from '../netlist/needs';
import type { Netlist } from '../netlist/netlist';
import { standardBarometerKpa } from '../sensing/atmosphere';
import { besideCell, ownCell } from '../power/rings';
import { batteryIn, sourceIn, type BatterySource, type Source } from './battery';
import { pulsedKinds, pulsedOf } from './pulsed';
import type { DiodeIR } from './ir';
import type { CircuitState } from './states';

/** What a circuit is solved in. */
export interface Scenario {
  /** What the loom is fed from: the battery, or what charges it; null: the clamps are off. */
  readonly source: Source | null;
  /** The batteries by their numbers in the circuit, the car's own first. */
  readonly batteries: readonly BatterySource[];
  readonly key: 'off' | 'acc' | 'run' | 'start';
  /** Switches of the plan that do not stand as they rest, by name. */
  readonly thrown: ReadonlySet<string>;
  readonly engine: 'still' | 'cranking' | 'running';
  /** Whether the ECU hangs on its plugs. */
  readonly plugged: boolean;
  /** Cavities whose outputs the ECU drives, and no others. */
  readonly driven: ReadonlySet<string>;
  /** What sensors at rest stand in. */
  readonly celsius: number;
  readonly kpa: number;
}

/** What may differ from a state as it usually is. */
export interface Given {
  /** Outputs the ECU drives where it drives any; null: those that are on in such a state. */
  readonly driven?: ReadonlySet<string> | null;
  /** How full the battery is, 0 to 1. */
  readonly charge?: number;
  /** Switches of the plan that do not stand as they rest, by name. */
  readonly thrown?: ReadonlySet<string>;
  /** What sensors stand in; null: the air of the place. */
  readonly celsius?: number | null;
  readonly kpa?: number | null;
}

const NONE: ReadonlySet<string> = new Set();
const drives = (state: CircuitState): boolean => !['unplugged', 'key-off', 'accessory', 'key-on'].includes(state);
const keyIn = (state: CircuitState): Scenario['key'] =>
  state === 'unplugged' || state === 'key-off'
    ? 'off'
    : state === 'accessory'
      ? 'acc'
      : state === 'cranking' || state === 'start'
        ? 'start'
        : 'run';

/** A state of the car as a scenario of its own. */
export function scenarioOf(
  build: Build,
  net: Netlist,
  state: CircuitState,
  { driven = null, charge = 1, thrown = NONE, celsius = null, kpa = null }: Given = {},
): Scenario {
  const { ambientCelsius, altitudeMetres } = build.site;
  const steady = state !== 'outputs-on' || driven === null || pulsedOf(net, driven).size < driven.size;
  return {
    // What comes in pulses pulls no battery down: it stands as with the key on.
    source: state === 'unplugged' ? null : sourceIn(build, steady ? state : 'key-on', charge),
    batteries: [
      ownCell(build, charge),
      ...net.parts.flatMap(({ part }) => (part.kind === 'battery' ? [besideCell(build, part)] : [])),
    ].map((cell) => batteryIn(cell, steady ? state : 'key-on')),
    key: keyIn(state),
    thrown,
    engine: state === 'cranking' || state === 'running' ? state : 'still',
    plugged: state !== 'unplugged',
    driven: drives(state) ? (driven ?? drivenIn(net, state) ?? new Set(build.ecu.pins.map(({ id }) => id))) : NONE,
    celsius: celsius ?? ambientCelsius,
    kpa: kpa ?? standardBarometerKpa(altitudeMetres),
  };
}

/**
 * Whether another winding of its device, on the same feed, is worked in its place: of two that pull one valve either way an ECU
 * drives them in turn, and they draw as one.
 */
function isOtherWinding(net: Netlist, { deviceId, end }: Need): boolean {
  const ref = endOf(end);
  const kind = net.deviceOf.get(deviceId ?? '')?.kind;
  if (!kind || ref.of !== 'device') return false;
  const windings = kind.internals.flatMap((one) => (one.type === 'resistor' ? [[one.from, one.to] as const] : []));
  const others = (at: string) => windings.flatMap(([from, to]) => (from === at ? [to] : to === at ? [from] : []));
  const isFeed = (id: string) => withId(kind.terminals, id)?.destination.to === 'feed';
  const [first] = others(ref.terminal)
    .filter(isFeed)
    .flatMap(others)
    .filter((id) => withId(kind.terminals, id)?.destination.to === 'pin');
  return first !== undefined && first !== ref.terminal;
}

/**
 * Pins that are driven where nobody says which: while the pump primes its own; cranking all but the fans', running all but the
 * starter's, and of both not what is pulsed. Null: every one.
 */
export function drivenIn(net: Netlist, state: CircuitState): ReadonlySet<string> | null {
  if (state !== 'prime' && state !== 'start' && state !== 'cranking' && state !== 'running') return null;
  const works = (need: Need, role: 'pump' | 'fan' | 'starter'): boolean => {
    const devices = [need.deviceId, ...(net.relayLoads.get(need.winding ?? '') ?? []).map(({ end }) => deviceAt(end))];
    return devices.some((id) => id !== null && hasRole(net.deviceOf.get(id)!.kind, role));
  };
  const isOn = (need: Need): boolean => {
    if (state === 'prime') return works(need, 'pump');
    return (
      !pulsedKinds.has(need.ask.kind) &&
      !isOtherWinding(net, need) &&
      !works(need, state === 'running' ? 'starter' : 'fan')
    );
  };
  return new Set(
    net.cavities.flatMap(({ pin, needId }) => {
      const need = needId === null ? undefined : withId(net.needs, needId);
      return need && isOn(need) ? [pin.id] : [];
    }),
  );
}

/** Whether the regulator of an alternator draws its lamp down. */
const isResting = ({ source, key, engine }: Scenario): boolean =>
  source !== null && (key === 'run' || key === 'start') && engine !== 'running';

/** Whether what conducts one way only is there at all. */
export const isThere = ({ when }: Pick<DiodeIR, 'when'>, scenario: Scenario): boolean =>
  when === 'always' || (when === 'plugged' ? scenario.plugged : isResting(scenario));

import { destinationOf } from '../build/destination';
import type { Build } from '../build/schema';
import { bankWords } from '../engine/banks';
import { bankOfDevice } from '../netlist/twins';
import { curveOf } from '../devices/curve';
import { haltRoles, hasRole, holdRoles, sensorsIn, trait } from '../devices/kind';
import { deviceAt, ecuEnd, terminalId, type EndKey } from '../ends/ends';
import type { Need } from '../netlist/needs';
import type { Netlist } from '../netlist/netlist';
import { checkIdOf } from '../prove/check-id';
import { confirm, reading, voltsCheck, type Draft } from './checks';
import { readQuantity } from '../units/units';

/** Volts a switch input may be off at rest, and may keep over a closed contact (common practice). */
const REST_TOLERANCE = 0.8;
const CLOSED_VOLTS = 0.5;
/** A feed behind a closed contact with the key on: a tired battery to a charger (common practice). */
const LEAST_FED_VOLTS = 11;
const MOST_FED_VOLTS = 15;
/** Speed a wheel is turned at by hand or a car is pushed, km/h (common practice). */
const PUSHED_KMH = 5;

/** Needs of one kind of input that have a pin, with their devices. */
function placed(build: Build, net: Netlist, kind: Need['ask']['kind']) {
  return net.needs.flatMap((need) => {
    const entry = net.deviceOf.get(need.deviceId ?? '');
    const pinId = build.assignments[need.id];
    return need.ask.kind === kind && entry && pinId !== undefined ? [{ need, pinId, ...entry }] : [];
  });
}

/** Both states of every switch, and the hertz of every pulse input: a pin that never changes is found with the key on. */
export function switchChecks(build: Build, net: Netlist, keyOn: (end: EndKey) => number | null): Draft[] {
  const switches = placed(build, net, 'switch').flatMap(({ need, pinId, device, kind }): Draft[] => {
    const others = kind.terminals.filter((terminal) => terminalId(device.id, terminal.id) !== need.id);
    const to = others.map((terminal) => destinationOf(device, terminal));
    const fed = others.find((_, i) => to[i]!.to === 'feed');
    const grounded = to.some((one) => one.to === 'ground' || one.to === 'sensor-ground' || one.to === 'mounted');
    const rest = keyOn(ecuEnd(pinId));
    const [open, closed] = [checkIdOf({ of: 'sensor', needId: need.id }), checkIdOf({ of: 'closed', needId: need.id })];
    const title = `${need.label} on ${pinId}`;
    if (!fed && !grounded) return [confirm(open, `${title}: the ECU shows it on and off`)];
    return [
      ...voltsCheck(
        open,
        `${title}, at rest`,
        rest,
        REST_TOLERANCE,
        fed ? 'Nothing comes through an open contact.' : 'About 0: shorted to the body, or no pull-up on this pin.',
      ),
      fed
        ? reading(closed, `${title}, held closed`, 'V', LEAST_FED_VOLTS, MOST_FED_VOLTS, 'The feed comes through.')
        : reading(
            closed,
            `${title}, held closed`,
            'V',
            0,
            CLOSED_VOLTS,
            'No change: wire open, or its ground is missing.',
          ),
    ];
  });
  const pulses = placed(build, net, 'frequency').flatMap(({ need, pinId, device, kind }): Draft[] => {
    if (trait(kind, 'trigger')) return [];
    const sensor = sensorsIn(kind).find(({ terminal }) => terminalId(device.id, terminal) === need.id);
    const hertz = sensor?.quantity === 'road-speed' ? curveOf(sensor.curve).signalOf(PUSHED_KMH) : null;
    return [
      reading(
        checkIdOf({ of: 'sensor', needId: need.id }),
        `${need.label} on ${pinId}, its shaft turned by hand`,
        'Hz',
        0.2,
        sensor?.faultAbove ?? 2000,
        hertz === null
          ? 'Steady 0: no pulses arrive.'
          : `At ${readQuantity('road-speed', PUSHED_KMH, build)} it gives ${hertz.toFixed(0)} Hz.`,
      ),
    ];
  });
  return [...switches, ...pulses];
}

const withRole = (build: Build, net: Netlist, roles: readonly Parameters<typeof hasRole>[1][]) =>
  placed(build, net, 'switch').filter(({ kind }) => roles.some((role) => hasRole(kind, role)));

/** What must hold the starter back, where the ECU drives it: tried before the first fire, never defeated. */
export function holdChecks(build: Build, net: Netlist): Draft[] {
  const starters = new Set(net.devices.flatMap(({ device, kind }) => (hasRole(kind, 'starter') ? [device.id] : [])));
  const driven = net.needs.some(({ winding }) =>
    net.relayLoads.get(winding ?? '')?.some(({ end }) => starters.has(deviceAt(end) ?? '')),
  );
  if (!driven) return [];
  return withRole(build, net, holdRoles).map(({ need, kind }) =>
    confirm(
      checkIdOf({ of: 'halt', needId: need.id }),
      `${need.label} holds the starter back`,
      hasRole(kind, 'clutch-switch')
        ? 'Clutch up: the starter must not turn.'
        : hasRole(kind, 'stand-switch')
          ? 'Stand down: the starter must not turn.'
          : 'In gear, wheels chocked, plugs out: the starter must not turn.',
    ),
  );
}

/** What must stop the engine. */
export const haltChecks = (build: Build, net: Netlist): Draft[] =>
  withRole(build, net, haltRoles).map(({ need, kind }) =>
    confirm(
      checkIdOf({ of: 'halt', needId: need.id }),
      hasRole(kind, 'tilt-switch')
        ? `${need.label}, laid over, stops engine and pump`
        : `${need.label} stops the engine`,
      'At idle, at once, every time.',
    ),
  );

/** Oxygen sensors of two banks: the one that answers must be the bank's own. */
export function bankChecks(build: Build, net: Netlist): Draft[] {
  const { engine } = build;
  const oxygen = net.devices.filter(
    ({ kind }) => trait(kind, 'wideband') !== null || sensorsIn(kind).some(({ quantity }) => quantity === 'mixture'),
  );
  const banks = new Set(oxygen.flatMap(({ device }) => bankOfDevice(engine, device) ?? []));
  return banks.size < 2
    ? []
    : [
        confirm(
          'banks',
          'Five per cent more fuel for bank 1 alone: its own oxygen sensor answers, not the other',
          `${bankWords(engine, 1)}. Were the sensors crossed, each bank would be corrected by the other until both are wrong.`,
        ),
      ];
}

import type { Build, CircuitChoice, Device } from '../build/schema';
import { hasRole, trait, type DeviceKind, type FeedName, type System } from '../devices/kind';
import { pinsOfKind } from '../ecu/ecu';
import { destinationOf } from '../build/destination';
import { deviceEnd, ecuEnd, type EndKey } from '../ends/ends';
import { coilFeedAmps, type PulsedAmps } from './coil-feed';
import { coilFigures, sparkedEngine } from './spark';

/** A thing fed by a circuit. */
export interface Load {
  readonly end: EndKey;
  readonly name: string;
  /** Continuous amperes for sizing. */
  readonly amps: number;
  readonly branchMetres: number;
}

export interface CircuitRelay {
  /** Who closes it: an ECU output to be allotted, the ECU's own main relay pin, or the key. */
  readonly control: 'need' | 'main-relay-pin' | 'key-run' | 'key-start';
  readonly suppressed: boolean;
  readonly reversed: boolean;
  /** The winding terminal that goes to the driver. */
  readonly driverTerminal: '85' | '86';
  readonly supplyTerminal: '85' | '86';
}

/** What a circuit is for: what asks for one by meaning asks for this, never for an id. */
export type CircuitRole = 'permanent' | 'main' | 'coils' | 'injectors' | 'pump' | 'key' | 'own';

/** What a circuit is before sizing: source, switch, loads. */
export interface CircuitShape {
  readonly id: string;
  readonly role: CircuitRole;
  readonly name: string;
  readonly system: System;
  readonly source: 'battery' | 'main' | 'key';
  readonly relay: CircuitRelay | null;
  readonly loads: readonly Load[];
  readonly limitVolts: number;
  readonly choice: CircuitChoice;
}

/** Supply volts for load figures: alternator charging (common practice). */
export const CHARGING_VOLTS = 13.5;
/** A battery that nothing charges, under load (common practice: 12.0 to 12.4 V). */
const TOTAL_LOSS_VOLTS = 12.2;
/** Volts the engine runs at. */
export const runningVolts = (build: Pick<Build, 'power'>): number =>
  build.power.charging === 'none' ? TOTAL_LOSS_VOLTS : CHARGING_VOLTS;
/** Injector duty taken for the feed's load: 85 % (common practice). */
const RATED_DUTY = 0.85;
/** Voltage drop limits, volts (common practice, see docs/rules.md). */
const FEED_DROP = 0.3;
const MOTOR_DROP = 0.5;

/** Amperes of an ECU's permanent feed: it keeps its memory and closes its files (common practice). */
const PERMANENT_AMPS = 0.2;
/** From the box to an ECU's own feed pins, metres (common practice). */
const ECU_BRANCH_METRES = 0.4;

/** Continuous amperes at a feed terminal: coils and injectors from their own data, others as listed. */
function feedAmps(build: Build, kind: DeviceKind, listed: number): number {
  const volts = runningVolts(build);
  const coil = trait(kind, 'coil');
  if (coil) return coilFigures(sparkedEngine(build), coil, volts).averageAmps;
  const injector = trait(kind, 'injector');
  return injector ? (volts / injector.ohms) * RATED_DUTY : listed;
}

interface FeedUse {
  readonly device: Device;
  readonly kind: DeviceKind;
  readonly feed: FeedName;
  readonly load: Load;
}

function feedUses(build: Build): FeedUse[] {
  return build.devices.flatMap((device) => {
    const kind = build.kinds[device.kindId];
    if (!kind) return [];
    return kind.terminals.flatMap((terminal): FeedUse[] => {
      const destination = destinationOf(device, terminal);
      if (destination.to !== 'feed') return [];
      return [
        {
          device,
          kind,
          feed: destination.feed,
          load: {
            end: deviceEnd(device.id, terminal.id),
            name: device.label,
            amps: feedAmps(build, kind, destination.amps),
            branchMetres: device.branchMetres,
          },
        },
      ];
    });
  });
}

/** What the coils of the coil feed draw together, at top speed; null where it has none. */
export function coilsTogether(build: Build): PulsedAmps | null {
  const coils = feedUses(build).flatMap(({ device, kind, feed }) => {
    const coil = trait(kind, 'coil');
    return coil && feed === 'coils' ? [{ coil, serves: device.serves, row: device.row }] : [];
  });
  if (coils.length === 0) return null;
  return coilFeedAmps(sparkedEngine(build), coils, runningVolts(build), build.engine.maxRpm);
}

function relayOf(choice: CircuitChoice, control: CircuitRelay['control']): CircuitRelay {
  const reversed = choice.winding === 'reversed';
  return {
    control,
    suppressed: choice.relay === 'diode',
    reversed,
    driverTerminal: reversed ? '86' : '85',
    supplyTerminal: reversed ? '85' : '86',
  };
}

/** The circuits of a build in the order they are wired: permanent, main, coils, injectors, pump, own relays, key. */
export function circuitShapes(build: Build): CircuitShape[] {
  const uses = feedUses(build);
  const of = (feed: FeedName) => uses.filter((use) => use.feed === feed).map((use) => use.load);
  const choice = (id: string): CircuitChoice => build.power.circuits[id] ?? {};
  const ecuLoads = (kind: 'permanent' | 'switched', amps: number): Load[] =>
    pinsOfKind(build.ecu, kind).map((pin) => ({
      end: ecuEnd(pin.id),
      name: `ECU ${pin.id}`,
      amps,
      branchMetres: ECU_BRANCH_METRES,
    }));
  const hasMainRelayPin = pinsOfKind(build.ecu, 'main-relay').length > 0;
  const coilSwitch = choice('coils').switchedBy ?? (hasMainRelayPin ? 'ecu' : 'key');
  const byEcu: CircuitRelay['control'] = hasMainRelayPin ? 'main-relay-pin' : 'need';
  const coilControl: CircuitRelay['control'] = coilSwitch === 'key' ? 'key-run' : byEcu;
  const shape = (
    role: CircuitRole,
    id: string,
    name: string,
    system: System,
    source: CircuitShape['source'],
    control: CircuitRelay['control'] | null,
    loads: Load[],
    limitVolts: number = FEED_DROP,
  ): CircuitShape => ({
    role,
    id,
    name,
    system,
    source,
    relay: control ? relayOf(choice(id), control) : null,
    loads,
    limitVolts,
    choice: choice(id),
  });

  const circuits: CircuitShape[] = [
    shape('permanent', 'permanent', 'Permanent feed', 'Start and charge', 'battery', null, [
      ...ecuLoads('permanent', PERMANENT_AMPS),
      ...of('permanent'),
    ]),
    shape('main', 'main', 'Main feed', 'Start and charge', 'battery', hasMainRelayPin ? 'main-relay-pin' : 'key-run', [
      ...ecuLoads('switched', build.ecu.ownAmps),
      ...of('main'),
    ]),
    shape('coils', 'coils', 'Coil feed', 'Ignition', 'battery', coilControl, of('coils')),
    shape('injectors', 'injectors', 'Injector feed', 'Fuel', 'main', null, of('injectors')),
    shape(
      'pump',
      'pump',
      'Fuel pump',
      'Fuel',
      'battery',
      choice('pump').switchedBy === 'key' ? 'key-run' : 'need',
      of('pump'),
      MOTOR_DROP,
    ),
    ...uses
      .filter((use) => use.feed === 'own')
      .map((use) =>
        shape(
          'own',
          use.device.id,
          use.device.label,
          use.kind.system,
          'battery',
          hasRole(use.kind, 'starter') && build.power.starting === 'key' ? 'key-start' : 'need',
          [use.load],
          MOTOR_DROP,
        ),
      ),
    shape('key', 'key', 'Key feed', 'Start and charge', 'key', null, of('key')),
  ];
  return circuits.filter((circuit) => circuit.loads.length > 0);
}

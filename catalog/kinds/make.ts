import type { DeviceKind, Destination, Internal, Terminal, Trait, VoltsTable } from '~/core/devices/kind';
import type { Ask } from '~/core/ecu/ask';
import type { Curve, Point } from '~/core/devices/curve';

/** Short words the kinds are written in. Values are invented, within what the trade calls usual (common practice). */
export const t = (id: string, name: string, destination: Destination): Terminal => ({ id, name, destination });
export const pin = (ask: Ask, pair?: string): Destination => (pair ? { to: 'pin', ask, pair } : { to: 'pin', ask });
export const analog = pin({ kind: 'analog', pullUp: false });
export const pulledUp = pin({ kind: 'analog', pullUp: true });
export const five = (milliamps = 10, bank = 0): Destination => ({ to: 'supply-5v', milliamps, bank });
export const sensorGround = (bank = 0): Destination => ({ to: 'sensor-ground', bank });
export const feed = (name: Extract<Destination, { to: 'feed' }>['feed'], amps: number): Destination => ({
  to: 'feed',
  feed: name,
  amps,
});
export const ground = (place: Extract<Destination, { to: 'ground' }>['place']): Destination => ({
  to: 'ground',
  place,
});
/** Earthed by what it is bolted to: no wire. */
export const mounted = (place: Extract<Destination, { to: 'mounted' }>['place'] = 'head'): Destination => ({
  to: 'mounted',
  place,
});
export const line = (name: string): Destination => ({ to: 'line', line: name });
export const lowSide = (amps: number, hz = 0): Destination => pin({ kind: 'low-side', amps, hz });
export const resistor = (from: string, to: string, ohms: number): Internal => ({ type: 'resistor', from, to, ohms });
export const divider = (supply: string, groundId: string, signal: string, ratio: number, ohms = 1000): Internal => ({
  type: 'divider',
  supply,
  ground: groundId,
  signal,
  ratio,
  ohms,
});
export const role = (name: Extract<Trait, { type: 'role' }>['role']): Trait => ({ type: 'role', role: name });

export function kind(
  base: Pick<DeviceKind, 'id' | 'name' | 'system' | 'note' | 'terminals'> & Partial<DeviceKind>,
): DeviceKind {
  return { internals: [], traits: [], perCylinder: false, shielded: false, twisted: false, twinRisk: false, ...base };
}

type Sensor = Extract<Trait, { type: 'sensor' }>;
export const sensor = (
  base: Pick<Sensor, 'terminal' | 'quantity' | 'signal' | 'curve' | 'least' | 'most'> & Partial<Sensor>,
): Sensor => ({
  type: 'sensor',
  ratiometric: base.signal === 'volts' || base.signal === 'ohms',
  faultBelow: base.signal === 'volts' ? 0.25 : base.signal === 'ohms' ? 0.05 : null,
  faultAbove: base.signal === 'volts' ? 4.75 : base.signal === 'ohms' ? 4.95 : null,
  ...base,
});
export const points = (...pairs: [signal: number, value: number][]): Point[] =>
  pairs.map(([signal, value]) => ({ signal, value }));
export const linear = (...pairs: [[number, number], [number, number]]): Curve => ({
  method: 'linear',
  points: points(...pairs),
});
export const table = (...pairs: [number, number][]): Curve => ({ method: 'table', points: points(...pairs) });
export const volts = (...pairs: [volts: number, milliseconds: number][]): VoltsTable =>
  pairs.map(([at, milliseconds]) => ({ volts: at, milliseconds }));

/** A three-wire ratiometric pressure sensor: `low` to `high` volts over its range. */
export function pressure(
  id: string,
  name: string,
  system: DeviceKind['system'],
  measures: 'manifold' | 'fuel' | 'oil' | 'other',
  range: [least: number, most: number],
  reference: 'absolute' | 'gauge',
  [low, high]: [number, number] = [0.5, 4.5],
): DeviceKind {
  const [least, most] = range;
  return kind({
    id,
    name,
    system,
    note: `Ratiometric, ${low} to ${high} V. Three wires; variants have supply and ground changed over.`,
    terminals: [t('1', 'supply', five(8)), t('2', 'ground', sensorGround()), t('3', 'signal', analog)],
    internals: [divider('1', '2', '3', 0.3)],
    traits: [
      { type: 'pressure', measures, reference },
      sensor({
        terminal: '3',
        quantity: 'pressure',
        signal: 'volts',
        curve: linear([low, least], [high, most]),
        least,
        most,
      }),
    ],
  });
}

/** A two-wire thermistor between signal and return. */
export function ntc(
  id: string,
  name: string,
  system: DeviceKind['system'],
  curve: Curve,
  note: string,
  [least, most]: [number, number] = [-30, 140],
): DeviceKind {
  return kind({
    id,
    name,
    system,
    note: `${note} Needs a pull-up; no polarity.`,
    terminals: [t('1', 'signal', pulledUp), t('2', 'return', sensorGround())],
    internals: [resistor('1', '2', 2000)],
    traits: [sensor({ terminal: '1', quantity: 'temperature', signal: 'ohms', curve, least, most })],
  });
}

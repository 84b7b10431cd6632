import { hasRole, trait, type DeviceKind } from '../devices/kind';
import type { EngineSeat, Point, Vehicle, Zone } from '../tree/tree';

/** Where in a vehicle something sits, as far as its kind tells. */
export const regions = [
  'cabin',
  'rear',
  'front',
  'intake',
  'coils',
  'injectors',
  'block',
  'exhaust',
  'gearbox',
] as const;
export type Region = (typeof regions)[number];

export const regionWords: Readonly<Record<Region, string>> = {
  cabin: 'cabin',
  rear: 'tank',
  front: 'radiator',
  intake: 'intake',
  coils: 'coils',
  injectors: 'injectors',
  block: 'engine block',
  exhaust: 'exhaust',
  gearbox: 'gearbox',
};

/** Roles that sit elsewhere than the rest of their system (common practice). */
const roleRegions: readonly (readonly [role: Parameters<typeof hasRole>[1], region: Region])[] = [
  ['pump', 'rear'],
  ['fan', 'front'],
  ['pedal', 'cabin'],
  ['start-button', 'cabin'],
  ['clutch-switch', 'cabin'],
  ['brake-switch', 'cabin'],
  ['kill-switch', 'cabin'],
  ['stand-switch', 'gearbox'],
  ['tilt-switch', 'cabin'],
  ['neutral-switch', 'gearbox'],
  ['reverse-switch', 'gearbox'],
  ['speed', 'gearbox'],
  ['starter', 'block'],
  ['alternator', 'block'],
];
const systemRegions: Readonly<Record<DeviceKind['system'], Region>> = {
  Trigger: 'block',
  Fuel: 'block',
  Ignition: 'coils',
  'Air and throttle': 'intake',
  Cooling: 'block',
  'Oil and knock': 'block',
  Exhaust: 'exhaust',
  Driver: 'cabin',
  'Bus and dash': 'cabin',
  'Start and charge': 'cabin',
  'Body plug': 'cabin',
};

/** Where a kind of device is looked for first. */
export function regionOf(kind: DeviceKind): Region {
  const byRole = roleRegions.find(([role]) => hasRole(kind, role));
  if (byRole) return byRole[1];
  if (trait(kind, 'injector')) return 'injectors';
  if (trait(kind, 'coil')) return 'coils';
  if (/level|tank/i.test(kind.name)) return 'rear';
  if (/gearbox/i.test(kind.name)) return 'gearbox';
  return systemRegions[kind.system];
}

export const regionZones: Readonly<Record<Region, Zone>> = {
  cabin: 'cabin',
  rear: 'wet',
  front: 'wet',
  intake: 'engine',
  coils: 'engine',
  injectors: 'engine',
  block: 'engine',
  exhaust: 'engine',
  gearbox: 'moving',
};

/** Length and width of a vehicle on its plan, and where in it things are, metres from its upper left corner. Invented, within the usual. */
export interface Layout {
  readonly length: number;
  readonly width: number;
  /** Where the wall between engine and people stands; null where there is none. */
  readonly wall: number | null;
  readonly at: Readonly<Record<Region | 'ecu' | 'inside' | 'outside' | 'box' | 'battery', Point>>;
  /** The engine, as a box. */
  readonly engine: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
}

const p = (x: number, y: number): Point => ({ x, y });
const layouts: Readonly<Record<Vehicle, Layout>> = {
  car: {
    length: 4.5,
    width: 2.1,
    wall: 1.85,
    engine: { x: 0.62, y: 0.7, width: 0.95, height: 0.72 },
    at: {
      ecu: p(2.85, 0.45),
      inside: p(2.3, 1.05),
      outside: p(1.72, 1.05),
      box: p(2.85, 1.72),
      battery: p(3.6, 1.72),
      cabin: p(2.75, 1.05),
      rear: p(4.0, 1.05),
      front: p(0.28, 1.62),
      intake: p(0.75, 0.36),
      coils: p(0.95, 0.85),
      injectors: p(1.3, 0.62),
      block: p(0.7, 1.3),
      exhaust: p(1.1, 1.78),
      gearbox: p(1.62, 1.6),
    },
  },
  motorcycle: {
    length: 2.2,
    width: 1.2,
    wall: null,
    engine: { x: 0.75, y: 0.62, width: 0.5, height: 0.4 },
    at: {
      ecu: p(1.6, 0.3),
      inside: p(1.35, 0.4),
      outside: p(1.1, 0.45),
      box: p(1.6, 0.5),
      battery: p(1.8, 0.62),
      cabin: p(0.55, 0.2),
      rear: p(1.35, 0.25),
      front: p(0.5, 0.62),
      intake: p(1.1, 0.3),
      coils: p(0.85, 0.42),
      injectors: p(1.0, 0.55),
      block: p(0.75, 0.85),
      exhaust: p(0.6, 1.02),
      gearbox: p(1.25, 0.95),
    },
  },
  boat: {
    length: 7,
    width: 2.6,
    wall: 4.6,
    engine: { x: 5.2, y: 0.9, width: 1.1, height: 0.8 },
    at: {
      ecu: p(4.1, 0.5),
      inside: p(4.3, 1.3),
      outside: p(4.9, 1.3),
      box: p(3.7, 2.1),
      battery: p(4.3, 2.2),
      cabin: p(3.0, 1.2),
      rear: p(4.9, 2.3),
      front: p(5.0, 0.4),
      intake: p(5.7, 0.45),
      coils: p(5.5, 1.1),
      injectors: p(5.9, 1.3),
      block: p(5.3, 1.9),
      exhaust: p(6.5, 0.9),
      gearbox: p(6.5, 1.7),
    },
  },
  kart: {
    length: 1.9,
    width: 1.3,
    wall: null,
    engine: { x: 1.2, y: 0.75, width: 0.38, height: 0.36 },
    at: {
      ecu: p(0.75, 0.25),
      inside: p(0.85, 0.6),
      outside: p(1.1, 0.6),
      box: p(0.55, 0.45),
      battery: p(0.5, 1.05),
      cabin: p(0.4, 0.6),
      rear: p(0.75, 0.95),
      front: p(1.2, 0.2),
      intake: p(1.35, 0.42),
      coils: p(1.3, 0.78),
      injectors: p(1.45, 0.62),
      block: p(1.2, 1.1),
      exhaust: p(1.7, 0.8),
      gearbox: p(1.65, 1.1),
    },
  },
  stationary: {
    length: 2,
    width: 1.4,
    wall: null,
    engine: { x: 0.5, y: 0.45, width: 0.8, height: 0.5 },
    at: {
      ecu: p(1.7, 0.25),
      inside: p(1.55, 0.5),
      outside: p(1.4, 0.6),
      box: p(1.75, 0.95),
      battery: p(1.75, 1.25),
      cabin: p(1.75, 0.6),
      rear: p(1.45, 1.2),
      front: p(0.25, 0.7),
      intake: p(0.6, 0.25),
      coils: p(0.8, 0.5),
      injectors: p(1.1, 0.38),
      block: p(0.5, 1.1),
      exhaust: p(0.95, 1.15),
      gearbox: p(1.3, 0.95),
    },
  },
};

/** The plan of a vehicle with its engine where it is. */
export function layoutOf(vehicle: Vehicle, seat: EngineSeat): Layout {
  const layout = layouts[vehicle];
  if (vehicle !== 'car' || seat === 'front') return layout;
  // Behind the people: all of the engine's side turned about, in the middle a little less far.
  const shift = seat === 'middle' ? -0.35 : 0;
  const turn = (x: number) => layout.length - x + shift;
  const kept: ReadonlySet<string> = new Set(['cabin', 'front', 'ecu']);
  return {
    ...layout,
    wall: turn(layout.wall!),
    engine: { ...layout.engine, x: turn(layout.engine.x + layout.engine.width) },
    at: {
      ...(Object.fromEntries(
        Object.entries(layout.at).map(([name, { x, y }]) => [name, kept.has(name) ? { x, y } : { x: turn(x), y }]),
      ) as Layout['at']),
      ecu: { x: 1.9, y: layout.at.ecu.y },
      rear: { x: 0.9, y: layout.at.rear.y },
      battery: { x: 1.1, y: layout.at.battery.y },
      cabin: { x: 2.0, y: layout.at.cabin.y },
    },
  };
}

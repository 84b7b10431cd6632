import { hasRole, sensorsIn, trait, type DeviceKind, type Region } from '../devices/kind';
import type { EngineSeat, Point, Vehicle, Zone } from '../tree/tree';

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
  if (kind.sits) return kind.sits;
  const byRole = roleRegions.find(([role]) => hasRole(kind, role));
  if (byRole) return byRole[1];
  if (trait(kind, 'injector')) return 'injectors';
  if (trait(kind, 'coil')) return 'coils';
  if (kind.system === 'Fuel' && sensorsIn(kind).some(({ quantity }) => quantity === 'level')) return 'rear';
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
  readonly at: Readonly<Record<Region | Landmark, Point>>;
  /** From one tail of a column to the next at the most, and how deep the columns are: beside the engine's top, and below. */
  readonly step: number;
  readonly columns: Readonly<Record<'inside' | 'outside' | 'top', { readonly from: number; readonly depth: number }>>;
  /** The engine, as a box. */
  readonly engine: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
}
type Landmark = 'ecu' | 'inside' | 'outside' | 'top' | 'box' | 'battery';

const p = (x: number, y: number): Point => ({ x, y });
/** Where things are in a car with its engine in front; the other plans are drawn after it. */
const CAR = { length: 4.5, width: 2.7, wall: 1.95, step: 0.17 };
const engineBox = { x: 0.5, y: 0.78, width: 1.02, height: 1.1 };
const spots: Layout['at'] = {
  ecu: p(2.35, 0.4),
  inside: p(2.35, 1.3),
  outside: p(1.75, 1.3),
  top: p(1.75, 0.6),
  box: p(2.95, 2.2),
  battery: p(3.7, 2.2),
  cabin: p(2.85, 0.8),
  rear: p(4.0, 1.75),
  front: p(0.45, 2.35),
  intake: p(1.05, 0.18),
  coils: p(1.3, 0.86),
  injectors: p(1.3, 1.03),
  block: p(0.85, 1.02),
  exhaust: p(1.35, 2.5),
  gearbox: p(1.35, 2.15),
};

interface Shape {
  readonly length: number;
  readonly width: number;
  readonly hasWall: boolean;
  /** The engine sits where a car has its tank. */
  readonly turned: boolean;
}
const shapes: Readonly<Record<Vehicle, Shape>> = {
  car: { length: CAR.length, width: CAR.width, hasWall: true, turned: false },
  motorcycle: { length: 2.2, width: 1.3, hasWall: false, turned: false },
  boat: { length: 7, width: 3.6, hasWall: true, turned: true },
  kart: { length: 2, width: 1.5, hasWall: false, turned: true },
  stationary: { length: 2.4, width: 1.5, hasWall: false, turned: false },
};

/** The plan of a vehicle with its engine where it is. */
export function layoutOf(vehicle: Vehicle, seat: EngineSeat): Layout {
  const { length, width, hasWall, turned } = shapes[vehicle];
  const isTurned = vehicle === 'car' ? seat !== 'front' : turned;
  // In the middle the engine stands before the rear wheels, behind the people.
  const forward = vehicle === 'car' && seat === 'middle' ? 0.4 : 0;
  const x = (at: number) => round((isTurned ? CAR.length - forward - at : at) * (length / CAR.length));
  const y = (at: number) => round(at * (width / CAR.width));
  const box = isTurned ? engineBox.x + engineBox.width : engineBox.x;
  return {
    length,
    width,
    wall: hasWall ? x(CAR.wall) : null,
    step: CAR.step * (width / CAR.width),
    columns: {
      top: { from: y(0.18), depth: y(0.72) },
      outside: { from: y(1.02), depth: y(1.55) },
      inside: { from: y(0.8), depth: y(1.15) },
    },
    at: Object.fromEntries(
      Object.entries(spots).map(([name, spot]) => [name, { x: x(spot.x), y: y(spot.y) }]),
    ) as Layout['at'],
    engine: {
      x: x(box),
      y: y(engineBox.y),
      width: round(engineBox.width * (length / CAR.length)),
      height: y(engineBox.height),
    },
  };
}
const round = (value: number): number => Math.round(value * 100) / 100;

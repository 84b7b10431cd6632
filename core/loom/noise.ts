import type { Build } from '../build/schema';
import { hasRole, trait, type DeviceKind } from '../devices/kind';
import { deviceAt } from '../ends/ends';
import type { Netlist, Wire } from '../netlist/netlist';
import { wholeWires } from '../netlist/whole';
import { deviceThing, placesOf } from '../tree/things';
import type { LoomTree, Point } from '../tree/tree';
import { waysOf } from '../tree/ways';

/** What a quiet wire is kept away from. */
export type Loud = 'coil' | 'injector' | 'machine';
export const loudWords: Readonly<Record<Loud, string>> = {
  coil: 'the coils',
  injector: 'the injectors',
  machine: 'starter and alternator',
};
/** Pieces of the loom nearer than this to each other are as good as one bundle, metres (common practice: 100 mm). */
export const NEAR_METRES = 0.1;
/** Metres beside a loud wire that do no harm (common practice). */
export const HARMLESS_METRES = 0.3;

/** What of a device switches hard: a coil's primary, an injector, a starter or an alternator. */
export function loudOf(kind: DeviceKind): Loud | null {
  if (trait(kind, 'coil') || trait(kind, 'igniter')) return 'coil';
  if (trait(kind, 'injector')) return 'injector';
  return hasRole(kind, 'starter') || hasRole(kind, 'alternator') ? 'machine' : null;
}

/** What is in each piece of the tree that is loud: wires that switch hard, and the tail that ends at what makes sparks. */
function loudSegments(build: Build, net: Netlist): ReadonlyMap<string, ReadonlySet<Loud>> {
  const loud = new Map<string, Set<Loud>>();
  const add = (segment: string, what: Loud) => {
    const at = loud.get(segment);
    if (at) at.add(what);
    else loud.set(segment, new Set([what]));
  };
  const places = placesOf(build.tree);
  for (const { device, kind } of net.devices) {
    const what = loudOf(kind);
    const node = places.get(deviceThing(device.id));
    if (what === null || node === undefined) continue;
    for (const [id, { a, b }] of Object.entries(build.tree.segments)) if (a === node || b === node) add(id, what);
  }
  // A feed is as loud as what hangs on it: a trunk of coils carries the primaries of all.
  const feeds = new Map(
    net.circuits.map(({ id, loads }) => {
      const kinds = loads.flatMap(({ end }) => net.deviceOf.get(deviceAt(end) ?? '')?.kind ?? []);
      return [id, loudest(kinds.map(loudOf).filter((what) => what !== 'injector'))];
    }),
  );
  for (const wire of net.wires) {
    const what = loudWire(net, wire, feeds);
    if (what) for (const segment of wire.route) add(segment, what);
  }
  return loud;
}

/** Coils before machines, where several hang on one feed. */
const loudest = (all: readonly (Loud | null)[]): Loud | null =>
  all.includes('coil') ? 'coil' : all.includes('machine') ? 'machine' : null;

/**
 * What a wire switches hard: an injector's output; of a coil and its igniter its feed, its return and its primary, but not the small
 * signal that tells it when; whatever leads to a starter or an alternator.
 */
function loudWire(net: Netlist, wire: Wire, feeds: ReadonlyMap<string, Loud | null>): Loud | null {
  if (wire.signal === 'injector') return 'injector';
  const kind = net.deviceOf.get(wire.deviceId ?? '')?.kind;
  const own = kind ? loudOf(kind) : null;
  if (own === 'machine') return 'machine';
  if (own === 'coil') {
    const tells =
      wire.signal === 'ignition' && (trait(kind!, 'igniter') !== null || trait(kind!, 'coil')?.igniter === true);
    return tells ? null : 'coil';
  }
  return feeds.get(wire.circuitId ?? '') ?? null;
}

/** Least distance between a point and a line between two others. */
function distance(p: Point, a: Point, b: Point): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const length = dx * dx + dy * dy;
  const share = length === 0 ? 0 : Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / length));
  return Math.hypot(p.x - a.x - share * dx, p.y - a.y - share * dy);
}
/** Steps in which a piece is walked to see what it runs beside. */
const STEPS = 40;
/** Metres of one piece that run within reach of another on the plan; of two that meet at a place the plan does not tell. */
export function besideMetres(tree: LoomTree, one: string, other: string): number {
  const [s, t] = [tree.segments[one]!, tree.segments[other]!];
  const at = (id: string) => tree.nodes[id]!.at;
  const [a, b, c, d] = [at(s.a), at(s.b), at(t.a), at(t.b)];
  if ([s.a, s.b].some((id) => id === t.a || id === t.b)) return 0;
  let near = 0;
  for (let i = 0; i < STEPS; i += 1) {
    const share = (i + 0.5) / STEPS;
    const p = { x: a.x + (b.x - a.x) * share, y: a.y + (b.y - a.y) * share };
    if (distance(p, c, d) < NEAR_METRES) near += 1;
  }
  return (near / STEPS) * s.metres;
}

/** A quiet cable, and how far it runs with or beside what switches hard. */
export interface Noise {
  /** Its device. */
  readonly deviceId: string;
  readonly label: string;
  readonly wire: Wire;
  readonly screened: boolean;
  readonly loud: Loud;
  readonly bundledMetres: number;
  readonly besideMetres: number;
  /** Where most of it is. */
  readonly segment: string;
  /** A way round that has less of it, by the piece to be gone by; null: the tree has none. */
  readonly better: string | null;
}

/** A cable that is kept away from what switches hard. */
export const isQuiet = (kind: DeviceKind): boolean => trait(kind, 'trigger') !== null || hasRole(kind, 'knock');

/** Trigger and knock cables by what they run beside, worst first. O(quiet cables · segments²) over a plan of dozens of pieces. */
export function noiseOf(build: Build, net: Netlist): Noise[] {
  const { tree } = build;
  const loud = loudSegments(build, net);
  if (loud.size === 0) return [];
  const ways = waysOf(tree);
  const wholes = wholeWires(net);
  const beside = new Map<string, number>();
  const besideOf = (one: string, other: string): number => {
    const key = `${one} ${other}`;
    const known = beside.get(key) ?? besideMetres(tree, one, other);
    beside.set(key, known);
    return known;
  };
  const along = (route: readonly string[], what: Loud) => {
    let [bundled, near, worst, most] = [0, 0, '', 0];
    for (const id of route) {
      const inBundle = loud.get(id)?.has(what) ? tree.segments[id]!.metres : 0;
      const nearby =
        inBundle > 0
          ? 0
          : Math.max(
              0,
              ...[...loud].flatMap(([other, at]) => (other !== id && at.has(what) ? [besideOf(id, other)] : [])),
            );
      bundled += inBundle;
      near += nearby;
      if (inBundle + nearby > most) [worst, most] = [id, inBundle + nearby];
    }
    return { bundled, near, worst };
  };
  const found: Noise[] = [];
  for (const { device, kind } of net.devices) {
    if (!isQuiet(kind)) continue;
    const whole = [...wholes.values()].find(
      ({ pieces: [first], route: all }) => first!.deviceId === device.id && first!.needId !== null && all.length > 0,
    );
    if (!whole) continue;
    const { route } = whole;
    const wire = whole.pieces[0]!;
    for (const what of ['coil', 'injector', 'machine'] as const) {
      const { bundled, near, worst } = along(route, what);
      if (bundled + near === 0) continue;
      const [first, last] = ends(tree, route);
      const better = Object.keys(tree.segments).find((id) => {
        if (route.includes(id)) return false;
        const way = ways.by(first, last, id);
        if (!way) return false;
        const other = along(way.segments, what);
        return other.bundled + other.near < bundled + near - NEAR_METRES;
      });
      found.push({
        deviceId: device.id,
        label: device.label,
        wire,
        screened: kind.shielded || kind.twisted,
        loud: what,
        bundledMetres: bundled,
        besideMetres: near,
        segment: worst,
        better: better ?? null,
      });
    }
  }
  return found.sort((one, other) => other.bundledMetres + other.besideMetres - one.bundledMetres - one.besideMetres);
}

/** The two places a route leads between. */
function ends({ segments }: LoomTree, route: readonly string[]): readonly [string, string] {
  const [first, last] = [segments[route[0]!]!, segments[route[route.length - 1]!]!];
  if (route.length === 1) return [first.a, first.b];
  const [second, before] = [segments[route[1]!]!, segments[route[route.length - 2]!]!];
  const free = (own: typeof first, next: typeof first) => (own.a === next.a || own.a === next.b ? own.b : own.a);
  return [free(first, second), free(last, before)];
}

import type { Build } from '../build/schema';
import { withId } from '../data/with-id';
import { cavityCount } from '../ecu/face';
import { pinAt } from '../ends/ends';
import type { Netlist, Wire } from '../netlist/netlist';
import { ECU_THING, deviceOfThing } from '../tree/things';
import { celsiusOf, type Covering, type Segment } from '../tree/tree';
import { inPiece, warmShare } from '../power/census';
import { conductorCelsius, wireSize } from '../wire/wire';
import { packCircles, type Packing } from './packing';

/** What a covering adds to the diameter of what is in it (common practice). */
const coveringFactor: Readonly<Record<Covering, number>> = {
  none: 1,
  tape: 1.05,
  conduit: 1.25,
  braid: 1.15,
  sealed: 1.12,
};
export const coveringWords: Readonly<Record<Covering, string>> = {
  none: 'none',
  tape: 'tape',
  conduit: 'split conduit',
  braid: 'braid',
  sealed: 'sealed sleeve',
};
/** What a covering stands, °C (common practice: woven tape, polypropylene conduit, polyester braid, cross-linked sleeve). */
export const coveringCelsius: Readonly<Record<Covering, number>> = {
  none: Infinity,
  tape: 125,
  conduit: 105,
  braid: 150,
  sealed: 125,
};
/** Sizes that sleeves are sold in, mm: shrink tube by its bore as supplied, braid and conduit by their bore (common practice). */
const sleeveSizes: Readonly<Record<Exclude<Covering, 'none' | 'tape'>, readonly number[]>> = {
  sealed: [3.2, 4.8, 6.4, 9.5, 12.7, 19, 25.4, 38, 51],
  braid: [3, 4, 6, 8, 10, 12, 15, 20, 25, 30, 40, 50],
  conduit: [4.5, 7.5, 10, 13, 17, 22, 26, 29, 36, 50],
};
/** A sleeve is drawn over what is in it: so much room more than the bundle (common practice). */
const DRAWN_OVER = 1.1;

/** Diameter over the insulation of a wire, mm. */
export const outerMillimetres = (squareMm: number): number =>
  wireSize(squareMm)?.outerMm ?? 1.13 * Math.sqrt(squareMm) + 0.7;

/** Grams per cubic centimetre of copper (IEC 60028) and of thin-wall insulation (common practice). */
const COPPER_DENSITY = 8.89;
const INSULATION_DENSITY = 1.4;
/** Grams of a metre of wire. */
export function gramsPerMetre(squareMm: number): number {
  const outer = outerMillimetres(squareMm);
  return squareMm * COPPER_DENSITY + Math.max(0, (Math.PI / 4) * outer * outer - squareMm) * INSULATION_DENSITY;
}

/** Wires as they lie beside each other, bare and covered. */
export interface Bundle {
  readonly wires: readonly Wire[];
  /** Each wire where it lies, mm from the middle. */
  readonly laid: Packing['circles'];
  readonly bareMillimetres: number;
  /** Over the covering. */
  readonly millimetres: number;
}

export function bundleOf(wires: readonly Wire[], covering: Covering): Bundle {
  const { circles, diameter } = packCircles(wires.map(({ squareMm }) => outerMillimetres(squareMm)));
  return { wires, laid: circles, bareMillimetres: diameter, millimetres: diameter * coveringFactor[covering] };
}

/** Bundles of fewer wires lie as they are packed; hands lay more no worse than by the rule of the trade. */
const RULED = 7;
/** What a bundle is judged by at a hole, mm: as it is packed, or as the trade has it (1.2 times the root) where that is less. */
export const judgedMillimetres = (wires: readonly Wire[], covering: Covering): number => {
  const { millimetres } = bundleOf(wires, covering);
  return wires.length < RULED ? millimetres : Math.min(millimetres, roughMillimetres(wires) * coveringFactor[covering]);
};

/** The trunk at the ECU: every wire on an ECU cavity, as they lie in it. */
export const trunkOf = (build: Build, net: Netlist): Bundle => bundleOf(trunkWires(net), build.loom.covering);
export const trunkWires = (net: Netlist): Wire[] =>
  net.wires.filter((wire) => [wire.from, wire.to].some((end) => pinAt(end) !== null));

/** Wires by the piece of the tree they lie in, in the order of the netlist. */
export function wiresBySegment(net: Netlist): ReadonlyMap<string, readonly Wire[]> {
  const wires = new Map<string, Wire[]>();
  for (const wire of net.wires)
    for (const segment of wire.route) {
      const in_ = wires.get(segment);
      if (in_) in_.push(wire);
      else wires.set(segment, [wire]);
    }
  return wires;
}

export const coveringOf = (build: Build, segment: Segment): Covering => segment.covering ?? build.loom.covering;

/** What warms a wire, amperes: what is drawn for good, not what it must stand for a moment. */
export type Warm = (wire: Wire) => number;
export function warmAmps({ needs }: Pick<Netlist, 'needs'>): Warm {
  const asks = new Map(needs.map(({ id, ask }) => [id, ask.kind]));
  return ({ needId, amps }) => {
    return amps * warmShare(asks.get(needId ?? ''));
  };
}

/** The wire that gets warmest in a piece, and how warm, °C. */
export interface Hottest {
  readonly wire: Wire;
  readonly celsius: number;
}
export function hottestIn(
  wires: readonly Wire[],
  around: Parameters<typeof conductorCelsius>[2],
  warm: Warm = (wire) => wire.amps,
): Hottest | null {
  let hottest: Hottest | null = null;
  for (const wire of wires) {
    const celsius = conductorCelsius(wire.squareMm, warm(wire), around);
    if (hottest === null || celsius > hottest.celsius) hottest = { wire, celsius };
  }
  return hottest;
}

/** A piece of the tree with what lies in it. */
export interface SegmentFigures extends Bundle {
  readonly id: string;
  readonly segment: Segment;
  readonly covering: Covering;
  /** Bore of the sleeve to buy, mm; null: tape, nothing, or thicker than any. */
  readonly sleeveMillimetres: number | null;
  /** About how thick it is, known without laying its wires: for a drawing. */
  readonly roughMillimetres: number;
  readonly grams: number;
  readonly celsius: number;
  readonly loaded: number;
  readonly hottest: Hottest | null;
  /** Twisted or shielded cables that lie in it whole. */
  readonly cables: number;
  readonly fits: boolean | null;
}

export function sleeveFor(covering: Covering, bareMillimetres: number): number | null {
  if (covering === 'none' || covering === 'tape') return null;
  return sleeveSizes[covering].find((size) => size >= bareMillimetres * DRAWN_OVER) ?? null;
}

/** Figures of one piece of the tree. What takes the laying of its wires is worked out when it is first asked for. */
export function segmentFigures(
  build: Build,
  { power: { census } }: Pick<Netlist, 'power'>,
  id: string,
  wires: readonly Wire[],
  warm: Warm,
): SegmentFigures {
  const segment = build.tree.segments[id]!;
  const covering = coveringOf(build, segment);
  const celsius = celsiusOf(segment);
  let laid: Bundle | null = null;
  const bundle = (): Bundle => (laid ??= bundleOf(wires, covering));
  return {
    id,
    segment,
    covering,
    wires,
    celsius,
    get laid() {
      return bundle().laid;
    },
    get bareMillimetres() {
      return bundle().bareMillimetres;
    },
    get millimetres() {
      return bundle().millimetres;
    },
    get sleeveMillimetres() {
      return sleeveFor(covering, bundle().bareMillimetres);
    },
    get fits() {
      return segment.hole ? judgedMillimetres(wires, covering) <= segment.hole.millimetres : null;
    },
    roughMillimetres: roughMillimetres(wires),
    grams: segment.metres * wires.reduce((sum, { squareMm }) => sum + gramsPerMetre(squareMm), 0),
    loaded: census.get(id) ?? 0,
    hottest: hottestIn(wires, inPiece(build, census, id), warm),
    cables: new Set(wires.flatMap(({ cable }) => cable ?? [])).size,
  };
}

/** About how thick a bundle is: 1.2 times the root of what its wires' diameters are squared together (common practice). */
const ROUGH = 1.2;
const roughMillimetres = (wires: readonly Wire[]): number =>
  ROUGH * Math.sqrt(wires.reduce((sum, { squareMm }) => sum + outerMillimetres(squareMm) ** 2, 0));

/** Every piece of the tree with its figures, in the tree's order. O(wires); each bundle is laid when it is asked for. */
export function allFigures(build: Build, net: Netlist): SegmentFigures[] {
  const wires = wiresBySegment(net);
  const warm = warmAmps(net);
  return Object.keys(build.tree.segments).map((id) => segmentFigures(build, net, id, wires.get(id) ?? [], warm));
}

/** Grams of the whole loom's wire. */
export const loomGrams = (net: Netlist): number =>
  net.wires.reduce((sum, { squareMm, lengthMetres }) => sum + gramsPerMetre(squareMm) * lengthMetres, 0);

/** What a connector is across, mm, where nobody measured it: by its cavities, in the rows such are made in (common practice). */
export function usualPlugMillimetres(cavities: number): number {
  const rows = cavities <= 6 ? 1 : cavities <= 16 ? 2 : cavities <= 47 ? 3 : 5;
  const [wide, high] = [12 + 4 * Math.ceil(cavities / rows), 12 + 5 * rows];
  return Math.round(Math.hypot(wide, high) * 0.85);
}

/** One thing that must pass a hole as the loom is pulled. */
export interface Passer {
  readonly name: string;
  readonly millimetres: number;
  /** Nobody measured it. */
  readonly isGuess: boolean;
}

/** The two ways of pulling a loom through a hole: what has to pass from either side, the largest first. */
export interface Pulling {
  readonly hole: number;
  readonly bundle: number;
  readonly fromA: readonly Passer[];
  readonly fromB: readonly Passer[];
}

/** What hangs on either side of a piece with a hole; null: it has none. A plug in the loom parts it: only its half is pulled. */
export function pullingOf(build: Build, net: Netlist, id: string): Pulling | null {
  const { tree } = build;
  const segment = tree.segments[id];
  if (!segment?.hole) return null;
  const beyond = (start: string): Passer[] => {
    const seen = new Set([start]);
    const queue = [start];
    const found: Passer[] = [];
    for (const node of queue) {
      found.push(...passersAt(build, net, node));
      // Behind a plug hangs another loom.
      if (tree.nodes[node]!.kind === 'plug') continue;
      for (const [piece, { a, b }] of Object.entries(tree.segments)) {
        if (piece === id || (a !== node && b !== node)) continue;
        const to = a === node ? b : a;
        if (!seen.has(to)) {
          seen.add(to);
          queue.push(to);
        }
      }
    }
    return found.sort((one, other) => other.millimetres - one.millimetres);
  };
  const wires = wiresBySegment(net).get(id) ?? [];
  return {
    hole: segment.hole.millimetres,
    bundle: judgedMillimetres(wires, coveringOf(build, segment)),
    fromA: beyond(segment.a),
    fromB: beyond(segment.b),
  };
}

function passersAt(build: Build, net: Netlist, node: string): Passer[] {
  const { plug, holds, name } = build.tree.nodes[node]!;
  if (plug) {
    const measured = plug.bareMillimetres ?? plug.shellMillimetres;
    return [
      {
        name: name || node,
        millimetres: measured ?? usualPlugMillimetres(plug.cavities),
        isGuess: measured === null,
      },
    ];
  }
  return holds.flatMap((thing): Passer[] => {
    if (thing === ECU_THING)
      return build.ecu.connectors.map((connector) => ({
        name: `${build.ecu.model} ${connector.id}`,
        millimetres: usualPlugMillimetres(build.ecu.pins.filter((pin) => pin.connector === connector.id).length),
        isGuess: true,
      }));
    const device = withId(build.devices, deviceOfThing(thing));
    const kind = device && net.deviceOf.get(device.id)?.kind;
    if (!kind) return [];
    const across = kind.face?.acrossMillimetres;
    const ways = kind.face ? cavityCount(kind.face) : kind.terminals.length;
    return [{ name: device.label, millimetres: across ?? usualPlugMillimetres(ways), isGuess: across === undefined }];
  });
}

import type { Build } from '../build/schema';
import type { AbilityKind } from '../ecu/ecu';
import { celsiusOf } from '../tree/tree';
import { groupingFactor, sizeFor, wireSize, type Surroundings } from '../wire/wire';

/*
 * Who carries current at the same time, piece by piece of the tree: counted once, for the sizes of feeds, outputs and returns alike,
 * and for how warm a bundle gets. Without a tree a small loom is taken as usual.
 */

/** Loaded circuits side by side in the power branch: 3 is common practice for a small loom. */
const BUNCHED = 3;
/** Hottest air the power branch is laid in; exhaust zones are for heat sleeves, not for feeds (common practice). */
const POWER_BRANCH_CELSIUS = 60;

/** What is round a wire that the tree does not have. */
export const surroundings = (build: Build): Surroundings => ({
  loadedCircuits: BUNCHED,
  ambientCelsius: Math.min(build.loom.zoneCelsius, POWER_BRANCH_CELSIUS),
  wireCelsius: build.loom.wireCelsius,
  series: build.loom.series,
});

/** A wire that carries: what warms it for good, what its size is asked for by, and the pieces it lies in. */
export interface Carrier {
  readonly warmAmps: number;
  readonly asks: number;
  readonly least: number;
  readonly route: readonly string[];
}

/** A valve that is worked in pulses, and a motor that mostly holds, warm their wires by so much of what they take (common practice). */
const PULSED_SHARE = 0.7;
const HOLDING_SHARE = 0.3;
/** The share of what an output is asked for that warms its wire for good. */
export const warmShare = (kind: AbilityKind | undefined): number =>
  kind === 'half-bridge' ? HOLDING_SHARE : kind === 'injector' ? PULSED_SHARE : 1;

/** A wire that carries under so much of what it may in its group is no loaded one of it (IEC 60364-5-52, 523.5). */
export const COUNTED_FROM = 0.3;

/** How many of these shares of what a wire carries alone count as loaded: the bar falls as the group grows, so the count only rises. */
export function countLoaded(shares: readonly number[]): number {
  let count = 0;
  for (;;) {
    const least = COUNTED_FROM * groupingFactor(Math.max(1, count));
    const loaded = shares.filter((share) => share >= least).length;
    if (loaded <= count) return count;
    count = loaded;
  }
}

/** Loaded wires of each piece of the tree. */
export type Census = ReadonlyMap<string, number>;

/** Each wire is counted by the size its current asks of it alone, so that the count hangs on no size that hangs on it. */
export function censusOf(build: Build, carriers: Iterable<Carrier>): Census {
  const alone = { ...surroundings(build), loadedCircuits: 1 };
  const shares = new Map<string, number[]>();
  for (const { warmAmps, asks, least, route } of carriers) {
    if (route.length === 0 || warmAmps <= 0) continue;
    const share = warmAmps / (wireSize(sizeFor(asks, alone, least))?.amps ?? Infinity);
    for (const segment of route) {
      const at = shares.get(segment);
      if (at) at.push(share);
      else shares.set(segment, [share]);
    }
  }
  return new Map([...shares].map(([segment, all]) => [segment, countLoaded(all)]));
}

/** Room under the insulation's limit that a size is worked out with at the least: closer to it no size helps (PW-26 tells). */
const LEAST_ROOM_CELSIUS = 20;

/** What is round a wire in one piece of the tree. */
export const inPiece = (
  build: Build,
  census: Census,
  id: string,
): Pick<Surroundings, 'loadedCircuits' | 'ambientCelsius'> => ({
  loadedCircuits: Math.max(1, census.get(id) ?? 1),
  ambientCelsius: celsiusOf(build.tree.segments[id]!),
});

/** What is round each wire: the hottest piece it runs through, and the piece in which most loaded wires lie with it. */
export function surroundingsIn(build: Build, census: Census): (route: readonly string[] | undefined) => Surroundings {
  const usual = surroundings(build);
  const { segments } = build.tree;
  return (route = []) => {
    const known = route.filter((id) => segments[id] !== undefined);
    if (known.length === 0) return usual;
    const pieces = known.map((id) => inPiece(build, census, id));
    return {
      ...usual,
      loadedCircuits: Math.max(...pieces.map(({ loadedCircuits }) => loadedCircuits)),
      ambientCelsius: Math.min(
        Math.max(...pieces.map(({ ambientCelsius }) => ambientCelsius)),
        usual.wireCelsius - LEAST_ROOM_CELSIUS,
      ),
    };
  };
}

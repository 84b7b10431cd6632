import { align } from './align';
import { anglesOf } from './path';
import { camRound, type CamRound } from './cam-round';
import { judge, refine } from './judge';
import type { Row } from './rows';
import type { Track } from './tracks';

// Hot loops look these up once.
const { max, round } = Math;

/** Pulses over which those of a cycle are counted: many cycles of the finest disc. */
const COUNTED = 6000;
/** Neighbours on each side that tell how long one tooth takes. */
const NEIGHBOURS = 3;
/** Agreement of cam edges that leaves no doubt. */
const CLEAR = 0.85;

/**
 * Even places of a cycle, counted between the cam's edges with lost pulses filled in; null where the cam does not come round.
 * Fine teeth are counted by their neighbours; coarse ones, whose speed changes from one to the next, by a path, in the end
 * together with compression's swing.
 */
export function placesPerCycle(cam: Track, rows: readonly Row[]): number | null {
  const ways = [evenPlaces, pathPlaces, swingPlaces].flatMap((placesOf) =>
    rows.map(({ pulses }) => ({ pulses, placesOf })),
  );
  let best: CamRound | null = null;
  for (const { pulses, placesOf } of ways) {
    const found = countedBy(cam, pulses, placesOf);
    if (found && (!best || found.share > best.share)) best = found;
    if (best && best.share >= CLEAR) break;
  }
  return best && best.rounds;
}

function countedBy(
  cam: Track,
  pulses: Float64Array,
  placesOf: (pulses: Float64Array) => Float64Array | null,
): CamRound | null {
  const spare = max(0, pulses.length - COUNTED) >> 1;
  const many = pulses.subarray(spare, spare + COUNTED);
  const places = placesOf(many);
  return places && camRound(cam, many, places, 1, 1);
}

/** Even teeth counted on: an interval as long as two of its neighbours is two teeth, whatever the speed does. */
function evenPlaces(seconds: Float64Array): Float64Array {
  const steps = seconds.subarray(1).map((time, i) => time - seconds[i]!);
  const places = new Float64Array(seconds.length);
  for (let i = 0; i < steps.length; i += 1) {
    const around = steps.slice(max(0, i - NEIGHBOURS), i + NEIGHBOURS + 1).sort();
    places[i + 1] = places[i]! + round(steps[i]! / around[around.length >> 1]!);
  }
  return places;
}

/** Degrees of a tooth taken for even ones whose number is not known: the swing's orders need a scale. */
const STEP = 30;
const pathPlaces = (seconds: Float64Array): Float64Array => anglesOf(align([STEP], seconds), [1], seconds);

/** Finer teeth than these are counted well without it. */
const FEW = 600;
const swingPlaces = (seconds: Float64Array): Float64Array | null => {
  if (seconds.length > FEW) return null;
  const [pattern, count] = [[STEP], seconds.length];
  const { degrees } = refine(judge(pattern, seconds, 0, count, 0), pattern, seconds, 0, count, 0);
  return degrees.map((angle) => angle / STEP);
};

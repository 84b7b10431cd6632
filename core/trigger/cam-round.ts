import { anglesAt } from './cam';
import { showsSides, type Track } from './tracks';

// Hot loops look these up once.
const { abs, max, min, round } = Math;

/** After how many repeats of the crank's pattern the cam's signal comes round. */
export interface CamRound {
  readonly rounds: number;
  /** Share of the edges that come round to within a part of a tooth; few say little (Laplace's rule of succession). */
  readonly share: number;
  /** It also comes round within: its windows are all alike, and evenly spread. */
  readonly evenly: boolean;
}

/** Cam edges that are held against each other: many cycles of the finest cam. */
const EDGES_MOST = 240;
/** Share of the cam's edges that must come round; one in fifty may be lost, and then two of them are alone. */
const AGREE = 0.7;
/** Share within which a shorter round is as good as the best. */
const AS_GOOD = 0.08;
/** By how much they may be off: part of a tooth, and at least some degrees. */
const OFF_TEETH = 0.35;
const OFF_DEGREES = 8;
/** Even teeth of a long round are counted with an error, as a share and at most: the middle of those nearby is right. */
const OFF_SHARE = 0.04;
const OFF_COUNT = 2.2;
/** Even windows a cycle that are looked for. */
const WINDOWS_MOST = 8;

/**
 * Counted on the crank's own teeth, so speed does not matter: the smallest number of repeats by which nearly all edges of the
 * cam may be shifted to lie on others of their kind. Edges are compared as a set, so that one lost or added spoils no more
 * than itself. Null when the cam never comes round.
 *
 * @param degrees Crank angle of each pulse, on any scale; `span` one repeat of the pattern on it, `teeth` the teeth in it.
 */
export function camRound(
  cam: Track,
  pulses: Float64Array,
  degrees: Float64Array,
  span: number,
  teeth: number,
): CamRound | null {
  const square = showsSides(cam);
  // Rises lie among rises, falls among falls: two rows of places, in repeats of the pattern.
  const rows = [0, 1].map((level) => {
    if (!square && level === 1) return [];
    const own = cam.edges.seconds.filter((_, i) => cam.edges.level[i] === level);
    const places = [...anglesAt(own, pulses, degrees)].filter((angle) => !Number.isNaN(angle));
    return places.slice(0, EDGES_MOST).map((angle) => angle / span);
  });
  // Between two teeth the angle is only as good as the speed is even.
  const near = min(OFF_TEETH, max(OFF_TEETH / teeth, OFF_DEGREES / span));
  const wide = (rounds: number) => (teeth === 1 ? max(near, min(OFF_COUNT, OFF_SHARE * rounds)) : near);
  const pairs = rows.flatMap((row) => row.flatMap((from, i) => row.slice(i + 1).map((to) => to - from)));
  /** Of the edges that have room for it, the share that find one of their kind so much later. */
  const agreement = (rounds: number, off = wide(rounds)): number => {
    let [found, room] = [0, 0];
    for (const row of rows) {
      let at = 0;
      for (const place of row) {
        const target = place + rounds;
        if (target > row[row.length - 1]! + off) break;
        while (at < row.length && row[at]! < target - off) at += 1;
        room += 1;
        if (at < row.length && row[at]! <= target + off) found += 1;
      }
    }
    return (found + 1) / (room + 2);
  };
  const tried = [...new Set(pairs.map(round))].filter((rounds) => rounds >= 1).sort((one, other) => one - other);
  const shares = tried.map((rounds) => agreement(rounds));
  const most = max(0, ...shares);
  if (most < AGREE) return null;
  const first = tried[shares.findIndex((share) => share >= most - AS_GOOD)]!;
  const like = pairs.filter((pair) => abs(pair - first) <= wide(first)).sort((one, other) => one - other);
  const rounds = max(1, round(like[like.length >> 1]!));
  const evenly = Array.from({ length: WINDOWS_MOST - 1 }, (_, i) => i + 2).some(
    (windows) => agreement(rounds / windows) >= most - AS_GOOD,
  );
  return { rounds, share: agreement(rounds, near), evenly };
}

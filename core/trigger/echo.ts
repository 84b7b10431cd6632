import type { Edges } from './capture/signal';
import { commonest } from './trials';

// Hot loops look these up once.
const { max } = Math;

/** Height over the usual one nearby below which a lobe is none of a tooth's (common practice: teeth differ by a fifth). */
const WEAK = 0.65;
/** Lobes nearby on each side. */
const NEARBY = 4;
/** Share of the lobes up to which such are in a gap. */
const MOST = 0.34;

/** Waits that tell something, and the share of them that must be in step. */
const [WAITS_LEAST, IN_STEP] = [3, 0.75];
/** Pulses a turn or several have, where some of its pulses lie so far apart: not every gap swings back. Null where they do not. */
function stepOf(pulses: readonly number[]): number | null {
  const waits = pulses.slice(1).map((pulse, i) => pulse - pulses[i]!);
  const turn = commonest(waits) ?? 0;
  const many = waits.length >= WAITS_LEAST && waits.filter((one) => one % turn === 0).length >= IN_STEP * waits.length;
  return turn > 1 && many ? turn : null;
}

/** A crossing that may be an echo: its number of all, and of those of its kind. */
interface Doubtful {
  readonly edge: number;
  readonly i: number;
  readonly weak: boolean;
}

/** Those of the doubtful that lie in step with the weak ones: some swing back nearly as high as a tooth. */
function echoesOf(doubtful: readonly Doubtful[]): Doubtful[] {
  const weak = doubtful.filter((one) => one.weak);
  const turn = stepOf(weak.map(({ i }, before) => i - before));
  if (turn === null) return [];
  const first = weak[0]!;
  // Echoes behind the first weak one: they are no pulses of the wheel between the two.
  let gone = 0;
  return doubtful.filter((one) => {
    const between = one.i < first.i ? first.i - one.i - 1 : one.i - first.i - 1 - gone;
    const found = one.weak || between % turn === 0;
    if (found && one.i > first.i) gone += 1;
    return found;
  });
}

/**
 * Crossings within a gap that no tooth gave: behind a capacitor the signal swings back over zero while it waits for the next tooth.
 * Each is far lower than the lobes nearby, its other crossing is not there, and they lie turns apart.
 *
 * @returns The edges without them, and how many they were; the same edges where there are none. Cost: one pass, and 9 log 9 for each doubtful one.
 */
export function withoutEchoes(edges: Edges): { readonly edges: Edges; readonly echoes: number } {
  const { level, height } = edges;
  const gone = new Set<number>();
  for (const kind of [0, 1]) {
    const own = Array.from(level.keys()).filter((i) => level[i] === kind);
    const doubtful = own.flatMap((edge, i) => {
      // The tooth behind a gap may be low too: the echo is the lowest of those without a crossing between.
      const beside = [edge - 1, edge + 1].filter((one) => level[one] === kind);
      if (beside.length === 0 || beside.some((one) => height[one]! < height[edge]!)) return [];
      const near = own.slice(max(0, i - NEARBY), i + NEARBY + 1).map((one) => height[one]!);
      const usual = near.sort((one, other) => one - other)[near.length >> 1]!;
      return height[edge]! < usual ? [{ edge, i, weak: height[edge]! < WEAK * usual }] : [];
    });
    const echoes = echoesOf(doubtful);
    if (echoes.length <= MOST * own.length) for (const { edge } of echoes) gone.add(edge);
  }
  if (gone.size === 0) return { edges, echoes: 0 };
  const kept = <T extends Float64Array | Float32Array | Uint8Array>(all: T): T =>
    all.filter((_: number, i: number) => !gone.has(i)) as T;
  const { at, seconds, lobe } = edges;
  return {
    edges: { at: kept(at), seconds: kept(seconds), level: kept(level), height: kept(height), lobe: kept(lobe) },
    echoes: gone.size,
  };
}

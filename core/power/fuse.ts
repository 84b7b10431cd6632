/**
 * Blade fuses by ISO 8820-3. The fuse protects the wire, stands close to its source, and carries at most 80 % of its
 * rating continuously (common practice).
 */

/** Ratings of blade fuses, amperes (ISO 8820-3 types C and E, 5 to 80 A). */
export const fuseRatings: readonly number[] = [3, 5, 7.5, 10, 15, 20, 25, 30, 40, 50, 60, 80];

/** Volts lost across a blade fuse at its rating (common practice: about 0.1 V): its resistance falls as its rating grows. */
const FUSE_VOLTS = 0.1;
export const fuseOhms = (ratingAmps: number): number => FUSE_VOLTS / ratingAmps;

/** Continuous share of the rating that may be used (common practice). */
export const CONTINUOUS_SHARE = 0.8;

/** Smallest rating whose 80 % covers the load, or null above the largest. */
export const fuseFor = (loadAmps: number): number | null =>
  fuseRatings.find((rating) => rating * CONTINUOUS_SHARE >= loadAmps - 1e-9) ?? null;

const openingTable: readonly (readonly [share: number, least: number, most: number])[] = [
  [1.35, 0.75, 600],
  [1.6, 0.25, 50],
  [2.0, 0.15, 5],
  [3.5, 0.04, 0.5],
  [6.0, 0.02, 0.1],
];

/**
 * Opening time in seconds at a current, as the standard's limits: the row at or below the current's share of the rating.
 * `null` when the fuse must carry the current (110 % for 100 h).
 */
export function openingSeconds(ratingAmps: number, amps: number): { least: number; most: number } | null {
  const share = amps / ratingAmps;
  let row: { least: number; most: number } | null = null;
  for (const [limit, least, most] of openingTable) if (share >= limit - 1e-9) row = { least, most };
  return row;
}

/**
 * How long a fuse usually takes at a current: the middle of the standard's limits, drawn straight between its rows on logarithmic
 * axes. Infinite below the least row, where it may carry the current for good.
 */
export function usualOpeningSeconds(ratingAmps: number, amps: number): number {
  const share = Math.log(amps / ratingAmps);
  const rows = openingTable.map(([at, least, most]) => [Math.log(at), Math.log(least * most) / 2] as const);
  if (share < rows[0]![0]) return Infinity;
  const next = rows.findIndex(([at]) => at > share);
  if (next < 0) return Math.exp(rows[rows.length - 1]![1]);
  const [[from, before], [to, after]] = [rows[next - 1]!, rows[next]!];
  return Math.exp(before + ((after - before) * (share - from)) / (to - from));
}

/** From so many times its rating on a fuse opens in the end (ISO 8820-3: within 600 s), and up to so many it carries for good. */
export const OPENS_FROM = openingTable[0]![0];
const CARRIES_TIMES = 1.1;

/** What a fuse makes of a current that goes on: it carries it, it opens in a span of time, or either. */
export type FuseFate =
  | { readonly is: 'carries' }
  | { readonly is: 'may-open'; readonly least: number }
  | { readonly is: 'opens'; readonly least: number; readonly most: number };

/**
 * By the limits of ISO 8820-3: up to 110 % it carries for 100 h, from 135 % on it opens. Between two rows of the standard it opens no
 * sooner than the next one allows and no later than the last one asks, seconds.
 */
export function fateOf(ratingAmps: number, amps: number): FuseFate {
  const share = Math.abs(amps) / ratingAmps;
  if (share <= CARRIES_TIMES + 1e-9) return { is: 'carries' };
  const above = openingTable.find(([limit]) => limit >= share - 1e-9) ?? openingTable[openingTable.length - 1]!;
  const opening = openingSeconds(ratingAmps, Math.abs(amps));
  return opening ? { is: 'opens', least: above[1], most: opening.most } : { is: 'may-open', least: above[1] };
}

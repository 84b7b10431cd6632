/**
 * Blade fuses by ISO 8820-3. The fuse protects the wire, stands close to its source, and carries at most 80 % of its
 * rating continuously (common practice).
 */

/** Ratings of blade fuses, amperes (ISO 8820-3 types C and E, 5 to 80 A). */
export const fuseRatings: readonly number[] = [3, 5, 7.5, 10, 15, 20, 25, 30, 40, 50, 60, 80];

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

/** The share of its rating from which on a fuse opens within so many seconds at the latest. */
export const opensWithin = (seconds: number): number =>
  openingTable.find(([, , most]) => most <= seconds)?.[0] ?? Infinity;

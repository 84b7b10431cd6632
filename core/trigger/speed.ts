/** Revolutions a minute a starter turns a warm engine at, and above which it runs by itself (common practice). */
export const CRANKING_RPM = 250;
export const CRANKING_MOST_RPM = 600;

/** Speed from the angles: mean over the whole, least and most over half turns, swing within a turn. */
export function speedOf(
  seconds: Float64Array,
  degrees: Float64Array,
): { rpm: { min: number; mean: number; max: number }; ripple: number } {
  const rows: number[] = [];
  for (let i = 0; i < seconds.length; i += 1) if (!Number.isNaN(degrees[i])) rows.push(i);
  const [first, last] = [rows[0]!, rows[rows.length - 1]!];
  if (rows.length < 2) return { rpm: { min: 0, mean: 0, max: 0 }, ripple: 0 };
  const rpmOf = (one: number, other: number) =>
    (degrees[other]! - degrees[one]!) / (seconds[other]! - seconds[one]!) / 6;
  const mean = rpmOf(first, last);
  // Spans of at least 30 degrees: a single tooth's jitter is not a speed.
  const speeds: { angle: number; rpm: number }[] = [];
  let from = 0;
  for (let k = 1; k < rows.length; k += 1) {
    if (degrees[rows[k]!]! - degrees[rows[from]!]! < 29.9) continue;
    speeds.push({ angle: degrees[rows[k]!]!, rpm: rpmOf(rows[from]!, rows[k]!) });
    from = k;
  }
  const all = speeds.map(({ rpm }) => rpm).sort((one, other) => one - other);
  const turns = new Map<number, { least: number; most: number }>();
  for (const { angle, rpm } of speeds) {
    const turn = Math.floor(angle / 360);
    const known = turns.get(turn);
    turns.set(
      turn,
      known ? { least: Math.min(known.least, rpm), most: Math.max(known.most, rpm) } : { least: rpm, most: rpm },
    );
  }
  const swings = [...turns.values()]
    .map(({ least, most }) => (2 * (most - least)) / (most + least))
    .sort((one, other) => one - other);
  return {
    rpm: { min: all[Math.floor(all.length * 0.01)] ?? mean, mean, max: all[Math.ceil(all.length * 0.99) - 1] ?? mean },
    ripple: swings[swings.length >> 1] ?? 0,
  };
}

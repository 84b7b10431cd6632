/** A wire to be cut, or what is on the shelf of one colour and size. */
export interface Piece {
  readonly id: string;
  readonly metres: number;
}
export interface Stock {
  readonly id: string;
  readonly metres: number;
}

/** What is cut from one spool or leftover, longest first. */
export interface Cut {
  /** Null: a spool that has to be bought. */
  readonly stockId: string | null;
  readonly metres: number;
  readonly pieces: readonly Piece[];
  /** What is left of it. */
  readonly left: number;
}

export interface CuttingPlan {
  readonly cuts: readonly Cut[];
  /** Pieces that are longer than any spool. */
  readonly tooLong: readonly Piece[];
  /** New spools that are begun. */
  readonly bought: number;
  /** No plan begins fewer. */
  readonly boundBought: number;
}

/** Lengths are cut to the centimetre; sums of them round. */
const ROUNDING = 1e-9;

/** Up to so many lengths the fewest spools are sought among all ways; beyond, and where that takes too long, best fit stands. */
const MOST_EXACT = 40;
/** So many ways are tried before it is given up: some tens of milliseconds. */
const MOST_TRIED = 60_000;
const MILLIMETRES = 1000;

interface Open {
  readonly stockId: string | null;
  readonly metres: number;
  readonly pieces: Piece[];
  left: number;
}

/** Longest first, each from the leftover in which least remains, and from a new spool where none takes it. */
function bestFit(longest: readonly Piece[], stock: readonly Stock[], spoolMetres: number) {
  const open = stock.map(({ id, metres }): Open => ({ stockId: id, metres, pieces: [], left: metres }));
  const tooLong: Piece[] = [];
  for (const piece of longest) {
    let best: Open | null = null;
    for (const one of open) {
      if (one.left + ROUNDING < piece.metres) continue;
      // Of two that leave as much the one that is begun already.
      if (best === null || one.left < best.left - ROUNDING) best = one;
    }
    if (best === null) {
      if (piece.metres > spoolMetres + ROUNDING) {
        tooLong.push(piece);
        continue;
      }
      best = { stockId: null, metres: spoolMetres, pieces: [], left: spoolMetres };
      open.push(best);
    }
    best.pieces.push(piece);
    best.left = Math.max(0, best.left - piece.metres);
  }
  return { open, tooLong };
}

/**
 * Whether lengths, longest first, go into these leftovers: each into the one it fills best first, leftovers as long as one that was
 * tried are not tried again, and what is shorter than the shortest length left is counted as lost (branch and bound after
 * S. Martello and P. Toth, Knapsack Problems, 1990, chapter 8).
 *
 * @returns The leftover of each length; `false` where there is no way; null where too many had to be tried.
 */
function placed(lengths: readonly number[], room: readonly number[]): readonly number[] | false | null {
  const left = [...room];
  const at: number[] = [];
  const sums = lengths.map((_, i) => lengths.slice(i).reduce((sum, one) => sum + one, 0));
  const least = lengths[lengths.length - 1] ?? 0;
  const failed = new Set<string>();
  let tried = 0;
  const search = (next: number): boolean | null => {
    if (next === lengths.length) return true;
    if ((tried += 1) > MOST_TRIED) return null;
    let usable = 0;
    for (const one of left) if (one >= least) usable += one;
    if (usable < sums[next]!) return false;
    const state = `${next} ${[...left]
      .filter((one) => one >= least)
      .sort((a, b) => a - b)
      .join()}`;
    if (failed.has(state)) return false;
    const length = lengths[next]!;
    const seen = new Set<number>();
    const order = left
      .map((remains, bin) => ({ remains, bin }))
      .filter(({ remains }) => remains >= length && !seen.has(remains) && seen.add(remains))
      .sort((one, other) => one.remains - other.remains);
    for (const { remains, bin } of order) {
      left[bin] = remains - length;
      at[next] = bin;
      const found = search(next + 1);
      left[bin] = remains;
      if (found !== false) return found;
      // What fills a leftover to the end is nowhere better.
      if (remains === length) break;
    }
    failed.add(state);
    return false;
  };
  const found = search(0);
  return found === true ? at : found;
}

/** Lengths of one leftover that are tried before the best found so far is taken. */
const MOST_FILLED = 4000;

/**
 * Each leftover in turn filled as full as the lengths left allow, the longest of them in it (minimum bin slack, J. N. D. Gupta and
 * J. C. Ho 1999): finds what fits to the last centimetre, where placing length by length takes too long.
 *
 * @returns The leftover of each length; null where not all found one.
 */
function filled(lengths: readonly number[], room: readonly number[]): readonly number[] | null {
  const at: number[] = lengths.map(() => -1);
  const bins = room.map((_, bin) => bin).sort((one, other) => room[one]! - room[other]!);
  for (const bin of bins) {
    const open = lengths.map((_, i) => i).filter((i) => at[i]! < 0 && lengths[i]! <= room[bin]!);
    let best: readonly number[] = [];
    let least = room[bin]!;
    let tried = 0;
    const fill = (from: number, left: number, chosen: readonly number[]): boolean => {
      if (left < least) [best, least] = [chosen, left];
      if (least === 0 || (tried += 1) > MOST_FILLED) return true;
      for (let next = from; next < open.length; next += 1) {
        const length = lengths[open[next]!]!;
        if (length > left || (next > from && length === lengths[open[next - 1]!])) continue;
        if (fill(next + 1, left - length, [...chosen, open[next]!])) return true;
      }
      return false;
    };
    fill(0, room[bin]!, []);
    for (const i of best) at[i] = bin;
  }
  return at.every((bin) => bin >= 0) ? at : null;
}

/**
 * Which wire is cut from what, so that few spools are begun and what is on the shelf is used up: best fit, longest first (at most
 * 11/9 of the best number of spools and a little, D. S. Johnson 1973), and for up to 40 lengths the fewest spools there are,
 * unless too many ways had to be tried. Never cuts more than there is.
 *
 * @param spoolMetres How long a spool is that can be bought.
 */
export function cuttingPlan(pieces: readonly Piece[], stock: readonly Stock[], spoolMetres: number): CuttingPlan {
  const longest = [...pieces].sort((one, other) => other.metres - one.metres || (one.id < other.id ? -1 : 1));
  const { open: fitted, tooLong } = bestFit(longest, stock, spoolMetres);
  let open = fitted;
  const wanted = longest.filter((piece) => !tooLong.includes(piece));
  const sum = wanted.reduce((all, { metres }) => all + metres, 0);
  const shelf = stock.reduce((all, { metres }) => all + metres, 0);
  const begun = () => open.filter(({ stockId }) => stockId === null).length;
  // No plan begins fewer: what is not on the shelf by its sum, and what is too long for the shelf and for two in one spool.
  const longestStock = Math.max(0, ...stock.map(({ metres }) => metres));
  const alone = wanted.filter(({ metres }) => metres > longestStock + ROUNDING && 2 * metres > spoolMetres + ROUNDING);
  let bound = Math.max(0, Math.ceil((sum - shelf) / spoolMetres - ROUNDING), alone.length);
  const whole = (metres: number) => Math.round(metres * MILLIMETRES);
  while (wanted.length <= MOST_EXACT && bound < begun()) {
    const room = [
      ...stock.map(({ id, metres }) => ({ stockId: id as string | null, metres })),
      ...Array.from({ length: bound }, () => ({ stockId: null, metres: spoolMetres })),
    ];
    const lengths = wanted.map(({ metres }) => whole(metres));
    const rooms = room.map(({ metres }) => whole(metres));
    const found = filled(lengths, rooms) ?? placed(lengths, rooms);
    if (found === null) break;
    if (found === false) {
      bound += 1;
      continue;
    }
    open = room.map(({ stockId, metres }, bin): Open => {
      const own = wanted.filter((_, piece) => found[piece] === bin);
      return {
        stockId,
        metres,
        pieces: own,
        left: Math.max(
          0,
          own.reduce((rest, one) => rest - one.metres, metres),
        ),
      };
    });
  }
  return {
    cuts: open.filter((one) => one.pieces.length > 0),
    tooLong,
    bought: begun(),
    boundBought: bound,
  };
}

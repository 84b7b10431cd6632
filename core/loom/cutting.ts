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
  /** No plan begins fewer: what is wanted and not on the shelf, over the length of a spool. */
  readonly boundBought: number;
}

/** Lengths are cut to the centimetre; sums of them round. */
const ROUNDING = 1e-9;

/**
 * Which wire is cut from what, so that few spools are begun and what is on the shelf is used up: longest first, each from the
 * leftover in which least remains, and from a new spool where none takes it (best fit, decreasing: at most 11/9 of the best
 * number of spools and a little, D. S. Johnson 1973). Never cuts more than there is.
 *
 * @param spoolMetres How long a spool is that can be bought.
 */
export function cuttingPlan(pieces: readonly Piece[], stock: readonly Stock[], spoolMetres: number): CuttingPlan {
  const open = stock.map(({ id, metres }) => ({
    stockId: id as string | null,
    metres,
    pieces: [] as Piece[],
    left: metres,
  }));
  const tooLong: Piece[] = [];
  const longest = [...pieces].sort((one, other) => other.metres - one.metres || (one.id < other.id ? -1 : 1));
  for (const piece of longest) {
    let best: (typeof open)[number] | null = null;
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
  const wanted = pieces.reduce((sum, { metres, id }) => sum + (tooLong.some((one) => one.id === id) ? 0 : metres), 0);
  const shelf = stock.reduce((sum, { metres }) => sum + metres, 0);
  return {
    cuts: open.filter((one) => one.pieces.length > 0),
    tooLong,
    bought: open.filter(({ stockId }) => stockId === null).length,
    boundBought: Math.max(0, Math.ceil((wanted - shelf) / spoolMetres - ROUNDING)),
  };
}

import type { Build } from '../build/schema';
import { plugEnd, wireId, type EndKey, type PartId } from '../ends/ends';
import { cutPieces, layRuns, type CutPiece } from '../tree/lay';
import { wireOhms } from '../wire/wire';
import type { Draft, Wire } from './wires';

/** Wires as the tree has them, the pieces of what its plugs part one by one. */
export interface LaidWires {
  readonly pieces: readonly Wire[];
  /** Plugs that a wire is parted in, by the wire as it would be whole. */
  readonly passed: ReadonlyMap<string, readonly string[]>;
}

/** Lays wires in the tree and parts them in its plugs. Each piece has slack of its own, and a size where a person chose one. */
export function layWires(build: Build, drafts: readonly Draft[], boxOf: (id: PartId) => string | undefined): LaidWires {
  const { tree, loom } = build;
  const laid = layRuns(tree, drafts, boxOf);
  const passed = new Map<string, readonly string[]>();
  const made = (
    draft: Draft,
    id: string,
    from: EndKey,
    to: EndKey,
    piece: Omit<CutPiece, 'into'>,
    cutOf: string | null,
  ): Wire => {
    const squareMm = (cutOf === null ? undefined : loom.wires[id]?.squareMm) ?? draft.squareMm;
    const lengthMetres = Math.round((piece.metres + loom.slackMetres) * 100) / 100;
    // Written out: a copy of the rest of a draft is many times slower, and slow to read ever after.
    return {
      id,
      from,
      to,
      squareMm,
      colour: draft.colour,
      lengthMetres,
      ohms: wireOhms(squareMm, lengthMetres),
      amps: draft.amps,
      lets: draft.lets,
      signal: draft.signal,
      needId: draft.needId,
      circuitId: draft.circuitId,
      deviceId: draft.deviceId,
      cable: draft.cable,
      shield: draft.shield,
      route: piece.segments,
      cutOf,
    };
  };
  const pieces = drafts.flatMap((draft): Wire[] => {
    const at = laid.get(draft.id);
    if (!at) return [made(draft, draft.id, draft.from, draft.to, { metres: draft.metres, segments: NOWHERE }, null)];
    const cut = cutPieces(tree, draft.id, at);
    if (cut.length === 1) return [made(draft, draft.id, draft.from, draft.to, cut[0]!, null)];
    passed.set(
      draft.id,
      cut.flatMap(({ into }) => into?.plug ?? []),
    );
    let from = draft.from;
    return cut.map((piece) => {
      const to = piece.into ? plugEnd(piece.into.plug, piece.into.cavity) : draft.to;
      const wire = made(draft, wireId(from, to), from, to, piece, draft.id);
      from = to;
      return wire;
    });
  });
  return { pieces, passed };
}
const NOWHERE: readonly string[] = [];

/** Pieces in the colour their whole wire was told apart by; of one that a person gave a colour of its own, in that. */
export function inColour(build: Build, pieces: readonly Wire[], colours: ReadonlyMap<string, string>): Wire[] {
  return pieces.map((wire) => {
    const own = wire.cutOf === null ? undefined : build.loom.wires[wire.id]?.colour;
    const colour = own ?? colours.get(wire.cutOf ?? wire.id) ?? wire.colour;
    return colour === wire.colour ? wire : { ...wire, colour };
  });
}

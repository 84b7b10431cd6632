import { z } from 'zod';
import { withId } from '../data/with-id';
import { deviceFaceSchema, faceMiss } from '../devices/face';
import { isBare, terminalNotesSchema, type TerminalNotes } from '../ecu/terminal';
import { donorConnectors } from '../loom/factory-plug';
import { fail, ok } from '../problem';
import { treeId } from '../tree/tree';
import { inSentence } from '../units/format';
import { edit } from './edit';

/** How plugs look that are held in the hand, and what is known of their terminals. */
export const faceEdits = {
  /** How the plug of a kind looks, and what sits where; null: nobody has drawn it. */
  setFace: edit(
    z.object({ kindId: z.string().max(40), face: deviceFaceSchema.nullable() }),
    ({ kindId, face }, build) =>
      `${face ? 'Draw' : 'Forget'} the plug of ${inSentence(build.kinds[kindId]?.name ?? kindId)}`,
    (build, { kindId, face }) => {
      const kind = build.kinds[kindId];
      if (!kind) return fail('no-kind', 'kindId', `No device of this build is of kind ${kindId}.`);
      const { face: _, ...rest } = kind;
      if (!face) return ok({ ...build, kinds: { ...build.kinds, [kindId]: rest } });
      const miss = faceMiss(
        face,
        kind.terminals.map(({ id }) => id),
      );
      return miss === null
        ? ok({ ...build, kinds: { ...build.kinds, [kindId]: { ...rest, face } } })
        : fail('face', 'face', `The plug of ${inSentence(kind.name)}: ${miss}.`);
    },
  ),
  /** Data of the terminal that a connector of the ECU, a plug of the loom or the plug of a part takes; null forgets it. */
  setTerminal: edit(
    z.object({
      plug: z.enum(['ecu', 'loom', 'kind']),
      /** The connector, the plug's place in the tree, or the kind. */
      id: z.string().max(60),
      terminal: terminalNotesSchema.nullable(),
    }),
    ({ plug, id }, build) =>
      `Terminals of ${plug === 'ecu' ? id : plug === 'loom' ? inSentence(build.tree.nodes[id]?.name || id) : inSentence(build.kinds[id]?.name ?? id)}`,
    (build, { plug, id, terminal }) => {
      const noted = <T extends { terminal?: TerminalNotes | undefined }>({ terminal: _, ...rest }: T) =>
        (terminal === null || isBare(terminal) ? rest : { ...rest, terminal }) as T;
      if (plug === 'ecu') {
        if (!withId(build.ecu.connectors, id))
          return fail('no-plug', 'id', `${build.ecu.model} has no connector ${id}.`);
        const connectors = build.ecu.connectors.map((one) => (one.id === id ? noted(one) : one));
        return ok({ ...build, ecu: { ...build.ecu, connectors } });
      }
      if (plug === 'loom') {
        const node = build.tree.nodes[id];
        if (!node?.plug) return fail('no-plug', 'id', `There is no plug ${id} in the loom.`);
        const nodes = { ...build.tree.nodes, [id]: { ...node, plug: noted(node.plug) } };
        return ok({ ...build, tree: { ...build.tree, nodes } });
      }
      const kind = build.kinds[id];
      if (!kind?.face)
        return fail('no-plug', 'id', `Nobody has drawn the plug of ${inSentence(kind?.name ?? id)} yet.`);
      return ok({ ...build, kinds: { ...build.kinds, [id]: { ...kind, face: noted(kind.face) } } });
    },
  ),
  /** The connector of the donor loom that a plug of the loom is; null: it is a new one. */
  setFactoryPlug: edit(
    z.object({ node: treeId, was: z.string().trim().min(1).max(40).nullable() }),
    ({ node, was }, build) =>
      `${build.tree.nodes[node]?.name || 'The plug'} is ${was === null ? 'a new plug' : `the old ${was}`}`,
    (build, { node, was }) => {
      const place = build.tree.nodes[node];
      if (!place?.plug) return fail('no-plug', 'node', `There is no plug ${node} in the loom.`);
      if (was !== null && !donorConnectors(build).some((one) => one.toLowerCase() === was.toLowerCase()))
        return fail('no-plug', 'was', `The donor loom has no connector ${was} that may be used again.`);
      const { was: _, ...plug } = place.plug;
      const nodes = { ...build.tree.nodes, [node]: { ...place, plug: was === null ? plug : { ...plug, was } } };
      return ok({ ...build, tree: { ...build.tree, nodes } });
    },
  ),
};

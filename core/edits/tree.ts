import { z } from 'zod';
import type { Build } from '../build/schema';
import { placeName, segmentName } from '../loom/names';
import { allotCavities, passingWires, plugFor } from '../loom/plug';
import { freeId, nowhere, proposeTree, withRest } from '../loom/propose-tree';
import { netlist } from '../netlist/netlist';
import { fail, ok, type Result } from '../problem';
import {
  coverings,
  engineSeats,
  holeSchema,
  MOST_COLUMNS,
  nodeKinds,
  nodeSchema,
  plugSchema,
  segmentSchema,
  treeId,
  vehicles,
  type LoomTree,
  type Plug,
  type Segment,
  type TreeNode,
} from '../tree/tree';
import { deviceThing } from '../tree/things';
import { plural } from '../units/format';
import { edit } from './edit';

const withTree = (build: Build, changes: Partial<LoomTree>): Build => ({
  ...build,
  tree: { ...build.tree, ...changes },
});
const without = <T>(record: Readonly<Record<string, T>>, ...ids: readonly string[]): Record<string, T> =>
  Object.fromEntries(Object.entries(record).filter(([id]) => !ids.includes(id)));
const noNode = (id: string) => fail('no-node', 'node', `There is no place ${id} in the tree.`);
const noSegment = (id: string) => fail('no-segment', 'segment', `There is no piece ${id} in the tree.`);
const named = placeName;
/** What stands somewhere, in words that need no netlist. */
const standing = (build: Build, thing: string): string =>
  build.devices.find(({ id }) => deviceThing(id) === thing)?.label ?? thing;

const withNode = (build: Build, id: string, changes: Partial<TreeNode>): Build =>
  withTree(build, { nodes: { ...build.tree.nodes, [id]: { ...build.tree.nodes[id]!, ...changes } } });
const withPlug = (build: Build, id: string, changes: Partial<Plug>): Build =>
  withNode(build, id, { plug: { ...build.tree.nodes[id]!.plug!, ...changes } });

/** The build with the plug at a place taking every wire that passes it and finds a cavity, its terminals as large as the largest. */
function allotted(build: Build, node: string): Build {
  // Parted wires lie where whole ones did: who passes does not hang on who is parted.
  const wires = passingWires(build, netlist(build), node);
  const made = withPlug(build, node, { wires: allotCavities(build.tree.nodes[node]!.plug!, wires) });
  // Its contacts are on the way of the volts: what is thicker for them has to fit its terminals.
  const most = Math.max(0, ...passingWires(made, netlist(made), node).map(({ squareMm }) => squareMm));
  return most > made.tree.nodes[node]!.plug!.squareMm ? withPlug(made, node, { squareMm: most }) : made;
}

/** A place within a piece, so many metres from its first end: the piece becomes two. */
function parted(
  build: Build,
  segment: string,
  metres: number,
  node: TreeNode,
  wanted: string,
): { build: Build; id: string } {
  const { nodes, segments } = build.tree;
  const was = segments[segment]!;
  const id = freeId(nodes, segments, wanted);
  const rest = freeId({ ...nodes, [id]: node }, segments, `${segment}-b`.slice(0, 36));
  const [a, b] = [nodes[was.a]!.at, nodes[was.b]!.at];
  const share = was.metres === 0 ? 0.5 : metres / was.metres;
  const at = { x: a.x + (b.x - a.x) * share, y: a.y + (b.y - a.y) * share };
  const { hole: _hole, ...plain } = was;
  return {
    id,
    build: withTree(build, {
      nodes: { ...nodes, [id]: { ...node, at } },
      segments: {
        ...segments,
        [segment]: { ...was, b: id, metres: round(metres) },
        [rest]: { ...plain, a: id, b: was.b, metres: round(was.metres - metres) },
      },
    }),
  };
}
const round = (value: number): number => Math.round(value * 1000) / 1000;

/** Takes a place out: what stood there moves on, and two pieces become one. */
function removed(build: Build, id: string): Result<Build> {
  const { nodes, segments, via } = build.tree;
  const node = nodes[id];
  if (!node) return noNode(id);
  const at = Object.entries(segments).filter(([, { a, b }]) => a === id || b === id);
  if (at.length > 2)
    return fail('meeting', 'node', `${at.length} pieces meet at ${named(build, id)}: take those away first.`);
  const far = ({ a, b }: Segment) => (a === id ? b : a);
  const [first, second] = at;
  const heir = first && far(first[1]);
  const kept = without(nodes, id);
  if (heir !== undefined && node.holds.length > 0)
    kept[heir] = { ...kept[heir]!, holds: [...kept[heir]!.holds, ...node.holds] };
  const pieces = without(segments, ...at.map(([one]) => one));
  // Nothing is left to lead to where both pieces lead to the same place.
  if (first && second && heir !== far(second[1]))
    pieces[first[0]] = {
      ...first[1],
      a: far(first[1]),
      b: far(second[1]),
      metres: round(first[1].metres + second[1].metres),
      measured: first[1].measured && second[1].measured,
      hole: first[1].hole ?? second[1].hole,
    };
  const led = Object.fromEntries(Object.entries(via).filter(([, segment]) => pieces[segment] !== undefined));
  return ok(withTree(build, { nodes: kept, segments: pieces, via: led }));
}

const point = nodeSchema.shape.at;
const segmentChanges = segmentSchema
  .pick({ metres: true, zone: true, measured: true })
  .partial()
  .extend({
    /** Null: the zone's usual heat, as the whole loom is covered, no hole. */
    celsius: z.number().min(-40).max(400).nullable().optional(),
    covering: z.enum(coverings).nullable().optional(),
    hole: holeSchema.nullable().optional(),
  });

export const treeEdits = {
  proposeTree: edit(
    z.object({ vehicle: z.enum(vehicles), engine: z.enum(engineSeats) }),
    () => 'Lay the loom in a tree',
    (build, { vehicle, engine }) => ok(withTree(build, proposeTree(build, vehicle, engine))),
  ),
  clearTree: edit(
    z.strictObject({}),
    () => 'Take the tree away',
    (build) => ok(withTree(build, { nodes: {}, segments: {}, via: {} })),
  ),
  placeRest: edit(
    z.strictObject({}),
    () => 'Place the rest in the tree',
    (build) => (nowhere(build).length === 0 ? ok(build) : ok(withTree(build, withRest(build)))),
  ),
  setTreePlan: edit(
    z.object({ vehicle: z.enum(vehicles).optional(), engine: z.enum(engineSeats).optional() }),
    () => 'Change what the plan shows',
    (build, changes) => ok(withTree(build, changes)),
  ),
  addTreeNode: edit(
    z.object({
      kind: z.enum(nodeKinds).exclude(['plug']),
      name: nodeSchema.shape.name,
      at: point,
      /** The place it hangs on, and by how many metres; absent: on none yet. */
      from: treeId.optional(),
      metres: segmentSchema.shape.metres.optional(),
      id: treeId.optional(),
    }),
    ({ name, kind }) => `Add ${name || `a ${kind}`}`,
    (build, { kind, name, at, from, metres, id: wanted }) => {
      const { nodes, segments } = build.tree;
      if (from !== undefined && !nodes[from]) return noNode(from);
      const id = freeId(nodes, segments, wanted ?? kind);
      const added = { ...nodes, [id]: { kind, name, at, holds: [] } };
      if (from === undefined) return ok(withTree(build, { nodes: added }));
      const length = metres ?? round(Math.hypot(at.x - nodes[from]!.at.x, at.y - nodes[from]!.at.y));
      const piece: Segment = {
        a: from,
        b: id,
        metres: length,
        measured: metres !== undefined,
        zone: zoneAt(build, from),
      };
      return ok(withTree(build, { nodes: added, segments: { ...segments, [id]: piece } }));
    },
  ),
  setTreeNode: edit(
    z.object({ node: treeId, name: nodeSchema.shape.name.optional(), at: point.optional() }),
    ({ node, at }, build) => `${at ? 'Move' : 'Name'} ${named(build, node)}`,
    (build, { node, ...changes }) => (build.tree.nodes[node] ? ok(withNode(build, node, changes)) : noNode(node)),
  ),
  removeTreeNode: edit(
    z.object({ node: treeId }),
    ({ node }, build) => `Take ${named(build, node)} out of the tree`,
    (build, { node }) => removed(build, node),
  ),
  /** Null: it stands nowhere. */
  standAt: edit(
    z.object({ thing: z.string().min(1).max(160), node: treeId.nullable() }),
    ({ thing, node }, build) =>
      node === null
        ? `Take ${standing(build, thing)} from its place`
        : `Stand ${standing(build, thing)} at ${named(build, node)}`,
    (build, { thing, node }) => {
      if (node !== null && !build.tree.nodes[node]) return noNode(node);
      const nodes = Object.fromEntries(
        Object.entries(build.tree.nodes).map(([id, one]) => {
          if (id === node) return [id, one.holds.includes(thing) ? one : { ...one, holds: [...one.holds, thing] }];
          return [
            id,
            one.holds.includes(thing) ? { ...one, holds: one.holds.filter((other) => other !== thing) } : one,
          ];
        }),
      );
      return ok(withTree(build, { nodes }));
    },
  ),
  joinTreeNodes: edit(
    z.object({ a: treeId, b: treeId, metres: segmentSchema.shape.metres.optional() }),
    ({ a, b }, build) => `Join ${named(build, a)} and ${named(build, b)}`,
    (build, { a, b, metres }) => {
      const { nodes, segments } = build.tree;
      const missing = [a, b].find((id) => !nodes[id]);
      if (missing !== undefined) return noNode(missing);
      if (a === b) return fail('same-node', 'b', 'A piece leads from one place to another.');
      const id = freeId(nodes, segments, `${a}-${b}`.slice(0, 36));
      const length = metres ?? round(Math.hypot(nodes[a]!.at.x - nodes[b]!.at.x, nodes[a]!.at.y - nodes[b]!.at.y));
      const piece: Segment = { a, b, metres: length, measured: metres !== undefined, zone: zoneAt(build, a) };
      return ok(withTree(build, { segments: { ...segments, [id]: piece } }));
    },
  ),
  setSegment: edit(
    z.object({ segment: treeId, changes: segmentChanges }),
    ({ segment }, build) => `Change ${segmentName(build, segment)}`,
    (build, { segment, changes }) => {
      const was = build.tree.segments[segment];
      if (!was) return noSegment(segment);
      // Null takes a choice away.
      const now = Object.fromEntries(
        Object.entries({ ...was, ...changes }).filter(([, value]) => value !== null && value !== undefined),
      ) as Segment;
      // A typed length is one that was measured, if nobody says otherwise.
      const measured = changes.measured ?? (changes.metres === undefined ? was.measured : true);
      return ok(withTree(build, { segments: { ...build.tree.segments, [segment]: { ...now, measured } } }));
    },
  ),
  removeSegment: edit(
    z.object({ segment: treeId }),
    ({ segment }, build) => `Take away ${segmentName(build, segment)}`,
    (build, { segment }) => {
      const { segments, via } = build.tree;
      if (!segments[segment]) return noSegment(segment);
      const led = Object.fromEntries(Object.entries(via).filter(([, one]) => one !== segment));
      return ok(withTree(build, { segments: without(segments, segment), via: led }));
    },
  ),
  /** A branch within a piece, so many metres from its first end. */
  branchSegment: edit(
    z.object({
      segment: treeId,
      metres: segmentSchema.shape.metres,
      name: nodeSchema.shape.name,
      id: treeId.optional(),
    }),
    ({ segment }, build) => `Branch ${segmentName(build, segment)}`,
    (build, { segment, metres, name, id }) => {
      const was = build.tree.segments[segment];
      if (!was) return noSegment(segment);
      if (metres > was.metres) return fail('beyond', 'metres', `Piece ${segment} is ${was.metres} m long.`);
      const node: TreeNode = { kind: 'branch', name, at: { x: 0, y: 0 }, holds: [] };
      return ok(parted(build, segment, metres, node, id ?? 'branch').build);
    },
  ),
  /** A plug within a piece: every wire that passes is parted in a cavity of it. */
  plugSegment: edit(
    z.object({
      segment: treeId,
      metres: segmentSchema.shape.metres,
      name: nodeSchema.shape.name,
      shell: plugSchema.shape.shell,
      /** Absent: the least that takes every wire with two to spare. */
      cavities: plugSchema.shape.cavities.optional(),
      columns: plugSchema.shape.columns.optional(),
      id: treeId.optional(),
    }),
    ({ name, shell }) => `Put ${name || 'a plug'} ${shell === 'bulkhead' ? 'on the wall' : 'in the line'}`,
    (build, { segment, metres, name, shell, cavities, columns, id: wanted }) => {
      const was = build.tree.segments[segment];
      if (!was) return noSegment(segment);
      if (metres > was.metres) return fail('beyond', 'metres', `Piece ${segment} is ${was.metres} m long.`);
      const bare: TreeNode = { kind: 'plug', name, at: { x: 0, y: 0 }, holds: [], plug: plugFor([], shell) };
      // A plug on the wall fills the hole it stands in.
      const { hole: _hole, ...unholed } = was;
      const open =
        shell === 'bulkhead' ? withTree(build, { segments: { ...build.tree.segments, [segment]: unholed } }) : build;
      const { build: made, id } = parted(open, segment, metres, bare, wanted ?? 'plug');
      const chosen = plugFor(passingWires(made, netlist(made), id), shell);
      const plug: Plug =
        cavities === undefined
          ? chosen
          : {
              ...chosen,
              cavities,
              columns:
                columns ??
                Math.min(MOST_COLUMNS, Math.max(1, Math.ceil((cavities * chosen.columns) / chosen.cavities))),
            };
      return ok(allotted(withPlug(made, id, plug), id));
    },
  ),
  setPlug: edit(
    z.object({ node: treeId, changes: plugSchema.omit({ wires: true, was: true, terminal: true }).partial() }),
    ({ node }, build) => `Change ${named(build, node)}`,
    (build, { node, changes }) => {
      const plug = build.tree.nodes[node]?.plug;
      if (!plug) return fail('no-plug', 'node', `${named(build, node)} is no plug.`);
      const most = changes.cavities ?? plug.cavities;
      const over = Object.values(plug.wires).filter((cavity) => cavity > most).length;
      return over > 0
        ? fail(
            'too-few',
            'cavities',
            `${plural(over, 'wire')} of ${named(build, node)} ${over === 1 ? 'is' : 'are'} in a cavity above ${most}: move them first.`,
          )
        : ok(withPlug(build, node, changes));
    },
  ),
  /** Cavities for the wires that pass and have none; `anew`: for all of them, whatever they have. */
  allotPlug: edit(
    z.object({ node: treeId, anew: z.boolean() }),
    ({ node }, build) => `Allot ${named(build, node)}`,
    (build, { node, anew }) => {
      if (!build.tree.nodes[node]?.plug) return fail('no-plug', 'node', `${named(build, node)} is no plug.`);
      return ok(allotted(anew ? withPlug(build, node, { wires: {} }) : build, node));
    },
  ),
  /** A wire into another cavity; two that want one change places. Null: it passes uncut. */
  setCavity: edit(
    z.object({ node: treeId, wireId: z.string().max(400), cavity: z.int().min(1).max(200).nullable() }),
    ({ node, cavity }, build) =>
      cavity === null ? `Lead a wire past ${named(build, node)}` : `${named(build, node)}, cavity ${cavity}`,
    (build, { node, wireId, cavity }) => {
      const plug = build.tree.nodes[node]?.plug;
      if (!plug) return fail('no-plug', 'node', `${named(build, node)} is no plug.`);
      if (cavity === null) return ok(withPlug(build, node, { wires: without(plug.wires, wireId) }));
      if (cavity > plug.cavities)
        return fail('no-cavity', 'cavity', `${named(build, node)} has ${plug.cavities} cavities.`);
      const was = plug.wires[wireId];
      const [other] = Object.entries(plug.wires).find(([id, at]) => at === cavity && id !== wireId) ?? [];
      const wires = { ...plug.wires, [wireId]: cavity };
      if (other !== undefined) {
        if (was === undefined) delete wires[other];
        else wires[other] = was;
      }
      return ok(withPlug(build, node, { wires }));
    },
  ),
  /** Where there are two ways: the piece it goes by. Null: the shorter way. */
  leadWire: edit(
    z.object({ wireId: z.string().max(400), segment: treeId.nullable() }),
    ({ segment }, build) =>
      segment === null ? 'Lead a wire the shorter way' : `Lead a wire by ${segmentName(build, segment)}`,
    (build, { wireId, segment }) => {
      if (segment === null) return ok(withTree(build, { via: without(build.tree.via, wireId) }));
      return build.tree.segments[segment]
        ? ok(withTree(build, { via: { ...build.tree.via, [wireId]: segment } }))
        : noSegment(segment);
    },
  ),
};

/** The surroundings of what leads to a place already, for what is hung on it. */
const zoneAt = ({ tree }: Build, node: string): Segment['zone'] =>
  Object.values(tree.segments).find(({ a, b }) => a === node || b === node)?.zone ?? 'engine';

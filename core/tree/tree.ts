import { z } from 'zod';
import { terminalNotesSchema } from '../ecu/terminal';

/*
 * The loom as a thing that lies in the car: places where something is or where it parts, and pieces between them with their
 * length, their surroundings and what is drawn over them. Decided by the person, proposed by Gonyx; part of the document.
 */

/** What the plan shows it in. */
export const vehicles = ['car', 'motorcycle', 'boat', 'kart', 'stationary'] as const;
export type Vehicle = (typeof vehicles)[number];
export const engineSeats = ['front', 'middle', 'rear'] as const;
export type EngineSeat = (typeof engineSeats)[number];

export const nodeKinds = ['ecu', 'branch', 'plug', 'splice', 'box', 'ground', 'tail'] as const;
export type NodeKind = (typeof nodeKinds)[number];
export const zones = ['cabin', 'engine', 'hot', 'moving', 'wet'] as const;
export type Zone = (typeof zones)[number];
export const coverings = ['none', 'tape', 'conduit', 'braid', 'sealed'] as const;
export type Covering = (typeof coverings)[number];

/** The hottest air of a zone where nobody measured it, °C (common practice: 85 under a bonnet, on the block 105, beside a turbine 150 and more). */
export const usualCelsius: Readonly<Record<Zone, number>> = { cabin: 60, engine: 85, hot: 150, moving: 85, wet: 60 };

const name = z.string().trim().max(60);
/** What nodes and segments are known by. */
export const treeId = z.string().regex(/^[a-z0-9-]{1,40}$/, 'must be lower-case letters, digits and hyphens');
/** Metres on the plan, from its upper left corner. */
const point = z.object({ x: z.number().min(-5).max(40), y: z.number().min(-5).max(40) });
export type Point = z.infer<typeof point>;

/** Cavities an in-line plug may have. */
const MOST_CAVITIES = 200;
export const MOST_COLUMNS = 60;
/** A plug that parts the wires which pass it. */
export const plugSchema = z.object({
  shell: z.enum(['in-line', 'bulkhead']),
  cavities: z.int().min(1).max(MOST_CAVITIES),
  /** Columns of its face. */
  columns: z.int().min(1).max(MOST_COLUMNS),
  /** The largest wire its terminals take. */
  squareMm: z.number().positive().max(95),
  sealed: z.boolean(),
  /** Across its shell, and across its inside where the shell comes off, mm; null: nobody has measured it. */
  shellMillimetres: z.number().positive().max(300).nullable(),
  bareMillimetres: z.number().positive().max(300).nullable(),
  /** True: each half is proved by itself before they are put together (sheet 6). */
  apart: z.boolean().optional(),
  terminal: terminalNotesSchema.optional(),
  /** The connector of the donor loom that it is: its cavities had wires and functions before. */
  was: z.string().max(40).optional(),
  /** Cavity of each wire that passes it, by the wire as it would be uncut. */
  wires: z.record(z.string().max(400), z.int().min(1).max(MOST_CAVITIES)),
});
export type Plug = z.infer<typeof plugSchema>;

export const nodeSchema = z.object({
  kind: z.enum(nodeKinds),
  name,
  at: point,
  /** What stands here (core/tree/things). */
  holds: z.array(z.string().max(160)).max(300),
  plug: plugSchema.optional(),
});
export type TreeNode = z.infer<typeof nodeSchema>;

export const holeSchema = z.object({ millimetres: z.number().positive().max(300), grommet: z.boolean() });
export type Hole = z.infer<typeof holeSchema>;

export const segmentSchema = z.object({
  a: treeId,
  b: treeId,
  metres: z.number().min(0).max(30),
  /** Measured by a string, or only drawn. */
  measured: z.boolean(),
  zone: z.enum(zones),
  /** Where the zone's usual heat is not its own. */
  celsius: z.number().min(-40).max(400).optional(),
  /** Absent: as the whole loom is. */
  covering: z.enum(coverings).optional(),
  hole: holeSchema.optional(),
});
export type Segment = z.infer<typeof segmentSchema>;

const MOST_NODES = 400;
const MOST_SEGMENTS = 500;
const fewer = (most: number) => (record: object) => Object.keys(record).length <= most;

export const treeSchema = z
  .object({
    vehicle: z.enum(vehicles),
    engine: z.enum(engineSeats),
    nodes: z.record(treeId, nodeSchema).refine(fewer(MOST_NODES), `at most ${MOST_NODES} places`),
    segments: z.record(treeId, segmentSchema).refine(fewer(MOST_SEGMENTS), `at most ${MOST_SEGMENTS} pieces`),
    /** A piece that a wire goes by where there are two ways, by the wire as it would be uncut. */
    via: z.record(z.string().max(400), treeId),
  })
  .superRefine(({ nodes, segments }, context) => {
    for (const [id, { a, b }] of Object.entries(segments))
      for (const end of [a, b])
        if (nodes[end] === undefined)
          context.addIssue({ code: 'custom', path: ['segments', id], message: `leads to ${end}, which is no place` });
    for (const [id, { kind, plug }] of Object.entries(nodes))
      if ((kind === 'plug') !== (plug !== undefined))
        context.addIssue({
          code: 'custom',
          path: ['nodes', id],
          message: 'is a plug without one, or has one and is none',
        });
  });
export type LoomTree = z.infer<typeof treeSchema>;

export const noTree: LoomTree = { vehicle: 'car', engine: 'front', nodes: {}, segments: {}, via: {} };

export const celsiusOf = ({ zone, celsius }: Pick<Segment, 'zone' | 'celsius'>): number =>
  celsius ?? usualCelsius[zone];

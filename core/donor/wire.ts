import { z } from 'zod';

/** What is to become of a wire of the donor loom. `open` is not decided yet; `mystery` is known not to be known. */
export const decisions = ['open', 'keep', 'extend', 'move', 'remove', 'mystery'] as const;
export type Decision = (typeof decisions)[number];
export const decisionWords: Record<Decision, string> = {
  open: 'open',
  keep: 'keep',
  extend: 'extend',
  move: 'move',
  remove: 'remove',
  mystery: 'unknown',
};
/** Two sides people keep apart: what the engine needs, and what belongs to the car. */
export const donorGroups = ['none', 'engine', 'body'] as const;
export type DonorGroup = (typeof donorGroups)[number];
export const groupWords: Record<DonorGroup, string> = {
  none: 'not sorted',
  engine: 'engine side',
  body: 'car side',
};

/** One wire of the donor loom. Everything a person read off it stays as it was written. */
export const donorWireSchema = z.object({
  id: z.string().min(1).max(40),
  /** Place in the list. */
  row: z.int().min(0).max(100_000),
  connector: z.string().max(40),
  cavity: z.string().max(12),
  colour: z.string().max(30),
  size: z.string().max(20),
  function: z.string().max(120),
  condition: z.string().max(60),
  /** Name of the splice it joins, or ''. */
  splice: z.string().max(40),
  decision: z.enum(decisions),
  group: z.enum(donorGroups),
  /** New cavity for a wire that moves. */
  moveTo: z.string().max(40),
  note: z.string().max(200),
  /** Marked by the person as part of a restraint system. */
  restraint: z.boolean(),
  /** Columns of the sheet it came from that Gonyx has no name for: kept, and copied out again. */
  extra: z.record(z.string().max(40), z.string().max(200)),
});
export type DonorWire = z.infer<typeof donorWireSchema>;
/** More than any loom has; a guard against a wrong paste. */
export const DONOR_LIMIT = 2000;

/** Words of restraint systems (common practice). Connectors are often yellow, but yellow alone proves nothing. */
const restraintWords =
  /\b(air ?bags?|srs|restraints?|pre-?tensioners?|squibs?|inflators?|curtain bags?|belt tensioners?|crash sensors?|impact sensors?|occupant|clock ?spring)\b/i;

/** True when the wire belongs to a restraint system: by mark, or by the words on it. Such a wire is locked. */
export const isRestraint = (
  wire: Pick<DonorWire, 'restraint' | 'function' | 'connector' | 'note' | 'splice'>,
): boolean =>
  wire.restraint || [wire.function, wire.connector, wire.note, wire.splice].some((text) => restraintWords.test(text));

/** Connector and cavity as one key, so that a cavity listed twice is found however it is written. */
export const cavityKey = (wire: Pick<DonorWire, 'connector' | 'cavity'>): string =>
  `${wire.connector.trim().toLowerCase()}|${wire.cavity.trim().toLowerCase()}`;

import type { Build } from '../build/schema';
import { withId } from '../data/with-id';
import {
  BATTERY,
  KEY_RUN,
  KEY_START,
  endOf,
  endType,
  groundEnd,
  partAt,
  portOf,
  readPart,
  type EndKey,
  type PartId,
} from '../ends/ends';
import { changed, portsOfPart } from '../topology/parts';
import { cutPieces, layRuns } from '../tree/lay';
import { keyFeeds } from './key';
import { proposal, type Decided, type PlannedFeed, type PlannedLink, type PlannedPart } from './propose';

/** The feeds as they are: what was decided, and for the rest what is proposed. */
export interface FeedPlan {
  readonly parts: ReadonlyMap<PartId, PlannedPart>;
  readonly links: readonly PlannedLink[];
  readonly feeds: readonly PlannedFeed[];
  /** Links of the document that lead to something that is not there any more; they are kept, and not wired. */
  readonly loose: readonly string[];
}

/** A wire that nobody measured, metres (common practice: within a box or to the next one). */
const OWN_METRES = 0.5;
/** Ends every car has. */
const given: ReadonlySet<EndKey> = new Set([
  BATTERY,
  KEY_RUN,
  KEY_START,
  groundEnd('battery'),
  groundEnd('head'),
  groundEnd('chassis'),
]);

/** Ends and parts that a person's own links touch. */
function decidedOf({ feeds }: Build): Decided {
  const ends = new Set<EndKey>();
  const parts = new Set<PartId>();
  for (const link of Object.values(feeds.links))
    for (const end of link ? [link.from, link.to] : []) {
      const { of } = endOf(end);
      if (of !== 'part') ends.add(end);
      else {
        if (endType(end) === 'relay' && (portOf(end) === '85' || portOf(end) === '86')) ends.add(end);
        parts.add(partAt(end)!);
      }
    }
  return { ends, parts };
}

/** Whether a wire can land there: the part, the pin, the terminal is in the build. */
function isThere(build: Build, parts: FeedPlan['parts'], end: EndKey): boolean {
  if (given.has(end)) return true;
  const ref = endOf(end);
  if (ref.of === 'ecu') return withId(build.ecu.pins, ref.pin) !== undefined;
  if (ref.of === 'device') {
    const device = withId(build.devices, ref.device);
    const kind = device && build.kinds[device.kindId];
    return kind?.terminals.some(({ id }) => id === ref.terminal) ?? false;
  }
  const found = parts.get(partAt(end)!);
  return found !== undefined && portsOfPart(found.part).includes(ref.port);
}

/**
 * The plan of feeds of a build: the proposal with the person's parts and wires over it. What the person took out is out, what
 * hangs on a wire of theirs is not hung a second time, and what was added stands beside.
 */
export function feedPlan(build: Build, ecuFuse = false): FeedPlan {
  const decided = decidedOf(build);
  const proposed = proposal(build, decided, ecuFuse);
  const { parts, links } = proposed;
  for (const [id, part] of Object.entries(build.feeds.parts)) {
    const read = readPart(id)!;
    if (part === null) parts.delete(id as PartId);
    else parts.set(id as PartId, { id: id as PartId, name: read.name, part, proposed: false });
  }
  for (const [id, found] of parts)
    if (found.proposed) parts.set(id, { ...found, part: changed(found.part, build.feeds.changes[id]) });
  for (const [id, link] of Object.entries(build.feeds.links)) {
    const was = links.get(id);
    links.delete(id);
    if (link === null) continue;
    const { from, to, metres = was?.metres ?? OWN_METRES } = link;
    const fixed = link.metres !== undefined;
    links.set(id, { id, from, to, metres, role: was?.role ?? 'own', feed: was?.feed ?? null, proposed: false, fixed });
  }
  const loose: string[] = [];
  // The splice behind the cavity of a body plug that brings the key's feed is no part of the plan, and always there.
  const { run, start } = keyFeeds(build);
  const standing = [...links.values()].filter(({ id, from, to, proposed: ours }) => {
    const stands = from !== to && [from, to].every((end) => end === run || end === start || isThere(build, parts, end));
    if (!stands && !ours) loose.push(id);
    return stands;
  });
  const feeds = [
    ...proposed.feeds.filter(({ id }) =>
      [...parts.values()].some(({ part, name }) => part.kind === 'fuse' && name === id),
    ),
    ...[...parts.values()].flatMap(({ part, name }): PlannedFeed[] =>
      part.kind === 'fuse' && !proposed.feeds.some(({ id }) => id === name)
        ? [{ id: name, role: 'own', name: part.name, system: 'Start and charge' }]
        : [],
    ),
  ];
  return { parts, links: inTree(build, parts, standing), feeds, loose };
}

/** Whether a person said how long a proposed wire is. */
const isSaid = ({ power }: Build, { feed, role }: PlannedLink): boolean => {
  const choice = power.circuits[feed ?? ''];
  return (
    (role === 'trunk' && choice?.lengthMetres !== undefined) ||
    (role === 'source' && choice?.fuseDistanceMetres !== undefined)
  );
};

/** Wires as long as the tree has them, where it has them and nobody said otherwise. */
function inTree(build: Build, parts: FeedPlan['parts'], links: readonly PlannedLink[]): readonly PlannedLink[] {
  const runs = links.map((link) => ({
    ...link,
    local: link.role === 'jumper',
    fixed: link.fixed || isSaid(build, link),
  }));
  const laid = layRuns(build.tree, runs, (id) => parts.get(id)?.part.box);
  return links.map((link) => {
    const at = laid.get(link.id);
    if (!at) return link;
    const cuts = cutPieces(build.tree, link.id, at).length - 1;
    return { ...link, metres: at.metres, cuts, route: at.segments };
  });
}

import type { Build } from '../build/schema';

import {
  endOf,
  endType,
  hasPorts,
  partAt,
  partId,
  readEnd,
  endKey,
  wireId,
  type EndKey,
  type PartId,
} from '../ends/ends';
import { labelOf, type Names } from '../netlist/label';
import { feedPlan, type FeedPlan } from '../power/feed-plan';
import { flowsOf, wayTo } from '../power/flow';
import { endsOfPart, portsOfPart, type Feeds, type Part } from '../topology/parts';
import { fail, ok, type Result } from '../problem';

/* How wires of the feeds are found, made and taken out, for the edits of the plan. */

export const withFeeds = (build: Build, feeds: Partial<Feeds>): Build => ({
  ...build,
  feeds: { ...build.feeds, ...feeds },
});

/** What an end is called in the words of an undo step or a problem. */
export function called(build: Build, end: EndKey): string {
  const plan = feedPlan(build);
  const names: Names = {
    devices: new Map(build.devices.map(({ id, label }) => [id, label])),
    circuits: new Map(plan.feeds.map((feed) => [feed.id, feed.name])),
    parts: new Map([...plan.parts.values()].map(({ id, part }) => [id, part.name])),
  };
  return labelOf({ names }, end);
}

export const noPart = (id: string) => fail('no-part', 'partId', `There is no part ${id} in the feeds of this build.`);
export const noLink = (id: string) => fail('no-link', 'linkId', `There is no wire ${id} in the feeds of this build.`);

/** An end that a wire of the feeds can land on, or why it cannot. */
export function landing(build: Build, plan: FeedPlan, path: string, text: string): Result<EndKey> {
  const ref = readEnd(text);
  if (!ref) return fail('no-end', path, `${text} names no end.`);
  const end = endKey(ref);
  if (ref.of === 'ecu')
    return build.ecu.pins.some(({ id }) => id === ref.pin)
      ? ok(end)
      : fail('no-pin', path, `${build.ecu.model} has no cavity ${ref.pin}.`);
  if (ref.of === 'device') {
    const device = build.devices.find(({ id }) => id === ref.device);
    const terminals = device ? (build.kinds[device.kindId]?.terminals ?? []) : [];
    return terminals.some(({ id }) => id === ref.terminal)
      ? ok(end)
      : fail('no-terminal', path, `This build has no terminal ${ref.terminal} of ${device?.label ?? ref.device}.`);
  }
  if (ref.kind === 'shield') return fail('no-end', path, 'A shield is earthed with its device, not in the feeds.');
  const given = ['battery', 'key', 'ground'].includes(ref.kind);
  const part = plan.parts.get(partId(ref.kind, ref.part));
  if (part) {
    const ports = portsOfPart(part.part);
    return ports.includes(ref.port)
      ? ok(end)
      : fail(
          'no-port',
          path,
          `${part.part.name} has no terminal ${ref.port || 'without a number'}; it has ${ports.join(', ')}.`,
        );
  }
  const standing = given && ['+', '15', '50', 'battery', 'head', 'chassis'].includes(ref.part);
  return standing || plan.links.some(({ from }) => from === end)
    ? ok(end)
    : fail('no-part', path, `There is no part ${partId(ref.kind, ref.part)} in the feeds of this build.`);
}

/** A wire between two ends, known by them; of several between the same two each has its number. */
export function linked(build: Build, from: EndKey, to: EndKey, length?: number): Result<Build> {
  if (from === to) return fail('same-end', 'to', 'A wire has two ends.');
  const [one, other] = [partAt(from), partAt(to)];
  if (one !== null && one === other && hasPorts(endType(from) as Part['kind']) && isAcross(from, to))
    return fail(
      'across-itself',
      'to',
      `A wire across ${called(build, from)} and ${called(build, to)} would bridge what is between them.`,
    );
  const plan = feedPlan(build);
  const taken = new Set([
    ...plan.links.map(({ id }) => id),
    ...Object.keys(build.feeds.links).filter((id) => build.feeds.links[id]),
  ]);
  let number = 1;
  while (taken.has(wireId(from, to, number))) number += 1;
  const links = {
    ...build.feeds.links,
    [wireId(from, to, number)]: { from, to, ...(length === undefined ? {} : { metres: length }) },
  };
  return ok(withFeeds(build, { links }));
}

/** A wire that would short a winding, a fuse, a switch or whatever has two sides; a jumper from 30 to 86 does not. */
function isAcross(from: EndKey, to: EndKey): boolean {
  const ports = [from, to].map((end) => endOf(end)).map((ref) => (ref.of === 'part' ? ref.port : ''));
  const winding = (port: string) => port === '85' || port === '86';
  return endType(from) !== 'relay' || ports.every(winding) || !ports.some(winding);
}

/** A wire taken out: of the person's own it is forgotten, of the proposed it is marked as not wanted. */
export function unlinked(build: Build, plan: FeedPlan, id: string): Build {
  const links = { ...build.feeds.links };
  delete links[id];
  const after = withFeeds(build, { links });
  // What was proposed under that name would come back.
  return plan.links.some((link) => link.id === id) && feedPlan(after).links.some((link) => link.id === id)
    ? withFeeds(build, { links: { ...links, [id]: null } })
    : after;
}

export function freshName(plan: FeedPlan, kind: Part['kind'], wanted?: string): string {
  if (wanted !== undefined && !plan.parts.has(partId(kind, wanted))) return wanted;
  const stem = wanted ?? kind;
  let number = wanted === undefined ? 1 : 2;
  while (plan.parts.has(partId(kind, `${stem}-${number}`))) number += 1;
  return `${stem}-${number}`;
}

export const withPart = (build: Build, id: PartId, part: Part | null): Build =>
  withFeeds(build, { parts: { ...build.feeds.parts, [id]: part } });

/** The wires that bring current to an end: to be replaced when it is hung elsewhere. */
export function supplyOf(plan: FeedPlan, end: EndKey): string[] {
  return plan.links
    .filter(({ from, to, role }) => role !== 'return' && (to === end || from === end))
    .map(({ id }) => id);
}

/** A load hung on another outlet; its own length stays. */
export function hung(build: Build, end: EndKey, from: EndKey): Result<Build> {
  const plan = feedPlan(build);
  const old = supplyOf(plan, end);
  const length = plan.links.find(({ id }) => old.includes(id))?.metres;
  let next = build;
  for (const id of old) next = unlinked(next, feedPlan(next), id);
  const moved = linked(next, from, end, length);
  if (!moved.ok) return moved;
  // Once the person's own wire leads there nothing is proposed for it, so that nothing need be marked as not wanted.
  const links = Object.fromEntries(
    Object.entries(moved.value.feeds.links).filter(([id, link]) => link !== null || !old.includes(id)),
  );
  return ok(withFeeds(moved.value, { links }));
}

export const isOutlet = (end: EndKey): boolean => {
  const ref = endOf(end);
  return ref.of === 'part' && !['ground', 'shield'].includes(ref.kind) && ref.port !== '85' && ref.port !== '86';
};

/** True where a load hung there would feed itself. */
export function feedsItself(build: Build, end: EndKey, from: EndKey): boolean {
  const flows = flowsOf(build, feedPlan(build));
  return wayTo(flows, from).some((step) => step.from === end || step.to === end);
}

export const withoutPart = (build: Build, id: PartId): Build =>
  withFeeds(build, { parts: Object.fromEntries(Object.entries(build.feeds.parts).filter(([one]) => one !== id)) });

/** What goes into a wire, and leads nowhere once that wire is gone. */
const goesAlong: ReadonlySet<Part['kind']> = new Set(['fuse', 'switch', 'button', 'resistor', 'diode']);

/**
 * The plan without the wires a person laid to an end that asks for no feed any more, and without what stood in those wires and
 * now leads nowhere.
 */
export function withoutWiresTo(feeds: Feeds, end: EndKey): Feeds {
  const [parts, links] = [{ ...feeds.parts }, { ...feeds.links }];
  const at = (one: string) => Object.entries(links).filter(([, link]) => link?.from === one || link?.to === one);
  const leftover: string[] = [end];
  for (let one = leftover.pop(); one !== undefined; one = leftover.pop())
    for (const [id, link] of at(one)) {
      delete links[id];
      const far = link!.from === one ? link!.to : link!.from;
      const ref = readEnd(far);
      const own = ref?.of === 'part' ? partId(ref.kind, ref.part) : null;
      const part = own === null ? null : (parts[own] ?? null);
      if (own === null || part === null || !goesAlong.has(part.kind) || at(far).length > 0) continue;
      delete parts[own];
      if (ref?.of === 'part') leftover.push(...endsOfPart(part, ref.part));
    }
  return { ...feeds, parts, links };
}

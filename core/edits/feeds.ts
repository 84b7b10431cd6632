import { z } from 'zod';
import type { Build } from '../build/schema';
import { zodProblem } from '../data/zod-problem';
import {
  BATTERY,
  endOf,
  endType,
  fuseEnd,
  hasPorts,
  partAt,
  partEnd,
  partId,
  readEnd,
  relayEnd,
  endKey,
  spliceEnd,
  wireId,
  type EndKey,
  type PartId,
} from '../ends/ends';
import { labelOf, type Names } from '../netlist/label';
import { feedPlan, type FeedPlan } from '../power/feed-plan';
import { flowsOf, wayTo } from '../power/flow';
import { FUSE_METRES, JUMPER_METRES } from '../power/propose';
import {
  boxSchema,
  endsOfPart,
  partChangesSchema,
  partSchema,
  portsOfPart,
  type Feeds,
  type Part,
} from '../topology/parts';
import { fail, ok, type Result } from '../problem';
import { edit } from './edit';
import { dropStale } from './stale';

/*
 * What a person decides of the feeds. Each edit writes only what it decides; the rest stays proposed. Wires keep their names as long
 * as their ends do, so that what was proved, cut and labelled beside a change stands.
 */

const name = z.string().regex(/^[a-z0-9-]{1,60}$/, 'must be lower-case letters, digits and hyphens');
const partText = z.string().max(80);
const endText = z.string().max(160);
const metres = z.number().min(0).max(30);

const withFeeds = (build: Build, feeds: Partial<Feeds>): Build => ({ ...build, feeds: { ...build.feeds, ...feeds } });

/** What an end is called in the words of an undo step or a problem. */
function called(build: Build, end: EndKey): string {
  const plan = feedPlan(build);
  const names: Names = {
    devices: new Map(build.devices.map(({ id, label }) => [id, label])),
    circuits: new Map(plan.feeds.map((feed) => [feed.id, feed.name])),
    parts: new Map([...plan.parts.values()].map(({ id, part }) => [id, part.name])),
  };
  return labelOf({ names }, end);
}

const noPart = (id: string) => fail('no-part', 'partId', `There is no part ${id} in the feeds of this build.`);
const noLink = (id: string) => fail('no-link', 'linkId', `There is no wire ${id} in the feeds of this build.`);

/** An end that a wire of the feeds can land on, or why it cannot. */
function landing(build: Build, plan: FeedPlan, path: string, text: string): Result<EndKey> {
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
function linked(build: Build, from: EndKey, to: EndKey, length?: number): Result<Build> {
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
function unlinked(build: Build, plan: FeedPlan, id: string): Build {
  const links = { ...build.feeds.links };
  delete links[id];
  const after = withFeeds(build, { links });
  // What was proposed under that name would come back.
  return plan.links.some((link) => link.id === id) && feedPlan(after).links.some((link) => link.id === id)
    ? withFeeds(build, { links: { ...links, [id]: null } })
    : after;
}

function freshName(plan: FeedPlan, kind: Part['kind'], wanted?: string): string {
  if (wanted !== undefined && !plan.parts.has(partId(kind, wanted))) return wanted;
  const stem = wanted ?? kind;
  let number = wanted === undefined ? 1 : 2;
  while (plan.parts.has(partId(kind, `${stem}-${number}`))) number += 1;
  return `${stem}-${number}`;
}

const withPart = (build: Build, id: PartId, part: Part | null): Build =>
  withFeeds(build, { parts: { ...build.feeds.parts, [id]: part } });

/** The wires that bring current to an end: to be replaced when it is hung elsewhere. */
function supplyOf(plan: FeedPlan, end: EndKey): string[] {
  return plan.links
    .filter(({ from, to, role }) => role !== 'return' && (to === end || from === end))
    .map(({ id }) => id);
}

/** A load hung on another outlet; its own length stays. */
function hung(build: Build, end: EndKey, from: EndKey): Result<Build> {
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

const isOutlet = (end: EndKey): boolean => {
  const ref = endOf(end);
  return ref.of === 'part' && !['ground', 'shield'].includes(ref.kind) && ref.port !== '85' && ref.port !== '86';
};

/** True where a load hung there would feed itself. */
function feedsItself(build: Build, end: EndKey, from: EndKey): boolean {
  const flows = flowsOf(build, feedPlan(build));
  return wayTo(flows, from).some((step) => step.from === end || step.to === end);
}

/** Things without ports of their own that a wire is cut for, and those with two. */
const inWire = ['fuse', 'switch', 'button', 'resistor', 'diode', 'splice'] as const;

export const feedEdits = {
  /** A part of its own, not wired yet. */
  addFeedPart: edit(
    z.object({ part: partSchema, name: name.optional() }),
    ({ part }) => `Add ${part.name} to the feeds`,
    (build, { part, name: wanted }) => {
      const own = freshName(feedPlan(build), part.kind, wanted);
      return ok(dropStale(withPart(build, partId(part.kind, own), part)));
    },
  ),
  /** Changes what a part is. Of one that is proposed only what was said is decided; the rest follows the proposal. */
  setFeedPart: edit(
    z.object({ partId: partText, changes: z.record(z.string().max(20), z.unknown()) }),
    ({ partId: id }, build) => `Change ${feedPlan(build).parts.get(id as PartId)?.part.name ?? id}`,
    (build, { partId: id, changes }) => {
      const found = feedPlan(build).parts.get(id as PartId);
      if (!found) return noPart(id);
      const box = changes.box;
      if (typeof box === 'string' && build.feeds.boxes[box] === undefined)
        return fail('no-box', 'changes.box', `There is no box ${box} in this build.`);
      const given = Object.fromEntries(
        Object.entries(changes).filter(([, value]) => value !== null && value !== undefined),
      );
      const parsed = partSchema.safeParse({ ...found.part, ...given, ...(box === null ? { box: undefined } : {}) });
      if (!parsed.success) return { ok: false, problem: zodProblem(parsed.error, 'invalid-part') };
      if (!found.proposed) return ok(dropStale(withPart(build, found.id, parsed.data)));
      const said = partChangesSchema.safeParse(given);
      if (!said.success) return { ok: false, problem: zodProblem(said.error, 'invalid-part') };
      const { box: was, ...before } = build.feeds.changes[found.id] ?? {};
      const kept = box === undefined && was !== undefined ? { box: was } : {};
      const next = { ...before, ...kept, ...said.data };
      return ok(dropStale(withFeeds(build, { changes: { ...build.feeds.changes, [found.id]: next } })));
    },
  ),
  /** Takes a part out. One in a single run is bridged; what hung on any other is fed by nothing until it is hung elsewhere. */
  removeFeedPart: edit(
    z.object({ partId: partText }),
    ({ partId: id }, build) => `Take ${feedPlan(build).parts.get(id as PartId)?.part.name ?? id} out`,
    (build, { partId: id }) => {
      const plan = feedPlan(build);
      const found = plan.parts.get(id as PartId);
      if (!found) return noPart(id);
      const ends = endsOfPart(found.part, found.name);
      const at = (end: EndKey) => plan.links.filter(({ from, to }) => from === end || to === end);
      const run =
        ends.length === 2 && found.part.kind !== 'fuse' ? ends.map(at) : ends.length === 1 ? [at(ends[0]!)] : [];
      const far = run.flat().map(({ from, to }) => (ends.includes(from) ? to : from));
      const bridges = far.length === 2 && run.every((links) => links.length === far.length / run.length);
      let next = build;
      for (const link of ends.flatMap(at)) next = unlinked(next, feedPlan(next), link.id);
      next = withPart(next, found.id, null);
      if (!feedPlan(withoutPart(next, found.id)).parts.has(found.id)) next = withoutPart(next, found.id);
      const again = (one: EndKey, other: EndKey) =>
        feedPlan(next).links.some(({ id: link }) => link === wireId(one, other));
      // What is proposed again needs no bridge.
      if (!bridges || again(far[0]!, far[1]!)) return ok(dropStale(next));
      const length = run.flat().reduce((sum, link) => sum + link.metres, 0);
      const bridged = linked(next, far[0]!, far[1]!, Math.round(length * 100) / 100);
      return bridged.ok ? ok(dropStale(bridged.value)) : bridged;
    },
  ),
  linkFeed: edit(
    z.object({ from: endText, to: endText, metres: metres.optional() }),
    ({ from, to }) => `Wire ${from} to ${to}`,
    (build, { from, to, metres: length }) => {
      const plan = feedPlan(build);
      const [one, other] = [landing(build, plan, 'from', from), landing(build, plan, 'to', to)];
      if (!one.ok) return one;
      if (!other.ok) return other;
      const next = linked(build, one.value, other.value, length);
      return next.ok ? ok(dropStale(next.value)) : next;
    },
  ),
  unlinkFeed: edit(
    z.object({ linkId: z.string().max(330) }),
    ({ linkId }) => `Take the wire ${linkId.replace('~', ' to ')} out`,
    (build, { linkId }) => {
      const plan = feedPlan(build);
      return plan.links.some(({ id }) => id === linkId) ? ok(dropStale(unlinked(build, plan, linkId))) : noLink(linkId);
    },
  ),
  /** Drops a wire of the document that leads to nothing any more. */
  forgetFeedLink: edit(
    z.object({ linkId: z.string().max(330) }),
    () => 'Forget a wire that leads nowhere',
    (build, { linkId }) => {
      if (build.feeds.links[linkId] === undefined) return noLink(linkId);
      const links = Object.fromEntries(Object.entries(build.feeds.links).filter(([id]) => id !== linkId));
      return ok(dropStale(withFeeds(build, { links })));
    },
  ),
  setFeedLink: edit(
    z.object({ linkId: z.string().max(330), metres }),
    () => 'Measure a wire of the feeds',
    (build, { linkId, metres: length }) => {
      const link = feedPlan(build).links.find(({ id }) => id === linkId);
      if (!link) return noLink(linkId);
      const { from, to } = link;
      return ok(withFeeds(build, { links: { ...build.feeds.links, [linkId]: { from, to, metres: length } } }));
    },
  ),
  /** Hangs a load, or the supply of a winding, on another fuse, relay, splice, busbar or source. */
  hangLoad: edit(
    z.object({ end: endText, from: endText }),
    ({ end, from }, build) => {
      const [one, other] = [end, from].map((text) => readEnd(text));
      return one && other
        ? `Hang ${called(build, endKey(one))} on ${called(build, endKey(other))}`
        : 'Hang a load elsewhere';
    },
    (build, { end: endName, from: fromName }) => {
      const plan = feedPlan(build);
      const [end, from] = [landing(build, plan, 'end', endName), landing(build, plan, 'from', fromName)];
      if (!end.ok) return end;
      if (!from.ok) return from;
      if (!isOutlet(from.value))
        return fail('no-outlet', 'from', `Nothing can be fed from ${called(build, from.value)}.`);
      if (feedsItself(build, end.value, from.value))
        return fail(
          'feeds-itself',
          'from',
          `${called(build, from.value)} hangs on ${called(build, end.value)} itself.`,
        );
      const next = hung(build, end.value, from.value);
      return next.ok ? ok(dropStale(next.value)) : next;
    },
  ),
  /** Takes a return to another bolt, or to a splice that several share. */
  moveReturn: edit(
    z.object({ end: endText, to: endText }),
    ({ end, to }, build) => {
      const [one, other] = [end, to].map((text) => readEnd(text));
      return one && other ? `Ground ${called(build, endKey(one))} at ${called(build, endKey(other))}` : 'Move a ground';
    },
    (build, { end: endName, to: toName }) => {
      const plan = feedPlan(build);
      const [end, to] = [landing(build, plan, 'end', endName), landing(build, plan, 'to', toName)];
      if (!end.ok) return end;
      if (!to.ok) return to;
      if (endType(to.value) !== 'ground' && endType(to.value) !== 'splice')
        return fail('no-ground', 'to', `${called(build, to.value)} is neither a bolt nor a splice of returns.`);
      const own = Object.entries(build.feeds.links).filter(
        ([, link]) => link?.from === end.value || link?.to === end.value,
      );
      const links = Object.fromEntries(
        Object.entries(build.feeds.links).filter(([id]) => !own.some(([old]) => old === id)),
      );
      const next = linked(withFeeds(build, { links }), end.value, to.value, own[0]?.[1]?.metres);
      return next.ok ? ok(next.value) : next;
    },
  ),
  /** Cuts a wire and puts a part in: a fuse, a switch, a button, a resistor, a diode, or a splice for what is to hang there. */
  insertInFeed: edit(
    z.object({ linkId: z.string().max(330), part: partSchema, name: name.optional() }),
    ({ part }) => `Put ${part.name} into a wire`,
    (build, { linkId, part, name: wanted }) => {
      const plan = feedPlan(build);
      const link = plan.links.find(({ id }) => id === linkId);
      if (!link) return noLink(linkId);
      if (!(inWire as readonly string[]).includes(part.kind))
        return fail(
          'not-in-a-wire',
          'part.kind',
          `A ${part.kind} does not go into a wire; add it and wire its terminals.`,
        );
      if (part.kind === 'fuse' && endType(link.to) === 'ground')
        return fail(
          'fuse-in-ground',
          'linkId',
          'A fuse does not go into a return: when it opens, the load finds another way to the battery.',
        );
      const own = freshName(plan, part.kind, wanted);
      const ends = endsOfPart(part, own);
      const [into, out] = [ends[0]!, ends[ends.length - 1]!];
      const half = Math.round((link.metres / 2) * 100) / 100;
      let next = withPart(build, partId(part.kind, own), part);
      const first = linked(next, link.from, into, half);
      if (!first.ok) return first;
      const second = linked(first.value, out, link.to, Math.round((link.metres - half) * 100) / 100);
      if (!second.ok) return second;
      next = second.value;
      return ok(dropStale(unlinked(next, feedPlan(next), linkId)));
    },
  ),
  /** Gives loads a fuse of their own, and where it is asked for a relay, straight from the source. */
  splitFeed: edit(
    z.object({
      ends: z.array(endText).min(1).max(40),
      name,
      title: z.string().trim().min(1).max(60),
      control: z.enum(['need', 'main-relay-pin', 'key-run', 'key-start']).nullable(),
    }),
    ({ title }) => `Give ${title} a feed of its own`,
    (build, { ends, name: wanted, title, control }) => {
      const plan = feedPlan(build);
      let own = wanted;
      for (let number = 2; plan.parts.has(partId('fuse', own)) || plan.parts.has(partId('relay', own)); number += 1)
        own = `${wanted}-${number}`;
      const source = build.feeds.source ?? BATTERY;
      let next = withPart(build, partId('fuse', own), { kind: 'fuse', name: title });
      const steps: [EndKey, EndKey, number][] = [[source, fuseEnd(own, 1), FUSE_METRES]];
      let outlet = fuseEnd(own, 2);
      if (control !== null) {
        next = withPart(next, partId('relay', own), {
          kind: 'relay',
          name: title,
          contact: 'make',
          control,
          suppression: 'none',
          reversed: false,
          contactAmps: 30,
        });
        steps.push([outlet, relayEnd(own, '30'), JUMPER_METRES]);
        outlet = relayEnd(own, '87');
      }
      if (ends.length > 1) {
        next = withPart(next, partId('splice', own), { kind: 'splice', name: title });
        steps.push([outlet, spliceEnd(own), 1]);
        outlet = spliceEnd(own);
      }
      for (const [from, to, length] of steps) {
        const wired = linked(next, from, to, length);
        if (!wired.ok) return wired;
        next = wired.value;
      }
      for (const text of ends) {
        const end = landing(build, plan, 'ends', text);
        if (!end.ok) return end;
        const moved = hung(next, end.value, outlet);
        if (!moved.ok) return moved;
        next = moved.value;
      }
      return ok(dropStale(next));
    },
  ),
  /** Where fuses that are proposed draw from: the battery's post, or a busbar behind a master switch. */
  setFeedSource: edit(
    z.object({ end: endText.nullable() }),
    () => 'Draw the feeds from elsewhere',
    (build, { end }) => {
      if (end === null) return ok(withFeeds(build, { source: null }));
      const found = landing(build, feedPlan(build), 'end', end);
      if (!found.ok) return found;
      return isOutlet(found.value)
        ? ok(withFeeds(build, { source: found.value === BATTERY ? null : found.value }))
        : fail('no-outlet', 'end', `Nothing can be fed from ${called(build, found.value)}.`);
    },
  ),
  /** A master switch in the battery's feed: everything but the starter's cable then hangs behind it. */
  fitMasterSwitch: edit(
    z.object({ amps: z.number().positive().max(1000) }),
    () => 'Fit a master switch',
    (build, { amps }) => {
      const plan = feedPlan(build);
      const own = freshName(plan, 'switch', 'master');
      const bar = freshName(plan, 'busbar', own);
      let next = withPart(build, partId('switch', own), {
        kind: 'switch',
        name: 'Master switch',
        amps,
        resting: 'closed',
      });
      next = withPart(next, partId('busbar', bar), { kind: 'busbar', name: 'Behind the master switch' });
      const source = build.feeds.source ?? BATTERY;
      const first = linked(next, source, partEnd('switch', own, '1'), 0.3);
      if (!first.ok) return first;
      const second = linked(first.value, partEnd('switch', own, '2'), partEnd('busbar', bar), 0.3);
      return second.ok ? ok(withFeeds(second.value, { source: partEnd('busbar', bar) })) : second;
    },
  ),
  addFeedBox: edit(
    z.object({ box: boxSchema, name: name.optional() }),
    ({ box }) => `Add ${box.name}`,
    (build, { box, name: wanted }) => {
      let own = wanted ?? 'box';
      for (let number = 2; build.feeds.boxes[own] !== undefined; number += 1) own = `${wanted ?? 'box'}-${number}`;
      return ok(withFeeds(build, { boxes: { ...build.feeds.boxes, [own]: box } }));
    },
  ),
  setFeedBox: edit(
    z.object({ name, changes: boxSchema.partial() }),
    ({ name: id }, build) => `Change ${build.feeds.boxes[id]?.name ?? id}`,
    (build, { name: id, changes }) => {
      const box = build.feeds.boxes[id];
      if (!box) return fail('no-box', 'name', `There is no box ${id} in this build.`);
      return ok(withFeeds(build, { boxes: { ...build.feeds.boxes, [id]: { ...box, ...changes } } }));
    },
  ),
  removeFeedBox: edit(
    z.object({ name }),
    ({ name: id }, build) => `Take ${build.feeds.boxes[id]?.name ?? id} away`,
    (build, { name: id }) => {
      if (!build.feeds.boxes[id]) return fail('no-box', 'name', `There is no box ${id} in this build.`);
      const boxes = Object.fromEntries(Object.entries(build.feeds.boxes).filter(([one]) => one !== id));
      const without = <T extends { box?: string | null }>(records: Readonly<Record<string, T | null>>) =>
        Object.fromEntries(
          Object.entries(records).map(([one, value]) => [
            one,
            value?.box === id ? { ...value, box: undefined } : value,
          ]),
        );
      const parts = without(build.feeds.parts) as Feeds['parts'];
      const changes = without(build.feeds.changes) as Feeds['changes'];
      return ok(withFeeds(build, { boxes, parts, changes }));
    },
  ),
  /** Forgets what was decided of the feeds and takes the proposal again; boxes stay. */
  proposeFeeds: edit(
    z.strictObject({}),
    () => 'Take the proposed feeds again',
    (build) => ok(dropStale(withFeeds(build, { parts: {}, changes: {}, links: {}, source: null }))),
  ),
};

const withoutPart = (build: Build, id: PartId): Build =>
  withFeeds(build, { parts: Object.fromEntries(Object.entries(build.feeds.parts).filter(([one]) => one !== id)) });

import { z } from 'zod';

import { zodProblem } from '../data/zod-problem';
import {
  BATTERY,
  endType,
  fuseEnd,
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
import { feedPlan } from '../power/feed-plan';
import { FUSE_METRES, JUMPER_METRES } from '../power/propose';
import { USUAL_CONTACT_AMPS, endsOfPart, partChangesSchema, partSchema } from '../topology/parts';
import { fail, ok } from '../problem';
import { edit } from './edit';
import {
  withFeeds,
  called,
  noPart,
  noLink,
  landing,
  linked,
  unlinked,
  freshName,
  withPart,
  hung,
  isOutlet,
  feedsItself,
  withoutPart,
} from './feed-wires';
import { dropStale } from './stale';

/*
 * What a person decides of the feeds. Each edit writes only what it decides; the rest stays proposed. Wires keep their names as long
 * as their ends do, so that what was proved, cut and labelled beside a change stands.
 */

const name = z.string().regex(/^[a-z0-9-]{1,60}$/, 'must be lower-case letters, digits and hyphens');
const partText = z.string().max(80);
const endText = z.string().max(160);
const metres = z.number().min(0).max(30);
/** From a terminal to the splice or the bar beside it, metres. */
const JOINT_METRES = 0.1;

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
  /** Joins the wires that lie upon each other at a place at a splice, or at a bar where they are bolted, and leads one on to it. */
  spreadEnd: edit(
    z.object({ end: endText }),
    ({ end }, build) => `Join the wires at ${called(build, end as EndKey)}`,
    (build, { end: text }) => {
      const plan = feedPlan(build);
      const landed = landing(build, plan, 'end', text);
      if (!landed.ok) return landed;
      const end = landed.value;
      const at = plan.links.filter(({ from, to }) => from === end || to === end);
      if (at.length < 2) return fail('one-wire', 'end', `One wire at the most lies at ${called(build, end)}.`);
      const isBar = endType(end) === 'battery' || endType(end) === 'switch';
      const kind = isBar ? 'busbar' : 'splice';
      const own = freshName(plan, kind, isBar ? 'bar' : 'joint');
      const joint = partEnd(kind, own);
      let next = withPart(build, partId(kind, own), {
        kind,
        name: isBar ? `Bar at ${called(build, end)}` : `Joint at ${called(build, end)}`,
      });
      for (const { id, from, to, metres: length } of at) {
        next = unlinked(next, feedPlan(next), id);
        const moved = linked(next, from === end ? joint : from, to === end ? joint : to, length);
        if (!moved.ok) return moved;
        next = moved.value;
      }
      const on = linked(next, end, joint, JOINT_METRES);
      return on.ok ? ok(dropStale(on.value)) : on;
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
          contactAmps: USUAL_CONTACT_AMPS,
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
        poles: 2,
      });
      next = withPart(next, partId('busbar', bar), { kind: 'busbar', name: 'Behind the master switch' });
      const source = build.feeds.source ?? BATTERY;
      const first = linked(next, source, partEnd('switch', own, '1'), 0.3);
      if (!first.ok) return first;
      const behind = partEnd('busbar', bar);
      const second = linked(first.value, partEnd('switch', own, '2'), behind, 0.3);
      if (!second.ok) return second;
      // It parts all of the car: starter and alternator hang behind it too.
      const { starterCable, alternatorCable } = build.power;
      const power = {
        ...build.power,
        starterCable: { ...starterCable, at: behind },
        alternatorCable: { ...alternatorCable, at: behind },
      };
      return ok({ ...withFeeds(second.value, { source: behind }), power });
    },
  ),
  /** Forgets what was decided of the feeds and takes the proposal again; boxes stay. */
  proposeFeeds: edit(
    z.strictObject({}),
    () => 'Take the proposed feeds again',
    (build) => ok(dropStale(withFeeds(build, { parts: {}, changes: {}, links: {}, source: null }))),
  ),
};

import { z } from 'zod';
import type { Build } from '../build/schema';
import { groupBy } from '../data/group';
import { serve } from '../ecu/ask';
import { firedTogether, workOf } from '../engine/outputs';
import { canJoin, canShare, folded } from '../netlist/joined';
import { needsOf, separateNeeds, type Need } from '../netlist/needs';
import { ecuEnd } from '../ends/ends';
import { continuityId } from '../prove/prove-test';
import { fail, ok } from '../problem';
import { edit } from './edit';
import { dropStale } from './stale';

/** Most parts that one cavity and its splice can hold (common practice). */
const MOST_JOINED = 8;

/** Members of the output a need leads, itself first. */
const groupOf = (joined: Build['joined'], leadId: string): string[] => [
  leadId,
  ...Object.keys(joined).filter((id) => joined[id] === leadId),
];

/** A need taken out of the output it shares; where it led, the next leads and keeps the pin. */
function parted(build: Build, needId: string): Build {
  const joined = { ...build.joined };
  const own = groupOf(joined, needId).slice(1);
  delete joined[needId];
  const [next, ...rest] = own;
  if (next === undefined) return { ...build, joined };
  delete joined[next];
  for (const id of rest) joined[id] = next;
  const assignments = { ...build.assignments };
  const pin = assignments[needId];
  delete assignments[needId];
  if (pin !== undefined) assignments[next] = pin;
  const name = (id: string) => (id === needId ? next : id);
  return {
    ...build,
    joined,
    assignments,
    locked: build.locked.map(name),
    never: build.never.map((one) => (one.needId === needId ? { ...one, needId: next } : one)),
  };
}

/**
 * A wire that is cut for a splice, or led past one, is not the wire that was measured: what was read from a cavity to a terminal
 * whose way there is another now is taken back.
 */
function unproved(before: Build, after: Build): Build {
  const ways = (build: Build) =>
    new Map(
      needsOf(build).flatMap((need) => {
        const pin = build.assignments[need.id];
        const way = need.joined.length > 0 ? 'splice' : 'straight';
        return pin === undefined
          ? []
          : [need, ...need.joined].map(({ end }) => [continuityId(ecuEnd(pin), end), way] as const);
      }),
    );
  const [was, is] = [ways(before), ways(after)];
  const cut = Object.keys(after.prove.readings).filter((id) => was.has(id) && is.has(id) && was.get(id) !== is.get(id));
  if (cut.length === 0) return after;
  const readings = Object.fromEntries(Object.entries(after.prove.readings).filter(([id]) => !cut.includes(id)));
  return { ...after, prove: { ...after.prove, readings } };
}

/** Joins kept whole after any edit that touched devices or kinds: one that went leaves, and where it led, the next leads. */
export function withJoins(before: Build, after: Build): Build {
  if (Object.keys(after.joined).length === 0) return after;
  if (after.devices === before.devices && after.kinds === before.kinds) return after;
  const needs = new Map(separateNeeds(after).map((need) => [need.id, need]));
  let next: Build = after;
  for (const id of new Set(Object.values(after.joined))) {
    const lead = needs.get(id);
    if (lead && canJoin(lead)) continue;
    // What was placed before is asked: the edit may have dropped it with the device already.
    const pin = before.assignments[id];
    const assignments = pin === undefined ? next.assignments : { ...next.assignments, [id]: pin };
    const locked = before.locked.includes(id) ? [...new Set([...next.locked, id])] : next.locked;
    next = parted({ ...next, assignments, locked }, id);
  }
  for (const [id, leadId] of Object.entries(next.joined)) {
    const [need, lead] = [needs.get(id), needs.get(leadId)];
    if (!need || !lead || !canShare(need, lead)) next = parted(next, id);
  }
  return unproved(before, next);
}

/** A need, and the one whose output it is to hang on. */
export interface Join {
  readonly needId: string;
  readonly leadId: string;
}

/**
 * Joins that a build needs whose ECU has fewer outputs than it has injectors or coils: those worked together share an output,
 * as few to each as the outputs allow, neighbours together. None where there are outputs enough, where they are worked apart,
 * or where no output would stand them.
 */
export function proposedJoins(build: Build): Join[] {
  const needs = needsOf(build).filter((need) => need.outputs !== null && canJoin(need));
  return [...groupBy(needs, ({ ask }) => ask.kind)].flatMap(([kind, own]) => {
    const pins = build.ecu.pins.filter((pin) => pin.abilities.some((ability) => ability.kind === kind));
    if (own.length <= pins.length) return [];
    const sets = firedTogether(build.engine, workOf({ kind })!);
    const together = [
      ...groupBy(own, ({ serves, row }) => {
        const set = sets.findIndex((one) => serves.every((cylinder) => one.includes(cylinder)));
        return set < 0 ? 'apart' : `${row} ${set}`;
      }),
    ].map(([key, members]) => ({ key, members, outputs: key === 'apart' ? members.length : 1 }));
    let left = pins.length - together.reduce((sum, { outputs }) => sum + outputs, 0);
    if (left < 0) return [];
    for (; left > 0; left -= 1) {
      const fullest = together
        .filter(({ outputs, members }) => outputs < members.length)
        .sort((one, other) => other.members.length / other.outputs - one.members.length / one.outputs)[0];
      if (fullest) fullest.outputs += 1;
    }
    const joins = together.flatMap(({ members, outputs }) => {
      const inRow = [...members].sort((one, other) => one.serves[0]! - other.serves[0]!);
      return inRow.flatMap((need, at): Join[] => {
        // Runs as even as they come: the first of each leads.
        const lead = inRow[Math.ceil((Math.floor((at * outputs) / inRow.length) * inRow.length) / outputs)]!;
        return lead === need ? [] : [{ needId: need.id, leadId: lead.id }];
      });
    });
    const joined = folded(
      { joined: Object.fromEntries(joins.map(({ needId, leadId }) => [needId, leadId])) },
      separateNeeds(build).filter((need) => own.some(({ id }) => id === need.id)),
    );
    const stands = (need: Need) => pins.some((pin) => serve(pin, need.ask).miss === null);
    return joined.every(stands) ? joins : [];
  });
}

export const joinEdits = {
  /** Hangs a need on the output of another; null gives it an output of its own again. */
  joinOutput: edit(
    z.object({ needId: z.string().max(120), leadId: z.string().max(120).nullable() }),
    ({ needId, leadId }, build) => {
      const name = (id: string) => separateNeeds(build).find((need) => need.id === id)?.label ?? id;
      return leadId === null
        ? `Give ${name(needId)} an output of its own`
        : `Hang ${name(needId)} on the output of ${name(leadId)}`;
    },
    (build, { needId, leadId }) => {
      const needs = new Map(separateNeeds(build).map((need) => [need.id, need]));
      const need = needs.get(needId);
      if (!need) return fail('no-need', 'needId', `Nothing of this build asks for a pin as ${needId}.`);
      if (leadId === null) return ok(unproved(build, dropStale(parted(build, needId))));
      // A member of an output stands for the output.
      const wanted = needs.get(build.joined[leadId] ?? leadId);
      if (!wanted) return fail('no-need', 'leadId', `Nothing of this build asks for a pin as ${leadId}.`);
      if (!canShare(need, wanted))
        return fail(
          'cannot-share',
          'leadId',
          wanted.id === need.id
            ? `${need.label} leads this output already.`
            : `${need.label} cannot share an output with ${wanted.label}: only outputs of one kind work several parts.`,
        );
      const group = groupOf(build.joined, needId);
      if (group.length + groupOf(build.joined, wanted.id).length > MOST_JOINED)
        return fail('too-many', 'leadId', `One output holds at most ${MOST_JOINED} parts.`);
      const joined = { ...build.joined, ...Object.fromEntries(group.map((id) => [id, wanted.id])) };
      const pin = build.assignments[wanted.id] ?? build.assignments[needId];
      const assignments = pin === undefined ? build.assignments : { ...build.assignments, [wanted.id]: pin };
      return ok(unproved(build, dropStale({ ...build, joined, assignments })));
    },
  ),
};

import { z } from 'zod';
import { busSchema, MOST_BUSES, type Build, type Bus } from '../build/schema';
import { busSides, busTerminal, membersOf } from '../netlist/bus';
import { trait } from '../devices/kind';
import { terminalId } from '../ends/ends';
import { fail, ok } from '../problem';
import { edit } from './edit';

/** CAN devices of a build with the rate they speak. */
function speakers(build: Build): Map<string, number> {
  return new Map(
    build.devices.flatMap((device) => {
      const can = build.kinds[device.kindId] && trait(build.kinds[device.kindId]!, 'can');
      return can ? [[device.id, can.kilobits] as const] : [];
    }),
  );
}

function freeBus(buses: readonly Bus[], kilobits: number): Omit<Bus, 'members'> {
  let number = 1;
  while (buses.some(({ id }) => id === `can-${number}`)) number += 1;
  return { id: `can-${number}`, name: `CAN ${number}`, kilobits };
}

/**
 * Every CAN device on one bus: one that came joins the first bus of its rate, or gets a bus of its own; one that went leaves, and an
 * empty bus goes. The same build when nothing is to be done.
 */
function joined(build: Build): Build {
  const rates = speakers(build);
  const on = new Set<string>();
  let buses: Bus[] = build.buses
    .map((bus) => ({
      ...bus,
      members: bus.members.filter((id) => {
        const stays = rates.has(id) && !on.has(id);
        on.add(id);
        return stays;
      }),
    }))
    .filter(({ members }) => members.length > 0);
  for (const [id, kilobits] of rates) {
    if (on.has(id)) continue;
    // Where the file holds no more buses it joins the last one; the rule of two rates then says so.
    const bus =
      buses.find((one) => one.kilobits === kilobits) ?? (buses.length >= MOST_BUSES ? buses.at(-1) : undefined);
    buses = bus
      ? buses.map((one) => (one === bus ? { ...one, members: [...one.members, id] } : one))
      : [...buses, { ...freeBus(buses, kilobits), members: [id] }];
  }
  return JSON.stringify(buses) === JSON.stringify(build.buses) ? build : { ...build, buses };
}

/** The pins of a bus stay with it when another member comes to lead it. */
function carried(before: Build, after: Build): Build {
  const moved = new Map<string, string>();
  for (const bus of after.buses) {
    const old = before.buses.find(({ id }) => id === bus.id);
    const [was, is] = [old && membersOf(before, old)[0], membersOf(after, bus)[0]];
    if (!was || !is || was.device.id === is.device.id) continue;
    for (const side of busSides) {
      const [one, other] = [busTerminal(was.device, was.kind, side), busTerminal(is.device, is.kind, side)];
      if (one && other) moved.set(terminalId(was.device.id, one.id), terminalId(is.device.id, other.id));
    }
  }
  if (moved.size === 0) return after;
  const name = (id: string) => moved.get(id) ?? id;
  return {
    ...after,
    // What was placed before is asked: the edit may have dropped it with the device already.
    assignments: {
      ...after.assignments,
      ...Object.fromEntries(
        [...moved].flatMap(([was, is]) => (before.assignments[was] ? [[is, before.assignments[was]]] : [])),
      ),
    },
    locked: [...new Set([...after.locked, ...before.locked.filter((id) => moved.has(id))].map(name))],
    never: after.never.map((one) => (one.needId === null ? one : { ...one, needId: name(one.needId) })),
  };
}

/** Brings the buses after any edit that touched devices, kinds or buses. */
export function withBuses(before: Build, after: Build): Build {
  if (after.devices === before.devices && after.kinds === before.kinds && after.buses === before.buses) return after;
  return carried(before, joined(after));
}

export const busEdits = {
  setBus: edit(
    z.object({ bus: busSchema }),
    ({ bus }) => `Change ${bus.name}`,
    (build, { bus }) => {
      const rates = speakers(build);
      const stranger = bus.members.find((id) => !rates.has(id));
      if (stranger !== undefined)
        return fail('no-member', 'bus.members', `${stranger} is no CAN device of this build.`);
      if (new Set(bus.members).size !== bus.members.length)
        return fail('twice', 'bus.members', 'A device stands once on its bus.');
      if (bus.members.length === 0) return fail('empty', 'bus.members', 'A bus has a member at least.');
      const others = build.buses
        .filter(({ id }) => id !== bus.id)
        .map((one) => ({ ...one, members: one.members.filter((id) => !bus.members.includes(id)) }))
        .filter(({ members }) => members.length > 0);
      const place = build.buses.findIndex(({ id }) => id === bus.id);
      const buses = place < 0 ? [...others, bus] : [...others.slice(0, place), bus, ...others.slice(place)];
      if (buses.length > MOST_BUSES) return fail('too-many', 'bus', `A build holds at most ${MOST_BUSES} buses.`);
      return ok({ ...build, buses });
    },
  ),
};

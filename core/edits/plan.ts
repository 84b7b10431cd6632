import { withId } from '../data/with-id';
import { z } from 'zod';
import { allot } from '../allot/allot';
import { abilityKinds } from '../ecu/ecu';
import { missSentence, serve } from '../ecu/ask';
import { isColour } from '../wire/colours';
import { needsOf } from '../netlist/needs';
import { fail, ok } from '../problem';
import { cycleDegrees } from '../engine/engine';
import { partId } from '../ends/ends';
import { stands, triggerFacts } from '../prove/evidence';
import { CONFIRMED_WITHIN, TOOTH_TO_TDC, lastAgrees, newOffset } from '../trigger/offset';
import { wheelSchema } from '../wheels/wheel';
import { wrapDegrees } from '../units/convert';
import { cableSchema, circuitChoiceSchema, planSchema, type Build, type CircuitChoice } from '../build/schema';
import { powerPlan } from '../netlist/power-plan';
import { edit } from './edit';
import { dropStale } from './stale';

const needLabel = (build: Build, needId: string) => needsOf(build).find((need) => need.id === needId)?.label ?? needId;
const place = (build: Build, needId: string, pinId: string): Build => ({
  ...build,
  assignments: { ...build.assignments, [needId]: pinId },
});

const allotWords = {
  placed: 'Allot the rest',
  most: 'Allot, moving what must move',
  locked: 'Allot all anew',
} as const;

/** A relay that is the person's own follows what is chosen of its feed; of one that is proposed that is what is said now. */
function withRelay({ feeds }: Build, circuitId: string, { relay, winding, switchedBy }: CircuitChoice): Build['feeds'] {
  const id = partId('relay', circuitId);
  const own = feeds.parts[id];
  const said = feeds.changes[id];
  if (own?.kind === 'relay') {
    const suppression = relay === undefined ? own.suppression : relay === 'diode' ? 'diode' : 'none';
    const reversed = winding === undefined ? own.reversed : winding === 'reversed';
    const control = switchedBy === undefined ? own.control : switchedBy === 'key' ? 'key-run' : 'need';
    return { ...feeds, parts: { ...feeds.parts, [id]: { ...own, suppression, reversed, control } } };
  }
  if (said === undefined) return feeds;
  const { suppression, reversed, control, ...rest } = said;
  const kept = {
    ...(relay === undefined && suppression !== undefined ? { suppression } : {}),
    ...(winding === undefined && reversed !== undefined ? { reversed } : {}),
    ...(switchedBy === undefined && control !== undefined ? { control } : {}),
  };
  return { ...feeds, changes: { ...feeds.changes, [id]: { ...rest, ...kept } } };
}

/** Decisions of sheets 2 to 5: pins, trigger, power, loom. */
/** The build with no size of its own for any wire of the trunk of a feed. */
function withoutOwnSizes(build: Build, circuitId: string): Build {
  const own = withId(powerPlan(build).circuits, circuitId)?.ownSizes ?? [];
  if (own.length === 0) return build;
  const wires = { ...build.loom.wires };
  for (const id of own) {
    const { squareMm: _, ...rest } = wires[id]!;
    if (Object.keys(rest).length > 0) wires[id] = rest;
    else delete wires[id];
  }
  return { ...build, loom: { ...build.loom, wires } };
}

export const planEdits = {
  setOutputOrder: edit(
    z.object({ outputOrder: z.enum(['in-turn', 'by-cylinder']) }),
    ({ outputOrder }) => (outputOrder === 'in-turn' ? 'Outputs fire in turn' : 'Outputs are numbered by cylinder'),
    (build, { outputOrder }) => ok({ ...build, outputOrder }),
  ),
  assign: edit(
    z.object({ needId: z.string(), pinId: z.string() }),
    ({ needId, pinId }, build) => `Place ${needLabel(build, needId)} on ${pinId}`,
    (build, { needId, pinId }) => {
      const needs = needsOf(build);
      const need = withId(needs, needId);
      const pin = withId(build.ecu.pins, pinId);
      if (!need) return fail('no-need', 'needId', `There is no need ${needId} in this build.`);
      if (!pin) return fail('no-pin', 'pinId', `${build.ecu.model} has no cavity ${pinId}.`);
      const served = serve(pin, need.ask);
      if (served.miss)
        return fail(
          'cannot-serve',
          'pinId',
          `${pin.id} ${missSentence(served.miss, need.ask)}: ${need.label} cannot go there.`,
        );
      const before = build.assignments[needId];
      const holder = needs.find((one) => one.id !== needId && build.assignments[one.id] === pinId);
      if (holder && build.locked.includes(holder.id))
        return fail('locked', 'pinId', `${pin.id} is locked for ${holder.label}.`);
      if (build.locked.includes(needId) && before !== pinId)
        return fail('locked', 'needId', `${need.label} is locked on ${before}.`);
      const next = place(build, needId, pinId);
      // On an input of one pin a VR signal asks for no second.
      if (!holder) return ok(need.ask.kind === 'vr' ? dropStale(next) : next);
      // The pin is taken: swap when the other can live where this one came from, else it is left open.
      const origin = withId(build.ecu.pins, before);
      if (origin && serve(origin, holder.ask).ability) return ok(place(next, holder.id, origin.id));
      const assignments = { ...next.assignments };
      delete assignments[holder.id];
      return ok({ ...next, assignments });
    },
  ),
  unassign: edit(
    z.object({ needId: z.string() }),
    ({ needId }, build) => `Free ${build.assignments[needId] ?? needLabel(build, needId)}`,
    (build, { needId }) => {
      if (build.locked.includes(needId))
        return fail('locked', 'needId', `${needLabel(build, needId)} is locked: unlock it first.`);
      const assignments = { ...build.assignments };
      delete assignments[needId];
      return ok({ ...build, assignments });
    },
  ),
  lock: edit(
    z.object({ needId: z.string(), locked: z.boolean() }),
    ({ needId, locked }, build) => `${locked ? 'Lock' : 'Unlock'} ${needLabel(build, needId)}`,
    (build, { needId, locked }) => {
      if (locked && build.assignments[needId] === undefined)
        return fail('not-placed', 'needId', `${needLabel(build, needId)} has no pin to lock.`);
      const rest = build.locked.filter((id) => id !== needId);
      return ok({ ...build, locked: locked ? [...rest, needId] : rest });
    },
  ),
  allotAll: edit(
    z.object({ keep: z.enum(['placed', 'most', 'locked']) }),
    ({ keep }) => allotWords[keep],
    (build, { keep }) => {
      const { assignments, shared } = allot(build, { keep, explain: false });
      return ok({
        ...build,
        assignments: Object.fromEntries(assignments.map(({ needId, pinId }) => [needId, pinId])),
        shared: { ...build.shared, ...shared },
      });
    },
  ),
  setReserve: edit(
    z.object({ kind: z.enum(['any', ...abilityKinds]), count: z.int().min(0).max(40) }),
    () => 'Set spares to keep',
    (build, { kind, count }) => {
      const reserve = { ...build.reserve, [kind]: count };
      if (count === 0) delete reserve[kind];
      return ok({ ...build, reserve });
    },
  ),
  setWheel: edit(
    z.object({ shaft: z.enum(['crank', 'cam']), wheel: wheelSchema.nullable() }),
    ({ shaft, wheel }) => (wheel ? `Choose ${shaft} wheel ${wheel.id}` : `Remove ${shaft} wheel`),
    (build, { shaft, wheel }) =>
      ok({
        ...build,
        trigger: {
          ...build.trigger,
          ...(shaft === 'crank' ? { crankWheel: wheel } : { camWheel: wheel }),
          offsetConfirmed: false,
        },
      }),
  ),
  setTrigger: edit(
    z.object({
      offsetDegrees: z.number().min(0).lt(720).optional(),
      offsetWay: planSchema.shape.trigger.shape.offsetWay.optional(),
      lockDegrees: z.union([z.literal(0), z.literal(10)]).optional(),
      crankEdge: z.enum(['rising', 'falling']).nullable().optional(),
      ripple: z.number().min(0).max(0.6).optional(),
      chartRpm: z.int().min(100).max(20000).optional(),
      dwellMilliseconds: z.number().positive().max(20).optional(),
      injectionMilliseconds: z.number().positive().max(40).optional(),
      advanceDegrees: z.number().min(-20).max(60).optional(),
    }),
    () => 'Change the trigger set-up',
    (build, fields) =>
      ok({
        ...build,
        trigger: {
          ...build.trigger,
          ...fields,
          ...(fields.offsetDegrees !== undefined && fields.offsetDegrees !== build.trigger.offsetDegrees
            ? { offsetConfirmed: false }
            : {}),
        },
      }),
  ),
  readLight: edit(
    z.object({
      at: z.iso.datetime(),
      rpm: z.number().min(0).max(20000),
      seenDegrees: z.number().min(-720).max(720),
      /** For a log at several speeds: note it, and leave the offset as it is. */
      keepOffset: z.boolean().optional(),
    }),
    ({ seenDegrees }) => `Light read at ${seenDegrees}°`,
    (build, { at, rpm, seenDegrees, keepOffset = false }) => {
      const { trigger } = build;
      const cycle = cycleDegrees(build.engine) as 360 | 720;
      const answer = newOffset({
        oldDegrees: trigger.offsetDegrees,
        commandedDegrees: trigger.lockDegrees,
        seenDegrees,
        cycleDegrees: cycle,
        sign: TOOTH_TO_TDC,
      });
      const agrees = Math.abs(answer.errorDegrees) <= CONFIRMED_WITHIN;
      return ok({
        ...build,
        trigger: {
          ...trigger,
          offsetDegrees: agrees || keepOffset ? trigger.offsetDegrees : wrapDegrees(answer.newDegrees, cycle),
          offsetConfirmed: agrees,
          readings: [
            ...trigger.readings.slice(-199),
            {
              at,
              rpm,
              commandedDegrees: trigger.lockDegrees,
              seenDegrees,
              oldOffset: trigger.offsetDegrees,
              newOffset: answer.newDegrees,
              on: triggerFacts(build),
            },
          ],
        },
      });
    },
  ),
  dropLight: edit(
    z.object({ index: z.int().min(0).max(199) }),
    () => 'Strike a reading of the light',
    (build, { index }) => {
      const { readings } = build.trigger;
      if (index >= readings.length) return fail('no-reading', 'index', `There is no reading number ${index + 1}.`);
      const left = readings.filter((_, i) => i !== index);
      const cycle = cycleDegrees(build.engine) as 360 | 720;
      // Only what was read on these wheels and this ECU can confirm them.
      const now = triggerFacts(build);
      const standing = left.filter((reading) => stands(reading.on, now));
      const offsetConfirmed = lastAgrees(standing, build.trigger.offsetDegrees, cycle);
      return ok({ ...build, trigger: { ...build.trigger, offsetConfirmed, readings: left } });
    },
  ),
  clearLights: edit(
    z.strictObject({}),
    () => 'Start a new log of the light',
    (build) => ok({ ...build, trigger: { ...build.trigger, offsetConfirmed: false, readings: [] } }),
  ),
  /** The last word holds: a size for the feed takes the place of one that a wire of its trunk was given by itself. */
  setCircuit: edit(
    z.object({ circuitId: z.string(), choice: circuitChoiceSchema.partial() }),
    ({ circuitId }) => `Change the ${circuitId} feed`,
    (build, { circuitId, choice }) => {
      const merged = Object.fromEntries(
        Object.entries({ ...build.power.circuits[circuitId], ...choice }).filter(([, value]) => value !== undefined),
      );
      const circuits = { ...build.power.circuits, [circuitId]: merged };
      return ok(
        dropStale({
          ...(choice.squareMm === undefined ? build : withoutOwnSizes(build, circuitId)),
          power: { ...build.power, circuits },
          feeds: withRelay(build, circuitId, choice),
        }),
      );
    },
  ),
  /** Forgets the person's choice and takes the derived figures again. */
  deriveCircuit: edit(
    z.object({
      circuitId: z.string(),
      fields: z.array(z.enum(['squareMm', 'fuseAmps', 'fuseDistanceMetres', 'lengthMetres', 'winding'])),
    }),
    ({ circuitId }) => `Derive the ${circuitId} feed again`,
    (build, { circuitId, fields }) => {
      const rest = Object.fromEntries(
        Object.entries(build.power.circuits[circuitId] ?? {}).filter(([key]) => !(fields as string[]).includes(key)),
      );
      return ok({
        ...(fields.includes('squareMm') ? withoutOwnSizes(build, circuitId) : build),
        power: { ...build.power, circuits: { ...build.power.circuits, [circuitId]: rest } },
      });
    },
  ),
  setPower: edit(
    z.object({
      ecuGround: z.enum(['battery', 'head']).optional(),
      strapSquareMm: z.number().positive().max(95).optional(),
      strapMetres: z.number().positive().max(30).optional(),
      starterCable: cableSchema.partial().optional(),
      alternatorCable: cableSchema.partial().optional(),
      joints: z.enum(['apart', 'stacked']).optional(),
      starting: z.enum(['key', 'button']).optional(),
      charging: z.enum(['alternator', 'none']).optional(),
      batteryAh: z.number().min(1).max(500).optional(),
      /** Null: nobody knows what it is marked with. */
      alternatorAmps: z.number().min(1).max(500).nullable().optional(),
      groundMetres: z
        .object({
          battery: z.number().min(0).max(30),
          head: z.number().min(0).max(30),
          chassis: z.number().min(0).max(30),
        })
        .optional(),
    }),
    () => 'Change grounds, starting and charging',
    (build, { alternatorAmps, starterCable, alternatorCable, ...fields }) => {
      const { alternatorAmps: was, ...power } = build.power;
      const marked = alternatorAmps === undefined ? was : (alternatorAmps ?? undefined);
      return ok(
        dropStale({
          ...build,
          power: {
            ...power,
            ...fields,
            starterCable: { ...power.starterCable, ...starterCable },
            alternatorCable: { ...power.alternatorCable, ...alternatorCable },
            ...(marked === undefined ? {} : { alternatorAmps: marked }),
          },
        }),
      );
    },
  ),
  setLoom: edit(
    planSchema.shape.loom.omit({ wires: true }).partial(),
    () => 'Change the loom',
    (build, fields) => ok({ ...build, loom: { ...build.loom, ...fields } }),
  ),
  setWire: edit(
    z.object({
      wireId: z.string().max(200),
      /** Null: the derived size again. */
      squareMm: z.number().positive().max(95).nullable().optional(),
      /** Null: the colour it is given again. */
      colour: z.string().max(12).nullable().optional(),
    }),
    ({ wireId }) => `Change wire ${wireId}`,
    (build, { wireId, squareMm, colour }) => {
      if (typeof colour === 'string' && !isColour(colour))
        return fail('colour', 'colour', `${colour} is no IEC 60757 colour such as WH or WH/BU.`);
      const was = build.loom.wires[wireId];
      const size = squareMm === undefined ? was?.squareMm : squareMm;
      const paint = colour === undefined ? was?.colour : colour;
      const { [wireId]: _, ...wires } = build.loom.wires;
      if (typeof size !== 'number' && typeof paint !== 'string')
        return ok({ ...build, loom: { ...build.loom, wires } });
      const choice = {
        ...(typeof size === 'number' ? { squareMm: size } : {}),
        ...(typeof paint === 'string' ? { colour: paint } : {}),
      };
      return ok({ ...build, loom: { ...build.loom, wires: { ...wires, [wireId]: choice } } });
    },
  ),
};

import { z } from 'zod';
import { withId } from '../data/with-id';
import { serve, missSentence } from '../ecu/ask';
import { pinsOfKind } from '../ecu/ecu';
import { signalClassNames } from '../wire/colours';
import { groundPins } from '../netlist/ground-pins';
import { needsOf } from '../netlist/needs';
import { fail, ok } from '../problem';
import { plural } from '../units/format';
import { markSchema, pinningEnds, pinningOrders, type Build } from '../build/schema';
import { edit } from './edit';

const sameNever = (one: Build['never'][number], other: Build['never'][number]) =>
  one.needId === other.needId && one.pinId === other.pinId;

const groundUseWords = { ecu: 'the ECU', sensors: 'the sensors', both: 'the ECU and the sensors' } as const;

const wireIds = z.array(z.string().max(200)).min(1).max(600);

/** Decisions of the pin desk beside placing: whole solutions, pins kept out, shared supplies, crimps, marks. */
export const pinEdits = {
  /** Takes over what the solver found elsewhere; refused when it no longer fits the build it meets. */
  placeAll: edit(
    z.object({
      assignments: z.record(z.string(), z.string()),
      shared: z.record(z.string(), z.string()),
      label: z.string().max(60),
    }),
    ({ label }) => label,
    (build, { assignments, shared }) => {
      const needs = new Map(needsOf(build).map((need) => [need.id, need]));
      const pins = new Map(build.ecu.pins.map((pin) => [pin.id, pin]));
      const used = new Map<string, string>();
      for (const [needId, pinId] of Object.entries(assignments)) {
        const [need, pin] = [needs.get(needId), pins.get(pinId)];
        if (!need || !pin)
          return fail('stale', `assignments.${needId}`, 'The plan changed while it was worked out: allot again.');
        const { miss } = serve(pin, need.ask);
        const stays = build.locked.includes(needId) && build.assignments[needId] === pinId;
        if (miss && !stays)
          return fail(
            'cannot-serve',
            `assignments.${needId}`,
            `${pin.id} ${missSentence(miss, need.ask)}: ${need.label} cannot go there.`,
          );
        const other = used.get(pinId);
        if (other !== undefined)
          return fail(
            'twice',
            `assignments.${needId}`,
            `${pinId} would be used by ${needs.get(other)!.label} and ${need.label}.`,
          );
        used.set(pinId, needId);
      }
      const moved = build.locked.find((id) => needs.has(id) && assignments[id] !== build.assignments[id]);
      if (moved !== undefined)
        return fail(
          'locked',
          `assignments.${moved}`,
          `${needs.get(moved)!.label} is locked on ${build.assignments[moved]}.`,
        );
      return ok({ ...build, assignments, shared: { ...build.shared, ...shared } });
    },
  ),
  /** 'Never here': for one need, or (`needId` null) for all: the cavity stays empty. */
  setNever: edit(
    z.object({ needId: z.string().max(120).nullable(), pinId: z.string().max(8), never: z.boolean() }),
    ({ pinId, never }) => (never ? `Never on ${pinId}` : `${pinId} may be used again`),
    (build, { needId, pinId, never }) => {
      if (!build.ecu.pins.some((pin) => pin.id === pinId))
        return fail('no-pin', 'pinId', `${build.ecu.model} has no cavity ${pinId}.`);
      const entry = { needId, pinId };
      const rest = build.never.filter((one) => !sameNever(one, entry));
      if (!never) return ok({ ...build, never: rest });
      const held = needsOf(build).find(
        (need) => build.assignments[need.id] === pinId && (needId === null || need.id === needId),
      );
      if (held && build.locked.includes(held.id))
        return fail('locked', 'pinId', `${pinId} is locked for ${held.label}: unlock it first.`);
      const assignments = { ...build.assignments };
      if (held) delete assignments[held.id];
      return ok({ ...build, assignments, never: [...rest, entry] });
    },
  ),
  /** Pins of shared 5 V supplies and sensor grounds by `device.terminal`; an empty string goes back to the bank. */
  setShared: edit(
    z.object({ shared: z.record(z.string().max(80), z.string().max(8)) }),
    () => 'Move on the shared supplies',
    (build, { shared }) => {
      const able = new Set([...pinsOfKind(build.ecu, 'supply-5v'), ...groundPins(build).sensor].map((pin) => pin.id));
      const stray = Object.entries(shared).find(([, pinId]) => pinId !== '' && !able.has(pinId));
      if (stray)
        return fail(
          'no-pin',
          `shared.${stray[0]}`,
          `${stray[1]} is no 5 V supply or sensor ground of ${build.ecu.model}.`,
        );
      const merged = Object.entries({ ...build.shared, ...shared }).filter(([, pinId]) => pinId !== '');
      return ok({ ...build, shared: Object.fromEntries(merged) });
    },
  ),
  /** What a ground pin that can be either is wired as; null goes back to Gonyx' own choice. */
  setGroundUse: edit(
    z.object({ pinId: z.string().max(8), use: z.enum(['ecu', 'sensors', 'both']).nullable() }),
    ({ pinId, use }) => `Ground ${pinId} ${use === null ? 'as proposed' : `for ${groundUseWords[use]}`}`,
    (build, { pinId, use }) => {
      const pin = withId(build.ecu.pins, pinId);
      const can = (kind: 'power-ground' | 'sensor-ground') => pin?.abilities.some((one) => one.kind === kind) === true;
      if (!can('power-ground') || (use === 'sensors' && !can('sensor-ground')))
        return fail(
          'no-pin',
          'pinId',
          `${pinId} of ${build.ecu.model} cannot be a ground for ${groundUseWords[use ?? 'ecu']}.`,
        );
      const groundUse = { ...build.groundUse };
      if (use === null) delete groundUse[pinId];
      else groundUse[pinId] = use;
      return ok({ ...build, groundUse });
    },
  ),
  /** The wire's terminal has been clicked into its cavity and pulled. */
  crimp: edit(
    z.object({ wireIds, at: z.iso.datetime(), by: z.string().max(40) }),
    (args) => `${plural(args.wireIds.length, 'wire')} clicked and pulled`,
    (build, { at, by, wireIds: ids }) => {
      const fresh = Object.fromEntries(ids.map((id) => [id, { at, by }]));
      return ok({ ...build, pinning: { ...build.pinning, done: { ...build.pinning.done, ...fresh } } });
    },
  ),
  uncrimp: edit(
    z.object({ wireIds }),
    (args) => `${plural(args.wireIds.length, 'wire')} taken out`,
    (build, { wireIds: ids }) => {
      const out = new Set(ids);
      const done = Object.fromEntries(Object.entries(build.pinning.done).filter(([id]) => !out.has(id)));
      return ok({ ...build, pinning: { ...build.pinning, done } });
    },
  ),
  setPinningOrder: edit(
    z.object({ order: z.enum(pinningOrders), ends: z.enum(pinningEnds).optional() }),
    () => 'Order of pinning',
    (build, fields) => ok({ ...build, pinning: { ...build.pinning, ...fields } }),
  ),
  /** A class's own letter, tint and pattern; null goes back to Gonyx' own. */
  setMark: edit(
    z.object({ signal: z.enum(signalClassNames), mark: markSchema.nullable() }),
    ({ signal }) => `Mark ${signal} pins`,
    (build, { signal, mark }) => {
      const marks = { ...build.marks };
      if (mark === null) delete marks[signal];
      else marks[signal] = mark;
      return ok({ ...build, marks });
    },
  ),
};

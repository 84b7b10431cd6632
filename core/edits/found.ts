import { z } from 'zod';
import { DONOR_LIMIT, decisions, donorGroups, donorWireSchema, isRestraint, type DonorWire } from '../donor/wire';
import { fail, ok, type Result } from '../problem';
import {
  hoursSchema,
  identifySchema,
  partSchema,
  photoSchema,
  questionSchema,
  surveySchema,
  type SurveyRecords,
} from '../survey/records';
import { plural } from '../units/format';
import { unitsSchema } from '../units/units';
import type { Build } from '../build/schema';
import { fuelDataSchema } from '../engine/fuel-data';
import { edit } from './edit';

const withSurvey = (build: Build, part: Partial<SurveyRecords>): Build => ({
  ...build,
  survey: { ...build.survey, ...part },
});

/** Puts a record in its place, or at the end when its id is new. */
const put = <T extends { id: string }>(list: readonly T[], one: T): T[] =>
  list.some((other) => other.id === one.id) ? list.map((other) => (other.id === one.id ? one : other)) : [...list, one];

const without = <T extends { id: string }>(list: readonly T[], id: string): Result<T[]> =>
  list.some((one) => one.id === id)
    ? ok(list.filter((one) => one.id !== id))
    : fail('no-record', 'id', `There is no entry ${id} to remove.`);

const { id: _id, row: _row, decision: _decision, ...written } = donorWireSchema.shape;
const donorFields = z.object({ ...written, decision: z.enum(decisions), group: z.enum(donorGroups) }).partial();
const idSchema = z.string().min(1).max(60);
const idOnly = z.object({ id: idSchema });

/** Restraint wires take no decision and cannot be freed by changing one here: only words and mark decide. */
function lockedWire(before: DonorWire, after: DonorWire) {
  if (!isRestraint(after) && !isRestraint(before)) return null;
  const changed = after.decision !== before.decision || after.moveTo !== before.moveTo;
  return changed && after.decision !== 'open'
    ? fail(
        'restraint',
        `donor.${before.id}`,
        `${before.connector} ${before.cavity} belongs to a restraint system: it is locked. Stop, and leave it to a licensed workshop.`,
      )
    : null;
}

/** What was found on the engine, in the donor loom and behind the dash; notes beside the work. */
export const foundEdits = {
  setUnits: edit(
    unitsSchema.partial(),
    () => 'Change units',
    (build, units) => ok({ ...build, units: { ...build.units, ...units } }),
  ),
  setFuel: edit(
    fuelDataSchema.partial(),
    () => 'Set fuel and power goal',
    (build, fuel) => ok({ ...build, fuel: { ...build.fuel, ...fuel } }),
  ),
  setIdentify: edit(
    identifySchema.partial(),
    () => 'Answer on the engine',
    (build, answers) => ok(withSurvey(build, { identify: { ...build.survey.identify, ...answers } })),
  ),
  setColourWriting: edit(
    z.object({ colours: surveySchema.shape.colours }),
    () => 'Say how colours are written',
    (build, { colours }) => ok(withSurvey(build, { colours })),
  ),
  addDonorWires: edit(
    z.object({
      wires: z.array(donorWireSchema).min(1).max(DONOR_LIMIT),
      /** Takes the place of the whole list. */
      replace: z.boolean().optional(),
    }),
    ({ wires }) => `Bring in ${plural(wires.length, 'donor wire')}`,
    (build, { wires, replace }) => {
      const kept = replace ? {} : build.survey.donor;
      const donor = { ...kept };
      for (const wire of wires) {
        if (donor[wire.id])
          return fail('duplicate', `wires.${wire.id}`, `A donor wire ${wire.id} is on the list already.`);
        const locked = isRestraint(wire);
        donor[wire.id] = locked ? { ...wire, decision: 'open', moveTo: '' } : wire;
      }
      if (Object.keys(donor).length > DONOR_LIMIT)
        return fail('too-many', 'wires', `A donor loom holds at most ${DONOR_LIMIT} wires.`);
      return ok(withSurvey(build, { donor }));
    },
  ),
  editDonorWires: edit(
    z.object({ ids: z.array(z.string()).min(1).max(DONOR_LIMIT), fields: donorFields }),
    ({ ids, fields }) =>
      fields.decision ? `Decide ${plural(ids.length, 'donor wire')}` : `Change ${plural(ids.length, 'donor wire')}`,
    (build, { ids, fields }) => {
      const donor = { ...build.survey.donor };
      for (const id of ids) {
        const before = donor[id];
        if (!before) return fail('no-wire', `donor.${id}`, `There is no donor wire ${id}.`);
        const after: DonorWire = { ...before, ...fields };
        const locked = lockedWire(before, after);
        // One locked wire among many is passed over; alone it is refused, with the reason.
        if (locked && ids.length === 1) return locked;
        donor[id] = locked ? before : isRestraint(after) ? { ...after, decision: 'open', moveTo: '' } : after;
      }
      return ok(withSurvey(build, { donor }));
    },
  ),
  removeDonorWires: edit(
    z.object({ ids: z.array(z.string()).min(1).max(DONOR_LIMIT) }),
    ({ ids }) => `Take ${plural(ids.length, 'donor wire')} off the list`,
    (build, { ids }) => {
      const gone = new Set(ids);
      const donor = Object.fromEntries(Object.entries(build.survey.donor).filter(([id]) => !gone.has(id)));
      if (Object.keys(donor).length === Object.keys(build.survey.donor).length)
        return fail('no-wire', 'ids', 'None of these wires is on the list.');
      return ok(withSurvey(build, { donor }));
    },
  ),
  putQuestion: edit(
    z.object({ question: questionSchema }),
    ({ question }) => (question.answeredOn ? 'Answer a question' : 'Note a question'),
    (build, { question }) => ok(withSurvey(build, { questions: put(build.survey.questions, question) })),
  ),
  removeQuestion: edit(
    idOnly,
    () => 'Remove a question',
    (build, { id }) => {
      const questions = without(build.survey.questions, id);
      return questions.ok ? ok(withSurvey(build, { questions: questions.value })) : questions;
    },
  ),
  putPart: edit(
    z.object({ part: partSchema }),
    ({ part }) => `Note a part: ${part.item}`,
    (build, { part }) => ok(withSurvey(build, { parts: put(build.survey.parts, part) })),
  ),
  removePart: edit(
    idOnly,
    () => 'Remove a part',
    (build, { id }) => {
      const parts = without(build.survey.parts, id);
      return parts.ok ? ok(withSurvey(build, { parts: parts.value })) : parts;
    },
  ),
  putHours: edit(
    z.object({ entry: hoursSchema }),
    () => 'Note hours',
    (build, { entry }) => ok(withSurvey(build, { hours: put(build.survey.hours, entry) })),
  ),
  removeHours: edit(
    idOnly,
    () => 'Remove hours',
    (build, { id }) => {
      const hours = without(build.survey.hours, id);
      return hours.ok ? ok(withSurvey(build, { hours: hours.value })) : hours;
    },
  ),
  setCurrency: edit(
    z.object({ currency: z.string().regex(/^[A-Z]{3}$/, 'must be three capital letters, such as EUR') }),
    ({ currency }) => `Count in ${currency}`,
    (build, { currency }) => ok(withSurvey(build, { currency })),
  ),
  putPhoto: edit(
    z.object({ photo: photoSchema }),
    () => 'Keep a photograph',
    (build, { photo }) => {
      const photos = put(build.survey.photos, photo);
      if (photos.length > 200) return fail('too-many', 'photo', 'A build keeps at most 200 photographs.');
      return ok(withSurvey(build, { photos }));
    },
  ),
  removePhoto: edit(
    idOnly,
    () => 'Remove a photograph',
    (build, { id }) => {
      const photos = without(build.survey.photos, id);
      return photos.ok ? ok(withSurvey(build, { photos: photos.value })) : photos;
    },
  ),
};

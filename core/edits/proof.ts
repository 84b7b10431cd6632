import { z } from 'zod';
import { fail, ok } from '../problem';
import { checkFacts } from '../prove/evidence';
import { isBinding } from '../build/binding';
import { nextLetter, revise } from '../netlist/revisions';
import { asideSchema, confirmationSchema, readingSchema, type Build, type TraceCase } from '../build/schema';
import { edit } from './edit';

const replaceCase = (build: Build, id: string, change: (one: TraceCase) => TraceCase): Build => ({
  ...build,
  cases: build.cases.map((one) => (one.id === id ? change(one) : one)),
});

/** Measurements and records of sheets 6 to 9. */
export const proofEdits = {
  recordReading: edit(
    z.object({ testId: z.string().min(1).max(200), reading: readingSchema }),
    ({ reading }) => `Record ${reading.title}`,
    (build, { testId, reading }) =>
      ok({
        ...build,
        prove: {
          ...build.prove,
          by: reading.by || build.prove.by,
          readings: { ...build.prove.readings, [testId]: reading },
        },
      }),
  ),
  clearReading: edit(
    z.object({ testIds: z.array(z.string().max(200)).min(1).max(2000) }),
    ({ testIds }) => (testIds.length === 1 ? 'Clear a reading' : `Clear ${testIds.length} readings`),
    (build, { testIds }) => {
      const gone = new Set(testIds);
      const readings = Object.fromEntries(Object.entries(build.prove.readings).filter(([id]) => !gone.has(id)));
      return ok({ ...build, prove: { ...build.prove, readings } });
    },
  ),
  setMeter: edit(
    z.object({ leadOhms: z.number().min(0).max(5).optional(), by: z.string().max(40).optional() }),
    () => 'Set the meter leads',
    (build, fields) => ok({ ...build, prove: { ...build.prove, ...fields } }),
  ),
  confirmCheck: edit(
    z.object({
      gateId: z.string().max(40),
      checkId: z.string().max(200),
      confirmation: confirmationSchema.omit({ on: true }).nullable(),
    }),
    ({ confirmation }) => (confirmation ? 'Confirm a check' : 'Take a check back'),
    (build, { gateId, checkId, confirmation }) => {
      const gate = { ...build.fireup[gateId] };
      if (confirmation) gate[checkId] = { ...confirmation, on: checkFacts(build, gateId, checkId) };
      else delete gate[checkId];
      return ok({ ...build, fireup: { ...build.fireup, [gateId]: gate } });
    },
  ),
  setAside: edit(
    asideSchema.extend({ findingId: z.string().min(1).max(200) }),
    ({ rule }) => `Set ${rule} aside`,
    (build, { findingId, ...aside }) =>
      isBinding(aside.rule) || isBinding(findingId.split(':')[0]!)
        ? fail(
            'binding',
            'rule',
            `${aside.rule} cannot be set aside: it guards people. Mend it, or leave it to a licensed workshop.`,
          )
        : ok({ ...build, aside: { ...build.aside, [findingId]: aside } }),
  ),
  takeUp: edit(
    z.object({ findingId: z.string().min(1).max(200) }),
    ({ findingId }) => `Take ${findingId.split(':')[0]} up again`,
    (build, { findingId }) => {
      if (!Object.hasOwn(build.aside, findingId))
        return fail('no-finding', 'findingId', `No finding ${findingId} is set aside.`);
      const aside = { ...build.aside };
      delete aside[findingId];
      return ok({ ...build, aside });
    },
  ),
  openCase: edit(
    z.object({ id: z.string().min(1).max(120), symptomId: z.string().max(200), at: z.iso.datetime() }),
    () => 'Open a case',
    (build, { id, symptomId, at }) => {
      if (build.cases.length >= 100)
        return fail('too-many', 'cases', 'A build keeps at most 100 cases: export it and start a fresh copy.');
      return ok({ ...build, cases: [...build.cases, { id, symptomId, openedAt: at, readings: [], closed: null }] });
    },
  ),
  addCaseReading: edit(
    z.object({ caseId: z.string(), testId: z.string().max(200), value: z.number().nullable(), at: z.iso.datetime() }),
    () => 'Enter a reading',
    (build, { caseId, testId, value, at }) =>
      ok(
        replaceCase(build, caseId, (one) => ({
          ...one,
          readings: [...one.readings.filter((reading) => reading.testId !== testId), { testId, value, at }],
        })),
      ),
  ),
  removeCaseReading: edit(
    z.object({ caseId: z.string(), testId: z.string() }),
    () => 'Take a reading back',
    (build, { caseId, testId }) =>
      ok(
        replaceCase(build, caseId, (one) => ({
          ...one,
          readings: one.readings.filter((reading) => reading.testId !== testId),
        })),
      ),
  ),
  closeCase: edit(
    z.object({
      caseId: z.string(),
      faultId: z.string().max(200),
      title: z.string().max(200),
      note: z.string().max(400),
      at: z.iso.datetime(),
    }),
    ({ title }) => `Close the case: ${title}`,
    (build, { caseId, ...closed }) => ok(replaceCase(build, caseId, (one) => ({ ...one, closed }))),
  ),
  saveRevision: edit(
    z.object({ note: z.string().max(300), at: z.iso.datetime() }),
    (_, build) => `Save revision ${nextLetter(build)}`,
    (build, { note, at }) =>
      build.revisions.length >= 52
        ? fail('too-many', 'revisions', 'A build keeps at most 52 revisions.')
        : ok(revise(build, note, at)),
  ),
};
